"""Circles and thicknesses of one cylindrical gear, external or internal (ISO 21771).

An internal gear has a negative tooth count, and with it negative diameters.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable
from functools import cached_property
from typing import Any, TypeVar

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, Real, as_float, frozen, where
from cooper.gears.cutter import FormCut, Generation, PinionCutter, generation
from cooper.gears.flank_form import FlankForm, MadeFlank
from cooper.gears.involute import inv, inv_at, inverse_inv
from cooper.gears.rack import Rack
from cooper.gears.tip import PLAIN, Tip

T = TypeVar("T")
UNTOUCHED = MadeFlank(FlankForm(), 0.0, 1.0, 0.0)
"""A flank of which nothing is taken off."""
CACHE_MOST = 64
"""Things that are kept with one tooth at once."""


def transverse_pressure_angle(alpha_n: Real, beta: Real) -> Array:
    """Transverse pressure angle at the reference cylinder.

    Parameters
    ----------
    alpha_n : Real
        Normal pressure angle (rad).
    beta : Real
        Helix angle at the reference cylinder (rad).

    Returns
    -------
    Array
        Angle (rad).

    Notes
    -----
    tan(alpha_t) = tan(alpha_n)/cos(beta).

    References
    ----------
    ISO 21771:2007.

    Examples
    --------
    >>> round(float(np.degrees(transverse_pressure_angle(np.radians(20), np.radians(15)))), 4)
    20.6469
    """
    return np.arctan(np.tan(alpha_n) / np.cos(beta))


class Tooth(Struct, frozen=True, dict=True):
    """One gear: what was given (counts, module, shift, tool, tip circle) in transverse terms.

    ``x`` is the nominal profile shift coefficient; ``x_E`` the generating one, which holds the tooth thickness
    allowance as well, so that root circle, fillet and flanks are those of the finished gear. ``tool`` None means that
    the rack itself cuts (hob, rack cutter, generating grinding); ``tip`` is a chamfer or rounding of the tip edges.
    ``flank`` is what is taken off the right flanks, and off the left ones too unless ``left`` says what of those; a
    flank is the right one that stands at the right where the tooth points up and is seen from the front (z towards the
    eye). Right flanks touch right flanks. Lengths in mm, angles in rad; all fields broadcast. External and internal
    gears do not mix in one array.
    """

    z: Array
    m_n: Array
    beta: Array
    x: Array
    x_E: Array
    rack: Rack
    d_a: Array
    tool: PinionCutter | FormCut | None = None
    tip: Tip = PLAIN
    flank: MadeFlank | None = None
    left: MadeFlank | None = None

    def kept(self, key: Hashable, make: Callable[[], T]) -> T:
        """What ``make`` gives, found once for this tooth, which never changes, and kept with it under ``key``."""
        store: dict[Hashable, Any] = self.__dict__.setdefault("_kept", {})
        if key not in store:
            if len(store) >= CACHE_MOST:
                store.clear()
            store[key] = frozen(make())
        result: T = store[key]
        return result

    @cached_property
    def sign(self) -> Array:
        """+1 for external, -1 for internal gears."""
        return where(as_float(self.z) < 0, -1.0, 1.0)

    @cached_property
    def cut(self) -> Generation:
        """How the pinion cutter stands to this gear at the end of the cut."""
        assert isinstance(self.tool, PinionCutter)
        return generation(self.tool, self.rack, self.z, self.m_t, self.m_n, self.alpha_t, self.x_E)

    @cached_property
    def m_t(self) -> Array:
        """Transverse module. ISO 21771:2007."""
        return self.m_n / np.cos(self.beta)

    @cached_property
    def alpha_t(self) -> Array:
        return transverse_pressure_angle(self.rack.alpha_n, self.beta)

    @cached_property
    def tan_beta(self) -> Array:
        """Tangent of the helix angle."""
        return as_float(np.tan(as_float(self.beta)))

    @cached_property
    def inv_t(self) -> Array:
        """Involute function of the transverse pressure angle."""
        return inv(self.alpha_t)

    @cached_property
    def beta_b(self) -> Array:
        """Base helix angle. ISO 21771:2007."""
        return as_float(np.arcsin(np.sin(self.beta) * np.cos(self.rack.alpha_n)))

    @cached_property
    def d(self) -> Array:
        """Reference diameter. ISO 21771:2007."""
        return self.z * self.m_t

    @cached_property
    def d_b(self) -> Array:
        """Base diameter. ISO 21771:2007."""
        return self.d * np.cos(self.alpha_t)

    @cached_property
    def d_f(self) -> Array:
        """Root diameter that the tool leaves. ISO 21771:2007, with x_E for the finished gear."""
        if isinstance(self.tool, PinionCutter):
            return 2 * self.cut.a_0 - self.cut.d_a0
        return self.d + 2 * self.m_n * (self.x_E - self.rack.h_fP)

    def s_t(self, x: Real | None = None) -> Array:
        """Transverse tooth thickness at the reference circle. ISO 21771:2007."""
        shift = self.x_E if x is None else as_float(x)
        return (np.pi / 2 + 2 * shift * np.tan(self.rack.alpha_n)) * self.m_t

    @cached_property
    def d_f_nominal(self) -> Array:
        """Root diameter without the thickness allowance. ISO 21771:2007, 4.4."""
        if isinstance(self.tool, PinionCutter):
            cut = generation(self.tool, self.rack, self.z, self.m_t, self.m_n, self.alpha_t, self.x)
            return 2 * cut.a_0 - cut.d_a0
        return self.d + 2 * self.m_n * (self.x - self.rack.h_fP)

    def made_angle(self, d_y: Real) -> Array:
        """Half angle at the diameter d_y (mm) of the flank as it is made: what is taken off, C, turns an involute by
        C / r_b. Rad; for drawings and files."""
        angle = self.half_angle(d_y)
        if self.flank is None:
            return angle
        r_b = np.abs(self.d_b) / 2
        L = np.sqrt(np.maximum((as_float(d_y) / 2) ** 2 - r_b**2, 0.0))
        return as_float(angle - self.flank.off(L) / 1000 / r_b)

    @property
    def turned(self) -> Tooth:
        """The same tooth with its flanks exchanged."""
        return self if self.left is None else replace(self, flank=self.left, left=self.flank or UNTOUCHED)

    def tip_turn(self) -> float:
        """By how much the forms of the flanks narrow the tip on either side (rad)."""
        if self.flank is None:
            return 0.0
        return float(self.flank.off(self.flank.L_a)) / 1000 / (abs(float(self.d_b)) / 2)

    def half_angle(self, d_y: Real, x: Real | None = None) -> Array:
        """Half of the tooth thickness angle on the circle d_y, |d_y| >= |d_b|; rad, positive. ISO 21771:2007.

        ``x`` replaces the generating shift, as the nominal one does for nominal thicknesses.
        """
        return self.sign * (self.s_t(x) / self.d + self.inv_t - inv_at(self.d_b, d_y))

    def s_y(self, d_y: Real, x: Real | None = None) -> Array:
        """Transverse tooth thickness (arc) on the circle d_y, |d_y| >= |d_b|; negative beyond the pointed tip."""
        return np.abs(d_y) * self.half_angle(d_y, x)

    def s_yn(self, d_y: Real, x: Real | None = None) -> Array:
        """Normal tooth thickness on the circle d_y. ISO 21771:2007."""
        return as_float(self.s_y(d_y, x) * self.normal_at(d_y))

    def normal_at(self, d_y: Real) -> Array:
        """Cosine of the helix angle on the circle d_y, tan(beta_y) = tan(beta) d_y / d. ISO 21771:2007, 4.2."""
        tangent = self.tan_beta * as_float(d_y) / self.d
        return as_float(1 / np.sqrt(1 + tangent * tangent))

    def s_n(self, x: Real | None = None) -> Array:
        """Normal tooth thickness on the reference circle. ISO 21771:2007."""
        shift = self.x_E if x is None else as_float(x)
        return as_float((np.pi / 2 + 2 * shift * np.tan(self.rack.alpha_n)) * self.m_n)


def tip_diameter(z: Real, m_n: Real, beta: Real, x: Real, h_aP: Real) -> Array:
    """Tip diameter from the rack's addendum, without alteration.

    Parameters
    ----------
    z : Real
        Tooth count, negative for an internal gear.
    m_n : Real
        Normal module (mm).
    beta : Real
        Helix angle at the reference cylinder (rad).
    x : Real
        Profile shift coefficient.
    h_aP : Real
        Addendum factor.

    Returns
    -------
    Array
        Diameter (mm), negative for an internal gear.

    Notes
    -----
    d_a = m_n (z/cos(beta) + 2 x + 2 h_aP).

    References
    ----------
    ISO 21771:2007.

    Examples
    --------
    >>> float(tip_diameter(20, 2.0, 0.0, 0.0, 1.0))
    44.0
    >>> float(tip_diameter(-60, 2.0, 0.0, 0.0, 1.0))
    -116.0
    """
    return as_float(z) * m_n / np.cos(beta) + 2 * as_float(m_n) * (as_float(x) + h_aP)


def shift_of_allowance(e_sn: Real, m_n: Real, alpha_n: Real) -> Array:
    """Change of the profile shift coefficient that gives a tooth thickness allowance.

    Parameters
    ----------
    e_sn : Real
        Normal tooth thickness allowance (mm), negative for a thinner tooth.
    m_n : Real
        Normal module (mm).
    alpha_n : Real
        Normal pressure angle (rad).

    Returns
    -------
    Array
        Change of x.

    Notes
    -----
    From s_n = m_n (pi/2 + 2 x tan(alpha_n)).

    References
    ----------
    ISO 21771:2007.
    """
    return as_float(as_float(e_sn) / (2 * as_float(m_n) * np.tan(alpha_n)))


def pointed_diameter(tooth: Tooth) -> Array:
    """Diameter at which both flanks of a tooth meet: the greatest (signed) tip diameter that can be made.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    Array
        Diameter (mm); the base diameter for internal gears whose teeth end there before they are pointed.
    """
    invs = tooth.s_t() / tooth.d + tooth.inv_t
    return tooth.d_b / np.cos(inverse_inv(np.maximum(invs, 0.0)))


def least_x(z: Real, beta: Real, rack: Rack) -> Array:
    """Least generating profile shift coefficient without undercut by the rack.

    Parameters
    ----------
    z : Real
        Tooth count, negative for an internal gear.
    beta : Real
        Helix angle at the reference cylinder (rad).
    rack : Rack
        Basic rack of the tool.

    Returns
    -------
    Array
        Profile shift coefficient.

    Notes
    -----
    The straight flank of the tool must end above the base tangent point: h_FfP - x <= z sin^2(alpha_t) / (2 cos(beta)).

    Examples
    --------
    >>> rack = Rack(np.radians(20), 1.0, 1.25, 0.25 / (1 - np.sin(np.radians(20))))
    >>> round(float(least_x(17, 0.0, rack)), 4)
    0.0057
    """
    alpha_t = transverse_pressure_angle(rack.alpha_n, beta)
    return as_float(rack.h_FfP - as_float(z) * np.sin(alpha_t) ** 2 / (2 * np.cos(beta)))


def least_z(x_E: Real, beta: Real, rack: Rack) -> Array:
    """Least tooth count without undercut at a given shift.

    Parameters
    ----------
    x_E : Real
        Generating profile shift coefficient.
    beta : Real
        Helix angle at the reference cylinder (rad).
    rack : Rack
        Basic rack of the tool.

    Returns
    -------
    Array
        Tooth count, not rounded.

    Examples
    --------
    >>> rack = Rack(np.radians(20), 1.0, 1.25, 0.25 / (1 - np.sin(np.radians(20))))
    >>> round(float(least_z(0.0, 0.0, rack)), 3)
    17.097
    """
    alpha_t = transverse_pressure_angle(rack.alpha_n, beta)
    return as_float(2 * np.cos(beta) * (rack.h_FfP - as_float(x_E)) / np.sin(alpha_t) ** 2)

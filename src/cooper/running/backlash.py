"""Backlash of a pair from tooth thicknesses and centre distance. ISO 21771:2007, 9; ISO/TR 10064-2."""

from __future__ import annotations

from functools import cached_property

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float, where
from cooper.gears.involute import inv


class Backlash(Struct, frozen=True):
    """``j_wt`` circumferential at the working pitch circle, ``j_bn`` normal; mm.

    ``phi_1``, ``phi_2`` angle by which each gear turns while the other stands; rad.
    """

    j_wt: Array
    j_bn: Array
    phi_1: Array
    phi_2: Array


class Slack(Struct, frozen=True, dict=True):
    """A pair by counts, module and angles, whose backlash is asked for at several shifts and centre distances.

    With what only the pair decides found once, a centre distance costs one arc cosine.
    """

    z_1: Real
    z_2: Real
    m_n: Real
    alpha_n: Real
    beta: Real

    @cached_property
    def z_sum(self) -> Array:
        """The signed sum of counts."""
        return as_float(self.z_1) + self.z_2

    @cached_property
    def tangent(self) -> Array:
        """tan(alpha_n)."""
        return as_float(np.tan(self.alpha_n))

    @cached_property
    def half_based(self) -> Array:
        """Sum of both base radii, signed; mm."""
        cos_beta = np.cos(self.beta)
        return as_float(self.m_n) / cos_beta * self.z_sum / 2 * np.cos(np.arctan(self.tangent / cos_beta))

    @cached_property
    def inv_t(self) -> Array:
        """Involute of the transverse pressure angle."""
        return inv(np.arctan(self.tangent / np.cos(self.beta)))

    def fall(self, a_w: Real) -> Array:
        """By how much the circumferential backlash falls for 1 of the sum of shifts, evenly at any one distance; mm."""
        return as_float(4 * self.tangent * a_w / self.z_sum)

    def j_wt(self, x_E: Real, a_w: Real) -> Array:
        """Circumferential backlash for a sum of the generating shifts; mm."""
        ratio = self.half_based / as_float(a_w)
        # Beyond it the base circles do not let the gears work.
        ratio = where(np.abs(ratio) < 1, ratio, np.nan)
        turn = np.sqrt(1 - ratio * ratio) / ratio - np.arccos(ratio) - self.inv_t
        # Pitch less both thicknesses on the working circles; a thickness is pi/2 + 2 x tan(alpha_n) over the module.
        return as_float(2 * as_float(a_w) * turn - self.fall(a_w) * x_E)

    def all(self, x_E: Real, a_w: Real) -> Backlash:
        """See `backlash`."""
        j_wt = self.j_wt(x_E, a_w)
        cos_b = np.sqrt(1 - (np.sin(self.beta) * np.cos(self.alpha_n)) ** 2)
        phi_1 = j_wt / np.abs(as_float(a_w) * self.z_1 / self.z_sum)
        return Backlash(j_wt, j_wt * self.half_based / a_w * cos_b, phi_1, phi_1 * np.abs(self.z_1 / self.z_2))


def backlash(
    z_1: Real,
    z_2: Real,
    m_n: Real,
    alpha_n: Real,
    beta: Real,
    x_E1: Real,
    x_E2: Real,
    a_w: Real,
) -> Backlash:
    """Exact backlash at a centre distance from the generating shifts; negative where the teeth do not fit.

    Parameters
    ----------
    z_1 : Real
        Tooth count of gear 1.
    z_2 : Real
        Tooth count of gear 2, negative for an internal gear.
    m_n : Real
        Normal module (mm).
    alpha_n : Real
        Normal pressure angle (rad).
    beta : Real
        Helix angle at the reference cylinder (rad).
    x_E1 : Real
        Generating profile shift coefficient of gear 1.
    x_E2 : Real
        Generating profile shift coefficient of gear 2.
    a_w : Real
        Working centre distance (mm).

    Returns
    -------
    Backlash
        Backlash, NaN where the base circles do not let the gears work.

    Notes
    -----
    The circumferential backlash is the pitch less both thicknesses on the working pitch circles of the actual centre
    distance.

    References
    ----------
    ISO 21771:2007.
    """
    return Slack(as_float(z_1), z_2, m_n, alpha_n, beta).all(as_float(x_E1) + x_E2, a_w)

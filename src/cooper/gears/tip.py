"""The edges of a tooth's tip: left sharp, chamfered by a semi-topping flank, or rounded."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, any_, as_float, where
from cooper.gears.involute import inv, pressure_angle_at

if TYPE_CHECKING:
    from cooper.gears.tooth import Tooth


class Tip(Struct, frozen=True):
    """``h_K`` height of the chamfer along the radius (mm), ``delta_K`` the angle between chamfer and radius where it
    begins (rad); ``rho_a`` radius of a rounding (mm). Zero means none; chamfer and rounding exclude each other.

    The chamfer is the involute that a semi-topping flank generates, with that angle as its pressure angle.
    """

    h_K: Real = 0.0
    delta_K: Real = np.pi / 4
    rho_a: Real = 0.0


PLAIN = Tip()


def tip_form_diameter(tooth: Tooth) -> Array:
    """Tip form diameter d_Fa, where the usable involute ends.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    Array
        Diameter (mm), negative for an internal gear.

    Notes
    -----
    `PLAIN` tips, which most gears have, need no computation.

    References
    ----------
    ISO 21771:2007, 4.4.
    """
    if tooth.tip is PLAIN:
        return as_float(tooth.d_a)
    sign, r_a, r_b = tooth.sign, np.abs(tooth.d_a) / 2, np.abs(tooth.d_b) / 2
    rho = as_float(tooth.tip.rho_a)
    t_M = np.sqrt(np.maximum((r_a - sign * rho) ** 2 - r_b**2, 0.0))
    rounded = np.hypot(r_b, np.maximum(t_M + sign * rho, 0.0))
    return as_float(sign * 2 * where(rho > 0, rounded, r_a - sign * as_float(tooth.tip.h_K)))


def rounding_centre(tooth: Tooth) -> tuple[Array, Array]:
    """Centre of a tip rounding.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    tuple[Array, Array]
        Radius (mm) and angle from the middle of the tooth (rad).
    """
    sign, r_b = tooth.sign, np.abs(tooth.d_b) / 2
    d_Fa = tip_form_diameter(tooth)
    r_M = np.abs(tooth.d_a) / 2 - sign * as_float(tooth.tip.rho_a)
    angle = [np.arctan(np.sqrt(np.maximum(r**2 - r_b**2, 0)) / r_b) for r in (r_M, np.abs(d_Fa) / 2)]
    return r_M, tooth.half_angle(d_Fa) + sign * (angle[0] - angle[1])


def land_half_angle(tooth: Tooth) -> Array:
    """Half of the angle that the tip land subtends.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    Array
        Angle (rad), negative where chamfer or rounding leave none.
    """
    if tooth.tip is PLAIN:
        return tooth.half_angle(tooth.d_a)
    return where(as_float(tooth.tip.rho_a) > 0, rounding_centre(tooth)[1], chamfer_half_angle(tooth, tooth.d_a))


def chamfer_half_angle(tooth: Tooth, d_y: Array) -> Array:
    """Half of the tooth thickness angle on a circle of the chamfer, between tip form and tip circle.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    d_y : Array
        Diameters (mm, positive).

    Returns
    -------
    Array
        Angle (rad).
    """
    d_Fa = tip_form_diameter(tooth)
    d_bK = d_Fa * np.cos(tooth.tip.delta_K)
    turned = inv(pressure_angle_at(d_bK, d_y)) - inv(pressure_angle_at(d_bK, d_Fa))
    return tooth.half_angle(d_Fa) - tooth.sign * where(as_float(tooth.tip.h_K) > 0, turned, 0.0)


def tip_edge(tooth: Tooth, t: Array) -> tuple[Array, Array]:
    """The chamfer or rounding of a tip.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    t : Array
        Parameter, 0 at the flank to 1 at the tip circle.

    Returns
    -------
    tuple[Array, Array]
        Radius (mm) and angle from the middle of the tooth (rad).
    """
    t = as_float(t)
    r_F, r_a = np.abs(tip_form_diameter(tooth)) / 2, np.abs(tooth.d_a) / 2
    if not any_(as_float(tooth.tip.rho_a) > 0):
        r = r_F + (r_a - r_F) * t
        return r, chamfer_half_angle(tooth, tooth.sign * 2 * r)
    r_M, eta_M = rounding_centre(tooth)
    eta_F = tooth.half_angle(tip_form_diameter(tooth))
    # In the frame of the centre's own radius, outward for external and inward for internal gears along the tooth.
    start = np.arctan2(r_F * np.sin(eta_F - eta_M), tooth.sign * (r_F * np.cos(eta_F - eta_M) - r_M))
    omega = start * (1 - t)
    x = r_M + tooth.sign * tooth.tip.rho_a * np.cos(omega)
    y = as_float(tooth.tip.rho_a) * np.sin(omega)
    return np.hypot(x, y), eta_M + np.arctan2(y, x)

"""How the two gears of a pair stand to each other: every gear is placed and phased, never by eye."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float, where


class MeshPlacement(Struct, frozen=True):
    """Angles from +x to the middle of a tooth of each gear (rad); pinion at the origin, wheel at (a_w, 0).

    An internal wheel has a negative a_w: its centre lies on the other side and the mesh stays on +x.
    """

    phi_1: Real
    phi_2: Real


def mesh_placement(z_1: Real, z_2: Real, j_wt: Real, a_w: Real, roll: Real = 0.0, side: float = 1.0) -> MeshPlacement:
    """Phase of a pair with its driving flanks touching.

    Parameters
    ----------
    z_1 : Real
        Tooth count of gear 1.
    z_2 : Real
        Tooth count of gear 2, negative for an internal gear.
    j_wt : Real
        Circumferential backlash at the working pitch circle (mm) of the teeth as drawn.
    a_w : Real
        Working centre distance (mm).
    roll : Real
        Angle of the pinion (rad, counter-clockwise); at 0 one of its teeth points at the wheel.
    side : float
        +1 when the pinion drives counter-clockwise, -1 for clockwise, 0 to stand in the middle of the backlash.

    Returns
    -------
    MeshPlacement
        Phases of both gears (rad).
    """
    u = z_2 / z_1
    d_w2 = 2 * a_w * u / (1 + u)
    # A counter-clockwise pinion pushes the wheel clockwise until the backlash lies on the coast flanks only.
    lag = side * j_wt / d_w2
    facing = where(as_float(z_2) < 0, 0.0, np.pi)
    return MeshPlacement(as_float(roll), facing + np.pi / z_2 - roll / u + lag)


def contact_positions(
    roll: float, z_1: int, r_b1: float, half_angle_b: float, alpha_wt: float, ends: tuple[float, float], side: int = 1
) -> Array:
    """Where teeth touch on the line of action at a roll angle.

    Parameters
    ----------
    roll : float
        Angle of the pinion (rad).
    z_1 : int
        Tooth count of the pinion.
    r_b1 : float
        Base radius of the pinion (mm).
    half_angle_b : float
        Half of the tooth thickness angle at the pinion's base circle (rad).
    alpha_wt : float
        Transverse working pressure angle (rad).
    ends : tuple[float, float]
        Start and end of the path of contact (mm).
    side : int
        +1 or -1 by the flank that drives.

    Returns
    -------
    Array
        Distances from the pinion's base tangent point (mm).

    Notes
    -----
    From tan(alpha_y) = roll + 2 pi k/z + half_angle_b + alpha_wt for every tooth k.
    """
    pitch = 2 * np.pi / z_1
    low, high = (g / r_b1 - (side * roll + half_angle_b + alpha_wt) for g in ends)
    k = np.arange(np.ceil(low / pitch - 1e-9), np.floor(high / pitch + 1e-9) + 1)
    return r_b1 * (side * roll + half_angle_b + alpha_wt + pitch * k)

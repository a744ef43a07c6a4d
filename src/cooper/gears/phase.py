"""How the two gears of a pair stand to each other: every gear is placed and phased, never by eye."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cooper.arrays import Array


@dataclass(frozen=True)
class Stand:
    """Angles from +x to the middle of a tooth of each gear (rad); pinion at the origin, wheel at (a_w, 0)."""

    phi_1: Array
    phi_2: Array


def mesh_stand(z_1: Array, z_2: Array, j_wt: Array, a_w: Array, roll: Array = 0.0, side: float = 1.0) -> Stand:
    """Phase of an external pair with its driving flanks touching.

    ``roll`` is the pinion's angle (rad, counter-clockwise); ``j_wt`` the circumferential backlash at the working pitch
    circle (mm) of the teeth as drawn; ``side`` +1 when the pinion drives counter-clockwise, -1 for clockwise, 0 to
    stand in the middle of the backlash. At roll 0 a tooth of the pinion points at the wheel.
    """
    u = z_2 / z_1
    d_w2 = 2 * a_w * u / (1 + u)
    # A counter-clockwise pinion pushes the wheel clockwise until the backlash lies on the coast flanks only.
    lag = side * j_wt / d_w2
    return Stand(np.asarray(roll), np.pi + np.pi / z_2 - roll / u + lag)

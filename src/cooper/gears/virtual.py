"""The virtual spur gear that stands for a helical one."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real


def virtual_tooth_count(z: Real, beta: Real, beta_b: Real) -> Array:
    """Tooth count of the spur gear that stands for a helical one, z/(cos^2(beta_b) cos(beta)); angles in rad. ISO 6336-3:2019, 6.

    >>> float(virtual_tooth_count(20, 0.0, 0.0)), round(float(virtual_tooth_count(20, np.radians(30), np.radians(28.024))), 2)
    (20.0, 29.64)
    """
    return np.asarray(np.asarray(z) / (np.cos(beta_b) ** 2 * np.cos(beta)))

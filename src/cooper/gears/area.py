"""Area of a gear's transverse section, for its mass and volume."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array
from cooper.gears.root import RootForm, trochoid
from cooper.gears.tooth import Tooth

FILLET_POINTS = 129


def section_area(tooth: Tooth, form: RootForm) -> Array:
    """Area inside the outline of the whole gear, bore not taken off; mm2, broadcasting.

    Root and tip arc and involute in closed form (the sector under an involute is r_b^2/6 of the difference of cubes of
    tan(alpha)); the fillet, a few thousandths of the whole, by the trapezoidal rule on its polar form.
    """
    t = np.linspace(0.0, 1.0, FILLET_POINTS).reshape((-1,) + (1,) * np.ndim(form.theta))
    radius, psi = trochoid(tooth, np.pi / 2 + (form.theta - np.pi / 2) * t)
    fillet = np.sum((radius[1:] ** 2 + radius[:-1] ** 2) / 4 * np.diff(psi, axis=0), axis=0)
    r_b = tooth.d_b / 2
    t_F, t_a = (np.sqrt(np.maximum((d / tooth.d_b) ** 2 - 1, 0)) for d in (form.d_Ff, tooth.d_a))
    flank = r_b**2 / 6 * (t_a**3 - t_F**3)
    root = (tooth.d_f / 2) ** 2 / 2 * psi[0]
    tip = (tooth.d_a / 2) ** 2 / 2 * tooth.half_angle(tooth.d_a)
    return 2 * tooth.z * (root + fillet + flank + tip)

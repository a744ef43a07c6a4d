"""Area of a gear's transverse section, for its mass and volume."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, any_, as_float, stack
from cooper.gears.cutter import FormCut
from cooper.gears.fillets import fillet
from cooper.gears.root import RootForm
from cooper.gears.tip import land_half_angle, tip_edge, tip_form_diameter
from cooper.gears.tooth import Tooth

FILLET_POINTS, FEW = 129, 33
"""Points on a fillet: where it is of two pieces; and where it is one smooth curve, so that the error of the
trapezoidal rule is known."""


def section_area(tooth: Tooth, form: RootForm) -> Array:
    """Area inside the outline of the whole gear, bore not taken off; mm2, broadcasting.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    form : RootForm
        Root form of the tooth.

    Returns
    -------
    Array
        Area (mm2); of an internal gear that of the opening.

    Notes
    -----
    Of an internal gear it is the area of the opening. Root and tip arc and involute in closed form (the sector under an
    involute is r_b^2/6 of the difference of cubes of tan(alpha)); fillet and tip edge, a few thousandths of the whole,
    by the trapezoidal rule on their polar form, on one smooth curve with Romberg's correction.
    """
    return tooth.kept(("area", id(form)), lambda: (form, _section_area(tooth, form)))[1]


def _section_area(tooth: Tooth, form: RootForm) -> Array:
    smooth = not isinstance(tooth.tool, FormCut) and not any_(tooth.rack.s_pr > 0)
    t = stack(np.linspace(0.0, 1.0, FEW if smooth else FILLET_POINTS), form.t)
    radius, psi = fillet(tooth, 1 + (form.t - 1) * t)
    r_b = np.abs(tooth.d_b) / 2
    t_F, t_a = (np.sqrt(np.maximum((d / tooth.d_b) ** 2 - 1, 0)) for d in (form.d_Ff, tip_form_diameter(tooth)))
    flank = tooth.sign * r_b**2 / 6 * (t_a**3 - t_F**3)
    root = (tooth.d_f / 2) ** 2 / 2 * psi[0]
    tip = (tooth.d_a / 2) ** 2 / 2 * land_half_angle(tooth)
    half = root + (_romberg(radius, psi) if smooth else _sector(radius, psi)) + flank + tip
    if any_(tooth.tip.h_K) or any_(tooth.tip.rho_a):
        edge, eta = tip_edge(tooth, stack(np.linspace(0.0, 1.0, FILLET_POINTS), form.t))
        half = half + _sector(edge, -eta)
    return as_float(2 * np.abs(tooth.z) * half)


def _romberg(radius: Array, angle: Array) -> Array:
    """The sector from all points, every second and every fourth: what is left of the error falls with the sixth
    power of the step."""
    fine, mid, coarse = (_sector(radius[::k], angle[::k]) for k in (1, 2, 4))
    one, two = (4 * fine - mid) / 3, (4 * mid - coarse) / 3
    return as_float((16 * one - two) / 15)


def _sector(radius: Array, angle: Array) -> Array:
    return as_float(np.sum((radius[1:] ** 2 + radius[:-1] ** 2) / 4 * np.diff(angle, axis=0), axis=0))

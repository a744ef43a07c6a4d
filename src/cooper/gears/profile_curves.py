"""The curves of one tooth as functions of a parameter, from which splines, arcs and solids are made."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from cooper.arrays import Array, any_
from cooper.gears.fillets import fillet
from cooper.gears.outline import low_high
from cooper.gears.root import RootForm
from cooper.gears.tip import land_half_angle, tip_edge, tip_form_diameter
from cooper.gears.tooth import Tooth

Curve = Callable[[Array], Array]
"""From t in 0..1 to (n, 2) points; mm."""


def profile_pieces(tooth: Tooth, form: RootForm) -> list[Curve]:
    """The curves of one tooth about +x, each from its start to its end.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    form : RootForm
        Root form of the tooth.

    Returns
    -------
    list[Curve]
        Curves of t in 0..1 as (n, 2) points (mm).

    Notes
    -----
    Counter-clockwise from the middle of one space to the middle of the next: half root arc, fillet, flank, tip edge,
    tip arc and back down the other flank. Pieces of no length are left out.
    """

    def below(piece: Curve) -> Curve:
        return lambda t: piece(t) * np.array([1.0, -1.0])

    def above(piece: Curve) -> Curve:
        return lambda t: piece(1 - t)

    low, high = (_half_pieces(one, form) for one in low_high(tooth))
    r_a = abs(float(tooth.d_a)) / 2
    lands = [float(land_half_angle(one)) - one.tip_turn() for one in low_high(tooth)]
    return [*map(below, low), _arc(r_a, -lands[0], lands[1]), *map(above, reversed(high))]


def _half_pieces(tooth: Tooth, form: RootForm) -> list[Curve]:
    """The curves of the half above the axis with the tooth's right flank, from the middle of the space to the tip
    arc."""
    pitch, sign = np.pi / abs(float(tooth.z)), float(tooth.sign)
    r_f, r_b = (abs(float(d)) / 2 for d in (tooth.d_f, tooth.d_b))
    r_F, r_Fa = abs(float(form.d_Ff)) / 2, abs(float(tip_form_diameter(tooth))) / 2
    t_F, t_a = (np.sqrt(max((r / r_b) ** 2 - 1, 0.0)) for r in (r_F, r_Fa))
    root_end = pitch - float(fillet(tooth, np.ones(()))[1])
    turn = tooth.tip_turn()

    def rounding(t: Array) -> Array:
        radius, psi = fillet(tooth, 1 + (float(form.t) - 1) * t)
        return _xy(radius, pitch - psi)

    def flank(t: Array) -> Array:
        radius = r_b * np.sqrt(1 + (t_F + (t_a - t_F) * t) ** 2)
        return _xy(radius, tooth.made_angle(sign * 2 * radius))

    half: list[Curve] = []
    if pitch - root_end > 1e-9:
        half.append(_arc(r_f, pitch, root_end))
    if any_(np.abs(rounding(np.zeros(1)) - rounding(np.ones(1))) > 1e-7):
        half.append(rounding)
    half.append(flank)
    if float(tooth.tip.h_K) > 0 or float(tooth.tip.rho_a) > 0:

        def edge(t: Array) -> Array:
            radius, psi = tip_edge(tooth, t)
            return _xy(radius, psi - turn)

        half.append(edge)
    return half


def _arc(radius: float, start: float, end: float) -> Curve:
    return lambda t: _xy(np.full(len(t), radius), start + (end - start) * t)


def _xy(radius: Array, angle: Array) -> Array:
    return np.column_stack((radius * np.cos(angle), radius * np.sin(angle)))

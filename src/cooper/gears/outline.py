"""The transverse outline of a gear as points: root arc, fillet, involute, tip arc."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from cooper.arrays import Array
from cooper.gears.fillets import fillet
from cooper.gears.root import RootForm, root_form
from cooper.gears.tip import land_half_angle, tip_edge, tip_form_diameter
from cooper.gears.tooth import Tooth

MOST_PIECES = 4096


def half_tooth(tooth: Tooth, tolerance: float = 1e-3, form: RootForm | None = None) -> Array:
    """Half of one tooth of one gear (scalar fields), that of its right flank, from the middle of the space to the
    middle of the tip.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    tolerance : float
        Greatest distance of a chord from the true curve (mm); points lie on the true curve.
    form : RootForm | None
        Root form of the tooth; None to work it out.

    Returns
    -------
    Array
        Points (n, 2): radius (mm) and angle from the middle of the tooth (rad), falling to 0.

    Notes
    -----
    The gear must have a positive tip land (see `pointed_diameter`).
    """
    pitch = np.pi / abs(float(tooth.z))
    form = form or root_form(tooth)
    sign = float(tooth.sign)
    r_f, r_a = abs(float(tooth.d_f)) / 2, abs(float(tooth.d_a)) / 2

    def root(t: Array) -> Array:
        radius, psi = fillet(tooth, 1 + (float(form.t) - 1) * t)
        return np.column_stack((radius, pitch - psi))

    # Equal steps of the tangent of the pressure angle give equal chord errors to the second order.
    r_b = abs(float(tooth.d_b)) / 2
    r_Fa = abs(float(tip_form_diameter(tooth))) / 2
    t_F, t_a = (np.sqrt(max((r / r_b) ** 2 - 1, 0.0)) for r in (abs(float(form.d_Ff)) / 2, r_Fa))

    def flank(t: Array) -> Array:
        radius = r_b * np.sqrt(1 + (t_F + (t_a - t_F) * t) ** 2)
        return np.column_stack((radius, tooth.made_angle(sign * 2 * radius)))

    turn = tooth.tip_turn()
    parts = [
        _arc(r_f, pitch, root(np.zeros(1))[0, 1], tolerance),
        _curve(root, tolerance)[1:],
        _curve(flank, tolerance)[1:],
    ]
    if float(tooth.tip.h_K) > 0 or float(tooth.tip.rho_a) > 0:
        parts.append(_curve(lambda t: np.column_stack(tip_edge(tooth, t)) - [0.0, turn], tolerance)[1:])
    parts.append(_arc(r_a, float(land_half_angle(tooth)) - turn, 0.0, tolerance)[1:])
    return np.concatenate(parts)


def _arc(radius: float, start: float, end: float, tolerance: float) -> Array:
    step = 2 * np.sqrt(2 * tolerance / radius)
    n = max(1, int(np.ceil(abs(end - start) / step)))
    return np.column_stack((np.full(n + 1, radius), np.linspace(start, end, n + 1)))


def _curve(points: Callable[[Array], Array], tolerance: float) -> Array:
    """Points of a curve over t in 0..1 with no midpoint further from its chord than allowed.

    The chord error falls with the square of the number of pieces, so a coarse look tells how many are needed.
    """
    n = 8
    while True:
        both = points(np.linspace(0, 1, 2 * n + 1))
        xy = to_xy(both)
        chord = xy[2::2] - xy[:-2:2]
        off = xy[1::2] - xy[:-2:2]
        height = np.abs(chord[:, 0] * off[:, 1] - chord[:, 1] * off[:, 0])
        error = float(np.max(height / np.maximum(np.hypot(chord[:, 0], chord[:, 1]), 1e-12)))
        if error <= tolerance or n >= MOST_PIECES:
            return both[::2]
        n = min(MOST_PIECES, int(np.ceil(1.15 * n * np.sqrt(error / tolerance))))


def to_xy(polar: Array) -> Array:
    """Radius and angle from +x to x and y.

    Parameters
    ----------
    polar : Array
        Points (n, 2): radius (mm) and angle from +x (rad).

    Returns
    -------
    Array
        Points (n, 2): x and y (mm).
    """
    return np.column_stack((polar[:, 0] * np.cos(polar[:, 1]), polar[:, 0] * np.sin(polar[:, 1])))


def low_high(tooth: Tooth) -> tuple[Tooth, Tooth]:
    """The tooth as seen from its flank below the axis, and from that above it, where it stands on +x.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    tuple[Tooth, Tooth]
        Tooth seen from its lower flank, and from its upper one.
    """
    return (tooth, tooth.turned) if float(tooth.sign) > 0 else (tooth.turned, tooth)


def one_tooth(tooth: Tooth, tolerance: float = 1e-3, form: RootForm | None = None) -> Array:
    """One tooth about +x from the middle of one space to the middle of the next, counter-clockwise; (n, 2) in mm.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    tolerance : float
        Greatest chord error (mm).
    form : RootForm | None
        Root form of the tooth; None to work it out.

    Returns
    -------
    Array
        Points (n, 2; mm).
    """

    def drawn() -> tuple[RootForm | None, Array]:
        # A tooth that points outwards has its right flank below the axis, one that points inwards above it.
        below, above = low_high(tooth)
        low = half_tooth(below, tolerance, form)
        high = low if above is below else half_tooth(above, tolerance, form)
        return form, to_xy(np.concatenate((low * [1.0, -1.0], high[-2::-1])))

    return tooth.kept(("outline", tolerance, id(form)), drawn)[1]


def gear_outline(tooth: Tooth, phase: float = 0.0, tolerance: float = 1e-3) -> Array:
    """Closed outline of the whole gear about the origin.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    phase : float
        Angle from +x to the middle of the first tooth (rad).
    tolerance : float
        Greatest chord error (mm).

    Returns
    -------
    Array
        Points (n, 2; mm), counter-clockwise, first point not repeated; of an internal gear the edge of the opening.
    """
    one = one_tooth(tooth, tolerance)[:-1]
    count = abs(int(tooth.z))
    turn = phase + 2 * np.pi * np.arange(count) / count
    c, s = np.cos(turn)[:, None], np.sin(turn)[:, None]
    x = c * one[:, 0] - s * one[:, 1]
    y = s * one[:, 0] + c * one[:, 1]
    return np.column_stack((x.ravel(), y.ravel()))

"""One tooth in several makes over each other: which they are, and their differences magnified."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from cooper.arrays import Array, clip
from cooper.gears.tip import PLAIN, Tip, land_half_angle
from cooper.gears.tooth import Tooth

TRIAL = 0.1
"""Height of a chamfer, or radius of a rounding, shown where the design has none; modules."""


def makes_of(tooth: Tooth) -> dict[str, Tooth]:
    """The tooth as designed, with plain tip edges and no protuberance, with a chamfer and with a rounding, by name.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    dict[str, Tooth]
        Teeth by name.

    Notes
    -----
    Chamfer and rounding are the design's own, else trial ones of a tenth of a module; left out where no land would
    remain.
    """
    m_n = float(tooth.m_n)
    rack = replace(tooth.rack, pr_P=0.0, q_P=0.0)
    result = {"as designed": tooth, "plain involute": replace(tooth, tip=PLAIN, rack=rack, flank=None)}
    h_K, rho_a = float(tooth.tip.h_K), float(tooth.tip.rho_a)
    for word, own, tip in (
        ("chamfer", h_K, Tip(h_K=h_K or TRIAL * m_n, delta_K=tooth.tip.delta_K)),
        ("rounding", rho_a, Tip(rho_a=rho_a or TRIAL * m_n)),
    ):
        made = replace(tooth, tip=tip)
        if float(land_half_angle(made)) > 0:
            size = float(tip.h_K if word == "chamfer" else tip.rho_a)
            result[f"{word} {size:.3g} mm" + ("" if own else ", trial")] = made
    return result


def magnified(points: Array, base: Array, factor: float) -> Array:
    """Points moved away from a polyline to ``factor`` times their distance from it, along the way from its nearest
    place.

    Parameters
    ----------
    points : Array
        Points (n, 2; mm).
    base : Array
        Polyline (m, 2; mm).
    factor : float
        Factor on the distance.

    Returns
    -------
    Array
        Points moved (n, 2; mm).
    """
    if factor == 1:
        return points
    near, _ = nearest_on(points, base)
    return near + factor * (points - near)


def nearest_on(points: Array, base: Array) -> tuple[Array, Array]:
    """The nearest place of an open polyline to each point, and its distance.

    Parameters
    ----------
    points : Array
        Points (n, 2; mm).
    base : Array
        Open polyline (m, 2; mm).

    Returns
    -------
    tuple[Array, Array]
        Nearest places (n, 2) and distances (n,), mm.
    """
    a, d = base[:-1], np.diff(base, axis=0)
    t = clip(((points[:, None] - a) * d).sum(-1) / np.maximum((d * d).sum(-1), 1e-30), 0, 1)
    place = a + t[..., None] * d
    distance = np.hypot(*np.moveaxis(points[:, None] - place, -1, 0))
    k = np.argmin(distance, axis=1)
    rows = np.arange(len(points))
    return place[rows, k], distance[rows, k]

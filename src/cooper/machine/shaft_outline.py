"""The outline of a shaft in axial section: shoulders with their fillets or undercuts, ends with their chamfers."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from msgspec import Struct

from cooper.machine.shaft_model import MadeShaft, Piece
from cooper.stock.undercuts import undercut_of

CHAMFERS = (0.2, 0.3, 0.5, 0.8, 1.0, 1.5, 2.0, 3.0)
"""Chamfers of ends that are usual; mm."""
ARC = 7
"""Points on a fillet where it is drawn."""
LEAD = float(np.tan(np.radians(15.0)))
"""Slope at which an undercut runs out along the cylinder. DIN 509:2006."""

Point = tuple[float, float]
"""Place along the shaft and radius there; mm."""


class Leg(Struct, frozen=True):
    """From where the one before ends to ``end``: straight, or by the arc through ``through``."""

    end: Point
    through: Point | None = None


def chamfer_of(d: float) -> float:
    """The usual chamfer of a shaft's end, next to a fortieth of its diameter.

    Parameters
    ----------
    d : float
        Diameter (mm).

    Returns
    -------
    float
        Chamfer (mm).

    Examples
    --------
    >>> chamfer_of(20.0), chamfer_of(60.0)
    (0.5, 1.5)
    """
    return min(CHAMFERS, key=lambda c: abs(c - d / 40))


def shaft_path(made: MadeShaft, core: dict[str, float] | None = None) -> tuple[Point, list[Leg]]:
    """The upper half of a shaft's outline from the left end to the right one.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    core : dict[str, float] | None
        Diameters of pieces that stand for their own, as those whose teeth are made by themselves (mm).

    Returns
    -------
    tuple[Point, list[Leg]]
        Where it begins, and its legs (mm).

    Notes
    -----
    ``core`` gives pieces another diameter, as those whose teeth are made by themselves (mm).
    """
    other = core or {}
    pieces = made.pieces

    def radius(p: Piece) -> float:
        return other.get(p.name, p.d) / 2

    first, last = pieces[0], pieces[-1]
    c = min(chamfer_of(first.d), first.length / 2)
    start = (first.start, radius(first) - c)
    legs = [Leg((first.start + c, radius(first)))]
    for one, two in pairwise(pieces):
        legs += _step(one, two, radius(one), radius(two))
    c = min(chamfer_of(last.d), last.length / 2)
    legs += [Leg((last.end - c, radius(last))), Leg((last.end, radius(last) - c))]
    return start, _without_none(start, legs)


def shaft_outline(made: MadeShaft, core: dict[str, float] | None = None) -> list[Point]:
    """The upper half of a shaft's outline as points, arcs by `ARC` of them.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    core : dict[str, float] | None
        Diameters of pieces that stand for their own (mm).

    Returns
    -------
    list[Point]
        Points (mm).
    """
    at, legs = shaft_path(made, core)
    result = [at]
    for leg in legs:
        result += [leg.end] if leg.through is None else _along_arc(result[-1], leg.through, leg.end)
    return result


def _along_arc(a: Point, m: Point, b: Point) -> list[Point]:
    """Points of the arc from a to b through m, without a."""
    p, q, r = (complex(*v) for v in (a, m, b))
    w = (r - p) / (q - p)
    middle = p + (q - p) * (w - abs(w) ** 2) / (w - w.conjugate())
    turn = np.angle((r - middle) / (p - middle))
    return [
        (float(v.real), float(v.imag))
        for v in (middle + (p - middle) * np.exp(1j * turn * t) for t in np.linspace(0, 1, ARC)[1:])
    ]


def _without_none(start: Point, legs: list[Leg]) -> list[Leg]:
    """Without legs of no length."""
    result, at = [], start
    for leg in legs:
        if abs(leg.end[0] - at[0]) + abs(leg.end[1] - at[1]) > 1e-9:
            result.append(leg)
            at = leg.end
    return result


def _step(one: Piece, two: Piece, r_1: float, r_2: float) -> list[Leg]:
    """The shoulder between two pieces, from the left."""
    z = one.end
    if abs(r_1 - r_2) < 1e-9:
        return [Leg((z, r_1))]
    low, way = (one, -1) if r_1 < r_2 else (two, 1)
    foot, top = min(r_1, r_2), max(r_1, r_2)
    # From the foot, ``way`` leading away from the shoulder along the thinner piece.
    corner = _undercut(low, z, foot, top, way) if low.undercut else _fillet(low, z, foot, top, way)
    rising = [*corner, Leg((z, top))]
    if way < 0:
        return rising
    # Reversed: each leg ends where the one before it began.
    ends = [leg.end for leg in rising]
    return [Leg(ends[-1]), *(Leg(ends[k - 1], rising[k].through) for k in range(len(rising) - 1, 0, -1))]


def _quarter(z: float, r: float, foot: float, way: int) -> tuple[Point, Point, Point]:
    """Beginning, middle and end of a fillet of radius r from a cylinder to the face at z."""
    h = r * (1 - 0.5**0.5)
    return (z + way * r, foot), (z + way * h, foot + h), (z, foot + r)


def _fillet(low: Piece, z: float, foot: float, top: float, way: int) -> list[Leg]:
    r = min(low.r, top - foot, low.length)
    if r <= 1e-3:
        return [Leg((z, foot))]
    a, m, b = _quarter(z, r, foot, way)
    return [Leg(a), Leg(b, m)]


def _undercut(low: Piece, z: float, foot: float, top: float, way: int) -> list[Leg]:
    """Down the lead to the ground of the undercut, along it, and by its radius to the shoulder's face, or into that."""
    u = undercut_of(low.undercut, low.d)
    ground = foot - u.t_1
    start = min(u.f, low.length)
    a, m, b = _quarter(z - way * u.t_2, min(u.r, top - ground), ground, way)
    flat = max(way * (a[0] - z), start - u.t_1 / LEAD)
    legs = [Leg((z + way * start, foot)), Leg((z + way * flat, ground)), Leg(a), Leg(b, m)]
    if u.t_2:
        # Out of the shoulder again.
        legs.append(Leg((z, min(b[1] + u.t_2 / LEAD, top))))
    return legs

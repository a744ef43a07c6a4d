"""Where everything stands: planes of gears along the machine's axis, where each shaft is held, what runs into what,
the housing.

Gears that mesh stand in one plane. A shaft reaches from wall to wall unless a gear of another plane is in its way; then
it is held before that plane, and where its own gear is in the way of one side (a pinion inside a ring, a sun inside a
carrier) on the other side alone.
"""

from __future__ import annotations

from collections.abc import Mapping
from math import ceil, hypot, pi

import numpy as np
from msgspec import Struct

from cooper.i18n.text import tr
from cooper.machine.hub_ends import HUB_OUTSIDE, hub_ends
from cooper.machine.shaft_model import MadeShaft, Wall


class Body(Struct, frozen=True, kw_only=True):
    """A gear or carrier as a cylinder: its shaft, its plane and where in it it begins, width, outside radius, and
    inside radius where it is a ring (mm)."""

    key: str
    name: str
    shaft: int
    plane: int
    lead: float
    b: float
    r: float
    r_in: float = 0.0


class Placement(Struct, frozen=True, kw_only=True):
    """A shaft to be placed: its axis (x, y; mm), estimated radius, and whether its own gears bar the way to the left
    or right."""

    key: str
    axis: tuple[float, float]
    r: float
    bars_left: bool = False
    bars_right: bool = False


class Places(Struct, frozen=True):
    """Start and end of every plane, and the walls of every shaft; ``inner`` the ends of the room inside (mm)."""

    planes: tuple[tuple[float, float], ...]
    walls: tuple[tuple[Wall, Wall], ...]
    inner: tuple[float, float]


def held_at(bodies: tuple[Body, ...], shafts: tuple[Placement, ...], planes: int, c: float) -> list[tuple[int, int]]:
    """Between which boundaries of planes (0 left of the first) each shaft is held.

    Parameters
    ----------
    bodies : tuple[Body, ...]
        Gears with their planes and diameters.
    shafts : tuple[Placement, ...]
        Axes of the shafts in the end view.
    planes : int
        Number of planes.
    c : float
        Clearance between neighbours and to the walls (mm).

    Returns
    -------
    list[tuple[int, int]]
        Boundaries of both bearings of each shaft, the same one twice where it is overhung.
    """
    result = []
    for s, shaft in enumerate(shafts):
        own = [b.plane for b in bodies if b.shaft == s]
        first, last = min(own), max(own)

        def free(plane: int, s: int = s, shaft: Placement = shaft) -> bool:
            for b in bodies:
                if b.plane != plane or b.shaft == s:
                    continue
                x, y = shafts[b.shaft].axis
                apart = hypot(x - shaft.axis[0], y - shaft.axis[1])
                if apart < b.r + shaft.r + c and not (b.r_in and apart + shaft.r + c < b.r_in):
                    return False
            return True

        left, right = first, last + 1
        while left > 0 and free(left - 1):
            left -= 1
        while right < planes and free(right):
            right += 1
        if shaft.bars_left:
            left = first + 1
        if shaft.bars_right:
            right = last
        result.append((min(left, right), max(left, right)) if left <= right else (right, right))
    return result


def lay_out(
    widths: tuple[float, ...],
    bodies: tuple[Body, ...],
    shafts: tuple[Placement, ...],
    c: float,
    B: Mapping[tuple[int, int], float],
    spans: Mapping[int, float],
) -> Places:
    """Places of planes and walls along the axes.

    Parameters
    ----------
    widths : tuple[float, ...]
        Widths of the planes (mm).
    bodies : tuple[Body, ...]
        Gears with their planes and diameters.
    shafts : tuple[Placement, ...]
        Axes of the shafts in the end view.
    c : float
        Clearance between neighbours and to the walls (mm).
    B : Mapping[tuple[int, int], float]
        Widths of the bearings by shaft and number 0, 1 (mm).
    spans : Mapping[int, float]
        Distances between the bearings of overhung shafts (mm).

    Returns
    -------
    Places
        Places (mm).
    """
    held = held_at(bodies, shafts, len(widths), c)
    # What stands in each inner boundary: from the left the bearings of shafts that end there, then those of shafts that
    # begin.
    need = [0.0] * (len(widths) + 1)
    lip = lip_of(c)
    ending, beginning = dict.fromkeys(range(len(widths) + 1), 0.0), dict.fromkeys(range(len(widths) + 1), 0.0)
    for s, (left, right) in enumerate(held):
        if left == right:
            wide = B[s, 0] + B[s, 1] + spans[s] + 2 * lip
            side = ending if _to_right(bodies, s, left) else beginning
            side[left] = max(side[left], wide)
            continue
        ending[right] = max(ending[right], B[s, 1] + 2 * lip)
        beginning[left] = max(beginning[left], B[s, 0] + 2 * lip)
    for k in range(1, len(widths)):
        need[k] = c + sum(w + c for w in (ending[k], beginning[k]) if w > 0)
    z, planes = 0.0, []
    for k, width in enumerate(widths):
        z += need[k] if k else 0.0
        planes.append((z, z + width))
        z += width
    walls = []
    for s, (left, right) in enumerate(held):
        if left < right:
            first, last = planes[left][0] - c - lip, planes[right - 1][1] + c + lip
            walls.append((Wall(face=first, outward=-1), Wall(face=last, outward=1)))
        elif _to_right(bodies, s, left):
            face = planes[left - 1][1] + c + lip
            walls.append((Wall(face=face, outward=1), Wall(face=face + B[s, 0] + spans[s], outward=1)))
        else:
            face = planes[left][0] - c - lip
            walls.append((Wall(face=face - B[s, 1] - spans[s], outward=-1), Wall(face=face, outward=-1)))
    return Places(tuple(planes), tuple(walls), (planes[0][0] - c, planes[-1][1] + c))


def lip_of(c: float) -> float:
    """Thickness of the lip of a wall against which the outer ring of a bearing leans: two fifths of the clearance
    between neighbours (mm), 1 to 5 mm.

    Parameters
    ----------
    c : float
        The cover.

    Returns
    -------
    float
        Thickness (mm).

    Examples
    --------
    >>> lip_of(6.0), lip_of(2.0), lip_of(30.0)
    (2.5, 1.0, 5.0)
    """
    return float(np.clip(round(2 * 0.4 * c + 1e-9) / 2, 1.0, 5.0))


def _to_right(bodies: tuple[Body, ...], s: int, boundary: int) -> bool:
    """Whether an overhung shaft is held to the right of its gears."""
    return max(b.plane for b in bodies if b.shaft == s) < boundary


class Clash(Struct, frozen=True):
    """Two things that run into each other, and by how much (mm)."""

    one: str
    two: str
    by: float


def clashes_of(
    bodies: tuple[Body, ...],
    shafts: tuple[Placement, ...],
    made: tuple[MadeShaft, ...],
    planes: tuple[tuple[float, float], ...],
    meshes: frozenset[frozenset[str]],
) -> list[Clash]:
    """Everything of different shafts that overlaps, exact for cylinders about parallel axes.

    Parameters
    ----------
    bodies : tuple[Body, ...]
        Gears with their planes and diameters.
    shafts : tuple[Placement, ...]
        Axes of the shafts in the end view.
    made : tuple[MadeShaft, ...]
        The shafts as made.
    planes : tuple[tuple[float, float], ...]
        Start and end of each plane (mm).
    meshes : frozenset[frozenset[str]]
        Pairs of names that may overlap.

    Returns
    -------
    list[Clash]
        Overlaps (mm).
    """
    things: list[tuple[int, str, str, float, float, float, float]] = []
    for body in bodies:
        start = planes[body.plane][0] + body.lead
        things.append((body.shaft, body.key, body.name, start, start + body.b, body.r, body.r_in))
    for n, shaft in enumerate(made):
        for p in shaft.pieces:
            if p.kind != "seat":
                things.append(
                    (n, "", tr("{name}, {name_2}", name=shaft.wish.name, name_2=p.name), p.start, p.end, p.d / 2, 0.0)
                )
        for gear, start, end, d in hub_ends(shaft):
            name = next(s.name for s in shaft.wish.seats if s.gear == gear)
            things.append((n, "", tr("hub of {name}", name=name), start, end, HUB_OUTSIDE / 2 * d, 0.0))
        for own in shaft.bearings:
            half = own.bearing.B / 2
            what = tr("{name}, {name_2}", name=shaft.wish.name, name_2=own.name)
            things.append((n, "", what, own.at - half, own.at + half, own.bearing.D / 2, 0.0))
    result = []
    for i, (s, key, name, z_1, z_2, r, r_in) in enumerate(things):
        for t, other, other_name, y_1, y_2, q, q_in in things[i + 1 :]:
            if s == t or min(z_2, y_2) - max(z_1, y_1) < 1e-6 or frozenset((key, other)) in meshes:
                continue
            here, there = shafts[s].axis, shafts[t].axis
            apart = hypot(here[0] - there[0], here[1] - there[1])
            inside = (r_in and apart + q <= r_in) or (q_in and apart + r <= q_in)
            if apart < r + q - 1e-6 and not inside:
                result.append(Clash(name, other_name, r + q - apart))
    return result


class Housing(Struct, frozen=True):
    """The housing around it all: ends of its inside (mm), outside length, width and height (mm), inner volume (l),
    mass (kg)."""

    x: tuple[float, float]
    y: tuple[float, float]
    z: tuple[float, float]
    length: float
    width: float
    height: float
    volume: float
    mass: float
    wall: float
    area: float


def housing_of(
    bodies: tuple[Body, ...],
    shafts: tuple[Placement, ...],
    made: tuple[MadeShaft, ...],
    inner: tuple[float, float],
    c: float,
    wall: float | None,
    faces: tuple[float, ...] = (),
    rho: float = 7200.0,
) -> Housing:
    """A box around all gears and bearings.

    Parameters
    ----------
    bodies : tuple[Body, ...]
        Gears with their planes and diameters.
    shafts : tuple[Placement, ...]
        Axes of the shafts in the end view.
    made : tuple[MadeShaft, ...]
        The shafts as made.
    inner : tuple[float, float]
        Start and end of the room between the walls (mm).
    c : float
        Clearance between neighbours and to the walls (mm).
    wall : float | None
        Thickness of the wall (mm), None for 0.012 of its longest side and 5 mm more (at most 0.05 of that side), as is
        customary for castings.
    faces : tuple[float, ...]
        Outer faces of the end walls, on which covers lie (mm).
    rho : float
        Density (kg/m3).

    Returns
    -------
    Housing
        The housing.

    Notes
    -----
    Its mass is that of the bare walls, without feet, ribs and flanges.
    """
    reach = [(shafts[b.shaft].axis, b.r) for b in bodies]
    reach += [(shafts[k].axis, b.bearing.D / 2) for k, s in enumerate(made) for b in s.bearings]
    x = (min(a[0] - r for a, r in reach) - c, max(a[0] + r for a, r in reach) + c)
    y = (min(a[1] - r for a, r in reach) - c, max(a[1] + r for a, r in reach) + c)
    ends = [e for s in made for b in s.bearings for e in (b.at - b.bearing.B / 2, b.at + b.bearing.B / 2)]
    ends += faces
    z = (min(inner[0], *ends), max(inner[1], *ends)) if ends else inner
    L, W, H = z[1] - z[0], x[1] - x[0], y[1] - y[0]
    long = max(L, W, H)
    s = wall if wall is not None else ceil(2 * (0.012 * long + min(5.0, 0.05 * long))) / 2
    # The bearings stand in the end walls, which reach as far as the covers of the widest of them.
    outer = (max(L, inner[1] - inner[0] + 2 * s), W + 2 * s, H + 2 * s)
    inside = (inner[1] - inner[0]) * W * H
    shell = outer[0] * outer[1] * outer[2] - inside
    shell -= sum(pi / 4 * b.bearing.D**2 * b.bearing.B for m in made for b in m.bearings)
    area = 2 * (outer[0] * outer[1] + outer[1] * outer[2] + outer[0] * outer[2]) * 1e-6
    return Housing(x, y, z, outer[0], outer[1], outer[2], inside * 1e-6, max(shell, 0.0) * rho * 1e-9, s, area)

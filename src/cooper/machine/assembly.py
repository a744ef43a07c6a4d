"""The order in which a shaft and the housing are put together, and what cannot be.

Every part is moved along the axis from its side and must pass all that stands outside of its place: pieces of the
shaft, teeth that are cut in, parts that are mounted already.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.i18n.text import tr
from cooper.machine.holding import Holding
from cooper.machine.shaft_model import MadeShaft

LEFT, RIGHT = -1, 1
TIGHT = 1e-6
"""Millimetres by which a bore may be narrower than what it passes."""


class Mounted(Struct, frozen=True):
    """A part on a shaft: in words, the piece on which it ends, its bore and where its middle stands (mm)."""

    words: str
    piece: str
    bore: float
    at: float


class Step(Struct, frozen=True):
    """One step on a shaft: what is put on, and from which side (-1 left, +1 right)."""

    words: str
    piece: str
    side: int


class Blocked(Struct, frozen=True):
    """A part that comes to its place from neither side: what stands in its way, its diameter, and the bore (mm)."""

    words: str
    piece: str
    by: str
    d: float
    bore: float


class ShaftOrder(Struct, frozen=True):
    """The steps by which a shaft is put together, and what cannot be mounted."""

    steps: tuple[Step, ...]
    blocked: tuple[Blocked, ...]


class HousingOrder(Struct, frozen=True):
    """How the housing opens: split in the plane of all axes, or by a lid at an end; and the steps after the shafts are
    put together."""

    split: bool
    before: tuple[str, ...]
    """What is done with the shafts until the housing is closed."""
    covers: tuple[str, ...]
    """The covers that close it."""
    stuck: tuple[str, ...] = ()
    """Bearings in inner walls, which an undivided housing does not let in."""


def mounted_on(made: MadeShaft) -> list[Mounted]:
    """All that is slid onto a shaft: hubs, bearings, sleeves, retaining rings, nuts.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.

    Returns
    -------
    list[Mounted]
        The parts with their bores.
    """
    result = []
    for seat in made.wish.seats:
        joint = next((j for j in made.joints if j.gear == seat.gear), None)
        piece = next(p for p in made.pieces if p.on == seat.gear)
        if joint is not None and joint.kind != "integral":
            keys = {"key": tr("with its key"), "two keys": tr("with its keys"), "press fit": tr("heated")}
            how = keys.get(joint.kind, "")
            words = tr("{name}, {how}", name=seat.name, how=how) if how else seat.name
            result.append(Mounted(words, piece.name, piece.d, piece.at))
    for b in made.bearings:
        result.append(Mounted(tr("{0}, {1}", b.name, b.bearing.designation), b.name, b.bearing.d, b.at))
    result += [Mounted(tr("sleeve"), p.name, p.d, p.at) for p in made.sleeves]
    result += [Mounted(tr("retaining ring {name}", name=r.designation), p.name, r.d, p.at) for p, r in made.rings]
    result += [Mounted(tr("nut KM {n}", n=n.number), p.name, n.core, p.at) for p, n in made.nuts]
    return result


def _in_the_way(made: MadeShaft, part: Mounted, side: int) -> tuple[str, float] | None:
    """The first piece outside of a part's place on one side that its bore does not pass, with its diameter (mm)."""
    tips = {s.gear: s.d_a for s in made.wish.seats}
    cut = {j.piece: tips.get(j.gear, j.d) for j in made.joints if j.kind == "integral"}
    outside = [p for p in made.pieces if side * (p.at - part.at) > TIGHT and p.name != part.piece]
    for p in sorted(outside, key=lambda p: side * p.at):
        d = max(p.d, cut.get(p.name, 0.0))
        if d > part.bore + TIGHT:
            return p.name, d
    return None


def shaft_order(made: MadeShaft) -> ShaftOrder:
    """The order in which a shaft is put together.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.

    Returns
    -------
    ShaftOrder
        Steps from the innermost part on either side outwards, and parts that come from neither side.

    Notes
    -----
    A part comes from the side from which its bore passes all that stands outside of it; of two sides from the one that
    is nearer. What stands outside of it on that side is mounted after it.
    """
    parts = mounted_on(made)
    ways = {p.piece: [side for side in (LEFT, RIGHT) if _in_the_way(made, p, side) is None] for p in parts}
    blocked: list[Blocked] = []
    for part in parts:
        if not ways[part.piece]:
            there = [w for side in (LEFT, RIGHT) if (w := _in_the_way(made, part, side)) is not None]
            by, d = min(there, key=lambda w: w[1])
            blocked.append(Blocked(part.words, part.piece, by, d, part.bore))
    sides = {p.piece: _side(p, parts, ways, (made.start + made.end) / 2) for p in parts if ways[p.piece]}
    steps: list[Step] = []
    for side in (LEFT, RIGHT):
        # The innermost, farthest from the side that it comes from, is the first.
        own = sorted((p for p in parts if sides.get(p.piece) == side), key=lambda p: side * p.at)
        steps += [Step(p.words, p.piece, side) for p in own]
    for part in parts:
        side = sides.get(part.piece, 0)
        for other in parts:
            if side * (other.at - part.at) > TIGHT and sides.get(other.piece) == -side:
                # Each of both would have to come before the other.
                blocked.append(Blocked(part.words, part.piece, other.piece, made.piece(other.piece).d, part.bore))
    return ShaftOrder(tuple(steps), tuple(blocked))


def _side(part: Mounted, parts: list[Mounted], ways: dict[str, list[int]], middle: float) -> int:
    """The side from which a part comes: the only one, else that of its neighbours beyond which it stands, else the
    nearer."""
    own = ways[part.piece]
    if len(own) == 1:
        return own[0]
    for side in (LEFT, RIGHT):
        if any(ways[o.piece] == [side] and -side * (o.at - part.at) > TIGHT for o in parts):
            return side
    return LEFT if part.at < middle else RIGHT


def housing_order(axes: list[tuple[float, float]], shafts: list[tuple[str, MadeShaft, Holding]]) -> HousingOrder:
    """How the housing opens and is closed.

    Parameters
    ----------
    axes : list[tuple[float, float]]
        Axes of the shafts in the end view (mm).
    shafts : list[tuple[str, MadeShaft, Holding]]
        Name of each shaft, the shaft, and what keeps it.

    Returns
    -------
    HousingOrder
        Split in the plane of the axes where they lie in one, else with a lid at an end, whose bearings come from
        outside.
    """
    split = _in_one_plane(axes)
    names = [name for name, _made, _h in shafts]
    steps: list[str] = []
    stuck: list[str] = []
    inner = [
        tr("{name}, {bearing}", name=name, bearing=b.name)
        for name, made, h in shafts
        for b in made.bearings
        if not any(c.bearing == b.name for c in h.covers)
    ]
    if split:
        steps += [tr("lay {name} into the lower half", name=name) for name in names]
        steps.append(tr("put on the upper half, bolt both and dowel them"))
    else:
        steps.append(tr("set the shafts into the housing together, meshed, without their bearings in the outer walls"))
        steps.append(tr("put on the lid and dowel it"))
        stuck = inner
    covers = []
    for name, _made, h in shafts:
        for c in h.covers:
            what = tr("{name}: cover of {bearing}", name=name, bearing=c.bearing)
            covers.append(tr("{what} with its seal, over the end", what=what) if c.seal is not None else what)
    return HousingOrder(split, tuple(steps), tuple(covers), tuple(stuck))


def _in_one_plane(axes: list[tuple[float, float]]) -> bool:
    """Whether all axes lie in one plane, within a hundredth of the largest distance."""
    points = np.array(axes) - np.array(axes[0])
    reach = float(np.abs(points).max(initial=0.0))
    if reach < TIGHT:
        return True
    return bool(np.linalg.svd(points, compute_uv=False)[-1] <= 0.01 * reach) or len(np.unique(points, axis=0)) < 3

"""Faces of a shaft that a hand can move along it: ends, hubs, bearings, collars, cuts; each with the length that it
decides and what it snaps to."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

from msgspec import Struct

from cooper.document.models import Design
from cooper.editing.machine_edits import in_machine
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.shaft_model import MadeShaft, Piece
from cooper.results.machine_result import MachineResult, ShaftResult

STEP = 0.5
"""Lengths that a moved face comes to where nothing is near to snap to; mm."""
WALLED = ("bearing 1", "bearing 2")
"""The bearings that stand in walls, in their order."""
THINNEST = 0.2
"""The shortest part that is left of a piece; mm."""


class Face(Struct, frozen=True):
    """A face at ``z`` (mm along the machine) and what it decides: the piece, in words, the path of its length below
    the shaft, how long it is with the face at a place, where the face stands then, and between which places it can
    be."""

    z: float
    piece: str
    words: str
    path: tuple[str, ...]
    length: Callable[[float], float]
    place: Callable[[float], float]
    low: float
    high: float
    cut: int | None = None

    def stepped(self, z: float) -> float:
        """The place with a round length that is next to one."""
        z = min(max(z, self.low), self.high)
        return self.place(max(round(self.length(z) / STEP) * STEP, THINNEST))


class Snap(Struct, frozen=True):
    """A place that faces snap to (mm along the machine), and what is there."""

    z: float
    words: str


def _from(foot: float, way: int) -> tuple[Callable[[float], float], Callable[[float], float]]:
    """Length and place of a face that stands before or behind a foot."""
    return lambda z: way * (z - foot), lambda v: foot + way * v


def faces_of(made: MadeShaft) -> list[Face]:
    """The faces of a shaft that can be moved, from the left."""
    result = []
    pieces = made.pieces
    first, last = pieces[0], pieces[-1]
    if first.kind == "end":
        result.append(_face(first.start, first.name, first.end, -1, (first.end - 5000.0, first.end - THINNEST)))
    # A bearing set by hand has its place as a tag.
    held = [p for p in pieces if p.kind == "seat" or p.name in WALLED]
    for a, b in pairwise(pieces):
        if _base(a) == _base(b):
            result.append(_cut(pieces, a, b))
        elif (
            {a.kind, b.kind} & {"bearing", "seat"} and not _base(a).startswith("end") and not _base(b).startswith("end")
        ):
            face = _beside(made, held, a, b)
            if face is not None:
                result.append(face)
    if last.kind == "end":
        result.append(_face(last.end, last.name, last.start, 1, (last.start + THINNEST, last.start + 5000.0)))
    return result


def _base(piece: Piece) -> str:
    return piece.name.partition(", part ")[0]


def _face(z: float, name: str, foot: float, way: int, ends: tuple[float, float], words: str = "") -> Face:
    length, place = _from(foot, way)
    base = name.partition(", part ")[0]
    return Face(
        z, base, words or tr("length of the {base}", base=base), ("pieces", base, "length"), length, place, *ends
    )


def _cut(pieces: tuple[Piece, ...], a: Piece, b: Piece) -> Face:
    """Where a piece was cut."""
    base = _base(a)
    start = next(p.start for p in pieces if p.name == base)
    n = sum(1 for p in pieces if _base(p) == base and p.end <= a.end) - 1
    length, place = _from(start, 1)
    ends = (a.start + THINNEST, b.end - THINNEST)
    return Face(a.end, base, tr("place of cut {n}", n=n + 1), ("pieces", base, "cuts"), length, place, *ends, cut=n)


def _beside(made: MadeShaft, held: list[Piece], a: Piece, b: Piece) -> Face | None:
    """The face of a hub, or of a bearing that stands off one, between two pieces."""
    seat = next((p for p in (a, b) if p.kind == "seat"), None)
    z = a.end
    if seat is not None and seat.on and not _integral(made, seat):
        # A hub is as long to both sides of its gear.
        middle = next(s.at for s in made.wish.seats if s.gear == seat.on)
        other = _behind_ring(made, seat, 1 if seat is a else -1)
        room = abs((other.end if seat is a else other.start) - middle)
        least = 2 * THINNEST
        way = 1 if seat is a else -1
        ends = (middle + least, middle + room) if seat is a else (middle - room, middle - least)
        return Face(
            z,
            seat.name,
            tr("length of the hub"),
            ("pieces", seat.name, "length"),
            lambda at: 2 * way * (at - middle),
            lambda v: middle + way * v / 2,
            *ends,
        )
    bearing = next((p for p in (a, b) if p.kind == "bearing" and p in held), None)
    if bearing is None:
        return None
    # The bearing's inner face stands off the hub beside it by a gap that can be given.
    n = held.index(bearing)
    m, k = (n - 1, n) if bearing is b else (n + 1, n + 1)
    if not 0 <= m < len(held) or held[m].kind != "seat":
        return None
    hub = held[m]
    foot, way = (hub.end, 1) if hub.start < bearing.start else (hub.start, -1)
    if made.wish.walls[WALLED.index(bearing.name)].outward != way:
        return None
    ends = (foot + THINNEST, foot + 2000.0) if way > 0 else (foot - 2000.0, foot - THINNEST)
    return _face(z, tr("gap {k}", k=k), foot, way, ends, tr("from the hub to {name}", name=bearing.name))


def _behind_ring(made: MadeShaft, piece: Piece, way: int) -> Piece:
    """The next piece on one side, behind the groove of a retaining ring, which moves with the hub."""
    k = made.pieces.index(piece) + way
    while made.pieces[k].kind in ("groove", "land") and 0 < k < len(made.pieces) - 1:
        k += way
    return made.pieces[k]


def _integral(made: MadeShaft, seat: Piece) -> bool:
    return any(j.piece == seat.name and j.kind == "integral" for j in made.joints)


def snaps_of(result: MachineResult, shaft: ShaftResult) -> list[Snap]:
    """What faces of a shaft snap to: gears, bearings and ends of the other shafts, gears of its own, the walls."""
    there = []
    for body in result.bodies:
        start = result.places.planes[body.plane][0] + body.lead
        there += [Snap(start, body.name), Snap(start + body.b, body.name)]
    for other in result.shafts:
        if other.key == shaft.key:
            continue
        there += [
            Snap(z, tr("{name} of {name_2}", name=p.name, name_2=other.name))
            for p in other.made.pieces
            if p.kind == "bearing"
            for z in (p.start, p.end)
        ]
        there += [Snap(z, tr("end of {name}", name=other.name)) for z in (other.made.start, other.made.end)]
    for ends, name in ((result.places.inner, tr("inner wall")), (result.housing.z, tr("outer wall"))):
        there += [Snap(z, name) for z in ends]
    return there


def snapped(face: Face, z: float, there: list[Snap], reach: float) -> tuple[float, str]:
    """The place that a face dragged to ``z`` comes to (mm), and what stands there: the nearest within reach, else a
    round length."""
    near = [s for s in there if abs(s.z - z) <= reach and face.low <= s.z <= face.high and abs(s.z - face.z) > 1e-6]
    if near:
        best = min(near, key=lambda s: abs(s.z - z))
        return best.z, best.words
    return face.stepped(z), ""


def move_face(design: Design, shaft: str, face: Face, z: float) -> Design:
    """The design with a face at a place; raises `OutOfRange` beyond where it can be."""
    if not face.low - 1e-9 <= z <= face.high + 1e-9:
        raise OutOfRange(
            face.words,
            round(z, 3),
            tr("the face would pass what it ends at"),
            low=round(face.low, 3),
            high=round(face.high, 3),
            unit="mm",
        )
    value = round(face.length(z), 3)
    if face.cut is None:
        return in_machine(design, (("shafts", shaft, *face.path), value))
    machine = design.train.machine
    data = machine.shafts.get(shaft) if machine is not None else None
    cuts = list(data.pieces[face.piece].cuts) if data is not None and face.piece in data.pieces else []
    cuts[face.cut] = value
    return in_machine(design, (("shafts", shaft, *face.path), tuple(sorted(cuts))))

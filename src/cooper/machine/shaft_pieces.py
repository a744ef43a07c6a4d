"""The pieces of a proposed shaft from left to right."""

from __future__ import annotations

import itertools
from itertools import pairwise

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.choose_bearing import borne, shoulder_height
from cooper.machine.more_bearings import more_names, set_more
from cooper.machine.shaft_making import ShaftMaking, part_name
from cooper.machine.shaft_model import (
    Borne,
    Joint,
    JointGiven,
    MadeShaft,
    Piece,
    ShaftRequirements,
    Wall,
)
from cooper.stock.rolling import Bearing


class _Item(Struct, frozen=True):
    """A bearing or a seat on its place along the shaft."""

    kind: str
    number: int
    place: float


def _order(wish: ShaftRequirements) -> tuple[list[_Item], int]:
    """Bearings and seats from left to right, and the item behind which the collar stands."""
    items = [_Item("bearing", k, w.face + 1e-3 * w.outward) for k, w in enumerate(wish.walls)]
    items += [_Item("seat", k, s.at) for k, s in enumerate(wish.seats)]
    items.sort(key=lambda i: i.place)
    first, last = (next(k for k, i in enumerate(items) if i.kind == "bearing" and i.number == n) for n in (0, 1))
    inner = [k for k in range(first, last) if items[k].kind == "seat"]
    return items, inner[0] if inner else first


class _Row(Struct):
    """Diameter and extent of what stands on one item."""

    name: str
    start: float
    end: float
    d: float
    r: float
    on: str
    integral: bool = False
    shoulder: float = 0.0
    """The least diameter of the shaft beside it, towards the collar."""


def build_shaft(m: ShaftMaking) -> MadeShaft:
    """Pieces, bearings and joints of a shaft with the diameters that it has so far.

    Parameters
    ----------
    m : ShaftMaking
        What the shaft has to carry, with the least diameters, joints and bearings of this round.

    Returns
    -------
    MadeShaft
        The shaft; its diameters rise from both ends to a collar.
    """
    wish, _rules = m.wish, m.rules
    items, peak = _order(wish)
    walls = _moved(m, items)
    rows: dict[int, _Row] = {}
    caps: dict[int, float] = {}
    bearings: list[Borne] = []
    joints: list[Joint] = []
    ends: dict[int, Piece] = {}

    def side(numbers: list[int], end: bool, direction: int) -> None:
        """One side from its end to the collar; nothing outside a seat of a given diameter is thicker than that."""
        cur = 0.0
        roofs = {n: _roof(m, items, numbers[k:]) for k, n in enumerate(numbers)}
        if end:
            name = tr("end left") if direction > 0 else tr("end right")
            d = m.size(name, cur)
            joint = m.joint(
                name, "", wish.joints.get(name, JointGiven()), d, wish.T, wish.steel.sigma_S, 2.5 * d, 2 * d
            )
            length = m.piece_given(name).length or float(np.ceil(max(joint.length + 0.1 * d, 1.2 * d)))
            joints.append(joint)
            ends[direction] = Piece(
                name=name, kind="end", start=0.0, end=length, d=d, r=m.piece_given(name).r or 0.03 * d
            )
            cur = d
        for k, n in enumerate(numbers):
            item = items[n]
            if k:
                # What slides on passes the gap before it.
                gap = tr("gap {n}", n=max(n, numbers[k - 1]))
                cur = max(cur, min(m.least.get(gap, 0.0), roofs[n]), m.piece_given(gap).d or 0.0)
            if item.kind == "bearing":
                name = tr("bearing {value}", value=item.number + 1)
                b = m.bearing(item.number, max(cur, 1.0), roofs[n])
                wall = walls[item.number]
                start, stop = sorted((wall.face, wall.face + wall.outward * b.B))
                d = m.piece_given(name).d or b.d
                bearings.append(borne(name, b, (start + stop) / 2, item.number == m.fixed, m.bearing_given(name)))
                cur = d + 2 * shoulder_height(b.r_s)
                rows[n] = _Row(name, start, stop, d, m.piece_given(name).r or 0.6 * b.r_s, name, shoulder=cur)
                continue
            seat = wish.seats[item.number]
            name = tr("seat {gear}", gear=seat.gear)
            length = m.hub_length(seat)
            d = m.piece_given(name).d or seat.bore or m.size(name, cur, roofs[n])
            integral = m.integral(seat, d)
            if integral:
                d = seat.d_f
                caps[n] = seat.d_f - 0.5 * seat.m_n
                joints.append(Joint(piece=name, gear=seat.gear, kind="integral", d=d, T=seat.T, R_e=seat.R_e))
                shoulder = 0.0
            else:
                joints.append(m.seat_joint(seat, d))
                shoulder = d + 2 * max(0.06 * d, 0.5)
                cur = d
            r = m.piece_given(name).r or (0.35 * seat.m_n if integral else max(0.02 * d, 0.1))
            rows[n] = _Row(name, seat.at - length / 2, seat.at + length / 2, d, r, seat.gear, integral, shoulder)

    side(list(range(peak + 1)), wish.left_end, +1)
    side(list(range(len(items) - 1, peak, -1)), wish.right_end, -1)
    _in_order(m, rows)
    pieces = _cut(m, _pieces(m, rows, caps, peak, ends))

    def choose(k: int, name: str, bore: float, B_most: float) -> Bearing:
        given = m.bearing_given(name)
        own = m.piece_given(name).d
        least = own if own is not None else max(bore, m.least.get(name, 0.0))
        return m.chosen(name, least, np.inf, m.F_r[:, k], np.zeros(len(m.F_r)), False, given, B_most)

    if more_names(wish):
        pieces, bearings = set_more(wish, pieces, bearings, choose)
    return MadeShaft(
        wish=wish, pieces=pieces, bearings=tuple(sorted(bearings, key=lambda b: b.name)), joints=tuple(joints)
    )


def _roof(m: ShaftMaking, items: list[_Item], inward: list[int]) -> float:
    """The least given diameter of the seats from an item inwards; inf where none is given."""
    given = []
    for n in inward:
        if items[n].kind == "seat":
            seat = m.wish.seats[items[n].number]
            given.append(m.piece_given(tr("seat {gear}", gear=seat.gear)).d or seat.bore or np.inf)
    return min(given, default=np.inf)


def _moved(m: ShaftMaking, items: list[_Item]) -> tuple[Wall, ...]:
    """The walls, moved where a person has fixed the gap between a bearing and the seat beside it."""
    walls = list(m.wish.walls)
    for k, (one, two) in enumerate(itertools.pairwise(items), 1):
        length = m.piece_given(tr("gap {k}", k=k)).length
        if length is None or {one.kind, two.kind} != {"bearing", "seat"}:
            continue
        seat = m.wish.seats[(one if one.kind == "seat" else two).number]
        half = m.hub_length(seat) / 2
        n = (one if one.kind == "bearing" else two).number
        face = seat.at - half - length if one.kind == "bearing" else seat.at + half + length
        outward = -1 if one.kind == "bearing" else 1
        if walls[n].outward == outward:
            walls[n] = Wall(face=face, outward=outward)
    return tuple(walls)


def _in_order(m: ShaftMaking, rows: dict[int, _Row]) -> None:
    """Refuse lengths that no shaft can have: next to none, or one that pushes what stands on the shaft beyond its
    neighbour; raises `OutOfRange`. How long one may be is found by trying, as bearings change with their places."""
    for name, piece in m.wish.pieces.items():
        if piece.length is not None and piece.length < SHORTEST:
            raise OutOfRange(
                tr("{name} l", name=name),
                piece.length,
                tr("no piece of a shaft is that short"),
                low=SHORTEST,
                unit="mm",
            )
    over = max((rows[n].end - rows[n + 1].start for n in range(len(rows) - 1)), default=0.0)
    given = [
        (tr("gap {k}", k=k), length)
        for k in range(1, len(rows))
        if (length := m.piece_given(tr("gap {k}", k=k)).length)
    ]
    if over > CLOSE and given:
        name, length = max(given, key=lambda g: g[1])
        raise OutOfRange(
            tr("{name} l", name=name),
            length,
            tr("what it pushes away would stand beyond its neighbour on the shaft"),
            unit="mm",
        )


SHORTEST = 0.01
"""Length (mm) below which a piece of a shaft is none."""


CLOSE = 1e-6
"""Overlap of neighbours (mm) that is none."""


def _pieces(
    m: ShaftMaking, rows: dict[int, _Row], caps: dict[int, float], peak: int, ends: dict[int, Piece]
) -> tuple[Piece, ...]:
    """All pieces from left to right, with the gaps between bearings and seats."""
    result: list[Piece] = []
    first, last = rows[0], rows[len(rows) - 1]
    if 1 in ends:
        e = ends[1]
        result.append(replace(e, start=first.start - e.end, end=first.start))
    for n in range(len(rows)):
        row = rows[n]
        kind = "bearing" if row.name.startswith("bearing") else "seat"
        result.append(Piece(name=row.name, kind=kind, start=row.start, end=row.end, d=row.d, r=row.r, on=row.on))
        if n + 1 == len(rows):
            break
        after = rows[n + 1]
        if after.start - row.end < 1e-6:
            continue
        name = tr("gap {n}", n=n + 1)
        room = after.start - row.end
        r = m.piece_given(name).r
        beside = [caps[k] for k in (n, n + 1) if k in caps]
        most = min(beside, default=np.inf)
        if n != peak:
            outer, inner = (row, after) if n < peak else (after, row)
            if not inner.integral:
                most = min(most, inner.d)
            least = outer.shoulder if outer.shoulder and not outer.name.startswith("seat") else outer.d
            d = m.size(name, min(least, most), most)
            if not outer.name.startswith("bearing") and not outer.integral:
                d = m.piece_given(name).d or max(d, outer.d)
            result.append(Piece(name=name, kind="gap", start=row.end, end=after.start, d=d, r=r or 0.02 * d))
            continue
        if row.name.startswith("bearing") and after.name.startswith("bearing") and row.shoulder != after.shoulder:
            # No shoulder is higher than the inner ring that stands against it.
            half = (row.end + after.start) / 2
            one, two = m.size("collar", row.shoulder), m.size(name, after.shoulder)
            result.append(Piece(name=tr("collar"), kind="collar", start=row.end, end=half, d=one, r=r or 0.02 * one))
            result.append(Piece(name=name, kind="gap", start=half, end=after.start, d=two, r=r or 0.02 * two))
            continue
        tall = max(row.shoulder, after.shoulder)
        if not tall or after.integral or row.integral:
            tall = max(row.shoulder if not row.integral else 0, after.shoulder if not after.integral else 0, 0.0)
            d = m.size(name, min(max(tall, 1.0), most), most)
            result.append(Piece(name=name, kind="gap", start=row.end, end=after.start, d=d, r=r or 0.02 * d))
            continue
        wide = m.piece_given("collar").length or float(np.ceil(2 * max(0.12 * tall, 0.5)) / 2)
        if not after.name.startswith("bearing") or not row.name.startswith("seat") or wide > 0.6 * room:
            d = m.size("collar", tall)
            result.append(Piece(name=tr("collar"), kind="collar", start=row.end, end=after.start, d=d, r=r or 0.02 * d))
            continue
        d_collar, d = m.size("collar", row.shoulder), m.size(name, after.shoulder)
        if d_collar <= d:
            result.append(
                Piece(name=tr("collar"), kind="collar", start=row.end, end=after.start, d=max(d, d_collar), r=0.02 * d)
            )
            continue
        result.append(
            Piece(name=tr("collar"), kind="collar", start=row.end, end=row.end + wide, d=d_collar, r=0.02 * d_collar)
        )
        result.append(Piece(name=name, kind="gap", start=row.end + wide, end=after.start, d=d, r=r or 0.02 * d))
    if -1 in ends:
        e = ends[-1]
        result.append(replace(e, start=last.end, end=last.end + e.end))
    return tuple(result)


GROOVE_WIDTH = 0.25
"""Width of a piece over its diameter up to which one that is thinner than both its neighbours is a groove."""


def _cut(m: ShaftMaking, pieces: tuple[Piece, ...]) -> tuple[Piece, ...]:
    """Pieces cut where a person cut them, each part with a diameter of its own; narrow ones between thicker ones
    become grooves."""
    result: list[Piece] = []
    for p in pieces:
        cuts = sorted(c for c in m.piece_given(p.name).cuts if 0 < c < p.length)
        places = [p.start, *(p.start + c for c in cuts), p.end]
        for n, (start, end) in enumerate(pairwise(places), 1):
            if n == 1:
                result.append(replace(p, start=start, end=end))
                continue
            name = part_name(p.name, n)
            given = m.piece_given(name)
            kind = "gap" if p.kind in ("seat", "bearing") else p.kind
            d = max(p.d, m.least.get(name, 0.0)) if given.d is None else given.d
            result.append(Piece(name=name, kind=kind, start=start, end=end, d=d, r=given.r or p.r))
    for k in range(1, len(result) - 1):
        p, beside = result[k], min(result[k - 1].d, result[k + 1].d)
        if p.kind in ("gap", "collar", "end") and p.d < beside - 1e-9 and p.length <= GROOVE_WIDTH * p.d:
            result[k] = replace(p, kind="groove")
    return tuple(_worked(m, p) for p in result)


def _worked(m: ShaftMaking, piece: Piece) -> Piece:
    """The piece with the hole across it and the undercut at its foot that were given."""
    given = m.piece_given(piece.name)
    if given.hole is None and not given.undercut:
        return piece
    return replace(piece, hole=given.hole or 0.0, undercut=given.undercut)

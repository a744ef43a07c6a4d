"""The pieces of a proposed shaft from left to right."""

from __future__ import annotations

import itertools
from itertools import pairwise

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.choose_bearing import borne
from cooper.machine.more_bearings import more_names, set_more
from cooper.machine.shaft_making import ShaftMaking, part_name
from cooper.machine.shaft_model import (
    SEALS,
    Borne,
    Joint,
    JointGiven,
    MadeShaft,
    Piece,
    Wall,
)
from cooper.stock.rolling import Bearing, bores_of
from cooper.stock.seals import Seal, seal_for


class _Item(Struct, frozen=True):
    """A bearing or a seat on its place along the shaft."""

    kind: str
    number: int
    place: float


def _order(m: ShaftMaking) -> tuple[list[_Item], int]:
    """Bearings and seats from left to right, and the item behind which the collar stands: behind the first hub, or
    before it where its bore is too small for what stands on the left."""
    wish = m.wish
    items = [_Item("bearing", k, w.face + 1e-3 * w.outward) for k, w in enumerate(wish.walls)]
    items += [_Item("seat", k, s.at) for k, s in enumerate(wish.seats)]
    items.sort(key=lambda i: i.place)
    first, last = (next(k for k, i in enumerate(items) if i.kind == "bearing" and i.number == n) for n in (0, 1))
    inner = [k for k in range(first, last) if items[k].kind == "seat"]
    if not inner:
        return items, first
    seat = wish.seats[items[inner[0]].number]
    bore = m.piece_given(tr("seat {gear}", gear=seat.gear)).d or seat.bore
    end = m.size(tr("end left"), 0.0) if wish.left_end and not wish.right_end else 0.0
    seal = seal_fits(end) if end else None
    # The bearing beside the end and its shoulder have to pass through the bore as well.
    barred = 0 < bore <= (end if seal is None else seal.d) + 2 and end > 0
    cut = wish.joints.get(seat.gear, JointGiven()).kind == "integral"
    return items, inner[0] - 1 if barred and not cut else inner[0]


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
    most: float = np.inf
    """The greatest one, so that a bearing's ring can still be pulled."""


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
    items, peak = _order(m)
    walls = _moved(m, items)
    rows: dict[int, _Row] = {}
    caps: dict[int, float] = {}
    bearings: list[Borne] = []
    joints: list[Joint] = []
    ends: dict[int, list[Piece]] = {}

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
            ends[direction] = [
                Piece(name=name, kind="end", start=0.0, end=length, d=d, r=m.piece_given(name).r or 0.03 * d)
            ]
            cur = d
            seal = _seal(m, direction, d, _thickest(m, items, numbers, roofs))
            if seal is not None:
                ends[direction].append(seal)
                cur = seal.d
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
                cur = d + 2 * b.h_a
                r = m.piece_given(name).r or 0.6 * b.r_s
                rows[n] = _Row(name, start, stop, d, r, name, shoulder=cur, most=d - b.d + b.d_a_max)
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


def shut_in(pieces: tuple[Piece, ...], name: str) -> bool:
    """Whether a hub cannot be put onto its seat from either side.

    Parameters
    ----------
    pieces : tuple[Piece, ...]
        All pieces of the shaft.
    name : str
        Name of the seat.

    Returns
    -------
    bool
        Whether something thicker stands on both sides of it.
    """
    k = next(k for k, p in enumerate(pieces) if p.name == name)
    d = pieces[k].d
    return any(p.d > d for p in pieces[:k]) and any(p.d > d for p in pieces[k + 1 :])


def seal_fits(d_end: float, least: float = 0.0, most: float = np.inf) -> Seal | None:
    """The radial shaft seal beside an end of a shaft.

    Parameters
    ----------
    d_end : float
        Diameter of the end (mm).
    least : float
        Least diameter of its seat (mm).
    most : float
        Greatest one (mm).

    Returns
    -------
    Seal | None
        The seal whose seat is thicker than the end, so that the lip passes over it unhurt; None where there is none,
        or where the end is so thin that it is better left without.
    """
    seal = seal_for(max(d_end + max(2.0, SEAL_STEP * d_end), least), most) or seal_for(d_end, most)
    return None if seal is None or (seal.d > max(SMALL_END * d_end, d_end + 2.5) and seal.d > least) else seal


def _thickest(m: ShaftMaking, items: list[_Item], numbers: list[int], roofs: dict[int, float]) -> float:
    """The greatest diameter that the first bearing of a side may have: as given, else so that its shoulder passes the
    hubs behind it."""
    bearing = next(n for n in numbers if items[n].kind == "bearing")
    given = m.piece_given(tr("bearing {value}", value=items[bearing].number + 1)).d
    if given is not None:
        return given
    roof = min(roofs[n] for n in numbers)
    return max((d for d in bores_of("deep groove ball") if d + 2.0 <= roof), default=roof)


def _seal(m: ShaftMaking, direction: int, d_end: float, under: float) -> Piece | None:
    """The piece on which a radial shaft seal runs, between the end and its bearing, no thicker than the bearing's bore
    may be; None where there is no room for one."""
    name = SEALS[direction]
    given = m.piece_given(name)
    seal = seal_fits(d_end, m.least.get(name, 0.0), under)
    if seal is None and given.d is None:
        return None
    b = seal.b if seal is not None else 7.0
    d = given.d or (seal.d if seal is not None else d_end)
    length = given.length or float(np.ceil(b + 2 * max(1.5, BESIDE_SEAL * d)))
    return Piece(name=name, kind="seal", start=0.0, end=length, d=d, r=given.r or 0.02 * d)


SEAL_STEP = 0.08
"""How much thicker than the end the seat of a seal is, in diameters of the end; 1 mm on each side at least."""
SMALL_END = 1.6
"""How much thicker than the end a seal's seat is at most."""
BESIDE_SEAL = 0.04
"""Room on each side of a seal for its cover, in diameters."""


def _roof(m: ShaftMaking, items: list[_Item], inward: list[int]) -> float:
    """The least given diameter of the seats from an item inwards; inf where none is given."""
    given = []
    for n in inward:
        if items[n].kind == "seat":
            seat = m.wish.seats[items[n].number]
            if m.wish.joints.get(seat.gear, JointGiven()).kind == "integral":
                # No hub slides over teeth cut into the shaft.
                continue
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
    m: ShaftMaking, rows: dict[int, _Row], caps: dict[int, float], peak: int, ends: dict[int, list[Piece]]
) -> tuple[Piece, ...]:
    """All pieces from left to right, with the gaps between bearings and seats."""
    result: list[Piece] = []
    first, last = rows[0], rows[len(rows) - 1]
    place = first.start - sum(e.end for e in ends.get(1, ()))
    for e in ends.get(1, ()):
        result.append(replace(e, start=place, end=place + e.end))
        place += e.end
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
        r = m.piece_given(name).r
        beside = [caps[k] for k in (n, n + 1) if k in caps]
        most = min(beside, default=np.inf)
        if n != peak:
            outer, inner = (row, after) if n < peak else (after, row)
            if not inner.integral:
                most = min(most, inner.d)
            most = min(most, outer.most)
            least = outer.shoulder if outer.shoulder and not outer.name.startswith("seat") else outer.d
            d = m.size(name, min(least, most), most)
            if not outer.name.startswith("bearing") and not outer.integral:
                d = m.piece_given(name).d or max(d, outer.d)
            result.append(Piece(name=name, kind="gap", start=row.end, end=after.start, d=d, r=r or 0.02 * d))
            continue
        result += _collar(m, row, after, name, most, r or 0.0)
    place = last.end
    for e in reversed(ends.get(-1, ())):
        result.append(replace(e, start=place, end=place + e.end))
        place += e.end
    return tuple(result)


def _collar(m: ShaftMaking, row: _Row, after: _Row, name: str, most: float, r: float) -> list[Piece]:
    """What stands between both sides: a collar as high as what stands against it on either side asks for, and no
    higher than a bearing's ring allows; in two steps where both ask for different ones."""
    low, high = row.end, after.start
    if row.integral or after.integral or not max(row.shoulder, after.shoulder):
        tall = max(0.0 if row.integral else row.shoulder, 0.0 if after.integral else after.shoulder, 1.0)
        d = m.size(name, min(tall, most), min(most, row.most, after.most))
        return [Piece(name=name, kind="gap", start=low, end=high, d=d, r=r or 0.02 * d)]
    left = m.size("collar", row.shoulder, max(row.most, row.shoulder))
    right = m.size(name, after.shoulder, max(after.most, after.shoulder))
    tall, most = max(left, right), min(row.most, after.most)
    wide = m.piece_given("collar").length or float(np.ceil(2 * max(0.12 * tall, 0.5)) / 2)
    if left == right or tall <= most or wide > 0.6 * (high - low):
        d = m.size("collar", min(tall, most), most)
        return [Piece(name=tr("collar"), kind="collar", start=low, end=high, d=d, r=r or 0.02 * d)]
    if np.isfinite(row.most) and np.isfinite(after.most):
        step = (low + high) / 2
    else:
        # The hub is mounted against the collar.
        step = low + wide if np.isfinite(after.most) else high - wide
    return [
        Piece(name=tr("collar"), kind="collar", start=low, end=step, d=left, r=r or 0.02 * left),
        Piece(name=name, kind="gap", start=step, end=high, d=right, r=r or 0.02 * right),
    ]


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

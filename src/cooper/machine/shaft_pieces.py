"""The pieces of a proposed shaft from left to right."""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from itertools import pairwise

import numpy as np
from msgspec.structs import replace

from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.more_bearings import more_names, set_more
from cooper.machine.shaft_fastening import LEAST_GAP, Row, ring_pieces
from cooper.machine.shaft_making import ShaftMaking, part_name
from cooper.machine.shaft_model import (
    Borne,
    Joint,
    JointGiven,
    MadeShaft,
    Piece,
    Wall,
)
from cooper.machine.shaft_seal import seal_fits
from cooper.machine.shaft_sides import Item, Sides
from cooper.stock.rolling import Bearing


def _order(m: ShaftMaking) -> tuple[list[Item], int]:
    """Bearings and seats from left to right, and the item behind which the collar stands: behind the first hub, or
    before it where its bore is too small for what stands on the left."""
    wish = m.wish
    items = [Item("bearing", k, w.face + 1e-3 * w.outward) for k, w in enumerate(wish.walls)]
    items += [Item("seat", k, s.at) for k, s in enumerate(wish.seats)]
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
    items, peak = _order(m)
    making = _both_sides(m, items, peak)
    own = _teeth_outside(m, items, making)
    if own is not None and own != peak:
        peak = own
        making = _both_sides(m, items, peak)
    _in_order(m, making.rows)
    pieces = _cut(m, _pieces(m, making.rows, making.caps, peak, making.ends))

    def choose(k: int, name: str, bore: float, B_most: float) -> Bearing:
        given = m.bearing_given(name)
        own = m.piece_given(name).d
        least = own if own is not None else max(bore, m.least.get(name, 0.0))
        return m.chosen(name, least, np.inf, m.F_r[:, k], np.zeros(len(m.F_r)), False, given, B_most)

    bearings = [b for b in making.parts.values() if isinstance(b, Borne)]
    joints = [*making.coupled, *(j for j in making.parts.values() if isinstance(j, Joint))]
    if more_names(m.wish):
        pieces, bearings = set_more(m.wish, pieces, bearings, choose)
    return MadeShaft(
        wish=m.wish, pieces=pieces, bearings=tuple(sorted(bearings, key=lambda b: b.name)), joints=tuple(joints)
    )


def _both_sides(m: ShaftMaking, items: list[Item], peak: int) -> Sides:
    """Both sides; made once more where a hub turned out longer than it was when walls were set off from it."""
    for _ in range(HUB_ROUNDS):
        before = dict(m.hubs)
        making = Sides(m, items, _moved(m, items))
        making.side(list(range(peak + 1)), m.wish.left_end, +1)
        making.side(list(range(len(items) - 1, peak, -1)), m.wish.right_end, -1)
        if m.hubs == before or making.walls == _moved(m, items):
            break
    return making


HUB_ROUNDS = 4
"""How often both sides are made anew until hubs are as long as walls take them to be."""


def _teeth_outside(m: ShaftMaking, items: list[Item], making: Sides) -> int | None:
    """The item of teeth that are cut into the shaft outside of both bearings and that no bearing passes, so that both
    come from the other side."""
    bearings = [n for n, i in enumerate(items) if i.kind == "bearing"]
    for n, item in enumerate(items):
        if min(bearings) < n < max(bearings) or item.kind == "bearing" or not making.rows[n].integral:
            continue
        near = min(bearings, key=lambda k: abs(k - n))
        if m.wish.seats[item.number].d_a > making.rows[near].d:
            return n
    return None


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


def _moved(m: ShaftMaking, items: list[Item]) -> tuple[Wall, ...]:
    """The walls, moved where a person has fixed the gap between a bearing and the seat beside it."""
    walls = list(m.wish.walls)
    for k, (one, two) in enumerate(itertools.pairwise(items), 1):
        length = m.piece_given(tr("gap {k}", k=k)).length
        if length is None or {one.kind, two.kind} != {"bearing", "seat"}:
            continue
        seat = m.wish.seats[(one if one.kind == "seat" else two).number]
        left, right = m.hub_ends(seat)
        n = (one if one.kind == "bearing" else two).number
        face = seat.at - left - length if one.kind == "bearing" else seat.at + right + length
        outward = -1 if one.kind == "bearing" else 1
        if walls[n].outward == outward:
            walls[n] = Wall(face=face, outward=outward)
    return tuple(walls)


def _in_order(m: ShaftMaking, rows: dict[int, Row]) -> None:
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
    m: ShaftMaking, rows: dict[int, Row], caps: dict[int, float], peak: int, ends: dict[int, list[Piece]]
) -> tuple[Piece, ...]:
    """All pieces from left to right, with the gaps between bearings and seats."""
    result: list[Piece] = []
    first, last = rows[0], rows[len(rows) - 1]
    result += laid(ends[1], first.start - sum(e.end for e in ends[1]))
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
            result += _between(m, outer, inner, name, (row.end, after.start), most)
            continue
        result += _collar(m, row, after, name, most, r or 0.0)
    return (*result, *laid(reversed(ends[-1]), last.end))


def _between(m: ShaftMaking, outer: Row, inner: Row, name: str, place: tuple[float, float], most: float) -> list[Piece]:
    """What stands between two neighbours on one side: as thick as the outer one's seat under a sleeve, else as high as
    the outer one's shoulder, with the groove of a retaining ring where the inner one needs it."""
    low, high = place
    given = m.piece_given(name)
    if inner.sleeve:
        d = given.d or outer.d
        r = given.r or 0.02 * d
        return [Piece(name=name, kind="gap", start=low, end=high, d=d, r=r, holds=outer.name, sleeve=inner.sleeve)]
    if not inner.integral:
        most = min(most, inner.d)
    kept = ring_pieces(m, inner, high - low - LEAST_GAP) if inner.ring else []
    if kept:
        most = min(most, kept[-1].d)
    bearing = is_bearing(outer)
    own = min(most, outer.most)
    d = m.size(name, min(outer.shoulder or outer.d, own), own)
    if not bearing and not outer.integral:
        d = given.d or max(d, outer.d)
    # From the left: what keeps the inner one stands beside it.
    rest = high - low - sum(p.length for p in kept)
    plain = Piece(name=name, kind="gap", start=0.0, end=rest, d=d, r=given.r or 0.02 * d)
    if inner.end <= low + 1e-9:
        return laid([*kept, *_stepped(m, plain, outer, False, most)], low)
    return laid([*_stepped(m, plain, outer, True, most), *reversed(kept)], low)


def is_bearing(row: Row) -> bool:
    """Whether what stands on a place is a bearing."""
    return row.name.startswith("bearing")


def _stepped(m: ShaftMaking, p: Piece, row: Row, on_left: bool, most: float) -> list[Piece]:
    """A piece beside a bearing, on its right or left: where it has to be thicker than the bearing's ring, that stands
    against a low shoulder of its own."""
    want = m.least.get(p.name, 0.0)
    stop = tr("shoulder of {name}", name=row.name)
    wide = m.piece_given(stop).length or float(np.ceil(2 * max(0.12 * row.d, 2.0)) / 2)
    given = m.piece_given(p.name).d
    if not is_bearing(row) or given is not None or want <= row.most + 1e-9 or p.length < 2 * wide + LEAST_GAP:
        return [p]
    d = m.size(stop, min(row.shoulder, most), min(most, row.most))
    low = Piece(name=stop, kind="collar", start=p.start, end=p.start + wide, d=d, r=m.piece_given(stop).r or 0.02 * d)
    thick = replace(p, start=low.end, d=m.size(p.name, want, most))
    pair = [low, thick] if on_left else [replace(thick, end=thick.end), low]
    return laid(pair, p.start)


def laid(pieces: Iterable[Piece], place: float) -> list[Piece]:
    """Pieces one behind the other, from a place (mm) on.

    Parameters
    ----------
    pieces : Iterable[Piece]
        Pieces with their lengths.
    place : float
        Where the first begins (mm).

    Returns
    -------
    list[Piece]
        The pieces at their places.
    """
    result = []
    for p in pieces:
        result.append(replace(p, start=place, end=place + p.length))
        place = result[-1].end
    return result


def _collar(m: ShaftMaking, row: Row, after: Row, name: str, most: float, r: float) -> list[Piece]:
    """What stands between both sides: a collar as high as what stands against it on either side asks for, and no
    higher than a bearing's ring allows; in two steps where both ask for different ones."""
    pieces = _steps(m, row, after, name, most, r)
    if is_bearing(row):
        pieces = [*_stepped(m, pieces[0], row, True, most), *pieces[1:]]
    if is_bearing(after):
        pieces = [*pieces[:-1], *_stepped(m, pieces[-1], after, False, most)]
    return pieces


def _steps(m: ShaftMaking, row: Row, after: Row, name: str, most: float, r: float) -> list[Piece]:
    """The collar, or two steps, between both sides."""
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
            d = p.d if given.d is None else given.d
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

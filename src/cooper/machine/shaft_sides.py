"""Both sides of a shaft while it is made, each from its end to the collar: ends, seals, bearings, hubs."""

from __future__ import annotations

import numpy as np
from msgspec import Struct, field

from cooper.i18n.text import tr
from cooper.machine.choose_bearing import borne
from cooper.machine.shaft_fastening import (
    Row,
    hub_shoulder,
    loose_bearing,
    loose_hub,
    ring_above,
    ring_pieces,
    sleeve_between,
)
from cooper.machine.shaft_making import ShaftMaking, shouldered
from cooper.machine.shaft_model import Borne, HubSeat, Joint, JointGiven, Piece, Wall
from cooper.machine.shaft_seal import seal_piece
from cooper.stock.fasteners import ring_on
from cooper.stock.rolling import bores_of


class Item(Struct, frozen=True):
    """A bearing or a seat on its place along the shaft."""

    kind: str
    number: int
    place: float


class Sides(Struct):
    """The rows of a shaft while both its sides are made, each from its end to the collar; ``caps`` bounds beside teeth
    that are cut in, ``ends`` what stands outside of the outermost row, from outside inwards, by the way inwards."""

    m: ShaftMaking
    items: list[Item]
    walls: tuple[Wall, ...]
    rows: dict[int, Row] = field(default_factory=dict)
    caps: dict[int, float] = field(default_factory=dict)
    parts: dict[int, Borne | Joint] = field(default_factory=dict)
    coupled: list[Joint] = field(default_factory=list)
    ends: dict[int, list[Piece]] = field(default_factory=dict)

    def side(self, numbers: list[int], end: bool, direction: int) -> None:
        """One side from its end to the collar; nothing outside a seat of a given diameter is thicker than that."""
        m, cur = self.m, 0.0
        roofs = {n: _roof(m, self.items, numbers[k:]) for k, n in enumerate(numbers)}
        self.ends[direction] = []
        if end:
            cur = self.end(direction, _thickest(m, self.items, numbers, roofs))
        for k, n in enumerate(numbers):
            outer = self.rows[numbers[k - 1]] if k else None
            gap = tr("gap {n}", n=max(n, numbers[k - 1])) if k else ""
            if outer is None or not self.sleeved(n, outer, gap, roofs[n]):
                if outer is not None:
                    # What slides on passes the gap before it.
                    cur = max(cur, min(m.least.get(gap, 0.0), roofs[n]), m.piece_given(gap).d or 0.0)
                self.set_row(n, cur, roofs[n])
                wider = ring_above(self.rows[n], outer)
                if wider:
                    self.set_row(n, wider, roofs[n])
            row = self.rows[n]
            row.ring = not row.sleeve and (row.loose or m.wish.retention.get(row.name) in ("retaining ring", "nut"))
            cur = cur if row.integral else row.shoulder
        if numbers:
            first = self.rows[numbers[0]]
            # From outside inwards, as the end and the seal before it.
            self.ends[direction] += reversed(ring_pieces(m, first)) if first.ring else ()

    def end(self, direction: int, under: float) -> float:
        """The end with the seat of its seal; the diameter that what stands behind passes."""
        m, wish = self.m, self.m.wish
        name = tr("end left") if direction > 0 else tr("end right")
        d = m.size(name, 0.0)
        joint = m.joint(name, "", wish.joints.get(name, JointGiven()), d, wish.T, wish.steel.sigma_S, 2.5 * d, 2 * d)
        length = m.piece_given(name).length or float(np.ceil(max(joint.length + 0.1 * d, 1.2 * d)))
        self.coupled.append(joint)
        r = m.piece_given(name).r or 0.03 * d
        self.ends[direction].append(Piece(name=name, kind="end", start=0.0, end=length, d=d, r=r))
        seal = seal_piece(m, direction, d, under)
        if seal is None:
            return d
        self.ends[direction].append(seal)
        return seal.d

    def sleeved(self, n: int, outer: Row, gap: str, roof: float) -> bool:
        """Set a row so that a sleeve keeps it apart from the one outside of it; whether that can be."""
        self.set_row(n, min(outer.d + STEP, roof), roof)
        row = self.rows[n]
        length = max(row.start - outer.end, outer.start - row.end)
        row.sleeve = sleeve_between(self.m, outer, row, gap, length)
        return row.sleeve > 0

    def set_row(self, n: int, cur: float, roof: float) -> None:
        """What stands at an item, no thinner than what it passes."""
        if self.items[n].kind == "bearing":
            self._bearing(n, self.items[n].number, cur, roof)
        else:
            self._seat(n, self.m.wish.seats[self.items[n].number], cur, roof)

    def _bearing(self, n: int, k: int, cur: float, roof: float) -> None:
        m, wall = self.m, self.walls[k]
        name = tr("bearing {value}", value=k + 1)
        b = m.bearing(k, max(cur, 1.0), roof)
        start, stop = sorted((wall.face, wall.face + wall.outward * b.B))
        d = m.piece_given(name).d or b.d
        self.parts[n] = borne(name, b, (start + stop) / 2, k == m.fixed, m.bearing_given(name))
        r = m.piece_given(name).r or 0.6 * b.r_s
        back = m.wish.back_to_back
        self.rows[n] = Row(
            name,
            start,
            stop,
            d,
            r,
            name,
            shoulder=d + 2 * b.h_a,
            most=d - b.d + b.d_a_max,
            loose=loose_bearing(b, back),
            thrust=float(m.F_a[:, k].max(initial=0.0)) * m.rules.S_joint * max(m.rules.K_A, m.rules.K_AP),
            threaded=b.adjusted and back,
        )

    def _seat(self, n: int, seat: HubSeat, cur: float, roof: float) -> None:
        m = self.m
        name = tr("seat {gear}", gear=seat.gear)
        d = m.piece_given(name).d or seat.bore or m.size(name, cur, roof)
        integral = m.integral(seat, d)
        if integral:
            d = seat.d_f
            self.caps[n] = seat.d_f - 0.5 * seat.m_n
            joint = Joint(piece=name, gear=seat.gear, kind="integral", d=d, T=seat.T, R_e=seat.R_e)
        else:
            self.caps.pop(n, None)
            joint = m.seat_joint(seat, d)
            integral = joint.kind == "integral"
        self.parts[n] = joint
        if integral:
            m.hubs.pop(seat.gear, None)
        left, right = m.hub_ends(seat)
        r = m.piece_given(name).r or (0.35 * seat.m_n if integral else max(0.02 * d, 0.1))
        self.rows[n] = Row(
            name,
            seat.at - left,
            seat.at + right,
            d,
            r,
            seat.gear,
            integral,
            0.0 if integral else hub_shoulder(d),
            loose=loose_hub(joint),
        )


STEP = 0.5
"""By how much a seat is thicker at least than that of a bearing outside of it, over which its hub is mounted; mm."""


def _thickest(m: ShaftMaking, items: list[Item], numbers: list[int], roofs: dict[int, float]) -> float:
    """The greatest diameter that the first bearing of a side may have: as given, else so that its shoulder passes the
    hubs behind it."""
    bearing = next(n for n in numbers if items[n].kind == "bearing")
    given = m.piece_given(tr("bearing {value}", value=items[bearing].number + 1)).d
    if given is not None:
        return given
    roof = min(roofs[n] for n in numbers)
    return max((d for d in bores_of("deep groove ball") if shouldered(d) <= roof), default=roof)


def _roof(m: ShaftMaking, items: list[Item], inward: list[int]) -> float:
    """The least given diameter of the seats from an item inwards; inf where none is given."""
    given = []
    for n in inward:
        if items[n].kind == "seat":
            seat = m.wish.seats[items[n].number]
            if m.wish.joints.get(seat.gear, JointGiven()).kind == "integral":
                # No hub slides over teeth cut into the shaft.
                continue
            d = m.piece_given(tr("seat {gear}", gear=seat.gear)).d or seat.bore or np.inf
            ring = ring_on(d) if np.isfinite(d) else None
            # The land of the hub's retaining ring is no thicker than that ring is made.
            given.append(d if ring is None else ring.d)
    return min(given, default=np.inf)

"""The state of a shaft proposal while it is built: requirements, values fixed by a person, sizes, joints."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from math import floor

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from cooper.arrays import Array
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.check_joint import ALPHA_STEEL, check_joint
from cooper.machine.choose_bearing import choose_bearing
from cooper.machine.propose_joint import joint_of
from cooper.machine.shaft_model import (
    BearingGiven,
    HubSeat,
    Joint,
    JointGiven,
    PieceGiven,
    Rules,
    ShaftRequirements,
)
from cooper.stock.diameters import STANDARD
from cooper.stock.rolling import Bearing, bores_of
from cooper.stock.shaft_joints import key_lengths, key_size

SOLID_RIM = 2.7
"""Modules under the roots that a hub keeps beyond keyway: 1.2 tooth depths, from where on the rim does not weaken
the roots (ISO 6336-3, Y_B)."""


THIN = ("press fit", "pin")
"""The same on shafts too thin for keys."""
HUB_MOST = 1.5
"""Length of a hub over its bore at most, as is customary."""
KEY_INSIDE = 1.0
"""By how much a key is shorter than its hub; mm."""


PLAIN = ("key", "press fit", "two keys", "spline")
"""Joints of a hub, the plainest first."""


def standard_diameter(d: float) -> float:
    """The next standard diameter.

    Parameters
    ----------
    d : float
        Least diameter (mm).

    Returns
    -------
    float
        Diameter (mm).

    Examples
    --------
    >>> standard_diameter(23.1), standard_diameter(7.2), standard_diameter(30.0)
    (24.0, 7.5, 30.0)
    """
    return STANDARD[min(bisect_left(STANDARD, d - 1e-9), len(STANDARD) - 1)]


def standard_below(most: float) -> float:
    """The greatest standard diameter up to a bound, where one lies near it; else the bound.

    Parameters
    ----------
    most : float
        Greatest diameter (mm).

    Returns
    -------
    float
        Diameter (mm).

    Examples
    --------
    >>> standard_below(40.2), standard_below(2.5)
    (40.0, 2.5)
    """
    k = bisect_right(STANDARD, most + 1e-9) - 1
    return STANDARD[k] if k >= 0 and STANDARD[k] > 0.9 * most else most


def shouldered(d: float) -> float:
    """Diameter of a usual shoulder beside a bearing of the bore d; mm.

    Parameters
    ----------
    d : float
        Bore (mm).

    Returns
    -------
    float
        Diameter (mm).

    Examples
    --------
    >>> shouldered(20.0), shouldered(60.0)
    (22.0, 64.2)
    """
    return round(d + max(2.0, 0.07 * d), 6)


def is_carrier(gear: str) -> bool:
    """Whether what sits on a shaft is the carrier of a set, by its identity.

    Parameters
    ----------
    gear : str
        Identity of the gear; empty for all of them.

    Returns
    -------
    bool
        Whether it is a carrier.

    Examples
    --------
    >>> is_carrier("carrier of gear2"), is_carrier("gear2")
    (True, False)
    """
    return gear.startswith("carrier of ")


class ShaftMaking(Struct):
    """A shaft while it is being made: least diameters by piece, loads of the bearings of the round before."""

    wish: ShaftRequirements
    rules: Rules
    D_most: float
    least: dict[str, float]
    F_r: Array
    F_a: Array
    most: float
    """What no piece grows beyond, where growing does not help; mm."""
    fixed: int = 0
    found: dict[object, Bearing | None] = field(default_factory=dict)
    """Bearings that were chosen, by what was asked."""
    hubs: dict[str, tuple[float, float]] = field(default_factory=dict)
    """How far hubs reach beyond their teeth to the left and right; mm."""
    spare: float = 1.0
    """What a bearing must bear over its loads of the round before, which the next round may raise a little."""

    # -- what is given

    def piece_given(self, name: str) -> PieceGiven:
        return self.wish.pieces.get(name, PieceGiven())

    def bearing_given(self, name: str) -> BearingGiven:
        return self.wish.bearings.get(name, BearingGiven())

    def size(self, name: str, least: float, most: float = np.inf) -> float:
        """Diameter of a piece: as given, or the standard one from all that it must be."""
        given = self.piece_given(name).d
        if given is not None:
            return given
        least = max(least, self.least.get(name, 0.0))
        d = standard_diameter(least)
        if d <= most:
            return d
        below = standard_below(most)
        # Between two standard ones what is just enough, to half a millimetre where that lies between.
        return below if below >= least - 1e-9 else max(floor(2 * most) / 2, min(least, most))

    def bearing(self, k: int, cur: float, roof: float) -> Bearing:
        name = tr("bearing {value}", value=k + 1)
        given, piece = self.bearing_given(name), self.piece_given(name).d
        under = max((d for d in bores_of("deep groove ball") if shouldered(d) <= roof), default=roof)
        least = piece if piece is not None else max(cur, min(self.least.get(name, 0.0), under))
        # Also where no thrust acts one bearing has to keep the shaft where it is.
        return self.chosen(name, least, roof, self.F_r[:, k], self.F_a[:, k], k == self.fixed, given)

    def chosen(
        self,
        name: str,
        least: float,
        roof: float,
        F_r: Array,
        F_a: Array,
        thrust: bool,
        given: BearingGiven,
        B_most: float = np.inf,
    ) -> Bearing:
        bore = self.piece_given(name).d
        # One round asks for the same more than once, with and without a sleeve.
        key = (name, least, roof, thrust, self.spare, B_most, F_r.tobytes(), F_a.tobytes())
        if key not in self.found:
            self.found[key] = choose_bearing(
                least, roof, self.D_most, F_r, F_a, self.wish.n, thrust, given, self.rules, self.spare, B_most, bore
            )
        result = self.found[key]
        if result is None:
            raise OutOfRange(
                tr("{name} d", name=name), least, tr("there is no bearing of such a bore"), high=200.0, unit="mm"
            )
        return result

    # -- joints

    def hub_ends(self, seat: HubSeat) -> tuple[float, float]:
        """How far a hub reaches to the left and right from the middle of its seat: as given, else as its joint of the
        last round asked for; mm."""
        given = self.piece_given(tr("seat {gear}", gear=seat.gear)).length
        if given is not None:
            return given / 2, given / 2
        left, right = self.hubs.get(seat.gear, (0.0, 0.0))
        return seat.b / 2 + left, seat.b / 2 + right

    def seat_joint(self, seat: HubSeat, d: float) -> Joint:
        """The joint of a hub; a key lets the hub reach beyond its teeth, where there is room, as far as it has to."""
        self.hubs.pop(seat.gear, None)
        given = self.wish.joints.get(seat.gear, JointGiven())
        length = sum(self.hub_ends(seat))
        fixed = self.piece_given(tr("seat {gear}", gear=seat.gear)).length is not None or given.length is not None
        most = min(seat.b + sum(seat.room), HUB_MOST * d)
        if given.kind in (None, "key") and not fixed and not is_carrier(seat.gear) and most > length:
            keyed = self._longer_hub(seat, d, given, most)
            if keyed is not None:
                return keyed
        return self._joint_of(seat, d, given, length)

    def _longer_hub(self, seat: HubSeat, d: float, given: JointGiven, most: float) -> Joint | None:
        """A key in a hub that reaches beyond its teeth, the shortest that holds; None where the teeth are wide enough,
        or not even the longest hub holds."""
        keyed = replace(given, kind="key")
        for room in (seat.b, *(v + KEY_INSIDE for v in key_lengths() if seat.b < v + KEY_INSIDE <= most)):
            joint = self._joint_of(seat, d, keyed, room)
            if joint.kind != "key" or self.rules.S_joint > check_joint(joint, self.rules).S:
                continue
            over = max(joint.length + KEY_INSIDE - seat.b, 0.0)
            left, right = seat.room
            # To the side with more room first.
            far = min(over, max(left, right))
            ends = (over - far, far) if right >= left else (far, over - far)
            if over:
                self.hubs[seat.gear] = ends
            return joint
        return None

    def _joint_of(self, seat: HubSeat, d: float, given: JointGiven, length: float) -> Joint:
        return self.joint(
            tr("seat {gear}", gear=seat.gear),
            seat.gear,
            given,
            d,
            seat.T,
            seat.R_e,
            length,
            seat.d_f,
            seat.E,
            seat.alpha,
        )

    def joint(
        self,
        piece: str,
        gear: str,
        given: JointGiven,
        d: float,
        T: float,
        R_e: float,
        room: float,
        d_hub: float,
        E_hub: float = 206000.0,
        alpha_hub: float = ALPHA_STEEL,
    ) -> Joint:
        """The joint as given, or the plainest that holds: key, two keys, spline, press fit."""
        # What is coupled from outside grows until a key holds; a hub has no room to grow.
        carrier = is_carrier(gear)
        plain = ("key",) if not gear and d > 6 else ("press fit",) if carrier else PLAIN if d > 6 else THIN
        kinds = (given.kind,) if given.kind else plain
        weakest = min(R_e, self.wish.steel.sigma_S)
        best: Joint | None = None
        for kind in kinds:
            if kind == "integral":
                return Joint(piece=piece, gear=gear, kind=kind, d=d, T=T, R_e=weakest)
            made = joint_of(
                kind or "",
                piece,
                gear,
                given,
                d,
                T,
                (R_e, self.wish.steel.sigma_S),
                room,
                d_hub,
                E_hub,
                alpha_hub,
                self.wish.n,
                self.rules,
                self.wish.d_i,
            )
            if made is None:
                continue
            if self.rules.S_joint <= check_joint(made, self.rules).S:
                return made
            if best is None or check_joint(best, self.rules).S < check_joint(made, self.rules).S:
                best = made
        if best is None or (carrier and not given.kind):
            # A carrier whose wall is too narrow for a press fit is one piece with its shaft, as is usual.
            return Joint(piece=piece, gear=gear, kind="integral", d=d, T=T, R_e=weakest)
        return best

    def integral(self, seat: HubSeat, d: float) -> bool:
        """Whether the teeth are cut into the shaft: as chosen, or because a hub would leave too little under the
        roots."""
        given = self.wish.joints.get(seat.gear, JointGiven()).kind
        if given or seat.bore > 0:
            return given == "integral"
        if seat.inward:
            return False
        deep = key_size(d).t_2 if 6 < d <= 230 else 0.05 * d
        return seat.d_f / 2 - d / 2 - deep < SOLID_RIM * seat.m_n


def base_name(name: str) -> str:
    """The piece that a part of it was cut from.

    Parameters
    ----------
    name : str
        Name of the piece.

    Returns
    -------
    str
        Name of the whole piece.

    Examples
    --------
    >>> base_name("gap 1, part 2"), base_name("gap 1")
    ('gap 1', 'gap 1')
    """
    return name.partition(", part ")[0]


def part_name(name: str, n: int) -> str:
    """What the n-th part (from 2) of a piece that is cut is called; the first keeps the name.

    Parameters
    ----------
    name : str
        Name of the piece.
    n : int
        Number of the part, from 2.

    Returns
    -------
    str
        Name.

    Examples
    --------
    >>> part_name("gap 1", 2)
    'gap 1, part 2'
    """
    return tr("{name}, part {n}", name=name, n=n)

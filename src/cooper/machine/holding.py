"""What keeps every ring and hub of a shaft in its place, and the way of the thrust from the teeth to the housing."""

from __future__ import annotations

from math import inf, pi

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.i18n.text import term, tr
from cooper.machine.check_shaft import ShaftCheck
from cooper.machine.covers import Cover, covers_of, outward_of
from cooper.machine.hub_ends import hub_mass
from cooper.machine.lay_out import lip_of
from cooper.machine.shaft_fastening import HELD_BY_ITSELF
from cooper.machine.shaft_making import is_carrier
from cooper.machine.shaft_model import Borne, MadeShaft, Piece, Rules
from cooper.stock.fasteners import ring_in

HOUSING_R_E = 200.0
"""Yield point by which grooves and shoulders of a housing of grey cast iron are judged; MPa. Customary."""
OVER = 0.4
"""Millimetres by which the piece beside a hub is thicker at least where it is a shoulder."""
NOTHING = tr("nothing")
"""What stands for a side that nothing keeps."""


class Hold(Struct, frozen=True, kw_only=True):
    """What keeps a thing on one side (-1 left, +1 right): the piece it stands on, whether its hub, inner ring or outer
    ring is meant, by what, where they touch (place along the shaft and radius; mm), what that bears (N), the greatest
    thrust that comes there (N), and whether it is needed at all."""

    thing: str
    ring: str
    side: int
    by: str
    place: tuple[float, float]
    bears: float = inf
    F: float = 0.0
    needed: bool = True

    @property
    def held(self) -> bool:
        """Whether something keeps it there, or nothing has to."""
        return self.by != NOTHING or not self.needed

    @property
    def S(self) -> float:
        """What it bears over the thrust that comes there: 0 where nothing keeps it, inf where no thrust comes."""
        if not self.needed:
            return inf
        if self.by == NOTHING:
            return 0.0
        return self.bears / self.F if self.F > 1e-6 else inf


class Holding(Struct, frozen=True):
    """All that keeps what is on a shaft, with the covers of its bearings."""

    holds: tuple[Hold, ...]
    covers: tuple[Cover, ...]
    lip: float
    """Thickness of the wall's lip on which outer rings lean; mm."""

    @property
    def worst(self) -> Hold | None:
        """What is nearest to giving way; of what no thrust comes to, the first."""
        return min((h for h in self.holds if h.needed), key=lambda h: h.S, default=None)

    def of(self, thing: str, ring: str, side: int) -> Hold:
        """What keeps a thing on one side."""
        return next(h for h in self.holds if (h.thing, h.ring, h.side) == (thing, ring, side))


def hold_words(made: MadeShaft, hold: Hold) -> tuple[str, str, str]:
    """By what, what, and on which side something is kept, in words: what keeps it (the ring itself where nothing
    does), the gear or bearing, left or right.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    hold : Hold
        What keeps it.

    Returns
    -------
    tuple[str, str, str]
        By what, what, and on which side.
    """
    seat = next((s for s in made.wish.seats if made.piece(hold.thing).on == s.gear), None)
    thing = seat.name if seat is not None else hold.thing
    return (hold.by if hold.held else hold.ring), thing, tr("left") if hold.side < 0 else tr("right")


def floats(b: Borne, made: MadeShaft) -> bool:
    """Whether the outer ring of a bearing is meant to shift in its bore: it bears no thrust and cannot give way
    within, as a cylindrical roller bearing does.

    Parameters
    ----------
    b : Borne
        The bearing at its place.
    made : MadeShaft
        The shaft as made.

    Returns
    -------
    bool
        Whether it floats.
    """
    return not b.fixed and not b.bearing.adjusted and b.bearing.type != "cylindrical roller"


def takes_thrust(made: MadeShaft, side: int) -> Borne | None:
    """The bearing that bears a thrust towards one side: the fixed one, of an adjusted pair the one whose contact
    stands against it.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    side : int
        -1 towards the left, +1 towards the right.

    Returns
    -------
    Borne | None
        The bearing, None where none is there.
    """
    own = made.bearings[:2]
    if len(own) == 2 and all(b.bearing.adjusted for b in own):
        # Face to face the bearing on that side, back to back the other one.
        way = -side if made.wish.back_to_back else side
        return max(own, key=lambda b: way * b.at)
    return next((b for b in made.bearings if b.fixed), None)


def holding_of(made: MadeShaft, checked: ShaftCheck, rules: Rules, inner: tuple[float, float]) -> Holding:
    """What keeps every hub and both rings of every bearing of a shaft on both sides.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    checked : ShaftCheck
        Its check, for the thrust of its bearings and the safeties of its joints.
    rules : Rules
        What is counted: thrust by the greater of K_A and K_AP.
    inner : tuple[float, float]
        Start and end of the room between the walls (mm).

    Returns
    -------
    Holding
        Holds of hubs, inner and outer rings, and the covers.

    Notes
    -----
    A shoulder bears R_e on the ring of area between it and the chamfer; a groove pi/4 (d^2 - d_2^2) R_e / 1.2; a sleeve
    R_e on its section; a joint that keeps its hub by itself sqrt(S^2 - 1) times its force around the shaft.
    """
    covers = covers_of(made, inner)
    factor = max(rules.K_A, rules.K_AP)
    holds: list[Hold] = []
    for seat in made.wish.seats:
        at = next(k for k, p in enumerate(made.pieces) if p.on == seat.gear)
        thrust = [float(sum(c.force[n][2] for c in made.wish.contacts if c.gear == seat.gear)) for n in (0, 1)]
        joint = next((j for j in made.joints if j.gear == seat.gear), None)
        own = next((c.S for c, j in zip(checked.joints, made.joints, strict=True) if j is joint), 1.0)
        for side in (-1, 1):
            F = factor * max(0.0, *(side * v for v in thrust))
            if joint is not None and joint.kind in HELD_BY_ITSELF:
                piece = made.pieces[at]
                around = inf if joint.kind == "integral" else 2000 * joint.T * factor / joint.d
                bears = inf if around == inf else around * float(np.sqrt(max(own**2 - 1, 0.0)))
                whole = tr("one piece with the shaft") if is_carrier(seat.gear) else tr("teeth cut into the shaft")
                by = whole if joint.kind == "integral" else term(joint.kind)
                holds.append(
                    Hold(
                        thing=piece.name,
                        ring=tr("hub"),
                        side=side,
                        by=by,
                        place=(piece.at, piece.d / 2),
                        bears=bears,
                        F=F,
                    )
                )
            else:
                holds.append(_beside(made, at, side, tr("hub"), F))
    for k, b in enumerate(made.bearings):
        at = next(n for n, p in enumerate(made.pieces) if p.name == b.name)
        total = checked.reactions[:, k, 2] * factor
        most = float(np.abs(total).max(initial=0.0))
        for side in (-1, 1):
            # The shaft presses the inner ring from the side that the thrust comes from, the outer ring leans the other
            # way.
            bears_it = takes_thrust(made, -side) is b
            hold = _beside(made, at, side, tr("inner ring"), most if bears_it else 0.0)
            if b.bearing.adjusted and len(made.bearings) > 1:
                hold = replace(hold, needed=bears_it)
            holds.append(hold)
            leans = takes_thrust(made, side) is b
            holds.append(_outer(made, b, side, covers, most if leans else 0.0))
    return Holding(tuple(holds), covers, lip_of(rules.c))


def _beside(made: MadeShaft, at: int, side: int, ring: str, F: float) -> Hold:
    """What keeps a hub or an inner ring on one side by the pieces beside its own."""
    piece, R_e = made.pieces[at], made.wish.steel.sigma_S
    edge = piece.end if side > 0 else piece.start
    n = at + side
    beside = made.pieces[n] if 0 <= n < len(made.pieces) else None
    by, bears, r = NOTHING, 0.0, piece.d / 2
    if beside is not None:
        by, bears, r = _kept_by(made, piece, beside, R_e)
    return Hold(thing=piece.name, ring=ring, side=side, by=by, place=(edge, r), bears=bears, F=F)


def _kept_by(made: MadeShaft, piece: Piece, beside: Piece, R_e: float) -> tuple[str, float, float]:
    """By what a piece's ring or hub is kept from the piece beside it, what that bears (N), and at which radius (mm)."""
    if beside.kind == "groove" and beside.holds == piece.name:
        own = next((r for p, r in made.rings if p.name == beside.name), None)
        return (NOTHING, 0.0, piece.d / 2) if own is None else (own.designation, own.load(R_e), piece.d / 2)
    if beside.kind == "thread" and beside.holds == piece.name:
        nut = next((n for p, n in made.nuts if p.name == beside.name), None)
        if nut is not None:
            return tr("nut KM {n}", n=nut.number), nut.load(R_e), nut.D / 2
    if beside.sleeve:
        return tr("sleeve"), R_e * pi / 4 * (beside.sleeve**2 - max(beside.d, piece.d) ** 2), beside.sleeve / 2
    if beside.d >= piece.d + OVER:
        chamfer = piece.d + OVER / 2
        return tr("shoulder"), R_e * pi / 4 * max(beside.d**2 - chamfer**2, 0.0), beside.d / 2
    if beside.kind in ("bearing", "seat"):
        return tr("its neighbour"), inf, piece.d / 2
    return NOTHING, 0.0, piece.d / 2


def _outer(made: MadeShaft, b: Borne, side: int, covers: tuple[Cover, ...], F: float) -> Hold:
    """What keeps the outer ring of a bearing on one side: its cover outside, the wall or a ring in the bore inside."""
    way, D = outward_of(made, b), b.bearing.D
    z = b.at + side * b.bearing.B / 2
    cover = next((c for c in covers if c.bearing == b.name), None)
    pressed = takes_thrust(made, side) is b or (not floats(b, made) and not b.bearing.adjusted)
    by, bears = tr("the wall"), HOUSING_R_E * pi / 4 * (D**2 - (0.9 * D) ** 2)
    if side == way:
        ring = ring_in(D)
        if cover is not None:
            by, bears = tr("cover"), cover.bears
        elif ring is not None:
            by, bears = ring.designation, ring.load(HOUSING_R_E)
        else:
            by, bears = tr("screwed plate"), inf
    if not pressed:
        by = tr("free to shift")
    return Hold(
        thing=b.name,
        ring=tr("outer ring"),
        side=side,
        by=by,
        place=(z, 0.47 * D),
        bears=bears,
        F=F,
        needed=pressed,
    )


SPACER = 7.85e-6
"""Density of a sleeve of steel; kg/mm3."""


def sleeve_mass(p: Piece) -> float:
    """Mass of the sleeve around a piece; kg.

    Parameters
    ----------
    p : Piece
        The piece under the sleeve.

    Returns
    -------
    float
        Mass (kg).
    """
    return SPACER * pi / 4 * (p.sleeve**2 - p.d**2) * p.length


def held_mass(made: MadeShaft, holding: Holding) -> float:
    """Mass of covers, retaining rings, nuts, sleeves and hubs beyond the teeth of a shaft; kg. Seals and screws are not
    in it.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    holding : Holding
        What keeps all that stands on it.

    Returns
    -------
    float
        Mass (kg).
    """
    rings = sum(r.mass for _, r in made.rings) + sum(n.mass for _, n in made.nuts)
    return sum(c.mass for c in holding.covers) + rings + sum(map(sleeve_mass, made.sleeves)) + hub_mass(made)


def thrust_path(made: MadeShaft, holding: Holding, case: int) -> tuple[list[Hold], list[tuple[float, float]]]:
    """The way of the thrust of a shaft from its teeth to the housing.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    holding : Holding
        What keeps all that stands on it.
    case : int
        Direction of rotation, as the cases of the contacts.

    Returns
    -------
    tuple[list[Hold], list[tuple[float, float]]]
        What it passes in order, and points along the shaft and radii (mm) from the teeth on; both empty where no thrust
        is left.
    """
    total = sum(float(c.force[case][2]) for c in made.wish.contacts)
    if abs(total) < 1e-3:
        return [], []
    side = 1 if total > 0 else -1
    first = max(made.wish.contacts, key=lambda c: side * float(c.force[case][2]))
    bearing = takes_thrust(made, side)
    seat = next((s for s in made.wish.seats if s.gear == first.gear), None)
    if bearing is None or seat is None:
        return [], []
    piece = next(p for p in made.pieces if p.on == seat.gear)
    hub = holding.of(piece.name, tr("hub"), side)
    inner = holding.of(bearing.name, tr("inner ring"), -side)
    outer = holding.of(bearing.name, tr("outer ring"), side)
    ring = made.piece(bearing.name)
    low, high = 0.5 * piece.d / 2, bearing.bearing.D_pw / 2
    points = [(first.at, float(np.hypot(*first.point[case]))), hub.place, (hub.place[0], low)]
    points += [(inner.place[0] - side * 1.0, low), (inner.place[0] - side * 1.0, ring.d / 2), inner.place]
    points += [(bearing.at, high), outer.place, (outer.place[0] + side * 2.0, outer.place[1])]
    return [hub, inner, outer], points

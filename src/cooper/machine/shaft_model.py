"""A shaft as data: what is asked of it (`ShaftRequirements`), and as it is made (`MadeShaft`). Lengths in mm along the
machine's axis z."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from msgspec import Struct, field

from cooper.arrays import Array
from cooper.i18n.text import tr
from cooper.stock.fasteners import LockNut, RetainingRing, nut_for, rings
from cooper.stock.rolling import Bearing
from cooper.stock.seals import Seal, seal_for
from cooper.stock.shaft_steel import ShaftSteel


class Contact(Struct, frozen=True, kw_only=True):
    """Where a mesh presses on a gear: the middle of its face and its width, the point from the shaft's axis (cases,
    2; mm) and the force on the gear (cases, 3; N) with nominal torque. The cases are both directions of rotation."""

    gear: str
    at: float
    b: float
    point: Array
    force: Array


class HubSeat(Struct, frozen=True, kw_only=True):
    """A gear that the shaft carries: width and middle of its hub, root and tip diameter, module, entered ``bore``
    (0: free), yield point of the hub and its modulus ``E`` (MPa), greatest share of the shaft's torque that its joint
    passes (N m). ``mass`` in kg; ``room`` how far its hub may reach beyond its teeth to the left and right (mm)."""

    gear: str
    name: str
    at: float
    b: float
    d_f: float
    d_a: float
    m_n: float
    T: float
    R_e: float
    E: float = 206000.0
    alpha: float = 11.5e-6
    bore: float = 0.0
    inward: bool = False
    mass: float = 0.0
    room: tuple[float, float] = (0.0, 0.0)


class PieceGiven(Struct, frozen=True, kw_only=True):
    """What a person has fixed of a piece: diameter, length, fillet radius, None where it follows; a cross hole; an
    undercut in place of the fillet; and where it is cut, from its left end (mm)."""

    d: float | None = None
    length: float | None = None
    r: float | None = None
    hole: float | None = None
    undercut: str = ""
    cuts: tuple[float, ...] = ()


class BearingGiven(Struct, frozen=True, kw_only=True):
    """What a person has fixed of a bearing: type, dimension series, a maker's ratings (N), of a third one the place
    of its middle from that of the first (mm); None where it follows."""

    type: str | None = None
    series: str | None = None
    C: float | None = None
    C_0: float | None = None
    at: float | None = None
    rated: str | None = None
    """Which bearing a maker's ratings belong to (`Bearing.name`); None where nothing tells it."""


class JointGiven(Struct, frozen=True, kw_only=True):
    """What a person has fixed of a joint: its kind (key, two keys, spline, press fit, pin, set screw, two set
    screws, integral), its bearing length, the pin's diameter, the thread of a set screw (mm) and what it is tightened
    with (N m); None where it follows."""

    kind: str | None = None
    length: float | None = None
    d_pin: float | None = None
    d_screw: float | None = None
    M_A: float | None = None


class Wall(Struct, frozen=True, kw_only=True):
    """The inner face of a bearing, and the way in which its width extends from there: +1 to the right, -1 to the
    left."""

    face: float
    outward: int


class ShaftRequirements(Struct, frozen=True, kw_only=True):
    """What a shaft has to carry, and where it may be held; ``T`` the torque of its coupling (N m), ``n`` its speed
    (1/min)."""

    key: str
    name: str
    seats: tuple[HubSeat, ...]
    contacts: tuple[Contact, ...]
    walls: tuple[Wall, Wall]
    left_end: bool
    right_end: bool
    n: float
    T: float
    T_most: float
    """The greatest torque that a mesh brings to it (N m), also where it passes none on, as an idler."""
    steel: ShaftSteel
    pieces: Mapping[str, PieceGiven] = field(default_factory=dict)
    bearings: Mapping[str, BearingGiven] = field(default_factory=dict)
    joints: Mapping[str, JointGiven] = field(default_factory=dict)
    retention: Mapping[str, str] = field(default_factory=dict)
    """What a person chose to keep a hub or ring on its outer side: sleeve, retaining ring, nut or nothing."""
    d_i: float = 0.0
    fixed: str = ""
    """Which bearing bears the thrust; empty for the one with the lighter radial load."""
    back_to_back: bool = False
    """Whether bearings with a contact angle stand back to back, their pressure points apart, or face to face."""


class Rules(Struct, frozen=True, kw_only=True):
    """What holds for all shafts of a machine: loads over the nominal ones, what is asked of safeties and lives,
    surfaces, oil, clearances (mm).

    ``K_A`` counts for fatigue of shafts and joints, ``K_AP`` for the greatest load, ``T_rel``, ``n_rel``, ``q`` for the
    life of bearings.
    """

    K_A: float = 1.0
    K_AP: float = 1.0
    L_h: float = 10000.0
    T_rel: tuple[float, ...] = (1.0,)
    n_rel: tuple[float, ...] = (1.0,)
    q: tuple[float, ...] = (1.0,)
    swing: str = "pulsating"
    S_Dmin: float = 1.5
    S_Ymin: float = 1.5
    S_0min: float = 1.5
    S_joint: float = 1.3
    w_rel: float = 0.01
    Rz: float = 6.3
    nu: float = 100.0
    cleanliness: str = "ISO 4406 -/17/14"
    reliability: float = 90.0
    R_e_key: float = 300.0
    c: float = 5.0
    mu_press: float = 0.14
    theta: float = 20.0
    """Temperature at which joints work; degrees Celsius, put together at 20."""
    whirl: float = 1.3
    seal: str = "FKM"
    """Material of the lips of radial shaft seals: NBR or FKM."""
    weight: bool = False
    """Whether shafts and gears weigh on their bearings, down in the end view."""


class Piece(Struct, frozen=True, kw_only=True):
    """One piece of a shaft: what it is for (end, seal, bearing, gap, seat, collar, groove, land, thread), from where to
    where, its diameter, the radius of the fillet at its foot, and the gear or bearing on it."""

    name: str
    kind: str
    start: float
    end: float
    d: float
    r: float = 0.0
    on: str = ""
    hole: float = 0.0
    """Diameter of a hole across its middle; mm."""
    undercut: str = ""
    """The undercut at its foot (`stock.undercuts`), in place of the fillet."""
    holds: str = ""
    """The piece whose ring or hub is kept from here: by a retaining ring or nut, or by the sleeve around it."""
    sleeve: float = 0.0
    """Outside diameter of the sleeve around it; mm, 0 without one."""

    @property
    def length(self) -> float:
        return self.end - self.start

    @property
    def at(self) -> float:
        return (self.start + self.end) / 2


SEALS = {1: tr("seal left"), -1: tr("seal right")}
"""Names of the pieces on which seals run, by the way inwards."""


class Borne(Struct, frozen=True, kw_only=True):
    """A bearing at its place: where its middle stands, its ratings (N), whether it bears thrust, whether those
    ratings were typed."""

    name: str
    bearing: Bearing
    at: float
    C: float
    C_0: float
    fixed: bool
    typed: bool = False


SCREWS = {"set screw": 1, "two set screws": 2}
"""Kinds of joints by set screws, and how many they have."""


class Joint(Struct, frozen=True, kw_only=True):
    """What joins a hub: its kind, the piece of shaft, sizes (mm), torque (N m), yield point of the weakest part
    (MPa). ``l_tr`` is the length that bears, ``length`` that of the key; ``fit`` of a press fit such as H7/s6, with its
    least interference ``U`` after smoothing and its greatest ``U_max``."""

    piece: str
    gear: str
    kind: str
    d: float
    T: float
    R_e: float
    R_hub: float = 0.0
    R_shaft: float = 0.0
    """Yield points of hub and shaft apart (MPa), for a press fit; 0: that of the weakest part."""
    d_i: float = 0.0
    """Bore of a hollow shaft (mm)."""
    length: float = 0.0
    l_tr: float = 0.0
    b: float = 0.0
    h: float = 0.0
    t_1: float = 0.0
    t_2: float = 0.0
    m: float = 0.0
    z: int = 0
    U: float = 0.0
    U_max: float = 0.0
    fit: str = ""
    E_hub: float = 206000.0
    d_hub: float = 0.0
    alpha_hub: float = 11.5e-6
    """Thermal expansion of the hub; 1/K."""
    d_pin: float = 0.0
    d_screw: float = 0.0
    M_A: float = 0.0
    """Thread of a set screw (mm) and what it is tightened with (N m)."""
    n: float = 0.0
    """Speed with which a press fit turns; 1/min."""

    @property
    def wall(self) -> float:
        """Wall thickness of a hollow shaft under the keyway; mm, inf of a solid one."""
        return (self.d - self.d_i) / 2 - self.t_1 if self.d_i else float("inf")

    @property
    def screws(self) -> int:
        """How many set screws hold it."""
        return SCREWS.get(self.kind, 0)


class MadeShaft(Struct, frozen=True, kw_only=True):
    """A shaft as it is made."""

    wish: ShaftRequirements
    pieces: tuple[Piece, ...]
    bearings: tuple[Borne, ...]
    joints: tuple[Joint, ...]

    @property
    def key(self) -> str:
        return self.wish.key

    def piece(self, name: str) -> Piece:
        result = next((p for p in self.pieces if p.name == name), None)
        if result is None:
            # Not what `next` raises: Qt does not survive that from a handler.
            raise KeyError(name)
        return result

    def support(self, k: int) -> float:
        """Where bearing k holds the shaft (mm): the pressure point D_pw/2 tan(alpha) from its middle of one with a
        contact angle, towards the other bearing where both stand face to face, away from it back to back; else its
        middle. Points that meet or change places stay a twentieth of the span apart, which no bearing bears."""
        points = [self._pressure_point(n) for n in range(len(self.bearings))]
        if k < 2 and len(points) > 1:
            (a, b), (p, q) = (x.at for x in self.bearings[:2]), points[:2]
            way = 1.0 if b > a else -1.0
            if way * (q - p) < 0.05 * abs(b - a):
                middle = (p + q) / 2
                points[0], points[1] = (middle - way * 0.025 * abs(b - a), middle + way * 0.025 * abs(b - a))
        return min(max(points[k], self.start), self.end)

    def _pressure_point(self, k: int) -> float:
        b = self.bearings[k]
        if not b.bearing.adjusted or k > 1 or len(self.bearings) < 2:
            return b.at
        inward = 1.0 if self.bearings[1 - k].at > b.at else -1.0
        return b.at + (-inward if self.wish.back_to_back else inward) * b.bearing.D_pw / 2 * float(
            np.tan(b.bearing.alpha)
        )

    @property
    def seals(self) -> tuple[tuple[Piece, Seal], ...]:
        """Each piece on which a radial shaft seal runs, with the seal of its diameter where there is one."""
        found = ((p, seal_for(p.d, p.d)) for p in self.pieces if p.kind == "seal")
        return tuple((p, seal) for p, seal in found if seal is not None)

    @property
    def rings(self) -> tuple[tuple[Piece, RetainingRing], ...]:
        """Each groove with the retaining ring that sits in it."""
        found = ((p, next((r for r in rings() if r.d_2 == p.d), None)) for p in self.pieces if p.kind == "groove")
        return tuple((p, ring) for p, ring in found if ring is not None and p.holds)

    @property
    def nuts(self) -> tuple[tuple[Piece, LockNut], ...]:
        """Each thread with the nut on it."""
        found = ((p, nut_for(p.d)) for p in self.pieces if p.kind == "thread")
        return tuple((p, nut) for p, nut in found if nut is not None)

    @property
    def sleeves(self) -> tuple[Piece, ...]:
        """Pieces with a sleeve around them."""
        return tuple(p for p in self.pieces if p.sleeve)

    def retained_by(self, name: str) -> str:
        """What keeps the ring or hub on a piece on its outer side: sleeve, retaining ring, nut or nothing beside it."""
        for p in self.pieces:
            if p.holds == name and p.kind in ("groove", "thread"):
                return "nut" if p.kind == "thread" else "retaining ring"
        own = self.piece(name)
        beside = any(p.sleeve and p.holds != name and own.name in self._next_to(p) for p in self.pieces)
        return "sleeve" if beside else "nothing"

    def _next_to(self, piece: Piece) -> tuple[str, ...]:
        """Names of the pieces beside one."""
        k = self.pieces.index(piece)
        return tuple(self.pieces[n].name for n in (k - 1, k + 1) if 0 <= n < len(self.pieces))

    @property
    def start(self) -> float:
        return self.pieces[0].start

    @property
    def end(self) -> float:
        return self.pieces[-1].end

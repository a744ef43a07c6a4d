"""What a person has fixed of the machine around the gears; all else of it is proposed
(`cooper.machine.propose_shaft`)."""

from typing import Annotated, Literal

from msgspec import Meta, field

from cooper.document.base import NO_CONTROLS, Model, Rule, about, quantity
from cooper.i18n.text import tr
from cooper.machine.rolling_life import CLEANLINESS
from cooper.stock.rolling import rolling_types, series_of
from cooper.stock.shaft_joints import screw_size, screw_sizes
from cooper.stock.shaft_steel import shaft_steels

Key = str
"""Identity of a gear, or ``carrier of`` one of a planet; a shaft is named by the first thing on it."""


class PieceData(Model, frozen=True, kw_only=True):
    """A piece of a shaft; null is proposed. Where it is cut its parts are pieces of their own, named ``…, part 2``
    and so on."""

    cuts: Annotated[
        tuple[Annotated[float, Meta(gt=0, le=5000)], ...],
        about("where the piece is cut, from its left end; mm", max_length=8),
    ] = ()
    d: Annotated[float, quantity("d_piece", gt=0.5, le=2000)] | None = None
    length: Annotated[float, quantity("l_piece", gt=0, le=5000)] | None = None
    r: Annotated[float, quantity("r_piece", gt=0, le=100)] | None = None
    hole: Annotated[float, quantity("d_hole", gt=0, le=500)] | None = None
    undercut: (
        Annotated[
            Literal["E", "F", "E, stronger", "F, stronger"],
            about("undercut of DIN 509 at the foot of the piece, in place of its fillet"),
        ]
        | None
    ) = None


class BearingData(Model, frozen=True, kw_only=True):
    """A bearing of a shaft; null is proposed. Beside the first two a shaft has those whose place ``at`` is given.
    Typed ratings, as from its maker, go before those from typical inner dimensions."""

    type: Annotated[str, about("type of the rolling bearing")] | None = None
    series: Annotated[str, about("dimension series of ISO 15", max_length=8, pattern=NO_CONTROLS)] | None = None
    C: Annotated[float, quantity("C_r", gt=0, le=1e8)] | None = None
    C_0: Annotated[float, quantity("C_0r", gt=0, le=1e8)] | None = None
    at: Annotated[float, quantity("l_bearing", ge=-5000, le=5000)] | None = None
    rated: (
        Annotated[
            str,
            about("bearing that the typed ratings are those of, as type and size", max_length=80, pattern=NO_CONTROLS),
        ]
        | None
    ) = None

    def __post_init__(self) -> None:
        if self.type is not None and self.type not in rolling_types():
            raise ValueError(
                tr(
                    "bearing {type!r} is not known; known: {rolling_types}",
                    type=self.type,
                    rolling_types=", ".join(rolling_types()),
                )
            )
        if self.series is not None and (self.type is None or self.series not in series_of(self.type)):
            there = ", ".join(series_of(self.type)) if self.type else tr("those of its type, which comes first")
            raise ValueError(tr("series {series!r} does not exist; there are {there}", series=self.series, there=there))


class JointData(Model, frozen=True, kw_only=True):
    """What joins a hub or a coupling to its shaft; null is proposed."""

    kind: (
        Annotated[
            Literal["key", "two keys", "spline", "press fit", "pin", "set screw", "two set screws", "integral"],
            about("joint of hub and shaft; integral: cut into the shaft"),
        ]
        | None
    ) = None
    length: Annotated[float, quantity("l_tr", gt=0, le=2000)] | None = None
    d_pin: Annotated[float, quantity("d_pin", gt=0.2, le=200)] | None = None
    d_screw: Annotated[float, quantity("d_screw", gt=0, le=100)] | None = None
    M_A: Annotated[float, quantity("M_A", gt=0, le=1e4)] | None = None

    def __post_init__(self) -> None:
        d = self.d_screw
        if d is not None and all(abs(one.d - d) > 1e-9 for one in screw_sizes()):
            raise Rule(
                "d_screw",
                tr(
                    "there is no set screw M{d:g}; there are {screw_sizes}",
                    d=d,
                    screw_sizes=", ".join(tr("M{d:g}", d=one.d) for one in screw_sizes()),
                ),
            )
        if self.d_screw is not None and self.M_A is not None:
            most = screw_size(self.d_screw).M_test
            if most < self.M_A:
                raise ValueError(
                    tr(
                        "M_A = {M_A:g} N m is more than the {most:g} N m that a set screw M{d_screw:g} bears in "
                        "its test",
                        M_A=self.M_A,
                        most=most,
                        d_screw=self.d_screw,
                    )
                )


class EndLoad(Model, frozen=True, kw_only=True):
    """What acts on an end of a shaft from outside: a radial force, as of a belt or an overhung coupling, and the
    inertia of what turns with it."""

    F: Annotated[float, quantity("F_end", ge=0, le=1e8)] = 0.0
    phi: Annotated[float, quantity("phi_ax", ge=-360, le=360)] = 0.0
    J: Annotated[float, quantity("J_end", ge=0, le=1e6)] = 0.0


class ShaftData(Model, frozen=True, kw_only=True):
    """A shaft: its steel, bore, and what is fixed of its pieces, bearings and joints, by name."""

    steel: Annotated[str, about("steel of the shaft; null for that of all shafts")] | None = None
    d_i: Annotated[float, quantity("d_hollow", ge=0, le=1900)] = 0.0
    fixed: Annotated[Literal["bearing 1", "bearing 2"], about("bearing that bears the thrust")] | None = None
    paired: Annotated[
        Literal["face to face", "back to back"], about("how bearings with a contact angle stand to each other")
    ] = "face to face"
    pieces: Annotated[dict[str, PieceData], Meta(max_length=60)] = field(default_factory=dict)
    bearings: Annotated[dict[str, BearingData], Meta(max_length=6)] = field(default_factory=dict)
    joints: Annotated[dict[str, JointData], Meta(max_length=30)] = field(default_factory=dict)
    retention: Annotated[
        dict[str, Literal["sleeve", "retaining ring", "nut", "nothing"]],
        about("what keeps a hub or a bearing's inner ring on its outer side, by its piece", max_length=40),
    ] = field(default_factory=dict)
    ends: Annotated[dict[str, EndLoad], Meta(max_length=2)] = field(default_factory=dict)

    def __post_init__(self) -> None:
        steel = self.steel
        if steel is not None and steel not in shaft_steels():
            raise Rule(
                "steel",
                tr(
                    "steel {steel!r} is not known; known: {shaft_steels}",
                    steel=steel[:40],
                    shaft_steels=", ".join(shaft_steels()),
                ),
            )


class Machine(Model, frozen=True, kw_only=True):
    """Shafts, bearings, joints and housing of a train."""

    counted: Annotated[bool, about("whether the machine's checks count with those of the gears")] = True
    steel: Annotated[str, about("steel of all shafts that name none")] = "C45E+QT"
    swing: Annotated[
        Literal["steady", "pulsating", "alternating"],
        about("how the torque in shafts varies: steady, starting and stopping, or reversing"),
    ] = "pulsating"
    S_Dmin: Annotated[float, quantity("S_Dmin", ge=1, le=10)] = 1.5
    S_Ymin: Annotated[float, quantity("S_Ymin", ge=1, le=10)] = 1.5
    S_0min: Annotated[float, quantity("S_0min", gt=0, le=10)] = 1.5
    S_Jmin: Annotated[float, quantity("S_Jmin", ge=1, le=10)] = 1.3
    w_rel: Annotated[float, quantity("w_rel", gt=0, le=0.2)] = 0.01
    Rz: Annotated[float, quantity("Rz_sh", ge=0.4, le=200)] = 6.3
    R_e_key: Annotated[float, quantity("R_e_key", ge=50, le=2000)] = 300.0
    cleanliness: Annotated[str, about("cleanliness of the oil, for the life of bearings")] = "ISO 4406 -/17/14"
    reliability: Annotated[
        Literal["90", "95", "96", "97", "98", "99"], about("share of bearings that reach their life (%)")
    ] = "90"
    weight: Annotated[bool, about("whether shafts and gears weigh on their bearings, down in the end view")] = False
    c: Annotated[float, quantity("c_ax", gt=0, le=500)] | None = None
    wall: Annotated[float, quantity("s_wall", gt=0, le=200)] | None = None
    L_max: Annotated[float, quantity("L_box_max", gt=0, le=1e5)] | None = None
    W_max: Annotated[float, quantity("W_box_max", gt=0, le=1e5)] | None = None
    H_max: Annotated[float, quantity("H_box_max", gt=0, le=1e5)] | None = None
    angles: Annotated[dict[str, float], about("direction of a stage's line of centres; degrees", max_length=12)] = (
        field(default_factory=dict)
    )
    shafts: Annotated[dict[str, ShaftData], Meta(max_length=30)] = field(default_factory=dict)
    goes_first: (
        Annotated[str, about("part that shall fail first; null for none", max_length=120, pattern=NO_CONTROLS)] | None
    ) = None
    X_gomin: Annotated[float, quantity("X_gomin", ge=1, le=20)] = 1.25

    def __post_init__(self) -> None:
        if self.steel not in shaft_steels():
            raise ValueError(
                tr(
                    "steel {steel!r} is not known; known: {shaft_steels}",
                    steel=self.steel[:40],
                    shaft_steels=", ".join(shaft_steels()),
                )
            )
        if self.cleanliness not in CLEANLINESS:
            raise ValueError(
                tr(
                    "cleanliness {cleanliness!r} is not known; known: {cleanliness_2}",
                    cleanliness=self.cleanliness[:40],
                    cleanliness_2=", ".join(CLEANLINESS),
                )
            )

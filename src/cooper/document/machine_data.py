"""What a person has fixed of the machine around the gears; all else of it is proposed (`cooper.machine.propose_shaft`)."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from cooper.document.base import NO_CONTROLS, Model, quantity
from cooper.machine.rolling_life import CLEANLINESS
from cooper.stock.rolling import rolling_types, series_of
from cooper.stock.shaft_joints import screw_size, screw_sizes
from cooper.stock.shaft_steel import shaft_steels

Key = str
"""Identity of a gear, or ``carrier of`` one of a planet; a shaft is named by the first thing on it."""


class PieceData(Model):
    """A piece of a shaft; null is proposed. Where it is cut its parts are pieces of their own, named ``…, part 2`` and so on."""

    cuts: Annotated[tuple[Annotated[float, Field(gt=0, le=5000)], ...], Field(max_length=8)] = Field(
        (), description="where the piece is cut, from its left end; mm"
    )
    d: float | None = quantity("d_piece", None, gt=0.5, le=2000)
    length: float | None = quantity("l_piece", None, gt=0, le=5000)
    r: float | None = quantity("r_piece", None, gt=0, le=100)
    hole: float | None = quantity("d_hole", None, gt=0, le=500)
    undercut: Literal["E", "F", "E, stronger", "F, stronger"] | None = Field(
        None, description="undercut of DIN 509 at the foot of the piece, in place of its fillet"
    )


class BearingData(Model):
    """A bearing of a shaft; null is proposed. Beside the first two a shaft has those whose place ``at`` is given. Typed ratings, as from its maker, go before those from typical inner dimensions."""

    type: str | None = Field(None, description="type of the rolling bearing")
    series: str | None = Field(None, max_length=8, pattern=NO_CONTROLS, description="dimension series of ISO 15")
    C: float | None = quantity("C_r", None, gt=0, le=1e8)
    C_0: float | None = quantity("C_0r", None, gt=0, le=1e8)
    at: float | None = quantity("l_bearing", None, ge=-5000, le=5000)

    @model_validator(mode="after")
    def _known(self) -> BearingData:
        if self.type is not None and self.type not in rolling_types():
            raise ValueError(f"bearing {self.type!r} is not known; known: {', '.join(rolling_types())}")
        if self.series is not None and (self.type is None or self.series not in series_of(self.type)):
            there = ", ".join(series_of(self.type)) if self.type else "those of its type, which comes first"
            raise ValueError(f"series {self.series!r} does not exist; there are {there}")
        return self


class JointData(Model):
    """What joins a hub or a coupling to its shaft; null is proposed."""

    kind: Literal["key", "two keys", "spline", "press fit", "pin", "set screw", "two set screws", "integral"] | None = (
        Field(None, description="joint of hub and shaft; integral: cut into the shaft")
    )
    length: float | None = quantity("l_tr", None, gt=0, le=2000)
    d_pin: float | None = quantity("d_pin", None, gt=0.2, le=200)
    d_screw: float | None = quantity("d_screw", None, gt=0, le=100)
    M_A: float | None = quantity("M_A", None, gt=0, le=1e4)

    @field_validator("d_screw")
    @classmethod
    def _in_the_table(cls, d: float | None) -> float | None:
        if d is not None and all(abs(one.d - d) > 1e-9 for one in screw_sizes()):
            raise ValueError(
                f"there is no set screw M{d:g}; there are {', '.join(f'M{one.d:g}' for one in screw_sizes())}"
            )
        return d

    @model_validator(mode="after")
    def _bears_it(self) -> JointData:
        if self.d_screw is not None and self.M_A is not None:
            most = screw_size(self.d_screw).M_test
            if most < self.M_A:
                raise ValueError(
                    f"M_A = {self.M_A:g} N m is more than the {most:g} N m that a set screw M{self.d_screw:g} bears in its test"
                )
        return self


class EndLoad(Model):
    """What acts on an end of a shaft from outside: a radial force, as of a belt or an overhung coupling, and the inertia of what turns with it."""

    F: float = quantity("F_end", 0.0, ge=0, le=1e8)
    phi: float = quantity("phi_ax", 0.0, ge=-360, le=360)
    J: float = quantity("J_end", 0.0, ge=0, le=1e6)


class ShaftData(Model):
    """A shaft: its steel, bore, and what is fixed of its pieces, bearings and joints, by name."""

    steel: str | None = Field(None, description="steel of the shaft; null for that of all shafts")
    d_i: float = quantity("d_hollow", 0.0, ge=0, le=1900)
    fixed: Literal["bearing 1", "bearing 2"] | None = Field(None, description="bearing that bears the thrust")
    pieces: dict[str, PieceData] = Field({}, max_length=60)
    bearings: dict[str, BearingData] = Field({}, max_length=6)
    joints: dict[str, JointData] = Field({}, max_length=30)
    ends: dict[str, EndLoad] = Field({}, max_length=2)

    @field_validator("steel")
    @classmethod
    def _known(cls, steel: str | None) -> str | None:
        if steel is not None and steel not in shaft_steels():
            raise ValueError(f"steel {steel[:40]!r} is not known; known: {', '.join(shaft_steels())}")
        return steel


class Machine(Model):
    """Shafts, bearings, joints and housing of a train."""

    counted: bool = Field(True, description="whether the machine's checks count with those of the gears")
    steel: str = Field("C45E+QT", description="steel of all shafts that name none")
    swing: Literal["steady", "pulsating", "alternating"] = Field(
        "pulsating", description="how the torque in shafts swings: it stays, starts and stops, or changes its sense"
    )
    S_Dmin: float = quantity("S_Dmin", 1.5, ge=1, le=10)
    S_Ymin: float = quantity("S_Ymin", 1.5, ge=1, le=10)
    S_0min: float = quantity("S_0min", 1.5, gt=0, le=10)
    S_Jmin: float = quantity("S_Jmin", 1.3, ge=1, le=10)
    w_rel: float = quantity("w_rel", 0.01, gt=0, le=0.2)
    Rz: float = quantity("Rz_sh", 6.3, ge=0.4, le=200)
    R_e_key: float = quantity("R_e_key", 300.0, ge=50, le=2000)
    cleanliness: str = Field("ISO 4406 -/17/14", description="cleanliness of the oil, for the life of bearings")
    reliability: Literal["90", "95", "96", "97", "98", "99"] = Field(
        "90", description="share of bearings that reach their life (%)"
    )
    weight: bool = Field(False, description="whether shafts and gears weigh on their bearings, down in the end view")
    c: float | None = quantity("c_ax", None, gt=0, le=500)
    wall: float | None = quantity("s_wall", None, gt=0, le=200)
    L_max: float | None = quantity("L_box_max", None, gt=0, le=1e5)
    W_max: float | None = quantity("W_box_max", None, gt=0, le=1e5)
    H_max: float | None = quantity("H_box_max", None, gt=0, le=1e5)
    angles: dict[str, float] = Field({}, max_length=12, description="direction of a stage's line of centres; degrees")
    shafts: dict[str, ShaftData] = Field({}, max_length=30)
    goes_first: str | None = Field(None, max_length=120, description="part that shall give way first; null for none")
    X_gomin: float = quantity("X_gomin", 1.25, ge=1, le=20)

    @model_validator(mode="after")
    def _known(self) -> Machine:
        if self.steel not in shaft_steels():
            raise ValueError(f"steel {self.steel[:40]!r} is not known; known: {', '.join(shaft_steels())}")
        if self.cleanliness not in CLEANLINESS:
            raise ValueError(f"cleanliness {self.cleanliness[:40]!r} is not known; known: {', '.join(CLEANLINESS)}")
        return self

"""The design document: immutable models with unit, range and meaning for every quantity.

Units in the document are those of `cooper.document.units.KINDS`. A change makes a new document. Fields that this version
does not know are kept and written back.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, field_validator, model_validator

from cooper.document.base import NO_CONTROLS, Model, quantity
from cooper.document.duty import Defaults, Duty, Lubricant
from cooper.document.gear_data import Gear, Mesh
from cooper.document.machine_data import Machine
from cooper.document.question import Survey
from cooper.kinds.arranged import Arrangement
from cooper.kinds.kind import Kind
from cooper.kinds.known import ARRANGED, kind_of
from cooper.stock.bearings import bearing_types

FORMAT = "cooper-design"


VERSION = 2


MOST_NAMES = 200
"""Named values, and formulas, that a design holds at most."""


class StageOwn(Model):
    """What a stage states in place of the train's defaults; null takes the train's."""

    method: Literal["ISO 6336:2019", "ANSI/AGMA 2101-D04"] | None = Field(
        None, description="governing strength method of the stage"
    )
    S_Hmin: float | None = quantity("S_Hmin", None, gt=0, le=10)
    S_Fmin: float | None = quantity("S_Fmin", None, gt=0, le=10)
    S_Bmin: float | None = quantity("S_Bmin", None, gt=0, le=10)
    S_intmin: float | None = quantity("S_intmin", None, gt=0, le=10)
    eps_alpha_min: float | None = quantity("eps_alpha_min", None, ge=1, le=3)
    j_min: float | None = quantity("j_min", None, ge=0, le=50)
    theta_gears: float | None = quantity("theta_gears", None, ge=-60, le=200)
    L_h: float | None = quantity("L_h", None, gt=0, le=1e7)
    theta_oil: float | None = quantity("theta_oil", None, ge=-60, le=200)
    lubricant: Lubricant | None = Field(None, description="oil of the stage")


class Stage(Model):
    """A stage of the train: its members and their meshes. This version knows pairs, external and internal."""

    id: str = Field(
        "",
        max_length=40,
        pattern=r"^([A-Za-z][A-Za-z0-9_]*)?$",
        description="identity, by which formulas name it; given where it is empty",
    )
    name: str = Field("Stage 1", max_length=80, pattern=NO_CONTROLS, description="what the stage is called")
    kind: Literal["pair"] = Field("pair", description="arrangement of the stage")
    members: Annotated[tuple[Gear, ...], Field(min_length=2, max_length=2)]
    meshes: Annotated[tuple[Mesh, ...], Field(min_length=1, max_length=1)]
    own: StageOwn = StageOwn()

    @property
    def kinds(self) -> tuple[Kind, Kind]:
        """The kinds of the driving and the driven gear."""
        mesh = self.meshes[0]
        return kind_of(self.members[mesh.driver]), kind_of(self.members[mesh.driven])

    @property
    def kind_of_pair(self) -> Kind:
        """The kind of the pair, which is that of its driven gear."""
        return self.kinds[1]

    @model_validator(mode="after")
    def _pair(self) -> Stage:
        mesh = self.meshes[0]
        if {mesh.driver, mesh.driven} != {0, 1}:
            raise ValueError("the mesh must join member 0 and member 1")
        one, two = self.members[mesh.driver], self.members[mesh.driven]
        if not kind_of(one).drives:
            raise ValueError(
                f"z = {one.z} of {one.name}: a {kind_of(one).name} is the driven gear of a pair, an external wheel drives it"
            )
        fault = kind_of(two).pair_fault(one, two)
        if fault:
            raise ValueError(fault)
        free = [n for n, v in (("x_1", self.members[0].x), ("x_2", self.members[1].x), ("a_w", mesh.a_w)) if v is None]
        if len(free) != 1:
            raise ValueError(
                f"of x_1, x_2 and a_w two are given and one is null, to be solved; null here: {', '.join(free) or 'none'}"
            )
        return self


class Losses(Model):
    """How losses are counted, and what they need of housing, bearings and seals."""

    counted: Literal["mesh", "all"] = Field("mesh", description="losses in the efficiency: of the meshes alone, or all")
    method: Literal["ISO/TR 14179-1", "ISO/TR 14179-2"] = Field(
        "ISO/TR 14179-2", description="method of churning and seals"
    )
    friction: Literal["ISO/TR 14179-2", "ISO/TR 14179-1", "along the path"] = Field(
        "ISO/TR 14179-2", description="friction of the mesh: mean coefficient of either report, or local along the path"
    )
    bearing: str = Field("deep groove ball", description="type of the shafts' rolling bearings, two a shaft")
    tau_sh: float = quantity("tau_sh", 15.0, ge=1, le=200)
    seals: int = quantity("seals", 2, ge=0, le=4)
    seal: Literal["FKM", "NBR"] = Field("FKM", description="material of the rubbing seals at input and output")
    h_e: float = quantity("h_e", 0.0, ge=0, le=1e4)
    l_hyd: float = quantity("l_hyd", 200.0, gt=0, le=1e5)
    A_h: float | None = quantity("A_h", None, gt=0, le=1e4)
    k_h: float = quantity("k_h", 15.0, gt=0, le=500)
    theta_air: float = quantity("theta_air", 20.0, ge=-60, le=80)
    theta_max: float | None = quantity("theta_max", None, gt=-60, le=250)
    oil_by_balance: bool = Field(False, description="oil temperature from the heat balance in place of the duty's")

    @model_validator(mode="after")
    def _known(self) -> Losses:
        if self.bearing not in bearing_types():
            raise ValueError(f"bearing {self.bearing!r} is not known; known: {', '.join(bearing_types())}")
        if self.oil_by_balance and (self.A_h is None or self.counted != "all"):
            raise ValueError(
                "the oil temperature from the heat balance needs the housing's area A_h, and all losses counted"
            )
        if self.theta_max is not None and self.theta_max <= self.theta_air:
            raise ValueError(
                f"oil no hotter than theta_max = {self.theta_max:g} degrees C gives no heat to air of {self.theta_air:g} degrees C"
            )
        return self


class SetData(Model):
    """Meshes that work as one: neighbouring stages of the train whose gears share planets, or an idler.

    planetary: sun with planet, planet with ring. stepped: sun with planet, second gear of the planet with ring. two rings:
    planet with ring, second gear of the planet with ring 2, and where a sun stands between the planets a third stage, sun with
    planet; it is free, and bears the planets alone, unless it is driven, held or taken off. idler: first gear with idler, idler with last gear.
    """

    name: str = Field("Planet set", max_length=80, pattern=NO_CONTROLS, description="what the set is called")
    kind: str = Field(
        "planetary", description="arrangement", json_schema_extra=lambda schema: schema.update(enum=list(ARRANGED))
    )
    planets: int = quantity("n_planets", 3, ge=1, le=24)
    held: str | None = Field("ring", description="shaft that is held; null for an idler")
    input: str = Field("sun", description="shaft at which power comes in")
    output: str = Field("carrier", description="shaft at which power is taken")
    floating: bool = Field(True, description="a member floats between the planets, so that they share the load evenly")
    K_gamma: float | None = quantity("K_gamma", None, ge=1, le=5)
    k_pl: float | None = quantity("k_pl", None, gt=0, le=1e5)
    e_pl: float | None = quantity("e_pl", None, ge=0, le=5000)
    free_sun: bool = Field(
        False,
        description="two rings: a sun stands between the planets; free, and without torque, unless it is driven, held or taken off",
    )
    agree: Literal["shift", "module", "helix"] = Field(
        "shift", description="what makes the second mesh of stepped planets agree with the first one's centre distance"
    )

    @property
    def shares_by_stiffness(self) -> bool:
        """Whether K_gamma is found from the stiffness of the planets and how far one may stand ahead."""
        return self.planets > 1 and self.K_gamma is None and self.k_pl is not None and self.e_pl is not None

    @property
    def arranged(self) -> Arrangement:
        """What its members are and how they mesh."""
        return ARRANGED[self.kind]

    @property
    def sun_works(self) -> bool:
        """Whether the sun between the planets of two rings bears torque."""
        return self.free_sun and "sun" in (self.input, self.output, self.held)

    @field_validator("kind")
    @classmethod
    def _known(cls, kind: str) -> str:
        if kind not in ARRANGED:
            raise ValueError(f"{kind[:40]!r} is no arrangement of a set; there are {', '.join(ARRANGED)}")
        return kind

    @model_validator(mode="after")
    def _roles(self) -> Self:
        of = self.arranged
        shafts = of.shafts_of(self.free_sun)
        wanted = [self.input, self.output] + ([self.held] if of.around else [])
        for role in wanted:
            if role not in shafts:
                raise ValueError(f"{role!r} is no shaft of a set of kind {self.kind}: it has {', '.join(shafts)}")
        if len(set(wanted)) != len(wanted):
            told = ", ".join(str(w) for w in wanted)
            raise ValueError(f"input, output and held shaft must be three different ones; these are {told}")
        if not of.around and (self.planets != 1 or self.held is not None):
            raise ValueError("an idler is one gear between two others: planets is 1 and nothing is held")
        if self.free_sun and not of.sun_between:
            raise ValueError(f"a free sun supports the planets of two rings; this set is of kind {self.kind}")
        if self.agree != "shift" and of.one_gear:
            raise ValueError(
                f"the meshes of a set of kind {self.kind} share one gear, so that their centre distances agree by shift alone"
            )
        return self


class GearSet(SetData):
    """A set at its place in the train."""

    first: int = Field(0, ge=0, description="place of the set's first stage in the train; the second follows it")

    @property
    def stages(self) -> range:
        """Places of the set's stages in the train."""
        return range(self.first, self.first + (3 if self.free_sun else 2))


class Train(Model):
    """Duty, defaults and the stages in the order in which power flows."""

    duty: Duty
    defaults: Defaults = Defaults()
    losses: Losses = Losses()
    stages: Annotated[tuple[Stage, ...], Field(min_length=1, max_length=12)]
    sets: Annotated[tuple[GearSet, ...], Field(max_length=6)] = Field((), description="stages that work as one")
    machine: Machine | None = Field(
        None, description="what is fixed of shafts, bearings and housing; null where they are not counted"
    )

    @field_validator("sets")
    @classmethod
    def _in_order(cls, sets: tuple[GearSet, ...]) -> tuple[GearSet, ...]:
        """In the order of their stages, as the results have them."""
        return tuple(sorted(sets, key=lambda s: s.first))

    @model_validator(mode="after")
    def _identities(self) -> Train:
        """Every stage and gear has an identity of its own, kept from state to state; a gear in two meshes is one object."""
        if (stages := identified(self.stages, self.sets)) is not self.stages:
            self.__dict__["stages"] = stages
        return self

    @model_validator(mode="after")
    def _gives_off_heat(self) -> Train:
        plastics = self.defaults.plastics
        if (
            plastics.heat == "by friction"
            and plastics.running != "oil bath"
            and plastics.housing != "open"
            and self.losses.A_h is None
        ):
            raise ValueError(
                f"the warmth of plastic teeth in a {plastics.housing} housing needs its area A_h, which is not given"
            )
        return self

    @model_validator(mode="after")
    def _sets_fit(self) -> Train:
        taken: set[int] = set()
        for one in self.sets:
            told = " and ".join(str(k + 1) for k in one.stages)
            if one.stages[-1] >= len(self.stages):
                raise ValueError(f"{one.name}: its stages {told} are not all there")
            if taken & set(one.stages):
                raise ValueError(f"{one.name}: one of its stages {told} belongs to another set already")
            taken |= set(one.stages)
            fault = set_fault(one, tuple(self.stages[k] for k in one.stages))
            if fault:
                raise ValueError(f"{one.name}: {fault}")
        return self

    @model_validator(mode="after")
    def _turning(self) -> Train:
        for k, stage in enumerate(self.stages[:-1], 1):
            kind = stage.kind_of_pair
            if not kind.turns:
                raise ValueError(
                    f"stage {k} ends in a {kind.name}, which cannot turn the next stage: a {kind.name} comes last"
                )
        return self


def one_gear(one: GearSet) -> dict[tuple[int, int], tuple[int, int]]:
    """Places (stage, member) of a set whose gear is that of another place."""
    places = one.stages
    return {(places[n], i): (places[m], j) for (n, i), (m, j) in one.arranged.same.items() if n < len(places)}


def identified(stages: tuple[Stage, ...], sets: tuple[GearSet, ...]) -> tuple[Stage, ...]:
    """The stages with an identity each, and so their gears; what has one keeps it, of two with the same the first.

    The very same stages where nothing is to be done.
    """
    same = {place: other for one in sets for place, other in one_gear(one).items()}
    taken: set[str] = set()

    def name(wanted: str, word: str) -> str:
        if not wanted or wanted in taken:
            everything = taken | {s.id for s in stages} | {g.id for s in stages for g in s.members}
            wanted = next(f"{word}{n}" for n in range(1, 999) if f"{word}{n}" not in everything)
        taken.add(wanted)
        return wanted

    gears: dict[tuple[int, int], Gear] = {}
    found: list[Stage] = []
    for k, stage in enumerate(stages):
        for i, gear in enumerate(stage.members):
            twin = gears.get(same.get((k, i), (-1, -1)))
            if twin is not None and twin == gear.model_copy(update={"id": twin.id}):
                gears[k, i] = twin
            elif twin is not None:
                # What makes them two is told by `set_fault`.
                gears[k, i] = gear
            else:
                own = name(gear.id, "gear")
                gears[k, i] = gear if own == gear.id else gear.model_copy(update={"id": own})
        members = tuple(gears[k, i] for i in range(len(stage.members)))
        own = name(stage.id, "stage")
        kept = own == stage.id and all(a is b for a, b in zip(members, stage.members, strict=True))
        found.append(stage if kept else stage.model_copy(update={"id": own, "members": members}))
    return stages if all(a is b for a, b in zip(found, stages, strict=True)) else tuple(found)


SHARED_MESH = ("alpha_n", "beta", "m_n", "P_nd")
"""What both meshes of a gear that stands in them have in common."""


def set_fault(one: GearSet, stages: tuple[Stage, ...]) -> str:
    """What keeps stages from being such a set; empty when they are."""
    first, second = stages[:2]
    planet, again = first.members[1], second.members[0]
    if any((s.meshes[0].driver, s.meshes[0].driven) != (0, 1) for s in stages):
        return "in its stages member 0 drives member 1"
    for s in stages:
        if not s.kind_of_pair.turns:
            return f"a {s.kind_of_pair.name} is no member of a set"
    if one.free_sun:
        free, at_sun = stages[2].members
        if at_sun.model_copy(update={"id": first.members[0].id}) != first.members[0]:
            return "the gear of the planets that meets the free sun must be the one that meets the first ring"
        if kind_of(free).inward:
            return f"z = {free.z} of {free.name}: the free sun has external teeth"
    if one.arranged.one_gear and planet != again.model_copy(update={"id": planet.id}):
        for n in type(planet).model_fields:
            a, b = getattr(planet, n), getattr(again, n)
            if n != "id" and a != b:
                return f"the gear in both meshes must be one and the same; its {n} is {a} and {b}"
        return "the gear in both meshes must be one and the same; what this version does not know of it differs"
    if one.arranged.one_gear:
        for n in SHARED_MESH:
            a, b = (getattr(s.meshes[0], n) for s in (first, second))
            if a != b:
                return f"both meshes of one gear have one {n}; these have {a} and {b}"
    for (mesh, i), inward in one.arranged.inward.items():
        gear = stages[mesh].members[i]
        if kind_of(gear).inward != inward:
            return (
                f"z = {gear.z} of {gear.name}: a gear with {'internal' if inward else 'external'} teeth belongs there"
            )
    return ""


class Design(Model):
    """The whole document."""

    format: Literal["cooper-design"] = Field("cooper-design", description="says that this file is a Cooper design")
    version: Literal[2] = Field(2, description="version of the format")
    name: str = Field("Untitled train", max_length=120, pattern=NO_CONTROLS, description="name of the design")
    place: str = Field("", max_length=120, pattern=NO_CONTROLS, description="where the machine stands or is made")
    train: Train
    names: dict[str, str] = Field({}, max_length=MOST_NAMES, description="named values: name and number or formula")
    formulas: dict[str, str] = Field(
        {}, max_length=MOST_NAMES, description="formulas: full name of a quantity, as stage1.b_1, and its formula"
    )
    survey: Survey | None = Field(None, description="a survey that was made for this design, with what it found")


def at_stage(train: Train, k: int) -> tuple[Duty, Defaults]:
    """Duty and defaults that hold for stage k: the train's, with what the stage states of its own."""
    own = {n: v for n, v in train.stages[k].own if v is not None and n in StageOwn.model_fields}
    if not own:
        return train.duty, train.defaults
    duty = {n: v for n, v in own.items() if n in Duty.model_fields}
    return train.duty.model_copy(update=duty), train.defaults.model_copy(
        update={n: v for n, v in own.items() if n not in duty}
    )


def set_of(train: Train, k: int) -> GearSet | None:
    """The set that stage k belongs to."""
    return next((s for s in train.sets if k in s.stages), None)

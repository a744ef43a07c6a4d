"""The design document: immutable models with unit, range and meaning for every quantity.

Units in the document are those of `cooper.document.units.KINDS`. A change makes a new document. Fields that this
version does not know are kept and written back.
"""

from typing import Annotated, Any, Literal

from msgspec import Meta, field
from msgspec.structs import force_setattr

from cooper.document.base import NO_CONTROLS, Model, Rule, about, fields_of, quantity
from cooper.document.duty import Defaults, Duty, Lubricant
from cooper.document.gear_data import Gear, Mesh
from cooper.document.machine_data import Machine
from cooper.document.survey_spec import Survey
from cooper.i18n.text import tr
from cooper.kinds.arranged import Arrangement
from cooper.kinds.kind import Kind
from cooper.kinds.known import ARRANGED, kind_of
from cooper.stock.bearings import bearing_types

FORMAT = "cooper-design"


VERSION = 2


MOST_NAMES = 200
"""Named values, and formulas, that a design holds at most."""


class StageOverrides(Model, frozen=True, kw_only=True):
    """What a stage states in place of the train's defaults; null takes the train's."""

    method: (
        Annotated[Literal["ISO 6336:2019", "ANSI/AGMA 2101-D04"], about("governing strength method of the stage")]
        | None
    ) = None
    S_Hmin: Annotated[float, quantity("S_Hmin", gt=0, le=10)] | None = None
    S_Fmin: Annotated[float, quantity("S_Fmin", gt=0, le=10)] | None = None
    S_Bmin: Annotated[float, quantity("S_Bmin", gt=0, le=10)] | None = None
    S_intmin: Annotated[float, quantity("S_intmin", gt=0, le=10)] | None = None
    eps_alpha_min: Annotated[float, quantity("eps_alpha_min", ge=1, le=3)] | None = None
    j_min: Annotated[float, quantity("j_min", ge=0, le=50)] | None = None
    theta_gears: Annotated[float, quantity("theta_gears", ge=-60, le=200)] | None = None
    L_h: Annotated[float, quantity("L_h", gt=0, le=1e7)] | None = None
    theta_oil: Annotated[float, quantity("theta_oil", ge=-60, le=200)] | None = None
    lubricant: Annotated[Lubricant | None, about("oil of the stage")] = None

    @property
    def stated(self) -> dict[str, Any]:
        """What is stated, by name."""
        return {n: v for n in fields_of(StageOverrides) if (v := getattr(self, n)) is not None}


class Stage(Model, frozen=True, kw_only=True):
    """A stage of the train: its members and their meshes. This version knows pairs, external and internal."""

    id: Annotated[
        str,
        about(
            "identity, by which formulas name it; given where it is empty",
            max_length=40,
            pattern=r"^([A-Za-z][A-Za-z0-9_]*)?$(?!\n)",
        ),
    ] = ""
    name: Annotated[str, about("what the stage is called", max_length=80, pattern=NO_CONTROLS)] = "Stage 1"
    kind: Annotated[Literal["pair"], about("arrangement of the stage")] = "pair"
    members: Annotated[tuple[Gear, ...], Meta(min_length=2, max_length=2)]
    meshes: Annotated[tuple[Mesh, ...], Meta(min_length=1, max_length=1)]
    own: StageOverrides = StageOverrides()

    @property
    def kinds(self) -> tuple[Kind, Kind]:
        """The kinds of the driving and the driven gear."""
        mesh = self.meshes[0]
        return kind_of(self.members[mesh.driver]), kind_of(self.members[mesh.driven])

    @property
    def kind_of_pair(self) -> Kind:
        """The kind of the pair, which is that of its driven gear."""
        return self.kinds[1]

    def __post_init__(self) -> None:
        mesh = self.meshes[0]
        if {mesh.driver, mesh.driven} != {0, 1}:
            raise ValueError(tr("the mesh must join member 0 and member 1"))
        one, two = self.members[mesh.driver], self.members[mesh.driven]
        if not kind_of(one).drives:
            raise ValueError(
                tr(
                    "z = {z} of {name}: a {name_2} is the driven gear of a pair, an external wheel drives it",
                    z=one.z,
                    name=one.name,
                    name_2=kind_of(one).name,
                )
            )
        fault = kind_of(two).pair_fault(one, two)
        if fault:
            raise ValueError(fault)
        free = [n for n, v in (("x_1", self.members[0].x), ("x_2", self.members[1].x), ("a_w", mesh.a_w)) if v is None]
        if len(free) != 1:
            raise ValueError(
                tr(
                    "of x_1, x_2 and a_w two are given and one is null, to be solved; null here: {value}",
                    value=", ".join(free) or "none",
                )
            )


class Losses(Model, frozen=True, kw_only=True):
    """How losses are counted, and what they need of housing, bearings and seals."""

    counted: Annotated[Literal["mesh", "all"], about("losses in the efficiency: of the meshes alone, or all")] = "mesh"
    method: Annotated[Literal["ISO/TR 14179-1", "ISO/TR 14179-2"], about("method of churning and seals")] = (
        "ISO/TR 14179-2"
    )
    friction: Annotated[
        Literal["ISO/TR 14179-2", "ISO/TR 14179-1", "along the path"],
        about("friction of the mesh: mean coefficient of either report, or local along the path"),
    ] = "ISO/TR 14179-2"
    bearing: Annotated[str, about("type of the shafts' rolling bearings, two a shaft")] = "deep groove ball"
    tau_sh: Annotated[float, quantity("tau_sh", ge=1, le=200)] = 15.0
    seals: Annotated[int, quantity("seals", ge=0, le=4)] = 2
    seal: Annotated[Literal["FKM", "NBR"], about("material of the rubbing seals at input and output")] = "FKM"
    h_e: Annotated[float, quantity("h_e", ge=0, le=1e4)] = 0.0
    l_hyd: Annotated[float, quantity("l_hyd", gt=0, le=1e5)] = 200.0
    A_h: Annotated[float, quantity("A_h", gt=0, le=1e4)] | None = None
    k_h: Annotated[float, quantity("k_h", gt=0, le=500)] = 15.0
    theta_air: Annotated[float, quantity("theta_air", ge=-60, le=80)] = 20.0
    theta_max: Annotated[float, quantity("theta_max", gt=-60, le=250)] | None = None
    oil_by_balance: Annotated[bool, about("oil temperature from the heat balance in place of the duty's")] = False

    def __post_init__(self) -> None:
        if self.bearing not in bearing_types():
            raise ValueError(
                tr(
                    "bearing {bearing!r} is not known; known: {bearing_types}",
                    bearing=self.bearing,
                    bearing_types=", ".join(bearing_types()),
                )
            )
        if self.oil_by_balance and (self.A_h is None or self.counted != "all"):
            raise ValueError(
                tr("the oil temperature from the heat balance needs the housing's area A_h, and all losses counted")
            )
        if self.theta_max is not None and self.theta_max <= self.theta_air:
            raise ValueError(
                tr(
                    "oil no hotter than theta_max = {theta_max:g} degrees C gives no heat to air of "
                    "{theta_air:g} degrees C",
                    theta_max=self.theta_max,
                    theta_air=self.theta_air,
                )
            )


class SetData(Model, frozen=True, kw_only=True):
    """Meshes that work as one: neighbouring stages of the train whose gears share planets, or an idler.

    planetary: sun with planet, planet with ring. stepped: sun with planet, second gear of the planet with ring. two
    rings: planet with ring, second gear of the planet with ring 2, and where a sun stands between the planets a third
    stage, sun with planet; it is free, and bears the planets alone, unless it is driven, held or taken off. idler:
    first gear with idler, idler with last gear.
    """

    name: Annotated[str, about("what the set is called", max_length=80, pattern=NO_CONTROLS)] = "Planet set"
    kind: Annotated[str, about("arrangement", extra_json_schema={"enum": list(ARRANGED)})] = "planetary"
    planets: Annotated[int, quantity("n_planets", ge=1, le=24)] = 3
    held: Annotated[str, about("shaft that is held; null for an idler")] | None = "ring"
    input: Annotated[str, about("shaft at which power comes in")] = "sun"
    output: Annotated[str, about("shaft at which power is taken")] = "carrier"
    floating: Annotated[bool, about("a member floats between the planets, so that they share the load evenly")] = True
    K_gamma: Annotated[float, quantity("K_gamma", ge=1, le=5)] | None = None
    k_pl: Annotated[float, quantity("k_pl", gt=0, le=1e5)] | None = None
    e_pl: Annotated[float, quantity("e_pl", ge=0, le=5000)] | None = None
    free_sun: Annotated[
        bool,
        about(
            "two rings: a sun stands between the planets; free, and without torque, unless it is driven, held or "
            "taken off"
        ),
    ] = False
    agree: Annotated[
        Literal["shift", "module", "helix"],
        about("what makes the second mesh of stepped planets agree with the first one's centre distance"),
    ] = "shift"

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

    def __post_init__(self) -> None:
        if self.kind not in ARRANGED:
            raise Rule(
                "kind",
                tr(
                    "{kind!r} is no arrangement of a set; there are {arranged}",
                    kind=self.kind[:40],
                    arranged=", ".join(ARRANGED),
                ),
            )
        of = self.arranged
        shafts = of.shafts_of(self.free_sun)
        wanted = [self.input, self.output] + ([self.held] if of.around else [])
        for role in wanted:
            if role not in shafts:
                raise ValueError(
                    tr(
                        "{role!r} is no shaft of a set of kind {kind}: it has {shafts}",
                        role=role,
                        kind=self.kind,
                        shafts=", ".join(shafts),
                    )
                )
        if len(set(wanted)) != len(wanted):
            text = ", ".join(str(w) for w in wanted)
            raise ValueError(
                tr("input, output and held shaft must be three different ones; these are {told}", told=text)
            )
        if not of.around and (self.planets != 1 or self.held is not None):
            raise ValueError(tr("an idler is one gear between two others: planets is 1 and nothing is held"))
        if self.free_sun and not of.sun_between:
            raise ValueError(
                tr("a free sun supports the planets of two rings; this set is of kind {kind}", kind=self.kind)
            )
        if self.agree != "shift" and of.one_gear:
            raise ValueError(
                tr(
                    "the meshes of a set of kind {kind} share one gear, so that their centre distances agree by "
                    "shift alone",
                    kind=self.kind,
                )
            )


class GearSet(SetData, frozen=True, kw_only=True):
    """A set at its place in the train."""

    first: Annotated[int, about("place of the set's first stage in the train; the second follows it", ge=0)] = 0

    @property
    def stages(self) -> range:
        """Places of the set's stages in the train."""
        return range(self.first, self.first + (3 if self.free_sun else 2))


class Train(Model, frozen=True, kw_only=True):
    """Duty, defaults and the stages in the order in which power flows."""

    duty: Duty
    defaults: Defaults = Defaults()
    losses: Losses = Losses()
    stages: Annotated[tuple[Stage, ...], Meta(min_length=1, max_length=12)]
    sets: Annotated[tuple[GearSet, ...], about("stages that work as one", max_length=6)] = ()
    machine: (
        Annotated[Machine, about("what is fixed of shafts, bearings and housing; null where they are not counted")]
        | None
    ) = None

    def __post_init__(self) -> None:
        """Sets stand in the order of their stages, as the results have them; every stage and gear has an identity of
        its own, kept from state to state; a gear in two meshes is one object."""
        force_setattr(self, "sets", tuple(sorted(self.sets, key=lambda s: s.first)))
        if (stages := identified(self.stages, self.sets)) is not self.stages:
            force_setattr(self, "stages", stages)
        self._gives_off_heat()
        self._sets_fit()
        self._turning()

    def _gives_off_heat(self) -> None:
        plastics = self.defaults.plastics
        if (
            plastics.heat == "by friction"
            and plastics.running != "oil bath"
            and plastics.housing != "open"
            and self.losses.A_h is None
        ):
            raise ValueError(
                tr(
                    "the warmth of plastic teeth in a {housing} housing needs its area A_h, which is not given",
                    housing=plastics.housing,
                )
            )

    def _sets_fit(self) -> None:
        taken: set[int] = set()
        for one in self.sets:
            text = " and ".join(str(k + 1) for k in one.stages)
            if one.stages[-1] >= len(self.stages):
                raise ValueError(tr("{name}: its stages {told} are not all there", name=one.name, told=text))
            if taken & set(one.stages):
                raise ValueError(
                    tr("{name}: one of its stages {told} belongs to another set already", name=one.name, told=text)
                )
            taken |= set(one.stages)
            fault = set_fault(one, tuple(self.stages[k] for k in one.stages))
            if fault:
                raise ValueError(tr("{name}: {fault}", name=one.name, fault=fault))

    def _turning(self) -> None:
        for k, stage in enumerate(self.stages[:-1], 1):
            kind = stage.kind_of_pair
            if not kind.turns:
                raise ValueError(
                    tr(
                        "stage {k} ends in a {name}, which cannot turn the next stage: a {name} comes last",
                        k=k,
                        name=kind.name,
                    )
                )


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
    result: list[Stage] = []
    for k, stage in enumerate(stages):
        for i, gear in enumerate(stage.members):
            twin = gears.get(same.get((k, i), (-1, -1)))
            if twin is not None and twin == gear.replace_unchecked(id=twin.id):
                gears[k, i] = twin
            elif twin is not None:
                # What makes them two is told by `set_fault`.
                gears[k, i] = gear
            else:
                own = name(gear.id, "gear")
                gears[k, i] = gear if own == gear.id else gear.replace_unchecked(id=own)
        members = tuple(gears[k, i] for i in range(len(stage.members)))
        own = name(stage.id, "stage")
        kept = own == stage.id and all(a is b for a, b in zip(members, stage.members, strict=True))
        result.append(stage if kept else stage.replace_unchecked(id=own, members=members))
    return stages if all(a is b for a, b in zip(result, stages, strict=True)) else tuple(result)


SHARED_MESH = ("alpha_n", "beta", "m_n", "P_nd")
"""What both meshes of a gear that stands in them have in common."""


def set_fault(one: GearSet, stages: tuple[Stage, ...]) -> str:
    """What keeps stages from being such a set; empty when they are."""
    first, second = stages[:2]
    planet, again = first.members[1], second.members[0]
    if any((s.meshes[0].driver, s.meshes[0].driven) != (0, 1) for s in stages):
        return tr("in its stages member 0 drives member 1")
    for s in stages:
        if not s.kind_of_pair.turns:
            return tr("a {name} is no member of a set", name=s.kind_of_pair.name)
    if one.free_sun:
        free, at_sun = stages[2].members
        if at_sun.replace_unchecked(id=first.members[0].id) != first.members[0]:
            return tr("the gear of the planets that meets the free sun must be the one that meets the first ring")
        if kind_of(free).inward:
            return tr("z = {z} of {name}: the free sun has external teeth", z=free.z, name=free.name)
    if one.arranged.one_gear and planet != again.replace_unchecked(id=planet.id):
        for n in fields_of(Gear):
            a, b = getattr(planet, n), getattr(again, n)
            if n != "id" and a != b:
                return tr("the gear in both meshes must be one and the same; its {n} is {a} and {b}", n=n, a=a, b=b)
        return tr("the gear in both meshes must be one and the same; what this version does not know of it differs")
    if one.arranged.one_gear:
        for n in SHARED_MESH:
            a, b = (getattr(s.meshes[0], n) for s in (first, second))
            if a != b:
                return tr("both meshes of one gear have one {n}; these have {a} and {b}", n=n, a=a, b=b)
    for (mesh, i), inward in one.arranged.inward.items():
        gear = stages[mesh].members[i]
        if kind_of(gear).inward != inward:
            return tr(
                "z = {z} of {name}: a gear with {inward} teeth belongs there",
                z=gear.z,
                name=gear.name,
                inward="internal" if inward else "external",
            )
    return ""


class Design(Model, frozen=True, kw_only=True):
    """The whole document."""

    format: Annotated[Literal["cooper-design"], about("says that this file is a Cooper design")] = "cooper-design"
    version: Annotated[Literal[2], about("version of the format")] = 2
    name: Annotated[str, about("name of the design", max_length=120, pattern=NO_CONTROLS)] = "Untitled train"
    place: Annotated[str, about("where the machine stands or is made", max_length=120, pattern=NO_CONTROLS)] = ""
    train: Train
    names: Annotated[dict[str, str], about("named values: name and number or formula", max_length=MOST_NAMES)] = field(
        default_factory=dict
    )
    formulas: Annotated[
        dict[str, str],
        about("formulas: full name of a quantity, as stage1.b_1, and its formula", max_length=MOST_NAMES),
    ] = field(default_factory=dict)
    survey: Annotated[Survey, about("a survey that was made for this design, with what it found")] | None = None


def at_stage(train: Train, k: int) -> tuple[Duty, Defaults]:
    """Duty and defaults that hold for stage k: the train's, with what the stage states of its own."""
    own = train.stages[k].own.stated
    if not own:
        return train.duty, train.defaults
    duty = {n: v for n, v in own.items() if n in fields_of(Duty)}
    return train.duty.replace_unchecked(**duty), train.defaults.replace_unchecked(
        **{n: v for n, v in own.items() if n not in duty}
    )


def set_of(train: Train, k: int) -> GearSet | None:
    """The set that stage k belongs to."""
    return next((s for s in train.sets if k in s.stages), None)

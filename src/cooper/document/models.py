"""The design document: immutable models with unit, range and meaning for every quantity.

Units in the document are those of `cooper.document.units.KINDS`. A change makes a new document. Fields that this
version does not know are kept and written back.
"""

from functools import cached_property
from typing import Annotated, Literal

from msgspec import field, msgpack
from msgspec.structs import force_setattr

from cooper.document.base import NO_CONTROLS, Model, Rule, about, fields_of, quantity
from cooper.document.duty import Defaults, Duty
from cooper.document.gear_data import Gear, Mesh
from cooper.document.machine_data import Machine
from cooper.document.sets import GearSet, SetData
from cooper.document.survey_spec import Survey
from cooper.document.walk import Broken, Shaft, Stage, Walk, walk
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of
from cooper.stock.bearings import bearing_types

FORMAT = "cooper-design"


VERSION = 3


MOST_NAMES = 200
"""Named values, and formulas, that a design holds at most."""


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


class Train(Model, frozen=True, kw_only=True, dict=True):
    """Duty, defaults and the train as a graph: gears, the meshes between them, the shafts that they are on, sets of
    meshes that work as one, and the shaft at which power comes in. Everything stands under its identity."""

    duty: Duty
    defaults: Defaults = Defaults()
    losses: Losses = Losses()
    gears: Annotated[dict[str, Gear], about("every gear once, by identity", min_length=2, max_length=24)]
    meshes: Annotated[dict[str, Mesh], about("every mesh, by identity", min_length=1, max_length=12)]
    shafts: Annotated[dict[str, Shaft], about("shafts and carriers, by identity", min_length=1, max_length=30)]
    sets: Annotated[dict[str, SetData], about("meshes that work as one, by identity", max_length=6)] = field(
        default_factory=dict
    )
    input: Annotated[str, about("identity of the shaft at which power comes in", max_length=60)] = ""
    machine: (
        Annotated[Machine, about("what is fixed of shafts, bearings and housing; null where they are not counted")]
        | None
    ) = None

    def __post_init__(self) -> None:
        """Every part knows the identity that it stands under; the parts hang together, and every gear can be what it
        is there."""
        for name in ("gears", "meshes", "sets"):
            parts = getattr(self, name)
            if any(part.id != key for key, part in parts.items()):
                named = {k: part if part.id == k else part.replace_unchecked(id=k) for k, part in parts.items()}
                force_setattr(self, name, named)
        self._gives_off_heat()
        try:
            found = self.walk
        except Broken as fault:
            raise Rule(fault.place, str(fault)) from None
        for k, stage in enumerate(found.stages):
            if words := stage.fault():
                raise Rule(f"meshes.{stage.id}", words)
            if not stage.kind_of_pair.turns and k < len(found.stages) - 1:
                name = stage.kind_of_pair.name
                raise ValueError(
                    tr(
                        "stage {k} ends in a {name}, which cannot turn the next stage: a {name} comes last",
                        k=k + 1,
                        name=name,
                    )
                )
        for one in found.sets:
            if words := set_fault(one, tuple(found.stages[k] for k in one.stages)):
                raise ValueError(tr("{name}: {fault}", name=one.name, fault=words))

    @cached_property
    def key(self) -> bytes:
        """All that it holds, as what is found of it is kept by."""
        # A text of the program is a str with more to it.
        return msgpack.encode(self, enc_hook=str)

    @cached_property
    def walk(self) -> Walk:
        """The way of the power, found once."""
        return walk(self.gears, self.meshes, self.sets, self.shafts, self.input)

    @property
    def stages(self) -> tuple[Stage, ...]:
        """The meshes with their gears, in the order in which power comes to them."""
        return self.walk.stages

    @property
    def placed(self) -> tuple[GearSet, ...]:
        """The sets, each with the number of its first stage, in their order on the walk."""
        return self.walk.sets

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


SHARED_MESH = ("alpha_n", "beta", "m_n", "P_nd")
"""What both meshes of a gear that stands in them have in common."""


def set_fault(one: GearSet, stages: tuple[Stage, ...]) -> str:
    """What keeps stages from being such a set; empty when they are."""
    of = one.arranged
    for s in stages:
        if not s.kind_of_pair.turns:
            return tr("a {name} is no member of a set", name=s.kind_of_pair.name)
    ids = [(s.mesh.driver, s.mesh.driven) for s in stages]
    for (n, i), (m, j) in of.same.items():
        if n < len(stages) and ids[n][i] != ids[m][j]:
            return tr(
                "one gear must stand in meshes {one} and {two}; these are {a} and {b}",
                one=stages[m].id,
                two=stages[n].id,
                a=ids[m][j],
                b=ids[n][i],
            )
    if one.free_sun and kind_of(stages[2].gears[0]).inward:
        sun = stages[2].gears[0]
        return tr("z = {z} of {name}: the free sun has external teeth", z=sun.z, name=sun.name)
    if of.one_gear:
        for name in SHARED_MESH:
            a, b = (getattr(s.mesh, name) for s in stages[:2])
            if a != b:
                return tr("both meshes of one gear have one {n}; these have {a} and {b}", n=name, a=a, b=b)
    for (mesh, i), inward in of.inward.items():
        gear = stages[mesh].gears[i]
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
    version: Annotated[Literal[3], about("version of the format")] = 3
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

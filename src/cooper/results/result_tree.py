"""What `evaluate` returns: values by ISO symbol, checks with verdicts, notes. Units are those of the document."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cached_property
from math import cos, degrees, radians, sin
from typing import Any

from msgspec import Struct, field
from msgspec.structs import asdict, replace

from cooper.document.units import KINDS
from cooper.document.walk import Group
from cooper.errors import OutOfRange
from cooper.gears.phase import MeshPlacement
from cooper.gears.root import RootForm
from cooper.gears.tooth import Tooth
from cooper.i18n.text import plain_values
from cooper.kinds.arranged import Arrangement
from cooper.kinds.external_wheel import EXTERNAL
from cooper.kinds.kind import Kind
from cooper.kinds.known import ARRANGED
from cooper.kinds.section import Section
from cooper.machine.face_load import FaceLoad
from cooper.results.check_types import Check, Verdict, verdict_of
from cooper.results.machine_result import MachineResult
from cooper.results.machine_tree import machine_tree
from cooper.results.messages import Note
from cooper.values import GearValues, MeshValues, PowerValues, SetValues, TrainValues

WORST_FIRST: tuple[Verdict, ...] = ("short", "thin", "holds")


def one_group(stages: int) -> tuple[Group, ...]:
    """What is nothing else than one pair or set."""
    return (Group(tuple(range(stages)), "in", "out"),)


class StageResults(Struct, frozen=True, dict=True):
    """Values of one stage by symbol; ``teeth`` and ``forms`` are the geometry for drawing, in mm and rad.

    ``methods`` tells how the load factors K_V, K_Hbeta and K_Halpha were found: "B", "C" or "entered". ``roles`` is
    what the gears are called in a set, None outside.
    """

    name: str
    mesh: MeshValues[float]
    gears: tuple[GearValues[float], GearValues[float]]
    power: PowerValues
    solved: frozenset[str]
    teeth: tuple[Tooth, Tooth]
    forms: tuple[RootForm, RootForm]
    methods: dict[str, str] = field(default_factory=dict)
    roles: tuple[str, str] | None = None
    kinds: tuple[Kind, Kind] = (EXTERNAL, EXTERNAL)
    rated: bool = True
    """False where no method rates the strength: a free sun, which bears no torque, or helical teeth with eps_alpha
    below 1."""

    def with_mesh(self, **more: float) -> StageResults:
        """The same results with other values of the mesh."""
        return replace(self, mesh=self.mesh.replace_unchecked(**more))

    @property
    def kind(self) -> Kind:
        """The kind of the pair, which is that of its driven gear."""
        return self.kinds[1]

    @cached_property
    def sections(self) -> tuple[Section, Section]:
        """Both gears in transverse section."""
        one, two = (
            k.section(t, f, g) for k, t, f, g in zip(self.kinds, self.teeth, self.forms, self.gears, strict=True)
        )
        return one, two

    def stand(self, roll: float, side: float) -> MeshPlacement:
        """How the gears stand in mesh at the driving gear's roll (rad); ``side`` as in `gears.phase.mesh_placement`."""
        return self.kind.stand(self.teeth, self.mesh.j_wt, self.mesh.a_w, roll, side)

    def motions(self, roll: float, side: float) -> tuple[float, float]:
        """The motions of both sections at that stand."""
        stand = self.stand(roll, side)
        return float(stand.phi_1), self.kind.motion(self.sections[1], stand)

    @property
    def pinion(self) -> int:
        """Number of the gear (1, 2) that is the pinion: the one with fewer teeth, whoever drives."""
        (z_1, x_1), (z_2, x_2) = ((abs(float(t.z)), float(t.x)) for t in self.teeth)
        return 1 if (z_1, -x_1) <= (z_2, -x_2) else 2

    @property
    def T2(self) -> float:
        """Distance of the wheel's base tangent point from the pinion's on the line of action; mm, negative inside."""
        return float(self.mesh.g_C * (1 + self.ratio))

    @property
    def ratio(self) -> float:
        """Tooth count ratio with its sign, of a rack the great one that stands for it."""
        return float(self.teeth[1].z / self.teeth[0].z)

    @property
    def wheel_x(self) -> float:
        """Place of the wheel's centre or datum line on the drawing, on which the mesh stays on +x; mm."""
        return self.kind.place(self.mesh.a_w)

    @property
    def extent(self) -> tuple[float, float, float]:
        """Least and greatest x of the gears on the drawing and their greatest height above the axes; mm."""
        return self.kind.extent(self.gears, self.kinds[0].outside(self.gears[0]) / 2, self.mesh.a_w)

    def action_point(self, g: float, side: int) -> tuple[float, float]:
        """Place on the drawing of the point g (mm from the pinion's base tangent point) of the line of action.

        ``side`` +1 for a pinion driving counter-clockwise, -1 for clockwise; pinion at the origin, wheel on +x.
        """
        alpha, r_b = radians(self.mesh.alpha_wt), self.gears[0].d_b / 2
        return r_b * cos(alpha) + g * sin(alpha), side * (g * cos(alpha) - r_b * sin(alpha))


class SetResults(Struct, frozen=True):
    """One set of the train. ``shafts`` has speed n (1/min, signed), torque T (N m, what acts from outside, signed)
    and power P (W) by name; ``speeds`` those of all members over the input's; ``angles`` where the planets stand (rad);
    ``sides`` by mesh whether the driving gear pushes counter-clockwise (+1) or clockwise (-1) when the input turns
    counter-clockwise."""

    name: str
    kind: str
    first: int
    planets: int
    held: str | None
    input: str
    output: str
    values: SetValues
    shafts: dict[str, dict[str, float]]
    speeds: dict[str, float]
    angles: tuple[float, ...]
    even: bool
    friction: tuple[float, float]
    sides: tuple[int, ...]
    stages: range
    second: str | None = None
    """The third shaft where power goes out there too; it is not held then."""

    @property
    def arranged(self) -> Arrangement:
        """What its members are and how they mesh."""
        return ARRANGED[self.kind]


class Output(Struct, frozen=True):
    """Power that is taken off at a shaft: its name, power (W), the ratio to it, its speed (1/min) and torque (N m);
    what moves along a line has no ratio, speed and torque."""

    shaft: str
    name: str
    P: float
    u: float = 0.0
    n: float = 0.0
    T: float = 0.0


class Results(Struct, frozen=True, dict=True):
    """The whole of it; ``train`` values by symbol with suffixes ``_in`` and ``_out``."""

    name: str
    train: TrainValues
    stages: tuple[StageResults, ...]
    checks: tuple[Check, ...]
    notes: tuple[Note, ...]
    sets: tuple[SetResults, ...] = ()
    machine: MachineResult | None = None
    """Shafts, bearings and housing, where they are counted."""
    faces: dict[int, FaceLoad] = field(default_factory=dict)
    """The load along the face of stages whose K_Hbeta comes from the shafts."""
    no_machine: OutOfRange | None = None
    """Why the machine that is to count could not be worked out."""
    groups: tuple[Group, ...] = ()
    """Pairs and sets in the order in which power comes to them."""
    outputs: tuple[Output, ...] = ()
    """Where power is taken off, the main output first; ``train`` has the torque and speed of that one."""

    def way_before(self, stage: int) -> tuple[Group, ...]:
        """The groups through which power comes to the group of a stage."""
        now, way = next(g for g in self.groups if stage in g.stages), []
        while (before := next((g for g in self.groups if now.comes_in in g.ends), None)) is not None:
            way.append(before)
            now = before
        return tuple(reversed(way))

    @cached_property
    def within(self) -> tuple[SetResults | None, ...]:
        """The set that each stage belongs to."""
        return tuple(next((s for s in self.sets if k in s.stages), None) for k in range(len(self.stages)))

    def part(self, one: SetResults) -> Results:
        """The results of one set alone, as of a train that is nothing else; checks and notes are left out."""
        stages = tuple(s for k, s in enumerate(self.stages) if self.within[k] is one)
        alone = (replace(one, first=0, stages=range(len(stages))),)
        return Results(one.name, TrainValues(), stages, (), (), alone, groups=one_group(len(stages)))

    def alone(self, stage: int) -> Results:
        """The results of one stage, or of the whole set it belongs to, as of a train that is nothing else."""
        one = self.within[stage]
        return (
            self.part(one)
            if one is not None
            else Results(self.stages[stage].name, TrainValues(), (self.stages[stage],), (), (), groups=one_group(1))
        )

    def side_of(self, stage: int) -> int:
        """Whether the driving gear of a stage pushes counter-clockwise (+1) or clockwise (-1) when the train's input
        turns counter-clockwise: every external mesh reverses the sense, a set as its ratio says."""
        side = 1
        for group in self.way_before(stage):
            one = self.within[group.stages[0]]
            inward = self.stages[group.stages[0]].kind.inward
            side *= 1 if (inward if one is None else one.values.u > 0) else -1
        own = self.within[stage]
        return side if own is None else side * own.sides[stage - own.first]

    @property
    def verdict(self) -> Verdict:
        """The worst of all checks and of the warnings that count."""
        result: set[str] = {verdict_of(min(c.margin for c in self.checks)), *(n.counts for n in self.notes)}
        return next(v for v in WORST_FIRST if v in result)

    @property
    def worst(self) -> Check:
        """The worst check of the whole train."""
        return min(self.checks, key=lambda c: c.margin)

    def warnings(self, stages: Iterable[int] | None = None) -> tuple[Note, ...]:
        """The notes that are shown without being asked for, those that count first; of some stages and the train, or
        all."""
        if stages is None:
            return self._prominent
        wanted = {*stages, None}
        return tuple(n for n in self._prominent if n.stage in wanted)

    @cached_property
    def _prominent(self) -> tuple[Note, ...]:
        return tuple(
            sorted((n for n in self.notes if n.prominent), key=lambda n: ("short", "thin", "").index(n.counts))
        )

    def checks_of(self, stage: int) -> list[Check]:
        """The checks that concern a stage, and those of the train, worst first."""
        return sorted((c for c in self.checks if c.stage in (stage, None)), key=lambda c: c.margin)

    def check(self, key: str) -> Check | None:
        return self._by_key.get(key)

    @cached_property
    def _by_key(self) -> dict[str, Check]:
        return {c.key: c for c in reversed(self.checks)}

    def as_tree(self) -> dict[str, Any]:
        """Plain nested data with ISO symbols as keys, as printed by ``cooper check --json``."""
        # What stands beside the results reads them.
        from cooper.results.comparison_notes import all_notes

        machine = {} if self.machine is None else {"machine": machine_tree(self.machine)}
        return {
            "format": "cooper-results",
            "version": 1,
            "units": {k.name: k.document for k in KINDS.values()},
            "design": self.name,
            "verdict": self.verdict,
            "train": dict(self.train),
            "stages": [
                {
                    "name": s.name,
                    "solved": sorted(s.solved),
                    "methods": s.methods,
                    "power": dict(s.power),
                    "mesh": dict(s.mesh),
                    "gears": [dict(g) for g in s.gears],
                }
                for s in self.stages
            ],
            "sets": [
                {
                    "name": s.name,
                    "kind": s.kind,
                    "stages": [k + 1 for k in s.stages],
                    "planets": s.planets,
                    "held": s.held,
                    "input": s.input,
                    "output": s.output,
                    **({} if s.second is None else {"second_output": s.second}),
                    "values": dict(s.values),
                    "shafts": s.shafts,
                    "evenly_spaced": s.even,
                    "angles": [degrees(a) for a in s.angles],
                    "eta_friction_70_130": list(s.friction),
                }
                for s in self.sets
            ],
            "checks": [
                {
                    "check": c.key,
                    "key": c.type,
                    "symbol": c.symbol,
                    "gear": c.index,
                    "stage": None if c.stage is None else c.stage + 1,
                    "label": c.label,
                    "value": c.value,
                    "limit": c.limit,
                    "sense": c.sense,
                    "margin": c.margin,
                    "verdict": c.verdict,
                    "means": c.means,
                    **({"part": c.part} if c.part else {}),
                }
                for c in self.checks
            ],
            "notes": [
                {
                    "level": n.level,
                    "stage": None if n.stage is None else n.stage + 1,
                    "key": n.key,
                    "text": n.text,
                    "values": plain_values(n.text),
                    "counts": n.counts or None,
                }
                for n in all_notes(self)
            ],
            **({} if len(self.outputs) < 2 else {"outputs": [asdict(one) for one in self.outputs]}),
            **machine,
        }

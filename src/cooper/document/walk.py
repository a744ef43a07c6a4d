"""The train as a graph, and the one walk through it from where power comes in."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from typing import Annotated

from msgspec import Struct, StructMeta
from msgspec.structs import astuple, replace

from cooper.document.base import Model, about, quantity
from cooper.document.duty import StageOverrides
from cooper.document.gear_data import Gear, Mesh
from cooper.document.sets import GearSet, SetData
from cooper.i18n.text import tr
from cooper.kinds.kind import Kind
from cooper.kinds.known import kind_of


class Shaft(Model, frozen=True, kw_only=True):
    """What turns as one: the gears that are fast on it, and those that turn on pins which it carries."""

    gears: Annotated[tuple[str, ...], about("identities of the gears that are fast on it")] = ()
    carries: Annotated[tuple[str, ...], about("identities of the planets' gears, whose pins it carries")] = ()
    takes: Annotated[float, quantity("P_share", gt=0, le=1)] | None = None
    """Share of its power that is taken off here, where more goes on from it."""


class Stage(Struct, frozen=True):
    """A mesh with its gears, the driving one first, the set that it belongs to, and how many others each gear drives
    outside of sets, which load its teeth once a turn each."""

    gears: tuple[Gear, Gear]
    mesh: Mesh
    within: GearSet | None = None
    drives: tuple[int, int] = (1, 1)

    @property
    def id(self) -> str:
        return self.mesh.id

    @property
    def name(self) -> str:
        return self.mesh.name

    @property
    def own(self) -> StageOverrides:
        return self.mesh.own

    @property
    def n(self) -> int:
        """Number of its mesh within the set; 0 of a stage of its own."""
        return 0 if self.within is None else self.within.meshes.index(self.mesh.id)

    @property
    def path(self) -> str:
        """Path of its mesh in the document."""
        return f"train.meshes.{self.mesh.id}"

    @property
    def paths(self) -> tuple[str, str]:
        """Paths of its gears in the document."""
        return f"train.gears.{self.mesh.driver}", f"train.gears.{self.mesh.driven}"

    @property
    def kinds(self) -> tuple[Kind, Kind]:
        """The kinds of the driving and the driven gear."""
        return kind_of(self.gears[0]), kind_of(self.gears[1])

    @property
    def kind_of_pair(self) -> Kind:
        """The kind of the pair, which is that of its driven gear."""
        return kind_of(self.gears[1])

    def fault(self) -> str:
        """What keeps both gears from being a pair; empty when they are one."""
        one, two = self.gears
        if not kind_of(one).drives:
            return tr(
                "z = {z} of {name}: a {name_2} is the driven gear of a pair, an external wheel drives it",
                z=one.z,
                name=one.name,
                name_2=kind_of(one).name,
            )
        fault = kind_of(two).pair_fault(one, two)
        free = [n for n, v in (("x_1", one.x), ("x_2", two.x), ("a_w", self.mesh.a_w)) if v is None]
        if fault or len(free) == 1:
            return fault
        return tr(
            "of x_1, x_2 and a_w two are given and one is null, to be solved; null here: {value}",
            value=", ".join(free) or "none",
        )


class Group(Struct, frozen=True):
    """A pair, or a set: numbers of its stages, the shafts at which power comes in and goes out, a second one where it
    goes out at two, and the share of the power of the first that goes through it."""

    stages: tuple[int, ...]
    comes_in: str
    goes_out: str
    second: str = ""
    share: float = 1.0

    @property
    def ends(self) -> tuple[str, ...]:
        """The shafts at which power goes out."""
        return (self.goes_out, self.second) if self.second else (self.goes_out,)


class Walk(Struct, frozen=True):
    """The stages in the order in which power comes to them, the sets in that of their first stages, the groups, and the
    outputs: shafts at which power is taken off, with its share of their power, the main one first."""

    stages: tuple[Stage, ...]
    sets: tuple[GearSet, ...]
    groups: tuple[Group, ...]
    outputs: dict[str, float]

    @property
    def main(self) -> str:
        """The shaft of the main output."""
        return next(iter(self.outputs))

    @property
    def in_line(self) -> bool:
        """Whether every group is driven by the one before, and power is taken off at the end alone."""
        return len(self.outputs) == 1 and all(
            one.goes_out == two.comes_in for one, two in zip(self.groups, self.groups[1:], strict=False)
        )

    def ways(self, shaft: str) -> tuple[Group, ...]:
        """The groups that a shaft drives."""
        return tuple(g for g in self.groups if g.comes_in == shaft)

    def way_to(self, shaft: str) -> tuple[Group, ...]:
        """The groups through which power comes to a shaft, from the input on."""
        way: list[Group] = []
        while (group := next((g for g in self.groups if shaft in g.ends), None)) is not None:
            way.append(group)
            shaft = group.comes_in
        return tuple(reversed(way))

    def group_of(self, k: int) -> Group:
        """The group that stage k belongs to."""
        return next(group for group in self.groups if k in group.stages)


class Broken(ValueError):
    """A graph through which no power can go: the place of what is wrong, and why."""

    def __init__(self, place: str, reason: str) -> None:
        super().__init__(reason)
        self.place = place


def walk(
    gears: Mapping[str, Gear],
    meshes: Mapping[str, Mesh],
    sets: Mapping[str, SetData],
    shafts: Mapping[str, Shaft],
    source: str,
) -> Walk:
    """From the shaft ``source`` along every mesh that power has come to; raises `Broken` where an identity is none
    or no power comes to a mesh."""
    turns_with = _shaft_of_gear(gears, shafts)
    for key, mesh in meshes.items():
        for role in ("driver", "driven"):
            if getattr(mesh, role) not in gears:
                raise Broken(f"meshes.{key}.{role}", tr("there is no gear {id!r}", id=getattr(mesh, role)[:40]))
    if source not in shafts:
        raise Broken("input", tr("there is no shaft {id!r}", id=source[:40]))
    waiting = _groups(meshes, sets)
    many = Counter(meshes[ids[0]].driver for key, ids in waiting if not key)
    reached = {source}
    stages: list[Stage] = []
    placed: list[GearSet] = []
    groups: list[Group] = []
    while waiting:
        for own in waiting:
            comes_in, *ends = _ends(own, sets, meshes, turns_with)
            if comes_in in reached:
                break
        else:
            raise Broken(f"meshes.{waiting[0][1][0]}", tr("no power comes to this mesh"))
        for goes_out in ends:
            if goes_out in reached:
                raise Broken(
                    f"shafts.{goes_out}",
                    tr("power comes to it on two ways; countershafts side by side, which share it, are a set"),
                )
            reached.add(goes_out)
        waiting.remove(own)
        key, ids = own
        one = None if not key else _placed(sets[key], len(stages))
        if one is not None:
            placed.append(one)
        groups.append(Group(tuple(range(len(stages), len(stages) + len(ids))), comes_in, ends[0], "".join(ends[1:])))
        for name in ids:
            mesh = meshes[name]
            drives = (1, 1) if one is not None else (many[mesh.driver], max(many[mesh.driven], 1))
            stages.append(Stage((gears[mesh.driver], gears[mesh.driven]), mesh, one, drives))
    groups, outputs = _shared_out(groups, stages, shafts, source)
    return Walk(tuple(stages), tuple(placed), tuple(groups), outputs)


def _shared_out(
    groups: Sequence[Group], stages: Sequence[Stage], shafts: Mapping[str, Shaft], source: str
) -> tuple[list[Group], dict[str, float]]:
    """The groups with the share of their shaft's power, and what is taken off at each shaft: as given, the rest in
    equal parts where nothing is."""
    shares: dict[int, float] = {}
    takes: dict[str, float] = {}
    for key in dict.fromkeys([source, *(end for g in groups for end in g.ends)]):
        ways = [n for n, g in enumerate(groups) if g.comes_in == key]
        given: dict[int, float | None] = {}
        for n in ways:
            first = stages[groups[n].stages[0]]
            given[n] = first.mesh.share if first.within is None else first.within.share
        off = shafts[key].takes if ways else 1.0
        told = [v for v in (*given.values(), off) if v is not None]
        free = [n for n, v in given.items() if v is None]
        rest = 1.0 - sum(told)
        if rest < -1e-9 or (free and rest < 1e-9) or (not free and rest > 1e-9):
            raise Broken(
                f"shafts.{key}", tr("the shares of its power add up to {whole:g} and not to 1", whole=sum(told))
            )
        shares |= {n: v if v is not None else rest / len(free) for n, v in given.items()}
        if off is not None:
            takes[key] = off
    main = source
    while (way := next((g for g in groups if g.comes_in == main), None)) is not None:
        main = way.goes_out
    outputs = {main: takes[main]} | takes
    return [replace(g, share=shares[n]) for n, g in enumerate(groups)], outputs


def _shaft_of_gear(gears: Mapping[str, Gear], shafts: Mapping[str, Shaft]) -> dict[str, str]:
    result: dict[str, str] = {}
    for key, shaft in shafts.items():
        for gear in (*shaft.gears, *shaft.carries):
            if gear not in gears:
                raise Broken(f"shafts.{key}", tr("there is no gear {id!r}", id=gear[:40]))
            if gear in result:
                raise Broken(f"shafts.{key}", tr("gear {id!r} is on two shafts", id=gear[:40]))
            result[gear] = key
    lost = next((g for g in gears if g not in result), None)
    if lost is not None:
        raise Broken(f"gears.{lost}", tr("this gear is on no shaft"))
    return result


Own = tuple[str, tuple[str, ...]]
"""A set, empty for a pair, and its meshes."""


def _groups(meshes: Mapping[str, Mesh], sets: Mapping[str, SetData]) -> list[Own]:
    """Sets and pairs in the order of the meshes."""
    of: dict[str, str] = {}
    for key, one in sets.items():
        if len(one.meshes) != (3 if one.free_sun else 2):
            raise Broken(f"sets.{key}", tr("its meshes are not all there"))
        for name in one.meshes:
            if name not in meshes:
                raise Broken(f"sets.{key}.meshes", tr("there is no mesh {id!r}", id=name[:40]))
            if name in of:
                raise Broken(f"sets.{key}.meshes", tr("mesh {id!r} belongs to another set already", id=name[:40]))
            of[name] = key
    result = [(of.get(name, ""), sets[of[name]].meshes if name in of else (name,)) for name in meshes]
    return list(dict.fromkeys(result))


def _ends(
    own: Own, sets: Mapping[str, SetData], meshes: Mapping[str, Mesh], turns_with: Mapping[str, str]
) -> tuple[str, ...]:
    """The shaft at which power comes to a group, and those at which it leaves it."""
    key, ids = own
    if not key:
        return turns_with[meshes[ids[0]].driver], turns_with[meshes[ids[0]].driven]
    one = sets[key]
    ends = [one.input, one.output, *([one.second] if one.second else [])]
    return tuple(turns_with[gear_of(one, role, meshes)] for role in ends)


def gear_of(one: SetData, role: str, meshes: Mapping[str, Mesh]) -> str:
    """Identity of the gear that has a role in a set; of the carrier that of the planet."""
    n, i = (0, one.arranged.planet) if role == one.arranged.carrier else one.arranged.where[role]
    mesh = meshes[one.meshes[n]]
    return mesh.driven if i else mesh.driver


def _placed(one: SetData, first: int) -> GearSet:
    """The set at its place on the walk; it is checked already."""
    values = dict(zip(SetData.__struct_fields__, astuple(one), strict=True))
    result: GearSet = StructMeta.__call__(GearSet, **values, first=first)
    return result

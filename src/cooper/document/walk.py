"""The train as a graph, and the one walk through it from where power comes in."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, NamedTuple

from msgspec import Struct, StructMeta
from msgspec.structs import astuple

from cooper.document.base import Model, about
from cooper.document.duty import StageOverrides
from cooper.document.gear_data import Gear, Mesh
from cooper.document.sets import GearSet, SetData
from cooper.i18n.text import tr
from cooper.kinds.kind import Kind
from cooper.kinds.known import kind_of

CARRIER = "carrier"


class Shaft(Model, frozen=True, kw_only=True):
    """What turns as one: the gears that are fast on it, and those that turn on pins which it carries."""

    gears: Annotated[tuple[str, ...], about("identities of the gears that are fast on it")] = ()
    carries: Annotated[tuple[str, ...], about("identities of the planets' gears, whose pins it carries")] = ()


class Stage(Struct, frozen=True):
    """A mesh with its gears, the driving one first, and the set that it belongs to."""

    gears: tuple[Gear, Gear]
    mesh: Mesh
    within: GearSet | None = None

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


class Walk(NamedTuple):
    """The stages in the order in which power comes to them, the sets in that of their first stages, and the groups:
    numbers of the stages that work as one."""

    stages: tuple[Stage, ...]
    sets: tuple[GearSet, ...]
    groups: tuple[tuple[int, ...], ...]


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
    reached = {source}
    stages: list[Stage] = []
    placed: list[GearSet] = []
    groups: list[tuple[int, ...]] = []
    while waiting:
        for own in waiting:
            comes_in, goes_out = _ends(own, sets, meshes, turns_with)
            if comes_in in reached:
                break
        else:
            raise Broken(f"meshes.{waiting[0][1][0]}", tr("no power comes to this mesh"))
        waiting.remove(own)
        reached.add(goes_out)
        key, ids = own
        one = None if not key else _placed(sets[key], len(stages))
        if one is not None:
            placed.append(one)
        groups.append(tuple(range(len(stages), len(stages) + len(ids))))
        for name in ids:
            mesh = meshes[name]
            stages.append(Stage((gears[mesh.driver], gears[mesh.driven]), mesh, one))
    return Walk(tuple(stages), tuple(placed), tuple(groups))


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
) -> tuple[str, str]:
    """The shafts at which power comes to a group and leaves it."""
    key, ids = own
    if not key:
        return turns_with[meshes[ids[0]].driver], turns_with[meshes[ids[0]].driven]
    ends = [gear_of(sets[key], role, meshes) for role in (sets[key].input, sets[key].output)]
    return turns_with[ends[0]], turns_with[ends[1]]


def gear_of(one: SetData, role: str, meshes: Mapping[str, Mesh]) -> str:
    """Identity of the gear that has a role in a set; of the carrier that of the planet."""
    n, i = (0, one.arranged.planet) if role == CARRIER else one.arranged.where[role]
    mesh = meshes[one.meshes[n]]
    return mesh.driven if i else mesh.driver


def _placed(one: SetData, first: int) -> GearSet:
    """The set at its place on the walk; it is checked already."""
    values = dict(zip(SetData.__struct_fields__, astuple(one), strict=True))
    result: GearSet = StructMeta.__call__(GearSet, **values, first=first)
    return result

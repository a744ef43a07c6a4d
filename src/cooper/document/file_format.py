"""Format 2 of the file: gears and meshes by identity, each once, and the groups that order them.

In memory a train is a row of stages with their gears in place (`document.Train`); a gear in two meshes is one object there and one entry here.
"""

from typing import Annotated, Any, Literal

from msgspec import Meta, field

from cooper.document.base import Model, about
from cooper.document.duty import Defaults, Duty
from cooper.document.gear_data import Gear, Mesh
from cooper.document.machine_data import Machine
from cooper.document.models import Losses, SetData, StageOwn
from cooper.document.question import Survey


class FileMesh(Mesh, frozen=True, kw_only=True):
    """Two gears in mesh, by their identities."""

    driver: Annotated[str, about("identity of the driving gear")]  # type: ignore[assignment]
    driven: Annotated[str, about("identity of the driven gear")]  # type: ignore[assignment]


class FileStage(Model, frozen=True, kw_only=True):
    """A place in the train where one mesh works."""

    id: Annotated[str, about("identity, by which formulas name it")]
    name: Annotated[str, about("what the stage is called")]
    mesh: Annotated[str, about("identity of its mesh")]
    own: StageOwn = StageOwn()


class FilePair(Model, frozen=True, kw_only=True):
    """A stage of its own."""

    kind: Literal["pair"]
    stages: Annotated[tuple[FileStage, ...], Meta(min_length=1, max_length=1)]


class FileSet(SetData, frozen=True, kw_only=True):
    """Stages that work as one."""

    stages: Annotated[tuple[FileStage, ...], Meta(min_length=2, max_length=3)]


class FileTrain(Model, frozen=True, kw_only=True):
    """Duty, defaults, and gears and meshes by identity; the groups stand in the order in which power flows."""

    duty: Duty
    defaults: Defaults = Defaults()
    losses: Losses = Losses()
    gears: Annotated[dict[str, Gear], about("every gear once, by identity")]
    meshes: Annotated[dict[str, FileMesh], about("every mesh once, by identity")]
    groups: Annotated[tuple[dict[str, Any], ...], about("pairs and sets in the order of the power")]
    machine: Annotated[Machine, about("what is fixed of shafts, bearings and housing; null: not counted")] | None = None


class FileDesign(Model, frozen=True, kw_only=True):
    """The whole file."""

    format: Annotated[Literal["cooper-design"], about("says that this file is a Cooper design")] = "cooper-design"
    version: Annotated[Literal[2], about("version of the format")] = 2
    name: Annotated[str, about("name of the design", max_length=120)] = "Untitled train"
    place: Annotated[str, about("where the machine stands or is made", max_length=120)] = ""
    train: FileTrain
    names: Annotated[dict[str, str], about("named values: name and number or formula")] = field(default_factory=dict)
    formulas: Annotated[
        dict[str, str], about("formulas: a quantity by its stage's identity, as stage1.b_1, and its formula")
    ] = field(default_factory=dict)
    survey: Annotated[Survey, about("a survey that was made for this design, with what it found")] | None = None


Tree = dict[str, Any]


def to_file(design: Tree) -> Tree:
    """The file's data from a design's (`Model.plain`, identities given)."""
    train = design["train"]
    gears: Tree = {}
    meshes: Tree = {}

    def stage_part(stage: Tree) -> Tree:
        mesh, members = dict(stage["meshes"][0]), stage["members"]
        for gear in members:
            gears.setdefault(gear["id"], {k: v for k, v in gear.items() if k != "id"})
        name = f"mesh of {stage['id']}"
        meshes[name] = {**mesh, "driver": members[mesh["driver"]]["id"], "driven": members[mesh["driven"]]["id"]}
        rest = {k: v for k, v in stage.items() if k not in ("members", "meshes", "id", "name", "kind", "own")}
        return {"id": stage["id"], "name": stage["name"], "mesh": name, "own": stage["own"], **rest}

    groups, k = [], 0
    sets = {s["first"]: s for s in train["sets"]}
    while k < len(train["stages"]):
        one = sets.get(k)
        count = 1 if one is None else 3 if one["free_sun"] else 2
        parts = [stage_part(s) for s in train["stages"][k : k + count]]
        groups.append(
            {"kind": "pair", "stages": parts}
            if one is None
            else {**{n: v for n, v in one.items() if n != "first"}, "stages": parts}
        )
        k += count
    rest = {k: v for k, v in train.items() if k not in ("stages", "sets")}
    return {**design, "version": 2, "train": {**rest, "gears": gears, "meshes": meshes, "groups": groups}}


def from_file(file: Tree) -> Tree:
    """A design's data from the file's; raises `KeyError` where an identity is named that is not there."""
    train = dict(file["train"])
    gears, meshes, groups = train.pop("gears"), train.pop("meshes"), train.pop("groups")
    stages: list[Tree] = []
    sets: list[Tree] = []
    for group in groups:
        group = dict(group)
        parts = group.pop("stages")
        if group["kind"] != "pair":
            sets.append({**group, "first": len(stages)})
        for part in parts:
            mesh = dict(meshes[part["mesh"]])
            members = [{**gears[mesh[role]], "id": mesh[role]} for role in ("driver", "driven")]
            rest = {k: v for k, v in part.items() if k != "mesh"}
            stages.append({**rest, "kind": "pair", "members": members, "meshes": [{**mesh, "driver": 0, "driven": 1}]})
    return {**file, "version": 2, "train": {**train, "stages": stages, "sets": sets}}


def from_version_1(old: Tree) -> Tree:
    """Version 1 had each stage with its gears inside, a gear in two meshes twice, and everything by its place."""
    train = dict(old["train"])
    stages = [dict(s) for s in train["stages"]]
    sets = [{"free_sun": False, **s} for s in train.get("sets", ())]
    same = {}
    for one in sets:
        k = one["first"]
        if one.get("kind", "planetary") in ("planetary", "idler"):
            same[k + 1, 0] = (k, 1)
        if one["free_sun"]:
            same[k + 2, 1] = (k, 0)
    names: dict[tuple[int, int], str] = {}
    for k, stage in enumerate(stages):
        members = []
        for i, gear in enumerate(stage["members"]):
            twin = same.get((k, i))
            if twin in names:
                there = stages[twin[0]]["members"][twin[1]]
                other = next((n for n in gear if n != "id" and gear[n] != there.get(n)), None)
                if other is not None:
                    raise ValueError(
                        f"the gear in both meshes must be one and the same; its {other} is {there.get(other)} and {gear[other]}"
                    )
            names[k, i] = names[twin] if twin in names else f"gear{len(set(names.values())) + 1}"
            members.append({**gear, "id": names[k, i]})
        meshes = [{"driver": 0, "driven": 1, **m} for m in stage["meshes"]]
        stages[k] = {
            "name": f"Stage {k + 1}",
            "own": {},
            **stage,
            "id": f"stage{k + 1}",
            "members": members,
            "meshes": meshes,
        }
    return to_file({**old, "train": {**train, "stages": stages, "sets": sets}})

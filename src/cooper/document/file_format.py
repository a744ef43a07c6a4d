"""Format 2 of the file: gears and meshes by identity, each once, and the groups that order them.

In memory a train is a row of stages with their gears in place (`document.Train`); a gear in two meshes is one object
there and one entry here.
"""

from __future__ import annotations

from typing import Any

from cooper.i18n.text import tr

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
        name = tr("mesh of {id}", id=stage["id"])
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
                        tr(
                            "the gear in both meshes must be one and the same; its {other} is {other_2} and {gear}",
                            other=other,
                            other_2=there.get(other),
                            gear=gear[other],
                        )
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

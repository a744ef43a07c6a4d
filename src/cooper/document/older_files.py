"""Older versions of the file, each brought to the next one."""

from __future__ import annotations

from typing import Any

from cooper.document.gear_data import Gear, Mesh
from cooper.document.row import Part, in_row
from cooper.document.sets import SetData
from cooper.document.walk import Stage
from cooper.i18n.text import tr

Tree = dict[str, Any]


def from_version_2(old: Tree) -> Tree:
    """Version 2 had gears and meshes by identity, and pairs and sets in the order of the power: no shafts."""
    train = dict(old["train"])
    gears, meshes, groups = train.pop("gears"), train.pop("meshes"), train.pop("groups")
    taken = {part.get("id") for group in groups for part in group["stages"]}
    gear, joins = Gear(z=20, b=1.0), Mesh(m_n=1.0)
    parts, own = [], {}
    for group in groups:
        stages = []
        for part in group["stages"]:
            mesh = meshes[part["mesh"]]
            key = part.get("id") or next(f"stage{n}" for n in range(1, 999) if f"stage{n}" not in taken)
            taken.add(key)
            own[key] = {**{k: v for k, v in part.items() if k not in ("id", "mesh")}, **mesh}
            if mesh["driver"] not in gears or mesh["driven"] not in gears:
                raise KeyError(next(mesh[r] for r in ("driver", "driven") if mesh[r] not in gears))
            ends = [gear.replace_unchecked(id=mesh[role]) for role in ("driver", "driven")]
            stages.append(Stage((ends[0], ends[1]), joins.replace_unchecked(id=key)))
        of = None
        if group["kind"] != "pair":
            rest = {k: v for k, v in group.items() if k != "stages"}
            of = SetData().replace_unchecked(**{k: rest[k] for k in ("kind", "input", "output", "held") if k in rest})
            of = of.replace_unchecked(free_sun=bool(rest.get("free_sun")))
        parts.append((Part(tuple(stages), of), group))
    row = in_row([part for part, _ in parts])
    sets: Tree = {}
    with_set = [group for part, group in parts if part.of is not None]
    for (key, one), group in zip(row["sets"].items(), with_set, strict=True):
        sets[key] = {**{k: v for k, v in group.items() if k != "stages"}, "meshes": list(one.meshes)}
    shafts = {k: {"gears": list(s.gears), "carries": list(s.carries)} for k, s in row["shafts"].items()}
    train |= {"gears": gears, "meshes": own, "shafts": shafts, "sets": sets, "input": row["input"]}
    return {**old, "version": 3, "train": train}


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
    return in_groups({**old, "train": {**train, "stages": stages, "sets": sets}})


def in_groups(old: Tree) -> Tree:
    """Version 2 of a file from what versions 1 and 2 held in memory: a row of stages with their gears in place."""
    train = old["train"]
    stages, sets = train["stages"], train["sets"]
    gears: Tree = {}
    named: Tree = {}
    groups, k = [], 0
    first = {s["first"]: s for s in sets}
    while k < len(stages):
        own = first.get(k)
        count = 1 if own is None else 3 if own["free_sun"] else 2
        rows = []
        for stage in stages[k : k + count]:
            mesh, members = stage["meshes"][0], stage["members"]
            for gear in members:
                gears.setdefault(gear["id"], {n: v for n, v in gear.items() if n != "id"})
            ends = {role: members[mesh[role]]["id"] for role in ("driver", "driven")}
            named[stage["id"]] = {**mesh, **ends}
            rest = {n: v for n, v in stage.items() if n not in ("members", "meshes", "kind")}
            rows.append({**rest, "mesh": stage["id"]})
        kept = {"kind": "pair"} if own is None else {n: v for n, v in own.items() if n != "first"}
        groups.append({**kept, "stages": rows})
        k += count
    rest = {n: v for n, v in train.items() if n not in ("stages", "sets")}
    return {**old, "version": 2, "train": {**rest, "gears": gears, "meshes": named, "groups": groups}}


def kept_in_survey(design: Tree, columns: Tree) -> tuple[Tree, Tree]:
    """A design and columns by path as a survey of version 2 kept them, by identities."""
    if design["version"] > 2:
        return design, columns
    stages = design["train"]["stages"]

    def path(old: str) -> str:
        parts = old.split(".")
        stage = stages[int(parts[2])]
        if parts[3] == "members":
            return ".".join(["train", "gears", stage["members"][int(parts[4])]["id"], *parts[5:]])
        return ".".join(["train", "meshes", stage["id"], *parts[5:]])

    return from_version_2(in_groups(design)), {path(p): v for p, v in columns.items()}

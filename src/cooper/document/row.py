"""A train as a row of pairs and sets, each driven by the one before: how most trains are put together."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from msgspec import Struct

from cooper.document.gear_data import Gear, Mesh
from cooper.document.models import Train
from cooper.document.sets import SetData
from cooper.document.walk import Shaft, Stage, gear_of
from cooper.i18n.text import tr


class Part(Struct, frozen=True):
    """A pair, or a set with its stages. ``behind`` is the shaft that drives it where that is not the end of the part
    before; ``ends`` are those at which its power goes out, by which others name them, whatever they become; ``takes``
    is the share of its power that is taken off at the first of these, where more goes on from there."""

    stages: tuple[Stage, ...]
    of: SetData | None = None
    behind: str = ""
    ends: tuple[str, ...] = ()
    takes: float | None = None


def row_of(train: Train) -> list[Part]:
    """The pairs and sets of a train in the order of its walk."""
    sets = {one.first: train.sets[one.id] for one in train.placed}
    result, now = [], train.input
    for group in train.walk.groups:
        stages = tuple(train.stages[k] for k in group.stages)
        behind = "" if group.comes_in == now else group.comes_in
        now = group.goes_out
        result.append(Part(stages, sets.get(group.stages[0]), behind, group.ends, train.shafts[now].takes))
    return result


def pair_of(one: Gear, two: Gear, mesh: Mesh, name: str = "Stage 1") -> Part:
    """A pair; identities are given where they are empty."""
    return Part((Stage((one, two), mesh.replace_unchecked(name=name)),))


def in_row(parts: Sequence[Part]) -> dict[str, Any]:
    """Gears, meshes, shafts, sets and input of a train whose parts are driven one by the other, or behind a shaft that
    is named. What has no identity is given one; of two parts with the same the first keeps it, but for the gears within
    a set, and those that are the same in all, which then are one."""
    names = _Names(parts)
    gears: dict[str, Gear] = {}
    meshes: dict[str, Mesh] = {}
    sets: dict[str, SetData] = {}
    shafts: dict[str, Shaft] = {}
    source = now = ""
    shaft_of: dict[str, str] = {}
    became: dict[str, str] = {}
    for part in parts:
        own: dict[str, str] = {}
        ids = []
        for stage in part.stages:
            ends = []
            for gear in stage.gears:
                same = gear.id if gears.get(gear.id) == gear else ""
                key = own.get(gear.id) or same or names.give(gear.id, "gear")
                if gear.id:
                    own[gear.id] = key
                gears.setdefault(key, gear.replace_unchecked(id=key))
                ends.append(key)
            key = names.give(stage.id, "stage")
            meshes[key] = stage.mesh.replace_unchecked(id=key, driver=ends[0], driven=ends[1])
            ids.append(key)
        if part.of is None:
            mesh = meshes[ids[0]]
            on: dict[str, tuple[str, ...]] = {"in": (mesh.driver,), "out": (mesh.driven,)}
            carried: dict[str, tuple[str, ...]] = {}
            ends = ["in", "out"]
        else:
            key = names.give(part.of.id, "set")
            one = sets[key] = part.of.replace_unchecked(id=key, meshes=tuple(ids))
            on, carried = _shafts_of(one, meshes)
            ends = [one.input, one.output]
        now = became.get(part.behind, part.behind if part.behind in shafts else now)
        # A gear that has its place already drives from there.
        now = next((shaft_of[g] for g in on[ends[0]] if g in shaft_of), now)
        made = {}
        for role in sorted(on, key=lambda role: (role != ends[0], role != ends[1])):
            if role == ends[0] and now:
                before = shafts[now]
                on[role] = tuple(g for g in on[role] if g not in shaft_of)
                shafts[now] = Shaft(
                    gears=before.gears + on[role], carries=before.carries + carried.get(role, ()), takes=before.takes
                )
                made[role] = now
                continue
            name = on[role][0] if on[role] else tr("carrier of {id}", id=carried[role][0])
            shafts[name] = Shaft(
                gears=on[role], carries=carried.get(role, ()), takes=part.takes if role == ends[1] else None
            )
            made[role] = name
        shaft_of |= {gear: made[role] for role in on for gear in (*on[role], *carried.get(role, ()))}
        third = [one.second] if part.of is not None and one.second is not None else []
        became |= dict(zip(part.ends, (made[role] for role in (ends[1], *third)), strict=False))
        if part.behind:
            became.setdefault(part.behind, made[ends[0]])
        source, now = source or made[ends[0]], made[ends[1]]
    return {"gears": gears, "meshes": meshes, "shafts": shafts, "sets": sets, "input": source}


def _shafts_of(one: SetData, meshes: dict[str, Mesh]) -> tuple[dict[str, tuple[str, ...]], dict[str, tuple[str, ...]]]:
    """By role the gears of a set that are fast on its shafts, and those that its carrier carries."""
    of = one.arranged
    on = {r: (gear_of(one, r, meshes),) for r, (n, _i) in of.where.items() if n < len(one.meshes)}
    between = []
    for n, name in enumerate(one.meshes):
        mesh = meshes[name]
        between.append(mesh.driven if of.at(n) else mesh.driver)
    planets = tuple(dict.fromkeys(between))
    if not of.around:
        return {**on, of.between: planets}, {}
    return {**on, of.carrier: ()}, {of.carrier: planets}


class _Names:
    """Identities that are given away once each."""

    def __init__(self, parts: Sequence[Part]) -> None:
        stages = [s for part in parts for s in part.stages]
        self.wanted = {s.id for s in stages} | {g.id for s in stages for g in s.gears}
        self.wanted |= {part.of.id for part in parts if part.of is not None}
        self.taken: set[str] = set()

    def give(self, wanted: str, word: str) -> str:
        """The identity that is wanted, or the next one of a word where it is empty or taken."""
        if not wanted or wanted in self.taken:
            wanted = next(f"{word}{n}" for n in range(1, 999) if f"{word}{n}" not in self.wanted | self.taken)
        self.taken.add(wanted)
        return wanted

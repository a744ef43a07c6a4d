"""Edits: functions from a design to a new design, addressed by paths like ``train.stages.0.members.1.z``."""

from __future__ import annotations

from math import radians
from typing import Any

from cooper.document.base import Model
from cooper.document.gear_data import SIZES
from cooper.document.models import Design
from cooper.document.plain import plain_data, validated, validated_sets
from cooper.editing.whole_sets import enforce_set_constraints
from cooper.i18n.text import tr
from cooper.kinds.kind import Kind
from cooper.kinds.known import kind_of, kind_with
from cooper.results.result_tree import StageResults
from cooper.results.solve_stage import module_of

Path = str


def set_at(design: Design, path: Path, value: Any) -> Design:
    """A new, validated design with one value changed."""
    return set_many(design, {path: value})


def set_many(design: Design, changes: dict[Path, Any]) -> Design:
    """A new, validated design with several values changed at once."""
    tree = plain_data(design)
    for path, value in changes.items():
        *parents, last = path.split(".")
        node: Any = tree
        for key in parents:
            node = node[int(key)] if isinstance(node, list | tuple) else node[key]
            if isinstance(node, Model):  # pragma: no cover - dumps hold plain data only
                raise TypeError(path)
        if isinstance(node, list | tuple):
            raise TypeError(tr("{path} names a whole member; change its fields", path=path))
        node[last] = value
    if tree["train"].get("sets"):
        validated_sets(tree)
        tree = enforce_set_constraints(tree, set(changes))
    return validated(tree)


def give_count(design: Design, stage: int, i: int, z: int) -> Design:
    """Give gear i (1, 2) a tooth count; one that belongs to another kind (`kinds`) makes the gear one of that kind."""
    mesh = design.train.stages[stage].meshes[0]
    member = (mesh.driver, mesh.driven)[i - 1]
    gear = design.train.stages[stage].members[member]
    kind = kind_with(gear, z)
    if kind is kind_of(gear):
        return set_many(design, {f"train.stages.{stage}.members.{member}.z": z})
    return _made(design, stage, member, kind, z)


def give_kind(design: Design, stage: int, kind: Kind) -> Design:
    """Make a pair one of a kind, whose driven gear begins with the count and shift that the kind begins with."""
    doc = design.train.stages[stage]
    mesh = doc.meshes[0]
    one, two = doc.members[mesh.driver], doc.members[mesh.driven]
    changed = _made(design, stage, mesh.driven, kind, kind.first_count(one.z, abs(two.z)))
    x = kind.first_shift(one.x or 0.0)
    return changed if x is None else set_at(changed, f"train.stages.{stage}.members.{mesh.driven}.x", x)


def _made(design: Design, stage: int, member: int, kind: Kind, z: int) -> Design:
    """One gear made into one of a kind; a given centre distance and reference diameter of the old arrangement are
    let go."""
    doc = design.train.stages[stage]
    mesh, base = doc.meshes[0], f"train.stages.{stage}"
    gear = doc.members[member].replace_unchecked(z=z)
    changes: dict[Path, Any] = {f"{base}.members.{n}.x": g.x or 0.0 for n, g in enumerate(doc.members)}
    changes |= {f"{base}.meshes.0.a_w": None, f"{base}.members.{member}.z": z}
    m_n = module_of(mesh, doc.members[mesh.driver].z, doc.members[mesh.driven].z)
    if getattr(mesh, "d_1" if member == mesh.driver else "d_2") is not None:
        changes |= {f"{base}.meshes.0.{s}": None for s in SIZES} | {f"{base}.meshes.0.m_n": m_n}
    made = kind.made(gear, m_n, radians(mesh.beta))
    return set_many(design, changes | {f"{base}.members.{member}.{s}": v for s, v in made.items()})


def tips_for_clearance(design: Design, results: StageResults, stage: int) -> Design:
    """Shorten both tips so far that the clearance of the basic racks is left to the mate's root; never lengthen
    them.

    The tip alteration of ISO 21771, given as tip diameters; what has no shift keeps its addendum.
    """
    mesh = design.train.stages[stage].meshes[0]
    m_n, a_w = results.mesh.m_n, results.mesh.a_w
    one, two = (design.train.stages[stage].members[n] for n in (mesh.driver, mesh.driven))
    roots = [g.get("d_f", 0.0) / 2 for g in results.gears]
    changes: dict[Path, Any] = {}
    for n, own, mate, i in ((mesh.driver, one, two, 0), (mesh.driven, two, one, 1)):
        kind = results.kinds[i]
        if not kind.shifts:
            continue
        c = (mate.h_fP - own.h_aP) * m_n
        r_a = results.kind.tip_room(a_w, (roots[0], roots[1]), c, i, results.gears[1 - i].get("h_f", 0.0))
        longer = r_a - results.gears[i].d_a / 2
        if (-longer if kind.inward else longer) < -1e-9:
            changes[f"train.stages.{stage}.members.{n}.d_a"] = round(2 * r_a, 3)
    return set_many(design, changes) if changes else design


def give_size(design: Design, stage: int, name: str, value: float) -> Design:
    """Let one of module, diametral pitch and reference diameters set the size of the teeth; the others are solved."""
    base = f"train.stages.{stage}.meshes.0"
    return set_many(design, {f"{base}.{n}": (value if n == name else None) for n in SIZES})


def give_shift(design: Design, stage: int, name: str, value: float, freed: str, kept: dict[str, float]) -> Design:
    """Give one of x_1, x_2 and a_w a value; ``freed`` becomes the solved one and ``kept`` holds the present values."""
    values: dict[str, float | None] = {**kept, name: value}
    values[freed] = None
    mesh = design.train.stages[stage].meshes[0]
    paths = {
        "x_1": f"train.stages.{stage}.members.{mesh.driver}.x",
        "x_2": f"train.stages.{stage}.members.{mesh.driven}.x",
        "a_w": f"train.stages.{stage}.meshes.0.a_w",
    }
    return set_many(design, {paths[n]: values[n] for n in paths})


def shifts_now(results: StageResults) -> dict[str, float]:
    """Present values of x_1, x_2 and a_w, exact."""
    return {"x_1": results.gears[0].x, "x_2": results.gears[1].x, "a_w": results.mesh.a_w}

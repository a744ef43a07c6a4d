"""Edits: functions from a design to a new design, addressed by paths like ``train.stages.0.members.1.z``."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from cooper.document.models import SIZES, Design
from cooper.document.plain import plain_data, validated, validated_sets
from cooper.editing.whole_sets import kept_whole
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
            if isinstance(node, BaseModel):  # pragma: no cover - dumps hold plain data only
                raise TypeError(path)
        if isinstance(node, list | tuple):
            raise TypeError(f"{path} names a whole member; change its fields")
        node[last] = value
    if tree["train"].get("sets"):
        validated_sets(tree)
        tree = kept_whole(tree, set(changes))
    return validated(tree)


def give_count(design: Design, stage: int, i: int, z: int, m_n: float) -> Design:
    """Give gear i (1, 2) a tooth count; a change of sign makes the gear internal or external again.

    An internal gear gets a pinion cutter that fits and an outside diameter with a rim of four modules under the root;
    a given centre distance or tip diameter of the old arrangement is let go.
    """
    mesh = design.train.stages[stage].meshes[0]
    member = (mesh.driver, mesh.driven)[i - 1]
    base = f"train.stages.{stage}.members.{member}"
    gear = design.train.stages[stage].members[member]
    changes: dict[Path, Any] = {f"{base}.z": z}
    if (z < 0) != (gear.z < 0):
        changes |= {
            f"{base}.d_a": None,
            f"{base}.d_bore": 0.0,
            f"{base}.d_i": None,
            f"{base}.d_rim": None,
            f"{base}.tool": "rack",
        }
        if z < 0:
            from math import ceil, cos, radians

            root = m_n * (abs(z) / cos(radians(mesh.beta)) + 2 * gear.h_fP + abs(gear.x or 0.0))
            changes |= {
                f"{base}.tool": "pinion cutter",
                f"{base}.z_0": max(6, min(25, abs(z) // 2)),
                f"{base}.pr_P": 0.0,
                f"{base}.q_P": 0.0,
                f"{base}.d_rim": float(ceil(root + 8 * m_n)),
                f"{base}.rho_fP": min(gear.rho_fP, 0.2),
            }
        one, two = (design.train.stages[stage].members[n] for n in (mesh.driver, mesh.driven))
        if mesh.a_w is not None:
            changes[f"train.stages.{stage}.meshes.0.a_w"] = None
            for n, g in ((mesh.driver, one), (mesh.driven, two)):
                changes[f"train.stages.{stage}.members.{n}.x"] = g.x or 0.0
    return set_many(design, changes)


def give_shape(design: Design, stage: int, shape: str) -> Design:
    """Make the driven gear of a stage a rack or a wheel again; a given distance of the old arrangement is let go."""
    mesh = design.train.stages[stage].meshes[0]
    base = f"train.stages.{stage}.members.{mesh.driven}"
    one, two = (design.train.stages[stage].members[n] for n in (mesh.driver, mesh.driven))
    changes: dict[Path, Any] = {
        f"{base}.shape": shape,
        f"{base}.z": abs(two.z),
        f"{base}.x": 0.0,
        f"{base}.d_a": None,
        f"{base}.d_rim": None,
        f"{base}.tool": "rack",
        f"{base}.d_bore": 0.0,
        f"{base}.d_i": None,
        f"train.stages.{stage}.meshes.0.a_w": None,
        f"train.stages.{stage}.members.{mesh.driver}.x": one.x or 0.0,
    }
    if mesh.d_2 is not None:
        changes |= {
            f"train.stages.{stage}.meshes.0.d_2": None,
            f"train.stages.{stage}.meshes.0.m_n": module_of(mesh, one.z, two.z),
        }
    return set_many(design, changes)


def tips_for_clearance(design: Design, results: StageResults, stage: int) -> Design:
    """Shorten both tips so far that the clearance of the basic racks is left to the mate's root; never lengthen them.

    The tip alteration of ISO 21771, given as tip diameters; a rack keeps its addendum.
    """
    mesh = design.train.stages[stage].meshes[0]
    m_n, a_w = results.mesh.m_n, results.mesh.a_w
    one, two = (design.train.stages[stage].members[n] for n in (mesh.driver, mesh.driven))
    roots = [g.get("d_f", 0.0) / 2 for g in results.gears]
    changes: dict[Path, Any] = {}
    for n, own, mate, i in ((mesh.driver, one, two, 0), (mesh.driven, two, one, 1)):
        if own.shape == "rack":
            continue
        c = (mate.h_fP - own.h_aP) * m_n
        if results.rack:
            r_a = a_w + results.gears[1].h_f - c
        elif results.internal:
            r_a = roots[1] - a_w - c if i == 0 else a_w + roots[0] + c
        else:
            r_a = a_w - roots[1 - i] - c
        now = results.gears[i].d_a / 2
        shorter = r_a > now + 1e-9 if own.z < 0 else r_a < now - 1e-9
        if shorter:
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

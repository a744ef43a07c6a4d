"""Edits: functions from a design to a new design, addressed by paths like ``train.gears.gear1.z``."""

from __future__ import annotations

from math import radians
from typing import Any

from msgspec.structs import replace

from cooper.document.change import changed
from cooper.document.gear_data import SIZES, Gear, Mesh
from cooper.document.models import Design, Train
from cooper.document.plain import without_lost_formulas
from cooper.document.row import Part, in_row, row_of
from cooper.document.sets import SetData
from cooper.document.walk import Stage
from cooper.editing.follow import follow
from cooper.kinds.kind import Kind
from cooper.kinds.known import kind_of, kind_with
from cooper.results.result_tree import StageResults
from cooper.results.solve_stage import module_of

Path = str


def set_at(design: Design, path: Path, value: Any) -> Design:
    """A new, validated design with one value changed."""
    return set_many(design, {path: value})


def set_many(design: Design, changes: dict[Path, Any]) -> Design:
    """A new, validated design with several values changed at once, and in its sets what follows from them."""

    def meet(train: Train, values: dict[str, Any]) -> dict[str, Any]:
        gears, meshes, sets = (dict(values.get(n) or getattr(train, n)) for n in ("gears", "meshes", "sets"))
        follow(sets, gears, meshes, changes.keys())
        values = {**values, "gears": gears, "meshes": meshes, "sets": sets}
        if all(_ends(one) == _ends(train.sets[key]) for key, one in sets.items()):
            return values
        # Power comes in or goes out at another shaft, which is joined to its neighbours anew.
        return {**values, **in_row([_now(part, gears, meshes, sets) for part in row_of(train)])}

    return without_lost_formulas(changed(design, changes, {"train.": meet}))


def _ends(one: SetData) -> tuple[str, str]:
    return one.input, one.output


def _now(part: Part, gears: dict[str, Gear], meshes: dict[str, Mesh], sets: dict[str, SetData]) -> Part:
    """A part of a row with other gears, meshes and sets of the same identities."""
    stages = [Stage((gears[s.mesh.driver], gears[s.mesh.driven]), meshes[s.id]) for s in part.stages]
    return replace(part, stages=tuple(stages), of=None if part.of is None else sets[part.of.id])


def give_count(design: Design, stage: int, i: int, z: int) -> Design:
    """Give gear i (1, 2) a tooth count; one that belongs to another kind (`kinds`) makes the gear one of that kind."""
    doc = design.train.stages[stage]
    gear = doc.gears[i - 1]
    kind = kind_with(gear, z)
    if kind is kind_of(gear):
        return set_many(design, {f"{doc.paths[i - 1]}.z": z})
    return _made(design, stage, i - 1, kind, z)


def give_kind(design: Design, stage: int, kind: Kind) -> Design:
    """Make a pair one of a kind, whose driven gear begins with the count and shift that the kind begins with."""
    doc = design.train.stages[stage]
    one, two = doc.gears
    result = _made(design, stage, 1, kind, kind.first_count(one.z, abs(two.z)))
    x = kind.first_shift(one.x or 0.0)
    return result if x is None else set_at(result, f"{doc.paths[1]}.x", x)


def _made(design: Design, stage: int, i: int, kind: Kind, z: int) -> Design:
    """Gear i (0, 1) made into one of a kind; a given centre distance and reference diameter of the old arrangement
    are let go."""
    doc = design.train.stages[stage]
    mesh, paths = doc.mesh, doc.paths
    gear = doc.gears[i].replace_unchecked(z=z)
    changes: dict[Path, Any] = {f"{path}.x": g.x or 0.0 for path, g in zip(paths, doc.gears, strict=True)}
    changes |= {f"{doc.path}.a_w": None, f"{paths[i]}.z": z}
    m_n = module_of(mesh, doc.gears[0].z, doc.gears[1].z)
    if (mesh.d_1, mesh.d_2)[i] is not None:
        changes |= {f"{doc.path}.{s}": None for s in SIZES} | {f"{doc.path}.m_n": m_n}
    made = kind.made(gear, m_n, radians(mesh.beta))
    return set_many(design, changes | {f"{paths[i]}.{s}": v for s, v in made.items()})


def tips_for_clearance(design: Design, results: StageResults, stage: int) -> Design:
    """Shorten both tips so far that the clearance of the basic racks is left to the mate's root; never lengthen
    them.

    The tip alteration of ISO 21771, given as tip diameters; what has no shift keeps its addendum.
    """
    doc = design.train.stages[stage]
    m_n, a_w = results.mesh.m_n, results.mesh.a_w
    roots = [g.get("d_f", 0.0) / 2 for g in results.gears]
    changes: dict[Path, Any] = {}
    for i, (own, mate) in enumerate((doc.gears, doc.gears[::-1])):
        kind = results.kinds[i]
        if not kind.shifts:
            continue
        c = (mate.h_fP - own.h_aP) * m_n
        r_a = results.kind.tip_room(a_w, (roots[0], roots[1]), c, i, results.gears[1 - i].get("h_f", 0.0))
        longer = r_a - results.gears[i].d_a / 2
        if (-longer if kind.inward else longer) < -1e-9:
            changes[f"{doc.paths[i]}.d_a"] = round(2 * r_a, 3)
    return set_many(design, changes) if changes else design


def give_size(design: Design, stage: int, name: str, value: float) -> Design:
    """Let one of module, diametral pitch and reference diameters set the size of the teeth; the others are solved."""
    base = design.train.stages[stage].path
    return set_many(design, {f"{base}.{n}": (value if n == name else None) for n in SIZES})


def give_shift(design: Design, stage: int, name: str, value: float, freed: str, kept: dict[str, float]) -> Design:
    """Give one of x_1, x_2 and a_w a value; ``freed`` becomes the solved one and ``kept`` holds the present values."""
    values: dict[str, float | None] = {**kept, name: value}
    values[freed] = None
    doc = design.train.stages[stage]
    paths = {"x_1": f"{doc.paths[0]}.x", "x_2": f"{doc.paths[1]}.x", "a_w": f"{doc.path}.a_w"}
    return set_many(design, {paths[n]: values[n] for n in paths})


def shifts_now(results: StageResults) -> dict[str, float]:
    """Present values of x_1, x_2 and a_w, exact."""
    return {"x_1": results.gears[0].x, "x_2": results.gears[1].x, "a_w": results.mesh.a_w}

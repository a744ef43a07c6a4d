"""Edits: functions from a design to a new design, addressed by paths like ``train.stages.0.members.1.z``."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from cooper.design.document import SIZES, Design, GearSet
from cooper.design.results import StageResults
from cooper.design.solve import module_of
from cooper.errors import OutOfRange

Path = str


def get_at(design: Design, path: Path) -> Any:
    """The value at a path.

    >>> from cooper.demo import demo
    >>> get_at(demo(), "train.stages.0.members.0.z")
    17
    """
    value: Any = design
    for key in path.split("."):
        value = value[int(key)] if isinstance(value, tuple | list) else getattr(value, key)
    return value


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
        from cooper.design.sets import kept_whole

        validated_sets(tree)
        tree = kept_whole(tree, set(changes))
    return validated(tree)


def plain_data(design: Design) -> dict[str, Any]:
    """A design as plain data, in which a gear in two meshes is one dictionary: what is done to it in one place is done to it."""
    return one_of_each(design.model_dump())


def one_of_each(tree: dict[str, Any]) -> dict[str, Any]:
    """Plain data in which gears of one identity are one dictionary, the first of them."""
    gears: dict[str, dict[str, Any]] = {}
    tree["train"]["stages"] = list(tree["train"]["stages"])
    for stage in tree["train"]["stages"]:
        stage["members"] = [gears.setdefault(g["id"], g) if g.get("id") else g for g in stage["members"]]
        stage["meshes"] = list(stage["meshes"])
    return tree


def validated_sets(tree: dict[str, Any]) -> None:
    """Refuse what no set can be before it is made whole; fill in what it leaves open."""
    from pydantic import TypeAdapter, ValidationError

    try:
        sets = TypeAdapter(tuple[GearSet, ...]).validate_python(tree["train"]["sets"])
    except ValidationError as error:
        raise first_fault(error, "train.sets.") from error
    tree["train"]["sets"] = [s.model_dump() for s in sets]


def validated(tree: dict[str, Any]) -> Design:
    """A design from plain data, without the formulas of stages that are gone; the first fault becomes an `OutOfRange` that names its place."""
    from pydantic import ValidationError

    try:
        return without_lost_formulas(Design.model_validate(tree))
    except ValidationError as error:
        raise first_fault(error) from error


def without_lost_formulas(design: Design) -> Design:
    """The design without the formulas of stages that it has no more."""
    there = {s.id for s in design.train.stages}
    kept = {k: v for k, v in design.formulas.items() if "." not in k or k.partition(".")[0] in there}
    return design if len(kept) == len(design.formulas) else design.model_copy(update={"formulas": kept})


def first_fault(error: Any, within: str = "") -> OutOfRange:
    """The first fault that validation found, with the field, the value and the range of the schema; ``within`` is the place of what
    was validated."""
    fault = error.errors()[0]
    place = within + ".".join(str(part) for part in fault["loc"]) or "the design"
    context = fault.get("ctx", {})
    low, high = (context.get(k1, context.get(k2)) for k1, k2 in (("ge", "gt"), ("le", "lt")))
    given = fault.get("input")
    shown: float | str = given if isinstance(given, int | float) and not isinstance(given, bool) else _short(given)
    reason = {
        "greater_than_equal": "it is below what Cooper can work with",
        "greater_than": "it must be above the limit",
        "less_than_equal": "it is above what Cooper can work with",
        "less_than": "it must be below the limit",
        "int_from_float": "a whole number is needed",
        "int_type": "a whole number is needed",
        "int_parsing": "a whole number is needed",
        "float_type": "a number is needed",
        "float_parsing": "a number is needed",
        "finite_number": "a finite number is needed",
        "missing": "it is missing",
    }.get(fault["type"], str(context.get("error", fault["msg"])))
    if fault["type"] == "missing":
        shown = "(nothing)"
    return OutOfRange(place, shown, reason, low=low, high=high, unit="")


def _short(value: Any) -> str:
    text = (
        repr(value)
        if isinstance(value, str)
        # A whole part of the design is named by its place alone.
        else ""
        if isinstance(value, dict | list | tuple | BaseModel)
        else str(value)
    )
    return text if len(text) <= 40 else text[:37] + "..."


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
        changes |= {f"{base}.d_a": None, f"{base}.d_bore": 0.0, f"{base}.d_i": None, f"{base}.d_rim": None, f"{base}.tool": "rack"}
        if z < 0:
            from math import ceil, cos, radians

            root = m_n * (abs(z) / cos(radians(mesh.beta)) + 2 * gear.h_fP + abs(gear.x or 0.0))
            changes |= {
                f"{base}.tool": "pinion cutter", f"{base}.z_0": max(6, min(25, abs(z) // 2)), f"{base}.pr_P": 0.0,
                f"{base}.q_P": 0.0, f"{base}.d_rim": float(ceil(root + 8 * m_n)), f"{base}.rho_fP": min(gear.rho_fP, 0.2),
            }  # fmt: skip
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
        f"{base}.shape": shape, f"{base}.z": abs(two.z), f"{base}.x": 0.0, f"{base}.d_a": None, f"{base}.d_rim": None,
        f"{base}.tool": "rack", f"{base}.d_bore": 0.0, f"{base}.d_i": None, f"train.stages.{stage}.meshes.0.a_w": None,
        f"train.stages.{stage}.members.{mesh.driver}.x": one.x or 0.0,
    }  # fmt: skip
    if mesh.d_2 is not None:
        changes |= {f"train.stages.{stage}.meshes.0.d_2": None, f"train.stages.{stage}.meshes.0.m_n": module_of(mesh, one.z, two.z)}
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

"""A design as plain data: read at a path, and made a design again, the first fault named by its place."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from cooper.document.models import Design, GearSet
from cooper.errors import OutOfRange


def get_at(design: Design, path: str) -> Any:
    """The value at a path.

    >>> from cooper.demo import demo
    >>> get_at(demo(), "train.stages.0.members.0.z")
    17
    """
    value: Any = design
    for key in path.split("."):
        value = value[int(key)] if isinstance(value, tuple | list) else getattr(value, key)
    return value


def plain_data(design: Design) -> dict[str, Any]:
    """A design as plain data, in which a gear in two meshes is one dictionary: what is done to it in one place is done to it."""
    tree = one_of_each(design.model_dump(exclude={"survey"}))
    # Never altered in place, and long.
    return {**tree, "survey": design.survey}


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


def first_fault(error: Any, within: str = "", whole: str = "the design") -> OutOfRange:
    """The first fault that validation found, with the field, the value and the range of the schema; ``within`` is the place of what
    was validated, ``whole`` its name."""
    fault = error.errors()[0]
    place = within + ".".join(str(part) for part in fault["loc"]) or whole
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


def longest_text(document: Any, path: str) -> int | None:
    """How many letters a text at a path may have; None where nothing bounds it."""
    parent, _, name = path.rpartition(".")
    rules = type(get_at(document, parent)).model_fields[name].metadata
    return next((rule.max_length for rule in rules if hasattr(rule, "max_length")), None)

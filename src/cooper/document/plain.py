"""A design as plain data: read at a path, and made a design again, the first fault named by its place."""

from __future__ import annotations

from typing import Any

from cooper.document.base import Model, rules_of
from cooper.document.models import Design


def get_at(design: Design, path: str) -> Any:
    """The value at a path.

    >>> from cooper.demo import demo
    >>> get_at(demo(), "train.gears.gear1.z")
    17
    """
    value: Any = design
    for key in path.split("."):
        value = step(value, key)
    return value


def step(value: Any, key: str) -> Any:
    """What stands at one word of a path within a part."""
    if isinstance(value, dict):
        return value[key]
    return value[int(key)] if isinstance(value, tuple | list) else getattr(value, key)


def without_lost_formulas(design: Design) -> Design:
    """The design without the formulas of stages that it has no more."""
    there = {s.id for s in design.train.stages}
    kept = {k: v for k, v in design.formulas.items() if "." not in k or k.partition(".")[0] in there}
    return design if len(kept) == len(design.formulas) else design.replace_unchecked(formulas=kept)


def longest_text(document: Any, path: str) -> int | None:
    """How many letters a text at a path may have; None where nothing bounds it."""
    parent, _, name = path.rpartition(".")
    kind: type[Model] = type(get_at(document, parent))
    return rules_of(kind)[name].max_length

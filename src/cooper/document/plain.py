"""A design as plain data: read at a path, and made a design again, the first fault named by its place."""

from __future__ import annotations

from typing import Any

from cooper.document.base import Model, rules_of
from cooper.document.models import Design, GearSet


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
    """A design as plain data, in which a gear in two meshes is one dictionary: what is done to it in one place is
    done to it."""
    tree = one_of_each(design.plain(without={"survey"}))
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
    sets = tree["train"]["sets"]
    tree["train"]["sets"] = [GearSet.from_data(s, f"train.sets.{n}.").plain() for n, s in enumerate(sets)]


def validated(tree: dict[str, Any]) -> Design:
    """A design from plain data, without the formulas of stages that are gone; the first fault becomes an
    `OutOfRange` that names its place."""
    return without_lost_formulas(Design.from_data(tree))


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

"""Arrangements of a stage: which one it has, and the stage exchanged for another or a new one put behind it."""

from __future__ import annotations

from math import ceil

from cooper.document.models import Design
from cooper.editing.edit import give_count, give_shape, set_many
from cooper.editing.make_sets import (
    KIND_WORDS,
    module_now,
    set_number,
    with_free_sun,
    with_roles,
    with_set,
    without_set,
)
from cooper.editing.stages import add_stage
from cooper.errors import OutOfRange

ARRANGEMENTS = {
    "external pair": "two gears side by side",
    "internal pair": "pinion in a ring",
    "rack": "pinion and rack",
    **KIND_WORDS,
    "free sun": "two rings with a free sun",
    "sun driven": "two rings, driven at a sun between the planets",
}
"""Every arrangement that is offered, in words."""
BACK = 3.5
"""Modules behind the datum line of a new rack at least."""
ROOM_IN_RING = 12
"""Teeth that a new ring has more than its pinion at least, so that their tips pass."""


def arrangement_of(design: Design, k: int) -> str:
    """The arrangement of stage k, one of `ARRANGEMENTS`."""
    n = set_number(design, k)
    if n is not None:
        one = design.train.sets[n]
        return "sun driven" if one.sun_works else "free sun" if one.free_sun else one.kind
    stage = design.train.stages[k]
    driven = stage.members[stage.meshes[0].driven]
    return "rack" if driven.shape == "rack" else "internal pair" if driven.z < 0 else "external pair"


def exchanged(design: Design, k: int, kind: str) -> Design:
    """Stage k, or the set it belongs to, exchanged for another arrangement; driver's count, module, widths and materials are kept."""
    if arrangement_of(design, k) == kind:
        return design
    n = set_number(design, k)
    if n is not None:
        k = design.train.sets[n].first
    design = _external(design, k)
    one, two = _pair(design, k)
    if kind == "external pair":
        return design
    if kind == "internal pair":
        design = give_count(design, k, 2, -max(two, one + ROOM_IN_RING), module_now(design, k))
        # As much shift as its pinion's, so that the pair stands at its reference distance.
        mesh = design.train.stages[k].meshes[0]
        x = design.train.stages[k].members[mesh.driver].x or 0.0
        base = f"train.stages.{k}.members."
        return set_many(
            design, {f"{base}{mesh.driver}.x": x, f"{base}{mesh.driven}.x": -x, f"train.stages.{k}.meshes.0.a_w": None}
        )
    if kind == "rack":
        if k < len(design.train.stages) - 1:
            raise OutOfRange("stage", k + 1, "a rack cannot turn the next stage: it comes last")
        mesh = design.train.stages[k].meshes[0]
        back = max(design.train.stages[k].members[mesh.driven].h_back, ceil(BACK * module_now(design, k)))
        return set_many(give_shape(design, k, "rack"), {f"train.stages.{k}.members.{mesh.driven}.h_back": float(back)})
    if kind in ("free sun", "sun driven"):
        design = with_set(design, k, "two rings")
        n = set_number(design, k)
        assert n is not None
        design = with_free_sun(design, n, True)
        return design if kind == "free sun" else with_roles(design, n, ("sun", "ring 2", "ring"))
    return with_set(design, k, kind)


def added(design: Design, k: int, kind: str) -> tuple[Design, int]:
    """A stage of a kind behind stage k (before it where k ends in a rack), and where it stands."""
    rack = arrangement_of(design, k) == "rack"
    n = set_number(design, k)
    at = k if rack else (k if n is None else design.train.sets[n].stages[-1]) + 1
    return exchanged(add_stage(design, k), at, kind), at


def _pair(design: Design, k: int) -> tuple[int, int]:
    stage = design.train.stages[k]
    mesh = stage.meshes[0]
    return stage.members[mesh.driver].z, stage.members[mesh.driven].z


def _external(design: Design, k: int) -> Design:
    """Stage k as an external pair; of a set its first mesh stays."""
    n = set_number(design, k)
    if n is not None:
        design = without_set(design, n)
    kind = arrangement_of(design, k)
    if kind == "rack":
        return give_shape(design, k, "gear")
    if kind == "internal pair":
        return give_count(design, k, 2, -_pair(design, k)[1], module_now(design, k))
    return design

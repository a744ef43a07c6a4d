"""Arrangements of a stage: which one it has, and the stage exchanged for another or a new one put behind it."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from cooper.document.models import Design
from cooper.editing.edit import give_kind
from cooper.editing.make_sets import (
    KIND_WORDS,
    set_number,
    with_free_sun,
    with_roles,
    with_set,
    without_set,
)
from cooper.editing.stages import add_stage
from cooper.errors import OutOfRange
from cooper.i18n.text import term, tr
from cooper.kinds.external_wheel import EXTERNAL
from cooper.kinds.known import KINDS
from cooper.results.evaluate import QUICK, evaluate
from cooper.results.result_tree import Results


def arrangements() -> dict[str, str]:
    """Every arrangement that is offered, in words: the kinds of pairs, then the sets."""
    return {
        **{k.key: term(k.words) for k in KINDS.values()},
        **{key: term(words) for key, words in KIND_WORDS.items()},
        "free sun": tr("two rings with a free sun"),
        "sun driven": tr("two rings, driven at a sun between the planets"),
    }


def arrangement_of(design: Design, k: int) -> str:
    """The arrangement of stage k, one of `arrangements`."""
    n = set_number(design, k)
    if n is not None:
        one = design.train.placed[n]
        return "sun driven" if one.sun_works else "free sun" if one.free_sun else one.kind
    return design.train.stages[k].kind_of_pair.key


def exchanged(design: Design, k: int, kind: str) -> Design:
    """Stage k, or the set it belongs to, exchanged for another arrangement; driver's count, module, widths and
    materials are kept."""
    if arrangement_of(design, k) == kind:
        return design
    n = set_number(design, k)
    if n is not None:
        k = design.train.placed[n].first
        design = without_set(design, n)
    if kind in KINDS:
        own = KINDS[kind]
        if not own.turns and k < len(design.train.stages) - 1:
            raise OutOfRange("stage", k + 1, tr("a {name} cannot turn the next stage: it comes last", name=own.name))
        if design.train.stages[k].kind_of_pair is own:
            return design
        return give_kind(_external(design, k), k, own)
    design = _external(design, k)
    if kind in ("free sun", "sun driven"):
        design = with_set(design, k, tr("two rings"))
        n = set_number(design, k)
        assert n is not None
        design = with_free_sun(design, n, True)
        return design if kind == "free sun" else with_roles(design, n, ("sun", "ring 2", "ring"))
    return with_set(design, k, kind)


def added(design: Design, k: int, kind: str) -> tuple[Design, int]:
    """A stage of a kind behind stage k (before it where k does not end in what turns), and where it stands."""
    turns = design.train.stages[k].kind_of_pair.turns
    n = set_number(design, k)
    at = (k if n is None else design.train.placed[n].stages[-1]) + (1 if turns else 0)
    return exchanged(add_stage(design, k), at, kind), at


class Turned(Struct, frozen=True):
    """What a stage would be as another arrangement: the design, the place of the stage in it and its results alone,
    or why it cannot be."""

    kind: str
    design: Design | None
    at: int
    results: Results | None
    cannot: str = ""


def each_arrangement(design: Design, k: int, mode: str) -> Iterator[Turned]:
    """Every arrangement in place of stage k ("exchange") or behind it ("add"), one after the other."""
    for kind in arrangements():
        try:
            changed, at = added(design, k, kind) if mode == "add" else (exchanged(design, k, kind), k)
            results = evaluate(changed, QUICK)
        except OutOfRange as fault:
            yield Turned(kind, None, k, None, fault.reason)
        else:
            at = min(at, len(results.stages) - 1)
            yield Turned(kind, changed, at, results.alone(at))


def _external(design: Design, k: int) -> Design:
    """Stage k, which belongs to no set, as an external pair."""
    if design.train.stages[k].kind_of_pair is EXTERNAL:
        return design
    return give_kind(design, k, EXTERNAL)

"""Changes of a whole stage, by name: those that take longer than a hand waits, so that they are made beside the
window."""

from __future__ import annotations

from collections.abc import Callable

from cooper.document.models import Design
from cooper.editing.edit import tips_for_clearance
from cooper.editing.formulas import settled
from cooper.editing.make_sets import with_set, without_set
from cooper.editing.share_shifts import shared
from cooper.editing.stages import add_stage, branch_stage, move_stage, remove_stage, split_stage, take_off
from cooper.results.evaluate import evaluate
from cooper.results.result_tree import Results


def _shared(design: Design, k: int, rule: str) -> Design:
    return shared(design, evaluate(design), k, rule)


def _tips(design: Design, k: int) -> Design:
    return tips_for_clearance(design, evaluate(design).stages[k], k)


def _moved(design: Design, k: int, to: int) -> Design:
    step = 1 if to > k else -1
    for at in range(k, to, step):
        design = move_stage(design, at, step)
    return design


CHANGES: dict[str, Callable[..., Design]] = {
    "add": add_stage,
    "split": split_stage,
    "branch": branch_stage,
    "take off": take_off,
    "move": _moved,
    "remove": remove_stage,
    "share": _shared,
    "tips": _tips,
    "set": with_set,
    "apart": without_set,
}


def made(name: str, design: Design, *args: object) -> tuple[Design, Results] | None:
    """A design after a change of `CHANGES` with its formulas met, and its results; None where nothing is to be
    changed.

    Raises `OutOfRange` for what cannot be.
    """
    changed = CHANGES[name](design, *args)
    return None if changed == design else settled(changed)

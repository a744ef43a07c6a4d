"""How the sum of the profile shifts is shared between the two gears of a pair."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec.structs import replace

from cooper.arrays import Loose as Array
from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.gears.inputs import PairInput
from cooper.i18n.text import tr
from cooper.results.limits import workable
from cooper.results.pair_numbers import PairNumbers, pair_numbers
from cooper.results.power_flow import pair_now
from cooper.results.result_tree import Results, StageResults

POINTS, ROUNDS, REACH = 161, 5, 1.6

RULES: dict[str, tuple[str, Callable[[PairNumbers], Array]]] = {
    "sliding": (
        tr("equal specific sliding at both roots"),
        lambda n: n.gears[0].zeta_f - n.gears[1].zeta_f,
    ),
    "root": (tr("equal root safety"), lambda n: n.gears[0].S_F - n.gears[1].S_F),
    "thickness": (
        tr("equal tooth thickness at the critical section"),
        lambda n: n.gears[0].s_Fn - n.gears[1].s_Fn,
    ),
}
"""Rules by name: what is made equal, in words and as a difference that the right sharing brings to zero."""


NO_UNDERCUT = "undercut"
"""The rule that moves the shifts no further than neither gear's being undercut asks for."""


def _without_undercut(now: StageResults, x_1: float, total: float) -> float:
    # The least shift is a generating one; the nominal one lies above it by what the allowance takes.
    least = [g.x_min + g.x - g.x_E if "x_min" in g else float("-inf") for g in now.gears]
    low, high = least[0] + 1e-6, total - least[1] - 1e-6
    if low > high:
        raise OutOfRange(
            "x_1",
            x_1,
            tr(
                "with a sum of {total:.3f} one of the gears is always undercut: {low:.3f} and {total_2:.3f} "
                "are the least shifts",
                total=total,
                low=low,
                total_2=total - high,
            ),
        )
    return min(max(x_1, low), high)


def shared(design: Design, results: Results, stage: int, rule: str) -> Design:
    """The design with the present sum of shifts, and so the centre distance, kept and shared by a rule.

    Raises `OutOfRange` on x_1 where no sharing within what works brings both gears level.
    """
    doc, now = design.train.stages[stage], results.stages[stage]
    if not now.kind.shifts:
        raise OutOfRange("x_1", now.gears[0].x, tr("a {name} has no shift to share with", name=now.kind.name))
    x_1, total = now.gears[0].x, now.mesh.x_sum
    pair = pair_now(design.train, results, stage)
    if rule == NO_UNDERCUT:
        result = _without_undercut(now, x_1, total)
        if result == x_1:
            return design
    else:
        words, difference = RULES[rule]
        balanced = _balance(pair, total, difference, total / 2)
        if balanced is None:
            raise OutOfRange(
                "x_1", x_1, tr("no sharing of the shifts gives {words} while both gears can be made", words=words)
            )
        result = balanced
    paths = {i: f"{path}.x" for i, path in enumerate(doc.paths, 1)}
    values = {1: result, 2: total - result}
    # The one that is solved follows by itself.
    free = next((i for i in (1, 2) if f"x_{i}" in now.solved), None)
    return set_many(design, {paths[i]: values[i] for i in (1, 2) if i != free})


def _balance(pair: PairInput, total: float, difference: Callable[[PairNumbers], Array], middle: float) -> float | None:
    """The x_1 nearest to an even sharing at which the difference changes sign, by ever finer grids."""

    def look(x_1: Array) -> tuple[Array, Array]:
        one, two = pair.gears
        gears = (replace(one, x=x_1), replace(two, x=total - x_1))
        with np.errstate(all="ignore"):
            n = pair_numbers(replace(pair, gears=gears))
            return difference(n), workable(n)

    grid = np.linspace(middle - REACH, middle + REACH, POINTS)
    ends = None
    for _ in range(ROUNDS):
        value, good = look(grid)
        both = np.logical_and(good[:-1], good[1:])
        change = np.logical_and(both, np.sign(value[:-1]) != np.sign(value[1:]))
        if not change.any():
            return None
        k = int(np.argmin(np.where(change, np.abs(grid[:-1] - middle), np.inf)))
        ends = grid[k], grid[k + 1]
        if value[k] == value[k + 1]:
            break
        middle = float(ends[0])
        grid = np.linspace(ends[0], ends[1], POINTS)
    assert ends is not None
    return float((ends[0] + ends[1]) / 2)

"""The sum of the profile shifts shared so that both roots are equally safe: found by rating, as arrays over designs."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array
from cooper.results.solve_stage import solve_duty
from cooper.survey.design_batch import DesignBatch
from cooper.survey.rated import Load, strength

STEPS = 6
FIRST = 0.15
"""First step of the shift."""
REACH = 0.6
"""How far from where it began a shift goes at most."""
DIGITS = 3


def equal_roots(block: DesignBatch) -> DesignBatch:
    """The designs with the shifts of every external pair whose sum is given moved to where S_F of both gears is the
    same, by secants.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.

    Returns
    -------
    DesignBatch
        The designs, shifts moved.

    Notes
    -----
    Where that cannot be reached, or one of them would be undercut, the nearest that was seen stays. Which load bends
    the teeth makes no difference to their ratio.
    """
    train = block.design.train
    _, T, omega = solve_duty(train.duty)
    n = len(block)
    load = Load(np.full(n, T), np.full(n, omega))
    for k in range(len(train.stages)):
        one = train.stages[k].within
        paths = [_path(block, k, i) for i in (0, 1)]
        if paths[0] not in block.columns or train.stages[k].kinds[1].inward or (one is not None and k > one.first):
            continue
        block = _of_stage(block, k, paths, load)
    return block


def _path(block: DesignBatch, k: int, i: int) -> str:
    return f"{block.design.train.stages[k].paths[i]}.x"


def _of_stage(block: DesignBatch, k: int, paths: list[str], load: Load) -> DesignBatch:
    start = block.columns[paths[0]]
    # A given distance keeps the sum by itself.
    total = start + block.columns[paths[1]] if paths[1] in block.columns else None

    def at(x: Array) -> tuple[DesignBatch, Array]:
        x = np.round(x, DIGITS)
        columns = {paths[0]: x} if total is None else {paths[0]: x, paths[1]: np.round(total - x, 6)}
        some = block.more(columns)
        checks, shape, _ = strength(some, k, load, whole=False)
        safety = [next(c.value for c in checks if c.symbol.startswith("S_F") and c.index == i) for i in (1, 2)]
        cut = sum(np.asarray(g.undercut) for g in shape.gears) > 0
        return some, np.where(cut, np.nan, np.log(safety[0] / safety[1]))

    _, now = at(start)
    best, off = start.copy(), np.where(np.isnan(now), np.inf, np.abs(now))
    x, step = start, np.where(now > 0, -FIRST, FIRST)
    for _ in range(STEPS):
        tried = np.clip(x + step, start - REACH, start + REACH)
        _, result = at(tried)
        better = np.abs(result) < off
        best, off = np.where(better, tried, best), np.where(better, np.abs(result), off)
        with np.errstate(all="ignore"):
            slope = (result - now) / (tried - x)
            following = -result / slope
        # Back by half where it cannot be there.
        lost = ~np.isfinite(following)
        x, now = np.where(lost, x, tried), np.where(lost, now, result)
        step = np.where(lost, step / 2, np.clip(following, -0.4, 0.4))
    return at(best)[0]

"""Widths solved so that the checks which the load decides just hold, as arrays over designs."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from cooper.arrays import Array
from cooper.results.result_tree import Check

STEPS = 7
"""Steps of the search, at most."""
CLOSE = 1.02
"""A width is narrow enough that is within this of one which fails."""
NARROWER = (0.7, 0.45)
"""Widths, over the widest, that are tried where the widest one fails by little: under its shaft a wide gear leans
more."""
LITTLE = -0.3
ROOTS = {"S_H": 2.0, "S_Hst": 2.0, "S_HA": 2.0, "S_Heq": 2.0}
"""How the width that is needed grows with the safety that is missing: with its square for flanks, else with itself."""
GREATEST_STEP = 8.0
HALVING = 4
"""Step from which on the range is halved."""

STILL = 0.4
"""Share of the designs that are looked at together, still too wide, below which the others are put aside: their
teeth are then shaped anew."""
SLOPES = (0.08, 3.0)
"""Least and greatest rise of log(safety) over log(width) that is believed."""

Judge = Callable[[NDArray[np.intp], Array], list[Check]]
"""The checks of some designs at given widths."""


def _log(margin: Array) -> Array:
    """The logarithm of the safety over what is asked for."""
    return np.log(np.maximum(1 + margin, 1e-3))


def least_margin(checks: list[Check], shown: tuple[str, ...], n: int) -> Array:
    """The least margin of the checks that are asked for; what cannot be computed fails.

    Parameters
    ----------
    checks : list[Check]
        Checks of the designs.
    shown : tuple[str, ...]
        Checks that have to hold, by identity.
    n : int
        Number of designs.

    Returns
    -------
    Array
        Margins.
    """
    worst = np.full(n, np.inf)
    for c in checks:
        if c.symbol not in shown:
            worst = np.fmin(worst, np.where(np.isnan(c.margin), -np.inf, c.margin))
    return worst


def needed(checks: list[Check], shown: tuple[str, ...], b: Array) -> Array:
    """The width at which the worst check would just hold, if its safety grew with the width as simple as it can.

    Parameters
    ----------
    checks : list[Check]
        Checks of the designs.
    shown : tuple[str, ...]
        Checks that have to hold, by identity.
    b : Array
        Face width of the checks (mm).

    Returns
    -------
    Array
        Face width (mm).
    """
    factor = np.zeros(len(b))
    for c in checks:
        if c.symbol in shown:
            continue
        have = np.maximum(1 + np.where(np.isnan(c.margin), -1.0, c.margin), 1e-3)
        factor = np.maximum(factor, have ** -ROOTS.get(c.symbol, 1.0))
    return b * np.clip(factor, 1 / GREATEST_STEP, GREATEST_STEP)


def solve_widths(
    judge: Judge, shown: tuple[str, ...], low: Array, high: Array, at_high: list[Check], unit: float
) -> Array:
    """The least widths that hold.

    Parameters
    ----------
    judge : Judge
        Checks at given widths.
    shown : tuple[str, ...]
        Checks that have to hold, by identity.
    low : Array
        Least widths (mm).
    high : Array
        Greatest widths (mm).
    at_high : list[Check]
        Checks at the greatest width.
    unit : float
        Step to which the widths are rounded up (mm).

    Returns
    -------
    Array
        Widths (mm), NaN where none was found.
    """
    n = len(low)
    margin = least_margin(at_high, shown, n)
    good, bad = np.where(margin >= 0, high, np.nan), low * (1 - 1e-9)
    guess = needed(at_high, shown, high)
    last, safe = np.log(high), _log(margin)
    for share in NARROWER:
        rows = np.flatnonzero(np.isnan(good) & (margin > LITTLE) & (share * high > low))
        if len(rows):
            b = share * high[rows]
            checks = judge(rows, b)
            result = least_margin(checks, shown, len(rows))
            good[rows[result >= 0]] = b[result >= 0]
            guess[rows], last[rows], safe[rows] = needed(checks, shown, b), np.log(b), _log(result)
    rows = np.flatnonzero(np.isfinite(good) & (good > low))
    going = np.ones(len(rows), dtype=bool)
    for step in range(STEPS):
        if not len(rows):
            break
        lo, hi, first = bad[rows], good[rows], low[rows]
        # Secant step with 0.6 % margin; bisect (geometric mean) if it leaves the bracket or stalls. A guess below the
        # least width becomes the least width, unless a width below the guess is known to fail.
        b = guess[rows] * 1.006
        astray = (b <= lo) & (lo >= first) | (b >= hi * (1 - 1e-12)) | (step >= HALVING)
        # Those that are narrow enough already stay among the others, as they are, until there are many of them.
        b = np.where(going, np.maximum(np.where(astray, np.sqrt(lo * hi), b), first), hi)
        result = least_margin(judge(rows, b), shown, len(rows))
        holds = result >= 0
        good[rows[holds & going]], bad[rows[~holds & going]] = b[holds & going], b[~holds & going]
        # From now on along the line through the last two widths.
        at, now = np.log(b), _log(result)
        with np.errstate(all="ignore"):
            slope = np.clip(np.nan_to_num((now - safe[rows]) / (at - last[rows]), nan=0.5), *SLOPES)
        guess[rows] = np.exp(at - now / slope)
        last[rows], safe[rows] = at, now
        going &= (good[rows] > CLOSE * bad[rows]) & (good[rows] > low[rows] * (1 + 1e-9))
        if np.sum(going) < STILL * len(rows):
            rows, going = rows[going], going[going]
    # Rounded up, as far as there is room.
    return np.asarray(np.minimum(np.ceil(good / unit - 1e-9) * unit, np.where(high >= good, high, np.inf)))

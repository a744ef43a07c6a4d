"""The range in which a quantity can move, all else kept: found on the real evaluation."""

from __future__ import annotations

from collections.abc import Callable

from cooper.document.models import Design
from cooper.errors import OutOfRange

STEPS = 26


def working_range(
    works: Callable[[float], bool], now: float, low: float, high: float, whole: bool = False, steps: int = STEPS
) -> tuple[float, float]:
    """Ends of the interval around the working value ``now``, within low..high, in which ``works`` stays true.

    Each side is first widened by doubling and then bisected; whole numbers end at whole numbers.

    >>> lo, hi = working_range(lambda v: 2 <= v <= 7, 5.0, 0.0, 100.0)
    >>> round(lo, 4), round(hi, 4)
    (2.0, 7.0)
    """
    return _end(works, now, low, whole, steps), _end(works, now, high, whole, steps)


def _end(works: Callable[[float], bool], now: float, limit: float, whole: bool, steps: int) -> float:
    sign = 1.0 if limit > now else -1.0
    good, step = now, max(abs(now) * 0.05, 0.05)
    if whole:
        step = max(1.0, round(step))
    while True:
        trial = good + sign * step
        if sign * (trial - limit) >= 0:
            if works(limit):
                return limit
            bad = limit
            break
        if not works(trial):
            bad = trial
            break
        good, step = trial, step * 2
    for _ in range(steps):
        if whole and abs(bad - good) <= 1:
            break
        mid = (good + bad) / 2
        if whole:
            mid = float(round(mid))
        if works(mid):
            good = mid
        else:
            bad = mid
        if not whole and abs(bad - good) < 1e-6 * max(1.0, abs(good)):
            break
    return good


def works_as(make: Callable[[float], Design]) -> Callable[[float], bool]:
    """Whether the design made from a value can be evaluated."""
    from cooper.results.evaluate import works

    def makes(value: float) -> bool:
        try:
            return works(make(value))
        except OutOfRange:
            return False

    return makes

"""The range in which a quantity can move, all else kept: found on the real evaluation."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import cache

from cooper.document.models import Design
from cooper.errors import OutOfRange
from cooper.results.evaluate import fits, works, works_for_now

STEPS = 26

Try = Callable[[float], bool]
Range = tuple[float, float]


def each_range(
    trials: tuple[Try, ...], now: float, low: float, high: float, whole: bool = False, steps: int = STEPS
) -> Iterator[Range]:
    """The interval around the working value ``now``, within low..high, in which the last of ``trials`` stays true,
    as far as it is known after each value tried; the last one is whole.

    A trial tells in less time what those after it need: where it fails they fail. Each side is first widened by
    doubling and then bisected by the first; an end that the next does not take is looked for with that one, nearer.
    Whole numbers end at whole numbers.

    >>> *_, (lo, hi) = each_range((lambda v: v <= 9, lambda v: 2 <= v <= 7), 5.0, 0.0, 100.0)
    >>> round(lo, 4), round(hi, 4)
    (2.0, 7.0)
    """
    first = now
    for first in _each_end(trials, now, low, whole, steps):
        yield first, now
    for last in _each_end(trials, now, high, whole, steps):
        yield first, last


def _each_end(trials: tuple[Try, ...], now: float, limit: float, whole: bool, steps: int) -> Iterator[float]:
    """The end towards a limit: where the first trial ends, or before it, where the others do."""
    good, others = now, trials[1:]
    for good in _each_bisected(trials[0], now, limit, whole, steps):
        if not others:
            yield good
        else:
            # What the others say of it is still open.
            yield now
    if others:
        if good == now or all(trial(good) for trial in others):
            yield good
        else:
            yield now
            yield from _each_end(others, now, good, whole, steps)


def _each_bisected(trial: Try, now: float, limit: float, whole: bool, steps: int) -> Iterator[float]:
    sign = 1.0 if limit > now else -1.0
    good, step = now, max(abs(now) * 0.05, 0.05)
    if whole:
        step = max(1.0, round(step))
    while True:
        value = good + sign * step
        if sign * (value - limit) >= 0:
            if trial(limit):
                yield limit
                return
            bad = limit
            break
        if not trial(value):
            bad = value
            break
        good, step = value, step * 2
        yield good
    for _ in range(steps):
        yield good
        if whole and abs(bad - good) <= 1:
            break
        mid = (good + bad) / 2
        if whole:
            mid = float(round(mid))
        if trial(mid):
            good = mid
        else:
            bad = mid
        if not whole and abs(bad - good) < 1e-6 * max(1.0, abs(good)):
            break
    yield good


def trials_of(make: Callable[[float], Design]) -> tuple[Try, ...]:
    """Whether the gears of the design made from a value fit, and whether it can be evaluated."""
    made = cache(make)

    def told(of: Callable[[Design], bool]) -> Try:
        def tell(value: float) -> bool:
            try:
                return of(made(value))
            except OutOfRange:
                return False

        return tell

    return told(fits), told(works_for_now), told(works)

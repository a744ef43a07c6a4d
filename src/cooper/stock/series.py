"""Standard series along which a value steps: modules and diametral pitches."""

from __future__ import annotations

from functools import cache

from cooper.stock.files import load


@cache
def modules() -> tuple[float, ...]:
    """Standard modules in mm, ascending: ISO 54 series I and II, and the customary ones below 1 mm."""
    data = load("series")
    return tuple(sorted(map(float, data["module_fine"] + data["module_I"] + data["module_II"])))


@cache
def preferred_modules() -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Modules of ISO 54, series I with the customary ones below 1 mm, and series II; mm.

    >>> [2.0 in row for row in preferred_modules()], [2.25 in row for row in preferred_modules()]
    ([True, False], [False, True])
    """
    data = load("series")
    return tuple(map(float, data["module_fine"] + data["module_I"])), tuple(map(float, data["module_II"]))


@cache
def diametral_pitches() -> tuple[float, ...]:
    """Customary diametral pitches in 1/in, ascending."""
    return tuple(sorted(map(float, load("series")["diametral_pitch"])))


def neighbour(value: float, series: tuple[float, ...], step: int) -> float:
    """The next value of an ascending series above (step 1) or below (step -1) the given one; its end at the end.

    >>> neighbour(2.5, (2.0, 2.25, 2.5, 2.75, 3.0), 1)
    2.75
    >>> neighbour(2.6, (2.0, 2.25, 2.5, 2.75, 3.0), -1)
    2.5
    """
    tiny = 1e-9 * abs(value)
    if step > 0:
        return next((v for v in series if v > value + tiny), series[-1])
    return next((v for v in reversed(series) if v < value - tiny), series[0])

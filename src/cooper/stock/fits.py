"""Tolerance classes of lengths by ISO 286."""

from __future__ import annotations

from bisect import bisect_left

from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.stock.files import load


def grades() -> tuple[int, ...]:
    """Numbers of the standard tolerance grades, finest first."""
    return tuple(int(k) for k in load("it_grades")["IT"])


def standard_tolerance(size: float, grade: int) -> float:
    """Standard tolerance IT (mm) of a nominal size (mm). ISO 286-1:2010, Table 1; raises `OutOfRange` beyond it.

    >>> standard_tolerance(73.5, 7), standard_tolerance(80.0, 8), standard_tolerance(80.1, 8)
    (0.03, 0.046, 0.054)
    """
    data = load("it_grades")
    if str(grade) not in data["IT"]:
        raise OutOfRange("IT", grade, tr("no such grade"), low=float(min(grades())), high=float(max(grades())))
    row = bisect_left(data["up_to"], size)
    if not size > 0 or row == len(data["up_to"]):
        raise OutOfRange(
            "size", size, tr("the tolerance table ends there"), low=0.0, high=float(data["up_to"][-1]), unit="mm"
        )
    return float(data["IT"][str(grade)][row] / 1000)


def symmetric(size: float, grade: int) -> tuple[float, float]:
    """Upper and lower deviation of the class js (mm), as housings' centre distances have it.

    >>> symmetric(73.5, 7)
    (0.015, -0.015)
    """
    half = standard_tolerance(size, grade) / 2
    return half, -half


PRESSED = ("p", "r", "s", "t", "u", "x")
"""Shafts that are pressed into H bores, from the lightest to the heaviest."""


def shaft_deviations(d: float, letter: str, grade: int) -> tuple[float, float] | None:
    """Upper and lower deviation (mm) of a shaft of size d such as r6; None where it is not defined. ISO 286-1:2010,
    ISO 286-2.

    >>> shaft_deviations(30.0, "k", 6), shaft_deviations(60.0, "r", 6)
    ((0.015, 0.002), (0.06, 0.041))
    """
    data = load("shaft_fits")
    row = bisect_left(data["up_to"], d)
    if row == len(data["up_to"]) or data["ei"][letter][row] is None:
        return None
    ei = data["ei"][letter][row] / 1000
    return round(ei + standard_tolerance(d, grade), 6), ei


def interference(d: float, letter: str) -> tuple[float, float] | None:
    """Least and greatest interference (mm) of H7 with a shaft of grade 6; None where it is not defined or the least
    is a gap.

    >>> interference(50.0, "s")
    (0.018, 0.059)
    """
    result = shaft_deviations(d, letter, 6)
    if result is None:
        return None
    least = round(result[1] - standard_tolerance(d, 7), 6)
    return (least, result[0]) if least > 0 else None

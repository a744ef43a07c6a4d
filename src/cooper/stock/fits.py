"""Tolerance classes of lengths by ISO 286."""

from __future__ import annotations

from bisect import bisect_left

from cooper.errors import OutOfRange
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
        raise OutOfRange("IT", grade, "no such grade", low=float(min(grades())), high=float(max(grades())))
    row = bisect_left(data["up_to"], size)
    if not size > 0 or row == len(data["up_to"]):
        raise OutOfRange(
            "size", size, "the tolerance table ends there", low=0.0, high=float(data["up_to"][-1]), unit="mm"
        )
    return float(data["IT"][str(grade)][row] / 1000)


def symmetric(size: float, grade: int) -> tuple[float, float]:
    """Upper and lower deviation of the class js (mm), as housings' centre distances have it.

    >>> symmetric(73.5, 7)
    (0.015, -0.015)
    """
    half = standard_tolerance(size, grade) / 2
    return half, -half

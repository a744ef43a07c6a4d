"""Tooth thickness allowances by series and tolerance class."""

from __future__ import annotations

from bisect import bisect_left

from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.stock.files import load


def series() -> tuple[str, ...]:
    """Letters of the allowance series, thinnest teeth first."""
    return tuple(load("allowances")["E_sns"])


def classes() -> tuple[int, ...]:
    """Numbers of the tolerance classes, finest first."""
    return tuple(int(k) for k in load("allowances")["T_sn"])


def thickness_allowances(d: float, letter: str, number: int) -> tuple[float, float]:
    """Upper and lower tooth thickness allowance E_sns, E_sni (mm) of a reference diameter d (mm). DIN 3967:1978.

    Raises `OutOfRange` for diameters, series or classes that the tables do not hold.

    >>> thickness_allowances(100.0, "cd", 25)
    (-0.07, -0.11)
    """
    data = load("allowances")
    if letter not in data["E_sns"] or str(number) not in data["T_sn"]:
        raise OutOfRange(
            "E_sns", f"{letter}{number}", tr("series are {series}, classes 21 to 30", series=", ".join(series()))
        )
    row = bisect_left(data["up_to"], d)
    if not d > 0 or row == len(data["up_to"]):
        raise OutOfRange(
            "d", d, tr("the allowance tables end there"), low=0.0, high=float(data["up_to"][-1]), unit="mm"
        )
    upper = data["E_sns"][letter][row]
    return upper / 1000, (upper - data["T_sn"][str(number)][row]) / 1000

"""Radial shaft seals by the shaft's diameter, and the speed that their lips bear."""

from __future__ import annotations

from functools import cache

from msgspec import Struct

from cooper.i18n.text import tr
from cooper.stock.files import load


class Seal(Struct, frozen=True):
    """One seal: diameter of the shaft ``d``, outside ``D``, width ``b``; mm."""

    d: float
    D: float
    b: float

    @property
    def designation(self) -> str:
        """What it is ordered by.

        >>> seal_for(24.0).designation
        'ISO 6194-1, 25 x 40 x 7'
        """
        return tr("ISO 6194-1, {d:g} x {D:g} x {b:g}", d=self.d, D=self.D, b=self.b)


@cache
def seals() -> tuple[Seal, ...]:
    """All seals by the shaft's diameter."""
    return tuple(Seal(*row) for row in load("shaft_seals")["seals"])


def seal_for(least: float, most: float = float("inf")) -> Seal | None:
    """The smallest seal for a shaft of at least and at most these diameters (mm); None where there is none."""
    return next((s for s in seals() if least - 1e-9 <= s.d <= most + 1e-9), None)


def seal_speed(material: str) -> float:
    """Speed (m/s) that a lip of a material (NBR, FKM) customarily bears.

    >>> seal_speed("NBR")
    14.0
    """
    return float(load("shaft_seals")["speed"][material])


def seals_beside(d: float) -> tuple[float, float]:
    """The shaft's diameters of the seals next below and above one; mm.

    >>> seals_beside(33.0)
    (32.0, 35.0)
    """
    sizes = [s.d for s in seals()]
    return max((v for v in sizes if v <= d), default=sizes[0]), min((v for v in sizes if v >= d), default=sizes[-1])

"""Typical oils, as a start for the duty's lubricant fields."""

from __future__ import annotations

from functools import cache

from msgspec import Struct

from cooper.i18n.text import term
from cooper.stock.files import load


class Oil(Struct, frozen=True):
    """Kinematic viscosity at 40 and 100 degrees C in mm2/s, density at 15 degrees C in kg/m3, lubricant factor."""

    name: str
    nu_40: float
    nu_100: float
    rho_15: float
    X_L: float = 1.0

    @property
    def kind(self) -> str:
        """What the oil is made of, as its name begins."""
        return self.name.partition(" ISO")[0]


@cache
def oils() -> dict[str, Oil]:
    """The oils by name.

    >>> oils()["mineral ISO VG 220"].nu_40
    220
    """
    return {name: Oil(name, **row) for name, row in load("lubricants")["lubricants"].items()}


def oil_word(name: str) -> str:
    """The name of an oil as it is shown: one of the data file is a word of the program, another one a person's own."""
    return term(name) if name in oils() else name

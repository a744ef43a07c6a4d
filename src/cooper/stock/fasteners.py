"""What holds rings and hubs along a shaft or in a bore: retaining rings, slotted round nuts with tab washers."""

from __future__ import annotations

from functools import cache
from math import pi

from msgspec import Struct

from cooper.i18n.text import tr
from cooper.stock.files import load

GROOVE_SHARE = 1.2
"""By how much less a groove bears than the yield of its whole ring of area, for a land three times as wide as the
groove is deep. DIN 471, DIN 472."""


class RetainingRing(Struct, frozen=True):
    """One retaining ring with its groove: diameter of shaft or bore ``d``, of the groove's ground ``d_2``, least width
    ``m`` of the groove, thickness ``s`` of the ring, least width ``n`` of the land outside of it (mm); whether it sits
    in a bore."""

    d: float
    d_2: float
    m: float
    s: float
    n: float
    inside: bool = False

    @property
    def width(self) -> float:
        """Radial width of the ring where it is widest; mm. Customary, by which it is drawn and weighed."""
        return 0.8 + 0.09 * self.d

    @property
    def designation(self) -> str:
        """What it is ordered by.

        >>> ring_on(30.0).designation, ring_in(62.0).designation
        ('DIN 471, 30 x 1.5', 'DIN 472, 62 x 2')
        """
        return tr("{standard}, {d:g} x {s:g}", standard="DIN 472" if self.inside else "DIN 471", d=self.d, s=self.s)

    @property
    def mass(self) -> float:
        """Mass; kg."""
        return 7.85e-6 * pi * self.d * self.width * 0.8 * self.s

    def load(self, R_e: float) -> float:
        """Axial load (N) that the groove bears without yielding, by the yield point of shaft or housing (MPa).

        F_N = pi/4 |d^2 - d_2^2| R_e / 1.2.

        >>> round(ring_on(20.0).load(200.0)), round(ring_on(30.0).load(200.0))
        (5105, 10739)
        """
        return pi / 4 * abs(self.d**2 - self.d_2**2) * R_e / GROOVE_SHARE


@cache
def rings(inside: bool = False) -> tuple[RetainingRing, ...]:
    """All retaining rings by rising diameter: of shafts (DIN 471) or of bores (DIN 472)."""
    rows = load("retaining_rings")["bores" if inside else "shafts"]
    return tuple(RetainingRing(d, d_2, m, s, n, inside) for d, d_2, m, s, n in rows)


def ring_on(d: float) -> RetainingRing | None:
    """The greatest retaining ring for a shaft of at most this diameter (mm); None where there is none near it.

    >>> ring_on(7.5).d, ring_on(2.0)
    (7.0, None)
    """
    return max((r for r in rings() if 0.85 * d <= r.d <= d + 1e-9), key=lambda r: r.d, default=None)


def ring_in(D: float) -> RetainingRing | None:
    """The retaining ring for a bore of this diameter (mm); None where none is made."""
    return next((r for r in rings(True) if abs(r.d - D) < 1e-9), None)


class LockNut(Struct, frozen=True):
    """A slotted round nut with its tab washer: thread diameter ``d`` and pitch ``P``, outside diameter ``D``, width
    ``B``, thickness of the washer ``t``; mm."""

    d: float
    P: float
    D: float
    B: float
    t: float

    @property
    def number(self) -> int:
        """Its number in the series.

        >>> nut_for(30.0).number, nut_for(12.0).number
        (6, 1)
        """
        return nuts().index(self)

    @property
    def mass(self) -> float:
        """Mass of nut and washer; kg."""
        return 7.85e-6 * pi / 4 * (self.D**2 - self.d**2) * (0.85 * self.B + self.t)

    @property
    def core(self) -> float:
        """Core diameter of the thread; mm. d_3 = d - 1.22687 P (ISO 724, DIN 13)."""
        return self.d - 1.22687 * self.P

    def load(self, R_e: float) -> float:
        """Axial load (N) at which the shaft's thread shears off, half of its length counted: 0.577 R_e pi d_3 B / 2."""
        return 0.577 * R_e * pi * self.core * self.B / 2


@cache
def nuts() -> tuple[LockNut, ...]:
    """All nuts by rising thread."""
    return tuple(LockNut(*row) for row in load("lock_nuts")["nuts"])


def nut_for(d: float) -> LockNut | None:
    """The nut of a thread as thick as a bearing's bore (mm); None where there is none."""
    return next((n for n in nuts() if abs(n.d - d) < 1e-9), None)

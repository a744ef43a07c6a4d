"""Basic rack profiles of ISO 53."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from cooper.stock.files import load


@dataclass(frozen=True)
class RackProfile:
    """Factors of m_n; the pressure angle in degrees, as in the standard's table."""

    name: str
    alpha_n: float
    h_aP: float
    h_fP: float
    rho_fP: float
    use: str


@cache
def rack_profiles() -> dict[str, RackProfile]:
    """The profiles by name.

    >>> rack_profiles()["A"].rho_fP
    0.38
    """
    return {name: RackProfile(name, **row) for name, row in load("racks")["racks"].items()}

"""Basic rack profiles: those of ISO 53 and other customary ones."""

from __future__ import annotations

from functools import cache
from math import cos, floor, pi, radians, sin, tan

from msgspec import Struct

from cooper.stock.files import load


class RackProfile(Struct, frozen=True):
    """Factors of m_n; the pressure angle in degrees, as in the standard's table. ``h_fP_extra`` is a length in mm."""

    name: str
    alpha_n: float
    h_aP: float
    h_fP: float
    rho_fP: float
    use: str
    h_fP_extra: float = 0.0

    def dedendum(self, m_n: float) -> float:
        """Dedendum factor at a module (mm), which fine-pitch racks make larger for small teeth.

        >>> round(rack_profiles()["20° fine pitch"].dedendum(0.5), 4)
        1.3016
        """
        return self.h_fP + self.h_fP_extra / m_n


@cache
def rack_profiles() -> dict[str, RackProfile]:
    """The profiles by name; a full fillet gets the greatest radius that the tip of the tool has room for.

    >>> rack_profiles()["ISO 53 A"].rho_fP, rack_profiles()["20° full fillet"].rho_fP
    (0.38, 0.4199)
    """
    rows = {}
    for name, row in load("racks")["racks"].items():
        if row["rho_fP"] is None:
            alpha = radians(row["alpha_n"])
            room = (pi / 4 - row["h_fP"] * tan(alpha)) * cos(alpha) / (1 - sin(alpha))
            row = {**row, "rho_fP": floor(room * 1e4) / 1e4}
        rows[name] = RackProfile(name, **row)
    return rows

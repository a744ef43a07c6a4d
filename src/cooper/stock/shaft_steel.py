"""Steels for shafts, and their strength by diameter. DIN 743-2 and -3:2012."""

from __future__ import annotations

from math import log10

from msgspec import Struct

from cooper.stock.files import load


class ShaftSteel(Struct, frozen=True):
    """A steel: kind (structural, quenched and tempered, case-hardening), strength ``sigma_B`` and yield point
    ``sigma_S`` at the diameter ``d_B`` (mm), and fatigue strength ``sigma_W`` of the polished bar in tension, bending,
    torsion; MPa."""

    name: str
    kind: str
    sigma_B: float
    sigma_S: float
    sigma_W: tuple[float, float, float]


def shaft_steels() -> tuple[str, ...]:
    """Names of the steels in the data file."""
    return tuple(load("shaft_steels")["steels"])


def shaft_steel(name: str) -> ShaftSteel:
    """A steel by its name.

    >>> shaft_steel("C45E+QT").sigma_W
    (280.0, 350.0, 210.0)
    """
    row = load("shaft_steels")["steels"][name]
    B = float(row["sigma_B"])
    W = row.get("sigma_W") or [round(f * B, 6) for f in (0.4, 0.5, 0.3)]
    return ShaftSteel(name, row["kind"], B, float(row["sigma_S"]), (float(W[0]), float(W[1]), float(W[2])))


def size_factor(kind: str, d: float, of_yield: bool = False) -> float:
    """Technological size factor K_1 of strength (also of fatigue), or of the yield point, at the diameter d of the
    heat treatment; mm.

    K_1 = 1 - c lg(d / d_1) from d_1 to 300 mm, a least value above. DIN 743-2:2012, 7.1.

    >>> round(size_factor("quenched and tempered", 50.0), 4), round(size_factor("quenched and tempered", 50.0, True), 4)
    (0.8713, 0.8318)
    """
    d_1, c, least = load("shaft_steels")["size"][kind]["S" if of_yield else "B"]
    return float(max(1 - c * log10(max(d, d_1) / d_1), least))

"""Data of ANSI/AGMA 2101-D04: stress numbers, life, alignment, reliability."""

from __future__ import annotations

from typing import Any

from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.stock.files import load
from cooper.stock.materials import GRADES, groups


def table(name: str) -> dict[str, Any]:
    """One table of the data file: mounting, reliability or groups."""
    rows: dict[str, Any] = load("agma")[name]
    return rows


def agma_numbers(group: str, grade: str, hardness: float) -> tuple[float, float, str, float]:
    """Allowable contact and bending stress numbers (MPa), the kind of life curve and the Brinell hardness (nan: surface
    hardened) of a material group at a hardness on its own scale; raises `OutOfRange` for a group without numbers there.

    >>> [round(v, 1) for v in agma_numbers("V", "ML", 300.0)[:2]]
    [832.7, 240.2]
    """
    row = table("groups").get(group)
    if row is None:
        held = ", ".join(table("groups"))
        raise OutOfRange(
            "material", group, tr("ANSI/AGMA 2101-D04 has no stress numbers for it; it has them for {held}", held=held)
        )
    n = GRADES.index(grade)
    factor = groups()[group]["HB_per_hardness"]
    HB = hardness * factor if factor else float("nan")
    at = min(max(HB, row["HB"][0]), row["HB"][1]) if "HB" in row else 0.0
    (a_H, b_H), (a_F, b_F) = row["H"][n], row["F"][n]
    return a_H * at + b_H, a_F * at + b_F, row["life"], HB

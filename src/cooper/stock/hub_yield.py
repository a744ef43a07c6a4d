"""Yield points of hubs by material group."""

from __future__ import annotations

from cooper.stock.files import load
from cooper.stock.materials import groups


def hub_yield(group: str, hardness: float, R_p02: float | None = None) -> float:
    """Yield point (MPa) that counts in a hub: as entered, from the hardness, or typical of the group.

    >>> hub_yield("Eh", 700.0), hub_yield("Eh", 700.0, 850.0)
    (700.0, 850.0)
    """
    if R_p02 is not None:
        return float(R_p02)
    per = groups()[group].get("R_p02_per_hardness")
    if per is not None:
        return float(per) * hardness
    return float(load("hub_yield")["R_e"].get(group, 200.0))

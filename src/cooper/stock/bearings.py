"""Simple friction data of rolling bearings by type."""

from __future__ import annotations

from cooper.stock.files import load


def bearing(kind: str) -> tuple[float, float, float]:
    """Friction coefficient, oil factor f_0 and mean diameter over bore of a type.

    >>> bearing("deep groove ball")
    (0.0015, 2.0, 1.45)
    """
    data = load("bearings")
    row = data["types"][kind]
    return row["mu"], row["f_0"], data["mean_over_bore"]


def bearing_types() -> tuple[str, ...]:
    """The types in the data file."""
    return tuple(load("bearings")["types"])

"""The hub of a gear beyond its teeth."""

from __future__ import annotations

from math import pi

from cooper.machine.shaft_making import is_carrier
from cooper.machine.shaft_model import MadeShaft

STEEL = 7.85e-6
"""Density of steel; kg/mm3."""
HUB_OUTSIDE = 1.6
"""Outside diameter of a hub beyond the teeth over its bore. Customary for steel."""


def hub_ends(made: MadeShaft) -> list[tuple[str, float, float, float]]:
    """The parts of hubs beyond their teeth: the gear, from where to where (mm), and the bore (mm); as far as the hub is
    no ring's, carrier's or cut into the shaft.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.

    Returns
    -------
    list[tuple[str, float, float, float]]
        Gear, start, end and bore (mm) of each part.
    """
    result = []
    for seat in made.wish.seats:
        piece = next(p for p in made.pieces if p.on == seat.gear)
        joint = next((j for j in made.joints if j.gear == seat.gear), None)
        if seat.inward or joint is None or joint.kind == "integral" or is_carrier(seat.gear):
            continue
        low, high = seat.at - seat.b / 2, seat.at + seat.b / 2
        ends = ((piece.start, min(low, piece.end)), (max(high, piece.start), piece.end))
        result += [(seat.gear, start, end, piece.d) for start, end in ends if end > start + 1e-6]
    return result


def hub_mass(made: MadeShaft, gear: str = "") -> float:
    """Mass of the hubs of a shaft beyond their teeth, or of one gear's; kg.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    gear : str
        Identity of the gear; empty for all of them.

    Returns
    -------
    float
        Mass (kg).
    """
    ends = [e for e in hub_ends(made) if not gear or e[0] == gear]
    return sum(STEEL * pi / 4 * ((HUB_OUTSIDE * d) ** 2 - d**2) * (end - start) for _g, start, end, d in ends)

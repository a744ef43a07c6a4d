"""Outlines as they are cut or printed: grown or shrunk by a constant distance along their normal."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Loose as Array
from cooper.errors import OutOfRange
from cooper.i18n.text import tr


def grown(outline: Array, distance: float, internal: bool = False) -> Array:
    """A closed outline moved by ``distance`` (mm) along its normal, out of the metal when positive; (n, 2) in mm.

    For a kerf this is half the width that the tool burns away; a process that makes parts too large needs a negative
    one. The metal of an internal gear lies outside its outline. Raises `OutOfRange` where nothing, or more than one
    piece, is left of the tooth shape.
    """
    if distance == 0:
        return outline
    # Imported here, since the program's start does not need it.
    from shapely import Polygon

    moved = Polygon(outline).buffer(-distance if internal else distance, quad_segs=32)
    if moved.is_empty or moved.geom_type != "Polygon" or len(moved.interiors):
        raise OutOfRange(
            "compensation",
            distance,
            tr("the outline closes on itself: spaces or teeth are narrower than that"),
            unit="mm",
        )
    points = np.asarray(moved.exterior.coords)[:-1]
    if np.ptp(np.hypot(*points.T)) < 0.5 * np.ptp(np.hypot(*outline.T)):
        raise OutOfRange("compensation", distance, tr("hardly anything of the teeth would be left"), unit="mm")
    x, y = points.T
    # The library turns clockwise or counter-clockwise as it likes; the rest of Cooper expects the latter.
    area = float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))
    return points if area > 0 else points[::-1]


def grown_diameter(diameter: float, distance: float, internal: bool = False) -> float:
    """The bore's circle, or the rim's of an internal gear, moved with the outline; mm."""
    if diameter <= 0:
        return diameter
    return diameter + 2 * distance if internal else diameter - 2 * distance

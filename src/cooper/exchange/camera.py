"""How a train's solids are looked at."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Loose as Array

Color = tuple[float, float, float]


class Camera(Struct, frozen=True):
    """Turn about the upright and tilt; rad."""

    yaw: float = 0.6
    pitch: float = 0.45

    @property
    def axes(self) -> Array:
        """Rows: right, up and towards the viewer, in the train's frame."""
        c, s = np.cos(self.yaw), np.sin(self.yaw)
        d, t = np.cos(self.pitch), np.sin(self.pitch)
        return np.array([[c, 0.0, s], [t * s, d, -t * c], [-d * s, t, d * c]])

    def seen(self, points: Array) -> Array:
        """Points in the viewer's frame: right, up, towards the viewer; (..., 3)."""
        return np.asarray(points) @ self.axes.T


class Sight(Struct, frozen=True):
    """How solids are looked at: turn of the input (rad), from where, width and height (pixels), and the colours of
    gears that drive, of those that are driven, of shafts and of edges."""

    turn: float
    camera: Camera
    size: tuple[int, int]
    driver: Color
    driven: Color
    shaft: Color
    ink: Color

"""From where a train's solids are looked at."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cooper.arrays import Loose as Array


@dataclass(frozen=True)
class Camera:
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

"""From the core's arrays to Qt's paths."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QByteArray, QDataStream, QIODevice, QPointF
from PySide6.QtGui import QPainterPath, QPolygonF

from cooper.arrays import Array


def polygon(points: Array) -> QPolygonF:
    """A polygon from (n, 2) points, through Qt's own stream format: one copy instead of n objects."""
    body = np.ascontiguousarray(points, dtype=">f8").tobytes()
    # The stream reads from this object, so it must live as long.
    data = QByteArray(len(points).to_bytes(4, "big") + body)
    stream = QDataStream(data, QIODevice.OpenModeFlag.ReadOnly)
    out = QPolygonF()
    stream >> out
    return out


def gear_path(one: Array, z: int, bore: float) -> QPainterPath:
    """Closed path of a whole gear about the origin from the outline of one tooth about +x; mm."""
    turn = 2 * np.pi * np.arange(z) / z
    c, s = np.cos(turn)[:, None], np.sin(turn)[:, None]
    x, y = one[:-1, 0], one[:-1, 1]
    points = np.stack((c * x - s * y, s * x + c * y), axis=-1).reshape(-1, 2)
    path = QPainterPath()
    path.addPolygon(polygon(points))
    path.closeSubpath()
    if bore > 0:
        path.addEllipse(QPointF(0, 0), bore / 2, bore / 2)
    return path

"""From the core's arrays to Qt's paths."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QByteArray, QDataStream, QIODevice, QPointF
from PySide6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from cooper.arrays import Loose as Array


def drop(widget: QWidget) -> None:
    """Take a widget away: out of sight at once, so that it is never painted again, and deleted later."""
    widget.hide()
    widget.deleteLater()


def polygon(points: Array) -> QPolygonF:
    """A polygon from (n, 2) points, through Qt's own stream format: one copy instead of n objects."""
    body = np.ascontiguousarray(points, dtype=">f8").tobytes()
    # The stream reads from this object, so it must live as long.
    data = QByteArray(len(points).to_bytes(4, "big") + body)
    stream = QDataStream(data, QIODevice.OpenModeFlag.ReadOnly)
    out = QPolygonF()
    stream >> out
    return out


def closed_path(points: Array) -> QPainterPath:
    """Closed path through (n, 2) points."""
    path = QPainterPath()
    path.addPolygon(polygon(points))
    path.closeSubpath()
    return path


def gear_path(one: Array, z: int, edge: float, coarse: Array | None = None, fine: Array | None = None) -> QPainterPath:
    """Closed path of a whole gear about the origin from the outline of one tooth about +x; mm.

    ``edge`` is the diameter of the bore, or of the outside of an internal gear; 0 for none.

    Where ``fine`` (a mask over the teeth) is false the outline ``coarse`` stands for ``one``.
    """
    turn = 2 * np.pi * np.arange(z) / z
    if coarse is None or fine is None or fine.all():
        points = _turned(one, turn).reshape(-1, 2)
    else:
        teeth: list[Array] = [None] * z
        for outline, mask in ((one, fine), (coarse, np.logical_not(fine))):
            for k, tooth in zip(np.flatnonzero(mask), _turned(outline, turn[mask]), strict=True):
                teeth[k] = tooth
        points = np.concatenate(teeth)
    path = QPainterPath()
    path.addPolygon(polygon(points))
    path.closeSubpath()
    if edge > 0:
        path.addEllipse(QPointF(0, 0), edge / 2, edge / 2)
    return path


def paint_outline(p: QPainter, path: QPainterPath, fill: QBrush | QColor | None, pen: QPen) -> None:
    """Fill and stroke a path of very many points. Filled without smoothed edges, which the line then covers: a third of the time."""
    if fill is not None:
        p.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        p.fillPath(path, fill)
        p.setRenderHint(QPainter.RenderHint.Antialiasing, True)
    p.strokePath(path, pen)


def _turned(one: Array, turn: Array) -> Array:
    """One tooth without its last point, turned to each angle; (angles, points, 2)."""
    c, s = np.cos(turn)[:, None], np.sin(turn)[:, None]
    x, y = one[:-1, 0], one[:-1, 1]
    return np.stack((c * x - s * y, s * x + c * y), axis=-1)

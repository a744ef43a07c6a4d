"""From the core's arrays to Qt's paths."""

from __future__ import annotations

from collections import OrderedDict

import numpy as np
from PySide6.QtCore import QByteArray, QDataStream, QIODevice, QPointF
from PySide6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from cooper.arrays import Loose as Array
from cooper.gears.tooth import Tooth
from cooper.kinds.section import Section
from cooper.results.pose import Placed


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


_ELEMENT = np.dtype([("kind", ">i4"), ("x", ">f8"), ("y", ">f8")])


def segments(ends: Array) -> QPainterPath:
    """A path of separate lines from (k, 2, 2) ends, by the same way.

    >>> segments(np.array([[[0, 0], [3, 4]], [[1, 1], [2, 1]]])).length()
    6.0
    """
    out = QPainterPath()
    if len(ends):
        body = np.empty((len(ends), 2), dtype=_ELEMENT)
        body["kind"] = [0, 1]  # move there, line there
        body["x"], body["y"] = ends[..., 0], ends[..., 1]
        count = 2 * len(ends)
        # Then where its last piece begins, and how it would be filled.
        data = QByteArray(count.to_bytes(4, "big") + body.tobytes() + (count - 2).to_bytes(4, "big") + bytes(4))
        QDataStream(data, QIODevice.OpenModeFlag.ReadOnly) >> out
    return out


def closed_path(points: Array) -> QPainterPath:
    """Closed path through (n, 2) points."""
    path = QPainterPath()
    path.addPolygon(polygon(points))
    path.closeSubpath()
    return path


CACHED_PATHS = 48
_PATHS: OrderedDict[tuple[object, ...], tuple[Tooth, QPainterPath]] = OrderedDict()


def section_path(section: Section, tolerance: float, coarse: float = 0.0, fine: Array | None = None) -> QPainterPath:
    """Closed path of a whole body about its own axis or datum line, with its bore or outside; mm. ``coarse`` and
    ``fine`` as there.

    The last ones are kept: an edit of one gear leaves the other, and the gear before lies beneath the new one.
    """
    teeth = b"" if fine is None or fine.all() else fine.tobytes()
    key = (type(section), id(section.tooth), section.bounds, section.edge, tolerance, coarse, teeth)
    kept = _PATHS.get(key)
    if kept is not None:
        _PATHS.move_to_end(key)
        return kept[1]
    path = closed_path(section.outline(tolerance, 0.0, coarse, fine))
    if section.edge > 0:
        path.addEllipse(QPointF(0, 0), section.edge / 2, section.edge / 2)
    # With its tooth, so that no other takes that one's place.
    _PATHS[key] = section.tooth, path
    if len(_PATHS) > CACHED_PATHS:
        _PATHS.popitem(last=False)
    return path


def paint_outline(p: QPainter, path: QPainterPath, fill: QBrush | QColor | None, pen: QPen) -> None:
    """Fill and stroke a path of very many points. Filled without smoothed edges, which the line then covers: a third
    of the time."""
    if fill is not None:
        p.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        p.fillPath(path, fill)
        p.setRenderHint(QPainter.RenderHint.Antialiasing, True)
    p.strokePath(path, pen)


def role_of(gear: Placed) -> str:
    """Colour role of a gear: green for what drives, slate for what is driven, planets among it."""
    return "driver" if gear.drives else "driven"

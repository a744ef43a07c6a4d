"""Marks painted on a tag: warning, deciding value, changed by the last edit."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF

from cooper.desk.base import theme as th
from cooper.results.result_tree import Note


def paint_marks(p: QPainter, t: th.Theme, box: QRectF, warned: Note | None, decides: str, changed: bool) -> None:
    """A corner for a warning, a line at the foot in the colour of the verdict that it decides, a dot for a change."""
    if warned is not None:
        # A corner in the colour of what the warning counts for.
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(t.color(warned.counts or "muted"))
        p.drawPolygon(
            QPolygonF([box.topLeft() + QPointF(1, 1), box.topLeft() + QPointF(9, 1), box.topLeft() + QPointF(1, 9)])
        )
    if decides:
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(t.color(decides))
        p.drawRoundedRect(QRectF(box.left() + 8, box.bottom() - 2.2, box.width() - 16, 2.2), 1, 1)
    if changed:
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(t.color("copper"))
        p.drawEllipse(QPointF(box.right() - 1.5, box.top() + 1.5), 2.4, 2.4)

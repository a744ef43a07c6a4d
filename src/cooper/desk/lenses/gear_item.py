"""A gear on the mesh drawing: its outline and circles."""

from __future__ import annotations

from math import cos, sin
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import (
    QGraphicsEllipseItem,
    QGraphicsPathItem,
    QStyleOptionGraphicsItem,
    QWidget,
)

from cooper.desk.base import theme as th
from cooper.desk.widgets.shapes import paint_outline, section_path
from cooper.kinds.section import Section
from cooper.results.result_tree import StageResults

if TYPE_CHECKING:
    pass


CHORD_PX = 0.1
"""Chord error of the drawn outline in pixels."""


class GearItem(QGraphicsPathItem):
    """One gear with its circles; drawn about its own centre and turned."""

    def __init__(self, filled: bool) -> None:
        super().__init__()
        self.filled = filled
        self.section: Section
        self.radius, self.drawn = 0.0, b""
        self.circles = {symbol: QGraphicsEllipseItem(self) for symbol in ("d", "d_b")} if filled else {}

    def show_gear(self, stage: StageResults, i: int) -> None:
        gear = stage.gears[i]
        self.section, self.drawn = stage.sections[i], b""
        self.radius = max(self.section.reach, self.section.edge / 2)
        for symbol, circle in self.circles.items():
            circle.setVisible(symbol in gear)
            r = gear.get(symbol, 0.0) / 2
            circle.setRect(QRectF(-r, -r, 2 * r, 2 * r))

    def place(self, x: float, motion: float) -> None:
        """Put the gear in its place and phase."""
        y, turn = self.section.placed(motion)
        self.setPos(x, y)
        self.setRotation(float(np.degrees(turn)))

    def resolve(self, px_per_mm: float, view: QRectF) -> None:
        """Build the path as fine as the scale shows, and only for the teeth in view; nothing when neither changed."""
        level = round(np.log2(max(px_per_mm, 1e-6)))
        section = self.section
        teeth = section.teeth
        r = self.radius
        if view.contains(QRectF(self.x() - r, self.y() - r, 2 * r, 2 * r)):
            fine = np.ones(len(teeth), dtype=bool)
        else:
            angle = np.radians(self.rotation())
            c, s = np.cos(angle), np.sin(angle)
            x, y = section.moved(section.tip[None], teeth)[:, 0].T
            x, y = self.x() + c * x - s * y, self.y() + s * x + c * y
            room = 2.5 * section.depth
            fine = (x > view.left() - room) & (x < view.right() + room)
            fine &= (y > view.top() - room) & (y < view.bottom() + room)
        key = bytes([level & 0xFF]) + fine.tobytes()
        if key == self.drawn:
            return
        self.drawn = key
        m = float(section.tooth.m_n)
        tolerance = min(max(CHORD_PX / 2.0**level, 1e-5 * m), 0.02 * m)
        self.setPath(section_path(section, tolerance, 0.02 * m, fine))

    def paint(self, painter: QPainter, option: QStyleOptionGraphicsItem, widget: QWidget | None = None) -> None:
        fill = self.brush()
        paint_outline(painter, self.path(), fill if fill.style() != Qt.BrushStyle.NoBrush else None, self.pen())

    def set_colors(self, line: QColor, fill: QColor | None, circle: QColor, weight: float) -> None:
        # Qt strokes a cosmetic pen of one pixel twenty times as fast as any wider one.
        pen = QPen(line, weight)
        pen.setCosmetic(True)
        pen.setJoinStyle(Qt.PenJoinStyle.BevelJoin)
        self.setPen(pen)
        self.setBrush(fill if fill is not None else Qt.BrushStyle.NoBrush)
        for symbol, item in self.circles.items():
            hair = QPen(circle, th.HAIR)
            hair.setCosmetic(True)
            hair.setDashPattern([9, 3, 1.5, 3] if symbol == "d" else [2, 3])
            item.setPen(hair)


def on_circle(cx: float, r: float, angle: float) -> QPointF:
    """A point of a circle about (cx, 0); mm, rad."""
    return QPointF(cx + r * cos(angle), r * sin(angle))

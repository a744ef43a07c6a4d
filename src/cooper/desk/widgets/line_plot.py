"""Lines over one abscissa in a plain frame: title with its unit, zero line, least and greatest value."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from cooper.arrays import Array
from cooper.desk.base import theme as th
from cooper.desk.widgets.shapes import polygon
from cooper.desk.widgets.typeset import elided, words
from cooper.document.units import KINDS, number, screen_unit
from cooper.i18n.text import tr


class Line(Struct, frozen=True):
    """One line of a plot; ``faint`` for what stands beside it for comparison."""

    x: Array
    y: Array
    role: str
    faint: bool = False


def paint_lines(
    p: QPainter,
    theme: th.Theme,
    f: QRectF,
    title: str,
    kind: str,
    system: str,
    lines: list[Line],
    *,
    cursor: tuple[float, ...] = (),
    from_zero: bool = True,
) -> None:
    """Paint lines in a frame; the abscissa reaches over the first line, cursors stand on it."""
    known = [line.y[np.isfinite(line.y)] for line in lines]
    low, high = min(float(y.min()) for y in known), max(float(y.max()) for y in known)
    least, most = low, high
    if from_zero:
        low, high = min(low, 0.0), max(high, 0.0)
    room = max(high - low, 1e-9 * max(abs(high), 1.0), 1e-12)
    low, high = low - (0.06 * room if low < 0 or not from_zero else 0.0), high + 0.08 * room
    x_0, x_1 = float(lines[0].x[0]), float(lines[0].x[-1])

    def at(x: Array, y: Array) -> Array:
        return np.column_stack(
            (
                f.left() + f.width() * (x - x_0) / max(x_1 - x_0, 1e-12),
                f.bottom() - f.height() * (y - low) / (high - low),
            )
        )

    unit = screen_unit(KINDS[kind].display_unit(system))
    told = elided(title + (tr(", {unit}", unit=unit) if unit else ""), th.font(th.SMALL), f.width() + 24)
    words(p, told, th.font(th.SMALL), theme.color("muted"), f.left(), f.top() - 4)
    p.setPen(QPen(theme.color("faint"), th.HAIR))
    y_0 = float(at(np.zeros(1), np.zeros(1))[0, 1]) if low <= 0 <= high else f.bottom()
    p.drawLine(QPointF(f.left(), y_0), QPointF(f.right(), y_0))
    places = 2 if kind == "factor" else None
    marked: list[float] = []
    for v in [0.0, most, least] if from_zero else [most, least]:
        y = float(at(np.zeros(1), np.array([v]))[0, 1])
        if any(abs(y - other) < 10 for other in marked):
            continue
        marked.append(y)
        words(p, number(v, kind, system, places), th.font(8), theme.color("faint"), f.left() - 6, y + 4, right=True)
    p.setBrush(Qt.BrushStyle.NoBrush)
    for line in sorted(lines, key=lambda one: not one.faint):
        pen = QPen(theme.color(line.role, 0.55 if line.faint else 1.0), 1.2 if line.faint else 1.9)
        if line.faint:
            pen.setDashPattern([5, 3])
        p.setPen(pen)
        p.drawPolyline(polygon(at(line.x, np.nan_to_num(np.clip(line.y, low, high)))))
    for k, x in enumerate(cursor):
        p.setPen(QPen(theme.color("copper", 0.9 if k == 0 else 0.45), 1.3))
        px = float(at(np.array([x]), np.zeros(1))[0, 0])
        p.drawLine(QPointF(px, f.top()), QPointF(px, f.bottom()))

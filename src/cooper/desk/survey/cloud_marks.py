"""What is painted around and over the points of the cloud: axes, colour scale, limits, edge, marks."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QColor,
    QFont,
    QPainter,
    QPainterPath,
    QPen,
)

from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import Run, advance, draw, draw_right, symbol_runs, words
from cooper.exchange.plots import round_steps
from cooper.i18n.text import tr
from cooper.survey.criteria import CRITERIA

if TYPE_CHECKING:
    from cooper.desk.survey.cloud import Cloud


def _shape(rows: tuple[str, ...]) -> list[tuple[int, int]]:
    mid = len(rows) // 2
    return [(x - mid, y - mid) for y, row in enumerate(rows) for x, c in enumerate(row) if c == "#"]


SHAPES = [
    _shape((".###.", "#####", "#####", "#####", ".###.")),
    _shape(("#####", "#...#", "#...#", "#...#", "#####")),
    _shape(("..#..", "..#..", ".###.", ".###.", "#####")),
    _shape(("..#..", ".###.", "#####", ".###.", "..#..")),
    _shape(("#...#", ".#.#.", "..#..", ".#.#.", "#...#")),
    _shape(("..#..", "..#..", "#####", "..#..", "..#..")),
    _shape(("#####", ".###.", ".###.", "..#..", "..#..")),
    _shape((".....", "#####", "#####", "#####", ".....")),
]
"""What a point looks like, by the place of its arrangement: disc, open square, wedge, diamond, cross …"""

STEPS = 32
"""Shades of the colour scale."""


def paint_axes(cloud: Cloud, p: QPainter) -> None:
    t, room, view = cloud.theme, cloud.room(), cloud.view()
    p.setPen(QPen(t.color("muted"), th.FINE))
    p.drawLine(room.bottomLeft(), room.bottomRight())
    p.drawLine(room.bottomLeft(), room.topLeft())
    x, y, _ = (CRITERIA[k] for k in cloud.keys)
    small = th.font(th.SMALL)
    for ends, known, across in ((view.x, x, True), (view.y, y, False)):
        if not cloud._known(known.key):
            continue
        for value in round_steps(known.shown(ends[0], cloud.system), known.shown(ends[1], cloud.system)):
            held = known.held(value, cloud.system)
            px, py = (
                float(v[0])
                for v in cloud._place(
                    np.array([held if across else view.x[0]]), np.array([view.y[0] if across else held])
                )
            )
            text = tr("{value:g}", value=value + 0.0)
            p.setPen(QPen(t.color("line"), th.HAIR))
            if across:
                p.drawLine(QPointF(px, room.bottom()), QPointF(px, room.bottom() + 4))
                words(p, text, small, t.color("muted"), px - 3.2 * len(text), room.bottom() + 16)
            else:
                p.drawLine(QPointF(room.left() - 4, py), QPointF(room.left(), py))
                words(p, text, small, t.color("muted"), room.left() - 7, py + 4, right=True)
    unit = tr(" {system}", system=x.unit(cloud.system)) if x.unit(cloud.system) else ""
    runs = [*symbol_runs(x.symbol, None, t.color("ink")), Run(unit, small, t.color("muted"))]
    draw_right(
        p, [Run(tr("{words}  ", words=x.words), small, t.color("muted")), *runs], room.right(), room.bottom() + 33
    )
    unit = tr(" {system}", system=y.unit(cloud.system)) if y.unit(cloud.system) else ""
    runs = [*symbol_runs(y.symbol, None, t.color("ink")), Run(unit, small, t.color("muted"))]
    draw(p, [*runs, Run(tr("  {words}", words=y.words), small, t.color("muted"))], 8, 16)


def paint_scale(cloud: Cloud, p: QPainter) -> None:
    """The scale of the colour."""
    t, small, room = cloud.theme, th.font(th.SMALL), cloud.room()
    key = CRITERIA[cloud.keys[2]]
    low, high = (key.text(v, cloud.system) for v in cloud.color_span())
    colors = cloud._colors()
    x = (
        words_right(
            p,
            tr("{high} {system}", high=high, system=key.unit(cloud.system)).strip(),
            small,
            t.color("muted"),
            room.right(),
            16,
        )
        - 6
    )
    for k in range(STEPS):
        p.fillRect(QRectF(x - 64 + 2 * k, 8, 2.5, 8), QColor.fromRgba(int(colors[k])))
    x = words_right(p, low, small, t.color("muted"), x - 70, 16) - 8
    left = x - sum(advance(r.text, r.font) for r in symbol_runs(key.symbol, None, t.color("ink")))
    draw(p, symbol_runs(key.symbol, None, t.color("ink")), left, 16)


def paint_legend(cloud: Cloud, p: QPainter) -> None:
    """The scale of the colour, and what the shapes stand for."""
    t, small, room = cloud.theme, th.font(th.SMALL), cloud.room()
    if cloud._known(cloud.keys[2]):
        paint_scale(cloud, p)
    if len(cloud.kinds) < 2:
        return
    p.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    ink = t.color("ink")
    for k, kind in enumerate(cloud.kinds[:8]):
        y = room.top() + 10 + 15 * k
        words_right(p, kind, small, t.color("muted"), room.right() - 12, y + 4)
        for a, b in SHAPES[k % len(SHAPES)]:
            p.fillRect(QRectF(room.right() - 6 + a, y + b, 1, 1), ink)
    p.setRenderHint(QPainter.RenderHint.Antialiasing, True)


def paint_limits(cloud: Cloud, p: QPainter) -> None:
    """Where the margin is nought, and the limits that are asked for."""
    room, t = cloud.room(), cloud.theme
    p.setPen(QPen(t.color("short"), th.HAIR, Qt.PenStyle.DashLine))
    for n, key in enumerate(cloud.keys[:2]):
        for limit in cloud.limits.get(key, ()):
            px, py = (float(v[0]) for v in cloud._place(np.array([limit]), np.array([limit])))
            if n == 0:
                p.drawLine(QPointF(px, room.top()), QPointF(px, room.bottom()))
            else:
                p.drawLine(QPointF(room.left(), py), QPointF(room.right(), py))


def paint_edge(cloud: Cloud, p: QPainter) -> None:
    """The best-possible edge as steps: from one design to the next none is better in both."""
    if len(cloud.edge) < 2:
        return
    xs, ys = cloud._place(*(cloud.values[k][cloud.edge] for k in cloud.keys[:2]))
    path = QPainterPath(QPointF(float(xs[0]), float(ys[0])))
    for k in range(1, len(xs)):
        # As far as the next one the best of the one before stays.
        corner = (xs[k], ys[k - 1])
        path.lineTo(QPointF(float(corner[0]), float(corner[1])))
        path.lineTo(QPointF(float(xs[k]), float(ys[k])))
    p.setPen(QPen(cloud.theme.color("copper"), th.FINE))
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawPath(path)


def paint_marks(cloud: Cloud, p: QPainter) -> None:
    t = cloud.theme
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.setPen(QPen(t.color("copper"), 1.6))
    there = all(k in cloud.values for k in cloud.keys[:2])
    for n in cloud.chosen[:400].tolist() if there else ():
        p.drawEllipse(cloud.point(n), 5, 5)
    if there and 0 <= cloud.hover < len(cloud.keep):
        p.setPen(QPen(t.color("ink"), 1.6))
        p.drawEllipse(cloud.point(cloud.hover), 7, 7)
    if all(k in cloud.present for k in cloud.keys[:2]):
        px, py = (float(v[0]) for v in cloud._place(*(np.array([cloud.present[k]]) for k in cloud.keys[:2])))
        p.setPen(QPen(t.color("ink"), 1.8))
        for a, b in ((-7, 0), (7, 0), (0, -7), (0, 7)):
            p.drawLine(QPointF(px + a, py + b), QPointF(px + a / 3, py + b / 3))
        p.drawEllipse(QPointF(px, py), 5, 5)


def words_right(p: QPainter, text: str, f: QFont, color: QColor, right: float, baseline: float) -> float:
    """Words that end at ``right``; returns where they begin."""
    words(p, text, f, color, right, baseline, right=True)
    return right - advance(text, f)

"""A plot: lines over one abscissa, painted in a frame with ticks and a read-out at the cursor, copied as a table, and
described with its numbers for those who do not see it."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from cooper.arrays import Array
from cooper.desk.base import theme as th
from cooper.desk.widgets.shapes import polygon
from cooper.desk.widgets.typeset import advance, draw, elided, symbol_runs, words
from cooper.document.units import KINDS, convert, number, screen_unit
from cooper.exchange.plots import Plot, round_steps, value_at, with_unit
from cooper.i18n.text import figure, tr


class Plotted:
    """A widget with plots that can be copied as a table and are described with their numbers."""

    def plots(self) -> list[Plot]:
        """The plots in view; none in most lenses."""
        return []


def paint_plot(
    p: QPainter, theme: th.Theme, f: QRectF, plot: Plot, system: str, cursor: tuple[float, ...] = ()
) -> None:
    """Paint a plot in a frame: title with unit above, ticks below, lines, cursors, and the values at the first
    cursor at the end of the title's line."""
    finite = [line.y[np.isfinite(line.y)] for line in plot.lines]
    least, most = min(float(y.min()) for y in finite), max(float(y.max()) for y in finite)
    low, high = (min(least, 0.0), max(most, 0.0)) if plot.from_zero else (least, most)
    room = max(high - low, 1e-9 * max(abs(high), 1.0), 1e-12)
    low, high = low - (0.06 * room if low < 0 or not plot.from_zero else 0.0), high + 0.08 * room
    x_0, x_1 = plot.x_range

    def at(x: Array, y: Array) -> Array:
        return np.column_stack(
            (
                f.left() + f.width() * (x - x_0) / max(x_1 - x_0, 1e-12),
                f.bottom() - f.height() * (y - low) / (high - low),
            )
        )

    _head(p, theme, f, plot, system, _read_out(p, theme, f, plot, system, cursor))
    p.setPen(QPen(theme.color("faint"), th.HAIR))
    y_0 = float(at(np.zeros(1), np.zeros(1))[0, 1]) if low <= 0 <= high else f.bottom()
    p.drawLine(QPointF(f.left(), y_0), QPointF(f.right(), y_0))
    places = 2 if plot.kind == "factor" else None
    marked: list[float] = []
    for v in [0.0, most, least] if plot.from_zero else [most, least]:
        y = float(at(np.zeros(1), np.array([v]))[0, 1])
        if any(abs(y - other) < 10 for other in marked):
            continue
        marked.append(y)
        text = number(v, plot.kind, system, places)
        words(p, text, th.font(8), theme.color("faint"), f.left() - 6, y + 4, right=True)
    if plot.ticks:
        _ticks(p, theme, f, plot, system)
    p.setBrush(Qt.BrushStyle.NoBrush)
    for line in sorted(plot.lines, key=lambda one: not one.faint):
        pen = QPen(theme.color(line.role, 0.55 if line.faint else 1.0), 1.2 if line.faint else 1.9)
        if line.faint:
            pen.setDashPattern([5, 3])
        p.setPen(pen)
        p.drawPolyline(polygon(at(line.x, np.nan_to_num(np.clip(line.y, low, high)))))
    for k, x in enumerate(cursor):
        p.setPen(QPen(theme.color("copper", 0.9 if k == 0 else 0.45), 1.3))
        px = float(at(np.array([x]), np.zeros(1))[0, 0])
        p.drawLine(QPointF(px, f.top()), QPointF(px, f.bottom()))


def _head(p: QPainter, theme: th.Theme, f: QRectF, plot: Plot, system: str, right: float) -> None:
    """The title up to ``right``, shortened where it must be, with its unit, which never is."""
    small = th.font(th.SMALL)
    unit = with_unit("", plot.kind, system)
    title = elided(plot.title, small, right - f.left() - advance(unit, small))
    words(p, title, small, theme.color("muted"), f.left(), f.top() - 4)
    words(p, unit, small, theme.color("muted"), f.left() + advance(title, small), f.top() - 4)


def _ticks(p: QPainter, theme: th.Theme, f: QRectF, plot: Plot, system: str) -> None:
    """Round numbers of the unit shown below the frame; the last one bears the unit."""
    of = KINDS[plot.x_kind]
    one = convert(1.0, of.document, of.display_unit(system))
    x_0, x_1 = (x * one for x in plot.x_range)
    steps = round_steps(x_0, x_1, max(2, int(f.width() / 60)))
    unit = screen_unit(of.display_unit(system))
    p.setPen(QPen(theme.color("faint"), th.HAIR))
    for n, v in enumerate(steps):
        x = f.left() + f.width() * (v - x_0) / max(x_1 - x_0, 1e-12)
        p.drawLine(QPointF(x, f.bottom()), QPointF(x, f.bottom() + 3))
        text = figure(f"{v:.6g}")
        message = tr("{text} {unit}", text=text, unit=unit) if unit and n == len(steps) - 1 else text
        wide = advance(message, th.font(8))
        words(
            p,
            message,
            th.font(8),
            theme.color("faint"),
            min(x - advance(text, th.font(8)) / 2, f.right() + 8 - wide),
            f.bottom() + 13,
        )


def _read_out(p: QPainter, theme: th.Theme, f: QRectF, plot: Plot, system: str, cursor: tuple[float, ...]) -> float:
    """The values of the lines at the first cursor, each in its colour, ending where the frame ends; returns where
    they begin."""
    x, small = f.right(), th.font(th.SMALL, bold=True)
    if not cursor:
        return x
    for n, line in reversed(list(enumerate(plot.lines))):
        value = value_at(line, cursor[0])
        if not np.isfinite(value):
            continue
        text = number(value, plot.kind, system)
        if line.symbol:
            y = f.top() + 16 + 22 * n
            end = draw(p, symbol_runs(*line.symbol, theme.color(line.role)), f.right() + 12, y)
            words(p, text, th.font(th.TEXT, bold=True), theme.color("ink"), end + 6, y)
            continue
        x -= advance(text, small)
        words(p, text, small, theme.color(line.role, 0.6 if line.faint else 1.0), x, f.top() - 4)
        x -= 10
    return x

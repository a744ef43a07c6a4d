"""A plot: lines over one abscissa, painted in a frame with ticks and a read-out at the cursor, copied as a table, and
described with its numbers for those who do not see it."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from cooper.arrays import Array
from cooper.desk.base import theme as th
from cooper.desk.widgets.shapes import polygon
from cooper.desk.widgets.typeset import advance, draw, elided, symbol_runs, words
from cooper.document.units import KINDS, convert, number, number_with_unit, screen_unit
from cooper.i18n.text import figure, join, tr


class Line(Struct, frozen=True):
    """One line of a plot: its points, the role of its colour, its name in a table; ``faint`` for a line that stands
    for comparison; ``symbol`` and number of the gear if the read-out is at the right of the frame."""

    x: Array
    y: Array
    role: str
    faint: bool = False
    name: str = ""
    symbol: tuple[str, int | None] | None = None


class Plot(Struct, frozen=True):
    """Lines with the kinds of quantity of both axes. The abscissa reaches over the first line. ``from_zero``: the
    ordinate includes zero; ``ticks``: the abscissa has numbers."""

    title: str
    kind: str
    lines: tuple[Line, ...]
    x_title: str = ""
    x_kind: str = "length"
    from_zero: bool = True
    ticks: bool = True

    @property
    def x_range(self) -> tuple[float, float]:
        """Ends of the abscissa, in the document's units."""
        return float(self.lines[0].x[0]), float(self.lines[0].x[-1])


def round_steps(low: float, high: float, most: int = 7) -> list[float]:
    """Round numbers between two ends, at most so many.

    >>> round_steps(0.13, 0.94)
    [0.2, 0.4, 0.6, 0.8]
    """
    spread = high - low
    if not spread > 0 or not np.isfinite(spread):
        return []
    step = 10.0 ** np.floor(np.log10(spread / most))
    step = next(s for s in (step, 2 * step, 5 * step, 10 * step) if spread / s <= most)
    first = np.ceil(low / step - 1e-9)
    return [float(round(k * step, 10)) + 0.0 for k in np.arange(first, np.floor(high / step + 1e-9) + 1)]


def value_at(line: Line, x: float) -> float:
    """The value of a line at a place; NaN beyond its ends.

    >>> value_at(Line(np.array([0.0, 2.0]), np.array([1.0, 3.0]), "ink"), 0.5)
    1.5
    """
    return float(_over(line, np.array([x]))[0])


def with_unit(title: str, kind: str, system: str) -> str:
    """A title with the unit in which its quantity is shown.

    >>> with_unit("pressure", "stress", "mm"), with_unit("share", "factor", "mm")
    ('pressure, MPa', 'share')
    """
    unit = screen_unit(KINDS[kind].display_unit(system))
    return title + (tr(", {unit}", unit=unit) if unit else "")


class Plotted:
    """A widget with plots that can be copied as a table and are described with their numbers."""

    def plots(self) -> list[Plot]:
        """The plots in view; none in most lenses."""
        return []


def plot_table(plots: list[Plot], system: str) -> str:
    """Plots as a table of tab-separated columns, one below the other, at the points of their first lines; NaN is
    empty.

    >>> one = Line(np.array([0.0, 1.0]), np.array([2.0, 4.0]), "ink", name="T")
    >>> plot_table([Plot("torque", "torque", (one,), "place")], "mm").splitlines()
    ['place, mm\\ttorque: T, N m', '0\\t2', '1\\t4']
    """
    rows: list[str] = []
    for plot in plots:
        heads = [
            tr("{title}: {name}", title=plot.title, name=one.name) if one.name else plot.title for one in plot.lines
        ]
        rows.append(
            join(
                "\t", [with_unit(plot.x_title, plot.x_kind, system), *(with_unit(h, plot.kind, system) for h in heads)]
            )
        )
        first = plot.lines[0].x
        columns = [_tidy(one.y if np.array_equal(one.x, first) else _over(one, first)) for one in plot.lines]
        for n, x in enumerate(first):
            values = [_shown(float(column[n]), plot.kind, system) for column in columns]
            rows.append(join("\t", [_shown(float(x), plot.x_kind, system), *values]))
        rows.append("")
    return join("\n", rows[:-1])


def _over(line: Line, x: Array) -> Array:
    """A line at other places; NaN beyond its ends."""
    return np.interp(x, line.x, line.y, left=np.nan, right=np.nan)


def _tidy(y: Array) -> Array:
    """Values without the rounding error that sums leave where they cancel."""
    most = float(np.nanmax(np.abs(y), initial=0.0))
    return np.where(np.abs(y) < 1e-9 * most, 0.0, y)


def _shown(value: float, kind: str, system: str) -> str:
    of = KINDS[kind]
    return figure(f"{convert(value, of.document, of.display_unit(system)):.7g}") if np.isfinite(value) else ""


def plot_words(plot: Plot, system: str) -> str:
    """What a plot shows, as a sentence: least and greatest value of its first line, and where they are.

    >>> plot_words(Plot("torque", "torque", (Line(np.array([0.0, 1.0]), np.array([2.0, 4.0]), "ink"),)), "mm")
    'torque: least 2 N m at 0 mm, greatest 4 N m at 1 mm.'
    """
    line = plot.lines[0]
    y = _tidy(line.y)
    known = np.flatnonzero(np.isfinite(y))
    if not len(known):
        return tr("{title}: no values.", title=plot.title)
    low, high = known[y[known].argmin()], known[y[known].argmax()]
    return tr(
        "{title}: least {low} at {x_low}, greatest {high} at {x_high}.",
        title=plot.title,
        low=number_with_unit(float(y[low]), plot.kind, system),
        x_low=number_with_unit(float(line.x[low]), plot.x_kind, system),
        high=number_with_unit(float(y[high]), plot.kind, system),
        x_high=number_with_unit(float(line.x[high]), plot.x_kind, system),
    )


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

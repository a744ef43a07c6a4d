"""A plot: lines over one abscissa, with the kinds of quantity of both axes; as a table, as a sentence, as SVG."""

from __future__ import annotations

from html import escape

import numpy as np
from msgspec import Struct

from cooper.arrays import Array
from cooper.document.units import KINDS, convert, number_with_unit, screen_unit
from cooper.i18n.text import figure, join, tr
from cooper.i18n.translate import translate


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


ROLES = {"copper": "#a85420", "ink": "#22303a", "driver": "#3f6a80", "driven": "#8a6a2c", "short": "#b3402e"}
"""Colours of lines on paper, by their role on the screen."""
FRAME, TITLE_ROOM, TICK_ROOM, VALUE_ROOM = (250.0, 120.0), 22.0, 26.0, 46.0
"""Size of a plot's frame, and room above it, below it and at its left; px."""


def plot_svg(plots: list[Plot], system: str, columns: int = 2) -> str:
    """Plots beside each other as one SVG, with ticks, zero line and the names of the lines.

    >>> one = Line(np.array([0.0, 1.0]), np.array([2.0, 4.0]), "ink", name="T")
    >>> plot_svg([Plot("torque", "torque", (one,), "place")], "mm").count("<polyline")
    1
    """
    wide, high = FRAME[0] + VALUE_ROOM + 14, FRAME[1] + TITLE_ROOM + TICK_ROOM + 14
    columns = min(columns, len(plots))
    rows = -(-len(plots) // columns)
    body = "".join(
        f'<g transform="translate({wide * (n % columns) + VALUE_ROOM:.1f} {high * (n // columns) + TITLE_ROOM:.1f})">'
        f"{_one_svg(plot, system)}</g>"
        for n, plot in enumerate(plots)
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide * columns:.0f}" height="{high * rows:.0f}" '
        f'viewBox="0 0 {wide * columns:.0f} {high * rows:.0f}" font-family="Lato, sans-serif">{body}</svg>'
    )


def _label(x: float, y: float, text: str, color: str, anchor: str = "start") -> str:
    return (
        f'<text x="{x:.2f}" y="{y:.2f}" font-size="9.5" fill="{color}" text-anchor="{anchor}">'
        f"{escape(translate(text))}</text>"
    )


def _one_svg(plot: Plot, system: str) -> str:
    w, h = FRAME
    finite = np.concatenate([line.y[np.isfinite(line.y)] for line in plot.lines])
    low, high = (
        (min(float(finite.min()), 0.0), max(float(finite.max()), 0.0))
        if plot.from_zero
        else (float(finite.min()), float(finite.max()))
    )
    room = max(high - low, 1e-12)
    low, high = low - (0.05 * room if low < 0 or not plot.from_zero else 0.0), high + 0.08 * room
    x_0, x_1 = plot.x_range
    of, x_of = KINDS[plot.kind], KINDS[plot.x_kind]
    one, x_one = (convert(1.0, k.document, k.display_unit(system)) for k in (of, x_of))

    def x_at(x: float) -> float:
        return w * (x - x_0) / max(x_1 - x_0, 1e-12)

    def y_at(y: float) -> float:
        return h * (high - y) / (high - low)

    parts = [f'<rect width="{w}" height="{h}" fill="none" stroke="#c9c2b4" stroke-width="0.8"/>']
    for v in round_steps(low * one, high * one, 5):
        y = y_at(v / one)
        parts.append(f'<line x1="0" x2="{w}" y1="{y:.2f}" y2="{y:.2f}" stroke="#e4dfd4" stroke-width="0.6"/>')
        parts.append(_label(-5, y + 3.2, figure(f"{v:.6g}"), "#6d7880", "end"))
    for v in round_steps(x_0 * x_one, x_1 * x_one, 6):
        x = x_at(v / x_one)
        parts.append(f'<line x1="{x:.2f}" x2="{x:.2f}" y1="{h}" y2="{h + 3}" stroke="#6d7880" stroke-width="0.8"/>')
        parts.append(_label(x, h + 13, figure(f"{v:.6g}"), "#6d7880", "middle"))
    parts.append(_label(0, -7, with_unit(plot.title, plot.kind, system), "#22303a"))
    parts.append(_label(w, h + 25, with_unit(plot.x_title, plot.x_kind, system), "#6d7880", "end"))
    for line in sorted(plot.lines, key=lambda one: not one.faint):
        color = ROLES.get(line.role, ROLES["ink"])
        dash = ' stroke-dasharray="5 3"' if line.faint else ""
        points = " ".join(
            f"{x_at(float(x)):.2f},{y_at(float(y)):.2f}" for x, y in zip(line.x, line.y, strict=True) if np.isfinite(y)
        )
        parts.append(f'<polyline points="{points}" fill="none" stroke="{color}" stroke-width="1.4"{dash}/>')
    if len(plot.lines) > 1:
        names = "".join(
            f'<tspan fill="{ROLES.get(line.role, ROLES["ink"])}">{"– – " if line.faint else "— "}'
            f"{escape(translate(line.name))}\u2003</tspan>"
            for line in plot.lines
        )
        parts.append(f'<text x="0" y="{h + 25}" font-size="9.5" xml:space="preserve">{names}</text>')
    return "".join(parts)

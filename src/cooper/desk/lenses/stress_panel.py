"""The panel next to a stress field: the values at this position, the rating methods, and the root's stress over
the mesh."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPen

from cooper.desk.base import theme as th
from cooper.desk.widgets.plot import paint_plot
from cooper.desk.widgets.typeset import advance, draw_right, elided, label_runs, words, wrapped
from cooper.document.units import number, number_with_unit
from cooper.exchange.plots import Line, Plot
from cooper.i18n.text import tr
from cooper.results.root_comparison import RootComparison, RootHistory


def paint_panel(
    p: QPainter,
    theme: th.Theme,
    area: QRectF,
    lines: list[str],
    comparison: RootComparison | None,
    history: RootHistory | None,
    cursor: float,
    both_ways: bool,
    system: str,
) -> None:
    """Numbers, table and history from above."""
    y = area.top() + 4
    for k, line in enumerate(lines):
        f = th.font(th.TEXT, bold=True) if k == 0 else th.font(th.SMALL)
        y = wrapped(p, line, f, theme.color("ink" if k == 0 else "muted"), area.left(), y, area.width()) + 4
    if comparison is not None:
        y = _table(p, theme, area, comparison, y + 12, system)
    if history is not None:
        room = QRectF(area.left() + 44, y + 24, area.width() - 52, area.bottom() - y - 58)
        if room.height() > 40:
            _plot(p, theme, room, history, cursor, both_ways, system)


def _table(p: QPainter, theme: th.Theme, area: QRectF, comparison: RootComparison, y: float, system: str) -> float:
    """The ways to judge the root at one load."""
    f, bold = th.font(th.SMALL), th.font(th.TEXT, bold=True)
    right = area.right() - 4
    words(p, tr("one pair bears all, load where ISO 6336-3 has it"), f, theme.color("muted"), area.left(), y + 10)
    y += 17
    draw_right(p, label_runs("σ b m_n / F_t", theme.color("muted"), th.SMALL), right - 84, y + 10)
    y += 16
    p.setPen(QPen(theme.color("line"), th.HAIR))
    p.drawLine(QPointF(area.left(), y), QPointF(right, y))
    for k, row in enumerate(comparison.rows):
        y += 20
        role = "copper" if k == 0 else "ink"
        factor = tr("{factor:.2f}", factor=row.factor)
        room = right - 90 - advance(factor, bold) - area.left()
        words(p, elided(row.words, th.font(th.TEXT), room), th.font(th.TEXT), theme.color(role), area.left(), y)
        words(p, factor, bold, theme.color(role), right - 84, y, right=True)
        words(
            p, number_with_unit(row.sigma, "stress", system), th.font(th.TEXT), theme.color(role), right, y, right=True
        )
    return wrapped(p, comparison.parts, f, theme.color("muted"), area.left(), y + 8, area.width())


def history_plot(h: RootHistory) -> Plot:
    """The root's stress over the mesh: on the loaded side, and behind."""
    lines = (
        Line(h.g, h.top, "copper", name=tr("loaded side")),
        Line(h.g, h.bottom, "driven", name=tr("other side")),
    )
    return Plot(tr("root stress through the mesh"), "stress", lines, tr("path of contact"))


def _plot(p: QPainter, theme: th.Theme, f: QRectF, h: RootHistory, cursor: float, both_ways: bool, system: str) -> None:
    """The root's stress over the mesh, of teeth that are bent both ways with their range."""
    paint_plot(p, theme, f, history_plot(h), system, (cursor,))
    top, bottom = float(h.top.max()), float(h.bottom.min())
    if both_ways:
        mean, swing = (top + bottom) / 2, (top - bottom) / 2
        text = tr(
            "bent both ways: {bottom} to {top}, mean {mean}, swing ±{swing}",
            bottom=number(bottom, "stress", system),
            top=number_with_unit(top, "stress", system),
            mean=number(mean, "stress", system),
            swing=number_with_unit(swing, "stress", system),
        )
    else:
        text = tr("bent one way: 0 to {top}", top=number_with_unit(top, "stress", system))
    words(p, text, th.font(th.SMALL), theme.color("ink"), f.left() - 44, f.bottom() + 30)

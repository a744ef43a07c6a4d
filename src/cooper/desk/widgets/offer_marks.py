"""A train and its margins as small marks: of an offer, with those of the present design as a ghost."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from cooper.desk.base import theme as th
from cooper.desk.widgets.shapes import role_of
from cooper.desk.widgets.typeset import draw, symbol_runs
from cooper.results.check_types import Check
from cooper.results.pose import pose
from cooper.results.result_tree import Results

MOST_MARGINS = 8
"""Margins that are drawn: those that are least in what is drawn or in its ghost."""
LEAST, GREATEST = -0.5, 1.0
"""Margins beyond which a bar is cut off."""


def circles(results: Results) -> list[tuple[str, float, float, float]]:
    """Role, place and outer radius of each gear in end view; mm."""
    placed = pose(results, 0.0).gears
    made = []
    for g in placed:
        section = results.stages[g.stage].sections[g.i]
        made.append((role_of(g), g.x, g.y, max(section.reach, section.edge / 2)))
    return made


def extent(results: Results) -> QRectF:
    """What a train takes up in end view; mm."""
    room = QRectF()
    for _role, x, y, r in circles(results):
        room |= QRectF(x - r, y - r, 2 * r, 2 * r)
    return room


def paint_train(
    p: QPainter, room: QRectF, results: Results, ghost: Results | None, theme: th.Theme, scale: float
) -> None:
    """The gears as circles at a scale (px/mm), from the left; those of the ghost as outlines."""
    p.save()
    p.setClipRect(room)
    p.setRenderHint(QPainter.RenderHint.Antialiasing)
    left = min(extent(r).left() for r in (results, ghost) if r is not None)
    p.translate(room.left() + 2 - scale * left, room.center().y())
    rows = sorted(circles(results), key=lambda c: -c[3])
    for role, x, y, r in rows:
        p.setPen(QPen(theme.color(role), th.FINE))
        p.setBrush(theme.color(f"{role}_fill"))
        p.drawEllipse(QPointF(scale * x, scale * y), scale * r, scale * r)
    if ghost is not None:
        p.setPen(QPen(theme.color("copper"), th.FINE, Qt.PenStyle.DotLine))
        p.setBrush(Qt.BrushStyle.NoBrush)
        for _role, x, y, r in circles(ghost):
            p.drawEllipse(QPointF(scale * x, scale * y), scale * r, scale * r)
    p.restore()


def paired(results: Results, ghost: Results | None) -> list[tuple[Check, Check | None]]:
    """The checks with the least margins, in their order, each with that of the ghost; those of the gears alone."""
    before = {} if ghost is None else {c.key: c for c in ghost.checks}
    rows = [(c, before.get(c.key)) for c in results.checks if not c.part]

    def least(row: tuple[Check, Check | None]) -> float:
        now, past = row
        return now.margin if past is None else min(now.margin, past.margin)

    chosen = sorted(rows, key=least)[:MOST_MARGINS]
    return sorted(chosen, key=rows.index)


def paint_margins(
    p: QPainter, room: QRectF, results: Results, ghost: Results | None, theme: th.Theme, named: bool = False
) -> None:
    """A bar for each of the least margins, up where it holds; the present one as a line across it."""
    rows = paired(results, ghost)
    if not rows:
        return
    p.save()
    p.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    foot = 16.0 if named else 0.0
    high, wide = room.height() - 4 - foot, room.width() / MOST_MARGINS
    zero = room.top() + 2 + high * GREATEST / (GREATEST - LEAST)

    def y(margin: float) -> float:
        return zero - high * min(max(margin, LEAST), GREATEST) / (GREATEST - LEAST)

    for n, (check, past) in enumerate(rows):
        x = room.left() + n * wide + 2
        top, bottom = sorted((y(check.margin), zero))
        p.fillRect(QRectF(x, top, wide - 4, max(bottom - top, 1.0)), theme.color(check.verdict))
        if past is not None:
            p.setPen(QPen(theme.color("copper"), th.FINE, Qt.PenStyle.DotLine))
            p.drawLine(QPointF(x - 1, y(past.margin)), QPointF(x + wide - 3, y(past.margin)))
        if named:
            draw(p, symbol_runs(check.symbol, check.index, theme.color("muted")), x, room.bottom() - 2)
    p.setPen(QPen(theme.color("ink"), th.FINE))
    p.drawLine(QPointF(room.left(), zero), QPointF(room.left() + wide * len(rows), zero))
    p.restore()


def told(results: Results, ghost: Results | None) -> list[tuple[Check, float | None]]:
    """The margins that are drawn, with those of the ghost, for one who hears them."""
    return [(c, None if past is None else past.margin) for c, past in paired(results, ghost)]

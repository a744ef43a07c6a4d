"""A table's cells of plain text, painted as the theme has them in one go: the toolkit asks the style sheet twice for
each."""

from __future__ import annotations

import re
from collections.abc import Callable

from PySide6.QtCore import QModelIndex, QPointF, QRect
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPalette
from PySide6.QtWidgets import QTableView

from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import advance, elided
from cooper.i18n.translate import translate

NUMBER = re.compile(r"[-+]?[0-9.]+(e[-+]?[0-9]+)?( [%×])?")
"""What stands to the right in its column, so that places stand below each other."""
EDGE, LEAST = 3.0, 2.0
"""Between the text and the ends of its cell, and what is left of it before a text is cut; px."""


def is_number(text: str, _column: int) -> bool:
    """Whether a text stands to the right of its cell."""
    return NUMBER.fullmatch(text) is not None


def paint_cells(
    painter: QPainter,
    view: QTableView,
    room: QRect,
    text: Callable[[int, int], str],
    color: Callable[[int], QColor | None] = lambda _row: None,
    to_right: Callable[[str, int], bool] = is_number,
) -> None:
    """Paint the ``text`` of row and column in the row's ``color`` (None: that of all text), on a band where the row
    is chosen, with the view's lines between, as far as it lies in ``room`` of the view."""
    palette, role = view.palette(), QPalette.ColorRole
    band, ink, copper = (palette.color(one) for one in (role.AlternateBase, role.Text, role.Highlight))
    font = th.font(th.SMALL if view.property("form") == "narrow" else th.TEXT)
    metrics, line = QFontMetricsF(font), int(view.showGrid())
    columns = [
        (n, x, view.columnWidth(n))
        for n, x in ((n, view.columnViewportPosition(n)) for n in range(view.model().columnCount()))
        if x <= room.right() and x + view.columnWidth(n) >= room.left()
    ]
    first, last = view.rowAt(room.top()), view.rowAt(room.bottom())
    if first < 0 or not columns:
        return
    painter.setFont(font)
    for row in range(first, view.model().rowCount() if last < 0 else last + 1):
        top, high = view.rowViewportPosition(row), view.rowHeight(row)
        chosen = view.selectionModel().isRowSelected(row, QModelIndex())
        if chosen:
            end = columns[-1][1] + columns[-1][2]
            painter.fillRect(QRect(columns[0][1], top, end - columns[0][1], high), band)
        y = top + round((high - line + metrics.ascent() - metrics.descent()) / 2)
        painter.setPen(copper if chosen else color(row) or ink)
        for n, x, wide in columns:
            words = text(row, n)
            if words:
                words = elided(words, font, wide - line - 2 * LEAST)
                left = x + wide - line - EDGE - advance(words, font) if to_right(words, n) else x + EDGE
                painter.drawText(QPointF(left, y), translate(words))
        if line:
            painter.setPen(band)
            painter.drawLine(columns[0][1], top + high - 1, columns[-1][1] + columns[-1][2] - 1, top + high - 1)
            for _n, x, wide in columns:
                painter.drawLine(x + wide - 1, top, x + wide - 1, top + high - 1)

"""Preview of a list of designs: each row drawn at one scale with its margins, the present design as a ghost; the row
under the pointer is shown on the Bench."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import QEvent, QModelIndex, QObject, QRectF, QTimer
from PySide6.QtGui import QPainter
from shiboken6 import isValid

from cooper.desk.base.workers import Task, submit
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.offer_marks import extent, paint_margins, paint_train
from cooper.desk.widgets.previewed import lay
from cooper.desk.widgets.rows_view import RowsView
from cooper.i18n.text import tr
from cooper.results.result_tree import Results

HIGH, WIDE = 52, 108
"""Height of a row and width of its drawing; px."""
MARGINS = 88
PAINTED = 2
"""Columns that are painted, before those of words."""
AT_ONCE = 12
"""Offers that are worked out in one go."""

Ask = Callable[[list[Any]], tuple[Any, ...]]
"""From rows to the function that works their results out, and its arguments."""


def drawn(columns: dict[str, Callable[[Any], str]]) -> dict[str, Callable[[Any], str]]:
    """Columns of a list with those of the drawing and the margins before them."""
    return {tr("as drawn"): lambda _row: "", tr("margins"): lambda _row: "", **columns}


class Offers(QObject):
    """Paints the first two columns of a table whose rows are offers, worked out beside the window as they come into
    sight."""

    def __init__(self, sheet: Sheet, table: RowsView, ask: Ask) -> None:
        super().__init__(table)
        self.sheet, self.session, self.table, self.ask = sheet, sheet.session, table, ask
        self.results: dict[int, Results | None] = {}
        self.task: Task | None = None
        self._rows: Sequence[Any] = ()
        self._under = self.session.laid
        self._own: Results | None = None
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(30)
        self._later.timeout.connect(self.work)
        table.painted = {0: self._train, 1: self._margins}
        table.wide = {0: WIDE, 1: MARGINS}
        table.verticalHeader().setDefaultSectionSize(HIGH)
        table.setMouseTracking(True)
        table.entered.connect(lambda index: self.lay(index.row()))
        table.selectionModel().currentChanged.connect(lambda index, _old: self._current(index))
        table.viewport().installEventFilter(self)
        sheet.destroyed.connect(self._leave)
        sheet.session.changed.connect(self._forget)

    def _fresh(self) -> None:
        if self.table.rows.rows is not self._rows:
            self._rows = self.table.rows.rows
            self._forget()

    def _forget(self) -> None:
        if self.task is not None:
            self.task.give_up()
            self.task = None
        self.results = {}

    def of(self, row: int) -> Results | None:
        """The results of a row's offer, as far as they are known; else they are worked out."""
        self._fresh()
        if row not in self.results and not self._later.isActive() and self.task is None:
            self._later.start()
        return self.results.get(row)

    def work(self) -> None:
        """Have the offers in sight worked out, as far as they are not known."""
        if not isValid(self.table):
            return
        self._fresh()
        first = max(self.table.rowAt(0), 0)
        last = self.table.rowAt(self.table.viewport().height())
        last = len(self._rows) - 1 if last < 0 else min(last, len(self._rows) - 1)
        wanted = [n for n in range(first, last + 1) if n not in self.results][:AT_ONCE]
        if not wanted:
            return
        rows = self._rows

        def take(seen: tuple[int, Results | None]) -> None:
            if isValid(self.table) and rows is self._rows:
                self.results[wanted[seen[0]]] = seen[1]
                self.table.viewport().update()

        def done(_fault: Exception | None) -> None:
            self.task = None
            if isValid(self.table) and rows is self._rows:
                for n in wanted:
                    self.results.setdefault(n, None)
                self._later.start()

        function, *args = self.ask([rows[n] for n in wanted])
        self.task = submit(function, *args, take=take, done=done)

    def _scale(self) -> float:
        """One scale for all that is in sight, so that they can be compared; px/mm."""
        seen = [r for r in (self.session.results, *self.results.values()) if r is not None]
        rooms = [extent(r) for r in seen]
        wide = max((max(e.width(), self._both(e)) for e in rooms), default=1.0)
        high = max((e.height() for e in rooms), default=1.0)
        return min((WIDE - 8) / wide, (HIGH - 6) / high)

    def _both(self, room: QRectF) -> float:
        return float((room | extent(self.session.results)).width())

    def _train(self, p: QPainter, room: QRectF, row: int) -> None:
        results = self.of(row)
        if results is not None:
            paint_train(p, room, results, self.session.results, self.sheet.theme, self._scale())

    def _margins(self, p: QPainter, room: QRectF, row: int) -> None:
        results = self.of(row)
        if results is not None:
            paint_margins(p, room, results, self.session.results, self.sheet.theme)

    def _current(self, index: QModelIndex) -> None:
        if index.isValid():
            self.lay(index.row())

    def lay(self, row: int) -> None:
        """Lay the teeth of a row's offer under the drawing on the Bench."""
        self._own = self.of(row)
        lay(self.sheet, self.session, self._own)

    def _leave(self) -> None:
        self._forget()
        # Opening another design has reset the ghost already.
        if self._own is not None and self.session.laid is self._own:
            self.session.laid = self._under

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Leave and isValid(self.table):
            self._current(self.table.currentIndex())
        return False

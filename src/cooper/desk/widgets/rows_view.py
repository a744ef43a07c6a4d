"""A table of rows behind a view: only what is in sight is ever written out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from math import ceil
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QObject, QPersistentModelIndex, QRectF, QSizeF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QShowEvent
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableView

from cooper.desk.base import theme as th
from cooper.desk.widgets.plain_cells import paint_cells
from cooper.desk.widgets.typeset import advance
from cooper.i18n.text import term
from cooper.i18n.translate import translate

Index = QModelIndex | QPersistentModelIndex
NOWHERE = QModelIndex()


class Rows(QAbstractTableModel):
    """Rows of any kind; ``columns`` names each column and says how a row reads there, ``color`` in which colour."""

    def __init__(
        self,
        columns: dict[str, Callable[[Any], str]],
        parent: QObject | None = None,
        color: Callable[[Any], QColor] | None = None,
    ) -> None:
        super().__init__(parent)
        self.color = color
        self.names, self.cells = list(columns), list(columns.values())
        self.rows: Sequence[Any] = ()

    def show(self, rows: Sequence[Any]) -> None:
        """Put other rows in place of those that are there."""
        self.beginResetModel()
        self.rows = rows
        self.endResetModel()

    def rowCount(self, parent: Index = NOWHERE) -> int:
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: Index = NOWHERE) -> int:
        return 0 if parent.isValid() else len(self.names)

    def text(self, row: int, column: int) -> str:
        """What stands in a cell."""
        return self.cells[column](self.rows[row])

    def color_of(self, row: int) -> QColor | None:
        """The colour of a row's words, where it has one of its own."""
        return None if self.color is None else self.color(self.rows[row])

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole) and index.isValid():
            return self.text(index.row(), index.column())
        if role == Qt.ItemDataRole.ForegroundRole and index.isValid():
            return self.color_of(index.row())
        return None

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return translate(term(self.names[section]))
        return None


class RowsView(QTableView):
    """A view of `Rows` that takes whole rows and nothing else; widths follow what is in sight."""

    SEEN = 40
    """Rows that the widths of the columns are measured by."""

    def __init__(
        self, columns: dict[str, Callable[[Any], str]], stretch: bool, color: Callable[[Any], QColor] | None = None
    ) -> None:
        super().__init__()
        self.rows = Rows(columns, self, color)
        self.painted: dict[int, Callable[[QPainter, QRectF, int], None]] = {}
        """What is painted in a column in place of words, by its number: in a room, of a row."""
        self.wide: dict[int, int] = {}
        """Widths of the columns that are painted; px."""
        self.setModel(self.rows)
        self.verticalHeader().hide()
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        head = self.horizontalHeader()
        head.setResizeContentsPrecision(self.SEEN)
        head.setMinimumSectionSize(30)
        self.verticalHeader().setDefaultSectionSize(24)
        self.stretch = stretch
        self._wide: list[object] = []
        if stretch:
            head.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
            # The columns fill the width to a pixel more or less: nothing to scroll to.
            self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        else:
            self.resizeColumnsToContents()

    def show_rows(self, rows: Sequence[Any]) -> None:
        """Show these rows."""
        self.rows.show(rows)
        if not self.stretch:
            wide = [*self.rows.names, *self._widths()]
            if wide != self._wide:
                self._wide = wide
                self._resize()

    def _resize(self) -> None:
        self.resizeColumnsToContents()
        for column, wide in self.wide.items():
            self.setColumnWidth(column, wide)

    def _widths(self) -> list[int]:
        """How wide the texts are that the columns are measured by; px. Quicker found than the view measures its
        cells."""
        seen = self.rows.rows[: self.SEEN]
        return [ceil(max((advance(cell(row), th.font()) for row in seen), default=0.0)) for cell in self.rows.cells]

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if not self.stretch:
            # Now the heads have the font that they are shown in.
            self._resize()

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self.viewport())
        paint_cells(p, self, event.rect(), self.rows.text, self.rows.color_of)
        if not self.painted:
            return
        first, last = self.rowAt(event.rect().top()), self.rowAt(event.rect().bottom())
        for row in range(max(first, 0), (len(self.rows.rows) if last < 0 else last + 1)) if first >= 0 else ():
            for column, paint in self.painted.items():
                room = QRectF(self.columnViewportPosition(column), self.rowViewportPosition(row), 0, 0)
                room.setSize(QSizeF(self.columnWidth(column) - 1, self.rowHeight(row) - 1))
                paint(p, room, row)

    def text(self, row: int, column: int) -> str:
        """What stands in a cell."""
        return self.rows.text(row, column)

"""A table of texts that are typed in place: only what is in sight is ever written out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QObject, QPersistentModelIndex, Qt, Signal
from PySide6.QtWidgets import QTableView

from cooper.i18n.text import term
from cooper.i18n.translate import translate

Index = QModelIndex | QPersistentModelIndex
NOWHERE = QModelIndex()


class Cells(QAbstractTableModel):
    """Rows of texts under ``heads``; ``fixed`` tells of row and column which cells are only read."""

    typed = Signal(int)

    def __init__(
        self, heads: tuple[str, ...], fixed: Callable[[int, int], bool], right: bool, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self.heads, self.fixed, self.right = heads, fixed, right
        self.rows: list[list[str]] = []

    def put(self, rows: Sequence[Sequence[str]]) -> None:
        """Show other texts; a cell that is being typed in stays open, as the table is not begun anew."""
        more = len(rows) - len(self.rows)
        if more > 0:
            self.beginInsertRows(QModelIndex(), len(self.rows), len(rows) - 1)
            self.rows += [[""] * len(self.heads) for _ in range(more)]
            self.endInsertRows()
        elif more < 0:
            self.beginRemoveRows(QModelIndex(), len(rows), len(self.rows) - 1)
            del self.rows[len(rows) :]
            self.endRemoveRows()
        self.rows = [list(row) for row in rows]
        if self.rows:
            self.dataChanged.emit(self.index(0, 0), self.index(len(rows) - 1, len(self.heads) - 1))

    def rowCount(self, parent: Index = NOWHERE) -> int:
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: Index = NOWHERE) -> int:
        return 0 if parent.isValid() else len(self.heads)

    def flags(self, index: Index) -> Qt.ItemFlag:
        usual = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        return usual if self.fixed(index.row(), index.column()) else usual | Qt.ItemFlag.ItemIsEditable

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole, Qt.ItemDataRole.AccessibleTextRole):
            return self.rows[index.row()][index.column()]
        if role == Qt.ItemDataRole.TextAlignmentRole:
            side = Qt.AlignmentFlag.AlignRight if self.right else Qt.AlignmentFlag.AlignLeft
            return side | Qt.AlignmentFlag.AlignVCenter
        return None

    def setData(self, index: Index, value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        if role != Qt.ItemDataRole.EditRole or str(value) == self.rows[index.row()][index.column()]:
            return False
        self.rows[index.row()][index.column()] = str(value)
        self.dataChanged.emit(index, index)
        self.typed.emit(index.row())
        return True

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return translate(term(self.heads[section]))
        return None


class CellsView(QTableView):
    """A view of `Cells`."""

    def __init__(
        self,
        name: str,
        heads: tuple[str, ...],
        fixed: Callable[[int, int], bool] = lambda _row, _column: False,
        right: bool = False,
    ) -> None:
        super().__init__()
        self.setObjectName(name)
        self.cells = Cells(heads, fixed, right, self)
        self.setModel(self.cells)
        self.verticalHeader().hide()
        self.verticalHeader().setDefaultSectionSize(24)

    def put(self, rows: Sequence[Sequence[str]]) -> None:
        """Show other texts."""
        self.cells.put(rows)

    def row(self, n: int) -> list[str]:
        """The texts of a row, without spaces about them."""
        return [text.strip() for text in self.cells.rows[n]]

    def type_in(self, row: int, column: int, text: str) -> None:
        """Give a cell a text, as the hand does."""
        self.cells.setData(self.cells.index(row, column), text)

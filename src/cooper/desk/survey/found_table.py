"""The table of the designs found: columns of choice, sorted by several, the selection shared with the cloud."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QAbstractTableModel, QItemSelection, QItemSelectionModel, QModelIndex, QObject, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QGuiApplication, QKeyEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QMenu, QTableView

from cooper.desk.widgets.plain_cells import paint_cells
from cooper.desk.widgets.rows_view import NOWHERE, Index
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.survey.criteria import CRITERIA
from cooper.survey.survey_result import SurveyResult

FIRST = ("what", "u", "m_n", "a_w", "width", "S_F", "S_H", "worst", "mass")
"""Columns that are shown unless others were chosen."""
MOST_MARKED = 2000
"""Rows that are marked at once in the table."""


class FoundModel(QAbstractTableModel):
    """Rows of the designs that are kept, in the order of the sorting."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.result: SurveyResult | None = None
        self.order: NDArray[np.int64] = np.empty(0, dtype=np.int64)
        self.columns: list[str] = list(FIRST)
        self.by: list[tuple[str, bool]] = [("mass", True)]
        self.system = "mm"
        self.modules_differ = False
        self._kept: NDArray[np.bool_] = np.empty(0, dtype=bool)

    def show(self, result: SurveyResult, keep: NDArray[np.bool_]) -> None:
        self.beginResetModel()
        self.result, self._kept = result, keep
        values = result.values
        # Of designs with more than one module the column shows the first and the last.
        self.modules_differ = "m_last" in values and bool(np.any(values["m_last"] != values["m_n"]))
        self._sort()
        self.endResetModel()

    def _sort(self) -> None:
        rows = np.flatnonzero(self._kept)
        if self.result is None:
            self.order = rows
            return
        keys = []
        for key, up in reversed(self.by):
            v = self.result.pattern.astype(float) if key == "what" else self.result.values.get(key)
            if v is not None:
                keys.append(v[rows] if up else -v[rows])
        self.order = rows[np.lexsort(keys)] if keys else rows

    def sort_by(self, key: str, *, add: bool) -> None:
        """Sort by a column, turned round where it is the first one already; ``add`` puts it behind those that are
        there."""
        now = dict(self.by)
        if add:
            self.by = [*((k, u) for k, u in self.by if k != key), (key, not now.get(key, False))]
        else:
            first = self.by[0] if self.by else ("", False)
            self.by = [(key, not first[1] if first[0] == key else True)]
        self.layoutAboutToBeChanged.emit()
        self._sort()
        self.layoutChanged.emit()

    def give_columns(self, columns: list[str]) -> None:
        self.beginResetModel()
        self.columns = columns
        self.endResetModel()

    def rowCount(self, parent: Index = NOWHERE) -> int:
        return 0 if parent.isValid() else len(self.order)

    def columnCount(self, parent: Index = NOWHERE) -> int:
        return 0 if parent.isValid() else len(self.columns)

    def text(self, row: int, column: int) -> str:
        """What stands in a cell."""
        assert self.result is not None
        n, key = int(self.order[row]), self.columns[column]
        if key == "what":
            return self.result.label(n)
        values = self.result.values.get(key)
        text = "–" if values is None else CRITERIA[key].text(float(values[n]), self.system)
        if key == "m_n" and self.modules_differ and values is not None:
            last = float(self.result.values["m_last"][n])
            if last != float(values[n]):
                text += f" / {CRITERIA['m_last'].text(last, self.system)}"
        return text

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or self.result is None or index.row() >= len(self.order):
            return None
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole):
            if role == Qt.ItemDataRole.ToolTipRole and self.columns[index.column()] != "what":
                return None
            return self.text(index.row(), index.column())
        return None

    def name(self, key: str) -> str:
        """What a column is called, with its unit and the way it is sorted."""
        if key == "what":
            words = "what"
        else:
            known = CRITERIA[key]
            # As it is typed in a filter.
            words = known.symbol
            if known.unit(self.system):
                words += tr(" {system}", system=known.unit(self.system))
        at = next((n for n, (k, _up) in enumerate(self.by) if k == key), None)
        if at is None:
            return words
        return tr(
            "{words} {by}{at}", words=words, by="↑" if self.by[at][1] else "↓", at=at + 1 if len(self.by) > 1 else ""
        )

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if orientation != Qt.Orientation.Horizontal or section >= len(self.columns):
            return None
        key = self.columns[section]
        if role == Qt.ItemDataRole.DisplayRole:
            return self.name(key)
        if role == Qt.ItemDataRole.ToolTipRole:
            return tr("arrangement and materials") if key == "what" else CRITERIA[key].words
        return None


class FoundTable(QTableView):
    """A click sorts, with Shift by one more; the right button on the head chooses columns; Enter puts on the shelf,
    Space takes."""

    chosen = Signal(object)
    shelved = Signal(int)
    taken = Signal(int)
    columns_given = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.rows = FoundModel(self)
        self.setModel(self.rows)
        self.setObjectName("found_table")
        self.setAccessibleName(translate(tr("Table of the designs found")))
        self.verticalHeader().hide()
        self.verticalHeader().setDefaultSectionSize(23)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setWordWrap(False)
        self.setShowGrid(False)
        head = self.horizontalHeader()
        head.setSectionsClickable(True)
        head.setMinimumSectionSize(36)
        head.sectionClicked.connect(self._sort)
        head.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        head.customContextMenuRequested.connect(lambda at: self.column_menu().exec(head.mapToGlobal(at)))
        self.selectionModel().selectionChanged.connect(lambda *_: self._told())
        self._telling = True

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.rows.result is not None:
            right = [key != "what" for key in self.rows.columns]
            paint_cells(
                QPainter(self.viewport()), self, event.rect(), self.rows.text, to_right=lambda _text, n: right[n]
            )

    def show_found(self, result: SurveyResult, keep: NDArray[np.bool_]) -> None:
        """Show the designs that are kept."""
        self._telling = False
        self.rows.show(result, keep)
        self._telling = True
        self._fit()

    def _fit(self) -> None:
        head = self.horizontalHeader()
        for n, key in enumerate(self.rows.columns):
            if key == "what":
                head.setSectionResizeMode(n, QHeaderView.ResizeMode.Interactive)
                others = sum(self._wide(k) for k in self.rows.columns if k != "what")
                room = self.width() - self.verticalScrollBar().sizeHint().width() - others - 4
                self.setColumnWidth(n, max(room, 150))
            else:
                head.setSectionResizeMode(n, QHeaderView.ResizeMode.Interactive)
                self.setColumnWidth(n, self._wide(key))

    def _wide(self, key: str) -> int:
        return 14 + 7 * max(len(self.rows.name(key)), 13 if key == "m_n" and self.rows.modules_differ else 6)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def _sort(self, section: int) -> None:
        add = bool(QGuiApplication.keyboardModifiers() & Qt.KeyboardModifier.ShiftModifier)
        self.rows.sort_by(self.rows.columns[section], add=add)
        self._fit()

    def column_menu(self) -> QMenu:
        """Every quantity with a tick where it has a column."""
        menu = QMenu(self)
        for key in ("what", *CRITERIA):
            words = tr("arrangement and materials") if key == "what" else f"{CRITERIA[key].words}"
            action = menu.addAction(translate(words))
            action.setCheckable(True)
            action.setChecked(key in self.rows.columns)
            action.triggered.connect(lambda on, key=key: self.give_column(key, on))
        return menu

    def give_columns(self, keys: list[str]) -> None:
        """Show these columns, of those that are known; the usual ones where none is."""
        known = [k for k in keys if k == "what" or k in CRITERIA]
        self.rows.give_columns(known or list(FIRST))
        self._fit()

    def give_column(self, key: str, on: bool) -> None:
        """Show a column, or leave it out."""
        columns = [k for k in self.rows.columns if k != key] + ([key] if on else [])
        self.rows.give_columns(columns or ["what"])
        self._fit()
        self.columns_given.emit()

    def _told(self) -> None:
        if self._telling:
            self.chosen.emit(self.numbers())

    def numbers(self) -> NDArray[np.int64]:
        """The designs that are marked."""
        rows = sorted({i.row() for i in self.selectionModel().selectedRows()})
        return self.rows.order[rows] if rows else np.empty(0, dtype=np.int64)

    def mark(self, numbers: NDArray[np.int64]) -> None:
        """Mark designs that were chosen elsewhere, and show the first of them."""
        self._telling = False
        rows = np.sort(np.flatnonzero(np.isin(self.rows.order, numbers)))[:MOST_MARKED]
        selection = QItemSelection()
        last = self.rows.columnCount() - 1
        # Neighbours as one range.
        for run in np.split(rows, np.flatnonzero(np.diff(rows) > 1) + 1) if len(rows) else []:
            selection.select(self.rows.index(int(run[0]), 0), self.rows.index(int(run[-1]), last))
        self.selectionModel().select(selection, QItemSelectionModel.SelectionFlag.ClearAndSelect)
        if len(rows):
            self.scrollTo(self.rows.index(int(rows[0]), 0))
        self._telling = True

    def now(self) -> int:
        """The design that the keyboard is at; -1 for none."""
        at: QModelIndex = self.currentIndex()
        return int(self.rows.order[at.row()]) if at.isValid() and at.row() < len(self.rows.order) else -1

    def as_text(self, numbers: NDArray[np.int64] | None = None) -> str:
        """Rows as text with tabs, with a head; all that are kept where none are named."""
        rows = (
            range(len(self.rows.order))
            if numbers is None
            else np.flatnonzero(np.isin(self.rows.order, numbers)).tolist()
        )
        lines = ["\t".join(self.rows.name(k).rstrip("↑↓0123456789 ") for k in self.rows.columns)]
        lines += ["\t".join(self.rows.text(r, c) for c in range(len(self.rows.columns))) for r in rows]
        return join("\n", lines)

    def copy(self) -> None:
        """The marked rows, or all, to the clipboard."""
        marked = self.numbers()
        QGuiApplication.clipboard().setText(translate(self.as_text(marked if len(marked) else None)))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.now() >= 0:
            self.shelved.emit(self.now())
        elif key == Qt.Key.Key_Space and self.now() >= 0:
            self.taken.emit(self.now())
        elif key == Qt.Key.Key_C and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.copy()
        else:
            super().keyPressEvent(event)

    def mouseDoubleClickEvent(self, event: object) -> None:
        if self.now() >= 0:
            self.shelved.emit(self.now())

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        n = self.now()
        if n >= 0:
            menu.addAction(translate(tr("Take it\tSpace")), lambda: self.taken.emit(n))
            menu.addAction(translate(tr("Put it on the shelf\tEnter")), lambda: self.shelved.emit(n))
        menu.addAction(translate(tr("Copy\tCtrl+C")), self.copy)
        menu.exec(event.globalPos())

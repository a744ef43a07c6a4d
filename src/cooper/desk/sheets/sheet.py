"""Sheets that open over the Bench: the duty, all data of a gear, the mesh. Built of the same tags as the drawing."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent, QPalette
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.slices import Slices
from cooper.desk.widgets.brief import Brief, Topic
from cooper.desk.widgets.choices import Choice, TextChoice
from cooper.desk.widgets.clear_area import ClearArea
from cooper.desk.widgets.labels import Label, write
from cooper.desk.widgets.lanes import Lanes
from cooper.desk.widgets.tag import Tag
from cooper.editing.fields import Field
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

AFTER_MS = 15
"""When tables and pictures of a sheet follow an edit: by then the edit is painted."""


class Sheet(QFrame):
    """Columns of named groups of tags and choices; Escape closes it."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme
        self.setObjectName("sheet")
        self.fields: dict[str, Tag] = {}
        self.choices: list[Choice] = []
        self.texts: list[TextChoice] = []
        # Makes the fields anew where they depend on the design, as a hardness does on its scale.
        self.renew: Callable[[], dict[str, Field]] | None = None
        self.rebuild: Callable[[], None] = lambda: None
        self._places: list[QWidget] = []
        outer = QVBoxLayout(self)
        outer.setContentsMargins(18, 12, 10, 12)
        head = QHBoxLayout()
        self.title = Label()
        th.set_text_role(self.title, "ink", th.TITLE, bold=True)
        close = QPushButton(translate(tr("Close  Esc")))
        close.setObjectName("sheet_close")
        close.setProperty("plain", True)
        close.clicked.connect(self.dismiss)
        head.addWidget(self.title)
        head.addStretch(1)
        head.addWidget(close)
        outer.addLayout(head)
        area = ClearArea(QPalette.ColorRole.Base)
        area.setWidgetResizable(True)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.inside = Lanes()
        area.setWidget(self.inside)
        outer.addWidget(area, 1)
        self._watching: list[Callable[[], object]] = []
        self._turns = Slices(self)
        self.is_open = True
        """Whether it still follows the design: what is dismissed is gone in the next turn of the loop."""
        for heard in (session.changed, session.system_changed):
            heard.connect(self._follow)
        session.opened.connect(self.dismiss)

    def watch(self, follow: Callable[[], object]) -> None:
        """Call ``follow`` whenever the design or the units change, until the sheet closes: in a turn of the loop of
        its own, once the fields and what lies beside the sheet are painted."""
        self._watching.append(follow)

    def _follow(self) -> None:
        self.refresh()
        self._turns.start((follow() for follow in tuple(self._watching)), lambda _last: None, AFTER_MS)

    def add_column(self, stretch: int = 0) -> QVBoxLayout:
        """A further column; with ``stretch`` it takes what the others leave."""
        return self.inside.add_column(stretch)

    def _head(self, column: QVBoxLayout, title: str) -> None:
        head = Label(title)
        th.set_text_role(head, "copper", bold=True)
        column.addWidget(head)

    def _titled(self, column: QVBoxLayout, title: str, between: int = 4) -> QGridLayout:
        """A title and the rows under it, still empty."""
        self._head(column, title)
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(between)
        column.addLayout(grid)
        return grid

    def _told(self, grid: QGridLayout, n: int, text: str) -> Label:
        """The meaning of a row at its left."""
        meaning = Label(text)
        th.set_text_role(meaning, "muted", th.SMALL)
        grid.addWidget(meaning, n, 0)
        return meaning

    def add_pairs(
        self,
        column: QVBoxLayout,
        title: str,
        heads: tuple[str, ...],
        rows: list[tuple[str, tuple[Field | Choice, ...]]],
    ) -> None:
        """A titled group of rows with a tag for each of several things, whose names stand above."""
        grid = self._titled(column, title, 3)
        for n, name in enumerate(heads, 1):
            above = Label(name)
            th.set_text_role(above, "muted", th.SMALL, bold=True)
            grid.addWidget(above, 0, n)
        for k, (meaning, each) in enumerate(rows, 1):
            self._told(grid, k, meaning)
            for n, row in enumerate(each, 1):
                if isinstance(row, Choice):
                    self.choices.append(row)
                    widget: QWidget = row
                else:
                    widget = self.fields[row.key] = Tag(self.session, row, self.theme, self.inside)
                self._places.append(widget)
                grid.addWidget(widget, k, n, Qt.AlignmentFlag.AlignLeft)
        grid.setColumnStretch(0, 1)

    def add_group(self, column: QVBoxLayout, title: str, rows: list[Field | Choice]) -> None:
        """A titled group of rows, each with its meaning at the left and its tag at the right."""
        grid = self._titled(column, title)
        for n, row in enumerate(rows):
            meaning = self._told(grid, n, "")
            write(meaning, row.meaning)
            meaning.setWordWrap(True)
            meaning.setMaximumWidth(300)
            if isinstance(row, Choice):
                self.choices.append(row)
                widget: QWidget = row
            else:
                widget = self.fields[row.key] = Tag(self.session, row, self.theme, self.inside)
            self._places.append(widget)
            grid.addWidget(widget, n, 1, Qt.AlignmentFlag.AlignLeft)
        grid.setColumnStretch(0, 1)
        column.addSpacing(8)

    def add_brief(self, topics: list[Topic], rows: list[Field | Choice]) -> Brief:
        """A column of topics written as sentences; the slots have the keys of ``rows``."""
        brief = Brief(self.theme, self.inside)
        parts: dict[str, QWidget] = {}
        for row in rows:
            if isinstance(row, Choice):
                self.choices.append(row)
                row.setParent(brief)
                parts[row.key] = row
            else:
                parts[row.key] = self.fields[row.key] = Tag(self.session, row, self.theme, brief)
        self._places += brief.show_topics(topics, parts)
        self.inside.add_column(1).addWidget(brief)
        return brief

    def add_texts(self, column: QVBoxLayout, title: str, rows: list[TextChoice]) -> None:
        """A titled group of words that are typed."""
        grid = self._titled(column, title)
        for n, row in enumerate(rows):
            self._told(grid, n, row.meaning)
            row.setMinimumWidth(130)
            grid.addWidget(row, n, 1)
            self._places.append(row)
            self.texts.append(row)
        column.addSpacing(8)

    def add_drawing(self, column: QVBoxLayout, title: str, drawing: QWidget, tags: dict[str, Tag]) -> None:
        """A titled drawing that carries tags of its own."""
        self._head(column, title)
        column.addWidget(drawing)
        column.addSpacing(8)
        self.fields |= tags
        self._places += tags.values()

    def finish(self) -> None:
        """Close the columns and let Tab run down each of them in turn."""
        for a, b in pairwise(self._places):
            QWidget.setTabOrder(a, b)
        self.inside.close_columns()

    def refresh(self) -> None:
        fresh = self.renew() if self.renew else {}
        if self.renew is not None and not self.shows(fresh):
            # Another material has other fields: the sheet is made anew once this edit is done.
            QTimer.singleShot(0, self.rebuild)
            fresh = {}
        for key, tag in self.fields.items():
            tag.refresh(fresh.get(key))
        for choice in self.choices:
            choice.refresh()
        for text in self.texts:
            text.refresh()

    def shows(self, fields: dict[str, Field]) -> bool:
        """Whether just these fields stand on the sheet."""
        return set(fields) == set(self.fields)

    def dismiss(self) -> None:
        """Close: nothing of the sheet hears of the session any more."""
        if self.is_open:
            for heard in (self.session.changed, self.session.system_changed):
                heard.disconnect(self._follow)
            self.session.opened.disconnect(self.dismiss)
        self.is_open = False
        self._turns.stop()
        self.hide()
        self.deleteLater()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.dismiss()
        elif event.text().isalpha() and not event.modifiers() & ~Qt.KeyboardModifier.ShiftModifier:
            # A letter begins the search for a value; digits belong to the tag that has the focus.
            find = getattr(self.window(), "find_value", None)
            if find is not None:
                find(event.text())
        else:
            event.ignore()

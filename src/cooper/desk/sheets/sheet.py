"""Sheets that open over the Bench: the duty, all data of a gear, the mesh. Built of the same tags as the drawing."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import pairwise

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent, QPalette
from PySide6.QtWidgets import (
    QFrame,
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
from cooper.desk.widgets.labels import ElidedLabel, Label
from cooper.desk.widgets.lanes import Lanes
from cooper.desk.widgets.tag import Tag
from cooper.editing.fields import Field
from cooper.editing.usual import back_to_usual, has_usual, is_usual
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.deciding import deciding

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
        self.briefs: list[Brief] = []
        outer = QVBoxLayout(self)
        outer.setContentsMargins(18, 12, 10, 12)
        head = QHBoxLayout()
        self.title = ElidedLabel()
        th.set_text_role(self.title, "ink", th.TITLE, bold=True)
        close = QPushButton(translate(tr("Close  Esc")))
        close.setObjectName("sheet_close")
        close.setProperty("plain", True)
        close.clicked.connect(self.dismiss)
        self.differs, self.usual = QPushButton(), QPushButton(translate(tr("Back to the usual")))
        self.differs.setObjectName("sheet_differs")
        self.differs.setCheckable(True)
        self.differs.setProperty("chip", True)
        self.differs.toggled.connect(lambda _on: self._mark())
        self.usual.setObjectName("sheet_usual")
        self.usual.setProperty("plain", True)
        self.usual.clicked.connect(self.back_to_usual)
        head.addWidget(self.title, 1)
        for button in (self.differs, self.usual):
            # Shown only for sheets with a brief.
            button.hide()
            head.addWidget(button)
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

    def add_brief(self, topics: list[Topic], rows: Sequence[Field | Choice | TextChoice]) -> Brief:
        """A column of topics written as sentences; the slots have the keys of ``rows``."""
        brief = Brief(self.theme, self.inside)
        parts: dict[str, QWidget] = {}
        for row in rows:
            if isinstance(row, Choice):
                self.choices.append(row)
                row.setParent(brief)
                parts[row.key] = row
            elif isinstance(row, TextChoice):
                self.texts.append(row)
                row.setParent(brief)
                row.setFixedWidth(130)
                parts[row.key] = row
            else:
                parts[row.key] = self.fields[row.key] = Tag(self.session, row, self.theme, brief)
        self._places += brief.show_topics(topics, parts)
        self.briefs.append(brief)
        self.inside.add_column(1).addWidget(brief)
        return brief

    def add_question(self, column: QVBoxLayout, topics: list[Topic], parts: dict[str, QWidget]) -> Brief:
        """Sentences with entries and words that are asked of a search, not part of the design; in a column."""
        brief = Brief(self.theme, self.inside)
        for part in parts.values():
            part.setParent(brief)
        self._places += brief.show_topics(topics, parts)
        column.addWidget(brief)
        return brief

    def parts_with_usual(self) -> dict[QWidget, str]:
        """The values of the sheet that stand at one place of the document, with the place, where one is usual."""
        design = self.session.design
        paths: dict[QWidget, str] = {tag: tag.field.path for tag in self.fields.values()}
        paths |= {choice: choice.path for choice in self.choices}
        return {part: path for part, path in paths.items() if path and has_usual(design, path)}

    def back_to_usual(self) -> None:
        """Give all values of the sheet back what is usual for them, as one edit."""
        paths = list(self.parts_with_usual().values())
        label = tr("{sheet}: back to the usual", sheet=self.accessibleName())
        fault = self.session.attempt(lambda d, _r: back_to_usual(d, paths), label, "usual").fault
        if fault is not None:
            self.session.told.emit(fault)

    def _mark(self) -> None:
        """Mark usual values and those behind short or thin checks; show only differing ones if that is chosen."""
        if not self.briefs:
            return
        design = self.session.design
        decides = deciding(design.train, self.session.results)
        with_usual = self.parts_with_usual()
        usual = {part for part, path in with_usual.items() if is_usual(design, path)}
        for tag in self.fields.values():
            place, symbol = tag.field.place.rstrip("."), tag.field.symbol
            tag.mark(tag in usual if tag in with_usual else None, decides.get((place, symbol), ""))
        for choice in self.choices:
            th.set_text_role(choice, "muted" if choice in usual else "ink")
        other = set(with_usual) - usual
        self.differs.setText(translate(tr("What differs: {count}", count=len(other))))
        self.differs.setEnabled(bool(other) or self.differs.isChecked())
        self.usual.setEnabled(bool(other))
        for brief in self.briefs:
            brief.show_only(other if self.differs.isChecked() else None)

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
        for button in (self.differs, self.usual):
            button.setVisible(bool(self.briefs))
        self._mark()
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
        self._mark()

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

"""A list of what meets some entries: found beside the window, shown as it comes, taken by a double click or Enter."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from cooper.desk.base import theme as th
from cooper.desk.base.workers import Task, submit
from cooper.desk.sheets.offers import Ask, Offers, drawn
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.rows_view import RowsView
from cooper.document.models import Design
from cooper.errors import OutOfRange, message_of
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate

Columns = dict[str, Callable[[Any], str]]
Taken = Callable[[Any], tuple[str, Design]]
"""From a finding to the words and the design of taking it."""


class Finder:
    """``table`` with a column for each of ``columns``, and ``words`` that say how to take one, or why there is none."""

    def __init__(
        self,
        sheet: Sheet,
        name: str,
        columns: Columns,
        taken: Taken,
        none: str = tr("Nothing was found."),
        ask: Ask | None = None,
    ) -> None:
        """``ask`` where what is found is a design that is drawn with its margins."""
        self.sheet, self.name, self.taken, self.none = sheet, name, taken, none
        self.table = RowsView(columns if ask is None else drawn(columns), stretch=False)
        self.table.setObjectName(f"{name}_table")
        self.table.setAccessibleName(translate(tr("{name}: what meets the entries", name=term(name))))
        if ask is not None:
            self.offers = Offers(sheet, self.table, ask)
        self.table.activated.connect(lambda index: self.take(index.row()))
        self.words = Label()
        self.words.setObjectName(f"{name}_words")
        self.words.setWordWrap(True)
        self.found: list[Any] = []
        self.task: Task | None = None
        sheet.destroyed.connect(lambda _gone: self._give_up())

    def find(self, function: str, args: Callable[[], tuple[Any, ...]]) -> None:
        """List what a function of the core finds with the entries, in place of what was found before."""
        self._give_up()
        self.found = []
        self.table.show_rows(self.found)
        try:
            asked = args()
        except OutOfRange as fault:
            self._say(message_of(fault), bad=True)
            return
        self._say(tr("Searching …"))
        self.task = submit(function, *asked, take=self._show, done=self._end)

    def _give_up(self) -> None:
        if self.task is not None:
            self.task.give_up()

    def _show(self, item: Any) -> None:
        self.found = [*self.found, *(item if isinstance(item, list) else [item])]
        self.table.show_rows(self.found)

    def _end(self, fault: Exception | None) -> None:
        if fault is not None:
            self._say(message_of(fault), bad=True)
        elif not self.found:
            self._say(self.none)
        else:
            self._say(tr("A double click or Enter takes one; Ctrl+Z takes it back."))

    def _say(self, text: str, *, bad: bool = False) -> None:
        self.words.setText(translate(text))
        th.set_text_role(self.words, "short" if bad else "muted", th.TEXT if bad else th.SMALL)

    def take(self, row: int) -> None:
        """Make a row of the list the present design."""
        if 0 <= row < len(self.found):
            words, design = self.taken(self.found[row])
            self.sheet.session.edit(lambda _d, _r: design, words, f"{self.name}_take")

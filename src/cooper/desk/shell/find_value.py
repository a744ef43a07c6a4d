"""A value found by its symbol, name or meaning, wherever it stands: its sheet opens with the value selected."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QScrollArea

from cooper.desk.shell.commands import Command, CommandList
from cooper.desk.widgets.choices import Choice
from cooper.desk.widgets.tag import Tag
from cooper.document.units import number_with_unit
from cooper.editing.all_fields import Found, Place, all_choices, all_fields, matching
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window

MOST = 60
"""Values that are listed at most."""


class ValueList(CommandList):
    """The list over the window in which a value is found by what is typed."""

    WIDE = 760

    def __init__(self, window: Window) -> None:
        super().__init__(list, window)
        self.window_of = window
        self.places: list[Found] = []
        self.setAccessibleName(translate(tr("Values")))
        self.line.setAccessibleName(translate(tr("Find a value")))
        self.line.setPlaceholderText(translate(tr("A value: its symbol, name or meaning")))
        self.none.setText(translate(tr("No value has these words.")))
        # The values are those of the design as it was; another one has others.
        for altered in (window.session.changed, window.session.opened):
            altered.connect(self.hide)

    def open(self, start: str = "") -> None:
        design = self.window_of.session.design
        self.places = [*all_fields(design), *all_choices(design)]
        super().open()
        self.line.setText(start)

    def refresh(self) -> None:
        found = matching(self.places, self.line.text())[:MOST]
        self.commands = [
            Command(f"value_{n}", self._told(place), "", partial(go_to, self.window_of, place))
            for n, place in enumerate(found)
        ]
        self.fill(self.commands)
        self.none.setVisible(bool(self.line.text().strip()) and not found)

    def _told(self, place: Found) -> str:
        if not isinstance(place, Place):
            return place.words
        session, field = self.window_of.session, place.field
        value = field.read(session.design, session.results)
        shown = translate(field.empty) if value is None else number_with_unit(value, field.kind, session.system)
        symbol, rest = place.words.split("  ", 1)
        return f"{symbol}   {translate(shown)}   {rest}"


def go_to(window: Window, place: Found) -> None:
    """Open the sheet of a value, or the drawing, with the value selected."""
    if window.pages.currentIndex():
        window.leave_survey()
    if place.stage is not None and place.stage != window.session.stage:
        window.session.select_stage(place.stage)
    if place.sheet:
        window.open_sheet(place.sheet)
        sheet = window.sheet
        parts: list[Tag | Choice] = [*sheet.fields.values(), *sheet.choices] if sheet is not None else []
    else:
        window.over_bench.drop()
        window.bench.set_lens("teeth")
        parts = list(window.bench.tags.values())
    part = next((p for p in parts if key_of(p) == place.key), None)
    if part is not None:
        _show(part)


def key_of(part: Tag | Choice) -> str:
    """The key of what a tag shows, or a choice."""
    return part.field.key if isinstance(part, Tag) else part.key


def _show(tag: Tag | Choice) -> None:
    parent = tag.parentWidget()
    while parent is not None and not isinstance(parent, QScrollArea):
        parent = parent.parentWidget()
    if parent is not None:
        parent.ensureWidgetVisible(tag)
    tag.setFocus()

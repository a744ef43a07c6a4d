"""The parts of a window laid out, and what each one's signals do."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QHBoxLayout,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from cooper.i18n.text import tr

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window


def lay_out(window: Window) -> None:
    middle = QWidget()
    row = QHBoxLayout(middle)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(0)
    row.addWidget(window.bench, 1)
    divider = QFrame()
    divider.setObjectName("divider")
    divider.setFixedWidth(1)
    row.addWidget(divider)
    row.addWidget(window.margins)
    whole = QWidget()
    column = QVBoxLayout(whole)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(0)
    column.addWidget(window.power_line)
    # The Bench with its Margins, or a page that takes their place.
    window.pages = QStackedWidget()
    window.pages.addWidget(middle)
    column.addWidget(window.pages, 1)
    column.addWidget(window.trail)
    window.setCentralWidget(whole)
    QWidget.setTabOrder(window.power_line, window.bench)


def bind(window: Window) -> None:
    window.power_line.duty_wanted.connect(partial(window.open_sheet, "duty"))
    window.power_line.commands_wanted.connect(lambda: window.command_list.open())
    window.power_line.file_wanted.connect(window._file_menu)
    window.bench.verbs_wanted.connect(window._bench_menu)
    window.margins.verbs_wanted.connect(window._check_menu)
    window.bench.more_wanted.connect(window.open_more)
    window.bench.set_wanted.connect(partial(window.open_sheet, "set"))
    window.bench.sheet_wanted.connect(window.open_sheet)
    QApplication.instance().focusChanged.connect(window._remember_focus)  # type: ignore[union-attr]
    window.power_line.set_wanted.connect(window.show_set)
    window.power_line.arrangement_wanted.connect(partial(window.open_sheet, "arrangement"))
    window.margins.why_wanted.connect(window._show_why)
    window.margins.notes_wanted.connect(partial(window.open_sheet, tr("notes")))
    window.session.changed.connect(window._after_change)
    window.session.file_changed.connect(window._name_window)
    window.session.refused.connect(window._refused)
    window.session.told.connect(window.notice.report)
    window.session.working.connect(window._working)
    window.session.worked.connect(window._worked)
    window.session.stage_selected.connect(lambda _stage: window._leave_stage())

"""Margins: every check of the selection as value against limit, worst first; opened, its Levers."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.desk.shell.margin_rows import CheckRow, LeverRow, margin_words
from cooper.desk.shell.warning_rows import WarningRow, WorstRow
from cooper.desk.widgets.clear_area import ClearArea
from cooper.desk.widgets.labels import Label, plain_tip
from cooper.desk.widgets.shapes import drop
from cooper.document.units import number_with_unit
from cooper.editing.lever_search import Lever
from cooper.editing.levers import LEVERED, each_lever
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import Check

MOST_IN_SIGHT = 4
"""Checks at the top of the list that are in sight in the smallest window."""


class Margins(QWidget):
    """The list at the right; ``why_wanted`` carries the key of the opened check, or an empty text when closed."""

    why_wanted = Signal(str)
    notes_wanted = Signal()
    verbs_wanted = Signal(str, QPoint)
    """What can be done with a check is asked for, by its key, at a place of the screen."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme
        self.setObjectName("margins")
        self.opened = ""
        self.rows: dict[str, CheckRow] = {}
        self.lever_rows: list[LeverRow] = []
        self.heads: list[QLabel] = []
        self.warnings: list[WarningRow] = []
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 12, 0, 0)
        outer.setSpacing(4)
        head = QHBoxLayout()
        head.setContentsMargins(14, 0, 14, 0)
        self.title, self.method = Label(tr("Margins")), Label()
        self.method.setObjectName("method")
        self.count = QPushButton()
        th.set_text_role(self.title, "ink", th.TITLE, bold=True)
        th.set_text_role(self.method, "muted", th.SMALL)
        th.set_style(self.count, "form", "line")
        th.set_text_role(self.count, "muted", th.SMALL)
        self.count.setObjectName("warning_count")
        self.count.setFlat(True)
        self.count.setCursor(Qt.CursorShape.PointingHandCursor)
        self.count.clicked.connect(self.notes_wanted)
        head.addWidget(self.title)
        head.addWidget(self.count)
        head.addStretch(1)
        head.addWidget(self.method)
        outer.addLayout(head)
        self.worst = WorstRow(theme, self)
        self.worst.clicked.connect(self._go_to_worst)
        outer.addWidget(self.worst)
        self.area = ClearArea()
        self.area.setWidgetResizable(True)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list = QWidget()
        self.column = QVBoxLayout(self.list)
        self.column.setContentsMargins(0, 0, 0, 8)
        self.column.setSpacing(0)
        self.column.addStretch(1)
        self.area.setWidget(self.list)
        outer.addWidget(self.area, 1)
        self.card: QFrame | None = None
        self._solving: Task | None = None
        self._solve_later = QTimer(self)
        self._solve_later.setSingleShot(True)
        self._solve_later.setInterval(60)
        self._solve_later.timeout.connect(self._fill_levers)
        session.changed.connect(self.refresh)
        session.system_changed.connect(self.refresh)
        session.stage_selected.connect(lambda _i: self.refresh())
        self.refresh()

    def apply_theme(self, theme: th.Theme) -> None:
        self.theme = theme
        for row in self.rows.values():
            row.theme = theme
        self.worst.theme = theme
        for line in self.warnings:
            drop(line)
        self.warnings = []
        self.refresh()

    def refresh(self) -> None:
        self.method.setText(translate(self.session.design.train.defaults.method))
        groups = self.session.checks()
        keys = {c.key for _k, checks in groups for c in checks}
        for key in set(self.rows) - keys:
            row = self.rows.pop(key)
            self.column.removeWidget(row)
            drop(row)
        for head in self.heads:
            self.column.removeWidget(head)
            drop(head)
        self.heads = []
        if self.opened and self.opened not in keys:
            self.open("")
        at = 0
        for k, checks in groups:
            if len(groups) > 1:
                name = tr("The train") if k is None else self.session.design.train.stages[k].name
                self.heads.append(self._head(name))
                self.column.insertWidget(at, self.heads[-1])
                at += 1
            for check in checks:
                self._row(check, at)
                at += 1
        self._show_warnings(at)
        self._show_worst({c.key for _k, checks in groups[:1] for c in checks[:MOST_IN_SIGHT]})
        self._place_card()

    def _show_warnings(self, at: int) -> None:
        """The warnings on what is looked at and on the train, as lines under the checks; those that count stand
        above them."""
        session = self.session
        result = session.results.warnings(session.scope())
        several = len(session.results.stages) > 1
        wanted = [
            (n, session.design.train.stages[n.stage].name if several and n.stage is not None else "") for n in result
        ]
        if [(w.note, w.text_shown) for w in self.warnings] != [
            (n, tr("{where}: {text}", where=where, text=n.text) if where else n.text) for n, where in wanted
        ]:
            for old in self.warnings:
                self.column.removeWidget(old)
                drop(old)
            self.warnings = [WarningRow(self.theme, n, where, self.list) for n, where in wanted]
            for row in self.warnings:
                row.clicked.connect(self.notes_wanted)
        above = 0
        for row in self.warnings:
            if row.note.counts:
                self.column.insertWidget(above, row)
                above += 1
        for n, quiet in enumerate(r for r in self.warnings if not r.note.counts):
            self.column.insertWidget(at + above + n, quiet)
        count = len(session.results.warnings())
        self.count.setText(
            translate(
                tr("no warnings")
                if count == 0
                else tr("1 warning")
                if count == 1
                else tr("{count} warnings", count=count)
            )
        )
        plain_tip(self.count, tr("Warnings on the whole train; a click opens all notes (Ctrl+I)"))

    def _show_worst(self, in_sight: set[str]) -> None:
        """The worst check of the train, where it is not among the first of the list."""
        worst = self.session.results.worst
        hidden = worst.key not in in_sight
        self.worst.setVisible(hidden)
        if hidden:
            where = tr("the train") if worst.stage is None else self.session.design.train.stages[worst.stage].name
            self.worst.show_check(worst, where, margin_words(worst))

    def _go_to_worst(self) -> None:
        worst = self.session.results.worst
        if worst.stage is not None:
            self.session.select_stage(worst.stage)
        if worst.key in self.rows:
            self.area.ensureWidgetVisible(self.rows[worst.key])
            self.rows[worst.key].setFocus(Qt.FocusReason.OtherFocusReason)

    def _head(self, name: str) -> QLabel:
        """The name of a mesh over its checks, where several are looked at."""
        head = Label(name)
        th.set_text_role(head, "copper", bold=True)
        head.setContentsMargins(14, 6, 0, 0)
        return head

    def _row(self, check: Check, at: int) -> None:
        row = self.rows.get(check.key)
        if row is None:
            row = CheckRow(self.session, self.theme, check, self.list)
            row.clicked.connect(lambda _on=False, key=check.key: self.toggle(key))
            row.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
            row.customContextMenuRequested.connect(
                lambda at, key=check.key, row=row: self.verbs_wanted.emit(key, row.mapToGlobal(at))
            )
            self.rows[check.key] = row
        else:
            row.show_check(check)
        row.setChecked(check.key == self.opened)
        if self.column.indexOf(row) != at:
            self.column.insertWidget(at, row)

    def toggle(self, key: str) -> None:
        check = self.session.results.check(key)
        if check is not None and check.stage is not None:
            # Why and the Levers work on the mesh that the check belongs to.
            self.session.select_stage(check.stage)
        self.open("" if key == self.opened else key)

    def open(self, key: str) -> None:
        """Open a check by its key, or close with an empty one."""
        self.opened = key
        for name, row in self.rows.items():
            row.setChecked(name == key)
        self._place_card()
        self.why_wanted.emit(key)

    def _place_card(self) -> None:
        """The card of Levers under the opened check; filled once the hands rest."""
        check = self.session.results.check(self.opened) if self.opened else None
        if self.card is not None:
            self.column.removeWidget(self.card)
        if check is None or check.symbol not in LEVERED:
            self._give_up()
            if self.card is not None:
                drop(self.card)
                self.card, self.lever_rows = None, []
            return
        if self.card is None:
            self.card = QFrame(self.list)
            self.card.setObjectName("sheet")
            box = QVBoxLayout(self.card)
            box.setContentsMargins(4, 6, 4, 6)
            box.setSpacing(0)
            self.card_title = Label()
            self.card_title.setObjectName("levers_title")
            self.card_title.setContentsMargins(10, 0, 0, 2)
            box.addWidget(self.card_title)
        limit = number_with_unit(check.limit, check.kind, self.session.system)
        self.card_title.setText(translate(tr("Levers to reach {limit}", limit=limit)))
        th.set_text_role(self.card_title, "copper")
        self.column.insertWidget(self.column.indexOf(self.rows[self.opened]) + 1, self.card)
        self.card.show()
        # What is being solved belongs to the state before.
        self._give_up()
        self._solve_later.start()

    def _give_up(self) -> None:
        """What is being solved is not wanted any more."""
        if self._solving is not None:
            self._solving.give_up()
            self._solving = None

    def _begin_levers(self) -> Check | None:
        """An empty card for the Levers of the opened check."""
        check = self.session.results.check(self.opened) if self.opened else None
        if check is None or self.card is None:
            return None
        for row in self.lever_rows:
            drop(row)
        self.lever_rows = []
        return check

    def _fill_levers(self) -> None:
        """Solve the Levers in a worker process; each is shown as soon as it is solved."""
        check = self._begin_levers()
        if check is not None:
            now = self.session
            self._solving = submit(
                "cooper.editing.levers:each_lever", now.design, now.results, check, take=self._show_lever
            )

    def _show_lever(self, lever: Lever) -> None:
        if self.card is None or not isValid(self.card):
            return
        box = self.card.layout()
        assert box is not None
        row = LeverRow(self.session, self.theme, lever, self.opened, self.card)
        row.clicked.connect(lambda _on=False, row=row: self._try(row))
        box.addWidget(row)
        self.lever_rows.append(row)

    def _try(self, row: LeverRow) -> None:
        lever = row.lever
        if lever.design is not None and lever.results is not None:
            self.session.take(
                lever.design, lever.results, tr("{label} {value_text}", label=lever.label, value_text=row.value_text())
            )

    def fill_now(self) -> None:
        """Solve the Levers at once (for pictures and tests)."""
        self._solve_later.stop()
        self._give_up()
        check = self._begin_levers()
        for lever in each_lever(self.session.design, self.session.results, check) if check is not None else ():
            self._show_lever(lever)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        focus = QApplication.focusWidget()
        rows = [self.rows[c.key] for _k, checks in self.session.checks() for c in checks if c.key in self.rows]
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down) and focus in rows:
            step = 1 if event.key() == Qt.Key.Key_Down else -1
            target = rows[max(0, min(len(rows) - 1, rows.index(focus) + step))]
            target.setFocus(Qt.FocusReason.TabFocusReason)
            self.area.ensureWidgetVisible(target)
        elif event.key() == Qt.Key.Key_Escape and self.opened:
            self.open("")
        else:
            event.ignore()

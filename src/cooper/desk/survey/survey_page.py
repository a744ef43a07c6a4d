"""The survey in the Bench's place: bounds at the left, the cloud and its table in the middle, the shelf at the
right."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.workers import LONG, WorkerProcess, submit
from cooper.desk.survey.ask_panel import AskPanel
from cooper.desk.survey.bound_rows import BoundRow
from cooper.desk.survey.hover_card import HoverCard
from cooper.desk.survey.picked import Shelf, SideBySide
from cooper.desk.survey.survey_view import FIRST_SHOWN, LATER_MS, SOON_MS, SurveyView
from cooper.desk.survey.waterfall import Waterfall
from cooper.document.duty import Duty
from cooper.document.survey_spec import Survey, SurveySpec, asked
from cooper.errors import OutOfRange, message_of
from cooper.i18n.text import tr
from cooper.survey.filter_and_rate import Batch
from cooper.survey.patterns import from_duty
from cooper.survey.relax import Relaxed
from cooper.survey.survey_result import SurveyResult

NEW = Duty(T=10.0, n=1450.0, u_wanted=4.0, u_tol=2.0, L_h=10000.0, K_A=1.25)
"""The duty that a new design begins with until another is typed."""


class SurveyPage(SurveyView):
    """All of a survey. ``left`` asks to go back to the Bench."""

    left = Signal()
    rounding = Signal()

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(session, theme, parent)
        self.save_table: Callable[[], object] = lambda: None
        self.print_side: Callable[[], object] = lambda: None
        self.may_restart: Callable[[], bool] = lambda: True
        self.new = False
        self._bind()
        self.apply_theme(theme)
        self._units()
        self._say()

    def _bind(self) -> None:
        runs: dict[str, Callable[[], object]] = {
            "survey_ask": self.ask,
            "survey_near": self.close_in,
            "survey_stop": self.stop,
            "survey_side": self.toggle_side,
            "survey_back": self.left.emit,
            "survey_edge": self.choose_edge,
            "survey_columns": lambda: self.table.column_menu().exec(self.cursor().pos()),
            "survey_copy": self.table.copy,
            "survey_save": lambda: self.save_table(),
            "survey_take": lambda: self.take(self.now()),
            "survey_put": lambda: self.put(self.now()),
            "survey_present": lambda: self.put(-1),
            "survey_round": lambda: self.take(self.now(), rounding=True),
        }
        for name, button in self.buttons.items():
            button.clicked.connect(lambda _on=False, name=name: runs[name]())
        for row in self.bounds.values():
            row.moved.connect(lambda _key: self._filter())
        for combo in self.axes:
            combo.activated.connect(lambda _n: self._axes_moved())
        self.eased.chosen.connect(self._relax_to)
        self.side.printing.connect(lambda: self.print_side())
        self.cloud.picked.connect(self._picked)
        self.cloud.hovered.connect(self._hovered)
        self.cloud.shelved.connect(self.put)
        self.cloud.taken.connect(self.take)
        self.table.chosen.connect(self._chosen)
        self.table.shelved.connect(self.put)
        self.table.taken.connect(self.take)
        self.shelf.removed.connect(self.off_shelf)
        self.shelf.taken.connect(self.take)
        self.shelf.chosen.connect(self._shelf_chosen)
        self.waterfall.asked.connect(lambda _rule: self.relax())
        self.filter.textChanged.connect(lambda _text: self._filter())
        th.set_text_role(self.title, "ink", th.TITLE, bold=True)
        th.set_text_role(self.shelf_title, "ink", bold=True)
        for label in (self.words, self.eased.words, self.one_scale, self.legend):
            th.set_text_role(label, "muted", th.SMALL)
        self.session.opened.connect(self.forget)
        self.session.changed.connect(self._design_changed)
        self.session.system_changed.connect(self._units)

    # -- look

    def apply_theme(self, theme: th.Theme) -> None:
        """Put on a theme."""
        self.theme = theme
        parts: list[Waterfall | Shelf | SideBySide | HoverCard | BoundRow] = [
            self.waterfall,
            self.shelf,
            self.side,
            self.card,
        ]
        for part in (*parts, *self.bounds.values()):
            part.theme = theme
            part.update()
        self.cloud.apply_theme(theme)
        if self._panel is not None:
            self._panel.apply_theme(theme)

    def _bind_panel(self, panel: AskPanel) -> None:
        panel.go.connect(self._go)
        panel.closed.connect(self._close_panel)

    def _typed(self) -> tuple[Duty, SurveySpec] | None:
        """What stands on the open panel, where it can be read."""
        if not self.asking:
            return None
        try:
            return self.panel.asked()
        except OutOfRange:
            return None

    def resizeEvent(self, event: object) -> None:
        self._place_panel()

    def _units(self) -> None:
        system = self.session.system
        self.cloud.system = self.side.system = self.table.rows.system = system
        for row in self.bounds.values():
            row.system = system
        typed = self._typed()
        if typed is not None:
            self.panel.show_asked(*typed, system, self.panel.title.text())
        self._refresh_in(SOON_MS)

    # -- asking

    def ask(self, *, new: bool = False) -> None:
        """Open what is searched; ``new`` begins a design from its duty."""
        self.new = new
        duty = NEW if new else self.session.design.train.duty
        if duty.u_wanted is None:
            # The present ratio is as good a start as any.
            u = self.session.results.train.get("u", 4.0)
            duty = duty.replace_unchecked(u_wanted=round(float(u), 4))
        question = asked(shown=FIRST_SHOWN, process="ground") if new else self.question()
        self._place_panel()
        self.panel.show_asked(duty, question, self.session.system, tr("From a duty") if new else tr("What is searched"))
        self.panel.show()
        self.panel.raise_()

    def _close_panel(self) -> None:
        if self._panel is not None:
            self._panel.hide()
        self.cloud.setFocus()

    def _go(self, duty: Duty, question: SurveySpec) -> None:
        """Begin with what the panel says."""
        if self.new:
            if not self.may_restart():
                return
            try:
                self.session.restart(from_duty(duty, question.process), None, saved=False)
            except OutOfRange as fault:
                self.panel.fault.setText(message_of(fault))
                return
            self.new = False
        elif duty != self.session.design.train.duty:
            outcome = self.session.attempt(
                lambda d, _r: d.replace_unchecked(train=d.train.replace_unchecked(duty=duty)), "duty", "duty"
            )
            if outcome.fault is not None:
                self.panel.fault.setText(str(outcome.fault))
                return
        self._close_panel()
        self.sweep(question)

    def sweep(self, question: SurveySpec) -> None:
        """Search wide, from the duty alone."""
        self._start(question, None)

    def close_in(self) -> None:
        """Search around the selected stage of the present design."""
        question = self.question()
        self._start(
            question.replace_unchecked(shown=tuple(dict.fromkeys((*question.shown, "clash")))), self.session.stage
        )

    def _start(self, question: SurveySpec, around: int | None) -> None:
        self.stop()
        self._clear()
        self.around = around
        self._fault = ""
        design = self.session.design.replace_unchecked(survey=None)
        self.task = submit(
            "cooper.survey.task:searched", question, design, around, take=self._take_in, done=self._ended, lane=LONG
        )
        self._say()

    def stop(self) -> None:
        """Stop what is searched; what is found is kept."""
        task, self.task = self.task, None
        if task is not None and task.wanted:
            task.give_up()
            self._keep()
        self._say()

    def _clear(self) -> None:
        self.hover_later.stop()
        self.card.hide()
        self.result, self.survey = None, None
        self.keep = np.empty(0, dtype=bool)
        self.picks, self.results = [], {}
        for row in self.bounds.values():
            row.low, row.high = -np.inf, np.inf
        self.filter.blockSignals(True)
        self.filter.clear()
        self.filter.blockSignals(False)
        self.eased.clear()
        self._show_picks()

    def forget(self) -> None:
        """Another document is shown: what was found belongs to the one before."""
        task, self.task = self.task, None
        for running in (task, self.hover_task):
            if running is not None:
                running.give_up()
        self._clear()
        self._refresh_in(SOON_MS)

    def reopen(self) -> None:
        """Show what the document keeps, unless it is here already."""
        kept = self.session.design.survey
        if kept is None or self.task is not None or (self.survey is kept and self.result is not None):
            return
        self._clear()
        self.survey, self.around = kept, kept.around
        self.picks = []
        self.task = submit("cooper.survey.survey_result:reopened", kept, take=self._take_in, done=self._reopened)
        self._say()

    def _reopened(self, fault: Exception | None) -> None:
        self.task = None
        self._fault = "" if fault is None else message_of(fault)
        if self.survey is not None and fault is None:
            for n in self.survey.shelf:
                if self.result is not None and n < len(self.result):
                    self.put(n)
        self._refresh_in(SOON_MS)

    # -- what comes in

    def _take_in(self, item: SurveyResult | Batch) -> None:
        if not isValid(self):
            return
        if isinstance(item, SurveyResult):
            self.result = item
        elif self.result is not None:
            before = len(self.result)
            looked = self.result.looked
            self.result.add(item)
            if self.survey is not None:
                # Reopened: what was looked at is known already.
                self.result.looked = looked
            if before == 0 and len(self.result):
                self._refresh()
        if not self._later.busy:
            # While more comes in not for every batch.
            self._refresh_in(LATER_MS)

    def _ended(self, fault: Exception | None) -> None:
        self.task = None
        if fault is not None:
            self._fault = message_of(fault)
        elif self.result is not None:
            self.result.whole = self.result.looked >= self.result.size
            self._keep()
        self._refresh_in(SOON_MS)
        if fault is None and self.result is not None and not len(self.result):
            self.relax()

    def _keep(self) -> None:
        """Keep what was found with the document: packed beside the window, then a state of the Trail."""
        result, design = self.result, self.session.design
        if result is None:
            return
        around = self.around

        plain = design.replace_unchecked(survey=None)

        def store(survey: Survey | None) -> None:
            if not isValid(self) or self.result is not result:
                return
            if survey is None:
                # The process that found it is another one by now.
                submit("cooper.survey.survey_result:survey_of", result, plain, around, take=store)
                return
            self.survey = survey
            words_ = tr("closed in") if around is not None else "survey"
            self.session.attempt(
                lambda d, _r: d.replace_unchecked(survey=survey),
                tr("{words}: {found} designs", words=words_, found=len(result)),
                "survey",
            )
            self._say()

        # Asked of the process that found it, which has it at hand.
        submit(
            "cooper.survey.task:kept", plain, around, len(result), result.looked, result.whole, take=store, lane=LONG
        )

    def _design_changed(self) -> None:
        if self.isVisible():
            self.reopen()
            self._mark_present()
            self._say()
        if -1 in self.picks:
            self.results[-1] = self.session.results
            self._show_picks()

    def hideEvent(self, event: object) -> None:
        # What is looked for beside the window would keep others waiting.
        if self.eased.looking():
            self.eased.clear()
        if self.hover_task is not None:
            self.hover_task.give_up()

    def showEvent(self, event: object) -> None:
        WorkerProcess.of_program(LONG).warm()
        self.reopen()
        self._mark_present()
        self._say()

    # -- filtering and showing

    # -- choosing

    # -- shelf

    def take(self, n: int, *, rounding: bool = False) -> None:
        """Make a design the present one, as a state of the Trail; the survey stays with it."""
        if n < 0 or self.result is None or n >= len(self.result):
            return
        label = self.result.label(n)
        try:
            design = self.result.design(n, self.session.design, around=self.around is not None)
        except OutOfRange as fault:
            self.told.emit(tr("Not taken. {fault}", fault=fault))
            return
        shelf = tuple(k for k in self.picks if k >= 0)
        if design.survey is not None and design.survey.shelf != shelf:
            design = design.replace_unchecked(survey=design.survey.replace_unchecked(shelf=shelf))
            self.survey = design.survey
        outcome = self.session.edit(lambda _d, _r: design, tr("from the survey: {label}", label=label), "survey_take")
        if outcome:
            self.left.emit()
            if rounding:
                self.rounding.emit()

    # -- what would have to give

    def relax(self) -> None:
        """Which change of one bound lets some designs through."""
        result = self.result
        if result is None or self.task is not None or self.around is not None:
            return
        self.eased.look(result, self.session.design.replace_unchecked(survey=None), self.session.system)

    def _relax_to(self, item: Relaxed) -> None:
        if item.duty != self.session.design.train.duty:
            self.session.edit(
                lambda d, _r: d.replace_unchecked(train=d.train.replace_unchecked(duty=item.duty)),
                item.words,
                "duty",
            )
        self.sweep(item.question)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            if self.asking:
                self._close_panel()
            elif self.middle.currentIndex() == 1:
                self.toggle_side()
            elif self.filter.hasFocus():
                # What lies on top is the line: first what is typed goes, then the hands leave it.
                if self.filter.text():
                    self.filter.clear()
                else:
                    self.table.setFocus()
            else:
                self.left.emit()
        else:
            super().keyPressEvent(event)

"""What was found, bounded and shown: cloud, table, shelf."""

from __future__ import annotations

from functools import partial

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import (
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.slices import Slices
from cooper.desk.base.workers import Task, submit
from cooper.desk.survey.picked import MOST, Pick
from cooper.desk.survey.survey_parts import SurveyParts
from cooper.desk.survey.waterfall import thousands
from cooper.document.survey_spec import Survey, SurveySpec, asked
from cooper.errors import OutOfRange
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import Results
from cooper.survey.criteria import CRITERIA
from cooper.survey.filters import chosen
from cooper.survey.survey_result import SurveyResult
from cooper.survey.task import alone

FIRST_SHOWN = ("factor",)
"""Rules that are shown only, unless they are asked for."""
HOVER_MS = 140
SOON_MS, LATER_MS = 30, 220
"""Until what was changed is shown: by the hand, and by what is found."""


class SurveyView(SurveyParts):
    """The shown part of a survey: what is kept of what was found, marked, put on the shelf."""

    told = Signal(str)

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(theme, parent)
        self.session = session
        self.result: SurveyResult | None = None
        self.survey: Survey | None = None
        self.keep: NDArray[np.bool_] = np.empty(0, dtype=bool)
        self.picks: list[int] = []
        self.results: dict[int, Results] = {}
        self.task: Task | None = None
        self.hover_task: Task | None = None
        self.around: int | None = None
        self._fault = ""
        self._later = Slices(self)
        self.hover_later = QTimer(self)
        self.hover_later.setSingleShot(True)
        self.hover_later.setInterval(HOVER_MS)
        self.hover_later.timeout.connect(self._draw_hover)

    def question(self) -> SurveySpec:
        """What was asked last, or what a new survey begins with."""
        if self.survey is not None:
            return self.survey.question
        if self.result is not None:
            return self.result.question
        return asked(shown=FIRST_SHOWN)

    def _filter(self) -> None:
        self._refresh_in(SOON_MS)

    def _refresh_in(self, ms: int) -> None:
        """Show what has changed after some milliseconds, in place of what was put off before."""
        self._later.start(iter(()), lambda _last: self._refresh(), ms)

    def _refresh(self) -> None:
        """Everything that follows from what was found and how it is bounded."""
        result = self.result
        n = 0 if result is None else len(result)
        typed = np.ones(n, dtype=bool)
        fault = ""
        if result is not None and self.filter.text().strip():
            try:
                typed = chosen(result, self.filter.text())
            except OutOfRange as error:
                fault = str(error)
        th.set_style(self.filter, "fault", "true" if fault else "")
        self.filter.setToolTip(translate(fault))
        good = {
            k: row.good(result.values[k]) for k, row in self.bounds.items() if result is not None and k in result.values
        }
        self.keep = typed.copy()
        for mask in good.values():
            self.keep &= mask
        for key, row in self.bounds.items():
            row.setVisible(n == 0 or key in good)
            if n == 0:
                row.show_values(np.empty(0), np.empty(0, dtype=bool))
            if key in good and result is not None:
                others = typed.copy()
                for k, mask in good.items():
                    if k != key:
                        others &= mask
                row.show_values(result.values[key], others)
        self.cloud.limits = self._limits()
        if result is not None:
            kinds = sorted({p.arrangement for p in result.patterns})
            of = np.array([kinds.index(p.arrangement) for p in result.patterns], dtype=np.int64)
            kind = of[result.pattern] if n else np.empty(0, dtype=np.int64)
            self.cloud.show_points(result.values, kind, kinds, self.keep)
            if self.task is not None and self.survey is None:
                # What is done while more comes in is done in parts, the hand between them.
                QTimer.singleShot(1, partial(self._fill_table, result))
            else:
                self.table.show_found(result, self.keep)
            self.waterfall.show_counts(result.possible, result.gone, n)
        else:
            self.cloud.show_points({}, np.empty(0, dtype=np.int64), [], np.empty(0, dtype=bool))
            self.waterfall.show_counts(0.0, {}, 0)
        self._say(fault)

    def _fill_table(self, result: SurveyResult) -> None:
        if isValid(self) and self.result is result and len(self.keep) <= len(result):
            self.table.show_found(result, self.keep)

    def _limits(self) -> dict[str, tuple[float, ...]]:
        """What is asked for, by quantity: least safeties, ratio within its tolerance, sizes."""
        train, q = self.session.design.train, self.question()
        at, duty = train.defaults, train.duty
        result: dict[str, tuple[float, ...]] = {"worst": (0.0,), "du": (-duty.u_tol, duty.u_tol)}
        result |= {"S_F": (at.S_Fmin,), "S_H": (at.S_Hmin,), "S_B": (at.S_Bmin,), "S_int": (at.S_intmin,)}
        if duty.u_wanted is not None:
            result["u"] = (duty.u_wanted * (1 - duty.u_tol / 100), duty.u_wanted * (1 + duty.u_tol / 100))
        for key, most in (("d_out", q.d_most), ("width", q.b_most), ("length", q.l_most)):
            if most is not None:
                result[key] = (most,)
        return result

    def _say(self, fault: str = "") -> None:
        """One line on where things stand."""
        result, running = self.result, self.task is not None
        self.stop_button.setVisible(running and self.survey is None)
        many = 0 if result is None else len(result)
        kept = int(np.sum(self.keep)) if len(self.keep) == many else many
        if fault or self._fault:
            text = fault or self._fault
        elif result is None:
            text = (
                tr("Searching …")
                if running
                else tr("Nothing was searched yet: “What is searched …” asks for the bounds, Enter begins.")
            )
        else:
            text = tr("{kept} of {many} designs", kept=thousands(kept), many=thousands(many))
            if running and self.survey is None:
                text += tr(", {looked:.0f} % searched", looked=100 * result.looked / max(result.size, 1))
            elif not result.whole:
                text += tr(
                    "; not searched to the end ({looked} of {size})",
                    looked=thousands(result.looked),
                    size=thousands(result.size),
                )
            if self.survey is not None:
                stale = self.survey.stale(self.session.design.train.duty)
                if stale:
                    text += tr("; the duty has changed since: {stale}", stale=join(", ", stale))
            if result.altered(self.session.design):
                text += tr("; the requirements have changed since")
        bad = bool(fault or self._fault)
        th.set_text_role(self.words, "short" if bad else "muted", th.TEXT if bad else th.SMALL)
        self.words.setText(translate(text))
        now = self.now()
        self.take_button.setEnabled(now >= 0)
        self.round_button.setEnabled(now >= 0)
        self.put_button.setEnabled(now >= 0 and len(self.picks) < MOST)

    def _axes_moved(self) -> None:
        self.cloud.show_keys(*(c.currentData() for c in self.axes))

    def show_axes(self, x: str, y: str, color: str) -> None:
        """Lay these quantities on the axes."""
        for combo, key in zip(self.axes, (x, y, color), strict=True):
            combo.setCurrentIndex(combo.findData(key))
        self._axes_moved()

    def choose_edge(self) -> None:
        """Mark the designs on the best-possible edge."""
        self._picked(self.cloud.edge)

    def now(self) -> int:
        """The design that is marked: the one in the table, else the one under the pointer; -1 for none."""
        numbers = self.table.numbers()
        if len(numbers):
            return int(numbers[0])
        return self.cloud.hover

    def _picked(self, numbers: NDArray[np.int64]) -> None:
        self.table.mark(numbers)
        self._chosen(numbers)

    def _chosen(self, numbers: NDArray[np.int64]) -> None:
        self.cloud.choose(numbers)
        if len(numbers) == 1:
            # It will lie under the Bench's drawing.
            self._look_into(int(numbers[0]))
        self._say()

    def _shelf_chosen(self, number: int) -> None:
        if number >= 0:
            self._picked(np.array([number], dtype=np.int64))

    def _hovered(self, n: int) -> None:
        if n < 0:
            self.hover_later.stop()
            self.card.hide()
            return
        self._show_card(n)
        self.hover_later.start()

    def _show_card(self, n: int) -> None:
        result = self.result
        if result is None or n >= len(result):
            return
        system = self.session.system
        lines = []
        results = self.results.get(n)
        if results is not None:
            for c in sorted(results.checks, key=lambda c: c.margin)[:3]:
                where = (
                    tr(" stage {value}", value=c.stage + 1) if c.stage is not None and len(results.stages) > 1 else ""
                )
                lines.append(
                    tr(
                        "{symbol}{value}{where} {margin:+.0f} %",
                        symbol=c.symbol,
                        value=c.index or "",
                        where=where,
                        margin=100 * c.margin,
                    )
                )
        for key in ("worst", "mass", "eta", "u") if results is None else ("mass", "u"):
            if key in result.values:
                known = CRITERIA[key]
                lines.append(
                    tr(
                        "{symbol} {values} {system}",
                        symbol=known.symbol,
                        values=known.text(float(result.values[key][n]), system),
                        system=known.unit(system),
                    ).strip()
                )
        self.card.show_design(result.label(n), lines, results, self.cloud.point(n).toPoint())

    def _draw_hover(self) -> None:
        self._look_into(self.cloud.hover)

    def _look_into(self, n: int) -> None:
        """Evaluate a design found, beside the window; the one asked for before is not wanted any more."""
        result = self.result
        if result is None or not 0 <= n < len(result) or n in self.results:
            return
        if self.hover_task is not None:
            self.hover_task.give_up()

        def show(item: tuple[int, Results]) -> None:
            if isValid(self) and self.result is result:
                self.results[n] = item[1]
                if self.cloud.hover == n:
                    self._show_card(n)

        self.hover_task = submit("cooper.survey.task:each_of", alone(result, n), (0,), take=show)

    def put(self, n: int) -> None:
        """Put a design on the shelf; -1 is the present one."""
        if n in self.picks or (n >= 0 and (self.result is None or n >= len(self.result))):
            return
        if len(self.picks) >= MOST:
            self.told.emit(tr("The shelf holds {most} designs: take one off first (Del)", most=MOST))
            return
        self.picks.append(n)
        if n < 0:
            self.results[-1] = self.session.results
            self._show_picks()
        elif n in self.results:
            self._show_picks()
        else:
            assert self.result is not None
            result = self.result

            def show(item: tuple[int, Results]) -> None:
                if isValid(self) and self.result is result:
                    self.results[n] = item[1]
                    self._show_picks()

            submit("cooper.survey.task:each_of", alone(result, n), (0,), take=show)
        self._say()

    def off_shelf(self, n: int) -> None:
        """Take a design off the shelf."""
        if n in self.picks:
            self.picks.remove(n)
            self._show_picks()
            self._say()

    def _show_picks(self) -> None:
        picks = []
        for n in self.picks:
            results = self.results.get(n)
            if results is None:
                continue
            if n < 0:
                picks.append(Pick(-1, self.session.design.name, dict(self.cloud.present), results))
            elif self.result is not None:
                values = {k: float(v[n]) for k, v in self.result.values.items()}
                picks.append(Pick(n, self.result.label(n), values, results))
        self.shelf.show_picks(picks)
        self.side.show_picks(picks)
        self.side_button.setEnabled(bool(picks))

    def toggle_side(self) -> None:
        """The shelf in columns, or the cloud again."""
        side = self.middle.currentIndex() == 0
        self.middle.setCurrentIndex(1 if side else 0)
        self.side_button.setText(translate(tr("Cloud and table") if side else tr("Side by side")))

    def _mark_present(self) -> None:
        design = self.session.design.replace_unchecked(survey=None)

        def mark(numbers: dict[str, float]) -> None:
            if isValid(self):
                self.cloud.present = numbers
                self.cloud.later.start()

        submit("cooper.survey.task:numbers_of", design, take=mark)

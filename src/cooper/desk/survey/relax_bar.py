"""Which change of one bound lets some designs live: looked for one after the other, each a click."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget
from shiboken6 import isValid

from cooper.desk.base.workers import LONG, Task, submit
from cooper.desk.survey.waterfall import thousands
from cooper.desk.widgets.labels import Label
from cooper.document.models import Design
from cooper.document.units import number_with_unit
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.survey.relax import Relaxed
from cooper.survey.rules import rule_words
from cooper.survey.survey_result import SurveyResult

MOST_WAYS = 5
KINDS = {
    "m_high": "module",
    "a_most": "length",
    "d_most": "length",
    "b_most": "length",
    "l_most": "length",
    "A_h": "area",
    "theta_most": "temperature",
    "P": "power",
    "T": "torque",
    "L_h": "time",
    "u_tol": "share",
}
"""What kind of quantity a bound is; one that is not here is a plain number."""


class RelaxBar(QWidget):
    """A line of buttons. ``chosen`` gives the change that was clicked."""

    chosen = Signal(object)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        self.row = row
        self.words = Label()
        self.words.setObjectName("relaxed_words")
        row.addWidget(self.words)
        row.addStretch(1)
        self.buttons: list[QPushButton] = []
        self.result: SurveyResult | None = None
        self.task: Task | None = None
        self.hide()

    def looking(self) -> bool:
        """Whether it is still looking."""
        return self.task is not None and self.task.wanted

    def clear(self) -> None:
        """Nothing is shown, nothing looked for."""
        if self.task is not None:
            self.task.give_up()
        self.result = None
        for button in self.buttons:
            button.hide()
            button.deleteLater()
        self.buttons = []
        self.words.setText("")
        self.hide()

    def look(self, result: SurveyResult, design: Design, system: str) -> None:
        """Look for the changes, beside the window."""
        self.clear()
        self.result = result
        top = max(result.gone, key=lambda r: result.gone[r], default="")
        start = (
            tr("No design is left")
            if not len(result)
            else tr(
                "most were ruled out by {top}: {top_2}", top=thousands(result.gone.get(top, 0)), top_2=rule_words(top)
            )
        )
        self.words.setText(
            translate(
                tr("{start}. The least change of one bound that lets some designs through: looking …", start=start)
            )
        )
        self.show()
        self.task = submit(
            "cooper.survey.relax:each_relaxed",
            result.question,
            design,
            take=partial(self._take_in, result, system),
            done=partial(self._done, result),
            lane=LONG,
        )

    def _take_in(self, result: SurveyResult, system: str, item: Relaxed) -> None:
        if not isValid(self) or self.result is not result or item.value is None or len(self.buttons) >= MOST_WAYS:
            return
        kind = KINDS.get(item.key)
        value = tr("{value:g}", value=item.value) if kind is None else number_with_unit(item.value, kind, system)
        button = QPushButton(translate(tr("{words} {value}", words=item.words, value=value)))
        button.setObjectName(f"relax_{item.key}")
        button.clicked.connect(lambda _on=False: self.chosen.emit(item))
        self.row.insertWidget(self.row.count() - 1, button)
        self.buttons.append(button)

    def _done(self, result: SurveyResult, fault: Exception | None) -> None:
        if isValid(self) and self.result is result:
            self.words.setText(
                translate(
                    tr("The least change of one bound that lets some designs through:")
                    if self.buttons
                    else tr("No single bound, changed alone, lets any design through.")
                )
            )

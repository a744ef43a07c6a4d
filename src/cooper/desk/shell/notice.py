"""The line at the foot of the Bench that says what was done, what went wrong, or asks."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton

from cooper.desk.base import theme as th
from cooper.desk.widgets.labels import Label
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window

Answer = tuple[str, Callable[[], object]]


class Notice(QFrame):
    """A line at the foot of the Bench: what was done, what went wrong, or a question with its answers."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self.on = window
        self.setObjectName("sheet")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 7, 10, 7)
        self.text = Label()
        self.text.setObjectName("notice_text")
        self.text.setWordWrap(True)
        row.addWidget(self.text, 1)
        self.buttons: list[QPushButton] = []
        self.bad = False
        self.row = row
        self.fade = QTimer(self)
        self.fade.setSingleShot(True)
        self.fade.timeout.connect(self.end)
        self.questions: list[tuple[str, list[Answer]]] = []
        self.hide()

    def report(self, words: str, *, bad: bool = False) -> None:
        """Show a message; good news goes by itself, bad news stays until Escape or the next."""
        self._show(words, bad, [(tr("Close"), self.end)] if bad else [])
        if not bad:
            self.fade.start(4000)

    def ask(self, words: str, answers: list[Answer]) -> None:
        """Ask; what is said meanwhile goes by, the question stays until it is answered."""
        self.questions.append((words, answers))
        self._show(words, False, answers)

    def withdraw(self, words: str) -> None:
        """A question is settled without an answer."""
        shown = self.isVisible() and self.text.text() == words
        self.questions = [q for q in self.questions if q[0] != words]
        if shown:
            self.end()

    def end(self) -> None:
        """Hide what was said; a question that it covered is there again."""
        self.hide()
        if self.questions:
            self._show(self.questions[-1][0], False, self.questions[-1][1])

    def _answer(self, answers: list[Answer], act: Callable[[], object]) -> None:
        self.questions = [q for q in self.questions if q[1] is not answers]
        self.end()
        act()

    def _show(self, words: str, bad: bool, answers: list[Answer]) -> None:
        self.fade.stop()
        for b in self.buttons:
            b.hide()
            b.deleteLater()
        self.buttons = []
        self.text.setText(translate(words))
        self.bad = bad
        th.set_text_role(self.text, "short" if bad else "ink")
        for name, act in answers:
            button = QPushButton(translate(name))
            button.setObjectName(f"notice_{name.lower().replace(' ', '_')}")
            asked = any(q[1] is answers for q in self.questions)
            done = partial(self._answer, answers, act) if asked else act
            button.clicked.connect(lambda _on=False, done=done: done())
            self.row.addWidget(button)
            # Where something is said already the layout would count it later than the size is asked for.
            button.show()
            self.buttons.append(button)
        self.place()
        self.show()
        self.raise_()

    def place(self) -> None:
        room = self.on.bench.geometry()
        self.setFixedWidth(min(620, room.width() - 60))
        self.adjustSize()
        at = self.on.bench.mapTo(self.on, self.on.bench.rect().bottomLeft())
        self.move(at.x() + (room.width() - self.width()) // 2, at.y() - self.height() - 62)

"""The start page: the demo designs as small drawings, and the designs opened lately."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from cooper.demo import DEMOS
from cooper.desk.base import theme as th
from cooper.desk.base.workers import submit
from cooper.desk.lenses.miniature import MiniatureCard
from cooper.desk.widgets.labels import Label
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import Results

CARD = QSize(212, 168)
COLUMNS = 4


class DemoCard(MiniatureCard):
    """One demo: its train in end view, its name, what it shows."""

    def __init__(self, name: str, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(theme, CARD, parent)
        self.name, self.title = name, DEMOS[name]
        self.setObjectName(f"start_{name}")
        self.setAccessibleName(translate(DEMOS[name]))
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_results(self, results: Results) -> None:
        """Draw the demo."""
        self.title = results.name
        self.setAccessibleName(translate(tr("{name}: {demos}", name=results.name, demos=DEMOS[self.name])))
        self.draw(results)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        self.paint_card(QPainter(self), self.title, DEMOS[self.name])


class StartPage(QFrame):
    """Over the whole window until a design is chosen; Escape goes on with the one that is open."""

    def __init__(
        self,
        theme: th.Theme,
        recent: list[Path],
        open_demo: Callable[[str], object],
        open_path: Callable[[Path], object],
        ask: Callable[[], object],
        parent: QWidget,
        from_duty: Callable[[], object] = lambda: None,
    ) -> None:
        super().__init__(parent)
        self.setObjectName("sheet")
        self.setAccessibleName(translate(tr("Start page")))
        box = QVBoxLayout(self)
        box.setContentsMargins(28, 20, 28, 18)
        self.first = QPushButton(translate(tr("From a duty …")))
        self.first.setObjectName("start_duty")
        self.first.setAccessibleName(translate(tr("From a duty: torque, speed, ratio and life are enough")))
        self.first.clicked.connect(partial(self._go, from_duty))
        line = QHBoxLayout()
        line.addWidget(self.first)
        message = Label(
            tr(
                "Torque, speed, ratio and life are enough: Cooper searches the arrangements, counts, modules "
                "and widths that hold."
            )
        )
        th.set_text_role(message, "muted")
        line.addWidget(message, 1)
        box.addLayout(line)
        box.addSpacing(8)
        title = Label(tr("Or with a design of the Larkfell workshop, or one of your own"))
        th.set_text_role(title, "ink", th.TITLE, bold=True)
        box.addWidget(title)
        grid = QGridLayout()
        grid.setSpacing(12)
        self.cards = []
        for n, name in enumerate(DEMOS):
            card = DemoCard(name, theme, self)
            card.clicked.connect(partial(self._go, partial(open_demo, name)))
            grid.addWidget(card, n // COLUMNS, n % COLUMNS)
            self.cards.append(card)
        box.addLayout(grid)
        self.task = submit("cooper.demo:each_demo", take=self._show_demo)
        row = QHBoxLayout()
        ways: list[tuple[str, str, Callable[[], object]]] = [("start_open", tr("Open a file …  Ctrl O"), ask)]
        ways += [(f"start_recent_{i}", path.name, partial(open_path, path)) for i, path in enumerate(recent[:4])]
        for name, text, run in ways:
            button = QPushButton(translate(text))
            button.setObjectName(name)
            button.clicked.connect(partial(self._go, run))
            row.addWidget(button)
        row.addStretch(1)
        close = QPushButton(translate(tr("Go on  Esc")))
        close.setObjectName("start_close")
        close.setProperty("plain", True)
        close.clicked.connect(lambda: self._go(lambda: None))
        row.addWidget(close)
        box.addLayout(row)
        self.adjustSize()

    def _show_demo(self, result: tuple[str, Results]) -> None:
        if isValid(self):
            next(card for card in self.cards if card.name == result[0]).show_results(result[1])

    def _go(self, run: Callable[[], object], _on: bool = False) -> None:
        self.task.give_up()
        self.hide()
        self.deleteLater()
        run()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self._go(lambda: None)
        else:
            event.ignore()

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
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from cooper.demo import DEMOS, demo
from cooper.desk.frame import theme as th
from cooper.desk.lenses.miniature import MiniatureCard
from cooper.results.evaluate import evaluate

CARD = QSize(212, 168)
COLUMNS = 4


class DemoCard(MiniatureCard):
    """One demo: its train in end view, its name, what it shows."""

    def __init__(self, name: str, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(theme, CARD, parent)
        design = demo(name)
        self.name, self.title = name, design.name
        self.setObjectName(f"start_{name}")
        self.setAccessibleName(f"{design.name}: {DEMOS[name]}")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.draw(evaluate(design))

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
    ) -> None:
        super().__init__(parent)
        self.setObjectName("sheet")
        self.setAccessibleName("Start page")
        box = QVBoxLayout(self)
        box.setContentsMargins(28, 20, 28, 18)
        title = QLabel("Begin with a design of the Larkfell workshop, or open your own")
        title.setStyleSheet(th.label_style(theme, "ink", th.TITLE, bold=True))
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
        row = QHBoxLayout()
        ways: list[tuple[str, str, Callable[[], object]]] = [("start_open", "Open a file …  Ctrl O", ask)]
        ways += [(f"start_recent_{i}", path.name, partial(open_path, path)) for i, path in enumerate(recent[:4])]
        for name, text, run in ways:
            button = QPushButton(text)
            button.setObjectName(name)
            button.clicked.connect(partial(self._go, run))
            row.addWidget(button)
        row.addStretch(1)
        close = QPushButton("Go on  Esc")
        close.setObjectName("start_close")
        close.setProperty("plain", True)
        close.clicked.connect(lambda: self._go(lambda: None))
        row.addWidget(close)
        box.addLayout(row)
        self.adjustSize()

    def _go(self, run: Callable[[], object], _on: bool = False) -> None:
        self.hide()
        self.deleteLater()
        run()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self._go(lambda: None)
        else:
            event.ignore()

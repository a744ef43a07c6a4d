"""The start page: the demo designs as small drawings, and the designs opened lately."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import (
    QAbstractButton,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from cooper.demo import DEMOS, demo
from cooper.design.evaluate import evaluate
from cooper.desk import theme as th
from cooper.desk.train_lens import HOUSING, Look, TrainPainter
from cooper.desk.typeset import elided, words

CARD = QSize(212, 168)
COLUMNS = 4


class DemoCard(QAbstractButton):
    """One demo: its train in end view, its name, what it shows."""

    def __init__(self, name: str, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.name, self.theme = name, theme
        design = demo(name)
        self.title = design.name
        self.setObjectName(f"start_{name}")
        self.setAccessibleName(f"{design.name}: {DEMOS[name]}")
        self.setFixedSize(CARD)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self._picture = self._draw()

    def _draw(self) -> QPixmap:
        ratio = self.devicePixelRatioF()
        picture = QPixmap(CARD * ratio)
        picture.setDevicePixelRatio(ratio)
        picture.fill(Qt.GlobalColor.transparent)
        p = QPainter(picture)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter = TrainPainter(evaluate(demo(self.name)), self.theme)
        painter.paint(p, QRectF(14, 12, CARD.width() - 28, CARD.height() - 62), 0.3, Look(HOUSING, circles=False, paths=False))
        p.end()
        return picture

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        hot = self.underMouse() or self.hasFocus()
        p.setPen(QPen(t.color("copper" if hot else "line"), 1.6 if hot else 1.0))
        p.setBrush(t.color("card"))
        p.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 7, 7)
        p.drawPixmap(0, 0, self._picture)
        bold, small = th.font(th.TEXT, bold=True), th.font(th.SMALL)
        words(p, self.title, bold, t.color("ink"), 12, CARD.height() - 28)
        words(p, elided(DEMOS[self.name], small, CARD.width() - 22), small, t.color("muted"), 12, CARD.height() - 11)


class StartPage(QFrame):
    """Over the whole window until a design is chosen; Escape goes on with the one that is open."""

    def __init__(
        self, theme: th.Theme, recent: list[Path], open_demo: Callable[[str], object], open_path: Callable[[Path], object],
        ask: Callable[[], object], parent: QWidget,
    ) -> None:  # fmt: skip
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

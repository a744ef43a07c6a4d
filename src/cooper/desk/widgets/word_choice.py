"""A word in a sentence that opens a list of others: what is chosen for a question, not in the design."""

from __future__ import annotations

from collections.abc import Iterable
from functools import partial
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QMenu, QPushButton, QWidget

from cooper.i18n.translate import translate


class WordChoice(QPushButton):
    """Shows the word that is chosen; a click or Enter opens the list, the arrows go through it."""

    currentIndexChanged = Signal(int)
    activated = Signal(int)

    def __init__(self, name: str, meaning: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName(name)
        self.setAccessibleName(translate(meaning))
        self._words: list[tuple[str, Any]] = []
        self._at = -1
        self.clicked.connect(self._open)

    def addItem(self, words: str, data: Any = None) -> None:
        """A further word, with what it stands for; the first one is chosen."""
        self._words.append((translate(words), data))
        if self._at < 0:
            self._put(0)

    def addItems(self, words: Iterable[str]) -> None:
        for word in words:
            self.addItem(word)

    def clear(self) -> None:
        self._words, self._at = [], -1
        self.setText("")

    def count(self) -> int:
        return len(self._words)

    def currentIndex(self) -> int:
        return self._at

    def currentData(self) -> Any:
        return self.itemData(self._at)

    def currentText(self) -> str:
        return self.itemText(self._at)

    def itemData(self, n: int) -> Any:
        return self._words[n][1] if 0 <= n < len(self._words) else None

    def itemText(self, n: int) -> str:
        return self._words[n][0] if 0 <= n < len(self._words) else ""

    def findData(self, data: Any) -> int:
        return next((n for n, (_w, d) in enumerate(self._words) if d == data), -1)

    def setCurrentIndex(self, n: int) -> None:
        """Choose a word by its place."""
        if n != self._at and 0 <= n < len(self._words):
            self._put(n)
            self.currentIndexChanged.emit(n)

    def _put(self, n: int) -> None:
        self._at = n
        self.setText(self._words[n][0])
        self.updateGeometry()

    def pick(self, n: int) -> None:
        """Choose a word by hand."""
        self.setCurrentIndex(n)
        self.activated.emit(n)

    def _open(self) -> None:
        menu = QMenu(self)
        for n, (word, _data) in enumerate(self._words):
            action = menu.addAction(word, partial(self.pick, n))
            action.setCheckable(True)
            action.setChecked(n == self._at)
        menu.exec(self.mapToGlobal(self.rect().bottomLeft()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        elif 0 <= self._at + step < len(self._words):
            self.pick(self._at + step)

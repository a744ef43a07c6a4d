"""Values picked from a list, and texts typed into a line: rows of sheets and of the bars of lenses."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit, QMenu, QPushButton

from cooper.desk.base.session import Session
from cooper.document.models import Design
from cooper.document.plain import get_at, longest_text
from cooper.editing.edit import set_many
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate

Option = tuple[str, Callable[[Design], Design]]


class Choice(QPushButton):
    """A value picked from a list: shows the present one, opens the list on click or Enter."""

    def __init__(
        self,
        session: Session,
        key: str,
        meaning: str,
        now: Callable[[Design], str],
        options: Callable[[], list[Option]],
        *,
        own: bool = False,
        path: str = "",
    ) -> None:
        """``own`` where a person's own names are among the options; all others are words of the program. ``path`` is
        the place in the document of what stands at one place."""
        super().__init__()
        self.path = path
        self._word: Callable[[str], str] = (lambda word: word) if own else term
        self.session, self.key, self.now, self.options, self.meaning = session, key, now, options, meaning
        self.setObjectName(f"choice_{key}")
        self.setAccessibleName(translate(meaning))
        self.clicked.connect(self._open)
        self.refresh()

    def refresh(self) -> None:
        self.setText(translate(self._word(self.now(self.session.design))))

    def _open(self) -> None:
        menu = QMenu(self)
        for words, change in self.options():
            menu.addAction(translate(self._word(words)), partial(self.pick, words, change))
        menu.exec(self.mapToGlobal(self.rect().bottomLeft()))

    def pick(self, words: str, change: Callable[[Design], Design]) -> None:
        self.session.edit(lambda d, _r: change(d), words, self.key)


class TextChoice(QLineEdit):
    """Words at a path of the document; Enter or leaving gives them, Escape puts back what stands there."""

    def __init__(self, session: Session, key: str, meaning: str, path: str) -> None:
        super().__init__()
        self.session, self.key, self.meaning, self.path = session, key, meaning, path
        self.setObjectName(f"text_{key}")
        self.setProperty("calm", True)
        self.setAccessibleName(translate(meaning))
        self.editingFinished.connect(self._give)
        self.refresh()

    def _now(self) -> str:
        try:
            return str(get_at(self.session.design, self.path))
        except (LookupError, AttributeError):
            return ""

    def refresh(self) -> None:
        if not (self.hasFocus() and self.isModified()):
            self.setText(translate(self._now()))

    def _give(self) -> None:
        text = " ".join(self.text().split())
        if text == self._now():
            return
        most = longest_text(self.session.design, self.path)
        if most and len(text) > most:
            # What was typed stays, so that it can be made shorter.
            self.session.told.emit(
                tr("{meaning}: {text} letters are typed, {most} fit", meaning=self.meaning, text=len(text), most=most)
            )
            return
        self.setModified(False)
        if not self.session.edit(
            lambda d, _r: set_many(d, {self.path: text}),
            tr("{meaning}: {text}", meaning=self.meaning, text=text),
            self.key,
        ):
            self.setText(translate(self._now()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.text() != self._now():
            self.setText(translate(self._now()))
            return
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            # Taken here: nothing else shall be opened by it.
            self._give()
            return
        super().keyPressEvent(event)


def setting(changes: dict[str, Any]) -> Callable[[Design], Design]:
    """The edit that sets values at paths."""
    return lambda d: set_many(d, changes)


def path_choice(session: Session, key: str, meaning: str, path: str, words: dict[object, str]) -> Choice:
    """A choice among fixed values at a path of the document."""

    def options() -> list[Option]:
        return [(term(w), setting({path: v})) for v, w in words.items()]

    def now(d: Design) -> str:
        try:
            value = get_at(d, path)
        except (LookupError, AttributeError):
            return ""
        return term(words.get(value, str(value)))

    return Choice(session, key, meaning, now, options, path=path)

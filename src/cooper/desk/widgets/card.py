"""A card that asks: over the window, without a frame of the platform, with its title and two answers in words."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QFormLayout, QFrame, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from cooper.desk.base import theme as th
from cooper.desk.widgets.labels import Label, text_button
from cooper.i18n.text import tr
from cooper.i18n.translate import translate


class Card(QDialog):
    """Rows of names and fields below a title; Enter or the named answer takes it, Escape or *Cancel* leaves."""

    def __init__(self, parent: QWidget, title: str, answer: str) -> None:
        super().__init__(parent, Qt.WindowType.Dialog | Qt.WindowType.FramelessWindowHint)
        self.setWindowTitle(translate(title))
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        face = QFrame()
        face.setObjectName("sheet")
        outer.addWidget(face)
        box = QVBoxLayout(face)
        box.setContentsMargins(18, 14, 18, 12)
        box.setSpacing(10)
        head = Label(title)
        th.set_text_role(head, "copper", bold=True)
        box.addWidget(head)
        self.form = QFormLayout()
        self.form.setHorizontalSpacing(16)
        self.form.setVerticalSpacing(8)
        box.addLayout(self.form)
        row = QHBoxLayout()
        row.addStretch(1)
        self.leave = text_button(tr("Cancel  Esc"))
        self.leave.setProperty("plain", True)
        self.leave.setObjectName("card_cancel")
        self.leave.setAutoDefault(False)
        self.leave.clicked.connect(self.reject)
        self.take = QPushButton(translate(answer))
        self.take.setObjectName("card_answer")
        self.take.setDefault(True)
        self.take.clicked.connect(self.accept)
        row.addWidget(self.leave)
        row.addWidget(self.take)
        box.addLayout(row)

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        window = self.parentWidget()
        if window is not None:
            # Upon the window, a little above its middle, as the list of commands.
            middle = window.window().frameGeometry().center()
            self.move(middle.x() - self.width() // 2, middle.y() - 2 * self.height() // 3)


def ask_text(parent: QWidget, title: str, name: str, text: str = "", answer: str = "Take") -> str | None:
    """Ask for one line of text; None where it was left."""
    card = Card(parent, title, answer)
    card.setObjectName("text_card")
    line = QLineEdit(text)
    line.setObjectName("card_text")
    line.setMinimumWidth(320)
    line.selectAll()
    card.form.addRow(translate(name), line)
    taken = card.exec()
    card.deleteLater()
    return line.text() if taken else None

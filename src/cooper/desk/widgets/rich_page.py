"""A long text of our own markup that scrolls by itself: laid out once, and painted so far as it is seen."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtWidgets import QFrame, QSizePolicy, QTextEdit, QWidget

from cooper.i18n.translate import translate


class RichPage(QTextEdit):
    """Markup to be read and selected. A label with that much text is laid out again for every width that it is asked
    about."""

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName(name)
        self.setReadOnly(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setTextInteractionFlags(
            Qt.TextInteractionFlag.TextSelectableByMouse | Qt.TextInteractionFlag.TextSelectableByKeyboard
        )
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.document().setDocumentMargin(0)
        self._shown = ""

    def set_markup(self, markup: str) -> None:
        """Show markup, where it stands if it is the same."""
        if markup == self._shown:
            return
        at = self.verticalScrollBar().value()
        self._shown = markup
        self.setHtml(translate(markup))
        self.verticalScrollBar().setValue(at)

    def text(self) -> str:
        """The words that it shows."""
        return self.toPlainText()

    def sizeHint(self) -> QSize:
        return QSize(400, 260)

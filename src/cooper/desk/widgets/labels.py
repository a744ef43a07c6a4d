"""Labels and tips that show text as it is: nothing that stands in a document is ever taken for markup."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QLabel, QPushButton, QWidget

from cooper.desk.widgets.typeset import html
from cooper.i18n.translate import translate


class Label(QLabel):
    """A label of plain text; where markup of our own is wanted it is asked for by `setTextFormat`."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(translate(text))


class ElidedLabel(Label):
    """A label of one line that ends in an ellipsis where there is no room for all of it, whole in its tip."""

    def minimumSizeHint(self) -> QSize:
        return QSize(40, super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent) -> None:
        shown = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        plain_tip(self, self.text() if shown != self.text() else "")
        p = QPainter(self)
        p.setPen(self.palette().color(self.foregroundRole()))
        p.setFont(self.font())
        p.drawText(self.rect(), int(Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft), translate(shown))


def text_button(words: str, parent: QWidget | None = None) -> QPushButton:
    """A button with words. Made with them at once it could be one with an icon, and the toolkit would bring names
    for 150 of these."""
    button = QPushButton(parent)
    button.setText(translate(words))
    return button


def write(label: Label, text: str) -> None:
    """Text with the symbols in it set as such; without any it stays plain, which takes a fraction of the time to lay
    out."""
    typeset = html(text)
    if "<" in typeset or "&" in typeset:
        label.setTextFormat(Qt.TextFormat.RichText)
        label.setText(translate(typeset))
    else:
        label.setText(translate(text))


def plain_tip(widget: QWidget, text: str) -> None:
    """Give a widget a tip that shows the text as it is."""
    if "<" in text or "&" in text:
        text = f"<p style='white-space:pre-wrap'>{html(text)}</p>"
    if widget.toolTip() != text:
        widget.setToolTip(translate(text))

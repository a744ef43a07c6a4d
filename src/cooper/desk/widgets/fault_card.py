"""Why what was typed cannot be, beside the tag it was typed into."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from cooper.desk.base import theme as th
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.typeset import html
from cooper.errors import OutOfRange, range_words
from cooper.i18n.text import tr
from cooper.i18n.translate import translate


class FaultCard(QFrame):
    """What was typed, why it cannot be, the range that works, and a button that takes the nearest value in it.

    ``shown`` writes a value of the quantity, ``take`` gives it one; ``looking`` tells that the range is still being
    looked for.
    """

    def __init__(
        self,
        beside: QWidget,
        name: str,
        fault: OutOfRange,
        shown: Callable[[float], str],
        take: Callable[[float], object],
        looking: bool = False,
    ) -> None:
        super().__init__(beside.window())
        self.beside = beside
        # However the tag goes, nothing is offered for it any more.
        beside.destroyed.connect(self.deleteLater)
        self.setObjectName("sheet")
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        box = QVBoxLayout(self)
        box.setContentsMargins(12, 9, 12, 10)
        box.setSpacing(5)
        typed = shown(float(fault.value)) if isinstance(fault.value, int | float) else str(fault.value)
        head = Label(translate(tr("<b>{name} = {value}</b> cannot be", name=html(name), value=html(typed))))
        head.setTextFormat(Qt.TextFormat.RichText)
        th.set_text_role(head, "short")
        reason = Label(html(tr("{reason!c}.", reason=fault.reason)))
        reason.setTextFormat(Qt.TextFormat.RichText)
        reason.setWordWrap(True)
        reason.setObjectName("fault_reason")
        box.addWidget(head)
        box.addWidget(reason)
        words = "…" if looking else _range_words(fault, shown)
        if words:
            works = Label(tr("What works: {words}", words=words))
            works.setObjectName("fault_range")
            box.addWidget(works)
        nearest = fault.nearest()
        if nearest is not None:
            row = QHBoxLayout()
            button = QPushButton(translate(tr("Take {nearest}", nearest=shown(nearest))))
            button.setObjectName("take_nearest")
            button.clicked.connect(lambda: take(nearest))
            row.addWidget(button)
            row.addStretch(1)
            box.addLayout(row)
        self.setFixedWidth(300)

    def place(self) -> None:
        """Stand beside the tag, inside the window."""
        window = self.beside.window()
        self.adjustSize()
        anchor = self.beside.mapTo(window, self.beside.rect().bottomLeft())
        x = min(max(8, anchor.x()), window.width() - self.width() - 8)
        y = anchor.y() + 6
        if y + self.height() > window.height() - 8:
            y = anchor.y() - self.beside.height() - self.height() - 6
        self.move(x, max(8, y))
        self.show()
        self.raise_()


def _range_words(fault: OutOfRange, shown: Callable[[float], str]) -> str:
    return range_words(fault.low, fault.high, shown)

"""A scroll area that shows what is behind it."""

from __future__ import annotations

from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QScrollArea, QWidget

from cooper.desk.widgets.lanes import Lanes


class ClearArea(QScrollArea):
    """A scroll area without a ground of its own, nor one behind its widget."""

    def __init__(self) -> None:
        super().__init__()
        self.viewport().setAutoFillBackground(False)

    def setWidget(self, widget: QWidget) -> None:
        super().setWidget(widget)
        widget.setAutoFillBackground(False)

    def resizeEvent(self, event: QResizeEvent) -> None:
        held = self.widget()
        if isinstance(held, Lanes):
            held.fit(self.viewport().width())
        super().resizeEvent(event)

"""A scroll area that shows what is behind it."""

from __future__ import annotations

from PySide6.QtGui import QPalette, QResizeEvent
from PySide6.QtWidgets import QFrame, QScrollArea, QWidget

from cooper.desk.widgets.lanes import Lanes


class ClearArea(QScrollArea):
    """A scroll area without a ground of its own, nor one behind its widget; or on a ground of one colour, so that
    nothing that it hides need be painted."""

    def __init__(self, ground: QPalette.ColorRole | None = None) -> None:
        super().__init__()
        # Not by a rule of the style sheet, which would take the ground away.
        self.setFrameShape(QFrame.Shape.NoFrame)
        # One of the toolkit's own would have to be recognised among all kinds of widgets, which takes 15 ms the first
        # time.
        sheet = QWidget()
        sheet.setAutoFillBackground(ground is not None)
        if ground is not None:
            sheet.setBackgroundRole(ground)
        self.setViewport(sheet)

    def setWidget(self, widget: QWidget) -> None:
        super().setWidget(widget)
        widget.setAutoFillBackground(False)

    def resizeEvent(self, event: QResizeEvent) -> None:
        held = self.widget()
        if isinstance(held, Lanes):
            held.fit(self.viewport().width())
        super().resizeEvent(event)

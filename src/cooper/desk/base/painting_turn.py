"""A window that is painted in a turn of the event loop of its own: between what was worked out and its picture the
hand is heard."""

from __future__ import annotations

from PySide6.QtCore import QCoreApplication, QEvent, QTimer
from PySide6.QtWidgets import QMainWindow


class PaintingTurn(QMainWindow):
    """Puts off what the toolkit would paint at the end of the turn in which it was asked for to the next turn, at
    most once.

    The toolkit asks for what shall be painted at once (`repaint`) in the same way: that too comes in the next turn.
    """

    def __init__(self) -> None:
        super().__init__()
        self._painting = False
        self._next_turn = QTimer(self)
        self._next_turn.setSingleShot(True)
        self._next_turn.timeout.connect(self._paint)

    @property
    def unpainted(self) -> bool:
        """Whether something is still to be painted in the next turn."""
        return self._next_turn.isActive()

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.UpdateRequest and not self._painting:
            self._next_turn.start(0)
            return True
        return super().event(event)

    def _paint(self) -> None:
        self._painting = True
        try:
            QCoreApplication.sendEvent(self, QEvent(QEvent.Type.UpdateRequest))
        finally:
            self._painting = False

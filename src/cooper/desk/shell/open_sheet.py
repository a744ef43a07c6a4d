"""The sheet that lies over the Bench: made, laid out and shown in turns of the event loop, so that none of them
holds it for long."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from PySide6.QtCore import QEvent, QObject
from PySide6.QtGui import QWindow
from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.slices import Slices
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.tag import Tag

WIDER = 1.5
"""How much wider than it asks for a sheet becomes where there is room."""
HANDS = (QEvent.Type.KeyPress, QEvent.Type.MouseButtonPress)


def _stands(sheet: Sheet) -> bool:
    """Whether a sheet still follows its design; another design that opens closes it, also one on its way."""
    return isValid(sheet) and sheet.is_open


class OpenSheet(QObject):
    """Holds one sheet at most; the next takes its place once it is there."""

    def __init__(self, bench: QWidget) -> None:
        super().__init__(bench)
        self.bench = bench
        self._sheet: Sheet | None = None
        self._coming: Sheet | None = None
        self._again: Callable[[], None] = lambda: None
        self._turns = Slices(self)
        self._window: QWindow | None = None

    @property
    def now(self) -> Sheet | None:
        """The sheet that is open. One that is still on its way is shown first."""
        self._turns.finish()
        return self._sheet if self._sheet is not None and _stands(self._sheet) else None

    def show(self, make: Callable[[], Sheet], width: int, height: int) -> None:
        """Open a sheet in place of the one before; ``make`` is kept, to build it anew in another theme."""
        self._give_up()
        self._again = lambda: self.show(make, width, height)
        self._turns.start(self._opening(make, width, height), lambda _last: self._unwatch())
        self._turns.step()
        # What is typed or clicked meanwhile is meant for the sheet.
        self._window = self.bench.window().windowHandle()
        if self._window is not None:
            self._window.installEventFilter(self)

    def drop(self) -> bool:
        """Close the open sheet; whether there was one."""
        sheet = self.now
        if sheet is not None:
            sheet.dismiss()
        self._sheet = None
        return sheet is not None

    def renew(self) -> None:
        """Make the open sheet anew, where there is one."""
        if self.now is not None:
            self._again()

    def _opening(self, make: Callable[[], Sheet], width: int, height: int) -> Iterator[None]:
        sheet = self._coming = make()
        sheet.rebuild = lambda: self._again() if _stands(sheet) else None
        yield
        if not _stands(sheet):
            return
        room = self.bench.rect()
        # On a wide screen labels stand whole.
        wide = max(width, min(WIDER * width, 0.62 * room.width()))
        high = max(height, min(round(WIDER * height), sheet.inside.sizeHint().height() + 80))
        sheet.setGeometry(16, 10, round(min(wide, room.width() - 32)), min(high, room.height() - 20))
        yield
        if not _stands(sheet):
            return
        before, self._sheet, self._coming = self._sheet, sheet, None
        if before is not None and isValid(before):
            before.dismiss()
        th.paint_next(sheet)
        sheet.show()
        sheet.raise_()
        first = next(iter(sheet.fields.values()), None)
        (sheet if first is None else first).setFocus()
        # What was refused beneath it stays open there with what was typed; why is said again when it is tried again.
        for tag in self.bench.findChildren(Tag):
            tag.close_fault()

    def _give_up(self) -> None:
        """Drop what is on its way."""
        self._turns.stop()
        self._unwatch()
        coming, self._coming = self._coming, None
        if coming is not None and isValid(coming):
            coming.dismiss()

    def _unwatch(self) -> None:
        if self._window is not None and isValid(self._window):
            self._window.removeEventFilter(self)
        self._window = None

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in HANDS:
            self._turns.finish()
        return False

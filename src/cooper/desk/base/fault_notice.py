"""A fault of the program is handled: the work is saved at once, and a notice says so in plain words, with the details
to be copied."""

from __future__ import annotations

import time
from typing import Protocol, runtime_checkable

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QApplication

from cooper.faults import details, listen

QUIET_S = 30.0
"""Seconds in which the same fault is shown only once, however often it occurs."""


class FaultEar(QObject):
    """Takes faults from any thread over to that of the window."""

    heard = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.last: dict[str, float] = {}
        self.heard.connect(self._tell)

    def hear(self, fault: BaseException, _where: str = "") -> None:
        """A fault that nobody handled."""
        self.heard.emit(fault)

    def _tell(self, fault: BaseException) -> None:
        words = details(fault)
        now = time.monotonic()
        if now - self.last.get(words, -QUIET_S) < QUIET_S:
            return
        self.last[words] = now
        for window in QApplication.topLevelWidgets():
            if isinstance(window, ShowsFaults):
                window.show_fault(words)


@runtime_checkable
class ShowsFaults(Protocol):
    """A window that keeps its work and says what happened."""

    def show_fault(self, words: str) -> None: ...


_ear: list[FaultEar] = []
"""Holds the one ear of the program."""


def hear_faults() -> FaultEar:
    """Listen to faults of slots, threads and processes from now on."""
    if not _ear:
        _ear.append(FaultEar())
    listen(_ear[0].hear)
    return _ear[0]


def heard_beside(fault: Exception) -> None:
    """A fault in a worker process."""
    if _ear:
        _ear[0].hear(fault)

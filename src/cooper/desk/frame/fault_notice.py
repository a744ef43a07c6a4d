"""A fault of the program is heard: the work is kept at once, and a notice says so in plain words, with the details to be copied."""

from __future__ import annotations

import time
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication

from cooper.faults import details, listen, log_file
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.frame.window import Window

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
        from cooper.desk.frame.window import Window

        words = details(fault)
        now = time.monotonic()
        if now - self.last.get(words, -QUIET_S) < QUIET_S:
            return
        self.last[words] = now
        for window in QApplication.topLevelWidgets():
            if isinstance(window, Window):
                tell_fault(window, words)


def tell_fault(window: Window, words: str) -> None:
    """Keep the work and say what happened."""
    window.autosave_now()
    told = tr(
        "Something went wrong that is Cooper's fault, not your design's. What you did last may not "
        "have taken effect; your work is kept. The log is {log_file}.",
        log_file=log_file(),
    )
    window.notice.withdraw(told)
    window.notice.ask(
        told,
        [
            (tr("Copy details"), lambda: QGuiApplication.clipboard().setText(translate(words))),
            (tr("Close"), lambda: None),
        ],
    )


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

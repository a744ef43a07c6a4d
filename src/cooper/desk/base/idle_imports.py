"""Loads piece by piece, so that the hand is heard between them: sheets and commands as soon as the window has been
painted, and in a quiet moment after it what the survey, the drawing of a gear and the ways out ask for, so that they
open at once the first time."""

from __future__ import annotations

import gc
import linecache
from collections.abc import Callable
from importlib import import_module

from PySide6.QtCore import QObject, QTimer

from cooper.desk.base.registry import pieces

FIRST_MS, LATER_MS, STEP_MS = 60, 4000, 250
"""When sheets and commands are loaded after the window has opened, when the rest, and how far its pieces are apart."""
PIECES = (
    "PIL.ImageFont",
    "shapely",
    "cooper.exchange.save",
    "cooper.survey.search_space",
    "cooper.survey.choice_table",
    "cooper.survey.survey_result",
    "cooper.survey.relax",
    "cooper.desk.survey.ask_panel",
    "cooper.desk.survey.survey_parts",
    "cooper.desk.survey.survey_page",
)
"""Each takes some ten milliseconds."""


class IdleImports(QObject):
    """Imports the pieces one after the other as long as the window stands."""

    def __init__(self, parent: QObject, commands: Callable[[], object]) -> None:
        super().__init__(parent)
        self._first: list[str] | None = None
        self._left = list(PIECES)
        self._commands = commands
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._next)
        self._timer.start(FIRST_MS)

    def _next(self) -> None:
        if self._first is None:
            self._first = list(pieces())
            self._timer.setInterval(0)
        if self._first:
            import_module(self._first.pop(0))
            if not self._first:
                self._commands()
                self._timer.setInterval(LATER_MS)
            return
        self._timer.setInterval(STEP_MS)
        if self._left:
            import_module(self._left.pop(0))
        if not self._left:
            self._timer.stop()
            # The sources that the toolkit has read are kept by the interpreter, megabytes of them.
            linecache.clearcache()
            # What is loaded stays. Looking through all of it for what nobody holds would keep the hand waiting for 70
            # ms, now and then.
            if not gc.get_freeze_count():
                gc.freeze()

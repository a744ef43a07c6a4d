"""Loads in a quiet moment what the survey, the drawing of a gear and the ways out ask for, piece by piece, so that they open at once the first time."""

from __future__ import annotations

import gc
import linecache
from importlib import import_module

from PySide6.QtCore import QObject, QTimer

LATER_MS, STEP_MS = 4000, 250
"""When it begins after the window has opened, and how far the pieces are apart."""
PIECES = (
    "PIL.ImageFont",
    "shapely",
    "cooper.exchange.save",
    "cooper.survey.space",
    "cooper.survey.choice_table",
    "cooper.survey.found",
    "cooper.survey.relax",
    "cooper.desk.survey.ask_panel",
    "cooper.desk.survey.survey_parts",
    "cooper.desk.survey.survey_page",
)
"""Each takes some ten milliseconds."""


class IdleImports(QObject):
    """Imports the pieces one after the other as long as the window stands."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._left = list(PIECES)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._next)
        self._timer.start(LATER_MS)

    def _next(self) -> None:
        self._timer.setInterval(STEP_MS)
        if self._left:
            import_module(self._left.pop(0))
        if not self._left:
            self._timer.stop()
            # The sources that the toolkit has read are kept by the interpreter, megabytes of them.
            linecache.clearcache()
            # What is loaded stays. Looking through all of it for what nobody holds would keep the hand waiting for 70 ms, now and then.
            if not gc.get_freeze_count():
                gc.freeze()

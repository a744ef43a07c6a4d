"""The solids of the train as a worker process renders them: always the newest view, coarse at once and
then finer."""

from __future__ import annotations

from itertools import count

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QImage
from shiboken6 import isValid

from cooper.desk.base.workers import Task, submit
from cooper.desk.widgets.solid_view import image_of
from cooper.document.models import Design
from cooper.errors import message_of
from cooper.exchange.camera import Sight
from cooper.results.result_tree import Results

LANE = "solid"
_NUMBERS = count()


class SolidSource(QObject):
    """Asks for one sight after the other; what was asked before another was wanted is shown when its first picture
    comes, and no finer."""

    came = Signal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.image: QImage | None = None
        self.fresh = False
        """Whether the picture is of the present results."""
        self.fault = ""
        self._made: tuple[Design, Results] | None = None
        self._number, self._there = -1, False
        self._wanted: tuple[Sight, bool] | None = None
        self._asked: tuple[Sight, bool] | None = None
        self._task: Task | None = None
        self._shown = False

    def look(self, design: Design, results: Results, sight: Sight, *, rests: bool) -> QImage | None:
        """The picture of a sight, or until it comes the last one; None before there was any."""
        if self._made is None or self._made[1] is not results:
            self._made, self._number, self._there = (design, results), next(_NUMBERS), False
            self._asked, self.fault, self.fresh = None, "", False
        self._wanted = (sight, rests)
        if self._wanted != self._asked:
            self._ask()
        return self.image

    def rest(self) -> None:
        """Nobody looks any more."""
        task, self._task, self._asked = self._task, None, None
        if task is not None:
            task.give_up()

    def _ask(self) -> None:
        if self._task is not None:
            if not self._shown:
                # The next is asked for when this has come, so that something is seen while all moves.
                return
            self._task.give_up()
        assert self._made is not None and self._wanted is not None
        self._asked, self._shown = self._wanted, False
        made, self._there = None if self._there else self._made, True
        self._task = submit(
            "cooper.exchange.solid_pictures:each_picture",
            self._number,
            made,
            *self._wanted,
            take=self._take,
            done=self._ended,
            lane=LANE,
        )

    def _take(self, result: tuple[int, int, bytes]) -> None:
        if not isValid(self):
            return
        self._shown, self.image, self.fresh = True, image_of(*result), True
        self.came.emit()
        if self._wanted != self._asked:
            self._ask()

    def _ended(self, fault: Exception | None) -> None:
        if not isValid(self):
            return
        self._task = None
        if isinstance(fault, LookupError | RuntimeError):
            # Another process than that which had the train, or none any more.
            self._there, self._asked = False, None
        elif fault is not None:
            self.fault = message_of(fault)
            self.came.emit()
        if self._wanted != self._asked and not isinstance(fault, RuntimeError):
            self._ask()

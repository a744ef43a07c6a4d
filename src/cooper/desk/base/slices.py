"""What takes a while and needs the window's own objects: done in slices between its events."""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Iterator
from typing import Any, ClassVar
from weakref import WeakSet

from PySide6.QtCore import QObject, QTimer
from shiboken6 import isValid

SLICE = 0.006
"""Seconds after which the window has its turn; a step that takes longer is not broken off."""


class Slices(QObject):
    """Takes the items of a work one by one and tells the last. A new work takes the place of the one before."""

    _all: ClassVar[WeakSet[Slices]] = WeakSet()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._work: Iterator[Any] | None = None
        self._done: Callable[[Any], object] | None = None
        self._last: Any = None
        self._taking = False
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._slice)
        Slices._all.add(self)

    @classmethod
    def any_busy(cls) -> bool:
        """Whether anything is still to be done anywhere."""
        return any(isValid(one) and one._work is not None for one in tuple(cls._all))

    @property
    def busy(self) -> bool:
        """Whether something is still to be done."""
        return self._work is not None

    def start(self, work: Iterator[Any], done: Callable[[Any], object], after: int = 0) -> None:
        """Begin with a work, ``after`` some milliseconds; ``done`` gets its last item."""
        self._work, self._done, self._last = work, done, None
        self._timer.start(after)

    def stop(self) -> None:
        """Give up what is not done yet."""
        self._work = self._done = self._last = None
        self._timer.stop()

    def step(self) -> None:
        """Take one item now."""
        self._take(0.0)

    def finish(self) -> None:
        """Take all that is left now."""
        self._take(math.inf)

    def _slice(self) -> None:
        self._timer.setInterval(0)
        self._take(SLICE)

    def _take(self, seconds: float) -> None:
        """Take items for some time, one at least."""
        work, done = self._work, self._done
        if work is None or done is None or self._taking:
            return
        until = time.perf_counter() + seconds
        self._taking = True
        try:
            self._last = next(work)
            while time.perf_counter() < until:
                self._last = next(work)
        except StopIteration:
            last = self._last
            self.stop()
            done(last)
        except BaseException:
            self.stop()
            raise
        finally:
            self._taking = False

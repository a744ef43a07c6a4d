"""How long the event loop stands still: a heartbeat that tells its longest gap."""

from __future__ import annotations

import time
from collections.abc import Callable
from itertools import pairwise

from PySide6.QtCore import QEventLoop, QTimer

QUIET = 0.06
"""Seconds without a gap after which a command counts as worked off."""
LONGEST = 20.0


def hold(act: Callable[[], object], clock: Callable[[], float] = time.perf_counter) -> float:
    """The longest gap of the loop from the call of an act until all is quiet; ms. ``clock`` what the gaps are
    measured by: `time.thread_time` counts what the loop itself works, whatever else the machine does."""
    loop = QEventLoop()
    beats: list[float] = []
    timer = QTimer()
    timer.setInterval(0)
    began = time.perf_counter()
    last_gap, last = [began], [began]

    def beat() -> None:
        now = time.perf_counter()
        if now - last[0] > 0.003:
            last_gap[0] = now
        last[0] = now
        beats.append(clock())
        if now - last_gap[0] > QUIET or now - began > LONGEST:
            loop.quit()

    beats.append(clock())
    timer.timeout.connect(beat)
    timer.start()
    act()
    loop.exec()
    timer.stop()
    return 1000 * max(b - a for a, b in pairwise(beats))

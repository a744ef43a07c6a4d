"""The median of a few timed rounds, for benchmarks."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable


def ms(act: Callable[[], object], before: Callable[[], object] = lambda: None, rounds: int = 9) -> float:
    """Milliseconds that an act takes, the median of its rounds; what comes before each is not counted."""
    times = []
    for _ in range(rounds):
        before()
        start = time.perf_counter()
        act()
        times.append(1e3 * (time.perf_counter() - start))
    return statistics.median(times)

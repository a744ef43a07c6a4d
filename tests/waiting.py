"""Waiting for what comes about, however slow the machine is."""

from __future__ import annotations

import time
from collections.abc import Callable

LONGEST = 240.0
"""Seconds after which what has not come never does, on the slowest machine."""


def wait_for(ready: Callable[[], object], text: str = "it does not come") -> None:
    """Let the events take place until something holds."""
    from PySide6.QtWidgets import QApplication

    until = time.monotonic() + LONGEST
    while not ready():
        QApplication.processEvents()
        time.sleep(0.005)
        assert time.monotonic() < until, text

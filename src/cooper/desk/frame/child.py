"""The surroundings of processes that the window starts: the same Cooper as this one, and nothing from the folder one stands in."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QProcessEnvironment

import cooper
from cooper.language.spoken import TOLD, as_told


def surroundings() -> QProcessEnvironment:
    """The environment for ``python -m cooper…`` as a child."""
    found = QProcessEnvironment.systemEnvironment()
    found.insert("PYTHONPATH", str(Path(cooper.__file__).parent.parent))
    found.insert("PYTHONSAFEPATH", "1")
    if as_told():
        found.insert(TOLD, as_told())
    return found

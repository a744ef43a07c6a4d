"""The environment of processes that the window starts: the same Cooper as this one, and nothing from the folder one
stands in."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QProcessEnvironment

import cooper
from cooper.i18n.translate import TOLD, language_for_children


def surroundings() -> QProcessEnvironment:
    """The environment for ``python -m cooper…`` as a child."""
    result = QProcessEnvironment.systemEnvironment()
    result.insert("PYTHONPATH", str(Path(cooper.__file__).parent.parent))
    result.insert("PYTHONSAFEPATH", "1")
    if language_for_children():
        result.insert(TOLD, language_for_children())
    return result

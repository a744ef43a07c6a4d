"""Where the program keeps what outlives it."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path

import platformdirs


def state_folder() -> Path:
    """Where autosaves and settings live; made on first use, where that can be."""
    folder = Path(platformdirs.user_state_dir("cooper", appauthor=False))
    with suppress(OSError):
        folder.mkdir(parents=True, exist_ok=True)
    return folder

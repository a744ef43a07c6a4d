"""Reading of the data files shipped with the package."""

from __future__ import annotations

import json
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def load(name: str) -> dict[str, Any]:
    """One data file by its stem; every file states its ``source`` and the ``certainty`` of its values."""
    found: dict[str, Any] = json.loads((files("cooper.stock") / "data" / f"{name}.json").read_text(encoding="utf-8"))
    return found

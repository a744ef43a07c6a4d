"""Reading of the data files shipped with the package."""

from __future__ import annotations

import json
from functools import cache
from importlib.resources import files
from typing import Any

from cooper.i18n.text import term


@cache
def load(name: str) -> dict[str, Any]:
    """One data file by its stem; every file states its ``source`` and the ``certainty`` of its values."""
    text = (files("cooper.stock") / "data" / f"{name}.json").read_text(encoding="utf-8")
    result: dict[str, Any] = json.loads(text, object_hook=_with_terms)
    return result


SHOWN = ("name", "words", "note")
"""What of a data file is shown in words."""


def _with_terms(row: dict[str, Any]) -> dict[str, Any]:
    """A row whose words are texts of the program."""
    return row | {key: term(row[key]) for key in SHOWN if isinstance(row.get(key), str)}

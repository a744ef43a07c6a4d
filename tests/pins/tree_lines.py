"""The result tree as lines of text, one value a line, so that a change shows as a difference that a person can read."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

DIGITS = 10


def tree_lines(tree: Any, path: str = "") -> Iterator[str]:
    """Every leaf of a result tree as ``path = value``, numbers with ten digits; lists by place, checks by their key,
    notes by stage.

    >>> list(tree_lines({"mesh": {"u": 2.5}, "gears": [{"z": 17}]}))
    ['mesh.u = 2.5', 'gears.1.z = 17']
    """
    if isinstance(tree, dict):
        for key, value in tree.items():
            yield from tree_lines(value, f"{path}.{key}" if path else str(key))
    elif isinstance(tree, list):
        for place, value in enumerate(tree, 1):
            if isinstance(value, dict) and "level" in value:
                # By what it says: a new note must not renumber the others.
                yield f"{path}.{value['stage'] or 'train'}.{value['level']} = {value['text']}"
                continue
            name = (
                f"{value['stage'] or 'train'}.{value['check']}"
                if isinstance(value, dict) and "check" in value
                else str(place)
            )
            yield from tree_lines(value, f"{path}.{name}")
    else:
        yield f"{path} = {tree:.{DIGITS}g}" if isinstance(tree, float) else f"{path} = {tree}"

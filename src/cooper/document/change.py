"""Other values at paths of a model, each part made anew and checked on the way up."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any, TypeVar

from msgspec import Struct

from cooper.document.base import Model, fields_of
from cooper.document.plain import step
from cooper.i18n.text import tr

M = TypeVar("M", bound=Model)


class _Leaf(Struct):
    """A value that is given."""

    value: Any


Meet = Callable[[Any, dict[str, Any]], dict[str, Any]]
"""From a part and its other values to these with what follows from them."""


def changed(model: M, changes: dict[str, Any], meet: dict[str, Meet] | None = None) -> M:
    """A model with other values at paths like ``train.gears.gear1.z``; raises `OutOfRange` for the first fault, at
    its path, and `TypeError` where a path names a part that has an identity. ``meet`` lets more follow in the part at
    a path, before it is checked as a whole."""
    tree: dict[str, Any] = {}
    for path, value in changes.items():
        *parents, last = path.split(".")
        node = tree
        for key in parents:
            node = node.setdefault(key, {})
        node[last] = _Leaf(value)
    return _with(model, tree, "", meet or {})


def _with(node: Any, tree: dict[str, Any], at: str, meet: dict[str, Meet]) -> Any:
    values: dict[str, Any] = {}
    for key, part in tree.items():
        if isinstance(part, _Leaf):
            values[key] = part.value
        else:
            values[key] = _with(step(node, key), part, f"{at}{key}.", meet)
    if isinstance(node, dict):
        if any(isinstance(part, _Leaf) and isinstance(node.get(key), Model) for key, part in tree.items()):
            raise TypeError(tr("{path} names a whole member; change its fields", path=at.rstrip(".")))
        return {**node, **values}
    if isinstance(node, tuple):
        return tuple(values.get(str(k), part) for k, part in enumerate(node))
    if at in meet:
        values = meet[at](node, values)
    return with_fields(node, values, at)


def with_fields(model: M, values: dict[str, Any], at: str = "") -> M:
    """A model with other values of its fields, checked; ``at`` is its own path with a point behind."""
    data = {name: getattr(model, name) for name in fields_of(type(model))}
    if model.unknown:
        data |= json.loads(model.unknown)
    return type(model).from_data(data | values, at)

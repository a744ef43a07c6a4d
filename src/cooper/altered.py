"""Records with other values in some of their fields."""

from __future__ import annotations

from dataclasses import fields
from functools import cache
from typing import Any, TypeVar

T = TypeVar("T")


def altered(record: T, **values: Any) -> T:
    """`dataclasses.replace` in a tenth of its time, for records that neither have slots nor look at what they are made of.

    >>> from dataclasses import dataclass
    >>> @dataclass(frozen=True)
    ... class Point:
    ...     x: float
    ...     y: float
    >>> altered(Point(1.0, 2.0), y=3.0)
    Point(x=1.0, y=3.0)
    >>> altered(Point(1.0, 2.0), z=3.0)
    Traceback (most recent call last):
    TypeError: ('Point', 'z')
    """
    kind: Any = type(record)
    names = _fields(kind)
    if not names.issuperset(values):
        raise TypeError(kind.__name__, *sorted(set(values) - names))
    made = object.__new__(kind)
    own = record.__dict__
    # What a record has found of itself and keeps beside its fields is not that of the new one.
    made.__dict__.update(own if len(own) == len(names) else {k: own[k] for k in names})
    made.__dict__.update(values)
    return made


@cache
def _fields(kind: type) -> frozenset[str]:
    if hasattr(kind, "__post_init__") or hasattr(kind, "__slots__"):
        raise TypeError(kind.__name__)
    if not all(f.init for f in fields(kind)):
        raise TypeError(kind.__name__)
    return frozenset(f.name for f in fields(kind))

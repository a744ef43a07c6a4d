"""The array type of the core."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import fields, is_dataclass
from typing import Any, TypeAlias, TypeVar

import numpy as np
from numpy.typing import NDArray

Array: TypeAlias = NDArray[np.float64]
"""A NumPy float array of any shape; functions of scalars return zero-dimensional ones."""

Real: TypeAlias = float | NDArray[np.float64]
"""What the core's functions take: a number or an array of them."""

Index: TypeAlias = NDArray[np.intp]
"""Places in an array."""

Marks: TypeAlias = NDArray[np.bool_]
"""Yes or no."""

Loose: TypeAlias = Array | Any
"""What stands between the core and the document: arrays and plain numbers as they come, not checked."""

Mixed: TypeAlias = Any
"""Values of results that are one number or many, as the survey has them."""

T = TypeVar("T")


def shape_of(*values: Real) -> tuple[int, ...]:
    """The shape that values have in common.

    >>> shape_of(1.0, np.zeros((2, 1)), np.zeros(3))
    (2, 3)
    """
    return np.broadcast_shapes(*map(np.shape, values))


def wide(value: Real, *like: Real) -> Array:
    """A value in the shape that it has in common with others; read-only.

    >>> wide(2.0, np.zeros(3)).tolist()
    [2.0, 2.0, 2.0]
    """
    return np.broadcast_to(np.asarray(value, dtype=float), shape_of(value, *like))


def on_top(row: Array, *of: Real) -> Array:
    """A row of values as an axis of its own before those of the others.

    >>> on_top(np.arange(4.0), np.zeros((2, 3))).shape
    (4, 1, 1)
    """
    return row.reshape((-1,) + (1,) * len(shape_of(*of)))


def within(value: Real, low: Real, high: Real) -> Array:
    """A value, or the nearer end where it lies beyond; NaN stays. A sixth of the time of `numpy.clip` for one value.

    >>> within(np.array([-2.0, 0.5, np.nan]), -1.0, 1.0).tolist()
    [-1.0, 0.5, nan]
    """
    return np.asarray(np.minimum(np.maximum(value, low), high))


def frozen(value: T) -> T:
    """The same value, its arrays made read-only, those in its fields and parts too: for what is kept and handed out again.

    >>> frozen((np.zeros(2),))[0].flags.writeable
    False
    """
    if isinstance(value, np.ndarray):
        value.setflags(write=False)
    elif isinstance(value, float | int | str):
        # Most of what is asked.
        pass
    elif isinstance(value, tuple | list):
        for part in value:
            frozen(part)
    elif isinstance(value, Mapping):
        for part in value.values():
            frozen(part)
    elif is_dataclass(value) and not isinstance(value, type):
        for field in fields(value):
            frozen(getattr(value, field.name))
    return value

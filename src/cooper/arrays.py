"""The array type of the core."""

from __future__ import annotations

from typing import Any, TypeAlias

import numpy as np
from numpy.typing import NDArray

Array: TypeAlias = NDArray[np.float64]
"""A NumPy float array of any shape; functions of scalars return zero-dimensional ones."""

Real: TypeAlias = float | NDArray[np.float64]
"""What the core's functions take: a number or an array of them."""

Loose: TypeAlias = Array | Any
"""What stands between the core and the document: arrays and plain numbers as they come, not checked."""

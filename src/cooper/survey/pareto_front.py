"""The best-possible edge of designs in two quantities: those that none betters in both."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from cooper.arrays import Array
from cooper.survey.criteria import BETTER_LESS, CRITERIA


def pareto_front(values: dict[str, Array], x: str, y: str) -> NDArray[np.int64]:
    """The designs on the edge, from the best in x to the best in y; what has no better way is better where it is less.

    Parameters
    ----------
    values : dict[str, Array]
        Quantities of the designs by name.
    x : str
        Name of the first quantity.
    y : str
        Name of the second quantity.

    Returns
    -------
    NDArray[np.int64]
        Numbers of the designs.

    Examples
    --------
    >>> pareto_front({"mass": np.array([1.0, 2.0, 3.0, 2.5]), "worst": np.array([0.1, 0.5, 0.9, 0.2])}, "mass", "worst").tolist()
    [0, 1, 2]
    """  # noqa: E501
    if x not in values or y not in values or not len(values[x]):
        return np.empty(0, dtype=np.int64)

    def towards_less(key: str) -> Array:
        better = CRITERIA[key].better or BETTER_LESS if key in CRITERIA else BETTER_LESS
        v = values[key] * -float(better)
        return np.where(np.isfinite(v), v, np.inf)

    a, b = towards_less(x), towards_less(y)
    # By one of them first, which is quick and leaves few; those that are equal there are told apart by the other.
    few = _falling(b, np.argsort(a))
    result = _falling(b, few[np.lexsort((b[few], a[few]))])
    return result[np.isfinite(a[result]) & np.isfinite(b[result])]


def _falling(b: Array, order: NDArray[np.int64]) -> NDArray[np.int64]:
    """Those of an order that lie below all before them."""
    least = np.minimum.accumulate(b[order])
    return order[b[order] < np.concatenate(([np.inf], least[:-1]))]

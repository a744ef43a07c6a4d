"""The modules that a survey tries: series, steps and growth from stage to stage."""

from __future__ import annotations

from math import ceil

import numpy as np
from numpy.typing import NDArray

from cooper.arrays import Array
from cooper.document.survey_spec import SurveySpec
from cooper.stock.series import modules

GROWTH = (0, 1, 2, 3)
"""By how many steps of the series the module of a stage lies above that of the one before."""


STEP_OF_SERIES = 1.12
"""About the ratio of one standard module to the next: by this the module grows from stage to stage where it has no
series."""


def module_series(q: SurveySpec) -> tuple[float, ...]:
    """All modules there are: those that there are tools for, those by the step that is asked for, or the standard ones.

    Parameters
    ----------
    q : SurveySpec
        What is asked of the survey.

    Returns
    -------
    tuple[float, ...]
        Modules (mm), rising.

    Examples
    --------
    >>> from cooper.document.survey_spec import asked
    >>> module_series(asked(m_low=1.0, m_high=1.1, m_step=0.05))
    (1.0, 1.05, 1.1)
    """
    if q.modules or q.m_step is None:
        return q.modules or modules()
    return steps(q.m_low, q.m_high, q.m_step)


def module_list(q: SurveySpec) -> tuple[float, ...]:
    """The modules that are tried: those of the series within the bounds.

    Parameters
    ----------
    q : SurveySpec
        What is asked of the survey.

    Returns
    -------
    tuple[float, ...]
        Modules (mm), rising.
    """
    return tuple(m for m in module_series(q) if q.m_low - 1e-9 <= m <= q.m_high + 1e-9)


def grown(q: SurveySpec, m: Array, grow: Array) -> tuple[Array, NDArray[np.bool_]]:
    """The modules so many steps of the series above others, and whether they are within the bounds.

    Parameters
    ----------
    q : SurveySpec
        What is asked of the survey.
    m : Array
        Modules (mm).
    grow : Array
        Steps of the series.

    Returns
    -------
    tuple[Array, NDArray[np.bool_]]
        Modules (mm), and whether they are within the bounds.
    """
    everything = np.array(sorted({*module_series(q)}))
    at = np.searchsorted(everything, m - 1e-9) + grow.astype(int)
    if q.m_step is not None:
        at = np.maximum(at, np.searchsorted(everything, m * STEP_OF_SERIES**grow - 1e-9))
    result = everything[np.minimum(at, len(everything) - 1)]
    return result, (at < len(everything)) & (result <= module_list(q)[-1] + 1e-9)


def steps(low: float, high: float, step: float) -> tuple[float, ...]:
    """Values from low to high, both of them among them.

    Parameters
    ----------
    low : float
        Least value.
    high : float
        Greatest value.
    step : float
        Distance of values.

    Returns
    -------
    tuple[float, ...]
        Values, rising.

    Examples
    --------
    >>> steps(0.0, 20.0, 8.0)
    (0.0, 8.0, 16.0, 20.0)
    """
    result = [round(low + k * step, 9) for k in range(ceil((high - low) / step - 1e-9))]
    return (*result, high)

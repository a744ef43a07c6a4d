"""What running-in takes off the deviations. ISO 6336-1:2019, 7 and 8."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real

KINDS = {"through": 0, "cast": 1, "hard": 2}
"""How a material runs in: through hardened steel, grey cast iron, surface hardened."""


def _by_speed(v: Array, middle: Array, fast: Array) -> Array:
    """Greatest allowance: none up to 5 m/s, ``middle`` up to 10 m/s, ``fast`` above."""
    return np.where(v <= 5, np.inf, np.where(v <= 10, middle, fast))


def profile_allowance(kind: Real, sigma_Hlim: Real, deviation: Real, v: Real) -> Array:
    """Running-in allowance y_alpha of a base pitch or profile form deviation (um) for one material.

    >>> [round(float(profile_allowance(k, s, 20.0, 3.0)), 2) for k, s in ((0, 800.0), (1, 300.0), (2, 1500.0))]
    [4.0, 5.5, 1.5]
    """
    kind, s, f, v = (np.asarray(a, dtype=float) for a in (kind, sigma_Hlim, deviation, v))
    through = np.minimum(160 / s * f, _by_speed(v, 12800 / s, 6400 / s))
    cast = np.minimum(0.275 * f, _by_speed(v, np.asarray(22.0), np.asarray(11.0)))
    hard = np.minimum(0.075 * f, 3.0)
    return np.where(kind == 2, hard, np.where(kind == 1, cast, through))


def helix_allowance(kind: Real, sigma_Hlim: Real, F_betax: Real, v: Real) -> Array:
    """Running-in allowance y_beta of the initial equivalent misalignment (um) for one material; at most all of it.

    >>> [round(float(helix_allowance(k, s, 20.0, 3.0)), 2) for k, s in ((0, 800.0), (1, 300.0), (2, 1500.0))]
    [8.0, 11.0, 3.0]
    """
    kind, s, F, v = (np.asarray(a, dtype=float) for a in (kind, sigma_Hlim, F_betax, v))
    through = np.minimum(320 / s * F, _by_speed(v, 25600 / s, 12800 / s))
    cast = np.minimum(0.55 * F, _by_speed(v, np.asarray(45.0), np.asarray(22.0)))
    hard = np.minimum(0.15 * F, 6.0)
    return np.minimum(np.where(kind == 2, hard, np.where(kind == 1, cast, through)), F)

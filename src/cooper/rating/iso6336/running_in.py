"""What running-in takes off the deviations. ISO 6336-1:2019, 7 and 8."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where

KINDS = {"through": 0, "cast": 1, "hard": 2, "none": 3}
"""How a material runs in: through hardened steel, grey cast iron, surface hardened; none stated (outside ISO
6336-5)."""


def _by_speed(v: Array, middle: Array, fast: Array) -> Array:
    """Greatest allowance: none up to 5 m/s, ``middle`` up to 10 m/s, ``fast`` above."""
    return where(v <= 5, np.inf, where(v <= 10, middle, fast))


def profile_allowance(kind: Real, sigma_Hlim: Real, deviation: Real, v: Real) -> Array:
    """Running-in allowance y_alpha of one material.

    Parameters
    ----------
    kind : Real
        Material group by `KINDS`: 0 through-hardened, 1 cast iron, 2 surface-hardened, 3 none stated.
    sigma_Hlim : Real
        Allowable contact stress number of the softer gear (MPa).
    deviation : Real
        Base pitch or profile form deviation (um).
    v : Real
        Circumferential speed (m/s).

    Returns
    -------
    Array
        y_alpha (um).

    References
    ----------
    ISO 6336-1:2019, 8.

    Examples
    --------
    >>> [round(float(profile_allowance(k, s, 20.0, 3.0)), 2) for k, s in ((0, 800.0), (1, 300.0), (2, 1500.0))]
    [4.0, 5.5, 1.5]
    """
    return _by_material(kind, sigma_Hlim, deviation, v, (160, 12800), (0.275, 22.0, 11.0), (0.075, 3.0))


def helix_allowance(kind: Real, sigma_Hlim: Real, F_betax: Real, v: Real) -> Array:
    """Running-in allowance y_beta of one material.

    Parameters
    ----------
    kind : Real
        Material group by `KINDS`: 0 through-hardened, 1 cast iron, 2 surface-hardened, 3 none stated.
    sigma_Hlim : Real
        Allowable contact stress number of the softer gear (MPa).
    F_betax : Real
        Initial equivalent misalignment (um).
    v : Real
        Circumferential speed (m/s).

    Returns
    -------
    Array
        y_beta (um), at most all of it.

    References
    ----------
    ISO 6336-1:2019, 7.

    Examples
    --------
    >>> [round(float(helix_allowance(k, s, 20.0, 3.0)), 2) for k, s in ((0, 800.0), (1, 300.0), (2, 1500.0))]
    [8.0, 11.0, 3.0]
    """
    result = _by_material(kind, sigma_Hlim, F_betax, v, (320, 25600), (0.55, 45.0, 22.0), (0.15, 6.0))
    return as_float(np.minimum(result, as_float(F_betax)))


def _by_material(
    kind: Real,
    sigma_Hlim: Real,
    deviation: Real,
    v: Real,
    through: tuple[float, float],
    cast: tuple[float, float, float],
    hard: tuple[float, float],
) -> Array:
    """A share of the deviation up to a greatest allowance: through hardened steel by its strength (share and limit
    over sigma_Hlim, half of the limit when fast), cast iron by its two limits, hard flanks by one at every speed."""
    kind, s, f, v = (as_float(a) for a in (kind, sigma_Hlim, deviation, v))
    soft = np.minimum(through[0] / s * f, _by_speed(v, through[1] / s, through[1] / 2 / s))
    iron = np.minimum(cast[0] * f, _by_speed(v, as_float(cast[1]), as_float(cast[2])))
    known = where(kind == 2, np.minimum(hard[0] * f, hard[1]), where(kind == 1, iron, soft))
    return where(kind == 3, 0.0, known)

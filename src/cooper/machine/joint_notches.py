"""Notch factors that were measured: keys, press fits, splines, retaining rings. DIN 743-2:2012, 5.1."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where


def key_notch(sigma_B: Real) -> Array:
    """Notch factors of a keyway made with an end mill, of the shaft of 40 mm on which they were measured.

    Parameters
    ----------
    sigma_B : Real
        Tensile strength of the part (MPa).

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    beta_sigma = 3 (sigma_B / 1000)^0.38, beta_tau = 0.56 beta_sigma + 0.1.

    References
    ----------
    DIN 743-2:2012, 5.1.

    Examples
    --------
    >>> [round(float(v), 3) for v in key_notch(700.0)]
    [2.62, 2.62, 1.567]
    """
    bending = 3 * (as_float(sigma_B) / 1000) ** 0.38
    return np.stack((bending, bending, 0.56 * bending + 0.1), axis=-1)


TWO_KEYWAYS = 1.15
"""How much higher the notch factors of two keyways are than those of one. DIN 743-2:2012, 5.1."""


def two_keys_notch(sigma_B: Real) -> Array:
    """Notch factors of two keyways at one place, of a shaft of 40 mm: 1.15 times those of one.

    Parameters
    ----------
    sigma_B : Real
        Tensile strength of the part (MPa).

    Returns
    -------
    Array
        Tension, bending, torsion.

    References
    ----------
    DIN 743-2:2012, 5.1.

    Examples
    --------
    >>> [round(float(v), 3) for v in two_keys_notch(700.0)]
    [3.013, 3.013, 1.802]
    """
    return as_float(TWO_KEYWAYS * key_notch(sigma_B))


def press_notch(sigma_B: Real) -> Array:
    """Notch factors at the edge of a hub pressed on, of a shaft of 40 mm.

    Parameters
    ----------
    sigma_B : Real
        Tensile strength of the part (MPa).

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    beta_sigma = 2.7 (sigma_B / 1000)^0.43, beta_tau = 0.65 beta_sigma; MPa.

    References
    ----------
    DIN 743-2:2012, 5.1.

    Examples
    --------
    >>> [round(float(v), 3) for v in press_notch(700.0)]
    [2.316, 2.316, 1.505]
    """
    bending = 2.7 * (as_float(sigma_B) / 1000) ** 0.43
    return np.stack((bending, bending, 0.65 * bending), axis=-1)


def spline_notch(sigma_B: Real, involute: bool = True) -> Array:
    """Notch factors of a splined shaft: involute flanks, or parallel ones.

    Parameters
    ----------
    sigma_B : Real
        Tensile strength of the part (MPa).
    involute : bool
        Whether its flanks are involutes, else parallel.

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    b = exp(4.2e-7 sigma_B^2); parallel: torsion b, bending 1 + 0.45 (b - 1); involute: 1 + 0.75 (b - 1) and 1 + 0.49 (b
    - 1).

    References
    ----------
    DIN 743-2:2012, 5.1.

    Examples
    --------
    >>> [round(float(v), 3) for v in spline_notch(700.0)]
    [1.112, 1.112, 1.171]
    """
    b = np.exp(4.2e-7 * as_float(sigma_B) ** 2)
    bending, torsion = (0.49, 0.75) if involute else (0.45, 1.0)
    return np.stack((1 + bending * (b - 1), 1 + bending * (b - 1), 1 + torsion * (b - 1)), axis=-1)


def ring_groove_notch(t: Real, r: Real, m: Real, sigma_S: Real) -> Array:
    """Notch factors of a square groove for a retaining ring.

    Parameters
    ----------
    t : Real
        Depth (mm).
    r : Real
        Corner radius (mm).
    m : Real
        Width (mm).
    sigma_S : Real
        Yield point of the part (MPa).

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    tension 0.9 (1.27 + 1.17 sqrt(t / (r + 2.9 rho))), at most 4; bending 0.9 (1.14 + 1.08 sqrt(t / (r + 2.9 rho))), at
    most 4; torsion 1.48 + 0.45 sqrt(t / (r + rho)), at most 2.5; rho = 10^-(0.514 + 0.00152 sigma_S) mm; narrower than
    1.4 t by 1.08 (m / t)^-0.2 more.

    References
    ----------
    DIN 743-2:2012, 5.1.

    Examples
    --------
    >>> [round(float(v), 3) for v in ring_groove_notch(1.0, 0.1, 2.0, 600.0)]
    [3.448, 3.153, 2.5]
    """
    t, r, m = (as_float(v) for v in (t, r, m))
    rho = 10 ** -(0.514 + 0.00152 * as_float(sigma_S))
    narrow = where(m / t >= 1.4, 1.0, 1.08 * (m / t) ** -0.2)
    near = np.sqrt(t / (r + 2.9 * rho))
    result = (
        np.minimum(0.9 * (1.27 + 1.17 * near) * narrow, 4.0),
        np.minimum(0.9 * (1.14 + 1.08 * near) * narrow, 4.0),
        np.minimum((1.48 + 0.45 * np.sqrt(t / (r + rho))) * narrow, 2.5),
    )
    return np.stack(np.broadcast_arrays(*result), axis=-1)

"""Loads and life of rolling bearings. ISO 281:2007, ISO 76:2006."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where


def rating_life(C: Real, P: Real, n: Real, rollers: bool) -> Array:
    """Basic rating life.

    Parameters
    ----------
    C : Real
        Dynamic rating (N).
    P : Real
        Equivalent load (N).
    n : Real
        Speed (1/min).
    rollers : bool
        Whether it is a roller bearing, else a ball bearing.

    Returns
    -------
    Array
        L_10h (h).

    Notes
    -----
    10^6 / (60 n) (C / P)^p, p = 3 of balls, 10/3 of rollers.

    References
    ----------
    ISO 281:2007, 5.3 and 7.3.

    Examples
    --------
    >>> round(float(rating_life(19500.0, 2000.0, 1500.0, False)))
    10298
    """
    p = 10 / 3 if rollers else 3.0
    tiny = np.maximum(as_float(P), 1e-9)
    return as_float(1e6 / (60 * np.maximum(np.abs(n), 1e-9)) * (as_float(C) / tiny) ** p)


def reference_viscosity(n: Real, D_pw: Real) -> Array:
    """Viscosity nu_1 that a bearing needs.

    Parameters
    ----------
    n : Real
        Speed (1/min).
    D_pw : Real
        Pitch diameter of the rolling elements (mm).

    Returns
    -------
    Array
        nu_1 (mm2/s).

    Notes
    -----
    45000 n^-0.83 D_pw^-0.5 below 1000 1/min, 4500 n^-0.5 D_pw^-0.5 from there on.

    References
    ----------
    ISO 281:2007, 9.3.3.2.

    Examples
    --------
    >>> round(float(reference_viscosity(1500.0, 46.0)), 1)
    17.1
    """
    n = np.maximum(np.abs(as_float(n)), 1e-3)
    return as_float(where(n < 1000, 45000 * n**-0.83, 4500 * n**-0.5) / np.sqrt(as_float(D_pw)))


CLEANLINESS = {
    "ISO 4406 -/13/10": (0.0864, 0.5796),
    "ISO 4406 -/15/12": (0.0288, 1.141),
    "ISO 4406 -/17/14": (0.0133, 1.67),
    "ISO 4406 -/19/16": (0.00864, 2.5164),
    "ISO 4406 -/21/18": (0.00411, 3.8974),
}
"""Constants of e_C in oil baths by the oil's cleanliness. ISO 281:2007, A.5."""


def contamination_factor(cleanliness: str, kappa: Real, D_pw: Real) -> Array:
    """Contamination factor e_C of an oil bath: a (1 - c / D_pw^(1/3)), a = c_1 kappa^0.68 D_pw^0.55, at most 1.

    Parameters
    ----------
    cleanliness : str
        Cleanliness of the oil, a key of the table.
    kappa : Real
        Viscosity ratio nu/nu_1.
    D_pw : Real
        Pitch diameter of the rolling elements (mm).

    Returns
    -------
    Array
        e_C.

    References
    ----------
    ISO 281:2007, A.5.

    Examples
    --------
    >>> round(float(contamination_factor("ISO 4406 -/17/14", 2.0, 46.0)), 4)
    0.0934
    """
    c_1, c = CLEANLINESS[cleanliness]
    D_pw = as_float(D_pw)
    a = np.minimum(c_1 * as_float(kappa) ** 0.68 * D_pw**0.55, 1.0)
    return as_float(a * np.maximum(1 - c / np.cbrt(D_pw), 0.0))


def life_factor_iso(kappa: Real, share: Real, rollers: bool) -> Array:
    """Life modification factor a_ISO, at most 50.

    Parameters
    ----------
    kappa : Real
        Viscosity ratio nu/nu_1, 0.1 to 4.
    share : Real
        e_C C_u / P.
    rollers : bool
        Whether it is a roller bearing, else a ball bearing.

    Returns
    -------
    Array
        a_ISO.

    Notes
    -----
    Balls: 0.1 (1 - (2.5671 - c / kappa^q)^0.83 share^(1/3))^-9.3; rollers: 0.1 (1 - (1.5859 - c / kappa^q)
    share^0.4)^-9.185; c and q by the range of kappa: below 0.4, below 1, from 1.

    References
    ----------
    ISO 281:2007, 9.3.3.5.

    Examples
    --------
    >>> round(float(life_factor_iso(1.0, 0.1, False)), 3), round(float(life_factor_iso(2.0, 0.2, True)), 3)
    (2.431, 0.934)
    """
    k, share = np.clip(as_float(kappa), 0.1, 4.0), np.maximum(as_float(share), 0.0)
    q = np.select([k < 0.4, k < 1], [0.054381, 0.19087], 0.071739)
    if rollers:
        c = np.select([k < 0.4, k < 1], [1.3993, 1.2348], 1.2348)
        left = 1 - (1.5859 - c / k**q) * share**0.4
        power = -9.185
    else:
        c = np.select([k < 0.4, k < 1], [2.2649, 1.9987], 1.9987)
        left = 1 - (2.5671 - c / k**q) ** 0.83 * np.cbrt(share)
        power = -9.3
    return as_float(np.minimum(0.1 * np.maximum(left, 1e-3) ** power, 50.0))


A_1 = {90.0: 1.0, 95.0: 0.64, 96.0: 0.55, 97.0: 0.47, 98.0: 0.37, 99.0: 0.25}
"""Life adjustment a_1 by reliability (%). ISO 281:2007, Table 12."""

WEIBULL_BALLS, WEIBULL_ROLLERS = 10 / 9, 9 / 8
"""Slopes of the spread of lives by which ISO 281 puts rows and rings together, and by which bearings of one machine
are. ISO/TR 1281-1."""


def system_life(lives: Array, rollers: Array) -> float:
    """Life that all of several bearings reach with the reliability that each life stands for.

    Parameters
    ----------
    lives : Array
        Lives (h).
    rollers : Array
        Which are roller bearings.

    Returns
    -------
    float
        Life (h).

    Notes
    -----
    L with sum (L/L_i)^e_i = 1, e = 10/9 of balls and 9/8 of rollers. Where all are alike L = L_i n^(-1/e).

    References
    ----------
    ISO 281:2007, Weibull slopes.

    Examples
    --------
    >>> round(system_life(np.full(6, 10000.0), np.zeros(6))), round(system_life(np.full(6, 10000.0), np.ones(6)))
    (1994, 2034)
    """
    lives, e = as_float(lives), where(np.asarray(rollers, dtype=bool), WEIBULL_ROLLERS, WEIBULL_BALLS)
    if not len(lives):
        return float("inf")
    if not float(lives.min()) > 0:
        return 0.0
    high = float(np.log(lives.min()))
    low = high - np.log(len(lives)) - 1
    for _ in range(60):
        mid = (low + high) / 2
        low, high = (mid, high) if float(np.sum(np.exp(e * (mid - np.log(lives))))) < 1 else (low, mid)
    return float(np.exp(low))


def radial_give(D_w: Real, Z: Real, alpha: Real, L_we: Real, F_r: Real) -> Array:
    """How far rings approach each other under a radial load, without play.

    Parameters
    ----------
    D_w : Real
        Diameter of the rolling elements (mm).
    Z : Real
        Number of rolling elements.
    alpha : Real
        Nominal contact angle (rad).
    L_we : Real
        Effective length of the rollers (mm), 0 for balls.
    F_r : Real
        Radial load (N).

    Returns
    -------
    Array
        Approach (mm).

    Notes
    -----
    Balls: 4.4e-4 (Q^2 / D_w)^(1/3) / cos alpha, Q = 5 F_r / (Z cos alpha); rollers: 7.7e-5 Q^0.9 / L_we^0.8 / cos
    alpha, Q = 4.6 F_r / (Z cos alpha).

    References
    ----------
    Palmgren's approximation.

    Examples
    --------
    >>> round(1000 * float(radial_give(9.525, 9, 0.0, 0.0, 2000.0)), 1)
    22.3
    """
    F_r, D_w, L_we = np.abs(as_float(F_r)), as_float(D_w), as_float(L_we)
    c = np.cos(alpha)
    balls = 4.4e-4 * np.cbrt((5 * F_r / (as_float(Z) * c)) ** 2 / D_w) / c
    rollers = 7.7e-5 * (4.6 * F_r / (as_float(Z) * c)) ** 0.9 / np.maximum(L_we, 1e-9) ** 0.8 / c
    return where(L_we > 0, rollers, balls)

"""Ratings of rolling bearings from their geometry. ISO 281:2007 (dynamic), ISO 76:2006 (static)."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where

GAMMA_BALL = np.array([0.05, 0.06, 0.07, 0.08, 0.09, 0.10, 0.12, 0.14, 0.16, 0.18, 0.20, 0.22, 0.24, 0.26, 0.28, 0.30])
F_C_BALL = np.array([46.7, 49.1, 51.1, 52.8, 54.3, 55.5, 57.5, 58.8, 59.6, 59.9, 59.9, 59.6, 59.0, 58.2, 57.1, 56.0])
"""Factor f_c of radial ball bearings over gamma = D_w cos(alpha) / D_pw. ISO 281:2007, Table 2."""

GAMMA_STATIC = np.array(
    [0.0, 0.02, 0.04, 0.06, 0.08, 0.09, 0.10, 0.12, 0.14, 0.16, 0.18, 0.20, 0.22, 0.24, 0.26, 0.28, 0.30]
)
F_0_BALL = np.array(
    [14.7, 15.1, 15.5, 15.9, 16.3, 16.5, 16.4, 15.9, 15.4, 14.9, 14.4, 14.0, 13.5, 13.0, 12.5, 12.1, 11.6]
)
"""Factor f_0 of radial ball bearings over gamma. ISO 76:2006, Table 1."""


def ball_factor(gamma: Real) -> Array:
    """f_c of radial ball bearings with grooves up to 0.52 D_w, between the values of the table.

    Parameters
    ----------
    gamma : Real
        D_w cos(alpha)/D_pw.

    Returns
    -------
    Array
        f_c.

    References
    ----------
    ISO 281:2007, Table 2.

    Examples
    --------
    >>> round(float(ball_factor(0.13)), 2)
    58.15
    """
    return as_float(np.interp(as_float(gamma), GAMMA_BALL, F_C_BALL))


def roller_factor(gamma: Real) -> Array:
    """f_c of radial roller bearings.

    Parameters
    ----------
    gamma : Real
        D_w cos(alpha)/D_pw.

    Returns
    -------
    Array
        f_c.

    Notes
    -----
    f_c = 0.83 207.9 g^(2/9) (1 - g)^(29/27) / (1 + g)^(1/4) (1 + (1.04 ((1 - g)/(1 + g))^(143/108))^(9/2))^(-2/9).

    References
    ----------
    ISO 281:2007, Table 7, by its equation of ISO/TR 1281-1.

    Examples
    --------
    >>> round(float(roller_factor(0.18)), 1)
    88.8
    """
    g = as_float(gamma)
    inner = 1 + (1.04 * ((1 - g) / (1 + g)) ** (143 / 108)) ** 4.5
    return as_float(0.83 * 207.9 * g ** (2 / 9) * (1 - g) ** (29 / 27) / (1 + g) ** 0.25 * inner ** (-2 / 9))


def dynamic_rating(
    D_w: Real, Z: Real, D_pw: Real, alpha: Real = 0.0, L_we: Real = 0.0, i: Real = 1.0, b_m: Real = 1.3
) -> Array:
    """Basic dynamic radial rating.

    Parameters
    ----------
    D_w : Real
        Diameter of the rolling elements (mm).
    Z : Real
        Number of rolling elements.
    D_pw : Real
        Pitch diameter of the rolling elements (mm).
    alpha : Real
        Nominal contact angle (rad).
    L_we : Real
        Effective length of the rollers (mm), 0 for balls.
    i : Real
        Number of rows.
    b_m : Real
        Factor of steel and making.

    Returns
    -------
    Array
        C_r (N).

    Notes
    -----
    Balls: b_m f_c (i cos alpha)^0.7 Z^(2/3) D_w^1.8, beyond 25.4 mm with 3.647 D_w^1.4; rollers (L_we > 0): b_m f_c (i
    L_we cos alpha)^(7/9) Z^(3/4) D_w^(29/27).

    References
    ----------
    ISO 281:2007, 5.1 and 7.1.

    Examples
    --------
    >>> round(float(dynamic_rating(9.525, 9, 46.0)) / 1000, 1)
    19.4
    """
    D_w, Z, D_pw, alpha, L_we, i = (as_float(v) for v in (D_w, Z, D_pw, alpha, L_we, i))
    gamma = D_w * np.cos(alpha) / D_pw
    size = where(D_w <= 25.4, D_w**1.8, 3.647 * D_w**1.4)
    balls = b_m * ball_factor(gamma) * (i * np.cos(alpha)) ** 0.7 * Z ** (2 / 3) * size
    along = (i * np.maximum(L_we, 1e-9) * np.cos(alpha)) ** (7 / 9)
    rollers = b_m * roller_factor(gamma) * along * Z**0.75 * D_w ** (29 / 27)
    return where(L_we > 0, rollers, balls)


def static_factor(gamma: Real) -> Array:
    """f_0 of radial ball bearings, between the values of the table.

    Parameters
    ----------
    gamma : Real
        D_w cos(alpha)/D_pw.

    Returns
    -------
    Array
        f_0.

    References
    ----------
    ISO 76:2006, Table 1.

    Examples
    --------
    >>> round(float(static_factor(0.21)), 2)
    13.75
    """
    return as_float(np.interp(as_float(gamma), GAMMA_STATIC, F_0_BALL))


def static_rating(D_w: Real, Z: Real, D_pw: Real, alpha: Real = 0.0, L_we: Real = 0.0, i: Real = 1.0) -> Array:
    """Basic static radial rating.

    Parameters
    ----------
    D_w : Real
        Diameter of the rolling elements (mm).
    Z : Real
        Number of rolling elements.
    D_pw : Real
        Pitch diameter of the rolling elements (mm).
    alpha : Real
        Nominal contact angle (rad).
    L_we : Real
        Effective length of the rollers (mm), 0 for balls.
    i : Real
        Number of rows.

    Returns
    -------
    Array
        C_0r (N).

    Notes
    -----
    Balls: f_0 i Z D_w^2 cos alpha; rollers: 44 (1 - D_w cos alpha / D_pw) i Z L_we D_w cos alpha.

    References
    ----------
    ISO 76:2006, 5.1 and 6.1.

    Examples
    --------
    >>> round(float(static_rating(9.525, 9, 46.0)) / 1000, 1)
    11.3
    """
    D_w, Z, D_pw, alpha, L_we, i = (as_float(v) for v in (D_w, Z, D_pw, alpha, L_we, i))
    gamma = D_w * np.cos(alpha) / D_pw
    balls = static_factor(gamma) * i * Z * D_w**2 * np.cos(alpha)
    return where(L_we > 0, 44 * (1 - gamma) * i * Z * L_we * D_w * np.cos(alpha), balls)


def fatigue_load_limit(C_0: Real, D_pw: Real, rollers: bool) -> Array:
    """Fatigue load limit.

    Parameters
    ----------
    C_0 : Real
        Basic static rating (N).
    D_pw : Real
        Pitch diameter of the rolling elements (mm).
    rollers : bool
        Whether it is a roller bearing, else a ball bearing.

    Returns
    -------
    Array
        C_u (N).

    Notes
    -----
    C_0 / 22 of balls, C_0 / 8.2 of rollers; beyond 100 mm times (100 / D_pw)^0.5 and ^0.3.

    References
    ----------
    ISO 281:2007, B.3.3, simplified.

    Examples
    --------
    >>> round(float(fatigue_load_limit(11300.0, 46.0, False)))
    514
    """
    over = np.maximum(as_float(D_pw) / 100, 1.0)
    return as_float(as_float(C_0) / (8.2 * over**0.3 if rollers else 22 * over**0.5))

"""Nominal load and load factors. ISO 6336-1:2019."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where

K1_SPUR = {3: 2.1, 4: 3.9, 5: 7.5, 6: 14.9, 7: 26.8, 8: 39.1, 9: 52.8, 10: 76.6, 11: 102.6, 12: 146.3}
"""Factor K_1 of method C for spur gears by tolerance class. ISO 6336-1, Table 8 as known from the 2006 edition."""

K1_HELICAL = {3: 1.9, 4: 3.5, 5: 6.7, 6: 13.3, 7: 23.9, 8: 34.8, 9: 47.0, 10: 68.2, 11: 91.4, 12: 130.3}
"""Factor K_1 of method C for helical gears with an overlap ratio of 1 and more; same source."""

K2_SPUR, K2_HELICAL = 0.0193, 0.0087
LEAST_LINE_LOAD = 100.0
"""Line load K_A F_t / b (N/mm) below which method C is entered with this value."""


def tangential_force(T_1: Real, d_1: Real) -> Array:
    """Nominal tangential force at the reference cylinder, F_t = 2000 T_1/d_1.

    Parameters
    ----------
    T_1 : Real
        Torque of the pinion (N m).
    d_1 : Real
        Reference diameter (mm).

    Returns
    -------
    Array
        Force (N).

    References
    ----------
    ISO 6336-1:2019.

    Examples
    --------
    >>> float(tangential_force(50.0, 40.0))
    2500.0
    """
    return as_float(2000.0 * as_float(T_1) / as_float(d_1))


def circumferential_speed(d_1: Real, omega_1: Real) -> Array:
    """Circumferential speed at the reference cylinder.

    Parameters
    ----------
    d_1 : Real
        Reference diameter of the pinion (mm).
    omega_1 : Real
        Angular speed of the pinion (rad/s).

    Returns
    -------
    Array
        Speed (m/s).

    References
    ----------
    ISO 6336-1:2019.
    """
    return as_float(as_float(d_1) * as_float(omega_1) / 2000.0)


def speed_parameter(v: Real, z_1: Real, u: Real) -> Array:
    """The abscissa of method C, v z_1/100 sqrt(u^2/(1+u^2)).

    Parameters
    ----------
    v : Real
        Circumferential speed (m/s).
    z_1 : Real
        Tooth count of the pinion.
    u : Real
        Gear ratio z_2/z_1, negative for an internal wheel.

    Returns
    -------
    Array
        Parameter (m/s), stated up to 3 m/s.

    References
    ----------
    ISO 6336-1:2019, 6.5.5.
    """
    u = as_float(u)
    return as_float(v) * z_1 / 100 * np.sqrt(u**2 / (1 + u**2))


def dynamic_factor_c(
    K_1: Real, line_load: Real, parameter: Real, eps_beta: Real = 0.0, K_1_helical: Real = 0.0
) -> Array:
    """Dynamic factor K_V by method C, in the subcritical range.

    Parameters
    ----------
    K_1 : Real
        Coefficient of the table for spur gears.
    line_load : Real
        Line load K_A F_t/b (N/mm), counts as at least 100.
    parameter : Real
        Parameter by `speed_parameter` (m/s).
    eps_beta : Real
        Overlap ratio.
    K_1_helical : Real
        Coefficient of the table for helical gears.

    Returns
    -------
    Array
        K_V.

    Notes
    -----
    With an overlap ratio below 1 the factor lies on a straight line between that of spur gears (0) and of helical gears
    (1).

    References
    ----------
    ISO 6336-1:2019, 6.5.5.

    Examples
    --------
    >>> round(float(dynamic_factor_c(14.9, 150.0, 1.0)), 3)
    1.203
    """
    parameter = as_float(parameter)
    # The line falls from 2 to 1 at 3 m/s, where the method ends; carried on it would make fast gears run ever smoother.
    K_3 = where(parameter <= 0.2, 2.0, np.maximum(2.071 - 0.357 * parameter, 1.0))
    load = np.maximum(as_float(line_load), LEAST_LINE_LOAD)
    spur, helical = (as_float(K) / load + K_2 for K, K_2 in ((K_1, K2_SPUR), (K_1_helical, K2_HELICAL)))
    share = np.minimum(as_float(eps_beta), 1.0)
    return as_float(1 + ((1 - share) * spur + share * helical) * parameter * K_3)


def root_face_load_factor(K_Hbeta: Real, b: Real, h: Real) -> Array:
    """Face load factor for root stress.

    Parameters
    ----------
    K_Hbeta : Real
        Face load factor of the flank.
    b : Real
        Face width (mm).
    h : Real
        Tooth depth (mm); b/h below 3 counts as 3.

    Returns
    -------
    Array
        K_Fbeta.

    Notes
    -----
    K_Fbeta = K_Hbeta^N_F, N_F = 1/(1 + h/b + (h/b)^2).

    References
    ----------
    ISO 6336-1:2019, 7.

    Examples
    --------
    >>> round(float(root_face_load_factor(1.3, 30.0, 5.0)), 4)
    1.2456
    """
    ratio = np.maximum(as_float(b) / as_float(h), 3.0)
    return as_float(as_float(K_Hbeta) ** (ratio**2 / (1 + ratio + ratio**2)))

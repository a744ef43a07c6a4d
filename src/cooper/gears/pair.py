"""Working pressure angle, centre distance and shifts of a pair (ISO 21771).

Signs as in the standard: an internal gear has a negative tooth count and so negative diameters and centre distance.
"""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where
from cooper.gears.involute import inv, inverse_inv
from cooper.gears.tooth import transverse_pressure_angle


def reference_centre_distance(z_1: Real, z_2: Real, m_n: Real, beta: Real = 0.0) -> Array:
    """Half the sum of the reference diameters.

    Parameters
    ----------
    z_1 : Real
        Tooth count of gear 1.
    z_2 : Real
        Tooth count of gear 2, negative for an internal gear.
    m_n : Real
        Normal module (mm).
    beta : Real
        Helix angle at the reference cylinder (rad).

    Returns
    -------
    Array
        Distance (mm).

    Notes
    -----
    a = m_n (z_1 + z_2)/(2 cos(beta)).

    References
    ----------
    ISO 21771:2007.

    Examples
    --------
    >>> float(reference_centre_distance(17, 41, 2.5))
    72.5
    """
    return as_float((as_float(z_1) + as_float(z_2)) * m_n / (2 * np.cos(beta)))


def working_pressure_angle(z_1: Real, z_2: Real, x_sum: Real, alpha_n: Real, beta: Real = 0.0) -> Array:
    """Transverse working pressure angle for a sum of shifts without backlash.

    Parameters
    ----------
    z_1 : Real
        Tooth count of gear 1.
    z_2 : Real
        Tooth count of gear 2, negative for an internal gear.
    x_sum : Real
        Sum of the profile shift coefficients.
    alpha_n : Real
        Normal pressure angle (rad).
    beta : Real
        Helix angle at the reference cylinder (rad).

    Returns
    -------
    Array
        Angle (rad), NaN where the shifts are so negative that no involute flanks can work together (involute below
        zero).

    Notes
    -----
    inv(alpha_wt) = inv(alpha_t) + 2 x_sum tan(alpha_n)/(z_1 + z_2).

    References
    ----------
    ISO 21771:2007.

    Examples
    --------
    >>> round(float(np.degrees(working_pressure_angle(17, 41, 0.0, np.radians(20)))), 9)
    20.0
    """
    alpha_t = transverse_pressure_angle(alpha_n, beta)
    invw = inv(alpha_t) + 2 * np.tan(alpha_n) * as_float(x_sum) / (as_float(z_1) + as_float(z_2))
    return where(invw > 0, inverse_inv(np.maximum(invw, 0.0)), np.nan)


def centre_distance(z_1: Real, z_2: Real, m_n: Real, x_sum: Real, alpha_n: Real, beta: Real = 0.0) -> Array:
    """Working centre distance for a sum of shifts without backlash.

    Parameters
    ----------
    z_1 : Real
        Tooth count of gear 1.
    z_2 : Real
        Tooth count of gear 2, negative for an internal gear.
    m_n : Real
        Normal module (mm).
    x_sum : Real
        Sum of the profile shift coefficients.
    alpha_n : Real
        Normal pressure angle (rad).
    beta : Real
        Helix angle at the reference cylinder (rad).

    Returns
    -------
    Array
        Distance (mm).

    Notes
    -----
    a_w = a cos(alpha_t)/cos(alpha_wt).

    References
    ----------
    ISO 21771:2007.

    Examples
    --------
    >>> round(float(centre_distance(17, 41, 2.5, 0.44, np.radians(20))), 3)
    73.546
    """
    alpha_wt = working_pressure_angle(z_1, z_2, x_sum, alpha_n, beta)
    alpha_t = transverse_pressure_angle(alpha_n, beta)
    return reference_centre_distance(z_1, z_2, m_n, beta) * np.cos(alpha_t) / np.cos(alpha_wt)


def shift_sum(z_1: Real, z_2: Real, m_n: Real, a_w: Real, alpha_n: Real, beta: Real = 0.0) -> Array:
    """Sum of the shifts that meets a centre distance without backlash: the inverse of `centre_distance`.

    Parameters
    ----------
    z_1 : Real
        Tooth count of gear 1.
    z_2 : Real
        Tooth count of gear 2, negative for an internal gear.
    m_n : Real
        Normal module (mm).
    a_w : Real
        Working centre distance (mm).
    alpha_n : Real
        Normal pressure angle (rad).
    beta : Real
        Helix angle at the reference cylinder (rad).

    Returns
    -------
    Array
        x_1 + x_2, NaN below a cos(alpha_t), where the base circles overlap past the pitch point.

    Examples
    --------
    >>> round(float(shift_sum(17, 41, 2.5, 73.5, np.radians(20))), 4)
    0.4199
    """
    alpha_t = transverse_pressure_angle(alpha_n, beta)
    ratio = reference_centre_distance(z_1, z_2, m_n, beta) * np.cos(alpha_t) / as_float(a_w)
    alpha_wt = np.arccos(where(np.abs(ratio) < 1, ratio, np.nan))
    return as_float((inv(alpha_wt) - inv(alpha_t)) * (as_float(z_1) + as_float(z_2)) / (2 * np.tan(alpha_n)))

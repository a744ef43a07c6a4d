"""Load and strength factors of ANSI/AGMA 2101-D04, metric."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip, where

ROUGHEST = 1.6
"""Roughness Ra (um) of a hard pinion's flanks up to which it hardens its wheel. ANSI/AGMA 2101-D04, 14."""


def dynamic_factor(A_v: Real, v_t: Real) -> Array:
    """Dynamic factor K_v.

    Parameters
    ----------
    A_v : Real
        Transmission accuracy grade, 6 to 12, for which the flank class stands; below 6 counts as 6.
    v_t : Real
        Pitch line speed (m/s).

    Returns
    -------
    Array
        K_v.

    References
    ----------
    ANSI/AGMA 2101-D04, 8.

    Examples
    --------
    >>> round(float(dynamic_factor(8, 10.0)), 3)
    1.269
    """
    B = 0.25 * (clip(as_float(A_v), 6, 12) - 5) ** (2 / 3)
    A = 50 + 56 * (1 - B)
    return as_float(((A + np.sqrt(200 * as_float(v_t))) / A) ** B)


def greatest_speed(A_v: Real) -> Array:
    """Pitch line speed up to which the curve of a grade is stated.

    Parameters
    ----------
    A_v : Real
        Transmission accuracy grade, 6 to 12.

    Returns
    -------
    Array
        Pitch line speed (m/s).

    References
    ----------
    ANSI/AGMA 2101-D04, 8.

    Examples
    --------
    >>> round(float(greatest_speed(8)), 1)
    34.3
    """
    A_v = clip(as_float(A_v), 6, 12)
    A = 50 + 56 * (1 - 0.25 * (A_v - 5) ** (2 / 3))
    return (A + (14 - A_v)) ** 2 / 200


def load_distribution_factor(
    b: Real, d_w1: Real, S1_S: Real, mounting: tuple[Real, Real, Real], modified: Real, adjusted: Real
) -> Array:
    """Load distribution factor K_H by the empirical method.

    Parameters
    ----------
    b : Real
        Face width (mm).
    d_w1 : Real
        Working pitch diameter of the pinion (mm).
    S1_S : Real
        Distance of the pinion from mid-span over the span.
    mounting : tuple[Real, Real, Real]
        Coefficients of the mesh alignment.
    modified : Real
        Whether the lead is crowned or corrected.
    adjusted : Real
        Whether the mesh is adjusted at assembly, lapped or shimmed.

    Returns
    -------
    Array
        K_H.

    References
    ----------
    ANSI/AGMA 2101-D04, 15.

    Examples
    --------
    >>> round(float(load_distribution_factor(40.0, 50.0, 0.0, (0.127, 0.622e-3, -1.69e-7), False, False)), 3)
    1.214
    """
    b = as_float(b)
    ratio = np.maximum(b / (10 * as_float(d_w1)), 0.05)
    wide = where(b <= 432, -0.0375 + 0.000492 * b, -0.1109 + 0.000815 * b - 0.000000353 * b**2)
    K_Hpf = ratio + where(b <= 25, -0.025, wide)
    K_Hpm = where(as_float(S1_S) < 0.175, 1.0, 1.1)
    A, B, C = mounting
    K_Hma = A + B * b + C * b**2
    K_He = where(adjusted, 0.8, 1.0)
    return as_float(1 + where(modified, 0.8, 1.0) * (K_Hpf * K_Hpm + K_Hma * K_He))


def contact_cycle_factor(N: Real, nitrided: Real, critical: Real) -> Array:
    """Stress cycle factor Z_N for pitting.

    Parameters
    ----------
    N : Real
        Load cycles, from 1e4 on.
    nitrided : Real
        Whether the gear is nitrided.
    critical : Real
        Whether the lower curve is taken.

    Returns
    -------
    Array
        Z_N.

    References
    ----------
    ANSI/AGMA 2101-D04, 17.

    Examples
    --------
    >>> [round(float(contact_cycle_factor(n, False, False)), 3) for n in (1e4, 1e7, 1e9)]
    [1.472, 1.0, 0.9]
    """
    N = np.maximum(as_float(N), 1e4)
    steep, long = 2.466 * N**-0.056, where(critical, 2.466 * N**-0.056, 1.4488 * N**-0.023)
    return where(nitrided, where(N < 1e7, 1.249 * N**-0.0138, long), where(N < 1e7, steep, long))


def bending_cycle_factor(N: Real, HB: Real, kind: str, critical: Real) -> Array:
    """Stress cycle factor Y_N for bending.

    Parameters
    ----------
    N : Real
        Load cycles, from 1e3 on.
    HB : Real
        Brinell hardness of through-hardened gears, between the curves of 160, 250 and 400 HB.
    kind : str
        "through", "carburized" or "nitrided".
    critical : Real
        Whether the lower curve is taken.

    Returns
    -------
    Array
        Y_N.

    References
    ----------
    ANSI/AGMA 2101-D04, 17.

    Examples
    --------
    >>> [round(float(bending_cycle_factor(n, 250.0, "through", False)), 3) for n in (1e4, 3e6, 1e9)]
    [1.887, 1.04, 0.938]
    """
    N = np.maximum(as_float(N), 1e3)
    at = np.nan_to_num(as_float(HB), nan=250.0)
    through = np.interp(at, [160, 250, 400], [0.0538, 0.1045, 0.148])
    slope = as_float({"through": through, "carburized": 0.1192, "nitrided": 0.0817}[kind])
    long = where(critical, 1.6831 * N**-0.0323, 1.3558 * N**-0.0178)
    # Every finite-life curve meets the long ones at 3e6 cycles.
    return where(N < 3e6, 1.0398 * (3e6 / N) ** slope, long)


def hardness_ratio_factor(HB_1: Real, HB_2: Real, u: Real, Ra_1: Real) -> Array:
    """Hardness ratio factor Z_W of the wheel, for steel.

    Parameters
    ----------
    HB_1 : Real
        Brinell hardness of the pinion, NaN for a surface-hardened one.
    HB_2 : Real
        Brinell hardness of the wheel.
    u : Real
        Gear ratio z_2/z_1, negative for an internal wheel.
    Ra_1 : Real
        Roughness of the pinion's flank (um); a surface-hardened one rougher than 1.6 um hardens nothing.

    Returns
    -------
    Array
        Z_W.

    References
    ----------
    ANSI/AGMA 2101-D04, 14.

    Examples
    --------
    >>> round(float(hardness_ratio_factor(340.0, 260.0, 3.0, 0.8)), 4), float(hardness_ratio_factor(200.0, 260.0, 3.0, 0.8))
    (1.0069, 1.0)
    """  # noqa: E501
    HB_1, HB_2 = as_float(HB_1), as_float(HB_2)
    ratio = HB_1 / HB_2
    A = where(ratio < 1.2, 0.0, where(ratio > 1.7, 0.00698, 0.00898 * ratio - 0.00829))
    soft = 1 + np.nan_to_num(A) * (as_float(u) - 1)
    smooth = as_float(Ra_1) <= ROUGHEST
    hard = where(smooth, 1 + 0.00075 * np.exp(-0.448 * as_float(Ra_1)) * clip(450 - HB_2, 50, 270), 1.0)
    return where(np.isnan(HB_2), 1.0, where(np.isnan(HB_1), np.nan_to_num(hard, nan=1.0), soft))


def contact_stress(Z_E: Real, F_t: Real, K: Real, d_w1: Real, b: Real, Z_I: Real) -> Array:
    """Contact stress number.

    Parameters
    ----------
    Z_E : Real
        Elasticity factor (sqrt(MPa)).
    F_t : Real
        Tangential force at the working pitch circle (N).
    K : Real
        Product of all load factors.
    d_w1 : Real
        Working pitch diameter of the pinion (mm).
    b : Real
        Face width (mm).
    Z_I : Real
        Geometry factor for pitting.

    Returns
    -------
    Array
        Stress (MPa).

    Notes
    -----
    sigma_H = Z_E sqrt(F_t K/(d_w1 b Z_I)).

    References
    ----------
    ANSI/AGMA 2101-D04, 5.1.
    """
    return as_float(Z_E) * np.sqrt(as_float(F_t) * K / (as_float(d_w1) * b * Z_I))


def bending_stress(F_t: Real, K: Real, b: Real, m_t: Real, Y_J: Real) -> Array:
    """Bending stress number.

    Parameters
    ----------
    F_t : Real
        Tangential force at the working pitch circle (N).
    K : Real
        Product of all load factors.
    b : Real
        Face width (mm).
    m_t : Real
        Transverse module (mm).
    Y_J : Real
        Geometry factor for bending.

    Returns
    -------
    Array
        Stress (MPa).

    Notes
    -----
    sigma_F = F_t K/(b m_t Y_J).

    References
    ----------
    ANSI/AGMA 2101-D04, 5.2.
    """
    return as_float(F_t) * K / (as_float(b) * m_t * Y_J)

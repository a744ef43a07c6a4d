"""Root stress and the influences on root strength. ISO 6336-3:2019."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip, where

Y_ST = 2.0
"""Stress correction factor of the reference test gears. ISO 6336-3:2019, 7.4."""

NOTCH_OF_TEST_GEAR = 2.5
"""Notch parameter q_sT of the reference test gears. ISO 6336-3:2019, 13.2."""


def grinding_notch_factor(t_g: Real, rho_g: Real) -> Array:
    """Stress of a grinding notch over that of the fillet without it.

    Parameters
    ----------
    t_g : Real
        Greatest depth of the notch (mm).
    rho_g : Real
        Radius of the notch (mm).

    Returns
    -------
    Array
        Factor, 1 without a notch; NaN for t_g/rho_g above 4, for which it is not stated.

    Notes
    -----
    Y_Sg/Y_S = 1.3/(1.3 - 0.6 sqrt(t_g/rho_g)).

    References
    ----------
    ISO 6336-3:2019, 7.3.

    Examples
    --------
    >>> float(grinding_notch_factor(0.0, 1.0)), round(float(grinding_notch_factor(0.25, 1.0)), 2)
    (1.0, 1.3)
    """
    ratio = as_float(t_g) / as_float(rho_g)
    return as_float(where(ratio <= 4, 1.3 / (1.3 - 0.6 * np.sqrt(np.minimum(ratio, 4))), np.nan))


def helix_factor_root(beta: Real, eps_beta: Real) -> Array:
    """Helix angle factor Y_beta.

    Parameters
    ----------
    beta : Real
        Helix angle at the reference cylinder (rad).
    eps_beta : Real
        Overlap ratio.

    Returns
    -------
    Array
        Y_beta, 1 for spur gears.

    References
    ----------
    ISO 6336-3:2019, 8.
    """
    beta_deg = np.minimum(np.degrees(np.abs(beta)), 30.0)
    share = np.minimum(as_float(eps_beta), 1.0)
    return as_float((1 - share * beta_deg / 120) / np.cos(np.radians(beta_deg)) ** 3)


def rim_factor(s_R: Real, h_t: Real) -> Array:
    """Rim thickness factor Y_B of an external gear.

    Parameters
    ----------
    s_R : Real
        Thickness of the rim (mm).
    h_t : Real
        Tooth depth (mm).

    Returns
    -------
    Array
        Y_B, NaN for s_R/h_t at or below 0.5, which the standard excludes.

    Notes
    -----
    1.6 ln(2.242 h_t/s_R) below 1.2, else 1. `ring_rim_factor` is that of internal gears.

    References
    ----------
    ISO 6336-3:2019, 9.

    Examples
    --------
    >>> float(rim_factor(12.0, 10.0)), round(float(rim_factor(8.0, 10.0)), 3)
    (1.0, 1.649)
    """
    ratio = as_float(s_R) / as_float(h_t)
    thin = 1.6 * np.log(2.242 / np.maximum(ratio, 0.5))
    return where(ratio >= 1.2, 1.0, where(ratio > 0.5, thin, np.nan))


def ring_rim_factor(s_R: Real, m_n: Real) -> Array:
    """Rim thickness factor Y_B of an internal gear.

    Parameters
    ----------
    s_R : Real
        Thickness of the rim (mm).
    m_n : Real
        Normal module (mm).

    Returns
    -------
    Array
        Y_B, NaN for s_R/m_n at or below 1.75, which the standard excludes.

    Notes
    -----
    1.15 ln(8.324 m_n/s_R) below 3.5, else 1.

    References
    ----------
    ISO 6336-3:2019, 9.

    Examples
    --------
    >>> float(ring_rim_factor(12.0, 2.0)), round(float(ring_rim_factor(5.0, 2.0)), 3)
    (1.0, 1.383)
    """
    ratio = as_float(s_R) / as_float(m_n)
    thin = 1.15 * np.log(8.324 / np.maximum(ratio, 1.75))
    return where(ratio >= 3.5, 1.0, where(ratio > 1.75, thin, np.nan))


def deep_tooth_factor(eps_alpha_n: Real, Q: Real) -> Array:
    """Deep tooth factor Y_DT from the virtual contact ratio; below 1 only for fine gears, class 4 and finer.

    Parameters
    ----------
    eps_alpha_n : Real
        Virtual contact ratio.
    Q : Real
        Flank class of ISO 1328-1.

    Returns
    -------
    Array
        Y_DT.

    References
    ----------
    ISO 6336-3:2019, 10.

    Examples
    --------
    >>> [round(float(deep_tooth_factor(e, 4)), 3) for e in (1.9, 2.2, 2.6)], float(deep_tooth_factor(2.2, 6))
    ([1.0, 0.901, 0.7], 1.0)
    """
    deep = clip(2.366 - 0.666 * as_float(eps_alpha_n), 0.7, 1.0)
    return where(as_float(Q) <= 4, deep, 1.0)


def mean_stress_factor(R: Real, M: Real) -> Array:
    """Mean stress influence factor Y_M for teeth bent both ways.

    Parameters
    ----------
    R : Real
        Stress ratio, 0 one way, -1.2 an idler under equal loads.
    M : Real
        Mean stress ratio of the material.

    Returns
    -------
    Array
        Y_M.

    Notes
    -----
    Y_M = 1/(1 - R (1 - M)/(1 + M)).

    References
    ----------
    ISO 6336-3:2019, Annex B.

    Examples
    --------
    >>> float(mean_stress_factor(0.0, 0.4)), round(float(mean_stress_factor(-1.2, 0.4)), 3)
    (1.0, 0.66)
    """
    M = as_float(M)
    return 1 / (1 - as_float(R) * (1 - M) / (1 + M))


def nominal_root_stress(
    F_t: Real, b: Real, m_n: Real, Y_F: Real, Y_S: Real, Y_beta: Real, Y_B: Real, Y_DT: Real = 1.0
) -> Array:
    """Nominal root stress.

    Parameters
    ----------
    F_t : Real
        Nominal tangential force at the reference circle (N).
    b : Real
        Face width (mm).
    m_n : Real
        Normal module (mm).
    Y_F : Real
        Form factor.
    Y_S : Real
        Stress correction factor.
    Y_beta : Real
        Helix angle factor.
    Y_B : Real
        Rim thickness factor.
    Y_DT : Real
        Deep tooth factor.

    Returns
    -------
    Array
        sigma_F0 (MPa).

    Notes
    -----
    sigma_F0 = F_t/(b m_n) Y_F Y_S Y_beta Y_B Y_DT.

    References
    ----------
    ISO 6336-3:2019, 5.
    """
    return as_float(F_t) / (as_float(b) * m_n) * Y_F * Y_S * Y_beta * Y_B * Y_DT


def notch_sensitivity(q_s: Real, rho_slip: Real) -> Array:
    """Relative notch sensitivity factor Y_delta_relT at the reference life, method B.

    Parameters
    ----------
    q_s : Real
        Notch parameter.
    rho_slip : Real
        Slip-layer thickness (mm).

    Returns
    -------
    Array
        Y_delta_relT.

    References
    ----------
    ISO 6336-3:2019, 13.3.

    Examples
    --------
    >>> float(notch_sensitivity(2.5, 0.003))
    1.0
    """
    rho = as_float(rho_slip)

    def gradient(q: Real) -> Array:
        return 0.2 * (1 + 2 * as_float(q))

    return as_float((1 + np.sqrt(rho * gradient(q_s))) / (1 + np.sqrt(rho * gradient(NOTCH_OF_TEST_GEAR))))


def static_notch_sensitivity(Y_S: Real, k: Real, sigma: Real, R_p02: Real, a: Real, b: Real) -> Array:
    """Relative notch sensitivity factor for static strength.

    Parameters
    ----------
    Y_S : Real
        Stress correction factor.
    k : Real
        Coefficient of steels with a yield point, 0 for the other groups.
    sigma : Real
        Stress at which the factor is stated (MPa).
    R_p02 : Real
        Yield strength (MPa).
    a : Real
        Slope for the other groups.
    b : Real
        Constant for the other groups.

    Returns
    -------
    Array
        Y_delta_relT.

    Notes
    -----
    Steels with a yield point: (1 + k (Y_S - 1) q)/(1 + k q) with q = (sigma/R_p02)^(1/4); other groups (k = 0): a Y_S +
    b.

    References
    ----------
    ISO 6336-3:2019, 13.3.2.
    """
    Y_S, k = as_float(Y_S), as_float(k)
    q = where(k > 0, (as_float(sigma) / np.nan_to_num(as_float(R_p02), nan=1.0)) ** 0.25, 0.0)
    return where(k > 0, (1 + k * (Y_S - 1) * q) / (1 + k * q), as_float(a) * Y_S + b)


def surface_factor(Rz: Real, a: Real, b: Real, n: Real, smooth: Real) -> Array:
    """Relative surface factor Y_R_relT from the root roughness; 1 for static strength.

    Parameters
    ----------
    Rz : Real
        Root roughness Rz (um), up to 40.
    a : Real
        Constant of the material group.
    b : Real
        Coefficient of the material group.
    n : Real
        Exponent of the material group.
    smooth : Real
        Factor below 1 um.

    Returns
    -------
    Array
        Y_R_relT.

    Notes
    -----
    a - b (Rz + 1)^n from 1 um on.

    References
    ----------
    ISO 6336-3:2019, 14.3.

    Examples
    --------
    >>> round(float(surface_factor(10.0, 1.674, 0.529, 0.1, 1.12)), 3)
    1.002
    """
    Rz = as_float(Rz)
    return where(Rz < 1, smooth, as_float(a) - as_float(b) * (Rz + 1) ** as_float(n))


def size_factor(m_n: Real, a: Real, b: Real, least: Real) -> Array:
    """Size factor Y_X from the normal module.

    Parameters
    ----------
    m_n : Real
        Normal module (mm).
    a : Real
        Constant of the material group.
    b : Real
        Slope of the material group (1/mm).
    least : Real
        Least factor of the material group.

    Returns
    -------
    Array
        Y_X, 1 up to 5 mm and for static strength.

    Notes
    -----
    Y_X = a - b m_n.

    References
    ----------
    ISO 6336-3:2019, 15.

    Examples
    --------
    >>> round(float(size_factor(10.0, 1.05, 0.01, 0.8)), 3)
    0.95
    """
    return as_float(clip(as_float(a) - as_float(b) * as_float(m_n), least, 1.0))

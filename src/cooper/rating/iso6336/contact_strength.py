"""Influence of lubricant, roughness, hardness and size on pitting strength. ISO 6336-2:2019, 12 to 14."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip, where


def lubricant_factor(sigma_Hlim: Real, nu_40: Real) -> Array:
    """Lubricant factor Z_L at the reference life.

    Parameters
    ----------
    sigma_Hlim : Real
        Allowable contact stress number of the softer gear (MPa).
    nu_40 : Real
        Kinematic viscosity of the oil at 40 degrees C (mm2/s).

    Returns
    -------
    Array
        Z_L.

    Notes
    -----
    C_ZL + 4 (1 - C_ZL)/(1.2 + 134/nu_40)^2, C_ZL = (sigma_Hlim - 850)/350 0.08 + 0.83, sigma_Hlim within 850 to 1200.

    References
    ----------
    ISO 6336-2:2019, 12.

    Examples
    --------
    >>> round(float(lubricant_factor(1500, 220)), 3)
    1.02
    """
    C_ZL = clip((as_float(sigma_Hlim) - 850) / 350 * 0.08 + 0.83, 0.83, 0.91)
    return C_ZL + 4 * (1 - C_ZL) / (1.2 + 134 / as_float(nu_40)) ** 2


def velocity_factor(sigma_Hlim: Real, v: Real) -> Array:
    """Velocity factor Z_V at the reference life.

    Parameters
    ----------
    sigma_Hlim : Real
        Allowable contact stress number of the softer gear (MPa).
    v : Real
        Circumferential speed (m/s), above 0.

    Returns
    -------
    Array
        Z_V.

    Notes
    -----
    C_ZV + 2 (1 - C_ZV)/sqrt(0.8 + 32/v), C_ZV = C_ZL + 0.02.

    References
    ----------
    ISO 6336-2:2019, 12.

    Examples
    --------
    >>> round(float(velocity_factor(1500, 10)), 3)
    1.0
    """
    C_ZV = clip((as_float(sigma_Hlim) - 850) / 350 * 0.08 + 0.85, 0.85, 0.93)
    return C_ZV + 2 * (1 - C_ZV) / np.sqrt(0.8 + 32 / as_float(v))


def reduced_radius(d_b1: Real, d_b2: Real, alpha_wt: Real, beta_b: Real = 0.0) -> Array:
    """Radius of relative curvature at the pitch point in the normal section.

    Parameters
    ----------
    d_b1 : Real
        Base diameter of gear 1 (mm).
    d_b2 : Real
        Base diameter of gear 2 (mm), negative for an internal gear.
    alpha_wt : Real
        Transverse working pressure angle (rad).
    beta_b : Real
        Base helix angle (rad).

    Returns
    -------
    Array
        Radius (mm).

    References
    ----------
    ISO 6336-2:2019, 12.
    """
    rho_1 = as_float(d_b1) / 2 * np.tan(alpha_wt)
    rho_2 = as_float(d_b2) / 2 * np.tan(alpha_wt)
    return rho_1 * rho_2 / (rho_1 + rho_2) / np.cos(beta_b)


def roughness_factor(sigma_Hlim: Real, Rz_1: Real, Rz_2: Real, rho_red: Real) -> Array:
    """Roughness factor Z_R from the mean flank roughness brought to a 10 mm radius of curvature.

    Parameters
    ----------
    sigma_Hlim : Real
        Allowable contact stress number of the softer gear (MPa).
    Rz_1 : Real
        Flank roughness Rz of gear 1 (um).
    Rz_2 : Real
        Flank roughness Rz of gear 2 (um).
    rho_red : Real
        Radius of relative curvature at the pitch point, normal section (mm).

    Returns
    -------
    Array
        Z_R.

    References
    ----------
    ISO 6336-2:2019, 12.

    Examples
    --------
    >>> round(float(roughness_factor(1500, 3.0, 3.0, 10.0)), 3)
    1.0
    """
    C_ZR = clip(0.32 - 0.0002 * as_float(sigma_Hlim), 0.08, 0.15)
    Rz_10 = (as_float(Rz_1) + Rz_2) / 2 * np.cbrt(10 / as_float(rho_red))
    return (3 / Rz_10) ** C_ZR


def equivalent_roughness(Rz_hard: Real, Rz_soft: Real, rho_red: Real, nu_40: Real, v: Real) -> Array:
    """Equivalent roughness R_zH of the hard gear for work hardening, kept within 3 to 16 um.

    Parameters
    ----------
    Rz_hard : Real
        Flank roughness Rz of the harder gear (um).
    Rz_soft : Real
        Flank roughness Rz of the softer gear (um).
    rho_red : Real
        Radius of relative curvature at the pitch point, normal section (mm).
    nu_40 : Real
        Kinematic viscosity of the oil at 40 degrees C (mm2/s).
    v : Real
        Circumferential speed (m/s).

    Returns
    -------
    Array
        R_zH (um).

    References
    ----------
    ISO 6336-2:2019, 13.
    """
    Rz_hard, v = as_float(Rz_hard), as_float(v)
    speed = as_float(nu_40) * v / 1500
    value = Rz_hard * (10 / as_float(rho_red)) ** 0.33 * (Rz_hard / Rz_soft) ** 0.66 / speed**0.33
    return clip(value, 3.0, 16.0)


def work_hardening_factor(
    HB_soft: Real,
    HB_hard: Real,
    hard_is_surface_hardened: Real,
    R_zH: Real,
    u: Real,
) -> Array:
    """Work hardening factor Z_W of the softer, through-hardened gear at the reference life.

    Parameters
    ----------
    HB_soft : Real
        Brinell hardness of the softer gear.
    HB_hard : Real
        Brinell hardness of the harder gear, NaN for a surface-hardened one.
    hard_is_surface_hardened : Real
        1 where the mate is surface hardened, else 0.
    R_zH : Real
        Equivalent roughness of the hard gear (um).
    u : Real
        Gear ratio z_2/z_1, negative for an internal wheel.

    Returns
    -------
    Array
        Z_W; the harder gear has 1.

    Notes
    -----
    Two cases: the mate is surface hardened, or both are through hardened with a hardness ratio of 1.2 to 1.7 (u up to
    20).

    References
    ----------
    ISO 6336-2:2019, 13.

    Examples
    --------
    >>> round(float(work_hardening_factor(280.0, float("nan"), 1.0, 3.0, 3.0)), 3)
    1.112
    """
    HB_soft, HB_hard = as_float(HB_soft), as_float(HB_hard)
    u = np.minimum(as_float(u), 20.0)
    peening = clip(1.2 - (HB_soft - 130) / 1700, 1.0, 1.2) * (3 / as_float(R_zH)) ** 0.15
    ratio = HB_hard / HB_soft
    A = where(ratio < 1.2, 0.0, where(ratio > 1.7, 0.00698, 0.00898 * ratio - 0.00829))
    both = 1 + np.nan_to_num(A) * (u - 1)
    return where(np.asarray(hard_is_surface_hardened, dtype=bool), peening, both)


Z_X = 1.0
"""Size factor of the flank: 1 for steels with an adequate case depth and for through-hardened ones. ISO 6336-2:2019,
14."""


def static_work_hardening_factor(HB_soft: Real) -> Array:
    """Z_W for static strength against a surface-hardened mate: 1.05 to 1.

    Parameters
    ----------
    HB_soft : Real
        Brinell hardness of the softer gear.

    Returns
    -------
    Array
        Z_W.

    References
    ----------
    ISO 6336-2:2019, 13.
    """
    return clip(1.05 - (as_float(HB_soft) - 130) / 6800, 1.0, 1.05)

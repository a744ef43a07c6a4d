"""Mesh stiffness. ISO 6336-1:2019, 9 (method B)."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip, where

STEEL = 206000.0
"""Modulus of elasticity of the steel gears that the formula was made for; MPa."""
C_M = 0.8
"""Correction of the theoretical stiffness of solid discs by measurement."""
LEAST_LINE_LOAD = 100.0
"""Line load K_A F_t / b (N/mm) below which the stiffness falls with its fourth root."""


def single_stiffness(
    z_n1: Real,
    z_n2: Real,
    x_1: Real,
    x_2: Real,
    h_fP: Real,
    alpha_n: Real,
    beta: Real,
    line_load: Real,
    E_1: Real,
    E_2: Real,
) -> Array:
    """Greatest stiffness c' of one pair of teeth.

    Parameters
    ----------
    z_n1 : Real
        Virtual tooth count of gear 1.
    z_n2 : Real
        Virtual tooth count of gear 2; that of an internal gear is negative, its terms vanish.
    x_1 : Real
        Profile shift coefficient of gear 1.
    x_2 : Real
        Profile shift coefficient of gear 2.
    h_fP : Real
        Dedendum factor of the basic rack, mean of both gears.
    alpha_n : Real
        Normal pressure angle (rad).
    beta : Real
        Helix angle at the reference cylinder (rad).
    line_load : Real
        Line load F_t K_A/b (N/mm).
    E_1 : Real
        Modulus of elasticity of gear 1 (MPa).
    E_2 : Real
        Modulus of elasticity of gear 2 (MPa).

    Returns
    -------
    Array
        c' (N/(mm um)), of solid discs; else times `blank_factor`.

    Notes
    -----
    Stated for -0.5 <= x_1 + x_2 <= 2.

    References
    ----------
    ISO 6336-1:2019, 9.

    Examples
    --------
    >>> round(float(single_stiffness(20, 40, 0.0, 0.0, 1.25, np.radians(20), 0.0, 200.0, 206e3, 206e3)), 2)
    12.69
    """
    n_1, n_2 = (where(as_float(z) > 0, 1 / as_float(z), 0.0) for z in (z_n1, z_n2))
    x_1, x_2 = as_float(x_1), as_float(x_2)
    q = (
        0.04723
        + 0.15551 * n_1
        + 0.25791 * n_2
        - 0.00635 * x_1
        - 0.11654 * x_1 * n_1
        - 0.00193 * x_2
        - 0.24188 * x_2 * n_2
    )
    q = q + 0.00529 * x_1**2 + 0.00182 * x_2**2
    C_B = (1 + 0.5 * (1.2 - as_float(h_fP))) * (1 - 0.02 * (20 - np.degrees(alpha_n)))
    mean = 2 * as_float(E_1) * E_2 / (as_float(E_1) + E_2) / STEEL
    light = np.minimum(as_float(line_load) / LEAST_LINE_LOAD, 1.0) ** 0.25
    return C_M * C_B * np.cos(beta) * mean * light / q


def blank_factor(b_s: Real, b: Real, s_R: Real, m_n: Real) -> Array:
    """Gear blank factor C_R of a wheel with rim and web.

    Parameters
    ----------
    b_s : Real
        Width of the web (mm); b_s/b counts within 0.2 to 1.2.
    b : Real
        Face width (mm).
    s_R : Real
        Thickness of the rim (mm); s_R/m_n counts from 1 on.
    m_n : Real
        Normal module (mm).

    Returns
    -------
    Array
        C_R.

    Notes
    -----
    C_R = 1 + ln(b_s/b)/(5 e^(s_R/(5 m_n))).

    References
    ----------
    ISO 6336-1:2019, 9.

    Examples
    --------
    >>> round(float(blank_factor(10.0, 40.0, 9.0, 3.0)), 4), float(blank_factor(40.0, 40.0, 9.0, 3.0))
    (0.8478, 1.0)
    """
    share = clip(as_float(b_s) / as_float(b), 0.2, 1.2)
    rim = np.maximum(as_float(s_R) / as_float(m_n), 1.0)
    return as_float(1 + np.log(share) / (5 * np.exp(rim / 5)))


def mesh_stiffness(c: Real, eps_alpha: Real) -> tuple[Array, Array]:
    """Mean mesh stiffness.

    Parameters
    ----------
    c : Real
        Single stiffness c' (N/(mm um)).
    eps_alpha : Real
        Transverse contact ratio.

    Returns
    -------
    tuple[Array, Array]
        c_gamma_alpha (for K_V and K_Halpha) and c_gamma_beta (for K_Hbeta), N/(mm um).

    Notes
    -----
    c_gamma_alpha = c' (0.75 eps_alpha + 0.25), c_gamma_beta = 0.85 of it; stated for eps_alpha from 1.2 on.

    References
    ----------
    ISO 6336-1:2019, 9.

    Examples
    --------
    >>> [round(float(c), 3) for c in mesh_stiffness(14.0, 1.6)]
    [20.3, 17.255]
    """
    c_gamma = as_float(c) * (0.75 * as_float(eps_alpha) + 0.25)
    return c_gamma, 0.85 * c_gamma

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
    """Greatest stiffness c' of one pair of teeth in N/(mm um).

    ``z_n`` virtual tooth counts, that of an internal gear negative (its terms vanish), ``h_fP`` dedendum factor of the
    basic rack (mean of both gears), ``line_load`` K_A F_t/b (N/mm), ``E`` moduli (MPa). Solid discs; else times
    `blank_factor`. Stated for -0.5 <= x_1 + x_2 <= 2.

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
    """Gear blank factor C_R = 1 + ln(b_s/b)/(5 e^(s_R/(5 m_n))) of a wheel with rim and web.

    ``b_s`` width of the web, ``b`` face width, ``s_R`` thickness of the rim (mm); b_s/b counts within 0.2 to 1.2,
    s_R/m_n from 1 on. ISO 6336-1:2019, 9.

    >>> round(float(blank_factor(10.0, 40.0, 9.0, 3.0)), 4), float(blank_factor(40.0, 40.0, 9.0, 3.0))
    (0.8478, 1.0)
    """
    share = clip(as_float(b_s) / as_float(b), 0.2, 1.2)
    rim = np.maximum(as_float(s_R) / as_float(m_n), 1.0)
    return as_float(1 + np.log(share) / (5 * np.exp(rim / 5)))


def mesh_stiffness(c: Real, eps_alpha: Real) -> tuple[Array, Array]:
    """Mean mesh stiffness c_gamma_alpha (for K_V, K_Halpha) and c_gamma_beta (for K_Hbeta); N/(mm um).

    Stated for eps_alpha from 1.2 on.

    >>> [round(float(c), 3) for c in mesh_stiffness(14.0, 1.6)]
    [20.3, 17.255]
    """
    c_gamma = as_float(c) * (0.75 * as_float(eps_alpha) + 0.25)
    return c_gamma, 0.85 * c_gamma

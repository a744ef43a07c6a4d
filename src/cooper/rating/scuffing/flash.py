"""Scuffing by the flash temperature. ISO/TS 6336-20:2017, for external and internal, spur and helical gears.

Written from knowledge of the method (Blok's flash temperature); positions are distances g from the pinion's base
tangent point.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float, broadcast, clip, stack, where

LAMBDA, HEAT = 50.0, 3.8
"""Heat conduction (W/(m K)) and heat per volume (N/(mm2 K)) of gear steel."""
B_M = float(np.sqrt(LAMBDA * HEAT))
"""Thermal contact coefficient of steel, sqrt(lambda rho c); N/(mm s^0.5 K)."""
FASTEST = 50.0
"""Pitch line speed (m/s) above which the friction formulas are entered with this value."""
POINTS = 41
"""Points along the path at which the flash temperature is found; the ends of single contact lie beside further ones."""


class Flash(Struct, frozen=True):
    """Temperatures in degrees C: ``theta_fl`` greatest flash temperature, at ``g_max`` (mm); ``theta_flm`` its mean
    over the path, ``theta_M`` bulk, ``theta_B`` greatest contact temperature, ``theta_S`` scuffing temperature; ``S_B``
    safety on the rise over the oil; ``mu_m`` mean friction coefficient."""

    theta_fl: Array
    g_max: Array
    theta_flm: Array
    theta_M: Array
    theta_B: Array
    theta_S: Array
    S_B: Array
    mu_m: Array


def scuffing_temperature(S_FZG: Real, X_L: Real, X_W: Real) -> Array:
    """Scuffing temperature from the oil's failure load stage.

    Parameters
    ----------
    S_FZG : Real
        Failure load stage of the oil, ISO 14635-1, test A/8.3/90.
    X_L : Real
        Lubricant factor of the oil.
    X_W : Real
        Structural factor of the flanks.

    Returns
    -------
    Array
        Temperature (degrees C).

    References
    ----------
    ISO/TS 6336-20, 9.

    Examples
    --------
    >>> round(float(scuffing_temperature(12, 1.0, 1.0)), 1)
    404.0
    """
    return as_float(80 + (0.85 + 1.4 * as_float(X_W)) * as_float(X_L) * as_float(S_FZG) ** 2)


def multiple_mesh_factor(n_p: Real) -> Array:
    """Multiple mesh contact factor X_mp = (1 + n_p)/2 of the bulk temperature.

    Parameters
    ----------
    n_p : Real
        Meshes that warm the gear at once, the greater number of both gears.

    Returns
    -------
    Array
        X_mp.

    References
    ----------
    ISO/TS 6336-20, 6; the same in ISO/TS 6336-21.

    Examples
    --------
    >>> float(multiple_mesh_factor(3))
    2.0
    """
    return (1 + as_float(n_p)) / 2


def friction(w_Bt: Real, v_gs: Real, rho_red: Real, X_L: Real, Ra: Real) -> Array:
    """Mean coefficient of friction of the flash temperature.

    Parameters
    ----------
    w_Bt : Real
        Line load (N/mm).
    v_gs : Real
        Sum of the rolling speeds at the pitch point (m/s).
    rho_red : Real
        Radius of relative curvature (mm).
    X_L : Real
        Lubricant factor.
    Ra : Real
        Mean roughness Ra of both flanks (um).

    Returns
    -------
    Array
        Coefficient of friction.

    References
    ----------
    ISO/TS 6336-20, 7.

    Examples
    --------
    >>> round(float(friction(200.0, 5.0, 10.0, 0.75, 0.5)), 4)
    0.0499
    """
    return as_float(0.060 * (as_float(w_Bt) / (as_float(v_gs) * rho_red)) ** 0.2 * as_float(X_L) * as_float(Ra) ** 0.25)


def load_sharing_factor(
    g: Real, g_A: Real, g_B: Real, g_D: Real, g_E: Real, Q: Real, eps_alpha: Real, eps_beta: Real
) -> Array:
    """Load sharing factor X_Gamma along the path.

    Parameters
    ----------
    g : Real
        Distance from the pinion's base tangent point along the line of action (mm).
    g_A : Real
        Start of the path of contact, from the pinion's base tangent point (mm).
    g_B : Real
        Inner point of single contact at the pinion's root (mm).
    g_D : Real
        Outer point of single contact (mm).
    g_E : Real
        End of the path of contact, from the pinion's base tangent point (mm).
    Q : Real
        Flank class of ISO 1328-1.
    eps_alpha : Real
        Transverse contact ratio.
    eps_beta : Real
        Overlap ratio.

    Returns
    -------
    Array
        X_Gamma.

    Notes
    -----
    Spur gears without relief: from a third (more for classes coarser than 7) at A rising by a third to B, 1 between B
    and D, and the same downwards to E. Helical gears share over 1/eps_alpha, with 1.3 at both ends where teeth begin to
    bear.

    References
    ----------
    ISO/TS 6336-20, 8.
    """
    g = as_float(g)
    start = np.minimum((np.maximum(as_float(Q), 7) - 2) / 15, 2 / 3)
    rise = where(g_B > g_A, (g - g_A) / where(g_B > g_A, g_B - g_A, 1.0), 1.0)
    fall = where(g_E > g_D, (g_E - g) / where(g_E > g_D, g_E - g_D, 1.0), 1.0)
    spur = where(g < g_B, start + rise / 3, where(g > g_D, start + fall / 3, 1.0))
    over = np.minimum(as_float(eps_beta), 1.0)
    ends = 0.1 * (as_float(g_E) - g_A)
    near = clip(1 - np.minimum(g - g_A, g_E - g) / ends, 0, 1)
    helical = (1 + 0.3 * over * near) / as_float(eps_alpha)
    return as_float(clip((1 - over) * np.minimum(spur, 1.0) + over * helical, 0, 1))


def flash_temperature(
    mu: Real,
    w_n: Real,
    g: Real,
    T2: Real,
    u: Real,
    omega_1: Real,
    beta_b: Real,
    E_1: Real,
    E_2: Real,
    nu_1: Real,
    nu_2: Real,
) -> Array:
    """Blok's flash temperature.

    Parameters
    ----------
    mu : Real
        Coefficient of friction.
    w_n : Real
        Line load normal to the flank (N/mm).
    g : Real
        Distance from the pinion's base tangent point along the line of action (mm).
    T2 : Real
        Distance between both base tangent points on the line of action (mm), negative for an internal wheel.
    u : Real
        Gear ratio z_2/z_1, negative for an internal wheel.
    omega_1 : Real
        Angular speed of the pinion (rad/s).
    beta_b : Real
        Base helix angle (rad).
    E_1 : Real
        Modulus of elasticity of gear 1 (MPa).
    E_2 : Real
        Modulus of elasticity of gear 2 (MPa).
    nu_1 : Real
        Poisson's ratio of gear 1.
    nu_2 : Real
        Poisson's ratio of gear 2.

    Returns
    -------
    Array
        Rise (K).

    Notes
    -----
    1.11 mu w |v_1 - v_2| / (sqrt(2 b_H) B_M (sqrt(v_1) + sqrt(v_2))).

    References
    ----------
    ISO/TS 6336-20, 5.
    """
    g = as_float(g)
    rho_1, rho_2 = g, as_float(T2) - g
    rho = rho_1 * rho_2 / (rho_1 + rho_2) / np.cos(beta_b)
    softness = (1 - as_float(nu_1) ** 2) / E_1 + (1 - as_float(nu_2) ** 2) / E_2
    half = np.sqrt(4 * as_float(w_n) * rho * softness / np.pi)
    v_1 = as_float(omega_1) * rho_1
    v_2 = np.abs(as_float(omega_1) / u) * np.abs(rho_2)
    return as_float(
        1.11 * as_float(mu) * w_n * np.abs(v_1 - v_2) / (np.sqrt(2 * half) * B_M * (np.sqrt(v_1) + np.sqrt(v_2)))
    )


def flash(
    path: tuple[Array, Array, Array, Array, Array],
    T2: Real,
    u: Real,
    omega_1: Real,
    w_Bt: Real,
    rho_red: Real,
    alpha_t: Real,
    alpha_wt: Real,
    v: Real,
    beta_b: Real,
    eps: tuple[Real, Real],
    material: tuple[Real, Real, Real, Real],
    Q: Real,
    Ra: Real,
    eta_oil: Real,
    X_L: Real,
    X_W: Real,
    X_S: Real,
    S_FZG: Real,
    theta_oil: Real,
    n_p: Real = 1.0,
) -> Flash:
    """The flash temperature method.

    Parameters
    ----------
    path : tuple[Array, Array, Array, Array, Array]
        Distances g of A, B, C, D, E along the line of action (mm).
    T2 : Real
        Distance between both base tangent points on the line of action (mm), negative for an internal wheel.
    u : Real
        Gear ratio z_2/z_1, negative for an internal wheel.
    omega_1 : Real
        Angular speed of the pinion (rad/s).
    w_Bt : Real
        Tangential line load with all load factors (N/mm).
    rho_red : Real
        Radius of relative curvature at the pitch point, normal section (mm).
    alpha_t : Real
        Transverse pressure angle (rad).
    alpha_wt : Real
        Transverse working pressure angle (rad).
    v : Real
        Pitch line speed (m/s).
    beta_b : Real
        Base helix angle (rad).
    eps : tuple[Real, Real]
        Transverse contact ratio and overlap ratio.
    material : tuple[Real, Real, Real, Real]
        Moduli (MPa) and Poisson's ratios of both gears: E_1, nu_1, E_2, nu_2.
    Q : Real
        Flank class of ISO 1328-1.
    Ra : Real
        Mean roughness Ra of both flanks (um).
    eta_oil : Real
        Dynamic viscosity at the oil temperature (mPa s).
    X_L : Real
        Lubricant factor.
    X_W : Real
        Structural factor of the flanks.
    X_S : Real
        Lubrication factor: 1.2 spray, 1 dip, 0.2 submerged.
    S_FZG : Real
        Failure load stage of the oil, ISO 14635-1, test A/8.3/90.
    theta_oil : Real
        Oil temperature (degrees C).
    n_p : Real
        Meshes that warm the gear at once, the greater number of both gears.

    Returns
    -------
    Flash
        Temperatures along the path, and the safety.

    References
    ----------
    ISO/TS 6336-20:2017.
    """
    g_A, g_B, _, g_D, g_E = path
    v_sum = 2 * np.minimum(as_float(v), FASTEST) * np.sin(alpha_wt)
    mu = friction(w_Bt, v_sum, rho_red, as_float(X_L) * (as_float(eta_oil) / 10) ** -0.05, Ra)
    share = stack(np.linspace(0, 1, POINTS), g_A, w_Bt)
    even = broadcast(g_A + (g_E - g_A) * share, w_Bt)
    # Right at the ends of single contact the whole load falls on one pair.
    seams = np.stack([broadcast(clip(g, g_A, g_E), w_Bt) for g in (g_B, g_D)])
    g = np.concatenate((even, seams))
    sharing = load_sharing_factor(g, g_A, g_B, g_D, g_E, Q, eps[0], eps[1])
    E_1, nu_1, E_2, nu_2 = material
    rise = flash_temperature(
        mu, sharing * w_Bt / (np.cos(alpha_t) * np.cos(beta_b)), g, T2, u, omega_1, beta_b, E_1, E_2, nu_1, nu_2
    )
    rise = np.nan_to_num(rise)
    at = np.argmax(rise, axis=0)[None]
    top = np.take_along_axis(rise, at, 0)[0]
    mean = np.mean(rise[:POINTS], axis=0)
    theta_M = as_float(theta_oil) + 0.47 * as_float(X_S) * multiple_mesh_factor(n_p) * mean
    theta_S = scuffing_temperature(S_FZG, X_L, X_W)
    theta_B = theta_M + top
    return Flash(
        top,
        np.take_along_axis(g, at, 0)[0],
        mean,
        theta_M,
        theta_B,
        theta_S,
        (theta_S - theta_oil) / (theta_B - theta_oil),
        mu,
    )

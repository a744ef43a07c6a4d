"""Scuffing by the integral temperature. ISO/TS 6336-21:2017, written from knowledge of the method."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float, clip, where
from cooper.rating.scuffing.flash import B_M, FASTEST, multiple_mesh_factor

LEAST_LINE_LOAD = 150.0
"""Line load (N/mm) below which the friction formula is entered with this value."""
COARSEST_RELIEVED = 6
"""Flank class up to which tip relief, the one of running-in too, is counted on. ISO/TS 6336-21, 6."""
C_1, C_2 = 0.7, 1.5
"""Weights of the mean flash temperature in the bulk and in the integral temperature. ISO/TS 6336-21, 5."""


class Integral(Struct, frozen=True):
    """``theta_flaint`` mean flash temperature, ``theta_Mi`` bulk, ``theta_int`` integral, ``theta_Sint`` scuffing
    integral temperature (degrees C), ``S_int`` safety, ``mu_mC`` friction coefficient, ``X_eps`` contact ratio
    factor."""

    theta_flaint: Array
    theta_Mi: Array
    theta_int: Array
    theta_Sint: Array
    S_int: Array
    mu_mC: Array
    X_eps: Array


def contact_ratio_factor(eps_alpha: Real, eps_1: Real, eps_2: Real) -> Array:
    """Contact ratio factor X_eps, from the flash temperature at the pinion's tip to the mean over the path.

    Parameters
    ----------
    eps_alpha : Real
        Transverse contact ratio.
    eps_1 : Real
        Tip contact ratio of the pinion.
    eps_2 : Real
        Tip contact ratio of the wheel.

    Returns
    -------
    Array
        X_eps.

    References
    ----------
    ISO/TS 6336-21, 6.

    Examples
    --------
    >>> round(float(contact_ratio_factor(1.6, 0.8, 0.8)), 4)
    0.2656
    """
    e, a, b = (as_float(v) for v in (eps_alpha, eps_1, eps_2))
    single = 0.70 * (a**2 + b**2) - 0.22 * e + 0.52 - 0.60 * a * b
    first = 0.18 * a**2 + 0.70 * b**2 + 0.82 * a - 0.52 * b - 0.30 * a * b
    second = 0.70 * a**2 + 0.18 * b**2 - 0.52 * a + 0.82 * b - 0.30 * a * b
    more_a = 0.44 * a**2 + 0.59 * b**2 + 0.30 * a - 0.30 * b - 0.15 * a * b
    more_b = 0.59 * a**2 + 0.44 * b**2 - 0.30 * a + 0.30 * b - 0.15 * a * b
    below = where((a < 1) & (b < 1), single, where(a >= 1, first, second))
    return as_float(where(e < 2, below, where(a >= b, more_a, more_b)) / (2 * e * a))


def helical_load_factor(eps_gamma: Real) -> Array:
    """Helical load factor K_Bgamma.

    Parameters
    ----------
    eps_gamma : Real
        Total contact ratio.

    Returns
    -------
    Array
        K_Bgamma.

    References
    ----------
    ISO/TS 6336-21, 6.

    Examples
    --------
    >>> [round(float(helical_load_factor(e)), 3) for e in (1.8, 2.5, 4.0)]
    [1.0, 1.224, 1.3]
    """
    e = as_float(eps_gamma)
    return where(e <= 2, 1.0, where(e < 3.5, 1 + 0.2 * np.sqrt(np.maximum((e - 2) * (5 - e), 0)), 1.3))


def running_in_factor(phi_E: Real, Ra: Real, rho_red: Real) -> Array:
    """Running-in factor X_E = 1 + (1 - phi_E) 30 Ra/rho_red.

    Parameters
    ----------
    phi_E : Real
        1 for flanks that are run in to 0 for new ones.
    Ra : Real
        Mean roughness (um).
    rho_red : Real
        Radius of relative curvature at the pitch point, normal section (mm).

    Returns
    -------
    Array
        X_E.

    References
    ----------
    ISO/TS 6336-21, 6.

    Examples
    --------
    >>> float(running_in_factor(1.0, 0.5, 10.0)), float(running_in_factor(0.0, 0.5, 10.0))
    (1.0, 2.5)
    """
    return as_float(1 + (1 - as_float(phi_E)) * 30 * as_float(Ra) / as_float(rho_red))


def scuffing_integral_temperature(S_FZG: Real, X_L: Real, X_W: Real, nu_40: Real) -> Array:
    """Scuffing integral temperature from the oil's failure load stage and its viscosity.

    Parameters
    ----------
    S_FZG : Real
        Failure load stage of the oil, ISO 14635-1, test A/8.3/90.
    X_L : Real
        Lubricant factor.
    X_W : Real
        Structural factor of the flanks.
    nu_40 : Real
        Kinematic viscosity of the oil at 40 degrees C (mm2/s).

    Returns
    -------
    Array
        Temperature (degrees C).

    Notes
    -----
    80 + 0.23 T_1T X_L + X_W C_2 0.2 T_1T X_L (100/nu_40)^0.02, T_1T = 3.726 S_FZG^2. The exponent 0.02 from knowledge,
    not sure.

    References
    ----------
    ISO/TS 6336-21, 7.

    Examples
    --------
    >>> [round(float(scuffing_integral_temperature(12, 1.0, 1.0, nu)), 1) for nu in (100.0, 220.0)]
    [364.4, 361.8]
    """
    T_1T = 3.726 * as_float(S_FZG) ** 2
    X_L = as_float(X_L)
    return 80 + 0.23 * T_1T * X_L + as_float(X_W) * C_2 * 0.2 * T_1T * X_L * (100 / as_float(nu_40)) ** 0.02


def integral(
    T2: Real,
    g_E: Real,
    u: Real,
    a_w: Real,
    v: Real,
    w_Bt: Real,
    rho_red: Real,
    alpha: tuple[Real, Real, Real],
    beta: Real,
    eps: tuple[Real, Real, Real, Real],
    eta_oil: Real,
    Ra: Real,
    X_L: Real,
    X_W: Real,
    X_S: Real,
    S_FZG: Real,
    theta_oil: Real,
    E_r: Real,
    C_a_share: Real,
    driving: Real,
    Q: Real = 6.0,
    n_p: Real = 1.0,
    phi_E: Real = 1.0,
    *,
    nu_40: Real,
) -> Integral:
    """The integral temperature method.

    Parameters
    ----------
    T2 : Real
        Distance between both base tangent points on the line of action (mm), negative for an internal wheel.
    g_E : Real
        End of the path at the pinion's tip, from the pinion's base tangent point (mm).
    u : Real
        Gear ratio z_2/z_1, negative for an internal wheel.
    a_w : Real
        Working centre distance (mm).
    v : Real
        Pitch line speed (m/s).
    w_Bt : Real
        Line load with all load factors (N/mm).
    rho_red : Real
        Radius of relative curvature at the pitch point, normal section (mm).
    alpha : tuple[Real, Real, Real]
        Angles alpha_wt, alpha_t, alpha_n (rad).
    beta : Real
        Helix angle at the reference cylinder (rad).
    eps : tuple[Real, Real, Real, Real]
        Transverse contact ratio, tip contact ratios of pinion and wheel, total contact ratio.
    eta_oil : Real
        Dynamic viscosity at the oil temperature (mPa s).
    Ra : Real
        Mean roughness Ra of both flanks (um).
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
    E_r : Real
        Reduced modulus 2/sum((1 - nu^2)/E) (MPa).
    C_a_share : Real
        Tip relief over the one that the load asks for, 0 none, at most 1; counts for flank class 6 and finer.
    driving : Real
        True where the pinion drives.
    Q : Real
        Flank class of ISO 1328-1.
    n_p : Real
        Meshes that warm the gear at once, the greater number of both gears.
    phi_E : Real
        1 for flanks that are run in to 0 for new ones.
    nu_40 : Real
        Kinematic viscosity of the oil at 40 degrees C (mm2/s).

    Returns
    -------
    Integral
        Temperatures and the safety.

    References
    ----------
    ISO/TS 6336-21:2017.
    """
    alpha_wt, alpha_t, alpha_n = (as_float(a) for a in alpha)
    eps_alpha, eps_1, eps_2, eps_gamma = (as_float(e) for e in eps)
    u, rho_red = as_float(u), as_float(rho_red)
    load = as_float(w_Bt) * helical_load_factor(eps_gamma)
    v_sum = 2 * np.minimum(as_float(v), FASTEST) * np.sin(alpha_wt)
    X_R = 2.2 * (as_float(Ra) / rho_red) ** 0.25
    mu = (
        0.045
        * (np.maximum(load, LEAST_LINE_LOAD) / (v_sum * rho_red)) ** 0.2
        * as_float(eta_oil) ** -0.05
        * X_R
        * as_float(X_L)
    )
    rho_1, rho_2 = as_float(g_E), np.maximum(np.abs(as_float(T2) - g_E), 1e-9)
    size = np.abs(u)
    X_BE = (
        0.51 * np.sqrt(np.sign(u) * (u + 1)) * np.abs(np.sqrt(rho_1) - np.sqrt(rho_2 / size)) / (rho_1 * rho_2) ** 0.25
    )
    # B_M with lengths in mm, the speed in m/s.
    X_M = np.sqrt(1000.0) * as_float(E_r) ** 0.25 / B_M
    X_ab = (
        1.22 * (np.sin(alpha_wt) * np.cos(alpha_n) * np.cos(beta)) ** 0.25 / np.sqrt(np.cos(alpha_wt) * np.cos(alpha_t))
    )
    first, last = where(driving, eps_2, eps_1), where(driving, eps_1, eps_2)
    ratio = first / last
    X_Q = where(ratio <= 1.5, 1.0, where(ratio < 3, 1.4 - 4 / 15 * ratio, 0.6))
    most = np.maximum(eps_1, eps_2)
    share = clip(C_a_share, 0, 1)
    relieved = 1 + (0.06 + 0.18 * share) * most + (0.02 + 0.69 * share) * most**2
    X_Ca = where(as_float(Q) <= COARSEST_RELIEVED, relieved, 1.0)
    theta_E = mu * X_M * X_BE * X_ab * load**0.75 * np.sqrt(v) / np.abs(as_float(a_w)) ** 0.25 / (X_Q * X_Ca)
    theta_E = theta_E * running_in_factor(phi_E, Ra, rho_red)
    X_eps = contact_ratio_factor(eps_alpha, eps_1, eps_2)
    mean = theta_E * X_eps
    bulk = as_float(theta_oil) + C_1 * as_float(X_S) * multiple_mesh_factor(n_p) * mean
    theta_int = bulk + C_2 * mean
    theta_S = scuffing_integral_temperature(S_FZG, X_L, X_W, nu_40)
    return Integral(mean, bulk, theta_int, theta_S, theta_S / theta_int, mu, X_eps)

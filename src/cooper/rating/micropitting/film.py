"""Micropitting by the specific film thickness, method B. ISO/TS 6336-22:2018, written from knowledge of the method.

Positions are distances g from the base tangent point of gear 1, in the transverse section, as along the path of
contact.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float
from cooper.rating.contact_points import contact_points, curvature, local_pressure

B_M = float(np.sqrt(45.0 * 7800.0 * 440.0))
"""Thermal contact coefficient of gear steel, sqrt(lambda rho c); N/(m^0.5 s^0.5 K). ISO/TS 6336-22, 6."""
OILS = {"mineral": (2.657e-8, 0.1348), "polyalphaolefin": (1.466e-8, 0.0507), "polyglycol": (1.392e-8, 0.1572)}
"""Pressure-viscosity coefficient at 38 degrees C, factor and exponent of the viscosity there (N s/m2). ISO/TS
6336-22, 6."""
TEST_FACTOR = 1.4
"""Permissible film of a gear over that at which the test gear failed. ISO/TS 6336-22, 5."""


class Oil(Struct, frozen=True):
    """An oil: its dynamic viscosity (N s/m2) over temperature (degrees C), kind as in `OILS`, lubricant factor of
    friction."""

    viscosity: Callable[[Real], Array]
    kind: str
    X_L: Real


class Film(Struct, frozen=True):
    """Over the places ``g`` (mm) of the path, the first axis: ``lambda_GF`` specific film thickness, ``h`` film
    (um), ``p`` local pressure (MPa), ``theta_fl`` flash temperature (K). ``mu_m`` mean friction, ``theta_M`` bulk
    temperature (degrees C)."""

    g: Array
    lambda_GF: Array
    h: Array
    p: Array
    theta_fl: Array
    mu_m: Array
    theta_M: Array


def pressure_viscosity(kind: str, eta_38: Real, theta: Real) -> Array:
    """Pressure-viscosity coefficient at a temperature.

    Parameters
    ----------
    kind : str
        Kind of the oil.
    eta_38 : Real
        Dynamic viscosity at 38 degrees C (N s/m2).
    theta : Real
        Temperature (degrees C).

    Returns
    -------
    Array
        Coefficient (m2/N).

    References
    ----------
    ISO/TS 6336-22:2018.

    Examples
    --------
    >>> round(float(pressure_viscosity("mineral", 0.2, 38.0)) * 1e8, 3)
    2.139
    """
    factor, exponent = OILS[kind]
    warmth = 1 + 516 * (1 / (as_float(theta) + 273) - 1 / 311)
    return as_float(factor * as_float(eta_38) ** exponent * warmth)


def mean_friction(w_bt: Real, v_sum: Real, rho_n: Real, eta_oil: Real, Ra: Real, X_L: Real) -> Array:
    """Mean coefficient of friction.

    Parameters
    ----------
    w_bt : Real
        Line load at the base circle with all load factors (N/mm).
    v_sum : Real
        Sum of the rolling speeds at the pitch point (m/s).
    rho_n : Real
        Radius of relative curvature at the pitch point, normal section (mm).
    eta_oil : Real
        Dynamic viscosity at the oil temperature (N s/m2).
    Ra : Real
        Mean roughness Ra of both flanks (um).
    X_L : Real
        Lubricant factor.

    Returns
    -------
    Array
        Coefficient of friction.

    References
    ----------
    ISO/TS 6336-22, 6.

    Examples
    --------
    >>> round(float(mean_friction(300.0, 5.0, 10.0, 0.02, 0.5, 1.0)), 4)
    0.0577
    """
    rough = 2.2 * (as_float(Ra) / as_float(rho_n)) ** 0.25
    film = (as_float(w_bt) / (as_float(v_sum) * rho_n)) ** 0.2 * (1000 * as_float(eta_oil)) ** -0.05
    return as_float(0.045 * film * rough * as_float(X_L))


def bulk_rise(P: Real, H_V: Real, mu_m: Real, a_w: Real, b: Real, X_S: Real) -> Array:
    """Rise of the bulk temperature over the oil.

    Parameters
    ----------
    P : Real
        Power of the mesh (kW).
    H_V : Real
        Tooth loss factor.
    mu_m : Real
        Mean coefficient of friction.
    a_w : Real
        Working centre distance (mm).
    b : Real
        Face width (mm).
    X_S : Real
        Lubrication factor: 1.2 spray, 1 dip, 0.2 submerged.

    Returns
    -------
    Array
        Rise (K).

    Notes
    -----
    7400 (P H_V mu_m/(a b))^0.72 X_S/1.2 without tip relief.

    References
    ----------
    ISO/TS 6336-22, 6.

    Examples
    --------
    >>> round(float(bulk_rise(60.0, 0.15, 0.06, 100.0, 20.0, 1.0)), 2)
    16.62
    """
    lost = as_float(P) * as_float(H_V) * mu_m / (np.abs(a_w) * as_float(b))
    return as_float(7400 * lost**0.72 * as_float(X_S) / 1.2)


def local_flash(mu_m: Real, p: Real, v_1: Real, v_2: Real, rho_n: Real, E_r: Real) -> Array:
    """Local flash temperature.

    Parameters
    ----------
    mu_m : Real
        Mean coefficient of friction.
    p : Real
        Pressure (MPa).
    v_1 : Real
        Rolling speed of the pinion (m/s).
    v_2 : Real
        Rolling speed of the wheel (m/s).
    rho_n : Real
        Radius of relative curvature, normal section (mm).
    E_r : Real
        Reduced modulus 2/sum((1 - nu^2)/E) (MPa).

    Returns
    -------
    Array
        Rise (K).

    References
    ----------
    ISO/TS 6336-22, 6.

    Examples
    --------
    >>> round(float(local_flash(0.06, 1000.0, 2.0, 4.0, 8.0, 226374.0)), 2)
    42.14
    """
    slid = np.abs(as_float(v_1) - v_2) / (np.sqrt(v_1) + np.sqrt(v_2)) / B_M
    width = np.sqrt(8 * as_float(rho_n) / 1000 * as_float(p) / as_float(E_r))
    return as_float(np.sqrt(np.pi) / 2 * as_float(mu_m) * as_float(p) * 1e6 * slid * width)


def film_thickness(rho_n: Real, G_M: Real, U: Real, W: Real, S_GF: Real) -> Array:
    """Local lubricant film thickness.

    Parameters
    ----------
    rho_n : Real
        Radius of relative curvature, normal section (mm).
    G_M : Real
        Material parameter.
    U : Real
        Speed parameter.
    W : Real
        Load parameter.
    S_GF : Real
        Sliding parameter.

    Returns
    -------
    Array
        Thickness (um).

    Notes
    -----
    1600 rho_n G_M^0.6 U^0.7 W^-0.13 S_GF^0.22.

    References
    ----------
    ISO/TS 6336-22, 5.

    Examples
    --------
    >>> round(float(film_thickness(10.0, 4000.0, 2e-11, 1e-4, 0.8)), 4)
    0.237
    """
    return as_float(
        1600
        * as_float(rho_n)
        * as_float(G_M) ** 0.6
        * as_float(U) ** 0.7
        * as_float(W) ** -0.13
        * as_float(S_GF) ** 0.22
    )


def film(
    path: tuple[Array, Array, Array, Array, Array],
    T2: Real,
    u: Real,
    omega_1: Real,
    beta_b: Real,
    eps: tuple[Real, Real],
    Q: Real,
    F_bt: Real,
    b: Real,
    K: Real,
    P: Real,
    H_V: Real,
    a_w: Real,
    E_r: Real,
    Ra: Real,
    oil: Oil,
    theta_oil: Real,
    X_S: Real,
) -> Film:
    """The specific film thickness at A, B, C, D, E of the path and midway between A and B, and D and E.

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
    beta_b : Real
        Base helix angle (rad).
    eps : tuple[Real, Real]
        Transverse contact ratio and overlap ratio.
    Q : Real
        Flank class of ISO 1328-1.
    F_bt : Real
        Tangential force at the base circle (N).
    b : Real
        Face width (mm).
    K : Real
        Product of all load factors.
    P : Real
        Power of the mesh (kW).
    H_V : Real
        Tooth loss factor.
    a_w : Real
        Working centre distance (mm).
    E_r : Real
        Reduced modulus 2/sum((1 - nu^2)/E) (MPa).
    Ra : Real
        Mean roughness Ra of both flanks (um).
    oil : Oil
        Viscosity by temperature, kind and lubricant factor of the oil.
    theta_oil : Real
        Oil temperature (degrees C).
    X_S : Real
        Lubrication factor: 1.2 spray, 1 dip, 0.2 submerged.

    Returns
    -------
    Film
        Film, temperatures and friction at the points.

    References
    ----------
    ISO/TS 6336-22:2018, method B.
    """
    g, g_C = contact_points(path), as_float(path[2])
    with np.errstate(divide="ignore", invalid="ignore"):
        p, rho_n = local_pressure(g, path, T2, beta_b, Q, eps, F_bt, b, K, E_r)
        v_1, v_2 = as_float(omega_1) * g / 1000, np.abs(as_float(omega_1) / u * (as_float(T2) - g)) / 1000
        v_C = 2 * as_float(omega_1) * g_C / 1000
        eta_oil = oil.viscosity(theta_oil)
        mu = mean_friction(as_float(K) * F_bt / as_float(b), v_C, curvature(g_C, T2, beta_b), eta_oil, Ra, oil.X_L)
        theta_M = as_float(theta_oil) + bulk_rise(P, H_V, mu, a_w, b, X_S)
        theta_fl = local_flash(mu, p, v_1, v_2, rho_n, E_r)
        eta_38 = oil.viscosity(38.0)
        eta_M, eta_B = oil.viscosity(theta_M), oil.viscosity(theta_M + theta_fl)
        alpha_M, alpha_B = (
            pressure_viscosity(oil.kind, eta_38, theta_M),
            pressure_viscosity(oil.kind, eta_38, theta_M + theta_fl),
        )
        U = eta_M * (v_1 + v_2) / (2000 * as_float(E_r) * rho_n)
        W = 2 * np.pi * (p / as_float(E_r)) ** 2
        h = film_thickness(rho_n, 1e6 * alpha_M * E_r, U, W, alpha_B * eta_B / (alpha_M * eta_M))
    return Film(g, h / as_float(Ra), h, p, theta_fl, mu, theta_M)


TEST_TORQUES = {5: 70.0, 6: 98.9, 7: 132.5, 8: 171.6, 9: 215.6, 10: 265.1}
"""Torque of the test pinion in each load stage of the micropitting test on the 91.5 mm rig; N m."""
TEST_K_V = 1.05
"""Dynamic factor of the test gears; the other load factors are 1."""


def reference_film(stage: int, theta: Real, oil: Oil) -> Array:
    """The least specific film thickness of the test gear in a load stage at an oil temperature.

    Parameters
    ----------
    stage : int
        Load stage.
    theta : Real
        Oil temperature (degrees C).
    oil : Oil
        Viscosity by temperature, kind and lubricant factor of the oil.

    Returns
    -------
    Array
        Specific film thickness.

    Notes
    -----
    Test gear: a = 91.5 mm, m_n = 4.5 mm, z = 16 and 24, b = 14 mm, tip diameters 82.46 and 118.36 mm, Ra 0.5 um, 2250
    1/min, sprayed.

    References
    ----------
    ISO/TS 6336-22, 5 and Annex.

    Examples
    --------
    >>> round(float(reference_film(8, 90.0, Oil(lambda theta: np.asarray(0.023 * np.exp(-0.03 * (theta - 90))), "mineral", 1.0))), 2)
    0.14
    """  # noqa: E501
    a, d_b1, d_b2, d_a1, d_a2 = 91.5, 72 * np.cos(np.radians(20)), 108 * np.cos(np.radians(20)), 82.46, 118.36
    T2 = np.sqrt(a**2 - ((d_b1 + d_b2) / 2) ** 2)
    p_bt = np.pi * 4.5 * np.cos(np.radians(20))
    g_A, g_E, g_C = T2 - np.sqrt(d_a2**2 - d_b2**2) / 2, np.sqrt(d_a1**2 - d_b1**2) / 2, T2 * 16 / 40
    T, omega, E_r = TEST_TORQUES[stage], 2250 * np.pi / 30, 206e3 / 0.91
    eps_1, eps_2 = (g_E - g_C) / p_bt, (g_C - g_A) / p_bt
    # Tooth loss factor of ISO/TR 14179-2, whose closed form holds for these teeth.
    H_V = np.pi * 2.5 / (16 * 1.5) * (1 - eps_1 - eps_2 + eps_1**2 + eps_2**2)
    result = film(
        (g_A, g_E - p_bt, g_C, g_A + p_bt, g_E),
        T2,
        1.5,
        omega,
        0.0,
        ((g_E - g_A) / p_bt, 0.0),
        5,
        2000 * T / d_b1,
        14.0,
        TEST_K_V,
        T * omega / 1000,
        H_V,
        a,
        E_r,
        0.5,
        oil,
        theta,
        1.2,
    )
    return as_float(np.min(result.lambda_GF, axis=0))

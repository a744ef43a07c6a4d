"""Mesh loss by other published friction laws than that of `cooper.running.mesh_loss`."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from cooper.arrays import Array, Real, as_float, broadcast, clip, shape_of, stack, where
from cooper.gears.path_of_contact import pairs_in_contact

POINTS = 48
K_REACH, V_REACH = (1.4, 14.0), (2.0, 25.0)
"""Load intensity (MPa) and pitch line speed (m/s) for which the coefficient of ISO/TR 14179-1 is stated."""


def load_intensity(T_1: Real, b: Real, r_w1: Real, u: Real) -> Array:
    """Load intensity K.

    Parameters
    ----------
    T_1 : Real
        Torque of the pinion (N m).
    b : Real
        Face width (mm).
    r_w1 : Real
        Working pitch radius of the pinion (mm).
    u : Real
        Gear ratio z_2/z_1 with its sign.

    Returns
    -------
    Array
        K (MPa).

    Notes
    -----
    K = 1000 T_1 (u + 1)/(2 b r_w1^2 u).

    References
    ----------
    ISO/TR 14179-1, 4.

    Examples
    --------
    >>> float(load_intensity(100.0, 40.0, 30.0, 2.0))
    2.0833333333333335
    """
    u = as_float(u)
    return as_float(1000 * as_float(T_1) * (1 + 1 / u) / (2 * as_float(b) * as_float(r_w1) ** 2))


def coefficient_1(nu: Real, K: Real, v: Real) -> Array:
    """Mesh coefficient of friction f_m.

    Parameters
    ----------
    nu : Real
        Kinematic viscosity at the oil temperature (mm2/s).
    K : Real
        Load intensity (MPa).
    v : Real
        Pitch line speed (m/s).

    Returns
    -------
    Array
        f_m.

    Notes
    -----
    Entered with 1.4 to 14 MPa and 2 to 25 m/s at most.

    References
    ----------
    ISO/TR 14179-1:2001, 4.

    Examples
    --------
    >>> round(float(coefficient_1(60.0, 3.0, 5.0)), 4)
    0.0259
    """
    K, v = clip(K, *K_REACH), clip(v, *V_REACH)
    return as_float(nu) ** -0.223 * K**-0.40 / (3.239 * v**0.70)


def loss_factor_1(H_s: Real, H_t: Real, alpha_wt: Real, beta_w: Real = 0.0) -> Array:
    """Loss over friction coefficient, cos^2(beta_w)/M with the mesh mechanical advantage M: the mean sliding speed over
    the path with an even load, P = f_m T n cos^2(beta_w)/(9549 M).

    Parameters
    ----------
    H_s : Real
        Sliding over pitch line speed at the start of approach.
    H_t : Real
        Sliding over pitch line speed at the end of recess.
    alpha_wt : Real
        Transverse working pressure angle (rad).
    beta_w : Real
        Helix angle at the working cylinder (rad).

    Returns
    -------
    Array
        Factor.

    References
    ----------
    ISO/TR 14179-1, 4.

    Examples
    --------
    >>> round(float(loss_factor_1(0.3, 0.3, np.radians(20))), 4)
    0.1596
    """
    H_s, H_t = as_float(H_s), as_float(H_t)
    return np.cos(beta_w) ** 2 * (H_s**2 + H_t**2) / (2 * np.cos(alpha_wt) * (H_s + H_t))


def local_coefficient(w: Real, eta_oil: Real, v_g: Real, v_sum: Real) -> Array:
    """Local coefficient of friction, after disc tests of 1961 by Benedict and Kelley.

    Parameters
    ----------
    w : Real
        Line load (N/mm).
    eta_oil : Real
        Dynamic viscosity at the oil temperature (mPa s).
    v_g : Real
        Sliding speed (m/s).
    v_sum : Real
        Sum of the rolling speeds (m/s).

    Returns
    -------
    Array
        Coefficient of friction.

    Notes
    -----
    0.0127 log10(29.66 w / (eta v_g v_sum^2)) with the line load in N/m. Kept between 0.005 and 0.15, which the tests
    cover; where sliding vanishes so does the loss.

    Examples
    --------
    >>> round(float(local_coefficient(200.0, 50.0, 1.0, 6.0)), 4)
    0.0447
    """
    slide = np.maximum(np.abs(v_g), 1e-6)
    load = 29.66 * 1000 * as_float(w) / (as_float(eta_oil) * slide * np.maximum(v_sum, 1e-3) ** 2)
    return as_float(clip(0.0127 * np.log10(np.maximum(load, 1.0)), 0.005, 0.15))


def loss_along_path(
    path: tuple[Array, Array, Array, Array, Array], T2: Real, u: Real, omega_1: Real, F_bt: Real, b: Real, eta_oil: Real
) -> tuple[Array, Array]:
    """Mesh loss (W) and its mean coefficient, friction integrated along the path of contact with the local coefficient.

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
    F_bt : Real
        Tangential force at the base circle (N).
    b : Real
        Face width (mm).
    eta_oil : Real
        Dynamic viscosity at the oil temperature (mPa s).

    Returns
    -------
    tuple[Array, Array]
        Loss (W) and mean coefficient of friction.

    Notes
    -----
    All pairs in contact share the load equally.
    """
    g_A, g_B, g_C, _g_D, g_E = path
    # Over one base pitch every pair passes once along the whole path.
    p_et = g_E - g_B
    loss = np.zeros(shape_of(g_A, F_bt, omega_1, eta_oil, u, b))
    x, weight = (stack(v, loss) for v in np.polynomial.legendre.leggauss(POINTS // 4))
    plain = np.zeros_like(loss)
    # Between the places where pairs come and go and the pitch point the integrand is smooth.
    places = (g_A, g_C, g_E, *(g_E - k * p_et for k in range(1, 4)), *(g_A + k * p_et for k in range(1, 4)))
    marks = np.sort(np.stack([broadcast(clip(v, g_A, g_E), loss) for v in places]), axis=0)
    for low, high in pairwise(marks):
        g = low + (high - low) * (x + 1) / 2
        share = 1 / pairs_in_contact(g, g_A, g_E, p_et)
        v_1, v_2 = g * omega_1 / 1000, (as_float(T2) - g) * np.sign(u) * omega_1 / 1000 / np.abs(u)
        v_g = np.abs(v_1 - v_2)
        force = share * F_bt
        mu = local_coefficient(force / b, eta_oil, v_g, np.abs(v_1) + np.abs(v_2))
        w = weight / 2 * (high - low)
        loss = loss + np.sum(w * mu * force * v_g, axis=0)
        plain = plain + np.sum(w * force * v_g, axis=0)
    return loss / p_et, loss / where(plain > 0, plain, np.nan)

"""Power lost in a mesh. ISO/TR 14179-2:2001, gear losses under load."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip
from cooper.gears.path_of_contact import MOST_PAIRS, pairs_in_contact

LEAST_LINE_LOAD = 150.0
"""Line load F_bt/b (N/mm) below which the friction formula is entered with this value."""
GREATEST_SPEED = 50.0
"""Pitch line speed (m/s) above which the friction formula is entered with this value."""


def loss_factor(z_1: Real, u: Real, beta_b: Real, eps_alpha: Real, eps_1: Real, eps_2: Real) -> Array:
    """Tooth loss factor H_V: the mean of sliding speed times load share over the path of contact, per pitch line speed.

    Parameters
    ----------
    z_1 : Real
        Tooth count of the pinion.
    u : Real
        Gear ratio z_2/z_1, negative for an internal wheel.
    beta_b : Real
        Base helix angle (rad).
    eps_alpha : Real
        Transverse contact ratio.
    eps_1 : Real
        Tip contact ratio of the pinion.
    eps_2 : Real
        Tip contact ratio of the wheel.

    Returns
    -------
    Array
        H_V.

    Notes
    -----
    The load is shared equally by all pairs that touch. Between contact ratios of 1 and 2, with the pitch point in
    single contact, it is the closed form of ISO/TR 14179-2:2001, pi (u + 1)/(z_1 u cos(beta_b)) (1 - eps_alpha +
    eps_1^2 + eps_2^2); elsewhere, for which that was not made, the same mean over the true places: also where the pitch
    point lies in double contact or beyond the path (eps_1 or eps_2 negative), and above a contact ratio of 2.

    Examples
    --------
    >>> round(float(loss_factor(20, 2.0, 0.0, 1.6, 0.8, 0.8)), 4)
    0.1602
    """
    u = as_float(u)
    return np.pi * (u + 1) / (as_float(z_1) * u * np.cos(beta_b)) * 2 * mean_distance(eps_1, eps_2)


def mean_distance(eps_1: Real, eps_2: Real) -> Array:
    """Mean distance of the contact from the pitch point, by the load that a pair bears there.

    Parameters
    ----------
    eps_1 : Real
        Tip contact ratio of the pinion.
    eps_2 : Real
        Tip contact ratio of the wheel.

    Returns
    -------
    Array
        Integral over the path in base pitches.

    Notes
    -----
    The integral of the distance over the path from -eps_2 to eps_1, each place weighted by the share of the load.

    Examples
    --------
    >>> round(float(mean_distance(0.8, 0.8)), 3), round(float(mean_distance(0.5, 0.5)), 3)
    (0.34, 0.25)
    """
    e_1, e_2 = np.broadcast_arrays(as_float(eps_1), as_float(eps_2))
    # Where a pair of teeth comes or goes the shares step; between, and on either side of the pitch point, the integrand
    # is a line.
    most = np.fmax.reduce(np.ravel(e_1 + e_2), initial=1.0)
    pairs = range(int(min(np.ceil(most), MOST_PAIRS)))
    places = [*(e_1 - k for k in pairs), *(k - e_2 for k in pairs), np.zeros_like(e_1)]
    marks = np.sort(clip(np.stack(places), -e_2, e_1), axis=0)
    middle, length = (marks[1:] + marks[:-1]) / 2, np.diff(marks, axis=0)
    return as_float(np.sum(np.abs(middle) * length / pairs_in_contact(middle, -e_2, e_1, 1.0), axis=0))


def friction_coefficient(
    F_bt: Real,
    b: Real,
    v: Real,
    alpha_wt: Real,
    rho_red: Real,
    eta_oil: Real,
    Ra: Real,
    X_L: Real,
) -> Array:
    """Mean coefficient of mesh friction mu_mz.

    Parameters
    ----------
    F_bt : Real
        Tangential force at the base circle (N).
    b : Real
        Face width (mm).
    v : Real
        Pitch line speed (m/s).
    alpha_wt : Real
        Transverse working pressure angle (rad).
    rho_red : Real
        Radius of relative curvature at the pitch point, normal section (mm).
    eta_oil : Real
        Dynamic viscosity at the oil temperature (mPa s).
    Ra : Real
        Mean roughness Ra of both flanks (um).
    X_L : Real
        Lubricant factor.

    Returns
    -------
    Array
        mu_mz.

    Notes
    -----
    The formula is entered with at least 150 N/mm and at most 50 m/s.

    References
    ----------
    ISO/TR 14179-2:2001.
    """
    line_load = np.maximum(as_float(F_bt) / as_float(b), LEAST_LINE_LOAD)
    sum_speed = 2 * np.minimum(as_float(v), GREATEST_SPEED) * np.sin(alpha_wt)
    load = (line_load / (sum_speed * as_float(rho_red))) ** 0.2
    return as_float(0.048 * load * as_float(eta_oil) ** -0.05 * as_float(Ra) ** 0.25 * as_float(X_L))

"""Power lost in a mesh. ISO/TR 14179-2:2001, gear losses under load."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real

LEAST_LINE_LOAD = 150.0
"""Line load F_bt/b (N/mm) below which the friction formula is entered with this value."""
GREATEST_SPEED = 50.0
"""Pitch line speed (m/s) above which the friction formula is entered with this value."""


def loss_factor(z_1: Real, u: Real, beta_b: Real, eps_alpha: Real, eps_1: Real, eps_2: Real) -> Array:
    """Tooth loss factor H_V: the mean of sliding speed times load share over the path of contact, per pitch line speed.

    Holds for 1 <= eps_alpha <= 2 with the load shared equally in double contact. ISO/TR 14179-2:2001; where the pitch
    point lies in double contact (eps_1 or eps_2 above 1), for which the standard's closed form was not made, the same
    mean is taken over the true places.

    >>> round(float(loss_factor(20, 2.0, 0.0, 1.6, 0.8, 0.8)), 4)
    0.1602
    """
    u = np.asarray(u, dtype=float)
    eps_1, eps_2 = np.asarray(eps_1), np.asarray(eps_2)
    shape = (eps_1**2 + eps_2**2 + (1 - eps_1) * np.abs(1 - eps_1) + (1 - eps_2) * np.abs(1 - eps_2)) / 2
    return np.pi * (u + 1) / (np.asarray(z_1) * u * np.cos(beta_b)) * shape


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
    """Mean coefficient of mesh friction mu_mz. ISO/TR 14179-2:2001.

    ``F_bt`` tangential force on the base circle (N), ``b`` mm, ``v`` pitch line speed (m/s), ``rho_red`` radius of
    relative curvature at the pitch point (mm), ``eta_oil`` mPa s, ``Ra`` mean of both flanks (um), ``X_L`` lubricant
    factor (1 for mineral oil). The formula is entered with at least 150 N/mm and at most 50 m/s.
    """
    line_load = np.maximum(np.asarray(F_bt) / np.asarray(b), LEAST_LINE_LOAD)
    sum_speed = 2 * np.minimum(np.asarray(v, dtype=float), GREATEST_SPEED) * np.sin(alpha_wt)
    load = (line_load / (sum_speed * np.asarray(rho_red))) ** 0.2
    return 0.048 * load * np.asarray(eta_oil) ** -0.05 * np.asarray(Ra) ** 0.25 * np.asarray(X_L)

"""Sliding, curvature, load share and flank pressure at every position along the path of contact."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float
from cooper.gears.path_of_contact import pairs_in_contact, specific_sliding


class AlongPath(Struct, frozen=True):
    """Values over the distance ``g`` (mm) from the pinion's base tangent point; all of g's shape.

    ``zeta_1``, ``zeta_2`` specific sliding; ``rho_1``, ``rho_2`` radii of curvature in the transverse section and
    ``rho_red`` of relative curvature in the normal section (mm); ``share`` of the load on this pair of teeth;
    ``sigma_H`` flank pressure (MPa).
    """

    g: Array
    zeta_1: Array
    zeta_2: Array
    rho_1: Array
    rho_2: Array
    rho_red: Array
    share: Array
    sigma_H: Array


def along_path(
    g: Array,
    T2: Real,
    u: Real,
    g_A: Real,
    g_E: Real,
    p_et: Real,
    F_bt: Real,
    b: Real,
    Z_E: Real,
    K: Real,
    beta_b: Real = 0.0,
) -> AlongPath:
    """Values along the path of contact.

    Parameters
    ----------
    g : Array
        Distance from the pinion's base tangent point along the line of action (mm).
    T2 : Real
        Distance between both base tangent points on the line of action (mm), negative for an internal wheel.
    u : Real
        Gear ratio z_2/z_1, negative for an internal wheel.
    g_A : Real
        Start of the path of contact, from the pinion's base tangent point (mm).
    g_E : Real
        End of the path of contact, from the pinion's base tangent point (mm).
    p_et : Real
        Transverse base pitch (mm).
    F_bt : Real
        Tangential force at the base circle (N).
    b : Real
        Face width in contact (mm).
    Z_E : Real
        Elasticity factor (sqrt(MPa)).
    K : Real
        Product of the load factors.
    beta_b : Real
        Base helix angle (rad).

    Returns
    -------
    AlongPath
        Values along the path.

    Notes
    -----
    Pairs in contact share the load equally, which is what the loss factor of ISO/TR 14179-2 assumes too; sigma_H = Z_E
    sqrt(K F_bt share/(b rho_red)) is Hertz's line pressure.

    References
    ----------
    ISO 21771:2007, 6.4; H. Hertz, 1881.

    Examples
    --------
    >>> a = along_path(np.array([10.0]), 30.0, 2.0, 4.0, 16.0, 8.0, 1000.0, 20.0, 189.8, 1.0)
    >>> float(a.share[0]), round(float(a.sigma_H[0]))
    (1.0, 520)
    """
    g = as_float(g)
    zeta_1, zeta_2 = specific_sliding(g, T2, u)
    rho_1, rho_2 = g, as_float(T2) - g
    with np.errstate(divide="ignore", invalid="ignore"):
        rho_red = rho_1 * rho_2 / (rho_1 + rho_2) / np.cos(beta_b)
        share = 1 / pairs_in_contact(g, g_A, g_E, p_et)
        sigma_H = as_float(Z_E) * np.sqrt(as_float(K) * F_bt * share / (as_float(b) * rho_red))
    return AlongPath(g, zeta_1, zeta_2, rho_1, rho_2, rho_red, share, sigma_H)

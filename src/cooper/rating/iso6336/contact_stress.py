"""Contact stress. ISO 6336-2:2019."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where


def zone_factor(alpha_t: Real, alpha_wt: Real, beta_b: Real) -> Array:
    """Zone factor Z_H.

    Parameters
    ----------
    alpha_t : Real
        Transverse pressure angle (rad).
    alpha_wt : Real
        Transverse working pressure angle (rad).
    beta_b : Real
        Base helix angle (rad).

    Returns
    -------
    Array
        Z_H.

    Notes
    -----
    Z_H = sqrt(2 cos(beta_b) cos(alpha_wt)/(cos^2(alpha_t) sin(alpha_wt))).

    References
    ----------
    ISO 6336-2:2019.

    Examples
    --------
    >>> round(float(zone_factor(np.radians(20), np.radians(20), 0.0)), 3)
    2.495
    """
    return as_float(np.sqrt(2 * np.cos(beta_b) * np.cos(alpha_wt) / (np.cos(alpha_t) ** 2 * np.sin(alpha_wt))))


def elasticity_factor(E_1: Real, nu_1: Real, E_2: Real, nu_2: Real) -> Array:
    """Elasticity factor Z_E.

    Parameters
    ----------
    E_1 : Real
        Modulus of elasticity of gear 1 (MPa).
    nu_1 : Real
        Poisson's ratio of gear 1.
    E_2 : Real
        Modulus of elasticity of gear 2 (MPa).
    nu_2 : Real
        Poisson's ratio of gear 2.

    Returns
    -------
    Array
        Z_E (sqrt(MPa)).

    Notes
    -----
    Z_E = sqrt(1/(pi ((1 - nu_1^2)/E_1 + (1 - nu_2^2)/E_2))).

    References
    ----------
    ISO 6336-2:2019.

    Examples
    --------
    >>> round(float(elasticity_factor(206e3, 0.3, 206e3, 0.3)), 1)
    189.8
    """
    softness = (1 - as_float(nu_1) ** 2) / as_float(E_1) + (1 - as_float(nu_2) ** 2) / as_float(E_2)
    return as_float(np.sqrt(1 / (np.pi * softness)))


def contact_ratio_factor(eps_alpha: Real, eps_beta: Real) -> Array:
    """Contact ratio factor Z_eps.

    Parameters
    ----------
    eps_alpha : Real
        Transverse contact ratio.
    eps_beta : Real
        Overlap ratio.

    Returns
    -------
    Array
        Z_eps.

    Notes
    -----
    sqrt((4 - eps_alpha)/3 (1 - eps_beta) + eps_beta/eps_alpha), an overlap ratio above 1 counts as 1.

    References
    ----------
    ISO 6336-2:2019.

    Examples
    --------
    >>> round(float(contact_ratio_factor(1.6, 0.0)), 4)
    0.8944
    """
    eps_alpha, eps_beta = as_float(eps_alpha), as_float(eps_beta)
    below_one = (4 - eps_alpha) / 3 * (1 - np.minimum(eps_beta, 1)) + eps_beta / eps_alpha
    return np.sqrt(where(eps_beta < 1, below_one, 1 / eps_alpha))


def helix_factor_contact(beta: Real) -> Array:
    """Helix angle factor Z_beta = 1/sqrt(cos(beta)).

    Parameters
    ----------
    beta : Real
        Helix angle at the reference cylinder (rad).

    Returns
    -------
    Array
        Z_beta.

    References
    ----------
    ISO 6336-2:2019.
    """
    return 1 / np.sqrt(np.cos(beta))


def single_contact_factors(
    alpha_wt: Real,
    d_a1: Real,
    d_b1: Real,
    z_1: Real,
    d_a2: Real,
    d_b2: Real,
    z_2: Real,
    eps_alpha: Real,
    eps_beta: Real = 0.0,
    f_ZCa: Real = 1.2,
) -> tuple[Array, Array]:
    """Single pair tooth contact factors Z_B, Z_D, at least 1.

    Parameters
    ----------
    alpha_wt : Real
        Transverse working pressure angle (rad).
    d_a1 : Real
        Active tip diameter of gear 1 (mm).
    d_b1 : Real
        Base diameter of gear 1 (mm).
    z_1 : Real
        Tooth count of gear 1.
    d_a2 : Real
        Active tip diameter of gear 2 (mm), negative for an internal gear.
    d_b2 : Real
        Base diameter of gear 2 (mm), negative for an internal gear.
    z_2 : Real
        Tooth count of gear 2, negative for an internal gear.
    eps_alpha : Real
        Transverse contact ratio.
    eps_beta : Real
        Overlap ratio.
    f_ZCa : Real
        Factor of helical gears without relief by design, 1.2 to 1.

    Returns
    -------
    tuple[Array, Array]
        Z_B and Z_D, NaN where B or D is no point of contact, beyond a base tangent point.

    Notes
    -----
    They carry the stress from the pitch point to the inner points B and D of single contact. For helical gears with an
    overlap ratio of 1 and more both are sqrt(f_ZCa), between on a straight line.

    References
    ----------
    ISO 6336-2:2019, 6.
    """
    tip_1 = np.sqrt(np.maximum((as_float(d_a1) / d_b1) ** 2 - 1, 0))
    tip_2 = np.sqrt(np.maximum((as_float(d_a2) / d_b2) ** 2 - 1, 0))
    pitch_1, pitch_2 = 2 * np.pi / as_float(z_1), 2 * np.pi / as_float(z_2)
    extra = as_float(eps_alpha) - 1

    def factor(near: Array, far: Array) -> Array:
        touch = (near > 0) & (far > 0)
        M = where(touch, np.tan(alpha_wt) / np.sqrt(where(touch, near * far, 1.0)), np.nan)
        share = np.minimum(as_float(eps_beta), 1.0)
        return as_float(np.maximum(M - share * (M - np.sqrt(f_ZCa)), 1.0))

    return (
        factor(tip_1 - pitch_1, tip_2 - extra * pitch_2),
        factor(tip_2 - pitch_2, tip_1 - extra * pitch_1),
    )


def nominal_contact_stress(
    Z_H: Real,
    Z_E: Real,
    Z_eps: Real,
    Z_beta: Real,
    F_t: Real,
    d_1: Real,
    b: Real,
    u: Real,
) -> Array:
    """Nominal contact stress at the pitch point.

    Parameters
    ----------
    Z_H : Real
        Zone factor.
    Z_E : Real
        Elasticity factor (sqrt(MPa)).
    Z_eps : Real
        Contact ratio factor.
    Z_beta : Real
        Helix angle factor.
    F_t : Real
        Nominal tangential force at the reference circle (N).
    d_1 : Real
        Reference diameter of the pinion (mm).
    b : Real
        Face width (mm).
    u : Real
        Gear ratio z_2/z_1, negative for an internal wheel.

    Returns
    -------
    Array
        sigma_H0 (MPa).

    Notes
    -----
    sigma_H0 = Z_H Z_E Z_eps Z_beta sqrt(F_t/(d_1 b) (u + 1)/u).

    References
    ----------
    ISO 6336-2:2019.
    """
    u = as_float(u)
    load = as_float(F_t) / (as_float(d_1) * b) * (u + 1) / u
    return as_float(Z_H) * Z_E * Z_eps * Z_beta * np.sqrt(load)

"""Pairs that no load factor could save: their pinion's flank is too weak even where every load factor is 1.

A bound in closed form, without root, tolerances or load factors; it never takes away what the whole rating lets hold.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from cooper.arrays import Mixed as Array
from cooper.gears.inputs import PairInput
from cooper.gears.pair import reference_centre_distance
from cooper.gears.tooth import tip_diameter, transverse_pressure_angle
from cooper.rating.iso6336 import contact_strength as limit
from cooper.rating.iso6336 import contact_stress as contact
from cooper.rating.iso6336 import nominal_load as load
from cooper.rating.iso6336.life import life_factor

CLOSE = 1e-6
"""Share by which the bound is loosened, for rounding."""


def too_weak(p: PairInput, S_Hmin: float) -> NDArray[np.bool_]:
    """Whether S_H of gear 1 stays below ``S_Hmin`` whatever the load factors are.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    S_Hmin : float
        Least safety against pitting.

    Returns
    -------
    NDArray[np.bool_]
        True where it does.

    Notes
    -----
    Of gears with as many teeth as their mates, of plastics and where tips are given, nothing is said.
    """
    one, two = p.gears
    z_1, z_2 = np.asarray(one.z, dtype=float), np.asarray(two.z, dtype=float)
    says = z_1 < np.abs(z_2)
    mat = one.material
    if np.any(mat.plastic > 0) or np.any(two.material.plastic > 0) or not np.all(np.isnan(one.d_a) & np.isnan(two.d_a)):
        return np.zeros(np.broadcast_shapes(says.shape, np.shape(p.m_n)), dtype=bool)
    with np.errstate(all="ignore"):
        m_t = p.m_n / np.cos(p.beta)
        alpha_t = transverse_pressure_angle(p.alpha_n, p.beta)
        beta_b = np.arcsin(np.sin(p.beta) * np.cos(p.alpha_n))
        d_1, d_2 = z_1 * m_t, z_2 * m_t
        d_b1, d_b2 = d_1 * np.cos(alpha_t), d_2 * np.cos(alpha_t)
        ratio = reference_centre_distance(z_1, z_2, p.m_n, p.beta) * np.cos(alpha_t) / p.a_w
        alpha_wt = np.arccos(np.where(np.abs(ratio) < 1, ratio, np.nan))
        eps = _longest(p, (z_1, z_2), (d_b1, d_b2), alpha_wt) / (np.pi * m_t * np.cos(alpha_t))
        width = np.minimum(one.b, two.b)
        eps_beta = width / np.where(p.double_helix, 2, 1) * np.sin(p.beta) / (np.pi * p.m_n)
        F_t = load.tangential_force(p.T_1, d_1)
        Z_E = contact.elasticity_factor(mat.E, mat.nu, two.material.E, two.material.nu)
        sigma_H0 = contact.nominal_contact_stress(
            contact.zone_factor(alpha_t, alpha_wt, beta_b),
            Z_E,
            contact.contact_ratio_factor(eps, eps_beta),
            contact.helix_factor_contact(p.beta),
            F_t,
            d_1,
            width,
            z_2 / z_1,
        )
        N_L = p.omega_1 * 3600 * p.L_h / (2 * np.pi) * one.contacts
        corners = np.where(p.pitting_allowed, mat.Z_N_pitting, mat.Z_N)
        softer = np.minimum(mat.sigma_Hlim, two.material.sigma_Hlim)
        rho = limit.reduced_radius(d_b1, d_b2, alpha_wt, beta_b)
        v = load.circumferential_speed(d_1, p.omega_1)
        film: Array = 1.0
        for factor in (
            limit.lubricant_factor(softer, p.nu_40),
            limit.velocity_factor(softer, v),
            limit.roughness_factor(softer, one.Rz_H, two.Rz_H, rho),
        ):
            # At a short life what lowers the limit counts less.
            film = film * np.maximum(factor, 1.0)
        best = mat.sigma_Hlim * life_factor(N_L, corners, p.NT_1e10) * film
        least = sigma_H0 * np.sqrt(np.asarray(p.K_A) * p.K_gamma)
        return np.asarray(says & (best * (1 + CLOSE) < S_Hmin * least))


def _longest(p: PairInput, z: tuple[Array, Array], d_b: tuple[Array, Array], alpha_wt: Array) -> Array:
    """Length of the path of contact between both tips; roots can only cut it short."""
    tips = [
        np.sqrt(np.maximum((tip_diameter(k, p.m_n, p.beta, g.x, g.h_aP) / 2) ** 2 - (b / 2) ** 2, 0.0))
        for k, g, b in zip(z, p.gears, d_b, strict=True)
    ]
    reach = p.a_w * np.sin(alpha_wt)
    return np.where(z[1] < 0, tips[0] - tips[1] - reach, tips[0] + tips[1] - reach)

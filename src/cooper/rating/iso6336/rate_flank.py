"""Flank pressure and its limit, composed as the method has it. ISO 6336-2:2019."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, all_, as_float, broadcast, where
from cooper.gears.inputs import PairInput
from cooper.rating.iso6336 import contact_strength as flank_strength
from cooper.rating.iso6336 import contact_stress as contact
from cooper.rating.iso6336 import life
from cooper.rating.iso6336.case_depth import least_case_depth
from cooper.rating.iso6336.strength_number import life_factor, strength_number
from cooper.values import GearValues, MeshValues


def add_flank(p: PairInput, mesh: MeshValues[Array], gears: tuple[GearValues[Array], ...]) -> None:
    """Add contact stress, its factors, the permissible stress and S_H to the values.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    mesh : MeshValues[Array]
        Values of the mesh by symbol; the results are added to them.
    gears : tuple[GearValues[Array], ...]
        Values of both gears by symbol; the results are added to them.

    References
    ----------
    ISO 6336-2:2019.
    """
    one, two = gears
    mat = [g.material for g in p.gears]
    alpha_wt, u = mesh.alpha_wt, mesh.u
    Z_H = contact.zone_factor(mesh.alpha_t, alpha_wt, mesh.beta_b)
    Z_E = contact.elasticity_factor(mat[0].E, mat[0].nu, mat[1].E, mat[1].nu)
    Z_eps = contact.contact_ratio_factor(mesh.eps_alpha, mesh.eps_beta)
    Z_beta = contact.helix_factor_contact(mesh.beta)
    sigma_H0 = contact.nominal_contact_stress(Z_H, Z_E, Z_eps, Z_beta, mesh.F_t, one.d, mesh.b_H, u)
    Z_B, Z_D = contact.single_contact_factors(
        alpha_wt,
        one.d_Na,
        one.d_b,
        one.z,
        two.d_Na,
        two.d_b,
        two.z,
        mesh.eps_alpha,
        mesh.eps_beta,
        p.f_ZCa,
    )
    # A ring's flank wraps around the pinion's: its pressure is greatest at the pitch point.
    Z_D = where(two.z < 0, 1.0, Z_D)
    rho_red = flank_strength.reduced_radius(one.d_b, two.d_b, alpha_wt, mesh.beta_b)
    softer = np.minimum(mat[0].sigma_Hlim, mat[1].sigma_Hlim)
    Z_L = flank_strength.lubricant_factor(softer, p.nu_40)
    Z_V = flank_strength.velocity_factor(softer, mesh.v)
    Z_R = flank_strength.roughness_factor(softer, one.Rz_H, two.Rz_H, rho_red)
    sigma_load = np.sqrt(mesh.F_t / (one.d * mesh.b_H) * (u + 1) / u)
    mesh.update(Z_H=Z_H, Z_E=Z_E, Z_eps=Z_eps, Z_beta=Z_beta, sigma_H0=sigma_H0, rho_red=rho_red, sigma_load=sigma_load)
    K = mesh.K_A * mesh.K_gamma * mesh.K_V * mesh.K_Hbeta * mesh.K_Halpha
    # The greatest load meets the load factors of the running one.
    mesh.K_peak = mesh.K_AP / mesh.K_A
    peak = np.sqrt(mesh.K_peak)
    F_t = mesh.F_t
    for i, (g, Z_BD) in enumerate(zip(gears, (Z_B, Z_D), strict=True)):
        own = mat[i]
        corners = where(p.pitting_allowed, own.Z_N_pitting, own.Z_N)
        share = life.endurance_share(g.N_L, corners)
        held = as_float(own.in_standard) > 0
        sigma_Hlim = strength_number(own.sigma_Hlim, own.flank_life, own.plastic, g.N_L)
        Z_W, Z_W_static = _work_hardening(p, i, mesh, gears)
        film = [where(held, factor, 1.0) for factor in (Z_L, Z_V, Z_R)]
        g.update(
            sigma_Hlim=sigma_Hlim,
            Z_BD=Z_BD,
            sigma_H=Z_BD * sigma_H0 * np.sqrt(K),
            Z_NT=life_factor(own.plastic, g.N_L, corners, p.NT_1e10),
            Z_L=life.between(1, film[0], share),
            Z_V=life.between(1, film[1], share),
            Z_R=life.between(1, film[2], share),
            Z_W=life.between(Z_W_static, Z_W, share),
            Z_X=np.full_like(F_t, flank_strength.Z_X),
        )
        factors = g.Z_NT * g.Z_L * g.Z_V * g.Z_R * g.Z_W * g.Z_X
        g.sigma_HG = sigma_Hlim * factors
        g.S_H = g.sigma_HG / g.sigma_H
        static = strength_number(own.sigma_Hlim, own.flank_life, own.plastic, 0.0)
        g.Z_NTst, g.Z_Wst = broadcast(corners[1, 0], F_t), Z_W_static
        g.sigma_Hlim_st = as_float(static)
        g.sigma_HGst = static * corners[1, 0] * Z_W_static
        g.sigma_Hpk = g.sigma_H * peak
        g.sigma_HGref = own.sigma_Hlim * film[0] * film[1] * film[2] * Z_W * flank_strength.Z_X
        g.S_Hst = g.sigma_HGst / g.sigma_Hpk
        if all_(np.isfinite(p.gears[i].CHD)):
            g.CHD, g.CHD_c = as_float(p.gears[i].CHD), least_case_depth(g.sigma_H, rho_red, p.gears[i].U_H)


def _work_hardening(
    p: PairInput, i: int, mesh: MeshValues[Array], gears: tuple[GearValues[Array], ...]
) -> tuple[Array, Array]:
    """Z_W of one gear at the reference life and for static strength; 1 where its mate is not the harder one."""
    own, mate = p.gears[i].material, p.gears[1 - i].material
    R_zH = flank_strength.equivalent_roughness(gears[1 - i].Rz_H, gears[i].Rz_H, mesh.rho_red, p.nu_40, mesh.v)
    soft = ~np.asarray(own.surface_hardened, dtype=bool) & np.isfinite(own.HB)
    mate_surface = np.asarray(mate.surface_hardened, dtype=bool)
    # A steel wheel that a harder steel pinion, the gear with fewer teeth, rolls hard.
    wheel = np.abs(gears[i].z) >= np.abs(gears[1 - i].z)
    steel = (as_float(own.steel) > 0) & (as_float(mate.steel) > 0)
    applies = soft & steel & wheel & (mate_surface | (mate.HB > own.HB))
    u = np.abs(mesh.u)
    u = np.maximum(u, 1 / u)
    reference = flank_strength.work_hardening_factor(own.HB, mate.HB, mate.surface_hardened, R_zH, u)
    static = where(mate_surface, flank_strength.static_work_hardening_factor(own.HB), 1.0)
    return where(applies, reference, 1.0), where(applies, static, 1.0)

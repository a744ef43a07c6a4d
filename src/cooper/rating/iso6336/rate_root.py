"""Root stress and its limit, composed as the method has it. ISO 6336-3:2019."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, any_, as_float, broadcast, clip, where
from cooper.gears.inputs import OUTER_SINGLE, TIP_LOAD, PairInput
from cooper.gears.tooth import Tooth
from cooper.rating.iso6336 import form, life
from cooper.rating.iso6336 import root_stress as root
from cooper.rating.iso6336.strength_number import life_factor, strength_number
from cooper.values import GearValues, MeshValues

THINNING_THAT_COUNTS = 0.05
"""Thinning of the tooth, in modules, from which the root is rated with the generating shift. ISO 6336-3:2019, 6."""
COARSE = 9
"""Flank tolerance class from which two pairs of teeth no longer share a load that is too light for their pitch
deviation."""


def root_shift(p: PairInput, tooth: Tooth, g: GearValues[Array]) -> Array:
    """The shift that the root is rated with: the nominal one until thinning counts.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    tooth : Tooth
        The tooth with its tool, as made.
    g : GearValues[Array]
        Values of the gear by symbol.

    Returns
    -------
    Array
        Profile shift coefficient.

    References
    ----------
    ISO 6336-3:2019, 6.
    """
    thinning = -(g.E_sns + g.E_sni) / 2
    return where(thinning > THINNING_THAT_COUNTS * p.m_n, tooth.x_E, tooth.x)


def add_root(p: PairInput, i: int, tooth: Tooth, mesh: MeshValues[Array], g: GearValues[Array]) -> None:
    """Add root stress, its factors, the permissible stress and S_F of one gear to the values.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    i : int
        Number of the gear, 0 or 1.
    tooth : Tooth
        The tooth with its tool, as made.
    mesh : MeshValues[Array]
        Values of the mesh by symbol; the results are added to them.
    g : GearValues[Array]
        Values of the gear by symbol; the results are added to them.

    References
    ----------
    ISO 6336-3:2019.
    """
    own, rack = p.gears[i].material, tooth.rack
    x_root = root_shift(p, tooth, g)
    plastic = as_float(own.plastic) > 0
    at_tip = np.logical_or(_at_tip(p, mesh), plastic)
    g.at_tip = at_tip.astype(float)
    eps_load = where(at_tip, np.cos(mesh.beta_b) ** 2, mesh.eps_alpha)
    if tooth.tool is None:
        section = form.root_section(tooth.z, p.m_n, tooth.beta, x_root, rack, g.d_Na, eps_load)
    else:
        section = form.root_section_on_curve(tooth, x_root, g.d_Na, eps_load)
    f_eps = form.load_distribution_factor(mesh.eps_alpha / np.cos(mesh.beta_b) ** 2, mesh.eps_beta)
    f_eps = where(at_tip, 1.0, f_eps)
    Y_F = form.form_factor(section, p.m_n, p.alpha_n, f_eps)
    Y_S = form.stress_correction_factor(section)
    Y_g = root.grinding_notch_factor(p.gears[i].t_g, p.gears[i].rho_g)
    if any_(as_float(p.gears[i].t_g) > 0):
        g.update(
            Y_g=np.broadcast_to(Y_g, np.shape(Y_F)), t_g=as_float(p.gears[i].t_g), rho_g=as_float(p.gears[i].rho_g)
        )
    Y_beta = root.helix_factor_root(tooth.beta, mesh.eps_beta)
    Y_B = where(tooth.sign > 0, root.rim_factor(g.s_R, g.h), root.ring_rim_factor(g.s_R, p.m_n))
    q_s = form.notch_parameter(section)
    if any_(plastic):
        g.Y_eps = where(plastic, 0.25 + 0.75 / mesh.eps_alpha, 1.0)
    share = life.endurance_share(g.N_L, own.Y_N)
    M = clip(as_float(own.mean_stress_a) + as_float(own.mean_stress_b) * Y_S, 0.0, 1.0)
    Y_Mref, Y_Mst = (
        np.broadcast_to(root.mean_stress_factor(p.gears[i].R_bend, of), np.shape(Y_F))
        for of in (M, own.mean_stress_static)
    )
    Y_M = life.between(Y_Mst, Y_Mref, share)
    static_notch = root.static_notch_sensitivity(Y_S, own.notch_k, own.notch_sigma, own.R_p02, own.notch_a, own.notch_b)
    surface = root.surface_factor(g.Rz_F, own.surface_a, own.surface_b, own.surface_n, own.surface_smooth)
    Q = np.maximum(p.gears[0].Q, p.gears[1].Q)
    Y_DT = np.broadcast_to(root.deep_tooth_factor(mesh.eps_alpha / np.cos(mesh.beta_b) ** 2, Q), np.shape(Y_F))
    sigma_F0 = root.nominal_root_stress(mesh.F_t, g.b_F, p.m_n, Y_F, Y_S, Y_beta, Y_B, Y_DT) * g.get("Y_eps", 1.0) * Y_g
    notch = root.notch_sensitivity(q_s, own.rho_slip)
    size = root.size_factor(p.m_n, own.size_a, own.size_b, own.size_least)
    g.update(
        s_Fn=section.s_Fn,
        h_Fe=section.h_Fe,
        rho_F=section.rho_F,
        alpha_Fen=section.alpha_Fen,
        q_s=q_s,
        f_eps=f_eps,
        sigma_Fload=mesh.F_t / (g.b_F * p.m_n),
        Y_F=Y_F,
        Y_S=Y_S,
        Y_beta=Y_beta,
        Y_B=Y_B,
        Y_DT=Y_DT,
        sigma_F0=sigma_F0,
        sigma_F=sigma_F0 * mesh.K_A * mesh.K_gamma * mesh.K_V * mesh.K_Fbeta * mesh.K_Falpha,
        sigma_Flim=strength_number(own.sigma_Flim, own.root_life, own.plastic, g.N_L),
        Y_ST=np.full_like(Y_F, root.Y_ST),
        Y_NT=life_factor(own.plastic, g.N_L, own.Y_N, p.NT_1e10),
        Y_delta_relT=life.between(static_notch, notch, share),
        Y_R_relT=life.between(1, surface, share),
        Y_X=life.between(1, size, share),
        Y_M=Y_M,
        Y_Mst=Y_Mst,
    )
    g.sigma_FG = g.sigma_Flim * g.Y_ST * g.Y_NT * g.Y_delta_relT * g.Y_R_relT * g.Y_X * Y_M
    g.S_F = g.sigma_FG / g.sigma_F
    number = strength_number(own.sigma_Flim, own.root_life, own.plastic, 0.0)
    g.Y_NTst, g.Y_delta_st = broadcast(own.Y_N[1, 0], Y_F), static_notch
    g.sigma_Flim_st = as_float(number)
    g.sigma_Fpk = g.sigma_F * mesh.K_peak
    g.sigma_FGst = number * root.Y_ST * own.Y_N[1, 0] * static_notch * Y_Mst
    g.sigma_FGref = own.sigma_Flim * root.Y_ST * notch * surface * size * Y_Mref
    g.S_Fst = g.sigma_FGst / g.sigma_Fpk


def _at_tip(p: PairInput, mesh: MeshValues[Array]) -> Array:
    """Whether the root is rated with the load at the tip: as chosen, or by quality.

    By quality: spur-like gears of class 9 and coarser whose pitch deviation after running-in exceeds what the load
    deflects a pair of teeth, so that no second pair helps.
    """
    Q = np.maximum(p.gears[0].Q, p.gears[1].Q)
    alone = (Q >= COARSE) & (mesh.eps_beta < 1) & (mesh.f_pbeff > mesh.w_t / mesh.c_s)
    choice = as_float(p.load_at)
    return np.where(choice == TIP_LOAD, True, np.where(choice == OUTER_SINGLE, False, alone))

"""Load, load factors and the stiffness and deviations behind them, composed as the method has it. ISO 6336-1:2019."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from cooper.arrays import Array, Real, any_, as_float, where
from cooper.gears.inputs import PairInput, first_is_pinion
from cooper.gears.pair_shape import rim_edge
from cooper.gears.tolerances import flank_tolerances
from cooper.gears.tooth import Tooth
from cooper.rating.iso6336 import contact_stress as contact
from cooper.rating.iso6336 import dynamic, running_in, stiffness
from cooper.rating.iso6336 import nominal_load as load
from cooper.rating.iso6336 import uneven_load as sharing
from cooper.rating.plastic_teeth import stiff_as
from cooper.values import GearValues, MeshValues

ROOT_OVERHANG = 1.0
"""Width beyond the mate, in modules each side, that still bears root load. ISO 6336-3:2019, 5."""


def add_loads(p: PairInput, mesh: MeshValues[Array], gears: tuple[GearValues[Array], ...]) -> None:
    """Add forces, speeds and line loads to the values.

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
    ISO 6336-1:2019.
    """
    one, two = gears
    F_t = load.tangential_force(p.T_1, one.d)
    v = load.circumferential_speed(one.d, p.omega_1)
    b_H = np.minimum(one.b, two.b)
    w_t = p.K_A * p.K_gamma * F_t / b_H
    vz = load.speed_parameter(v, one.z, mesh.u)
    K_1 = np.maximum(p.gears[0].K_1, p.gears[1].K_1)
    K_1_helical = np.maximum(p.gears[0].K_1_helical, p.gears[1].K_1_helical)
    turns = p.omega_1 * 3600 * p.L_h / (2 * np.pi)
    cut = p.gears[1].teeth_cut
    # Over its life the pinion's teeth meet those of a rack evenly.
    # Among planets a tooth of sun or ring is loaded once by each of them.
    one.N_L = as_float(turns * p.gears[0].contacts)
    two.N_L = p.gears[1].contacts * (turns / np.abs(mesh.u) if cut is None else turns * one.z / cut)
    for g in gears:
        g.b_F = np.minimum(g.b, b_H + 2 * ROOT_OVERHANG * p.m_n)
    mesh.update(
        F_t=F_t,
        v=v,
        b_H=b_H,
        w_t=w_t,
        vz=vz,
        K_A=as_float(p.K_A),
        K_gamma=as_float(p.K_gamma),
        K_AP=where(np.isnan(p.K_AP), p.K_A, p.K_AP),
        F_bt=F_t / np.cos(mesh.alpha_t),
        F_a=where(p.double_helix, 0.0, F_t * np.tan(p.beta)),
        F_r=2000 * p.T_1 / one.d_w * np.tan(mesh.alpha_wt),
        K_V=load.dynamic_factor_c(K_1, w_t, vz, mesh.eps_beta, K_1_helical),
    )


def add_load_factors(
    p: PairInput, teeth: tuple[Tooth, Tooth], mesh: MeshValues[Array], gears: tuple[GearValues[Array], ...]
) -> None:
    """K_V, K_Hbeta and K_Halpha by the methods chosen, with the stiffness and the deviations behind them.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    teeth : tuple[Tooth, Tooth]
        Teeth of both gears.
    mesh : MeshValues[Array]
        Values of the mesh by symbol; the results are added to them.
    gears : tuple[GearValues[Array], ...]
        Values of both gears by symbol; the results are added to them.

    Notes
    -----
    In the standard's order: K_V, then K_Hbeta with it, then K_Halpha with both. A value that is entered stands as it
    is.

    References
    ----------
    ISO 6336-1:2019.
    """
    mat = [g.material for g in p.gears]
    first = first_is_pinion(p)

    def by_size(a: Real, b: Real) -> tuple[Array, Array]:
        """The value of the pinion and that of the wheel from those of gear 1 and gear 2."""
        return where(first, a, b), where(first, b, a)

    def of(symbol: str) -> tuple[Array, Array]:
        return by_size(gears[0][symbol], gears[1][symbol])

    stiff = _stiffness(p, mesh, gears, (*of("z_n"), *of("x")))
    c_gamma, c_beta = stiffness.mesh_stiffness(stiff, mesh.eps_alpha)
    each = _deviations(p, teeth, gears)
    f_pb = np.maximum(each[0]["f_pT"], each[1]["f_pT"]) * np.cos(mesh.alpha_t)
    f_fa = np.maximum(each[0]["f_falphaT"], each[1]["f_falphaT"])
    f_Hbeta = [e["f_HbetaT"] for e in each]
    f_ma = np.hypot(*f_Hbeta)
    v = mesh.v

    def less(deviation: Array, allowance: Callable[[Real, Real, Real, Real], Array]) -> Array:
        y = [allowance(m.running_in, m.sigma_Hlim, deviation, v) for m in mat]
        return deviation - (y[0] + y[1]) / 2

    f_pbeff, f_faeff = less(f_pb, running_in.profile_allowance), less(f_fa, running_in.profile_allowance)
    bodies = [
        dynamic.disc_mass(t.d_a, t.d_f, rim_edge(g), m.density) for t, g, m in zip(teeth, p.gears, mat, strict=True)
    ]
    small, large = zip(*(by_size(a, b) for a, b in zip(*bodies, strict=True)), strict=True)
    u = mesh.u
    m_red = dynamic.reduced_mass(of("d_b")[0], by_size(u, 1 / u)[0], small, large)
    n_E1 = dynamic.resonance_speed(of("z")[0], c_gamma, m_red)
    N = by_size(p.omega_1, p.omega_1 / np.abs(u))[0] * 30 / np.pi / n_E1
    C_ay = dynamic.running_in_relief(mat[0].sigma_Hlim, mat[1].sigma_Hlim)
    # Only fine flanks can rely on tip relief; from class 6 on the standard takes B_k = 1.
    relief = where(as_float(p.C_a) > 0, p.C_a, C_ay)
    fine = np.maximum(p.gears[0].Q, p.gears[1].Q) <= 5
    B_k = where(fine, np.abs(1 - stiff * relief / mesh.w_t), 1.0)
    K_V_b = dynamic.dynamic_factor_b(N, mesh.w_t, mesh.eps_gamma, stiff, f_pbeff, f_faeff, B_k)
    K_V = where(p.K_V_by_B, K_V_b, mesh.K_V)
    line = mesh.w_t * K_V
    half = mesh.b_H / where(p.double_helix, 2.0, 1.0)
    d_pinion = of("d")[0]
    f_sh = sharing.shaft_deflection(line, _shaft_bracket(p, gears, d_pinion, of("d")[1], half), p.double_helix)
    f_sh = where(np.isnan(p.f_sh_given), f_sh, p.f_sh_given)
    F_betax = sharing.initial_misalignment(f_sh, f_ma, *p.B_modified)
    F_betax = np.maximum(F_betax, sharing.least_misalignment(line, np.maximum(*f_Hbeta)))
    F_betay = less(F_betax, running_in.helix_allowance)
    K_Hbeta = where(p.K_Hbeta_by_C, sharing.face_load_factor(F_betay, c_beta, line), p.K_Hbeta)
    Z_eps = contact.contact_ratio_factor(mesh.eps_alpha, mesh.eps_beta)
    # The profile form deviation stands for the pitch where it is the greater one.
    f_alpha = less(np.maximum(f_pb, f_fa), running_in.profile_allowance)
    K_Ha, K_Fa = sharing.transverse_load_factor(mesh.eps_gamma, mesh.eps_alpha, Z_eps, c_gamma, f_alpha, line * K_Hbeta)
    for g, deviations in zip(gears, each, strict=True):
        g.F_rT = deviations["F_rT"] / 1000
    mesh.update(
        c_s=stiff,
        f_alphaeff=f_alpha,
        c_gamma=c_gamma,
        m_red=m_red,
        n_E1=n_E1 * np.pi / 30,
        N_res=N,
        f_pbeff=f_pbeff,
        f_faeff=f_faeff,
        C_ay=C_ay,
        K_V=K_V,
        f_ma=f_ma,
        f_sh=f_sh,
        F_betax=F_betax,
        F_betay=F_betay,
        K_Hbeta=K_Hbeta,
        K_Halpha=where(p.K_Halpha_by_B, K_Ha, p.K_Halpha),
        K_Falpha=where(p.K_Halpha_by_B, K_Fa, p.K_Halpha),
        K_Fbeta=load.root_face_load_factor(K_Hbeta, half, np.maximum(gears[0].h, gears[1].h)),
    )


def _stiffness(
    p: PairInput,
    mesh: MeshValues[Array],
    gears: tuple[GearValues[Array], ...],
    by_size: tuple[Array, Array, Array, Array],
) -> Array:
    """Single stiffness c' from virtual counts and shifts of pinion and wheel, with the factor of their blanks."""
    h_fP = (gears[0].h_fP + gears[1].h_fP) / 2
    stiff = stiffness.single_stiffness(*by_size, h_fP, p.alpha_n, p.beta, mesh.w_t, *stiff_as(p))
    if not any(any_(np.isfinite(g.d_i)) for g in p.gears):
        return stiff
    # Two unlike blanks: the mean of both.
    blanks = [
        where(np.isnan(i.d_i) | np.isnan(i.b_s), 1.0, stiffness.blank_factor(i.b_s, i.b, g.s_R, p.m_n))
        for i, g in zip(p.gears, gears, strict=True)
    ]
    mesh.C_R = (blanks[0] + blanks[1]) / 2
    return as_float(stiff * mesh.C_R)


def _deviations(
    p: PairInput, teeth: tuple[Tooth, Tooth], gears: tuple[GearValues[Array], ...]
) -> list[dict[str, Array]]:
    """Flank tolerances of both gears at their own class; a rack is held to those of its pinion's diameter."""
    d = [teeth[0].d, teeth[0].d if p.gears[1].teeth_cut is not None else np.abs(teeth[1].d)]
    halves = where(p.double_helix, 2.0, 1.0)
    return [flank_tolerances(d_i, p.m_n, g.b / halves, i.Q) for d_i, g, i in zip(d, gears, p.gears, strict=True)]


def _shaft_bracket(
    p: PairInput, gears: tuple[GearValues[Array], ...], d_pinion: Array, d_wheel: Array, half: Array
) -> Array:
    """The bracket of f_sh: of the pinion's shaft, of the wheel's where it counts, or of sun and pin among planets."""

    def K(arranged: tuple[Real, Real], d: Real, d_sh: Real) -> Array:
        return np.where(np.abs(d) / as_float(d_sh) >= sharing.STIFFENED, *arranged)

    bracket = sharing.pinion_factor(
        K(p.K_arranged, d_pinion, p.d_sh), p.l_sh, p.s_sh, d_pinion, p.d_sh, half, p.double_helix
    )
    # Both shafts lean away from each other; where they do not, this is on the safe side.
    other = sharing.pinion_factor(
        K(p.K_arranged2, d_wheel, p.d_sh2), p.l_sh2, p.s_sh2, np.abs(d_wheel), p.d_sh2, half, p.double_helix
    )
    bracket = bracket + where(np.asarray(p.wheel_bends, dtype=bool), other, 0.0)
    for own, mate, d_mate in ((p.gears[0], gears[0], gears[1].d), (p.gears[1], gears[1], gears[0].d)):
        sun = where(mate.z > 0, mate.d, np.inf)
        among = sharing.planet_factor(
            own.contacts, sun, K(p.K_arranged, d_mate, p.d_sh), p.l_sh, p.s_sh, d_mate, p.d_sh, half
        )
        bracket = where(as_float(own.contacts) > 1, among, bracket)
    return bracket

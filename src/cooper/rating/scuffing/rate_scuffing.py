"""Scuffing of a stage by flash and by integral temperature."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, all_, as_float, where
from cooper.gears.inputs import PairInput, first_is_pinion
from cooper.gears.pair_shape import PairShape
from cooper.rating.scuffing.flash import Flash, flash, multiple_mesh_factor
from cooper.rating.scuffing.integral import Integral, integral, running_in_factor
from cooper.values import MeshValues

X_S = {"dip": 1.0, "spray": 1.2, "submerged": 0.2}
"""Lubrication factor of the bulk temperature by the way of lubrication. ISO/TS 6336-20, 6."""
STRUCTURE = {"NT": 1.5, "NV": 1.5, "NV nitrocar": 1.5}
"""Structural factor X_W by material group; 1 for the others. ISO/TS 6336-20, 9."""
TREATMENT = {
    "phosphated": 1.25,
    "copper plated": 1.5,
    "little retained austenite": 1.15,
    "much retained austenite": 0.85,
}
"""Structural factor X_W of treated flanks, and of case-hardened ones with below 20 % or above 30 % of retained
austenite."""
STEEL = 150e3
"""Modulus of elasticity (MPa) from which a gear counts as steel, which both methods are made for."""


def scuffs(p: PairInput) -> bool:
    """Whether the methods hold for both materials.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.

    Returns
    -------
    bool
        True where both are of steel.
    """
    return all(all_(g.material.E >= STEEL) for g in p.gears)


def structural_factor(group: str, treatment: str) -> float:
    """X_W of flanks by material group and treatment.

    Parameters
    ----------
    group : str
        Material group.
    treatment : str
        Treatment of the flank.

    Returns
    -------
    float
        X_W.

    References
    ----------
    ISO/TS 6336-20, 9.

    Examples
    --------
    >>> structural_factor("Eh", "phosphated"), structural_factor("NV", "none"), structural_factor("V", "none")
    (1.25, 1.5, 1.0)
    """
    return TREATMENT.get(treatment, STRUCTURE.get(group, 1.0))


def rate_scuffing(
    p: PairInput, n: PairShape, X_W: float, lubrication: str, S_FZG: float, phi_E: float, first_drives: bool = True
) -> None:
    """Add temperatures and safeties of scuffing to the values of a rated pair of steel.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    n : PairShape
        Geometry and values of the pairs; the results are added to its values.
    X_W : float
        Structural factor, of two different flanks that of the one that scuffs more easily.
    lubrication : str
        A key of `X_S`.
    S_FZG : float
        Failure load stage of the oil.
    phi_E : float
        1 for flanks that are run in to 0 for new ones.
    first_drives : bool
        False where power goes the other way through the mesh of a set, relative to the carrier.

    References
    ----------
    ISO/TS 6336-20 and -21.
    """
    m = n.mesh
    mat = [g.material for g in p.gears]
    K = m.K_A * m.K_gamma * m.K_V * m.K_Hbeta * m.K_Halpha
    w_Bt = K * m.F_t / m.b_H
    v_w = pitch_line_speed(p, n)
    Ra = (p.gears[0].Rz_H + p.gears[1].Rz_H) / 2 / 6
    Q = np.maximum(p.gears[0].Q, p.gears[1].Q)
    n_p = np.maximum(p.gears[0].meshes, p.gears[1].meshes)
    path = (m.g_A, m.g_B, m.g_C, m.g_D, m.g_E)
    f = flash(
        path,
        n.path.T2,
        m.u,
        p.omega_1,
        w_Bt,
        m.rho_red,
        m.alpha_t,
        m.alpha_wt,
        v_w,
        m.beta_b,
        (m.eps_alpha, m.eps_beta),
        (mat[0].E, mat[0].nu, mat[1].E, mat[1].nu),
        Q,
        Ra,
        m.eta_oil,
        p.X_L,
        X_W,
        X_S[lubrication],
        S_FZG,
        p.theta_oil,
        n_p,
    )
    softness = ((1 - mat[0].nu ** 2) / mat[0].E + (1 - mat[1].nu ** 2) / mat[1].E) / 2
    # What the load bends the teeth: one pair of spur teeth, all that touch of helical ones.
    bent = m.w_t / where(as_float(p.beta) == 0, m.c_s, m.c_gamma)
    relief = where(as_float(p.C_a) > 0, p.C_a / bent, 0.0)
    # The method looks at the pinion's tip; the pinion is the gear with fewer teeth, whoever drives.
    first = first_is_pinion(p)
    g_E, u = where(first, m.g_E, n.path.T2 - m.g_A), where(first, m.u, 1 / m.u)
    eps_1, eps_2 = where(first, n.path.eps_1, n.path.eps_2), where(first, n.path.eps_2, n.path.eps_1)
    t = integral(
        n.path.T2,
        g_E,
        u,
        p.a_w,
        v_w,
        w_Bt,
        m.rho_red,
        (m.alpha_wt, m.alpha_t, p.alpha_n),
        p.beta,
        (m.eps_alpha, eps_1, eps_2, m.eps_gamma),
        m.eta_oil,
        Ra,
        p.X_L,
        X_W,
        X_S[lubrication],
        S_FZG,
        p.theta_oil,
        1 / softness,
        relief,
        first == first_drives,
        Q,
        n_p,
        phi_E,
        nu_40=p.nu_40,
    )
    m.update(w_Bt=w_Bt, S_FZG=as_float(S_FZG), X_W=as_float(X_W))
    _add_temperatures(m, f, t)
    m.update(X_mp=multiple_mesh_factor(n_p), X_E=running_in_factor(phi_E, Ra, m.rho_red))


def _add_temperatures(m: MeshValues[Array], f: Flash, t: Integral) -> None:
    """What flash and integral temperature came to, into the values."""
    m.update(mu_m=f.mu_m, theta_fl=f.theta_fl, g_fl=f.g_max, theta_M=f.theta_M, theta_B=f.theta_B)
    m.update(theta_S=f.theta_S, S_B=f.S_B)
    m.update(mu_mC=t.mu_mC, theta_flaint=t.theta_flaint, theta_int=t.theta_int, theta_Sint=t.theta_Sint, S_int=t.S_int)


def pitch_line_speed(p: PairInput, n: PairShape) -> Array:
    """Speed at the working pitch circle.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    n : PairShape
        Geometry and values of the pairs; the results are added to its values.

    Returns
    -------
    Array
        Speed (m/s).
    """
    return np.abs(n.gears[0].d_w) * p.omega_1 / 2000

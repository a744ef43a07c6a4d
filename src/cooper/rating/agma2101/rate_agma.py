"""A stage rated by ANSI/AGMA 2101-D04, beside or in place of ISO 6336."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, Real, all_, as_float, clip, where
from cooper.gears.inputs import PairInput, first_is_pinion
from cooper.gears.pair_shape import PairShape
from cooper.rating.agma2101 import factors
from cooper.rating.agma2101.geometry import (
    MeshGeometry,
    bending_geometry_factor,
    load_sharing_ratio,
    pitting_geometry_factor,
)
from cooper.rating.iso6336.root_stress import rim_factor

IDLER = 0.7
"""Share of the bending strength that is left to teeth bent both ways. ANSI/AGMA 2101-D04, 16."""
Y_THETA = 1.0
"""Temperature factor up to gear blanks of 120 degrees C. ANSI/AGMA 2101-D04, 19."""
Z_SURFACE = 1.0
"""Surface condition factor, for which the standard states no other value. ANSI/AGMA 2101-D04, 13."""


class AgmaInput(Struct, frozen=True, kw_only=True):
    """What the method asks for beside the pair: grade A_v (None: the flank class stands for it), entered K_s, mesh
    alignment factors, place of the pinion between its bearings, whether leads are modified and contact adjusted,
    reliability factor, life curves; of each gear its stress numbers with kind and hardness
    (`cooper.stock.agma_tables`), and whether its teeth are bent both ways."""

    A_v: float | None
    K_s: float
    alignment: tuple[float, float, float]
    offset: float
    modified: bool
    adjusted: bool
    Y_Z: float
    critical: bool
    numbers: tuple[tuple[float, float, str, float], tuple[float, float, str, float]]
    both_ways: tuple[bool, bool]


def mesh_geometry(p: PairInput, n: PairShape) -> tuple[MeshGeometry, MeshGeometry]:
    """The mesh as AGMA 908 looks at it, from the pinion's end of the path and from the wheel's; the pinion is the gear
    with fewer teeth, whoever drives.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    n : PairShape
        Geometry and values of the pairs; the results are added to its values.

    Returns
    -------
    tuple[MeshGeometry, MeshGeometry]
        The mesh from the pinion's end of the path, and from the wheel's.

    References
    ----------
    AGMA 908-B89.
    """
    m = n.mesh
    first = first_is_pinion(p)

    def by_size(a: Real, b: Real) -> tuple[Array, Array]:
        return where(first, a, b), where(first, b, a)

    (one, two), T2 = n.teeth, n.path.T2
    tips, bases = by_size(one.d_a, two.d_a), by_size(one.d_b, two.d_b)
    mean = (tips[0] / 2 + p.a_w - tips[1] / 2) / 2
    g_m = np.sqrt(np.maximum(mean**2 - (bases[0] / 2) ** 2, 0))
    inner = by_size(m.g_B, T2 - m.g_D)
    p_x = np.pi * p.m_n / np.maximum(np.sin(p.beta), 1e-12)
    half = m.b_H / where(p.double_helix, 2.0, 1.0)
    at = MeshGeometry(
        inner[0],
        g_m,
        T2,
        m.g_alpha,
        np.pi * p.m_n * np.cos(p.alpha_n),
        m.alpha_wt,
        m.beta_b,
        by_size(n.gears[0].d_w, n.gears[1].d_w)[0],
        m.eps_beta,
        load_sharing_ratio(m.eps_alpha, m.eps_beta, half, p_x, m.beta_b),
    )
    return at, replace(at, g_B=inner[1], g_m=T2 - g_m)


def rate_agma(p: PairInput, n: PairShape, at: AgmaInput) -> None:
    """Add stress numbers, factors and safeties by ANSI/AGMA 2101-D04 to the values of a pair.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    n : PairShape
        Geometry and values of the pairs; the results are added to its values.
    at : AgmaInput
        What the method asks for beside the pairs.

    Notes
    -----
    Of an internal pair those of pitting alone, as AGMA 908 has no bending geometry factor of internal teeth.

    References
    ----------
    ANSI/AGMA 2101-D04.
    """
    m = n.mesh
    geometry, from_wheel = mesh_geometry(p, n)
    d_w1, b, first = geometry.d_w1, m.b_H, first_is_pinion(p)
    F_w = 2000 * p.T_1 / n.gears[0].d_w
    v_t = n.gears[0].d_w * p.omega_1 / 2000
    A_v = np.maximum(p.gears[0].Q, p.gears[1].Q) if at.A_v is None else as_float(at.A_v)
    m.update(
        F_w=F_w,
        A_v=clip(A_v, 6, 12),
        K_vA=factors.dynamic_factor(A_v, v_t),
        K_s=as_float(at.K_s),
        K_HA=factors.load_distribution_factor(b, d_w1, at.offset, at.alignment, at.modified, at.adjusted),
        Z_I=pitting_geometry_factor(geometry),
        m_N=geometry.m_N,
        v_wt=v_t,
        Y_Z=as_float(at.Y_Z),
        Y_theta=as_float(Y_THETA),
        Z_RA=as_float(Z_SURFACE),
    )
    K = m.K_A * m.K_gamma * m.K_vA * m.K_s * m.K_HA
    sigma_H = factors.contact_stress(m.Z_E, F_w, K * m.Z_RA, d_w1, b, m.Z_I)
    numbers = at.numbers
    for i, (g, tooth) in enumerate(zip(n.gears, n.teeth, strict=True)):
        mate = 1 - i
        pinion = first if i == 0 else np.logical_not(first)
        seen = replace(
            geometry,
            g_B=where(pinion, geometry.g_B, from_wheel.g_B),
            g_m=where(pinion, geometry.g_m, from_wheel.g_m),
        )
        sigma_HP, sigma_FP, kind, HB = numbers[i]
        Z_W: Real = 1.0
        # The wheel, of steel like its pinion; of two gears with one count each may be it.
        if p.gears[i].material.steel > 0 and p.gears[mate].material.steel > 0:
            u = np.abs(tooth.z / n.teeth[mate].z)
            harder = factors.hardness_ratio_factor(numbers[mate][3], HB, u, p.gears[mate].Rz_H / 6)
            Z_W = where(u >= 1, harder, 1.0)
        Z_N = factors.contact_cycle_factor(g.N_L, kind == "nitrided", at.critical)
        shared = m.Y_theta * m.Y_Z
        values: dict[str, Real] = {
            "sigma_HA": sigma_H,
            "sigma_HP0": sigma_HP,
            "Z_N": Z_N,
            "Z_WA": Z_W,
            "sigma_HPA": sigma_HP * Z_N * Z_W / shared,
            "p_HA": np.sqrt(F_w / (d_w1 * b)),
        }
        if all_(n.teeth[1].sign > 0):
            bending = bending_geometry_factor(tooth, seen, m.eps_alpha, g.at_tip)
            K_B = rim_factor(g.s_R, g.h)
            Y_N = factors.bending_cycle_factor(g.N_L, HB, kind, at.critical)
            both = IDLER if at.both_ways[i] else 1.0
            values |= {
                "Y_J": bending.Y_J,
                "K_f": bending.K_f,
                "Y_AGMA": bending.Y,
                "K_B": K_B,
                "sigma_FP0": sigma_FP,
                "Y_N": Y_N,
                "Y_both": both,
                "sigma_FA": factors.bending_stress(F_w, K * K_B, b, tooth.m_t, bending.Y_J),
                "sigma_FPA": sigma_FP * Y_N * both / shared,
                "p_FA": F_w / (b * tooth.m_t),
            }
        g.update({k: as_float(v) for k, v in values.items()})
        for own, kind_ in (("S_HA", "H"), ("S_FA", "F")):
            if f"sigma_{kind_}A" in g:
                g[own] = g[f"sigma_{kind_}PA"] / g[f"sigma_{kind_}A"]

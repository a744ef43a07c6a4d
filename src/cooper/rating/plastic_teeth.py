"""Warmth, wear and deflection of pairs with plastic teeth, as arrays over designs. VDI 2736-2:2014."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from cooper.arrays import Array, all_, any_, as_float, where
from cooper.gears.inputs import PairInput
from cooper.rating.plastics import flank_wear, housing_warming, tip_deflection, tooth_warming
from cooper.stock.materials import at_temperature
from cooper.values import GearValues, MeshValues


def any_plastic(p: PairInput) -> bool:
    """Whether a gear of the pairs is of plastic.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.

    Returns
    -------
    bool
        True where a gear is.
    """
    return any_([any_(as_float(g.material.plastic) > 0) for g in p.gears])


def rate_plastics(p: PairInput, mesh: MeshValues[Array], gears: tuple[GearValues[Array], ...]) -> PairInput:
    """The input with its plastics at the temperature of their teeth; deflection and wear into the values.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    mesh : MeshValues[Array]
        Values of the mesh by symbol; the results are added to them.
    gears : tuple[GearValues[Array], ...]
        Values of both gears by symbol; the results are added to them.

    Returns
    -------
    PairInput
        The input with the moduli and strengths of its plastics at the temperature of their teeth.

    References
    ----------
    VDI 2736-2.
    """
    if not any_plastic(p):
        return p
    P_loss = p.T_1 * p.omega_1 * p.mu_plastic * mesh.H_V
    warms = np.asarray(p.warms, dtype=bool)
    around = p.theta_0 + housing_warming(P_loss * p.copies + p.P_beside, p.R_by_A, 1.0, p.ED)
    warm_gears = []
    for i, (gear, g) in enumerate(zip(p.gears, gears, strict=True)):
        if not any_(as_float(gear.material.plastic) > 0):
            warm_gears.append(gear)
            continue
        own = [
            tooth_warming(
                P_loss * gear.meshes,
                mesh.b_H,
                gears[0].z if gear.teeth_cut is not None else g.z,
                mesh.v,
                p.m_n,
                k,
                p.ED,
            )
            for k in gear.k_theta
        ]
        flank, root_ = (where(warms, around + k, p.theta_gears) for k in own)
        g.theta_Fla, g.theta_Fuss = flank, root_
        warm_gears.append(replace(gear, material=at_temperature(gear.material, flank, root_)))
        # From the flank's end at the root to its end at the tip along the involute.
        l_Fl = np.abs(g.d_Na**2 - g.d_Nf**2) / (4 * np.abs(g.d_b))
        g.l_Fl = l_Fl
        if all_(np.isfinite(gear.k_W)):
            # The teeth of a rack share the work that its pinion does in all its turns.
            z, T, N_L = g.z, p.T_1 * (1.0 if i == 0 else np.abs(mesh.u)), g.N_L
            if gear.teeth_cut is not None:
                z, T, N_L = as_float(gear.teeth_cut), p.T_1, gears[0].N_L
            g.k_W, g.delta_W = as_float(gear.k_W), flank_wear(T, N_L, mesh.H_V, gear.k_W, mesh.b_H, z, l_Fl)
    p = replace(p, gears=(warm_gears[0], warm_gears[1]))
    mesh.lambda_t = tip_deflection(mesh.F_t * mesh.K_A * mesh.K_gamma, mesh.b_H, p.beta, *stiff_as(p))
    return p


def stiff_as(p: PairInput) -> list[Array]:
    """Moduli of the teeth as a whole: of plastics at the temperature of their roots.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.

    Returns
    -------
    list[Array]
        Moduli of both gears (MPa).
    """
    return [g.material.E if g.material.E_root is None else g.material.E_root for g in p.gears]

"""Micropitting of a stage by the least film along the path of contact."""

from __future__ import annotations

import numpy as np

from cooper.design.document import Gear, Lubricant
from cooper.design.pair_numbers import PairInput, PairNumbers
from cooper.design.scuffing import X_S, scuffs
from cooper.rating.iso6336.micropitting import TEST_FACTOR, Oil, film, reference_film
from cooper.running.viscosity import density, kinematic_viscosity

MATERIAL = {"Eh": 1.0, "IF": 0.65, "NT": 1.5, "NV": 1.5, "NV nitrocar": 1.5, "V": 0.5, "V carbon": 0.5, "V cast": 0.5}
"""Material factor W_W by group; of case-hardened flanks with much retained austenite 0.95. ISO/TS 6336-22, 5."""
AUSTENITE = 0.95


def material_factor(gear: Gear) -> float | None:
    """W_W of a gear, None where the method has no value."""
    if gear.material.group == "Eh" and gear.treatment == "much retained austenite":
        return AUSTENITE
    return MATERIAL.get(gear.material.group)


def no_micropitting(p: PairInput, gears: tuple[Gear, Gear], oil: Lubricant) -> str:
    """Why micropitting is not rated; empty where it is."""
    if not scuffs(p) or any(material_factor(g) is None for g in gears):
        return "ISO/TS 6336-22 has material factors for steel alone"
    if oil.S_GF is None:
        return "the oil's failure load stage in the micropitting test (S_GF) is not given"
    return ""


def add_micropitting(p: PairInput, n: PairNumbers, gears: tuple[Gear, Gear], lubrication: str, oil: Lubricant) -> None:
    """Least specific film, the permissible one and the safety into the values of a pair."""
    if no_micropitting(p, gears, oil) or oil.S_GF is None:
        return
    m = n.mesh
    mat = [g.material for g in p.gears]
    E_r = 2 / sum((1 - x.nu**2) / x.E for x in mat)
    K = m["K_A"] * m["K_gamma"] * m["K_V"] * m["K_Hbeta"] * m["K_Halpha"]
    Ra = (p.gears[0].Rz_H + p.gears[1].Rz_H) / 2 / 6
    own = Oil(lambda theta: kinematic_viscosity(oil.nu_40, oil.nu_100, theta) * density(oil.rho_15, theta) * 1e-6, oil.kind, oil.X_L)
    f = film(
        (m["g_A"], m["g_B"], m["g_C"], m["g_D"], m["g_E"]), n.path.T2, m["u"], p.omega_1, m["beta_b"], (m["eps_alpha"], m["eps_beta"]),
        np.maximum(p.gears[0].Q, p.gears[1].Q), m["F_bt"], m["b_H"], K, p.T_1 * p.omega_1 / 1000, m["H_V"], p.a_w, E_r, Ra, own,
        p.theta_oil, X_S[lubrication],
    )  # fmt: skip
    least = np.argmin(f.lambda_GF, axis=0)[None]
    at = np.take_along_axis(f.lambda_GF, least, 0)[0]
    W_W = min(material_factor(g) or 0.0 for g in gears)
    test = reference_film(oil.S_GF, oil.theta_GF, own)
    m.update(
        lambda_GF=at, g_GF=np.take_along_axis(f.g, least, 0)[0], h_GF=np.take_along_axis(f.h, least, 0)[0], theta_MGF=f.theta_M,
        W_W=np.asarray(W_W), lambda_GFT=test, lambda_GFP=TEST_FACTOR * W_W * test, S_lambda=at / (TEST_FACTOR * W_W * test),
    )  # fmt: skip

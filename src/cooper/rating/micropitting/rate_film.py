"""Micropitting of a stage by the least film along the path of contact."""

from __future__ import annotations

import numpy as np

from cooper.arrays import as_float
from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape
from cooper.rating.contact_points import path_under, reduced_modulus
from cooper.rating.micropitting.film import TEST_FACTOR, Oil, film, reference_film
from cooper.rating.scuffing.rate_scuffing import X_S

MATERIAL = {"Eh": 1.0, "IF": 0.65, "NT": 1.5, "NV": 1.5, "NV nitrocar": 1.5, "V": 0.5, "V carbon": 0.5, "V cast": 0.5}
"""Material factor W_W by group; of case-hardened flanks with much retained austenite 0.95. ISO/TS 6336-22, 5."""
AUSTENITE = 0.95


def material_factor(group: str, treatment: str) -> float | None:
    """W_W of flanks by material group and treatment.

    Parameters
    ----------
    group : str
        Material group.
    treatment : str
        Treatment of the flank.

    Returns
    -------
    float | None
        W_W, None where the method has no value.

    References
    ----------
    ISO/TS 6336-22:2018.

    Examples
    --------
    >>> material_factor("Eh", "none"), material_factor("Eh", "much retained austenite"), material_factor("GGG", "none")
    (1.0, 0.95, None)
    """
    if group == "Eh" and treatment == "much retained austenite":
        return AUSTENITE
    return MATERIAL.get(group)


def rate_film(p: PairInput, n: PairShape, W_W: float, lubrication: str, oil: Oil, S_GF: int, theta_GF: float) -> None:
    """Add least specific film, the permissible one and the safety against micropitting to the values of a rated pair.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    n : PairShape
        Geometry and values of the pairs; the results are added to its values.
    W_W : float
        Material factor, the lower of both flanks.
    lubrication : str
        A key of `X_S`.
    oil : Oil
        Viscosity by temperature, kind and lubricant factor of the oil.
    S_GF : int
        Failure load stage of the oil in the micropitting test.
    theta_GF : float
        Oil temperature of the test (degrees C).

    References
    ----------
    ISO/TS 6336-22, method B.
    """
    m = n.mesh
    mat = [g.material for g in p.gears]
    E_r = reduced_modulus(mat[0].E, mat[0].nu, mat[1].E, mat[1].nu)
    K = m.K_A * m.K_gamma * m.K_V * m.K_Hbeta * m.K_Halpha
    Ra = (p.gears[0].Rz_H + p.gears[1].Rz_H) / 2 / 6
    f = film(
        path_under(m, K * m.F_bt),
        n.path.T2,
        m.u,
        p.omega_1,
        m.beta_b,
        (m.eps_alpha, m.eps_beta),
        np.maximum(p.gears[0].Q, p.gears[1].Q),
        m.F_bt,
        m.b_H,
        K,
        p.T_1 * p.omega_1 / 1000,
        m.H_V,
        p.a_w,
        E_r,
        Ra,
        oil,
        p.theta_oil,
        X_S[lubrication],
    )
    least = np.argmin(f.lambda_GF, axis=0)[None]
    at = np.take_along_axis(f.lambda_GF, least, 0)[0]
    test = reference_film(S_GF, theta_GF, oil)
    m.update(
        lambda_GF=at,
        g_GF=np.take_along_axis(f.g, least, 0)[0],
        h_GF=np.take_along_axis(f.h, least, 0)[0],
        theta_MGF=f.theta_M,
        W_W=as_float(W_W),
        lambda_GFT=test,
        lambda_GFP=TEST_FACTOR * W_W * test,
        S_lambda=at / (TEST_FACTOR * W_W * test),
    )

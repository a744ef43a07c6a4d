"""Backlash of a pair from tooth thicknesses and centre distance. ISO 21771:2007, 9; ISO/TR 10064-2."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cooper.arrays import Array, Real
from cooper.gears.involute import inv


@dataclass(frozen=True)
class Backlash:
    """``j_wt`` circumferential at the working pitch circle, ``j_bn`` normal; mm.

    ``phi_1``, ``phi_2`` angle by which each gear turns while the other stands; rad.
    """

    j_wt: Array
    j_bn: Array
    phi_1: Array
    phi_2: Array


def circumferential(C: Real, z_sum: Real, m_t: Real, alpha_t: Real, a_w: Real) -> Array:
    """Circumferential backlash alone at many centre distances, for where the rest is not needed; mm.

    ``C`` is pi less both tooth thicknesses over the transverse module at the reference circles, ``z_sum`` the signed sum of
    counts. The same closed form as `backlash`, with one arc cosine.
    """
    p_cos = np.asarray(m_t) * np.cos(alpha_t)
    ratio = p_cos * z_sum / 2 / np.asarray(a_w, dtype=float)
    ratio = np.where(np.abs(ratio) < 1, ratio, np.nan)
    tangent = np.sqrt(1 - ratio**2) / ratio
    return np.asarray(p_cos / ratio * (C + z_sum * (tangent - np.arccos(ratio) - inv(alpha_t))))


def backlash(
    z_1: Real,
    z_2: Real,
    m_n: Real,
    alpha_n: Real,
    beta: Real,
    x_E1: Real,
    x_E2: Real,
    a_w: Real,
) -> Backlash:
    """Exact backlash at a centre distance from the generating shifts; negative where the teeth do not fit.

    The circumferential backlash is the pitch less both thicknesses on the working pitch circles of the actual
    centre distance. NaN where the base circles do not let the gears work.
    """
    alpha_t = np.arctan(np.tan(alpha_n) / np.cos(beta))
    z_1, z_2 = np.asarray(z_1, dtype=float), np.asarray(z_2, dtype=float)
    m_t = np.asarray(m_n) / np.cos(beta)
    # p_wt - s_w1 - s_w2 with d_w = d cos(alpha_t)/cos(alpha_wt); both thicknesses are pi/2 + 2 x tan(alpha_n) over the module.
    C = -2 * np.tan(alpha_n) * (np.asarray(x_E1) + x_E2)
    j_wt = circumferential(C, z_1 + z_2, m_t, alpha_t, a_w)
    cos_wt = m_t * (z_1 + z_2) / 2 * np.cos(alpha_t) / np.asarray(a_w, dtype=float)
    sin_b = np.sin(beta) * np.cos(alpha_n)
    u = z_2 / z_1
    d_w1 = 2 * np.asarray(a_w) / (1 + u)
    return Backlash(
        j_wt,
        j_wt * cos_wt * np.sqrt(1 - sin_b**2),
        2 * j_wt / np.abs(d_w1),
        2 * j_wt / np.abs(d_w1 * u),
    )

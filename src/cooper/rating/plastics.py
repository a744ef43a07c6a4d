"""Plastic gears beside their strength numbers. VDI 2736-2:2014."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real

GREATEST_DEFLECTION = 0.07
"""Deflection of the tooth tips, in modules, up to which plastic gears run without hard knocks. VDI 2736-2."""
LEAST_ROOT_SAFETY = 2.0
"""Safety against tooth breakage that is customary for plastics in continuous service. VDI 2736-2."""


def tip_deflection(F_t: Real, b: Real, beta: Real, E_1: Real, E_2: Real) -> Array:
    """Deflection of the tooth tips of a pair, 7.5 F_t/(b cos(beta)) (1/E_1 + 1/E_2); mm.

    ``F_t`` tangential force (N), ``b`` face width (mm), ``E`` moduli at the temperature of the teeth (MPa). VDI 2736-2.

    >>> round(float(tip_deflection(40.0, 10.0, 0.0, 2000.0, 206e3)), 5)
    0.01515
    """
    softness = 1 / np.asarray(E_1, dtype=float) + 1 / np.asarray(E_2, dtype=float)
    return np.asarray(7.5 * np.asarray(F_t) / (np.asarray(b) * np.cos(beta)) * softness)

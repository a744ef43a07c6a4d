"""Plastic gears beside their strength numbers: warmth of the teeth, wear, deflection. VDI 2736-2:2014."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float

GREATEST_DEFLECTION = 0.07
"""Deflection of the tooth tips, in modules, up to which plastic gears run without hard knocks. VDI 2736-2."""


def tip_deflection(F_t: Real, b: Real, beta: Real, E_1: Real, E_2: Real) -> Array:
    """Deflection of the tooth tips of a pair.

    Parameters
    ----------
    F_t : Real
        Tangential force (N).
    b : Real
        Face width (mm).
    beta : Real
        Helix angle at the reference cylinder (rad).
    E_1 : Real
        Modulus of gear 1 at the temperature of the teeth (MPa).
    E_2 : Real
        Modulus of gear 2 at the temperature of the teeth (MPa).

    Returns
    -------
    Array
        Deflection (mm).

    Notes
    -----
    7.5 F_t/(b cos(beta)) (1/E_1 + 1/E_2).

    References
    ----------
    VDI 2736-2.

    Examples
    --------
    >>> round(float(tip_deflection(40.0, 10.0, 0.0, 2000.0, 206e3)), 5)
    0.01515
    """
    softness = 1 / as_float(E_1) + 1 / as_float(E_2)
    return as_float(7.5 * as_float(F_t) / (as_float(b) * np.cos(beta)) * softness)


def tooth_warming(P_loss: Real, b: Real, z: Real, v_t: Real, m_n: Real, k_theta: Real, ED: Real) -> Array:
    """Warming of the teeth of one gear by the friction of its mesh.

    Parameters
    ----------
    P_loss : Real
        Friction power of the mesh (W).
    b : Real
        Common face width (mm).
    z : Real
        Teeth of the gear.
    v_t : Real
        Speed at the reference circle (m/s).
    m_n : Real
        Normal module (mm).
    k_theta : Real
        Heat transfer number of flank or root (K (m/s)^0.75 mm^1.75/W).
    ED : Real
        Share of the time under load, 0 to 1.

    Returns
    -------
    Array
        Warming (K).

    Notes
    -----
    P_loss k_theta/(b z (v_t m_n)^0.75) ED^0.64.

    References
    ----------
    VDI 2736-2, 6.2.

    Examples
    --------
    >>> round(float(tooth_warming(0.5, 10.0, 20, 1.0, 1.0, 9000.0, 1.0)), 3)
    22.5
    """
    moved = (as_float(v_t) * as_float(m_n)) ** 0.75
    return as_float(as_float(P_loss) * as_float(k_theta) / (as_float(b) * np.abs(z) * moved) * as_float(ED) ** 0.64)


def housing_warming(P_loss: Real, R_lambda: Real, A_G: Real, ED: Real) -> Array:
    """Warming of the air within a housing by all friction in it.

    Parameters
    ----------
    P_loss : Real
        Friction power of all that is in the housing (W).
    R_lambda : Real
        Thermal resistance of the housing (K m2/W).
    A_G : Real
        Area of the housing that gives off heat (m2).
    ED : Real
        Share of the time under load, 0 to 1.

    Returns
    -------
    Array
        Warming (K).

    Notes
    -----
    P_loss R_lambda/A_G ED^0.64.

    References
    ----------
    VDI 2736-2, 6.2.

    Examples
    --------
    >>> float(housing_warming(2.0, 0.06, 0.012, 1.0))
    10.0
    """
    return as_float(as_float(P_loss) * as_float(R_lambda) / as_float(A_G) * as_float(ED) ** 0.64)


def flank_wear(T: Real, N_L: Real, H_V: Real, k_W: Real, b: Real, z: Real, l_Fl: Real) -> Array:
    """Mean linear wear of the flanks of a gear.

    Parameters
    ----------
    T : Real
        Torque of the gear (N m).
    N_L : Real
        Load cycles of the gear.
    H_V : Real
        Tooth loss factor.
    k_W : Real
        Wear coefficient (mm3/MJ, the same as 1e-6 mm3/(N m)).
    b : Real
        Common face width (mm).
    z : Real
        Teeth of the gear.
    l_Fl : Real
        Length of the active flank along the profile (mm).

    Returns
    -------
    Array
        Wear (mm).

    Notes
    -----
    2 pi T N_L H_V k_W/(b z l_Fl).

    References
    ----------
    VDI 2736-2, 6.5.

    Examples
    --------
    >>> round(float(flank_wear(1.0, 1e6, 0.1, 1.0, 10.0, 20, 2.0)), 5)
    0.00157
    """
    sliding = 2 * np.pi * as_float(T) * as_float(N_L) * as_float(H_V)
    return as_float(sliding * as_float(k_W) * 1e-6 / (as_float(b) * np.abs(z) * as_float(l_Fl)))

"""Losses without load, and those of bearings and seals. ISO/TR 14179-1:2001 and ISO/TR 14179-2:2001."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip, where

A_G = 0.2
"""Arrangement constant of churning. ISO/TR 14179-1, 5."""


def dip_factor(h_e: Real, d_a: Real) -> Array:
    """Share f_g of a gear that the oil acts on: 0 free, 1 submerged, even between.

    Parameters
    ----------
    h_e : Real
        Immersion (mm).
    d_a : Real
        Tip diameter (mm).

    Returns
    -------
    Array
        f_g.

    References
    ----------
    ISO/TR 14179-1, 5.

    Examples
    --------
    >>> float(dip_factor(20.0, 100.0)), float(dip_factor(0.0, 100.0)), float(dip_factor(150.0, 100.0))
    (0.2, 0.0, 1.0)
    """
    return as_float(clip(as_float(h_e) / as_float(d_a), 0, 1))


def churning_1(f_g: Real, nu: Real, n: Real, d_a: Real, b: Real, m_t: Real, beta: Real) -> Array:
    """Churning and windage of one gear: its teeth and both its sides.

    Parameters
    ----------
    f_g : Real
        Share by `dip_factor`.
    nu : Real
        Kinematic viscosity at the oil temperature (mm2/s).
    n : Real
        Speed (1/min).
    d_a : Real
        Tip diameter (mm).
    b : Real
        Face width (mm).
    m_t : Real
        Transverse module (mm).
    beta : Real
        Helix angle (rad); at least 10 degrees counts.

    Returns
    -------
    Array
        Loss (W).

    References
    ----------
    ISO/TR 14179-1, 5.

    Examples
    --------
    >>> round(float(churning_1(0.1, 100.0, 500.0, 200.0, 40.0, 2.0, 0.0)), 1)
    17.3
    """
    common = as_float(f_g) * as_float(nu) * as_float(n) ** 3 / (A_G * 1e26)
    rough = 7.93 - 4.648 / as_float(m_t)
    lean = np.sqrt(np.tan(np.maximum(np.abs(beta), np.radians(10))))
    teeth = 7.37 * as_float(d_a) ** 4.7 * b * np.maximum(rough, 0.5) / lean
    return as_float(1000 * common * (teeth + 1.474 * as_float(d_a) ** 5.7))


def churning_2(h_e1: Real, h_e2: Real, b: Real, v_t: Real, n: Real, h_C: Real, l_h: Real) -> Array:
    """Churning of a pair that dips.

    Parameters
    ----------
    h_e1 : Real
        Immersion of gear 1 (mm).
    h_e2 : Real
        Immersion of gear 2 (mm).
    b : Real
        Face width (mm).
    v_t : Real
        Pitch line speed (m/s).
    n : Real
        Speed of the dipping gear (1/min).
    h_C : Real
        Height of the mesh above its lowest point (mm).
    l_h : Real
        Hydraulic length of the sump, four times its area over its edge (mm).

    Returns
    -------
    Array
        Loss (W).

    References
    ----------
    ISO/TR 14179-2, 6.

    Examples
    --------
    >>> round(float(churning_2(0.0, 20.0, 40.0, 5.0, 500.0, 100.0, 200.0)), 2)
    7.63
    """
    total = as_float(h_e1) + h_e2
    splash = (4 * np.maximum(h_e1, h_e2) / (3 * as_float(h_C))) ** 1.5 * 2 * as_float(h_C) / l_h
    C_1 = 0.063 * total / 10 + 0.0128 * (as_float(b) / 10) ** 3
    C_2 = total / 800 + 0.2
    torque = splash * C_1 * np.exp(C_2 * as_float(v_t) / 10)
    return where(total > 0, torque * np.pi * as_float(n) / 30, 0.0)


def bearing_loss(F: Real, mu: Real, f_0: Real, d: Real, d_m: Real, nu: Real, n: Real) -> Array:
    """Loss of one bearing: its load at the bore and the oil at the mean diameter.

    Parameters
    ----------
    F : Real
        Load (N).
    mu : Real
        Coefficient of friction by type of bearing.
    f_0 : Real
        Coefficient of the oil by type of bearing.
    d : Real
        Bore (mm).
    d_m : Real
        Mean diameter (mm).
    nu : Real
        Kinematic viscosity at the oil temperature (mm2/s).
    n : Real
        Speed (1/min).

    Returns
    -------
    Array
        Loss (W).

    References
    ----------
    ISO/TR 14179-1, 6.

    Examples
    --------
    >>> round(float(bearing_loss(2000.0, 0.0015, 2.0, 30.0, 43.5, 100.0, 1500.0)), 2)
    14.37
    """
    thick = as_float(nu) * n
    oil = 1e-7 * as_float(f_0) * where(thick >= 2000, thick ** (2 / 3), 160.0) * as_float(d_m) ** 3
    load = as_float(mu) * np.abs(F) * as_float(d) / 2
    return as_float((load + oil) / 1000 * np.pi * as_float(n) / 30)


def seal_loss_1(d: Real, n: Real, kind: str) -> Array:
    """Loss of a rubbing shaft seal by its material.

    Parameters
    ----------
    d : Real
        Diameter of the shaft (mm).
    n : Real
        Speed (1/min).
    kind : str
        Material, "FKM" or "NBR".

    Returns
    -------
    Array
        Loss (W).

    References
    ----------
    ISO/TR 14179-1, 7.

    Examples
    --------
    >>> round(float(seal_loss_1(30.0, 1500.0, "FKM")), 1)
    17.6
    """
    torque = {"FKM": 0.003737, "NBR": 0.002429}[kind] * as_float(d)
    return as_float(torque * np.pi * as_float(n) / 30)


def seal_loss_2(d: Real, n: Real, theta_oil: Real, nu_40: Real) -> Array:
    """Loss of a rubbing shaft seal from the oil.

    Parameters
    ----------
    d : Real
        Diameter of the shaft (mm).
    n : Real
        Speed (1/min).
    theta_oil : Real
        Oil temperature (degrees C).
    nu_40 : Real
        Kinematic viscosity of the oil at 40 degrees C (mm2/s).

    Returns
    -------
    Array
        Loss (W).

    References
    ----------
    ISO/TR 14179-2, 8.

    Examples
    --------
    >>> round(float(seal_loss_2(30.0, 1500.0, 60.0, 220.0)), 1)
    24.1
    """
    drag = 145 - 1.6 * as_float(theta_oil) + 350 * np.log10(np.log10(as_float(nu_40) + 0.8))
    return as_float(np.maximum(drag, 0) * as_float(d) ** 2 * n * 1e-7)

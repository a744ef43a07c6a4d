"""Sections of a shaft: their moduli, nominal stresses, mass and torsion."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float


def bending_modulus(d: Real, d_i: Real = 0.0) -> Array:
    """Bending modulus W_b = pi (d^4 - d_i^4) / (32 d).

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_i : Real
        Bore (mm), 0 for a solid shaft.

    Returns
    -------
    Array
        Modulus (mm3).

    References
    ----------
    DIN 743-1:2012, table of nominal stresses.

    Examples
    --------
    >>> round(float(bending_modulus(30.0)), 1)
    2650.7
    """
    d = as_float(d)
    return as_float(np.pi * (d**4 - as_float(d_i) ** 4) / (32 * d))


def torsion_modulus(d: Real, d_i: Real = 0.0) -> Array:
    """Torsion modulus W_t = 2 W_b.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_i : Real
        Bore (mm), 0 for a solid shaft.

    Returns
    -------
    Array
        Modulus (mm3).

    References
    ----------
    DIN 743-1:2012.

    Examples
    --------
    >>> round(float(torsion_modulus(30.0)), 1)
    5301.4
    """
    return as_float(2 * bending_modulus(d, d_i))


def section_area(d: Real, d_i: Real = 0.0) -> Array:
    """Area of the section, A = pi (d^2 - d_i^2) / 4.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_i : Real
        Bore (mm), 0 for a solid shaft.

    Returns
    -------
    Array
        Area (mm2).

    Examples
    --------
    >>> round(float(section_area(30.0, 10.0)), 2)
    628.32
    """
    return as_float(np.pi * (as_float(d) ** 2 - as_float(d_i) ** 2) / 4)


def shaft_mass(d: Real, d_i: Real, length: Real, rho: float = 7850.0) -> Array:
    """Mass of a piece of shaft.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_i : Real
        Bore (mm), 0 for a solid shaft.
    length : Real
        Length (mm).
    rho : float
        Density (kg/m3).

    Returns
    -------
    Array
        Mass (kg).

    Examples
    --------
    >>> round(float(shaft_mass(40.0, 0.0, 100.0)), 4)
    0.9865
    """
    return as_float(section_area(d, d_i) * as_float(length) * rho * 1e-9)


def twist(T: Real, d: Real, d_i: Real, length: Real, G: float = 79300.0) -> Array:
    """Angle by which a torque twists a piece of shaft: T l / (G I_p).

    Parameters
    ----------
    T : Real
        Torque (N m).
    d : Real
        Diameter (mm).
    d_i : Real
        Bore (mm), 0 for a solid shaft.
    length : Real
        Length (mm).
    G : float
        Shear modulus (MPa).

    Returns
    -------
    Array
        Angle (rad).

    Examples
    --------
    >>> round(float(twist(100.0, 30.0, 0.0, 200.0)), 6)
    0.003172
    """
    polar = np.pi * (as_float(d) ** 4 - as_float(d_i) ** 4) / 32
    return as_float(1000 * as_float(T) * length / (G * polar))

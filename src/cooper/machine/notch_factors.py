"""How notches of a shaft weaken it: form factors from geometry, and notch factors. DIN 743-2:2012.

Each function gives bending, torsion and tension together, as arrays with a last axis of three in the order `LOADS`.
"""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, where

LOADS = ("tension", "bending", "torsion")
"""The loads in the order of the last axis."""

SHOULDER = ((0.62, 3.5, 0.0, 0.0), (0.62, 5.8, 0.2, 3.0), (3.4, 19.0, 1.0, 2.0))
GROOVE = ((0.22, 1.37, 0.0, 0.0), (0.2, 2.75, 0.0, 0.0), (0.7, 10.3, 0.0, 0.0))
"""Constants A, B, C, z of the form factors of shoulder and round groove. DIN 743-2:2012, 5.3."""


def _form(constants: tuple[tuple[float, ...], ...], d: Real, D: Real, r: Real) -> Array:
    d, D, r = (as_float(v) for v in (d, D, r))
    t = np.maximum((D - d) / 2, 1e-9)
    result = []
    for A, B, C, z in constants:
        under = A * r / t + 2 * B * r / d * (1 + 2 * r / d) ** 2 + C * (r / t) ** z * d / D
        result.append(1 + 1 / np.sqrt(under))
    return np.stack(np.broadcast_arrays(*result), axis=-1)


def shoulder_form(d: Real, D: Real, r: Real) -> Array:
    """Form factors alpha of a shoulder.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    D : Real
        Greater diameter of the shoulder, or the shaft's (mm).
    r : Real
        Fillet radius (mm).

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    alpha = 1 + 1 / sqrt(A r/t + 2 B r/d (1 + 2 r/d)^2 + C (r/t)^z d/D), t = (D - d) / 2.

    References
    ----------
    DIN 743-2:2012, 5.3.2.

    Examples
    --------
    >>> [round(float(v), 3) for v in shoulder_form(40.0, 50.0, 2.0)]
    [2.22, 2.021, 1.514]
    """
    return _form(SHOULDER, d, D, r)


def groove_form(d: Real, D: Real, r: Real) -> Array:
    """Form factors of a round groove.

    Parameters
    ----------
    d : Real
        Diameter in the ground of the groove (mm).
    D : Real
        Diameter of the shaft (mm).
    r : Real
        Radius of the groove (mm).

    Returns
    -------
    Array
        Tension, bending, torsion.

    References
    ----------
    DIN 743-2:2012, 5.3.1.

    Examples
    --------
    >>> [round(float(v), 3) for v in groove_form(40.0, 50.0, 2.0)]
    [2.985, 2.557, 1.809]
    """
    return _form(GROOVE, d, D, r)


def support(d: Real, D: Real, r: Real, sigma_S: Real, hard: bool = False, groove: bool = False) -> Array:
    """Support number n by which the fall of stress below the notch relieves it.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    D : Real
        Greater diameter of the shoulder, or the shaft's (mm).
    r : Real
        Fillet radius (mm).
    sigma_S : Real
        Yield point of the part (MPa).
    hard : bool
        Whether the surface is hardened.
    groove : bool
        Whether the notch is a groove, else a shoulder.

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    n = 1 + sqrt(G') 10^-(0.33 + sigma_S / 712), with hard surface 10^-0.7; G' = 2.3 (1 + phi) / r of a shoulder, 2 (1 +
    phi) / r of a groove, 1.15 / r and 1 / r in torsion; phi = 1 / (4 sqrt(t/r) + 2) from d/D = 0.67 on, else 0.

    References
    ----------
    DIN 743-2:2012, 5.2.

    Examples
    --------
    >>> [round(float(v), 4) for v in support(40.0, 50.0, 2.0, 600.0)]
    [1.0763, 1.0763, 1.0509]
    """
    d, D, r = (as_float(v) for v in (d, D, r))
    t = np.maximum((D - d) / 2, 1e-9)
    phi = where(d / D > 0.67, 1 / (4 * np.sqrt(t / r) + 2), 0.0)
    steep, shear = (2.0, 1.0) if groove else (2.3, 1.15)
    G = np.stack(np.broadcast_arrays(steep * (1 + phi) / r, steep * (1 + phi) / r, shear / r), axis=-1)
    power = -0.7 if hard else -(0.33 + as_float(sigma_S) / 712)
    return as_float(1 + np.sqrt(G) * as_float(10.0**power)[..., None])


def shoulder_notch(d: Real, D: Real, r: Real, sigma_S: Real, hard: bool = False) -> Array:
    """Notch factors beta = alpha / n of a shoulder, at least 1.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    D : Real
        Greater diameter of the shoulder, or the shaft's (mm).
    r : Real
        Fillet radius (mm).
    sigma_S : Real
        Yield point of the part (MPa).
    hard : bool
        Whether the surface is hardened.

    Returns
    -------
    Array
        Tension, bending, torsion.

    References
    ----------
    DIN 743-2:2012, 5.2.

    Examples
    --------
    >>> [round(float(v), 3) for v in shoulder_notch(40.0, 50.0, 2.0, 600.0)]
    [2.063, 1.877, 1.44]
    """
    return np.maximum(shoulder_form(d, D, r) / support(d, D, r, sigma_S, hard), 1.0)


def groove_notch(d: Real, D: Real, r: Real, sigma_S: Real, hard: bool = False) -> Array:
    """Notch factors of a round groove, at least 1.

    Parameters
    ----------
    d : Real
        Diameter in the ground of the groove (mm).
    D : Real
        Diameter of the shaft (mm).
    r : Real
        Radius of the groove (mm).
    sigma_S : Real
        Yield point of the part (MPa).
    hard : bool
        Whether the surface is hardened.

    Returns
    -------
    Array
        Tension, bending, torsion.

    References
    ----------
    DIN 743-2:2012, 5.2.
    """
    return np.maximum(groove_form(d, D, r) / support(d, D, r, sigma_S, hard, groove=True), 1.0)


def undercut_form(d: Real, d_1: Real, D: Real, r: Real) -> Array:
    """Form factors of a shoulder with an undercut.

    Parameters
    ----------
    d : Real
        Diameter in the ground of the undercut (mm).
    d_1 : Real
        Diameter of the cylinder (mm).
    D : Real
        Diameter of the shoulder (mm).
    r : Real
        Radius of the undercut (mm).

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    Tension and bending alpha = (alpha_R - alpha_A) sqrt((d_1 - d) / (D - d)) + alpha_A, with alpha_A of the shoulder
    from d to D and alpha_R of the groove d in d_1: the shoulder where the undercut has no depth, the groove where
    nothing is higher than the cylinder. Torsion 1.04 alpha_A.

    References
    ----------
    DIN 743-2:2012, 5.3.4, from knowledge.

    Examples
    --------
    >>> [round(float(v), 3) for v in undercut_form(39.4, 40.0, 50.0, 0.6)]
    [3.121, 2.841, 2.075]
    """
    shoulder, groove = shoulder_form(d, D, r), groove_form(d, d_1, r)
    d, d_1, D = (as_float(v) for v in (d, d_1, D))
    share = np.sqrt((d_1 - d) / (D - d))[..., None]
    result = as_float((groove - shoulder) * share + shoulder)
    return np.concatenate((result[..., :2], 1.04 * shoulder[..., 2:]), axis=-1)


def undercut_notch(d: Real, d_1: Real, D: Real, r: Real, sigma_S: Real) -> Array:
    """Notch factors of a shoulder with an undercut, at least 1, for the stresses in its ground.

    Parameters
    ----------
    d : Real
        Diameter in the ground of the undercut (mm).
    d_1 : Real
        Diameter of the cylinder (mm).
    D : Real
        Diameter of the shoulder (mm).
    r : Real
        Radius of the undercut (mm).
    sigma_S : Real
        Yield point of the part (MPa).

    Returns
    -------
    Array
        Tension, bending, torsion.

    References
    ----------
    DIN 743-2:2012, 5.2 and 5.3.4.
    """
    return np.maximum(undercut_form(d, d_1, D, r) / support(d, D, r, sigma_S), 1.0)


HOLE_MOST = 0.4
"""Width of a cross hole over the shaft's diameter up to which its form factors are known."""


def cross_hole_form(d: Real, d_hole: Real) -> Array:
    """Form factors alpha of a cross hole, for the stresses of the section that it leaves.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_hole : Real
        Diameter of the cross hole (mm).

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    With q = d_hole / d: tension 3 - q; bending 3 + 1.4 q - 2.8 sqrt(q); torsion 2.023 - 1.125 sqrt(q).

    References
    ----------
    DIN 743-2:2012, 5.3.3.

    Examples
    --------
    >>> [round(float(v), 3) for v in cross_hole_form(40.0, 6.0)]
    [2.85, 2.126, 1.587]
    """
    q = as_float(d_hole) / d
    result = (3 - q, 3 + 1.4 * q - 2.8 * np.sqrt(q), 2.023 - 1.125 * np.sqrt(q))
    return np.stack(np.broadcast_arrays(*result), axis=-1)


def cross_hole_left(d: Real, d_hole: Real) -> Array:
    """Shares of area, of bending and of torsion modulus that a cross hole leaves of a round section.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_hole : Real
        Diameter of the cross hole (mm).

    Returns
    -------
    Array
        Shares of area, bending modulus, torsion modulus.

    Notes
    -----
    A = pi d^2 / 4 - d_hole d, W_b = pi d^3 / 32 - d_hole d^2 / 6, W_t = pi d^3 / 16 - d_hole d^2 / 6.

    References
    ----------
    DIN 743-2:2012, 5.3.3.

    Examples
    --------
    >>> [round(float(v), 4) for v in cross_hole_left(40.0, 6.0)]
    [0.809, 0.7454, 0.8727]
    """
    q = as_float(d_hole) / d / np.pi
    return np.stack(np.broadcast_arrays(1 - 4 * q, 1 - 16 * q / 3, 1 - 8 * q / 3), axis=-1)


def cross_hole_notch(d: Real, d_hole: Real, sigma_S: Real) -> Array:
    """Notch factors of a cross hole, at least 1, for the stresses of the section that it leaves.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_hole : Real
        Diameter of the cross hole (mm).
    sigma_S : Real
        Yield point of the part (MPa).

    Returns
    -------
    Array
        Tension, bending, torsion.

    Notes
    -----
    beta = alpha / n, with G' = 2.3 / r, 2.3 / r + 2 / d and 1.15 / r + 2 / d.

    References
    ----------
    DIN 743-2:2012, 5.2 and 5.3.3.

    Examples
    --------
    >>> [round(float(v), 3) for v in cross_hole_notch(40.0, 6.0, 600.0)]
    [2.692, 2.004, 1.52]
    """
    d, r = as_float(d), as_float(d_hole) / 2
    G = np.stack(np.broadcast_arrays(2.3 / r, 2.3 / r + 2 / d, 1.15 / r + 2 / d), axis=-1)
    n = 1 + np.sqrt(G) * as_float(10.0 ** -(0.33 + as_float(sigma_S) / 712))[..., None]
    return np.maximum(cross_hole_form(d, 2 * r) / n, 1.0)

"""The places of the path of contact at which flanks are judged, with curvature and local pressure."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from cooper.arrays import Array, Real, as_float, broadcast, clip
from cooper.rating.scuffing.flash import load_sharing_factor

Path = tuple[Array, Array, Array, Array, Array]
"""Distances of A, B, C, D and E from the base tangent point of gear 1; mm."""


def contact_points(path: Path) -> Array:
    """A, midway to B, B, C, D, midway to E, and E of a path.

    Parameters
    ----------
    path : Path
        Distances g of A, B, C, D, E along the line of action (mm).

    Returns
    -------
    Array
        Places along the line of action (mm), points first.

    References
    ----------
    ISO/TS 6336-22 and -4.

    Examples
    --------
    >>> contact_points((4.0, 8.0, 10.0, 11.0, 16.0)).tolist()
    [4.0, 6.0, 8.0, 10.0, 11.0, 13.5, 16.0]
    """
    g_A, g_B, g_C, g_D, g_E = (as_float(x) for x in path)
    inner_B, inner_D = clip(g_B, g_A, g_E), clip(g_D, g_A, g_E)
    return np.stack(np.broadcast_arrays(g_A, (g_A + inner_B) / 2, inner_B, g_C, inner_D, (inner_D + g_E) / 2, g_E))


def path_under(m: Mapping[str, Real], load: Real) -> Path:
    """The path of a rated mesh in the shape of the loads (levels of a spectrum, many pairs) that it is under.

    Parameters
    ----------
    m : Mapping[str, Real]
        Values of the mesh by symbol.
    load : Real
        Anything of the shape of the loads.

    Returns
    -------
    Path
        Distances g of A to E (mm), each of the shape of the loads.

    Examples
    --------
    >>> [g.tolist() for g in path_under({"g_A": 4.0, "g_B": 8.0, "g_C": 10.0, "g_D": 11.0, "g_E": 16.0}, np.zeros(2))][:2]
    [[4.0, 4.0], [8.0, 8.0]]
    """  # noqa: E501
    g_A, g_B, g_C, g_D, g_E = (broadcast(m[k], load) for k in ("g_A", "g_B", "g_C", "g_D", "g_E"))
    return g_A, g_B, g_C, g_D, g_E


def curvature(g: Real, T2: Real, beta_b: Real) -> Array:
    """Radius of relative curvature in the normal section.

    Parameters
    ----------
    g : Real
        Distance from the pinion's base tangent point along the line of action (mm).
    T2 : Real
        Distance between both base tangent points on the line of action (mm), negative for an internal wheel.
    beta_b : Real
        Base helix angle (rad).

    Returns
    -------
    Array
        Radius (mm).

    Notes
    -----
    rho = g (T2 - g)/(T2 cos(beta_b)).

    References
    ----------
    ISO 21771:2007.

    Examples
    --------
    >>> round(float(curvature(10.0, 30.0, 0.0)), 4)
    6.6667
    """
    return as_float(g * (as_float(T2) - g) / as_float(T2) / np.cos(beta_b))


def local_pressure(
    g: Array,
    path: Path,
    T2: Real,
    beta_b: Real,
    Q: Real,
    eps: tuple[Real, Real],
    F_bt: Real,
    b: Real,
    K: Real,
    E_r: Real,
) -> tuple[Array, Array]:
    """Hertz's pressure along the path.

    Parameters
    ----------
    g : Array
        Distance from the pinion's base tangent point along the line of action (mm).
    path : Path
        Distances g of A, B, C, D, E along the line of action (mm).
    T2 : Real
        Distance between both base tangent points on the line of action (mm), negative for an internal wheel.
    beta_b : Real
        Base helix angle (rad).
    Q : Real
        Flank class of ISO 1328-1.
    eps : tuple[Real, Real]
        Transverse contact ratio and overlap ratio, for the share X of the load.
    F_bt : Real
        Tangential force at the base circle (N).
    b : Real
        Face width (mm).
    K : Real
        Product of all load factors.
    E_r : Real
        Reduced modulus 2/sum((1 - nu^2)/E) (MPa).

    Returns
    -------
    tuple[Array, Array]
        Pressure (MPa) and radius of relative curvature (mm).

    Notes
    -----
    p = sqrt(E_r K F_bt X/(2 pi b rho cos(beta_b))).

    References
    ----------
    ISO/TS 6336-22:2018, method B, with X_Gamma of ISO/TS 6336-20.
    """
    g_A, g_B, _g_C, g_D, g_E = path
    share = load_sharing_factor(g, g_A, g_B, g_D, g_E, Q, eps[0], eps[1])
    rho_n = curvature(g, T2, beta_b)
    p = np.sqrt(as_float(E_r) * K * F_bt * share / (2 * np.pi * as_float(b) * rho_n * np.cos(beta_b)))
    return as_float(p), rho_n


def reduced_modulus(E_1: Real, nu_1: Real, E_2: Real, nu_2: Real) -> Array:
    """Reduced modulus of elasticity of two gears.

    Parameters
    ----------
    E_1 : Real
        Modulus of elasticity of gear 1 (MPa).
    nu_1 : Real
        Poisson's ratio of gear 1.
    E_2 : Real
        Modulus of elasticity of gear 2 (MPa).
    nu_2 : Real
        Poisson's ratio of gear 2.

    Returns
    -------
    Array
        Modulus (MPa).

    Notes
    -----
    E_r = 2/((1 - nu_1^2)/E_1 + (1 - nu_2^2)/E_2).

    References
    ----------
    ISO/TS 6336-22:2018.

    Examples
    --------
    >>> round(float(reduced_modulus(206000.0, 0.3, 206000.0, 0.3)))
    226374
    """
    return as_float(2 / ((1 - as_float(nu_1) ** 2) / E_1 + (1 - as_float(nu_2) ** 2) / E_2))

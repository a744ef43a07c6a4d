"""Fracture of flanks from below a hardened case, by the material exposure over the depth. The way of ISO/TS
6336-4:2019, written from knowledge of it.

The stress is that under the middle of the contact in Hertz's field itself, with the residual stresses added, where the
specification has closed approximations of both. Depths in mm from the surface, stresses in MPa, pressure negative.
"""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, all_, as_float, broadcast, where
from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape
from cooper.rating.contact_points import contact_points, local_pressure, path_under, reduced_modulus

K_TAU = 0.4
"""Shear strength over hardness, MPa per HV. ISO/TS 6336-4, 7."""
K_MATERIAL = 1.0
"""Material factor of usual case-hardening steels; higher alloyed ones bear more. ISO/TS 6336-4, 7."""
C_1 = 0.04
"""What a material exposure is set up by. ISO/TS 6336-4, 6."""
A_LIMIT = 0.8
"""Material exposure from which flanks break from below. ISO/TS 6336-4, 6."""
INTENSITY = float(np.sqrt(2 / 15))
"""Root mean square of the shear stress over all planes, over the equivalent stress by distortion energy."""
CASE_LIMIT = 550.0
"""Hardness at which the depth of a case is stated; HV. ISO 6336-5."""
DOWN, DEEP = 61, 4.0
"""Places down from the contact, to so many times its half width or the depth of the case."""
MOST = 400_000
"""Numbers that are held at once."""


def hardness_at(y: Real, HV_s: Real, HV_core: Real, CHD: Real) -> Array:
    """Hardness at depths of a case, by Lang.

    Parameters
    ----------
    y : Real
        Depths (mm).
    HV_s : Real
        Hardness of the surface (HV).
    HV_core : Real
        Hardness of the core (HV).
    CHD : Real
        Case depth at 550 HV (mm).

    Returns
    -------
    Array
        Hardness (HV).

    Notes
    -----
    Core plus 10^-(0.0381 t + 0.2662 t^2) of the difference, t so scaled that 550 HV stand at CHD.

    References
    ----------
    ISO/TS 6336-4:2019.

    Examples
    --------
    >>> [round(float(v)) for v in hardness_at([0.0, 1.0, 4.0], 700.0, 300.0, 1.0)]
    [700, 550, 301]
    """
    rise = as_float(HV_s) - HV_core
    wanted = np.log10(rise / (CASE_LIMIT - as_float(HV_core)))
    t = (np.sqrt(0.0381**2 + 4 * 0.2662 * wanted) - 0.0381) / (2 * 0.2662) * as_float(y) / CHD
    return as_float(HV_core + rise * 10 ** -(0.0381 * t + 0.2662 * t**2))


def residual_stress(HV: Real, HV_core: Real) -> Array:
    """Residual stress along the surface at a hardness, by Lang.

    Parameters
    ----------
    HV : Real
        Hardness at the depth (HV).
    HV_core : Real
        Hardness of the core (HV).

    Returns
    -------
    Array
        Stress (MPa).

    Notes
    -----
    -1.25 (HV - core) up to 300 above the core, 0.2857 (HV - core) - 460 beyond.

    References
    ----------
    ISO/TS 6336-4:2019.

    Examples
    --------
    >>> residual_stress([300.0, 500.0, 700.0], 300.0).round(1).tolist()
    [-0.0, -250.0, -345.7]
    """
    more = as_float(HV) - HV_core
    return as_float(where(more <= 300, -1.25 * more, 0.2857 * more - 460))


def hertz_stresses(y: Real) -> tuple[Array, Array]:
    """Stresses under the middle of a line contact without friction.

    Parameters
    ----------
    y : Real
        Depth over the half width of contact.

    Returns
    -------
    tuple[Array, Array]
        Stresses along the surface and into it, over the peak pressure.

    Notes
    -----
    -((1 + 2 y^2)/sqrt(1 + y^2) - 2 y) and -1/sqrt(1 + y^2).

    References
    ----------
    H. Hertz, 1881.

    Examples
    --------
    >>> [round(float(v), 4) for v in hertz_stresses(1.0)]
    [-0.1213, -0.7071]
    """
    y = as_float(y)
    root = np.sqrt(1 + y**2)
    return -((1 + 2 * y**2) / root - 2 * y), -1 / root


def shear_intensity(p: Real, y: Real, nu: Real, residual: Real) -> Array:
    """Shear stress intensity under the middle of a line contact in plane strain: the root mean square of the shear
    stress over all planes.

    Parameters
    ----------
    p : Real
        Peak pressure (MPa).
    y : Real
        Depth over the half width of contact.
    nu : Real
        Poisson's ratio.
    residual : Real
        Residual stress along the surface to all sides (MPa).

    Returns
    -------
    Array
        Stress (MPa).

    Notes
    -----
    At the surface it is sqrt(2/15) (1 - 2 nu) p.

    References
    ----------
    ISO/TS 6336-4:2019.

    Examples
    --------
    >>> round(float(shear_intensity(1000.0, 0.0, 0.3, 0.0)), 1)
    146.1
    """
    s_x, s_y = (as_float(p) * s for s in hertz_stresses(y))
    s_z = as_float(nu) * (s_x + s_y) + residual
    s_x = s_x + residual
    return as_float(INTENSITY * np.sqrt(((s_x - s_y) ** 2 + (s_y - s_z) ** 2 + (s_z - s_x) ** 2) / 2))


def material_exposure(
    p: Array, rho_n: Array, E_r: Real, nu: Real, HV_s: Real, HV_core: Real, CHD: Real
) -> tuple[Array, Array]:
    """Largest material exposure of the flank, from half the contact width downwards, and its depth.

    Parameters
    ----------
    p : Array
        Pressures over the points of the flank, the first axis (MPa).
    rho_n : Array
        Radii of relative curvature over the points of the flank (mm).
    E_r : Real
        Reduced modulus 2/sum((1 - nu^2)/E) (MPa).
    nu : Real
        Poisson's ratio.
    HV_s : Real
        Hardness of the surface (HV).
    HV_core : Real
        Hardness of the core (HV).
    CHD : Real
        Case depth at 550 HV (mm).

    Returns
    -------
    tuple[Array, Array]
        Exposure, and the depth at which it is (mm).

    Notes
    -----
    tau_eff/(0.4 K HV) + 0.04.

    References
    ----------
    ISO/TS 6336-4:2019, 6 and 7.
    """
    p, rho_n = np.broadcast_arrays(as_float(p), as_float(rho_n))
    b_H = 4 * p * rho_n / E_r
    deepest = np.maximum(DEEP * as_float(CHD), DEEP * b_H)
    # Closer together where the contact is near.
    t = np.linspace(0, 1, DOWN).reshape(-1, *(1,) * p.ndim) ** 2
    y = b_H + (deepest - b_H) * t
    HV = hardness_at(y, HV_s, HV_core, CHD)
    A = shear_intensity(p, y / b_H, nu, residual_stress(HV, HV_core)) / (K_TAU * K_MATERIAL * HV) + C_1
    flat, depths = A.reshape(-1, *p.shape[1:]), y.reshape(-1, *p.shape[1:])
    worst = np.argmax(flat, axis=0)[None]
    return np.take_along_axis(flat, worst, 0)[0], np.take_along_axis(depths, worst, 0)[0]


def rate_flank_fracture(p: PairInput, n: PairShape) -> None:
    """Add material exposure, its depth and the safety against flank fracture to the values of a rated pair.

    Parameters
    ----------
    p : PairInput
        The pairs as entered, arrays of any shape.
    n : PairShape
        Geometry and values of the pairs; the results are added to its values.

    Notes
    -----
    S_FF = 0.8/A_FF, of gears whose depth of the case and hardness of the core are given.

    References
    ----------
    ISO/TS 6336-4:2019.
    """
    m, (one, two) = n.mesh, (g.material for g in p.gears)
    if not any(all_(np.isfinite(g.CHD)) and all_(np.isfinite(g.HV_core)) for g in p.gears):
        return
    E_r = reduced_modulus(one.E, one.nu, two.E, two.nu)
    K = m.K_A * m.K_gamma * m.K_V * m.K_Hbeta * m.K_Halpha
    path = path_under(m, K * m.F_bt)
    Q = np.maximum(p.gears[0].Q, p.gears[1].Q)
    pressure, rho = local_pressure(
        contact_points(path), path, n.path.T2, m.beta_b, Q, (m.eps_alpha, m.eps_beta), m.F_bt, m.b_H, K, E_r
    )
    for own, g in zip(p.gears, n.gears, strict=True):
        if not (all_(np.isfinite(own.CHD)) and all_(np.isfinite(own.HV_core))):
            continue
        given = (E_r, own.material.nu, own.HV_s, own.HV_core, own.CHD)
        A, y = _by_blocks(pressure, rho, given)
        g.HV_core, g.A_FF, g.y_FF, g.S_FF = broadcast(own.HV_core, A), A, y, A_LIMIT / A


def _by_blocks(p: Array, rho: Array, given: tuple[Real, ...]) -> tuple[Array, Array]:
    """`material_exposure` of many pairs, so many at once as memory should hold."""
    if p.ndim == 1:
        return material_exposure(p, rho, *given)
    size = p.shape[1:]
    p, rho = (v.reshape(len(p), -1) for v in np.broadcast_arrays(p, rho))
    rows = [np.broadcast_to(as_float(v), size).reshape(-1) for v in given]
    step = max(1, MOST // (DOWN * len(p)))
    result = [
        material_exposure(p[:, k : k + step], rho[:, k : k + step], *(v[k : k + step] for v in rows))
        for k in range(0, p.shape[1], step)
    ]
    A, y = (np.concatenate([f[i] for f in result]).reshape(size) for i in (0, 1))
    return A, y

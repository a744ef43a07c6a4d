"""Geometry factors Z_I and Y_J by the numerical method of AGMA 908-B89, external spur and helical gears."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import astuple

from cooper.arrays import Array, Real, as_float, broadcast, clip, shape_of, stack, where
from cooper.gears.cutter import ConicCut, FormCut, PinionCutter
from cooper.gears.fillets import fillet
from cooper.gears.root import root_form
from cooper.gears.tooth import Tooth
from cooper.gears.virtual import virtual_tooth_count
from cooper.rating.iso6336.form import circle_radius

POINTS, ROUNDS = 33, 3
"""Points and rounds of the search for the critical section on the fillet."""


class MeshGeometry(Struct, frozen=True):
    """What both geometry factors need of the mesh; lengths in mm, angles in rad.

    ``g_B`` the pinion's inner point of single contact and ``g_m`` the point at the mean radius of its working flank,
    both from its base tangent point; ``T2`` that of the wheel; ``g_alpha`` length of the path; ``m_N`` load sharing
    ratio.
    """

    g_B: Array
    g_m: Array
    T2: Array
    g_alpha: Array
    p_bn: Array
    alpha_wt: Array
    beta_b: Array
    d_w1: Array
    eps_beta: Array
    m_N: Array


def load_sharing_ratio(eps_alpha: Real, eps_beta: Real, b: Real, p_x: Real, beta_b: Real) -> Array:
    """Load sharing ratio m_N = b/L_min; 1 for spur gears and for an overlap of 1 or less.

    Parameters
    ----------
    eps_alpha : Real
        Transverse contact ratio.
    eps_beta : Real
        Overlap ratio.
    b : Real
        Face width (mm).
    p_x : Real
        Axial pitch (mm), anything for spur gears.
    beta_b : Real
        Base helix angle (rad).

    Returns
    -------
    Array
        m_N.

    References
    ----------
    AGMA 908-B89, 4.

    Examples
    --------
    >>> round(float(load_sharing_ratio(1.6, 2.0, 40.0, 20.0, 0.2)), 4)
    0.6125
    """
    eps_alpha, eps_beta = as_float(eps_alpha), as_float(eps_beta)
    n_r, n_a = eps_alpha % 1, eps_beta % 1
    over = where(n_a <= 1 - n_r, n_a * n_r, (1 - n_a) * (1 - n_r))
    L_min = (eps_alpha * b - over * p_x) / np.cos(beta_b)
    return where(eps_beta > 1, as_float(b) / where(L_min > 0, L_min, np.nan), 1.0)


def helical_overlap_factor(m: MeshGeometry) -> Array:
    """Factor C_psi: between spur and helical gears for an overlap ratio up to 1, else 1.

    Parameters
    ----------
    m : MeshGeometry
        The mesh as AGMA 908 looks at it.

    Returns
    -------
    Array
        C_psi.

    References
    ----------
    AGMA 908-B89, 4.
    """
    rho = m.g_B * (m.T2 - m.g_B)
    rho_m = m.g_m * (m.T2 - m.g_m)
    inside = 1 - m.eps_beta * (1 - rho_m * m.g_alpha / (rho * m.p_bn))
    partly = (m.eps_beta > 0) & (m.eps_beta <= 1)
    return where(partly, np.sqrt(np.maximum(inside, 0)), 1.0)


def pitting_geometry_factor(m: MeshGeometry) -> Array:
    """Geometry factor Z_I (I) for pitting.

    Parameters
    ----------
    m : MeshGeometry
        The mesh as AGMA 908 looks at it.

    Returns
    -------
    Array
        Z_I.

    Notes
    -----
    Radii of curvature at the inner point of single contact, for an overlap above 1 at the mean of the working flank.

    References
    ----------
    AGMA 908-B89, 4.
    """
    at = where(m.eps_beta > 1, m.g_m, m.g_B)
    curvature = 1 / at + 1 / (m.T2 - at)
    return np.cos(m.alpha_wt) * helical_overlap_factor(m) ** 2 / (curvature * m.d_w1 * m.m_N)


class BendingGeometry(Struct, frozen=True):
    """``Y_J`` geometry factor with what makes it: ``Y`` form factor, ``K_f`` stress correction, chord ``s_F``,
    height ``h_F`` and least fillet radius ``rho_F`` of the virtual spur tooth (mm)."""

    Y_J: Array
    Y: Array
    K_f: Array
    s_F: Array
    h_F: Array
    rho_F: Array


def bending_geometry_factor(tooth: Tooth, m: MeshGeometry, eps_alpha: Real, at_tip: Real) -> BendingGeometry:
    """Geometry factor Y_J (J) for bending strength of an external gear.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    m : MeshGeometry
        The mesh as AGMA 908 looks at it.
    eps_alpha : Real
        Transverse contact ratio.
    at_tip : Real
        Whether the load acts at the tip.

    Returns
    -------
    BendingGeometry
        Y_J with what it is made of.

    Notes
    -----
    On the virtual spur gear with the fillet that the tool leaves at the mean tooth thickness: parabola of even strength
    inscribed from where the load's line meets the tooth's middle. The load acts at the tip for an overlap above 1 or
    where ``at_tip``, else at the highest point of single contact.

    References
    ----------
    AGMA 908-B89, 5 and 6.
    """
    given = (*astuple(m), eps_alpha, at_tip)
    if all(np.ndim(v) == 0 for v in given):
        # It is the same under every load.
        return tooth.kept(("AGMA 908", *map(float, given)), lambda: _bending_geometry(tooth, m, eps_alpha, at_tip))
    return _bending_geometry(tooth, m, eps_alpha, at_tip)


def _bending_geometry(tooth: Tooth, m: MeshGeometry, eps_alpha: Real, at_tip: Real) -> BendingGeometry:
    m_n, rack = as_float(tooth.m_n), tooth.rack
    z_n = virtual_tooth_count(tooth.z, tooth.beta, tooth.beta_b)
    # AGMA's virtual count is z/cos^3(beta).
    z_n = where(as_float(tooth.beta) == 0, z_n, tooth.z / np.cos(tooth.beta) ** 3)
    tool = tooth.tool
    if isinstance(tool, PinionCutter):
        tool = PinionCutter(tool.z_0 / np.cos(tooth.beta) ** 3, tool.x_0)
    spur = Tooth(z_n, m_n, np.zeros(()), tooth.x_E, tooth.x_E, rack, z_n * m_n + tooth.d_a - tooth.d, tool)
    r_b = spur.d_b / 2
    tip = np.sqrt(np.maximum((spur.d_a / 2) ** 2 - r_b**2, 0))
    helical = m.eps_beta > 1
    eps_n = as_float(eps_alpha) / np.cos(m.beta_b) ** 2
    outer = tip - np.pi * m_n * np.cos(rack.alpha_n) * (eps_n - 1)
    along = where(helical | np.asarray(at_tip, dtype=bool), tip, outer)
    alpha_W = np.arctan(along / r_b)
    d_W = 2 * np.hypot(r_b, along)
    alpha_L = alpha_W - spur.half_angle(d_W)
    top = r_b / np.cos(alpha_L)
    s, h = _critical_section(spur, top)
    # Normal pressure and helix angle at the working pitch circle.
    alpha_nw = np.arcsin(clip(np.cos(m.beta_b) * np.sin(m.alpha_wt), -1, 1))
    beta_w = np.arctan(np.tan(m.beta_b) / np.cos(m.alpha_wt))
    omega = np.degrees(np.arctan(np.tan(tooth.beta) * np.sin(rack.alpha_n)))
    C_h = where(helical, 1 / (1 - np.sqrt(np.maximum(omega / 100 * (1 - omega / 100), 0))), 1.0)
    K_psi = where(helical, np.cos(beta_w) * np.cos(tooth.beta), 1.0)
    bent = 6 * h * m_n / (s**2 * C_h) - np.tan(alpha_L) * m_n / s
    Y = K_psi / (np.cos(alpha_L) / np.cos(alpha_nw) * bent)
    rho = _least_radius(spur)
    H, L, M = (c + k * rack.alpha_n for c, k in ((0.331, -0.436), (0.324, -0.492), (0.261, 0.545)))
    K_f = H + (s / rho) ** L * (s / h) ** M
    return BendingGeometry(Y * helical_overlap_factor(m) / (K_f * m.m_N), Y, K_f, s, h, rho)


def _critical_section(spur: Tooth, top: Array) -> tuple[Array, Array]:
    """Chord and height of the section at which the parabola with its top at ``top`` touches the tooth."""
    form = root_form(spur)
    low, high = broadcast(form.t, top), np.ones(shape_of(form.t, top))
    for _ in range(ROUNDS):
        share = stack(np.linspace(0, 1, POINTS), low)
        grid = low + (high - low) * share
        radius, psi = fillet(spur, grid)
        angle = np.pi / np.abs(spur.z) - psi
        s, h = 2 * radius * np.sin(angle), top - radius * np.cos(angle)
        weak = where(h > 0, s**2 / np.maximum(h, 1e-12), np.inf)
        k = np.argmin(weak, axis=0)[None]
        low = np.take_along_axis(grid, np.maximum(k - 1, 0), 0)[0]
        high = np.take_along_axis(grid, np.minimum(k + 1, POINTS - 1), 0)[0]
        result = tuple(np.take_along_axis(a, k, 0)[0] for a in (s, h))
    return result[0], result[1]


def _least_radius(spur: Tooth) -> Array:
    """Least radius of curvature of the fillet, which a generated one has where it meets the root circle; mm."""
    rack = spur.rack
    if isinstance(spur.tool, ConicCut):
        # At the foot of the space or where the arc leaves the flank, whichever is sharper.
        ends: list[Array] = []
        for first in (0.0, 0.996):
            near = np.array([0.0, 0.002, 0.004]) + first
            radius, psi = fillet(spur, stack(near, spur.z, spur.x_E))
            x, y = radius * np.cos(psi), radius * np.sin(psi)
            ends.append(circle_radius(x[0], y[0], x[1], y[1], x[2], y[2]))
        return as_float(np.minimum(ends[0], ends[1]))
    if isinstance(spur.tool, FormCut):
        return as_float(rack.rho_fP * spur.m_n)
    if isinstance(spur.tool, PinionCutter):
        points = []
        for t in (0.998, 0.999, 1.0):
            radius, psi = fillet(spur, as_float(t))
            points += [radius * np.cos(psi), radius * np.sin(psi)]
        return circle_radius(*points)
    tip = as_float(rack.rho_fP)
    deep = rack.h_fP - tip - as_float(spur.x)
    return (tip + deep**2 / (as_float(spur.z) / 2 + deep)) * spur.m_n

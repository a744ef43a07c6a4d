"""The fillets that tools leave between root circle and flank, each as one curve from flank to root.

A point of a tool cuts where its normal passes through the pitch point (the law of gearing). For a rounding of the tool
that gives the envelope in closed form, with the direction of the normal, or the turn of the cutter, as parameter. Every
curve takes ``t`` from 0, where the tool's flank ends, to 1 at the root circle, and returns radius (mm) and angle from
the middle of the space (rad).
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import numpy as np

from cooper.arrays import Array, any_, as_float, broadcast, clip, where
from cooper.gears.cutter import ConicCut, FormCut, PinionCutter
from cooper.gears.tooth import Tooth

RAMP = 0.4
"""Part of the parameter that the ramp of a protuberance takes."""


def fillet(tooth: Tooth, t: Array) -> tuple[Array, Array]:
    """The fillet of a gear by whatever tool it has.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    t : Array
        Parameter, 0 at the flank to 1 at the root circle; broadcasts with the gear's fields.

    Returns
    -------
    tuple[Array, Array]
        Radius (mm) and angle from the middle of the space (rad).
    """
    return fillet_curve(tooth)(as_float(t))


def fillet_curve(tooth: Tooth) -> Callable[[Array], tuple[Array, Array]]:
    """The fillet of a gear as a curve of its parameter alone.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    Callable[[Array], tuple[Array, Array]]
        Function of t (0 at the flank, 1 at the root circle) with radius (mm) and angle (rad).
    """
    if isinstance(tooth.tool, PinionCutter):
        return partial(_of_cutter, tooth)
    if isinstance(tooth.tool, ConicCut):
        return partial(_conic, tooth, tooth.tool)
    if isinstance(tooth.tool, FormCut):
        return partial(_formed, tooth)
    return _of_rack(tooth)


def flank_parallel(tooth: Tooth) -> Array:
    """The parameter t at which a protuberance runs parallel to the finished flank: its deepest cut into it.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    Array
        Parameter of `fillet`, 0 to 1.
    """
    first = where(tooth.rack.s_pr > 0, tooth.rack.alpha_prP, tooth.rack.alpha_n)
    share = (tooth.rack.alpha_n - first) / (np.pi / 2 - first)
    return where(tooth.rack.s_pr > 0, RAMP + (1 - RAMP) * share, 0.0)


def _of_rack(tooth: Tooth) -> Callable[[Array], tuple[Array, Array]]:
    """The tool's tip is a circle in the normal section and so an ellipse in the transverse one."""
    rack, m = tooth.rack, tooth.m_n
    alpha, s_pr = as_float(rack.alpha_n), rack.s_pr
    rho = rack.rho_fP * m
    y_centre = -rack.h_fP * m + rho
    x_centre = np.pi / 4 * m + y_centre * np.tan(alpha) + (s_pr * m - rho) / np.cos(alpha)
    cos_beta, r, up_by = np.cos(tooth.beta), tooth.d / 2, tooth.x_E * m
    bulges = any_(s_pr > 0)
    first, ramp, length = alpha, np.zeros(()), np.zeros(())
    if bulges:
        ramp = where(s_pr > 0, RAMP, 0.0)
        first = where(s_pr > 0, rack.alpha_prP, alpha)
        x_0, y_0 = x_centre + rho * np.cos(first), y_centre - rho * np.sin(first)
        gap = x_0 - np.pi / 4 * m + rack.q_P * m / np.cos(alpha) - y_0 * np.tan(alpha)
        length = where(s_pr > 0, gap * np.cos(alpha) / np.sin(where(s_pr > 0, alpha - first, 1.0)), 0.0)
    span = np.pi / 2 - first

    def at(t: Array) -> tuple[Array, Array]:
        theta = first + span * clip((t - ramp) / (1 - ramp) if bulges else t, 0, 1)
        c, s = np.cos(theta), np.sin(theta)
        x, y = x_centre + rho * c, y_centre - rho * s
        if bulges:
            up = length * clip(1 - t / RAMP, 0, 1)
            x, y = x + up * np.sin(first), y + up * np.cos(first)
        y = y + up_by
        across = -y * cos_beta * c / s
        psi = np.arctan2(across, r + y) - (across - x / cos_beta) / r
        return np.hypot(across, r + y), psi

    return at


def _of_cutter(tooth: Tooth, t: Array) -> tuple[Array, Array]:
    """The centre M of the cutter's tip rounding rolls past; what it cuts lies on the line from the pitch point
    through M."""
    g = tooth.cut
    theta = (np.arctan(g.t_M / g.r_b0) - g.alpha_w0) * (1 - t)
    x_M, y_M = g.a_0 - g.r_M * np.cos(theta), g.r_M * np.sin(theta)
    to_M = x_M - (g.a_0 - g.r_w0)
    away = np.hypot(to_M, y_M)
    x, y = x_M + g.rho * to_M / away, y_M + g.rho * y_M / away
    return np.hypot(x, y), np.arctan2(y, tooth.sign * x) - (theta - g.eta_M) * g.ratio


def formed_centre(tooth: Tooth) -> tuple[Array, Array, Array]:
    """Centre of a formed fillet and its end on the flank.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.

    Returns
    -------
    tuple[Array, Array, Array]
        Radius of the centre (mm), its angle from the middle of the space (rad), and the distance of the fillet's end on
        the involute from the base tangent point (mm), negative where it ends on the radial line below it.
    """
    sign, rho = tooth.sign, as_float(tooth.rack.rho_fP) * tooth.m_n
    r_b = np.abs(tooth.d_b) / 2
    r_M = np.abs(tooth.d_f) / 2 + sign * rho
    on_involute = r_M**2 - r_b**2 >= where(sign > 0, rho**2, 0.0)
    t_M = np.sqrt(np.maximum(r_M**2 - r_b**2, 0.0))
    t_F = where(on_involute, t_M - sign * rho, 0.0)
    half = tooth.half_angle(sign * 2 * np.hypot(r_b, t_F))
    along = half + sign * (np.arctan(t_M / r_b) - np.arctan(t_F / r_b))
    beside = half + np.arcsin(np.minimum(rho / r_M, 1.0))
    return r_M, np.pi / np.abs(tooth.z) - where(on_involute, along, beside), where(on_involute, t_F, -1.0)


def _formed(tooth: Tooth, t: Array) -> tuple[Array, Array]:
    sign, rho = tooth.sign, as_float(tooth.rack.rho_fP) * tooth.m_n
    r_b = np.abs(tooth.d_b) / 2
    r_M, psi_M, t_F = formed_centre(tooth)
    line = t_F < 0
    r_F = where(line, np.sqrt(np.maximum(r_M**2 - rho**2, 0.0)), np.hypot(r_b, np.maximum(t_F, 0)))
    psi_F = np.pi / np.abs(tooth.z) - tooth.half_angle(sign * 2 * where(line, r_b, r_F))
    # Directions from the centre, in the frame of its own radius, from the end on the flank to the root circle.
    x, y = r_F * np.cos(psi_F - psi_M) - r_M, r_F * np.sin(psi_F - psi_M)
    start = np.arctan2(y, -sign * x)
    ramp = where(line, RAMP, 0.0)
    omega = start * (1 - clip((t - ramp) / (1 - ramp), 0, 1))
    px, py = r_M - sign * rho * np.cos(omega), rho * np.sin(omega)
    radius, psi = np.hypot(px, py), psi_M + np.arctan2(py, px)
    down = clip(t / RAMP, 0, 1)
    on_line = line & (t < RAMP)
    return where(on_line, r_b + (r_F - r_b) * down, radius), where(on_line, psi_F, psi)


def conic_start(tooth: Tooth, cut: ConicCut) -> Array:
    """Distance from the base tangent point at which the flank of an elliptic root ends (mm), 0 at the base circle.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    cut : ConicCut
        Elliptic cutter.

    Returns
    -------
    Array
        Distance (mm), 0 at the base circle.
    """
    r_b = np.abs(tooth.d_b) / 2
    r = np.abs(tooth.d) / 2 + tooth.sign * (tooth.x_E - as_float(cut.h_Ff)) * tooth.m_n
    return as_float(np.sqrt(np.maximum(r**2 - r_b**2, 0.0)))


def conic_corner(tooth: Tooth, cut: ConicCut) -> tuple[Array, Array, Array, Array]:
    """Where the flank of an elliptic root ends and where both tangents cross.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    cut : ConicCut
        Elliptic cutter.

    Returns
    -------
    tuple[Array, Array, Array, Array]
        Across the space and along its middle from the gear's centre (mm): the flank's end, then the crossing.

    Notes
    -----
    The crossing lies between the middle of the space and the flank, else there is no such arc.
    """
    sign = tooth.sign
    r_b, t_F = np.abs(tooth.d_b) / 2, conic_start(tooth, cut)
    r_F = np.hypot(r_b, t_F)
    psi = np.pi / np.abs(tooth.z) - tooth.half_angle(sign * 2 * r_F)
    x_0, y_0 = r_F * np.sin(psi), r_F * np.cos(psi)
    # The tangent of an involute stands at its pressure angle to the radius; towards the root the space narrows.
    turn = psi + sign * np.arctan(t_F / r_b)
    y_1 = broadcast(np.abs(tooth.d_f) / 2, y_0)
    x_1 = x_0 + (y_1 - y_0) * np.tan(turn)
    return x_0, y_0, x_1, y_1


def _conic(tooth: Tooth, cut: ConicCut, t: Array) -> tuple[Array, Array]:
    x_0, y_0, x_1, y_1 = conic_corner(tooth, cut)
    a, b, c = (1 - t) ** 2, 2 * as_float(cut.w_F) * t * (1 - t), t**2
    x, y = (a * x_0 + b * x_1) / (a + b + c), (a * y_0 + (b + c) * y_1) / (a + b + c)
    return np.hypot(x, y), np.arctan2(x, y)

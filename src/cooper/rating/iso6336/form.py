"""Form factor Y_F and stress correction factor Y_S by the 30 degree tangent, 60 degrees for internal gears.

ISO 6336-3:2019, 6 and 7.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, Real, all_, as_float, clip, stack, where
from cooper.gears.fillets import fillet
from cooper.gears.involute import inv
from cooper.gears.rack import Rack
from cooper.gears.root import root_form
from cooper.gears.tip import PLAIN
from cooper.gears.tooth import Tooth
from cooper.gears.virtual import virtual_tooth, virtual_tooth_count


class RootSection(Struct, frozen=True):
    """Critical section of a tooth at the 30 (60) degree tangent; lengths in mm, angles in rad.

    ``s_Fn`` chord, ``h_Fe`` lever arm, ``rho_F`` fillet radius there, ``alpha_Fen`` load direction at the outer point
    of single contact.
    """

    s_Fn: Array
    h_Fe: Array
    rho_F: Array
    alpha_Fen: Array


def root_section(
    z: Real,
    m_n: Real,
    beta: Real,
    x: Real,
    rack: Rack,
    d_Na: Real,
    eps_alpha: Real,
) -> RootSection:
    """Critical section of an external rack-cut gear, load at the outer point of single contact.

    Parameters
    ----------
    z : Real
        Tooth count, negative for an internal gear.
    m_n : Real
        Normal module (mm).
    beta : Real
        Helix angle at the reference cylinder (rad).
    x : Real
        Profile shift coefficient that makes the root.
    rack : Rack
        Basic rack.
    d_Na : Real
        Active tip diameter (mm).
    eps_alpha : Real
        Transverse contact ratio.

    Returns
    -------
    RootSection
        The section.

    Notes
    -----
    The virtual spur gear stands for a helical one.

    References
    ----------
    ISO 6336-3:2019, 6, method B.
    """
    alpha_n = as_float(rack.alpha_n)
    beta_b = np.arcsin(np.sin(beta) * np.cos(alpha_n))
    z = as_float(z)
    z_n = virtual_tooth_count(z, beta, beta_b)
    h_f, rho, x = as_float(rack.h_fP), as_float(rack.rho_fP), as_float(x)
    # All lengths below are factors of m_n.
    E = np.pi / 4 - h_f * np.tan(alpha_n) + (rack.s_pr - (1 - np.sin(alpha_n)) * rho) / np.cos(alpha_n)
    G = rho - h_f + x
    H = 2 / z_n * (np.pi / 2 - E) - np.pi / 3
    k = 2 * G / z_n
    # One step from 30 degrees, by the equation as it stands.
    theta = k / np.sqrt(3) - H
    for _ in range(6):
        tangent = np.tan(theta)
        step = (theta - k * tangent + H) / (1 - k * (1 + tangent * tangent))
        theta = theta - step
        # Newton converges quadratically: a step below 1e-9 leaves an error below 1e-16.
        if all_(np.abs(step) < 1e-9):
            break
    s_Fn = z_n * np.sin(np.pi / 3 - theta) + np.sqrt(3) * (G / np.cos(theta) - rho)
    rho_F = rho + 2 * G**2 / (np.cos(theta) * (z_n * np.cos(theta) ** 2 - 2 * G))
    height = (z_n * np.cos(np.pi / 3 - theta) + G / np.cos(theta) - rho) / 2
    arm, alpha_Fen = _load_line(z, z_n, m_n, beta, x, alpha_n, d_Na, as_float(eps_alpha) / np.cos(beta_b) ** 2)
    return RootSection(s_Fn * m_n, (arm - height) * m_n, rho_F * m_n, alpha_Fen)


def _load_line(
    z: Array, z_n: Array, m_n: Real, beta: Real, x: Array, alpha_n: Array, d_Na: Real, eps_n: Array
) -> tuple[Array, Array]:
    """Where the line of the load at the outer point of single contact meets the middle of the virtual tooth
    (distance from the gear's centre as a factor of m_n), and its angle alpha_Fen; counts and diameters signed."""
    sign = where(z < 0, -1.0, 1.0)
    d_bn = z_n * np.cos(alpha_n)
    d_an = z_n + (as_float(d_Na) / m_n - z / np.cos(beta))
    tip = np.sqrt(np.maximum((d_an / 2) ** 2 - (d_bn / 2) ** 2, 0))
    d_en = 2 * np.hypot(tip - sign * np.pi * np.cos(alpha_n) * (eps_n - 1), d_bn / 2)
    alpha_en = np.arccos(clip(np.abs(d_bn) / d_en, -1, 1))
    # Half the thickness angle of the tooth there, positive; the load leans by it towards or away from the middle.
    gamma_e = sign * ((np.pi / 2 + 2 * x * np.tan(alpha_n)) / z_n + inv(alpha_n) - inv(alpha_en))
    alpha_Fen = alpha_en - sign * gamma_e
    return np.abs(d_bn) / 2 / np.cos(alpha_Fen), alpha_Fen


CACHED_AT_ONCE = 4096
"""Teeth up to which the sections of an array of them are kept with it."""
SEARCH, POINTS = 3, 33
"""Rounds and points of the search for the tangent on a fillet that has no closed form for it."""


def root_section_on_curve(tooth: Tooth, x: Real, d_Na: Real, eps_alpha: Real) -> RootSection:
    """Critical section on the fillet that the gear's own tool leaves, external or internal (method B).

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    x : Real
        Profile shift coefficient that makes the root.
    d_Na : Real
        Active tip diameter (mm).
    eps_alpha : Real
        Transverse contact ratio.

    Returns
    -------
    RootSection
        The section.

    Notes
    -----
    The virtual spur gear is cut by the virtual tool (both counts divided by cos^2(beta_b) cos(beta)); the section is
    where the fillet's tangent stands at 30 degrees to the middle of the tooth, 60 degrees for internal gears. The
    tangent is found on the curve itself; for a rack it gives `root_section`.

    References
    ----------
    ISO 6336-3:2019, 6, method B.
    """
    given = [as_float(v) for v in (x, d_Na, eps_alpha)]
    if max(v.size for v in given) > CACHED_AT_ONCE:
        return _root_section_on_curve(tooth, x, d_Na, eps_alpha)
    # Asked for again at every width that a survey tries.
    key = ("root section", *((v.shape, v.tobytes()) for v in given))
    return tooth.kept(key, lambda: _root_section_on_curve(tooth, x, d_Na, eps_alpha))


def _root_section_on_curve(tooth: Tooth, x: Real, d_Na: Real, eps_alpha: Real) -> RootSection:
    rack, m_n = tooth.rack, tooth.m_n
    alpha_n = as_float(rack.alpha_n)
    virtual = replace(virtual_tooth(tooth, x, d_Na), tip=PLAIN)
    z_n = virtual.z
    sign = where(z_n < 0, -1.0, 1.0)

    def at(t: Array) -> tuple[Array, Array]:
        radius, psi = fillet(virtual, t)
        angle = np.pi / np.abs(z_n) - psi
        return radius * np.cos(angle), radius * np.sin(angle)

    def tangent(t: Array) -> Array:
        (x_0, y_0), (x_1, y_1) = at(t - 1e-6), at(t + 1e-6)
        return np.arctan2(y_1 - y_0, sign * (x_0 - x_1))

    wanted = where(sign > 0, np.pi / 6, np.pi / 3)
    low = as_float(root_form(virtual).t) + 2e-6
    high = np.ones_like(low) - 2e-6
    for _ in range(SEARCH):
        share = stack(np.linspace(0, 1, POINTS), low, wanted)
        grid = low + (high - low) * share
        angle = tangent(grid)
        k = np.clip(np.sum(angle < wanted, axis=0), 1, POINTS - 1)[None]
        low, high = (np.take_along_axis(grid, i, 0)[0] for i in (k - 1, k))
        before, after = (np.take_along_axis(angle, i, 0)[0] for i in (k - 1, k))
    t = low + (high - low) * clip((wanted - before) / where(after == before, 1.0, after - before), 0, 1)
    h, half = at(t)
    h_1, half_1 = at(np.maximum(t - 1e-3, 0))
    h_2, half_2 = at(np.minimum(t + 1e-3, 1))
    rho_F = circle_radius(h_1, half_1, h, half, h_2, half_2)
    eps_n = as_float(eps_alpha) / np.cos(tooth.beta_b) ** 2
    arm, alpha_Fen = _load_line(as_float(tooth.z), z_n, m_n, tooth.beta, as_float(x), alpha_n, d_Na, eps_n)
    return RootSection(2 * half, sign * (arm * m_n - h), rho_F, alpha_Fen)


def circle_radius(x_1: Array, y_1: Array, x_2: Array, y_2: Array, x_3: Array, y_3: Array) -> Array:
    """Radius of the circle through three points.

    Parameters
    ----------
    x_1 : Array
        First point, x (mm).
    y_1 : Array
        First point, y (mm).
    x_2 : Array
        Second point, x (mm).
    y_2 : Array
        Second point, y (mm).
    x_3 : Array
        Third point, x (mm).
    y_3 : Array
        Third point, y (mm).

    Returns
    -------
    Array
        Radius (mm), 0 where they fall together (a sharp corner).
    """
    a, b, c = np.hypot(x_2 - x_1, y_2 - y_1), np.hypot(x_3 - x_2, y_3 - y_2), np.hypot(x_3 - x_1, y_3 - y_1)
    area = np.abs((x_2 - x_1) * (y_3 - y_1) - (x_3 - x_1) * (y_2 - y_1)) / 2
    return a * b * c / np.maximum(4 * area, 1e-30)


def form_factor(section: RootSection, m_n: Real, alpha_n: Real, f_eps: Real = 1.0) -> Array:
    """Form factor Y_F.

    Parameters
    ----------
    section : RootSection
        Critical section of the root.
    m_n : Real
        Normal module (mm).
    alpha_n : Real
        Normal pressure angle (rad).
    f_eps : Real
        Load distribution influence factor.

    Returns
    -------
    Array
        Y_F.

    Notes
    -----
    Y_F = 6 h_Fe/m_n cos(alpha_Fen)/((s_Fn/m_n)^2 cos(alpha_n)) f_eps.

    References
    ----------
    ISO 6336-3:2019, 6.
    """
    s, h = section.s_Fn / m_n, section.h_Fe / m_n
    return 6 * h * np.cos(section.alpha_Fen) / (s**2 * np.cos(alpha_n)) * f_eps


def load_distribution_factor(eps_alpha_n: Real, eps_beta: Real = 0.0) -> Array:
    """Load distribution influence factor f_eps.

    Parameters
    ----------
    eps_alpha_n : Real
        Virtual contact ratio.
    eps_beta : Real
        Overlap ratio.

    Returns
    -------
    Array
        f_eps.

    Notes
    -----
    Spur gears: 1 below a virtual contact ratio of 2, 0.7 from 2 on. Helical gears: falls with the overlap ratio to
    eps_alpha_n^-0.5 at an overlap of 1, from 1 or, with a virtual contact ratio of 2 and more, from sqrt(1/2).

    References
    ----------
    ISO 6336-3:2019, 6.

    Examples
    --------
    >>> float(load_distribution_factor(1.6)), round(float(load_distribution_factor(1.6, 1.2)), 4)
    (1.0, 0.7906)
    >>> round(float(load_distribution_factor(2.5, 0.5)), 4)
    0.6708
    """
    eps_n, eps_beta = as_float(eps_alpha_n), as_float(eps_beta)
    spur = where(eps_n < 2, 1.0, 0.7)
    share = np.minimum(eps_beta, 1.0)
    start = where(eps_n < 2, 1.0, 0.5)
    return where(eps_beta == 0, spur, np.sqrt((1 - share) * start + share / eps_n))


def notch_parameter(section: RootSection) -> Array:
    """Notch parameter q_s = s_Fn/(2 rho_F).

    Parameters
    ----------
    section : RootSection
        Critical section of the root.

    Returns
    -------
    Array
        q_s.

    References
    ----------
    ISO 6336-3:2019.
    """
    return section.s_Fn / (2 * section.rho_F)


def stress_correction_factor(section: RootSection) -> Array:
    """Stress correction factor Y_S.

    Parameters
    ----------
    section : RootSection
        Critical section of the root.

    Returns
    -------
    Array
        Y_S.

    Notes
    -----
    Y_S = (1.2 + 0.13 L) q_s^(1/(1.21 + 2.3/L)), L = s_Fn/h_Fe; stated for 1 <= q_s < 8.

    References
    ----------
    ISO 6336-3:2019, 7.
    """
    L = section.s_Fn / section.h_Fe
    return (1.2 + 0.13 * L) * notch_parameter(section) ** (1 / (1.21 + 2.3 / L))

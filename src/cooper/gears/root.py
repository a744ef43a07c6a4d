"""The root that a rack with a rounded tip cuts: trochoid, root form circle, undercut.

The tool's tip is a circle in the normal section and so an ellipse in the transverse one. Rolling without slip, a
point of the tool cuts where its normal passes through the pitch point (the law of gearing), which gives the
trochoid in closed form with the direction theta of the tool's normal as parameter.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from cooper.arrays import Array, Real
from cooper.gears.tooth import Tooth

BISECTIONS = 52
"""Halvings that take an interval of one radian below the spacing of double precision."""


def trochoid(tooth: Tooth, theta: Real) -> tuple[Array, Array]:
    """Radius (mm) and angle from the middle of the space (rad) of the fillet cut at the tool normal's angle theta.

    ``theta`` runs from alpha_n, where the tool's flank meets its tip rounding, to pi/2, where the rounding meets the
    flat tip. It broadcasts with the gear's fields.
    """
    rack, m = tooth.rack, tooth.m_n
    theta = np.asarray(theta, dtype=float)
    rho = rack.rho_fP * m
    y_centre = -rack.h_fP * m + rho
    x_centre = np.pi / 4 * m + y_centre * np.tan(rack.alpha_n) - rho / np.cos(rack.alpha_n)
    y = y_centre - rho * np.sin(theta) + tooth.x_E * m
    x = (x_centre + rho * np.cos(theta)) / np.cos(tooth.beta)
    r = tooth.d / 2
    across = -y * np.cos(tooth.beta) * np.cos(theta) / np.sin(theta)
    psi = np.arctan2(across, r + y) - (across - x) / r
    return np.hypot(across, r + y), psi


@dataclass(frozen=True)
class RootForm:
    """Where fillet and involute meet.

    ``d_Ff`` root form diameter (mm); ``theta`` the tool normal's angle there (rad), greater than alpha_n only under
    undercut; ``undercut`` whether the fillet crosses the involute instead of touching it.
    """

    d_Ff: Array
    theta: Array
    undercut: Array


def root_form(tooth: Tooth) -> RootForm:
    """Root form diameter of a rack-cut gear. ISO 21771:2007, 7.6, and under undercut by bisection.

    Under undercut the fillet starts on the far branch of the involute and crosses the near one outside the base
    circle; the crossing is bracketed by the end of the rounding and the fillet's own passage through the base circle.
    """
    fields = (tooth.z, tooth.m_n, tooth.beta, tooth.x_E, tooth.rack.alpha_n, tooth.rack.h_fP, tooth.rack.rho_fP,
              tooth.d_a)  # fmt: skip
    shape = np.broadcast_shapes(*(np.shape(f) for f in fields))
    alpha_t, d_b = tooth.alpha_t, tooth.d_b
    reach = tooth.d * np.sin(alpha_t) - 2 * (tooth.rack.h_FfP - tooth.x_E) * tooth.m_n / np.sin(alpha_t)
    undercut = np.broadcast_to(reach < 0, shape)
    d_Ff = np.array(np.broadcast_to(np.sqrt(np.maximum(reach, 0.0) ** 2 + d_b**2), shape))
    theta = np.array(np.broadcast_to(np.asarray(tooth.rack.alpha_n, dtype=float), shape))
    if undercut.any():
        cut = _pick(tooth, shape, undercut)
        theta_u = _crossing(cut)
        theta[undercut] = theta_u
        d_Ff[undercut] = 2 * trochoid(cut, theta_u)[0]
    return RootForm(d_Ff, theta, undercut)


def _pick(tooth: Tooth, shape: tuple[int, ...], mask: Array) -> Tooth:
    """The gears of the mask alone, so that the search for a crossing is paid only where there is one."""

    def pick(field: Array) -> Array:
        return np.broadcast_to(np.asarray(field, dtype=float), shape)[mask]

    rack = type(tooth.rack)(*(pick(getattr(tooth.rack, f)) for f in ("alpha_n", "h_aP", "h_fP", "rho_fP")))
    z, m_n, beta, x, x_E = (pick(getattr(tooth, f)) for f in ("z", "m_n", "beta", "x", "x_E"))
    return Tooth(z, m_n, beta, x, x_E, rack, pick(tooth.d_a))


def _crossing(tooth: Tooth) -> Array:
    r_b = tooth.d_b / 2
    start = np.asarray(tooth.rack.alpha_n, dtype=float)

    def bisect(low: Array, high: Array, beyond: Callable[[Array], Array]) -> Array:
        for _ in range(BISECTIONS):
            mid = (low + high) / 2
            go = beyond(mid)
            low, high = np.where(go, mid, low), np.where(go, high, mid)
        return (low + high) / 2

    at_base = bisect(start, np.full_like(start, np.pi / 2), lambda th: trochoid(tooth, th)[0] > r_b)

    def in_space(th: Array) -> Array:
        radius, psi = trochoid(tooth, th)
        return np.pi / tooth.z - psi > tooth.half_angle(2 * np.maximum(radius, r_b))

    return bisect(start, at_base, in_space)

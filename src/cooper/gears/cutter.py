"""Tools other than the rack: the pinion-shaped cutter, and a root that is formed rather than generated."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from cooper.arrays import Array, Real, as_float, where
from cooper.gears.involute import inv, inverse_inv, pressure_angle_at
from cooper.gears.rack import Rack


class PinionCutter(Struct, frozen=True):
    """Pinion-shaped cutter: tooth count ``z_0`` and profile shift coefficient ``x_0`` of its present state of
    grinding.

    The height of its tip above the datum line and its tip radius are h_fP and rho_fP of the gear's rack; the radius
    lies in the transverse section.
    """

    z_0: Real
    x_0: Real


class FormCut(Struct, frozen=True):
    """Root with a plain circular fillet of rho_fP between the root circle and the flank: sheet, wire, mould, print.

    Where the involute ends above the fillet, a radial line joins the two.
    """


class ConicCut(FormCut, frozen=True):
    """Root as one arc of an ellipse from the end of the flank to the middle of the space: mould, print, sinter,
    wire.

    The flank ends ``h_Ff`` (modules) under the generating reference line, at the base circle at the lowest. The arc
    leaves it along its tangent and meets the root circle along its own; ``w_F`` (0 to 1) is the weight of the corner of
    both tangents: small keeps metal, large comes near the corner.
    """

    h_Ff: Real = 1.0
    w_F: Real = 0.6


class Generation(Struct, frozen=True):
    """Cutter and gear at full depth. Lengths in mm, angles in rad; internal gears have a negative a_0.

    ``alpha_w0`` working pressure angle, ``a_0`` centre distance, ``r_w0`` pitch radius of the cutter, ``r_b0`` base and
    ``d_a0`` tip; ``rho`` tip radius, ``r_M`` and ``eta_M`` radius and angle (from the middle of the cutter's tooth) of
    its centre, ``t_M`` and ``t_F`` distances of that centre and of the end of the cutter's flank from its base tangent
    point.
    """

    alpha_w0: Array
    a_0: Array
    r_w0: Array
    r_b0: Array
    d_a0: Array
    rho: Array
    r_M: Array
    eta_M: Array
    t_M: Array
    t_F: Array
    ratio: Array


def generation(cutter: PinionCutter, rack: Rack, z: Real, m_t: Real, m_n: Real, alpha_t: Real, x_E: Real) -> Generation:
    """How a pinion cutter stands to the gear it finishes.

    Parameters
    ----------
    cutter : PinionCutter
        The pinion cutter.
    rack : Rack
        Basic rack of the gear.
    z : Real
        Tooth count, negative for an internal gear.
    m_t : Real
        Transverse module (mm).
    m_n : Real
        Normal module (mm).
    alpha_t : Real
        Transverse pressure angle (rad).
    x_E : Real
        Generating profile shift coefficient.

    Returns
    -------
    Generation
        Generating centre distance, pressure angle and tip circle of the cutter.

    References
    ----------
    ISO 21771:2007, 7 (generating centre distance).
    """
    z_0, x_0, z = as_float(cutter.z_0), as_float(cutter.x_0), as_float(z)
    m_t, m_n = as_float(m_t), as_float(m_n)
    inv_w0 = inv(alpha_t) + 2 * np.tan(rack.alpha_n) * (as_float(x_E) + x_0) / (z + z_0)
    alpha_w0 = where(inv_w0 > 0, inverse_inv(np.maximum(inv_w0, 0.0)), np.nan)
    a_0 = m_t * (z + z_0) / 2 * np.cos(alpha_t) / np.cos(alpha_w0)
    r_b0 = m_t * z_0 / 2 * np.cos(alpha_t)
    d_a0 = m_t * z_0 + 2 * m_n * (x_0 + rack.h_fP)
    rho = as_float(rack.rho_fP) * m_n
    r_M = d_a0 / 2 - rho
    t_M = np.sqrt(np.maximum(r_M**2 - r_b0**2, 0.0))
    t_F = t_M + rho
    half = (np.pi / 2 + 2 * x_0 * np.tan(rack.alpha_n)) / z_0 + inv(alpha_t)
    r_F = np.hypot(r_b0, t_F)
    eta_M = half - inv(pressure_angle_at(r_b0, r_F)) - np.arctan(t_F / r_b0) + np.arctan(t_M / r_b0)
    return Generation(alpha_w0, a_0, a_0 * z_0 / (z + z_0), r_b0, d_a0, rho, r_M, eta_M, t_M, t_F, z_0 / np.abs(z))


def cutter_rounding_fits(cutter: PinionCutter, rack: Rack, m_t: Real, m_n: Real, alpha_t: Real) -> NDArray[np.bool_]:
    """Whether the tip radius fits a cutter's tooth, whose own shape no gear has a part in.

    Parameters
    ----------
    cutter : PinionCutter
        The pinion cutter.
    rack : Rack
        Basic rack of the gear.
    m_t : Real
        Transverse module (mm).
    m_n : Real
        Normal module (mm).
    alpha_t : Real
        Transverse pressure angle (rad).

    Returns
    -------
    NDArray[np.bool_]
        True where the rounding fits.
    """
    g = generation(cutter, rack, -2 * as_float(cutter.z_0), m_t, m_n, alpha_t, -as_float(cutter.x_0))
    return np.asarray(g.eta_M >= 0)


def greatest_cutter_rounding(cutter: PinionCutter, rack: Rack, m_t: Real, m_n: Real, alpha_t: Real) -> float:
    """Greatest tip radius factor that fits a cutter's tooth: a full round there; scalar, 0 where its tip is pointed.

    Parameters
    ----------
    cutter : PinionCutter
        The pinion cutter.
    rack : Rack
        Basic rack of the gear.
    m_t : Real
        Transverse module (mm).
    m_n : Real
        Normal module (mm).
    alpha_t : Real
        Transverse pressure angle (rad).

    Returns
    -------
    float
        Tip radius over module.
    """

    def fits(rho: float) -> bool:
        return bool(cutter_rounding_fits(cutter, replace(rack, rho_fP=rho), m_t, m_n, alpha_t))

    low, high = 0.0, 2.0
    if not fits(0.0):
        return 0.0
    for _ in range(52):
        mid = (low + high) / 2
        low, high = (mid, high) if fits(mid) else (low, mid)
    return low

"""Lewis's bending stress: a quick look beside the standard, with the form factor of the true tooth."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, Real, as_float, clip, stack, where
from cooper.gears.cutter import PinionCutter
from cooper.gears.fillets import fillet
from cooper.gears.root import root_form
from cooper.gears.tooth import Tooth
from cooper.gears.virtual import virtual_tooth_count
from cooper.stock.files import load

POINTS = 65


def lewis_form_factor(tooth: Tooth, x: Real) -> Array:
    """Lewis form factor Y: the least of t^2/(6 h m_n) over fillet and flank, load along the flank's normal at the tip
    edge.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    x : Real
        Profile shift coefficient that makes the root.

    Returns
    -------
    Array
        Y.

    Notes
    -----
    t is the tooth's chord and h its distance from where the line of the load meets the middle of the tooth: the
    parabola of even strength touches the fillet where that is least. Helical gears by their virtual spur gear, with the
    fillet of the tool they really have. Only the part of the load across the tooth counts, which is taken as the
    tangential force.

    References
    ----------
    W. Lewis, 1892.
    """
    if np.ndim(x) == 0:
        return tooth.kept(("Lewis", float(x)), lambda: _lewis_form_factor(tooth, x))
    return _lewis_form_factor(tooth, x)


def _lewis_form_factor(tooth: Tooth, x: Real) -> Array:
    m_n = as_float(tooth.m_n)
    z_n = virtual_tooth_count(tooth.z, tooth.beta, tooth.beta_b)
    tool = tooth.tool
    if isinstance(tool, PinionCutter):
        tool = PinionCutter(virtual_tooth_count(tool.z_0, tooth.beta, tooth.beta_b), tool.x_0)
    d_a = z_n * m_n + tooth.d_a - tooth.d
    spur = Tooth(z_n, m_n, np.zeros(()), as_float(x), as_float(x), tooth.rack, d_a, tool)
    sign = spur.sign
    form = root_form(spur)
    share = stack(np.linspace(0, 1, POINTS), form.t, d_a)
    low, psi = fillet(spur, form.t + (1 - form.t) * share)
    d_y = form.d_Ff + (d_a - form.d_Ff) * share
    # The wide teeth of a ring may be weakest on the flank.
    radius = np.concatenate((low, np.abs(d_y) / 2))
    angle = np.concatenate((np.pi / np.abs(z_n) - psi, spur.half_angle(d_y)))
    alpha_a = np.arccos(clip(np.abs(spur.d_b / d_a), -1, 1))
    load_angle = alpha_a - sign * spur.half_angle(d_a)
    h = sign * (np.abs(spur.d_b) / 2 / np.cos(load_angle) - radius * np.cos(angle))
    t = 2 * radius * np.sin(angle)
    return as_float(np.min(where(h > 0, t**2 / (6 * np.maximum(h, 1e-9) * m_n), np.inf), axis=0))


def lewis_stress(F_t: Real, b: Real, m_n: Real, Y: Real) -> Array:
    """Bending stress F_t/(b m_n Y) without notch, dynamic or any other factor.

    Parameters
    ----------
    F_t : Real
        Nominal tangential force at the reference circle (N).
    b : Real
        Face width (mm).
    m_n : Real
        Normal module (mm).
    Y : Real
        Lewis form factor.

    Returns
    -------
    Array
        Stress (MPa).

    References
    ----------
    W. Lewis, 1892.

    Examples
    --------
    >>> float(lewis_stress(1000.0, 20.0, 2.5, 0.3))
    66.66666666666667
    """
    return as_float(F_t) / (as_float(b) * m_n * Y)


def table_value(z: Real, alpha_n_deg: float) -> Array | None:
    """The textbooks' factor for an unshifted full-depth tooth of 14.5 or 20 degrees, over 1/z.

    Parameters
    ----------
    z : Real
        Tooth count, negative for an internal gear.
    alpha_n_deg : float
        Normal pressure angle (deg).

    Returns
    -------
    Array | None
        Y, None for other angles.

    References
    ----------
    W. Lewis, 1892.

    Examples
    --------
    >>> round(float(table_value(17, 20.0)), 3)
    0.303
    """
    rows = load("lewis").get(f"{alpha_n_deg:g}")
    if rows is None:
        return None
    count, value = np.array(rows).T
    return as_float(np.interp(-1 / as_float(z), -1 / count, value))

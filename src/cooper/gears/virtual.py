"""The virtual spur gear that stands for a helical one."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from cooper.arrays import Array, Real, as_float
from cooper.gears.cutter import PinionCutter
from cooper.gears.tooth import Tooth


def virtual_tooth_count(z: Real, beta: Real, beta_b: Real) -> Array:
    """Tooth count of the spur gear that stands for a helical one.

    Parameters
    ----------
    z : Real
        Tooth count, negative for an internal gear.
    beta : Real
        Helix angle at the reference cylinder (rad).
    beta_b : Real
        Base helix angle (rad).

    Returns
    -------
    Array
        Virtual count.

    Notes
    -----
    z_n = z/(cos^2(beta_b) cos(beta)).

    References
    ----------
    ISO 6336-3:2019, 6.

    Examples
    --------
    >>> float(virtual_tooth_count(20, 0.0, 0.0)), round(float(virtual_tooth_count(20, np.radians(30), np.radians(28.024))), 2)
    (20.0, 29.64)
    """  # noqa: E501
    return as_float(as_float(z) / (np.cos(beta_b) ** 2 * np.cos(beta)))


def virtual_tooth(tooth: Tooth, x: Real | None = None, d_Na: Real | None = None) -> Tooth:
    """The virtual spur tooth of a helical one, cut by the virtual tool.

    Parameters
    ----------
    tooth : Tooth
        The tooth with its tool, as made.
    x : Real | None
        Profile shift coefficient in place of both shifts.
    d_Na : Real | None
        Active tip diameter (mm) in place of the tip diameter.

    Returns
    -------
    Tooth
        The virtual tooth; above the reference circle it stands as high as the tooth.

    Notes
    -----
    Both counts are divided by cos^2(beta_b) cos(beta).

    References
    ----------
    ISO 6336-3:2019, 6.

    Examples
    --------
    >>> from cooper.gears.rack import Rack
    >>> t = Tooth(20.0, 2.0, np.radians(25.0), 0.1, 0.1, Rack(np.radians(20.0), 1.0, 1.25, 0.38), 48.6)
    >>> v = virtual_tooth(t, d_Na=48.2)
    >>> round(float(v.d_a - v.d), 9) == round(float(48.2 - t.d), 9)
    True
    """
    z_n = virtual_tooth_count(tooth.z, tooth.beta, tooth.beta_b)
    tool = tooth.tool
    if isinstance(tool, PinionCutter):
        tool = PinionCutter(virtual_tooth_count(tool.z_0, tooth.beta, tooth.beta_b), tool.x_0)
    d_an = z_n * tooth.m_n + as_float(tooth.d_a if d_Na is None else d_Na) - tooth.d
    one, two = (tooth.x, tooth.x_E) if x is None else (as_float(x), as_float(x))
    # What is taken off the flanks in micrometres is left out.
    return replace(tooth, z=z_n, beta=np.zeros(()), x=one, x_E=two, d_a=d_an, tool=tool, flank=None)

"""Depth of a hardened case, against fracture from below it. ISO 6336-5:2016, 5.6; the same in ANSI/AGMA 2101-D04,
16."""

from __future__ import annotations

from cooper.arrays import Array, Real, as_float

U_H = {"ML": 44000.0, "MQ": 66000.0, "ME": 66000.0}
"""Hardening process factor by quality grade; MPa."""
DEEPEST = 0.4
"""Depth of the case, in modules, from which tips harden through. ISO 6336-5, 5.6."""


def least_case_depth(sigma_H: Real, rho_red: Real, process: Real) -> Array:
    """Least effective case depth (at 550 HV) against fatigue below the case.

    Parameters
    ----------
    sigma_H : Real
        Contact stress (MPa).
    rho_red : Real
        Radius of relative curvature at the pitch point, normal section (mm).
    process : Real
        Hardening process factor U_H (MPa).

    Returns
    -------
    Array
        Depth (mm).

    Notes
    -----
    sigma_H d_w1 sin(alpha_wt) z_2/(U_H cos(beta_b) (z_1 + z_2)), which is 2 sigma_H rho_red/U_H.

    References
    ----------
    ISO 6336-5:2016, 5.6.2.

    Examples
    --------
    >>> round(float(least_case_depth(1500.0, 11.0, 66000.0)), 3)
    0.5
    """
    return as_float(2 * as_float(sigma_H) * as_float(rho_red) / as_float(process))

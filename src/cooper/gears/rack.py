"""The basic rack tooth profile and what it can and cannot be (ISO 53)."""

from __future__ import annotations

from functools import cached_property

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float


class Rack(Struct, frozen=True, dict=True):
    """Basic rack of the gear in its normal section; lengths as factors of m_n. ISO 53:1998, Figure 2.

    ``alpha_n`` pressure angle in rad, ``h_aP`` addendum, ``h_fP`` dedendum, ``rho_fP`` root fillet radius.
    The cutting rack is its counterpart: the tip of the tool has the height h_fP and the radius rho_fP. ``pr_P`` is the
    protuberance of the tool's tip beyond its flank, ``q_P`` the stock that is ground off each flank afterwards (both
    normal to the flank), ``alpha_prP`` the profile angle of the ramp that joins the two (rad, below alpha_n).
    """

    alpha_n: Real
    h_aP: Real
    h_fP: Real
    rho_fP: Real
    pr_P: Real = 0.0
    q_P: Real = 0.0
    alpha_prP: Real = 0.0

    @cached_property
    def h_FfP(self) -> Array:
        """Root form depth: depth of the straight flank below the datum line, where the rounding begins."""
        return as_float(self.h_fP - self.rho_fP * (1 - np.sin(self.alpha_n)))

    @cached_property
    def s_pr(self) -> Array:
        """Undercut that the protuberance leaves on the finished flank: protuberance less grinding stock."""
        return as_float(self.pr_P) - self.q_P


def greatest_rho_fP(alpha_n: Real, h_fP: Real, s_pr: Real = 0.0) -> Array:
    """Greatest root fillet radius factor that fits the tip of the cutting rack: a full round there.

    Parameters
    ----------
    alpha_n : Real
        Normal pressure angle (rad).
    h_fP : Real
        Dedendum factor.
    s_pr : Real
        Protuberance over module.

    Returns
    -------
    Array
        Radius factor, negative where the tool tip is already pointed.

    Notes
    -----
    The tip land of half width pi/4 - h_fP tan(alpha_n) + s_pr/cos(alpha_n) vanishes at this radius.

    Examples
    --------
    >>> round(float(greatest_rho_fP(np.radians(20), 1.25)), 4)
    0.4719
    """
    alpha_n = as_float(alpha_n)
    half = np.pi / 4 - as_float(h_fP) * np.tan(alpha_n) + as_float(s_pr) / np.cos(alpha_n)
    return as_float(half * np.cos(alpha_n) / (1 - np.sin(alpha_n)))


def greatest_h_fP(alpha_n: Real, rho_fP: Real) -> Array:
    """Greatest dedendum factor for a given root fillet radius factor: the inverse of `greatest_rho_fP`.

    Parameters
    ----------
    alpha_n : Real
        Normal pressure angle (rad).
    rho_fP : Real
        Root fillet radius factor.

    Returns
    -------
    Array
        Dedendum factor.

    Examples
    --------
    >>> round(float(greatest_h_fP(np.radians(20), 0.38)), 3)
    1.427
    """
    alpha_n = as_float(alpha_n)
    return as_float((np.pi / 4 - as_float(rho_fP) * (1 - np.sin(alpha_n)) / np.cos(alpha_n)) / np.tan(alpha_n))

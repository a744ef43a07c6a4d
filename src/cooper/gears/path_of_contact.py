"""The path of contact of a pair: its points, contact ratio and sliding (ISO 21771, ISO 1122).

An internal wheel has negative diameters; its base tangent point T2 then lies behind the pinion's, at a negative
distance, and its radius of curvature is negative (concave).
"""

from __future__ import annotations

from functools import cached_property

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float, where


class Path(Struct, frozen=True, dict=True):
    """Points on the line of action as distances from the pinion's base tangent point T1, in mm.

    ``A`` start (tip of the wheel), ``B`` lowest and ``D`` highest point of single contact on the pinion, ``C`` pitch
    point, ``E`` end (tip of the pinion), ``T2`` the wheel's base tangent point. ``p_et`` transverse base pitch.
    ``tip_2`` and ``tip_1`` are where the tip circles of wheel and pinion cross the line: A and E unless a root form
    circle cuts the path short of them.
    """

    A: Array
    B: Array
    C: Array
    D: Array
    E: Array
    T2: Array
    p_et: Array
    tip_2: Array
    tip_1: Array

    @cached_property
    def eps_alpha(self) -> Array:
        """Profile (transverse) contact ratio. ISO 21771:2007."""
        return (self.E - self.A) / self.p_et

    @cached_property
    def eps_1(self) -> Array:
        """Tip part of the contact ratio of the pinion, C to E."""
        return (self.E - self.C) / self.p_et

    @cached_property
    def eps_2(self) -> Array:
        """Tip part of the contact ratio of the wheel, A to C."""
        return (self.C - self.A) / self.p_et


def path_of_contact(
    d_b1: Real,
    d_b2: Real,
    d_a1: Real,
    d_a2: Real,
    d_Ff1: Real,
    d_Ff2: Real,
    a_w: Real,
    p_et: Real,
) -> Path:
    """Path of contact between the tip form circles, cut short where a flank ends at its root form circle.

    Parameters
    ----------
    d_b1 : Real
        Base diameter of gear 1 (mm).
    d_b2 : Real
        Base diameter of gear 2 (mm), negative for an internal gear.
    d_a1 : Real
        Tip diameter of gear 1 (mm).
    d_a2 : Real
        Tip diameter of gear 2 (mm), negative for an internal gear.
    d_Ff1 : Real
        Root form diameter of gear 1 (mm).
    d_Ff2 : Real
        Root form diameter of gear 2 (mm), negative for an internal gear.
    a_w : Real
        Working centre distance (mm), negative for an internal wheel.
    p_et : Real
        Transverse base pitch (mm).

    Returns
    -------
    Path
        g of A, B, C, D, E (mm) from the pinion's base tangent point.

    Notes
    -----
    B and D keep their meaning for contact ratios from 1 to 2.
    """
    r_b1, r_b2 = as_float(d_b1) / 2, as_float(d_b2) / 2
    sign = where(r_b2 < 0, -1.0, 1.0)
    T2 = sign * np.sqrt(np.maximum(as_float(a_w) ** 2 - (r_b1 + r_b2) ** 2, 0.0))
    tip_2 = T2 - sign * np.sqrt(np.maximum((as_float(d_a2) / 2) ** 2 - r_b2**2, 0.0))
    tip_1 = np.sqrt(np.maximum((as_float(d_a1) / 2) ** 2 - r_b1**2, 0.0))
    form_1 = np.sqrt(np.maximum((as_float(d_Ff1) / 2) ** 2 - r_b1**2, 0.0))
    form_2 = T2 - sign * np.sqrt(np.maximum((as_float(d_Ff2) / 2) ** 2 - r_b2**2, 0.0))
    A, E = np.maximum(tip_2, form_1), np.minimum(tip_1, form_2)
    C = T2 * r_b1 / (r_b1 + r_b2)
    return Path(A, E - p_et, C, A + p_et, E, T2, as_float(p_et), tip_2, tip_1)


def diameters_at(g: Real, d_b1: Real, d_b2: Real, T2: Real) -> tuple[Array, Array]:
    """Diameters on pinion and wheel that touch at a place of the line of action.

    Parameters
    ----------
    g : Real
        Distance from the pinion's base tangent point along the line of action (mm).
    d_b1 : Real
        Base diameter of gear 1 (mm).
    d_b2 : Real
        Base diameter of gear 2 (mm), negative for an internal gear.
    T2 : Real
        Distance between both base tangent points on the line of action (mm), negative for an internal wheel.

    Returns
    -------
    tuple[Array, Array]
        Diameters (mm, positive).
    """
    g = as_float(g)
    return np.hypot(d_b1, 2 * g), np.hypot(d_b2, 2 * (as_float(T2) - g))


MOST_PAIRS = 6
"""Pairs of teeth in contact at once up to which the load is shared; contact ratios lie below."""


def pairs_in_contact(g: Real, A: Real, E: Real, p_et: Real) -> Array:
    """Number of pairs of teeth that touch at once when one of them touches at g.

    Parameters
    ----------
    g : Real
        Distance from the pinion's base tangent point along the line of action (mm).
    A : Real
        Start of the path of contact (mm).
    E : Real
        End of the path of contact (mm).
    p_et : Real
        Transverse base pitch (mm).

    Returns
    -------
    Array
        Number of pairs, at least 1 on the whole path; where a pair comes or goes, the smaller number.

    Examples
    --------
    >>> [float(pairs_in_contact(g, 0.0, 16.0, 10.0)) for g in (3.0, 8.0, 13.0)], float(pairs_in_contact(12.0, 0.0, 24.0, 10.0))
    ([2.0, 1.0, 2.0], 3.0)
    """  # noqa: E501
    g, p = as_float(g), as_float(p_et)
    return as_float(1 + np.maximum(np.floor((E - g) / p - 1e-9), 0) + np.maximum(np.floor((g - A) / p - 1e-9), 0))


def specific_sliding(g: Real, T2: Real, u: Real) -> tuple[Array, Array]:
    """Specific sliding of pinion and wheel: sliding speed over own rolling speed.

    Parameters
    ----------
    g : Real
        Distance from the pinion's base tangent point along the line of action (mm).
    T2 : Real
        Distance between both base tangent points on the line of action (mm), negative for an internal wheel.
    u : Real
        Gear ratio z_2/z_1.

    Returns
    -------
    tuple[Array, Array]
        Specific sliding of both; minus infinity at the gear's own base tangent point.

    References
    ----------
    ISO 21771:2007, 6.4.

    Examples
    --------
    >>> [round(float(v), 3) for v in specific_sliding(10.0, 30.0, 2.0)]
    [0.0, 0.0]
    """
    g = as_float(g)
    with np.errstate(divide="ignore"):
        roll = (as_float(T2) - g) / (g * u)
        return 1 - roll, 1 - 1 / roll

"""What is peculiar to internal pairs: tips that foul beyond the mesh, and whether the ring slips on radially."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from cooper.arrays import Array, Real, all_, as_float, clip
from cooper.gears.involute import inv, pressure_angle_at
from cooper.gears.outline import gear_outline
from cooper.gears.tip import land_half_angle
from cooper.gears.tooth import Tooth

CHORD = 2e-3
"""Chord error of the outlines whose shadows are compared, in modules; an overlap below its double counts as
touching."""


def tip_gap(one: Tooth, two: Tooth, a_w: Real, alpha_wt: Real) -> Array:
    """Gap between the tip corners of pinion and ring where the tip circles cross, beyond the mesh; mm along the arc.

    Parameters
    ----------
    one : Tooth
        Tooth of the pinion.
    two : Tooth
        Tooth of the ring.
    a_w : Real
        Working centre distance (mm), negative.
    alpha_wt : Real
        Transverse working pressure angle (rad).

    Returns
    -------
    Array
        Gap (mm along the arc), negative where the tips foul.

    Notes
    -----
    With the driving flanks in contact: when the pinion's corner passes the ring's tip circle, the ring's corner must
    have left that place already. Follows from the involute's polar angle alone.
    """
    a, r_1, r_2 = np.abs(a_w), as_float(one.d_a) / 2, np.abs(two.d_a) / 2
    theta_1 = np.arccos(clip((r_2**2 - a**2 - r_1**2) / (2 * a * r_1), -1, 1))
    theta_2 = np.arccos(clip((a**2 + r_2**2 - r_1**2) / (2 * a * r_2), -1, 1))
    inv_1, inv_2 = (inv(pressure_angle_at(t.d_b, t.d_a)) for t in (one, two))
    inv_w = inv(alpha_wt)
    # Chamfers and roundings take the corners back.
    back = [t.half_angle(t.d_a) - land_half_angle(t) for t in (one, two)]
    turn = (theta_1 + inv_1 - inv_w + back[0]) * one.z / np.abs(two.z)
    return as_float(r_2 * (inv_w - inv_2 + back[1] + turn - theta_2))


def slips_on_radially(one: Tooth, two: Tooth, a_w: float) -> bool:
    """Whether pinion and ring can be brought together along the line of centres, teeth standing in the backlash's
    middle.

    Parameters
    ----------
    one : Tooth
        Tooth of the pinion.
    two : Tooth
        Tooth of the ring.
    a_w : float
        Working centre distance (mm).

    Returns
    -------
    bool
        True where they can.

    Notes
    -----
    Tried with a tooth and with a space of the pinion on that line. The pinion leaves along it without touching when
    nothing of it lies, at any height above the line, farther out than the ring's metal: their outlines' shadows.
    """
    a = abs(float(a_w))

    def tried() -> tuple[Tooth, bool]:
        return two, any(_leaves(one, two, a, start) for start in (0.0, np.pi / float(one.z)))

    # Kept with the ring itself, so that no other can take its identity.
    return one.kept(("slips on", id(two), a), tried)[1]


def _leaves(one: Tooth, two: Tooth, a: float, phase: float) -> bool:
    # A tooth of the pinion on the line meets a space of the ring, and the other way round.
    z_2 = abs(float(two.z))
    chord = CHORD * float(one.m_n)
    pinion = gear_outline(one, phase, chord) + [a, 0.0]
    ring = gear_outline(two, 0.0 if phase else np.pi / z_2, chord)
    reach = float(one.d_a) / 2
    y = np.linspace(-reach, reach, 1201)[1:-1]
    return all_(_outermost(pinion, y) <= _innermost(ring, y) + 2 * chord)


def _crossings(points: Array, y: Array) -> tuple[Array, NDArray[np.intp]]:
    """x of every crossing of a closed outline with the heights y, and which height each belongs to."""
    p, q = points, np.roll(points, -1, axis=0)
    low, high = np.minimum(p[:, 1], q[:, 1]), np.maximum(p[:, 1], q[:, 1])
    first, last = np.searchsorted(y, low), np.searchsorted(y, high)
    count = last - first
    edge = np.repeat(np.arange(len(p)), count)
    place = np.arange(count.sum()) - np.repeat(np.cumsum(count) - count, count) + np.repeat(first, count)
    t = (y[place] - p[edge, 1]) / (q[edge, 1] - p[edge, 1])
    return p[edge, 0] + t * (q[edge, 0] - p[edge, 0]), place


def _outermost(points: Array, y: Array) -> Array:
    x, place = _crossings(points, y)
    out = np.full(len(y), -np.inf)
    np.maximum.at(out, place, x)
    return out


def _innermost(ring: Array, y: Array) -> Array:
    """Least x of the ring's metal on the side of the mesh at each height: its outline's first crossing on x > 0."""
    x, place = _crossings(ring, y)
    out = np.full(len(y), np.inf)
    right = x > 0
    np.minimum.at(out, place[right], x[right])
    return out

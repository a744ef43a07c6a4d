"""Where the outlines of two gears run into each other, and how deep: by distance between outlines, not by pixels."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from cooper.arrays import Array, as_float, clip, where
from cooper.gears.outline import gear_outline
from cooper.gears.phase import MeshPlacement
from cooper.gears.rack_gear import is_rack, rack_outline, transverse_pitch
from cooper.gears.root import root_form
from cooper.gears.tooth import Tooth

TOLERANCE = 1e-4
"""Chord error of the outlines compared; mm. An overlap below it counts as touching."""


class Overlap(Struct, frozen=True):
    """One place where metal meets metal: the deepest point of it (mm) and its depth (mm), found on outlines of a
    ``chord`` error (mm).

    ``inside`` is the gear (1, 2) whose outline lies inside the other; ``part`` where on that gear: "fillet", "flank" or
    "tip".
    """

    x: float
    y: float
    depth: float
    inside: int
    part: str
    chord: float = TOLERANCE


COARSE = 0.005
"""Chord error of the outlines with which places are sought that need a closer look, in modules."""
DEEP = 0.1
"""Depth, in modules, from which on the metal that a point lies in is seen roughly: to look closer would take up to
seconds, for a twentieth of the depth at most."""
MOST_PAIRS = 5_000_000
"""Pairs of points that are looked at closely; more of them would take gigabytes."""


def overlaps(one: Tooth, two: Tooth, a_w: float, stand: MeshPlacement) -> list[Overlap]:
    """Every overlap of a pair in a stand, deepest first; empty when the gears only touch or stand clear.

    Parameters
    ----------
    one : Tooth
        Tooth of gear 1.
    two : Tooth
        Tooth of gear 2.
    a_w : float
        Working centre distance (mm); of a rack the distance to its datum line.
    stand : MeshPlacement
        Phases of both gears; phi_2 of a rack is the place of a tooth along it (mm).

    Returns
    -------
    list[Overlap]
        Overlaps, empty when the gears only touch or stand clear.
    """
    coarse = COARSE * float(one.m_n)
    rough = _outlines(one, two, a_w, stand, coarse)
    if rough is None:
        return []
    depths = [depth_inside(points, polygon, line) for points, polygon, line in rough]
    hot = [points[depth > -3 * coarse] for (points, _, _), depth in zip(rough, depths, strict=True)]
    near = np.concatenate(hot)
    if not len(near):
        return []
    fine = _outlines(one, two, a_w, stand, TOLERANCE)
    assert fine is not None
    deepest = max(float(depth.max(initial=0.0)) for depth in depths)
    pairs = len(near) * sum(len(points) for points, _, _ in fine)
    deep = deepest > DEEP * float(one.m_n) or pairs > MOST_PAIRS
    room = 8 * np.sqrt(coarse * float(one.m_n))
    result = []
    for n, own, tooth in ((0, 0.0, one), (1, a_w, two)):
        points, depth = fine[n][0], np.full(len(fine[n][0]), -1.0)
        if deep:
            # The deepest points alone, in the metal as it is seen roughly.
            spots, reach = _summits(rough[n][0], depths[n])
            close = _from(spots, points) <= reach if len(spots) else np.zeros(len(points), dtype=bool)
            depth[close] = depth_inside(points[close], *rough[n][1:])
        else:
            _, polygon, line = fine[n]
            close = _from(near, points) < room
            # What lies further from these places than a point of them can lie deep is nearest to none.
            at_hand = _from(near, line) < room + deepest + 4 * coarse
            depth[close] = depth_inside(points[close], polygon, line, at_hand[:-1] | at_hand[1:])
        form, sign = abs(float(root_form(tooth).d_Ff)) / 2, float(tooth.sign)
        for k in _peaks(depth):
            r = float(np.hypot(points[k, 0] - own, points[k, 1]))
            if n == 1 and is_rack(two):
                r = float(two.d) / 2 + a_w - float(points[k, 0])
            tip = sign * (r - abs(float(tooth.d_a)) / 2) > -10 * TOLERANCE
            part = "fillet" if sign * (r - form) < 0 else "tip" if tip else "flank"
            chord = coarse if deep else TOLERANCE
            result.append(Overlap(float(points[k, 0]), float(points[k, 1]), float(depth[k]), n + 1, part, chord))
    return sorted(result, key=lambda o: -o.depth)


def _summits(points: Array, depth: Array) -> tuple[Array, float]:
    """The deepest point of every run that lies inside, and how far from it the next points are at most."""
    k = np.array(_peaks(depth), dtype=int)
    steps = np.hypot(*np.diff(points, axis=0, prepend=points[:1], append=points[-1:]).T)
    return points[k], float(np.maximum(steps[k], steps[k + 1]).max(initial=0.0))


Side = tuple[Array, Array, Array]


def _outlines(one: Tooth, two: Tooth, a_w: float, stand: MeshPlacement, tolerance: float) -> tuple[Side, Side] | None:
    """For each gear its points near the other one, and the other's metal as a closed polygon and as an open line."""
    phi_1, phi_2 = float(stand.phi_1), float(stand.phi_2)
    if is_rack(two):
        p, depth = transverse_pitch(two), float(two.d_a - two.d_f) / 2
        teeth = 2 * int(np.ceil(float(one.d_a) / 2 / p)) + 2
        place, height = rack_outline(two, teeth, 3 * depth, tolerance).T
        # An even number of teeth stands half a pitch beside the middle.
        metal = np.column_stack((a_w - height, place + phi_2 - p / 2))
        first = gear_outline(one, phi_1, tolerance)
        first = np.vstack((first, first[:1]))
        far = first[:, 0] > a_w - float(two.d_a - two.d) / 2 - tolerance
        near = (np.hypot(*metal.T) < float(one.d_a) / 2 + tolerance) & (metal[:, 0] < a_w + depth)
        return (first[far], metal, metal[:-2]), (metal[near], first, first)
    if two.sign > 0:
        first = _zone(one, phi_1, 0.0, a_w, float(two.d_a) / 2, tolerance)
        second = _zone(two, phi_2, a_w, 0.0, float(one.d_a) / 2, tolerance)
        if len(first) < 2 or len(second) < 2:
            return None
        metal = np.vstack((second, [a_w, 0.0]))
        return (first, metal, second), (second, np.vstack((first, [0.0, 0.0])), first)
    first = _tip_zone(one, phi_1, a_w, abs(float(two.d_a)) / 2, tolerance)
    second = _ring_zone(two, phi_2, a_w, float(one.d_a) / 2, tolerance)
    if len(first) < 2 or len(second) < 2:
        return None
    # The ring's metal lies outside its opening: the run of outline is closed round the outside.
    out = 4 * (abs(a_w) + float(one.d_a))
    up, down = (out / float(np.hypot(*end)) * end for end in (second[-1], second[0]))
    metal = np.vstack((second, up, [out, out], [out, -out], down))
    # Only what reaches beyond the ring's tip circle can lie in its metal.
    beyond = np.hypot(first[:, 0] - a_w, first[:, 1]) > abs(float(two.d_a)) / 2 - tolerance
    return (first[beyond], metal, second), (second, np.vstack((first, [0.0, 0.0])), first)


def _tip_zone(tooth: Tooth, phase: float, ring_x: float, tip: float, tolerance: float) -> Array:
    """The run of a pinion's outline at the origin that comes near the tip circle of the ring about it."""
    pitch = 2 * np.pi / float(tooth.z)
    away = 0.0 if ring_x > 0 else np.pi
    start = phase + pitch * np.round((away - phase) / pitch)
    points = gear_outline(tooth, start, tolerance)
    near = np.hypot(points[:, 0] - ring_x, points[:, 1]) > tip - 3 * float(tooth.m_n)
    ends = np.flatnonzero(near)
    return points[ends[0] : ends[-1] + 1] if len(ends) else points[:0]


def _zone(tooth: Tooth, phase: float, x: float, other_x: float, reach: float, tolerance: float) -> Array:
    """The run of the outline that lies within reach of the other gear's centre; (n, 2) in mm."""
    pitch = 2 * np.pi / float(tooth.z)
    # The outline starts on the far side, so that the part near the other gear is one run of points.
    away = 0.0 if other_x < x else np.pi
    start = phase + pitch * np.round((away - phase) / pitch)
    points = gear_outline(tooth, start, tolerance) + [x, 0.0]
    near = np.hypot(points[:, 0] - other_x, points[:, 1]) < reach + float(tooth.m_n)
    ends = np.flatnonzero(near)
    return points[ends[0] : ends[-1] + 1] if len(ends) else points[:0]


def _ring_zone(tooth: Tooth, phase: float, x: float, reach: float, tolerance: float) -> Array:
    """The run of a ring's outline within reach of the pinion at the origin, from below the line of centres to above."""
    pitch = 2 * np.pi / abs(float(tooth.z))
    start = phase + pitch * np.round((np.pi - phase) / pitch)
    points = gear_outline(tooth, start, tolerance) + [x, 0.0]
    near = np.hypot(points[:, 0], points[:, 1]) < reach + float(tooth.m_n)
    ends = np.flatnonzero(near)
    return points[ends[0] : ends[-1] + 1] if len(ends) else points[:0]


def _from(spots: Array, points: Array) -> Array:
    """How far each point is from the nearest of some spots; mm."""
    x, y = points[:, 0][:, None] - spots[:, 0], points[:, 1][:, None] - spots[:, 1]
    return as_float(np.sqrt((x * x + y * y).min(axis=1)))


def depth_inside(points: Array, polygon: Array, line: Array, only: NDArray[np.bool_] | None = None) -> Array:
    """Distance of points to a line where they lie inside a closed polygon, minus that distance outside.

    Parameters
    ----------
    points : Array
        Points (n, 2; mm).
    polygon : Array
        Closed polygon (m, 2; mm).
    line : Array
        Polyline (k, 2; mm).
    only : NDArray[np.bool_] | None
        Pieces of the line that count, None for all.

    Returns
    -------
    Array
        Depths (n,; mm).
    """
    # By components: far quicker than pairs of them along a last axis.
    chosen = slice(None) if only is None else only
    a_x, a_y = line[:-1][chosen].T
    d_x, d_y = (line[1:] - line[:-1])[chosen].T
    x, height = points[:, 0][:, None] - a_x, points[:, 1][:, None] - a_y
    t = clip((x * d_x + height * d_y) / np.maximum(d_x * d_x + d_y * d_y, 1e-30), 0, 1)
    x -= t * d_x
    height -= t * d_y
    distance = np.sqrt((x * x + height * height).min(axis=1))
    # The pieces of the polygon at a point's height, and on which side of it they are.
    above = polygon[:, 1] > points[:, 1][:, None]
    k, n = np.nonzero(above != np.roll(above, -1, axis=1))
    p, q = polygon[n], np.roll(polygon, -1, axis=0)[n]
    at = (q[:, 0] - p[:, 0]) * (points[k, 1] - p[:, 1]) / (q[:, 1] - p[:, 1]) + p[:, 0]
    crossed = np.bincount(k[points[k, 0] < at], minlength=len(points))
    return as_float(where(crossed % 2 == 1, distance, -distance))


def _peaks(depth: Array) -> list[int]:
    """The deepest point of every run of points that lie inside."""
    inside = np.concatenate(([False], depth > TOLERANCE, [False]))
    starts, ends = np.flatnonzero(np.diff(inside.astype(int)) == 1), np.flatnonzero(np.diff(inside.astype(int)) == -1)
    return [int(s + np.argmax(depth[s:e])) for s, e in zip(starts, ends, strict=True)]

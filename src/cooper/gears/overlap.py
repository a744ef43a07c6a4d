"""Where the outlines of two gears run into each other, and how deep: by distance between outlines, not by pixels."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cooper.arrays import Array
from cooper.gears.outline import gear_outline
from cooper.gears.phase import Stand
from cooper.gears.root import root_form
from cooper.gears.tooth import Tooth

TOLERANCE = 1e-4
"""Chord error of the outlines compared; mm. An overlap below it counts as touching."""


@dataclass(frozen=True)
class Overlap:
    """One place where metal meets metal: the deepest point of it (mm) and its depth (mm).

    ``inside`` is the gear (1, 2) whose outline lies inside the other; ``part`` where on that gear: "fillet", "flank" or "tip".
    """

    x: float
    y: float
    depth: float
    inside: int
    part: str


def overlaps(one: Tooth, two: Tooth, a_w: float, stand: Stand) -> list[Overlap]:
    """Every overlap of an external pair in a stand, deepest first; empty when the gears only touch or stand clear."""
    first = _zone(one, float(stand.phi_1), 0.0, a_w, float(two.d_a) / 2)
    second = _zone(two, float(stand.phi_2), a_w, 0.0, float(one.d_a) / 2)
    if len(first) < 2 or len(second) < 2:
        return []
    found = []
    for inside, points, outline, centre, own, tooth in (
        (1, first, second, a_w, 0.0, one), (2, second, first, 0.0, a_w, two)
    ):  # fmt: skip
        depth = depth_inside(points, np.vstack((outline, [centre, 0.0])), outline)
        form = float(root_form(tooth).d_Ff) / 2
        for k in _peaks(depth):
            r = float(np.hypot(points[k, 0] - own, points[k, 1]))
            part = "fillet" if r < form else "tip" if r > float(tooth.d_a) / 2 - 10 * TOLERANCE else "flank"
            found.append(Overlap(float(points[k, 0]), float(points[k, 1]), float(depth[k]), inside, part))
    return sorted(found, key=lambda o: -o.depth)


def _zone(tooth: Tooth, phase: float, x: float, other_x: float, reach: float) -> Array:
    """The run of the outline that lies within reach of the other gear's centre; (n, 2) in mm."""
    pitch = 2 * np.pi / float(tooth.z)
    # The outline starts on the far side, so that the part near the other gear is one run of points.
    away = 0.0 if other_x < x else np.pi
    start = phase + pitch * np.round((away - phase) / pitch)
    points = gear_outline(tooth, start, TOLERANCE) + [x, 0.0]
    near = np.hypot(points[:, 0] - other_x, points[:, 1]) < reach + float(tooth.m_n)
    ends = np.flatnonzero(near)
    return points[ends[0] : ends[-1] + 1] if len(ends) else points[:0]


def depth_inside(points: Array, polygon: Array, line: Array) -> Array:
    """Distance of points to a line where they lie inside a closed polygon, minus that distance outside; mm."""
    a, b = line[:-1], line[1:]
    d = b - a
    t = np.clip(((points[:, None] - a) * d).sum(-1) / np.maximum((d * d).sum(-1), 1e-30), 0, 1)
    distance = np.sqrt((((points[:, None] - a) - t[..., None] * d) ** 2).sum(-1).min(axis=1))
    p, q = polygon, np.roll(polygon, -1, axis=0)
    y = points[:, 1][:, None]
    with np.errstate(divide="ignore", invalid="ignore"):
        at = (q[:, 0] - p[:, 0]) * (y - p[:, 1]) / (q[:, 1] - p[:, 1]) + p[:, 0]
        crosses = ((p[:, 1] > y) != (q[:, 1] > y)) & (points[:, 0][:, None] < at)
    return np.where(crosses.sum(1) % 2 == 1, distance, -distance)


def _peaks(depth: Array) -> list[int]:
    """The deepest point of every run of points that lie inside."""
    inside = np.concatenate(([False], depth > TOLERANCE, [False]))
    starts, ends = np.flatnonzero(np.diff(inside.astype(int)) == 1), np.flatnonzero(np.diff(inside.astype(int)) == -1)
    return [int(s + np.argmax(depth[s:e])) for s, e in zip(starts, ends, strict=True)]

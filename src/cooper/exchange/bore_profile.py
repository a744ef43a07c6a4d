"""Openings of hubs that are no plain bores: keyways and involute splines, as closed chains of edges."""

from __future__ import annotations

from typing import Any

import numpy as np
from msgspec import Struct

from cooper.arrays import Loose as Array
from cooper.gears.rack import Rack
from cooper.gears.root import root_form
from cooper.gears.tooth import Tooth
from cooper.kinds.section import WheelSection
from cooper.machine.shaft_model import Joint

HUB, SHAFT = (0.55, 0.45), (0.45, 0.6)
"""Heights of the profile that cuts a hub's spaces, and of a shaft's teeth (addendum, dedendum, over the module). DIN
5480-1:2006; spaces of hubs by their tip circle, shafts hobbed."""


class BoreProfile(Struct, frozen=True):
    """A closed chain about the axis, counter-clockwise: of each edge its points (n, 2) in mm, two of a straight one,
    three of an arc."""

    edges: tuple[Array, ...]

    def turned(self, angle: float) -> BoreProfile:
        """The same turned about the axis (rad)."""
        c, s = np.cos(angle), np.sin(angle)
        return BoreProfile(tuple(e @ np.array([[c, s], [-s, c]]) for e in self.edges))

    @property
    def area(self) -> float:
        """What the chain encloses: the polygon of its ends, and the segments of its arcs; mm2."""
        ends = np.array([e[0] for e in self.edges])
        polygon = 0.5 * np.sum(ends[:, 0] * np.roll(ends[:, 1], -1) - np.roll(ends[:, 0], -1) * ends[:, 1])
        arcs = (arc_of(e) for e in self.edges)
        return float(polygon + sum(r**2 * (turn - np.sin(turn)) / 2 for _, r, _, turn in filter(None, arcs)))

    def points(self, tolerance: float) -> Array:
        """The chain as a closed polygon whose sides stay within a tolerance of its arcs; (n, 2) in mm, its first
        point once."""
        return np.concatenate([_chords(e, tolerance)[:-1] for e in self.edges])

    def wire(self, z: float) -> Any:
        """The chain at a height, as a wire of the geometry kernel."""
        from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeWire
        from OCP.GC import GC_MakeArcOfCircle
        from OCP.gp import gp_Pnt

        maker = BRepBuilderAPI_MakeWire()
        for e in self.edges:
            at = [gp_Pnt(float(x), float(y), z) for x, y in e]
            edge = (
                BRepBuilderAPI_MakeEdge(*at)
                if len(at) == 2
                else BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(*at).Value())
            )
            maker.Add(edge.Edge())
        return maker.Wire()


def arc_of(edge: Array) -> tuple[Array, float, float, float] | None:
    """Centre and radius (mm), the angle of the first point and the angle turned to the last (rad), of the circle
    through the three points of an edge; None of a straight one."""
    if len(edge) == 2:
        return None
    a, _, c = edge
    (p, q) = (edge[1] - edge[0], edge[2] - edge[0])
    cross = 2 * (p[0] * q[1] - p[1] * q[0])
    if abs(cross) < 1e-12:
        return None
    centre = a + np.array([q[1] * (p @ p) - p[1] * (q @ q), p[0] * (q @ q) - q[0] * (p @ p)]) / cross
    start, end = (float(np.arctan2(*(v - centre)[::-1])) for v in (a, c))
    # Counter-clockwise from the first to the last where the middle one lies to the right of the chord.
    way = 1.0 if cross > 0 else -1.0
    return centre, float(np.hypot(*(a - centre))), start, way * (((end - start) * way) % (2 * np.pi))


def _chords(edge: Array, tolerance: float) -> Array:
    """Points of an edge: the ends of a straight one, enough along the circle through three."""
    arc = arc_of(edge)
    if arc is None:
        return edge
    centre, r, start, turn = arc
    n = max(1, int(np.ceil(abs(turn) / (2 * np.arccos(1 - min(tolerance / r, 1))))))
    t = start + turn * np.linspace(0, 1, n + 1)
    return np.vstack((edge[0], centre + r * np.column_stack((np.cos(t), np.sin(t)))[1:-1], edge[-1]))


def _arc(r: float, start: float, end: float) -> Array:
    a = np.array([start, (start + end) / 2, end])
    return r * np.column_stack((np.cos(a), np.sin(a)))


def keyed(d: float, b: float, t_2: float, sides: tuple[int, ...]) -> BoreProfile:
    """A bore with the keyways of a hub, on the sides +1 and -1 along y; mm."""
    half = float(np.arcsin(b / d))
    edges: list[Array] = []
    at = [np.pi / 2 if s > 0 else 3 * np.pi / 2 for s in sorted(sides, reverse=True)]
    for k, angle in enumerate(at):
        s = 1 if angle < np.pi else -1
        foot, top = d / 2 * np.cos(half), d / 2 + t_2
        corners = s * np.array([[b / 2, foot], [b / 2, top], [-b / 2, top], [-b / 2, foot]])
        edges += [corners[:2], corners[1:3], corners[2:]]
        after = at[(k + 1) % len(at)] + (2 * np.pi if k + 1 == len(at) else 0.0)
        edges.append(_arc(d / 2, angle + half, after - half))
    return BoreProfile(tuple(edges))


def spline_tooth(joint: Joint, heights: tuple[float, float]) -> Tooth:
    """The tooth of an involute spline by DIN 5480, at 30 degrees; its shift from the reference diameter, d_B = m (z
    + 2 x + 1.1)."""
    h_aP, h_fP = heights
    x = (joint.d / joint.m - joint.z - 1.1) / 2
    z, m, shift = (np.asarray(float(v)) for v in (joint.z, joint.m, x))
    d_a = m * (z + 2 * shift + 2 * h_aP)
    return Tooth(z, m, np.asarray(0.0), shift, shift, Rack(np.radians(30.0), h_aP, h_fP, 0.16), d_a)


def spline_section(joint: Joint, heights: tuple[float, float] = SHAFT) -> WheelSection:
    """The section of a splined shaft, or of what cuts the spaces of its hub."""
    tooth = spline_tooth(joint, heights)
    return WheelSection(tooth, root_form(tooth))


def spline_bore(joint: Joint) -> float:
    """Tip circle of a splined hub, to which it is bored before the spline is cut: d_B - 2 m; mm. DIN 5480-1."""
    return joint.d - 2 * joint.m


def _pieces(section: WheelSection) -> list[Array]:
    """One tooth from the middle of a space to the next, each curve by an arc through three of its points: an
    involute of 30 degrees leaves its arc by a micrometre or two."""
    t = np.array([0.0, 0.5, 1.0])
    return [c(t) for c in section.curves()]


def splined(joint: Joint) -> BoreProfile:
    """The opening of a hub with an involute spline."""
    section = spline_section(joint, HUB)
    one = _pieces(section)
    return BoreProfile(tuple(section.moved(e, np.float64(m)) for m in section.teeth.tolist() for e in one))


def spaces(joint: Joint) -> list[BoreProfile]:
    """The spaces between the teeth of a splined shaft, out to beyond its surface."""
    section = spline_section(joint)
    one, pitch = _pieces(section), 2 * np.pi / joint.z
    tip = next(
        k
        for k, e in enumerate(one)
        if np.ptp(np.hypot(*e.T)) < 1e-9 and k > 0 and np.hypot(*e[0]) > float(section.tooth.d_f) / 2 + 1e-6
    )
    after = [section.moved(e, np.float64(pitch)) for e in one[:tip]]
    walls = [*one[tip + 1 : -1], np.vstack((one[-1][[0, 2]], after[0][2:])), *after[1:]]
    out, back = walls[-1][-1], walls[0][0]
    ends = [float(np.arctan2(v[1], v[0])) for v in (out, back)]
    rim = _arc(joint.d / 2 + 1.0, *ends)
    chain = BoreProfile((*walls, np.vstack((out, rim[0])), rim, np.vstack((rim[2], back))))
    return [chain.turned(k * pitch) for k in range(joint.z)]


def bore_profile_of(joint: Joint) -> BoreProfile | None:
    """The opening of a hub on a joint; None where it is a plain bore."""
    if joint.kind in ("key", "two keys"):
        return keyed(joint.d, joint.b, joint.t_2, (1,) if joint.kind == "key" else (1, -1))
    return splined(joint) if joint.kind == "spline" else None

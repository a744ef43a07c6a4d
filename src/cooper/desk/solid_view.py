"""The train as shaded solids, seen from any side: prisms and twisted prisms of the true outlines, painted from far to near.

All axes are parallel, so that the order of painting is known without a depth buffer: levels along the axis from far to near; at
each level first all walls, those of rings from inside first, then the faces, which lie in one plane and never cover each other.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen

from cooper.arrays import Array
from cooper.design.document import Design
from cooper.design.pose import pose
from cooper.design.results import Results
from cooper.desk import theme as th
from cooper.desk.shapes import polygon
from cooper.exchange.train import heights
from cooper.gears.outline import one_tooth

LIGHT = np.array([0.35, 0.75, 0.56])
"""Where the light comes from, in the viewer's frame: right, up, towards the viewer."""
AMBIENT = 0.45
SLICES = 3
"""Slices of a helical gear's walls."""
ROUND = 64
Screen = Callable[[Array], Array]


@dataclass(frozen=True)
class Camera:
    """Turn about the upright and tilt; rad."""

    yaw: float = 0.6
    pitch: float = 0.45

    def seen(self, points: Array) -> Array:
        """Points in the viewer's frame: right, up, towards the viewer; (..., 3)."""
        x, y, z = np.moveaxis(points, -1, 0)
        c, s = np.cos(self.yaw), np.sin(self.yaw)
        right, away = c * x + s * z, -s * x + c * z
        c, s = np.cos(self.pitch), np.sin(self.pitch)
        return np.stack((right, c * y - s * away, s * y + c * away), axis=-1)


@dataclass(frozen=True)
class Prism:
    """One gear: outline (n, 2) about its axis, its place, width, twist per mm, and the circle of its bore or rim."""

    outline: Array
    x: float
    y: float
    z: float
    b: float
    twist: float
    edge: float
    ring: bool
    role: str

    def slices(self) -> Array:
        """Sections along the axis; (slices, n, 3)."""
        at = np.linspace(-self.b / 2, self.b / 2, SLICES + 1 if self.twist else 2)
        c, s = np.cos(self.twist * at)[:, None], np.sin(self.twist * at)[:, None]
        px, py = self.outline.T
        z = np.broadcast_to((self.z + at)[:, None], (len(at), len(px)))
        return np.stack((c * px - s * py + self.x, s * px + c * py + self.y, z), axis=-1)

    def circle(self) -> Array:
        """The bore or the rim, as two sections."""
        a = np.linspace(0, 2 * np.pi, ROUND, endpoint=False)
        ring = np.column_stack((self.edge / 2 * np.cos(a) + self.x, self.edge / 2 * np.sin(a) + self.y))
        return np.stack([np.column_stack((ring, np.full(ROUND, self.z + f * self.b))) for f in (-0.5, 0.5)])


def prisms(design: Design, results: Results, turn: float, tolerance: float) -> list[Prism]:
    """Every gear of the train as a prism at a turn of the input; a rack is left out."""
    z = heights(results)
    found = []
    for g in pose(results, turn).gears:
        stage = results.stages[g.stage]
        values = stage.gears[g.i]
        one = one_tooth(stage.teeth[g.i], tolerance)[:-1]
        angle = g.angle + 2 * np.pi * np.arange(abs(int(values["z"]))) / abs(int(values["z"]))
        c, s = np.cos(angle)[:, None], np.sin(angle)[:, None]
        outline = np.stack((c * one[:, 0] - s * one[:, 1], s * one[:, 0] + c * one[:, 1]), axis=-1).reshape(-1, 2)
        hand = 1.0 if design.train.stages[g.stage].meshes[0].hand == "right" else -1.0
        hand = hand if g.i == 0 or stage.internal else -hand
        twist = hand * np.tan(np.radians(stage.mesh["beta"])) / (values["d"] / 2)
        ring = values["z"] < 0
        role = "driver" if g.i == 0 and g.planet is None else "driven"
        found.append(Prism(outline, g.x, g.y, z[g.stage], values["b"], twist, values.get("d_rim", values.get("d_bore", 0.0)), ring, role))
    return found


def paint_solid(
    p: QPainter, room: QRectF, design: Design, results: Results, turn: float, camera: Camera, theme: th.Theme
) -> int:
    """Paint the train into a rectangle; the number of faces that were painted."""
    rough = prisms(design, results, turn, 0.08 * results.stages[0].mesh["m_n"])
    corners = np.concatenate([camera.seen(s.circle() if s.ring else s.slices()[[0, -1]]).reshape(-1, 3) for s in rough])
    low, high = corners[:, :2].min(axis=0), corners[:, :2].max(axis=0)
    scale = min(room.width() / (high[0] - low[0]), room.height() / (high[1] - low[1]))
    middle = (low + high) / 2

    def screen(points: Array) -> Array:
        seen = camera.seen(points)
        flat = (seen[..., :2] - middle) * [scale, -scale] + [room.center().x(), room.center().y()]
        return np.concatenate((flat, seen[..., 2:]), axis=-1)

    front = camera.seen(np.array([0.0, 0.0, 1.0]))[2] > 0
    levels = sorted({s.z for s in rough}, reverse=not front)
    painted = 0
    for level in levels:
        here = [s for s in rough if s.z == level]
        for s in sorted(here, key=lambda s: (not s.ring, float(camera.seen(np.array([s.x, s.y, s.z]))[2]))):
            color = theme.color(s.role)
            painted += _walls(p, screen, camera, s.slices(), color, inside=s.ring)
            if s.edge > 0:
                painted += _walls(p, screen, camera, s.circle(), color, inside=not s.ring)
        for s in here:
            _face(p, screen, s, theme, front)
            painted += 1
    return painted


def _walls(p: QPainter, screen: Screen, camera: Camera, sections: Array, color: QColor, *, inside: bool) -> int:
    """Walls between sections that face the viewer, from far to near, shaded by their slope to the light."""
    a, b = sections[:-1], sections[1:]
    quads = np.stack((a, np.roll(a, -1, axis=1), np.roll(b, -1, axis=1), b), axis=2).reshape(-1, 4, 3)
    # Every section runs counter-clockwise; of an opening the matter lies outside.
    across = np.cross(quads[:, 1] - quads[:, 0], quads[:, 3] - quads[:, 0])
    normal = across / np.maximum(np.linalg.norm(across, axis=1, keepdims=True), 1e-12)
    if inside:
        normal = -normal
    seen = camera.seen(normal)
    flat = screen(quads)
    facing = np.nonzero(seen[:, 2] > 0)[0]
    order = facing[np.argsort(flat[facing, :, 2].mean(axis=1))]
    shade = AMBIENT + (1 - AMBIENT) * np.clip(seen @ LIGHT, 0, 1)
    p.setPen(Qt.PenStyle.NoPen)
    hue, deep, bright = color.hueF(), color.saturationF(), color.valueF()
    levels = [QColor.fromHsvF(max(hue, 0.0), deep * 0.8, min(1.0, bright * (0.55 + 0.6 * k / 15))) for k in range(16)]
    for n in order.tolist():
        shown = levels[int(15 * min(max(float(shade[n]), 0.0), 1.0))]
        p.setBrush(shown)
        p.setPen(QPen(shown, 0.6))
        p.drawPolygon(polygon(flat[n, :, :2]))
    return len(order)


def _face(p: QPainter, screen: Screen, s: Prism, theme: th.Theme, front: bool) -> None:
    """The face towards the viewer, with its bore or between opening and rim."""
    sections = s.slices()
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    path.addPolygon(polygon(screen(sections[-1 if front else 0])[:, :2]))
    path.closeSubpath()
    if s.edge > 0:
        path.addPolygon(polygon(screen(s.circle()[1 if front else 0])[:, :2]))
        path.closeSubpath()
    p.setPen(QPen(theme.color(s.role), 0.8))
    p.setBrush(theme.color(f"{s.role}_fill"))
    p.drawPath(path)

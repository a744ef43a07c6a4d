"""The train painted: wheels, axes, housing and what turns."""

from __future__ import annotations

from math import cos, hypot, sin
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QPainter,
    QPainterPath,
    QPen,
    QTransform,
)

from cooper.desk.base import theme as th
from cooper.desk.widgets.shapes import paint_outline, role_of, section_path
from cooper.desk.widgets.typeset import words
from cooper.i18n.text import tr
from cooper.results.heights import heights
from cooper.results.pose import Placed, Pose, clashes, mesh_frames, pose
from cooper.results.result_tree import Results

if TYPE_CHECKING:
    pass


HOUSING = "housing"


def frames_of(results: Results) -> list[str]:
    """What can stand still: the housing, and every member of a set with planets but these."""
    return [
        HOUSING,
        *(
            tr("{name}: {name_2}", name=s.name, name_2=name)
            for s in results.sets
            if s.arranged.around
            for name in s.speeds
            if name != s.arranged.between
        ),
    ]


PACES = (0.02, 0.05, 0.1, 0.2, 0.5, 1.0, 2.0)
"""Turns of the input a second."""


ABOVE = 0.26
"""Share of the height that the view from above takes."""


class Look(Struct, frozen=True):
    """How the train is looked at: member that stands still, pitch circles and paths of contact shown or not."""

    still: str = HOUSING
    circles: bool = True
    paths: bool = True


class TrainPainter:
    """Paints a train at a turn of its input into any rectangle; keeps the outlines of its gears. ``sense`` is +1
    where the input turns counter-clockwise, -1 where it turns clockwise."""

    def __init__(self, results: Results, theme: th.Theme, sense: int = 1) -> None:
        self.results, self.theme, self.sense = results, theme, sense
        self._at: tuple[float, Pose] = (0.0, pose(results, 0.0))
        self.at_rest = self._at[1]
        self.extent = self._extent()
        self.clashes = clashes(results) if len(results.stages) > len(results.sets) + 1 else []

    def at(self, turn: float) -> Pose:
        """Where everything stands at a turn of the input; the last is kept, as several things are painted at it."""
        if self._at[0] != turn:
            self._at = turn, pose(self.results, turn)
        return self._at[1]

    def _extent(self) -> tuple[float, float, float]:
        """Least and greatest x and the greatest height over the axes at any turn; mm."""
        low, high, up = 1e9, -1e9, 0.0
        for g in self.at_rest.gears:
            stage = self.results.stages[g.stage]
            left, right = stage.kinds[g.i].reaches(stage.gears[g.i])
            middle, height = self._centre(g)
            around = hypot(g.x - middle, g.y - height) if g.planet is not None else 0.0
            low, high = min(low, middle - around - left), max(high, middle + around + right)
            if stage.kinds[g.i].turns:
                up = max(up, abs(height) + around + right)
        return low, high, up

    def scale(self, room: QRectF) -> float:
        """Pixels per mm at which the end view fits a rectangle."""
        low, high, up = self.extent
        return min(room.width() / (high - low), room.height() / (2 * up))

    def _centre(self, g: Placed) -> tuple[float, float]:
        """Centre of the set that a planet goes around, of another gear its own."""
        for x, y, a_w, _arms in self.at_rest.carriers:
            if g.planet is not None and abs(hypot(g.x - x, g.y - y) - a_w) < 1e-6 * a_w:
                return x, y
        return g.x, g.y if self.results.stages[g.stage].kinds[g.i].turns else 0.0

    def path(self, g: Placed, scale: float) -> QPainterPath:
        """Outline of a gear about its own centre, fine enough for a scale (pixels per mm)."""
        level = int(np.ceil(np.log2(max(scale, 1e-3))))
        section = self.results.stages[g.stage].sections[g.i].filling(self.extent[2])
        return section_path(section, 0.2 / 2.0**level)

    def paint(self, p: QPainter, room: QRectF, turn: float, look: Look, selected: int | None = None) -> None:
        """The end view in a rectangle."""
        low, high, _up = self.extent
        scale = self.scale(room)
        at = self.at(turn)
        p.save()
        p.translate(room.center().x() - scale * (low + high) / 2, room.center().y())
        p.scale(scale, -scale)
        still = at.angles.get(look.still, 0.0)
        if still:
            x, y = self._pivot(look.still, at)
            p.translate(x, y)
            p.rotate(-np.degrees(still))
            p.translate(-x, -y)
        self.gears(p, at, scale, look, selected)
        if look.paths:
            self._contacts(p, at)
        pen = QPen(self.theme.color("short"), 2.0, Qt.PenStyle.DashLine)
        pen.setCosmetic(True)
        p.setPen(pen)
        p.setBrush(Qt.BrushStyle.NoBrush)
        for c in self.clashes:
            p.drawEllipse(QPointF(c.x, c.y), c.radius, c.radius)
        p.restore()

    def gears(self, p: QPainter, at: Pose, scale: float, look: Look, selected: int | None = None) -> None:
        """The gears and carriers in a painter that is scaled to mm."""
        for g in sorted(at.gears, key=lambda g: (not g.member.startswith("ring"), -self._size(g))):
            self._gear(p, g, scale, look, g.stage == selected)
        for x, y, a_w, arms in at.carriers:
            self._carrier(p, x, y, a_w, arms)

    def _size(self, g: Placed) -> float:
        return float(self.results.stages[g.stage].gears[g.i].get("d_a", 0.0))

    def _pivot(self, name: str, at: Pose) -> tuple[float, float]:
        sets = (s for s in self.results.sets if s.arranged.around)
        for s, (x, y, _a, _arms) in zip(sets, at.carriers, strict=False):
            if name.startswith(f"{s.name}: "):
                return x, y
        return 0.0, 0.0

    def _gear(self, p: QPainter, g: Placed, scale: float, look: Look, selected: bool) -> None:
        t, role = self.theme, role_of(g)
        p.save()
        if not self.results.stages[g.stage].kinds[g.i].turns:
            # It runs out of the picture above and below.
            p.setClipRect(QRectF(-1e5, -self.extent[2], 2e5, 2 * self.extent[2]))
        p.translate(g.x, g.y)
        p.save()
        p.rotate(np.degrees(g.angle))
        pen = QPen(t.color("copper" if selected else role), 1.0)
        pen.setCosmetic(True)
        paint_outline(p, self.path(g, scale), t.color(f"{role}_fill"), pen)
        # A mark, so that the eye can follow the turn.
        section = self.results.stages[g.stage].sections[g.i]
        r = section.reach - (0.0 if section.inward else section.depth)
        p.setBrush(t.color(role))
        p.setPen(Qt.PenStyle.NoPen)
        size = r * (0.02 if section.inward else 0.035)
        p.drawEllipse(QPointF(r * (1.06 if section.inward else 0.82), 0), size, size)
        p.restore()
        if look.circles and "d_w" in self.results.stages[g.stage].gears[g.i]:
            pen = QPen(t.color("copper", 0.55), 1.0, Qt.PenStyle.DashDotLine)
            pen.setCosmetic(True)
            p.setPen(pen)
            p.setBrush(Qt.BrushStyle.NoBrush)
            half = self.results.stages[g.stage].gears[g.i].d_w / 2
            p.drawEllipse(QPointF(0, 0), half, half)
        p.restore()

    def _carrier(self, p: QPainter, x: float, y: float, a_w: float, arms: tuple[float, ...]) -> None:
        t = self.theme
        pen = QPen(t.color("ink", 0.75), 2.2)
        pen.setCosmetic(True)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        p.setPen(pen)
        p.setBrush(t.color("card"))
        pins = [QPointF(x + a_w * cos(a), y + a_w * sin(a)) for a in arms]
        for pin in pins:
            p.drawLine(QPointF(x, y), pin)
        for pin in pins:
            p.drawEllipse(pin, 0.035 * a_w, 0.035 * a_w)
        p.drawEllipse(QPointF(x, y), 0.05 * a_w, 0.05 * a_w)

    def _contacts(self, p: QPainter, at: Pose) -> None:
        """The path of contact of every mesh, in its place."""
        pen = QPen(self.theme.color("short"), 2.0)
        pen.setCosmetic(True)
        p.setPen(pen)
        for f in mesh_frames(self.results, at):
            stage = self.results.stages[f.stage]
            side = self.results.side_of(f.stage) * self.sense
            turned = QTransform().translate(f.x, f.y).rotateRadians(f.angle)
            ends = [turned.map(QPointF(*stage.action_point(stage.mesh[n], side))) for n in ("g_A", "g_E")]
            p.drawLine(*ends)

    def above(self, p: QPainter, room: QRectF, end_scale: float) -> None:
        """The view from above: every gear as wide as its face, at its place across, stages behind each other along
        the axis."""
        low, high, _up = self.extent
        t, small = self.theme, th.font(th.SMALL)
        widest = [max(g.b for g in s.gears) for s in self.results.stages]
        middles = heights(self.results)
        tops = [h - b / 2 for h, b in zip(middles, widest, strict=True)]
        depth = max(h + b / 2 for h, b in zip(middles, widest, strict=True))
        scale = min(end_scale, room.height() / max(depth, 1e-9))
        p.save()
        p.translate(room.center().x() - scale * (low + high) / 2, room.top())
        for g in sorted(self.at_rest.gears, key=lambda g: -self._size(g)):
            values = self.results.stages[g.stage].gears[g.i]
            section = self.results.stages[g.stage].sections[g.i]
            if g.planet not in (None, 0) or not section.reach:
                continue
            role = role_of(g)
            r = self.results.stages[g.stage].kinds[g.i].outside(values) / 2
            top = scale * (tops[g.stage] + (max(x.b for x in self.results.stages[g.stage].gears) - values.b) / 2)
            p.setPen(QPen(t.color(role), 1.0))
            p.setBrush(t.color(f"{role}_fill", 0.8))
            box = QRectF(scale * (g.x - r), top, 2 * scale * r, scale * values.b)
            if section.inward:
                inner = values.d_a / 2
                for left in (g.x - r, g.x + inner):
                    p.drawRect(QRectF(scale * left, top, scale * (r - inner), box.height()))
            else:
                p.drawRect(box)
        words(p, tr("from above"), small, t.color("muted"), scale * low, -5)
        p.restore()

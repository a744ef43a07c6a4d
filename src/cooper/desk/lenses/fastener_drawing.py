"""What keeps the parts of a shaft in place, in section: covers and walls, sleeves, retaining rings, nuts."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPen, QPolygonF

from cooper.desk.base import theme as th
from cooper.machine.covers import Cover, cover_outline, outward_of, screws_of
from cooper.machine.holding import thrust_path
from cooper.machine.shaft_model import Borne, MadeShaft
from cooper.machine.turned_parts import owner_left
from cooper.results.machine_result import ShaftResult

if TYPE_CHECKING:
    from cooper.desk.lenses.shaft_drawing import ShaftPainter


class FastenerPainter:
    """Paints into the view of a shaft's painter."""

    def __init__(self, of: ShaftPainter) -> None:
        self.of = of

    def around(self, shaft: ShaftResult) -> None:
        """Walls with their lips, and covers."""
        for b in shaft.made.bearings:
            self.wall(b, shaft)
        for cover in shaft.holding.covers:
            self.cover(cover)

    def on_it(self, made: MadeShaft) -> None:
        """Sleeves, retaining rings and nuts."""
        p, t, v = self.of.p, self.of.theme, self.of.view
        for piece in made.sleeves:
            below = [(piece.start, piece.d / 2), (piece.end, piece.d / 2)]
            self._cut([*below, (piece.end, piece.sleeve / 2), (piece.start, piece.sleeve / 2)])
        p.setPen(QPen(t.color("ink"), th.HAIR))
        p.setBrush(t.color("ink"))
        for piece, ring in made.rings:
            low = piece.start if owner_left(made, piece) else piece.end - ring.s
            for side in (-1, 1):
                p.drawRect(v.box(low, low + ring.s, ring.d_2 / 2, ring.d_2 / 2 + ring.width, side))
        for piece, nut in made.nuts:
            way = 1 if owner_left(made, piece) else -1
            near = piece.start if way > 0 else piece.end
            washer = near + way * nut.t
            far = washer + way * nut.B
            for side in (-1, 1):
                p.setBrush(t.color("muted", 0.6))
                p.drawRect(v.box(min(near, washer), max(near, washer), piece.d / 2, nut.D / 2 - 0.5, side))
                p.setBrush(t.color("card"))
                p.drawRect(v.box(min(washer, far), max(washer, far), piece.d / 2, nut.D / 2, side))
                y = v.y + side * v.scale * nut.core / 2
                p.drawLine(QPointF(v.x(piece.start), y), QPointF(v.x(piece.end), y))

    def thrust(self, shaft: ShaftResult, case: int) -> None:
        """The way of the thrust from the teeth to the housing."""
        _holds, points = thrust_path(shaft.made, shaft.holding, case)
        if not points:
            return
        of, v = self.of, self.of.view
        places = [QPointF(v.x(z), v.y - v.scale * min(r, of.reach)) for z, r in points]
        pen = QPen(of.theme.color("copper"), th.BOLD)
        pen.setDashPattern([3, 2])
        of.p.setPen(pen)
        of.p.setBrush(Qt.BrushStyle.NoBrush)
        of.p.drawPolyline(QPolygonF(places))
        way = 1 if places[-1].x() > places[-2].x() else -1
        tip = places[-1] + QPointF(way * 6, 0)
        of.p.setPen(Qt.PenStyle.NoPen)
        of.p.setBrush(of.theme.color("copper"))
        of.p.drawPolygon(QPolygonF([tip, tip - QPointF(way * 7, 4), tip - QPointF(way * 7, -4)]))

    def cover(self, c: Cover) -> None:
        """A cover with the centre lines of its screws."""
        self._cut(cover_outline(c), back=True)
        p, v = self.of.p, self.of.view
        if c.d_1 / 2 > self.of.reach:
            return
        pen = QPen(self.of.theme.color("muted"), th.HAIR)
        pen.setDashPattern([8, 3, 2, 3])
        p.setPen(pen)
        deep = c.z_2 - 1.5 * c.outward * c.screw
        for side in (-1, 1):
            y = v.y + side * v.scale * c.d_1 / 2
            p.drawLine(QPointF(v.x(deep) - 3 * c.outward, y), QPointF(v.x(c.z_3) + 5 * c.outward, y))

    def wall(self, b: Borne, shaft: ShaftResult) -> None:
        """The wall of the housing around a bearing, with the lip against which its outer ring leans."""
        way, D = outward_of(shaft.made, b), b.bearing.D
        inside, outside = b.at - way * b.bearing.B / 2, b.at + way * b.bearing.B / 2
        cover = next((c for c in shaft.holding.covers if c.bearing == b.name), None)
        face = outside if cover is None else cover.z_2
        high, lip = D / 2 + 2.5 * screws_of(D)[0], inside - way * shaft.holding.lip
        self._cut([(lip, 0.45 * D), (inside, 0.45 * D), (inside, D / 2), (face, D / 2), (face, high), (lip, high)])

    def _cut(self, points: list[tuple[float, float]], back: bool = False) -> None:
        """Both halves of a section that is cut, by places along the shaft and radii."""
        of, v = self.of, self.of.view
        p, t = of.p, of.theme
        for side in (-1, 1):
            shape = QPolygonF([QPointF(v.x(z), v.y + side * v.scale * min(r, of.reach)) for z, r in points])
            p.setPen(QPen(t.color("ink"), th.HAIR))
            p.setBrush(t.color("card"))
            p.drawPolygon(shape)
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(of.hatched(t.color("muted", 0.55), back))
            p.drawPolygon(shape)
            if max(r for _z, r in points) > of.reach:
                edge = [v.x(z) for z, r in points if r >= of.reach]
                of.broken(min(edge), max(edge), v.y + side * v.scale * of.reach, side)

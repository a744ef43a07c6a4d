"""One shaft in axial section, to scale: its pieces, gears in half section, bearings, keys, splines, forces."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen, QPolygonF, QTransform

from cooper.desk.base import theme as th
from cooper.desk.lenses.fastener_drawing import FastenerPainter
from cooper.desk.widgets.typeset import advance, words
from cooper.document.models import Train
from cooper.document.units import number_with_unit
from cooper.machine.covers import screws_of
from cooper.machine.hub_ends import HUB_OUTSIDE
from cooper.machine.shaft_model import Borne, Joint, MadeShaft, Piece
from cooper.machine.shaft_outline import shaft_outline
from cooper.results.machine_result import ShaftResult
from cooper.results.result_tree import Results
from cooper.stock.seals import Seal

BREAK = 1.12
"""Height of the drawing over the widest bearing, beyond which gears are broken off."""


class GearLook(Struct, frozen=True):
    """How a gear looks in section: its half diameters (mm) and whether it drives its mesh."""

    r_a: float
    r_f: float
    r_i: float | None
    b_s: float | None
    inward: bool
    r_in: float
    drives: bool
    start: float
    end: float


def gear_looks(
    train: Train, results: Results, shaft: ShaftResult, planes: tuple[tuple[float, float], ...]
) -> dict[str, GearLook]:
    """The gears of a shaft by identity, with the blanks that they are made of."""
    result: dict[str, GearLook] = {}
    here = {s.gear for s in shaft.made.wish.seats}
    contacts = {c.gear: c for c in shaft.made.wish.contacts}
    for stage, doc in zip(results.stages, train.stages, strict=True):
        mesh = doc.mesh
        for i, (gear, g, kind) in enumerate(zip(doc.gears, stage.gears, stage.kinds, strict=True)):
            if gear.id not in here or gear.id in result or gear.id not in contacts:
                continue
            at = contacts[gear.id].at
            half = float(g.b + (mesh.b_gap if mesh.double_helix else 0.0)) / 2
            r_in = float(g.d_a) / 2 if kind.inward else 0.0
            result[gear.id] = GearLook(
                float(kind.outside(g)) / 2,
                float(g.d_fE) / 2,
                gear.d_i / 2 if gear.d_i else None,
                gear.b_s,
                kind.inward,
                r_in,
                i == 0,
                at - half,
                at + half,
            )
    return result


class View(Struct):
    """From millimetres along and across the shaft to pixels."""

    scale: float
    x0: float
    z0: float
    y: float

    def x(self, z: float) -> float:
        return self.x0 + self.scale * (z - self.z0)

    def z(self, x: float) -> float:
        return self.z0 + (x - self.x0) / self.scale

    def box(self, z_1: float, z_2: float, r_1: float, r_2: float, side: int) -> QRectF:
        """The rectangle between two places and two radii, above (side -1) or below (+1) the axis."""
        top, bottom = sorted((self.y + side * self.scale * r_1, self.y + side * self.scale * r_2))
        return QRectF(QPointF(self.x(z_1), top), QPointF(self.x(z_2), bottom))


def extent_of(shaft: ShaftResult) -> tuple[float, float, float]:
    """Ends along the shaft, with its gears, and the radius that is shown around it; mm."""
    made = shaft.made
    covers = shaft.holding.covers
    starts = [made.start, *(s.at - s.b / 2 for s in made.wish.seats), *(min(c.z_1, c.z_3) for c in covers)]
    ends = [made.end, *(s.at + s.b / 2 for s in made.wish.seats), *(max(c.z_1, c.z_3) for c in covers)]
    thick = max([p.d for p in made.pieces] + [b.bearing.D for b in made.bearings])
    tall = max([s.d_a for s in made.wish.seats] + [thick])
    return min(starts), max(ends), min(BREAK * thick, tall * 1.04) / 2


class ShaftPainter:
    """Paints one shaft; ``view`` says where."""

    def __init__(self, p: QPainter, theme: th.Theme, view: View, reach: float, system: str) -> None:
        self.p, self.theme, self.view, self.reach, self.system = p, theme, view, reach, system

    def hatched(self, color: QColor, back: bool = False) -> QBrush:
        brush = QBrush(color, Qt.BrushStyle.BDiagPattern if back else Qt.BrushStyle.FDiagPattern)
        brush.setTransform(QTransform().scale(0.8, 0.8))
        return brush

    def whole(self, shaft: ShaftResult, looks: dict[str, GearLook], selected: str) -> None:
        for seat in shaft.made.wish.seats:
            self.gear(seat.gear, shaft.made, looks)
        FastenerPainter(self).around(shaft)
        for k, b in enumerate(shaft.made.bearings):
            self.bearing(b, shaft.made.support(k))
        for piece, seal in shaft.made.seals:
            self.seal(piece, seal)
        self.body(shaft.made)
        FastenerPainter(self).on_it(shaft.made)
        for piece in shaft.made.pieces:
            if piece.hole:
                self._across(piece, piece.hole, piece.d / 2, "paper")
            if piece.name == selected:
                self.chosen(piece)
        if shaft.made.wish.d_i:
            self._bore(shaft.made)
        for joint in shaft.made.joints:
            self.joint(joint, shaft.made.piece(joint.piece))
        self.axis(shaft)

    # -- parts

    def body(self, made: MadeShaft) -> None:
        """The shaft as it is turned, with the edges of its shoulders and chamfers."""
        p, v = self.p, self.view
        outline = shaft_outline(made)
        p.setPen(QPen(self.theme.color("ink"), th.HAIR))
        p.setBrush(self.theme.color("card"))
        upper = [QPointF(v.x(z), v.y - v.scale * r) for z, r in outline]
        lower = [QPointF(v.x(z), v.y + v.scale * r) for z, r in reversed(outline)]
        p.drawPolygon(QPolygonF(upper + lower))
        # Edges that are seen: chamfers of the ends, and each shoulder as high as it is.
        edges = [outline[1], outline[-2]]
        edges += [(one.end, max(one.d, two.d) / 2) for one, two in pairwise(made.pieces)]
        for z, r in edges:
            p.drawLine(QPointF(v.x(z), v.y - v.scale * r), QPointF(v.x(z), v.y + v.scale * r))

    def chosen(self, piece: Piece) -> None:
        """The piece that is selected."""
        self.p.setPen(QPen(self.theme.color("copper"), th.FINE))
        self.p.setBrush(Qt.BrushStyle.NoBrush)
        self.p.drawRect(self.view.box(piece.start, piece.end, -piece.d / 2, piece.d / 2, 1))

    def _across(self, piece: Piece, d: float, reach: float, color: str) -> None:
        """A hole or pin across the shaft, with its centre line."""
        hole = self.view.box(piece.at - d / 2, piece.at + d / 2, -reach, reach, 1)
        self.p.setBrush(self.theme.color(color))
        self.p.drawRect(hole)
        pen = QPen(self.theme.color("muted"), th.HAIR)
        pen.setDashPattern([8, 3, 2, 3])
        self.p.setPen(pen)
        x = hole.center().x()
        self.p.drawLine(QPointF(x, hole.top() - 6), QPointF(x, hole.bottom() + 6))

    def _bore(self, made: MadeShaft) -> None:
        pen = QPen(self.theme.color("ink"), th.HAIR)
        pen.setDashPattern([5, 3])
        self.p.setPen(pen)
        for side in (-1, 1):
            y = self.view.y + side * self.view.scale * made.wish.d_i / 2
            self.p.drawLine(QPointF(self.view.x(made.start), y), QPointF(self.view.x(made.end), y))

    def gear(self, key: str, made: MadeShaft, looks: dict[str, GearLook]) -> None:
        """Both halves of a gear in section; teeth are not hatched, and what stands out of the view is broken off."""
        seat = next(s for s in made.wish.seats if s.gear == key)
        piece = next(q for q in made.pieces if q.on == key)
        look = looks.get(key)
        role = "driver" if look is not None and look.drives else "driven"
        t, p, v = self.theme, self.p, self.view
        pen = QPen(t.color(role), th.HAIR)
        metal, hatch = t.color(f"{role}_fill"), self.hatched(t.color(role, 0.55))
        r_s = piece.d / 2
        for side in (-1, 1):
            parts: list[tuple[float, float, float, float, bool]] = []
            if look is None:
                # A carrier: a wall on its hub.
                parts.append((piece.start, piece.end, r_s, seat.d_a / 2, True))
            elif look.inward:
                parts.append((piece.start, piece.end, r_s, look.r_a, True))
                parts.append((look.start, piece.start, look.r_f, look.r_a, True))
                parts.append((look.start, look.end, look.r_in, look.r_f, False))
            elif look.r_i is not None and look.r_i > r_s:
                web = (look.b_s or (look.end - look.start)) / 2
                middle = (look.start + look.end) / 2
                hub = min(1.6 * r_s, look.r_i)
                parts.append((piece.start, piece.end, r_s, hub, True))
                parts.append((middle - web, middle + web, hub, look.r_i, True))
                parts.append((look.start, look.end, look.r_i, look.r_f, True))
                parts.append((look.start, look.end, look.r_f, look.r_a, False))
            else:
                parts.append((look.start, look.end, min(r_s, look.r_f), look.r_f, True))
                if piece.length > look.end - look.start + 1e-6:
                    parts.append((piece.start, piece.end, r_s, min(HUB_OUTSIDE * r_s, look.r_f), True))
                parts.append((look.start, look.end, look.r_f, look.r_a, False))
            for z_1, z_2, r_1, r_2, cut in parts:
                shown = min(r_2, self.reach)
                if shown <= r_1 or z_2 <= z_1:
                    continue
                box = v.box(z_1, z_2, r_1, shown, side)
                p.setPen(pen)
                p.fillRect(box, metal)
                if cut:
                    p.fillRect(box, hatch)
                p.drawLine(box.topLeft(), box.bottomLeft())
                p.drawLine(box.topRight(), box.bottomRight())
                inner, outer = (box.bottom(), box.top()) if side < 0 else (box.top(), box.bottom())
                p.drawLine(QPointF(box.left(), inner), QPointF(box.right(), inner))
                if r_2 > self.reach:
                    self.broken(box.left(), box.right(), outer, side)
                else:
                    p.drawLine(QPointF(box.left(), outer), QPointF(box.right(), outer))

    def part(self, z_1: float, z_2: float, r_1: float, r_2: float, role: str, cut: bool) -> None:
        """A ring or disc about the axis in section, hatched where it is cut."""
        p, t = self.p, self.theme
        if r_1 >= self.reach:
            return
        for side in (-1, 1):
            box = self.view.box(z_1, z_2, r_1, min(r_2, self.reach), side)
            p.setPen(QPen(t.color(role), th.HAIR))
            p.setBrush(t.color("card" if role == "ink" else f"{role}_fill"))
            p.drawRect(box)
            if cut:
                p.fillRect(box, self.hatched(t.color(role, 0.55)))

    def broken(self, x_1: float, x_2: float, y: float, side: int) -> None:
        """A freehand break line."""
        path = QPainterPath(QPointF(x_1, y))
        n = max(int((x_2 - x_1) / 9), 2)
        for k in range(1, n + 1):
            x = x_1 + (x_2 - x_1) * k / n
            middle = x - (x_2 - x_1) / n / 2
            path.quadTo(QPointF(middle, y + side * (4 if k % 2 else -3)), QPointF(x, y))
        self.p.strokePath(path, QPen(self.theme.color("muted"), th.HAIR))

    def seal(self, piece: Piece, seal: Seal) -> None:
        """A radial shaft seal in section: its case against the bore, its lip on the shaft."""
        p, t, v = self.p, self.theme, self.view
        z_1, z_2 = piece.at - seal.b / 2, piece.at + seal.b / 2
        wall = 0.18 * (seal.D - seal.d) / 2
        for side in (-1, 1):
            p.setPen(QPen(t.color("ink"), th.HAIR))
            p.setBrush(t.color("muted", 0.6))
            p.drawRect(v.box(z_1, z_2, seal.D / 2 - wall, seal.D / 2, side))
            p.drawRect(v.box(z_1, z_1 + 0.18 * seal.b, seal.d / 2 + 2 * wall, seal.D / 2, side))
            lip = v.box(z_1 + 0.18 * seal.b, z_1 + 0.75 * seal.b, seal.d / 2, seal.d / 2 + 2.4 * wall, side)
            near = lip.top() if side > 0 else lip.bottom()
            far = lip.bottom() if side > 0 else lip.top()
            points = [QPointF(lip.left(), far), QPointF(lip.right(), far), QPointF(lip.center().x(), near)]
            p.setBrush(t.color("copper", 0.55))
            p.drawPolygon(QPolygonF(points))

    def bearing(self, b: Borne, point: float) -> None:
        """A rolling bearing with its rings and rolling elements, to scale; of one with a contact angle also the line
        along which it is pressed, to its pressure point."""
        p, t, v = self.p, self.theme, self.view
        kind = b.bearing
        # Which way the elements lean: towards where their line meets the axis.
        towards = (1 if point > b.at else -1) if kind.adjusted else 0
        z_1, z_2 = b.at - kind.B / 2, b.at + kind.B / 2
        ring = (kind.D - kind.d) / 2 * 0.28
        p.setPen(QPen(t.color("ink"), th.HAIR))
        for side in (-1, 1):
            inner = v.box(z_1, z_2, kind.d / 2, kind.d / 2 + ring, side)
            outer = v.box(z_1, z_2, kind.D / 2 - ring, kind.D / 2, side)
            for box, back in ((inner, False), (outer, True)):
                p.setBrush(t.color("band"))
                p.drawRect(box)
                p.fillRect(box, self.hatched(t.color("muted", 0.7), back))
            p.setBrush(t.color("paper"))
            middle = QPointF(v.x(b.at), v.y + side * v.scale * kind.D_pw / 2)
            size = v.scale * kind.D_w / 2
            if not kind.rollers:
                p.drawEllipse(middle, size, size)
                if kind.adjusted:
                    self._pressed_along(b, point, side)
                continue
            half = v.scale * kind.L_we / 2
            p.save()
            p.translate(middle)
            if kind.adjusted:
                p.rotate(float(np.degrees(kind.alpha)) * towards * side)
            rows = (-1, 1) if kind.i == 2 else (0,)
            for row in rows:
                wide = half * (0.9 if kind.i == 2 else 1.0)
                p.drawRect(QRectF(row * half * 1.05 - wide, -size, 2 * wide, 2 * size))
            p.restore()
            if kind.adjusted:
                self._pressed_along(b, point, side)

    def _pressed_along(self, b: Borne, point: float, side: int) -> None:
        """The line of contact from the outer ring to the pressure point on the axis."""
        v, slope = self.view, (point - b.at) / (b.bearing.D_pw / 2)
        r = b.bearing.D_pw / 2 + 0.7 * b.bearing.D_w
        start = QPointF(v.x(b.at - slope * (r - b.bearing.D_pw / 2)), v.y + side * v.scale * r)
        pen = QPen(self.theme.color("copper"), th.HAIR, Qt.PenStyle.DashDotLine)
        self.p.save()
        self.p.setPen(pen)
        self.p.drawLine(QLineF(start, QPointF(v.x(point), v.y)))
        self.p.restore()

    def joint(self, j: Joint, piece: Piece) -> None:
        p, t, v = self.p, self.theme, self.view
        p.setPen(QPen(t.color("ink"), th.HAIR))
        if j.kind in ("key", "two keys"):
            z = (piece.start + piece.end) / 2 if j.gear else piece.at
            for side in (-1, 1) if j.kind == "two keys" else (-1,):
                box = v.box(z - j.length / 2, z + j.length / 2, piece.d / 2 - j.t_1, piece.d / 2 - j.t_1 + j.h, side)
                p.setBrush(t.color("copper", 0.28))
                p.drawRoundedRect(box, 2, 2)
        elif j.kind == "spline":
            for side in (-1, 1):
                y = v.y + side * v.scale * (piece.d / 2 - 1.1 * j.m)
                p.drawLine(QPointF(v.x(piece.start), y), QPointF(v.x(piece.end), y))
        elif j.kind == "pin":
            self._across(piece, j.d_pin, max(j.d_hub, 1.2 * j.d) / 2, "copper")
        elif j.screws:
            # Through one wall of the hub, its point on the shaft; a second stands a quarter of the turn on, seen from
            # its end.
            size, reach = j.d_screw / 2, max(j.d_hub, 1.2 * j.d) / 2
            p.setBrush(t.color("copper", 0.55))
            p.drawRect(v.box(piece.at - size, piece.at + size, piece.d / 2, reach, -1))
            if j.screws == 2:
                middle = QPointF(v.x(piece.at), v.y)
                p.drawEllipse(middle, v.scale * size, v.scale * size)
        elif j.kind == "press fit":
            pen = QPen(t.color("copper"), th.BOLD)
            p.setPen(pen)
            for side in (-1, 1):
                y = v.y + side * v.scale * piece.d / 2
                p.drawLine(QPointF(v.x(piece.start), y), QPointF(v.x(piece.end), y))

    def axis(self, shaft: ShaftResult) -> None:
        pen = QPen(self.theme.color("muted"), th.HAIR)
        pen.setDashPattern([12, 3, 2, 3])
        self.p.setPen(pen)
        v = self.view
        self.p.drawLine(QPointF(v.x(shaft.made.start) - 14, v.y), QPointF(v.x(shaft.made.end) + 14, v.y))

    # -- forces

    def forces(self, shaft: ShaftResult, case: int) -> None:
        """Radial forces of the meshes and the bearings as arrows towards the shaft, thrust along it."""
        # What pushes all around, as planets do, leaves a torque alone: the forces on one gear are drawn together.
        net: dict[tuple[str, float], np.ndarray] = {}
        for c in shaft.made.wish.contacts:
            net[c.gear, c.at] = net.get((c.gear, c.at), np.zeros(3)) + c.force[case]
        largest = max(
            [float(np.hypot(*F[:2])) for F in net.values()]
            + [float(np.hypot(*r[:2])) for r in shaft.checked.reactions[case]]
            + [1e-9]
        )
        looks = {s.gear: s for s in shaft.made.wish.seats}
        for (gear, at), whole in net.items():
            F = float(np.hypot(*whole[:2]))
            end = next((p for p in shaft.made.pieces if p.name == gear), None)
            at = end.at if end is not None else at
            if max(1e-6 * largest, 1e-3) < F:
                seat = looks.get(gear)
                r = min((seat.d_a / 2 if seat else (end or shaft.made.pieces[0]).d / 2), self.reach)
                self._arrow(at, r, F, largest, above=True)
            if abs(float(whole[2])) > 1e-3:
                self._thrust(at, float(whole[2]))
        for b, R in zip(shaft.made.bearings, shaft.checked.reactions[case], strict=True):
            F = float(np.hypot(R[0], R[1]))
            if F > 1e-3:
                # Below the wall around it.
                wall = b.bearing.D / 2 + 2.5 * screws_of(b.bearing.D)[0]
                self._arrow(b.at, min(wall, self.reach), F, largest, above=False)

        FastenerPainter(self).thrust(shaft, case)

    def _arrow(self, z: float, r: float, F: float, largest: float, above: bool) -> None:
        p, t, v = self.p, self.theme, self.view
        side = -1 if above else 1
        tip = QPointF(v.x(z), v.y + side * (v.scale * r + 3))
        tail = tip + QPointF(0, side * (10 + 22 * F / largest))
        p.setPen(QPen(t.color("copper"), th.FINE))
        p.drawLine(tip, tail)
        p.setBrush(t.color("copper"))
        p.setPen(Qt.PenStyle.NoPen)
        p.drawPolygon(QPolygonF([tip, tip + QPointF(-3.5, side * 7), tip + QPointF(3.5, side * 7)]))
        text = number_with_unit(F, "force", self.system)
        y = tail.y() + (-3 if above else 11)
        words(p, text, th.font(th.SMALL), t.color("copper"), tail.x() - advance(text, th.font(th.SMALL)) / 2, y)

    def _thrust(self, z: float, F: float) -> None:
        p, t, v = self.p, self.theme, self.view
        sign = 1 if F > 0 else -1
        start = QPointF(v.x(z) - sign * 4, v.y)
        tip = start + QPointF(sign * 26, 0)
        p.setPen(QPen(t.color("copper"), th.BOLD))
        p.drawLine(start, tip)
        p.setBrush(t.color("copper"))
        p.setPen(Qt.PenStyle.NoPen)
        p.drawPolygon(QPolygonF([tip + QPointF(sign * 7, 0), tip + QPointF(0, -4), tip + QPointF(0, 4)]))

    def ghost(self, made: MadeShaft) -> None:
        """Outline of the state before."""
        pen = QPen(self.theme.color("copper", 0.5), th.HAIR)
        pen.setDashPattern([2, 2])
        self.p.setPen(pen)
        self.p.setBrush(Qt.BrushStyle.NoBrush)
        for piece in made.pieces:
            self.p.drawRect(self.view.box(piece.start, piece.end, -piece.d / 2, piece.d / 2, 1))

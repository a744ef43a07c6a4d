"""The whole machine: all shafts in one section with their axes unfolded into the plane, and its end view with the
housing."""

from __future__ import annotations

from math import hypot

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.lenses.shaft_drawing import ShaftPainter, View, extent_of, gear_looks
from cooper.desk.widgets.typeset import words
from cooper.document.units import number_with_unit
from cooper.i18n.text import join, tr
from cooper.results.bearing_rows import machine_loss
from cooper.results.machine_result import MachineResult, ShaftResult


class MachinePainter:
    """Paints a machine into a room: the unfolded section at the left, the end view at the right."""

    def __init__(self, p: QPainter, theme: th.Theme, session: Session, result: MachineResult) -> None:
        self.p, self.theme, self.session, self.machine = p, theme, session, result

    def whole(self, room: QRectF) -> None:
        wide = 0.60 * room.width()
        self.section(QRectF(room.left(), room.top(), wide - 10, room.height() - 20))
        self.ends(QRectF(room.left() + wide + 10, room.top(), room.width() - wide - 10, room.height() - 20))
        h, system = self.machine.housing, self.session.system
        life = self.machine.L_sys
        text = [
            tr(
                "{mass} with bare walls of {wall}",
                mass=number_with_unit(self.machine.mass, "mass", system),
                wall=number_with_unit(h.wall, "length", system),
            ),
            tr("{volume:.2f} l inside", volume=h.volume),
            tr("bearings lose {found}", found=number_with_unit(machine_loss(self.machine), "power", system)),
            "" if life > 1e8 else tr("all bearings together reach {life}", life=number_with_unit(life, "time", system)),
        ]
        words(
            self.p,
            join(" · ", (w for w in text if w)),
            th.font(th.SMALL),
            self.theme.color("muted"),
            room.left(),
            room.bottom(),
        )

    def heights(self) -> list[float]:
        """Where each axis lies in the unfolded section: as far below the one before as the axes are apart; mm."""
        y, result = 0.0, []
        for k, s in enumerate(self.machine.shafts):
            if k:
                a = self.machine.shafts[k - 1].axis
                y += hypot(s.axis[0] - a[0], s.axis[1] - a[1])
            result.append(y)
        return result

    def section(self, room: QRectF) -> None:
        result, heights = self.machine, self.heights()
        reach = [
            max([b.r for b in result.bodies if b.shaft == k] + [c.D_2 / 2 for c in s.holding.covers] + [1.0])
            for k, s in enumerate(result.shafts)
        ]
        low = min(y - r for y, r in zip(heights, reach, strict=True))
        high = max(y + r for y, r in zip(heights, reach, strict=True))
        start, end = min(extent_of(s)[0] for s in result.shafts), max(extent_of(s)[1] for s in result.shafts)
        scale = min(room.width() / (end - start), room.height() / (high - low))
        x0 = room.left() + (room.width() - scale * (end - start)) / 2
        top = room.top() + (room.height() - scale * (high - low)) / 2
        self._walls(scale, x0, start, top, high - low)
        for s, y in zip(result.shafts, heights, strict=True):
            view = View(scale, x0, start, top + scale * (y - low))
            painter = ShaftPainter(self.p, self.theme, view, 1e6, self.session.system)
            looks = gear_looks(self.session.design.train, self.session.results, s, result.places.planes)
            self.set_of(painter, s)
            painter.whole(s, looks, "")
            shared = any(abs(y - other) < 1 for other in heights[: result.shafts.index(s)])
            first = s.made.wish.left_end or shared
            ends = extent_of(s)[:2]
            thick = view.scale * max(p.d for p in s.made.pieces) / 2 if shared else 0.0
            words(
                self.p,
                s.name,
                th.font(th.SMALL),
                self.theme.color("muted"),
                view.x(ends[1]) + (6 if not shared else 0) if first else view.x(ends[0]) - 4,
                view.y - 4 - (thick + 30 if shared else 0),
                right=shared or not first,
            )

    def set_of(self, painter: ShaftPainter, s: ShaftResult) -> None:
        """What stands about a shaft without turning with it: a ring that is held, planets on their pins between the
        carrier's walls."""
        k = self.machine.shafts.index(s)
        seats = {x.gear for x in s.made.wish.seats}
        for b in self.machine.bodies:
            if b.shaft != k or (b.key in seats and not b.key.startswith("carrier of")):
                continue
            start = self.machine.places.planes[b.plane][0] + b.lead
            if not b.key.startswith("carrier of"):
                painter.part(start, start + b.b, b.r_in, b.r, "driven", cut=True)
                continue
            wall = b.b / 6
            for z in (start, start + b.b - wall):
                painter.part(z, z + wall, b.r_in, b.r, "driven", cut=True)
            pin = next((p for p in self.machine.pins if b.key == f"carrier of {p.key}"), None)
            if pin is None:
                continue
            results = self.session.results
            stages = [results.stages[n] for n in results.sets[[x.first for x in results.sets].index(pin.stage)].stages]
            arm = float(stages[0].mesh.a_w)
            own = [
                g
                for n, st in enumerate(stages)
                for g in st.gears
                if self._is_planet(pin.key, pin.stage + n, st.gears.index(g))
            ]
            z = start + wall
            for g in own[: 2 if len(stages) > 1 and own[0] is not own[-1] and own[0].d_a != own[-1].d_a else 1]:
                painter.part(z, z + float(g.b), arm - float(g.d_a) / 2, arm + float(g.d_a) / 2, "driver", cut=False)
                z += float(g.b)
            painter.part(start, start + b.b, arm - pin.pin.d / 2, arm + pin.pin.d / 2, "ink", cut=False)

    def _is_planet(self, key: str, stage: int, i: int) -> bool:
        doc = self.session.design.train.stages[stage]
        return doc.gears[i].id == key

    def _walls(self, scale: float, x0: float, start: float, top: float, high: float) -> None:
        """The end walls of the housing."""
        inner, wall = self.machine.places.inner, self.machine.housing.wall
        self.p.setPen(Qt.PenStyle.NoPen)
        self.p.setBrush(self.theme.color("line", 0.35))
        for z_1, z_2 in ((inner[0] - wall, inner[0]), (inner[1], inner[1] + wall)):
            self.p.drawRect(QRectF(x0 + scale * (z_1 - start), top, scale * (z_2 - z_1), scale * high))

    def ends(self, room: QRectF) -> None:
        """The end view: gears as circles about their axes, bearings, lines of centres, the housing's inside and
        outside."""
        p, t, result = self.p, self.theme, self.machine
        h = result.housing
        scale = min((room.width() - 30) / h.width, (room.height() - 30) / h.height)
        cx, cy = (h.x[0] + h.x[1]) / 2, (h.y[0] + h.y[1]) / 2

        def at(x: float, y: float) -> QPointF:
            return QPointF(room.center().x() + scale * (x - cx), room.center().y() - scale * (y - cy))

        p.setBrush(Qt.BrushStyle.NoBrush)
        for grow, role in ((0.0, "muted"), (h.wall, "ink")):
            box = QRectF(at(h.x[0] - grow, h.y[1] + grow), at(h.x[1] + grow, h.y[0] - grow))
            p.setPen(QPen(t.color(role), th.HAIR))
            p.drawRect(box)
        drives = self._drives()
        for b in sorted(result.bodies, key=lambda b: -b.r):
            x, y = result.shafts[b.shaft].axis
            role = "driver" if drives.get(b.key) else "driven"
            p.setPen(QPen(t.color(role), th.HAIR))
            p.setBrush(t.color(f"{role}_fill", 0.55))
            if b.r_in:
                p.setBrush(Qt.BrushStyle.NoBrush)
                p.drawEllipse(at(x, y), scale * b.r_in, scale * b.r_in)
            p.drawEllipse(at(x, y), scale * b.r, scale * b.r)
        p.setBrush(Qt.BrushStyle.NoBrush)
        for s in result.shafts:
            x, y = s.axis
            for held in s.made.bearings:
                pen = QPen(t.color("muted"), th.HAIR)
                pen.setDashPattern([3, 2])
                p.setPen(pen)
                p.drawEllipse(at(x, y), scale * held.bearing.D / 2, scale * held.bearing.D / 2)
            p.setPen(QPen(t.color("ink"), th.HAIR))
            c = at(x, y)
            p.drawLine(c + QPointF(-6, 0), c + QPointF(6, 0))
            p.drawLine(c + QPointF(0, -6), c + QPointF(0, 6))
        pen = QPen(t.color("copper"), th.HAIR)
        pen.setDashPattern([10, 3, 2, 3])
        p.setPen(pen)
        for one, two in zip(result.shafts, result.shafts[1:], strict=False):
            p.drawLine(at(*one.axis), at(*two.axis))
        system = self.session.system
        bottom = at(0, h.y[0] - h.wall).y()
        left, right = at(h.x[0] - h.wall, 0).x(), at(h.x[1] + h.wall, 0).x()
        y = min(bottom + 12, room.bottom())
        p.setPen(QPen(t.color("faint"), th.HAIR))
        p.drawLine(QPointF(left, y), QPointF(right, y))
        for x in (left, right):
            p.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        words(
            p,
            number_with_unit(h.width, "length", system),
            th.font(th.SMALL),
            t.color("ink"),
            (left + right) / 2 - 20,
            y - 3,
        )

    def _drives(self) -> dict[str, bool]:
        result: dict[str, bool] = {}
        for doc in self.session.design.train.stages:
            result.setdefault(doc.gears[0].id, True)
            result.setdefault(doc.gears[1].id, False)
        return result

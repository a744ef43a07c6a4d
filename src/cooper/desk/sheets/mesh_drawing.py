"""The mesh in section: both gears on their axes, the centre distance with its allowances, the pinion on its shaft
between its bearings, the helix on the faces."""

from __future__ import annotations

from collections.abc import Callable
from math import tan

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QPainter, QPaintEvent, QPen

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.sheets.tagged_drawing import TaggedDrawing
from cooper.desk.widgets.typeset import words
from cooper.document.units import number_with_unit
from cooper.editing.fields import Field
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import StageResults

Place = Callable[[float, float], QPointF]
"""From a place along the axis and over the driving gear's axis (mm) to the widget."""
ON_MESH = ("A_as", "A_ai", "b_gap", "l_sh", "s_sh", "d_sh")
"""What stands on the drawing."""


class MeshDrawing(TaggedDrawing):
    """The driving gear below, its mate above, cut along the plane of their axes."""

    def __init__(self, session: Session, theme: th.Theme, stage: int, fields: list[Field]) -> None:
        own = sorted((f for f in fields if f.key in ON_MESH), key=lambda f: ON_MESH.index(f.key))
        super().__init__(session, theme, stage, 1, own)
        self.setObjectName("mesh_drawing")
        self.setAccessibleName(translate(tr("The mesh in section")))
        self.setMinimumSize(300, max(self.minimumHeight(), 400))

    def paintEvent(self, event: QPaintEvent) -> None:
        stages = self.session.results.stages
        if self.k >= len(stages):
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        s, mesh = stages[self.k], self.session.design.train.stages[self.k].mesh
        if not s.kind.turns:
            words(p, tr("a rack has no second axis"), th.font(th.SMALL), self.theme.color("muted"), 8, 20)
            return
        inward = s.kinds[1].inward
        a = abs(float(s.mesh.a_w))
        radii = [float(g.d_a) / 2 for g in s.gears]
        outer = max(float(s.kinds[1].outside(s.gears[1])) / 2, radii[1]) if inward else radii[1]
        # Heights over the driving gear's axis: the mate's axis lies a above it, or below inside a ring.
        up = a if not inward else -a
        top, low = up + outer, min(-radii[0], up - outer)
        span = float(mesh.l_sh) if "l_sh" in self.tags else 0.0
        wide = max(float(g.b) for g in s.gears)
        reach = max(span / 2 + abs(float(mesh.s_sh)) if span else 0.0, wide)
        room = QRectF(26, 14, self.width() - 50 - self.beside(), self.height() - 44)
        scale = min(room.height() / (top - low), room.width() / (2 * reach))
        x_0 = room.center().x()
        y_0 = room.top() + scale * top

        def at(x: float, y: float) -> QPointF:
            return QPointF(x_0 + scale * x, y_0 - scale * y)

        self._wheel(p, s, 1, at, up, outer if inward else 0.0)
        if span:
            self._shaft(p, at, span, float(mesh.s_sh), float(mesh.d_sh))
        self._wheel(p, s, 0, at, 0.0, 0.0)
        self._axes(p, at, up, reach)
        self._distance(p, at, up, a, reach)
        place = {
            "A_as": at(reach * 0.96, up / 2),
            "A_ai": at(reach * 0.96, up / 2),
            "b_gap": at(0.0, radii[0]),
            "l_sh": at(span / 2 - float(mesh.s_sh), 0.0),
            "s_sh": at(0.0, 0.0),
            "d_sh": at(span / 4 - float(mesh.s_sh), float(mesh.d_sh) / 2),
        }
        for key, tag in self.tags.items():
            self.leader(p, tag, place[key])

    def _wheel(self, p: QPainter, s: StageResults, i: int, at: Place, axis: float, outer: float) -> None:
        """A gear cut along its axis: the teeth uncut, the body hatched, its helix as lines across the teeth."""
        role, g = ("driver", "driven")[i], s.gears[i]
        half, r_a, r_f = float(g.b) / 2, float(g.d_a) / 2, float(g.d_fE) / 2
        bore = float(self._bore(i)) / 2
        t = self.theme
        for sign in (1, -1):
            low, high = (r_f, outer) if outer else (bore, r_f)
            for r_1, r_2, cut in ((low, high, True), (r_f, r_a, False)):
                corners = QRectF(at(-half, axis + sign * r_2), at(half, axis + sign * r_1)).normalized()
                p.setPen(QPen(t.color(role), th.FINE))
                p.setBrush(t.color(f"{role}_fill"))
                p.drawRect(corners)
                if cut:
                    p.fillRect(corners, QBrush(t.color(role, 0.55), Qt.BrushStyle.BDiagPattern))
        beta = float(s.teeth[i].beta)
        if beta:
            p.setPen(QPen(t.color(role), th.HAIR))
            mid, rise = axis + (r_a + r_f) / 2, (half * tan(beta)) / 3
            hand = -1 if i else 1
            for n in range(-2, 3):
                x = n * half / 2.5
                p.drawLine(at(x - rise * hand, mid - (r_a - r_f) / 2), at(x + rise * hand, mid + (r_a - r_f) / 2))

    def _bore(self, i: int) -> float:
        stage = self.session.design.train.stages[self.k]
        return stage.gears[i].d_bore

    def _shaft(self, p: QPainter, at: Place, span: float, off: float, d: float) -> None:
        t, r = self.theme, d / 2
        p.setPen(QPen(t.color("ink"), th.FINE))
        p.setBrush(t.color("band"))
        left, right = -span / 2 - off, span / 2 - off
        # An overhung pinion stands beyond its bearings.
        p.drawRect(QRectF(at(min(left, 0.0), r), at(max(right, 0.0), -r)).normalized())
        for x in (left, right):
            box = QRectF(at(x - 0.35 * d, 0.95 * d), at(x + 0.35 * d, -0.95 * d)).normalized()
            p.setBrush(t.color("card"))
            p.drawRect(box)
            p.drawLine(box.topLeft(), box.bottomRight())
            p.drawLine(box.topRight(), box.bottomLeft())

    def _axes(self, p: QPainter, at: Place, up: float, reach: float) -> None:
        pen = QPen(self.theme.color("muted"), th.HAIR)
        pen.setDashPattern([12, 3, 2, 3])
        p.setPen(pen)
        for y in (0.0, up):
            p.drawLine(at(-reach * 1.04, y), at(reach * 1.04, y))

    def _distance(self, p: QPainter, at: Place, up: float, a: float, reach: float) -> None:
        """The centre distance as a dimension at the left."""
        t, system = self.theme, self.session.system
        x = reach * 0.96
        one, two = at(x, 0.0), at(x, up)
        p.setPen(QPen(t.color("ink"), th.HAIR))
        p.drawLine(one, two)
        for end, way in ((one, two), (two, one)):
            step = 6 if way.y() > end.y() else -6
            for dx in (-2.5, 2.5):
                p.drawLine(end, end + QPointF(dx, step))
        text = tr("centre distance {a}", a=number_with_unit(a, "length", system))
        words(p, text, th.font(th.SMALL), t.color("ink"), 4, self.height() - 8)

"""The Side lens: both gears seen across their axes, to scale, with face widths, bores and helix."""

from __future__ import annotations

from math import cos, radians, tan
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.lenses.drawing import MARGINS
from cooper.desk.lenses.lens import Lens
from cooper.desk.widgets.typeset import draw, symbol_runs, words
from cooper.document.units import number_with_unit
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench


EDGE = 20.0


class SideLens(Lens):
    """Driving gear below, driven gear above, axes level; the lines on the faces are tooth traces."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.setObjectName("side_lens")
        self.setAccessibleName(translate(tr("Side view of the mesh")))
        self.axes = (0.0, 0.0)

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), self.theme.color("paper"))
        s = self.stage
        left, top, right, bottom = MARGINS
        room = (self.width() - left - right - 60, self.height() - top - bottom)
        first, last, _high = s.extent
        gap = self._gap()
        widest = max(g.b for g in s.gears) + gap
        scale = min(room[1] / (last - first), room[0] / widest)
        x0 = left + 30 + room[0] / 2
        # The mesh of an internal pair lies below the pinion's axis, that of an external one above.
        low, high = (-last, -first) if s.kind.inward else (first, last)
        y1 = top + room[1] / 2 + scale * (low + high) / 2
        self.axes = (y1, y1 - scale * s.mesh.a_w)
        for i in (1, 0) if s.kind.inward else (0, 1):
            self._gear(p, i, x0, self.axes[i], scale, gap)
        self._forces(p, x0, scale)

    def _gap(self) -> float:
        mesh = self.session.design.train.stages[self.session.stage].mesh
        return mesh.b_gap if mesh.double_helix else 0.0

    def _gear(self, p: QPainter, i: int, x0: float, y: float, scale: float, gap: float) -> None:
        t, g, m = self.theme, self.stage.gears[i], self.stage.mesh
        role = ("driver", "driven")[i]
        half = scale * (g.b + gap) / 2
        kind = self.stage.kinds[i]
        ring = kind.inward
        if not kind.turns:
            self._straight(p, x0, y, scale, half)
            return
        outer = kind.outside(g)
        box = QRectF(x0 - half, y - scale * outer / 2, 2 * half, scale * outer)
        p.setPen(QPen(t.color(role), th.HAIR))
        p.setBrush(t.color(f"{role}_fill"))
        if ring:
            # In section through the axes: rim and teeth above and below, the pinion in front of the opening.
            for sign in (-1, 1):
                inner = y + sign * scale * g.d_a / 2
                p.drawRect(QRectF(QPointF(box.left(), inner), QPointF(box.right(), y + sign * scale * outer / 2)))
                root = y + sign * scale * g.d_fE / 2
                p.drawLine(QPointF(box.left(), root), QPointF(box.right(), root))
            p.setPen(QPen(t.color(role, 0.35), th.HAIR))
            for edge_x in (box.left(), box.right()):
                p.drawLine(QPointF(edge_x, y - scale * g.d_a / 2), QPointF(edge_x, y + scale * g.d_a / 2))
        else:
            p.drawRect(box)
            p.save()
            p.setClipRect(box)
            p.setPen(QPen(t.color(role, 0.55), th.HAIR))
            wide = scale * gap / 2
            for y_t, lean in self._traces(i):
                at, fall = y + scale * y_t, scale * lean
                if m.F_a > 0 or m.beta == 0:
                    p.drawLine(QPointF(x0 - half, at - fall), QPointF(x0 + half, at + fall))
                else:
                    # Double helix: the halves lean against each other and meet in the middle.
                    for sign in (-1, 1):
                        p.drawLine(QPointF(x0 + sign * half, at + fall), QPointF(x0 + sign * wide, at - fall))
            if gap > 0:
                p.fillRect(QRectF(x0 - wide, box.top(), 2 * wide, box.height()), t.color(f"{role}_fill"))
                root = scale * g.d_f / 2
                for sign in (-1, 1):
                    groove = QRectF(
                        QPointF(x0 - wide, y + sign * root), QPointF(x0 + wide, y + sign * scale * outer / 2)
                    )
                    p.fillRect(groove.normalized().adjusted(0, -1, 0, 1), t.color("paper"))
            p.restore()
        for symbol, dash in (("d", [9, 3, 1.5, 3]), ("d_bore", [5, 3])):
            if g[symbol] > 0:
                pen = QPen(t.color(role), th.HAIR)
                pen.setDashPattern(dash)
                p.setPen(pen)
                for sign in (-1, 1):
                    line_y = y + sign * scale * g[symbol] / 2
                    p.drawLine(QPointF(box.left() - 5, line_y), QPointF(box.right() + 5, line_y))
        pen = QPen(t.color("muted"), th.HAIR)
        pen.setDashPattern([10, 3, 2, 3])
        p.setPen(pen)
        p.drawLine(QPointF(box.left() - 26, y), QPointF(box.right() + 26, y))
        below = (i == 0) != self.stage.kind.inward
        edge = box.bottom() + 14 if below else box.top() - 14
        p.setPen(QPen(t.color("faint"), th.HAIR))
        p.drawLine(QPointF(box.left(), edge), QPointF(box.right(), edge))
        for x in (box.left(), box.right()):
            p.drawLine(QPointF(x, edge - 5), QPointF(x, edge + 5))
        x = draw(p, symbol_runs("b", i + 1, t.color("muted")), box.right() + 10, edge + 4)
        text = number_with_unit(g.b, "length", self.session.system)
        words(p, text, th.font(bold=True), t.color("ink"), x + 5, edge + 4)
        if m.beta > 0:
            hand = self.session.design.train.stages[self.session.stage].mesh.hand
            own = hand if i == 0 or ring else {"right": "left", "left": "right"}[hand]
            own = tr("double helix, left half ") + own if gap or m.F_a == 0 else own
            words(
                p,
                tr("{own} hand", own=term(own)),
                th.font(th.SMALL),
                t.color("muted"),
                box.left() - 10,
                y + 18,
                right=True,
            )

    def _straight(self, p: QPainter, x0: float, y: float, scale: float, half: float) -> None:
        """A rack across its travel: body, root line and datum line; its teeth point down to the pinion."""
        t, g = self.theme, self.stage.gears[1]
        p.setPen(QPen(t.color("driven"), th.HAIR))
        p.setBrush(t.color("driven_fill"))
        box = QRectF(QPointF(x0 - half, y - scale * g.h_back), QPointF(x0 + half, y + scale * g.h_a))
        p.drawRect(box)
        for depth, dash in ((g.h_f, None), (0.0, [9, 3, 1.5, 3])):
            pen = QPen(t.color("driven"), th.HAIR)
            if dash:
                pen.setDashPattern(dash)
            p.setPen(pen)
            p.drawLine(QPointF(box.left() - 5, y - scale * depth), QPointF(box.right() + 5, y - scale * depth))
        x = draw(p, symbol_runs("b", 2, t.color("muted")), box.right() + 14, box.top() + 10)
        words(
            p,
            number_with_unit(g.b, "length", self.session.system),
            th.font(bold=True),
            t.color("ink"),
            x + 5,
            box.top() + 10,
        )
        text = tr("{z} teeth over {L_z}", z=g.z, L_z=number_with_unit(g.L_z, "length", self.session.system))
        words(p, text, th.font(th.SMALL), t.color("muted"), box.right() + 14, box.top() + 28)

    def _traces(self, i: int) -> list[tuple[float, float]]:
        """Tooth traces on the side that faces the viewer: height and half the fall to the right, down positive; mm."""
        g, m = self.stage.gears[i], self.stage.mesh
        r, z = g.d_a / 2, abs(int(g.z))
        hand = self.session.design.train.stages[self.session.stage].mesh.hand
        right = (hand == "right") == (i == 0 or self.stage.kind.inward)
        # On a level axis a right-hand helix falls to the right: its tooth turns counter-clockwise about the axis as
        # it runs away to the right, and the near side then moves down. Down on the screen is positive.
        rise = tan(radians(m.beta)) * g.d_a / g.d * g.b / 2 * (1 if right else -1)
        if m.F_a == 0:
            rise /= 2
        angles = 2 * np.pi * (np.arange(z) + 0.5) / z
        return [(r * float(np.sin(a)), rise * abs(cos(float(a)))) for a in angles if np.cos(a) > 0]

    def _forces(self, p: QPainter, x0: float, scale: float) -> None:
        """Axial forces with their directions, where there are any."""
        m, t = self.stage.mesh, self.theme
        text = tr(
            "overlap ratio {eps_beta:.3f}, total contact ratio {eps_gamma:.3f}",
            eps_beta=m.eps_beta,
            eps_gamma=m.eps_gamma,
        )
        words(p, text, th.font(th.SMALL), t.color("muted"), EDGE, self.height() - 14)
        if m.F_a <= 0:
            return
        mesh = self.session.design.train.stages[self.session.stage].mesh
        to_right = thrust_to_right(mesh.hand, self.session.turns_left(self.session.stage))
        for i, y in enumerate(self.axes):
            sign = (1 if to_right else -1) * (1 if i == 0 else -1)
            half = scale * self.stage.gears[i].b / 2
            start = QPointF(x0 + sign * (half + 30), y)
            tip = start + QPointF(sign * 44, 0)
            p.setPen(QPen(t.color("copper"), th.BOLD))
            p.drawLine(start, tip)
            p.setBrush(t.color("copper"))
            p.setPen(Qt.PenStyle.NoPen)
            p.drawPolygon([tip + QPointF(sign * 8, 0), tip + QPointF(0, -4), tip + QPointF(0, 4)])
            x = draw(p, symbol_runs("F_a", i + 1, t.color("copper")), tip.x() - 30, y - 10)
            words(p, number_with_unit(m.F_a, "force", self.session.system), th.font(), t.color("ink"), x + 5, y - 10)


def thrust_to_right(hand: str, turns_left: bool) -> bool:
    """Whether the axial force on the driving gear points to the right of the Side view.

    The right of the Side view is what faces the viewer in the Teeth view. A right-hand driver is pushed along the axis
    as a right-hand screw would move that turns the same way: towards the viewer when it turns counter-clockwise.
    """
    return (hand == "right") == turns_left


def create_lens(bench: Bench) -> SideLens:
    """The lens of a Bench."""
    return SideLens(bench.session, bench.theme, bench)

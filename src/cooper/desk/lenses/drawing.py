"""The drawing of a mesh: both gears to scale and in phase, circles, line of action, the ghost of the state before."""

from __future__ import annotations

from math import pi, radians
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPen, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import (
    QGraphicsScene,
    QGraphicsView,
    QWidget,
)

from cooper.arrays import Loose as Array
from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.lenses.gear_item import GearItem
from cooper.desk.lenses.mesh_marks import paint_action, paint_overlaps, paint_scale_bar
from cooper.gears.overlap import Overlap, overlaps
from cooper.gears.phase import contact_positions
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import StageResults

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench


MARGINS = (168.0, 64.0, 168.0, 86.0)
"""Room kept free of the drawing for the tags: left, top, right, bottom; px."""


FLANKS = {
    "driving": tr("pressed onto the driving flank"),
    "coast": tr("pressed onto the coast flank"),
    "loose": tr("loose, in the middle of the backlash"),
}
"""How the teeth stand within their backlash."""


class MeshDrawing(QGraphicsView):
    """The view on the mesh: wheel zooms to the pointer, dragging rolls, Shift-dragging moves the paper."""

    VERBS = (
        (tr("Show both gears whole"), "F", Qt.Key.Key_F),
        (tr("Look at the teeth in mesh"), "T", Qt.Key.Key_T),
        (tr("Press the teeth onto the next flank"), "P", Qt.Key.Key_P),
        (tr("Zoom in"), "+", Qt.Key.Key_Plus),
        (tr("Zoom out"), "-", Qt.Key.Key_Minus),
        (tr("Roll on"), tr("Left"), Qt.Key.Key_Left),
        (tr("Roll back"), tr("Right"), Qt.Key.Key_Right),
    )
    """What its keys do, in words."""

    rolled = Signal(float)
    viewed = Signal()

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme
        self.setObjectName("drawing")
        self.setAccessibleName(translate(tr("Drawing of the mesh")))
        self.setAccessibleDescription(
            translate(
                tr(
                    "Left and Right roll the mesh, plus and minus zoom, F shows all, T the teeth in mesh, P "
                    "presses onto the next flank"
                )
            )
        )
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.setViewportUpdateMode(QGraphicsView.ViewportUpdateMode.FullViewportUpdate)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setTransformationAnchor(QGraphicsView.ViewportAnchor.NoAnchor)
        self.setResizeAnchor(QGraphicsView.ViewportAnchor.NoAnchor)
        self.setFrameShape(QGraphicsView.Shape.NoFrame)
        # One of the toolkit's own would have to be recognised among all kinds of widgets, which takes 15 ms the first
        # time.
        sheet = QWidget()
        sheet.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setViewport(sheet)
        page = QGraphicsScene(self)
        page.setSceneRect(-1e6, -1e6, 2e6, 2e6)
        page.setItemIndexMethod(QGraphicsScene.ItemIndexMethod.NoIndex)
        self.setScene(page)
        self.ghosts = (GearItem(False), GearItem(False))
        self.gears = (GearItem(True), GearItem(True))
        for item in (*self.gears, *self.ghosts):
            page.addItem(item)
        self.roll = 0.0
        self.viewed.connect(self._resolve)
        self.fitted = True
        self.show_ghost = True
        self.flank = "driving"
        self._overlap_key: tuple[object, ...] = ()
        self._overlaps: list[Overlap] = []
        self.leaders: list[tuple[QPointF, QPointF, bool]] = []
        self._drag: tuple[str, QPointF] | None = None
        self.apply_theme(theme)
        self.refresh()

    # -- content

    @property
    def stage(self) -> StageResults:
        return self.session.results.stages[self.session.stage]

    @property
    def side(self) -> int:
        return 1 if self.session.turns_left(self.session.stage) else -1

    @property
    def stand_side(self) -> int:
        """The side that touches: that of the driving flank, the other one, or 0 for none."""
        return {"driving": self.side, "coast": -self.side, "loose": 0}[self.flank]

    def set_flank(self, flank: str) -> None:
        """Press the teeth onto one of their flanks, or let them stand loose."""
        self.flank = flank
        self.place()
        self.viewport().update()

    def refresh(self) -> None:
        """Draw the session's present state anew."""
        stage = self.stage
        for i, item in enumerate(self.gears):
            item.show_gear(stage, i)
        before = self.session.ghost
        ghost = before is not None and self.show_ghost and self.session.stage < len(before.stages)
        for i, item in enumerate(self.ghosts):
            item.setVisible(ghost)
            if ghost and before is not None:
                item.show_gear(before.stages[self.session.stage], i)
        if self.fitted:
            self._fit()
        self.place()
        self.viewport().update()

    def apply_theme(self, theme: th.Theme) -> None:
        self.theme = theme
        for item, role in zip(self.gears, ("driver", "driven"), strict=True):
            item.set_colors(theme.color(role), theme.color(f"{role}_fill"), theme.color(role, 0.75), th.HAIR)
        for item in self.ghosts:
            item.set_colors(theme.color("copper", 0.65), None, theme.color("copper"), th.HAIR)
        self.setBackgroundBrush(theme.color("paper"))

    def place(self) -> None:
        """Put every gear in its place and phase for the present roll."""
        stages = [(self.gears, self.stage)]
        before = self.session.ghost
        if self.ghosts[0].isVisible() and before is not None:
            stages.append((self.ghosts, before.stages[self.session.stage]))
        for items, stage in stages:
            for item, x, motion in zip(
                items, (0.0, stage.wheel_x), stage.motions(self.roll, self.stand_side), strict=True
            ):
                item.place(x, motion)
        self._resolve()

    def _resolve(self) -> None:
        view = self.mapToScene(self.viewport().rect()).boundingRect()
        for item in (*self.gears, *self.ghosts):
            if item.isVisible():
                item.resolve(self.px_per_mm, view)

    def contacts(self) -> list[tuple[float, float]]:
        """Points at which teeth touch now; mm."""
        if self.flank == "loose":
            return []
        return [self.stage.action_point(float(g), self.stand_side) for g in self.contact_gs()]

    def contact_gs(self) -> Array:
        """The same as distances from the pinion's base tangent point along the line of action; mm."""
        stage = self.stage
        m, g, tooth = stage.mesh, stage.gears[0], stage.teeth[0]
        half = float(tooth.s_t() / tooth.d + tooth.inv_t)
        return contact_positions(
            self.roll,
            int(g.z),
            g.d_b / 2,
            half,
            radians(m.alpha_wt),
            (m.g_A, m.g_E),
            self.stand_side or self.side,
        )

    # -- view

    def fit(self) -> None:
        """Show both gears whole between the tags."""
        self._fit()
        self.viewed.emit()

    def _fit(self) -> None:
        stage = self.stage
        first, last, high = stage.extent
        left, top, right, bottom = MARGINS
        room = (max(self.width() - left - right, 60.0), max(self.height() - top - bottom, 60.0))
        scale = min(room[0] / (last - first), room[1] / (2 * high))
        self._look(scale, QPointF((first + last) / 2, 0), QPointF(left + room[0] / 2, top + room[1] / 2))
        self.fitted = True

    def look_at_mesh(self) -> None:
        """Zoom to the teeth in mesh."""
        stage = self.stage
        span = 4.2 * stage.mesh.m_n
        left, _, right, _ = MARGINS
        scale = min(self.width() - left - right, self.height() - 120) / (2 * span)
        here = QPointF(stage.gears[0].d_w / 2, 0)
        self._look(scale, here, QPointF(self.width() / 2, self.height() / 2))
        self.fitted = False
        self.viewed.emit()

    def _look(self, scale: float, scene: QPointF, at: QPointF) -> None:
        """Set the scale (px/mm) so that a scene point stands at a place of the viewport."""
        self.resetTransform()
        self.scale(scale, -scale)
        self._bring(scene, at)

    def _bring(self, scene: QPointF, at: QPointF) -> None:
        now = self.mapFromScene(scene)
        h, v = self.horizontalScrollBar(), self.verticalScrollBar()
        h.setValue(round(h.value() + now.x() - at.x()))
        v.setValue(round(v.value() + now.y() - at.y()))

    @property
    def px_per_mm(self) -> float:
        return self.transform().m11()

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Zoom about a place of the viewport (its middle by default)."""
        place = at if at is not None else QPointF(self.width() / 2, self.height() / 2)
        size = 2 * max(s.reach for s in self.stage.sections)
        scale = min(max(self.px_per_mm * factor, 60 / size), 4000 / self.stage.mesh.m_n)
        scene = self.mapToScene(place.toPoint())
        self._look(scale, scene, place)
        self.fitted = False
        self.viewed.emit()

    def set_roll(self, roll: float) -> None:
        self.roll = roll
        self.place()
        self.viewport().update()
        self.rolled.emit(roll)

    # -- hands

    def wheelEvent(self, event: QWheelEvent) -> None:
        steps = event.angleDelta().y() / 120
        if steps:
            self.zoom(1.25**steps, event.position())
        event.accept()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self.fitted:
            self.fit()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        moves = event.button() == Qt.MouseButton.MiddleButton or bool(
            event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        )
        if event.button() in (Qt.MouseButton.LeftButton, Qt.MouseButton.MiddleButton):
            self._drag = ("move" if moves else "roll", event.position())
            self.setCursor(Qt.CursorShape.ClosedHandCursor)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is None:
            return
        what, last = self._drag
        now = event.position()
        if what == "move":
            h, v = self.horizontalScrollBar(), self.verticalScrollBar()
            h.setValue(round(h.value() - (now.x() - last.x())))
            v.setValue(round(v.value() - (now.y() - last.y())))
            self.fitted = False
            self.viewed.emit()
        else:
            self._roll_by(self.mapToScene(last.toPoint()), self.mapToScene(now.toPoint()))
        self._drag = (what, now)

    def _roll_by(self, a: QPointF, b: QPointF) -> None:
        """Turn the mesh as if the gear under the pointer were pushed from a to b."""
        stage, r_w1 = self.stage, self.stage.gears[0].d_w / 2
        start, end = (a.x(), a.y()), (b.x(), b.y())
        if stage.kind.under(*start, stage.mesh.a_w, r_w1):
            turn = stage.kind.pushed(start, end, stage.mesh.a_w, stage.ratio, r_w1)
        else:
            turn = (start[0] * end[1] - start[1] * end[0]) / max(np.hypot(*start), 0.2 * r_w1) ** 2
        self.set_roll(self.roll + float(turn))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._drag = None
        self.unsetCursor()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.fit() if not self.fitted else self.look_at_mesh()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        pitch = 2 * pi / self.stage.gears[0].z
        small = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            sign = 1 if key == Qt.Key.Key_Left else -1
            self.set_roll(self.roll + sign * pitch / (200 if small else 20))
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(1.25)
        elif key == Qt.Key.Key_Minus:
            self.zoom(0.8)
        elif key == Qt.Key.Key_F and not event.modifiers():
            self.fit()
        elif key == Qt.Key.Key_T and not event.modifiers():
            self.look_at_mesh()
        elif key == Qt.Key.Key_P and not event.modifiers():
            names = list(FLANKS)
            self.set_flank(names[(names.index(self.flank) + 1) % len(names)])
        else:
            event.ignore()

    # -- what stands over the gears

    def drawForeground(self, painter: QPainter, rect: QRectF | QRect) -> None:
        painter.save()
        painter.resetTransform()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._draw_centres(painter)
        paint_action(self, painter)
        paint_overlaps(self, painter)
        self._draw_leaders(painter)
        self._draw_distance(painter)
        paint_scale_bar(self, painter)
        painter.restore()

    def at(self, x: float, y: float) -> QPointF:
        """Viewport place of a scene point, not rounded to pixels."""
        return self.viewportTransform().map(QPointF(x, y))

    def _draw_centres(self, p: QPainter) -> None:
        pen = QPen(self.theme.color("muted"), th.HAIR)
        pen.setDashPattern([10, 3, 2, 3])
        p.setPen(pen)
        one, two = self.at(0, 0), self.at(self.stage.wheel_x, 0)
        p.drawLine(one, two)
        turns = self.stage.kind.turns
        if not turns:
            # The datum line in place of a second centre.
            p.drawLine(QPointF(two.x(), 0), QPointF(two.x(), self.height()))
        for c in (one, two) if turns else (one,):
            p.drawLine(c + QPointF(0, -14), c + QPointF(0, 14))
            p.drawLine(c + QPointF(-14, 0), c + QPointF(14, 0))

    def overlaps(self) -> list[Overlap]:
        """Where the gears run into each other now; looked for only where a check of play or clearance is short."""
        stage = self.stage
        gaps = [stage.mesh.j_wt, stage.mesh.get("c_tip", 0.0), *(g[s] for g in stage.gears for s in ("c", "c_F"))]
        if min(gaps) >= 0:
            return []
        key = (id(stage), self.roll, self.flank)
        if key != self._overlap_key:
            stand = stage.stand(self.roll, self.stand_side)
            self._overlap_key, self._overlaps = key, overlaps(*stage.teeth, stage.wheel_x, stand)
        return self._overlaps

    def _draw_leaders(self, p: QPainter) -> None:
        for tag, point, hot in self.leaders:
            p.setPen(QPen(self.theme.color("copper" if hot else "faint"), th.HAIR))
            p.drawLine(tag, point)
            p.setBrush(self.theme.color("copper" if hot else "muted"))
            p.setPen(Qt.PenStyle.NoPen)
            p.drawEllipse(point, 2.2, 2.2)

    def dimension_y(self) -> float:
        """Height at which the centre distance is dimensioned; px."""
        return self.height() - 34.0

    def _draw_distance(self, p: QPainter) -> None:
        """Dimension line of the centre distance with its extension lines."""
        y = self.dimension_y()
        one, two = sorted((self.at(0, 0), self.at(self.stage.wheel_x, 0)), key=lambda c: c.x())
        if not (one.x() >= 0 and two.x() <= self.width() and one.y() < y - 20):
            return
        p.setPen(QPen(self.theme.color("faint"), th.HAIR))
        for c in (one, two):
            p.drawLine(QPointF(c.x(), c.y() + 18), QPointF(c.x(), y + 6))
        p.drawLine(QPointF(one.x(), y), QPointF(two.x(), y))
        p.setBrush(self.theme.color("muted"))
        for c, sign in ((one, 1), (two, -1)):
            tip = QPointF(c.x(), y)
            p.drawPolygon([tip, tip + QPointF(9 * sign, -2.6), tip + QPointF(9 * sign, 2.6)])


def create_lens(bench: Bench) -> MeshDrawing:
    """That of the Bench itself."""
    return bench.drawing

"""The Tooth lens: one tooth in several makes over each other, their differences magnified, a distance measured."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QPushButton, QWidget

from cooper.arrays import Loose as Array
from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.lenses.drawing import MARGINS
from cooper.desk.lenses.lens import Lens
from cooper.desk.widgets.shapes import polygon
from cooper.desk.widgets.typeset import advance, words
from cooper.document.units import number_with_unit
from cooper.gears.layers import magnified, makes_of, nearest_on
from cooper.gears.tooth import Tooth
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.kinds.kind import Kind

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench


FACTORS = (1, 5, 20, 100)
SNAP = 16.0
"""Distance in pixels within which a pick takes the nearest place of a visible line."""
BEFORE = tr("state before")
LINES = (("ink", ()), ("driven", (7, 3)), ("copper", (2, 2)), ("driver", (9, 3, 2, 3)), ("muted", (4, 3)))
"""Colour role and dashes of the layers in their order."""


class ToothLens(Lens):
    """A click picks the ends of a distance; wheel zooms, Shift-drag moves; M magnifies, 1 and 2 choose the gear."""

    VERBS = (
        (tr("Magnify the differences"), "M", Qt.Key.Key_M),
        (tr("The driving gear"), "1", Qt.Key.Key_1),
        (tr("The driven gear"), "2", Qt.Key.Key_2),
        (tr("Show the whole tooth"), "F", Qt.Key.Key_F),
        (tr("Forget what was picked"), "Esc", Qt.Key.Key_Escape),
    )
    """What its keys do, in words."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.setObjectName("tooth_lens")
        self.setAccessibleName(translate(tr("One tooth, its variants over each other")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.gear, self.factor = 1, 1
        self.hidden: set[str] = {"chamfer", "rounding"}
        self.picked: list[Array] = []
        self.scale, self.middle = 0.0, (0.0, 0.0)
        self._drag: QPointF | None = None
        self._row_shown: object = None
        self._lines: tuple[object, dict[str, Array]] = (None, {})
        self.buttons: dict[str, QPushButton] = {}
        for name in ("gear", "magnify", "as designed", tr("plain involute"), "chamfer", "rounding", BEFORE):
            button = QPushButton(self)
            button.setObjectName(f"layer_{name.replace(' ', '_')}")
            button.setProperty("chip", True)
            button.clicked.connect(lambda _on=False, name=name: self.press(name))
            self.buttons[name] = button
        session.changed.connect(self._forget_picks)

    def press(self, name: str) -> None:
        """What the row of words below does: the other gear, the next magnification, a layer on or off."""
        if name == "gear":
            self.choose(3 - self.gear)
        elif name == "magnify":
            self.factor = FACTORS[(FACTORS.index(self.factor) + 1) % len(FACTORS)]
            self.picked = []
        else:
            self.hidden ^= {name}
            self.picked = []
        self.update()

    def choose(self, gear: int) -> None:
        self.gear, self.picked, self.scale = gear, [], 0.0
        self.update()

    def _forget_picks(self) -> None:
        self.picked = []
        if self.isVisible():
            self.update()

    def layers(self) -> dict[str, Tooth]:
        """The makes shown or hidden, by name."""
        result = makes_of(self.stage.teeth[self.gear - 1])
        before = self.session.before
        if before is not None and self.session.stage < len(before.results.stages):
            old = before.results.stages[self.session.stage].teeth[self.gear - 1]
            if before.results.stages[self.session.stage].kinds[self.gear - 1] is self.kind:
                result[BEFORE] = old
        return result

    @property
    def kind(self) -> Kind:
        """The kind of the gear."""
        return self.stage.kinds[self.gear - 1]

    @staticmethod
    def kind_of(name: str) -> str:
        """The switch that a layer answers to."""
        return next((k for k in ("chamfer", "rounding") if name.startswith(k)), name)

    def lines(self) -> dict[str, Array]:
        """Outlines of the visible layers, tooth upright, magnified against the design; mm."""
        key = (id(self.stage), id(self.session.before), self.gear, self.factor, frozenset(self.hidden))
        if self._lines[0] != key:
            layers = self.layers()
            fine = 2e-4 * float(self.stage.mesh.m_n)
            outlines = {}
            base = self.kind.upright(layers["as designed"], fine)
            for name, tooth in layers.items():
                if self.kind_of(name) not in self.hidden:
                    own = base if tooth is layers["as designed"] else self.kind.upright(tooth, fine)
                    outlines[name] = magnified(own, base, self.factor)
            self._lines = (key, outlines)
        return self._lines[1]

    # -- view

    def _fit(self) -> None:
        left, top, right, bottom = MARGINS
        m = self.stage.mesh.m_n
        room = (self.width() - left - right, self.height() - top - bottom - 30)
        x, y = self.kind.upright(self.stage.teeth[self.gear - 1], 0.01 * m).T
        self.scale = min(room[0] / (1.15 * float(np.ptp(x))), room[1] / (float(np.ptp(y)) + 0.7 * m))
        self.middle = (0.0, float(np.max(y) + np.min(y)) / 2)

    def at(self, x: float, y: float) -> QPointF:
        """Place on the widget of a point of the drawing."""
        return QPointF(
            self.width() / 2 + self.scale * (x - self.middle[0]),
            (self.height() - 40) / 2 - self.scale * (y - self.middle[1]),
        )

    def back(self, p: QPointF) -> Array:
        """Point of the drawing under a place of the widget; mm."""
        return np.array(
            [
                (p.x() - self.width() / 2) / self.scale + self.middle[0],
                ((self.height() - 40) / 2 - p.y()) / self.scale + self.middle[1],
            ]
        )

    def pick(self, place: QPointF) -> None:
        """Take a point, the nearest place of a visible line if one is near; the third pick begins anew."""
        point = self.back(place)
        best = SNAP / self.scale
        for line in self.lines().values():
            near, distance = nearest_on(point[None], line)
            if distance[0] < best:
                best, point = float(distance[0]), near[0]
        self.picked = [*self.picked, point] if len(self.picked) < 2 else [point]
        self.update()

    def measured(self) -> float | None:
        """The distance between the two picked points; mm on the drawing."""
        return float(np.hypot(*(self.picked[1] - self.picked[0]))) if len(self.picked) == 2 else None

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.scale = 0.0

    def wheelEvent(self, event: QWheelEvent) -> None:
        if self.scale:
            before = self.back(event.position())
            self.scale *= 1.25 ** (event.angleDelta().y() / 120)
            shift = before - self.back(event.position())
            self.middle = (self.middle[0] + float(shift[0]), self.middle[1] + float(shift[1]))
            self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        moves = event.button() == Qt.MouseButton.MiddleButton or bool(
            event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        )
        if moves:
            self._drag = event.position()
        elif event.button() == Qt.MouseButton.LeftButton:
            self.pick(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is not None:
            step = event.position() - self._drag
            self.middle = (self.middle[0] - step.x() / self.scale, self.middle[1] + step.y() / self.scale)
            self._drag = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._drag = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_M:
            self.press("magnify")
        elif event.key() in (Qt.Key.Key_1, Qt.Key.Key_2) and not event.modifiers():
            self.choose(1 if event.key() == Qt.Key.Key_1 else 2)
        elif event.key() == Qt.Key.Key_F and not event.modifiers():
            self.scale = 0.0
            self.update()
        elif event.key() == Qt.Key.Key_Escape and self.picked:
            self.picked = []
            self.update()
        else:
            event.ignore()

    # -- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        p.fillRect(self.rect(), t.color("paper"))
        if not self.scale:
            self._fit()
        names = list(self.layers())
        shown = self.lines()
        self._circles(p)
        for name, line in shown.items():
            path = QPainterPath()
            corner = self.at(0.0, 0.0)
            path.addPolygon(polygon(line * [self.scale, -self.scale] + [corner.x(), corner.y()]))
            role, dashes = LINES[min(names.index(name), len(LINES) - 1)]
            pen = QPen(t.color(role), 1.0)
            if dashes:
                pen.setDashPattern([float(d) for d in dashes])
            p.setPen(pen)
            p.setBrush(
                t.color("driver_fill" if self.gear == 1 else "driven_fill")
                if name == "as designed"
                else Qt.BrushStyle.NoBrush
            )
            p.drawPath(path)
        self._pair(p)
        row = (names, self.theme, self.gear, self.factor, frozenset(self.hidden), self.size(), self.session.design)
        if row != self._row_shown:
            # Only what has changed is laid anew, as that asks for another picture.
            self._row_shown = row
            self._row(names)

    def _circles(self, p: QPainter) -> None:
        g = self.stage.gears[self.gear - 1]
        if not self.kind.turns:
            for label, height in self.kind.levels(g).items():
                y = self.at(0, height).y()
                p.setPen(QPen(self.theme.color("line"), th.HAIR))
                p.drawLine(QPointF(MARGINS[0], y), QPointF(self.width() - MARGINS[2], y))
                words(p, label, th.font(8), self.theme.color("muted"), MARGINS[0] + 6, y - 3)
            return
        sign = -1 if self.kind.inward else 1
        for symbol in ("d_a", "d", "d_b", "d_Ff", "d_fE"):
            r = g[symbol] / 2
            centre, radius = self.at(0, 0), r * self.scale
            pen = QPen(self.theme.color("line"), th.HAIR)
            pen.setDashPattern([9, 3, 1.5, 3] if symbol == "d" else [3, 3])
            p.setPen(pen)
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawEllipse(centre, radius, radius)
            # Base and root form circle often lie close together: their names stand on opposite sides.
            place = self.width() - MARGINS[2] - 40 if symbol == "d_b" else MARGINS[0] + 6
            x = place - centre.x()
            side = radius**2 - x**2
            if side > 0:
                y = centre.y() - sign * side**0.5
                label = {
                    "d_fE": tr("root"),
                    "d_Ff": tr("root form"),
                    "d_b": tr("base"),
                    "d": tr("reference"),
                    "d_a": tr("tip"),
                }[symbol]
                words(p, label, th.font(8), self.theme.color("muted"), place, y - 3)

    def _pair(self, p: QPainter) -> None:
        """The picked points and what lies between them."""
        copper = self.theme.color("copper")
        p.setPen(QPen(copper, 1.4))
        p.setBrush(self.theme.color("paper"))
        ends = [self.at(float(q[0]), float(q[1])) for q in self.picked]
        if len(ends) == 2:
            p.drawLine(ends[0], ends[1])
        for e in ends:
            p.drawEllipse(e, 4, 4)
        distance = self.measured()
        small = th.font(th.SMALL)
        if distance is None:
            text = tr("Pick two points to measure between them") if not self.picked else tr("Pick the second point")
        else:
            dx, dy = np.abs(self.picked[1] - self.picked[0])
            system = self.session.system
            parts = [number_with_unit(float(v), "length", system, 4) for v in (distance, dx, dy)]
            text = tr(
                "distance {parts}, across {parts_2}, along the tooth {parts_3}",
                parts=parts[0],
                parts_2=parts[1],
                parts_3=parts[2],
            )
            if self.factor > 1:
                text += tr("  (differences between layers ×{factor})", factor=self.factor)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(self.theme.color("card", 0.9))
        width = advance(text, small) + 16
        p.drawRoundedRect(QRectF((self.width() - width) / 2, 50, width, 20), 4, 4)
        words(
            p,
            text,
            small,
            copper if distance is not None else self.theme.color("muted"),
            (self.width() - width) / 2 + 8,
            64,
        )

    def _row(self, names: list[str]) -> None:
        """The row of switches along the foot."""
        x, y = MARGINS[0] - 10.0, self.height() - 74.0
        gear = self.session.design.train.stages[self.session.stage]
        own = gear.gears[self.gear - 1].name
        kinds = {self.kind_of(n): n for n in names}
        for key, button in self.buttons.items():
            button.setVisible(key in ("gear", "magnify") or key in kinds)
            if key == "gear":
                text, on = tr("{own} (1, 2)", own=own), True
            elif key == "magnify":
                text, on = tr("differences ×{factor} (M)", factor=self.factor), self.factor > 1
            else:
                text, on = ("✓ " if key not in self.hidden else "") + term(kinds.get(key, key)), key not in self.hidden
            if button.text() != text:
                button.setText(translate(text))
            button.setAccessibleDescription(translate(tr("shown") if on else tr("hidden")))
            th.set_text_role(button, "ink" if on else "muted", th.SMALL)
            button.adjustSize()
            if button.isVisible():
                if x + button.width() > self.width() - MARGINS[2] + 20:
                    x, y = MARGINS[0] - 10.0, y + 24
                button.move(round(x), round(y))
                x += button.width() + 2


def create_lens(bench: Bench) -> ToothLens:
    """The lens of a Bench."""
    return ToothLens(bench.session, bench.theme, bench)

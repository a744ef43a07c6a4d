"""The Train lens: the whole arrangement in end view and from above, to scale, turning at a chosen pace."""

from __future__ import annotations

from functools import partial
from math import pi
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import (
    QHideEvent,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
)
from PySide6.QtWidgets import QMenu, QPushButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.lenses.drawing import MARGINS
from cooper.desk.lenses.lens import Lens
from cooper.desk.lenses.solid_source import SolidSource
from cooper.desk.lenses.train_painter import ABOVE, HOUSING, PACES, Look, TrainPainter, frames_of
from cooper.desk.widgets.solid_view import sight_of
from cooper.desk.widgets.typeset import words
from cooper.document.units import KINDS, number, screen_unit
from cooper.exchange.camera import Camera
from cooper.i18n.text import join, term, tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench


FRAME_MS = 33


FLOOR, GAP = 26.0, 12.0


class TrainLens(Lens):
    """The moving train. Space plays and rests, arrows turn it, + and - change the pace, C circles, P paths of
    contact, S solids."""

    VERBS = (
        (tr("Run or stop"), "Space", Qt.Key.Key_Space),
        (tr("Faster"), "+", Qt.Key.Key_Plus),
        (tr("Slower"), "-", Qt.Key.Key_Minus),
        (tr("As solids, or as a drawing"), "S", Qt.Key.Key_S),
        (tr("Circles on or off"), "C", Qt.Key.Key_C),
        (tr("Paths of contact on or off"), "P", Qt.Key.Key_P),
        (tr("Turn on"), tr("Left"), Qt.Key.Key_Left),
    )
    """What its keys do, in words."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        self.timer = QTimer()
        super().__init__(session, theme, parent)
        self.timer.setParent(self)
        self.setObjectName("train_lens")
        self.setAccessibleName(translate(tr("The whole train, moving")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.turn, self.pace, self.look = 0.0, 2, Look()
        self._painter: TrainPainter | None = None
        self._of: tuple[object, str, int] | None = None
        self._grabbed: QPointF | None = None
        self.timer.setInterval(FRAME_MS)
        self.timer.timeout.connect(self._tick)
        self.play = self._button("train_play", tr("Play  Space"), self.toggle)
        self.frame = self._button("train_frame", tr("Still: housing"), self._choose_frame)
        self.camera: Camera | None = None
        self.solids = SolidSource(self)
        self.solids.came.connect(self.update)
        self.solid = self._button("train_solid", tr("Solid  S"), self.toggle_solid)
        self.speed = self._button(
            "train_pace", "", lambda: self.set_pace(self.pace + 1 if self.pace < len(PACES) - 1 else 0)
        )
        self.set_pace(self.pace)
        session.changed.connect(self.update)

    def _button(self, name: str, text: str, run: object) -> QPushButton:
        button = QPushButton(translate(text), self)
        button.setObjectName(name)
        button.setProperty("chip", True)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        button.clicked.connect(lambda _on=False: run())  # type: ignore[operator]
        return button

    def animation_options(self) -> tuple[str, ...]:
        """What an animation of what is seen now is asked for with."""
        if self.camera is None:
            return ("--still", self.look.still)
        return (
            "--view",
            "solid",
            "--yaw",
            tr("{yaw:.2f}", yaw=np.degrees(self.camera.yaw)),
            "--pitch",
            tr("{pitch:.2f}", pitch=np.degrees(self.camera.pitch)),
        )

    # -- motion

    @property
    def sense(self) -> int:
        """+1 where the input turns counter-clockwise."""
        return -1 if self.session.design.train.duty.direction == "clockwise" else 1

    def toggle(self) -> None:
        """Play or rest."""
        if self.timer.isActive():
            self.timer.stop()
        else:
            self.timer.start()
        self.play.setText(translate(tr("Rest  Space") if self.timer.isActive() else tr("Play  Space")))
        self._place()
        # At rest the solids are seen finer.
        self.update()

    def _tick(self) -> None:
        self.turn += self.sense * 2 * pi * PACES[self.pace] * FRAME_MS / 1000
        self.update()

    def set_pace(self, n: int) -> None:
        self.pace = min(max(n, 0), len(PACES) - 1)
        self.speed.setText(translate(tr("{paces:g} turns/s", paces=PACES[self.pace])))
        self._place()

    def set_turn(self, turn: float) -> None:
        self.turn = turn
        self.update()

    def toggle_solid(self) -> None:
        """Show the train as shaded solids that dragging turns about, or as a drawing again."""
        self.camera = Camera() if self.camera is None else None
        self.solid.setText(translate(tr("Drawing  S") if self.camera else tr("Solid  S")))
        self._place()
        self.update()

    def frames(self) -> list[str]:
        """What can stand still."""
        return frames_of(self.session.results)

    def stand_on(self, name: str) -> None:
        """Let a member stand still in the picture."""
        self.look = Look(name, self.look.circles, self.look.paths)
        self.frame.setText(translate(tr("Still: {name}", name=name)))
        self._place()
        self.update()

    def _choose_frame(self) -> None:
        menu = QMenu(self)
        for name in self.frames():
            menu.addAction(translate(name), partial(self.stand_on, name))
        menu.exec(self.frame.mapToGlobal(self.frame.rect().bottomLeft()))

    def hideEvent(self, event: QHideEvent) -> None:
        if self.timer.isActive():
            self.toggle()
        self.solids.rest()

    # -- picture

    def painter_now(self) -> TrainPainter:
        """The painter of the present results."""
        key = (self.session.results, self.theme.name, self.sense)
        if self._painter is None or self._of is None or self._of[0] is not key[0] or self._of[1:] != key[1:]:
            self._painter, self._of = TrainPainter(self.session.results, self.theme, self.sense), key
            if self.look.still not in self.frames():
                self.stand_on(HOUSING)
        return self._painter

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), self.theme.color("paper"))
        painter = self.painter_now()
        room = self._room()
        low = room.height() * ABOVE
        if self.camera is not None:
            p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            seen = self._solid_image(room, self.camera)
            # Until they come the drawing stands in their place, faintly.
            p.setOpacity(1.0 if self.solids.fresh else 0.35)
            if seen is None:
                painter.paint(p, room, self.turn, self.look, self.session.stage)
            else:
                p.drawImage(room, seen)
            p.setOpacity(1.0)
            if not self.solids.fresh:
                fault = self.solids.fault
                text = (
                    tr("The solids cannot be made: {fault}", fault=fault)
                    if fault
                    else tr("The solids are being made …")
                )
                words(p, text, th.font(bold=True), self.theme.color("copper"), room.left(), room.top() + 12)
            self._tell(p, room)
            return
        end = QRectF(room.left(), room.top(), room.width(), room.height() - low - GAP - FLOOR)
        painter.paint(p, end, self.turn, self.look, self.session.stage)
        painter.above(p, QRectF(room.left(), room.bottom() - low, room.width(), low), painter.scale(end))
        self._tell(p, room)

    def _room(self) -> QRectF:
        """Where the picture stands, between the tags."""
        left, top, right, bottom = MARGINS[0], MARGINS[1] + 34, MARGINS[2], 44
        return QRectF(left, top, max(self.width() - left - right, 40.0), max(self.height() - top - bottom, 40.0))

    def _solid_image(self, room: QRectF, camera: Camera) -> QImage | None:
        """The solids as they stand now: roughly while something moves, finer step by step once it rests; the last
        picture until the next comes."""
        size = round(room.width()), round(room.height())
        rests = not self.timer.isActive() and self._grabbed is None
        session = self.session
        sight = sight_of(self.turn, camera, size, self.theme)
        return self.solids.look(session.design, session.results, sight, rests=rests)

    def _tell(self, p: QPainter, room: QRectF) -> None:
        t, small = self.theme, th.font(th.SMALL)
        lines = []
        for s in self.session.results.sets:
            shafts = join(", ", (tr("{name} {n:.4g} 1/min", name=term(name), n=v["n"]) for name, v in s.shafts.items()))
            lines.append(tr("{name}: {shafts}", name=s.name, shafts=shafts))
            v = s.values
            back = (
                tr("not looked at, as two shafts would drive it")
                if s.second
                else tr("{eta_back:.1f} %", eta_back=100 * v.eta_back)
                if v.eta_back > 0
                else tr("locks")
            )
            lines.append(
                tr(
                    "η {eta_set:.2f} %, backward {back}, power through a mesh {circulation:.2f} of the input's",
                    eta_set=100 * v.eta_set,
                    back=back,
                    circulation=v.circulation,
                )
            )
        if "phi_lost_max" in self.session.results.train:
            lost = self.session.results.train
            unit = screen_unit(KINDS["small_angle"].display_unit(self.session.system))
            shown = [
                number(lost[k], "small_angle", self.session.system, 1) + unit
                for k in ("phi_lost_min", "phi_lost", "phi_lost_max")
            ]
            lines.append(
                tr(
                    "lost motion at the output {shown} … {shown_2}, mean {shown_3}",
                    shown=shown[0],
                    shown_2=shown[2],
                    shown_3=shown[1],
                )
            )
        for n, line in enumerate(lines):
            words(p, line, small, t.color("muted"), 20, self.height() - 12 - 16 * (len(lines) - 1 - n))

    def _place(self) -> None:
        x = round(MARGINS[0])
        for button in (self.play, self.speed, self.frame, self.solid):
            button.adjustSize()
            button.move(x, round(MARGINS[1]) + 2)
            x += button.width() + 8

    def resizeEvent(self, event: object) -> None:
        self._place()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key == Qt.Key.Key_Space:
            self.toggle()
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.set_turn(self.turn + (0.05 if key == Qt.Key.Key_Left else -0.05))
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            self.set_pace(self.pace + (1 if key == Qt.Key.Key_Plus else -1))
        elif key == Qt.Key.Key_S:
            self.toggle_solid()
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down) and self.camera is not None:
            self.camera = Camera(self.camera.yaw, self.camera.pitch + (0.1 if key == Qt.Key.Key_Up else -0.1))
        elif key == Qt.Key.Key_C:
            self.look = Look(self.look.still, not self.look.circles, self.look.paths)
        elif key == Qt.Key.Key_P:
            self.look = Look(self.look.still, self.look.circles, not self.look.paths)
        else:
            event.ignore()
            return
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._grabbed = event.position()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._grabbed = None
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grabbed is None:
            return
        by, self._grabbed = event.position() - self._grabbed, event.position()
        if self.camera is not None:
            self.camera = Camera(self.camera.yaw - by.x() / 150, min(max(self.camera.pitch + by.y() / 150, -1.5), 1.5))
            self.update()
        else:
            self.set_turn(self.turn - by.x() / 150)


def create_lens(bench: Bench) -> TrainLens:
    """The lens of a Bench."""
    return TrainLens(bench.session, bench.theme, bench)

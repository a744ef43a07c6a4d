"""Dragging a face of a shaft along it, with what it snaps to."""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.lenses.shaft_drawing import View
from cooper.desk.widgets.typeset import advance, words
from cooper.document.models import Design
from cooper.document.units import number_with_unit
from cooper.editing.shaft_faces import Face, faces_of, move_face, snapped, snaps_of
from cooper.i18n.text import join, tr
from cooper.results.machine_result import MachineResult, ShaftResult
from cooper.results.result_tree import Results

GRIP = 4
"""How near to a face the pointer takes hold of it; px."""
NEAR = 7
"""How near to something a dragged face snaps to it; px."""


class FaceDrag(Struct):
    """The face that is dragged, the place it would come to (mm), and what stands there."""

    session: Session
    face: Face | None = None
    z: float = 0.0
    what: str = ""

    def over(self, shaft: ShaftResult, view: View, at: QPointF) -> Face | None:
        """The face under the pointer that can be moved."""
        near = []
        for face in faces_of(shaft.made):
            d = max(p.d for p in shaft.made.pieces if face.z in (p.start, p.end))
            if abs(view.x(face.z) - at.x()) <= GRIP and abs(at.y() - view.y) <= view.scale * d / 2 + GRIP:
                near.append(face)
        return min(near, key=lambda f: abs(view.x(f.z) - at.x()), default=None)

    def take(self, face: Face) -> None:
        """Take hold of a face."""
        self.face, self.z, self.what = face, face.z, ""

    def to(self, result: MachineResult, shaft: ShaftResult, view: View, z: float) -> None:
        """Follow the pointer."""
        if self.face is not None:
            self.z, self.what = snapped(self.face, z, snaps_of(result, shaft), NEAR / view.scale)

    def leave(self, shaft: ShaftResult) -> None:
        """Let go: the face stands where it was dragged to."""
        face, z, self.face = self.face, self.z, None
        if face is None or abs(z - face.z) < 1e-6:
            return

        def change(design: Design, _r: Results) -> Design:
            return move_face(design, shaft.key, face, z)

        length = number_with_unit(face.length(z), "length", self.session.system)
        self.session.edit(
            change,
            tr("{name}, {words} {length}", name=shaft.name, words=face.words, length=length),
            tr("face {key} {path}", key=shaft.key, path=join(" ", face.path)),
        )

    def paint(self, p: QPainter, theme: th.Theme, room: QRectF, view: View) -> None:
        """The face where it would come to, the length that it decides, and what it stands flush with."""
        if self.face is None:
            return
        p.setPen(QPen(theme.color("copper"), th.BOLD if self.what else th.HAIR, Qt.PenStyle.DashLine))
        x = view.x(self.z)
        p.drawLine(QPointF(x, room.top()), QPointF(x, room.bottom()))
        text = tr(
            "{words}: {z}",
            words=self.face.words,
            z=number_with_unit(self.face.length(self.z), "length", self.session.system),
        )
        if self.what:
            text += tr(", flush with {what}", what=self.what)
        left = min(max(x + 8, 8.0), room.right() + 24 - advance(text, th.font(bold=True)))
        wide = advance(text, th.font(bold=True))
        p.fillRect(QRectF(left - 4, room.top() - 2, wide + 8, 20), theme.color("paper"))
        words(p, text, th.font(bold=True), theme.color("copper"), left, room.top() + 12)

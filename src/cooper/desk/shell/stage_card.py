"""A stage on the power line as a card: its gears, ratio and verdict, dragged, renamed, chosen."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QContextMenuEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QMenu

from cooper.desk.base.session import Session
from cooper.desk.widgets.cached_picture import CachedPicture
from cooper.desk.widgets.shapes import role_of, section_path
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.pose import pose
from cooper.results.result_tree import SetResults

if TYPE_CHECKING:
    from cooper.desk.shell.power_line import PowerLine


HEIGHT = 112


AXIS = 70.0


CARD = 92


DRAG_FROM = 12
"""Pixels from which pulling a card is dragging and no longer a click."""


def stage_acts(session: Session, k: int) -> list[tuple[str, Callable[[], object]]]:
    """What can be done with stage k of the train, in words."""

    def then(label: str, name: str, *args: int, go: int) -> Callable[[], object]:
        def select(_changed: bool) -> None:
            session.select_stage(min(max(go, 0), len(session.results.stages) - 1))

        return lambda: session.change(name, k, *args, label=label, then=select)

    return [
        (tr("Add a stage behind it"), then(tr("stage added"), "add", go=k + 1)),
        (tr("Split it in two"), then(tr("stage split"), "split", go=k)),
        (tr("Move it towards the input"), then(tr("stage moved"), "move", k - 1, go=k - 1)),
        (tr("Move it towards the output"), then(tr("stage moved"), "move", k + 1, go=k + 1)),
        (tr("Take it away"), then(tr("stage taken away"), "remove", go=k)),
    ]


def count_words(count: int) -> str:
    return tr("1 warning") if count == 1 else tr("{count} warnings", count=count)


class StageCard(QAbstractButton):
    """One stage, its arrangement to scale in miniature; a click puts it on the Bench."""

    def __init__(self, line: PowerLine, index: int) -> None:
        super().__init__(line)
        self.line, self.index = line, index
        self._picture = CachedPicture()
        self._grabbed: QPointF | None = None
        self._dragged = False
        self.setObjectName(f"stage_{index + 1}")
        self.setFixedSize(CARD, CARD)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(lambda: line.session.select_stage(index))

    def sizeHint(self) -> QSize:
        return QSize(CARD, CARD)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        self._grabbed = event.position() if event.button() == Qt.MouseButton.LeftButton else None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Dragging moves the stage along the train; it follows the pointer."""
        if self._grabbed is None:
            return
        by = event.position().x() - self._grabbed.x()
        if self._dragged or abs(by) > DRAG_FROM:
            self._dragged = True
            self.raise_()
            self.move(round(self.x() + by), self.y())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        dragged, self._dragged, self._grabbed = self._dragged, False, None
        if not dragged:
            super().mouseReleaseEvent(event)
            return
        self.setDown(False)
        self.line.drop(self)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """What can be done with this stage."""
        menu = QMenu(self)
        menu.addAction(translate(tr("Exchange it or add one behind it …\tCtrl+J")), self._arrange)
        for name, act in stage_acts(self.line.session, self.index):
            menu.addAction(translate(name), act)
        menu.exec(event.globalPos())

    def _arrange(self) -> None:
        self.line.session.select_stage(self.index)
        self.line.arrangement_wanted.emit()

    def paintEvent(self, event: QPaintEvent) -> None:
        """The picture is cached until it would differ by more than a quarter of a pixel."""
        session, scale = self.line.session, self.line.scale_now()
        stage = session.results.stages[self.index]
        sizes = [
            round(4 * scale * g[s])
            for g in stage.gears
            for s in ("d_a", "d_fE", "d_bore", "d_rim", "h_a", "h_back")
            if s in g
        ]
        counts = [g.z for g in stage.gears]
        one = session.results.within[self.index]
        if one is not None:
            # The card of a set shows all of it.
            of_set = [g for s in session.results.part(one).stages for g in s.gears]
            counts += [*(g.z for g in of_set), *one.angles]
            sizes += [round(4 * scale * g.d_a) for g in of_set]
        key = (*sizes, *counts, self.line.theme.name, session.stage == self.index, self.hasFocus())
        p = QPainter(self)
        self._picture.lay(p, self, key, self._draw)

    def _draw(self, p: QPainter) -> None:
        t, session = self.line.theme, self.line.session
        chosen = session.stage == self.index
        p.setPen(QPen(t.color("copper" if chosen or self.hasFocus() else "line"), 1.8 if chosen else 1.0))
        p.setBrush(t.color("card"))
        p.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 7, 7)
        stage = session.results.stages[self.index]
        scale = self.line.scale_now()
        one = session.results.within[self.index]
        if one is not None and one.arranged.around:
            self._draw_set(p, one, scale)
            return
        first, last, high = stage.extent
        p.translate(CARD / 2 - scale * (first + last) / 2, CARD / 2)
        p.scale(scale, scale)
        # A rack is longer than the card is high.
        p.setClipRect(QRectF(first - 1, -high, last - first + 2, 2 * high))
        for role, section, x in zip(("driver", "driven"), stage.sections, (0.0, stage.wheel_x), strict=True):
            p.save()
            p.translate(x, 0)
            pen = QPen(t.color(role), 0.9)
            pen.setCosmetic(True)
            p.setPen(pen)
            p.setBrush(t.color(f"{role}_fill"))
            p.drawPath(section_path(section, 0.15 / scale))
            p.restore()

    def _draw_set(self, p: QPainter, one: SetResults, scale: float) -> None:
        """The whole set, the gears of this mesh in their colours and the others as lines."""
        t, results = self.line.theme, self.line.session.results
        k = self.index
        # A gear in two meshes is drawn where it stands first.
        own = {(k, 0), (k, 1)} | {
            (one.stages[m], j) for (n, _), (m, j) in one.arranged.same.items() if one.first + n == k
        }
        part = results.part(one)
        p.translate(CARD / 2, CARD / 2)
        p.scale(scale, -scale)
        for g in sorted(pose(part, 0.0).gears, key=lambda g: -part.stages[g.stage].gears[g.i].d_a):
            where = (one.first + g.stage, g.i)
            role = role_of(g)
            pen = QPen(t.color(role if where in own else "faint"), 0.9)
            pen.setCosmetic(True)
            p.setPen(pen)
            p.setBrush(t.color(f"{role}_fill") if where in own else Qt.BrushStyle.NoBrush)
            p.save()
            p.translate(g.x, g.y)
            p.rotate(np.degrees(g.angle))
            p.drawPath(section_path(part.stages[g.stage].sections[g.i], 0.15 / scale))
            p.restore()

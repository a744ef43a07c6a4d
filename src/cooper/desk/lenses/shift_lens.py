"""The Shifts lens: a map of x_1 and x_2 with what bounds them, on which the pair is dragged."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

from cooper.arrays import Loose as Array
from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.desk.lenses.drawing import MARGINS
from cooper.desk.lenses.lens import Lens
from cooper.desk.widgets.shapes import segments
from cooper.desk.widgets.typeset import advance, draw, symbol_runs, words
from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.editing.sheet_fields import member_path
from cooper.editing.shift_map import HIGH, LOW, ShiftMap
from cooper.exchange.plots import Line, Plot
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.results.check_types import THIN
from cooper.results.result_tree import Results

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench


class ShiftLens(Lens):
    """Dragging or the arrow keys move the pair; with a given centre distance it slides along its line."""

    VERBS = (
        (tr("More shift of gear 1"), tr("Right"), Qt.Key.Key_Right),
        (tr("Less shift of gear 1"), tr("Left"), Qt.Key.Key_Left),
        (tr("More shift of gear 2"), "Up", Qt.Key.Key_Up),
        (tr("Less shift of gear 2"), tr("Down"), Qt.Key.Key_Down),
    )
    """What its keys do, in words."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.setObjectName("shift_lens")
        self.setAccessibleName(translate(tr("Map of the profile shifts")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._key: object = None
        self._of: tuple[Design | None, int] = (None, 0)
        self._map: ShiftMap | None = None
        self._task: Task | None = None
        self.waiting = False

    def map(self) -> ShiftMap | None:
        """The map of the present design, made anew only when something other than the shifts has changed."""
        design, k = self.session.design, self.session.stage
        if self._of[0] is design and self._of[1] == k:
            return self._map
        self._of = design, k
        key = self._without_shifts(design, k)
        if key != self._key:
            self._key, self.waiting = key, True
            if self._task is not None:
                self._task.give_up()
            # The map before stays until the new one is there.
            asked = (design, self.session.results, k)
            self._task = submit("cooper.editing.shift_map:shift_map", *asked, take=self._take, done=self._done)
        return self._map

    def _take(self, result: ShiftMap) -> None:
        self._map = result

    def _done(self, fault: Exception | None) -> None:
        self.waiting = False
        if fault is not None:
            self._map = None
        if isValid(self):
            self.describe()
            self.update()

    @staticmethod
    def _without_shifts(design: Design, k: int) -> object:
        train, stage = design.train, design.train.stages[k]
        gears = {g.id: g.replace_unchecked(x=None) for g in stage.gears}
        mesh = stage.mesh.replace_unchecked(a_w=None)
        return train.replace_unchecked(gears=train.gears | gears, meshes=train.meshes | {stage.id: mesh})

    def plots(self) -> list[Plot]:
        """The least margin of the map along the line of equal centre distance through the pair."""
        field = self._map
        if field is None:
            return []
        total = float(self.stage.mesh.x_sum)
        x = field.x[(total - field.x >= field.x[0]) & (total - field.x <= field.x[-1])]
        if len(x) < 2:
            return []
        margins = [
            Line(x, along_sum(field.x, values, x, total), "ink", faint=True, name=translate(term(name)))
            for name, values in field.margins.items()
        ]
        worst = Line(x, along_sum(field.x, field.worst, x, total), "copper", name=tr("least"))
        title = tr("margins at x_1 + x_2 = {total:.4g}", total=total)
        return [Plot(title, "factor", (worst, *margins), "x_1", "factor")]

    def frame(self) -> QRectF:
        left, top, right, bottom = MARGINS
        size = min(self.width() - left - right - 60, self.height() - top - bottom - 6)
        return QRectF(left + (self.width() - left - right - size) / 2 + 10, top + 6, size, size)

    def at(self, x_1: float, x_2: float) -> QPointF:
        f = self.frame()
        return QPointF(
            f.left() + f.width() * (x_1 - LOW) / (HIGH - LOW), f.bottom() - f.height() * (x_2 - LOW) / (HIGH - LOW)
        )

    def shifts_at(self, p: QPointF) -> tuple[float, float]:
        f = self.frame()
        x_1 = LOW + (HIGH - LOW) * (p.x() - f.left()) / f.width()
        x_2 = LOW + (HIGH - LOW) * (f.bottom() - p.y()) / f.height()
        return x_1, x_2

    def move_to(self, x_1: float, x_2: float) -> None:
        """Bring the pair there, rounded to thousandths; a given centre distance keeps the sum."""
        now, k = self.stage, self.session.stage
        if now.solved.isdisjoint({"a_w"}):
            shift = (x_1 - now.gears[0].x - (x_2 - now.gears[1].x)) / 2
            x_1 = now.gears[0].x + shift
            x_2 = now.mesh.x_sum - x_1
        free = next((i for i in (1, 2) if f"x_{i}" in now.solved), None)
        values = {1: round(x_1, 3), 2: round(x_2, 3)}

        def change(d: Design, _r: Results) -> Design:
            return set_many(d, {f"{member_path(d, k, i)}.x": v for i, v in values.items() if i != free})

        self.session.edit(
            change, tr("x_1 {values:g}, x_2 {values_2:g}", values=values[1], values_2=values[2]), "shift_map"
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        if self.frame().contains(event.position()):
            self.move_to(*self.shifts_at(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.frame().contains(event.position()):
            self.move_to(*self.shifts_at(event.position()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}
        if event.key() not in steps:
            event.ignore()
            return
        size = 0.001 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 0.01
        dx, dy = (size * v for v in steps[Qt.Key(event.key())])
        g = self.stage.gears
        self.move_to(g[0].x + dx, g[1].x + dy)

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, f = self.theme, self.frame()
        p.fillRect(self.rect(), t.color("paper"))
        field = self.map()
        if field is None:
            words(
                p,
                tr(
                    "A {name} has no shift: its pinion's alone sets the distance a_w to the datum line.",
                    name=self.stage.kind.name,
                )
                if not self.stage.kind.shifts
                else tr("Drawing the map …")
                if self.waiting
                else tr("No map: these teeth cannot be made without shift."),
                th.font(),
                t.color("muted"),
                f.left(),
                f.center().y(),
            )
            return
        p.drawImage(f, self._image(field))
        p.save()
        p.setClipRect(f)
        self._bounds(p, field)
        self._sum_line(p)
        p.restore()
        self._axes(p)
        g = self.stage.gears
        here = self.at(g[0].x, g[1].x)
        p.setPen(QPen(t.color("card"), 2))
        p.setBrush(t.color("copper"))
        p.drawEllipse(here, 7, 7)

    def _image(self, field: ShiftMap) -> QImage:
        """Ground of the map: clear where all conditions hold, tinted where one is thin or short."""
        worst = field.worst[::-1]
        rgba = np.zeros((*worst.shape, 4), dtype=np.uint8)
        for mask, role, alpha in (
            (worst < 0, "short", 46),
            ((worst >= 0) & (worst <= THIN), "thin", 34),
            (worst > THIN, "holds", 26),
        ):
            c = self.theme.color(role)
            rgba[mask] = (c.red(), c.green(), c.blue(), alpha)
        self._pixels = np.ascontiguousarray(rgba)
        size = worst.shape[0]
        return QImage(self._pixels.data, size, size, 4 * size, QImage.Format.Format_RGBA8888)

    def _bounds(self, p: QPainter, field: ShiftMap) -> None:
        """One line for each condition at its limit, and where both roots slide alike."""
        t = self.theme
        taken: list[QPointF] = []
        f = self.frame()
        scale = np.array([f.width(), -f.height()]) / (HIGH - LOW)
        for name, (ends, bounding) in field.lines.items():
            role, style = (
                ("short", Qt.PenStyle.SolidLine) if name in field.margins else ("driven", Qt.PenStyle.DashLine)
            )
            lines = (ends - LOW) * scale + (f.left(), f.bottom())
            for alpha, chosen in ((0.16, ~bounding), (0.9, bounding)):
                p.setPen(QPen(t.color(role, alpha), 1.3, style))
                p.drawPath(segments(lines[chosen]))
            self._name_line(p, name, lines[bounding], t.color(role), taken)

    def _name_line(self, p: QPainter, name: str, lines: Array, color: object, taken: list[QPointF]) -> None:
        """Write a line's name beside it, where no other name stands."""
        f, small = self.frame(), th.font(th.SMALL)
        inner = f.adjusted(12, 16, -advance(term(name), small) - 16, -12)
        for line in lines[:: max(1, len(lines) // 24)]:
            at = QPointF(line[0, 0] + 5, line[0, 1] - 5)
            if inner.contains(at) and all(abs(at.x() - q.x()) > 96 or abs(at.y() - q.y()) > 16 for q in taken):
                words(p, term(name), small, color, at.x(), at.y())  # type: ignore[arg-type]
                taken.append(at)
                return

    def _sum_line(self, p: QPainter) -> None:
        """The line of equal centre distance through the present pair."""
        total = self.stage.mesh.x_sum
        pen = QPen(self.theme.color("copper", 0.8), th.HAIR)
        pen.setDashPattern([6, 4])
        p.setPen(pen)
        p.drawLine(self.at(LOW, total - LOW), self.at(HIGH, total - HIGH))

    def _axes(self, p: QPainter) -> None:
        t, f = self.theme, self.frame()
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.setPen(QPen(t.color("line"), th.HAIR))
        p.drawRect(f)
        zero = self.at(0, 0)
        p.drawLine(QPointF(zero.x(), f.top()), QPointF(zero.x(), f.bottom()))
        p.drawLine(QPointF(f.left(), zero.y()), QPointF(f.right(), zero.y()))
        small = th.font(th.SMALL)
        for v in np.arange(np.ceil(LOW / 0.5), np.floor(HIGH / 0.5) + 1) * 0.5:
            at = self.at(float(v), float(v))
            words(p, tr("{v:g}", v=v), small, t.color("muted"), at.x() - 8, f.bottom() + 16)
            words(p, tr("{v:g}", v=v), small, t.color("muted"), f.left() - 8, at.y() + 4, right=True)
        draw(p, symbol_runs("x", 1, t.color("ink"), 11), f.right() + 10, f.bottom() + 16)
        draw(p, symbol_runs("x", 2, t.color("ink"), 11), f.left() - 34, f.top() + 6)


def along_sum(axis: Array, values: Array, x: Array, total: float) -> Array:
    """Values of the map at x_1 = x and x_2 = total - x, linear between the points of the grid.

    >>> along_sum(np.array([0.0, 1.0]), np.array([[0.0, 1.0], [2.0, 3.0]]), np.array([0.25]), 1.0).tolist()
    [1.75]
    """
    at = (np.vstack((total - x, x)) - axis[0]) / (axis[1] - axis[0])
    low = np.clip(np.floor(at).astype(int), 0, len(axis) - 2)
    (i, k), (u, v) = low, at - low
    rows = [(1 - v) * values[i + n, k] + v * values[i + n, k + 1] for n in (0, 1)]
    return (1 - u) * rows[0] + u * rows[1]


def create_lens(bench: Bench) -> ShiftLens:
    """The lens of a Bench."""
    return ShiftLens(bench.session, bench.theme, bench)

"""The Set lens: a whole set in true form on the Bench, all planets in phase on their carrier, its quantities as
tags."""

from __future__ import annotations

from math import cos, degrees, hypot, radians, sin
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QTransform, QWheelEvent
from PySide6.QtWidgets import QLabel, QPushButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.lenses.drawing import MARGINS
from cooper.desk.lenses.lens import Lens
from cooper.desk.lenses.set_marks import paint_envelope, paint_gap, paint_meshes, paint_uneven
from cooper.desk.lenses.train_painter import Look, TrainPainter
from cooper.desk.widgets.labels import Label, text_button
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.tag import HEIGHT, Tag
from cooper.editing.make_sets import set_number
from cooper.editing.set_fields import Part, set_parts
from cooper.gears.phase import contact_positions
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.pose import Placed, Pose, mesh_frames
from cooper.results.result_tree import Results, SetResults

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench


EDGE, GAP, CAPTION = 20, 6, 20
LEADERS = {"sun": 185.0, "ring": 25.0, "ring 2": -25.0, "first gear": 150.0, "last gear": 30.0}
"""Direction in which a leader meets the tip circle of a gear; degrees. Planets take theirs from where they stand."""


class SetLens(Lens):
    """The set of the selected stage. Dragging turns it, the wheel zooms to the pointer, F shows all, arrows turn it."""

    VERBS = (
        (tr("Show the whole set"), "F", Qt.Key.Key_F),
        (tr("Zoom in"), "+", Qt.Key.Key_Plus),
        (tr("Zoom out"), "-", Qt.Key.Key_Minus),
        (tr("Turn on"), tr("Left"), Qt.Key.Key_Left),
    )
    """What its keys do, in words."""

    more_wanted = Signal(int, int)

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.setObjectName("set_lens")
        self.setAccessibleName(translate(tr("Drawing of the set")))
        self.setAccessibleDescription(translate(tr("Left and Right turn the set, plus and minus zoom, F shows all")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.turn, self.show_ghost = 0.0, True
        self.view: tuple[float, QPointF] | None = None
        self.parts: list[Part] = []
        self.tags: list[list[Tag]] = []
        self.captions: list[QLabel] = []
        self.doors: list[QPushButton] = []
        self._painters: dict[str, tuple[Results, TrainPainter]] = {}
        self._grabbed: tuple[bool, QPointF] | None = None

    # -- what it shows

    @property
    def number(self) -> int | None:
        """Number of the set of the selected stage."""
        return set_number(self.session.design, self.session.stage)

    @property
    def shown(self) -> SetResults:
        n = self.number
        assert n is not None
        return self.session.results.sets[n]

    def refresh(self) -> None:
        """Tags for the present set; those of another set go."""
        n = self.number
        parts = [] if n is None else set_parts(self.session.design, n)
        if [(p.name, [f.full_key for f in p.fields]) for p in parts] != [
            (p.name, [f.full_key for f in p.fields]) for p in self.parts
        ]:
            for widget in (*(t for group in self.tags for t in group), *self.captions, *self.doors):
                drop(widget)
            self.tags = [[self._tag(p, f) for f in p.fields] for p in parts]
            self.captions = [self._caption(p) for p in parts]
            self.doors = [self._door(p) for p in parts]
            self.view = None
            for a, b in zip(
                chain := [w for tags, door in zip(self.tags, self.doors, strict=True) for w in (*tags, door)],
                chain[1:],
                strict=False,
            ):
                QWidget.setTabOrder(a, b)
        else:
            for part, tags in zip(parts, self.tags, strict=True):
                for field, tag in zip(part.fields, tags, strict=True):
                    tag.refresh(field)
        self.parts = parts
        self._arrange()
        self.update()

    def _tag(self, part: Part, field: object) -> Tag:
        tag = Tag(self.session, field, self.theme, self)  # type: ignore[arg-type]
        tag.setObjectName(f"set_{part.name.replace(' ', '_').replace(',', '')}_{tag.field.symbol}")
        tag.focused.connect(lambda _key: self.update())
        tag.show()
        return tag

    def _caption(self, part: Part) -> QLabel:
        label = Label(part.name, self)
        th.set_text_role(label, "muted", th.SMALL)
        label.adjustSize()
        label.show()
        return label

    def _door(self, part: Part) -> QPushButton:
        """All data of the part: of a gear its sheet, of the set the sheet of shafts and counts."""
        button = text_button(tr("more …"), self)
        button.setObjectName(f"set_more_{part.name.replace(' ', '_').replace(',', '')}")
        button.setAccessibleName(translate(tr("All data of {name}", name=part.name)))
        button.setProperty("chip", True)
        where = part.gear or (-1, 0)
        button.clicked.connect(lambda _on=False: self.more_wanted.emit(*where))
        button.adjustSize()
        button.show()
        return button

    def apply_theme(self, theme: th.Theme) -> None:
        super().apply_theme(theme)
        for tag in (t for group in self.tags for t in group):
            tag.theme = theme
        self._painters.clear()

    def _arrange(self) -> None:
        """The set's own tags above; its gears left and right by turns, the ring's and the last gear's right."""
        if not self.parts:
            return
        x = round(MARGINS[0])
        on_lines = {t for t, _a, _b in self.distances()}
        own = [*(t for t in self.tags[0] if t not in on_lines), self.doors[0]]
        width = sum(w.width() + GAP for w in own)
        x, y = max(EDGE, round((self.width() - width) / 2)), 46
        for w in own:
            if x + w.width() > self.width() - 8:
                x, y = EDGE, y + HEIGHT + GAP
            w.move(x, y + (HEIGHT - w.height()) // 2)
            x += w.width() + GAP
        self.captions[0].hide()
        self._on_lines()
        right_of = {"ring", "ring 2", tr("last gear")}
        # Planets stand at the left above the sun, so that its leader finds its way between them.
        sides: dict[bool, list[int]] = {False: [], True: []}
        for n, part in enumerate(self.parts[1:], 1):
            sides[part.name in right_of].append(n)
        sides[False].sort(key=lambda n: self.parts[n].name == "sun")
        top = y + HEIGHT + 16
        room = self.height() - top - 8
        for right, ns in sides.items():
            self._hide_last(ns, room)
            height = sum(self._height(n) for n in ns)
            y = max(top, round((self.height() + 40 - height) / 2))
            for n in ns:
                self._column(n, y, right)
                y += self._height(n)

    def _height(self, n: int) -> int:
        return CAPTION + sum(not t.isHidden() for t in self.tags[n]) * (HEIGHT + GAP) + 26

    def _hide_last(self, ns: list[int], room: int) -> None:
        """In a low window the gears' last tags give way, to be found on their sheets."""
        for count in (9, 4, 3, 2):
            for n in ns:
                for k, tag in enumerate(self.tags[n]):
                    tag.setVisible(k < count)
            if sum(self._height(n) for n in ns) <= room:
                return

    def distances(self) -> list[tuple[Tag, float, float]]:
        """Of an idler's set the tags of the centre distances and between which axes (x, mm) each stands; they are
        put on their dimension lines."""
        if not self.parts or self.number is None or self.shown.arranged.around:
            return []
        stages = self.session.results.part(self.shown).stages
        ends, x = [], 0.0
        for s in stages:
            ends.append((x, x + s.wheel_x))
            x += s.wheel_x
        tags = [t for t in self.tags[0] if t.field.symbol == "a_w"]
        return [(t, a, b) for t, (a, b) in zip(tags, ends, strict=True)]

    def _dimension_y(self) -> float:
        scale, origin = self.look()
        radius = max(g.d_a for s in self.session.results.part(self.shown).stages for g in s.gears) / 2
        return min(origin.y() + scale * radius + 34, self.height() - 26.0)

    def _on_lines(self) -> None:
        """Put the tags of centre distances onto their dimension lines."""
        for tag, a, b in self.distances():
            scale, origin = self.look()
            tag.move(round(origin.x() + scale * (a + b) / 2 - tag.width() / 2), round(self._dimension_y() - HEIGHT / 2))

    def _dimensions(self, p: QPainter, to_screen: QTransform) -> None:
        y = self._dimension_y() if self.distances() else 0.0
        p.setPen(QPen(self.theme.color("muted"), th.HAIR))
        for _tag, a, b in self.distances():
            ends = [to_screen.map(QPointF(x, 0)) for x in (a, b)]
            p.drawLine(QPointF(ends[0].x(), y), QPointF(ends[1].x(), y))
            for e in ends:
                p.drawLine(e, QPointF(e.x(), y + 6))

    def _column(self, n: int, y: int, right: bool) -> None:
        def place(w: QWidget, y: int) -> None:
            w.move(self.width() - EDGE - w.width() if right else EDGE, y)

        place(self.captions[n], y)
        y += CAPTION
        for tag in self.tags[n]:
            if not tag.isHidden():
                place(tag, y)
                y += HEIGHT + GAP
        self.doors[n].move(self.width() - EDGE - self.doors[n].width() + 4 if right else EDGE - 4, y - 4)

    def resizeEvent(self, event: object) -> None:
        self._arrange()

    # -- picture

    def painter_of(self, results: Results, one: SetResults, which: str) -> TrainPainter:
        """The painter of a set, kept while its results stand."""
        kept = self._painters.get(which)
        if kept is None or kept[0] is not results:
            kept = (results, TrainPainter(results.part(one), self.theme))
            self._painters[which] = kept
        return kept[1]

    def look(self) -> tuple[float, QPointF]:
        """Pixels per mm, and where the middle of the first shaft stands."""
        if self.view is not None:
            return self.view
        low, high, up = self.painter_of(self.session.results, self.shown, "now").extent
        left, _top, right, bottom = MARGINS
        room = QRectF(left, 92, self.width() - left - right, self.height() - 92 - bottom + 30)
        scale = min(room.width() / (high - low), room.height() / (2 * up))
        return scale, QPointF(room.center().x() - scale * (low + high) / 2, room.center().y())

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), self.theme.color("paper"))
        if self.number is None:
            return
        session = self.session
        scale, origin = self.look()
        painter = self.painter_of(session.results, self.shown, "now")
        at = painter.at(self.turn)
        p.save()
        p.translate(origin)
        p.scale(scale, -scale)
        painter.gears(p, at, scale, Look(paths=False), self._selected())
        self._ghost(p, scale)
        p.restore()
        to_screen = QTransform().translate(origin.x(), origin.y()).scale(scale, -scale)
        paint_meshes(self, p, painter, at, to_screen)
        paint_envelope(self, p, at, to_screen)
        paint_gap(self, p, at, to_screen)
        paint_uneven(self, p, at, to_screen)
        self._dimensions(p, to_screen)
        self._leaders(p, at, to_screen)

    def _selected(self) -> int:
        return self.session.stage - self.shown.first

    def _ghost(self, p: QPainter, scale: float) -> None:
        """The same set in the state before, or as it was laid there, as outlines."""
        before, n = self.session.ghost, self.number
        if before is None or n is None or not self.show_ghost or n >= len(before.sets):
            return
        old, now = before.sets[n], self.shown
        if old.kind != now.kind:
            return
        painter = self.painter_of(before, old, "before")
        present = self._forms(self.painter_of(self.session.results, now, "now"))
        pen = QPen(self.theme.color("copper", 0.65), 1.0)
        pen.setCosmetic(True)
        p.setPen(pen)
        p.setBrush(Qt.BrushStyle.NoBrush)
        for g, form in zip(painter.at(self.turn).gears, self._forms(painter), strict=True):
            if form in present:
                continue
            p.save()
            p.translate(g.x, g.y)
            p.rotate(degrees(g.angle))
            p.drawPath(painter.path(g, scale))
            p.restore()

    def _forms(self, painter: TrainPainter) -> list[tuple[float, ...]]:
        """Every gear's place and shape, by which a gear that stays as it was is known."""
        result = []
        for g in painter.at(self.turn).gears:
            values = painter.results.stages[g.stage].gears[g.i]
            shape = (values[s] for s in ("z", "d", "d_a", "d_f", "x"))
            result.append(tuple(round(v, 6) for v in (g.x, g.y, g.angle, values.get("d_rim", values.d_bore), *shape)))
        return result

    def contacts(self, at: Pose) -> list[tuple[int, float, float]]:
        """Points at which teeth touch now, with the stage within the set; mm."""
        results = self.session.results.part(self.shown)
        result = []
        for f in mesh_frames(results, at):
            stage, tooth = results.stages[f.stage], results.stages[f.stage].teeth[0]
            m, side = stage.mesh, self._side(f.stage)
            half = float(tooth.s_t() / tooth.d + tooth.inv_t)
            r_b = stage.gears[0].d_b / 2
            for g in contact_positions(
                f.roll, int(stage.gears[0].z), r_b, half, radians(m.alpha_wt), (m.g_A, m.g_E), side
            ):
                x, y = stage.action_point(float(g), side)
                c, s = cos(f.angle), sin(f.angle)
                result.append((f.stage, f.x + c * x - s * y, f.y + s * x + c * y))
        return result

    def _side(self, k: int) -> int:
        return 1 if self.session.turns_left(self.shown.first + k) else -1

    def _leaders(self, p: QPainter, at: Pose, to_screen: QTransform) -> None:
        """From the first tag of every gear to the gear's tip circle."""
        for part, tags in zip(self.parts[1:], self.tags[1:], strict=True):
            assert part.gear is not None
            k, i = part.gear[0] - self.shown.first, part.gear[1] - 1
            result = [g for g in at.gears if (g.stage, g.i) == (k, i)] or [g for g in at.gears if g.planet is not None]
            if not tags or not result:
                continue
            box = tags[0].geometry()
            left = box.center().x() < self.width() / 2
            start = QPointF(box.right() + 1 if left else box.left() - 1, box.center().y())
            ends = [to_screen.map(self._on_tip(g, part.name, left)) for g in result]
            point = min(ends, key=lambda e: hypot(e.x() - start.x(), e.y() - start.y()))
            if not QRectF(self.rect()).adjusted(120, 80, -120, -20).contains(point):
                continue
            p.setPen(QPen(self.theme.color("copper" if tags[0].hasFocus() else "faint"), th.HAIR))
            p.drawLine(start, point)
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(self.theme.color("muted"))
            p.drawEllipse(point, 2, 2)

    def _on_tip(self, g: Placed, name: str, left: bool) -> QPointF:
        stage = self.session.results.stages[self.shown.first + g.stage]
        values = stage.gears[g.i]
        r = (stage.kinds[g.i].outside(values) + values.d_a) / 4
        angle = radians(LEADERS.get(name, 160.0 if left else 20.0))
        return QPointF(g.x + r * cos(angle), g.y + r * sin(angle))

    # -- hands

    def fit(self) -> None:
        """Show the set whole."""
        self._see(None)

    def _see(self, view: tuple[float, QPointF] | None) -> None:
        self.view = view
        self._on_lines()
        self.update()

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Zoom about a place of the lens (its middle by default)."""
        scale, origin = self.look()
        place = at if at is not None else QPointF(self.rect().center())
        size = self.shown.values.envelope
        new = min(max(scale * factor, 60 / size), 4000 / self.stage.mesh.m_n)
        self._see((new, place + (origin - place) * (new / scale)))

    def set_turn(self, turn: float) -> None:
        """Turn the set's input to an angle; rad."""
        self.turn = turn
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        if steps := event.angleDelta().y() / 120:
            self.zoom(1.25**steps, event.position())
        event.accept()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        moves = event.button() == Qt.MouseButton.MiddleButton or bool(
            event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        )
        self._grabbed = (moves, event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grabbed is None:
            return
        moves, last = self._grabbed
        now = event.position()
        self._grabbed = (moves, now)
        scale, origin = self.look()
        if moves:
            self._see((scale, origin + now - last))
            return
        # About the shaft that is driven, as if its rim were pushed.
        a, b = last - origin, now - origin
        arm = max(hypot(a.x(), a.y()), 20.0)
        self.set_turn(self.turn - (a.x() * b.y() - a.y() * b.x()) / arm**2)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._grabbed = None

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.fit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        small = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.set_turn(self.turn + (1 if key == Qt.Key.Key_Left else -1) * (0.002 if small else 0.02))
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(1.25)
        elif key == Qt.Key.Key_Minus:
            self.zoom(0.8)
        elif key == Qt.Key.Key_F and not event.modifiers():
            self.fit()
        else:
            event.ignore()


def create_lens(bench: Bench) -> SetLens:
    """The lens of a Bench."""
    lens = SetLens(bench.session, bench.theme, bench)
    lens.more_wanted.connect(bench.more_of_set)
    lens.show_ghost = bench.drawing.show_ghost
    lens.refresh()
    return lens

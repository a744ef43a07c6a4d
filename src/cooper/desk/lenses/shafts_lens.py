"""The Shafts lens: each shaft in axial section with everything on it, its dimensions as tags, diagrams on the same
axis; and the whole machine."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QPushButton, QWidget
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.desk.lenses.face_drag import FaceDrag
from cooper.desk.lenses.face_plot import face_plots
from cooper.desk.lenses.face_row import FaceRow
from cooper.desk.lenses.lens import Lens
from cooper.desk.lenses.piece_bar import PieceBar
from cooper.desk.lenses.piece_menu import open_piece_menu
from cooper.desk.lenses.shaft_diagrams import shaft_plots
from cooper.desk.lenses.shaft_drawing import View, extent_of
from cooper.desk.lenses.shafts_fields import RING_PIECES, fields_of
from cooper.desk.lenses.shafts_painting import paint_lens
from cooper.desk.lenses.shafts_places import ARROWS, FACE, TOP, WHOLE, arrange, drawing_room, make_chips, mark_chip
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.tag import Tag
from cooper.document.models import Design
from cooper.editing.fields import Field
from cooper.editing.machine_edits import (
    count_machine,
    cut_piece,
    drag_step,
    in_machine,
    join_piece,
    propose_anew,
    set_bearing,
    take_bearing,
)
from cooper.errors import message_of
from cooper.exchange.plots import Plot
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.machine.shaft_beam import piece_of
from cooper.results.find_machine import cached_machine, keep_machine
from cooper.results.machine_result import MachineResult, ShaftResult
from cooper.results.result_tree import Results

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench


class ShaftsLens(Lens):
    """Click selects a piece, dragging changes its diameter, dragging a face its length, arrows go from piece to
    piece and step it, S cuts it, J joins its parts, R turns the machine the other way."""

    VERBS = (
        (tr("Cut the selected piece"), "S", Qt.Key.Key_S),
        (tr("Join its parts"), "J", Qt.Key.Key_J),
        (tr("Set a bearing on it"), "B", Qt.Key.Key_B),
        (tr("Take its bearing away"), "Del", Qt.Key.Key_Delete),
        (tr("Turn the machine the other way"), "R", Qt.Key.Key_R),
        (tr("The next piece"), tr("Right"), Qt.Key.Key_Right),
        (tr("The piece before"), tr("Left"), Qt.Key.Key_Left),
    )
    """What its keys do, in words."""

    list_wanted = Signal()
    """All bearings that fit the selected place are asked for."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.setObjectName("shafts_lens")
        self.setAccessibleName(translate(tr("Shafts of the machine")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.key, self.piece, self.case = "", "", 0
        self.cursor_at: float | None = None
        self.dragged: tuple[str, float] | None = None
        self.moving = FaceDrag(session)
        self.fault = ""
        self._asked: object = None
        self._task: Task | None = None
        self._made: tuple[object, ...] = ()
        self.chips: list[QPushButton] = []
        self.tags: dict[str, Tag] = {}
        self.bar = PieceBar(session, theme, self)
        self.bar.list_wanted.connect(self.list_wanted.emit)
        self.count = QPushButton(self)
        self.count.setObjectName("count_machine")
        self.count.setProperty("chip", True)
        self.count.clicked.connect(self._count)
        self.face = FaceRow(session, self, self.machine)
        session.stage_selected.connect(self._follow_stage)
        self.refresh()

    # -- what it shows

    def machine(self) -> MachineResult | None:
        """The machine; asked for beside the window where it is not known yet."""
        train, results = self.session.design.train, self.session.results
        found = cached_machine(train, results)
        if found is None and self._asked is not train:
            self._asked = train
            if self._task is not None:
                self._task.give_up()

            def take(one: MachineResult) -> None:
                keep_machine(train, one)

            def done(fault: Exception | None) -> None:
                self.fault = "" if fault is None else message_of(fault)
                if isValid(self):
                    self.refresh()

            self._task = submit("cooper.results.find_machine:each_machine", train, results, take=take, done=done)
        return found

    @property
    def shaft(self) -> ShaftResult | None:
        result = self.machine()
        return None if result is None or self.key in (WHOLE, FACE) else result.shaft(self.key)

    def _follow_stage(self, _k: int) -> None:
        result = cached_machine(self.session.design.train, self.session.results)
        if result is None:
            return
        if self.key in (WHOLE, FACE):
            self.refresh()
            return
        now = result.shaft(self.key)
        if now is None or now.stage != self.session.stage:
            self.key = result.shafts_of(self.session.stage)[0].key
            self.piece = ""
        self.refresh()

    def refresh(self) -> None:
        """Chips and tags for the present machine."""
        # A face belongs to the shaft as it was.
        self.moving.face = None
        if not self.isVisible() and self._made:
            self._made = ("stale",)
            return
        result = self.machine()
        if result is not None and self.key not in (WHOLE, FACE) and result.shaft(self.key) is None:
            self.key, self.piece = result.shafts_of(self.session.stage)[0].key, ""
        names = () if result is None else tuple((s.key, s.name) for s in result.shafts)
        shaft = self.shaft
        fields = fields_of(self, result, shaft)
        made = (names, self.key, tuple(fields), self.theme.name)
        if made != self._made:
            self._made = made
            make_chips(self, names)
            self._make_tags(fields)
        else:
            for key, field in fields.items():
                self.tags[key].refresh(field)
        self.bar.show_piece(shaft, self.piece)
        self.bar.setVisible(shaft is not None)
        self.describe()
        self.face.show_row(self.key == FACE)
        counted = self.session.design.train.machine is not None and self.session.design.train.machine.counted
        self.count.setText(translate(tr("counts in Margins ✓") if counted else tr("count in Margins")))
        self.count.setAccessibleDescription(translate(tr("counted") if counted else tr("not counted")))
        self.count.adjustSize()
        mark_chip(self)
        arrange(self)
        self.update()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def _make_tags(self, fields: dict[str, Field]) -> None:
        for tag in self.tags.values():
            drop(tag)
        self.tags = {}
        for key, field in fields.items():
            tag = Tag(self.session, field, self.theme, self)
            tag.setObjectName(f"tag_{key.replace(' ', '_')}")
            tag.focused.connect(self._tag_focused)
            tag.show()
            self.tags[key] = tag

    def _tag_focused(self, key: str) -> None:
        shaft = self.shaft
        if key and shaft is not None:
            name = key.removeprefix(f"{shaft.key} ")[:-2]
            if any(p.name == name for p in shaft.made.pieces):
                self.select(name)
        self.update()

    # -- acting

    def choose(self, key: str) -> None:
        """Show a shaft, or the whole machine."""
        self.key, self.piece = key, ""
        result = self.machine()
        shaft = None if result is None else result.shaft(key)
        if shaft is not None and shaft.stage != self.session.stage:
            self.session.select_stage(shaft.stage)
        self.refresh()

    def show_part(self, part: str) -> None:
        """Show the shaft and the piece that a check's part names; the whole machine for what is no part of a shaft."""
        result = self.machine()
        shafts = () if result is None else result.shafts
        here = [s for s in shafts if part == s.key or part.startswith(f"{s.key} ")]
        if not here:
            self.choose(WHOLE)
            return
        shaft = max(here, key=lambda s: len(s.key))
        self.choose(shaft.key)
        rest = part.removeprefix(shaft.key).strip()
        names = [p.name for p in shaft.made.pieces]
        at, _ = shaft.checked.place(shaft.checked.S_D)
        fallback = piece_of(shaft.made.pieces, at).name
        self.select(next((n for n in (rest, tr("seat {rest}", rest=rest)) if n in names), fallback))

    def why_top(self) -> int:
        """From where on the steps behind a check may cover what is drawn: the diagrams, not the shaft."""
        return round(self.bar.geometry().bottom()) + 6 if self.shaft is not None else TOP

    def select(self, name: str) -> None:
        self.piece = name
        self.bar.show_piece(self.shaft, name)
        self.update()

    def _count(self) -> None:
        machine = self.session.design.train.machine
        counted = machine is not None and machine.counted

        def change(d: Design, _r: Results) -> Design:
            return count_machine(d, not counted)

        self.session.edit(change, tr("machine not counted") if counted else tr("machine counted"), "count_machine")

    def _grown(self, name: str, d: float) -> None:
        shaft = self.shaft
        if shaft is None:
            return
        path = ("shafts", shaft.key, "pieces", name, "d")

        def change(design: Design, _r: Results) -> Design:
            return in_machine(design, (path, d))

        self.session.edit(
            change,
            tr("{name}, {name_2} d {d:g} mm", name=shaft.name, name_2=name, d=d),
            tr("drag {key} {name}", key=shaft.key, name=name),
        )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        shaft, key = self.shaft, event.key()
        if key == Qt.Key.Key_Escape and self.moving.face is not None:
            self.moving.face = None
            self.update()
            return
        if key == Qt.Key.Key_S and shaft is not None:
            self.cut()
            return
        if key == Qt.Key.Key_J and shaft is not None and self.piece:
            self.join()
            return
        if key == Qt.Key.Key_B and shaft is not None:
            self.set_bearing()
            return
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and shaft is not None and self.piece:
            self.take_bearing()
            return
        if key == Qt.Key.Key_R:
            self.case = 1 - self.case
            self.update()
            return
        if shaft is None or key not in (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down):
            if key == Qt.Key.Key_Escape and self.piece:
                self.select("")
                return
            event.ignore()
            return
        names = [p.name for p in shaft.made.pieces]
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            step = 1 if key == Qt.Key.Key_Right else -1
            n = names.index(self.piece) + step if self.piece in names else (0 if step > 0 else len(names) - 1)
            self.select(names[min(max(n, 0), len(names) - 1)])
            return
        tag = self.tags.get(f"{shaft.key} {self.piece} d")
        if tag is not None:
            tag.step(1 if key == Qt.Key.Key_Up else -1, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))

    def _place(self, shaft: ShaftResult) -> float | None:
        """Where the pointer is along the shaft, else the middle of the selected piece; None where neither is."""
        middle = next((p.at for p in shaft.made.pieces if p.name == self.piece), None)
        return middle if self.cursor_at is None else self.cursor_at

    def cut(self, at: float | None = None) -> None:
        """Cut the shaft where the pointer is, or the selected piece in its middle."""
        shaft = self.shaft
        if shaft is None:
            return
        if at is None:
            at = self._place(shaft)
        if at is not None:
            self.session.edit(
                lambda d, _r: cut_piece(d, shaft.key, shaft.made, at), tr("{name} cut", name=shaft.name), "cut"
            )

    def set_bearing(self, at: float | None = None) -> None:
        """Set one more bearing where the pointer is, or in the middle of the selected piece."""
        shaft = self.shaft
        if shaft is None:
            return
        place = self._place(shaft) if at is None else at
        if place is not None:
            self.session.edit(
                lambda d, _r: set_bearing(d, shaft.key, shaft.made, place),
                tr("bearing on the {name}", name=shaft.name),
                "set_bearing",
            )

    def take_bearing(self) -> None:
        """Take the selected bearing away, if it was set by hand."""
        shaft, name = self.shaft, self.piece
        if shaft is not None and name.startswith("bearing ") and name not in ("bearing 1", "bearing 2"):
            self.piece = ""
            self.session.edit(
                lambda d, _r: take_bearing(d, shaft.key, name), tr("{name} taken away", name=name), "take_bearing"
            )

    def join(self) -> None:
        """Take the cuts of the selected piece away."""
        shaft, name = self.shaft, self.piece
        if shaft is not None and name:
            self.piece = name.partition(", part ")[0]
            self.session.edit(
                lambda d, _r: join_piece(d, shaft.key, name), tr("{piece} whole again", piece=self.piece), "join"
            )

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        open_piece_menu(self, event)

    def anew(self, key: str) -> None:
        """Let go all that is fixed of a shaft."""
        self.session.edit(lambda d, _r: propose_anew(d, key), tr("shaft proposed anew"), "propose_anew")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        shaft, view = self.shaft, self._view()
        if shaft is None or view is None or event.button() != Qt.MouseButton.LeftButton:
            return
        face = self.moving.over(shaft, view, event.position())
        if face is not None:
            self.moving.take(face)
            self.update()
            return
        z = view.z(event.position().x())
        over = [p for p in shaft.made.pieces if p.start <= z <= p.end]
        if over and self._drawing().contains(event.position()):
            self.select(over[0].name)
            fixed = over[0].holds and over[0].kind in RING_PIECES
            if not fixed and abs(event.position().y() - view.y) <= view.scale * over[0].d / 2 + 6:
                self.dragged = (over[0].name, over[0].d)
        else:
            self.select("")

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        shaft, view = self.shaft, self._view()
        if shaft is None or view is None:
            return
        z = view.z(event.position().x())
        self.cursor_at = z if shaft.made.start <= z <= shaft.made.end else None
        result = self.machine()
        if self.moving.face is not None and result is not None:
            self.moving.to(result, shaft, view, z)
        elif self.dragged is None and self.moving.over(shaft, view, event.position()) is not None:
            self.setCursor(Qt.CursorShape.SplitHCursor)
        else:
            self.unsetCursor()
        if self.dragged is not None:
            piece = shaft.made.piece(self.dragged[0])
            d = 2 * abs(event.position().y() - view.y) / view.scale
            self.dragged = (piece.name, drag_step(shaft.made, piece, d))
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        shaft = self.shaft
        dragged, self.dragged = self.dragged, None
        if shaft is not None:
            self.moving.leave(shaft)
        self.moving.face = None
        if shaft is not None and dragged is not None and shaft.made.piece(dragged[0]).d != dragged[1]:
            self._grown(*dragged)

    def leaveEvent(self, event: object) -> None:
        self.cursor_at = None
        self.update()

    # -- where things stand

    def _drawing(self) -> QRectF:
        """The room of the shaft's drawing."""
        return drawing_room(self)

    def plots(self) -> list[Plot]:
        """The diagrams of the shaft in view, or of the load along the face."""
        if self.key == FACE:
            load = self.face.load()
            return face_plots(load) if load is not None else []
        return shaft_plots(self.shaft.checked, self.case) if self.shaft is not None else []

    def _diagrams(self) -> QRectF:
        top = self.bar.geometry().bottom() + 10
        return QRectF(12, top, self.width() - 24, self.height() - top - 6)

    def _view(self) -> View | None:
        shaft = self.shaft
        if shaft is None:
            return None
        start, end, reach = extent_of(shaft)
        room = self._drawing()
        scale = min(room.width() / (end - start), (room.height() - 2 * ARROWS) / (2 * reach))
        x0 = room.left() + (room.width() - scale * (end - start)) / 2
        return View(scale, x0, start, room.center().y())

    def resizeEvent(self, event: object) -> None:
        arrange(self)

    def apply_theme(self, theme: th.Theme) -> None:
        super().apply_theme(theme)
        self.bar.theme = theme
        self.refresh()

    # -- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        paint_lens(self, QPainter(self))


def create_lens(bench: Bench) -> ShaftsLens:
    """The lens of a Bench."""
    lens = ShaftsLens(bench.session, bench.theme, bench)
    lens.list_wanted.connect(lambda: bench.sheet_wanted.emit(tr("bearings")))
    return lens

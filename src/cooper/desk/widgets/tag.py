"""A tag: one quantity on the drawing or in a sheet, edited in place."""

from __future__ import annotations

from functools import cached_property, partial

from msgspec.structs import replace
from PySide6.QtCore import QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QFocusEvent,
    QGuiApplication,
    QHideEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QLabel, QLineEdit, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.slices import Slices
from cooper.desk.base.state import Outcome
from cooper.desk.widgets.cached_picture import CachedPicture
from cooper.desk.widgets.fault_card import FaultCard
from cooper.desk.widgets.labels import plain_tip
from cooper.desk.widgets.tag_editor import TagEditor
from cooper.desk.widgets.tag_marks import paint_marks
from cooper.desk.widgets.tag_menu import open_tag_menu
from cooper.desk.widgets.tag_range import refuse, tell_range
from cooper.desk.widgets.typeset import Run, draw, symbol_runs, value_runs, width
from cooper.document.models import Design
from cooper.document.quantities import plain
from cooper.document.units import KINDS, number, number_with_unit, parse, screen_unit
from cooper.editing.fields import Field
from cooper.editing.formulas import with_formula
from cooper.editing.ranges import Range
from cooper.errors import OutOfRange
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import Note

HEIGHT = 26
HINT_MS = 500
"""When an open tag tells its range, and how finely it looks for the ends."""


class Tag(QWidget):
    """Shows a field of the session's design; click, Enter or a digit opens it, arrows step it, G swaps its partner."""

    editing = Signal(bool)
    focused = Signal(str)

    def __init__(self, session: Session, field: Field, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.field, self.theme = session, field, theme
        self.setObjectName(f"tag_{field.key}")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFixedHeight(HEIGHT)
        self.editor: QLineEdit | None = None
        self.fault: FaultCard | None = None
        self.hint: QLabel | None = None
        self._opened_on: Design | None = None
        self.hovered = False
        self.changed_now = False
        # On a sheet: whether it is as usual (None where none is), and the verdict of what it decides.
        self.usual: bool | None = None
        self.decides = ""
        self._seen: tuple[str, ...] = ()
        self._picture = CachedPicture()
        self._kept_runs: dict[object, list[Run]] = {}
        # The last range that was looked for holds while the design stands.
        self._kept_range: tuple[object, Range] = (None, (0.0, 0.0))
        self.refresh()

    # -- reading

    def value(self) -> float | None:
        return self.field.read(self.session.design, self.session.results)

    def is_solved(self) -> bool:
        return self.field.solved(self.session.design, self.session.results)

    def text(self) -> str:
        return self._written(self.value())

    def _written(self, value: float | None) -> str:
        return term(self.field.empty) if value is None else number(value, self.field.kind, self.session.system)

    def warning(self) -> Note | None:
        """The first warning that concerns this quantity."""
        for n in self.session.results.warnings():
            here = (
                not self.field.place
                or n.stage is None
                or self.field.place == f"{self.session.design.train.stages[n.stage].id}."
            )
            if self.field.key in n.fields and here:
                return n
        return None

    def unit(self) -> str:
        return self.field.scale or screen_unit(KINDS[self.field.kind].display_unit(self.session.system))

    def refresh(self, field: Field | None = None) -> None:
        """Read the session again; ``field`` replaces the field where another quantity has taken its place."""
        if field is not None:
            self.field = field
        now, solved = self.value(), self.is_solved()
        state = tr("solved") if solved else tr("given")
        formula = self.formula()
        state = tr("by formula = {formula}", formula=formula) if formula else state
        warned = self.warning()
        text = "" if warned is None else warned.text
        seen = (self.field.key, self._written(now), self.unit(), state, text)
        if seen != self._seen:
            self._seen = seen
            self._kept_runs.clear()
            self.setAccessibleName(translate(tr("{meaning} {name}", meaning=self.field.meaning, name=self.field.name)))
            self.setAccessibleDescription(
                translate(
                    tr(
                        "{seen} {seen_2}, {state}{told}",
                        seen=seen[1],
                        seen_2=seen[2],
                        state=state,
                        told=tr("; warning: {told}", told=text) if text else "",
                    )
                )
            )
            hint = tr("{meaning}: {state}", meaning=self.field.meaning, state=state)
            if self.field.swap is not None:
                hint += (
                    tr("; G gives it and solves {partner}", partner=self.field.partner)
                    if solved
                    else tr("; G lets it be solved")
                )
            if self.field.clear is not None:
                hint += tr('; type "{empty}" to leave it open', empty=self.field.empty)
            plain_tip(self, tr("{hint}\n{told}", hint=hint, told=text) if text else hint)
            self.setFixedWidth(self.sizeHint().width())
        before = self.session.before
        self.changed_now = False
        if before is not None:
            try:
                old = self.field.read(before.design, before.results)
            except (AttributeError, LookupError):
                old = None
            self.changed_now = old is not None and now is not None and abs(old - now) > 1e-12 * max(1, abs(now))
        self.update()

    def mark(self, usual: bool | None, decides: str) -> None:
        """On a sheet: quiet where it is as usual, marked where it decides a check that is short or thin."""
        if (usual, decides) == (self.usual, self.decides):
            return
        self.usual, self.decides = usual, decides
        self._kept_runs.clear()
        self.setFixedWidth(self.sizeHint().width())
        text = {"short": tr("it decides a check that is short"), "thin": tr("it decides a check that is thin")}
        self.setStatusTip(translate(text.get(decides, tr("as usual") if usual else "")))
        self.update()

    @cached_property
    def search(self) -> Slices:
        """Looks for a range that works while the window goes on."""
        return Slices(self)

    @cached_property
    def hint_later(self) -> QTimer:
        """Tells the range once the hands rest on an open tag."""
        timer = QTimer(self)
        timer.setSingleShot(True)
        timer.setInterval(HINT_MS)
        timer.timeout.connect(lambda: tell_range(self))
        return timer

    def _runs(self) -> list[Run]:
        """What it shows, kept while it shows the same."""
        key = (self.hasFocus(), self.theme)
        if key not in self._kept_runs:
            self._kept_runs[key] = self._made_runs()
        return self._kept_runs[key]

    def _made_runs(self) -> list[Run]:
        quiet = self.is_solved() or bool(self.usual)
        role = "muted" if quiet else "ink"
        symbol_role = "copper" if self.hasFocus() else "muted"
        runs = symbol_runs(self.field.symbol, self.field.index, self.theme.color(symbol_role))
        if self.formula():
            runs.append(Run(" =", th.font(th.SMALL, bold=True), self.theme.color("copper")))
        unit = "" if self.value() is None else self.unit()
        value = value_runs(self.text(), unit, self.theme, bold=not quiet, role=role)
        value[0] = Run(value[0].text, value[0].font, value[0].color, space=7)
        return runs + value

    def sizeHint(self) -> QSize:
        return QSize(int(width(self._runs())) + 18, HEIGHT)

    # -- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        warned = self.warning()
        marks = (self.usual, self.decides, self.changed_now, warned and warned.counts)
        key = (self._seen, self.theme.name, self.hasFocus(), self.hovered, marks)
        p = QPainter(self)
        self._picture.lay(p, self, key, partial(self._paint, warned))

    def _paint(self, warned: Note | None, p: QPainter) -> None:
        t = self.theme
        box = QRectF(self.rect()).adjusted(0.75, 0.75, -0.75, -0.75)
        hot = self.hasFocus() or self.hovered
        pen = QPen(t.color("copper" if hot else "line"), 1.6 if self.hasFocus() else 1.0)
        if self.is_solved():
            pen.setStyle(Qt.PenStyle.CustomDashLine)
            pen.setDashPattern([3.5, 2.5])
        p.setPen(pen)
        p.setBrush(t.color("paper" if self.is_solved() else "card"))
        p.drawRoundedRect(box, 5, 5)
        paint_marks(p, t, box, warned, self.decides, self.changed_now)
        draw(p, self._runs(), 9, HEIGHT * 0.66)

    def enterEvent(self, event: object) -> None:
        self.hovered = True
        self.update()

    def leaveEvent(self, event: object) -> None:
        self.hovered = False
        self.update()

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.focused.emit(self.field.key)
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.focused.emit("")
        self.update()

    def hideEvent(self, event: QHideEvent) -> None:
        """What is said beside the tag goes with it: its sheet was closed, another lens or page was opened."""
        super().hideEvent(event)
        if event.spontaneous():
            return
        self.close_fault()
        self.close_hint()
        parent = self.parentWidget()
        if parent is not None and parent.isVisible():
            # It goes by itself, not with its page: nothing is left that could be typed into.
            self.close_editor(take=False)

    # -- acting

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.setFocus(Qt.FocusReason.MouseFocusReason)
            self.open()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        open_tag_menu(self, event)

    def explain(self) -> None:
        self.setFocus()
        run = getattr(self.window(), "run", None)
        if run is not None:
            run("explain")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, shift = event.key(), bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.step(1 if key == Qt.Key.Key_Up else -1, fine=shift)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2):
            self.open()
        elif key == Qt.Key.Key_G and not event.modifiers():
            self.swap()
        elif key == Qt.Key.Key_C and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.copy()
        elif key == Qt.Key.Key_Escape:
            self.close_fault()
            event.ignore()
        elif event.text() and (event.text().isdigit() or event.text() in ".-+(="):
            self.open(event.text())
        else:
            super().keyPressEvent(event)

    def copy(self) -> None:
        value = self.value()
        if value is not None:
            QGuiApplication.clipboard().setText(
                translate(number_with_unit(value, self.field.kind, self.session.system))
            )

    def step(self, direction: int, fine: bool = False) -> None:
        """Step along the standard series or by a round step in the document's unit."""
        value = self.value()
        if value is not None:
            self.commit(self.field.stepped(value, direction, fine))

    def swap(self) -> None:
        """Exchange what is given and what is solved."""
        field = self.field
        if field.swap is None:
            return
        word = tr("given") if self.is_solved() else tr("solved")
        label = tr("{name} {word}", name=field.name, word=word)
        self._heard(self.session.attempt(field.swap, label, field.full_key))

    def open(self, start: str = "") -> None:
        """Open the tag for typing."""
        if self.editor is not None:
            return
        self.close_fault()
        editor = TagEditor(self)
        self.editor, self._opened_on = editor, self.session.design
        formula = self.formula()
        editor.setText(translate(start or (f"= {formula}" if formula else "" if self.value() is None else self.text())))
        if not start:
            editor.selectAll()
        editor.show()
        editor.setFocus(Qt.FocusReason.OtherFocusReason)
        self.hint_later.start()
        editor.textEdited.connect(lambda _text: self.hint_later.start())
        self.editing.emit(True)

    def close_hint(self) -> None:
        self.search.stop()
        if self.hint is not None:
            self.hint.hide()
            self.hint.deleteLater()
            self.hint = None

    def close_editor(self, take: bool) -> None:
        """Close the editor; ``take`` tries what was typed first. A refused text stays open with its fault beside it."""
        editor = self.editor
        if editor is None:
            return
        self.hint_later.stop()
        self.close_hint()
        text = editor.text()
        if take and text.strip() and not self._unchanged(text) and not self.commit_text(text):
            return
        self.editor = None
        editor.hide()
        editor.deleteLater()
        self.close_fault()
        self.editing.emit(False)

    def _unchanged(self, text: str) -> bool:
        return text == (f"= {self.formula()}" if self.formula() else self.text())

    def let_go(self) -> None:
        """Close what is open for typing; what can be taken is taken, where the design is still the one that it was
        typed for."""
        self.close_editor(take=self.session.design is self._opened_on)
        self.close_editor(take=False)

    def commit_text(self, text: str) -> bool:
        """Read a text and give the field that value; False when it was refused."""
        name = plain(self.field.symbol, self.field.index)
        field = self.field
        if field.clear is not None and text.strip().lower() in (field.empty, "none"):
            clear = field.clear
            label = tr("{name} {empty}", name=name, empty=field.empty)
            return self._heard(self.session.attempt(lambda d, _r: clear(d), label, field.full_key))
        if text.strip().startswith("="):
            return self._commit_formula(text.strip()[1:].strip(), name)
        other = field.measure(text) if field.measure is not None else None
        if other is not None:
            field, text = replace(other[0], place=field.place), other[1]
        try:
            value = parse(text, field.kind, self.session.system, name)
        except OutOfRange as fault:
            refuse(self, fault)
            return False
        return self.commit(value, field)

    def _commit_formula(self, text: str, name: str) -> bool:
        """Tie the quantity to others; a formula that cannot be read, goes in a circle or gives nonsense is refused."""
        field = self.field
        done = self.session.attempt(
            lambda d, _r: with_formula(d, field.full_key, text), f"{name} = {text}", tr("formula")
        )
        if done.fault is not None:
            self.show_fault(done.fault)
        return bool(done)

    def formula(self) -> str:
        """The formula that gives the quantity, or nothing."""
        return self.session.design.formulas.get(self.field.full_key, "")

    def commit(self, value: float, measure: Field | None = None) -> bool:
        """Give the quantity a value, in another measure where one is named."""
        field = measure or self.field
        shown = number(value, field.kind, self.session.system)
        label = tr("{name} {shown}", name=field.name, shown=shown)
        # A number that is typed or stepped takes the place of a formula.
        return self._heard(
            self.session.attempt(
                lambda d, r: with_formula(field.give(d, r, value), field.full_key, ""), label, field.full_key
            )
        )

    def _heard(self, outcome: Outcome) -> bool:
        """Show why an edit was refused, with the range that works; whether it was taken."""
        if outcome.fault is None:
            self.close_fault()
        else:
            refuse(self, outcome.fault)
        return bool(outcome)

    def show_fault(self, fault: OutOfRange, looking: bool = False) -> None:
        self.close_fault()
        self.close_hint()
        kind, system = self.field.kind, self.session.system

        def shown(value: float) -> str:
            return number_with_unit(value, kind, system, 4 if kind != "count" else 0)

        self.fault = FaultCard(self, self.field.name, fault, shown, self.take_nearest, looking)
        self.fault.place()

    def close_fault(self) -> None:
        self.search.stop()
        if self.fault is not None:
            self.fault.hide()
            self.fault.deleteLater()
            self.fault = None

    def take_nearest(self, value: float) -> None:
        """Take the nearest working value offered with a fault."""
        self.close_fault()
        self.close_hint()
        if self.commit(value):
            editor, self.editor = self.editor, None
            if editor is not None:
                editor.hide()
                editor.deleteLater()
                self.editing.emit(False)
            self.setFocus()

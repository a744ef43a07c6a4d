"""The sheet of the load spectrum: its levels as a table, pasted or typed, and the damage that each of them does."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QGuiApplication, QKeyEvent, QKeySequence, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QAbstractItemView,
    QFileDialog,
    QLabel,
    QPushButton,
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.cells_view import CellsView
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.typeset import html, words
from cooper.desk.widgets.word_choice import WordChoice
from cooper.document.duty import Level
from cooper.editing.spectrum_text import HEADS, levels_text, read_levels, with_levels, with_shape
from cooper.errors import OutOfRange, message_of
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.results.checks import gear_word
from cooper.results.power_flow import stages_of
from cooper.results.service import Service, service_life

SHAPES = {
    "normal": tr("normal distribution, seldom high"),
    "straight": tr("straight on a log scale"),
    "full": tr("full, mostly high"),
}


class LevelTable(CellsView):
    """The levels; cells are edited in place, Ctrl+V takes a whole table from a spreadsheet, Del takes rows away."""

    def __init__(self, session: Session, text: QLabel, theme: th.Theme) -> None:
        super().__init__("spectrum_table", (tr("torque, %"), "share", tr("speed, %")), right=True)
        self.session, self.told, self.theme = session, text, theme
        self.setAccessibleName(translate(tr("Levels of the load spectrum")))
        self.horizontalHeader().setDefaultSectionSize(78)
        self.setFixedWidth(260)
        self.cells.typed.connect(self._typed)
        self.fill()

    def fill(self) -> None:
        """Show the design's present levels, and an empty row for one more."""
        levels = self.session.design.train.duty.spectrum
        self.put(
            [
                *(
                    (
                        tr("{T_rel:.6g}", T_rel=100 * v.T_rel),
                        tr("{q_t:.6g}", q_t=v.q_t),
                        tr("{n_rel:.6g}", n_rel=100 * v.n_rel),
                    )
                    for v in levels
                ),
                ("",) * len(HEADS),
            ]
        )

    def _text(self, skip: frozenset[int] = frozenset()) -> str:
        rows = (self.row(r) for r in range(len(self.cells.rows)) if r not in skip)
        return join("\n", ("\t".join(row).rstrip("\t") for row in rows if any(row)))

    def _typed(self, _row: int) -> None:
        last = len(self.cells.rows) - 1
        started = self.row(last)[:2]
        if any(started) and not all(started):
            # The new row is not whole yet.
            self.take(self._text(frozenset({last})), refill=False, heads=False)
            return
        self.take(self._text(), heads=False)

    def take(self, text: str, *, refill: bool = True, heads: bool = True) -> bool:
        """Take levels from a text; says what is wrong where they cannot be."""
        try:
            levels = read_levels(text, heads=heads) if text.strip() else []
        except OutOfRange as fault:
            self._tell(message_of(fault))
            return False
        if tuple(levels) == self.session.design.train.duty.spectrum:
            return True
        label = tr("load spectrum, {levels} levels", levels=len(levels))
        refused = self.session.attempt(lambda d, _r: with_levels(d, levels), label).fault
        self._tell(str(refused or ""))
        if refused is None and refill:
            self.fill()
        return refused is None

    def _tell(self, text: str) -> None:
        self.told.setText(translate(text))
        th.set_text_role(self.told, "short")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Paste):
            self.take(QGuiApplication.clipboard().text())
        elif event.matches(QKeySequence.StandardKey.Copy):
            QGuiApplication.clipboard().setText(translate(levels_text(self.session.design.train.duty.spectrum)))
        elif event.key() == Qt.Key.Key_Delete:
            self.take(self._text(frozenset(i.row() for i in self.selectedIndexes())))
        else:
            super().keyPressEvent(event)


EXAMPLE = ("normal", 1 / 3)
"""The shape that is shown where there is no spectrum, and its least torque."""
GRIP = 7.0
"""How near an edge is taken; px."""


class DamagePicture(QWidget):
    """The levels as steps over their share of the life, and below them the damage of each to every gear of the
    stage."""

    def __init__(self, session: Session, theme: th.Theme, stage: int) -> None:
        super().__init__()
        self.session, self.theme, self.stage = session, theme, stage
        self.setObjectName("damage_picture")
        self.setAccessibleName(translate(tr("Damage of each level")))
        self.setMinimumSize(400, 380)
        self.setMouseTracking(True)
        self.found: tuple[Service, Service] | None = None
        self.levels: tuple[Level, ...] = ()
        self.example = False
        """Whether what is drawn is an example that one can take, as the design has no spectrum."""
        self._drag: tuple[int, str] | None = None
        self.draw_anew()

    def draw_anew(self) -> None:
        self.found = None
        train = self.session.design.train
        self.example = not train.duty.spectrum
        self.levels = train.duty.spectrum or with_shape(self.session.design, *EXAMPLE).train.duty.spectrum
        if self.stage < len(train.stages):
            with np.errstate(all="ignore"):
                self.found = service_life(stages_of(train)[self.stage][0], self.levels)
        self.setAccessibleDescription(translate(self._told()))
        self.update()

    def _told(self) -> str:
        """The levels in words."""
        rows = (tr("{T:.0f} % for {q:.3g}", T=100 * v.T_rel, q=v.q_t) for v in self._order())
        return tr("Torque over its share: {rows}", rows=join("; ", rows))

    def _order(self) -> list[Level]:
        return sorted(self.levels, key=lambda v: -v.T_rel)

    def _frame(self) -> QRectF:
        return QRectF(52, 26, self.width() - 70, 120)

    def boxes(self) -> list[QRectF]:
        """Where each level is drawn, the greatest first."""
        f, order = self._frame(), self._order()
        total, most, x = sum(v.q_t for v in order), max(max((v.T_rel for v in order), default=1.0), 1.0), f.left()
        boxes = []
        for v in order:
            width, height = f.width() * v.q_t / total, f.height() * v.T_rel / most
            boxes.append(QRectF(x, f.bottom() - height, width, height))
            x += width
        return boxes

    def grip_at(self, at: QPointF) -> tuple[int, str] | None:
        """The level whose top or right edge lies under a place, the first named as its torque, the other its share."""
        boxes = self.boxes()
        for n, box in enumerate(boxes[:-1]):
            if abs(at.x() - box.right()) < GRIP / 2 and boxes[n + 1].top() - GRIP < at.y() < box.bottom():
                return n, "share"
        for n, box in enumerate(boxes):
            if box.left() <= at.x() <= box.right() and abs(at.y() - box.top()) < GRIP:
                return n, "torque"
        return None

    def pulled(self, at: QPointF) -> tuple[Level, ...]:
        """The levels after dragging an edge: torque in steps of 1 %, the share exchanged with the next level."""
        assert self._drag is not None
        (n, what), f, order = self._drag, self._frame(), self._order()
        total, most = sum(v.q_t for v in order), max(max(v.T_rel for v in order), 1.0)
        if what == "torque":
            T_rel = round(min(max((f.bottom() - at.y()) / f.height() * most, 0.01), 5.0), 2)
            order[n] = order[n].replace_unchecked(T_rel=T_rel)
        else:
            both = order[n].q_t + order[n + 1].q_t
            q_t = (at.x() - self.boxes()[n].left()) / f.width() * total
            q_t = float(f"{min(max(q_t, 0.001 * both), 0.999 * both):.3g}")
            order[n] = order[n].replace_unchecked(q_t=q_t)
            order[n + 1] = order[n + 1].replace_unchecked(q_t=round(both - q_t, 9))
        return tuple(order)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._drag = self.grip_at(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is None:
            grip = self.grip_at(event.position())
            shapes = {"torque": Qt.CursorShape.SizeVerCursor, "share": Qt.CursorShape.SizeHorCursor}
            self.setCursor(shapes[grip[1]] if grip else Qt.CursorShape.ArrowCursor)
            return
        # The dragged level must keep its rank, or the drag would jump to another one.
        n, _what = self._drag
        levels = self.pulled(event.position())
        over, under = (levels[n - 1].T_rel if n else 5.0), (levels[n + 1].T_rel if n + 1 < len(levels) else 0.0)
        if under <= levels[n].T_rel <= over:
            self.levels = levels
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._drag is None:
            return
        self._drag = None
        levels, n = list(self.levels), len(self.levels)
        if tuple(levels) != self.session.design.train.duty.spectrum:
            label = tr("load spectrum, {levels} levels", levels=n)
            self.session.attempt(lambda d, _r: with_levels(d, levels), label)
        self.draw_anew()

    def take_example(self) -> None:
        """Make the example that is drawn the spectrum of the duty."""
        self.session.edit(lambda d, _r: with_shape(d, *EXAMPLE), tr("load spectrum: example"))

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        _t, _small = self.theme, th.font(th.SMALL)
        if self.found is None:
            return
        if self.example:
            p.setOpacity(0.55)
        self._steps(p, self._frame())
        stage = self.session.results.stages[self.stage]
        rows = [
            (
                tr("{word}, {i}", word=word, i=gear_word(stage, i + 1)),
                getattr(self.found[i], f"damage_{kind}"),
                getattr(self.found[i], f"S_{kind}eq"),
            )
            for kind, word in (("F", "root"), ("H", "flank"))
            for i in (0, 1)
        ]
        for n, (name, damage, safety) in enumerate(rows):
            self._damage(p, QRectF(112, 190 + 46 * n, self.width() - 300, 18), name, damage, safety)

    def _steps(self, p: QPainter, f: QRectF) -> None:
        t, small = self.theme, th.font(th.SMALL)
        most = max(max(v.T_rel for v in self.levels), 1.0)
        head = (
            tr("an example and what it would do: the load is steady so far")
            if self.example
            else tr("torque over its share of the life, greatest first; tops and edges can be pulled")
        )
        words(p, head, small, t.color("ink"), 4, f.top() - 10)
        for n, (v, box) in enumerate(zip(self._order(), self.boxes(), strict=True)):
            held = self._drag is not None and self._drag[0] == n
            p.fillRect(
                QRectF(box.left(), box.top(), max(box.width() - 0.6, 0.6), box.height()),
                t.color("copper" if held else "driver_fill"),
            )
            p.setPen(QPen(t.color("driver"), th.FINE))
            p.drawLine(box.topLeft(), box.topRight())
            if held:
                told = tr("{T:.0f} %, share {q:.3g}", T=100 * v.T_rel, q=v.q_t)
                words(p, told, small, t.color("copper"), box.left() + 4, box.top() - 4)
        y = f.bottom() - f.height() / most
        p.setPen(QPen(t.color("copper"), th.HAIR, Qt.PenStyle.DashLine))
        p.drawLine(QPointF(f.left(), y), QPointF(f.right(), y))
        words(p, tr("nominal"), small, t.color("copper"), f.left() - 6, y + 4, right=True)
        p.setPen(QPen(t.color("ink"), th.FINE))
        p.drawLine(f.bottomLeft(), f.bottomRight())

    def _damage(self, p: QPainter, f: QRectF, name: str, damage: np.ndarray, safety: float) -> None:
        """One bar parted by the levels, full at a damage sum of 1; beyond it the bar is drawn to its end and says
        so."""
        t, small = self.theme, th.font(th.SMALL)
        total = float(np.sum(damage))
        words(p, name, small, t.color("muted"), f.left() - 8, f.center().y() + 4, right=True)
        p.setPen(QPen(t.color("line"), th.FINE))
        p.drawRect(f)
        shown = damage / max(total, 1.0) if np.isfinite(total) else np.where(np.isinf(damage), 1.0, 0.0)
        x, role = f.left(), "short" if total > 1 else "driven"
        for n, part in enumerate(shown.tolist()):
            width = f.width() * part
            p.fillRect(
                QRectF(x, f.top() + 1, max(width - 0.6, 0), f.height() - 1), t.color(role, 0.55 + 0.45 * (n % 2))
            )
            x += width
        worst = int(np.argmax(damage)) + 1
        amount = (
            tr("above static strength")
            if not np.isfinite(total)
            else tr("D = {total:.3g}", total=total)
            if total > 1e-9
            else tr("D below 1e-9")
        )
        text = tr("{amount}, S = {safety:.2f}", amount=amount, safety=safety) if safety < 1e5 else tr("no damage")
        words(p, text, small, t.color("short" if total > 1 else "ink"), f.right() + 10, f.center().y() + 4)
        if total > 1e-6:
            words(p, tr("most from level {worst}", worst=worst), small, t.color("muted"), f.left(), f.bottom() + 14)


def spectrum_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """The load spectrum, and what it does to the selected stage."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText(translate(tr("Load spectrum")))
    sheet.setAccessibleName(translate(tr("Load spectrum")))
    left, right = sheet.add_column(), sheet.add_column()
    message = Label()
    message.setObjectName("spectrum_words")
    message.setWordWrap(True)
    table = LevelTable(session, message, theme)
    left.addWidget(table, 1)
    shape = WordChoice("spectrum_shape", tr("Standard shape"))
    shape.addItem(tr("standard shape …"))
    for key, text in SHAPES.items():
        for least in (0.0, 1 / 3, 2 / 3):
            shape.addItem(tr("{text}, down to {least:.0f} %", text=text, least=100 * least), (key, least))
    load, none = QPushButton(translate(tr("Open CSV …"))), QPushButton(translate(tr("No spectrum")))
    take = QPushButton(translate(tr("Take the example")))
    take.setObjectName("spectrum_take")
    load.setObjectName("spectrum_open")
    none.setObjectName("spectrum_none")
    parts: dict[str, QWidget] = {"shape": shape, "take": take, "open": load, "none": none}
    at = {name: slot(name) for name in parts}
    asked = [Sentence(tr("Levels: {shape}", **at)), Sentence(tr("{take} {open} {none}", **at))]
    sheet.add_question(left, [Topic(tr("Levels"), asked)], parts)
    left.addWidget(message)
    hint = Label(html(tr("Paste a table of torque in %, share and speed in % (Ctrl+V). K_A is 1 under a spectrum.")))
    hint.setTextFormat(Qt.TextFormat.RichText)
    hint.setWordWrap(True)
    hint.setMaximumWidth(290)
    th.set_text_role(hint, "muted", th.SMALL)
    left.addWidget(hint)
    picture = DamagePicture(session, theme, session.stage)
    right.addWidget(picture, 1)

    def picked(n: int) -> None:
        if n > 0:
            key, least = shape.itemData(n)
            session.edit(lambda d, _r: with_shape(d, key, least), tr("load spectrum: {n}", n=shape.itemText(n)))
            shape.setCurrentIndex(0)

    def opened() -> None:
        path, _ = QFileDialog.getOpenFileName(
            sheet, translate(tr("Open a load spectrum")), "", translate(tr("Tables (*.csv *.txt);;All files (*)"))
        )
        if path:
            open_file(table, Path(path))

    shape.activated.connect(picked)
    load.clicked.connect(opened)
    none.clicked.connect(lambda: table.take(""))
    take.clicked.connect(picture.take_example)

    def offer() -> None:
        take.setEnabled(picture.example)
        none.setEnabled(not picture.example)

    def follow() -> None:
        if isValid(picture):
            picture.draw_anew()
            offer()
            if not table.hasFocus() and table.state() != QAbstractItemView.State.EditingState:
                table.fill()

    sheet.watch(follow)
    offer()
    return sheet


def open_file(table: LevelTable, path: Path) -> bool:
    """Take the levels of a file; says why where it cannot be read."""
    try:
        return table.take(path.read_text(encoding="utf-8-sig"))
    except (OSError, UnicodeDecodeError) as fault:
        table.told.setText(
            translate(
                tr(
                    "Not opened. {name}: {value}",
                    name=path.name,
                    value=getattr(fault, "strerror", None) or tr("it is not a text file"),
                )
            )
        )
        return False


register_sheet(
    SheetEntry(
        "spectrum", tr("Load spectrum"), "Ctrl+L", lambda w: spectrum_sheet(w.session, w.theme, w.bench), (880, 520), 14
    )
)

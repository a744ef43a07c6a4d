"""Two states side by side: teeth, trains and margins laid over each other, and what differs between them, the largest
first."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QGuiApplication, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QPushButton, QWidget
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.base.state import State
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.offer_marks import extent, paint_margins, paint_train, told
from cooper.desk.widgets.rows_view import RowsView
from cooper.desk.widgets.shapes import section_path
from cooper.desk.widgets.typeset import words
from cooper.desk.widgets.word_choice import WordChoice
from cooper.document.units import number_with_unit
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.results.compare import Line, differing
from cooper.results.result_tree import StageResults


class Overlay(QWidget):
    """The second state drawn, the first one as dashed lines over it: a tooth of each gear of the selected stage at
    one scale, the train, the margins that are least."""

    def __init__(self, session: Session, theme: th.Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.setObjectName("compare_overlay")
        self.setAccessibleName(translate(tr("Both states over each other")))
        self.setMinimumHeight(206)
        self.first: State | None = None
        self.second: State | None = None

    def show_states(self, first: State, second: State) -> None:
        """Lay two states over each other."""
        self.first, self.second = first, second
        rows = (
            tr("{label} {margin:.0f} %", label=c.label, margin=100 * c.margin)
            if past is None
            else tr("{label} {past:.0f} to {margin:.0f} %", label=c.label, past=100 * past, margin=100 * c.margin)
            for c, past in told(second.results, first.results)
        )
        self.setAccessibleDescription(translate(tr("Margins: {rows}", rows=join("; ", rows))))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.first is None or self.second is None:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, small = self.theme, th.font(th.SMALL)
        wide, high = self.width() / 3, self.height() - 40.0
        heads = (tr("teeth"), tr("train"), tr("least margins"))
        for n, head in enumerate(heads):
            words(p, head, small, t.color("muted"), n * wide + 4, 12)
        words(p, tr("filled: the second state; dashed: the first"), small, t.color("copper"), 4, self.height() - 4.0)
        k = self.session.stage
        one, two = self.first.results, self.second.results
        if k < min(len(one.stages), len(two.stages)):
            self._teeth(p, QRectF(4, 20, wide - 12, high), two.stages[k], one.stages[k])
        room = QRectF(wide + 4, 20, wide - 12, high)
        both = extent(one) | extent(two)
        scale = min((room.width() - 8) / both.width(), (room.height() - 6) / both.height())
        paint_train(p, room, two, one, t, scale)
        paint_margins(p, QRectF(2 * wide + 4, 20, wide - 12, high + 14), two, one, t, named=True)

    def _teeth(self, p: QPainter, room: QRectF, now: StageResults, past: StageResults) -> None:
        """A tooth of each gear, tip upwards, its root at the foot of the room."""
        half = room.width() / 2
        deep = max(float(s.sections[i].depth) for s in (now, past) for i in (0, 1))
        scale = min(half / (1.3 * deep), room.height() / (1.15 * deep))
        for i, role in enumerate(("driver", "driven")):
            own = QRectF(room.left() + i * half, room.top(), half - 4, room.height())
            p.save()
            p.setClipRect(own)
            for stage, filled in ((now, True), (past, False)):
                section = stage.sections[i]
                tip = section.moved(section.tip[None], section.teeth[:1])[0, 0]
                inward = stage.kinds[i].inward
                # Both teeth are aligned at their tips, so that only the shapes differ.
                top = float(tip[0])
                p.save()
                p.translate(own.center().x(), own.top() + 0.06 * deep * scale)
                p.scale(scale, scale)
                p.rotate(90.0 if inward else -90.0)
                p.translate(-top, -float(tip[1]))
                m = float(section.tooth.m_n)
                pen = QPen(self.theme.color(role if filled else "copper"), 0)
                if not filled:
                    pen.setStyle(Qt.PenStyle.DashLine)
                p.setPen(pen)
                path = section_path(section, 0.002 * m)
                if filled:
                    p.fillPath(path, self.theme.color(f"{role}_fill"))
                p.strokePath(path, pen)
                p.restore()
            p.restore()


class CompareSheet(Sheet):
    """Two states side by side: what was changed, what it did to every check and to the main results."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.title.setText(translate(tr("Two states side by side")))
        self.setAccessibleName(translate(tr("Two states side by side")))
        column = self.add_column()
        self.boxes = [WordChoice("compare_first", tr("first state")), WordChoice("compare_second", tr("second state"))]
        at = {"first": slot("first"), "second": slot("second")}
        told = tr("From {first} to {second}.", **at)
        parts: dict[str, QWidget] = dict(zip(at, self.boxes, strict=True))
        self.add_question(column, [Topic(tr("States"), [Sentence(told)])], parts)
        self.overlay = Overlay(session, theme)
        column.addWidget(self.overlay)
        self.table = RowsView(
            {"quantity": lambda r: r[0], "first": lambda r: r[1], "second": lambda r: r[2], "moved": lambda r: r[3]},
            stretch=False,
            color=lambda r: theme.color(r[4]),
        )
        self.table.setObjectName("compare_table")
        self.table.setAccessibleName(translate(tr("Two states side by side")))
        self.table.horizontalHeader().setStretchLastSection(True)
        column.addWidget(self.table, 1)
        self.alone = Label()
        self.alone.setObjectName("compare_alone")
        th.set_text_role(self.alone, "muted", th.SMALL)
        column.addWidget(self.alone)
        button = QPushButton(translate(tr("Copy as a table")))
        button.setObjectName("copy_compare")
        button.clicked.connect(self.copy)
        column.addWidget(button, alignment=Qt.AlignmentFlag.AlignLeft)
        for box in self.boxes:
            box.currentIndexChanged.connect(lambda _n: self.fill())
        self.watch(self.fill_boxes)
        self.fill_boxes()

    def chosen(self) -> list[State]:
        """Both states."""
        states = self.session.states
        return [states[min(max(box.currentIndex(), 0), len(states) - 1)] for box in self.boxes]

    def lines(self) -> list[Line]:
        """What differs between them."""
        one, two = self.chosen()
        return differing((one.design, one.results), (two.design, two.results))

    def fill_boxes(self) -> None:
        """Name the states anew, and choose the present one and that before it."""
        if not isValid(self.table):
            return
        session = self.session
        before = session.state.parent if session.state.parent is not None else session.at
        for box, at in zip(self.boxes, (before, session.at), strict=True):
            box.blockSignals(True)
            box.clear()
            for n, state in enumerate(session.states):
                now = tr("  (now)") if n == session.at else ""
                box.addItem(tr("{n}  {value}{now}", n=n, value=state.name or state.label, now=now))
            box.setCurrentIndex(at)
            box.blockSignals(False)
        self.fill()

    def fill(self) -> None:
        """Lay both over each other and list what differs."""
        self.overlay.show_states(*self.chosen())
        system = self.session.system
        rows: list[tuple[str, str, str, str, str]] = []
        group = ""
        for line in self.lines():
            if line.group != group:
                group = line.group
                rows.append((group, "", "", "", "copper"))
            values = _shown(line, line.first, system), _shown(line, line.second, system)
            rows.append((line.name, *values, _moved(line), "ink"))
        self.table.show_rows(rows)
        one = tr("There is one state so far: change something, and both stand side by side.")
        same = tr("Nothing differs between these two.")
        self.alone.setText(translate(one if len(self.session.states) == 1 else same))
        self.alone.setVisible(not rows)

    def copy(self) -> None:
        """What differs as a table on the clipboard."""
        system = self.session.system
        rows = ["\t".join(("quantity", *(box.currentText() for box in self.boxes), "moved"))]
        for n in self.lines():
            rows.append("\t".join((n.name, _shown(n, n.first, system), _shown(n, n.second, system), n.moved)))
        QGuiApplication.clipboard().setText(translate(join("\n", rows)))


def _shown(line: Line, value: float | str | None, system: str) -> str:
    if value is None:
        return "–"
    if isinstance(value, str):
        return value
    return number_with_unit(float(value), line.kind, system) if line.kind else tr("{value:g}", value=value)


def _moved(line: Line) -> str:
    """Where it moved, and by how much of what it was."""
    mark = {"rose": "▲", "fell": "▼"}.get(line.moved, "")
    if not mark:
        return tr("changed")
    return tr("{mark} {by:.1f} %", mark=mark, by=100 * line.by) if line.by < 1e3 else mark


register_sheet(
    SheetEntry(
        "compare",
        tr("Lay two states side by side"),
        "Ctrl+0",
        lambda w: CompareSheet(w.session, w.theme, w.bench),
        (760, 585),
        8,
    )
)

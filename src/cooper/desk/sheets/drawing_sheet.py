"""The drawing sheet of a gear as it will leave: seen whole, what it says beside the design in its tags, written as
PDF, DXF or SVG."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import get_args

from PySide6.QtCore import QByteArray, QPointF, QRectF, Qt
from PySide6.QtGui import QGuiApplication, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtSvg import QSvgRenderer
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QPushButton, QWidget
from shiboken6 import isValid

from cooper.atomic_write import atomic_write
from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.choices import Choice, TextChoice, path_choice
from cooper.desk.widgets.labels import Label
from cooper.document.drawing_data import Scale
from cooper.document.quantities import plain
from cooper.editing.fields import Field
from cooper.editing.sheet_fields import drawing_fields, member_path
from cooper.errors import OutOfRange
from cooper.exchange.gear_drawing import gear_drawing, says
from cooper.exchange.paper import DrawingPage
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

KINDS = {".pdf": "PDF", ".dxf": "DXF", ".svg": "SVG"}
DOTS = 8
"""Pixels for a millimetre in a copied picture."""


CLOSEST = 20.0
"""How much larger than whole the preview may be shown."""


class Preview(QWidget):
    """The sheet, whole or nearer: the wheel and + and - zoom, dragging moves it, F shows it whole again."""

    def __init__(self, theme: th.Theme) -> None:
        super().__init__()
        self.theme = theme
        self.setObjectName("drawing_preview")
        self.setAccessibleName(translate(tr("Drawing sheet")))
        self.setMinimumSize(560, 400)
        self.paper: DrawingPage | None = None
        self.fault = ""
        self.renderer = QSvgRenderer()
        # How much nearer than whole, and how far the paper's middle lies from the widget's, px.
        self.near, self.moved = 1.0, QPointF()
        self._drag: QPointF | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setToolTip(translate(tr("Wheel or + and − zoom, dragging moves, F shows the sheet whole")))

    def show_paper(self, paper: DrawingPage) -> None:
        """Show a sheet."""
        self.paper, self.fault = paper, ""
        self.renderer.load(QByteArray(paper.svg().encode()))
        self.setAccessibleDescription(translate(paper.told))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.fault or self.paper is None:
            p.setPen(self.theme.color("short" if self.fault else "muted"))
            p.drawText(
                self.rect(),
                int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap),
                translate(self.fault or tr("Drawing …")),
            )
            return
        area = self.area()
        self.renderer.render(p, area)
        p.setPen(self.theme.color("copper" if self.hasFocus() else "line"))
        p.drawRect(area)

    def area(self) -> QRectF:
        """Where the paper lies on the widget."""
        assert self.paper is not None
        scale = self.near * min((self.width() - 2) / self.paper.width, (self.height() - 2) / self.paper.height)
        area = QRectF(0, 0, scale * self.paper.width, scale * self.paper.height)
        area.moveCenter(QRectF(self.rect()).center() + self.moved)
        return area

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Show the sheet nearer or farther about a place of the widget; never smaller than whole."""
        near = min(max(self.near * factor, 1.0), CLOSEST)
        at = (about or QRectF(self.rect()).center()) - QRectF(self.rect()).center()
        self.moved = at + (self.moved - at) * (near / self.near) if near > 1 else QPointF()
        self.near = near
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom(1.25 ** (event.angleDelta().y() / 120), event.position())
        event.accept()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._drag = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is not None and self.near > 1:
            self.moved += event.position() - self._drag
            self._drag = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._drag = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        factors = {Qt.Key.Key_Plus: 1.25, Qt.Key.Key_Minus: 0.8, Qt.Key.Key_F: 1 / CLOSEST}
        factor = factors.get(Qt.Key(event.key()))
        if factor is None or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            event.ignore()
        else:
            self.zoom(factor)

    def picture(self) -> QImage:
        """The sheet as pixels."""
        assert self.paper is not None
        image = QImage(round(DOTS * self.paper.width), round(DOTS * self.paper.height), QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.white)
        p = QPainter(image)
        self.renderer.render(p)
        p.end()
        return image


class DrawingSheet(Sheet):
    """The drawing of gear i (1, 2) of the selected mesh."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget, i: int) -> None:
        super().__init__(session, theme, parent)
        self.k, self.i = session.stage, i
        at = member_path(session.design, self.k, i)
        doc = session.design.train.stages[self.k]
        self.name = doc.gears[i - 1].name
        self.title.setText(translate(tr("Drawing sheet: {name}", name=self.name)))
        self.setAccessibleName(translate(tr("Drawing sheet of {name}", name=self.name)))
        self.renew = self._fields
        fields = self._fields()
        scales: dict[object, str] = {s: s for s in get_args(Scale)}
        papers: dict[object, str] = {s: s for s in ("what fits", "A4", "A3")}
        where = f"{at}.drawing"
        words = (
            ("part", tr("number of the part")),
            ("drawn", tr("drawn by")),
            ("checked", tr("checked by")),
            ("general", tr("general tolerances")),
            ("edges", tr("edges")),
        )
        rows: list[Field | Choice | TextChoice] = list(fields.values())
        rows += [
            path_choice(session, "scale", tr("scale"), f"{where}.scale", scales),
            path_choice(session, "paper", tr("paper"), f"{where}.paper", papers),
            *(TextChoice(session, key, text, f"{where}.{key}") for key, text in words),
        ]
        self.add_brief(drawing_topics(i), rows)
        right = self.add_column(stretch=1)
        self.preview = Preview(theme)
        right.addWidget(self.preview, 60)
        self.told = Label(
            tr(
                "Bore, keyway and blank are those of the gear's data and of the machine. The run-outs "
                "proposed follow ISO/TR 10064-3, depths of keyways DIN 6885-1, both as known."
            )
        )
        self.told.setWordWrap(True)
        th.set_text_role(self.told, "muted", th.SMALL)
        right.addWidget(self.told)
        row = QHBoxLayout()
        for suffix, kind in KINDS.items():
            button = QPushButton(translate(tr("Save as {kind} …", kind=kind)))
            button.setObjectName(f"drawing{suffix}")
            button.clicked.connect(partial(self._ask, suffix))
            row.addWidget(button)
        copy = QPushButton(translate(tr("Copy the picture")))
        copy.setObjectName("drawing_copy")
        copy.clicked.connect(self._copy)
        row.addWidget(copy)
        row.addStretch(1)
        right.addLayout(row)
        self.task: Task | None = None
        self.watch(self.draw)
        self.draw()
        self.finish()

    def _fields(self) -> dict[str, Field]:
        """What of the sheet can be edited: only what this gear's drawing shows."""
        s = self.session
        if self.k >= len(s.results.stages):
            return {}
        try:
            said = says(s.design, s.results, self.k, self.i)
        except OutOfRange:
            # What cannot be drawn has nothing to say; the preview tells why.
            said = frozenset()
        return drawing_fields(s.design, self.k, self.i, said)

    def draw(self) -> None:
        """Draw the present state beside the window."""
        session = self.session
        if self.task is not None:
            self.task.give_up()
        if self.k >= len(session.results.stages):
            return

        def done(fault: Exception | None) -> None:
            if fault is not None and isValid(self):
                self.preview.fault = tr("This gear cannot be drawn: {fault}", fault=fault)
                self.preview.update()

        def take(paper: DrawingPage) -> None:
            if isValid(self):
                self.preview.show_paper(paper)

        self.task = submit(
            "cooper.exchange.gear_drawing:gear_drawing",
            session.design,
            session.results,
            self.k,
            self.i,
            session.system,
            take=take,
            done=done,
        )

    def _ask(self, suffix: str) -> None:
        path, _ = QFileDialog.getSaveFileName(
            self,
            translate(tr("Save the drawing sheet")),
            tr("{name}{suffix}", name=self.name, suffix=suffix),
            translate(f"*{suffix}"),
        )
        if path:
            self.save_to(Path(path))

    def save_to(self, path: Path) -> None:
        """Write the sheet as it stands now."""
        s = self.session
        try:
            paper = gear_drawing(s.design, s.whole_results(), self.k, self.i, s.system)
            atomic_write(path, paper.write)
        except (OSError, ValueError) as fault:
            s.told.emit(tr("Not saved. {fault}", fault=fault))
            return
        s.told.emit(tr("Saved as {path}", path=path))

    def _copy(self) -> None:
        if self.preview.paper is None or self.preview.fault:
            self.session.told.emit(tr("There is no drawing yet"))
            return
        QGuiApplication.clipboard().setImage(self.preview.picture())
        self.session.told.emit(tr("The drawing sheet is on the clipboard"))


def drawing_topics(i: int) -> list[Topic]:
    """What the drawing of gear i (1, 2) says beside its data; what it does not show is left out by its sheet."""
    at = {s: slot(s) for s in ("scale", "paper", "part", "drawn", "checked", "general", "edges")}
    at |= {s: slot(plain(s, i)) for s in ("IT_bore", "IT_tip", "Ra_bore", "Ra_face", "Ra_rest", "t_tip", "t_face")}
    return [
        Topic(tr("Sheet"), [Sentence(tr("Scale {scale}, paper: {paper}.", **at))]),
        Topic(
            tr("Title block"),
            [
                Sentence(tr("Part {part}.", **at)),
                Sentence(tr("Drawn by {drawn}.", **at)),
                Sentence(tr("Checked by {checked}.", **at)),
                Sentence(tr("General tolerances {general}.", **at)),
                Sentence(tr("Edges {edges}.", **at)),
            ],
        ),
        Topic(
            tr("Tolerances and surfaces"),
            [
                Sentence(tr("Tolerance grade of the bore {IT_bore}.", **at)),
                Sentence(tr("Roughness of the bore {Ra_bore}.", **at)),
                Sentence(tr("Tolerance grade of the tips {IT_tip}.", **at)),
                Sentence(tr("Run-out of the tips {t_tip}.", **at)),
                Sentence(tr("Run-out of the faces {t_face}.", **at)),
                Sentence(tr("Roughness of the faces {Ra_face}.", **at)),
                Sentence(tr("All other surfaces {Ra_rest}.", **at)),
            ],
        ),
    ]


for _i, _words, _keys in ((1, tr("driving"), "Ctrl+Shift+D"), (2, tr("driven"), "")):
    register_sheet(
        SheetEntry(
            f"drawing_{_i}",
            tr("Drawing sheet of the {words} gear …", words=_words),
            _keys,
            lambda w, i=_i: DrawingSheet(w.session, w.theme, w.bench, i),  # type: ignore[misc]
            (1240, 760),
            66 + _i,
        )
    )

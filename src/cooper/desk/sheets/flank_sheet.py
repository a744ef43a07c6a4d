"""The sheet of flank points: a table that follows the design."""

from __future__ import annotations

from functools import partial
from math import degrees

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QLineEdit, QPushButton, QVBoxLayout, QWidget

from cooper.arrays import Loose as Array
from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.rows_view import RowsView
from cooper.desk.widgets.word_choice import WordChoice
from cooper.document.units import parse
from cooper.errors import OutOfRange, message_of
from cooper.gears.flank_points import FRAMES, half_angles, in_frame
from cooper.i18n.text import join, term, tr
from cooper.i18n.translate import translate

MOST_POINTS = 2000


class FlankSheet(Sheet):
    """Flank points of a gear: how many, from where to where, in which coordinates."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.title.setText(translate(tr("Flank points")))
        self.setAccessibleName(translate(tr("Flank points")))
        self.k = session.stage
        column = self.add_column()
        self._entries(column)
        self.table = RowsView({name: partial(_cell, c) for c, name in enumerate(self._heads())}, stretch=False)
        self.table.setObjectName("flank_points_table")
        self.told = Label()
        self.told.setObjectName("flank_words")
        self.told.setWordWrap(True)
        button = QPushButton(translate(tr("Copy as a table")))
        button.setObjectName("copy_flank")
        button.clicked.connect(self._copy)
        column.addWidget(self.table, 1)
        column.addWidget(self.told)
        column.addWidget(button, alignment=Qt.AlignmentFlag.AlignLeft)
        self.watch(self.fill)
        self.fill()

    def _entries(self, column: QVBoxLayout) -> None:
        """Gear and coordinates, then count and ends."""
        self.which, self.frame = WordChoice("flank_gear", tr("gear")), WordChoice("flank_frame", tr("coordinates"))
        self.side = WordChoice("flank_side", tr("flank"))
        self.which.addItems([tr("driving gear"), tr("driven gear")])
        self.side.addItems([tr("right flank"), tr("left flank")])
        for name, words in FRAMES.items():
            self.frame.addItem(term(words), name)
        for box in (self.which, self.side, self.frame):
            box.currentIndexChanged.connect(lambda _n: self.fill())
        self.entries: dict[str, QLineEdit] = {}
        for name, words, text in (
            ("count", tr("points"), "25"),
            ("from", tr("from diameter"), ""),
            ("to", tr("to diameter"), ""),
        ):
            line = QLineEdit(text)
            line.setObjectName(f"flank_{name}")
            line.setProperty("calm", True)
            line.setAccessibleName(translate(words))
            line.setFixedWidth(100)
            line.editingFinished.connect(self.fill)
            self.entries[name] = line
        self.entries["from"].setPlaceholderText(translate(tr("root circle")))
        self.entries["to"].setPlaceholderText(translate(tr("tip circle")))
        parts: dict[str, QWidget] = {"which": self.which, "side": self.side, "frame": self.frame, **self.entries}
        at = {name: slot(name) for name in parts}
        first = tr("{count} points of the {which}, {side}, coordinates {frame}.", **at)
        second = tr("From the diameter {start} to {to}.", start=at["from"], to=at["to"])
        self.add_question(column, [Topic(tr("Points"), [Sentence(first), Sentence(second)])], parts)

    def _heads(self) -> list[str]:
        polar = self.frame.currentData() == "polar"
        unit = "in" if self.session.system == "inch" else "mm"
        heads = (
            [tr("radius, {unit}", unit=unit), tr("half angle, °")]
            if polar
            else [tr("x, {unit}", unit=unit), tr("y, {unit}", unit=unit)]
        )
        widths = [
            tr("{word}, {unit}", word=word, unit=unit)
            for word in (tr("thickness s_t"), tr("normal s_n"), tr("chord"), tr("space e_t"))
        ]
        return [tr("diameter, {unit}", unit=unit), *heads, *widths]

    def points(self) -> Array:
        """Diameter, place, thicknesses and space of every point; mm. Raises `OutOfRange` for entries that make no
        table."""
        session = self.session
        stage, i, system = session.results.stages[self.k], self.which.currentIndex(), session.system
        tooth, form, g, kind = stage.teeth[i], stage.forms[i], stage.gears[i], stage.kinds[i]
        if self.side.currentIndex():
            tooth = tooth.turned
        if kind.straight:
            raise OutOfRange("gear", kind.name, tr("{straight}: there is no table", straight=kind.straight))
        n = round(parse(self.entries["count"].text() or "25", "count", system, quantity=tr("points")))
        if not 2 <= n <= MOST_POINTS:
            raise OutOfRange(tr("points"), n, tr("that many make no table"), low=2, high=MOST_POINTS)
        ends = []
        low, high = sorted((g.d_fE, g.d_a + (-1 if kind.inward else 1) * stage.mesh.m_n))
        for name, own in (("from", g.d_fE), ("to", g.d_a)):
            text = self.entries[name].text().strip()
            d = parse(text, "length", system, quantity=tr("{name} diameter", name=name)) if text else own
            if not low - 1e-9 <= d <= high + 1e-9:
                reason = tr("the tooth lies between root circle and a module beyond its tip")
                raise OutOfRange(tr("{name} diameter", name=name), d, reason, low=low, high=high, unit="mm")
            ends.append(d)
        d_y = np.linspace(ends[0], ends[1], n)
        half = half_angles(tooth, form, d_y)
        # Tooth thickness as arc, in the normal section and as chord; the arc of the space.
        s_t = d_y * half
        s_n = s_t * np.cos(np.arctan(np.tan(float(tooth.beta)) * d_y / abs(float(tooth.d))))
        space = np.pi * d_y / abs(float(tooth.z)) - s_t
        place = in_frame(tooth, d_y, half, self.frame.currentData())
        return np.column_stack((d_y, place, s_t, s_n, d_y * np.sin(half), space))

    def _rows(self) -> list[list[float]]:
        """The points in the units that are shown."""
        polar = self.frame.currentData() == "polar"
        unit = 25.4 if self.session.system == "inch" else 1.0
        scale = np.array([unit, unit, 1.0 if polar else unit, *[unit] * 4])
        rows: list[list[float]] = (self.points() / scale).tolist()
        return rows

    def fill(self) -> None:
        """Show the points of the present design, or why there are none."""
        self.table.rows.names = self._heads()
        own = self.session.results.stages[self.k].teeth[self.which.currentIndex()].left is not None
        self.side.setEnabled(own)
        if not own:
            self.side.setCurrentIndex(0)
        try:
            self.table.show_rows(self._rows())
        except OutOfRange as fault:
            self.table.show_rows([])
            self.told.setText(message_of(fault))
            th.set_text_role(self.told, "short")
            return
        tooth = self.session.results.stages[self.k].teeth[self.which.currentIndex()]
        half = [degrees(float(tooth.half_angle(tooth.d, x))) for x in (tooth.x, None)]
        th.set_text_role(self.told, "muted", th.SMALL)
        self.told.setText(
            translate(
                tr(
                    "Half-tooth angle at the reference circle {half:.5f}° nominal, {half_2:.5f}° as made; half "
                    "the pitch {z:.5f}°. Teeth at the middle of their allowance.",
                    half=half[0],
                    half_2=half[1],
                    z=180 / abs(float(tooth.z)),
                )
            )
        )

    def _copy(self) -> None:
        try:
            lines = ["\t".join(self._heads()), *("\t".join(tr("{v:.6f}", v=v) for v in row) for row in self._rows())]
        except OutOfRange:
            return
        QGuiApplication.clipboard().setText(translate(join("\n", lines)))


def _cell(c: int, row: list[float]) -> str:
    return tr("{row:.6f}", row=row[c])


register_sheet(
    SheetEntry(
        "flank_points",
        tr("Flank points as a table"),
        "Ctrl+7",
        lambda w: FlankSheet(w.session, w.theme, w.bench),
        (860, 580),
        15,
    )
)

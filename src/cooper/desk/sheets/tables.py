"""Sheets made of tables: named values and formulas, the flank points of a gear, two states side by side."""

from __future__ import annotations

from collections.abc import Callable
from math import degrees

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QGuiApplication
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.frame import theme as th
from cooper.desk.frame.registry import SheetEntry, register_sheet
from cooper.desk.frame.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.labels import Label
from cooper.document.models import Design
from cooper.document.units import number_with_unit, parse
from cooper.editing.formulas import all_fields, named_values, with_formula, with_name
from cooper.errors import OutOfRange
from cooper.gears.flank_points import FRAMES, half_angles, in_frame
from cooper.results.compare import Line, compare

MOST_POINTS = 2000


def _table(name: str, heads: tuple[str, ...]) -> QTableWidget:
    table = QTableWidget(0, len(heads))
    table.setObjectName(name)
    table.setHorizontalHeaderLabels(list(heads))
    table.verticalHeader().hide()
    table.verticalHeader().setDefaultSectionSize(24)
    table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
    return table


def _label(words: str, theme: th.Theme, role: str = "muted", bold: bool = False) -> QLabel:
    label = Label(words)
    th.put_on(label, th.label_style(theme, role, bold=bold) if bold else th.label_style(theme, role, th.SMALL))
    label.setWordWrap(True)
    return label


class Editable:
    """A table of names and texts that edit the design; the last row is for a new one, an emptied text takes one away."""

    def __init__(
        self,
        sheet: Sheet,
        name: str,
        heads: tuple[str, str, str],
        read: Callable[[Design], dict[str, str]],
        shown: Callable[[str], str],
        give: Callable[[Design, str, str], Design],
    ) -> None:
        self.sheet, self.read, self.shown, self.give, self.name = sheet, read, shown, give, name
        self.table = _table(f"{name}_table", heads)
        self.table.itemChanged.connect(self._changed)
        self.fault = _label("", sheet.theme, "short")
        self.fault.setObjectName(f"{name}_fault")
        self.filling = False
        self.fill()

    def fill(self) -> None:
        """Show the design's present entries."""
        self.filling = True
        rows = self.read(self.sheet.session.design)
        self.table.setRowCount(len(rows) + 1)
        for r, (name, text) in enumerate([*rows.items(), ("", "")]):
            for c, words in enumerate((name, text, self.shown(name) if name else "")):
                item = QTableWidgetItem(words)
                if c == 2 or (c == 0 and name):
                    item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
                self.table.setItem(r, c, item)
        self.filling = False

    def _changed(self, item: QTableWidgetItem) -> None:
        if self.filling:
            return
        first, second = self.table.item(item.row(), 0), self.table.item(item.row(), 1)
        name, text = (cell.text().strip() if cell else "" for cell in (first, second))
        known = name in self.read(self.sheet.session.design)
        if not name or not (text or known):
            return
        label = f"{name} = {text}" if text else f"{name} taken away"
        fault = self.sheet.session.attempt(lambda d, _r: self.give(d, name, text), label).fault
        self.fault.setText(str(fault or ""))
        if fault is not None and known:
            self.fill()


def formula_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """Named values, and formulas between the quantities of the design."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText("Named values and formulas")
    sheet.setAccessibleName("Named values and formulas")
    column = sheet.add_column()

    def value_now(name: str) -> str:
        try:
            return f"{named_values(session.design, session.results)[name]:.6g}"
        except (OutOfRange, KeyError):
            return ""

    def quantity_now(place: str) -> str:
        field = all_fields(session.design).get(place)
        value = field.read(session.design, session.results) if field else None
        return "" if field is None or value is None else number_with_unit(value, field.kind, session.system)

    names = Editable(sheet, "names", ("name", "number or formula", "value"), lambda d: d.names, value_now, with_name)
    ties = Editable(
        sheet, "formulas", ("quantity", "formula", "value"), lambda d: d.formulas, quantity_now, with_formula
    )
    column.addWidget(_label("Named values", theme, "copper", bold=True))
    column.addWidget(names.table)
    column.addWidget(names.fault)
    column.addWidget(_label("Formulas of quantities", theme, "copper", bold=True))
    column.addWidget(ties.table)
    column.addWidget(ties.fault)
    column.addWidget(
        _label(
            "A quantity is written as its tag with its stage before it, as stage1.b_1; typing = and a formula into a tag does the "
            "same. Lengths count in mm, angles in degrees. + - * / ^, brackets, pi, sqrt, sin, cos, tan, min, max, round.",
            theme,
        )
    )

    def follow() -> None:
        if isValid(names.table):
            names.fill()
            ties.fill()

    sheet.watch(follow)
    return sheet


def flank_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """Flank points of a gear as a table that follows the design: how many, from where to where, in which coordinates."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText("Flank points")
    sheet.setAccessibleName("Flank points")
    column = sheet.add_column()
    k = session.stage
    row = QHBoxLayout()
    which, frame = QComboBox(), QComboBox()
    which.setObjectName("flank_gear")
    which.addItems(["driving gear", "driven gear"])
    frame.setObjectName("flank_frame")
    for name, words in FRAMES.items():
        frame.addItem(words, name)
    row.addWidget(which)
    row.addWidget(frame)
    row.addStretch(1)
    column.addLayout(row)
    row = QHBoxLayout()
    entries: dict[str, QLineEdit] = {}
    for name, words, text in (("count", "points", "25"), ("from", "from diameter", ""), ("to", "to diameter", "")):
        row.addWidget(_label(words, theme))
        entries[name] = QLineEdit(text)
        entries[name].setObjectName(f"flank_{name}")
        entries[name].setMaximumWidth(100)
        row.addWidget(entries[name])
    entries["from"].setPlaceholderText("root circle")
    entries["to"].setPlaceholderText("tip circle")
    row.addStretch(1)
    column.addLayout(row)
    table = _table("flank_points_table", ("diameter", "x", "y", "s_t", "s_n", "chord", "e_t"))
    told = _label("", theme)
    told.setObjectName("flank_words")
    column.addWidget(table, 1)
    column.addWidget(told)

    def points() -> np.ndarray:
        stage, i, system = session.results.stages[k], which.currentIndex(), session.system
        tooth, form, g = stage.teeth[i], stage.forms[i], stage.gears[i]
        kind = stage.kinds[i]
        if kind.straight:
            raise OutOfRange("gear", kind.name, f"{kind.straight}: there is no table")
        n = round(parse(entries["count"].text() or "25", "count", system, quantity="points"))
        if not 2 <= n <= MOST_POINTS:
            raise OutOfRange("points", n, "that many make no table", low=2, high=MOST_POINTS)
        ends = []
        for name, own in (("from", g.d_fE), ("to", g.d_a)):
            text = entries[name].text().strip()
            d = parse(text, "length", system, quantity=f"{name} diameter") if text else own
            low, high = sorted((g.d_fE, g.d_a + (-1 if kind.inward else 1) * stage.mesh.m_n))
            if not low - 1e-9 <= d <= high + 1e-9:
                raise OutOfRange(
                    f"{name} diameter",
                    d,
                    "the tooth lies between root circle and a module beyond its tip",
                    low=low,
                    high=high,
                    unit="mm",
                )
            ends.append(d)
        d_y = np.linspace(ends[0], ends[1], n)
        half = half_angles(tooth, form, d_y)
        # Tooth thickness as arc, in the normal section and as chord; the arc of the space.
        s_t = d_y * half
        s_n = s_t * np.cos(np.arctan(np.tan(float(tooth.beta)) * d_y / abs(float(tooth.d))))
        space = np.pi * d_y / abs(float(tooth.z)) - s_t
        place = in_frame(tooth, d_y, half, frame.currentData())
        return np.column_stack((d_y, place, s_t, s_n, d_y * np.sin(half), space))

    def cells() -> list[list[str]]:
        polar = frame.currentData() == "polar"
        unit = 25.4 if session.system == "inch" else 1.0
        scale = np.array([unit, unit, 1.0 if polar else unit, *[unit] * 4])
        return [[f"{v:.6f}" for v in row] for row in (points() / scale).tolist()]

    def fill() -> None:
        if not isValid(table):
            return
        polar = frame.currentData() == "polar"
        unit = "in" if session.system == "inch" else "mm"
        heads = [
            f"diameter, {unit}",
            f"radius, {unit}" if polar else f"x, {unit}",
            "half angle, °" if polar else f"y, {unit}",
        ]
        table.setHorizontalHeaderLabels([*heads, "thickness s_t", "normal s_n", "chord", "space e_t"])
        try:
            rows = cells()
        except OutOfRange as fault:
            table.setRowCount(0)
            told.setText(str(fault))
            th.put_on(told, f"color: {theme.short};")
            return
        table.setRowCount(len(rows))
        for r, texts in enumerate(rows):
            for c, text in enumerate(texts):
                item = QTableWidgetItem(text)
                item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
                table.setItem(r, c, item)
        stage, i = session.results.stages[k], which.currentIndex()
        tooth = stage.teeth[i]
        half = [degrees(float(tooth.half_angle(tooth.d, x))) for x in (tooth.x, None)]
        th.put_on(told, th.label_style(theme, "muted", th.SMALL))
        told.setText(
            f"Half-tooth angle at the reference circle {half[0]:.5f}° nominal, {half[1]:.5f}° as made; half the pitch "
            f"{180 / abs(float(tooth.z)):.5f}°. Teeth at the middle of their allowance."
        )

    def copy() -> None:
        try:
            heads = [head.text() for c in range(7) if (head := table.horizontalHeaderItem(c))]
            lines = ["\t".join(heads), *("\t".join(r) for r in cells())]
        except OutOfRange:
            return
        QGuiApplication.clipboard().setText("\n".join(lines))

    button = QPushButton("Copy as a table")
    button.setObjectName("copy_flank")
    button.clicked.connect(copy)
    column.addWidget(button, alignment=Qt.AlignmentFlag.AlignLeft)
    which.currentIndexChanged.connect(lambda _n: fill())
    frame.currentIndexChanged.connect(lambda _n: fill())
    for line in entries.values():
        line.editingFinished.connect(fill)
    sheet.watch(fill)
    fill()
    return sheet


def compare_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """Two states side by side: what was changed, what it did to every check and to the main results."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText("Two states side by side")
    sheet.setAccessibleName("Two states side by side")
    column = sheet.add_column()
    row = QHBoxLayout()
    boxes = [QComboBox(), QComboBox()]
    for box, name in zip(boxes, ("compare_first", "compare_second"), strict=True):
        box.setObjectName(name)
        row.addWidget(box, 1)
    column.addLayout(row)
    table = _table("compare_table", ("", "first", "second", ""))
    column.addWidget(table, 1)

    def names() -> list[str]:
        return [
            f"{n}  {s.name or s.label}" + ("  (now)" if n == session.at else "") for n, s in enumerate(session.states)
        ]

    def lines() -> list[Line]:
        states = [session.states[min(max(box.currentIndex(), 0), len(session.states) - 1)] for box in boxes]
        return compare((states[0].design, states[0].results), (states[1].design, states[1].results))

    def shown(line: Line, value: float | str | None) -> str:
        if value is None:
            return "–"
        if isinstance(value, str):
            return value
        return number_with_unit(float(value), line.kind, session.system) if line.kind else f"{value:g}"

    def fill_boxes() -> None:
        if not isValid(table):
            return
        before = session.state.parent if session.state.parent is not None else session.at
        for box, at in zip(boxes, (before, session.at), strict=True):
            box.blockSignals(True)
            box.clear()
            box.addItems(names())
            box.setCurrentIndex(at)
            box.blockSignals(False)
        fill()

    def fill() -> None:
        table.setRowCount(0)
        group = ""
        for line in lines():
            if line.group != group:
                group = line.group
                _row(table, (group, "", "", ""), theme.color("copper"))
            mark = {"rose": "▲ rose", "fell": "▼ fell"}.get(line.moved, "" if line.same else "changed")
            color = theme.color("muted" if line.same else "ink")
            _row(table, (line.name, shown(line, line.first), shown(line, line.second), mark), color)
        table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        table.horizontalHeader().setStretchLastSection(True)

    def copy() -> None:
        rows = ["\t".join(("quantity", *(box.currentText() for box in boxes), "moved"))]
        rows += ["\t".join((n.name, shown(n, n.first), shown(n, n.second), n.moved)) for n in lines()]
        QGuiApplication.clipboard().setText("\n".join(rows))

    button = QPushButton("Copy as a table")
    button.setObjectName("copy_compare")
    button.clicked.connect(copy)
    column.addWidget(button, alignment=Qt.AlignmentFlag.AlignLeft)
    for box in boxes:
        box.currentIndexChanged.connect(lambda _n: fill())
    sheet.watch(fill_boxes)
    fill_boxes()
    return sheet


def _row(table: QTableWidget, texts: tuple[str, ...], color: QColor) -> None:
    at = table.rowCount()
    table.setRowCount(at + 1)
    for c, text in enumerate(texts):
        item = QTableWidgetItem(text)
        item.setForeground(color)
        item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
        if c in (1, 2):
            item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        table.setItem(at, c, item)


register_sheet(
    SheetEntry(
        "compare",
        "Lay two states side by side",
        "Ctrl+0",
        lambda w: compare_sheet(w.session, w.theme, w.bench),
        (760, 585),
        8,
    )
)
register_sheet(
    SheetEntry(
        "flank_points",
        "Flank points as a table",
        "Ctrl+7",
        lambda w: flank_sheet(w.session, w.theme, w.bench),
        (720, 560),
        15,
    )
)
register_sheet(
    SheetEntry(
        "formulas",
        "Named values and formulas",
        "Ctrl+8",
        lambda w: formula_sheet(w.session, w.theme, w.bench),
        (620, 560),
        16,
    )
)

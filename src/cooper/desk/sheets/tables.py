"""The sheet of named values and formulas."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QHeaderView,
    QLabel,
    QPushButton,
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.cells_view import CellsView
from cooper.desk.widgets.labels import Label
from cooper.document.models import Design
from cooper.document.units import number_with_unit
from cooper.editing.formulas import all_fields, named_values, with_example, with_formula, with_name
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.i18n.translate import translate


def _label(words: str, role: str = "muted", bold: bool = False) -> QLabel:
    label = Label(words)
    th.set_text_role(label, role, th.TEXT if bold else th.SMALL, bold=bold)
    label.setWordWrap(True)
    return label


class Editable:
    """A table of names and texts that edit the design; the last row is for a new one, an emptied text takes one
    away."""

    def __init__(
        self,
        sheet: Sheet,
        name: str,
        heads: tuple[str, str, str],
        accessible: str,
        read: Callable[[Design], dict[str, str]],
        shown: Callable[[str], str],
        give: Callable[[Design, str, str], Design],
    ) -> None:
        self.sheet, self.read, self.shown, self.give, self.name = sheet, read, shown, give, name
        self.table = CellsView(f"{name}_table", heads, self._fixed)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.table.setAccessibleName(translate(accessible))
        self.table.cells.typed.connect(self._changed)
        self.fault = _label("", "short")
        self.fault.setObjectName(f"{name}_fault")
        self.known = 0
        self.fill()

    def fill(self) -> None:
        """Show the design's present entries."""
        rows = self.read(self.sheet.session.design)
        self.known = len(rows)
        self.table.put([*((name, text, self.shown(name)) for name, text in rows.items()), ("", "", "")])

    def _fixed(self, row: int, column: int) -> bool:
        """What is found is only read, and so is the name of what there is."""
        return column == 2 or (column == 0 and row < self.known)

    def _changed(self, row: int) -> None:
        name, text, _ = self.table.row(row)
        known = name in self.read(self.sheet.session.design)
        if not name or not (text or known):
            return
        label = f"{name} = {text}" if text else tr("{name} taken away", name=name)
        fault = self.sheet.session.attempt(lambda d, _r: self.give(d, name, text), label).fault
        self.fault.setText(str(fault or ""))
        if fault is not None and known:
            self.fill()


def formula_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """Named values, and formulas between the quantities of the design."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText(translate(tr("Named values and formulas")))
    sheet.setAccessibleName(translate(tr("Named values and formulas")))
    column = sheet.add_column()

    def value_now(name: str) -> str:
        try:
            return tr("{design:.6g}", design=named_values(session.design, session.results)[name])
        except (OutOfRange, KeyError):
            return ""

    def quantity_now(place: str) -> str:
        field = all_fields(session.design).get(place)
        value = field.read(session.design, session.results) if field else None
        return "" if field is None or value is None else number_with_unit(value, field.kind, session.system)

    names = Editable(
        sheet,
        "names",
        ("name", tr("number or formula"), tr("value")),
        tr("Named values"),
        lambda d: d.names,
        value_now,
        with_name,
    )
    ties = Editable(
        sheet,
        "formulas",
        (tr("quantity"), tr("formula"), tr("value")),
        tr("Formulas of quantities"),
        lambda d: d.formulas,
        quantity_now,
        with_formula,
    )
    example = _label(
        tr(
            "Nothing is named yet. An example: “width” stands for the face width of the wheel, and both gears of the "
            "stage are tied to it; change the value, and both follow. Taking it changes nothing by itself."
        )
    )
    example.setObjectName("formula_example")
    take = QPushButton(translate(tr("Take the example")))
    take.setObjectName("formula_take")
    take.clicked.connect(
        lambda: session.edit(lambda d, _r: with_example(d, session.stage), tr("named values: example"))
    )
    column.addWidget(example)
    column.addWidget(take, alignment=Qt.AlignmentFlag.AlignLeft)

    def offer() -> None:
        empty = not session.design.names and not session.design.formulas
        for widget in (example, take):
            widget.setVisible(empty)

    column.addWidget(_label(tr("Named values"), "copper", bold=True))
    column.addWidget(names.table)
    column.addWidget(names.fault)
    column.addWidget(_label(tr("Formulas of quantities"), "copper", bold=True))
    column.addWidget(ties.table)
    column.addWidget(ties.fault)
    column.addWidget(
        _label(
            tr(
                "A quantity is written as its tag with its stage before it, as stage1.b_1; typing = and a "
                "formula into a tag does the same. Lengths count in mm, angles in degrees. + - * / ^, "
                "brackets, pi, sqrt, sin, cos, tan, min, max, round."
            ),
        )
    )

    def follow() -> None:
        if isValid(names.table):
            names.fill()
            ties.fill()
            offer()

    offer()
    sheet.watch(follow)
    return sheet


register_sheet(
    SheetEntry(
        "formulas",
        tr("Named values and formulas"),
        "Ctrl+8",
        lambda w: formula_sheet(w.session, w.theme, w.bench),
        (620, 560),
        17,
    )
)

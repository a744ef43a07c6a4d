"""The parts list of the machine as a sheet: what is made and what is bought."""

from __future__ import annotations

from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QPushButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.rows_view import RowsView
from cooper.document.units import number_with_unit
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.results.assembly_steps import assembly_steps
from cooper.results.find_machine import cached_machine
from cooper.results.parts_list import Item, parts_list

Row = tuple[int, Item]


class PartsSheet(Sheet):
    """Item numbers, counts, designations, materials and masses; copied as a table."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.title.setText(translate(tr("Parts list of the machine")))
        self.setAccessibleName(translate(tr("Parts list of the machine")))
        column = self.add_column()
        self.table = RowsView(
            {
                tr("item"): lambda r: str(r[0]),
                tr("count"): lambda r: str(r[1].count),
                tr("part"): lambda r: r[1].name,
                tr("designation"): lambda r: r[1].designation,
                tr("material"): lambda r: r[1].material,
                tr("mass of one"): lambda r: number_with_unit(r[1].mass, "mass", session.system),
                tr("on"): lambda r: r[1].on,
            },
            stretch=False,
            color=lambda r: theme.color("ink" if r[1].bought else "driven"),
        )
        self.table.setObjectName("parts_table")
        self.table.setAccessibleName(translate(tr("Parts list of the machine")))
        column.addWidget(self.table, 1)
        self.steps = RowsView(
            {
                tr("step"): lambda r: str(r[0]),
                tr("where"): lambda r: r[1].where,
                tr("order of assembly"): lambda r: r[1].words,
            },
            stretch=False,
            color=lambda _r: theme.color("ink"),
        )
        self.table.setMinimumHeight(240)
        self.steps.setMinimumHeight(200)
        self.steps.setObjectName("assembly_steps")
        self.steps.setAccessibleName(translate(tr("order of assembly")))
        column.addWidget(self.steps, 1)
        self.told = Label()
        self.told.setObjectName("parts_words")
        self.told.setWordWrap(True)
        th.set_text_role(self.told, "muted", th.SMALL)
        column.addWidget(self.told)
        button = QPushButton(translate(tr("Copy as a table")))
        button.setObjectName("copy_parts")
        button.clicked.connect(self.copy)
        column.addWidget(button)
        self.watch(self.fill)
        self.fill()
        self.finish()

    def rows(self) -> list[Row]:
        """The numbered parts; none where the machine is not known."""
        machine = cached_machine(self.session.design.train, self.session.results)
        if machine is None:
            return []
        return list(enumerate(parts_list(self.session.design, self.session.results, machine), 1))

    def fill(self) -> None:
        """Follow the design."""
        rows = self.rows()
        self.table.show_rows(rows)
        machine = cached_machine(self.session.design.train, self.session.results)
        self.steps.show_rows([] if machine is None else list(enumerate(assembly_steps(machine), 1)))
        mass = sum(i.count * i.mass for _n, i in rows)
        self.told.setText(
            translate(
                tr(
                    "{count} parts in {rows} rows, {mass}. Designations by the standards; screws and dowels of the "
                    "housing and shims are not in the list yet.",
                    count=sum(i.count for _n, i in rows),
                    rows=len(rows),
                    mass=number_with_unit(mass, "mass", self.session.system),
                )
                if rows
                else tr("The machine is not laid out yet: open the lens Shafts, or let it count.")
            )
        )

    def copy(self) -> None:
        """The list on the clipboard, a row a line."""
        names, cells = self.table.rows.names, self.table.rows.cells
        lines = ["\t".join(names), *("\t".join(cell(row) for cell in cells) for row in self.rows())]
        QGuiApplication.clipboard().setText(translate(join("\n", lines)))


register_sheet(
    SheetEntry(
        "parts",
        tr("Parts list of the machine"),
        "",
        lambda w: PartsSheet(w.session, w.theme, w.bench),
        (925, 590),
        14,
    )
)

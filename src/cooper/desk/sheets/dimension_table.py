"""The dimension sheet of one gear, as it belongs on its drawing."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import (
    QPushButton,
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.rich_page import RichPage
from cooper.desk.widgets.typeset import html
from cooper.document.plain import get_at
from cooper.document.quantities import parts
from cooper.editing.sheet_fields import member_path
from cooper.exchange.dimension_sheet import Row, dimension_rows, dimension_text
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate


def dimension_sheet(session: Session, theme: th.Theme, parent: QWidget, i: int) -> Sheet:
    """Everything about gear i (1, 2) that belongs on its drawing; follows the design, copied as a table."""
    sheet = Sheet(session, theme, parent)
    k = session.stage
    name = get_at(session.design, member_path(session.design, k, i)).name
    sheet.title.setText(translate(tr("{name!c}: dimension sheet", name=name)))
    sheet.setAccessibleName(translate(tr("Dimension sheet of {name}", name=name)))
    table = RichPage("dimension_table")
    column = sheet.add_column()
    column.addWidget(table, 1)

    def rows() -> list[Row]:
        return dimension_rows(session.design, k, session.results.stages[k], i)

    def fill() -> None:
        if not isValid(table):
            return
        lines, group = [], ""
        for row in rows():
            if row.group != group:
                group = row.group
                lines.append(
                    f"<tr><td colspan=3 style='color:{theme.copper}; "
                    f"padding-top:5px'><b>{html(term(group))}</b></td></tr>"
                )
            symbol = html(row.symbol) if "_" in row.symbol else f"<i>{parts(row.symbol)[0]}</i>"
            lines.append(
                f"<tr><td style='color:{theme.muted}; padding-right:24px'>{html(row.meaning)}</td>"
                f"<td style='padding-right:24px'>{symbol}</td><td><b>{html(row.text(session.system))}</b></td></tr>"
            )
        table.set_markup(f"<table cellspacing=0 cellpadding=1>{''.join(lines)}</table>")

    copy = QPushButton(translate(tr("Copy as a table")))
    copy.setObjectName("copy_dimensions")
    copy.clicked.connect(lambda: QGuiApplication.clipboard().setText(translate(dimension_text(rows(), session.system))))
    column.addWidget(copy, alignment=Qt.AlignmentFlag.AlignLeft)
    sheet.watch(fill)
    fill()
    return sheet


for _i, _words in ((1, tr("driving")), (2, tr("driven"))):
    register_sheet(
        SheetEntry(
            f"sheet_{_i}",
            tr("Dimension sheet of the {words} gear", words=_words),
            f"Ctrl+Alt+{_i}",
            lambda w, i=_i: dimension_sheet(w.session, w.theme, w.bench, i),  # type: ignore[misc]
            (760, 585),
            2 + _i,
        )
    )

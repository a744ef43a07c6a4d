"""The sheet that rounds a design to decent numbers and shows what that costs."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.finder import Finder
from cooper.desk.sheets.sheet import Sheet
from cooper.document.models import Design
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.survey.rounding import Rounded

COLUMNS = {
    "rounded": lambda r: r.words,
    "mass %": lambda r: tr("{mass:+.1f}", mass=round(100 * r.mass, 1) + 0.0),
    "worst margin %": lambda r: tr("{worst:.1f}", worst=100 * r.worst),
    "verdict": lambda r: term(r.results.verdict),
}


def _designs(rows: list[Rounded]) -> tuple[object, ...]:
    return "cooper.editing.offered:each_evaluated", [row.design for row in rows]


def round_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """All ways to round the present design, worked out beside the window."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText(translate(tr("Round to preferred numbers")))
    sheet.setAccessibleName(translate(tr("Round widths, centre distances and shifts")))

    def taken(result: Rounded) -> tuple[str, Design]:
        return tr("rounded: {words}", words=result.words), result.design

    none = tr("Widths, centre distances and shifts are round numbers already, or follow from others.")
    finder = Finder(sheet, "round", COLUMNS, taken, none, ask=_designs)
    column = sheet.add_column()
    column.addWidget(finder.words)
    column.addWidget(finder.table, 1)

    def find() -> None:
        finder.find("cooper.survey.rounding:each_rounded", lambda: (session.design,))

    find()
    sheet.watch(find)
    return sheet


register_sheet(
    SheetEntry(
        "round",
        tr("Round widths, centre distances and shifts to preferred numbers"),
        "",
        lambda w: round_sheet(w.session, w.theme, w.bench),
        (925, 590),
        16,
    )
)

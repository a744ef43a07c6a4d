"""The notes of the present results."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.rich_page import RichPage
from cooper.desk.widgets.typeset import html
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.comparison_notes import all_notes


def notes_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """The notes of the present results, those that matter for the part first."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText(translate(tr("Notes on these results")))
    column = sheet.add_column()
    order = {"warning": 0, "range": 1, "assumed": 2}
    words = {"warning": tr("for the part"), "range": tr("outside the method's range"), "assumed": tr("assumed")}
    page = RichPage("all_notes")
    column.addWidget(page, 1)

    def show() -> None:
        text = []
        for note in sorted(all_notes(session.results), key=lambda n: order[n.level]):
            mark = f"<span style='color:{theme.copper}'>{html(words[note.level])}</span>"
            several = len(session.results.stages) > 1 and note.stage is not None
            where = tr("{name}: ", name=session.results.stages[note.stage or 0].name) if several else ""
            text.append(f"<p style='margin-top:0; margin-bottom:5px'>{mark}&nbsp; {html(where + note.text)}</p>")
        page.set_markup("".join(text))

    show()
    sheet.watch(show)
    return sheet


register_sheet(
    SheetEntry(
        "notes",
        tr("Read the notes on these results"),
        "Ctrl+I",
        lambda w: notes_sheet(w.session, w.theme, w.bench),
        (700, 480),
        18,
    )
)

"""The sheet of the plastic gears: how they run, what warms them, and what they come to."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.choices import Choice, path_choice
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.typeset import html
from cooper.document.models import Design
from cooper.document.units import number_with_unit
from cooper.editing.sheet_fields import plastic_fields
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.checks import gear_word
from cooper.results.result_tree import Results
from cooper.stock.materials import is_plastic
from cooper.stock.plastic_service import housings, running_words

COLUMNS = (
    ("theta_Fla", tr("flanks")),
    ("theta_Fuss", tr("roots")),
    ("S_F", tr("root safety")),
    ("S_H", tr("flank safety")),
    ("delta_W", tr("wear")),
)


def has_plastics(design: Design) -> bool:
    """Whether a gear of the train is of plastic."""
    return any(is_plastic(g.material.group) for s in design.train.stages for g in s.gears)


def plastic_rows(results: Results, system: str) -> list[list[str]]:
    """One row for each plastic gear of each mesh: where it stands, its temperatures, safeties, wear."""
    rows = []
    for s in results.stages:
        for i, g in enumerate(s.gears, 1):
            if "theta_Fla" not in g:
                continue
            known = [
                number_with_unit(g[c], {"t": "temperature", "S": "safety", "d": "allowance"}[c[0]], system)
                if c in g
                else "–"
                for c, _ in COLUMNS
            ]
            rows.append([s.name, gear_word(s, i), *known])
    return rows


def plastic_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """What holds for all plastic gears of the train, and the warmth and wear of each."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText(translate(tr("Plastic gears, VDI 2736-2")))
    sheet.setAccessibleName(translate(tr("Plastic gears")))
    base = "train.defaults.plastics"

    def choice(name: str, meaning: str, words: dict[object, str]) -> Choice:
        return path_choice(session, f"plastic_{name}", meaning, f"{base}.{name}", words)

    fields = plastic_fields()
    warmed: dict[object, str] = {"entered": tr("as the gears, entered"), "by friction": tr("from their friction")}
    heat = choice("heat", tr("temperature of the teeth"), warmed)
    running = choice("running", tr("lubrication"), dict(running_words().items()))
    housing = choice("housing", tr("housing"), {name: row["words"] for name, row in housings().items()})
    sheet.add_brief(plastic_topics(), [*fields.values(), heat, running, housing])
    right = sheet.add_column(1)
    head = Label(tr("What they come to"))
    th.set_text_role(head, "copper", bold=True)
    right.addWidget(head)
    table = Label()
    table.setObjectName("plastic_table")
    table.setTextFormat(Qt.TextFormat.RichText)
    right.addWidget(table)
    text = Label(
        html(
            tr(
                "Wear is known where a gear states its wear coefficient k_W. Own materials, modulus and "
                "strength stand on the sheet of each gear, "
            )
        )
        + tr("the friction coefficient on that of its mesh.")
    )
    text.setTextFormat(Qt.TextFormat.RichText)
    text.setWordWrap(True)
    text.setMaximumWidth(430)
    th.set_text_role(text, "muted", th.SMALL)
    right.addWidget(text)

    def fill() -> None:
        if not isValid(table):
            return
        rows = plastic_rows(session.results, session.system)
        names = "".join(
            f"<td style='color:{theme.muted}; padding-right:14px'>{html(w)}</td>"
            for w in ("", "", *(w for _, w in COLUMNS))
        )
        lines = [
            "<tr>" + "".join(f"<td style='padding-right:14px'>{html(cell)}</td>" for cell in row) + "</tr>"
            for row in rows
        ]
        table.setText(
            translate(
                f"<table cellspacing=0 cellpadding=2><tr>{names}</tr>{''.join(lines)}</table>"
                if rows
                else tr("No gear of this train is of plastic.")
            )
        )

    sheet.watch(fill)
    fill()
    sheet.finish()
    return sheet


def plastic_topics() -> list[Topic]:
    """How plastic gears run, as one would tell it."""
    at = {name: slot(f"plastic_{name}") for name in PLASTIC_SLOTS}
    return [
        Topic(
            tr("How they run"),
            [Sentence(tr("Teeth {running}, {ED} of the time under load; their temperature: {heat}.", **at))],
        ),
        Topic(
            tr("Around them"),
            [Sentence(tr("Housing {housing}, with {A_h} of surface to air at {theta_air}.", **at))],
        ),
        Topic(
            tr("Required of them"),
            [Sentence(tr("Roots at least {S_Fmin}, flanks {S_Hmin}; wear at most {delta_Wmax}.", **at))],
        ),
    ]


PLASTIC_SLOTS = ("heat", "running", "ED", "housing", "A_h", "theta_air", "S_Fmin", "S_Hmin", "delta_Wmax")
"""The values of plastic gears: each stands in their sentences once."""


register_sheet(
    SheetEntry(
        "plastics",
        tr("Plastic gears: warmth, lubrication, wear"),
        "",
        lambda w: plastic_sheet(w.session, w.theme, w.bench),
        (900, 480),
        12,
    )
)

"""The sheet of the flanks' forms: reliefs, crownings and slopes of both gears, drawn as they add up."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.forms_drawing import FormsDrawing
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.choices import Choice, Option, path_choice
from cooper.desk.widgets.labels import Label
from cooper.document.models import Design
from cooper.document.quantities import plain
from cooper.document.units import number_with_unit
from cooper.editing.fields import Field
from cooper.editing.forms import FACE, PROFILE, form_fields, own_flanks, sides_of, start_fields
from cooper.i18n.text import capital, join, tr
from cooper.i18n.translate import translate
from cooper.results.form_limits import form_limits

OWN = {False: tr("alike"), True: tr("each its own")}
RUNS: dict[object, str] = {"straight": tr("straight"), "curved": tr("curved"), "circular": tr("an arc")}


class FormsSheet(Sheet):
    """Forms of both gears of the selected mesh."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.k = session.stage
        self.title.setText(translate(tr("Forms of the flanks")))
        self.setAccessibleName(translate(tr("Forms of the flanks")))
        self.renew = self._fields
        fields = self._fields()
        doc = session.design.train.stages[self.k]
        drawing = FormsDrawing(session, theme, self.k)
        members = doc.gears
        topics: list[Topic] = []
        rows: list[Field | Choice] = list(fields.values())
        for i, gear in enumerate(members, 1):
            rows.append(self._own(i))
            sides = sides_of(session.design, self.k, i)
            for (path, end), side in zip(sides, ("right", "left") if len(sides) > 1 else ("",), strict=True):
                meaning = tr("run of the reliefs")
                rows.append(path_choice(session, f"relief_{i}{end}", meaning, f"{path}.relief", RUNS))
                topics.append(flank_topic(gear.name, i, end, side))
        self.add_brief([*topics, pair_topic()], rows)
        column = self.add_column(1)
        column.addWidget(drawing, 1)
        self.limits = Label()
        self.limits.setObjectName("form_limits")
        self.limits.setWordWrap(True)
        th.set_text_role(self.limits, "muted", th.SMALL)
        column.addWidget(self.limits)
        self.watch(drawing.update)
        self.watch(self._limit)
        self._limit()
        self.finish()

    def _own(self, i: int) -> Choice:
        """Whether the left flanks of gear i (1, 2) are as the right ones."""

        def now(d: Design) -> str:
            return OWN[len(sides_of(d, self.k, i)) > 1]

        def options() -> list[Option]:
            return [(words, partial(own_flanks, stage=self.k, i=i, own=own)) for own, words in OWN.items()]

        return Choice(self.session, f"own_flanks_{i}", tr("left and right flanks"), now, options)

    def _fields(self) -> dict[str, Field]:
        design = self.session.design
        result = form_fields(design, self.k, (*PROFILE, *FACE))
        for i in (1, 2):
            result |= start_fields(design, self.k, i)
        return result

    def _limit(self) -> None:
        """How much is sensible and how much is possible."""
        stages = self.session.results.stages
        if self.k >= len(stages) or not stages[self.k].rated:
            self.limits.setText(translate(tr("No load is on this mesh: what is sensible depends on it.")))
            return
        text, system = [], self.session.system
        for symbol, words in (
            ("C_alphaa", tr("tip relief")),
            ("C_alphaf", tr("root relief")),
            ("C_betaI", tr("end relief")),
            ("C_alpha", tr("profile crowning")),
            ("C_Halpha", tr("profile slope")),
            ("C_beta", tr("crowning of the pair")),
            ("C_Hbeta", tr("helix slope of the pair")),
        ):
            rows = [form_limits(stages[self.k], i)[symbol] for i in (0, 1)]
            low = number_with_unit(rows[0].low, "roughness", system)
            high = number_with_unit(min(r.high for r in rows), "roughness", system)
            text.append(
                tr(
                    "{capitalize}: {low} to {high}, {why}.",
                    capitalize=capital(words),
                    low=low,
                    high=high,
                    why=rows[0].why,
                )
            )
        self.limits.setText(translate(tr("What is sensible at this load.\n") + join("\n", text)))


def flank_topic(name: str, i: int, end: str, side: str) -> Topic:
    """The flanks of gear i (1, 2), or those of one ``side``, whose quantities' names have an ``end``."""
    at = {s: slot(plain(s, i) + end) for s in FLANK_SLOTS}
    at |= {"relief": slot(f"relief_{i}{end}"), "own": slot(f"own_flanks_{i}")}
    alike = [] if end else [Sentence(tr("Left and right flanks are {own}.", **at))]
    return Topic(
        {"": name, "right": tr("{name}, right", name=name), "left": tr("{name}, left", name=name)}[side],
        [
            *alike,
            Sentence(tr("Tip relief {C_alphaa} over a length of roll of {l_Ca}.", **at)),
            Sentence(tr("It begins at {d_Ca}, a roll angle of {xi_Ca}.", **at), light=True),
            Sentence(tr("Root relief {C_alphaf} over a length of roll of {l_Cf}.", **at)),
            Sentence(tr("It ends at {d_Cf}, a roll angle of {xi_Cf}.", **at), light=True),
            Sentence(tr("Both run {relief}; profile crowning {C_alpha}, profile slope {C_Halpha} at the tip.", **at)),
            Sentence(tr("End relief on the left {C_betaI} over {l_CI}, on the right {C_betaII} over {l_CII}.", **at)),
        ],
    )


def pair_topic() -> Topic:
    """What both gears have together along the face."""
    at = {s: slot(s) for s in ("C_beta", "C_Hbeta")}
    return Topic(
        tr("Along the face"), [Sentence(tr("The pair is crowned by {C_beta}, its helix sloped by {C_Hbeta}.", **at))]
    )


FLANK_SLOTS = (
    *("C_alphaa", "l_Ca", "d_Ca", "xi_Ca", "C_alphaf", "l_Cf", "d_Cf", "xi_Cf", "C_alpha", "C_Halpha"),
    *("C_betaI", "l_CI", "C_betaII", "l_CII"),
)
"""The values of the flanks of a gear."""


register_sheet(
    SheetEntry(
        "forms",
        tr("Forms of the flanks …"),
        "Ctrl+Shift+R",
        lambda w: FormsSheet(w.session, w.theme, w.bench),
        (1180, 760),
        65,
    )
)

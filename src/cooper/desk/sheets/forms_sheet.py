"""The sheet of the flanks' forms: reliefs, crownings and slopes of both gears, drawn as they add up."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.forms_drawing import FormsDrawing
from cooper.desk.sheets.sheet import Sheet
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

PROFILE_WORDS = {
    "C_alphaa": tr("tip relief"),
    "l_Ca": tr("over a length of roll"),
    "d_Ca": tr("from a diameter on"),
    "xi_Ca": tr("from a roll angle on"),
    "C_alphaf": tr("root relief"),
    "l_Cf": tr("over a length of roll"),
    "d_Cf": tr("up to a diameter"),
    "xi_Cf": tr("up to a roll angle"),
    "C_alpha": tr("profile crowning"),
    "C_Halpha": tr("profile slope, at the tip"),
}
FACE_WORDS = {
    "C_betaI": tr("end relief, left"),
    "l_CI": tr("over a length"),
    "C_betaII": tr("end relief, right"),
    "l_CII": tr("over a length"),
}
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
        mesh = doc.meshes[0]
        drawing = FormsDrawing(session, theme, self.k)
        members = doc.members[mesh.driver], doc.members[mesh.driven]
        columns: list[tuple[str, int, str, str]] = []
        for i, gear in enumerate(members, 1):
            sides = sides_of(session.design, self.k, i)
            for (path, end), text in zip(sides, ("right", "left") if len(sides) > 1 else ("",), strict=True):
                columns.append((tr("{name}, {told}", name=gear.name, told=text) if text else gear.name, i, path, end))
        column = self.add_column()
        own = [self._own(i) for i in (1, 2)]
        self.add_pairs(
            column, tr("Flanks"), tuple(g.name for g in members), [(tr("left and right flanks"), tuple(own))]
        )
        heads = tuple(head for head, *_ in columns)
        for title, words in ((tr("Profile"), PROFILE_WORDS), (tr("Ends of the face"), FACE_WORDS)):
            keys = {s: [plain(s, i) + end for _, i, _, end in columns] for s in words}
            rows: list[tuple[str, tuple[Field | Choice, ...]]] = [
                (text, tuple(fields[key] for key in keys[s]))
                for s, text in words.items()
                if all(key in fields for key in keys[s])
            ]
            if title == "Profile":
                runs = (
                    path_choice(session, f"relief_{i}{end}", tr("run of the reliefs"), f"{path}.relief", RUNS)
                    for _, i, path, end in columns
                )
                rows.append((tr("run of the reliefs"), tuple(runs)))
            self.add_pairs(column, title, heads, rows)
        self.add_group(column, tr("The pair along the face"), [fields["C_beta"], fields["C_Hbeta"]])
        column.addStretch(1)
        column = self.add_column()
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

"""The sheet of the flanks' forms: reliefs, crownings and slopes of both gears, drawn as they add up."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from cooper.desk.frame import theme as th
from cooper.desk.frame.registry import SheetEntry, register_sheet
from cooper.desk.frame.session import Session
from cooper.desk.sheets.forms_drawing import FormsDrawing
from cooper.desk.sheets.sheet import Choice, Sheet, path_choice
from cooper.desk.widgets.labels import Label
from cooper.document.quantities import plain
from cooper.document.units import number_with_unit
from cooper.editing.fields import Field, member_path
from cooper.editing.forms import FACE, PROFILE, form_fields, start_fields
from cooper.results.form_limits import form_limits

PROFILE_WORDS = {
    "C_alphaa": "tip relief",
    "l_Ca": "over a length of roll",
    "d_Ca": "from a diameter on",
    "xi_Ca": "from a roll angle on",
    "C_alphaf": "root relief",
    "l_Cf": "over a length of roll",
    "d_Cf": "up to a diameter",
    "xi_Cf": "up to a roll angle",
    "C_alpha": "profile crowning",
    "C_Halpha": "profile slope, at the tip",
}
FACE_WORDS = {
    "C_betaI": "end relief, left",
    "l_CI": "over a length",
    "C_betaII": "end relief, right",
    "l_CII": "over a length",
}
RUNS: dict[object, str] = {"straight": "straight", "curved": "curved", "circular": "an arc"}


class FormsSheet(Sheet):
    """Forms of both gears of the selected mesh."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.k = session.stage
        self.title.setText("Forms of the flanks")
        self.setAccessibleName("Forms of the flanks")
        self.renew = self._fields
        fields = self._fields()
        doc = session.design.train.stages[self.k]
        mesh = doc.meshes[0]
        drawing = FormsDrawing(session, theme, self.k)
        heads = doc.members[mesh.driver].name, doc.members[mesh.driven].name
        column = self.add_column()
        for title, words in (("Profile", PROFILE_WORDS), ("Ends of the face", FACE_WORDS)):
            rows: list[tuple[str, Field | Choice, Field | Choice]] = [
                (told, fields[plain(s, 1)], fields[plain(s, 2)])
                for s, told in words.items()
                if plain(s, 1) in fields and plain(s, 2) in fields
            ]
            if title == "Profile":
                one, two = (path_choice(session, f"relief_{i}", "run of the reliefs", f"{member_path(session.design, self.k, i)}.flanks.relief", RUNS) for i in (1, 2))  # fmt: skip
                rows.append(("run of the reliefs", one, two))
            self.add_pairs(column, title, heads, rows)
        self.add_group(column, "The pair along the face", [fields["C_beta"], fields["C_Hbeta"]])
        column.addStretch(1)
        column = self.add_column()
        column.addWidget(drawing, 1)
        self.limits = Label()
        self.limits.setObjectName("form_limits")
        self.limits.setWordWrap(True)
        th.put_on(self.limits, th.label_style(theme, "muted", th.SMALL))
        column.addWidget(self.limits)
        self.watch(drawing.update)
        self.watch(self._limit)
        self._limit()
        self.finish()

    def _fields(self) -> dict[str, Field]:
        design = self.session.design
        found = form_fields(design, self.k, (*PROFILE, *FACE))
        for i in (1, 2):
            found |= start_fields(design, self.k, i)
        return found

    def _limit(self) -> None:
        """How much is sensible and how much is possible."""
        stages = self.session.results.stages
        if self.k >= len(stages) or not stages[self.k].rated:
            self.limits.setText("No load is on this mesh: what is sensible depends on it.")
            return
        told, system = [], self.session.system
        for symbol, words in (
            ("C_alphaa", "tip relief"),
            ("C_alphaf", "root relief"),
            ("C_betaI", "end relief"),
            ("C_alpha", "profile crowning"),
            ("C_beta", "crowning of the pair"),
        ):
            rows = [form_limits(stages[self.k], i)[symbol] for i in (0, 1)]
            low = number_with_unit(rows[0].low, "roughness", system)
            high = number_with_unit(min(r.high for r in rows), "roughness", system)
            told.append(f"{words.capitalize()}: {low} to {high}, {rows[0].why}.")
        self.limits.setText("What is sensible at this load.\n" + "\n".join(told))


register_sheet(
    SheetEntry(
        "forms",
        "Forms of the flanks …",
        "Ctrl+Shift+R",
        lambda w: FormsSheet(w.session, w.theme, w.bench),
        (1180, 760),
        65,
    )
)

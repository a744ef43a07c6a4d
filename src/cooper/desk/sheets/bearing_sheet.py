"""The sheet of bearings for a place on a shaft: all that fit there, with life, safety, limit of speed, mass and
loss; one click takes one."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.base.workers import submit
from cooper.desk.sheets.finder import Finder
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.labels import Label
from cooper.document.models import Design
from cooper.document.units import number_with_unit
from cooper.editing.machine_edits import in_machine
from cooper.errors import message_of
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.results.bearing_rows import BearingRow
from cooper.results.find_machine import cached_machine, keep_machine
from cooper.results.machine_result import MachineResult


class BearingSheet(Sheet):
    """Bearings for the selected place of the Shafts lens, else for the first of the selected stage's shaft."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget, key: str, piece: str) -> None:
        super().__init__(session, theme, parent)
        # What is selected in the Shafts lens, where anything is, until the machine is known.
        self.shaft, self.name = key, piece
        self.title.setText(translate(tr("Bearings")))
        self.setAccessibleName(translate(tr("Bearings to choose from")))
        system = session.system

        def shown(value: float, kind: str) -> str:
            return number_with_unit(value, kind, system)

        column = self.add_column()
        self.finder = Finder(
            self,
            "bearing",
            {
                "type": lambda r: term(r.bearing.type),
                tr("designation"): lambda r: r.bearing.designation,
                "d × D × B": lambda r: tr("{d:g} × {D:g} × {B:g}", d=r.bearing.d, D=r.bearing.D, B=r.bearing.B),
                "C_r": lambda r: shown(r.C, "force"),
                "life": lambda r: tr("unloaded") if r.L_nmh >= 1e9 else shown(r.L_nmh, "time"),
                "S_0": lambda r: tr("{S_0:.2f}", S_0=r.S_0) if r.S_0 < 1e3 else "> 1000",
                "up to": lambda r: shown(r.bearing.n_limit, "speed"),
                "mass": lambda r: shown(r.bearing.mass, "mass"),
                "loss": lambda r: shown(r.P_loss, "power"),
                "": lambda r: (
                    (tr("holds") if r.holds else tr("falls short")) + (tr(", in a pair") if r.bearing.adjusted else "")
                ),
            },
            self._taken,
        )
        column.addWidget(self.finder.table, 20)
        column.addWidget(self.finder.words)
        note = Label(
            tr(
                "Boundary dimensions of ISO 15, ratings from typical inner dimensions; a maker's ratings are "
                "typed in the bar under the shaft. Loads are those of the present shaft; taking one lets the "
                "rest follow."
            )
        )
        note.setWordWrap(True)
        th.set_text_role(note, "muted", th.SMALL)
        column.addWidget(note)
        self.finish()
        self._lay_out()

    def _lay_out(self) -> None:
        """Have the machine of the present design, found beside the window where it is not known."""
        train, results = self.session.design.train, self.session.results
        result = cached_machine(train, results)
        if result is not None:
            self._begin(result)
            return
        self.finder.words.setText(translate(tr("The machine is laid out …")))

        def take(machine: MachineResult) -> None:
            keep_machine(train, machine)
            if isValid(self):
                self._lay_out()

        def done(fault: Exception | None) -> None:
            if fault is not None and isValid(self):
                self.finder.words.setText(message_of(fault))

        submit("cooper.results.find_machine:each_machine", train, results, take=take, done=done)

    def _begin(self, result: MachineResult) -> None:
        """List what fits at the place that is selected, else at the first of the stage's shaft."""
        here = result.shaft(self.shaft) or result.shafts_of(self.session.stage)[0]
        names = [b.name for b in here.made.bearings]
        self.shaft, self.name = here.key, self.name if self.name in names else names[0]
        self.title.setText(translate(tr("Bearings for {name} of the {name_2}", name=self.name, name_2=here.name)))
        self.finder.find("cooper.results.bearing_rows:each_bearing", lambda: (result, self.shaft, self.name))

    def _taken(self, row: BearingRow) -> tuple[str, Design]:
        base = ("shafts", self.shaft)
        design = in_machine(
            self.session.design,
            ((*base, "bearings", self.name, "type"), row.bearing.type),
            ((*base, "bearings", self.name, "series"), row.bearing.series),
            ((*base, "pieces", self.name, "d"), row.bearing.d),
        )
        return tr("{name}: {name_2}", name=self.name, name_2=row.bearing.name), design


def _place(window: object) -> tuple[str, str]:
    """Shaft and bearing that are selected in the Shafts lens; empty where it was not looked at."""
    lens = window.bench.views.get("shafts")  # type: ignore[attr-defined]
    return (lens.key, lens.piece or "") if lens is not None else ("", "")


register_sheet(
    SheetEntry(
        "bearings",
        tr("Bearings to choose from for the selected place"),
        "Ctrl+5",
        lambda w: BearingSheet(w.session, w.theme, w.bench, *_place(w)),
        (900, 560),
        14,
    )
)

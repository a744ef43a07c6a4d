"""The sheet of bearings for a place on a shaft: all that fit there, with life, safety, limit of speed, mass and loss; one click takes one."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from cooper.desk.frame import theme as th
from cooper.desk.frame.registry import SheetEntry, register_sheet
from cooper.desk.frame.session import Session
from cooper.desk.sheets.finder import Finder
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.labels import Label
from cooper.document.models import Design
from cooper.document.units import number_with_unit
from cooper.editing.machine_edits import in_machine
from cooper.results.bearing_rows import BearingRow
from cooper.results.find_machine import machine_of


class BearingSheet(Sheet):
    """Bearings for the selected place of the Shafts lens, else for the first of the selected stage's shaft."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget, shaft: str, name: str) -> None:
        super().__init__(session, theme, parent)
        self.shaft, self.name = shaft, name
        found = machine_of(session.design.train, session.results)
        here = found.shaft(shaft)
        assert here is not None
        self.title.setText(f"Bearings for {name} of the {here.name}")
        self.setAccessibleName("Bearings to choose from")
        system = session.system

        def shown(value: float, kind: str) -> str:
            return number_with_unit(value, kind, system)

        column = self.add_column()
        self.finder = Finder(
            self,
            "bearing",
            {
                "type": lambda r: r.bearing.type,
                "series": lambda r: r.bearing.series,
                "d × D × B": lambda r: f"{r.bearing.d:g} × {r.bearing.D:g} × {r.bearing.B:g}",
                "C_r": lambda r: shown(r.C, "force"),
                "life": lambda r: "unloaded" if r.L_nmh >= 1e9 else shown(r.L_nmh, "time"),
                "S_0": lambda r: f"{r.S_0:.2f}" if r.S_0 < 1e3 else "> 1000",
                "up to": lambda r: shown(r.bearing.n_limit, "speed"),
                "mass": lambda r: shown(r.bearing.mass, "mass"),
                "loss": lambda r: shown(r.P_loss, "power"),
                "": lambda r: ("holds" if r.holds else "falls short") + (", in a pair" if r.bearing.adjusted else ""),
            },
            self._taken,
        )
        column.addWidget(self.finder.table, 20)
        column.addWidget(self.finder.words)
        note = Label(
            "Boundary dimensions of ISO 15, ratings from typical inner dimensions; a maker's ratings are typed in the bar under the shaft. "
            "Loads are those of the present shaft; taking one lets the rest follow."
        )
        note.setWordWrap(True)
        th.put_on(note, th.label_style(theme, "muted", th.SMALL))
        column.addWidget(note)
        self.finish()
        self.finder.find("cooper.results.bearing_rows:each_bearing", lambda: (found, shaft, name))

    def _taken(self, row: BearingRow) -> tuple[str, Design]:
        base = ("shafts", self.shaft)
        design = in_machine(
            self.session.design,
            ((*base, "bearings", self.name, "type"), row.bearing.type),
            ((*base, "bearings", self.name, "series"), row.bearing.series),
            ((*base, "pieces", self.name, "d"), row.bearing.d),
        )
        return f"{self.name}: {row.bearing.name}", design


def _place(window: object) -> tuple[str, str]:
    """Shaft and bearing that are selected in the Shafts lens, else the first ones of the stage."""
    session = window.session  # type: ignore[attr-defined]
    found = machine_of(session.design.train, session.results)
    lens = window.bench.views.get("shafts")  # type: ignore[attr-defined]
    shaft = found.shaft(lens.key) if lens is not None else None
    shaft = shaft or found.shafts_of(session.stage)[0]
    names = [b.name for b in shaft.made.bearings]
    piece = lens.piece if lens is not None and lens.piece in names else names[0]
    return shaft.key, piece


register_sheet(
    SheetEntry(
        "bearings",
        "Bearings to choose from for the selected place",
        "Ctrl+5",
        lambda w: BearingSheet(w.session, w.theme, w.bench, *_place(w)),
        (900, 560),
        14,
    )
)

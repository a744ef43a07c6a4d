"""Every way out of the window: reports, drawings, solids, tables, written at once or beside it."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog

from cooper.desk.frame.beside_window import beside
from cooper.desk.frame.exporting import Background, ExportDialog
from cooper.desk.frame.registry import Action, register_actions
from cooper.errors import OutOfRange
from cooper.exchange.ways import BESIDE, KINDS, MOVING, SLOW, WHOLE, Options

if TYPE_CHECKING:
    from cooper.desk.frame.window import Window


class WaysOut:
    """The exports of one window; one that takes long runs beside it."""

    def __init__(self, window: Window) -> None:
        self.window = window
        self.running = Background(self._written, window)
        self.words = ""

    def make_ready(self) -> None:
        """Load what a report needs beside the window, while its place is asked for."""
        beside("cooper.exchange.report_pdf:make_ready", take=lambda _: None)

    def export_dialog(self, kind: str) -> None:
        if kind in BESIDE:
            self.make_ready()
        path, _ = QFileDialog.getSaveFileName(
            self.window,
            f"Export {KINDS[kind]}",
            f"{self.window.session.design.name}{kind}",
            f"*{kind}",
        )
        if path:
            self.export_to(Path(path))

    def export_train(self, kind: str) -> None:
        """Ask for a place and write the whole train."""
        path, _ = QFileDialog.getSaveFileName(
            self.window, "Export the whole train", f"{self.window.session.design.name}{kind}", f"*{kind}"
        )
        if path:
            self.export_train_to(Path(path))

    def export_train_to(self, path: Path) -> None:
        """Write the whole train as drawing, solids or moving picture."""
        s = self.window.session
        if path.suffix.lower() in (*SLOW, *MOVING):
            self.running.start(s.design, path, WHOLE, Options(), self.window.bench.view("train").animation_options())
            self._writing(path)
            return
        self._write(path, WHOLE)

    def export_with_options(self) -> None:
        """Ask for kind, tolerance, compensation and curves, then for the place."""
        self.make_ready()
        dialog = ExportDialog(self.window, self.window.session.system)
        if dialog.exec():
            kind = dialog.kind.currentData()
            path, _ = QFileDialog.getSaveFileName(
                self.window, "Export", f"{self.window.session.design.name}{kind}", f"*{kind}"
            )
            if path:
                self.export_to(Path(path), dialog.options)

    def export_to(self, path: Path, options: Options | None = None) -> None:
        """Write an export; what takes seconds runs beside the window and can be cancelled."""
        s = self.window.session
        chosen = replace(options or Options(), state=s.state_words())
        if path.suffix.lower() in BESIDE:
            results = s.whole_results()
            beside(
                "cooper.exchange.save:export",
                s.design,
                results,
                path,
                s.system,
                s.stage,
                chosen,
                take=lambda _: None,
                done=partial(self._written_or_not, path),
            )
            return
        if path.suffix.lower() in SLOW:
            self.running.start(s.design, path, s.stage, chosen, ("--units", s.system))
            self._writing(path)
            return
        self._write(path, s.stage, chosen)

    def _write(self, path: Path, stage: int, options: Options | None = None) -> None:
        """Write what takes no time, and say how it went."""
        # Imported here: what writes takes a tenth of the time in which the window opens.
        from cooper.exchange.save import export

        s = self.window.session
        try:
            export(s.design, s.whole_results(), path, s.system, stage, options)
        except (OSError, ValueError, OutOfRange) as fault:
            self._written_or_not(path, fault)
        else:
            self._written_or_not(path, None)

    def _written_or_not(self, path: Path, fault: Exception | None) -> None:
        told = f"Not exported. {fault}" if fault is not None else f"Exported as {path}"
        self.window.notice.say(told, bad=fault is not None)

    def save_survey_table(self) -> None:
        """Ask for a place and write what the survey found, as the table shows it."""
        path, _ = QFileDialog.getSaveFileName(
            self.window, "Save the table", f"{self.window.session.design.name} survey.xlsx", "Tables (*.xlsx *.csv)"
        )
        if path:
            self.save_survey_to(Path(path))

    def print_shelf(self) -> None:
        """Ask for a place and write the designs side by side as PDF."""
        path, _ = QFileDialog.getSaveFileName(
            self.window, "Save the shelf", f"{self.window.session.design.name} shelf.pdf", "*.pdf"
        )
        page = self.window.survey_page
        if not path or page is None:
            return
        try:
            page.side.print_to(Path(path))
        except OSError as fault:
            self.window.notice.say(f"Not saved. {fault}", bad=True)
            return
        self.window.notice.say(f"Saved as {path}")

    def save_survey_to(self, path: Path) -> None:
        """Write the kept designs of the survey in the order of its table; beside the window, as there may be very many."""
        page = self.window.survey_page
        if page is None or page.found is None or not len(page.found):
            self.window.notice.say("No design was found yet: there is no table to save", bad=True)
            return
        keys = [k for k in page.table.rows.columns if k != "what"]
        rows = page.table.rows.order.tolist()

        def written(fault: Exception | None) -> None:
            told = f"Not saved. {fault}" if fault is not None else f"Saved as {path}"
            self.window.notice.say(told, bad=fault is not None)

        beside(
            "cooper.exchange.survey_table:save_survey",
            page.found,
            path,
            keys,
            rows,
            take=lambda _item: None,
            done=written,
        )

    def _writing(self, path: Path) -> None:
        self.words = f"Writing {path.name} …"
        # Where it could not even begin it is told already.
        if self.running.busy:
            self.window.notice.ask(self.words, [("Cancel", self.cancel)])

    def cancel(self) -> None:
        self.window.notice.withdraw(self.words)
        if self.running.busy:
            self.running.cancel()
            self.window.notice.say("The export was cancelled; nothing was written")

    def _written(self, path: Path, fault: str) -> None:
        self.window.notice.withdraw(self.words)
        if fault:
            self.window.notice.say(f"Not exported. {fault}", bad=True)
        else:
            self.window.notice.say(f"Exported as {path}")


def _export(window: Window, kind: str) -> None:
    window.ways_out.export_dialog(kind)


def _export_train(window: Window, kind: str) -> None:
    window.ways_out.export_train(kind)


def _no_survey(window: Window) -> str:
    """Why there is no table of a survey."""
    page = window.survey_page
    return "" if page is not None and page.found is not None else "Nothing was searched yet"


def _idle(window: Window) -> str:
    """Why there is nothing to cancel."""
    return "" if window.ways_out.running.busy else "No export is running"


register_actions(
    "ways out",
    Action(
        "export_options",
        "Export with options: tolerance, kerf, curves …",
        "Ctrl+E",
        lambda w: w.ways_out.export_with_options(),
        asks=True,
    ),
    Action(
        "survey_table",
        "Save the survey's table: spreadsheet or CSV …",
        "",
        lambda w: w.ways_out.save_survey_table(),
        _no_survey,
        asks=True,
    ),
    Action("export_cancel", "Cancel the export that is running", "", lambda w: w.ways_out.cancel(), _idle),
    *(
        Action(
            f"export_train_{kind}",
            f"Export {words} …",
            "",
            partial(_export_train, kind=kind),
            asks=True,
        )
        for kind, words in (
            (".dxf", "the whole train as DXF, layers by stage"),
            (".step", "the whole train as STEP solids in place and phase"),
            (".stl", "the whole train as an STL mesh in place"),
            (".3mf", "the whole train as 3MF meshes in place"),
            *MOVING.items(),
        )
    ),
    *(
        Action(f"export_{kind}", f"Export {words} …", "", partial(_export, kind=kind), asks=True)
        for kind, words in KINDS.items()
    ),
)

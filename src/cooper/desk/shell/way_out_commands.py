"""Every way out of the window: reports, drawings, solids, tables, written at once or beside it."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QFileDialog
from shiboken6 import isValid

from cooper.desk.base.registry import Action, register_actions
from cooper.desk.base.workers import Task, submit
from cooper.desk.shell.exporting import Background, ExportCard
from cooper.errors import message_of
from cooper.exchange.formats import KINDS, MOVING, REPORTS, SLOW, WHOLE, Options
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.results.find_machine import cached_machine
from cooper.results.machine_result import ShaftResult

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window


class ExportCommands:
    """The exports of one window; one that takes long runs beside it."""

    def __init__(self, window: Window) -> None:
        self.window = window
        self.running = Background(self._written, window)
        self.tasks: list[tuple[Path, Task]] = []
        self.close_then = False

    def make_ready(self) -> None:
        """Load what a report needs beside the window, while its place is asked for."""
        submit("cooper.exchange.report_pdf:make_ready", take=lambda _: None)

    def export_dialog(self, kind: str) -> None:
        if kind in REPORTS:
            self.make_ready()
        path, _ = QFileDialog.getSaveFileName(
            self.window,
            translate(tr("Export {kinds}", kinds=KINDS[kind])),
            f"{self.window.session.design.name}{kind}",
            translate(f"*{kind}"),
        )
        if path:
            self.export_to(Path(path))

    def export_train(self, kind: str) -> None:
        """Ask for a place and write the whole train."""
        path, _ = QFileDialog.getSaveFileName(
            self.window,
            translate(tr("Export the whole train")),
            f"{self.window.session.design.name}{kind}",
            translate(f"*{kind}"),
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
        self._write_beside(path, WHOLE, Options())

    def export_with_options(self) -> None:
        """Ask for kind, tolerance, compensation and curves, then for the place."""
        self.make_ready()
        dialog = ExportCard(self.window, self.window.session.system)
        if dialog.exec():
            kind = dialog.kind.currentData()
            path, _ = QFileDialog.getSaveFileName(
                self.window, translate(tr("Export")), f"{self.window.session.design.name}{kind}", translate(f"*{kind}")
            )
            if path:
                self.export_to(Path(path), dialog.options)

    def export_to(self, path: Path, options: Options | None = None) -> None:
        """Write an export; what takes seconds runs beside the window and can be cancelled."""
        s = self.window.session
        chosen = replace(options or Options(), state=s.state_words(), digits=self.window.digits)
        if path.suffix.lower() in SLOW:
            self.running.start(s.design, path, s.stage, chosen, ("--units", s.system))
            self._writing(path)
        else:
            self._write_beside(path, s.stage, chosen)

    def _write_beside(self, path: Path, stage: int, options: Options) -> None:
        """Have it written by the process beside the window, which is warm."""
        s = self.window.session
        asked: list[Task] = []
        task = submit(
            "cooper.exchange.save:export",
            s.design,
            s.whole_results(),
            path,
            s.system,
            stage,
            options,
            take=lambda _: None,
            done=lambda fault: self._written_beside(path, asked[0], fault),
        )
        asked.append(task)
        self.tasks.append((path, task))

    def _written_beside(self, path: Path, task: Task, fault: Exception | None) -> None:
        self.tasks = [one for one in self.tasks if one[1] is not task]
        self._written(path, "" if fault is None else message_of(fault))

    def save_survey_table(self) -> None:
        """Ask for a place and write what the survey found, as the table shows it."""
        path, _ = QFileDialog.getSaveFileName(
            self.window,
            translate(tr("Save the table")),
            tr("{name} survey.xlsx", name=self.window.session.design.name),
            translate(tr("Tables (*.xlsx *.csv)")),
        )
        if path:
            self.save_survey_to(Path(path))

    def shaft_in_view(self) -> ShaftResult | None:
        """The shaft of the machine that the lens Shafts shows, else the first of the selected stage."""
        s = self.window.session
        machine = cached_machine(s.design.train, s.results)
        if machine is None:
            return None
        lens = self.window.bench.views.get("shafts")
        return machine.shaft(getattr(lens, "key", "")) or machine.shafts_of(s.stage)[0]

    def save_machine_sheet(self, of_shaft: bool) -> None:
        """Ask for a place and write the drawing sheet of the shaft in view, or of the whole machine."""
        shaft = self.shaft_in_view()
        if shaft is None:
            return
        what = shaft.name if of_shaft else tr("machine")
        path, _ = QFileDialog.getSaveFileName(
            self.window,
            translate(tr("Save the drawing sheet")),
            tr("{name} {shaft}.pdf", name=self.window.session.design.name, shaft=what),
            translate(tr("Drawing sheets (*.pdf *.dxf *.svg)")),
        )
        if path:
            self.save_sheet_to(Path(path), shaft.key if of_shaft else "")

    def save_sheet_to(self, path: Path, key: str = "") -> None:
        """Write the drawing sheet of a shaft, or of the whole machine; in a worker process."""
        s = self.window.session

        def written(fault: Exception | None) -> None:
            text = tr("Not saved. {fault}", fault=fault) if fault is not None else tr("Saved as {path}", path=path)
            self.window.notice.report(text, bad=fault is not None)

        task = "shaft_sheet:write_shaft_drawing" if key else "assembly_sheet:write_machine_drawing"
        ask = (path, key, s.system) if key else (path, s.system)
        submit(f"cooper.exchange.{task}", s.design, *ask, take=lambda _: None, done=written)

    def print_shelf(self) -> None:
        """Ask for a place and write the designs side by side as PDF."""
        path, _ = QFileDialog.getSaveFileName(
            self.window,
            translate(tr("Save the shelf")),
            tr("{name} shelf.pdf", name=self.window.session.design.name),
            translate("*.pdf"),
        )
        page = self.window.survey_page
        if not path or page is None:
            return
        try:
            page.side.print_to(Path(path))
        except OSError as fault:
            self.window.notice.report(tr("Not saved. {fault}", fault=fault), bad=True)
            return
        self.window.notice.report(tr("Saved as {path}", path=path))

    def save_survey_to(self, path: Path) -> None:
        """Write the stored designs of the survey in the order of its table; in a worker process, as there may be very
        many."""
        page = self.window.survey_page
        if page is None or page.result is None or not len(page.result):
            self.window.notice.report(tr("No design was found yet: there is no table to save"), bad=True)
            return
        keys = [k for k in page.table.rows.columns if k != "what"]
        rows = page.table.rows.order.tolist()

        def written(fault: Exception | None) -> None:
            text = tr("Not saved. {fault}", fault=fault) if fault is not None else tr("Saved as {path}", path=path)
            self.window.notice.report(text, bad=fault is not None)

        submit(
            "cooper.exchange.survey_table:save_survey",
            page.result,
            path,
            keys,
            rows,
            take=lambda _item: None,
            done=written,
        )

    def _writing(self, path: Path) -> None:
        # Where it could not even begin it is told already.
        if path in self.running.paths():
            self.window.notice.ask(_writing_of(path), [(tr("Cancel"), partial(self.cancel, path))])

    def cancel(self, path: Path | None = None) -> None:
        """Break off the export to a path, or that which is running."""
        under_way = self.running.paths()
        path = path or next(iter(under_way), None)
        if path in under_way:
            self.window.notice.withdraw(_writing_of(path))
            self.running.cancel(path)
            self.window.notice.report(tr("The export was cancelled; {name} is not written", name=path.name))

    def _written(self, path: Path, fault: str) -> None:
        if not isValid(self.window):
            return
        self.window.notice.withdraw(_writing_of(path))
        if fault:
            self.window.notice.report(tr("Not exported. {fault}", fault=fault), bad=True)
            # Who reads this may want to do something about it.
            self.close_then = False
        else:
            self.window.notice.report(tr("Exported as {path}", path=path))
        if self.close_then and not self.under_way():
            QTimer.singleShot(0, self.window.close)

    def under_way(self) -> list[Path]:
        """What is still being written."""
        return [*self.running.paths(), *(path for path, _ in self.tasks)]

    def end(self) -> None:
        """Break off what is still being written, as the window closes."""
        self.running.end()
        for _, task in self.tasks:
            task.give_up()
        self.tasks.clear()

    def may_leave(self) -> bool:
        """Whether the window may close now, which would break off what is still being written."""
        if not self.under_way():
            return True
        names = join(", ", dict.fromkeys(path.name for path in self.under_way()))
        answers = (tr("Close when it is written"), tr("Break it off and close"), tr("Stay"))
        answer = self.window.ask_first(
            tr("Still writing"), tr("This is still being written: {names}.", names=names), answers
        )
        # It may have been written while this was read.
        self.close_then = answer == answers[0] and bool(self.under_way())
        return answer != answers[2] and not self.close_then


def _writing_of(path: Path) -> str:
    return tr("Writing {name} …", name=path.name)


def _export(window: Window, kind: str) -> None:
    window.ways_out.export_dialog(kind)


def _export_train(window: Window, kind: str) -> None:
    window.ways_out.export_train(kind)


def _no_survey(window: Window) -> str:
    """Why there is no table of a survey."""
    page = window.survey_page
    return "" if page is not None and page.result is not None else tr("Nothing was searched yet")


def _no_shaft(window: Window) -> str:
    """Why there is no shaft to draw."""
    return "" if window.ways_out.shaft_in_view() is not None else tr("The machine is not laid out yet")


def _idle(window: Window) -> str:
    """Why there is nothing to cancel."""
    return "" if window.ways_out.running.busy else tr("No export is running")


register_actions(
    tr("ways out"),
    Action(
        "export_options",
        tr("Export with options: tolerance, kerf, curves …"),
        "Ctrl+E",
        lambda w: w.ways_out.export_with_options(),
        asks=True,
    ),
    Action(
        "survey_table",
        tr("Save the survey's table: spreadsheet or CSV …"),
        "",
        lambda w: w.ways_out.save_survey_table(),
        _no_survey,
        asks=True,
    ),
    Action(
        "shaft_drawing",
        tr("Save the drawing sheet of the shaft in view …"),
        "",
        lambda w: w.ways_out.save_machine_sheet(True),
        _no_shaft,
        asks=True,
    ),
    Action(
        "machine_drawing",
        tr("Save the drawing sheet of the machine, with its parts list …"),
        "",
        lambda w: w.ways_out.save_machine_sheet(False),
        _no_shaft,
        asks=True,
    ),
    Action("export_cancel", tr("Cancel the export that is running"), "", lambda w: w.ways_out.cancel(), _idle),
    *(
        Action(
            f"export_train_{kind}",
            tr("Export {words} …", words=words),
            "",
            partial(_export_train, kind=kind),
            asks=True,
        )
        for kind, words in (
            (".dxf", tr("the whole train as DXF, layers by stage")),
            (".step", tr("the whole train as STEP solids in place and phase")),
            (".stl", tr("the whole train as an STL mesh in place")),
            (".3mf", tr("the whole train as 3MF meshes in place")),
            *MOVING.items(),
        )
    ),
    *(
        Action(f"export_{kind}", tr("Export {words} …", words=words), "", partial(_export, kind=kind), asks=True)
        for kind, words in KINDS.items()
    ),
)

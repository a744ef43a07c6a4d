"""Exports from the window: at once, or in a process of their own when they take seconds, and what can be chosen for
them."""

from __future__ import annotations

import os
import sys
import tempfile
import uuid
from collections.abc import Callable
from contextlib import suppress
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, QProcess, QTimer
from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from cooper.atomic_write import flush_folder, followed
from cooper.desk.base.child import surroundings
from cooper.desk.widgets.card import Card
from cooper.desk.widgets.labels import Label
from cooper.document.models import Design
from cooper.document.store import design_text
from cooper.document.units import parse
from cooper.errors import OutOfRange, message_of
from cooper.exchange.formats import CURVES, KINDS, LOADED_TABLES, Options
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

PATIENCE_MS = 1500
"""How long an export that is not wanted any more may clear away what it has written."""


class Background(QObject):
    """One export after the other in a worker process; ``done`` is told the path and the fault, empty when all
    went well."""

    def __init__(self, done: Callable[[Path, str], None], parent: QObject) -> None:
        super().__init__(parent)
        self.done = done
        self.process: QProcess | None = None
        self.path: Path | None = None
        self.waiting: list[tuple[Path, Callable[[], None]]] = []
        self.leaving: list[QProcess] = []

    def start(self, design: Design, path: Path, stage: int, options: Options, more: tuple[str, ...] = ()) -> None:
        """Begin, or wait for what is written already; the design is taken as it is now, whatever is edited
        meanwhile."""
        begin = partial(self._begin, design, path, stage, options, more)
        if self.busy:
            self.waiting.append((path, begin))
        else:
            begin()

    def _begin(self, design: Design, path: Path, stage: int, options: Options, more: tuple[str, ...]) -> None:
        try:
            folder = tempfile.TemporaryDirectory(prefix="cooper-export-")
            source = Path(folder.name) / "design.cooper.json"
            source.write_text(design_text(design), encoding="utf-8")
        except OSError as fault:
            self.done(path, tr("the folder for what is written on the way: {value}", value=fault.strerror or fault))
            return
        # Written under a name of its own, so that what is broken off can be cleared away.
        part = path.parent / f".cooper-{os.getpid()}-{uuid.uuid4().hex[:12]}.part{path.suffix.lower()}"
        words = ["-m", "cooper", "export", str(source), str(part), "--stage", str(stage + 1)]
        words += ["--compensation", str(options.compensation), "--curves", options.curves, "--gear", str(options.gear)]
        words += ["--length", options.length, "--state", options.state, *more]
        if options.tolerance is not None:
            words += ["--tolerance", str(options.tolerance)]
        process = QProcess(self)
        self.process, self.path = process, path

        def finished(code: int, _status: object) -> None:
            folder.cleanup()
            if process in self.leaving:
                self.leaving.remove(process)
            wanted = self.process is process
            fault = ""
            try:
                if code == 0 and wanted:
                    part.replace(followed(path))
                    flush_folder(path.parent)
            except OSError as error:
                fault = tr("{path}: {value}", path=path, value=error.strerror or error)
            for rest in part.parent.glob(f"{part.stem.removesuffix('.part')}*"):
                with suppress(OSError):
                    rest.unlink()
            if wanted:
                self.process = self.path = None
                text = bytes(process.readAllStandardError().data()).decode(errors="replace").strip().splitlines()
                last = text[-1].replace(str(part), str(path)).replace(part.name, path.name) if text else ""
                self.done(path, fault if code == 0 else (last or tr("the export broke off")))
                self._next()
            process.deleteLater()

        process.finished.connect(finished)
        process.setProcessEnvironment(surroundings())
        process.start(sys.executable, words)

    @property
    def busy(self) -> bool:
        return self.process is not None

    def paths(self) -> list[Path]:
        """What is still to be written, the one that is running first."""
        return [*([] if self.path is None else [self.path]), *(path for path, _ in self.waiting)]

    def _next(self) -> None:
        while self.waiting and not self.busy:
            self.waiting.pop(0)[1]()

    def cancel(self, path: Path | None = None) -> None:
        """Stop the export to a path, or what is running; what it had written is left in no place. Nobody waits until
        it has gone."""
        if path is not None and path != self.path:
            self.waiting = [one for one in self.waiting if one[0] != path]
            return
        process, self.process, self.path = self.process, None, None
        if process is not None:
            # Asked first, so that it can clear away what it has written.
            self.leaving.append(process)
            process.terminate()
            QTimer.singleShot(PATIENCE_MS, self, partial(self._hurry, process))
        self._next()

    def _hurry(self, process: QProcess) -> None:
        if process in self.leaving:
            process.kill()

    def end(self) -> None:
        """Stop all of it and wait until it has gone, as the window closes."""
        self.waiting.clear()
        self.cancel()
        for process in list(self.leaving):
            if not process.waitForFinished(PATIENCE_MS):
                process.kill()
                process.waitForFinished(2000)


REPORTS = {
    "summary": tr("duty, verdicts and what governs"),
    "usual": tr("with every calculation"),
    "all": tr("and every entry and value, loaded teeth too"),
}
"""What a report of each length holds."""
LOADED: dict[str, tuple[str, ...]] = {
    "none": (),
    "transmission error and pressure": ("curves", "pressure"),
    "and root stress, topography and map of reliefs": LOADED_TABLES,
}
"""Tables of the loaded teeth, in words."""


class ExportCard(Card):
    """Kind, chord error, compensation and how flanks are drawn; nothing is written before all of it can be."""

    def __init__(self, parent: QWidget, system: str) -> None:
        super().__init__(parent, tr("Export with options"), tr("Export …"))
        self.setObjectName("export_card")
        self.system = system
        form = self.form
        self.kind = QComboBox()
        self.kind.setObjectName("export_kind")
        for kind, words in KINDS.items():
            self.kind.addItem(translate(words), kind)
        self.tolerance, self.compensation = QLineEdit(), QLineEdit("0")
        self.tolerance.setPlaceholderText(translate(tr("the kind's own")))
        self.tolerance.setObjectName("export_tolerance")
        self.compensation.setObjectName("export_compensation")
        self.curves = QComboBox()
        self.curves.addItems(translate(list(CURVES)))
        self.which = QComboBox()
        self.which.setObjectName("export_which")
        self.which.addItems(translate([tr("both gears"), tr("the driving gear alone"), tr("the driven gear alone")]))
        self.length = QComboBox()
        self.length.setObjectName("export_length")
        for length, text in REPORTS.items():
            self.length.addItem(translate(text), length)
        self.length.setCurrentIndex(list(REPORTS).index("usual"))
        self.loaded = QComboBox()
        self.loaded.setObjectName("export_loaded")
        for text, tables in LOADED.items():
            self.loaded.addItem(translate(text), tables)
        self.fault = Label()
        self.fault.setObjectName("export_fault")
        self.fault.setWordWrap(True)
        form.addRow(translate(tr("What")), self.kind)
        form.addRow(translate("Of"), self.which)
        form.addRow(translate(tr("Greatest distance from the true curve")), self.tolerance)
        form.addRow(translate(tr("Outline grown along its normal (half a kerf)")), self.compensation)
        form.addRow(translate(tr("Flanks in a DXF")), self.curves)
        form.addRow(translate(tr("Length of a report")), self.length)
        form.addRow(translate(tr("Loaded teeth in a CSV or spreadsheet")), self.loaded)
        form.addRow(translate(self.fault))
        self.options = Options()

    def accept(self) -> None:
        """Close only when every entry can be used; else say which cannot and what would work."""
        try:
            text = self.tolerance.text().strip()
            tolerance = parse(text, "length", self.system, quantity="tolerance") if text else None
            grown = parse(self.compensation.text().strip() or "0", "length", self.system, quantity="compensation")
            if tolerance is not None and not 1e-5 <= tolerance <= 1:
                raise OutOfRange(
                    "tolerance",
                    tolerance,
                    tr("finer makes endless files, coarser no gears"),
                    low=1e-5,
                    high=1,
                    unit="mm",
                )
            if not -5 <= grown <= 5:
                raise OutOfRange("compensation", grown, tr("no kerf is that wide"), low=-5, high=5, unit="mm")
            if grown and self.kind.currentData() not in (".dxf", ".svg", ".stl", ".3mf"):
                raise OutOfRange("compensation", grown, tr("this kind is never compensated"), low=0, high=0, unit="mm")
        except OutOfRange as fault:
            self.fault.setText(message_of(fault))
            return
        self.options = Options(
            tolerance,
            grown,
            tuple(CURVES)[self.curves.currentIndex()],
            self.which.currentIndex(),
            self.length.currentData(),
            loaded=tuple(self.loaded.currentData()),
        )
        super().accept()

"""The window: Power line, Bench, Margins, Trail, and the commands that tie them."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMainWindow,
    QMessageBox,
    QPushButton,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from cooper.demo import DEMOS, demo
from cooper.desk.frame import recovery
from cooper.desk.frame import theme as th
from cooper.desk.frame.bench import LENSES, Bench
from cooper.desk.frame.commands import Command, CommandList
from cooper.desk.frame.exporting import Background, ExportDialog
from cooper.desk.frame.margins import CheckRow, Margins
from cooper.desk.frame.power_line import PowerLine, stage_acts
from cooper.desk.frame.session import Session
from cooper.desk.frame.settings import Settings
from cooper.desk.frame.start_page import StartPage
from cooper.desk.frame.trail import Trail, pin_dialog
from cooper.desk.lenses.drawing import FLANKS
from cooper.desk.sheets.arrangement_sheet import arrangement_sheet
from cooper.desk.sheets.dimension_table import dimension_sheet
from cooper.desk.sheets.duty_sheet import duty_sheet
from cooper.desk.sheets.fit_sheet import fit_sheet, match_sheet
from cooper.desk.sheets.gear_sheet import gear_sheet
from cooper.desk.sheets.loss_sheet import loss_sheet
from cooper.desk.sheets.mesh_sheet import mesh_sheet
from cooper.desk.sheets.plastic_sheet import plastic_sheet
from cooper.desk.sheets.play_sheet import play_sheet
from cooper.desk.sheets.set_sheet import set_sheet
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.sheets.spectrum_sheet import spectrum_sheet
from cooper.desk.sheets.tables import compare_sheet, flank_sheet, formula_sheet
from cooper.desk.sheets.why_sheet import WhySheet
from cooper.desk.widgets.explain import Explanation
from cooper.desk.widgets.pdf import write_pdf
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.tag import Tag, TagEditor
from cooper.desk.widgets.typeset import html
from cooper.document.store import SUFFIX, Unusable, open_design, save_design
from cooper.editing.edit import set_at, tips_for_clearance
from cooper.editing.levers import LEVERED
from cooper.editing.make_sets import KIND_WORDS, set_number, with_set, without_set
from cooper.editing.share_shifts import NO_UNDERCUT, RULES, shared
from cooper.errors import OutOfRange
from cooper.exchange.save import KINDS, SLOW, WHOLE, Options, export

MARGINS_WIDTH = 322
AUTOSAVE_MS = 1500
STAGE_WORDS = (
    ("Add a stage behind it", "Ctrl+Ins"),
    ("Split it in two", ""),
    ("Move it towards the input", "Ctrl+Alt+Left"),
    ("Move it towards the output", "Ctrl+Alt+Right"),
    ("Take it away", "Ctrl+Del"),
)


class Window(QMainWindow):
    """One window about one train."""

    def __init__(self, session: Session, settings: Settings | None = None, *, recover: bool = True) -> None:
        super().__init__()
        self.session = session
        self.settings = settings or Settings()
        self.theme = th.THEMES.get(self.settings.text("theme", "light"), th.LIGHT)
        session.system = self.settings.text("system", "mm") if self.settings.text("system", "mm") == "inch" else "mm"
        saved = self.settings.text("digits", "0")
        self.digits = session.set_digits(int(saved) if saved.lstrip("+-").isdigit() else 0)
        self.setObjectName("window")
        self.setAcceptDrops(True)
        self.setMinimumSize(980, 640)
        self.resize(1280, 800)
        self.power_line = PowerLine(session, self.theme)
        self.bench = Bench(session, self.theme)
        self.margins = Margins(session, self.theme)
        self.trail = Trail(session, self.theme)
        self.margins.setFixedWidth(MARGINS_WIDTH)
        self._lay_out()
        self.why = WhySheet(session, self.theme, self.bench)
        self.why.closed = lambda: self.margins.open("")
        self.sheet: Sheet | None = None
        self.explanation: Explanation | None = None
        self.asked: Tag | CheckRow | None = None
        self._sheet_again: Callable[[], None] = lambda: None
        self.notice = Notice(self)
        self.exporting = Background(self._exported, self)
        self.commands = self._commands()
        self.command_list = CommandList(lambda: [*self.commands, *self._recent()], self)
        self._bind()
        self.dress(self.theme)
        self._name_window()
        self.bench.begin()
        self.autosave_later = QTimer(self)
        self.autosave_later.setSingleShot(True)
        self.autosave_later.setInterval(AUTOSAVE_MS)
        self.autosave_later.timeout.connect(self.autosave_now)
        if recover:
            QTimer.singleShot(0, self._offer_recovery)

    def _lay_out(self) -> None:
        middle = QWidget()
        row = QHBoxLayout(middle)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.bench, 1)
        self.divider = QFrame()
        self.divider.setFixedWidth(1)
        row.addWidget(self.divider)
        row.addWidget(self.margins)
        whole = QWidget()
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.power_line)
        column.addWidget(middle, 1)
        column.addWidget(self.trail)
        self.setCentralWidget(whole)
        QWidget.setTabOrder(self.power_line, self.bench)

    def _bind(self) -> None:
        self.power_line.duty_wanted.connect(self.open_duty)
        self.power_line.commands_wanted.connect(self.command_list.open)
        self.bench.more_wanted.connect(self.open_more)
        self.bench.set_wanted.connect(self.open_set)
        QApplication.instance().focusChanged.connect(self._remember_focus)  # type: ignore[union-attr]
        self.power_line.set_wanted.connect(self.show_set)
        self.power_line.arrangement_wanted.connect(self.open_arrangements)
        self.margins.why_wanted.connect(self._show_why)
        self.margins.notes_wanted.connect(self.open_notes)
        self.session.changed.connect(self._after_change)
        self.session.file_changed.connect(self._name_window)
        self.session.refused.connect(self._refused)
        self.session.stage_selected.connect(lambda _stage: self._leave_stage())
        for command in self.commands:
            if command.shortcut and command.shortcut not in ("F", "T"):
                action = QAction(command.words, self)
                action.setShortcut(QKeySequence(command.shortcut))
                action.setShortcutContext(Qt.ShortcutContext.WindowShortcut)
                action.triggered.connect(lambda _on=False, run=command.run: run())
                self.addAction(action)

    def _commands(self) -> list[Command]:
        return [*self._file_commands(), *self._sheet_commands(), *self._view_commands(), *self._way_out_commands()]

    def _file_commands(self) -> list[Command]:
        """Files and states."""
        s = self.session
        return [
            Command("find", "Find a command", "Ctrl+K", lambda: self.command_list.open()),
            Command("open", "Open a design …", "Ctrl+O", self.open_dialog),
            Command("save", "Save", "Ctrl+S", self.save),
            Command("save_as", "Save as …", "Ctrl+Shift+S", self.save_as),
            Command("new", "New design from the demo", "Ctrl+N", self.open_demo),
            *(
                Command(f"demo_{name}", f"New design from the demo: {words}", "", partial(self.open_demo, name))
                for name, words in DEMOS.items()
            ),
            Command("start", "Start page: the demo designs as drawings", "Ctrl+Shift+N", self.open_start),
            Command("rename", "Rename the design …", "", self.rename),
            Command("undo", "Undo: back to the state before", "Ctrl+Z", s.undo),
            Command("redo", "Redo: forward again", "Ctrl+Y", s.redo),
            Command("pin", "Pin and name this state …", "Ctrl+P", lambda: pin_dialog(s, self)),
        ]

    def _sheet_commands(self) -> list[Command]:
        """Sheets and arrangements."""
        return [
            Command("duty", "Edit the duty", "Ctrl+D", self.open_duty),
            Command("gear_1", "All data of the driving gear", "Ctrl+1", lambda: self.open_more(1)),
            Command("gear_2", "All data of the driven gear", "Ctrl+2", lambda: self.open_more(2)),
            Command("sheet_1", "Dimension sheet of the driving gear", "Ctrl+4", lambda: self.open_dimensions(1)),
            Command("sheet_2", "Dimension sheet of the driven gear", "Ctrl+5", lambda: self.open_dimensions(2)),
            Command("mesh", "All data of the mesh", "Ctrl+3", lambda: self.open_more(0)),
            Command("fit_teeth", "Counts for a fixed centre distance, module for a diameter", "Ctrl+6", self.open_fit),
            Command("match", "Match a measured gear", "Ctrl+9", self.open_match),
            Command("compare", "Lay two states side by side", "Ctrl+0", self.open_compare),
            Command("play", "Play: backlash in service, a wanted backlash", "Ctrl+B", self.open_play),
            Command("set", "Arrangement and tooth counts: planet set, two rings, ratio", "Ctrl+R", self.open_set),
            Command(
                "arrangement",
                "Stage: exchange it for another arrangement, or put one behind it",
                "Ctrl+J",
                self.open_arrangements,
            ),
            *(
                Command(
                    f"make_{kind.replace(' ', '_')}",
                    f"Stage: make it {'an' if words[0] in 'aeiou' else '' if words.startswith('two') else 'a'} {words}".replace(
                        "  ", " "
                    ),
                    "",
                    partial(self.make_set, kind),
                )
                for kind, words in KIND_WORDS.items()
            ),
            Command("set_apart", "Set: take it apart, its first mesh stays", "", self.take_apart),
            Command("plastics", "Plastic gears: warmth, lubrication, wear", "", self.open_plastics),
            Command("losses", "Losses and heat: efficiency over load and speed", "Ctrl+H", self.open_losses),
            Command("spectrum", "Load spectrum", "Ctrl+L", self.open_spectrum),
            Command("flank_points", "Flank points as a table", "Ctrl+7", self.open_flank),
            Command("formulas", "Named values and formulas", "Ctrl+8", self.open_formulas),
        ]

    def _view_commands(self) -> list[Command]:
        """Lenses, stages and what is done to the teeth."""
        drawing = self.bench.drawing
        return [
            Command("clear_tips", "Shorten the tips to the racks' clearance", "", self.clear_tips),
            Command("worst", "Open the worst check", "Ctrl+W", self.open_worst),
            *(
                Command(f"lens_{k}", f"Lens {words}", f"Alt+{n}", partial(self.bench.set_lens, k))
                for n, (k, words) in enumerate(LENSES.items(), 1)
            ),
            *(
                Command(f"stage_{n}", f"Stage: {words[0].lower()}{words[1:]}", key, partial(self.act_on_stage, n))
                for n, (words, key) in enumerate(STAGE_WORDS)
            ),
            Command("explain", "Explain the selected quantity", "F1", self.explain),
            Command("fit", "Show the gears whole", "F", self.bench.fit),
            Command("teeth", "Zoom to the teeth in mesh", "T", drawing.look_at_mesh),
            Command("ghost", "Show or hide the ghost of the state before", "Ctrl+G", self.toggle_ghost),
            *(
                Command(f"share_{k}", f"Share the shifts: {words}", "", partial(self.share_shifts, k))
                for k, (words, _) in RULES.items()
            ),
            Command(
                f"share_{NO_UNDERCUT}",
                "Share the shifts: no undercut of either gear",
                "",
                partial(self.share_shifts, NO_UNDERCUT),
            ),
            *(
                Command(f"flank_{k}", f"Teeth stand {words}", "", partial(drawing.set_flank, k))
                for k, words in FLANKS.items()
            ),
        ]

    def _way_out_commands(self) -> list[Command]:
        """Units, looks, notes and every way out."""
        return [
            Command("units", "Switch between mm and inch", "Ctrl+U", self.toggle_units),
            Command("more_digits", "Show more decimals", "Ctrl+.", partial(self.change_digits, 1)),
            Command("fewer_digits", "Show fewer decimals", "Ctrl+,", partial(self.change_digits, -1)),
            Command("pitch", "Switch between module and diametral pitch", "Ctrl+M", self.toggle_pitch),
            Command("theme", "Switch between light and dark", "Ctrl+T", self.toggle_theme),
            Command("notes", "Read the notes on these results", "Ctrl+I", self.open_notes),
            Command("copy_checks", "Copy all checks as a table", "Ctrl+Shift+C", self.copy_checks),
            Command(
                "export_options", "Export with options: tolerance, kerf, curves …", "Ctrl+E", self.export_with_options
            ),
            Command("export_cancel", "Cancel the export that is running", "", self._cancel_export),
            Command("export_.pdf", "Export the report as PDF …", "", partial(self.export_dialog, ".pdf")),
            Command(
                "export_train_.dxf",
                "Export the whole train as DXF, layers by stage …",
                "",
                partial(self.export_train, ".dxf"),
            ),
            Command(
                "export_train_.step",
                "Export the whole train as STEP solids in place and phase …",
                "",
                partial(self.export_train, ".step"),
            ),
            Command("export_train_.gif", "Export the moving train as GIF …", "", partial(self.export_train, ".gif")),
            *(
                Command(f"export_{k}", f"Export {words} …", "", partial(self.export_dialog, k))
                for k, words in KINDS.items()
            ),
        ]

    def _recent(self) -> list[Command]:
        """A command for each design opened or saved lately."""
        return [
            Command(f"recent_{path}", f"Open recent: {path.name}  ({path.parent})", "", partial(self.open_path, path))
            for path in self.settings.recent()
        ]

    # -- look

    def dress(self, theme: th.Theme) -> None:
        """Put on a theme."""
        self.theme = theme
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.setStyleSheet(th.style_sheet(theme))
        self.divider.setStyleSheet(f"background: {theme.line};")
        for part in (self.power_line, self.bench, self.margins, self.trail, self.why):
            part.dress(theme)
        if self._drop_sheet():
            self._sheet_again()

    def toggle_theme(self) -> None:
        self.dress(th.DARK if self.theme.name == "light" else th.LIGHT)
        self.settings.set_text("theme", self.theme.name)

    def toggle_units(self) -> None:
        self.session.set_system("inch" if self.session.system == "mm" else "mm")
        self.settings.set_text("system", self.session.system)

    def change_digits(self, step: int) -> None:
        """Show one decimal more or fewer everywhere; the design is never rounded."""
        self.digits = self.session.set_digits(self.digits + step)
        self.settings.set_text("digits", str(self.digits))
        self.margins.refresh()
        self.notice.say(f"{self.digits:+d} decimals against the usual" if self.digits else "the usual decimals")

    def toggle_pitch(self) -> None:
        """Let the other of module and diametral pitch be the given size."""
        from cooper.editing.edit import give_size

        k = self.session.stage
        m_n = self.session.results.stages[k].mesh.m_n
        by_pitch = self.session.design.train.stages[k].meshes[0].P_nd is not None
        name, value = ("m_n", m_n) if by_pitch else ("P_nd", 25.4 / m_n)
        self.session.edit(lambda d, _r: give_size(d, k, name, value), f"{name} given", "size")

    def clear_tips(self) -> None:
        """Alter the tip diameters so that the clearance of the basic racks is left."""
        k = self.session.stage
        before = self.session.design
        self.session.edit(lambda d, r: tips_for_clearance(d, r.stages[k], k), "tips shortened", "tips")
        if self.session.design == before:
            self.notice.say("The tips leave that clearance already")

    def act_on_stage(self, n: int) -> None:
        """One of the acts on the selected stage: add, split, move, take away."""
        stage_acts(self.session, self.session.stage)[n][1]()

    def share_shifts(self, rule: str) -> None:
        """Share the sum of the shifts by a rule, the centre distance kept."""
        k = self.session.stage
        self.session.edit(lambda d, r: shared(d, r, k, rule), f"shifts: {rule}", "share")

    def show_set(self, stage: int) -> None:
        """Put the whole set of a stage on the Bench."""
        self._drop_sheet()
        self.session.select_stage(stage)
        self.bench.set_lens("set")

    def toggle_ghost(self) -> None:
        self.bench.drawing.show_ghost = self.bench.set.show_ghost = not self.bench.drawing.show_ghost
        self.bench.set.update()
        self.bench.drawing.refresh()

    def _name_window(self) -> None:
        self.setWindowTitle(f"{self.session.design.name} – Cooper")
        self.power_line.refresh()

    # -- sheets

    def _show_sheet(self, make: Callable[[], Sheet], width: int, height: int) -> None:
        """Open a sheet in place of the one before; ``make`` is kept, to build it anew in another theme."""
        self._drop_sheet()
        self.sheet = sheet = make()
        self._sheet_again = lambda: self._show_sheet(make, width, height)
        sheet.rebuild = lambda: self._sheet_again() if isValid(sheet) and sheet.isVisible() else None
        room = self.bench.rect()
        sheet.setGeometry(16, 10, min(width, room.width() - 32), min(height, room.height() - 20))
        sheet.show()
        sheet.raise_()
        first = next(iter(sheet.fields.values()), None)
        (sheet if first is None else first).setFocus()

    def _drop_sheet(self) -> bool:
        """Close the open sheet; whether there was one."""
        sheet, self.sheet = self.sheet, None
        if sheet is None or not isValid(sheet) or not sheet.isVisible():
            return False
        sheet.dismiss()
        return True

    def _leave_stage(self) -> None:
        """What is open belongs to the stage before."""
        self._drop_sheet()
        if self.margins.opened:
            self.margins.open("")

    def open_duty(self) -> None:
        self._show_sheet(lambda: duty_sheet(self.session, self.theme, self.bench), 910, 590)

    def open_more(self, i: int) -> None:
        if i == 0:
            self._show_sheet(lambda: mesh_sheet(self.session, self.theme, self.bench), 930, 590)
        else:
            self._show_sheet(lambda: gear_sheet(self.session, self.theme, self.bench, i), 930, 560)

    def open_dimensions(self, i: int) -> None:
        self._show_sheet(lambda: dimension_sheet(self.session, self.theme, self.bench, i), 760, 585)

    def open_fit(self) -> None:
        self._show_sheet(lambda: fit_sheet(self.session, self.theme, self.bench), 640, 560)

    def open_match(self) -> None:
        self._show_sheet(lambda: match_sheet(self.session, self.theme, self.bench), 680, 560)

    def open_compare(self) -> None:
        self._show_sheet(lambda: compare_sheet(self.session, self.theme, self.bench), 760, 585)

    def open_play(self) -> None:
        self._show_sheet(lambda: play_sheet(self.session, self.theme, self.bench), 780, 470)

    def open_set(self) -> None:
        self._show_sheet(lambda: set_sheet(self.session, self.theme, self.bench), 930, 590)

    def open_arrangements(self) -> None:
        self._show_sheet(lambda: arrangement_sheet(self.session, self.theme, self.bench), 925, 590)

    def make_set(self, kind: str) -> None:
        """Make the selected stage the first mesh of a set."""
        k = self.session.stage
        self.session.edit(lambda d, _r: with_set(d, k, kind), KIND_WORDS[kind])

    def take_apart(self) -> None:
        """Take the selected stage's set apart."""
        n = set_number(self.session.design, self.session.stage)
        if n is None:
            self.notice.say("The selected stage belongs to no set", bad=True)
            return
        self.session.edit(lambda d, _r: without_set(d, n), "set taken apart")

    def open_plastics(self) -> None:
        self._show_sheet(lambda: plastic_sheet(self.session, self.theme, self.bench), 900, 480)

    def open_losses(self) -> None:
        self._show_sheet(lambda: loss_sheet(self.session, self.theme, self.bench), 900, 590)

    def open_spectrum(self) -> None:
        self._show_sheet(lambda: spectrum_sheet(self.session, self.theme, self.bench), 880, 520)

    def open_flank(self) -> None:
        self._show_sheet(lambda: flank_sheet(self.session, self.theme, self.bench), 720, 560)

    def open_formulas(self) -> None:
        self._show_sheet(lambda: formula_sheet(self.session, self.theme, self.bench), 620, 560)

    def _show_why(self, key: str) -> None:
        room = self.bench.rect()
        width = min(620, room.width() - 40)
        self.why.setGeometry(room.width() - width - 10, 10, width, room.height() - 20)
        self.why.show_check(key)

    def open_worst(self) -> None:
        found = [c for _k, checks in self.session.checks() for c in checks if c.symbol in LEVERED]
        self.margins.open("")
        self.margins.toggle(min(found, key=lambda c: c.margin).key)

    def explain(self) -> None:
        """What the tag or check that was selected last means; a second time closes it."""
        open_now, self.explanation = self.explanation, None
        if open_now is not None:
            drop(open_now)
            return
        asked = self.asked
        if asked is None or not isValid(asked) or not asked.isVisible():
            self.notice.say("Select a tag or a check first: F1 then says what it is and where it comes from")
            return
        self.explanation = Explanation(self, self.theme, asked)

    def _remember_focus(self, _old: QWidget | None, now: QWidget | None) -> None:
        if not isValid(self):
            return
        if isinstance(now, TagEditor):
            now = now.tag
        if isinstance(now, Tag | CheckRow) and now.window() is self:
            self.asked = now
            if self.explanation is not None:
                drop(self.explanation)
                self.explanation = None

    def open_notes(self) -> None:
        self._show_sheet(lambda: notes_sheet(self), 700, 480)

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        if self.margins.opened:
            self._show_why(self.margins.opened)
        self.notice.place()

    # -- files

    def open_dialog(self) -> None:
        path, _ = QFileDialog.getOpenFileName(
            self, "Open a design", "", f"Cooper designs (*{SUFFIX} *.json);;All files (*)"
        )
        if path:
            self.open_path(Path(path))

    def open_path(self, path: Path) -> None:
        """Open a file after asking what shall become of unsaved work; says why when it cannot be."""
        try:
            design = open_design(path)
            if not self.may_leave():
                return
            self.session.restart(design, path)
            self.bench.begin()
        except (Unusable, OutOfRange) as fault:
            self.notice.say(f"Not opened. {fault}", bad=True)
            return
        self.settings.remember(path)
        recovery.forget()

    def open_start(self) -> StartPage:
        """Show the start page over the window."""
        page = StartPage(self.theme, self.settings.recent(), self.open_demo, self.open_path, self.open_dialog, self)
        page.move(max(0, (self.width() - page.width()) // 2), max(0, (self.height() - page.height()) // 2))
        page.show()
        page.raise_()
        page.cards[0].setFocus()
        return page

    def open_demo(self, name: str = "mirror-cover") -> None:
        """Begin anew with one of the demo designs."""
        if self.may_leave():
            self.session.restart(demo(name), None)
            self.bench.begin()

    def save(self) -> bool:
        return self.save_as() if self.session.path is None else self.save_to(self.session.path)

    def save_as(self) -> bool:
        start = self.session.design.name.lower().replace(" ", "-") + SUFFIX
        path, _ = QFileDialog.getSaveFileName(self, "Save the design", start, f"Cooper designs (*{SUFFIX})")
        return self.save_to(Path(path)) if path else False

    def save_to(self, path: Path) -> bool:
        """Save atomically; says why when the disk refuses."""
        try:
            save_design(self.session.design, path)
        except OSError as fault:
            self.notice.say(f"Not saved. {path}: {fault.strerror or fault}. The design is still here.", bad=True)
            return False
        self.session.mark_saved(path)
        self.settings.remember(path)
        self.autosave_later.stop()
        recovery.forget()
        self.notice.say(f"Saved as {path}")
        return True

    def rename(self) -> None:
        """Ask for a new name of the design."""
        name, taken = QInputDialog.getText(self, "Rename the design", "Name:", text=self.session.design.name)
        if taken and name.strip():
            self.session.edit(lambda d, _r: set_at(d, "name", name.strip()[:120]), "renamed", "name")

    def export_dialog(self, kind: str) -> None:
        path, _ = QFileDialog.getSaveFileName(
            self, f"Export {KINDS.get(kind, 'the report as PDF')}", f"{self.session.design.name}{kind}", f"*{kind}"
        )
        if path:
            self.export_to(Path(path))

    def export_train(self, kind: str) -> None:
        """Ask for a place and write the whole train."""
        path, _ = QFileDialog.getSaveFileName(
            self, "Export the whole train", f"{self.session.design.name}{kind}", f"*{kind}"
        )
        if path:
            self.export_train_to(Path(path))

    def export_train_to(self, path: Path) -> None:
        """Write the whole train as drawing, solids or moving picture."""
        s = self.session
        if path.suffix.lower() in (*SLOW, ".gif"):
            self.exporting.start(s.design, path, WHOLE, Options(), self.bench.train.animation_options())
            self.notice.ask(f"Writing {path.name} …", [("Cancel", self._cancel_export)])
            return
        try:
            export(s.design, s.results, path, s.system, WHOLE)
        except (OSError, ValueError, OutOfRange) as fault:
            self.notice.say(f"Not exported. {fault}", bad=True)
            return
        self.notice.say(f"Exported as {path}")

    def export_with_options(self) -> None:
        """Ask for kind, tolerance, compensation and curves, then for the place."""
        dialog = ExportDialog(self, self.session.system)
        if dialog.exec():
            kind = dialog.kind.currentData()
            path, _ = QFileDialog.getSaveFileName(self, "Export", f"{self.session.design.name}{kind}", f"*{kind}")
            if path:
                self.export_to(Path(path), dialog.options)

    def export_to(self, path: Path, options: Options | None = None) -> None:
        """Write an export; what takes seconds runs beside the window and can be cancelled."""
        chosen = options or Options()
        if path.suffix.lower() in SLOW:
            self.exporting.start(self.session.design, path, self.session.stage, chosen)
            self.notice.ask(f"Writing {path.name} …", [("Cancel", self._cancel_export)])
            return
        try:
            s = self.session
            if path.suffix.lower() == ".pdf":
                write_pdf(s.design, s.results, path, s.system)
            else:
                export(s.design, s.results, path, s.system, s.stage, chosen)
        except (OSError, ValueError, OutOfRange) as fault:
            self.notice.say(f"Not exported. {fault}", bad=True)
            return
        self.notice.say(f"Exported as {path}")

    def _cancel_export(self) -> None:
        if self.exporting.busy:
            self.exporting.cancel()
            self.notice.say("The export was cancelled; nothing was written")

    def _exported(self, path: Path, fault: str) -> None:
        if fault:
            self.notice.say(f"Not exported. {fault}", bad=True)
        else:
            self.notice.say(f"Exported as {path}")

    def copy_checks(self) -> None:
        """All checks as tab-separated text."""
        rows = ["check\tvalue\tlimit\tmargin\tverdict"]
        rows += [
            f"{c.label} ({c.key.split('.')[-1]})\t{c.value:.6g}\t{c.limit:.6g}\t{c.margin:.1%}\t{c.verdict}"
            for _k, checks in self.session.checks()
            for c in checks
        ]
        QApplication.clipboard().setText("\n".join(rows))
        self.notice.say("All checks are on the clipboard as a table")

    def may_leave(self) -> bool:
        """Whether the present design may be left: saved, or given up by the user's own word."""
        if not self.session.dirty:
            return True
        box = QMessageBox(self)
        box.setWindowTitle("Unsaved changes")
        box.setText(f"“{self.session.design.name}” has changes that are not saved.")
        save = box.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
        give_up = box.addButton("Give them up", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton("Stay", QMessageBox.ButtonRole.RejectRole)
        box.exec()
        if box.clickedButton() is save:
            return self.save()
        return box.clickedButton() is give_up

    # -- nothing lost

    def _after_change(self) -> None:
        self._name_window()
        if self.session.dirty:
            self.autosave_later.start()

    def autosave_now(self) -> None:
        if self.session.dirty:
            recovery.autosave(self.session.design, self.session.path)

    def _offer_recovery(self) -> None:
        found = recovery.leftovers()
        if not found:
            return
        left = found[0]

        def recover() -> None:
            self.session.restart(left.design, left.path, saved=False)
            recovery.autosave(left.design, left.path)
            left.file.unlink(missing_ok=True)

        words = f"“{left.design.name}” was not saved when Cooper last ended."
        self.notice.ask(words, [("Recover it", recover), ("Give it up", lambda: left.file.unlink(missing_ok=True))])

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.may_leave():
            event.ignore()
            return
        self.exporting.cancel()
        self.settings.set_geometry(self.saveGeometry())
        recovery.forget()
        event.accept()

    # -- odds and ends

    def _refused(self, key: str, fault: OutOfRange) -> None:
        """Faults of edits that no visible tag answers for are said in the notice."""
        for tag in self.findChildren(Tag):
            if tag.field.full_key == key and tag.isVisible():
                return
        self.notice.say(str(fault), bad=True)

    def _close_top(self) -> None:
        """Close what lies on top: an explanation, else faults, else the open sheet, else what the Margins opened."""
        faulty = [tag for tag in self.findChildren(Tag) if tag.fault is not None]
        if self.explanation is not None:
            self.explain()
        elif faulty:
            for tag in faulty:
                tag.close_fault()
        elif not self._drop_sheet() and self.margins.opened:
            self.margins.open("")
        self.notice.hide()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self._close_top()
        elif event.key() == Qt.Key.Key_F and not event.modifiers():
            self.bench.fit()
        elif event.key() == Qt.Key.Key_T and not event.modifiers():
            self.bench.drawing.look_at_mesh()
        else:
            super().keyPressEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        urls = [u.toLocalFile() for u in event.mimeData().urls() if u.isLocalFile()]
        if urls:
            self.open_path(Path(urls[0]))


Answer = tuple[str, Callable[[], object]]


class Notice(QFrame):
    """A line at the foot of the Bench: what was done, what went wrong, or a question with its answers."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self.on = window
        self.setObjectName("sheet")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 7, 10, 7)
        self.text = QLabel()
        self.text.setObjectName("notice_text")
        self.text.setWordWrap(True)
        row.addWidget(self.text, 1)
        self.buttons: list[QPushButton] = []
        self.row = row
        self.fade = QTimer(self)
        self.fade.setSingleShot(True)
        self.fade.timeout.connect(self.hide)
        self.hide()

    def say(self, words: str, *, bad: bool = False) -> None:
        """Show a message; good news goes by itself, bad news stays until Escape or the next."""
        self._show(words, bad, [("Close", self.hide)] if bad else [])
        if not bad:
            self.fade.start(4000)

    def ask(self, words: str, answers: list[Answer]) -> None:
        self._show(words, False, answers)

    def _show(self, words: str, bad: bool, answers: list[Answer]) -> None:
        self.fade.stop()
        for b in self.buttons:
            b.hide()
            b.deleteLater()
        self.buttons = []
        self.text.setText(words)
        self.text.setStyleSheet(f"color: {self.on.theme.short if bad else self.on.theme.ink};")
        for name, act in answers:
            button = QPushButton(name)
            button.setObjectName(f"notice_{name.lower().replace(' ', '_')}")
            button.clicked.connect(self.hide)
            button.clicked.connect(act)
            self.row.addWidget(button)
            self.buttons.append(button)
        self.place()
        self.show()
        self.raise_()

    def place(self) -> None:
        room = self.on.bench.geometry()
        self.setFixedWidth(min(620, room.width() - 60))
        self.adjustSize()
        at = self.on.bench.mapTo(self.on, self.on.bench.rect().bottomLeft())
        self.move(at.x() + (room.width() - self.width()) // 2, at.y() - self.height() - 62)


def notes_sheet(window: Window) -> Sheet:
    """The notes of the present results, those that matter for the part first."""
    sheet = Sheet(window.session, window.theme, window.bench)
    sheet.title.setText("Notes on these results")
    column = sheet.add_column()
    order = {"warning": 0, "range": 1, "assumed": 2}
    words = {"warning": "for the part", "range": "outside the method's range", "assumed": "assumed"}
    for note in sorted(window.session.results.notes, key=lambda n: order[n.level]):
        mark = f"<span style='color:{window.theme.copper}'>{words[note.level]}</span>"
        several = len(window.session.results.stages) > 1 and note.stage is not None
        where = f"{window.session.results.stages[note.stage or 0].name}: " if several else ""
        label = QLabel(f"{mark}&nbsp; {html(where + note.text)}")
        label.setTextFormat(Qt.TextFormat.RichText)
        label.setWordWrap(True)
        label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        column.addWidget(label)
    sheet.finish()
    return sheet

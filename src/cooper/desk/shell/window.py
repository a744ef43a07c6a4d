"""The window: Power line, Bench, Margins, Trail, and the commands that tie them."""

from __future__ import annotations

import time
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QPoint, Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QGuiApplication, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QHBoxLayout,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from cooper.demo import demo
from cooper.desk.base import recovery, registry
from cooper.desk.base import theme as th
from cooper.desk.base.idle_imports import IdleImports
from cooper.desk.base.painting_turn import PaintingTurn
from cooper.desk.base.registry import Action
from cooper.desk.base.session import Session
from cooper.desk.base.settings import Settings
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.shell.bench import Bench
from cooper.desk.shell.margin_rows import CheckRow
from cooper.desk.shell.margins import Margins
from cooper.desk.shell.notice import Notice
from cooper.desk.shell.open_sheet import OpenSheet
from cooper.desk.shell.power_line import PowerLine
from cooper.desk.shell.trail import Trail
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.tag import Tag, TagEditor
from cooper.document.store import SUFFIX, Unusable, open_design, save_design
from cooper.editing.levers import LEVERED
from cooper.errors import OutOfRange, message_of
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.sheets.why_sheet import WhySheet
    from cooper.desk.shell.commands import Command, CommandList
    from cooper.desk.shell.explain import Explanation
    from cooper.desk.shell.handbook_commands import Handbook
    from cooper.desk.shell.start_page import StartPage
    from cooper.desk.shell.way_out_commands import ExportCommands
    from cooper.desk.survey.survey_page import SurveyPage

MARGINS_WIDTH = 322
AUTOSAVE_MS = 1500
FRAME = (16, 44)
"""What a desktop puts around a window, at its sides and above; px."""
TELL_MS = 400
"""Time after which a change that is still worked out is told of."""


class Window(PaintingTurn):
    """One window about one train."""

    def __init__(self, session: Session, settings: Settings | None = None, *, recover: bool = True) -> None:
        super().__init__()
        self.session = session
        self.settings = settings or Settings()
        self.theme = th.THEMES.get(self.settings.text("theme", ""), th.of_system())
        session.system = self.settings.text("system", "mm") if self.settings.text("system", "mm") == "inch" else "mm"
        saved = self.settings.text("digits", "0")
        self.digits = session.set_digits(int(saved) if saved.lstrip("+-").isdigit() else 0)
        self.setObjectName("window")
        self.setAcceptDrops(True)
        self.setMinimumSize(960, 600)
        room = QApplication.primaryScreen().availableGeometry()
        self.resize(min(1280, room.width() - FRAME[0]), min(800, room.height() - FRAME[1]))
        self.power_line = PowerLine(session, self.theme)
        self.bench: Bench = Bench(session, self.theme)
        self.margins = Margins(session, self.theme)
        self.trail = Trail(session, self.theme)
        self.margins.setFixedWidth(MARGINS_WIDTH)
        self._lay_out()
        self.survey_page: SurveyPage | None = None
        self.over_bench = OpenSheet(self.bench)
        self.explanation: Explanation | None = None
        self.handbook: Handbook | None = None
        self.sheet_key = ""
        self.asked: Tag | CheckRow | None = None
        self.notice = Notice(self)
        self._work_words = ""
        self.work_told = QTimer(self)
        self.work_told.setSingleShot(True)
        self.work_told.setInterval(TELL_MS)
        self.work_told.timeout.connect(self._tell_work)
        self.keeper = recovery.AutosaveStore()
        self.not_kept = False
        self._commands: list[Command] = []
        self._bind()
        # The parts were made in it; what stands on the Bench has its size from the style sheet.
        th.apply_theme(self, self.theme)
        self.bench.apply_theme(self.theme)
        self._name_window()
        self.bench.begin()
        self.autosave_later = QTimer(self)
        self.autosave_later.setSingleShot(True)
        self.autosave_later.setInterval(AUTOSAVE_MS)
        self.autosave_later.timeout.connect(self._autosave)
        if recover:
            QTimer.singleShot(0, self._offer_recovery)
        IdleImports(self, lambda: self.commands)

    @cached_property
    def command_list(self) -> CommandList:
        """The list in which commands are found by their words."""
        from cooper.desk.shell.commands import CommandList

        return CommandList(lambda: [*self.commands, *self._recent()], self)

    @cached_property
    def why(self) -> WhySheet:
        """The chain of a check, over the Bench."""
        from cooper.desk.sheets.why_sheet import WhySheet

        made = WhySheet(self.session, self.theme, self.bench)
        made.closed = lambda: self.margins.open("")
        return made

    @cached_property
    def ways_out(self) -> ExportCommands:
        """The exports of this window."""
        from cooper.desk.shell.way_out_commands import ExportCommands

        return ExportCommands(self)

    def _lay_out(self) -> None:
        middle = QWidget()
        row = QHBoxLayout(middle)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.bench, 1)
        divider = QFrame()
        divider.setObjectName("divider")
        divider.setFixedWidth(1)
        row.addWidget(divider)
        row.addWidget(self.margins)
        whole = QWidget()
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.power_line)
        # The Bench with its Margins, or a page that takes their place.
        self.pages = QStackedWidget()
        self.pages.addWidget(middle)
        column.addWidget(self.pages, 1)
        column.addWidget(self.trail)
        self.setCentralWidget(whole)
        QWidget.setTabOrder(self.power_line, self.bench)

    def _bind(self) -> None:
        self.power_line.duty_wanted.connect(partial(self.open_sheet, "duty"))
        self.power_line.commands_wanted.connect(lambda: self.command_list.open())
        self.power_line.file_wanted.connect(self._file_menu)
        self.bench.verbs_wanted.connect(self._bench_menu)
        self.margins.verbs_wanted.connect(self._check_menu)
        self.bench.more_wanted.connect(self.open_more)
        self.bench.set_wanted.connect(partial(self.open_sheet, "set"))
        self.bench.sheet_wanted.connect(self.open_sheet)
        QApplication.instance().focusChanged.connect(self._remember_focus)  # type: ignore[union-attr]
        self.power_line.set_wanted.connect(self.show_set)
        self.power_line.arrangement_wanted.connect(partial(self.open_sheet, "arrangement"))
        self.margins.why_wanted.connect(self._show_why)
        self.margins.notes_wanted.connect(partial(self.open_sheet, tr("notes")))
        self.session.changed.connect(self._after_change)
        self.session.file_changed.connect(self._name_window)
        self.session.refused.connect(self._refused)
        self.session.told.connect(self.notice.report)
        self.session.working.connect(self._working)
        self.session.worked.connect(self._worked)
        self.session.stage_selected.connect(lambda _stage: self._leave_stage())

    @property
    def commands(self) -> list[Command]:
        """Every command, with its keys from when it is first asked for on: by a key that is pressed, or in a turn of
        its own after the first picture."""
        if not self._commands:
            from cooper.desk.shell.commands import Command

            self._commands = [
                Command(a.key, a.words, a.shortcut, partial(self._act, a), partial(a.when, self), a.asks)
                for a in registry.actions()
            ]
            for command in self._commands:
                if command.shortcut and command.shortcut not in ("F", "T"):
                    action = QAction(translate(command.words), self)
                    action.setShortcut(QKeySequence(command.shortcut))
                    action.setShortcutContext(Qt.ShortcutContext.WindowShortcut)
                    action.triggered.connect(lambda _on=False, run=command.run: run())
                    self.addAction(action)
        return self._commands

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride:
            _ = self.commands
        return super().event(event)

    def _act(self, action: Action) -> None:
        """Do what a command does, or say why it cannot be done now."""
        reason = action.when(self)
        if reason:
            self.notice.report(reason, bad=True)
        else:
            action.run(self)

    def _file_menu(self, at: QPoint) -> None:
        from cooper.desk.shell.verbs import file_menu, pop

        pop(file_menu(self), at)

    def _bench_menu(self, at: QPoint) -> None:
        from cooper.desk.shell.verbs import bench_menu, pop

        pop(bench_menu(self), at)

    def _check_menu(self, key: str, at: QPoint) -> None:
        from cooper.desk.shell.verbs import check_menu, pop

        pop(check_menu(self, key), at)

    def run(self, key: str) -> None:
        """Run the command of a key."""
        next(c for c in self.commands if c.key == key).run()

    def _recent(self) -> list[Command]:
        """A command for each design opened or saved lately."""
        from cooper.desk.shell.commands import Command

        return [
            Command(
                f"recent_{path}",
                tr("Open recent: {name}  ({parent})", name=path.name, parent=path.parent),
                "",
                partial(self.open_path, path),
            )
            for path in self.settings.recent()
        ]

    # -- look

    def apply_theme(self, theme: th.Theme) -> None:
        """Put on a theme."""
        self.theme = theme
        page = self.survey_page
        th.apply_theme(self, theme)
        for part in (self.power_line, self.bench, self.margins, self.trail):
            part.apply_theme(theme)
        if "why" in self.__dict__:
            self.why.apply_theme(theme)
        if page is not None and self.pages.currentWidget() is page:
            page.apply_theme(theme)
        self.over_bench.renew()
        if self.handbook is not None and isValid(self.handbook) and self.handbook.isVisible():
            self.handbook.apply_theme(theme)

    def toggle_theme(self) -> None:
        self._wear(th.other_theme(self.theme, dark=not self.theme.dark))

    def toggle_contrast(self) -> None:
        self._wear(th.other_theme(self.theme, contrast=not self.theme.name.startswith("contrast")))

    def _wear(self, theme: th.Theme) -> None:
        th.paint_next(self)
        self.apply_theme(theme)
        self.settings.set_text("theme", theme.name)

    def toggle_units(self) -> None:
        self.session.set_system("inch" if self.session.system == "mm" else "mm")
        self.settings.set_text("system", self.session.system)

    def change_digits(self, step: int) -> None:
        """Show one decimal more or fewer everywhere; the design is never rounded."""
        self.digits = self.session.set_digits(self.digits + step)
        self.settings.set_text("digits", str(self.digits))
        self.margins.refresh()
        self.notice.report(
            tr("{digits:+d} decimals against the usual", digits=self.digits)
            if self.digits
            else tr("the usual decimals")
        )

    def show_set(self, stage: int) -> None:
        """Put the whole set of a stage on the Bench."""
        self.over_bench.drop()
        self.session.select_stage(stage)
        self.bench.set_lens("set")

    def _name_window(self) -> None:
        words = tr("{name} – Cooper", name=self.session.design.name)
        if self.windowTitle() != words:
            self.setWindowTitle(translate(words))

    # -- the survey

    def open_survey(self) -> SurveyPage:
        """Put the survey in the Bench's place."""
        if self.survey_page is None:
            # Imported here: most sessions never ask for it.
            from cooper.desk.survey.survey_page import SurveyPage

            page = self.survey_page = SurveyPage(self.session, self.theme)
            page.may_restart = self.may_leave
            page.left.connect(self.leave_survey)
            page.told.connect(partial(self.notice.report, bad=True))
            page.save_table = self.ways_out.save_survey_table
            page.print_side = self.ways_out.print_shelf
            page.rounding.connect(partial(self.open_sheet, "round"))
            columns = self.settings.text("survey_columns", "").split()
            page.table.give_columns(columns)
            page.table.columns_given.connect(
                lambda: self.settings.set_text("survey_columns", join(" ", page.table.rows.columns))
            )
            self.pages.addWidget(page)
        page = self.survey_page
        if page.theme is not self.theme:
            page.apply_theme(self.theme)
        self._leave_stage()
        if self.pages.currentWidget() is not page:
            th.paint_next(self.pages)
        self.pages.setCurrentWidget(page)
        page.setFocus()
        return page

    def leave_survey(self) -> None:
        """Back to the Bench, the design that was marked laid under its drawing."""
        page = self.survey_page
        if page is not None and self.pages.currentIndex():
            laid = page.results.get(page.now())
            if laid is not None and laid is not self.session.laid:
                self.session.laid = laid
                self.bench.drawing.refresh()
                for view in self.bench.views.values():
                    view.update()
        self.pages.setCurrentIndex(0)
        self.bench.setFocus()

    def begin_from_duty(self) -> None:
        """Begin a design from its duty: what is searched is asked first."""
        self.open_survey().ask(new=True)

    # -- sheets

    @property
    def sheet(self) -> Sheet | None:
        """The sheet that is open over the Bench."""
        return self.over_bench.now

    def _leave_stage(self) -> None:
        """What is open belongs to the stage before."""
        self.over_bench.drop()
        if self.margins.opened:
            self.margins.open("")

    def open_sheet(self, key: str) -> None:
        """Open the sheet of a key over the Bench."""
        if self.pages.currentIndex():
            self.leave_survey()
        entry = registry.sheets()[key]
        self.over_bench.show(partial(entry.make, self), *entry.size)
        self.sheet_key = key

    def open_more(self, i: int) -> None:
        """All data of gear i (1, 2), or of the mesh (0)."""
        self.open_sheet(f"gear_{i}" if i else "mesh")

    def _show_why(self, key: str) -> None:
        if not key and "why" not in self.__dict__:
            return
        room = self.bench.rect()
        width = min(620, room.width() - 40)
        self.why.setGeometry(room.width() - width - 10, 10, width, room.height() - 20)
        check = self.session.results.check(key) if key else None
        if check is not None and check.part:
            # What is checked of the machine stands on its own drawing.
            self.bench.set_lens("shafts")
            lens = self.bench.view("shafts")
            lens.show_part(check.part)
            top = lens.why_top()
            self.why.setGeometry(room.width() - 480, top, 470, room.height() - top - 8)
        self.why.show_check(key)

    def open_worst(self) -> None:
        found = [c for _k, checks in self.session.checks() for c in checks if c.symbol in LEVERED]
        self.margins.open("")
        self.margins.toggle(min(found, key=lambda c: c.margin).key)

    def explain(self) -> None:
        """What the tag or check that was selected last means; a second time closes it."""
        from cooper.desk.shell.explain import Explanation
        from cooper.desk.shell.handbook_commands import open_handbook

        open_now, self.explanation = self.explanation, None
        if open_now is not None:
            drop(open_now)
            return
        asked = self.asked
        if asked is None or not isValid(asked) or not asked.isVisible():
            open_handbook(self)
            return
        self.explanation = Explanation(self, self.theme, asked)
        self.explanation.more.connect(partial(open_handbook, self))

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

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        if self.margins.opened:
            self._show_why(self.margins.opened)
        self.notice.place()

    # -- files

    def open_dialog(self) -> None:
        from PySide6.QtWidgets import QFileDialog

        path, _ = QFileDialog.getOpenFileName(
            self,
            translate(tr("Open a design")),
            "",
            translate(tr("Cooper designs (*{suffix} *.json);;All files (*)", suffix=SUFFIX)),
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
            self.notice.report(tr("Not opened. {fault}", fault=fault), bad=True)
            return
        self.settings.remember(path)
        self.keeper.forget()

    def open_start(self) -> StartPage:
        """Show the start page over the window."""
        from cooper.desk.shell.start_page import StartPage

        page = StartPage(
            self.theme,
            self.settings.recent(),
            self.open_demo,
            self.open_path,
            self.open_dialog,
            self,
            self.begin_from_duty,
        )
        page.move(max(0, (self.width() - page.width()) // 2), max(0, (self.height() - page.height()) // 2))
        page.show()
        page.raise_()
        page.first.setFocus()
        return page

    def open_demo(self, name: str = "mirror-cover") -> None:
        """Begin anew with one of the demo designs."""
        if self.may_leave():
            self.session.restart(demo(name), None)
            self.bench.begin()

    def save(self) -> bool:
        return self.save_as() if self.session.path is None else self.save_to(self.session.path)

    def save_as(self) -> bool:
        from PySide6.QtWidgets import QFileDialog

        start = self.session.design.name.lower().replace(" ", "-") + SUFFIX
        path, _ = QFileDialog.getSaveFileName(
            self, translate(tr("Save the design")), start, translate(tr("Cooper designs (*{suffix})", suffix=SUFFIX))
        )
        return self.save_to(Path(path)) if path else False

    def save_to(self, path: Path) -> bool:
        """Save atomically; asks where another program has written the file meanwhile, says why when the disk
        refuses."""
        if path == self.session.path and self.session.changed_on_disk and not self._may_overwrite(path):
            return False
        try:
            save_design(self.session.design, path)
        except OSError as fault:
            self.notice.report(
                tr("Not saved. {path}: {value}. The design is still here.", path=path, value=fault.strerror or fault),
                bad=True,
            )
            return False
        self.session.mark_saved(path)
        self.settings.remember(path)
        self.autosave_later.stop()
        self.keeper.forget()
        self.notice.report(tr("Saved as {path}", path=path))
        return True

    def may_leave(self) -> bool:
        """Whether the present design may be left: saved, or given up by the user's own word."""
        if not self.session.dirty:
            return True
        words = tr("“{name}” has changes that are not saved.", name=self.session.design.name)
        answer = self.ask_first(tr("Unsaved changes"), words, ("Save", "Give them up", tr("Stay")))
        return self.save() if answer == "Save" else answer == "Give them up"

    def _may_overwrite(self, path: Path) -> bool:
        """Ask what shall become of a file that has changed on disk."""
        words = tr("{path} was written by another program since it was opened here.", path=path)
        answers = (tr("Write over it"), tr("Save under another name …"), tr("Open what is on disk"), tr("Neither"))
        answer = self.ask_first(tr("Changed on disk"), words, answers)
        if answer == answers[1]:
            self.save_as()
        elif answer == answers[2]:
            self.open_path(path)
        return answer == answers[0]

    def ask_first(self, title: str, words: str, answers: tuple[str, ...]) -> str:
        """Ask, and return the answer; Escape is the last one."""
        from PySide6.QtWidgets import QMessageBox

        box = QMessageBox(self)
        box.setWindowTitle(translate(title))
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(translate(words))
        buttons = [box.addButton(answer, QMessageBox.ButtonRole.ActionRole) for answer in answers]
        box.setEscapeButton(buttons[-1])
        box.exec()
        pressed = box.clickedButton()
        return next((a for a, b in zip(answers, buttons, strict=True) if b is pressed), answers[-1])

    # -- nothing lost

    def _after_change(self) -> None:
        self._name_window()
        # Not put off by the next edit: whoever works without a pause is kept too.
        if self.session.dirty and not self.autosave_later.isActive():
            self.autosave_later.start()

    def _autosave(self) -> None:
        """Keep the unsaved work while the hand goes on."""
        self._not_kept(self.keeper.fault)
        if self.session.dirty:
            self.keeper.keep_beside(self.session.design, self.session.path)

    def show_fault(self, words: str) -> None:
        """Keep the work and say that a fault of the program happened; ``words`` are its details."""
        from cooper.faults import log_file

        self.autosave_now()
        told = tr(
            "Something went wrong that is Cooper's fault, not your design's. What you did last may not "
            "have taken effect; your work is kept. The log is {log_file}.",
            log_file=log_file(),
        )
        self.notice.withdraw(told)
        copy = (tr("Copy details"), lambda: QGuiApplication.clipboard().setText(words))
        self.notice.ask(told, [copy, (tr("Close"), lambda: None)])

    def autosave_now(self) -> None:
        """Keep the unsaved work before anything else is done."""
        if not self.session.dirty:
            self.keeper.forget()
            return
        self._not_kept(self.keeper.keep(self.session.design, self.session.path))

    def _not_kept(self, fault: str) -> None:
        """Say once that work cannot be kept."""
        if fault and not self.not_kept:
            self.not_kept = True
            self.notice.report(tr("Unsaved work cannot be kept beside the program. {fault}", fault=fault), bad=True)

    def _offer_recovery(self) -> None:
        """Ask about the newest work that was left unsaved, then about the next."""
        found = recovery.leftovers()
        if not found:
            if broken := recovery.unreadable():
                self.notice.report(
                    tr("An autosave cannot be read and is left where it is: {broken}", broken=broken[0]), bad=True
                )
            return
        left = found[0]

        def recover() -> None:
            if not self.may_leave():
                self._offer_recovery()
                return
            try:
                self.session.restart(left.design, left.path, saved=False)
            except OutOfRange as fault:
                self.notice.report(
                    tr("Not recovered. {fault} It stays in {file}.", fault=fault, file=left.file), bad=True
                )
                return
            self.autosave_now()
            left.forget()
            self._offer_recovery()

        def give_up() -> None:
            left.forget()
            self._offer_recovery()

        when = time.strftime("%d %b, %H:%M", time.localtime(left.when))
        of = tr(", of {path}", path=left.path) if left.path else ""
        more = tr(" {found} more are asked about after it.", found=len(found) - 1) if len(found) > 1 else ""
        words = tr(
            "“{name}”{of}, kept {when}, was not saved when Cooper last ended.{more}",
            name=left.design.name,
            of=of,
            when=when,
            more=more,
        )
        self.notice.ask(words, [(tr("Recover it"), recover), (tr("Give it up"), give_up)])

    def closeEvent(self, event: QCloseEvent) -> None:
        if not (self.may_leave() and self.ways_out.may_leave()):
            event.ignore()
            return
        self.ways_out.end()
        if self.handbook is not None and isValid(self.handbook):
            self.handbook.end()
        self.settings.set_geometry(self.saveGeometry())
        self.keeper.forget()
        event.accept()

    # -- odds and ends

    def _working(self, label: str) -> None:
        """Say that a change takes its time, once it does, with a way to give it up."""
        self._work_words = tr("Working out “{label}” …", label=label)
        self.work_told.start()

    def _tell_work(self) -> None:
        self.notice.ask(self._work_words, [(tr("Cancel"), self.session.give_up)])

    def _worked(self) -> None:
        self.work_told.stop()
        self.notice.withdraw(self._work_words)

    def _refused(self, _key: str, fault: OutOfRange) -> None:
        """Faults of edits that nobody else answers for are said in the notice."""
        self.notice.report(message_of(fault), bad=True)

    def _close_top(self) -> None:
        """Close what lies on top: an explanation, else faults, else the open sheet, else what the Margins opened."""
        faulty = [tag for tag in self.findChildren(Tag) if tag.fault is not None]
        if self.explanation is not None:
            self.explain()
        elif faulty:
            for tag in faulty:
                tag.close_fault()
        elif self.pages.currentIndex():
            self.leave_survey()
        elif not self.over_bench.drop() and self.margins.opened:
            self.margins.open("")
        self.notice.end()

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

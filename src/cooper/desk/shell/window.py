"""The window: Power line, Bench, Margins, Trail, and the commands that tie them."""

from __future__ import annotations

from functools import cached_property, partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QPoint, Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QStackedWidget,
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.base import recovery, registry
from cooper.desk.base import theme as th
from cooper.desk.base.idle_imports import IdleImports
from cooper.desk.base.registry import Action
from cooper.desk.base.session import Session
from cooper.desk.base.settings import Settings
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.shell.bench import Bench
from cooper.desk.shell.file_window import FileWindow
from cooper.desk.shell.margin_rows import CheckRow
from cooper.desk.shell.margins import Margins
from cooper.desk.shell.notice import Notice
from cooper.desk.shell.open_sheet import OpenSheet
from cooper.desk.shell.power_line import PowerLine
from cooper.desk.shell.trail import Trail
from cooper.desk.shell.window_parts import bind, lay_out
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.tag import Tag
from cooper.desk.widgets.tag_editor import TagEditor
from cooper.editing.levers import LEVERED
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.sheets.why_sheet import WhySheet
    from cooper.desk.shell.commands import Command, CommandList
    from cooper.desk.shell.explain import Explanation
    from cooper.desk.shell.find_value import ValueList
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


class Window(FileWindow):
    """One window about one train."""

    pages: QStackedWidget

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
        lay_out(self)
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
        bind(self)
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
    def value_list(self) -> ValueList:
        """The list in which a value is found by its symbol, name or meaning."""
        from cooper.desk.shell.find_value import ValueList

        return ValueList(self)

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

    def find_value(self, start: str = "") -> None:
        """Ask for a value; ``start`` is what was typed already."""
        self.value_list.open(start)

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
        result = [c for _k, checks in self.session.checks() for c in checks if c.symbol in LEVERED]
        self.margins.open("")
        self.margins.toggle(min(result, key=lambda c: c.margin).key)

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

    # -- nothing lost

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

"""A window with a design: its file opened and saved, and nothing of it lost."""

from __future__ import annotations

import time
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QGuiApplication

from cooper.demo import demo
from cooper.desk.base import recovery
from cooper.desk.base.painting_turn import PaintingTurn
from cooper.desk.base.session import Session
from cooper.desk.base.settings import Settings
from cooper.desk.shell.bench import Bench
from cooper.desk.shell.notice import Notice
from cooper.document.store import SUFFIX, Unusable, open_design, save_design
from cooper.errors import OutOfRange, message_of
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    pass


class FileWindow(PaintingTurn):
    """What a window does with files; the parts are made by the window itself."""

    session: Session
    settings: Settings
    bench: Bench
    notice: Notice
    keeper: recovery.AutosaveStore
    autosave_later: QTimer
    work_told: QTimer
    not_kept: bool
    _work_words: str

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
        text = tr(
            "Something went wrong that is Cooper's fault, not your design's. What you did last may not "
            "have taken effect; your work is kept. The log is {log_file}.",
            log_file=log_file(),
        )
        self.notice.withdraw(text)
        copy = (tr("Copy details"), lambda: QGuiApplication.clipboard().setText(words))
        self.notice.ask(text, [copy, (tr("Close"), lambda: None)])

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
        result = recovery.leftovers()
        if not result:
            if broken := recovery.unreadable():
                self.notice.report(
                    tr("An autosave cannot be read and is left where it is: {broken}", broken=broken[0]), bad=True
                )
            return
        left = result[0]

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
        more = tr(" {found} more are asked about after it.", found=len(result) - 1) if len(result) > 1 else ""
        words = tr(
            "“{name}”{of}, kept {when}, was not saved when Cooper last ended.{more}",
            name=left.design.name,
            of=of,
            when=when,
            more=more,
        )
        self.notice.ask(words, [(tr("Recover it"), recover), (tr("Give it up"), give_up)])

    def _name_window(self) -> None:
        words = tr("{name} – Cooper", name=self.session.design.name)
        if self.windowTitle() != words:
            self.setWindowTitle(translate(words))

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        urls = [u.toLocalFile() for u in event.mimeData().urls() if u.isLocalFile()]
        if urls:
            self.open_path(Path(urls[0]))

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

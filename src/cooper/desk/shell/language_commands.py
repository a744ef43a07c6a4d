"""The language and the decimal mark in force: a window speaks them from its beginning, so another takes its place
where they change."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QLocale

from cooper.desk.base.registry import Action, register_actions
from cooper.desk.base.settings import Settings
from cooper.desk.base.workers import WorkerProcess
from cooper.i18n.text import tr
from cooper.i18n.translate import language_in_force, languages, set_language

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window

_shown: list[Window] = []
"""Holds the window that took another's place; Qt does not."""


def set_chosen_language(settings: Settings) -> None:
    """Show everything in the language and with the decimal mark of the settings, of the system where they have none."""
    language, mark = of_place()
    chosen = settings.text("language", "")
    set_language(chosen if chosen in languages() else language, settings.text("decimal", "") or mark)


def of_place() -> tuple[str, str]:
    """Language and decimal mark that the system's settings ask for."""
    locale = QLocale.system()
    code = locale.name().partition("_")[0]
    return (code if code in languages() else "en"), locale.decimalPoint()


def choose(window: Window, key: str, value: str) -> None:
    """Keep a choice, and show the same session by it."""
    window.settings.set_text(key, value)
    before = language_in_force()
    set_chosen_language(window.settings)
    if language_in_force() == before:
        window.notice.report(tr("It is already so"))
        return
    fresh = _in_place_of(window)
    fresh.notice.report(
        tr("Language: {languages}", languages=languages()[language_in_force()[0]])
        if key == "language"
        else tr("Decimal mark: {spoken}", spoken=language_in_force()[1])
    )


def _in_place_of(window: Window) -> Window:
    """A window on the same states, where the other stood and with the same lens; the other is closed."""
    # What works beside the window was told how to speak when it began.
    WorkerProcess.end_all()
    fresh = type(window)(window.session.again(), window.settings, recover=False)
    fresh.setGeometry(window.geometry())
    fresh.setWindowState(window.windowState())
    fresh.autosave_now()
    fresh.show()
    fresh.bench.set_lens(window.bench.lens)
    fresh.activateWindow()
    fresh.bench.drawing.setFocus()
    # Nothing is given up with it: the states go on in the other.
    window.session.saved = window.session.design
    window.close()
    window.deleteLater()
    _shown[:] = [fresh]
    return fresh


def _at_work(window: Window) -> str:
    if window.ways_out.under_way():
        return tr("An export is running")
    return tr("A change is being worked out") if window.session.at_work else ""


register_actions(
    "views",
    *(
        Action(
            f"language_{code or 'system'}",
            tr("Language: {words}", words=words),
            "",
            partial(choose, key="language", value=code),
            _at_work,
        )
        for code, words in {"": tr("as the system"), **languages()}.items()
    ),
    *(
        Action(
            f"decimal_{name}",
            tr("Decimal mark: {words}", words=words),
            "",
            partial(choose, key="decimal", value=mark),
            _at_work,
        )
        for name, mark, words in (
            ("system", "", tr("as the system")),
            ("point", ".", tr("point")),
            ("comma", ",", tr("comma")),
        )
    ),
    place=1,
)

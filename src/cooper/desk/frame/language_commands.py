"""The language and the decimal mark in force: a window speaks them from its beginning, so another takes its place where they change."""

from __future__ import annotations

import sys
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QLocale

from cooper.desk.frame.beside_window import Beside
from cooper.desk.frame.registry import Action, register_actions
from cooper.desk.frame.settings import Settings
from cooper.language.spoken import LANGUAGES, speak, spoken

if TYPE_CHECKING:
    from cooper.desk.frame.window import Window

AS_WRITTEN = ("en", ".")
WIDGETS = "cooper.desk.frame.spoken_widgets"
_shown: list[Window] = []
"""Holds the window that took another's place; Qt does not."""


def speak_as_chosen(settings: Settings) -> None:
    """Show everything in the language and with the decimal mark of the settings, of the system where they have none."""
    language, mark = of_place()
    chosen = settings.text("language", "")
    wanted = (chosen if chosen in LANGUAGES else language, settings.text("decimal", "") or mark)
    if wanted == AS_WRITTEN and WIDGETS not in sys.modules:
        # Nothing has been put into another language, nor is to be.
        speak(*wanted)
        return
    from cooper.desk.frame.spoken_widgets import put_on

    put_on(*wanted)


def of_place() -> tuple[str, str]:
    """Language and decimal mark that the system's settings ask for."""
    locale = QLocale.system()
    code = locale.name().partition("_")[0]
    return (code if code in LANGUAGES else "en"), locale.decimalPoint()


def choose(window: Window, key: str, value: str) -> None:
    """Keep a choice, and show the same session by it."""
    window.settings.set_text(key, value)
    before = spoken()
    speak_as_chosen(window.settings)
    if spoken() == before:
        window.notice.say("It is so already")
        return
    fresh = _in_place_of(window)
    fresh.notice.say(f"Language: {LANGUAGES[spoken()[0]]}" if key == "language" else f"Decimal mark: {spoken()[1]}")


def _in_place_of(window: Window) -> Window:
    """A window on the same states, where the other stood and with the same lens; the other is closed."""
    # What works beside the window was told how to speak when it began.
    Beside.end_all()
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
        return "An export is running"
    return "A change is being worked out" if window.session.at_work else ""


register_actions(
    "views",
    *(
        Action(
            f"language_{code or 'system'}",
            f"Language: {words}",
            "",
            partial(choose, key="language", value=code),
            _at_work,
        )
        for code, words in {"": "as the system", **LANGUAGES}.items()
    ),
    *(
        Action(f"decimal_{name}", f"Decimal mark: {words}", "", partial(choose, key="decimal", value=mark), _at_work)
        for name, mark, words in (("system", "", "as the system"), ("point", ".", "point"), ("comma", ",", "comma"))
    ),
    place=1,
)

"""Starting the desk: in a window, or offscreen for pictures."""

from __future__ import annotations

import gc
import os
import sys
from functools import partial
from pathlib import Path
from threading import Thread

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from cooper.desk.base import theme as th
from cooper.desk.base.fault_notice import hear_faults
from cooper.desk.base.session import Session
from cooper.desk.base.settings import Settings
from cooper.desk.base.workers import WorkerProcess
from cooper.desk.shell.language_commands import set_chosen_language
from cooper.desk.shell.window import Window
from cooper.document.models import Design
from cooper.document.units import registry

_kept: list[QApplication] = []
"""Holds the application for as long as the program runs; Qt does not."""


def has_display() -> bool:
    """Whether a screen can be reached."""
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def application() -> QApplication:
    """The Qt application with the desk's fonts; offscreen where there is no display."""
    if not has_display() and "QT_QPA_PLATFORM" not in os.environ:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    os.environ.setdefault("QT_LOGGING_RULES", "qt.qpa.fonts.warning=false")
    # Its style is told in words: a style that is asked for by name brings hundreds of names that nobody needs at the
    # start.
    app = QApplication.instance() or QApplication([*sys.argv[:1], "-style", "fusion"])
    assert isinstance(app, QApplication)
    if _kept:
        return app
    _kept.append(app)
    app.setApplicationName("Cooper")
    app.setDesktopFileName("org.example.Cooper")
    th.load_fonts()
    app.setFont(th.font())
    return app


def _walk(window: Window) -> None:
    from cooper.desk.shell.first_walk_commands import walk_once

    walk_once(window)


def run(design: Design, path: Path | None, *, start: bool = False) -> int:
    """Open the window, with the start page over it where that is wanted, and stay until it is closed."""
    app = application()
    settings = Settings()
    set_chosen_language(settings)
    hear_faults()
    window = Window(Session(design, path), settings)
    geometry = window.settings.geometry
    if not geometry.isEmpty():
        window.restoreGeometry(geometry)
    if path is not None:
        window.settings.remember(path)
    window.show()
    window.bench.drawing.setFocus()
    if start:
        QTimer.singleShot(0, window.open_start)
        # Whoever comes for the first time is shown round once there is something to see.
        window.session.opened.connect(lambda: QTimer.singleShot(400, partial(_walk, window)))
    else:
        QTimer.singleShot(400, partial(_walk, window))
    # The interpreter must come up now and then for Ctrl+C in the terminal to work.
    beat = QTimer()
    beat.start(300)
    beat.timeout.connect(lambda: None)
    import signal

    def end(number: int, _frame: object) -> None:
        """Keep what is not saved before the program is ended from outside."""
        for shown in app.topLevelWidgets():
            if isinstance(shown, Window):
                shown.autosave_now()
        app.exit(128 + number)

    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, end)
    # As the interpreter has it: what a hand makes in passing is given back in passing.
    gc.set_threshold(700)
    # What takes long is done beside the window; its process is there before it is needed.
    QTimer.singleShot(1500, WorkerProcess.of_program().warm)
    # So is the library that reads typed units.
    QTimer.singleShot(2500, Thread(target=registry, daemon=True).start)
    return app.exec()

"""Pictures of the real window, drawn offscreen."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QBuffer, QCoreApplication, QEvent, QEventLoop, QIODevice, QTimer
from PySide6.QtGui import QPixmap

from cooper.atomic_write import atomic_write
from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.slices import Slices
from cooper.desk.base.workers import WorkerProcess
from cooper.desk.sheets.offers import Offers
from cooper.desk.shell.app import application
from cooper.desk.shell.window import Window
from cooper.document.models import Design
from cooper.i18n.text import tr

LONGEST = 60.0
"""Seconds that are waited for what is asked beside the window."""


def _close_up(window: Window) -> None:
    window.bench.set_lens("teeth")
    window.bench.drawing.set_roll(0.11)
    window.bench.drawing.look_at_mesh()


def _contact(window: Window) -> None:
    window.bench.set_lens("contact")
    window.bench.drawing.set_roll(0.11)


def _why(window: Window) -> None:
    window.open_worst()
    window.margins.fill_now()


def _train(window: Window) -> None:
    window.bench.set_lens("train")
    window.bench.view("train").set_turn(0.4)


def _solid(window: Window) -> None:
    window.bench.set_lens("train")
    window.bench.view("train").toggle_solid()
    settle()


def _survey(window: Window) -> None:
    """The kept survey, with a design under the pointer and three on the shelf."""
    page = window.open_survey()
    settle()
    if page.result is None or not len(page.result):
        return
    page.cloud.grab()
    # The best-possible edge, where it is found by now.
    edge = page.cloud.edge if len(page.cloud.edge) else range(len(page.result))
    for share in (0.05, 0.3, 0.8):
        page.put(int(edge[int(share * (len(edge) - 1))]))
    settle()
    n = int(edge[len(edge) // 2])
    page.cloud.look_at(n)
    page._draw_hover()
    settle()


def _survey_side(window: Window) -> None:
    _survey(window)
    page = window.open_survey()
    page.put(-1)
    settle()
    page.cloud.look_at(-1)
    page.toggle_side()


def _shafts(window: Window, what: str, piece: str = "") -> None:
    window.bench.set_lens("shafts")
    lens = window.bench.view("shafts")
    settle()
    result = lens.machine()
    if result is None:
        return
    lens.choose(what or result.shafts[len(result.shafts) // 2].key)
    if piece and lens.shaft is not None:
        lens.select(piece)
        lens.cursor_at = lens.shaft.made.piece(piece).at


def _stress(window: Window) -> None:
    window.bench.set_lens("stress")
    window.bench.drawing.set_roll(0.3)


def _loaded(window: Window) -> None:
    window.bench.set_lens("contact")
    window.bench.drawing.set_roll(0.11)
    lens = window.bench.view("contact")
    lens.show_mode(tr("loaded teeth"))
    settle()
    lens.loaded.take("smooth", True)


def _offers(window: Window) -> None:
    """The sheet of a set, its offers drawn."""
    window.open_sheet("set")
    settle()
    for offers in window.sheet.findChildren(Offers) if window.sheet is not None else ():
        offers.work()
        settle()


LENSES: dict[str, Callable[[Window], object]] = {
    "teeth": lambda window: window.bench.set_lens("teeth"),
    "whole set": lambda window: window.bench.set_lens("set"),
    "mesh": _close_up,
    "side": lambda window: window.bench.set_lens("side"),
    "contact": _contact,
    "stress": _stress,
    "loaded": _loaded,
    "forms": lambda window: window.open_sheet("forms"),
    "drawing": lambda window: window.open_sheet("drawing_2"),
    "shifts": lambda window: window.bench.set_lens("shifts"),
    "tooth": lambda window: window.bench.set_lens("tooth"),
    "why": _why,
    "duty": lambda window: window.open_sheet("duty"),
    "gear": lambda window: window.open_more(1),
    "dimensions": lambda window: window.open_sheet("sheet_1"),
    "counts": lambda window: window.open_sheet("fit_teeth"),
    "play": lambda window: window.open_sheet("play"),
    "compare": lambda window: window.open_sheet("compare"),
    "train": _train,
    "solid": _solid,
    "arrangements": lambda window: window.open_sheet("arrangement"),
    "set": _offers,
    "shafts": lambda window: _shafts(window, "", "bearing 1"),
    "machine": lambda window: _shafts(window, tr("whole machine")),
    "face": lambda window: _shafts(window, tr("load along the face")),
    "order of failure": lambda window: window.open_sheet("machine"),
    "start": lambda window: window.open_start(),
    "plastics": lambda window: window.open_sheet("plastics"),
    "losses": lambda window: window.open_sheet("losses"),
    "spectrum": lambda window: window.open_sheet("spectrum"),
    "points": lambda window: window.open_sheet("flank_points"),
    "formulas": lambda window: window.open_sheet("formulas"),
    "notes": lambda window: window.open_sheet("notes"),
    "survey": _survey,
    "shelf": _survey_side,
    "from a duty": lambda window: window.begin_from_duty(),
    "round": lambda window: window.open_sheet("round"),
}
"""What is shown, by name."""


def settle() -> None:
    """Let every layout and deferred deletion take place, and what was asked beside the window come in."""
    until, quiet = time.monotonic() + LONGEST, 0
    # Twice quiet: what came in last may have put something off.
    while quiet < 2:
        for _ in range(5):
            QCoreApplication.processEvents()
            QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        if not (WorkerProcess.any_busy() or Slices.any_busy()) or time.monotonic() > until:
            quiet += 1
            continue
        quiet = 0
        # With a longest time Qt does not wait but turns round and round, which takes the processor from what is waited
        # for.
        QTimer.singleShot(50, _nothing)
        QCoreApplication.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)


def _nothing() -> None:
    """What wakes who waits for events."""


def picture(design: Design, lens: str, out: Path, size: tuple[int, int] = (1280, 800), theme: str = "light") -> None:
    """Write one picture of the window on a design."""
    application()
    window = Window(Session(design), recover=False)
    window.session.set_system("mm")
    window.apply_theme(th.THEMES[theme])
    window.resize(*size)
    window.show()
    window.bench.drawing.setFocus()
    settle()
    LENSES[lens](window)
    settle()
    shown = window.grab()
    window.session.saved = window.session.design
    window.close()
    window.deleteLater()
    settle()
    save_picture(shown, out)


def save_picture(shown: QPixmap, out: Path) -> None:
    """Write a picture whole or not at all; raises ValueError for a suffix that names no kind of picture, OSError by
    the disk."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    if not shown.save(buffer, out.suffix.lstrip(".").upper() or "?"):
        raise ValueError(
            tr(
                "{name}: the suffix {value} names no kind of picture; .png does",
                name=out.name,
                value=out.suffix or "(none)",
            )
        )
    data = bytes(buffer.data().data())

    def write(temporary: Path) -> None:
        temporary.write_bytes(data)

    atomic_write(out, write)

"""Commands about files and states."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from cooper.demo import DEMOS
from cooper.desk.base.registry import Action, register_actions
from cooper.desk.shell.trail import pin_dialog
from cooper.desk.widgets.card import ask_text
from cooper.editing.edit import set_at
from cooper.i18n.text import tr

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window


def rename(window: Window) -> None:
    """Ask for a new name of the design."""
    name = ask_text(window, tr("Rename the design"), tr("Name"), window.session.design.name, "Rename")
    if name is not None and name.strip():
        window.session.edit(lambda d, _r: set_at(d, "name", name.strip()[:120]), "renamed", "name")


def _demo(window: Window, name: str) -> None:
    window.open_demo(name)


register_actions(
    "files",
    Action("find", tr("Find a command"), "Ctrl+K", lambda w: w.command_list.open()),
    Action("open", tr("Open a design …"), "Ctrl+O", lambda w: w.open_dialog(), asks=True),
    Action("save", tr("Save"), "Ctrl+S", lambda w: w.save(), asks=True),
    Action("save_as", tr("Save as …"), "Ctrl+Shift+S", lambda w: w.save_as(), asks=True),
    Action(tr("new"), tr("New design from the demo"), "Ctrl+N", lambda w: w.open_demo(), asks=True),
    *(
        Action(
            f"demo_{name}",
            tr("New design from the demo: {words}", words=words),
            "",
            partial(_demo, name=name),
            asks=True,
        )
        for name, words in DEMOS.items()
    ),
    Action(tr("start"), tr("Start page: the demo designs as drawings"), "Ctrl+Shift+N", lambda w: w.open_start()),
    Action("rename", tr("Rename the design …"), "", rename, asks=True),
    Action("undo", tr("Undo: back to the previous state"), "Ctrl+Z", lambda w: w.session.undo()),
    Action("redo", tr("Redo: forward again"), "Ctrl+Y", lambda w: w.session.redo()),
    Action("pin", tr("Pin and name this state …"), "Ctrl+P", lambda w: pin_dialog(w.session, w), asks=True),
)

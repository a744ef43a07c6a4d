"""The registry of sheets and commands. Every module registers what it brings; the window
reads it here.

So a new sheet is one new module, which nothing else has to name. They are loaded when one asks for them, or piece by
piece as soon as the window has been painted.
"""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec import Struct

from cooper.desk.base.lens_entries import LENSES
from cooper.i18n.text import tr

if TYPE_CHECKING:
    from cooper.desk.sheets.sheet import Sheet
    from cooper.desk.shell.window import Window


def always(_window: Window) -> str:
    """Available at any time."""
    return ""


class Action(Struct, frozen=True):
    """A command: its words, its shortcut (as Qt writes it), what it does, and why it cannot be done now (empty when
    it can).

    ``asks`` is set where it opens a dialog that waits for an answer.
    """

    key: str
    words: str
    shortcut: str
    run: Callable[[Window], object]
    when: Callable[[Window], str] = always
    asks: bool = False


class SheetEntry(Struct, frozen=True):
    """A sheet that opens over the Bench: what its command is called, how it is made, its greatest width and height
    (px), and its place in the list of commands."""

    key: str
    words: str
    shortcut: str
    make: Callable[[Window], Sheet]
    size: tuple[int, int]
    order: int
    when: Callable[[Window], str] = always


_ACTIONS: dict[str, dict[int, tuple[Action, ...]]] = {"files": {}, "stages": {}, "views": {}, "ways out": {}}
_SHEETS: dict[str, SheetEntry] = {}


def register_actions(group: str, *actions: Action, place: int = 0) -> None:
    """Add commands to a group, behind those that have a lower place in it."""
    _ACTIONS[group][place] = actions


def register_sheet(entry: SheetEntry) -> None:
    """Add a sheet; the one with the same key before it is replaced."""
    _SHEETS[entry.key] = entry


def sheets() -> dict[str, SheetEntry]:
    """The sheets by key, in their order."""
    load()
    return dict(sorted(_SHEETS.items(), key=lambda pair: (pair[1].order, pair[0])))


def groups() -> dict[str, list[Action]]:
    """Commands by group, in the order in which the groups are listed; sheets stand behind the files."""
    load()
    return {group: [a for _, some in sorted(of.items()) for a in some] for group, of in _ACTIONS.items()}


def actions() -> list[Action]:
    """Every command in the order of the list."""
    group = groups()
    opened = [
        Action(e.key, e.words, e.shortcut, lambda window, key=e.key: window.open_sheet(key), e.when)  # type: ignore[misc]
        for e in sheets().values()
    ]
    looks = [
        Action(
            f"lens_{e.key}",
            tr("Lens {words}", words=e.words),
            f"Alt+{n}",
            lambda window, key=e.key: window.bench.set_lens(key),  # type: ignore[misc]
        )
        for n, e in enumerate(LENSES.values(), 1)
    ]
    return [*group["files"], *opened, *group["stages"], *looks, *group["views"], *group["ways out"]]


@cache
def pieces() -> tuple[str, ...]:
    """Modules that may register sheets and commands."""
    room = Path(__file__).parent.parent
    result = {where: sorted(m.name for m in pkgutil.iter_modules([str(room / where)])) for where in ("sheets", "shell")}
    return (
        *(f"cooper.desk.sheets.{name}" for name in result["sheets"]),
        *(f"cooper.desk.shell.{name}" for name in result["shell"] if name.endswith("_commands")),
    )


@cache
def load() -> None:
    """Import all of them."""
    for piece in pieces():
        importlib.import_module(piece)

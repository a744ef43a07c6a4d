"""What the desk is made of: lenses, sheets and commands. Every module registers what it brings; the window reads it here.

So a new sheet or lens is one new module, which nothing else has to name.
"""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Callable
from typing import TYPE_CHECKING

from msgspec import Struct
from PySide6.QtWidgets import QWidget

if TYPE_CHECKING:
    from cooper.desk.frame.bench import Bench
    from cooper.desk.frame.window import Window
    from cooper.desk.sheets.sheet import Sheet


def always(_window: Window) -> str:
    """Available at any time."""
    return ""


class Action(Struct, frozen=True):
    """A command: its words, its shortcut (as Qt writes it), what it does, and why it cannot be done now (empty when it can).

    ``asks`` is set where it opens a dialog that waits for an answer.
    """

    key: str
    words: str
    shortcut: str
    run: Callable[[Window], object]
    when: Callable[[Window], str] = always
    asks: bool = False


class SheetEntry(Struct, frozen=True):
    """A sheet that opens over the Bench: what its command is called, how it is made, its greatest width and height (px), and
    its place in the list of commands."""

    key: str
    words: str
    shortcut: str
    make: Callable[[Window], Sheet]
    size: tuple[int, int]
    order: int
    when: Callable[[Window], str] = always


class LensEntry(Struct, frozen=True):
    """A way to look at the Bench's stage, and its place among the lenses; ``own_tags`` where it brings its own in place of the Bench's."""

    key: str
    words: str
    make: Callable[[Bench], QWidget]
    order: int
    own_tags: bool = False


ACTIONS: dict[str, list[Action]] = {"files": [], "stages": [], "views": [], "ways out": []}
"""Commands by group, in the order in which the groups are listed; sheets stand behind the files."""
SHEETS: dict[str, SheetEntry] = {}
LENSES: dict[str, LensEntry] = {}


def register_actions(group: str, *actions: Action) -> None:
    """Add commands to a group."""
    ACTIONS[group].extend(actions)


def register_sheet(entry: SheetEntry) -> None:
    """Add a sheet; the one with the same key before it is replaced."""
    SHEETS[entry.key] = entry


def register_lens(entry: LensEntry) -> None:
    """Add a lens; the one with the same key before it is replaced."""
    LENSES[entry.key] = entry


def lenses() -> list[LensEntry]:
    """The lenses in their order."""
    return sorted(LENSES.values(), key=lambda e: e.order)


def actions() -> list[Action]:
    """Every command in the order of the list."""
    sheets = [
        Action(e.key, e.words, e.shortcut, lambda window, key=e.key: window.open_sheet(key), e.when)  # type: ignore[misc]
        for e in sorted(SHEETS.values(), key=lambda e: e.order)
    ]
    looks = [
        Action(f"lens_{e.key}", f"Lens {e.words}", f"Alt+{n}", lambda window, key=e.key: window.bench.set_lens(key))  # type: ignore[misc]
        for n, e in enumerate(lenses(), 1)
    ]
    return [*ACTIONS["files"], *sheets, *ACTIONS["stages"], *looks, *ACTIONS["views"], *ACTIONS["ways out"]]


def load() -> None:
    """Import every module that may register something: lenses, sheets, and those of commands."""
    from cooper.desk import frame
    from cooper.desk import lenses as lens_modules
    from cooper.desk import sheets as sheet_modules

    for package in (lens_modules, sheet_modules):
        for module in pkgutil.iter_modules(package.__path__):
            importlib.import_module(f"{package.__name__}.{module.name}")
    for module in pkgutil.iter_modules(frame.__path__):
        if module.name.endswith("_commands"):
            importlib.import_module(f"{frame.__name__}.{module.name}")

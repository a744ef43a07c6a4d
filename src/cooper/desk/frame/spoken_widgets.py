"""Lets everything that the toolkit shows pass through the language in force: the one place where texts of widgets are put into another language."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any

from PySide6.QtGui import QAction, QPainter
from PySide6.QtWidgets import (
    QAbstractButton,
    QComboBox,
    QFileDialog,
    QFormLayout,
    QLabel,
    QLineEdit,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QWidget,
)

from cooper.language.spoken import shown, speak

SHOWN: dict[type, tuple[str, ...]] = {
    QLabel: ("setText",),
    QAbstractButton: ("setText",),
    QAction: ("setText", "setToolTip"),
    QMenu: ("addAction", "addMenu", "setTitle"),
    QWidget: ("setToolTip", "setAccessibleName", "setAccessibleDescription", "setWindowTitle"),
    QLineEdit: ("setPlaceholderText",),
    QComboBox: ("addItem", "addItems", "setPlaceholderText"),
    QFormLayout: ("addRow",),
    QPainter: ("drawText",),
}
"""What shows texts, by class and method."""
MADE: tuple[type, ...] = (QLabel, QPushButton, QListWidgetItem, QAction)
"""What takes its text where it is made."""
ASKED: dict[type, tuple[str, ...]] = {QFileDialog: ("getSaveFileName", "getOpenFileName")}
OURS: dict[type, tuple[int, ...]] = {QFileDialog: (1, 3)}
"""Places of our own words among what is given to dialogs; the others are paths and what was typed."""
_BEFORE: dict[tuple[type, str], Any] = {}


def _put(value: Any) -> Any:
    if isinstance(value, str):
        return shown(value)
    if isinstance(value, list) and value and all(isinstance(v, str) for v in value):
        return [shown(v) for v in value]
    return value


def _passing(function: Callable[..., Any], ours: tuple[int, ...] | None = None) -> Callable[..., Any]:
    @wraps(function)
    def passed(*args: Any, **more: Any) -> Any:
        return function(*(_put(a) if ours is None or n in ours else a for n, a in enumerate(args)), **more)

    return passed


def put_on(language: str, mark: str) -> None:
    """Show everything in a language and with a decimal mark from now on; what is shown already stays as it is."""
    speak(language, mark)
    plain = language == "en" and mark == "."
    for owner, names in (*SHOWN.items(), *((c, ("__init__",)) for c in MADE), *ASKED.items()):
        for name in names:
            key = (owner, name)
            if key not in _BEFORE:
                if plain:
                    continue
                _BEFORE[key] = owner.__dict__.get(name) or getattr(owner, name)
            before = _BEFORE[key]
            static = owner in ASKED
            setattr(
                owner,
                name,
                before if plain else staticmethod(_passing(before, OURS[owner])) if static else _passing(before),
            )

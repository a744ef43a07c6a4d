"""What can be done, in words, by the right button or by a click on a name: with the file, on the Bench, in a lens.

The commands of the registry and the keys of a lens, as menus; nothing is listed twice.
"""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QGuiApplication, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QApplication, QMenu, QWidget

from cooper.desk.base.lens_entries import LENSES
from cooper.desk.base.registry import groups, sheets
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window

FILE = (
    (tr("new"), "open", "RECENT"),
    ("save", "save_as", "rename"),
    ("undo", "redo", "pin"),
    ("WAYS OUT",),
    (tr("start"), "walk", "handbook"),
)
"""What one does with a file, in groups; RECENT and WAYS OUT are menus of their own."""


def add_command(menu: QMenu, window: Window, key: str) -> None:
    """A command of the registry, greyed with its reason where it cannot be done now."""
    command = next(c for c in window.commands if c.key == key)
    shortcut = f"\t{QKeySequence(command.shortcut).toString()}" if command.shortcut else ""
    reason = command.why_not()
    action = menu.addAction(translate(command.words + shortcut), command.run)
    if reason:
        action.setEnabled(False)
        action.setToolTip(translate(reason))


def file_menu(window: Window) -> QMenu:
    """What one does with a design and its states."""
    menu = QMenu(translate(window))
    menu.setObjectName("file_menu")
    menu.setToolTipsVisible(True)
    for n, group in enumerate(FILE):
        if n:
            menu.addSeparator()
        for key in group:
            if key == "RECENT":
                recent = menu.addMenu(translate(tr("Open a recent design")))
                for path in window.settings.recent():
                    recent.addAction(
                        translate(tr("{name}  ({parent})", name=path.name, parent=path.parent)),
                        partial(window.open_path, path),
                    )
                recent.setEnabled(bool(window.settings.recent()))
            elif key == "WAYS OUT":
                out = menu.addMenu(translate(tr("Export, report, print")))
                out.setToolTipsVisible(True)
                for command in ways_out(window):
                    add_command(out, window, command)
            else:
                add_command(menu, window, key)
    return menu


def ways_out(window: Window) -> list[str]:
    """The commands by which something leaves."""
    return [a.key for a in groups()["ways out"] if any(c.key == a.key for c in window.commands)]


def press(view: QWidget, key: Qt.Key, text: str) -> None:
    """A key as if it were pressed in a view."""
    for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
        QApplication.sendEvent(view, QKeyEvent(kind, key, Qt.KeyboardModifier.NoModifier, text))


def bench_menu(window: Window) -> QMenu:
    """What can be done with what is on the Bench: the lens's own verbs, the data of the gears and of the mesh, other
    lenses, sheets."""
    menu = QMenu(translate(window))
    menu.setObjectName("bench_menu")
    bench = window.bench
    view = bench.views[bench.lens]
    verbs = getattr(view, "VERBS", ())
    for words, shown, key in verbs:
        menu.addAction(
            translate(tr("{words}\t{shown}", words=words, shown=shown)),
            partial(press, view, key, shown if len(shown) == 1 else ""),
        )
    if verbs:
        menu.addSeparator()
    if bench.more[0].text():
        for i in (1, 2, 0):
            name = bench.more[i - 1 if i else 2].text().removesuffix(" …")
            words = tr("All data of {name} …", name=name) if i else tr("All data of the mesh …")
            menu.addAction(translate(words), partial(bench.more_wanted.emit, i))
        menu.addSeparator()
    looks = menu.addMenu(translate(tr("Look at it as")))
    for n, entry in enumerate(LENSES.values(), 1):
        if entry.key == "set" and bench.set_number is None:
            continue
        action = looks.addAction(translate(f"{entry.words}\tAlt+{n}"), partial(bench.set_lens, entry.key))
        action.setCheckable(True)
        action.setChecked(entry.key == bench.lens)
    over = menu.addMenu(translate(tr("Open a sheet")))
    for key in sheets():
        add_command(over, window, key)
    menu.addSeparator()
    add_command(menu, window, "find")
    return menu


def check_menu(window: Window, key: str) -> QMenu:
    """What can be done with a check of the Margins."""
    menu = QMenu(translate(window))
    menu.setObjectName("check_menu")
    margins = window.margins
    row, check = margins.rows[key], window.session.results.check(key)
    told = tr("Close it again") if margins.opened == key else tr("Why, and what would help")
    menu.addAction(translate(f"{told}\tEnter"), partial(margins.toggle, key))

    def explain() -> None:
        row.setFocus()
        window.asked = row
        window.explain()

    menu.addAction(translate(tr("What it is\tF1")), explain)
    if check is not None:
        text = tr(
            "{label}: {accessibleDescription}", label=check.label, accessibleDescription=row.accessibleDescription()
        )
        menu.addAction(translate(tr("Copy it")), partial(QGuiApplication.clipboard().setText, text))
        if check.stage is not None and check.stage != window.session.stage:
            menu.addAction(translate(tr("Go to its stage")), partial(window.session.select_stage, check.stage))
    menu.addSeparator()
    menu.addAction(translate(tr("All notes and warnings …")), partial(window.open_sheet, tr("notes")))
    return menu


def pop(menu: QMenu, at: QPoint) -> None:
    """Open a menu, which is gone once it closes."""
    menu.aboutToHide.connect(menu.deleteLater)
    menu.popup(at)

"""Every action by name: the searchable list that Ctrl+K opens."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFrame, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from cooper.desk.widgets.labels import Label
from cooper.i18n.text import tr
from cooper.i18n.translate import translate


class Command(Struct, frozen=True):
    """An action with its words, its shortcut (as Qt writes it) and what it does."""

    key: str
    words: str
    shortcut: str
    run: Callable[[], object]
    why_not: Callable[[], str] = str
    """Why it cannot be done now; empty when it can."""
    asks: bool = False
    """Whether it opens a dialog that waits for an answer."""


class CommandList(QFrame):
    """The list over the window: type a part of the words, Enter runs the chosen one."""

    WIDE = 520
    """Width of the list; px."""

    def __init__(self, commands: Callable[[], list[Command]], parent: QWidget) -> None:
        super().__init__(parent)
        self.all = commands
        self.commands: list[Command] = []
        self.setObjectName("sheet")
        self.setAccessibleName(translate(tr("Commands")))
        box = QVBoxLayout(self)
        box.setContentsMargins(10, 10, 10, 10)
        self.line = QLineEdit()
        self.line.setObjectName("command_line")
        self.line.setAccessibleName(translate(tr("Find a command")))
        self.line.setPlaceholderText(translate(tr("What do you want to do?")))
        self.line.textChanged.connect(self.refresh)
        self.list = QListWidget()
        self.list.setObjectName("command_list")
        self.list.itemActivated.connect(lambda _item: self.run())
        self.list.itemClicked.connect(lambda _item: self.run())
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.none = Label(tr("No command has these words."))
        box.addWidget(self.line)
        box.addWidget(self.list, 1)
        box.addWidget(self.none)
        self.hide()

    def open(self) -> None:
        window = self.parentWidget()
        assert window is not None
        wide = min(self.WIDE, window.width() - 40)
        self.setGeometry((window.width() - wide) // 2, 64, wide, min(460, window.height() - 120))
        self.commands = self.all()
        self.line.clear()
        self.refresh()
        self.show()
        self.raise_()
        self.line.setFocus()

    def refresh(self) -> None:
        # Looked for in the words that stand on the screen.
        wanted = self.line.text().casefold().split()
        self.fill([c for c in self.commands if all(word in translate(c.words).casefold() for word in wanted)])
        self.none.setVisible(self.list.count() == 0)

    def fill(self, commands: list[Command]) -> None:
        """Show these commands, each with its shortcut or why it cannot be done."""
        self.list.clear()
        for command in commands:
            reason = translate(command.why_not())
            after = (
                tr("     {reason}", reason=reason)
                if reason
                else tr("     {shortcut}", shortcut=command.shortcut)
                if command.shortcut
                else ""
            )
            item = QListWidgetItem(translate(translate(command.words) + after))
            if reason:
                item.setForeground(self.palette().placeholderText())
            item.setData(Qt.ItemDataRole.UserRole, command.key)
            self.list.addItem(item)
        self.list.setCurrentRow(0)

    def run(self) -> None:
        item = self.list.currentItem()
        self.hide()
        if item is not None:
            key = item.data(Qt.ItemDataRole.UserRole)
            next(c for c in self.commands if c.key == key).run()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
        elif event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            step = 1 if event.key() == Qt.Key.Key_Down else -1
            self.list.setCurrentRow(max(0, min(self.list.count() - 1, self.list.currentRow() + step)))
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.run()
        else:
            event.ignore()

"""The line in which a tag is typed."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import (
    QFocusEvent,
    QKeyEvent,
)
from PySide6.QtWidgets import QLineEdit

from cooper.desk.base import theme as th

if TYPE_CHECKING:
    from cooper.desk.widgets.tag import Tag
from cooper.i18n.translate import translate


class TagEditor(QLineEdit):
    """The line in which a tag's value is typed: Enter takes it, Escape leaves it, Tab goes on."""

    def __init__(self, tag: Tag) -> None:
        super().__init__(tag.parentWidget())
        self.tag = tag
        self.setObjectName(f"edit_{tag.field.key}")
        self.setAccessibleName(translate(tag.accessibleName()))
        self.setFont(th.font(bold=True))
        self.setMaxLength(80)
        self.resize(max(tag.width(), 96), tag.height())
        parent = tag.parentWidget()
        right = parent.width() - 4 if parent else tag.x() + self.width()
        self.move(min(tag.x(), right - self.width()), tag.y())
        self.raise_()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            tag = self.tag
            tag.close_editor(take=True)
            if tag.editor is None:
                tag.setFocus()
        elif event.key() == Qt.Key.Key_Escape:
            tag = self.tag
            tag.close_editor(take=False)
            tag.setFocus()
        elif event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.tag.step(
                1 if event.key() == Qt.Key.Key_Up else -1, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            )
            self.setText(translate(self.tag.text()))
            self.selectAll()
        else:
            super().keyPressEvent(event)

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab takes the value and goes to the next tag."""
        tag = self.tag
        tag.close_editor(take=True)
        if tag.editor is not None:
            return True
        tag.setFocus(Qt.FocusReason.TabFocusReason)
        moved = tag.focusNextPrevChild(forward)
        del moved
        return True

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        if event.reason() in (Qt.FocusReason.MouseFocusReason, Qt.FocusReason.OtherFocusReason) and self.isVisible():
            self.tag.close_editor(take=True)

"""What can be done with a tag, as a menu."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtGui import QContextMenuEvent
from PySide6.QtWidgets import QMenu

from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.widgets.tag import Tag


def open_tag_menu(tag: Tag, event: QContextMenuEvent) -> None:
    """Edit, copy, swap, step, take away, explain."""
    menu = QMenu(tag)
    menu.addAction(translate(tr("Edit\tEnter")), tag.open)
    menu.addAction(translate(tr("Copy with unit\tCtrl+C")), tag.copy)
    if tag.field.swap is not None:
        words = tr("Give it, solve {partner}", partner=tag.field.partner) if tag.is_solved() else tr("Let it be solved")
        menu.addAction(translate(f"{words}\tG"), tag.swap)
    menu.addSeparator()
    menu.addAction(translate(tr("A standard step up\tUp")), lambda: tag.step(1))
    menu.addAction(translate(tr("A standard step down\tDown")), lambda: tag.step(-1))
    if tag.field.clear is not None:
        menu.addAction(
            translate(tr("Take it away: {empty}", empty=tag.field.empty)),
            lambda: tag.commit_text(tag.field.empty),
        )
    menu.addAction(translate(tr("What it is\tF1")), tag.explain)
    menu.exec(event.globalPos())

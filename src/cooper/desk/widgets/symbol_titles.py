"""Titles in a list that begin with a symbol, typeset."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRect
from PySide6.QtGui import QPainter, QPalette
from PySide6.QtWidgets import QStyledItemDelegate, QStyleOptionViewItem, QWidget

from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import Run, draw, elided


class Titles(QStyledItemDelegate):
    """Titles of the list, the symbol before two blanks typeset."""

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        # Its many names are made when it is first asked for.
        from PySide6.QtWidgets import QStyle

        title = str(index.data())
        symbol, apart, meaning = title.partition("  ")
        main, _, sub = symbol.partition("_")
        if not (apart and sub):
            super().paint(painter, option, index)
            return
        style = QStyleOptionViewItem(option)
        self.initStyleOption(style, index)
        style.text = ""
        widget: QWidget = option.widget
        widget.style().drawControl(QStyle.ControlElement.CE_ItemViewItem, style, painter, widget)
        area: QRect = option.rect
        color = option.palette.color(QPalette.ColorRole.Text)
        runs = [Run(main, th.font(italic=True), color), Run(sub, th.font(0.74 * th.TEXT), color, drop=0.32 * th.TEXT)]
        left = area.left() + 11
        base = area.center().y() + 5
        at = draw(painter, runs, left, base)
        room = area.right() - at - 14
        draw(painter, [Run(elided(meaning, th.font(), room), th.font(), color)], at + 8, base)

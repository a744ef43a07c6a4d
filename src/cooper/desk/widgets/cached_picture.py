"""A part of a widget that is painted once and then laid down again until it shows something else.

What lies over a drawing is painted with it at every edit, though most of it stays as it was.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable

from PySide6.QtCore import Qt
from PySide6.QtGui import QPainter, QPixmap
from PySide6.QtWidgets import QWidget


class CachedPicture:
    """The picture of a widget, or of what stays in it."""

    def __init__(self) -> None:
        self._key: tuple[Hashable, ...] = ()
        self._picture = QPixmap()

    def lay(self, painter: QPainter, widget: QWidget, key: Hashable, paint: Callable[[QPainter], object]) -> None:
        """Lay it down over the whole widget; painted by ``paint`` where ``key``, size or resolution are others than
        before."""
        ratio = widget.devicePixelRatioF()
        whole = (key, widget.width(), widget.height(), ratio)
        if whole != self._key:
            picture = QPixmap(widget.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            picture.fill(Qt.GlobalColor.transparent)
            inside = QPainter(picture)
            inside.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint(inside)
            inside.end()
            self._key, self._picture = whole, picture
        painter.drawPixmap(0, 0, self._picture)

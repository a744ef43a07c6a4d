"""Cards with a small drawing of a train in end view: on the start page and among the arrangements."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPen, QPixmap
from PySide6.QtWidgets import QAbstractButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.lenses.train_painter import HOUSING, Look, TrainPainter
from cooper.desk.widgets.typeset import elided, words
from cooper.results.result_tree import Results

CAPTION = 64
"""Height under the drawing for two lines of words."""


class MiniatureCard(QAbstractButton):
    """A card with a drawing, a name and a line beneath."""

    def __init__(self, theme: th.Theme, size: QSize, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self.setFixedSize(size)
        self.picture = QPixmap()

    def draw(self, results: Results) -> None:
        """Make the drawing of a train."""
        ratio = self.devicePixelRatioF()
        self.picture = QPixmap(self.size() * ratio)
        self.picture.setDevicePixelRatio(ratio)
        self.picture.fill(Qt.GlobalColor.transparent)
        p = QPainter(self.picture)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(14, 12, self.width() - 28, self.height() - CAPTION)
        TrainPainter(results, self.theme).paint(p, room, 0.3, Look(HOUSING, circles=False, paths=False))
        p.end()

    def paint_card(self, p: QPainter, name: str, text: str, *, marked: bool = False) -> None:
        """Frame, drawing and words; ``marked`` is what the design is already."""
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        hot = self.isEnabled() and (self.underMouse() or self.hasFocus())
        p.setPen(QPen(t.color("copper" if hot or marked else "line"), 1.6 if hot else 1.0))
        p.setBrush(t.color("card"))
        p.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 7, 7)
        p.drawPixmap(0, 0, self.picture)
        bold, small = th.font(th.TEXT, bold=True), th.font(th.SMALL)
        words(
            p,
            elided(name, bold, self.width() - 22),
            bold,
            t.color("faint" if self.picture.isNull() else "ink"),
            12,
            self.height() - 29,
        )
        words(
            p,
            elided(text, small, self.width() - 22),
            small,
            t.color("copper" if marked else "muted"),
            12,
            self.height() - 11,
        )

"""A design under the pointer of the cloud."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QWidget

from cooper.desk.base import theme as th
from cooper.desk.survey.picked import paint_end, paint_side
from cooper.desk.widgets.typeset import draw, elided, label_runs, words
from cooper.results.result_tree import Results

CARD = QSize(272, 132)


class HoverCard(QFrame):
    """A design under the pointer: its picture to scale as soon as it is there, and its worst margins."""

    def __init__(self, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme
        self.setObjectName("hover_card")
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.resize(CARD)
        self.label, self.lines = "", [""]
        self.results: Results | None = None
        self.hide()

    def show_design(self, label: str, lines: list[str], results: Results | None, at: QPoint) -> None:
        """Show this beside a place of the parent."""
        self.label, self.lines, self.results = label, lines, results
        around = self.parentWidget()
        room = around.rect() if around is not None else self.rect()
        x = at.x() + 16 if at.x() + 16 + self.width() < room.width() else at.x() - 16 - self.width()
        y = min(max(at.y() - self.height() // 2, 2), room.height() - self.height() - 2)
        self.move(max(x, 2), max(y, 2))
        self.show()
        self.raise_()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, small = self.theme, th.font(th.SMALL)
        p.setPen(t.color("line"))
        p.setBrush(t.color("card"))
        p.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
        words(p, elided(self.label, small, self.width() - 16), small, t.color("ink"), 8, 17)
        for n, line in enumerate(self.lines[:5]):
            draw(p, label_runs(line, t.color("muted"), th.SMALL), 152, 38 + 18 * n)
        if self.results is not None:
            from cooper.desk.lenses.train_painter import TrainPainter

            room = QRectF(6, 24, 138, 62)
            scale = TrainPainter(self.results, t).scale(room)
            paint_end(p, self.results, t, room, scale)
            paint_side(
                p,
                self.results,
                t,
                QRectF(6, 88, 138, 40),
                min(scale, 40 / (2 * TrainPainter(self.results, t).extent[2])),
            )

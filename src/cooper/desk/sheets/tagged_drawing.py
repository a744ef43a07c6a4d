"""A drawing of a gear's data on its sheet, whose tags stand at the right, each on a leader."""

from __future__ import annotations

from PySide6.QtCore import QPointF
from PySide6.QtGui import QPainter, QPen
from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.widgets.tag import HEIGHT, Tag
from cooper.editing.fields import Field


def fields_on(fields: list[Field], symbols: tuple[str, ...]) -> list[Field]:
    """The fields of these symbols, in their order."""
    return sorted((f for f in fields if f.symbol in symbols), key=lambda f: symbols.index(f.symbol))


class TaggedDrawing(QWidget):
    """Of gear i (1, 2) of a stage; ``APART`` lies between tags and ``FOOT`` below them (px)."""

    APART, FOOT = 8, 40

    def __init__(self, session: Session, theme: th.Theme, stage: int, i: int, fields: list[Field]) -> None:
        super().__init__()
        self.session, self.theme, self.k, self.i = session, theme, stage, i
        self.fields = fields
        self.tags = {f.symbol: Tag(session, f, theme, self) for f in fields}
        self.setMinimumSize(205, max(150, (HEIGHT + self.APART) * len(fields) + self.FOOT))
        self._arrange()

    def _arrange(self) -> None:
        y = 6
        for tag in self.tags.values():
            tag.move(self.width() - tag.width() - 2, y)
            y += HEIGHT + self.APART

    def resizeEvent(self, event: object) -> None:
        self._arrange()

    def beside(self) -> int:
        """Width of the widest tag; px."""
        return max((tag.width() for tag in self.tags.values()), default=60)

    def leader(self, p: QPainter, tag: Tag, at: QPointF) -> None:
        """The line from a tag to where its quantity is measured."""
        p.setPen(QPen(self.theme.color("copper" if tag.hasFocus() else "line"), th.HAIR))
        p.drawLine(QPointF(tag.x(), tag.y() + HEIGHT / 2), at)
        p.drawEllipse(at, 1.6, 1.6)

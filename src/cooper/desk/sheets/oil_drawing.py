"""The sump: the gear that dips deepest, the level of the oil, and how deep it reaches."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPaintEvent, QPen

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.sheets.tagged_drawing import TaggedDrawing, fields_on
from cooper.desk.widgets.offer_marks import circles
from cooper.desk.widgets.typeset import words
from cooper.editing.fields import Field
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

IN_SUMP = ("theta_air", "A_h", "h_e", "l_hyd")
"""What stands on the drawing."""


class OilDrawing(TaggedDrawing):
    """The train in end view in its housing, the oil up to its level."""

    FOOT = 60

    def __init__(self, session: Session, theme: th.Theme, fields: list[Field]) -> None:
        super().__init__(session, theme, 0, 1, fields_on(fields, IN_SUMP))
        self.setObjectName("oil_drawing")
        self.setAccessibleName(translate(tr("Oil in the housing")))

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, design = self.theme, self.session.design
        gears = circles(self.session.results)
        room = QRectF(14, 14, self.width() - 40 - self.beside(), self.height() - 44)
        left = min(x - r for _c, x, _y, r in gears)
        right = max(x + r for _c, x, _y, r in gears)
        top = max(y + r for _c, _x, y, r in gears)
        low = min(y - r for _c, _x, y, r in gears)
        gap = 0.08 * max(right - left, top - low)
        scale = min(room.width() / (right - left + 2 * gap), room.height() / (top - low + 2 * gap))
        x_0 = room.center().x() - scale * (left + right) / 2
        y_0 = room.center().y() + scale * (top + low) / 2
        box = QRectF(
            QPointF(x_0 + scale * (left - gap), y_0 - scale * (top + gap)),
            QPointF(x_0 + scale * (right + gap), y_0 - scale * (low - gap)),
        )
        h_e = float(design.train.losses.h_e)
        level = y_0 - scale * (low + h_e)
        p.setPen(QPen(t.color("ink"), 1.4))
        p.setBrush(t.color("card"))
        p.drawRoundedRect(box, 6, 6)
        for role, x, y, r in sorted(gears, key=lambda c: -c[3]):
            p.setPen(QPen(t.color(role), th.FINE))
            p.setBrush(t.color(f"{role}_fill"))
            p.drawEllipse(QPointF(x_0 + scale * x, y_0 - scale * y), scale * r, scale * r)
        if h_e > 0:
            oil = QRectF(QPointF(box.left() + 1, max(level, box.top())), box.bottomRight() - QPointF(1, 1))
            p.fillRect(oil, t.color("thin", 0.3))
            p.setPen(QPen(t.color("thin"), th.FINE))
            p.drawLine(oil.topLeft(), oil.topRight())
        places = {
            "h_e": QPointF(box.right() - 8, level),
            "l_hyd": QPointF(box.right() - 30, box.bottom()),
            "A_h": QPointF(box.right(), box.top() + 8),
            "theta_air": QPointF(box.right() + 6, box.top() + 2),
        }
        for symbol, tag in self.tags.items():
            self.leader(p, tag, places[symbol])
        told = tr("no gear dips") if h_e <= 0 else tr("the gear that stands lowest dips into the oil")
        words(p, told, th.font(th.SMALL), t.color("muted"), 6, self.height() - 8)

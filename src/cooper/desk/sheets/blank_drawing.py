"""The blank of a gear in half section, its dimensions as tags where they are measured."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QPainter, QPaintEvent, QPen, QTransform

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.sheets.tagged_drawing import TaggedDrawing
from cooper.desk.widgets.typeset import words
from cooper.document.units import number_with_unit
from cooper.editing.fields import Field
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.blank import HUB


class BlankDrawing(TaggedDrawing):
    """Half of a gear above its axis: teeth, rim, web, bore."""

    def __init__(self, session: Session, theme: th.Theme, stage: int, i: int, fields: list[Field]) -> None:
        super().__init__(session, theme, stage, i, fields)
        self.setObjectName(f"blank_{i}")
        self.setAccessibleName(translate(tr("Half section of the blank")))

    def there(self) -> bool:
        """Whether the gear is still one that turns: its sheet is made anew otherwise."""
        stages = self.session.results.stages
        return self.k < len(stages) and stages[self.k].kinds[self.i - 1].turns

    def radii(self) -> dict[str, float]:
        """Half diameters of what is drawn; mm."""
        s = self.session.results.stages[self.k]
        g, kind = s.gears[self.i - 1], s.kinds[self.i - 1]
        gear = self.session.design.train.stages[self.k].gears[self.i - 1]
        result = {"d_a": float(g.d_a) / 2, "d_f": float(g.d_fE) / 2, "d_bore": gear.d_bore / 2}
        if kind.inward:
            result["d_rim"] = float(kind.outside(g)) / 2
        elif gear.d_i:
            result["d_i"] = gear.d_i / 2
        return result | {"b": float(g.b), "b_s": float(gear.b_s or g.b)}

    def paintEvent(self, event: QPaintEvent) -> None:
        if not self.there():
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, r = self.theme, self.radii()
        outer = max(r["d_a"], r.get("d_rim", 0.0))
        room = QRectF(12, 8, self.width() - 12 - self.beside() - 46, self.height() - 40)
        scale = min(room.height() / outer, room.width() / r["b"])
        axis, left = room.bottom(), room.left() + (room.width() - scale * r["b"]) / 2
        middle = left + scale * r["b"] / 2
        role = ("driver", "driven")[self.i - 1]
        p.setPen(QPen(t.color(role), th.HAIR))

        def box(width: float, r_1: float, r_2: float, cut: bool) -> None:
            rect = QRectF(
                QPointF(middle - scale * width / 2, axis - scale * r_2),
                QPointF(middle + scale * width / 2, axis - scale * r_1),
            )
            p.setBrush(t.color(f"{role}_fill"))
            p.drawRect(rect)
            if cut:
                brush = QBrush(t.color(role, 0.55), Qt.BrushStyle.BDiagPattern)
                brush.setTransform(QTransform().scale(0.8, 0.8))
                p.fillRect(rect, brush)

        if "d_rim" in r:
            box(r["b"], r["d_f"], r["d_rim"], True)
            box(r["b"], r["d_a"], r["d_f"], False)
        elif "d_i" in r:
            hub = min(HUB * r["d_bore"], r["d_i"]) if r["d_bore"] else r["d_bore"]
            if hub > r["d_bore"]:
                box(r["b"], r["d_bore"], hub, True)
            box(r["b_s"], hub, r["d_i"], True)
            box(r["b"], r["d_i"], r["d_f"], True)
            box(r["b"], r["d_f"], r["d_a"], False)
        else:
            box(r["b"], r["d_bore"], r["d_f"], True)
            box(r["b"], r["d_f"], r["d_a"], False)
        pen = QPen(t.color("muted"), th.HAIR)
        pen.setDashPattern([12, 3, 2, 3])
        p.setPen(pen)
        p.drawLine(QPointF(left - 10, axis), QPointF(left + scale * r["b"] + 10, axis))
        right = left + scale * r["b"]
        for symbol, tag in self.tags.items():
            where = {"b_s": axis - scale * (r["d_bore"] + r.get("d_i", r["d_f"])) / 2}.get(
                symbol, axis - scale * r.get(symbol, r["d_bore"])
            )
            x = middle + scale * r["b_s"] / 2 if symbol == "b_s" else right
            self.leader(p, tag, QPointF(x, where))
        system = self.session.system
        text = tr(
            "{b} wide, tips at {d_a}",
            b=number_with_unit(r["b"], "length", system),
            d_a=number_with_unit(2 * r["d_a"], "length", system),
        )
        words(p, text, th.font(th.SMALL), t.color("muted"), 8, self.height() - 8)

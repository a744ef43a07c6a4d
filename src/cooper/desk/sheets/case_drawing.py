"""Hardness over the depth under a flank: surface, case and core, with the depth at which 550 HV stand."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.sheets.tagged_drawing import TaggedDrawing, fields_on
from cooper.desk.widgets.typeset import elided, words
from cooper.document.units import number_with_unit
from cooper.editing.fields import Field
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.rating.iso6336.flank_fracture import hardness_at

ON_CASE = ("hardness", "CHD", "HV_core")
"""What stands on the drawing."""
USUAL_CORE = 350.0
"""Core hardness (HV) of the curve that is drawn where none is given, dashed."""


class CaseDrawing(TaggedDrawing):
    """The curve of ISO/TS 6336-4 from the flank inwards; dashed as long as depth or core are not given."""

    FOOT = 50

    def __init__(self, session: Session, theme: th.Theme, stage: int, i: int, fields: list[Field]) -> None:
        super().__init__(session, theme, stage, i, fields_on(fields, ON_CASE))
        self.setMinimumSize(250, self.minimumHeight())
        self.setObjectName(f"case_{i}")
        self.setAccessibleName(translate(tr("Hardness over depth")))

    def paintEvent(self, event: QPaintEvent) -> None:
        stages = self.session.design.train.stages
        if self.k >= len(stages):
            return
        stage = stages[self.k]
        mesh = stage.mesh
        gear = stage.gears[self.i - 1]
        p, t, small = QPainter(self), self.theme, th.font(th.SMALL)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        surface, core = float(gear.material.hardness), float(gear.HV_core or USUAL_CORE)
        depth = float(gear.CHD or 0.15 * float(mesh.m_n or 1.0))
        f = QRectF(34, 8, self.width() - 50 - self.beside(), self.height() - 44)
        y_most, HV_most = 3.2 * depth, 100 * np.ceil(max(surface, 600.0) / 100)
        if not core < surface:
            words(p, tr("the core is no softer than the surface"), small, t.color("muted"), 4, 20)
            return

        def at(y: float, HV: float) -> QPointF:
            return QPointF(f.left() + f.width() * y / y_most, f.bottom() - f.height() * HV / HV_most)

        p.setPen(QPen(t.color("line"), th.HAIR))
        p.drawLine(f.bottomLeft(), f.bottomRight())
        p.drawLine(f.topLeft(), f.bottomLeft())
        y = np.linspace(0, y_most, 60)
        given = gear.CHD is not None and gear.HV_core is not None
        pen = QPen(t.color(("driver", "driven")[self.i - 1]), th.BOLD if given else th.FINE)
        if not given:
            pen.setStyle(Qt.PenStyle.DashLine)
        p.setPen(pen)
        HV = hardness_at(y, surface, core, depth) if surface > 550 > core else np.linspace(surface, core, 60)
        p.drawPolyline(QPolygonF([at(a, b) for a, b in zip(y.tolist(), HV.tolist(), strict=True)]))
        p.setPen(QPen(t.color("muted"), th.HAIR, Qt.PenStyle.DotLine))
        p.drawLine(at(0, 550), at(depth, 550))
        p.drawLine(at(depth, 550), at(depth, 0))
        words(p, "550", small, t.color("muted"), f.left() - 4, at(0, 550).y() + 4, right=True)
        places = {"hardness": at(0, surface), "CHD": at(depth, 550), "HV_core": at(0.9 * y_most, core)}
        for symbol, tag in self.tags.items():
            self.leader(p, tag, places[symbol])
        system = self.session.system
        text = (
            tr("hardness over depth, to {depth}", depth=number_with_unit(y_most, "length", system))
            if given
            else tr("as it may be: depth or core are not given")
        )
        words(p, elided(text, small, self.width() - 8), small, t.color("muted"), 4, self.height() - 8)

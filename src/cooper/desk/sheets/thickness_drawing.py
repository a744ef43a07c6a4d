"""A tooth between its limits: as the allowances of its thickness let it be, drawn larger than they are; beside it the
deviations that its class allows on a flank."""

from __future__ import annotations

from math import radians, tan

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.sheets.tagged_drawing import TaggedDrawing, fields_on
from cooper.desk.widgets.typeset import elided, words
from cooper.document.gear_data import Gear
from cooper.document.units import number_with_unit
from cooper.editing.fields import Field
from cooper.errors import OutOfRange
from cooper.gears.flank_points import half_angles
from cooper.gears.tolerances import flank_tolerances
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

ON_TOOTH = ("h_K", "delta_K", "rho_a", "E_sns", "E_sni", "Q")
"""What stands on the drawing."""
SHOWN = ("f_pT", "F_pT", "F_alphaT", "F_betaT")
"""Deviations that are told."""
SHARE = 0.24
"""Share of the tooth's thickness at which its greatest allowance is drawn."""


class ThicknessDrawing(TaggedDrawing):
    """The nominal tooth dashed, the thickest and the thinnest one allowed as a band on its flanks."""

    FOOT = 84

    def __init__(self, session: Session, theme: th.Theme, stage: int, i: int, fields: list[Field]) -> None:
        super().__init__(session, theme, stage, i, fields_on(fields, ON_TOOTH))
        self.setMinimumSize(250, self.minimumHeight() + 20)
        self.setObjectName(f"thickness_{i}")
        self.setAccessibleName(translate(tr("A tooth between its limits")))

    def half_widths(self) -> tuple[np.ndarray, np.ndarray, float] | None:
        """Heights over the root (mm), half the thickness there (mm), and the normal thickness at the reference."""
        stages = self.session.results.stages
        if self.k >= len(stages) or not stages[self.k].kinds[self.i - 1].turns:
            return None
        stage, n = stages[self.k], self.i - 1
        tooth, g = stage.teeth[n], stage.gears[n]
        d = np.linspace(float(g.d_fE), float(g.d_a), 32)
        half = half_angles(tooth, stage.forms[n], d)
        # The allowances are drawn on the nominal tooth.
        half = half + (float(tooth.half_angle(tooth.d, tooth.x)) - float(tooth.half_angle(tooth.d, None)))
        return np.abs(d - d[0]) / 2, np.abs(half * d / 2), float(g.s_n)

    def paintEvent(self, event: QPaintEvent) -> None:
        found = self.half_widths()
        if found is None:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, (up, half, s_n) = self.theme, found
        gear = self.session.design.train.stages[self.k]
        own = gear.gears[self.i - 1]
        upper, lower = float(own.E_sns), float(own.E_sni)
        larger = max(abs(upper), abs(lower), 1e-9)
        over = SHARE * s_n / larger
        room = QRectF(10, 8, self.width() - 26 - self.beside(), self.height() - 60)
        scale = min(room.height() / float(up[-1]), room.width() / (2 * float(half.max()) * 1.15))
        x_0, y_0 = room.center().x(), room.bottom()

        def flank(allowance: float, sign: int) -> list[QPointF]:
            return [
                QPointF(x_0 + sign * scale * (h + over * allowance / 2), y_0 - scale * u)
                for u, h in zip(up.tolist(), half.tolist(), strict=True)
            ]

        role = ("driver", "driven")[self.i - 1]
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(t.color(f"{role}_fill"))
        p.drawPolygon(QPolygonF([*flank(lower, -1), *reversed(flank(lower, 1))]))
        p.setBrush(t.color("copper", 0.35))
        for sign in (-1, 1):
            p.drawPolygon(QPolygonF([*flank(lower, sign), *reversed(flank(upper, sign))]))
        p.setBrush(Qt.BrushStyle.NoBrush)
        for allowance, pen in (
            (upper, QPen(t.color(role), th.FINE)),
            (lower, QPen(t.color(role), th.FINE)),
            (0.0, QPen(t.color("muted"), th.HAIR, Qt.PenStyle.DashLine)),
        ):
            p.setPen(pen)
            for sign in (-1, 1):
                p.drawPolyline(QPolygonF(flank(allowance, sign)))
        n = len(up)
        places = {"E_sns": flank(upper, 1)[n // 2], "E_sni": flank(lower, 1)[n // 3], "Q": flank(upper, 1)[n // 5]}
        places |= self._tip(p, own, flank(upper, 1)[-1], flank(upper, -1)[-1], scale, role)
        for symbol, tag in self.tags.items():
            self.leader(p, tag, places[symbol])
        small, system = th.font(th.SMALL), self.session.system
        told = (tr("allowances × {over:.0f}; dashed: none", over=over), *self._class_words(system))
        for row, text in enumerate(reversed(told)):
            words(p, elided(text, small, self.width() - 6), small, t.color("muted"), 4, self.height() - 6 - 15 * row)

    def _tip(
        self, p: QPainter, gear: Gear, right: QPointF, left: QPointF, scale: float, role: str
    ) -> dict[str, QPointF]:
        """The tip between its edges, chamfered or rounded as they are; where their sizes are pointed at."""
        h_K, rho_a = scale * float(gear.h_K), scale * float(gear.rho_a)
        drop = h_K or rho_a
        across = h_K * tan(radians(float(gear.delta_K))) if h_K else rho_a
        across = min(across, 0.45 * (right.x() - left.x()))
        top = right.y() - 0.0
        p.setPen(QPen(self.theme.color(role), th.FINE))
        p.drawLine(QPointF(left.x() + across, top), QPointF(right.x() - across, top))
        if drop:
            # Chamfer or rounding cut from the sharp tip.
            p.setPen(QPen(self.theme.color("copper"), th.FINE))
            for x, way in ((right.x(), -1), (left.x(), 1)):
                p.drawLine(QPointF(x + way * across, top), QPointF(x, top + drop))
        edge = QPointF(right.x(), top + drop)
        return {"h_K": edge, "delta_K": QPointF(right.x() - across / 2, top + drop / 2), "rho_a": right}

    def _class_words(self, system: str) -> list[str]:
        """The deviations that the class of the flanks allows."""
        stage = self.session.results.stages[self.k]
        g = stage.gears[self.i - 1]
        try:
            allowed = flank_tolerances(abs(float(g.d)), float(stage.mesh.m_n), float(g.b), float(g.Q))
        except OutOfRange:
            return []
        at = {key: number_with_unit(float(allowed[key]), "roughness", system) for key in SHOWN}
        return [
            tr("allowed pitch {f_pT}, in all {F_pT}", **at),
            tr("allowed profile {F_alphaT}, helix {F_betaT}", **at),
        ]

"""The profile that cuts a gear, or the space that it leaves, with its numbers as tags where they are measured."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF

from cooper.arrays import Array
from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.sheets.tagged_drawing import TaggedDrawing
from cooper.desk.widgets.typeset import elided, words
from cooper.editing.fields import Field
from cooper.gears.outline import half_tooth
from cooper.gears.tool_profile import tool_profile
from cooper.gears.tooth import Tooth
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import StageResults

DRAWN = ("h_fP", "rho_fP", "h_Ff", "w_F", "alpha_prP", "pr_P", "q_P", "h_aP")
"""What stands on the drawing, from the tip of the tool downwards."""


class Profile(Struct, frozen=True):
    """A closed outline in modules, the tool upwards; where each quantity is measured; lines that are dashed; and
    what it is."""

    metal: Array
    at: dict[str, Array]
    dashed: list[Array]
    told: str


def of_rack(tooth: Tooth) -> Profile:
    """The tooth of a rack or hob, or of the rack that a pinion-shaped cutter rolls with."""
    p = tool_profile(tooth.rack)
    low = float(p.half[-1, 1])
    half = np.vstack((p.half, [[np.pi / 2, low - 0.35]]))
    metal = np.vstack((half, half[::-1] * [-1, 1]))
    stock = [p.finished, p.finished * [-1, 1]] if float(tooth.rack.q_P) > 0 else []
    at = {
        "h_fP": p.half[0] + [float(p.half[1, 0]) / 2, 0],
        "rho_fP": p.rounding,
        "alpha_prP": p.ramp,
        "pr_P": p.bulge,
        "q_P": p.flank,
        "h_aP": np.array([1.3, low]),
    }
    text = tr("tool in its normal section, datum line")
    return Profile(metal, at, stock, tr("{told}; dashed the ground flank", told=text) if stock else text)


def of_space(tooth: Tooth, s: StageResults, i: int) -> Profile:
    """The space between two teeth of the gear, where a form or an ellipse makes its root; about its reference
    circle, in the transverse section."""
    form, sign = s.forms[i], float(tooth.sign)
    m, pitch = float(tooth.m_n), np.pi / abs(float(tooth.z))
    polar = half_tooth(tooth, 1e-3 * m, form)
    r, a = polar[:, 0], pitch - polar[:, 1]
    # The middle of the space upwards to the root: what fills the space is the tool.
    x, y = r * np.sin(a) / m, -sign * (r * np.cos(a) - abs(float(tooth.d)) / 2) / m
    half = np.column_stack((x, y))
    metal = np.vstack((half, half[::-1] * [-1, 1]))
    d_y = np.abs(2 * r)
    k = int(np.argmin(np.abs(d_y - abs(float(form.d_Ff)))))
    at = {
        "h_fP": half[0],
        "rho_fP": half[max(k // 2, 1)],
        "h_Ff": half[k],
        "w_F": half[max(k // 3, 1)],
        "h_aP": half[-1] * [0.9, 1],
    }
    return Profile(metal, at, [], tr("space of the gear, its reference circle"))


class ToolDrawing(TaggedDrawing):
    """One tooth of the tool."""

    APART, FOOT = 6, 26

    def __init__(self, session: Session, theme: th.Theme, stage: int, i: int, fields: list[Field]) -> None:
        super().__init__(session, theme, stage, i, sorted(fields, key=lambda f: DRAWN.index(f.symbol)))
        self.setObjectName(f"tool_{i}")
        self.setAccessibleName(translate(tr("Profile of the tool")))

    def profile(self) -> Profile | None:
        """What is drawn; None where the gear has gone."""
        stages = self.session.results.stages
        if self.k >= len(stages):
            return None
        s, n = stages[self.k], self.i - 1
        gear = self.session.design.train.stages[self.k].gears[n]
        return of_space(s.teeth[n], s, n) if gear.tool in ("form", "elliptic") else of_rack(s.teeth[n])

    def paintEvent(self, event: QPaintEvent) -> None:
        profile = self.profile()
        if profile is None:
            return
        p, t = QPainter(self), self.theme
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(6, 8, self.width() - 36 - self.beside(), self.height() - 36)
        low, high = profile.metal.min(axis=0), profile.metal.max(axis=0)
        scale = min(room.width() / (high[0] - low[0]), room.height() / (high[1] - low[1]))
        x_0 = room.left() + (room.width() - scale * (high[0] - low[0])) / 2 - scale * low[0]
        y_0 = room.center().y() + scale * (high[1] + low[1]) / 2

        def place(at: Array) -> QPointF:
            return QPointF(x_0 + scale * float(at[0]), y_0 - scale * float(at[1]))

        p.setPen(QPen(t.color("ink"), th.FINE))
        p.setBrush(t.color("band"))
        p.drawPolygon(QPolygonF([place(q) for q in profile.metal]))
        p.setBrush(Qt.BrushStyle.NoBrush)
        chain = QPen(t.color("muted"), th.HAIR)
        chain.setDashPattern([12, 3, 2, 3])
        p.setPen(chain)
        p.drawLine(QPointF(room.left() - 4, y_0), QPointF(room.right() + 4, y_0))
        p.setPen(QPen(t.color("copper"), th.HAIR, Qt.PenStyle.DashLine))
        for line in profile.dashed:
            p.drawPolyline(QPolygonF([place(q) for q in line]))
        for symbol, tag in self.tags.items():
            at = place(profile.at.get(symbol, profile.metal[0]))
            self.leader(p, tag, at)
        words(
            p,
            elided(profile.told, th.font(th.SMALL), self.width() - 8),
            th.font(th.SMALL),
            t.color("muted"),
            4,
            self.height() - 6,
        )

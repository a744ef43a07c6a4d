"""What is taken off the flanks of a pair: profiles over the roll, the helix over the face, and both as a picture of
the flank."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from cooper.arrays import Array
from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.widgets.plot import Plotted, paint_plot
from cooper.desk.widgets.shading import shaded
from cooper.desk.widgets.typeset import advance, elided, words
from cooper.document.models import Gear
from cooper.document.units import number, number_with_unit
from cooper.exchange.plots import Line, Plot
from cooper.field.shades import nice
from cooper.gears.flank_form import FlankForm, helix_form, profile_form
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.flank_forms import form_of, reach_of

POINTS = 161


class FormsDrawing(QWidget, Plotted):
    """Both profiles and the helix of a mesh as they are made, in micrometres taken off."""

    def __init__(self, session: Session, theme: th.Theme, stage: int) -> None:
        super().__init__()
        self.session, self.theme, self.k = session, theme, stage
        self.setObjectName("forms_drawing")
        self.setAccessibleName(translate(tr("Profiles, helix and topography of both flanks")))
        self.setMinimumSize(320, 430)

    def paintEvent(self, event: QPaintEvent) -> None:
        results = self.session.results
        if self.k >= len(results.stages):
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        wide, high = (self.width() - 100) / 2, self.height()
        for i, gear in enumerate(self._members()):
            role = ("driver", "driven")[i]
            left = 46 + i * (wide + 50)
            own = gear.flanks_left is not None
            text = tr("{name}: right, left fainter", name=gear.name) if own else gear.name
            bold = th.font(th.SMALL, bold=True)
            words(p, elided(text, bold, wide + 30), bold, self.theme.color(role), left, 14)
            profile, helix = self._plots(i)
            f = QRectF(left, 36, wide, 0.24 * high)
            paint_plot(p, self.theme, f, profile, self.session.system)
            self._roll(p, f, i, *reach_of(results.stages[self.k], i))
            g = QRectF(left, f.bottom() + 62, wide, 0.2 * high)
            paint_plot(p, self.theme, g, helix, self.session.system)
            words(p, tr("left end"), th.font(8), self.theme.color("faint"), g.left(), g.bottom() + 14)
            words(p, tr("right end"), th.font(8), self.theme.color("faint"), g.right(), g.bottom() + 14, right=True)
            sides = list(zip((line.y for line in profile.lines), (line.y for line in helix.lines), strict=True))
            top = max(float(a.max() + c.max()) for a, c in sides)
            each = (wide - 8 * (len(sides) - 1)) / len(sides)
            for n, (a, c) in enumerate(sides):
                area = QRectF(left + n * (each + 8), g.bottom() + 46, each, high - g.bottom() - 66)
                text = (tr("right"), tr("left"))[n] if own else tr("over the flank")
                self._topography(p, area, a, c, top, text, n == 0)

    def _members(self) -> tuple[Gear, Gear]:
        doc = self.session.design.train.stages[self.k]
        return doc.gears

    def _plots(self, i: int) -> tuple[Plot, Plot]:
        """What is taken off the profile of a gear over its roll, and off its helix over the face; um."""
        s, mesh = self.session.results.stages[self.k], self.session.design.train.stages[self.k].mesh
        gear, role = self._members()[i], ("driver", "driven")[i]
        own = gear.flanks_left is not None
        both = [form_of(gear, s, side) for side in ((False, True) if own else (False,))]
        names = (tr("right"), tr("left")) if own else ("",)
        L_f, L_a = reach_of(s, i)
        L = np.linspace(L_f, L_a, POINTS)
        b = float(s.mesh.b_H) / (2 if mesh.double_helix else 1)
        y = np.linspace(0, b, POINTS)
        pair = FlankForm(C_beta=mesh.C_beta, C_Hbeta=mesh.C_Hbeta)
        of_pair = helix_form(pair, y, b) if i == 1 else np.zeros(POINTS)

        def lines(x: Array, off: list[Array]) -> tuple[Line, ...]:
            return tuple(
                Line(x, one, role, faint=n > 0, name=name) for n, (one, name) in enumerate(zip(off, names, strict=True))
            )

        across = lines(L, [profile_form(form, L, L_f, L_a) for form in both])
        along = lines(y, [helix_form(form, y, b) + of_pair for form in both])
        title = tr("off the helix") + (tr(" and the pair's") if i == 1 else "")
        return (
            Plot(tr("off the profile"), "roughness", across, tr("length of roll"), ticks=False),
            Plot(title, "roughness", along, tr("along the face"), ticks=False),
        )

    def plots(self) -> list[Plot]:
        """Profile and helix of both gears, each title with its gear."""
        if self.k >= len(self.session.results.stages):
            return []
        return [
            replace(plot, title=tr("{name}, {title}", name=gear.name, title=plot.title))
            for i, gear in enumerate(self._members())
            for plot in self._plots(i)
        ]

    def _roll(self, p: QPainter, f: QRectF, i: int, L_f: float, L_a: float) -> None:
        """Root and tip end of the contact by roll angle and diameter under the profile."""
        s, system = self.session.results.stages[self.k], self.session.system
        if not s.kinds[i].turns:
            return
        r_b = abs(float(s.teeth[i].d_b)) / 2
        for L, name, right in ((L_f, tr("root"), False), (L_a, tr("tip"), True)):
            d = number_with_unit(2 * float(np.hypot(r_b, L)), "length", system)
            xi = number(float(np.degrees(L / r_b)), "angle", system, 1)
            text = tr("{name} ξ {xi}°, d {d}", name=name, xi=xi, d=d)
            words(
                p,
                text,
                th.font(8),
                self.theme.color("faint"),
                f.right() if right else f.left(),
                f.bottom() + 14 + (12 if right else 0),
                right=right,
            )

    def _topography(
        self, p: QPainter, area: QRectF, profile: Array, along: Array, top: float, text: str, first: bool
    ) -> None:
        """Profile and helix together over the flank, from the root at the foot to the tip above; shades reach up to
        ``top`` (um)."""
        both = profile[::-1, None] + along[None, :]
        end = nice(max(top, 1e-9)) if top > 0 else 1.0
        shaded(p, self.theme, area, both / end)
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.setPen(QPen(self.theme.color("line"), th.HAIR))
        p.drawRect(area)
        text += tr(", {system}", system=number_with_unit(float(both.max()), "roughness", self.session.system))
        words(p, text, th.font(th.SMALL), self.theme.color("muted"), area.left(), area.top() - 6)
        for word, y in ((tr("tip"), area.top() + 10), (tr("root"), area.bottom())) if first else ():
            x = area.left() - 6 - advance(word, th.font(8))
            words(p, word, th.font(8), self.theme.color("faint"), QPointF(x, y).x(), y)

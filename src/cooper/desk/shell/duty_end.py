"""An end of the Power line: what comes in, or what is wanted and reached."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton

from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import elided, words
from cooper.document.units import KINDS, number, number_with_unit, screen_unit
from cooper.i18n.text import tr
from cooper.results.result_tree import Results, StageResults
from cooper.values import GearValues

if TYPE_CHECKING:
    from cooper.desk.shell.power_line import PowerLine


class DutyEnd(QAbstractButton):
    """An end of the Power line: what comes in, or what is wanted and reached."""

    def __init__(self, line: PowerLine, entry: bool) -> None:
        super().__init__(line)
        self.line, self.entry = line, entry
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, session = self.line.theme, self.line.session
        train, system, duty = session.results.train, session.system, session.design.train.duty
        if self.underMouse() or self.hasFocus():
            p.setPen(QPen(t.color("copper"), 1.2))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 5, 5)
        if self.entry:
            lines = [
                (number_with_unit(train.P_in, "power", system), "ink", True),
                (tr("for {L_h}", L_h=number_with_unit(duty.L_h, "time", system)), "muted", False),
            ]
            x = 8.0
        else:
            lost = train.get("phi_lost_max")
            motion = (
                ""
                if lost is None
                else tr(
                    ", lost motion {lost}{system}",
                    lost=number(lost, "small_angle", system, 1),
                    system=screen_unit(KINDS["small_angle"].display_unit(system)),
                )
            )
            mass = sum(g.mass for k, s in enumerate(session.results.stages) for g in _own_gears(session.results, k, s))
            wanted = (
                tr("any ratio")
                if duty.u_wanted is None
                else tr("wanted {u_wanted:g} ± {u_tol:g} %", u_wanted=duty.u_wanted, u_tol=duty.u_tol)
            )
            gives = (
                tr("ratio {u:.4f}", u=train["u"])
                if "u" in train
                else tr("{travel} a turn", travel=number_with_unit(train["travel"], "length", system))
            )
            message = tr("{mass}{motion}", mass=number_with_unit(mass, "mass", system), motion=motion)
            lines = [
                (tr("{gives}    η {eta:.4f}", gives=gives, eta=train["eta"]), "ink", True),
                (wanted, "muted", False),
                (message, "muted", False),
            ]
            x = 8.0
        for (text, role, bold), y in zip(lines, (20, 43) if self.entry else (16, 33, 49), strict=True):
            f = th.font(th.TEXT if bold else th.SMALL, bold=bold)
            words(p, elided(text, f, self.width() - x - 10), f, t.color(role), x, y)


def _own_gears(results: Results, k: int, stage: StageResults) -> list[GearValues[float]]:
    """The gears that a stage adds to the train's mass: a shared gear counts once, planets as often as there are."""
    one = results.within[k]
    if one is None:
        return list(stage.gears)
    n, of = k - one.first, one.arranged
    return [
        gear
        for i, gear in enumerate(stage.gears)
        if (n, i) not in of.same
        for _ in range(one.planets if i == of.at(n) else 1)
    ]

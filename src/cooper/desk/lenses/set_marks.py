"""What is marked over the drawing of a set: meshes, envelope, uneven planets, their gap."""

from __future__ import annotations

from math import cos, degrees, hypot, pi, sin
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QPen, QTransform

from cooper.desk.base import theme as th
from cooper.desk.lenses.train_painter import TrainPainter
from cooper.desk.widgets.typeset import advance, words
from cooper.document.units import number_with_unit
from cooper.i18n.text import tr
from cooper.results.pose import Pose, mesh_frames

if TYPE_CHECKING:
    from cooper.desk.lenses.set_lens import SetLens


def paint_envelope(lens: SetLens, p: QPainter, at: Pose, to_screen: QTransform) -> None:
    """The circle around the set with its diameter; of an idler there is none."""
    if not lens.shown.arranged.around:
        return
    scale, r = to_screen.m11(), lens.shown.values.envelope / 2
    middle = to_screen.map(QPointF(0, 0))
    pen = QPen(lens.theme.color("muted"), th.HAIR)
    pen.setDashPattern([2, 3])
    p.setPen(pen)
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawEllipse(middle, scale * r, scale * r)
    y = middle.y() + scale * r + 18
    if y > lens.height() - 8:
        return
    p.setPen(QPen(lens.theme.color("muted"), th.HAIR))
    ends = [QPointF(middle.x() + s * scale * r, y) for s in (-1, 1)]
    p.drawLine(*ends)
    for e in ends:
        p.drawLine(QPointF(e.x(), middle.y()), QPointF(e.x(), y + 5))
    text = tr("⌀ {r}", r=number_with_unit(2 * r, "length", lens.session.system))
    words(p, text, th.font(th.SMALL), lens.theme.color("ink"), middle.x() + 6, y - 5)


def paint_uneven(lens: SetLens, p: QPainter, at: Pose, to_screen: QTransform) -> None:
    """Planets that cannot stand evenly: the even places as thin arms, each planet's angle with its deviation
    beyond the ring."""
    one = lens.shown
    if one.even or len(one.angles) < 2:
        return
    t, small = lens.theme, th.font(th.SMALL)
    middle = to_screen.map(QPointF(0, 0))
    carrier = at.carriers[0][3][0] if at.carriers else 0.0
    reach, far = (
        to_screen.m11() * lens.session.results.stages[one.first].mesh.a_w,
        to_screen.m11() * one.values.envelope / 2 + 12,
    )
    for k, angle in enumerate(one.angles):
        off = degrees(angle) - 360 * k / one.planets
        even, now = carrier + 2 * pi * k / one.planets, carrier + angle
        pen = QPen(t.color("thin"), 1.2)
        p.setPen(pen)
        p.drawLine(middle, middle + QPointF(cos(now), -sin(now)) * reach)
        pen.setDashPattern([3, 3])
        p.setPen(pen)
        p.drawLine(middle, middle + QPointF(cos(even), -sin(even)) * (1.15 * reach))
        text = tr("{angle:.2f}°", angle=degrees(angle)) + (tr(" ({off:+.2f}°)", off=off) if abs(off) > 5e-3 else "")
        place = middle + QPointF(cos(now), -sin(now)) * far
        left = cos(now) < -0.2
        words(p, text, small, t.color("thin"), place.x(), place.y() + 4, right=left)


def paint_gap(lens: SetLens, p: QPainter, at: Pose, to_screen: QTransform) -> None:
    """The gap between two neighbouring planets that stand closest."""
    one = lens.shown
    if "c_pl" not in one.values or len(one.angles) < 2:
        return
    steps = [
        ((b - a) % (2 * pi), n)
        for n, (a, b) in enumerate(zip(one.angles, (*one.angles[1:], one.angles[0]), strict=True))
    ]
    n = min(steps)[1]
    _x, _y, a_w, arms = at.carriers[0]
    a, b = arms[n], arms[(n + 1) % len(arms)]
    ends = [QPointF(a_w * cos(t), a_w * sin(t)) for t in (a, b)]
    apart = hypot(ends[1].x() - ends[0].x(), ends[1].y() - ends[0].y())
    reach = (apart - one.values.c_pl) / 2 / apart
    inner = [to_screen.map(ends[0] + (ends[1] - ends[0]) * f) for f in (reach, 1 - reach)]
    role = "muted" if one.values.c_pl > 0 else "short"
    p.setPen(QPen(lens.theme.color(role), 1.2))
    p.drawLine(*inner)
    text = tr("gap {c_pl}", c_pl=number_with_unit(one.values.c_pl, "length", lens.session.system))
    middle = a + ((b - a) % (2 * pi)) / 2
    beside = to_screen.map(QPointF(a_w * 1.02 * cos(middle), a_w * 1.02 * sin(middle)))
    small = th.font(th.SMALL)
    words(p, text, small, lens.theme.color(role), beside.x() - advance(text, small) / 2, beside.y() + 4)


def paint_meshes(lens: SetLens, p: QPainter, painter: TrainPainter, at: Pose, to_screen: QTransform) -> None:
    """The path of contact of every mesh, and where teeth touch on it."""
    p.setPen(QPen(lens.theme.color("copper"), 1.8))
    for f in mesh_frames(painter.results, at):
        stage = painter.results.stages[f.stage]
        turned, side = QTransform().translate(f.x, f.y).rotateRadians(f.angle) * to_screen, lens._side(f.stage)
        p.drawLine(*(turned.map(QPointF(*stage.action_point(stage.mesh[n], side))) for n in ("g_A", "g_E")))
    p.setBrush(lens.theme.color("copper"))
    p.setPen(Qt.PenStyle.NoPen)
    for _k, x, y in lens.contacts(at):
        p.drawEllipse(to_screen.map(QPointF(x, y)), 2.6, 2.6)

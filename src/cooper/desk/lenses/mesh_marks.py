"""What is marked over the drawing of a mesh: its action, overlaps, the scale."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import advance, words
from cooper.gears.overlap import TOLERANCE
from cooper.i18n.text import tr

if TYPE_CHECKING:
    from cooper.desk.lenses.drawing import MeshDrawing


def paint_overlaps(drawing: MeshDrawing, p: QPainter) -> None:
    """A ring at every overlap, the deepest one with its depth."""
    red, inch = drawing.theme.color("short"), drawing.session.system == "inch"
    for k, o in enumerate(drawing.overlaps()):
        at = drawing.at(o.x, o.y)
        p.setPen(QPen(red, th.BOLD))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawEllipse(at, 9, 9)
        if k == 0:
            depth = (
                tr("{depth:.2f} mil", depth=o.depth / 0.0254) if inch else tr("{depth:.1f} µm", depth=1000 * o.depth)
            )
            if o.chord > TOLERANCE:
                depth = (
                    tr("about {depth:.2g} in", depth=o.depth / 25.4)
                    if inch
                    else tr("about {depth:.2g} mm", depth=o.depth)
                )
            text = tr("overlap {depth}, {part} of gear {inside}", depth=depth, part=o.part, inside=o.inside)
            bold = th.font(th.SMALL, bold=True)
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(drawing.theme.color("card", 0.9))
            p.drawRoundedRect(QRectF(at.x() + 8, at.y() - 28, advance(text, bold) + 12, 20), 4, 4)
            words(p, text, bold, red, at.x() + 14, at.y() - 14)


def paint_scale_bar(drawing: MeshDrawing, p: QPainter) -> None:
    """A scale bar of a round length in the unit system in force."""
    inch = drawing.session.system == "inch"
    unit = 25.4 if inch else 1.0
    target = 110 / drawing.px_per_mm / unit
    decade = 10 ** np.floor(np.log10(target))
    length = max(f for f in (1, 2, 5) if f * decade <= target) * decade
    px = length * unit * drawing.px_per_mm
    right, y = drawing.width() - 20.0, drawing.height() - 16.0
    p.setPen(QPen(drawing.theme.color("ink"), th.FINE))
    p.drawLine(QPointF(right - px, y), QPointF(right, y))
    for x in (right - px, right):
        p.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
    text = tr("{length:g} {inch}", length=length, inch="in" if inch else "mm")
    words(p, text, th.font(th.SMALL), drawing.theme.color("muted"), right, y - 9, right=True)


def paint_action(drawing: MeshDrawing, p: QPainter) -> None:
    stage, copper = drawing.stage, drawing.theme.color("copper")
    m, side = stage.mesh, drawing.stand_side or drawing.side
    beyond = stage.T2 if stage.kind.turns else 1.4 * m.g_E
    ends = [drawing.at(*stage.action_point(g, side)) for g in (min(0.0, beyond), max(beyond, m.g_E))]
    p.setPen(QPen(drawing.theme.color("copper", 0.45), th.HAIR))
    p.drawLine(ends[0], ends[1])
    start, end = (drawing.at(*stage.action_point(m[g], side)) for g in ("g_A", "g_E"))
    p.setPen(QPen(copper, th.BOLD))
    p.drawLine(start, end)
    pitch = drawing.at(*stage.action_point(m.g_C, side))
    p.setPen(QPen(copper, 1.4))
    p.setBrush(drawing.theme.color("paper"))
    p.drawEllipse(pitch, 3, 3)
    p.setBrush(copper)
    p.setPen(QPen(drawing.theme.color("paper"), 1.2))
    for point in drawing.contacts():
        p.drawEllipse(drawing.at(*point), 5, 5)

"""The face of a mesh: what its shafts open there, and how the load lies along it."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import words
from cooper.document.units import number_with_unit
from cooper.exchange.plots import Line, Plot
from cooper.i18n.text import tr
from cooper.machine.face_load import FaceLoad


def paint_face(
    p: QPainter, theme: th.Theme, room: QRectF, face: FaceLoad | None, fault: str, K_now: float, system: str
) -> None:
    """Gap above, line load below, with the deviations of manufacture either way; ``K_now`` is the factor that
    counts."""
    if face is None:
        words(
            p,
            tr("{fault!c}.", fault=fault) if fault else "…",
            th.font(),
            theme.color("muted"),
            room.left() + 6,
            room.top() + 20,
        )
        return
    plot = QRectF(room.left() + 120, room.top() + 6, room.width() - 160, room.height() - 40)
    b = float(face.y[0] + face.y[-1])

    def x(y: float) -> float:
        return plot.left() + plot.width() * y / b

    upper = QRectF(plot.left(), plot.top(), plot.width(), 0.30 * plot.height())
    lower = QRectF(plot.left(), plot.top() + 0.38 * plot.height(), plot.width(), 0.62 * plot.height())
    high = max(float(face.gap.max()), 1.0)
    points = [
        QPointF(x(float(y)), upper.top() + upper.height() * float(g) / high)
        for y, g in zip(face.y, face.gap, strict=True)
    ]
    p.setPen(QPen(theme.color("line"), th.HAIR))
    p.drawLine(QPointF(plot.left(), upper.top()), QPointF(plot.right(), upper.top()))
    p.setBrush(theme.color("driven", 0.12))
    p.setPen(QPen(theme.color("driven"), th.HAIR))
    p.drawPolygon(QPolygonF([QPointF(points[0].x(), upper.top()), *points, QPointF(points[-1].x(), upper.top())]))
    mean = float(face.w.mean())
    top = max(float(face.w.max()), 1.2 * mean)

    def at(w: float) -> float:
        return lower.bottom() - lower.height() * w / top

    width = plot.width() / len(face.y)
    for row, role in zip(face.w, ("driver", "copper"), strict=True):
        p.setPen(QPen(theme.color(role), th.HAIR))
        p.setBrush(theme.color(role, 0.16))
        for y, w in zip(face.y, row, strict=True):
            p.drawRect(
                QRectF(QPointF(x(float(y)) - width / 2, at(float(w))), QPointF(x(float(y)) + width / 2, lower.bottom()))
            )
    p.setBrush(Qt.BrushStyle.NoBrush)
    pen = QPen(theme.color("ink"), th.HAIR)
    pen.setDashPattern([6, 3])
    p.setPen(pen)
    p.drawLine(QPointF(plot.left(), at(mean)), QPointF(plot.right(), at(mean)))
    small, muted, left = th.font(th.SMALL), theme.color("muted"), room.left() + 4
    words(p, tr("gap of the shafts"), small, muted, left, upper.top() + 12)
    words(
        p,
        tr("most {high}", high=number_with_unit(high, "roughness", system)),
        small,
        theme.color("ink"),
        left,
        upper.top() + 26,
    )
    words(p, tr("line load"), small, muted, left, lower.top() + 12)
    rows = (
        (tr("most {system}", system=number_with_unit(float(face.w.max()), "line_load", system)), "ink"),
        (tr("mean {mean}", mean=number_with_unit(mean, "line_load", system)), "ink"),
        (tr("deviations one way"), "driver"),
        (tr("and the other"), "copper"),
    )
    for n, (text, role) in enumerate(rows):
        words(p, text, small, theme.color(role), left, lower.top() + 26 + 14 * n)
    words(p, tr("left end of the face"), small, muted, plot.left(), plot.bottom() + 14)
    words(p, tr("right end"), small, muted, plot.right(), plot.bottom() + 14, right=True)
    message = tr(
        "From these shafts K_Hβ = {K_Hbeta:.3f}; the rating counts {K_now:.3f}.", K_Hbeta=face.K_Hbeta, K_now=K_now
    )
    bare = float(np.abs(face.C_Hbeta))
    message += (
        tr(
            " Evened by a slope of {C_Hbeta} and a crowning of {C_beta}.",
            C_Hbeta=number_with_unit(face.C_Hbeta, "roughness", system),
            C_beta=number_with_unit(face.C_beta, "roughness", system),
        )
        if bare + face.C_beta > 0
        else ""
    )
    words(p, message, th.font(), theme.color("ink"), room.left() + 4, room.bottom() - 2)


def face_plots(face: FaceLoad) -> list[Plot]:
    """What is painted, as plots over the face."""
    one, other = (Line(face.y, w, role) for w, role in zip(face.w, ("driver", "copper"), strict=True))
    return [
        Plot(tr("gap of the shafts"), "roughness", (Line(face.y, face.gap, "driven"),), tr("along the face")),
        Plot(
            tr("line load"),
            "line_load",
            (replace(one, name=tr("deviations one way")), replace(other, name=tr("and the other"))),
            tr("along the face"),
        ),
    ]

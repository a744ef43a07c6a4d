"""The pressure over a flank, and the transmission error over load and relief, as shaded pictures."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from cooper.desk.base import theme as th
from cooper.desk.widgets.shading import shaded
from cooper.desk.widgets.typeset import advance, elided, words
from cooper.document.units import KINDS, number, number_with_unit, screen_unit
from cooper.field.shades import nice
from cooper.i18n.text import tr
from cooper.results.loaded_curves import LoadedCurves
from cooper.results.relief import ErrorMap


def paint_flank(p: QPainter, theme: th.Theme, area: QRectF, curves: LoadedCurves, cursor: float, system: str) -> None:
    """The pressure over the flank of the driving gear: face to the right, from the root at the foot to the tip
    above; the line of contact of the moment."""
    end = nice(max(float(curves.flank.max()), 1e-9))
    shaded(p, theme, area, curves.flank[::-1] / end, True)
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.setPen(QPen(theme.color("ink"), th.HAIR))
    p.drawRect(area)
    k = np.unravel_index(int(np.argmax(curves.flank)), curves.flank.shape)
    x = area.left() + area.width() * (curves.y[k[1]] - curves.y[0]) / max(curves.y[-1] - curves.y[0], 1e-9)
    y = area.bottom() - area.height() * k[0] / (len(curves.g) - 1)
    p.setPen(QPen(theme.color("card"), 3.0))
    p.drawEllipse(QPointF(x, y), 5, 5)
    p.setPen(QPen(theme.color("copper"), 1.8))
    p.drawEllipse(QPointF(x, y), 5, 5)
    at = area.bottom() - area.height() * (cursor - curves.g[0]) / max(curves.g[-1] - curves.g[0], 1e-9)
    p.setPen(QPen(theme.color("copper", 0.7), 1.2))
    p.drawLine(QPointF(area.left() - 5, at), QPointF(area.left(), at))
    p.drawLine(QPointF(area.right(), at), QPointF(area.right() + 5, at))
    text = tr(
        "pressure over the driving flank, up to {system}",
        system=number_with_unit(float(curves.flank.max()), "stress", system),
    )
    words(p, text, th.font(th.SMALL), theme.color("muted"), area.left(), area.top() - 6)
    words(p, tr("tip"), th.font(8), theme.color("faint"), area.left() - 6, area.top() + 9, right=True)
    words(p, tr("root"), th.font(8), theme.color("faint"), area.left() - 6, area.bottom(), right=True)
    words(p, tr("left end"), th.font(8), theme.color("faint"), area.left(), area.bottom() + 13)
    words(p, tr("right end"), th.font(8), theme.color("faint"), area.right(), area.bottom() + 13, right=True)


def paint_orders(p: QPainter, theme: th.Theme, f: QRectF, curves: LoadedCurves, system: str) -> None:
    """Amplitudes of the mesh frequency and its multiples."""
    text = tr(
        "orders of the transmission error; {ptp} {system} from peak to peak",
        ptp=number(curves.ptp, "roughness", system, 2),
        system=screen_unit(KINDS["roughness"].display_unit(system)),
    )
    words(p, elided(text, th.font(th.SMALL), f.width()), th.font(th.SMALL), theme.color("muted"), f.left(), f.top() - 6)
    n, top = len(curves.orders), max(float(curves.orders.max()), 1e-9)
    step = f.width() / n
    for k, v in enumerate(curves.orders):
        h = (f.height() - 14) * float(v) / top
        bar = QRectF(f.left() + k * step + 0.2 * step, f.bottom() - h, 0.6 * step, h)
        p.fillRect(bar, theme.color("copper" if k == 0 else "driven", 0.85))
        name, value = f"{k + 1}", number(float(v), "roughness", system, 3)
        words(
            p, value, th.font(8), theme.color("ink"), bar.center().x() - advance(value, th.font(8)) / 2, bar.top() - 3
        )
        words(p, name, th.font(8), theme.color("faint"), bar.center().x() - 2, f.bottom() + 12)
    p.setPen(QPen(theme.color("faint"), th.HAIR))
    p.drawLine(f.bottomLeft(), f.bottomRight())


def paint_error_map(
    p: QPainter, theme: th.Theme, area: QRectF, result: ErrorMap, now: float, T: float, system: str
) -> None:
    """Peak-to-peak transmission error over the amount of tip relief (to the right) and the torque (upwards), with
    the present point and the smoothest relief of each load."""
    rows, columns = result.ptp.shape
    known = result.ptp[np.isfinite(result.ptp)]
    end = nice(max(float(known.max()) if len(known) else 1.0, 1e-6))
    shaded(p, theme, area, result.ptp[::-1] / end, False)
    wide, high = area.width() / columns, area.height() / rows
    f = th.font(th.SMALL)
    for i in range(rows):
        y = area.bottom() - (i + 0.5) * high
        best = int(np.nanargmin(result.ptp[i])) if np.isfinite(result.ptp[i]).any() else -1
        for j in range(columns):
            v = float(result.ptp[i, j])
            if not np.isfinite(v):
                continue
            x = area.left() + (j + 0.5) * wide
            text = number(v, "roughness", system, 2 if end < 20 else 1)
            role = "ink" if theme.dark or v / end < 0.5 else "card"
            words(p, text, th.font(th.SMALL, bold=j == best), theme.color(role), x - advance(text, f) / 2, y + 4)
            if j == best:
                p.setBrush(Qt.BrushStyle.NoBrush)
                p.setPen(QPen(theme.color("copper"), 1.8))
                p.drawRect(QRectF(area.left() + j * wide + 1, y - high / 2 + 1, wide - 2, high - 2))
        torque = number_with_unit(float(result.loads[i]) * T, "torque", system)
        words(p, torque, f, theme.color("muted"), area.left() - 8, y + 4, right=True)
    for j in range(columns):
        text = number(float(result.amounts[j]), "roughness", system, 1)
        words(
            p, text, f, theme.color("muted"), area.left() + (j + 0.5) * wide - advance(text, f) / 2, area.bottom() + 16
        )
    p.setPen(QPen(theme.color("line"), th.HAIR))
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawRect(area)
    step = float(result.amounts[1] - result.amounts[0])
    x = area.left() + (now / step + 0.5) * wide
    y = area.bottom() - float(np.interp(1.0, result.loads, np.arange(rows) + 0.5)) * high
    p.setPen(QPen(theme.color("paper"), 5))
    p.drawEllipse(QPointF(min(x, area.right()), y), 17, 17)
    p.setPen(QPen(theme.color("driver"), 2.4))
    p.drawEllipse(QPointF(min(x, area.right()), y), 17, 17)
    message = tr(
        "transmission error from peak to peak in µm, over tip relief of both gears (µm, over "
        "{l_Ca:.3g} mm of roll) and torque",
        l_Ca=result.l_Ca,
    )
    words(p, message, f, theme.color("muted"), area.left(), area.top() - 24)
    words(
        p,
        tr("ring: the design as it is; framed: the smoothest at each torque"),
        f,
        theme.color("muted"),
        area.left(),
        area.top() - 8,
    )

"""Diagrams along a shaft, over each other on its own axis: moment, torque, stress, deflection, safety."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from cooper.arrays import Array
from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import advance, words
from cooper.document.units import KINDS, number, screen_unit
from cooper.exchange.plots import Line, Plot
from cooper.i18n.text import tr
from cooper.machine.check_shaft import ShaftCheck

SAFE_MOST = 12.0
"""Safety from which the diagram is cut off."""


class Diagram(Struct, frozen=True):
    """One of the diagrams: title, kind of its unit, its lines, a limit to be drawn (None: none)."""

    title: str
    kind: str
    lines: Callable[[ShaftCheck, int], list[Line]]
    limit: str = ""


def _ends(j: ShaftCheck, values: Array) -> tuple[Array, Array]:
    return j.ends.ravel(), values.ravel()


def _moment(j: ShaftCheck, case: int) -> list[Line]:
    x, level = _ends(j, j.M[case, 0])
    upright = j.M[case, 1].ravel()
    whole = np.hypot(level, upright)
    return [
        Line(x, level, "driver", True, "x"),
        Line(x, upright, "driven", True, "y"),
        Line(x, whole, "ink", False, tr("resulting")),
    ]


def _shear(j: ShaftCheck, case: int) -> list[Line]:
    x, level = _ends(j, j.V[case, 0])
    return [Line(x, np.hypot(level, j.V[case, 1].ravel()), "ink", False, tr("shear"))]


def _torque(j: ShaftCheck, case: int) -> list[Line]:
    T = np.repeat(np.abs(j.T[case]), 2)
    return [Line(j.ends.ravel(), T, "copper", False, tr("torque"))]


def _stress(j: ShaftCheck, case: int) -> list[Line]:
    x, sigma = _ends(j, j.sigma)
    return [Line(x, j.tau.ravel(), "copper", True, tr("torsion")), Line(x, sigma, "ink", False, tr("bending"))]


def _sag(j: ShaftCheck, case: int) -> list[Line]:
    return [
        Line(j.x, j.w[case, 0], "driver", True, "x"),
        Line(j.x, j.w[case, 1], "driven", True, "y"),
        Line(j.x, np.hypot(j.w[case, 0], j.w[case, 1]), "ink", False, tr("resulting")),
    ]


def _safety(j: ShaftCheck, case: int) -> list[Line]:
    x, S_D = _ends(j, j.S_D)
    return [
        Line(x, np.minimum(j.S_Y.ravel(), SAFE_MOST), "driven", True, "S_Y"),
        Line(x, np.minimum(S_D, SAFE_MOST), "ink", False, "S_D"),
    ]


DIAGRAMS = (
    Diagram(tr("shear force"), tr("force"), _shear),
    Diagram(tr("bending moment"), tr("torque"), _moment),
    Diagram(tr("torque"), tr("torque"), _torque),
    Diagram(tr("stress"), tr("stress"), _stress),
    Diagram(tr("deflection"), tr("length"), _sag),
    Diagram(tr("safety"), tr("safety"), _safety, "S"),
)


def shaft_plots(j: ShaftCheck, case: int) -> list[Plot]:
    """The diagrams as plots over the length of the shaft."""
    # The line that counts comes first.
    return [Plot(d.title, d.kind, tuple(reversed(d.lines(j, case))), tr("along the shaft")) for d in DIAGRAMS]


def paint_diagrams(
    p: QPainter,
    theme: th.Theme,
    room: QRectF,
    to_x: Callable[[float], float],
    j: ShaftCheck,
    case: int,
    limits: tuple[float, float],
    cursor: float | None,
    system: str,
) -> None:
    """All diagrams in a room; ``to_x`` goes from mm along the shaft to pixels, ``cursor`` is the place (mm) whose
    values are told."""
    height = room.height() / len(DIAGRAMS)
    for n, d in enumerate(DIAGRAMS):
        row = QRectF(room.left(), room.top() + n * height, room.width(), height - 7)
        _paint_one(p, theme, row, to_x, d, j, case, limits, cursor, system)
    if cursor is not None:
        x = to_x(cursor)
        pen = QPen(theme.color("copper"), th.HAIR)
        pen.setDashPattern([3, 3])
        p.setPen(pen)
        p.drawLine(QPointF(x, room.top()), QPointF(x, room.bottom()))


def _paint_one(
    p: QPainter,
    theme: th.Theme,
    row: QRectF,
    to_x: Callable[[float], float],
    d: Diagram,
    j: ShaftCheck,
    case: int,
    limits: tuple[float, float],
    cursor: float | None,
    system: str,
) -> None:
    lines = d.lines(j, case)
    low = min(0.0, *(float(np.min(line.y)) for line in lines))
    high = max(1e-9, *(float(np.max(line.y)) for line in lines))
    if d.limit:
        low, high = 0.0, min(max(high, 2 * limits[0]), SAFE_MOST)

    def at(value: float) -> float:
        return row.bottom() - row.height() * (min(max(value, low), high) - low) / (high - low)

    p.setPen(QPen(theme.color("line"), th.HAIR))
    p.drawLine(QPointF(to_x(float(j.x[0])), at(0.0)), QPointF(to_x(float(j.x[-1])), at(0.0)))
    if d.limit:
        pen = QPen(theme.color("short"), th.HAIR)
        pen.setDashPattern([5, 3])
        p.setPen(pen)
        p.drawLine(QPointF(to_x(float(j.x[0])), at(limits[0])), QPointF(to_x(float(j.x[-1])), at(limits[0])))
    for line in lines:
        points = [QPointF(to_x(float(x)), at(float(y))) for x, y in zip(line.x, line.y, strict=True)]
        if not line.faint and not d.limit:
            ends = [QPointF(points[-1].x(), at(0.0)), QPointF(points[0].x(), at(0.0))]
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(theme.color(line.role, 0.10))
            p.drawPolygon(QPolygonF([*points, *ends]))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.setPen(QPen(theme.color(line.role, 0.75 if line.faint else 1.0), th.HAIR))
        p.drawPolyline(QPolygonF(points))
    text = th.font(th.SMALL)
    words(p, d.title, text, theme.color("muted"), row.left(), row.top() + 11)
    unit = screen_unit(KINDS[d.kind].display_unit(system))
    if cursor is None:
        count = lines[-1]
        extreme = float(np.min(count.y) if d.limit else np.max(np.abs(count.y)))
        message = [(tr("least") if d.limit else tr("most"), extreme, "ink")]
    else:
        message = [(line.name, _value(line, cursor), line.role) for line in reversed(lines)]
    # What is left of a sum that cancels is nothing.
    least = 1e-9 * max(abs(low), abs(high))
    message = [(name, 0.0 if abs(value) < least else value, role) for name, value, role in message]
    y = row.top() + 24
    for name, value, role in message:
        if y > row.bottom() + 6:
            break
        x = row.left()
        words(p, name, text, theme.color(role), x, y)
        x += advance(name, text) + 6
        more = "> " if d.limit and value >= SAFE_MOST else ""
        words(
            p,
            tr("{more}{kind} {unit}", more=more, kind=number(value, d.kind, system), unit=unit).strip(),
            text,
            theme.color("ink"),
            x,
            y,
        )
        y += 12


def _value(line: Line, at: float) -> float:
    """The value of a line at a place; of the two at a jump the greater."""
    k = np.nonzero((line.x[:-1] <= at) & (line.x[1:] >= at))[0]
    if len(k) == 0:
        return 0.0
    result = []
    for i in k:
        span = line.x[i + 1] - line.x[i]
        share = 0.0 if span <= 0 else (at - line.x[i]) / span
        result.append(float(line.y[i] + share * (line.y[i + 1] - line.y[i])))
    return max(result, key=abs)

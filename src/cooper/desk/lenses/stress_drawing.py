"""The stress field of a tooth as it is painted: shades, lines of equal stress, directions, marks."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPainterPath, QPen

from cooper.arrays import Array, Index
from cooper.desk.base import theme as th
from cooper.desk.widgets.shading import shaded, shades
from cooper.desk.widgets.shapes import polygon, segments
from cooper.desk.widgets.typeset import advance, words
from cooper.document.units import number_with_unit
from cooper.field.elastic import principal, von_mises
from cooper.field.raster import Raster, boundary_of, isolines, raster_of, triangles_of
from cooper.field.shades import nice
from cooper.field.stress_field import FieldBasis, crack_path
from cooper.i18n.text import tr

BANDS = 10
COARSER, COARSEST = 3, 5
"""Pixels of the screen for one of the shades, and where the field is found roughly for now."""
ROUGH = 600
"""Elements of a rough grid at most."""
STROKE_STEP = 30
"""Pixels between strokes."""


KINDS = {"von Mises": "von Mises", "tension": tr("largest principal stress"), "shear": tr("greatest shear")}
"""What can be shown, with its words."""


class StressView(Struct):
    """How the field is looked at."""

    shown: str = "von Mises"
    magnified: float = 0.0
    lines: bool = True
    strokes: bool = True
    scale: float = 0.0
    middle: tuple[float, float] = (0.0, 0.0)


class StressDrawing:
    """Paints one field basis; what does not change from one position of the load to the next is kept."""

    def __init__(self, basis: FieldBasis) -> None:
        self.basis = basis
        self.triangles: Index = triangles_of(basis.elements)
        self.sides: Index = boundary_of(basis.elements)
        self._raster: tuple[object, Raster] | None = None

    def values(self, stress: Array, shown: str) -> Array:
        """What is shown, at the nodes; MPa."""
        if shown == "von Mises":
            return von_mises(stress, self.basis.nu)
        one, two, _ = principal(stress)
        return np.maximum(one, 0.0) if shown == "tension" else (one - two) / 2

    def fit(self, view: StressView, area: QRectF) -> None:
        """The whole tooth, and as much of its body as goes with it."""
        nodes, m = self.basis.nodes, self.basis.m_n
        top = nodes[self.basis.chain][:, 1].max()
        root = nodes[self.basis.pull][0]
        height = top - root[1] + 2.4 * m
        width = 2 * abs(root[0]) + 1.2 * m
        view.scale = min(area.height() / height, area.width() / width)
        view.middle = (0.0, top + 0.25 * m - height / 2)

    def to_pixels(self, view: StressView, area: QRectF, points: Array) -> Array:
        """Points in mm, in pixels."""
        c = area.center()
        return np.column_stack(
            (c.x() + view.scale * (points[:, 0] - view.middle[0]), c.y() - view.scale * (points[:, 1] - view.middle[1]))
        )

    def paint(
        self, p: QPainter, theme: th.Theme, area: QRectF, view: StressView, L: float, w: float, system: str
    ) -> float:
        """Paint the field for a line load w (N/mm) at the length of roll L; the stress at the end of the scale
        (MPa)."""
        b = self.basis
        if view.scale <= 0:
            self.fit(view, area)
        stress = w * b.between(L, b.stress)
        u = w * b.between(L, b.u)
        nodes = b.nodes + view.magnified * u
        at = self.to_pixels(view, area, nodes)
        values = self.values(stress, view.shown)
        top, node, bottom, low_node = (v * (w if k in (0, 2) else 1) for k, v in enumerate(b.root(L)))
        end = nice(1.1 * max(top, -bottom, 1e-9) * (0.55 if view.shown == "shear" else 1.0))
        p.save()
        p.setClipRect(area)
        self._shade(p, theme, area, at, values / end, view)
        if view.lines:
            self._lines(p, theme, at, values, end)
        if view.strokes:
            self._strokes(p, theme, area, at, stress)
        if view.magnified > 0:
            self._edges(p, self.to_pixels(view, area, b.nodes), QPen(theme.color("faint"), th.HAIR))
        self._edges(p, at, QPen(theme.color("ink"), th.FINE))
        self._held(p, theme, at)
        self._marks(p, theme, area, view, at, stress, int(node), int(low_node), top, bottom, system)
        self._load(p, theme, area, view, L, w, u, system)
        p.restore()
        return end

    def _shade(self, p: QPainter, theme: th.Theme, area: QRectF, at: Array, share: Array, view: StressView) -> None:
        grain = COARSER if len(self.basis.elements) > ROUGH else COARSEST
        width, height = int(area.width()) // grain, int(area.height()) // grain
        key = (id(self.basis), view.scale, view.middle, view.magnified, width, height)
        if view.magnified > 0 or self._raster is None or self._raster[0] != key:
            here = (at - [area.left(), area.top()]) / grain
            self._raster = (key, raster_of(here, self.triangles, width, height))
        raster = self._raster[1]
        picture = np.zeros((height, width), dtype=np.uint32)
        picture[raster.inside] = shades(theme)[np.clip(raster.values(share) * 255, 0, 255).astype(int)]
        image = QImage(picture.tobytes(), width, height, 4 * width, QImage.Format.Format_ARGB32_Premultiplied)
        p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        # The half-transparent rim of the smoothed picture stays within the section.
        p.save()
        p.setClipPath(self._outline(at), Qt.ClipOperation.IntersectClip)
        p.drawImage(QRectF(area.left(), area.top(), width * grain, height * grain), image)
        p.restore()

    def _outline(self, at: Array) -> QPainterPath:
        """The section's edge as one closed line."""
        path = QPainterPath()
        path.addPolygon(polygon(at[self._round()]))
        path.closeSubpath()
        return path

    def _round(self) -> Index:
        """The nodes of the edge in their order."""
        if not hasattr(self, "_order"):
            after: dict[int, list[tuple[int, int]]] = {}
            for a, mid, c in self.sides.tolist():
                after.setdefault(a, []).append((mid, c))
                after.setdefault(c, []).append((mid, a))
            start = int(self.sides[0, 0])
            order, here, before = [start], start, -1
            while True:
                mid, there = next(((m, c) for m, c in after[here] if m != before), after[here][0])
                order += [mid, there]
                here, before = there, mid
                if here == start or len(order) > 4 * len(self.sides):
                    break
            self._order = np.array(order)
        return self._order

    def _edges(self, p: QPainter, at: Array, pen: QPen) -> None:
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        p.setPen(pen)
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPolyline(polygon(at[self._round()]))

    def _lines(self, p: QPainter, theme: th.Theme, at: Array, values: Array, end: float) -> None:
        levels = end * np.arange(1, BANDS) / BANDS
        result = isolines(at, self.triangles, values, levels)
        p.setPen(QPen(theme.color("ink", 0.28), 1.0))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPath(segments(result))

    def _strokes(self, p: QPainter, theme: th.Theme, area: QRectF, at: Array, stress: Array) -> None:
        """Short strokes along the principal stress that is the greater by amount: thick where it pulls, thin where
        it presses."""
        middles = self.basis.elements[:, 8]
        x = at[middles]
        cell = np.floor((x - [area.left(), area.top()]) / STROKE_STEP).astype(int)
        inside = (cell >= 0).all(axis=1) & (x[:, 0] < area.right()) & (x[:, 1] < area.bottom())
        _, first = np.unique(cell[inside], axis=0, return_index=True)
        chosen = middles[inside][first]
        if not len(chosen):
            return
        one, two, angle = principal(stress[chosen])
        pulls = np.abs(one) >= np.abs(two)
        angle = np.where(pulls, angle, angle + np.pi / 2)
        size = np.maximum(np.abs(one), np.abs(two))
        length = 4 + 9 * np.sqrt(np.clip(size / max(float(np.percentile(size, 95)), 1e-12), 0, 1))
        step = np.column_stack((np.cos(angle), -np.sin(angle))) * length[:, None]
        for pull, width, role in ((True, 1.8, "ink"), (False, 1.0, "driven")):
            keep = pulls == pull
            p.setPen(QPen(theme.color(role, 0.85), width))
            a, b = at[chosen][keep] - step[keep], at[chosen][keep] + step[keep]
            p.drawPath(segments(np.stack((a, b), axis=1)))

    def _held(self, p: QPainter, theme: th.Theme, at: Array) -> None:
        held = np.isin(self.sides, self.basis.held).all(axis=1)
        pen = QPen(theme.color("muted"), 2.2)
        pen.setDashPattern([1, 2])
        p.setPen(pen)
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPath(segments(at[self.sides[held][:, [0, 2]]]))

    def _marks(
        self,
        p: QPainter,
        theme: th.Theme,
        area: QRectF,
        view: StressView,
        at: Array,
        stress: Array,
        node: int,
        low_node: int,
        top: float,
        bottom: float,
        system: str,
    ) -> None:
        b = self.basis
        # The tangent at which ISO 6336-3 takes its section.
        k = int(np.nonzero(b.pull == b.tangent)[0][0])
        for side in (b.pull, b.push):
            place = at[side[k]]
            along = at[side[min(k + 1, len(side) - 1)]] - at[side[max(k - 1, 0)]]
            along = along / max(float(np.hypot(*along)), 1e-9) * 46
            pen = QPen(theme.color("ink", 0.8), th.HAIR)
            pen.setDashPattern([8, 3, 1.5, 3])
            p.setPen(pen)
            p.drawLine(QPointF(*(place - along)), QPointF(*(place + along)))
        crack = self.to_pixels(view, area, crack_path(b, stress, node))
        if len(crack) > 2:
            p.setPen(QPen(theme.color("paper"), 4.5))
            p.drawPolyline(polygon(crack))
            pen = QPen(theme.color("short"), 2.2)
            pen.setDashPattern([3, 1.6])
            p.setPen(pen)
            p.drawPolyline(polygon(crack))
        narrow = area.width() < 340
        for n, value, word in ((node, top, tr("tension")), (low_node, bottom, tr("compression"))):
            x, y = at[n]
            p.setPen(QPen(theme.color("card"), 3.2))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawEllipse(QPointF(x, y), 6.5, 6.5)
            p.setPen(QPen(theme.color("copper"), 1.8))
            p.drawEllipse(QPointF(x, y), 6.5, 6.5)
            right = x > area.center().x()
            text = tr("{system} {word}", system=number_with_unit(value, "stress", system), word=word)
            f = th.font(th.TEXT, bold=True)
            wide = advance(text, f)
            x_t = min(max(x + (16 if right else -16 - wide), area.left() + 4), area.right() - wide - 4)
            # Where both do not fit beside each other the second stands below.
            y_t = y + (22 if narrow and word == "compression" else 0)
            p.fillRect(QRectF(x_t - 4, y_t + 15, wide + 8, 20), theme.color("card", 0.85))
            words(p, text, f, theme.color("ink"), x_t, y_t + 30)

    def _load(
        self, p: QPainter, theme: th.Theme, area: QRectF, view: StressView, L: float, w: float, u: Array, system: str
    ) -> None:
        b = self.basis
        place = b.between(L, b.places)
        near = int(b.chain[int(np.argmin(((b.nodes[b.chain] - place) ** 2).sum(axis=1)))])
        tip = self.to_pixels(view, area, (place + view.magnified * u[near])[None])[0]
        d = b.between(L, b.directions)
        d = np.array([d[0], -d[1]]) / max(float(np.hypot(*d)), 1e-9)
        tail = tip - 74 * d
        p.setPen(QPen(theme.color("copper"), 2.4))
        p.drawLine(QPointF(*tail), QPointF(*(tip - 7 * d)))
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(theme.color("copper"))
        n = np.array([-d[1], d[0]])
        p.drawPolygon(polygon(np.array([tip, tip - 13 * d + 4.5 * n, tip - 13 * d - 4.5 * n])))
        text = number_with_unit(w, "line_load", system)
        f = th.font(th.TEXT, bold=True)
        x = min(max(tail[0] - advance(text, f) / 2, area.left() + 4), area.right() - advance(text, f) - 4)
        y = min(max(tail[1] - 8, area.top() + 14), area.bottom() - 6)
        p.fillRect(QRectF(x - 4, y - 14, advance(text, f) + 8, 19), theme.color("card", 0.85))
        words(p, text, f, theme.color("copper"), x, y)


def paint_scale(p: QPainter, theme: th.Theme, area: QRectF, end: float, shown: str, system: str) -> None:
    """The shades with what they mean."""
    shaded(p, theme, area, np.linspace(1, 0, 256)[:, None])
    p.setPen(QPen(theme.color("line"), th.HAIR))
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawRect(area)
    for k in range(0, BANDS + 1, 2):
        y = area.bottom() - area.height() * k / BANDS
        p.drawLine(QPointF(area.right(), y), QPointF(area.right() + 4, y))
        words(
            p,
            number_with_unit(end * k / BANDS, "stress", system),
            th.font(8),
            theme.color("muted"),
            area.right() + 7,
            y + 4,
        )
    words(p, KINDS[shown], th.font(th.SMALL), theme.color("muted"), area.left(), area.top() - 8)

"""The cloud: designs as points over two quantities, a third as colour, their arrangement as shape."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from cooper.arrays import Array
from cooper.desk.base import theme as th
from cooper.desk.survey.cloud_marks import (
    SHAPES,
    STEPS,
    paint_axes,
    paint_edge,
    paint_legend,
    paint_limits,
    paint_marks,
)
from cooper.desk.widgets.typeset import words
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.survey.pareto_front import pareto_front

LEFT, RIGHT, TOP, BOTTOM = 54, 16, 26, 40
NEAR = 9.0
"""Pixels within which the pointer takes a point."""
LEAST_DRAG = 4.0


def _rgb(c: QColor) -> tuple[int, int, int]:
    return c.red(), c.green(), c.blue()


class View(Struct):
    """What part of the quantities is seen."""

    x: tuple[float, float]
    y: tuple[float, float]


class Cloud(QWidget):
    """Points in their numbers: wheel zooms, dragging takes a box, with Shift a lasso, with the middle button it
    moves; a double click shows all again. Arrow keys go along the edge, Enter puts on the shelf, Space takes."""

    picked = Signal(object)
    """Numbers of the designs that were taken by box or lasso, or the one that was clicked."""
    hovered = Signal(int)
    taken = Signal(int)
    shelved = Signal(int)

    def __init__(self, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme, self.system = theme, "mm"
        self.setObjectName("cloud")
        self.setAccessibleName(translate(tr("Cloud of the designs found")))
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumHeight(170)
        self.keys = ("mass", "worst", "m_n")
        self.values: dict[str, Array] = {}
        self.kind: NDArray[np.int64] = np.empty(0, dtype=np.int64)
        self.kinds: list[str] = []
        self.keep: NDArray[np.bool_] = np.empty(0, dtype=bool)
        self.chosen: NDArray[np.int64] = np.empty(0, dtype=np.int64)
        self.edge: NDArray[np.int64] = np.empty(0, dtype=np.int64)
        self.present: dict[str, float] = {}
        self.limits: dict[str, tuple[float, ...]] = {}
        self.hover = -1
        self.zoomed: View | None = None
        # Found once for what is shown: the picture of the points, what is seen, the ends of the colours.
        self._image: QImage | None = None
        self._seen: View | None = None
        self._shades: tuple[float, float] | None = None
        self._shade_of: NDArray[np.int64] | None = None
        self._buffer: NDArray[np.uint32] | None = None
        self._px: tuple[Array, Array] = (np.empty(0), np.empty(0))
        self._path: list[QPointF] = []
        self._drag: str = ""
        self._last = QPointF()
        # Painted once for however many changes come at once.
        self.later = QTimer(self)
        self.later.setSingleShot(True)
        self.later.setInterval(0)
        self.later.timeout.connect(self._again)

    # -- what is shown

    def show_points(
        self,
        values: dict[str, Array],
        kind: NDArray[np.int64],
        kinds: list[str],
        keep: NDArray[np.bool_],
        present: dict[str, float] | None = None,
    ) -> None:
        """Show these points; those that are not kept faintly."""
        # What is shown stays as it is while more comes in.
        self.values, self.kind, self.kinds, self.keep = dict(values), kind, kinds, keep
        self.edge = self.edge[:0]
        self.chosen = self.chosen[self.chosen < len(keep)]
        if present is not None:
            self.present = present
        if self.hover >= len(keep):
            self.hover = -1
        self.later.start()

    def show_keys(self, x: str, y: str, color: str) -> None:
        """Lay other quantities on the axes."""
        if (x, y) != self.keys[:2]:
            self.zoomed = None
            # Places and edge are those of the axes before.
            self.edge, self._px = self.edge[:0], (np.empty(0), np.empty(0))
        self.keys = (x, y, color)
        self._seen = self._shades = self._shade_of = None
        self.later.start()

    def choose(self, rows: NDArray[np.int64]) -> None:
        """Mark designs that are chosen elsewhere."""
        self.chosen = rows
        self.update()

    def apply_theme(self, theme: th.Theme) -> None:
        self.theme = theme
        self.later.start()

    def _again(self) -> None:
        self._image = self._seen = self._shades = self._shade_of = None
        x, y, _ = self.keys
        rows = np.flatnonzero(self.keep)
        if len(rows) and x in self.values and y in self.values:
            edge = pareto_front({k: self.values[k][rows] for k in (x, y)}, x, y)
            self.edge = rows[edge]
        else:
            self.edge = np.empty(0, dtype=np.int64)
        self.update()

    # -- places

    def room(self) -> QRectF:
        return QRectF(LEFT, TOP, max(self.width() - LEFT - RIGHT, 10), max(self.height() - TOP - BOTTOM, 10))

    def view(self) -> View:
        """What is seen: all kept points and the present design, unless it was zoomed."""
        if self.zoomed is not None:
            return self.zoomed
        if self._seen is None:
            self._seen = View(self._span(self.keys[0]), self._span(self.keys[1]))
        return self._seen

    def _known(self, key: str) -> bool:
        """Whether any design has this quantity."""
        return bool(np.isfinite(self.values.get(key, np.empty(0))).any())

    def _span(self, key: str) -> tuple[float, float]:
        v = self.values.get(key, np.empty(0))
        v = v[self.keep] if len(v) == len(self.keep) and self.keep.any() else v
        v = v[np.isfinite(v)]
        ends = [float(np.min(v)), float(np.max(v))] if len(v) else []
        if ends and key in self.present and np.isfinite(self.present[key]):
            # The present design in sight, unless all would shrink to a speck.
            now, spread = self.present[key], max(ends[1] - ends[0], 1e-9)
            if ends[0] - 0.5 * spread < now < ends[1] + 0.5 * spread:
                ends = [min(ends[0], now), max(ends[1], now)]
        if not ends:
            return 0.0, 1.0
        gap = 0.05 * (ends[1] - ends[0]) or 0.05 * abs(ends[0]) or 0.5
        return ends[0] - gap, ends[1] + gap

    def _place(self, x: Array, y: Array) -> tuple[Array, Array]:
        room, view = self.room(), self.view()
        px = room.left() + (x - view.x[0]) / (view.x[1] - view.x[0]) * room.width()
        py = room.bottom() - (y - view.y[0]) / (view.y[1] - view.y[0]) * room.height()
        return px, py

    def point(self, n: int) -> QPointF:
        """Where a design stands; pixels."""
        x, y = (np.array([self.values[k][n]]) for k in self.keys[:2])
        px, py = self._place(x, y)
        return QPointF(float(px[0]), float(py[0]))

    def at(self, pos: QPointF) -> int:
        """The kept design nearest to a place, -1 where none is near."""
        px, py = self._px
        if not len(px):
            return -1
        far = np.where(self.keep, (px - pos.x()) ** 2 + (py - pos.y()) ** 2, np.inf)
        n = int(np.nanargmin(far)) if np.isfinite(far).any() else -1
        return n if n >= 0 and far[n] <= NEAR**2 else -1

    # -- painting

    def _rgb(self, name: str) -> int:
        c = QColor(getattr(self.theme, name))
        return int(c.rgb()) & 0xFFFFFFFF

    def _colors(self) -> NDArray[np.uint32]:
        """Shades from slate over sea green to copper; all lie apart in lightness too."""
        t = self.theme
        stops = [QColor(t.driven), QColor(t.driver), QColor(t.copper)]
        rows = []
        for k in range(STEPS):
            f = k / (STEPS - 1) * 2
            a, b = stops[int(min(f, 1.999))], stops[int(min(f, 1.999)) + 1]
            s = f - int(min(f, 1.999))
            mixed = QColor(*(round(u + (v - u) * s) for u, v in zip(_rgb(a), _rgb(b), strict=True)))
            rows.append(int(mixed.rgb()) & 0xFFFFFFFF)
        return np.array(rows, dtype=np.uint32)

    def _shade(self) -> NDArray[np.int64]:
        """The shade of each design."""
        v = self.values.get(self.keys[2])
        if v is None:
            return np.zeros(len(self.keep), dtype=np.int64)
        if self._shade_of is None or len(self._shade_of) != len(v):
            low, high = self.color_span()
            spread = high - low or 1.0
            self._shade_of = np.clip(np.nan_to_num((v - low) / spread) * (STEPS - 1), 0, STEPS - 1).astype(np.int64)
        return self._shade_of

    def color_span(self) -> tuple[float, float]:
        """Least and greatest of the quantity that is shown as colour, of what is kept."""
        if self._shades is None:
            v = self.values.get(self.keys[2], np.empty(0))
            v = v[self.keep] if len(v) == len(self.keep) and self.keep.any() else v
            v = v[np.isfinite(v)]
            self._shades = (float(np.min(v)), float(np.max(v))) if len(v) else (0.0, 1.0)
        return self._shades

    def _paint_points(self) -> QImage:
        ratio = self.devicePixelRatioF()
        w, h = max(int(self.width() * ratio), 1), max(int(self.height() * ratio), 1)
        buffer = np.full((h, w), self._rgb("paper"), dtype=np.uint32)
        # What has come in since is drawn once it is shown.
        x, y = (self.values.get(k, np.empty(0))[: len(self.keep)] for k in self.keys[:2])
        if len(x) and len(x) == len(y):
            self._px = self._place(x, y)
            px, py = (v * ratio for v in self._px)
            room, pad = self.room(), 3
            # What has no value is in no place.
            inside = (px > max(room.left() * ratio, pad)) & (px < min(room.right() * ratio, w - pad - 1))
            inside &= (py > max(room.top() * ratio, pad)) & (py < min(room.bottom() * ratio, h - pad - 1))
            seen = np.flatnonzero(inside)
            ix, iy = px[seen].astype(np.int64), py[seen].astype(np.int64)
            kept, kind = self.keep[seen], self.kind[seen]
            faint = self._rgb("line")
            rows = np.flatnonzero(~kept)
            buffer[iy[rows], ix[rows]] = faint
            colors = self._colors()[self._shade()[seen]]
            many = int(np.sum(kept)) > 30_000
            for k in range(max(len(self.kinds), 1)):
                rows = np.flatnonzero(kept & (kind == k))
                mine, x_k, y_k = colors[rows], ix[rows], iy[rows]
                marks = SHAPES[k % len(SHAPES)]
                if many:
                    marks = [(a, b) for a, b in marks if abs(a) < 2 and abs(b) < 2]
                for a, b in marks:
                    buffer[y_k + b, x_k + a] = mine
        else:
            self._px = (np.empty(0), np.empty(0))
        self._buffer = buffer
        image = QImage(buffer.data, w, h, 4 * w, QImage.Format.Format_RGB32)
        image.setDevicePixelRatio(ratio)
        return image

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._image is None:
            self._image = self._paint_points()
        p = QPainter(self)
        p.drawImage(0, 0, self._image)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_axes(self, p)
        room = self.room()
        if not all(self._known(k) for k in self.keys[:2]):
            # There are no ends from which scales could be drawn.
            text = tr("no design has both of these quantities") if len(self.keep) else tr("no design to show")
            words(p, text, th.font(th.SMALL), self.theme.color("muted"), room.left() + 16, room.top() + 24)
            return
        paint_legend(self, p)
        p.save()
        p.setClipRect(room.adjusted(-6, -6, 6, 6))
        paint_limits(self, p)
        paint_edge(self, p)
        paint_marks(self, p)
        p.restore()
        if self._drag in ("box", "lasso") and len(self._path) > 1:
            p.setPen(QPen(self.theme.color("copper"), 1.2, Qt.PenStyle.DashLine))
            p.setBrush(self.theme.color("copper", 0.08))
            if self._drag == "box":
                p.drawRect(QRectF(self._path[0], self._path[-1]).normalized())
            else:
                p.drawPolygon(QPolygonF(self._path))

    # -- acting

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._image = None

    def wheelEvent(self, event: QWheelEvent) -> None:
        room, view = self.room(), self.view()
        factor = 0.85 ** (event.angleDelta().y() / 120)
        fx = (event.position().x() - room.left()) / room.width()
        fy = (room.bottom() - event.position().y()) / room.height()

        def zoom(ends: tuple[float, float], f: float) -> tuple[float, float]:
            at = ends[0] + (ends[1] - ends[0]) * f
            return at + (ends[0] - at) * factor, at + (ends[1] - at) * factor

        self.zoomed = View(zoom(view.x, fx), zoom(view.y, fy))
        self._image = None
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._last = event.position()
        self._path = [event.position()]
        if event.button() == Qt.MouseButton.MiddleButton:
            self._drag = "move"
        elif event.button() == Qt.MouseButton.LeftButton:
            self._drag = "lasso" if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else "box"

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        pos = event.position()
        if self._drag == "move":
            room, view = self.room(), self.view()
            dx = (pos.x() - self._last.x()) / room.width() * (view.x[1] - view.x[0])
            dy = (pos.y() - self._last.y()) / room.height() * (view.y[1] - view.y[0])
            self.zoomed = View((view.x[0] - dx, view.x[1] - dx), (view.y[0] + dy, view.y[1] + dy))
            self._last, self._image = pos, None
            self.update()
        elif self._drag:
            self._path.append(pos)
            self.update()
        else:
            self.look_at(self.at(pos))

    def look_at(self, n: int) -> None:
        """Mark the design under the pointer."""
        if n != self.hover:
            self.hover = n
            self.hovered.emit(n)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        drag, self._drag = self._drag, ""
        if drag in ("box", "lasso"):
            far = max(
                (abs(q.x() - self._path[0].x()) + abs(q.y() - self._path[0].y()) for q in self._path), default=0.0
            )
            if far < LEAST_DRAG:
                n = self.at(event.position())
                self.picked.emit(np.array([n] if n >= 0 else [], dtype=np.int64))
            else:
                self.picked.emit(self.inside(self._path, drag))
        self._path = []
        self.update()

    def inside(self, path: list[QPointF], how: str) -> NDArray[np.int64]:
        """The kept designs within a box or a lasso."""
        px, py = self._px
        if not len(px):
            return np.empty(0, dtype=np.int64)
        if how == "box":
            box = QRectF(path[0], path[-1]).normalized()
            good = (px >= box.left()) & (px <= box.right()) & (py >= box.top()) & (py <= box.bottom())
        else:
            good = np.zeros(len(px), dtype=bool)
            corners = [(q.x(), q.y()) for q in path]
            for (x_1, y_1), (x_2, y_2) in zip(corners, [*corners[1:], corners[0]], strict=True):
                if y_1 != y_2:
                    crosses = (py < max(y_1, y_2)) & (py >= min(y_1, y_2))
                    good ^= crosses & (px < x_1 + (py - y_1) / (y_2 - y_1) * (x_2 - x_1))
        return np.flatnonzero(good & self.keep)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        n = self.at(event.position())
        if n >= 0:
            self.shelved.emit(n)
        else:
            self.zoomed, self._image = None, None
            self.update()

    def leaveEvent(self, event: object) -> None:
        if not self.hasFocus():
            self.look_at(-1)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and len(self.edge):
            at = np.flatnonzero(self.edge == self.hover)
            step = 1 if key == Qt.Key.Key_Right else -1
            n = int(self.edge[(int(at[0]) + step) % len(self.edge)]) if len(at) else int(self.edge[0])
            self.look_at(n)
            self.picked.emit(np.array([n]))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.hover >= 0:
            self.shelved.emit(self.hover)
        elif key == Qt.Key.Key_Space and self.hover >= 0:
            self.taken.emit(self.hover)
        else:
            event.ignore()

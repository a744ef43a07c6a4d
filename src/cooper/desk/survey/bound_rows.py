"""Bounds of what was found: for each quantity a histogram with two handles, which filter at once."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QLineEdit, QWidget

from cooper.arrays import Array
from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import draw, symbol_runs, words
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.survey.criteria import CRITERIA

BINS = 44
HEIGHT = 58
BASE, TOP = 40, 16
GRIP = 7.0


class EndEditor(QLineEdit):
    """Where an end is typed; Enter is for it alone, else the row beneath would open it again."""

    faulty = False
    """What was typed last cannot be read: the end of the editing that Enter brings leaves it open."""

    def keyPressEvent(self, event: QKeyEvent) -> None:
        super().keyPressEvent(event)
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            event.accept()


class BoundRow(QWidget):
    """One quantity: what the other bounds leave of it in green, what they take away in grey; its own ends dragged,
    typed after a double click, or stepped with the arrow keys (with Shift the upper one)."""

    moved = Signal(str)

    def __init__(self, key: str, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.key, self.theme, self.system = key, theme, "mm"
        self.known = CRITERIA[key]
        self.low, self.high = -np.inf, np.inf
        self.span = (0.0, 1.0)
        self.any = False
        """Whether there is any value; without one there is nothing to bound and no range to show."""
        self.all = np.zeros(BINS)
        self.left = np.zeros(BINS)
        self.lost = 0
        self._of: Array | None = None
        self._bin = np.empty(0, dtype=np.int16)
        self.drag = ""
        self.editor: EndEditor | None = None
        self.setObjectName(f"bound_{key}")
        self.setAccessibleName(translate(tr("Bounds of {words}", words=self.known.words)))
        self.setToolTip(translate(tr("{words}: drag the ends; double click to type them", words=self.known.words)))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(HEIGHT)

    def sizeHint(self) -> QSize:
        return QSize(240, HEIGHT)

    def show_values(self, values: Array, others: NDArray[np.bool_]) -> None:
        """The values of all designs, and those that the other bounds leave."""
        if values is not self._of:
            self._of = values
            v = values[np.isfinite(values)]
            self.any = bool(len(v))
            self.setEnabled(self.any)
            if self.any:
                self.span = (float(np.min(v)), float(np.max(v)))
            if self.span[0] == self.span[1]:
                self.span = (self.span[0] - 0.5, self.span[1] + 0.5)
            with np.errstate(invalid="ignore"):
                at = np.floor((values - self.span[0]) / (self.span[1] - self.span[0]) * BINS)
            # What has no value falls in a bin of its own.
            self._bin = np.where(np.isfinite(at), np.clip(at, 0, BINS - 1), BINS).astype(np.int16)
            self.all = np.bincount(self._bin, minlength=BINS + 1)[:BINS].astype(float)
        self.left = np.bincount(self._bin[others], minlength=BINS + 1)[:BINS].astype(float)
        self.lost = int(np.sum(~self.good(values) & others))
        self._tell()
        self.update()

    def good(self, values: Array) -> NDArray[np.bool_]:
        """Which values lie within the bounds; what has no value is kept while there is no bound."""
        if not self.bounded:
            return np.ones(len(values), dtype=bool)
        tiny = 1e-9 * max(abs(self.span[0]), abs(self.span[1]), 1e-9)
        return (values >= self.low - tiny) & (values <= self.high + tiny)

    @property
    def bounded(self) -> bool:
        return bool(np.isfinite(self.low) or np.isfinite(self.high))

    def ends(self) -> tuple[float, float]:
        """Where the handles stand."""
        return max(self.low, self.span[0]), min(self.high, self.span[1])

    def give(self, low: float, high: float) -> None:
        """Other ends; what lies beyond all values is no bound."""
        self.low = -np.inf if low <= self.span[0] else low
        self.high = np.inf if high >= self.span[1] else high
        self._tell()
        self.moved.emit(self.key)
        self.update()

    def _tell(self) -> None:
        if not self.any:
            self.setAccessibleDescription(translate(tr("no design has a value")))
            return
        low, high = (self.known.text(v, self.system) for v in self.ends())
        self.setAccessibleDescription(
            translate(
                tr(
                    "from {low} to {high} {system}; rules out {lost}",
                    low=low,
                    high=high,
                    system=self.known.unit(self.system),
                    lost=self.lost,
                )
            )
        )

    # -- painting

    def _line(self) -> tuple[float, float]:
        return 10.0, float(self.width() - 10)

    def _x(self, value: float) -> float:
        left, right = self._line()
        return left + (value - self.span[0]) / (self.span[1] - self.span[0]) * (right - left)

    def _value(self, x: float) -> float:
        left, right = self._line()
        f = min(max((x - left) / (right - left), 0.0), 1.0)
        return self.span[0] + f * (self.span[1] - self.span[0])

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        t = self.theme
        left, right = self._line()
        low, high = self.ends()
        top = max(float(self.all.max()), 1.0)
        w = (right - left) / BINS
        middle = self.span[0] + (np.arange(BINS) + 0.5) / BINS * (self.span[1] - self.span[0])
        room = BASE - TOP
        for k in range(BINS):
            x = left + k * w
            if self.all[k]:
                tall = max(np.sqrt(self.all[k] / top) * room, 1.0)
                p.fillRect(QRectF(x, BASE - tall, w - 1, tall), t.color("line"))
            if self.left[k]:
                tall = max(np.sqrt(self.left[k] / top) * room, 1.0)
                within = low <= middle[k] <= high
                p.fillRect(
                    QRectF(x, BASE - tall, w - 1, tall),
                    t.color("driver" if within else "short", 0.75 if within else 0.35),
                )
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.setPen(QPen(t.color("line"), 1.4))
        p.drawLine(QPointF(left, BASE), QPointF(right, BASE))
        small = th.font(th.SMALL)
        unit = self.known.unit(self.system)
        x = draw(p, symbol_runs(self.known.symbol, None, t.color("ink")), left, 12)
        if unit:
            words(p, unit, small, t.color("muted"), x + 4, 12)
        if not self.any:
            words(p, "–", small, t.color("muted"), left, BASE + 15)
            return
        p.setPen(QPen(t.color("copper" if self.bounded else "muted"), 1.6))
        p.drawLine(QPointF(self._x(low), BASE), QPointF(self._x(high), BASE))
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(t.color("copper" if self.hasFocus() or self.bounded else "muted"))
        for value in (low, high):
            p.drawEllipse(QPointF(self._x(value), BASE), 4.5, 4.5)
        if self.lost:
            words(
                p,
                tr("rules out {lost:,}", lost=self.lost).replace(",", " "),
                small,
                t.color("short"),
                right,
                12,
                right=True,
            )
        at_low, at_high = self.known.text(low, self.system), self.known.text(high, self.system)
        words(p, at_low, small, t.color("copper" if np.isfinite(self.low) else "muted"), left, BASE + 15)
        words(p, at_high, small, t.color("copper" if np.isfinite(self.high) else "muted"), right, BASE + 15, right=True)

    # -- acting

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        x = event.position().x()
        low, high = (self._x(v) for v in self.ends())
        near = "low" if abs(x - low) < abs(x - high) or (abs(x - low) == abs(x - high) and x < low) else "high"
        self.drag = near
        if min(abs(x - low), abs(x - high)) > 3 * GRIP:
            self.drag = near if event.position().y() > TOP else ""

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.drag:
            value = self._value(event.position().x())
            low, high = self.ends()
            self.give(*(min(value, high), high) if self.drag == "low" else (low, max(value, low)))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.drag = ""

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.open("low" if event.position().x() < self.width() / 2 else "high")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = (self.span[1] - self.span[0]) / BINS
        low, high = self.ends()
        upper = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        by = {Qt.Key.Key_Right: step, Qt.Key.Key_Left: -step}.get(Qt.Key(event.key()))
        if by is not None:
            self.give(*(low, max(high + by, low)) if upper else (min(low + by, high), high))
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.open("high" if upper else "low")
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.give(-np.inf, np.inf)
        elif event.key() == Qt.Key.Key_Escape and self.editor is not None:
            self._close()
        else:
            event.ignore()

    def open(self, which: str) -> None:
        """Type an end; empty lets it go."""
        if self.editor is not None:
            self.editor.deleteLater()
        value = self.ends()[0 if which == "low" else 1]
        editor = self.editor = EndEditor(self.known.text(value, self.system), self)
        editor.setObjectName(f"bound_{self.key}_{which}")
        editor.setAccessibleName(
            translate(tr("{value} {words}", value="least" if which == "low" else "greatest", words=self.known.words))
        )
        editor.setMaxLength(20)
        editor.setGeometry(int(self._line()[0]) if which == "low" else self.width() - 90, BASE - 6, 80, 22)
        editor.selectAll()
        editor.show()
        editor.setFocus()
        editor.returnPressed.connect(lambda: self._typed(which))
        editor.editingFinished.connect(self._finished)

    def _typed(self, which: str) -> None:
        editor = self.editor
        if editor is None:
            return
        text = editor.text().strip().rstrip("%").replace(",", ".")
        low, high = self.low, self.high
        try:
            value = self.known.held(float(text), self.system) if text else (-np.inf if which == "low" else np.inf)
            if np.isnan(value):
                raise ValueError
        except ValueError:
            th.set_style(editor, "fault", "true")
            editor.setToolTip(translate(tr("“{text}” is no number", text=editor.text())))
            editor.faulty = True
            return
        self._close()
        self.give(*(value, max(high, value)) if which == "low" else (min(low, value), value))

    def _finished(self) -> None:
        if self.editor is not None and self.editor.faulty:
            self.editor.faulty = False
            return
        self._close()

    def _close(self) -> None:
        editor, self.editor = self.editor, None
        if editor is not None:
            editor.hide()
            editor.deleteLater()
            self.setFocus()

"""A first walk over the window: five stops that say what is where, skipped at any of them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject, QRect, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import Action, register_actions
from cooper.desk.widgets.labels import Label
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window

STOPS = (
    (
        "power_line",
        tr("The train"),
        tr(
            "Power flows from left to right: what comes in, each stage to scale, what goes out. Click an "
            "end for the duty, a stage to work on it. A click on the design's name opens what one does "
            "with a file."
        ),
    ),
    (
        "bench",
        tr("The Bench"),
        tr(
            "The selected mesh in true form. Every number on it is a field: click it, type a value with "
            "any unit, or step it with the arrow keys. Drag to roll the teeth."
        ),
    ),
    (
        "lenses",
        tr("Other ways to look"),
        tr(
            "The same mesh from the side, along its contact, as a stress field, with its shafts, as the "
            "whole train turning. The right button shows what each can do."
        ),
    ),
    (
        "margins",
        tr("The Margins"),
        tr(
            "Every check, worst first: a filled disc holds, a half one is thin, a triangle is short. "
            "Click one to see why, and what would help."
        ),
    ),
    (
        "trail",
        tr("The Trail"),
        tr(
            "Each edit is a state. Click one to go back; nothing is lost. Ctrl+K finds every command, F1 "
            "explains what is selected."
        ),
    ),
)
WIDTH = 330


class FirstWalk(QWidget):
    """Lies over the window; Enter or a click goes on, Esc ends it."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self.window_, self.n = window, 0
        self.setObjectName("first_walk")
        self.setAccessibleName(translate(tr("A first walk over the window")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.card = QWidget(self)
        self.card.setObjectName("walk_card")
        column = QVBoxLayout(self.card)
        self.title, self.words = Label(), Label()
        self.words.setWordWrap(True)
        row = QHBoxLayout()
        self.skip, self.on = QPushButton(translate(tr("Skip  Esc"))), QPushButton()
        for button, name, act in ((self.skip, "walk_skip", self.end), (self.on, "walk_on", self.go_on)):
            button.setObjectName(name)
            button.clicked.connect(act)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.skip.setProperty("plain", True)
        row.addWidget(self.skip)
        row.addStretch(1)
        row.addWidget(self.on)
        for part in (self.title, self.words):
            column.addWidget(part)
        column.addLayout(row)
        window.installEventFilter(self)
        # Another page ends the walk.
        window.pages.currentChanged.connect(self.end)
        self.setGeometry(window.rect())
        self.show_stop()
        self.show()
        self.raise_()
        self.setFocus()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Resize:
            self.setGeometry(self.window_.rect())
            self._place()
        return False

    def place(self) -> QRect:
        """What the present stop is about; px in the window."""
        w = self.window_
        key = STOPS[self.n][0]
        if key == "lenses":
            shown = [b for b in w.bench.lens_buttons.values() if not b.isHidden()]
            result = shown[0].geometry()
            for b in shown[1:]:
                result = result.united(b.geometry())
            return QRect(w.bench.mapTo(w, result.topLeft()), result.size()).adjusted(-6, -4, 6, 4)
        part = {"power_line": w.power_line, "bench": w.bench, "margins": w.margins, "trail": w.trail}[key]
        return QRect(part.mapTo(w, part.rect().topLeft()), part.size())

    def show_stop(self) -> None:
        """Words of the present stop."""
        _, title, text = STOPS[self.n]
        self.title.setText(translate(tr("{n} of {stops}: {title}", n=self.n + 1, stops=len(STOPS), title=title)))
        self.words.setText(translate(text))
        self.card.setAccessibleName(translate(tr("{title}. {told}", title=title, told=text)))
        last = self.n == len(STOPS) - 1
        self.on.setText(translate(tr("Begin  Enter") if last else tr("Next  Enter")))
        th.set_text_role(self.title, "ink", th.TITLE, bold=True)
        th.set_text_role(self.words, "ink")
        self._place()
        self.update()

    def _place(self) -> None:
        """The card beside what it is about, within the window."""
        self.card.setFixedWidth(WIDTH)
        self.card.adjustSize()
        at, size = self.place(), self.card.size()
        x = at.center().x() - size.width() // 2
        y = at.bottom() + 14
        if y + size.height() > self.height() - 8:
            y = at.top() - size.height() - 14
        if y < 8:
            x, y = at.left() - size.width() - 14, at.center().y() - size.height() // 2
            if x < 8:
                x = at.center().x() - size.width() // 2
        x = min(max(x, 8), self.width() - size.width() - 8)
        self.card.move(x, min(max(y, 8), self.height() - size.height() - 8))

    def go_on(self) -> None:
        """The next stop, or the end."""
        if self.n == len(STOPS) - 1:
            self.end()
        else:
            self.n += 1
            self.show_stop()

    def end(self, *_page: int) -> None:
        """Back to work; it does not come by itself again."""
        self.window_.pages.currentChanged.disconnect(self.end)
        self.window_.settings.set_text("walked", "yes")
        self.window_.removeEventFilter(self)
        self.hide()
        self.deleteLater()
        if not self.window_.pages.currentIndex():
            self.window_.bench.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Right, Qt.Key.Key_Space):
            self.go_on()
        elif event.key() == Qt.Key.Key_Left and self.n:
            self.n -= 1
            self.show_stop()
        elif event.key() == Qt.Key.Key_Escape:
            self.end()

    def mousePressEvent(self, event: object) -> None:
        self.go_on()

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self.window_.theme
        dim, hole = QPainterPath(), QPainterPath()
        dim.addRect(QRectF(self.rect()))
        hole.addRoundedRect(QRectF(self.place()), 8, 8)
        shade = theme.color("paper", 0.66) if theme.dark else theme.color("ink", 0.42)
        p.fillPath(dim.subtracted(hole), shade)
        p.setPen(QPen(theme.color("copper"), 2))
        p.drawPath(hole)


def begin_walk(window: Window) -> FirstWalk:
    """Walk over the window from the first stop; a survey is left for it."""
    if window.pages.currentIndex():
        window.leave_survey()
    return FirstWalk(window)


def walk_once(window: Window) -> None:
    """The walk for someone who sees the window for the first time, unless something else was asked for meanwhile."""
    if not window.settings.text("walked", "") and window.isVisible() and not window.pages.currentIndex():
        begin_walk(window)


register_actions("views", Action("walk", tr("A first walk over the window"), "", begin_walk), place=0)

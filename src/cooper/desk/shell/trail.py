"""The Trail: the states that the design went through; go back, pin, name."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QSize, Qt
from PySide6.QtGui import QContextMenuEvent, QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QFrame,
    QHBoxLayout,
    QMenu,
    QWidget,
)

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.widgets.card import ask_text
from cooper.desk.widgets.clear_area import ClearArea
from cooper.desk.widgets.labels import plain_tip, text_button
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.typeset import Run, draw, elided, label_runs, width
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate

SPACING = 104
HEIGHT = 64


class Stop(QAbstractButton):
    """One state: an open disc, a filled one for the present, a diamond for a pinned one."""

    def __init__(self, session: Session, theme: th.Theme, index: int, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.theme, self.index = session, theme, index
        self.setObjectName(f"state_{index}")
        self.setFixedSize(SPACING, HEIGHT)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(lambda: session.go(index))
        self._told: tuple[object, ...] = ()
        self.refresh()

    def refresh(self) -> None:
        """Follow the state, where anything of it is shown otherwise than before."""
        states = self.session.states
        state, verdict = states[self.index], term(states[self.index].verdict)
        after = states[self.index + 1].parent if self.index + 1 < len(states) else None
        text = (state.name, state.label, verdict, state.parent, after, self.present, self.theme)
        if text == self._told:
            return
        self._told = text
        name = f"“{state.name}”" if state.name else state.label
        self.setAccessibleName(translate(tr("State {index}: {name}", index=self.index + 1, name=name)))
        self.setAccessibleDescription(
            translate(
                tr("worst check {verdict}", verdict=verdict) + (tr(", the present state") if self.present else "")
            )
        )
        plain_tip(
            self,
            tr(
                "{name}\n{label}; worst check {verdict}\nClick to go there, P to pin",
                name=name,
                label=state.label,
                verdict=verdict,
            ),
        )
        self.update()

    @property
    def present(self) -> bool:
        return self.index == self.session.at

    def sizeHint(self) -> QSize:
        return QSize(SPACING, HEIGHT)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction(translate(tr("Go here")), lambda: self.session.go(self.index))
        menu.addAction(translate(tr("Pin and name …")), lambda: pin_dialog(self.session, self.window(), self.index))
        menu.exec(event.globalPos())

    def keyPressEvent(self, event: object) -> None:
        if event.key() == Qt.Key.Key_P:  # type: ignore[attr-defined]
            pin_dialog(self.session, self.window(), self.index)
        else:
            super().keyPressEvent(event)  # type: ignore[arg-type]

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, state = self.theme, self.session.states[self.index]
        centre = QPointF(SPACING / 2, 22)
        if self.index:
            # A state made from an earlier one than its neighbour starts a new branch: its line is broken.
            straight = state.parent == self.index - 1
            pen = QPen(t.color("line"), 2.2)
            if not straight:
                pen.setDashPattern([1.5, 2.5])
            p.setPen(pen)
            p.drawLine(QPointF(0, 22), centre)
        if self.index < len(self.session.states) - 1:
            pen = QPen(t.color("line"), 2.2)
            if self.session.states[self.index + 1].parent != self.index:
                pen.setDashPattern([1.5, 2.5])
            p.setPen(pen)
            p.drawLine(centre, QPointF(SPACING, 22))
        role = "copper" if self.present else "ink"
        p.setPen(QPen(t.color("copper" if self.hasFocus() or self.underMouse() or self.present else "ink"), 1.7))
        p.setBrush(t.color(role) if self.present or state.pinned else t.color("card"))
        if state.pinned:
            r = 7.5
            p.drawPolygon(
                QPolygonF(
                    [
                        centre + QPointF(0, -r),
                        centre + QPointF(r, 0),
                        centre + QPointF(0, r),
                        centre + QPointF(-r, 0),
                    ]
                )
            )
        else:
            p.drawEllipse(centre, 6, 6)
        color, bold = t.color("copper" if self.present else "ink"), state.pinned or self.present
        text = f"“{state.name}”" if state.name else state.label
        runs = label_runs(text, color, th.SMALL, bold=bold)
        if width(runs) > SPACING - 6:
            f = th.font(th.SMALL, bold=bold)
            runs = [Run(elided(text, f, SPACING - 6), f, color)]
        draw(p, runs, (SPACING - width(runs)) / 2, 51)


def pin_dialog(session: Session, parent: QWidget, index: int | None = None) -> None:
    """Ask for a name and pin a state with it; an empty name unpins."""
    if index is not None:
        session.go(index)
    now = session.state.name or session.state.label
    name = ask_text(parent, tr("Pin this state"), tr("Name of the state (empty unpins it)"), now, "Pin")
    if name is not None:
        session.pin(name[:40])


class Trail(QFrame):
    """The band along the bottom."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme
        self.setObjectName("band")
        self.setAccessibleName(translate(tr("Trail")))
        self.setFixedHeight(HEIGHT + 12)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 4, 12, 4)
        self.area = ClearArea()
        self.area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.area.setWidgetResizable(False)
        self.strip = QWidget()
        self.area.setWidget(self.strip)
        self.area.horizontalScrollBar().valueChanged.connect(self._show_stops)
        row.addWidget(self.area, 1)
        self._shown: dict[int, Stop] = {}
        self.buttons = {}
        for name, words, act in (
            ("undo", tr("Undo"), session.undo),
            ("redo", tr("Redo"), session.redo),
            ("pin", tr("Pin …"), lambda: pin_dialog(session, self.window())),
        ):
            button = text_button(words)
            button.setObjectName(name)
            button.setProperty("plain", True)
            button.clicked.connect(act)
            row.addWidget(button)
            self.buttons[name] = button
        session.changed.connect(self.refresh)
        self.refresh()

    @property
    def stops(self) -> list[Stop]:
        """The states in sight, in their order."""
        return [self._shown[at] for at in sorted(self._shown)]

    def apply_theme(self, theme: th.Theme) -> None:
        self.theme = theme
        for stop in self._shown.values():
            stop.theme = theme
        self.refresh()

    def refresh(self) -> None:
        self.strip.setFixedSize(len(self.session.states) * SPACING, HEIGHT)
        self.buttons["undo"].setEnabled(self.session.state.parent is not None)
        self.buttons["redo"].setEnabled(self.session.can_redo)
        bar = self.area.horizontalScrollBar()
        here = self.session.at * SPACING
        bar.setMaximum(max(bar.maximum(), here))
        bar.setValue(max(0, here + SPACING - self.area.viewport().width() + 40))
        for stop in self._shown.values():
            if stop.index < len(self.session.states):
                stop.refresh()
        self._show_stops()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._show_stops()

    def _show_stops(self) -> None:
        """Have a stop for every state in sight, and for no other: as many as the window is wide, however long the
        Trail."""
        first = self.area.horizontalScrollBar().value() // SPACING - 1
        last = first + self.area.viewport().width() // SPACING + 3
        wanted = range(max(first, 0), min(last + 1, len(self.session.states)))
        for at in [k for k in self._shown if k not in wanted]:
            drop(self._shown.pop(at))
        for at in wanted:
            if at not in self._shown:
                stop = Stop(self.session, self.theme, at, self.strip)
                stop.move(at * SPACING, 0)
                stop.show()
                self._shown[at] = stop

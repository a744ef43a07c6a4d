"""Why: a strength check opened into its factors, a staircase from nominal stress to the safety; any other into what
it is made of, with its place drawn."""

from __future__ import annotations

from math import log

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPalette, QPen
from PySide6.QtSvg import QSvgRenderer
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.desk.widgets.clear_area import ClearArea
from cooper.desk.widgets.labels import Label, plain_tip, text_button
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.typeset import Run, draw, draw_right, elided, symbol_runs, value_runs, width, words
from cooper.document.quantities import QUANTITIES, parts, plain
from cooper.document.units import KINDS, number, number_with_unit, screen_unit
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.results.comparison_notes import comparison_notes as other_methods
from cooper.results.machine_why import Row, why_machine
from cooper.results.origin import MADE_OF, origin_of
from cooper.results.result_tree import Check
from cooper.results.why import CHAINS, Step, why

STEP = 36
BELOW = {"short": tr("Short: "), "thin": tr("Thin. Below the limit "), "holds": tr("Holds. Below the limit ")}
ABOVE = {"short": tr("Short: "), "thin": tr("Thin. Above the limit "), "holds": tr("Holds. Above the limit ")}
"""Words before the meaning of a check, for a lower and for an upper limit."""


class Staircase(QWidget):
    """The steps of one safety, painted: what acts on the way down, then what the material bears."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme
        self.setObjectName("staircase")
        self.steps: list[tuple[Step, float | None]] = []
        self.turn = 0
        self.setMouseTracking(True)

    def show_check(self, key: str) -> None:
        check = self.session.results.check(key)
        chain = why(self.session.results.stages[self.session.stage], check) if check else None
        old = None
        before = self.session.before
        if chain is not None and check is not None and before is not None:
            old_check = before.results.check(key)
            old = why(before.results.stages[self.session.stage], old_check) if old_check else None
        self.steps = []
        if chain is not None:
            for side in ("acting", "bearing"):
                past = {s.symbol: s.value for s in getattr(old, side)} if old is not None else {}
                self.steps += [(step, past.get(step.symbol)) for step in getattr(chain, side)]
            self.turn = len(chain.acting)
        self.setFixedHeight(len(self.steps) * STEP + 30)
        words = [
            tr("{symbol} {kind}", symbol=plain(s.symbol, s.index), kind=number(s.value, QUANTITIES[s.symbol].kind))
            for s, _ in self.steps
        ]
        self.setAccessibleName(translate(tr("Factor chain")))
        self.setAccessibleDescription(translate(join("; ", words)))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if not self.steps:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        bars_left, bars_right = self.width() - 150.0, self.width() - 16.0
        stresses = [s.running for s, _ in self.steps if self._is_stress(s)]
        low, high = log(max(min(stresses), 1e-9)), log(max(stresses))
        span = max(high - low, 1e-6)

        def x_of(stress: float) -> float:
            return bars_left + (bars_right - bars_left) * (0.08 + 0.92 * (log(max(stress, 1e-9)) - low) / span)

        acting = self.steps[self.turn - 1][0].running
        foot = self.height() - 26.0
        p.setPen(QPen(t.color("copper", 0.8), th.HAIR, Qt.PenStyle.DashLine))
        p.drawLine(QPointF(x_of(acting), STEP * (self.turn - 1.0)), QPointF(x_of(acting), foot))
        y, previous = 4.0, None
        for n, (step, past) in enumerate(self.steps):
            if n == self.turn:
                words(p, tr("What the material bears"), th.font(th.SMALL, bold=True), t.color("muted"), 10, y + 18)
                y, previous = y + 30, None
            self._step(p, step, past, y)
            if self._is_stress(step):
                x = x_of(step.running)
                total = step.power == 0
                p.setPen(QPen(t.color("ink" if total else "muted"), th.BOLD if total else th.FINE))
                p.drawLine(QPointF(x, y + 3), QPointF(x, y + STEP - 3))
                if previous is not None:
                    p.setPen(QPen(t.color("faint"), th.HAIR))
                    p.drawLine(QPointF(previous, y + 3), QPointF(x, y + 3))
                previous = x
            y += STEP

    def _is_stress(self, step: Step) -> bool:
        """Whether the running value is a stress already: the contact chain becomes one with Z_E."""
        if step.power == 0:
            return QUANTITIES[step.symbol].kind == "stress"
        symbols = [s.symbol for s, _ in self.steps]
        return "Z_E" not in symbols or symbols.index(step.symbol) >= symbols.index("Z_E")

    def _step(self, p: QPainter, step: Step, past: float | None, y: float) -> None:
        t, system = self.theme, self.session.system
        q = QUANTITIES[step.symbol]
        total = step.power == 0
        sign = "" if total else {0.5: "√", -0.5: "÷√", -1: "÷"}.get(step.power, "×")
        runs = [Run(sign, th.font(), t.color("faint"))] if sign else []
        runs += symbol_runs(step.symbol, step.index, t.color("ink"))
        draw(p, runs, 10 if total else 20, y + 15)
        unit = screen_unit(KINDS[q.kind].display_unit(system))
        value = value_runs(number(step.value, q.kind, system), unit, t, bold=total)
        right = self.width() - 170.0
        left = draw_right(p, value, right, y + 15)
        if step.entered:
            mark = [Run("entered", th.font(th.SMALL), t.color("thin"))]
            left = draw_right(p, mark, left - 8, y + 15)
        name_x = max(84.0, 20 + width(runs) + 12)
        small_font = th.font(th.SMALL)
        words(p, elided(q.meaning, small_font, left - name_x - 8), small_font, t.color("muted"), name_x, y + 15)
        small = [Run(step.source, th.font(th.SMALL), t.color("faint"))]
        for n, i, v in step.inputs:
            first, *rest = symbol_runs(n, i, t.color("muted"), th.SMALL)
            shown = Run(number_with_unit(v, QUANTITIES[n].kind, system), small_font, t.color("muted"), space=3)
            more = [*small, replace(first, space=10), *rest, shown]
            # An input that does not fit whole is left to the tooltip, not cut in two.
            if width(more) > right - name_x:
                break
            small = more
        draw(p, small, name_x, y + 30)
        if past is not None and abs(past - step.value) > 1e-9 * max(1.0, abs(step.value)):
            words(
                p,
                tr("was {past}", past=number(past, q.kind, system)),
                small_font,
                t.color("copper"),
                78,
                y + 30,
                right=True,
            )

    def mouseMoveEvent(self, event: object) -> None:
        y = event.position().y()  # type: ignore[attr-defined]
        top = 4.0
        for n, (step, _) in enumerate(self.steps):
            if n == self.turn:
                top += 30
            if top <= y < top + STEP:
                q = QUANTITIES[step.symbol]
                inputs = join(
                    "\n",
                    (
                        f"{plain(s, i)} = {number_with_unit(v, QUANTITIES[s].kind, self.session.system)}, "
                        f"{QUANTITIES[s].meaning}"
                        for s, i, v in step.inputs
                    ),
                )
                formula = f"\n= {step.formula}" if step.formula else ""
                plain_tip(
                    self,
                    tr(
                        "{symbol}: {meaning}{formula}\n{source}\n{inputs}",
                        symbol=plain(step.symbol, step.index),
                        meaning=q.meaning,
                        formula=formula,
                        source=step.source,
                        inputs=inputs,
                    ).strip(),
                )
                return
            top += STEP


PAPER = "#fffdf8"
"""Ground of the pictures of reports, whatever the theme."""


class Place(QWidget):
    """The picture of the place that a check is about, on paper as in a report."""

    def __init__(self, theme: th.Theme) -> None:
        super().__init__()
        self.theme = theme
        self.picture = QSvgRenderer()
        self.setObjectName("why_place")
        self.setAccessibleName(translate(tr("The place")))
        self.setMinimumHeight(160)

    def take(self, svg: str) -> None:
        """Show a picture."""
        if isValid(self):
            self.picture.load(svg.encode())
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QColor(PAPER))
        p.drawRoundedRect(QRectF(self.rect()), 4, 4)
        if self.picture.isValid():
            size = QSizeF(self.picture.defaultSize()).scaled(QSizeF(self.size()), Qt.AspectRatioMode.KeepAspectRatio)
            corner = QPointF((self.width() - size.width()) / 2, (self.height() - size.height()) / 2)
            p.setClipRect(QRectF(corner, size))
            self.picture.render(p, QRectF(corner, size))


class WhySheet(QFrame):
    """The sheet over the Bench that shows the staircase of the opened check."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.theme, self.key = session, theme, ""
        self.setObjectName("sheet")
        self.setAccessibleName(translate(tr("Why")))
        box = QVBoxLayout(self)
        box.setContentsMargins(12, 10, 6, 8)
        box.setSpacing(2)
        head = QHBoxLayout()
        self.title = Label()
        self.title.setTextFormat(Qt.TextFormat.RichText)
        self.title.setObjectName("why_title")
        close = text_button(tr("Close  Esc"))
        close.setProperty("plain", True)
        close.setObjectName("why_close")
        close.clicked.connect(self.dismiss)
        head.addWidget(self.title)
        head.addStretch(1)
        head.addWidget(close)
        box.addLayout(head)
        self.means = Label()
        self.means.setObjectName("why_means")
        self.means.setWordWrap(True)
        box.addWidget(self.means)
        self.beside = Label()
        self.beside.setObjectName("why_beside")
        self.beside.setWordWrap(True)
        box.addWidget(self.beside)
        self.steps = QWidget()
        self.steps.setObjectName("why_steps")
        self.steps_grid = QGridLayout(self.steps)
        self.steps_grid.setContentsMargins(8, 4, 8, 4)
        self.steps_grid.setVerticalSpacing(3)
        self.steps_area = ClearArea(QPalette.ColorRole.Base)
        self.steps_area.setWidgetResizable(True)
        self.steps_area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.steps_area.setWidget(self.steps)
        box.addWidget(self.steps_area, 1)
        self.place = Place(theme)
        self._drawing: Task | None = None
        box.addWidget(self.place, 2)
        self.area = ClearArea(QPalette.ColorRole.Base)
        self.area.setWidgetResizable(True)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.stairs = Staircase(session, theme)
        self.area.setWidget(self.stairs)
        box.addWidget(self.area, 1)
        self.closed = lambda: None
        session.changed.connect(self.refresh)
        session.system_changed.connect(self.refresh)
        self.hide()

    def apply_theme(self, theme: th.Theme) -> None:
        self.theme = self.stairs.theme = theme
        self.refresh()

    def show_check(self, key: str) -> None:
        """Show the chain of a check; hidden for an empty key or a check without a chain."""
        self.key = key
        check = self.session.results.check(key) if key else None
        if check is None or (check.symbol not in CHAINS and not self._rows(check)):
            self.hide()
            return
        self.refresh()
        self.show()
        self.raise_()

    def _rows(self, check: Check) -> list[Row]:
        """The steps behind a check of the machine, or what a check without factors is made of."""
        if not check.part:
            return [] if check.symbol in CHAINS else origin_of(self.session.design, self.session.results, check)
        machine = self.session.results.machine
        return [] if machine is None else why_machine(machine, check.part, check.symbol)

    def _lay_steps(self, rows: list[Row]) -> None:
        """Each step with its value, and where it comes from below it."""
        while self.steps_grid.count():
            item = self.steps_grid.takeAt(0)
            widget = None if item is None else item.widget()
            if widget is not None:
                drop(widget)
        for n, (name, value, kind, source) in enumerate(rows):
            shown = number_with_unit(value, kind, self.session.system)
            for column, (text, role, bold) in enumerate(
                ((name, "ink", False), (shown, "ink", True), (source, "muted", False))
            ):
                label = Label(text)
                th.set_text_role(label, role, th.SMALL, bold=bold)
                self.steps_grid.addWidget(label, n, column)
                wide = self.width() - 250
                label.setWordWrap(column == 2 and label.sizeHint().width() > wide)
                label.setMinimumHeight(label.heightForWidth(wide) if label.wordWrap() else label.sizeHint().height())
        self.steps_grid.setColumnStretch(2, 1)

    def refresh(self) -> None:
        check = self.session.results.check(self.key) if self.key else None
        if check is None:
            self.hide()
            return
        t = self.theme
        main, sub = parts(check.symbol, check.index)
        value, limit = (number_with_unit(v, check.kind, self.session.system) for v in (check.value, check.limit))
        self.title.setText(
            translate(
                f"<span style='font-size:16px'><i>{main}</i><sub>{sub}</sub></span> &nbsp;<b>{value}</b> "
                f"<span style='color:{t.muted}'>&nbsp;{check.label}, {check.sense} {limit}</span>"
            )
        )
        word = (BELOW if check.sense == "at least" else ABOVE)[check.verdict]
        self.means.setText(translate(f"{word}{check.means}."))
        th.set_text_role(self.means, check.verdict)
        rows = self._rows(check)
        self.steps_area.setVisible(bool(rows))
        self.area.setVisible(not rows)
        self._lay_steps(rows)
        self._lay_place(check)
        self._lay_beside(check)
        if not rows:
            self.stairs.show_check(self.key)

    def _lay_place(self, check: Check) -> None:
        """The figure of a check that has no factors, drawn by a worker process."""
        if self._drawing is not None:
            self._drawing.give_up()
            self._drawing = None
        wanted = not check.part and check.symbol in MADE_OF
        self.place.setVisible(wanted)
        if wanted:
            now = self.session
            self._drawing = submit(
                "cooper.exchange.place_figure:place_svg", now.design, now.results, check, take=self.place.take
            )

    def _lay_beside(self, check: Check) -> None:
        """The other methods' numbers for the same thing, and what makes them differ."""
        text = (
            []
            if check.stage is None or check.part
            else other_methods(self.session.results.stages[check.stage], check, self.session.system)
        )
        self.beside.setVisible(bool(text))
        self.beside.setText(translate(join("\n", text)))
        th.set_text_role(self.beside, "muted", th.SMALL)

    def dismiss(self) -> None:
        self.hide()
        self.closed()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.dismiss()
        else:
            event.ignore()

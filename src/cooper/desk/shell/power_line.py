"""The Power line: the train from input to output, shafts as thick as their torque, stages in miniature."""

from __future__ import annotations

from math import log10

from PySide6.QtCore import QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QPushButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.shell.duty_end import DutyEnd
from cooper.desk.shell.margin_rows import margin_words
from cooper.desk.shell.stage_card import AXIS, CARD, HEIGHT, StageCard, count_words
from cooper.desk.widgets.labels import plain_tip, text_button
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.typeset import advance, draw_note, draw_verdict, elided, words
from cooper.document.units import number_with_unit
from cooper.i18n.text import join, term, tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import SetResults

BELOW = HEIGHT - 8.0
"""Height at which a shaft runs below the cards."""


class PowerLine(QFrame):
    """The band along the top; ``duty_wanted`` asks for the duty's sheet, ``set_wanted`` for the set of a stage on
    the Bench."""

    duty_wanted = Signal()
    set_wanted = Signal(int)
    arrangement_wanted = Signal()
    commands_wanted = Signal()
    file_wanted = Signal(QPoint)
    """What one does with the file is asked for, at a place of the screen."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme
        self.setObjectName("band")
        self.setAccessibleName(translate(tr("Power line")))
        self.setFixedHeight(HEIGHT)
        self.cards: list[StageCard] = []
        self.ends = []
        for name, meaning in (("duty_in", tr("Duty: what comes in")), ("duty_out", tr("Duty: what is wanted"))):
            end = DutyEnd(self, name == "duty_in")
            end.setObjectName(name)
            end.setAccessibleName(translate(meaning))
            plain_tip(end, meaning + tr(" – click to edit"))
            end.clicked.connect(self.duty_wanted)
            self.ends.append(end)
        self.sets: list[QPushButton] = []
        self.finder = text_button(tr("Commands  Ctrl K"), self)
        self.finder.setObjectName("find_command")
        self.finder.setProperty("plain", True)
        self.finder.clicked.connect(self.commands_wanted)
        self.named = QPushButton(self)
        self.named.setObjectName("design_name")
        th.set_style(self.named, "form", "name")
        self.named.setCursor(Qt.CursorShape.PointingHandCursor)
        plain_tip(self.named, tr("What one does with a design: open, save, export, undo …"))
        self.named.clicked.connect(
            lambda: self.file_wanted.emit(self.named.mapToGlobal(self.named.rect().bottomLeft()))
        )
        session.changed.connect(self.refresh)
        session.system_changed.connect(self.refresh)
        session.file_changed.connect(self.refresh)
        session.stage_selected.connect(lambda _i: self.refresh())
        self.refresh()

    def apply_theme(self, theme: th.Theme) -> None:
        self.theme = theme
        self.refresh()

    def scale_now(self) -> float:
        """Pixels per mm at which the largest stage fits its card: all cards share it."""
        worst = 1e9
        results = self.session.results
        for k, s in enumerate(results.stages):
            one = results.within[k]
            if one is not None and one.arranged.around:
                worst = min(worst, (CARD - 10) / one.values.envelope)
                continue
            first, last, high = s.extent
            worst = min(worst, (CARD - 14) / (last - first), (CARD - 14) / (2 * high))
        return worst

    def refresh(self) -> None:
        count = len(self.session.results.stages)
        while len(self.cards) > count:
            drop(self.cards.pop())
        while len(self.cards) < count:
            self.cards.append(StageCard(self, len(self.cards)))
            self.cards[-1].show()
        self._set_buttons()
        for k, card in enumerate(self.cards):
            worst = min((c for c in self.session.results.checks if c.stage == k), key=lambda c: c.margin)
            name = self.session.design.train.stages[k].name
            card.setAccessibleName(translate(tr("{name}, worst check {worst}", name=name, worst=margin_words(worst))))
            power, system = self.session.results.stages[k].power, self.session.system
            shafts = [
                tr(
                    "{which}: {power}, {power_2}",
                    which=which,
                    power=number_with_unit(power[f"T_{which}"], "torque", system),
                    power_2=number_with_unit(power[f"n_{which}"], "speed", system),
                )
                for which in ("in", "out")
                if f"T_{which}" in power
            ]
            plain_tip(
                card,
                join(
                    "\n",
                    (tr("{name}: {label} {worst}", name=name, label=worst.label, worst=margin_words(worst)), *shafts),
                ),
            )
            card.update()
        self._arrange()
        self.update()

    def _set_buttons(self) -> None:
        """A button on the name of every set, which puts the whole set on the Bench."""
        sets = self.session.results.sets
        while len(self.sets) > len(sets):
            drop(self.sets.pop())
        while len(self.sets) < len(sets):
            button = QPushButton(self)
            n = len(self.sets)
            button.setObjectName(f"whole_set_{n + 1}")
            button.setProperty("chip", True)
            button.setCursor(Qt.CursorShape.PointingHandCursor)
            button.clicked.connect(lambda _on=False, n=n: self.set_wanted.emit(self.session.results.sets[n].first))
            button.show()
            self.sets.append(button)
        for button, s in zip(self.sets, sets, strict=True):
            button.setText(translate(s.name))
            button.setAccessibleName(translate(tr("Show {name} whole", name=s.name)))
            plain_tip(button, tr("{name}: show it whole on the Bench", name=s.name))

    def resizeEvent(self, event: object) -> None:
        self._arrange()

    def _span(self) -> tuple[float, float]:
        return 190.0, self.width() - 300.0

    def _centres(self) -> list[float]:
        left, right = self._span()
        n = len(self.cards)
        return [left + (right - left) * (k + 0.5) / n for k in range(n)]

    def _arrange(self) -> None:
        for card, x in zip(self.cards, self._centres(), strict=True):
            card.move(round(x - CARD / 2), (HEIGHT - CARD) // 2)
        centres = self._centres()
        for button, s in zip(self.sets, self.session.results.sets, strict=True):
            a, b = centres[s.first] + CARD / 2, centres[s.first + 1] - CARD / 2
            button.setText(translate(elided(s.name, th.font(th.SMALL), b - a - 20)))
            button.adjustSize()
            button.move(round((a + b - button.width()) / 2), round(AXIS - button.height() / 2))
        left, right = self._span()
        self.ends[0].setGeometry(12, 48, round(left) - 28, 56)
        self.ends[1].setGeometry(round(right) + 12, 48, 240, 56)
        head = th.font(14, bold=True)
        name = self.session.design.name + ("  •" if self.session.dirty else "")
        self.named.setText(translate(tr("{name} …", name=elided(name, head, 290))))
        self.named.setAccessibleName(
            translate(tr("{name}: what one does with a design", name=self.session.design.name))
        )
        self.named.adjustSize()
        self.named.move(19, 28 - round(0.72 * self.named.height()))
        self.finder.adjustSize()
        self.finder.move(self.width() - self.finder.width() - 12, 10)

    def drop(self, card: StageCard) -> None:
        """A card that was dragged and let go: its stage moves to where it stands now."""
        middle = card.x() + CARD / 2
        to = min(range(len(self.cards)), key=lambda k: abs(self._centres()[k] - middle))
        start = card.index
        if to != start:
            session = self.session
            session.change("move", start, to, label=tr("stage moved"), then=lambda _on: session.select_stage(to))
        self._arrange()

    def _thickness(self, torque: float) -> float:
        """Line weight of a shaft from its torque, on a log scale against the train's least and greatest."""
        power = [s.power for s in self.session.results.stages]
        torques = [power[0].T_in, *(s.T_out for s in power if "T_out" in s)]
        low, high = (log10(max(t, 1e-300)) for t in (min(torques), max(torques)))
        return 2.5 + 5.0 * ((log10(max(torque, 1e-300)) - low) / (high - low) if high > low else 0.5)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, r, system = self.theme, self.session.results, self.session.system
        p.setPen(QPen(t.color("line"), 1))
        p.drawLine(0, HEIGHT - 1, self.width(), HEIGHT - 1)
        small = th.font(th.SMALL)
        place = self.session.path.name if self.session.path else self.session.design.place
        words(p, elided(place, small, 300), small, t.color("muted"), 20, 43)
        left, right = self._span()
        centres = self._centres()
        edges = [left, *centres, right]
        for k in range(len(centres) + 1):
            inside = next((s for s in r.sets if k in s.stages[1:]), None)
            if inside is not None:
                self._within(p, edges[k] + CARD / 2, edges[k + 1] - CARD / 2, inside, first=k == inside.first + 1)
                continue
            if 0 < k < len(r.stages) and not self._goes_on(k):
                self._branch(p, k, edges)
                continue
            power = r.stages[min(k, len(r.stages) - 1)].power
            which = "in" if k < len(r.stages) else "out"
            line = which == "out" and "F_out" in power
            T, n = (0.0, 0.0) if line else (power[f"T_{which}"], power[f"n_{which}"])
            message = (
                [number_with_unit(power.F_out, "force", system), number_with_unit(power.v_out, "velocity", system)]
                if line
                else [number_with_unit(T, "torque", system), number_with_unit(n, "speed", system)]
            )
            a = edges[k] + (0 if k == 0 else CARD / 2)
            b = edges[k + 1] - (0 if k == len(centres) else CARD / 2)
            p.setPen(
                QPen(t.color("ink"), self._thickness(T or power.T_in), Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap)
            )
            p.drawLine(QPointF(a, AXIS), QPointF(b, AXIS))
            # A shaft carries its stage's name and verdict at its start; the numbers stand at its end.
            # The count of the warnings of the stage before stands on the upper line.
            told_before = len([n for n in r.warnings([k - 1]) if n.stage == k - 1]) if k else 0
            taken = advance(count_words(told_before), small) + 30 if told_before else 0.0
            for text, y, used in zip(message, (-13, 19), (taken, 0.0), strict=True):
                # A number is shown whole or not at all; the card's hint has it too.
                spare = b - a - advance(text, small) - used
                if k == 0 or spare >= 2:
                    words(
                        p,
                        text,
                        small,
                        t.color("muted"),
                        b - (8 if k == 0 else min(8.0, spare / 2)),
                        AXIS + y,
                        right=True,
                    )
        self._taken_off(p, edges)
        end = self._of_train(p, right + 16)
        for k in range(len(centres)):
            self._beside_card(p, k, centres, right, end)
        p.setBrush(t.color("ink"))
        p.setPen(Qt.PenStyle.NoPen)
        for x in (left, right):
            p.drawEllipse(QPointF(x, AXIS), 6, 6)

    def _beside_card(self, p: QPainter, k: int, centres: list[float], right: float, end: float) -> None:
        """Name, ratio, worst verdict and warnings of a stage, to the right of its card."""
        t, r, system, small = self.theme, self.session.results, self.session.system, th.font(th.SMALL)
        x = centres[k]
        worst = min((c for c in r.checks if c.stage == k), key=lambda c: c.margin)
        chosen = k == self.session.stage
        x0 = x + CARD / 2 + 10
        bold = th.font(th.TEXT, bold=True)
        beside = (centres[k + 1] - CARD / 2 if k + 1 < len(centres) else right + 60) - x0 - 8
        stage_name = elided(self.session.design.train.stages[k].name, bold, min(170, beside))
        words(p, stage_name, bold, t.color("copper" if chosen else "ink"), x0, 24)
        m = r.stages[k].mesh
        ratio = (
            tr("ratio {u:.4g}", u=abs(m.u))
            if "u" in m
            else tr("{travel} a turn", travel=number_with_unit(m.travel, "length", system))
        )
        ratio = ratio if advance(ratio, small) <= beside else ""
        words(p, ratio, small, t.color("muted"), x0, 42)
        x0 += advance(ratio, small) + 14
        if x0 + 11 < x + CARD / 2 + 10 + beside + 8:
            draw_verdict(p, t, worst.verdict, QRectF(x0, 32, 11, 11))
        # Where the next card stands too near, the shape alone tells; the words are in the card's hint.
        room = (centres[k + 1] - CARD / 2 if k + 1 < len(centres) else end) - x0 - 17
        if advance(margin_words(worst), small) <= room:
            words(p, margin_words(worst), small, t.color(worst.verdict), x0 + 17, 42)
        warned = [n for n in r.warnings([k]) if n.stage == k]
        if warned and beside > 30:
            count = count_words(len(warned))
            draw_note(p, t, warned[0].counts, QRectF(x + CARD / 2 + 10, 48, 10, 10))
            words(
                p,
                elided(count, small, beside - 16),
                small,
                t.color(warned[0].counts or "muted"),
                x + CARD / 2 + 25,
                57,
            )

    def _goes_on(self, k: int) -> bool:
        """Whether the group of stage k is driven by that of the stage before, or is the same."""
        groups = self.session.results.groups
        own, before = (next(g for g in groups if n in g.stages) for n in (k, k - 1))
        return own is before or own.comes_in in before.ends

    def _branch(self, p: QPainter, k: int, edges: list[float]) -> None:
        """The shaft before a card that another card drives than its neighbour: it runs below the cards between; the
        neighbour's own ends in an output."""
        r, t, system, small = self.session.results, self.theme, self.session.system, th.font(th.SMALL)
        own = next(g for g in r.groups if k in g.stages)
        power, last = r.stages[k].power, r.stages[k - 1].power
        a, b = edges[k] + CARD / 2, edges[k + 1] - CARD / 2
        source = next((g.stages[-1] for g in r.groups if own.comes_in in g.ends), None)
        start = edges[0] if source is None else edges[source + 1] + CARD / 2
        ink = QPen(t.color("ink"), self._thickness(power.T_in), Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap)
        ink.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
        p.setPen(ink)
        corners = ((start + 6, AXIS), (start + 6, BELOW), (b - 12, BELOW), (b - 12, AXIS), (b, AXIS))
        p.drawPolyline([QPointF(x, y) for x, y in corners])
        if "T_out" in last:
            ink.setWidthF(self._thickness(last.T_out))
            p.setPen(ink)
            p.drawLine(QPointF(a, AXIS), QPointF(a + 12, AXIS))
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(t.color("ink"))
            p.drawEllipse(QPointF(a + 16, AXIS), 5, 5)
        for q, x, which in ((power, b - 18, "in"), (last, a + 26, "out")):
            for symbol, kind, y in (("T", "torque", -13), ("n", "speed", 19)):
                value = q.get(f"{symbol}_{which}")
                text = "" if value is None else number_with_unit(value, kind, system)
                if advance(text, small) <= (b - a) / 2 - 22:
                    words(p, text, small, t.color("muted"), x, AXIS + y, right=which == "in")

    def _taken_off(self, p: QPainter, edges: list[float]) -> None:
        """An arrow down where power is taken off at a shaft from which more goes on."""
        r, t, small = self.session.results, self.theme, th.font(th.SMALL)
        for out in r.outputs:
            source = next((g.stages[-1] for g in r.groups if out.shaft in g.ends), None)
            if not any(out.shaft in (g.comes_in, g.second) for g in r.groups):
                continue
            x = 22 + (edges[0] if source is None else edges[source + 1] + CARD / 2)
            p.setPen(QPen(t.color("ink"), self._thickness(out.T)))
            p.drawLine(QPointF(x, AXIS), QPointF(x, BELOW - 15))
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(t.color("ink"))
            p.drawPolygon([QPointF(x - 5, BELOW - 16), QPointF(x + 5, BELOW - 16), QPointF(x, BELOW - 7)])
            words(p, number_with_unit(out.P, "power", self.session.system), small, t.color("muted"), x + 9, BELOW - 8)

    def _of_train(self, p: QPainter, x: float) -> float:
        """The worst check of the train and of what stands around its gears, above what comes out; nothing where all
        hold. Where the room before it ends."""
        t, small = self.theme, th.font(th.SMALL)
        worst = min((c for c in self.session.results.checks if c.stage is None), key=lambda c: c.margin, default=None)
        if worst is None or worst.verdict == "holds":
            return self.width()
        draw_verdict(p, t, worst.verdict, QRectF(x, 32, 11, 11))
        text = elided(
            tr("{worst}: {label}", worst=margin_words(worst), label=worst.label), small, self.width() - x - 28
        )
        words(p, text, small, t.color(worst.verdict), x + 17, 42)
        return x - 8

    def _within(self, p: QPainter, a: float, b: float, s: SetResults, *, first: bool) -> None:
        """Between the two meshes of a set: no shaft, but what the set is and does."""
        t, small = self.theme, th.font(th.SMALL)
        p.setPen(QPen(t.color("ink"), 1.4, Qt.PenStyle.DotLine))
        for y in (-3, 3):
            p.drawLine(QPointF(a, AXIS + y), QPointF(b, AXIS + y))
        if not first:
            return
        planets = (
            ""
            if not s.arranged.around
            else tr("1 planet, ")
            if s.planets == 1
            else tr("{planets} planets, ", planets=s.planets)
            if s.arranged.between == "planet"
            else tr("{n} × {member}, ", n=s.planets, member=term(s.arranged.between))
        )
        numbers = tr("ratio {u:.4g}, η {eta_set:.1f} %", u=s.values["u"], eta_set=100 * s.values["eta_set"])
        fits = [
            t
            for t in (planets + numbers, numbers, tr("ratio {u:.4g}", u=s.values["u"]))
            if advance(t, small) <= b - a - 16
        ]
        words(p, fits[0] if fits else "", small, t.color("muted"), b - 8, AXIS + 25, right=True)

"""A row of Margins: a check as value against limit, and a lever on it."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QAbstractButton,
    QSizePolicy,
    QWidget,
)

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.widgets.cached_picture import CachedPicture
from cooper.desk.widgets.labels import plain_tip
from cooper.desk.widgets.offer_marks import extent, paint_margins, paint_train
from cooper.desk.widgets.previewed import lay
from cooper.desk.widgets.typeset import (
    advance,
    draw,
    draw_right,
    draw_verdict,
    elided,
    label_runs,
    symbol_runs,
    value_runs,
    width,
    words,
)
from cooper.document.quantities import plain
from cooper.document.units import KINDS, number, number_with_unit, screen_unit
from cooper.editing.lever_search import Lever
from cooper.i18n.text import join, term, tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import Check, Results

ROW = 46


BAR_Y = 34


SPAN = 0.5
"""Margin at which a bar is full; further ones end in an open tip."""


WAITING = tr("being worked out")
"""What stands in place of a number that is on its way."""


def margin_words(check: Check) -> str:
    """The verdict in words: how far the value is from its limit."""
    size = abs(check.margin)
    amount = "> 100 %" if size > 1 else tr("{size:.0f} %", size=100 * size)
    return {
        "holds": tr("holds by {amount}", amount=amount),
        "thin": tr("thin, {amount}", amount=amount),
        "short": tr("short by {amount}", amount=amount),
    }[check.verdict]


def others_words(before: Results, after: Results, own: str) -> list[str]:
    """Which checks other than ``own`` change their verdict for the worse, get out of being short, or stay short."""
    worse: list[str] = []
    cured: list[str] = []
    still: list[str] = []
    for new in after.checks:
        if new.key == own:
            continue
        old = before.check(new.key)
        was = old is not None and old.margin < 0
        if new.margin < 0:
            (still if was else worse).append(plain(new.symbol, new.index))
        elif was:
            cured.append(plain(new.symbol, new.index))
    words = [
        tr("{found}{value} {told}", found=join(" ", result[:3]), value=" …" if len(result) > 3 else "", told=text)
        for result, text in ((worse, tr("becomes short")), (still, tr("stays short")), (cured, tr("is met")))
        if result
    ]
    return words


class CheckRow(QAbstractButton):
    """One check: shape, symbol, value against limit, the bar centred on the limit, the tick of the value before."""

    def __init__(self, session: Session, theme: th.Theme, check: Check, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme
        self.setCheckable(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(ROW)
        self.before: float | None = None
        self.waits = False
        self.check = check
        self._seen: tuple[object, ...] = ()
        self._still = CachedPicture()
        self.show_check(check)

    def show_check(self, check: Check) -> None:
        before = self.session.before
        old = before.results.check(check.key) if before else None
        self.before = old.margin if old is not None and abs(old.margin - check.margin) > 1e-9 else None
        # The machine is still being worked out anew: its old numbers are not shown together with those of the new
        # gears.
        self.waits = bool(check.part) and self.session.machine_waits
        self.before = None if self.waits else self.before
        seen = (check, self.before, self.waits, self.session.system, self.theme.name)
        if seen == self._seen:
            return
        self.check, self._seen = check, seen
        self.setObjectName(f"check_{check.key}")
        self.setAccessibleName(
            translate(tr("{label} {symbol}", label=check.label, symbol=plain(check.symbol, check.index)))
        )
        text = WAITING if self.waits else margin_words(check)
        self.setAccessibleDescription(
            translate(
                tr(
                    "{value_text} {unit}, {sense} {limit_text}, {told}",
                    value_text=self.value_text(),
                    unit=self.unit(),
                    sense=term(check.sense),
                    limit_text=self.limit_text(),
                    told=text,
                )
            )
        )
        tip = tr("{label}: {told}", label=check.label, told=text)
        if not self.waits and check.verdict != "holds":
            tip += tr("\nIf not met: {means}", means=check.means)
        plain_tip(self, tip)
        self.update()

    def value_text(self) -> str:
        if self.waits:
            return "…"
        return number(
            self.check.value, self.check.kind, self.session.system, 3 if self.check.kind == "factor" else None
        )

    def limit_text(self) -> str:
        return number(self.check.limit, self.check.kind, self.session.system)

    def unit(self) -> str:
        return screen_unit(KINDS[self.check.kind].display_unit(self.session.system))

    def sizeHint(self) -> QSize:
        return QSize(300, ROW)

    def paintEvent(self, event: QPaintEvent) -> None:
        t, c = self.theme, self.check
        value = value_runs(self.value_text(), "" if self.waits else self.unit(), t, 11)
        limit = ("≥ " if c.sense == "at least" else "≤ ") + self.limit_text()
        small = th.font(th.SMALL)
        right = min(self.width() - 21 - advance(limit, small), self.width() - 58)
        label = elided(c.label, small, right - width(value) - 80)
        p = QPainter(self)
        still = (c.symbol, c.index, c.verdict, self.waits, label, limit, t.name, self.isChecked(), self.hasFocus())
        self._still.lay(p, self, still, partial(self._paint_still, label, limit))
        draw_right(p, value, right, 19)
        if self.waits:
            words(p, WAITING, small, t.color("faint"), self.width() - 14, 38, right=True)
            return
        self._bar(p)
        words(p, margin_words(c), small, t.color(c.verdict), self.width() - 14, 38, right=True)

    def _paint_still(self, label: str, limit: str, p: QPainter) -> None:
        """What stays from one state to the next as a rule: shape, symbol, label, limit, the bar's groove."""
        t, c, small = self.theme, self.check, th.font(th.SMALL)
        if self.isChecked() or self.hasFocus():
            p.setPen(QPen(t.color("copper", 0.8), 1.2) if self.hasFocus() else Qt.PenStyle.NoPen)
            p.setBrush(t.color("band" if self.isChecked() else "paper"))
            p.drawRoundedRect(QRectF(self.rect()).adjusted(4, 1, -4, -1), 5, 5)
        if not self.waits:
            draw_verdict(p, t, c.verdict, QRectF(12, 8, 12, 12))
        draw(p, symbol_runs(c.symbol, c.index, t.color("faint" if self.waits else "ink"), 11), 34, 19)
        words(p, limit, small, t.color("muted"), self.width() - 14, 19, right=True)
        words(p, label, small, t.color("muted"), 76, 19)
        p.setPen(QPen(t.color("line"), 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        left, right = self._span()
        p.drawLine(QPointF(left, BAR_Y), QPointF(right, BAR_Y))

    def _span(self) -> tuple[float, float]:
        """The ends of the bar; px."""
        return 34.0, self.width() - 128.0

    def _bar(self, p: QPainter) -> None:
        """From the limit in the middle to the margin now, with a tick at the limit and one at the margin before."""
        t, c = self.theme, self.check
        left, right = self._span()
        middle, half = (left + right) / 2, (right - left) / 2

        def at(margin: float) -> float:
            return middle + half * min(max(margin / SPAN, -1), 1)

        end = at(c.margin)
        if abs(end - middle) <= 1:
            end = middle + 1
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(QRectF(min(middle, end), BAR_Y - 2.5, abs(end - middle), 5), t.color(c.verdict))
        p.fillRect(QRectF(middle - 0.8, BAR_Y - 6, 1.6, 12), t.color("ink"))
        if self.before is not None:
            p.fillRect(QRectF(at(self.before) - 0.9, BAR_Y - 6, 1.8, 12), t.color("copper"))


DRAWN = 36
"""Height of the drawing of what a Lever offers; px."""
MOST_GROWN = 1.3
"""How much larger than now a train is drawn whole."""


AWAY = (QEvent.Type.Leave, QEvent.Type.FocusOut, QEvent.Type.Hide)
"""What ends the look at an offer."""


class LeverRow(QAbstractButton):
    """One Lever: what to set and what it does otherwise; a click tries it."""

    def __init__(self, session: Session, theme: th.Theme, lever: Lever, key: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.theme, self.lever, self.key = session, theme, lever, key
        self._under: Results | None = None
        self.setObjectName(f"lever_{lever.label.replace(' ', '_')}")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.moves = lever.design is not None and lever.design != session.design
        self.setFixedHeight(38 + (DRAWN if self.moves else 0))
        self.setEnabled(self.moves)
        if self.moves:
            self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(
            translate(tr("Lever: {label} {value_text}", label=lever.label, value_text=self.value_text()))
        )
        self.setAccessibleDescription(translate(self.effect_text()))
        tried = lever.results is not None and self.moves
        plain_tip(
            self,
            lever.cannot
            or tr(
                "Try {label} {value_text}: {effect_text}\n{all_effects}",
                label=lever.label,
                value_text=self.value_text(),
                effect_text=self.effect_text(),
                all_effects=self.all_effects() if tried else "",
            ).strip(),
        )

    def value_text(self) -> str:
        lever = self.lever
        if lever.design is None:
            return tr("out of reach")
        if isinstance(lever.shown, str):
            return lever.shown
        return number_with_unit(lever.shown, lever.kind or "factor", self.session.system)

    def effect_text(self) -> str:
        """What the Lever does to mass, centre distance and the worst check."""
        lever = self.lever
        if lever.design is None or lever.results is None:
            return lever.cannot
        e = lever.effect(self.session.results, self.session.stage)
        if not self.moves:
            return tr("enough as it is")
        words = []
        if abs(e["mass"]) >= 0.005:
            words.append(tr("mass {mass:+.0f} %", mass=100 * e["mass"]))
        if abs(e["a_w"]) >= 0.0005:
            words.append(tr("centres {a_w:+.1f} %", a_w=100 * e["a_w"]))
        words += others_words(self.session.results, lever.results, self.key)
        return join(", ", words) or tr("mass and centres as now")

    def all_effects(self) -> str:
        """Every check that the Lever moves, with its margin before and after."""
        assert self.lever.results is not None
        lines = []
        for old in self.session.results.checks:
            new = self.lever.results.check(old.key)
            if new is not None and abs(new.margin - old.margin) >= 0.005:
                lines.append(
                    tr(
                        "{symbol}, {label}: {old} → {new}",
                        symbol=plain(old.symbol, old.index),
                        label=old.label,
                        old=margin_words(old),
                        new=margin_words(new),
                    )
                )
        return join("\n", lines)

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        hot = self.isEnabled() and (self.underMouse() or self.hasFocus())
        if hot:
            p.setPen(QPen(t.color("copper"), 1.2))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 4, 4)
        words(p, self.lever.label, th.font(th.TEXT), t.color("ink" if self.isEnabled() else "faint"), 10, 16)
        value_font = th.font(th.TEXT, bold=self.isEnabled())
        color = t.color("copper" if hot else "ink" if self.isEnabled() else "faint")
        shown = elided(self.value_text(), value_font, self.width() - 100)
        words(p, shown, value_font, color, self.width() - 10, 16, right=True)
        draw(p, label_runs(self.effect_text(), t.color("muted" if self.isEnabled() else "faint"), th.SMALL), 10, 32)
        if self.moves and self.lever.results is not None:
            self._offer(p, self.lever.results)

    def _offer(self, p: QPainter, results: Results) -> None:
        """The train and its least margins with the Lever, those of now as a ghost; all Levers at one scale."""
        now = self.session.results
        half = (self.width() - 30) / 2
        wide, high = extent(now).width(), extent(now).height()
        scale = min(half / (MOST_GROWN * wide), (DRAWN - 4) / (MOST_GROWN * high))
        paint_train(p, QRectF(10, 38, half, DRAWN - 4), results, now, self.theme, scale)
        paint_margins(p, QRectF(20 + half, 38, half, DRAWN - 4), results, now, self.theme)

    def event(self, event: QEvent) -> bool:
        kind = event.type()
        if kind in (QEvent.Type.Enter, QEvent.Type.FocusIn) and self.moves:
            if self.session.laid is not self.lever.results:
                self._under = self.session.laid
            lay(self, self.session, self.lever.results)
        elif kind in AWAY and self.session.laid is self.lever.results:
            lay(self, self.session, self._under)
        return super().event(event)

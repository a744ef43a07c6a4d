"""From all candidates to those that are left: how many each rule took away, the greatest first."""

from __future__ import annotations

from math import log10

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import draw, elided, label_runs, width, words
from cooper.document.quantities import QUANTITIES
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.survey.rules import RULES, rule_words

MOST = 7
GAP = 6.0


def short_words(rule: str) -> str:
    """The same in a few letters: the symbol of a check, else its words."""
    return rule if rule in QUANTITIES and rule not in RULES else RULES.get(rule, rule)


RAISED = str.maketrans("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹")


def thousands(n: float) -> str:
    """A count for people: whole up to a million, then rounded.

    >>> thousands(43656), thousands(2.79e9)
    ('43 656', '2.79·10⁹')
    """
    if n < 1e7:
        return f"{round(n):,}".replace(",", " ")
    power = int(log10(n))
    return tr("{n:.2f}·10{raised}", n=n / 10**power, raised=str(power).translate(RAISED))


class Waterfall(QWidget):
    """A row of bars on a logarithmic scale: what there was, what each rule took, what is left."""

    asked = Signal(str)
    """A rule was clicked: what would have to give is wanted."""

    def __init__(self, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self.possible, self.left = 0.0, 0
        self.gone: list[tuple[str, float]] = []
        self.setObjectName("waterfall")
        self.setAccessibleName(translate(tr("Designs ruled out by each rule")))
        self.setFixedHeight(62)
        self.setMouseTracking(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        return QSize(600, 62)

    def show_counts(self, possible: float, gone: dict[str, float], left: int) -> None:
        """Other numbers."""
        self.possible, self.left = possible, left
        rows = sorted(((r, n) for r, n in gone.items() if n > 0), key=lambda rn: -rn[1])
        if len(rows) > MOST:
            rows = [*rows[: MOST - 1], ("others", sum(n for _, n in rows[MOST - 1 :]))]
        self.gone = rows
        text = join("; ", (tr("{r}: {n}", r=rule_words(r), n=thousands(n)) for r, n in rows))
        self.setAccessibleDescription(
            translate(
                tr(
                    "of {possible} candidates {left} are left; ruled out by {told}",
                    possible=thousands(possible),
                    left=left,
                    told=text,
                )
            )
        )
        self.setToolTip(
            translate(
                join(
                    "\n",
                    [
                        tr("{possible} candidates", possible=thousands(possible)),
                        *(tr("{r} rules out {n}", r=rule_words(r), n=thousands(n)) for r, n in rows),
                    ],
                )
                + tr("\n{left} are left. A click on a rule asks which bound would have to give.", left=thousands(left))
            )
        )
        self.update()

    def _bars(self) -> list[tuple[str, float, QRectF]]:
        bars = [("all", self.possible), *self.gone, ("left", float(self.left))]
        w = min((self.width() - GAP * (len(bars) - 1)) / max(len(bars), 1), 150.0)
        top = log10(max(self.possible, 10.0))
        result = []
        for k, (rule, n) in enumerate(bars):
            tall = max(26 * log10(max(n, 1.0) + 1) / top, 1.5) if n else 0.0
            result.append((rule, n, QRectF(k * (w + GAP), 30 - tall, w, tall)))
        return result

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        t, small = self.theme, th.font(th.SMALL)
        for rule, n, box in self._bars():
            role = {"all": ("muted", 0.45), "left": ("holds", 1.0)}.get(rule, ("short", 0.35))
            p.fillRect(box, t.color(*role))
            number = thousands(n) + (" left" if rule == "left" else " candidates" if rule == "all" else "")
            role_ = "short" if rule not in ("all", "left") else "ink"
            words(p, elided(number, small, box.width()), small, t.color(role_), box.left(), 43)
            if rule in ("all", "left"):
                continue
            runs = label_runs(short_words(rule), t.color("muted"), th.SMALL)
            if width(runs) > box.width():
                words(p, elided(short_words(rule), small, box.width()), small, t.color("muted"), box.left(), 57)
            else:
                draw(p, runs, box.left(), 57)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for rule, _n, box in self._bars():
            if box.left() <= event.position().x() <= box.right() and rule not in ("all", "left"):
                self.asked.emit(rule)

"""What Margins shows besides its checks: warnings as lines of their own shape, and the worst of the whole train."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QSizePolicy, QWidget

from cooper.desk.base import theme as th
from cooper.desk.widgets.labels import plain_tip
from cooper.desk.widgets.typeset import advance, draw_note, draw_verdict, elided, words
from cooper.document.quantities import plain
from cooper.i18n.text import join, term, tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import Check, Note

LINE = 15
MOST_LINES = 3
LEFT = 34


def wrapped(text: str, room: float, lines: int) -> list[str]:
    """Words broken into lines that fit; the last one ends with dots where more would follow."""
    font = th.font(th.SMALL)
    result, rest = [""], translate(text).split()
    while rest:
        longer = tr("{found} {rest}", found=result[-1], rest=rest[0]).strip()
        if advance(longer, font) <= room or not result[-1]:
            result[-1] = longer
            rest.pop(0)
        elif len(result) == lines:
            result[-1] = elided(tr("{found} {rest}", found=result[-1], rest=join(" ", rest)), font, room)
            break
        else:
            result.append("")
    return result


class WarningRow(QAbstractButton):
    """One warning in a few lines; the whole of it in its hint. A click opens the notes."""

    def __init__(self, theme: th.Theme, note: Note, where: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme, self.note = theme, note
        self.text_shown = tr("{where}: {text}", where=where, text=note.text) if where else note.text
        self.setObjectName("warning")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(
            translate(
                tr(
                    "warning{counts}: {text_shown}",
                    counts=tr(", counts as {counts}", counts=term(note.counts)) if note.counts else "",
                    text_shown=self.text_shown,
                )
            )
        )
        plain_tip(
            self,
            self.text_shown
            if not note.counts
            else tr(
                "{text_shown}\nThis alone makes the verdict {counts}.",
                text_shown=self.text_shown,
                counts=term(note.counts),
            ),
        )
        self._fit()

    def _fit(self) -> None:
        self.setFixedHeight(LINE * len(wrapped(self.text_shown, self.width() - LEFT - 14, MOST_LINES)) + 10)

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def sizeHint(self) -> QSize:
        return QSize(300, self.height())

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        if self.hasFocus():
            p.setPen(QPen(t.color("copper", 0.8), 1.2))
            p.drawRoundedRect(QRectF(self.rect()).adjusted(4, 1, -4, -1), 5, 5)
        draw_note(p, t, self.note.counts, QRectF(12, 6, 12, 12))
        color = t.color("ink" if self.note.counts else "muted")
        for n, line in enumerate(wrapped(self.text_shown, self.width() - LEFT - 14, MOST_LINES)):
            words(p, line, th.font(th.SMALL), color, LEFT, 16 + LINE * n)


class WorstRow(QAbstractButton):
    """The worst check of the whole train, where it does not stand in the list; a click goes there."""

    def __init__(self, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme
        self.check: Check | None = None
        self.told = self.amount = ""
        self.setObjectName("worst_of_train")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFixedHeight(24)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_check(self, check: Check, where: str, amount: str) -> None:
        """The check, the stage it belongs to and its margin in words."""
        self.check, self.told, self.amount = check, tr("{where}: {label}", where=where, label=check.label), amount
        self.setAccessibleName(
            translate(tr("worst of the whole train: {told}, {amount}", told=self.told, amount=amount))
        )
        plain_tip(
            self,
            tr(
                "Worst of the whole train: {told} ({symbol}), {amount}\nIf not met: {means}",
                told=self.told,
                symbol=plain(check.symbol, check.index),
                amount=amount,
                means=check.means,
            ),
        )
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.check is None:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        p.setPen(QPen(t.color("copper", 0.8), 1.2) if self.hasFocus() else Qt.PenStyle.NoPen)
        p.setBrush(t.color("band"))
        p.drawRoundedRect(QRectF(self.rect()).adjusted(6, 1, -6, -1), 5, 5)
        draw_verdict(p, t, self.check.verdict, QRectF(12, 6, 12, 12))
        font = th.font(th.SMALL)
        color = t.color(self.check.verdict)
        words(p, self.amount, font, color, self.width() - 14, 16, right=True)
        words(
            p,
            elided(self.told, font, self.width() - LEFT - 24 - advance(self.amount, font)),
            font,
            t.color("ink"),
            LEFT,
            16,
        )

"""The help (F1) on the selected quantity: meaning, value, how it comes about, source, and a small figure where it
can be drawn."""

from __future__ import annotations

from math import pi

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from cooper.desk.base import theme as th
from cooper.desk.shell.margin_rows import CheckRow, margin_words
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.shapes import closed_path
from cooper.desk.widgets.tag import Tag
from cooper.desk.widgets.typeset import html
from cooper.document.quantities import QUANTITIES, parts
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import StageResults

CIRCLES = ("d", "d_a", "d_f", "d_b", "d_w")
DRAWN = (*CIRCLES, "z", "m_n", "P_nd", "E_sns", "E_sni", "x", "a_w")
"""Quantities that the figure can show: a circle of a gear, its pitch, its tooth thickness, the distance of two
centres."""
WIDTH, HEIGHT = 290, 150


class Figure(QWidget):
    """Three teeth of the gear as it is, with the quantity in copper; the two pitch circles for a centre distance."""

    def __init__(self, theme: th.Theme, stage: StageResults, i: int, symbol: str) -> None:
        super().__init__()
        self.theme, self.stage, self.i, self.symbol = theme, stage, i, symbol
        self.setObjectName("figure")
        self.setFixedSize(WIDTH, HEIGHT)

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, HEIGHT)

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.symbol == "a_w":
            self._centres(p)
        else:
            self._teeth(p)

    def _centres(self, p: QPainter) -> None:
        first, last, high = self.stage.extent
        scale = min((WIDTH - 20) / (last - first), (HEIGHT - 30) / (2 * high))
        p.translate(WIDTH / 2 - scale * (first + last) / 2, (HEIGHT - 18) / 2)
        for x, gear, role in (
            (0.0, self.stage.gears[0], "driver"),
            (self.stage.wheel_x, self.stage.gears[1], "driven"),
        ):
            p.setPen(QPen(self.theme.color(role), 1.0))
            p.drawEllipse(QPointF(scale * x, 0), scale * gear.d_w / 2, scale * gear.d_w / 2)
        p.setPen(QPen(self.theme.color("copper"), 2.0))
        p.drawLine(QPointF(0, 0), QPointF(scale * self.stage.wheel_x, 0))

    def _teeth(self, p: QPainter) -> None:
        gear, tooth = self.stage.gears[self.i], self.stage.teeth[self.i]
        z = abs(int(gear.z))
        radii = [gear[s] / 2 for s in CIRCLES if s in gear]
        m = self.stage.mesh.m_n
        low, high = min(radii) - 0.6 * m, max(radii) + 0.6 * m
        scale = min((HEIGHT - 12) / (high - low), (WIDTH - 10) / (3.2 * pi * gear.d / z))
        middle = (low + high) / 2
        p.translate(WIDTH / 2, HEIGHT / 2 + scale * middle)
        p.setClipRect(QRectF(-WIDTH / 2, -scale * middle - HEIGHT / 2, WIDTH, HEIGHT))
        section = self.stage.sections[self.i]
        one = section.one(0.1 / scale)
        for k in (-2, -1, 0, 1, 2):
            points = section.moved(one, np.float64(pi / 2 + 2 * pi * k / z)) * [scale, -scale]
            p.setPen(QPen(self.theme.color("ink"), 1.2))
            path = closed_path(np.concatenate((points, points[::-1])))
            p.drawPath(path)
        pen = QPen(self.theme.color("copper"), 2.0)
        p.setPen(pen)
        p.setBrush(Qt.BrushStyle.NoBrush)
        r = scale * gear.d / 2
        if self.symbol in CIRCLES:
            r = scale * gear[self.symbol] / 2
            p.drawEllipse(QPointF(0, 0), r, r)
            return
        # An arc of the reference circle: one pitch, or the tooth's thickness.
        half = pi / z if self.symbol in ("z", "m_n", "P_nd") else float(tooth.s_t() / tooth.d)
        shift = half if self.symbol in ("z", "m_n", "P_nd") else 0.0
        box = QRectF(-r, -r, 2 * r, 2 * r)
        p.drawArc(box, round(16 * np.degrees(pi / 2 - half - shift)), round(16 * np.degrees(2 * half)))


class Explanation(QFrame):
    """The card of F1; Escape or another F1 closes it. ``more`` asks for the page of its quantity in the handbook."""

    more = Signal(str)

    def __init__(self, window: QWidget, theme: th.Theme, asked: Tag | CheckRow) -> None:
        super().__init__(window)
        self.setObjectName("sheet")
        self.setAccessibleName(translate(tr("Explanation")))
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 10, 14, 12)
        box.setSpacing(5)
        self.lines: list[str] = []
        for k, (text, role) in enumerate(_told(asked)):
            label = Label(text)
            label.setTextFormat(Qt.TextFormat.RichText)
            label.setWordWrap(True)
            th.set_text_role(label, role, th.TEXT if k < 2 else th.SMALL, bold=k == 0)
            label.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
            self.lines.append(text)
            box.addWidget(label)
        figure = _figure(asked, theme)
        if figure is not None:
            box.addWidget(figure)
        page = QPushButton(translate(tr("More in the handbook")))
        page.setObjectName("explain_more")
        page.setProperty("plain", True)
        page.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        symbol = asked.check.symbol if isinstance(asked, CheckRow) else asked.field.symbol
        page.clicked.connect(lambda: self.more.emit(f"quantity/{symbol}"))
        box.addWidget(page)
        self.setFixedWidth(WIDTH + 28)
        self.adjustSize()
        anchor = asked.mapTo(window, asked.rect().topRight())
        left = asked.mapTo(window, asked.rect().topLeft()).x() - self.width() - 8
        x = anchor.x() + 8 if anchor.x() + 8 + self.width() < window.width() else max(8, left)
        self.move(x, max(8, min(anchor.y(), window.height() - self.height() - 8)))
        self.show()
        self.raise_()


def _told(asked: Tag | CheckRow) -> list[tuple[str, str]]:
    """The lines of a card with the colour role of each."""
    if isinstance(asked, CheckRow):
        check = asked.check
        symbol, index = check.symbol, check.index
        meaning: str = check.label
        lines = [
            (
                tr(
                    "{value_text}, {sense} {limit_text}: {check}",
                    value_text=asked.value_text(),
                    sense=term(check.sense),
                    limit_text=asked.limit_text(),
                    check=margin_words(check),
                ),
                check.verdict,
            ),
            (tr("If it is short: {means}.", means=html(check.means)), "muted"),
        ]
    else:
        field = asked.field
        symbol, index, meaning = field.symbol, field.index, field.meaning
        how = tr("solved from the others") if asked.is_solved() else tr("given")
        if asked.formula():
            how = tr("by formula = {formula}", formula=html(asked.formula()))
        lines = [(tr("{text} {unit}, {how}", text=asked.text(), unit=asked.unit(), how=how).replace(" ,", ","), "ink")]
        if field.place:
            lines.append((tr("In formulas: {full_key}", full_key=html(field.full_key)), "faint"))
        if field.swap is not None:
            lines.append(
                (
                    tr(
                        "G {is_solved} {partner}",
                        is_solved=tr("gives it and solves")
                        if asked.is_solved()
                        else tr("lets it be solved; then given:"),
                        partner=html(field.partner),
                    ),
                    "muted",
                )
            )
    main, sub = parts(symbol, index)
    head = (f"{main}<sub>{sub}</sub> &nbsp;{html(meaning)}", "ink")
    q = QUANTITIES[symbol]
    formula = [(html(q.formula), "ink")] if q.formula else []
    held = tr("How it is held against other ways, and what is not certain: docs/numbers.md")
    return [head, *lines, *formula, (tr("Source: {source}", source=html(q.source)), "muted"), (held, "faint")]


def _figure(asked: Tag | CheckRow, theme: th.Theme) -> Figure | None:
    """The figure of a quantity of the gear or mesh that is selected; none for what has no axis and for what cannot
    be drawn."""
    if not isinstance(asked, Tag):
        return None
    field = asked.field
    session = asked.session
    own = [k for k, s in enumerate(session.design.train.stages) if field.place == f"{s.id}."]
    stage = session.results.stages[own[0] if own else session.stage]
    tail = field.key[-1:]
    i = (field.index or (int(tail) if tail in ("1", "2") else 1)) - 1
    if field.symbol not in DRAWN or (not stage.kind.turns and (i == 1 or field.symbol == "a_w")):
        return None
    return Figure(theme, stage, i, field.symbol)

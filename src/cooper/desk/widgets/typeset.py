"""Typesetting of symbols and numbers with units: italic letters, true subscripts, lighter units."""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QPainter, QPen, QPolygonF, QStaticText

from cooper.desk.base.theme import TEXT, Theme, font
from cooper.document.quantities import parts, symbol_word
from cooper.i18n.text import join, term
from cooper.i18n.translate import translate


class Run(Struct, frozen=True):
    """A piece of text in one font and colour, lowered by ``drop`` pixels."""

    text: str
    font: QFont
    color: QColor
    drop: float = 0.0
    space: float = 0.0


def symbol_runs(symbol: str, index: int | None, color: QColor, size: float = TEXT) -> list[Run]:
    """A symbol with its subscript."""
    main, sub = parts(symbol, index)
    italic = len(main) <= 2
    # Longer than two letters it is a word of the program, such as oil.
    runs = [Run(main if italic else term(main), font(size, italic=italic), color)]
    if sub:
        runs.append(Run(sub, font(size * 0.74), color, drop=size * 0.32))
    return runs


def label_runs(text: str, color: QColor, size: float = TEXT, *, bold: bool = False) -> list[Run]:
    """Plain words in which symbols such as ``S_F2`` or ``x_1`` are set with true subscripts."""
    runs: list[Run] = []
    text = translate(text)
    space = QFontMetricsF(font(size)).horizontalAdvance(" ")
    for word in text.split(" "):
        result = symbol_word(word, DRAWING_SYMBOLS)
        gap = space if runs else 0.0
        if result is None:
            runs.append(Run(word, font(size, bold=bold), color, space=gap))
            continue
        symbol, index, tail = result
        first, *rest = symbol_runs(symbol, index, color, size)
        runs += [Run(first.text, first.font, first.color, space=gap), *rest]
        if tail:
            runs.append(Run(tail, font(size, bold=bold), color))
    return runs


DRAWING_SYMBOLS = frozenset(
    {
        "W_k",
        "D_M",
        "M_dK",
        "M_3",
        "s_nc",
        "h_ac",
        "f_pT",
        "F_pT",
        "F_alphaT",
        "F_betaT",
        "F_rT",
        "K_1",
        "K_2",
        "Y_DT",
        "K_gamma",
        "Z_B",
        "Z_D",
    }
)
"""Symbols of the dimension sheet that are no keys of the results."""


def html(text: str) -> str:
    """The same for rich text labels."""
    words = []
    for word in translate(text).split(" "):
        found = symbol_word(word, DRAWING_SYMBOLS)
        if found is None:
            words.append(word.replace("&", "&amp;").replace("<", "&lt;"))
        else:
            main, sub = parts(found[0], found[1])
            words.append(f"<i>{main}</i><sub>{sub}</sub>{found[2]}")
    return join(" ", words)


def value_runs(
    text: str, unit: str, theme: Theme, size: float = TEXT, *, bold: bool = True, role: str = "ink"
) -> list[Run]:
    """A number with its unit lighter and smaller behind it."""
    runs = [Run(text, font(size, bold=bold), theme.color(role))]
    if unit:
        close = unit in ("°", "′", "%")
        runs.append(Run(unit, font(size * 0.9), theme.color("muted"), space=1.0 if close else 3.0))
    return runs


def width(runs: list[Run]) -> float:
    """Width of runs in pixels."""
    return sum(advance(r.text, r.font) + r.space for r in runs)


def draw(painter: QPainter, runs: list[Run], x: float, baseline: float) -> float:
    """Draw runs from x on a baseline; returns the x after the last."""
    for r in runs:
        x += r.space
        painter.setPen(r.color)
        plain_text(painter, r.text, r.font, x, baseline + r.drop)
        x += advance(r.text, r.font)
    return x


class _Known(Struct):
    """What is kept of a font: the font itself (so that its id stays its own), its ascent, widths, laid-out texts."""

    font: QFont
    metrics: QFontMetricsF
    widths: dict[str, float]
    texts: dict[str, QStaticText | None]


_FONTS: dict[int, _Known] = {}
MOST_TEXTS = 400
FIGURES = frozenset("0123456789.,-–+")


def _known(f: QFont) -> _Known:
    known = _FONTS.get(id(f))
    if known is None:
        known = _FONTS[id(f)] = _Known(f, QFontMetricsF(f), {}, {})
    return known


def advance(text: str, f: QFont) -> float:
    """Width of a text in pixels; numbers are summed from their figures, which are all of equal width."""
    known = _known(f)
    text = translate(text)
    width_now = known.widths.get(text)
    if width_now is None:
        if len(known.widths) > MOST_TEXTS:
            known.widths.clear()
        if len(text) > 1 and FIGURES.issuperset(text):
            width_now = sum(advance(c, f) for c in text)
        else:
            width_now = known.metrics.horizontalAdvance(text)
        known.widths[text] = width_now
    return width_now


def plain_text(painter: QPainter, text: str, f: QFont, x: float, baseline: float) -> None:
    """Draw a text in the painter's present pen from x on a baseline.

    What is drawn a second time is laid out once and kept; laying out is most of the cost of drawing text.
    """
    known = _known(f)
    text = translate(text)
    painter.setFont(f)
    static = known.texts.get(text)
    if static is not None:
        painter.drawStaticText(QPointF(x, baseline - known.metrics.ascent()), static)
        return
    painter.drawText(QPointF(x, baseline), translate(text))
    if text in known.texts:
        static = _laid_out(text, f)
        # A letter of another font makes the line higher and would move the whole of it: such a text stays as it is.
        if static.size().height() <= _laid_out("x", f).size().height():
            known.texts[text] = static
    else:
        if len(known.texts) > MOST_TEXTS:
            known.texts.clear()
        known.texts[text] = None


def _laid_out(text: str, f: QFont) -> QStaticText:
    static = QStaticText(text)
    static.setTextFormat(Qt.TextFormat.PlainText)
    static.setPerformanceHint(QStaticText.PerformanceHint.AggressiveCaching)
    static.prepare(font=f)
    return static


def draw_right(painter: QPainter, runs: list[Run], right: float, baseline: float) -> float:
    """Draw runs so that they end at ``right``; returns their left."""
    left = right - width(runs)
    draw(painter, runs, left, baseline)
    return left


def elided(text: str, f: QFont, room: float) -> str:
    """Text cut with an ellipsis to fit a width in pixels."""
    text = translate(text)
    if advance(text, f) <= room:
        return text
    return QFontMetricsF(f).elidedText(text, Qt.TextElideMode.ElideRight, room)


def draw_verdict(painter: QPainter, theme: Theme, verdict: str, box: QRectF) -> None:
    """The verdict's shape: a filled disc holds, a half disc is thin, an open triangle is short."""
    color = theme.color(verdict)
    painter.setPen(QPen(color, 1.7))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if verdict == "short":
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(box.center().x(), box.top()),
                    QPointF(box.right(), box.bottom() - 1),
                    QPointF(box.left(), box.bottom() - 1),
                ]
            )
        )
        return
    if verdict == "holds":
        painter.setBrush(color)
        painter.drawEllipse(box.adjusted(1, 1, -1, -1))
        return
    painter.drawEllipse(box.adjusted(1, 1, -1, -1))
    painter.setBrush(color)
    painter.drawPie(box.adjusted(1, 1, -1, -1), 90 * 16, 180 * 16)


def draw_note(painter: QPainter, theme: Theme, counts: str, box: QRectF) -> None:
    """The shape of a warning: a square with a stroke in it, in the colour of the verdict that it counts for, grey
    where it does not."""
    color = theme.color(counts or "muted")
    painter.setPen(QPen(color, 1.5))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    square = box.adjusted(1, 1, -1, -1)
    painter.drawRect(square)
    x = square.center().x()
    painter.drawLine(QPointF(x, square.top() + 2.5), QPointF(x, square.bottom() - 4.5))
    painter.drawPoint(QPointF(x, square.bottom() - 2.2))


def words(
    painter: QPainter, text: str, f: QFont, color: QColor, x: float, baseline: float, *, right: bool = False
) -> None:
    """Draw plain words from x, or ending at x, on a baseline."""
    painter.setPen(color)
    plain_text(painter, text, f, x - advance(text, f) if right else x, baseline)


def wrapped(painter: QPainter, text: str, f: QFont, color: QColor, x: float, top: float, width: float) -> float:
    """Draw words from a top edge in as many lines as they need; where the last one ends."""
    text = translate(text)
    painter.setFont(f)
    painter.setPen(color)
    flags = int(Qt.AlignmentFlag.AlignLeft) | int(Qt.TextFlag.TextWordWrap)
    room = QRectF(x, top, width, 1000)
    box = painter.boundingRect(room, flags, text)
    painter.drawText(room, flags, translate(text))
    return float(box.bottom())

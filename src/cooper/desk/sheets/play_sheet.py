"""The sheet of backlash: the share of each tolerance, worst case and statistics, and a wanted value
reached."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QLineEdit, QPushButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.typeset import words
from cooper.desk.widgets.word_choice import WordChoice
from cooper.document.units import number_with_unit, parse
from cooper.editing.wanted_play import SYMBOLS, WAYS, Spread, give_play, spread_of
from cooper.errors import OutOfRange, message_of
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.running.play import PARTS, sampled

BINS = 60


class SpreadPicture(QWidget):
    """Bars of the contributions, and below them on one scale the worst case, the root sum of squares and drawn
    pairs."""

    def __init__(self, session: Session, theme: th.Theme, stage: int) -> None:
        super().__init__()
        self.session, self.theme, self.stage = session, theme, stage
        self.setObjectName("play_picture")
        self.setAccessibleName(translate(tr("Spread of the backlash")))
        self.setMinimumHeight(330)
        self.fault = ""
        self.spread: Spread | None = None
        self.draw_anew()

    def draw_anew(self) -> None:
        """Compute the spread of the present design."""
        self.spread, self.fault = None, ""
        try:
            self.spread = spread_of(self.session.design, self.session.results, self.stage)
        except (OutOfRange, LookupError) as fault:
            self.fault = message_of(fault)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, small = self.theme, th.font(th.SMALL)
        if self.spread is None:
            words(p, self.fault, small, t.color("short"), 4, 20)
            return
        play = self.spread.play
        left, right = 190.0, self.width() - 90.0
        most = max(float(h) for h in play.half) or 1e-9
        names = [
            tr("thickness, {gears}", gears=self.spread.gears[0]),
            tr("thickness, {gears}", gears=self.spread.gears[1]),
            tr("centre distance"),
            tr("run-out, {gears}", gears=self.spread.gears[0]),
            tr("run-out, {gears}", gears=self.spread.gears[1]),
        ]
        assert len(names) == len(PARTS)
        for n, (name, half) in enumerate(zip(names, play.half, strict=True)):
            y = 14.0 + 20 * n
            words(p, name, small, t.color("muted"), left - 10, y + 4, right=True)
            p.fillRect(QRectF(left, y - 5, (right - left) * float(half) / most, 10), t.color("driver_fill"))
            words(
                p,
                "± " + self._length(float(half)),
                small,
                t.color("ink"),
                left + (right - left) * float(half) / most + 8,
                y + 4,
            )
        heat = tr("temperature and swelling move the mean by {by_heat}", by_heat=self._length(float(play.by_heat)))
        words(p, heat, small, t.color("muted"), left, 124)
        self._scale(p, left, right)

    def _length(self, value: float) -> str:
        return number_with_unit(value, "length", self.session.system)

    def _scale(self, p: QPainter, left: float, right: float) -> None:
        assert self.spread is not None
        t, small, play = self.theme, th.font(th.SMALL), self.spread.play
        low, high = (float(v) for v in play.worst)
        first, last = min(low, 0.0), max(high, 0.0)
        room = (last - first) * 0.06 or 1e-6
        first, last = first - room, last + room

        def x(j: float) -> float:
            return left + (right - left) * (j - first) / (last - first)

        drawn = sampled(play)
        counts, edges = np.histogram(drawn, bins=BINS, range=(low, high))
        base = 318.0
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(t.color("driven_fill"))
        for count, a, b in zip(counts, edges[:-1], edges[1:], strict=True):
            height = 74.0 * count / max(counts.max(), 1)
            p.drawRect(QRectF(x(a), base - 20 - height, max(x(b) - x(a) - 0.5, 0.5), height))
        ends = [(float(np.quantile(drawn, 0.00135)), float(np.quantile(drawn, 0.99865)))]
        rows = (
            (tr("worst case"), (low, high), "short" if low < 0 else "ink"),
            (tr("root sum of squares"), tuple(map(float, play.statistical)), "copper"),
            (tr("20 000 drawn pairs, 99.7 %"), ends[0], "driven"),
        )
        for n, (name, (a, b), role) in enumerate(rows):
            y = 152.0 + 22 * n
            words(p, name, small, t.color("muted"), left - 10, y + 4, right=True)
            p.setPen(QPen(t.color(role), 3))
            p.drawLine(QPointF(x(a), y), QPointF(x(b), y))
            for end in (a, b):
                p.drawLine(QPointF(x(end), y - 5), QPointF(x(end), y + 5))
            words(
                p,
                tr("{a} … {b}", a=self._length(a), b=self._length(b)),
                small,
                t.color("ink"),
                x(a),
                y - 7 if n else y - 8,
            )
        p.setPen(QPen(t.color("ink"), th.FINE))
        p.drawLine(QPointF(left, base - 20), QPointF(right, base - 20))
        pen = QPen(t.color("short"), th.HAIR)
        pen.setDashPattern([4, 3])
        p.setPen(pen)
        p.drawLine(QPointF(x(0), 140), QPointF(x(0), base - 20))
        words(p, tr("0, flanks jam"), small, t.color("short"), x(0) - 3, base - 6)


def play_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """Play in service, and a wanted least backlash to be reached."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText(translate(tr("Play: backlash in service")))
    sheet.setAccessibleName(translate(tr("Play: backlash in service")))
    column = sheet.add_column()
    k = session.stage
    picture = SpreadPicture(session, theme, k)
    column.addWidget(picture, 1)
    symbol, way = WordChoice("play_symbol", tr("backlash")), WordChoice("play_way", tr("how it is reached"))
    for key, text in SYMBOLS.items():
        symbol.addItem(text, key)
    for key, text in WAYS.items():
        way.addItem(text, key)
    line, button = QLineEdit(), QPushButton(translate(tr("Reach it")))
    line.setObjectName("play_wanted")
    line.setProperty("calm", True)
    line.setAccessibleName(translate(tr("wanted least backlash")))
    line.setFixedWidth(90)
    line.setPlaceholderText(translate(tr("wanted")))
    button.setObjectName("play_reach")
    parts: dict[str, QWidget] = {"symbol": symbol, "wanted": line, "way": way, "go": button}
    at = {name: slot(name) for name in parts}
    text = tr("The {symbol} shall be {wanted}; to reach it, {way}. {go}", **at)
    sheet.add_question(column, [Topic(tr("Wanted"), [Sentence(text)])], parts)
    message = Label()
    message.setObjectName("play_words")
    message.setWordWrap(True)
    column.addWidget(message)

    def reach() -> None:
        try:
            wanted = parse(line.text(), "length", session.system, quantity="j")
            if not -1 < wanted < 50:
                raise OutOfRange("j", wanted, tr("a backlash lies between -1 and 50 mm"), low=-1, high=50, unit="mm")
            changed = give_play(session.design, k, symbol.currentData(), wanted, way.currentData())
        except OutOfRange as fault:
            message.setText(message_of(fault))
            th.set_text_role(message, "short")
            return
        message.setText("")
        session.edit(lambda _d, _r: changed, tr("backlash {strip}", strip=line.text().strip()), tr("play"))

    button.clicked.connect(reach)
    line.returnPressed.connect(reach)
    sheet.watch(picture.draw_anew)
    return sheet


register_sheet(
    SheetEntry(
        "play",
        tr("Play: backlash in service, a wanted backlash"),
        "Ctrl+B",
        lambda w: play_sheet(w.session, w.theme, w.bench),
        (860, 520),
        9,
    )
)

"""The sheet of a measured gear: its count and sizes, and the gears that explain them."""

from __future__ import annotations

from math import degrees
from typing import Any, cast

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLineEdit, QPushButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.finder import Finder
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.labels import Label
from cooper.document.models import Design
from cooper.document.units import KINDS as UNITS
from cooper.document.units import parse, screen_unit
from cooper.editing.matching import take_match
from cooper.gears.identify import Match
from cooper.i18n.text import tr
from cooper.i18n.translate import translate


class MatchSheet(Sheet):
    """A measured gear: its count and sizes, the gears that explain them, one click to put it into the design."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.title.setText(translate(tr("Match a measured gear")))
        self.setAccessibleName(translate(tr("Match a measured gear")))
        self.k = session.stage
        column = self.add_column()
        unit = screen_unit(UNITS["length"].display_unit(session.system))
        self.entries: dict[str, QLineEdit] = {}
        for name, words, hint, wide in (
            ("z", tr("tooth count"), "17", 60),
            ("tip", tr("outside diameter, {unit}", unit=unit), "", 90),
            ("spans", tr("spans as teeth:size, {unit}", unit=unit), "2:11.72; 3:19.10", 160),
            ("pins", tr("over two pins as diameter:size, {unit}", unit=unit), "2.5:41.93", 160),
            ("helix", tr("helix angle, °, empty to find it"), "0", 60),
        ):
            self._entry(name, words, hint, wide)
        at = {name: slot(name) for name in self.entries}
        gear = tr("A gear with {z} teeth, {tip} {unit} across the tips, helix angle {helix}°.", unit=unit, **at)
        sizes = tr("Measured: spans {spans}, over two pins {pins}.", **at)
        self.add_question(
            column, [Topic(tr("Measured"), [Sentence(gear), Sentence(sizes)])], cast("dict[str, QWidget]", self.entries)
        )
        self.entries["helix"].setText("0")
        scale = 25.4 if session.system == "inch" else 1.0
        self.finder = Finder(
            self,
            "match",
            {
                "m_n, mm": lambda f: tr("{m_n:.4g}", m_n=f.m_n),
                "P_nd": lambda f: tr("{m_n:.4g}", m_n=25.4 / f.m_n),
                "α_n, °": lambda f: tr("{alpha_n:g}", alpha_n=degrees(f.alpha_n)),
                "β, °": lambda f: tr("{beta:.3g}", beta=degrees(f.beta)),
                "x": lambda f: tr("{x:+.3f}", x=f.x),
                "h_a": lambda f: tr("{h_a:.3f}", h_a=f.h_a),
                f"sizes off, {unit}": lambda f: tr("{span_residual:.4f}", span_residual=f.span_residual / scale),
                f"tip off, {unit}": lambda f: tr("{tip_residual:+.4f}", tip_residual=f.tip_residual / scale),
            },
            self._taken,
        )
        button = QPushButton(translate(tr("List what it may be")))
        button.setObjectName("match_list")
        button.clicked.connect(self._find)
        for line in self.entries.values():
            line.returnPressed.connect(self._find)
        column.addWidget(button, alignment=Qt.AlignmentFlag.AlignLeft)
        column.addWidget(self.finder.table, 1)
        column.addWidget(self.finder.words)
        note = Label(
            tr(
                "Taking one makes the driving gear the measured one. Two spans over neighbouring counts tell "
                "the base pitch."
            )
        )
        th.set_text_role(note, "muted", th.SMALL)
        note.setWordWrap(True)
        column.addWidget(note)

    def _entry(self, name: str, words: str, hint: str, wide: int) -> None:
        line = QLineEdit()
        line.setPlaceholderText(translate(hint))
        line.setObjectName(f"match_{name}")
        line.setProperty("calm", True)
        line.setAccessibleName(translate(words))
        line.setToolTip(translate(words))
        line.setFixedWidth(wide)
        self.entries[name] = line

    def _texts(self) -> tuple[Any, ...]:
        return (*(self.entries[n].text() for n in ("z", "tip", "spans", "pins", "helix")), self.session.system)

    def _find(self) -> None:
        self.finder.find("cooper.editing.matching:matches", self._texts)

    def _taken(self, f: Match) -> tuple[str, Design]:
        z, tip, *_rest, system = self._texts()
        count, d_a = round(parse(z, "count", system)), parse(tip, "length", system)
        return tr("matched, m {m_n:.4g}", m_n=f.m_n), take_match(self.session.design, self.k, f, count, d_a)


register_sheet(
    SheetEntry(
        "match",
        tr("Match a measured gear"),
        "Ctrl+9",
        lambda w: MatchSheet(w.session, w.theme, w.bench),
        (860, 560),
        7,
    )
)

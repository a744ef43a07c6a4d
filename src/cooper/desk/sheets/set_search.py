"""The search for tooth counts of a set: wanted ratio and bounds, list of offers, taking one."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from math import inf
from typing import Any

import numpy as np
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.desk.sheets.offers import PAINTED, Offers, drawn
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.rows_view import RowsView
from cooper.desk.widgets.word_choice import WordChoice
from cooper.document.units import KINDS, number, parse, screen_unit
from cooper.editing.count_search import SET_SEARCHES, SPLITS, strength_now, subject, take
from cooper.editing.make_sets import (
    change_count,
    give_counts,
    nearest_counts,
    set_number,
)
from cooper.errors import OutOfRange, message_of
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.trains.counts import Bounds, Offer
from cooper.trains.equal_strength import bears, equal_strength
from cooper.trains.two_ring_counts import efficiency_of

NAMES = ("sun", "planet", "ring")


def _small(text: str, role: str = "muted") -> QLabel:
    label = Label(text)
    label.setWordWrap(True)
    th.set_text_role(label, role, th.SMALL)
    return label


def _counts_row(session: Session, sheet: Sheet, k: int, n: int, column: QVBoxLayout) -> None:
    """One count changed, another kept, the third follows."""
    which, kept = WordChoice("count_which", tr("gear")), WordChoice("count_kept", tr("gear that is kept"))
    line, go = QLineEdit(), QPushButton(translate(tr("Change")))
    line.setObjectName("count_value")
    line.setProperty("calm", True)
    go.setObjectName("count_go")
    line.setFixedWidth(56)
    line.setAccessibleName(translate(tr("new tooth count")))
    for i, name in enumerate(NAMES):
        which.addItem(tr("the {name}", name=name), i)
        kept.addItem(tr("the {name}", name=name), i)
    kept.setCurrentIndex(1)
    parts: dict[str, QWidget] = {"which": which, "count": line, "kept": kept, "go": go}
    told = tr("Give {which} {count} teeth and keep {kept}. {go}", **{name: slot(name) for name in parts})
    sheet.add_question(column, [Topic(tr("One count"), [Sentence(told)])], parts)
    text = _small("", "short")
    text.setObjectName("count_words")
    column.addWidget(text)
    offers = QHBoxLayout()
    column.addLayout(offers)

    def offer(near: list[tuple[int, int, int]]) -> None:
        """The nearest sets that work, each to be taken by a click."""
        while (item := offers.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.deleteLater()
        for z in near:
            words = " / ".join(map(str, z))
            button = QPushButton(translate(tr("take {words}", words=words)))
            button.setObjectName(f"count_take_{z[0]}_{z[1]}_{z[2]}")
            button.clicked.connect(
                lambda _on=False, z=z, words=words: session.edit(
                    lambda d, _r: give_counts(d, n, z), tr("counts {words}", words=words)
                )
            )
            offers.addWidget(button)
        if near:
            offers.addStretch(1)

    def change() -> None:
        text.setText("")
        offer([])
        try:
            value = parse(line.text(), "count", session.system, quantity="z")
            if value != round(value):
                raise OutOfRange("z", value, tr("only whole teeth work"))
            if which.currentData() == kept.currentData():
                raise OutOfRange(
                    "z", value, tr("the {names} cannot be kept while it is changed", names=NAMES[kept.currentData()])
                )
            changed = change_count(session.design, n, which.currentData(), int(value), kept.currentData())
        except OutOfRange as wrong:
            text.setText(str(wrong))
            if "half a tooth" in wrong.reason:
                offer(
                    nearest_counts(
                        session.design, n, which.currentData(), round(float(wrong.value)), kept.currentData()
                    )
                )
            return
        fault = session.attempt(
            lambda _d, _r: changed, tr("{names} {int} teeth", names=NAMES[which.currentData()], int=int(value))
        ).fault
        text.setText(str(fault or ""))

    go.clicked.connect(change)
    line.returnPressed.connect(change)


class Search:
    """Wanted ratio, tolerance and bounds; the ranked offers; a double click or Enter takes one."""

    def __init__(self, session: Session, theme: th.Theme, sheet: Sheet, k: int) -> None:
        self.session, self.theme, self.k, self.offers = session, theme, k, list[Offer]()
        self.task: Task | None = None
        sheet.destroyed.connect(lambda _gone: self.task.give_up() if self.task is not None else None)
        self.what = subject(session.design, k)
        column = sheet.add_column()
        duty = session.design.train.duty
        n = set_number(session.design, k)
        now = session.results.sets[n].values.u if n is not None else session.results.train.get("u", 1.0)
        wanted = duty.u_wanted if n is None and duty.u_wanted else round(now, 4)
        self.lines: dict[str, QLineEdit] = {}
        for name, text, value in (
            ("u", tr("ratio"), tr("{wanted:g}", wanted=wanted)),
            ("tol", "± %", "1"),
            ("least", tr("teeth from"), "15"),
            ("most", tr("to"), "120"),
        ):
            self._line(name, text, value)
        for name, text in (("a", tr("centre distance up to")), ("d", tr("diameter up to"))):
            self._line(name, text, "any")
        go = QPushButton(translate(tr("Search")))
        go.setObjectName("search_go")
        go.clicked.connect(self.run)
        self.split = WordChoice("search_split", tr("How the ratio is split"))
        for key, words in SPLITS.items():
            self.split.addItem(tr("ratios {words}", words=words) if key == "falling" else words, key)
        self.split.currentIndexChanged.connect(lambda _i: self.run())
        own = SET_SEARCHES.get(self.what)
        self.in_line = self.what == "pairs" and len(session.design.train.stages) > 1
        self.other = WordChoice("search_modules", tr("Modules of the second mesh"))
        self.other.addItem(tr("one module for both meshes"), False)
        self.other.addItem(tr("any standard module for the second mesh"), True)
        self.other.currentIndexChanged.connect(lambda _i: self.run())
        parts: dict[str, QWidget] = {**self.lines, "go": go}
        if self.in_line:
            parts["split"] = self.split
        if own is not None and own.modules:
            parts["other"] = self.other
        at = {name: slot(name) for name in (*parts, "split", "other")}
        sentences = [
            Sentence(tr("A ratio of {u} within ± {tol} %, with {least} to {most} teeth.", **at)),
            Sentence(tr("Split: {split}.", **at)),
            Sentence(tr("Modules: {other}.", **at)),
            Sentence(tr("Centre distance up to {a}, diameters up to {d}. {go}", **at)),
        ]
        sheet.add_question(column, [Topic(tr("Counts for a ratio"), sentences)], parts)
        shown = [tr("counts"), "ratio", tr("off, %"), *(() if own is None else own.columns)]
        self.columns = [*shown, *([tr("bears")] if self.in_line else []), tr("meets"), "a", "⌀"]
        cells = self._cells()
        self.table = RowsView(drawn({name: cells[name] for name in self.columns}), stretch=False)
        self.table.setObjectName("offers")
        self.table.setAccessibleName(translate(tr("Offers of tooth counts")))
        self.pictures = Offers(sheet, self.table, self._asked)
        if n is not None:
            th.set_style(self.table, "form", "narrow")
        self.table.horizontalHeader().setSortIndicatorShown(False)
        self.table.horizontalHeader().setSectionsClickable(True)
        self.table.horizontalHeader().sectionClicked.connect(self.sort)
        self.table.horizontalHeader().setToolTip(
            translate(tr("A click orders by a column. Meets: turns of the first gear until the same teeth meet again"))
        )
        self.table.setMinimumSize(486, 360)
        self.table.activated.connect(lambda index: self.take(index.row()))
        self.table.doubleClicked.connect(lambda index: self.take(index.row()))
        column.addWidget(self.table, 1)
        self.told = _small(tr("A double click takes an offer."))
        self.told.setObjectName("search_words")
        column.addWidget(self.told)
        self.run()

    def _asked(self, offers: list[Offer]) -> tuple[Any, ...]:
        return "cooper.editing.offered:each_taken", self.session.design, self.k, offers

    def _line(self, name: str, text: str, value: str) -> None:
        line = QLineEdit(value)
        line.setObjectName(f"search_{name}")
        line.setProperty("calm", True)
        line.setAccessibleName(translate(tr("search: {text}", text=text)))
        line.setFixedWidth(64)
        line.returnPressed.connect(self.run)
        self.lines[name] = line

    def _length(self, name: str) -> float:
        """A length that may be left open."""
        text = self.lines[name].text().strip().lower()
        if text in ("", "any", "none"):
            return inf
        value = parse(text, "length", self.session.system, quantity=name)
        if not value > 0:
            raise OutOfRange(
                name, value, tr("a size that limits the offers is positive; any leaves it open"), low=0.0, unit="mm"
            )
        return value

    def run(self) -> None:
        """Search and list."""
        session = self.session
        self.offers = []
        try:
            values = {
                name: parse(line.text(), "factor", session.system, quantity=name)
                for name, line in self.lines.items()
                if name not in ("a", "d")
            }
            n = set_number(session.design, self.k)
            planets = session.design.train.placed[n].planets if n is not None else 1
            if not 0 <= values["tol"] <= 50:
                raise OutOfRange(
                    "tolerance", values["tol"], tr("a tolerance of the ratio lies between 0 and 50 %"), low=0, high=50
                )
            if not (values["least"] >= 5 and values["most"] <= 400):
                raise OutOfRange(
                    "z",
                    tr("{least:g} to {most:g}", least=values["least"], most=values["most"]),
                    tr("counts are searched from 5 to 400 teeth"),
                    low=5,
                    high=400,
                )
            at = Bounds(
                round(values["least"]),
                round(values["most"]),
                values["tol"],
                planets,
                3 * round(values["most"]),
                a_most=self._length("a"),
                d_most=self._length("d"),
            )
            asked = (session.design, self.k, values["u"], at, self.split.currentData(), self.other.currentData())
        except OutOfRange as fault:
            self._tell(message_of(fault), "short")
            self._fill()
            return
        self._fill()
        self._tell(tr("Searching …"), "muted")
        if self.task is not None:
            self.task.give_up()
        done = partial(self._end, values["u"])
        self.task = submit("cooper.editing.count_search:search", *asked, take=self._found, done=done)

    def _found(self, offers: list[Offer]) -> None:
        self.offers = offers
        self._fill()

    def _end(self, u: float, fault: Exception | None) -> None:
        """Say how many were found, or why none."""
        unit = screen_unit(KINDS["length"].display_unit(self.session.system))
        words = tr(
            "{offers} offers; sizes in {unit} by the present module. A double click takes one.",
            offers=len(self.offers),
            unit=unit,
        )
        self._tell(
            words + self._split_words(u) if fault is None else message_of(fault), "muted" if fault is None else "short"
        )

    def sort(self, column: int) -> None:
        """Order the offers by a column; clicked again the other way round."""
        if column < PAINTED:
            return
        name = self.columns[column - PAINTED]
        values = {
            "counts": lambda o: o.z,
            "ratio": lambda o: o.ratio,
            "off, %": lambda o: abs(o.deviation),
            "η 1 %": efficiency_of,
            "planets": lambda o: not o.even,
            "m 2": lambda o: o.more["m_2"],
            "bears": lambda o: o.more["strength"],
            "meets": lambda o: o.hunting,
            "a": lambda o: o.a,
            "⌀": lambda o: o.d,
        }
        ordered = sorted(self.offers, key=values[name])
        self.offers = ordered if ordered != self.offers else ordered[::-1]
        self._fill()

    def _fill(self) -> None:
        self.table.show_rows(self.offers)

    def _cells(self) -> dict[str, Callable[[Offer], str]]:
        """How an offer reads in each column."""
        session = self.session
        return {
            "counts": lambda o: (" / " if len(o.z) < 5 else "/").join(map(str, o.z)),
            "ratio": lambda o: tr("{ratio:.5g}", ratio=o.ratio),
            "off, %": lambda o: tr("{deviation:.2f}", deviation=round(o.deviation, 2) + 0.0),
            "η 1 %": lambda o: tr("{o:.1f} %", o=100 * efficiency_of(o)),
            "planets": lambda o: tr("even") if o.even else tr("uneven"),
            "m 2": lambda o: number(o.more.get("m_2", 0.0), "module", session.system),
            "bears": lambda o: tr("{strength:.2f} ×", strength=o.more.get("strength", 0.0)),
            "meets": lambda o: str(o.hunting),
            "a": lambda o: number(o.a, "length", session.system),
            "⌀": lambda o: number(o.d, "length", session.system),
        }

    def _split_words(self, u: float) -> str:
        """What the offers of stages in line keep to."""
        if not self.in_line:
            return ""
        n = len(self.session.design.train.stages)
        if self.split.currentData() == "strength":
            now = strength_now(self.session.results)
            split = equal_strength(abs(u), now)
            load = bears(now, np.array(split))
            even = load.max() / load.min() < 1.02
            ratios = join(tr(" and "), (tr("{v:.3g}", v=v) for v in split))
            text = (
                tr(
                    "ratios near {ratios}, at which every stage bears {min:.2f} times the load",
                    ratios=ratios,
                    min=load.min(),
                )
                if even
                else (
                    tr(
                        "ratios near {ratios}: with the present modules and widths no split makes the stages equally "
                        "strong, they bear ",
                        ratios=ratios,
                    )
                    + join(", ", (tr("{v:.2f}", v=v) for v in load))
                    + tr(" times the load")
                )
            )
        else:
            text = tr("each ratio about ") + ("1.25" if n == 2 else "1.15") + tr(" times the next one's")
        return tr(
            " Split: {told}, within 18 %. Bears: by how much the load could grow in the weakest stage, "
            "modules and widths kept, estimated from nominal stresses.",
            told=text,
        )

    def _tell(self, text: str, role: str) -> None:
        self.told.setText(translate(text))
        th.set_text_role(self.told, role, th.SMALL)

    def take(self, r: int) -> None:
        """Take an offer; says why where it cannot be."""
        offer = self.offers[r]
        label = tr("counts {z}", z=" / ".join(map(str, offer.z)))
        fault = self.session.attempt(lambda d, _r: take(d, self.k, offer), label).fault
        if fault is not None:
            self._tell(message_of(fault), "short")

"""The sheet of a set and of tooth counts: shafts and planets, speeds and torques, counts searched for a ratio."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from math import inf

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from cooper.desk.frame import theme as th
from cooper.desk.frame.beside_window import Task, beside
from cooper.desk.frame.registry import SheetEntry, register_sheet
from cooper.desk.frame.session import Session
from cooper.desk.sheets.sheet import Choice, Option, Sheet, path_choice
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.rows_view import RowsView
from cooper.desk.widgets.typeset import html
from cooper.document.models import Design, GearSet
from cooper.document.units import KINDS, number, number_with_unit, parse, screen_unit
from cooper.editing.count_search import SET_SEARCHES, SPLITS, strength_now, subject, take
from cooper.editing.fields import Field, duty_fields, optional_field, path_field
from cooper.editing.make_sets import (
    change_count,
    give_counts,
    nearest_counts,
    roles,
    set_number,
    with_free_sun,
    with_roles,
)
from cooper.errors import OutOfRange
from cooper.results.set_flow import places_of
from cooper.trains.counts import Bounds, Offer, bears, efficiency_of, equal_strength

NAMES = ("sun", "planet", "ring")


def _with_sun(n: int, wanted: bool, design: Design) -> Design:
    return with_free_sun(design, n, wanted)


def set_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """The set of the selected stage, or the stages in line, with the search for counts."""
    sheet = Sheet(session, theme, parent)
    k = session.stage
    n = set_number(session.design, k)
    sheet.setAccessibleName("Arrangement and tooth counts")
    sheet.title.setText(session.design.train.sets[n].name if n is not None else "Tooth counts for a ratio")
    if n is not None:
        _the_set(session, theme, sheet, k, n)
        shown = dict(sheet.fields)
        kind = session.design.train.sets[n].kind

        def renewed() -> dict[str, Field]:
            """The fields while the set stands as it is; none of them once it has gone or become another."""
            now = set_number(session.design, session.stage)
            same = now == n and session.design.train.sets[n].kind == kind
            return (
                {key: tag.field for key, tag in shown.items()}
                if same
                else {"gone": next(iter(duty_fields()["What is wanted"].values()))}
            )

        sheet.renew = renewed
    if subject(session.design, k):
        Search(session, theme, sheet, k)
    elif n is None:
        column = sheet.add_column()
        column.addWidget(
            _small("Counts are searched for up to three external pairs in line, for planet sets and for two rings.")
        )
    sheet.finish()
    return sheet


def _small(text: str, role: str = "muted") -> QLabel:
    label = Label(text)
    label.setWordWrap(True)
    th.word(label, role, th.SMALL)
    return label


def _the_set(session: Session, theme: th.Theme, sheet: Sheet, k: int, n: int) -> None:
    one = session.design.train.sets[n]
    base = f"train.sets.{n}"
    left = sheet.add_column()

    def role_words(a: str, b: str, c: str | None) -> str:
        return f"{a} → {b}" + (f", {c} held" if c else "")

    def _now() -> GearSet:
        sets = session.design.train.sets
        return sets[n] if n < len(sets) else one

    def role_options() -> list[Option]:
        return [(role_words(*r), lambda d, r=r: with_roles(d, n, r)) for r in roles(_now())]  # type: ignore[misc]

    def role_now(d: object) -> str:
        if n >= len(session.design.train.sets):
            return ""
        now = session.design.train.sets[n]
        return role_words(now.input, now.output, now.held)

    shafts = Choice(session, "set_roles", "power goes", role_now, role_options)
    rows: list[object] = [shafts]
    if one.arranged.around:
        rows += [
            path_field("n_planets", "n_planets", None, f"{base}.planets"),
            path_choice(
                session,
                "floating",
                "load sharing",
                f"{base}.floating",
                {True: "a member floats", False: "no member floats"},
            ),
            optional_field(
                "K_gamma_set",
                "K_gamma",
                None,
                f"{base}.K_gamma",
                0.05,
                "follows",
            ),
            optional_field("k_pl", "k_pl", None, f"{base}.k_pl", 1.0, "not given"),
            optional_field("e_pl", "e_pl", None, f"{base}.e_pl", 1.0, "not given"),
        ]
    if one.arranged.sun_between:
        words = {False: "no sun", True: "a sun, free unless power goes through it"}
        rows.append(
            Choice(
                session,
                "free_sun",
                "between the planets",
                lambda d: words[n < len(d.train.sets) and d.train.sets[n].free_sun],
                lambda: [(w, partial(_with_sun, n, v)) for v, w in words.items()],
            )
        )
    if not one.arranged.one_gear:
        rows.append(
            path_choice(
                session,
                "agree",
                "centre distances agree by",
                f"{base}.agree",
                {
                    "shift": "the last ring's shift",
                    "module": "module of the second mesh",
                    "helix": "helix of the second mesh",
                },
            )
        )
    sheet.add_group(left, one.arranged.words, rows)  # type: ignore[arg-type]
    _set_numbers(session, theme, sheet, n, left)
    if one.arranged.plain_planets:
        _counts_row(session, sheet, k, n, left)


def _set_numbers(session: Session, theme: th.Theme, sheet: Sheet, n: int, left: QVBoxLayout) -> None:
    """What the set comes to, as words that follow the design."""
    told = Label()
    told.setObjectName("set_numbers")
    told.setTextFormat(Qt.TextFormat.RichText)
    left.addWidget(told)

    def fill() -> None:
        if not isValid(told) or n >= len(session.results.sets):
            return
        s = session.results.sets[n]
        lines = [
            f"<tr><td style='color:{theme.muted}'>{html(name)} &nbsp;</td><td align=right>{number_with_unit(v['n'], 'speed', session.system)} &nbsp;</td>"
            f"<td align=right>{number_with_unit(v['T'], 'torque', session.system)}</td></tr>"
            for name, v in s.shafts.items()
        ]
        v = s.values
        back = f"{100 * v.eta_back:.1f} %" if v.eta_back > 0 else "nothing, it locks"
        stages = tuple(session.design.train.stages[k] for k in s.stages)
        places = places_of(session.design.train.sets[n], stages)
        turn = s.shafts[s.input]["n"]
        free = (
            [f"sun {number_with_unit(turn * s.speeds['sun'], 'speed', session.system)}"]
            if len(s.stages) == 3 and "sun" not in s.shafts
            else []
        )
        facts = [
            f"ratio <b>{v.u:.6g}</b>, efficiency <b>{100 * v.eta_set:.2f} %</b>",
            f"backward {back}; friction ±30 %: {100 * s.friction[1]:.1f} to {100 * s.friction[0]:.1f} %",
            f"through a mesh {v.circulation:.2f} of the power that comes in",
            f"envelope {number_with_unit(v.envelope, 'length', session.system)}",
            *free,
        ]
        if places:
            facts.append(
                f"{places} places for planets; {s.planets} stand {'evenly' if s.even else 'at the nearest places, not evenly'}"
            )
        told.setText(
            f"<table cellspacing=1>{''.join(lines)}</table>"
            + "".join(f"<div style='margin-top:4px'>{f}</div>" for f in facts)
        )

    sheet.watch(fill)
    fill()


def _counts_row(session: Session, sheet: Sheet, k: int, n: int, column: object) -> None:
    """One count changed, another kept, the third follows."""
    row = QHBoxLayout()
    which, line, kept, go = QComboBox(), QLineEdit(), QComboBox(), QPushButton("Change")
    which.setObjectName("count_which")
    line.setObjectName("count_value")
    kept.setObjectName("count_kept")
    go.setObjectName("count_go")
    line.setMaximumWidth(56)
    line.setAccessibleName("new tooth count")
    for i, name in enumerate(NAMES):
        which.addItem(f"teeth of the {name}", i)
        kept.addItem(f"keep the {name}", i)
    kept.setCurrentIndex(1)
    for w in (which, line, kept, go):
        row.addWidget(w)
    column.addLayout(row)  # type: ignore[attr-defined]
    told = _small("", "short")
    told.setObjectName("count_words")
    column.addWidget(told)  # type: ignore[attr-defined]
    offers = QHBoxLayout()
    column.addLayout(offers)  # type: ignore[attr-defined]

    def offer(near: list[tuple[int, int, int]]) -> None:
        """The nearest sets that work, each to be taken by a click."""
        while (item := offers.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.deleteLater()
        for z in near:
            words = " / ".join(map(str, z))
            button = QPushButton(f"take {words}")
            button.setObjectName(f"count_take_{z[0]}_{z[1]}_{z[2]}")
            button.clicked.connect(
                lambda _on=False, z=z, words=words: session.edit(lambda d, _r: give_counts(d, n, z), f"counts {words}")
            )
            offers.addWidget(button)
        if near:
            offers.addStretch(1)

    def change() -> None:
        told.setText("")
        offer([])
        try:
            value = parse(line.text(), "count", session.system, quantity="z")
            if value != round(value):
                raise OutOfRange("z", value, "only whole teeth work")
            if which.currentData() == kept.currentData():
                raise OutOfRange("z", value, f"the {NAMES[kept.currentData()]} cannot be kept while it is changed")
            changed = change_count(session.design, n, which.currentData(), int(value), kept.currentData())
        except OutOfRange as wrong:
            told.setText(str(wrong))
            if "half a tooth" in wrong.reason:
                offer(
                    nearest_counts(
                        session.design, n, which.currentData(), round(float(wrong.value)), kept.currentData()
                    )
                )
            return
        fault = session.attempt(lambda _d, _r: changed, f"{NAMES[which.currentData()]} {int(value)} teeth").fault
        told.setText(str(fault or ""))

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
        head = Label("Counts for a ratio")
        th.word(head, "copper", bold=True)
        column.addWidget(head)
        row = QHBoxLayout()
        duty = session.design.train.duty
        n = set_number(session.design, k)
        now = session.results.sets[n].values.u if n is not None else session.results.train.get("u", 1.0)
        wanted = duty.u_wanted if n is None and duty.u_wanted else round(now, 4)
        self.lines: dict[str, QLineEdit] = {}
        for name, text, value in (
            ("u", "ratio", f"{wanted:g}"),
            ("tol", "± %", "1"),
            ("least", "teeth from", "15"),
            ("most", "to", "120"),
        ):
            self._line(row, name, text, value)
        row.addStretch(1)
        column.addLayout(row)
        row = QHBoxLayout()
        for name, text in (("a", "centre distance up to"), ("d", "diameter up to")):
            self._line(row, name, text, "any")
        go = QPushButton("Search")
        go.setObjectName("search_go")
        go.clicked.connect(self.run)
        row.addWidget(go)
        row.addStretch(1)
        column.addLayout(row)
        self.split = QComboBox()
        self.split.setObjectName("search_split")
        self.split.setAccessibleName("How the ratio is split")
        for key, words in SPLITS.items():
            self.split.addItem(f"ratios {words}" if key == "falling" else words, key)
        self.split.currentIndexChanged.connect(lambda _i: self.run())
        own = SET_SEARCHES.get(self.what)
        self.in_line = self.what == "pairs" and len(session.design.train.stages) > 1
        self.split.setVisible(self.in_line)
        column.addWidget(self.split)
        self.other = QComboBox()
        self.other.setObjectName("search_modules")
        self.other.setAccessibleName("Modules of the second mesh")
        for words, any_module in (
            ("one module for both meshes", False),
            ("any standard module for the second mesh", True),
        ):
            self.other.addItem(words, any_module)
        self.other.currentIndexChanged.connect(lambda _i: self.run())
        self.other.setVisible(own is not None and own.modules)
        column.addWidget(self.other)
        shown = ["counts", "ratio", "off, %", *(() if own is None else own.columns)]
        self.columns = [*shown, *(["bears"] if self.in_line else []), "meets", "a", "⌀"]
        cells = self._cells()
        # Beside the set there is little room; alone the columns share all of it.
        self.table = RowsView({name: cells[name] for name in self.columns}, stretch=n is None)
        self.table.setObjectName("offers")
        self.table.setAccessibleName("Offers of tooth counts")
        self.table.verticalHeader().setDefaultSectionSize(23)
        if n is not None:
            th.mark(self.table, "form", "narrow")
        self.table.horizontalHeader().setSortIndicatorShown(False)
        self.table.horizontalHeader().setSectionsClickable(True)
        self.table.horizontalHeader().sectionClicked.connect(self.sort)
        self.table.horizontalHeader().setToolTip(
            "A click orders by a column. Meets: turns of the first gear until the same teeth meet again"
        )
        self.table.setMinimumSize(486, 360)
        self.table.activated.connect(lambda index: self.take(index.row()))
        self.table.doubleClicked.connect(lambda index: self.take(index.row()))
        column.addWidget(self.table, 1)
        self.told = _small("A double click takes an offer.")
        self.told.setObjectName("search_words")
        column.addWidget(self.told)
        self.run()

    def _line(self, row: QHBoxLayout, name: str, text: str, value: str) -> None:
        label = _small(text)
        label.setWordWrap(False)
        line = QLineEdit(value)
        line.setObjectName(f"search_{name}")
        line.setAccessibleName(f"search: {text}")
        line.setMaximumWidth(64)
        line.returnPressed.connect(self.run)
        row.addWidget(label)
        row.addWidget(line)
        self.lines[name] = line

    def _length(self, name: str) -> float:
        """A length that may be left open."""
        text = self.lines[name].text().strip().lower()
        if text in ("", "any", "none"):
            return inf
        value = parse(text, "length", self.session.system, quantity=name)
        if not value > 0:
            raise OutOfRange(
                name, value, "a size that limits the offers is positive; any leaves it open", low=0.0, unit="mm"
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
            planets = session.design.train.sets[n].planets if n is not None else 1
            if not 0 <= values["tol"] <= 50:
                raise OutOfRange(
                    "tolerance", values["tol"], "a tolerance of the ratio lies between 0 and 50 %", low=0, high=50
                )
            if not (values["least"] >= 5 and values["most"] <= 400):
                raise OutOfRange(
                    "z",
                    f"{values['least']:g} to {values['most']:g}",
                    "counts are searched from 5 to 400 teeth",
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
            self._tell(str(fault), "short")
            self._fill()
            return
        self._fill()
        self._tell("Searching …", "muted")
        if self.task is not None:
            self.task.give_up()
        done = partial(self._end, values["u"])
        self.task = beside("cooper.editing.count_search:search", *asked, take=self._found, done=done)

    def _found(self, offers: list[Offer]) -> None:
        self.offers = offers
        self._fill()

    def _end(self, u: float, fault: Exception | None) -> None:
        """Say how many were found, or why none."""
        unit = screen_unit(KINDS["length"].display_unit(self.session.system))
        words = f"{len(self.offers)} offers; sizes in {unit} by the present module. A double click takes one."
        self._tell(words + self._split_words(u) if fault is None else str(fault), "muted" if fault is None else "short")

    def sort(self, column: int) -> None:
        """Order the offers by a column; clicked again the other way round."""
        name = self.columns[column]
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
            "ratio": lambda o: f"{o.ratio:.5g}",
            "off, %": lambda o: f"{round(o.deviation, 2) + 0.0:.2f}",
            "η 1 %": lambda o: f"{100 * efficiency_of(o):.1f} %",
            "planets": lambda o: "even" if o.even else "uneven",
            "m 2": lambda o: number(o.more.get("m_2", 0.0), "module", session.system),
            "bears": lambda o: f"{o.more.get('strength', 0.0):.2f} ×",
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
            ratios = " and ".join(f"{v:.3g}" for v in split)
            told = (
                f"ratios near {ratios}, at which every stage bears {load.min():.2f} times the load"
                if even
                else (
                    f"ratios near {ratios}: with the present modules and widths no split makes the stages equally strong, they bear "
                    + ", ".join(f"{v:.2f}" for v in load)
                    + " times the load"
                )
            )
        else:
            told = "each ratio about " + ("1.25" if n == 2 else "1.15") + " times the next one's"
        return (
            f" Split: {told}, within 18 %. Bears: by how much the load could grow in the weakest stage, modules and widths kept, "
            "estimated from nominal stresses."
        )

    def _tell(self, text: str, role: str) -> None:
        self.told.setText(text)
        th.word(self.told, role, th.SMALL)

    def take(self, r: int) -> None:
        """Take an offer; says why where it cannot be."""
        offer = self.offers[r]
        label = f"counts {' / '.join(map(str, offer.z))}"
        fault = self.session.attempt(lambda d, _r: take(d, self.k, offer), label).fault
        if fault is not None:
            self._tell(str(fault), "short")


register_sheet(
    SheetEntry(
        "set",
        "Arrangement and tooth counts: planet set, two rings, ratio",
        "Ctrl+R",
        lambda w: set_sheet(w.session, w.theme, w.bench),
        (936, 590),
        10,
    )
)

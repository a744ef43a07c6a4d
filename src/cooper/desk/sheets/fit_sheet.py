"""The sheet of what is fixed from outside: counts for a centre distance, ways to a wanted diameter."""

from __future__ import annotations

from collections.abc import Callable
from math import nan
from typing import Any

from PySide6.QtWidgets import QLineEdit, QPushButton, QVBoxLayout, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.finder import Finder
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.word_choice import WordChoice
from cooper.document.units import KINDS as UNITS
from cooper.document.units import number, parse, screen_unit
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate


class FitSheet(Sheet):
    """Counts that fit a centre distance and a ratio; module or count for a wanted diameter."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.title.setText(translate(tr("What is fixed: centre distance or diameter")))
        self.setAccessibleName(translate(tr("Counts for a fixed centre distance, ways to a wanted diameter")))
        self.k = session.stage
        self.unit = screen_unit(UNITS["length"].display_unit(session.system))
        column = self.add_column()
        self._counts(column)
        self._diameters(column)
        self.list_counts()

    def _counts(self, column: QVBoxLayout) -> None:
        """The question for counts, and the list of those that fit a centre distance."""
        session = self.session
        stage, duty = session.results.stages[self.k], session.design.train.duty
        whole = len(session.results.stages) == 1
        ratio = duty.u_wanted if whole and duty.u_wanted else abs(stage.ratio)
        a_w = number(stage.mesh.a_w, "length", session.system)
        self.a_w = self._entry(tr("centre distance, {unit}", unit=self.unit), "fit_a_w", a_w, self.list_counts)
        # What does not turn has no ratio, which the search says.
        self.u = self._entry(
            tr("ratio"), "fit_u", tr("{ratio:.6g}", ratio=ratio) if stage.kind.turns else "", self.list_counts
        )
        self.u.setEnabled(stage.kind.turns)
        self.tol = self._entry("± %", "fit_tol", tr("{u_tol:g}", u_tol=duty.u_tol), self.list_counts)
        go = self._button("fit_list", self.list_counts)
        parts: dict[str, QWidget] = {"a_w": self.a_w, "u": self.u, "tol": self.tol, "go": go}
        at = {name: slot(name) for name in parts}
        text = tr("A centre distance of {a_w} {unit} and a ratio of {u} within ± {tol} %. {go}", unit=self.unit, **at)
        self.add_question(column, [Topic(tr("Counts"), [Sentence(text)])], parts)
        self.counts = Finder(
            self,
            "fit",
            {
                "m_n, mm": lambda f: tr("{m_n:g}", m_n=f.m_n),
                "z_1": lambda f: str(f.z_1),
                "z_2": lambda f: str(f.z_2),
                "β, °": lambda f: tr("{beta:.4g}", beta=f.beta),
                "Σx needed": lambda f: tr("{x_sum:+.3f}", x_sum=f.x_sum),
                "ratio off, %": lambda f: tr("{du:+.2f}", du=f.du),
                "met by": lambda f: term(f.by),
            },
            lambda f: (tr("{z_1}/{z_2}, m {m_n:g}", z_1=f.z_1, z_2=f.z_2, m_n=f.m_n), f.design),
            ask=_designs,
        )
        column.addWidget(self.counts.table, 3)
        column.addWidget(self.counts.words)

    def _diameters(self, column: QVBoxLayout) -> None:
        """Entries and list of ways to a diameter."""
        session = self.session
        stage = session.results.stages[self.k]
        self.which = WordChoice("reach_which", tr("diameter"))
        for i in (1, 2):
            for symbol, words in (
                ("d", tr("reference")),
                ("d_a", tr("inner") if stage.kinds[i - 1].inward else tr("outside")),
            ):
                if symbol in stage.gears[i - 1]:
                    self.which.addItem(translate(tr("{words} diameter of gear {i}", words=words, i=i)), (i, symbol))
        self.which.currentIndexChanged.connect(lambda _n: self._renew_diameter())
        self.diameter = self._entry(tr("wanted diameter"), "reach_d", "", self.list_ways)
        self._renew_diameter()
        parts: dict[str, QWidget] = {
            "which": self.which,
            "d": self.diameter,
            "go": self._button("reach_list", self.list_ways),
        }
        at = {name: slot(name) for name in parts}
        text = tr("The {which} shall be {d} {unit}, by module or tooth count. {go}", unit=self.unit, **at)
        self.add_question(column, [Topic(tr("Diameter"), [Sentence(text)])], parts)
        self.ways = Finder(
            self,
            tr("reach"),
            {
                "by": lambda way: way.words,
                f"gives, {self.unit}": lambda way: number(way.value, "length", session.system),
            },
            lambda way: (way.words, way.design),
            ask=_designs,
        )
        self.ways.table.setFixedHeight(122)
        column.addWidget(self.ways.table, 1)
        column.addWidget(self.ways.words)

    def _renew_diameter(self) -> None:
        i, symbol = self.which.currentData()
        value = self.session.results.stages[self.k].gears[i - 1][symbol]
        self.diameter.setText(translate(number(value, "length", self.session.system)))

    def list_counts(self) -> None:
        """Search counts for the entries."""
        system = self.session.system

        def asked() -> tuple[Any, ...]:
            return (
                self.session.design,
                self.session.results,
                self.k,
                parse(self.a_w.text(), "length", system, quantity="a_w"),
                parse(self.u.text(), "factor", system, quantity="u") if self.u.isEnabled() else nan,
                parse(self.tol.text(), "factor", system, quantity="tolerance"),
            )

        self.counts.find("cooper.editing.fitting:each_fit", asked)

    def list_ways(self) -> None:
        """Search ways to the diameter."""
        i, symbol = self.which.currentData()

        def asked() -> tuple[Any, ...]:
            wanted = parse(self.diameter.text(), "length", self.session.system, quantity=f"{symbol}{i}")
            return self.session.design, self.session.results, self.k, i, symbol, wanted

        self.ways.find("cooper.editing.fitting:reach", asked)

    def _entry(self, words: str, name: str, text: str, run: Callable[[], None]) -> QLineEdit:
        line = QLineEdit(text)
        line.setObjectName(name)
        line.setProperty("calm", True)
        line.setAccessibleName(translate(words))
        line.setFixedWidth(90)
        line.returnPressed.connect(run)
        return line

    @staticmethod
    def _button(name: str, run: Callable[[], None]) -> QPushButton:
        button = QPushButton(translate(tr("List")))
        button.setObjectName(name)
        button.clicked.connect(run)
        return button


def _designs(rows: list[Any]) -> tuple[Any, ...]:
    return "cooper.editing.offered:each_evaluated", [row.design for row in rows]


register_sheet(
    SheetEntry(
        "fit_teeth",
        tr("Counts for a fixed centre distance, module for a diameter"),
        "Ctrl+6",
        lambda w: FitSheet(w.session, w.theme, w.bench),
        (860, 600),
        6,
    )
)

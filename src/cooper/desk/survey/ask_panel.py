"""What is searched: the duty, what is fixed from outside, how the gears are made, and what is varied. Enter begins
the survey."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise
from math import pi
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QPalette, QResizeEvent
from PySide6.QtWidgets import QCheckBox, QFrame, QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from cooper.desk.base import theme as th
from cooper.desk.survey.arrangement_ticks import SIZE, ArrangementTick
from cooper.desk.survey.ask_entries import (
    BETWEEN,
    EMPTY,
    ENTRIES,
    MATTERS,
    MAY_LACK,
    Entry,
    material_line,
    read_material_line,
)
from cooper.desk.survey.ask_topics import ask_topics
from cooper.desk.widgets.brief import Brief, slots_of
from cooper.desk.widgets.clear_area import ClearArea
from cooper.desk.widgets.labels import Label
from cooper.desk.widgets.word_choice import WordChoice
from cooper.document.base import fields_of
from cooper.document.duty import Duty
from cooper.document.survey_spec import ARRANGEMENTS, SHARES, SurveySpec, asked
from cooper.document.units import parse
from cooper.errors import OutOfRange, message_of
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.results.solve_stage import solve_duty
from cooper.stock.materials import groups
from cooper.stock.processes import processes
from cooper.stock.racks import rack_profiles
from cooper.survey.patterns import customary_words
from cooper.survey.rules import RULES
from cooper.survey.width_groups import TORSION


class AskPanel(QFrame):
    """Everything that a survey is asked, on one page; ``go`` tells duty, question and whether a new design is begun."""

    go = Signal(object, object)
    closed = Signal()

    def __init__(self, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.system = "mm"
        self.setObjectName("sheet")
        self.setAccessibleName(translate(tr("What is searched")))
        self.entries: dict[str, Entry] = {}
        self.kept: SurveySpec | None = None
        self.duty: Duty | None = None
        outer = QVBoxLayout(self)
        outer.setContentsMargins(18, 10, 14, 12)
        head = QHBoxLayout()
        self.title = Label(tr("From a duty"))
        th.set_text_role(self.title, "ink", th.TITLE, bold=True)
        head.addWidget(self.title)
        self.fault = Label()
        self.fault.setObjectName("ask_fault")
        self.fault.setWordWrap(True)
        th.set_text_role(self.fault, "short")
        head.addWidget(self.fault, 1)
        self.begin = QPushButton(translate(tr("Search  Enter")))
        self.begin.setObjectName("ask_go")
        self.begin.clicked.connect(self.submit)
        close = QPushButton(translate(tr("Close  Esc")))
        close.setObjectName("ask_close")
        close.setProperty("plain", True)
        close.clicked.connect(self.closed.emit)
        head.addWidget(self.begin)
        head.addWidget(close)
        outer.addLayout(head)
        area = ClearArea(QPalette.ColorRole.Base)
        area.setWidgetResizable(True)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setContentsMargins(0, 4, 6, 0)
        column.setSpacing(8)
        area.setWidget(inside)
        outer.addWidget(area, 1)
        parts = self._parts()
        self.brief = Brief(theme, inside)
        for part in parts.values():
            part.setParent(self.brief)
        order: list[QWidget] = []
        self.grid = QGridLayout()
        self.grid.setSpacing(6)
        self.arrangements = {key: ArrangementTick(key, words, theme, inside) for key, words in ARRANGEMENTS.items()}
        self.usual = Brief(theme, inside)
        first, rest = ask_topics(tuple(self.racks), tuple(self.rules))
        here = {key for topic in first for s in topic.sentences for key in slots_of(s)}
        for key in parts.keys() - here:
            parts[key].setParent(self.usual)
        order += self.brief.show_topics(first, {k: w for k, w in parts.items() if k in here})
        column.addWidget(self.brief)
        above = Label(tr("Arrangements that are looked at"))
        th.set_text_role(above, "copper", bold=True)
        column.addWidget(above)
        column.addLayout(self.grid)
        order += self.arrangements.values()
        order += self.usual.show_topics(rest, {k: w for k, w in parts.items() if k not in here})
        column.addWidget(self.usual)
        self.customary = self._label("")
        column.addWidget(self.customary)
        column.addWidget(
            self._label(
                tr(
                    "Shafts are taken as solid bars at {torsion:g} MPa of torsion. What a way of making brings "
                    "with it is customary, from no standard.",
                    torsion=TORSION,
                )
            )
        )
        column.addStretch(1)
        for one, other in pairwise(order):
            QWidget.setTabOrder(one, other)

    # -- made of

    def _label(self, words: str) -> Label:
        label = Label(words)
        label.setWordWrap(True)
        th.set_text_role(label, "muted", th.SMALL)
        return label

    def _parts(self) -> dict[str, QWidget]:
        """What stands in the sentences, by name."""
        for key, (words, kind) in ENTRIES.items():
            entry = self.entries[key] = Entry(key, words, kind)
            entry.setPlaceholderText(translate(EMPTY.get(key, "")))
        self.process = WordChoice("ask_process", tr("How they are made"))
        for way in processes().values():
            self.process.addItem(way.words, way.key)
        self.process.activated.connect(lambda _n: self._process())
        self.materials = Entry(
            "materials", tr("Materials: pinion; wheel; ring, with | between those that are tried"), ""
        )
        self.materials.setMaxLength(1000)
        self.add_material = WordChoice("ask_add_material", tr("Another material for all gears"))
        self.add_material.addItem(tr("another for all gears …"), None)
        for key, group in groups().items():
            self.add_material.addItem(group["name"], key)
        self.add_material.activated.connect(lambda _n: self._another())
        own = QPushButton(translate(tr("the process's own")))
        own.setObjectName("ask_own_materials")
        own.setProperty("plain", True)
        own.clicked.connect(self._own)
        self.racks = {name: self._tick(f"rack_{name}", name) for name in rack_profiles()}
        text = {"S_B": tr("scuffing, flash"), "S_int": tr("scuffing, integral"), "s_anE": tr("tip land"), "du": "ratio"}
        text |= {
            "theta_bal": tr("oil temperature"),
            "eps_alpha": tr("contact ratio"),
            "c_pl": tr("gap between planets"),
        }
        self.rules = {rule: self._tick(f"rule_{rule}", text.get(rule, RULES.get(rule, rule))) for rule in MATTERS}
        self.share = WordChoice("ask_share", tr("How the sum of the shifts is shared"))
        for key, words in SHARES.items():
            self.share.addItem(words, key)
        self.widths = WordChoice("ask_widths", tr("Widths"))
        for key, words in (("solved", tr("so that all checks just hold")), ("stepped", tr("in steps"))):
            self.widths.addItem(words, key)
        return {
            **self.entries,
            **{f"rack {name}": box for name, box in self.racks.items()},
            **{f"rule {name}": box for name, box in self.rules.items()},
            "process": self.process,
            "materials": self.materials,
            "another": self.add_material,
            "own": own,
            "share": self.share,
            "widths": self.widths,
        }

    def _tick(self, name: str, words: str) -> QCheckBox:
        box = QCheckBox(translate(words))
        box.setObjectName(name)
        return box

    def resizeEvent(self, event: QResizeEvent) -> None:
        """As many drawings beside each other as there is room for."""
        columns = max((self.width() - 60) // (SIZE.width() + self.grid.spacing()), 1)
        for n, tick in enumerate(self.arrangements.values()):
            self.grid.addWidget(tick, n // columns, n % columns)
        self.grid.setColumnStretch(columns, 1)
        super().resizeEvent(event)

    def apply_theme(self, theme: th.Theme) -> None:
        """Put on a theme."""
        parts: list[Brief | ArrangementTick] = [self.brief, self.usual, *self.arrangements.values()]
        for part in parts:
            part.theme = theme
            part.update()

    # -- shown

    def show_asked(self, duty: Duty, question: SurveySpec, system: str, title: str) -> None:
        """Show a duty and a question."""
        self.system, self.duty, self.kept = system, duty, question
        self.title.setText(translate(title))
        self.fault.setText("")
        load = self.entries["power"]
        load.kind = "torque" if duty.T is not None else "power"
        for key in ("n", "u_wanted", "u_tol", "L_h", "K_A"):
            self.entries[key].show_value(getattr(duty, key), system)
        if duty.n is None:
            assert duty.P is not None
            assert duty.T is not None
            self.entries["n"].show_value(duty.P / duty.T * 30 / pi, system)
        load.show_value(duty.T if duty.T is not None else duty.P, system)
        for key, entry in self.entries.items():
            if key in fields_of(SurveySpec):
                value = getattr(question, key)
                entry.show_value(value if value != () or entry.kind != "list" else (), system)
        self.process.setCurrentIndex(self.process.findData(question.process))
        for key, box in self.racks.items():
            box.setChecked(key in question.racks)
        for key, tick in self.arrangements.items():
            tick.setChecked(key in question.arrangements)
        for rule, box in self.rules.items():
            box.setChecked(rule not in question.shown)
        self.share.setCurrentIndex(self.share.findData(question.share))
        self.widths.setCurrentIndex(self.widths.findData(question.widths))
        self._tell_materials()
        self._tell_customary()
        load.setFocus()
        load.selectAll()

    def _tell_materials(self) -> None:
        assert self.kept is not None
        self.materials.setText(translate(join(BETWEEN, (material_line(choice) for choice in self.kept.materials))))

    def _tell_customary(self) -> None:
        """Say why a face load factor is entered where light drives customarily have one."""
        assert self.duty is not None
        try:
            K_Hbeta = self.entries["K_Hbeta"].value(self.system)
            self.customary.setText(
                translate(customary_words(self.process.currentData(), solve_duty(self.duty)[1], K_Hbeta))
            )
        except OutOfRange:
            self.customary.setText("")

    def _process(self) -> None:
        """Another process brings its own materials, racks and modules."""
        assert self.kept is not None
        fresh = asked(process=self.process.currentData())
        keys = ("process", "materials", "racks", "m_low", "m_high", "beta_low", "beta_high")
        self.kept = self.kept.replace_unchecked(**{k: getattr(fresh, k) for k in keys})
        for key in ("m_low", "m_high", "beta_low", "beta_high"):
            self.entries[key].show_value(getattr(fresh, key), self.system)
        for key, box in self.racks.items():
            box.setChecked(key in fresh.racks)
        self._tell_materials()
        self._tell_customary()

    def _another(self) -> None:
        key = self.add_material.currentData()
        self.add_material.setCurrentIndex(0)
        if key is None or self.kept is None or len(self.kept.materials) >= 12:
            return
        group = groups()[key]
        grade = "MQ" if "MQ" in group["grades"] else next(iter(group["grades"]))
        more = tr(
            "{key} {grade} {hardness_default:g}",
            key=key,
            grade=grade,
            hardness_default=group["hardness_default"],
        )
        there = [line for line in self.materials.text().split(BETWEEN.strip()) if line.strip()]
        self.materials.setText(BETWEEN.join([*(line.strip() for line in there), translate(more)]))

    def _own(self) -> None:
        if self.kept is not None:
            fresh = asked(process=self.process.currentData())
            self.kept = self.kept.replace_unchecked(materials=fresh.materials)
            self._tell_materials()

    # -- asked

    def asked(self) -> tuple[Duty, SurveySpec]:
        """What stands on the page; raises `OutOfRange`, the field marked, where it cannot be."""
        for entry in self.entries.values():
            entry.mark("")
        values: dict[str, Any] = {}
        for key, entry in self.entries.items():
            try:
                values[key] = self._load(entry) if key == "power" else entry.value(self.system)
                if values[key] is None and (key in ("n", "u_wanted") or key not in MAY_LACK):
                    raise OutOfRange(entry.words, "nothing", tr("a value is needed here"))
            except OutOfRange as fault:
                entry.mark(message_of(fault))
                entry.setFocus()
                raise
        return self._duty_of(values), self._question_of(values)

    def _load(self, entry: Entry) -> tuple[str, float]:
        """Power or torque, by the unit that was typed."""
        text = entry.text().strip()
        first, second = (entry.kind, "torque" if entry.kind == "power" else "power")
        try:
            return first, parse(text, first, self.system, entry.words)
        except OutOfRange as fault:
            try:
                return second, parse(text, second, self.system, entry.words)
            except OutOfRange:
                raise fault from None

    def _checked(self, make: Callable[[], Any]) -> Any:
        try:
            return make()
        except OutOfRange as fault:
            entry = self.entries.get(str(fault.quantity))
            if entry is not None:
                entry.mark(message_of(fault))
                entry.setFocus()
            raise

    def _duty_of(self, values: dict[str, Any]) -> Duty:
        assert self.duty is not None
        kind, load = values["power"]
        changed = {k: values[k] for k in ("n", "u_wanted", "u_tol", "L_h", "K_A")}
        changed |= {"P": load if kind == "power" else None, "T": load if kind == "torque" else None}
        result: Duty = self._checked(lambda: Duty.from_data({**self.duty.plain(), **changed}, whole=tr("the survey")))  # type: ignore[union-attr]
        return result

    def _question_of(self, values: dict[str, Any]) -> SurveySpec:
        assert self.kept is not None
        changed = {k: v for k, v in values.items() if k in fields_of(SurveySpec)}
        for key in ("planets", "classes"):
            changed[key] = [int(v) if v == int(v) else v for v in changed[key]]
        changed |= {
            "process": self.process.currentData(),
            "racks": [k for k, box in self.racks.items() if box.isChecked()],
            "arrangements": [k for k, box in self.arrangements.items() if box.isChecked()],
            "shown": [r for r in self.kept.shown if r not in self.rules]
            + [r for r, box in self.rules.items() if not box.isChecked()],
            "share": self.share.currentData(),
            "widths": self.widths.currentData(),
        }
        try:
            changed["materials"] = [
                read_material_line(x).plain() for x in self.materials.text().split(BETWEEN.strip()) if x.strip()
            ]
            if not changed["materials"]:
                raise OutOfRange("materials", "none", tr("at least one line of materials is tried"))
        except OutOfRange:
            self.materials.setFocus()
            raise
        if not changed["arrangements"]:
            raise OutOfRange("arrangements", "none", tr("at least one arrangement is searched"))
        if not changed["racks"]:
            raise OutOfRange(tr("basic racks"), "none", tr("at least one basic rack is tried"))
        result: SurveySpec = self._checked(
            lambda: SurveySpec.from_data({**self.kept.plain(), **changed}, whole=tr("the survey"))  # type: ignore[union-attr]
        )
        return result

    def submit(self) -> None:
        """Begin, or say at the field why not."""
        try:
            duty, question = self.asked()
        except OutOfRange as fault:
            self.fault.setText(message_of(fault))
            return
        self.fault.setText("")
        self.go.emit(duty, question)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.submit()
        elif event.key() == Qt.Key.Key_Escape:
            self.closed.emit()
        else:
            super().keyPressEvent(event)

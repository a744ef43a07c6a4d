"""The sheet of a set and of tooth counts: shafts and planets, speeds and torques, counts searched for a ratio."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QWidget,
)
from shiboken6 import isValid

from cooper.design.count_search import search, subject, take
from cooper.design.fields import Field, duty_fields, optional_field, path_field
from cooper.design.make_sets import KIND_WORDS, change_count, give_counts, nearest_counts, roles, set_number, with_roles
from cooper.design.sets import counts_of
from cooper.design.units import number, number_with_unit, parse
from cooper.desk import theme as th
from cooper.desk.session import Session
from cooper.desk.sheet import Choice, Option, Sheet, path_choice
from cooper.errors import OutOfRange
from cooper.trains.counts import Bounds, Offer
from cooper.trains.planets import positions

NAMES = ("sun", "planet", "ring")


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
            return {key: tag.field for key, tag in shown.items()} if same else {"gone": next(iter(duty_fields()["What is wanted"].values()))}

        sheet.renew = renewed
    if subject(session.design, k):
        Search(session, theme, sheet, k)
    elif n is None:
        column = sheet.add_column()
        column.addWidget(_small("Counts are searched for up to three external pairs in line, for planet sets and for two rings.", theme))
    sheet.finish()
    return sheet


def _small(text: str, theme: th.Theme, role: str = "muted") -> QLabel:
    label = QLabel(text)
    label.setWordWrap(True)
    label.setStyleSheet(th.label_style(theme, role, th.SMALL))
    return label


def _the_set(session: Session, theme: th.Theme, sheet: Sheet, k: int, n: int) -> None:
    one = session.design.train.sets[n]
    base = f"train.sets.{n}"
    left = sheet.add_column()

    def role_words(a: str, b: str, c: str | None) -> str:
        return f"{a} → {b}" + (f", {c} held" if c else "")

    def role_options() -> list[Option]:
        return [(role_words(*r), lambda d, r=r: with_roles(d, n, r)) for r in roles(one.kind)]  # type: ignore[misc]

    def role_now(d: object) -> str:
        if n >= len(session.design.train.sets):
            return ""
        now = session.design.train.sets[n]
        return role_words(now.input, now.output, now.held)

    shafts = Choice(session, "set_roles", "power goes", role_now, role_options)
    rows: list[object] = [shafts]
    if one.kind != "idler":
        rows += [
            path_field("n_planets", "n_planets", None, f"{base}.planets"),
            path_choice(session, "floating", "load sharing", f"{base}.floating",
                        {True: "a member floats", False: "no member floats"}),
            optional_field("K_gamma_set", "K_gamma", None, f"{base}.K_gamma", 0.05, "by planets"),
        ]  # fmt: skip
    sheet.add_group(left, KIND_WORDS[one.kind], rows)  # type: ignore[arg-type]
    told = QLabel()
    told.setObjectName("set_numbers")
    told.setTextFormat(Qt.TextFormat.RichText)
    left.addWidget(told)
    if one.kind == "planetary":
        _counts_row(session, theme, sheet, k, n, left)

    def fill() -> None:
        if not isValid(told) or n >= len(session.results.sets):
            return
        s = session.results.sets[n]
        lines = [f"<tr><td style='color:{theme.muted}'>{name} &nbsp;</td><td align=right>{number_with_unit(v['n'], 'speed', session.system)} &nbsp;</td>"
                 f"<td align=right>{number_with_unit(v['T'], 'torque', session.system)}</td></tr>" for name, v in s.shafts.items()]  # fmt: skip
        v = s.values
        back = f"{100 * v['eta_back']:.1f} %" if v["eta_back"] > 0 else "nothing, it locks"
        stages = (session.design.train.stages[s.first], session.design.train.stages[s.first + 1])
        places = positions(s.kind, counts_of(session.design.train.sets[n], stages)) if s.kind != "idler" else 0
        facts = [
            f"ratio <b>{v['u']:.6g}</b>, efficiency <b>{100 * v['eta_set']:.2f} %</b>",
            f"backward {back}; friction ±30 %: {100 * s.friction[1]:.1f} to {100 * s.friction[0]:.1f} %",
            f"through a mesh {v['circulation']:.2f} of the power that comes in",
            f"envelope {number_with_unit(v['envelope'], 'length', session.system)}",
        ]
        if places:
            facts.append(f"{places} places for planets; {s.planets} stand {'evenly' if s.even else 'at the nearest places, not evenly'}")
        told.setText(f"<table cellspacing=1>{''.join(lines)}</table>" + "".join(f"<div style='margin-top:4px'>{f}</div>" for f in facts))

    session.changed.connect(fill)
    session.system_changed.connect(fill)
    fill()


def _counts_row(session: Session, theme: th.Theme, sheet: Sheet, k: int, n: int, column: object) -> None:
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
    told = _small("", theme, "short")
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
            button.clicked.connect(lambda _on=False, z=z, words=words: session.edit(lambda d, _r: give_counts(d, n, z), f"counts {words}"))
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
                offer(nearest_counts(session.design, n, which.currentData(), round(float(wrong.value)), kept.currentData()))
            return
        fault = session.attempt(lambda _d, _r: changed, f"{NAMES[which.currentData()]} {int(value)} teeth")
        told.setText(str(fault or ""))

    go.clicked.connect(change)
    line.returnPressed.connect(change)


class Search:
    """Wanted ratio, tolerance and bounds; the ranked offers; a double click or Enter takes one."""

    def __init__(self, session: Session, theme: th.Theme, sheet: Sheet, k: int) -> None:
        self.session, self.k, self.offers = session, k, list[Offer]()
        self.what = subject(session.design, k)
        column = sheet.add_column()
        head = QLabel("Counts for a ratio")
        head.setStyleSheet(th.label_style(theme, "copper", bold=True))
        column.addWidget(head)
        row = QHBoxLayout()
        duty = session.design.train.duty
        n = set_number(session.design, k)
        now = session.results.sets[n].values["u"] if n is not None else session.results.train.get("u", 1.0)
        wanted = duty.u_wanted if n is None and duty.u_wanted else round(now, 4)
        self.lines: dict[str, QLineEdit] = {}
        for name, text, value in (("u", "ratio", f"{wanted:g}"), ("tol", "± %", "1"), ("least", "teeth from", "15"), ("most", "to", "120")):
            label = _small(text, theme)
            label.setWordWrap(False)
            line = QLineEdit(value)
            line.setObjectName(f"search_{name}")
            line.setAccessibleName(f"search: {text}")
            line.setMaximumWidth(64)
            line.returnPressed.connect(self.run)
            row.addWidget(label)
            row.addWidget(line)
            self.lines[name] = line
        go = QPushButton("Search")
        go.setObjectName("search_go")
        go.clicked.connect(self.run)
        row.addWidget(go)
        column.addLayout(row)
        self.table = QTableWidget(0, 5)
        self.table.setObjectName("offers")
        self.table.setAccessibleName("Offers of tooth counts")
        last = "η at 1 %" if self.what == "two rings" else "planets" if self.what == "planetary" else "same teeth meet after"
        self.table.setHorizontalHeaderLabels(["counts", "ratio", "off, %", last, "largest"])
        self.table.verticalHeader().hide()
        self.table.verticalHeader().setDefaultSectionSize(23)
        self.table.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.table.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.ResizeToContents)
        self.table.setMinimumSize(470, 380)
        self.table.itemActivated.connect(lambda item: self.take(item.row()))
        self.table.itemDoubleClicked.connect(lambda item: self.take(item.row()))
        column.addWidget(self.table, 1)
        self.told = _small("A double click takes an offer.", theme)
        self.told.setObjectName("search_words")
        column.addWidget(self.told)
        self.theme = theme
        self.run()

    def run(self) -> None:
        """Search and list."""
        session = self.session
        self.offers = []
        try:
            values = {name: parse(line.text(), "factor", session.system, quantity=name) for name, line in self.lines.items()}
            n = set_number(session.design, self.k)
            planets = session.design.train.sets[n].planets if n is not None else 1
            if not 0 <= values["tol"] <= 50:
                raise OutOfRange("tolerance", values["tol"], "a tolerance of the ratio lies between 0 and 50 %", low=0, high=50)
            if not (values["least"] >= 5 and values["most"] <= 400):
                raise OutOfRange("z", f"{values['least']:g} to {values['most']:g}", "counts are searched from 5 to 400 teeth", low=5, high=400)
            at = Bounds(round(values["least"]), round(values["most"]), values["tol"], planets, 3 * round(values["most"]))
            self.offers = search(session.design, self.k, values["u"], at)
            split = " Stages about 1.25 times (two) or 1.15 times (three) the next one's ratio, within 18 %." if len(session.design.train.stages) > 1 and n is None else ""
            self._tell(f"{len(self.offers)} offers. A double click takes one.{split}", "muted")
        except OutOfRange as fault:
            self._tell(str(fault), "short")
        self.table.setRowCount(len(self.offers))
        for r, o in enumerate(self.offers):
            shown = f"{100 * o.more['eta']:.1f} %" if "eta" in o.more else ("evenly" if o.even else "not evenly") if self.what == "planetary" else (
                f"{o.hunting} turns")  # fmt: skip
            for c, text in enumerate((" / ".join(map(str, o.z)), f"{o.ratio:.5g}", number(round(o.deviation, 6), "share"), shown, str(max(o.z)))):
                self.table.setItem(r, c, QTableWidgetItem(text))

    def _tell(self, text: str, role: str) -> None:
        self.told.setText(text)
        self.told.setStyleSheet(th.label_style(self.theme, role, th.SMALL))

    def take(self, r: int) -> None:
        """Take an offer; says why where it cannot be."""
        offer = self.offers[r]
        fault = self.session.attempt(lambda d, _r: take(d, self.k, offer), f"counts {' / '.join(map(str, offer.z))}")
        if fault is not None:
            self._tell(str(fault), "short")

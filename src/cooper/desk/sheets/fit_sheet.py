"""The sheet of what is fixed from outside: counts for a centre distance, ways to a wanted diameter."""

from __future__ import annotations

from collections.abc import Callable
from math import degrees

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from cooper.desk.frame import theme as th
from cooper.desk.frame.registry import SheetEntry, register_sheet
from cooper.desk.frame.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.document.models import Design
from cooper.document.units import KINDS as UNITS
from cooper.document.units import number, parse, screen_unit
from cooper.editing.fitting import fits, reach
from cooper.editing.matching import matches, take_match
from cooper.errors import OutOfRange


class Finder:
    """Entries, a list of what meets them, and a line that says why when nothing does; a double click or Enter takes one."""

    def __init__(self, sheet: Sheet, name: str, heads: tuple[str, ...]) -> None:
        self.sheet, self.name = sheet, name
        self.table = QTableWidget(0, len(heads))
        self.table.setObjectName(f"{name}_table")
        self.table.setAccessibleName(f"{name}: what meets the entries")
        self.table.setHorizontalHeaderLabels(list(heads))
        self.table.verticalHeader().hide()
        self.table.verticalHeader().setDefaultSectionSize(24)
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.table.activated.connect(lambda index: self.take(index.row()))
        self.words = QLabel()
        self.words.setObjectName(f"{name}_words")
        self.words.setWordWrap(True)
        self.designs: list[tuple[str, Design]] = []

    def show(self, find: Callable[[], list[tuple[tuple[str, ...], str, Design]]]) -> None:
        """Fill the list, or say why it stays empty."""
        self.designs = []
        self.table.setRowCount(0)
        try:
            rows = find()
        except OutOfRange as fault:
            self.words.setText(str(fault))
            self.words.setStyleSheet(f"color: {self.sheet.theme.short};")
            return
        self.words.setStyleSheet(th.label_style(self.sheet.theme, "muted", th.SMALL))
        self.words.setText("A double click or Enter takes one; Ctrl+Z takes it back.")
        self.table.setRowCount(len(rows))
        for r, (cells, words, design) in enumerate(rows):
            self.designs.append((words, design))
            for c, text in enumerate(cells):
                item = QTableWidgetItem(text)
                item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                self.table.setItem(r, c, item)

    def take(self, row: int) -> None:
        """Make a row of the list the present design."""
        if 0 <= row < len(self.designs):
            words, design = self.designs[row]
            self.sheet.session.edit(lambda _d, _r: design, words, f"{self.name}_take")


def match_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """A measured gear: its count and sizes, the gears that explain them, one click to put it into the design."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText("Match a measured gear")
    sheet.setAccessibleName("Match a measured gear")
    column = sheet.add_column()
    k, system = session.stage, session.system
    unit = screen_unit(UNITS["length"].display_unit(system))
    entries: dict[str, QLineEdit] = {}
    for name, words, hint in (
        ("z", "tooth count", "17"),
        ("tip", f"outside diameter, {unit}", ""),
        ("spans", f"spans as teeth:size, {unit}", "2:11.72; 3:19.10"),
        ("pins", f"over two pins as diameter:size, {unit}", "2.5:41.93"),
        ("helix", "helix angle, °, empty to find it", "0"),
    ):
        row = QHBoxLayout()
        label = QLabel(words)
        label.setStyleSheet(th.label_style(theme, "muted", th.SMALL))
        label.setFixedWidth(230)
        entries[name] = QLineEdit()
        entries[name].setPlaceholderText(hint)
        entries[name].setObjectName(f"match_{name}")
        entries[name].setAccessibleName(words)
        row.addWidget(label)
        row.addWidget(entries[name])
        column.addLayout(row)
    entries["helix"].setText("0")
    found = Finder(
        sheet, "match", ("m_n, mm", "P_nd", "α_n, °", "β, °", "x", "h_a", f"sizes off, {unit}", f"tip off, {unit}")
    )

    def list_matches() -> None:
        def find() -> list[tuple[tuple[str, ...], str, Design]]:
            texts = {n: line.text() for n, line in entries.items()}
            rows = matches(texts["z"], texts["tip"], texts["spans"], texts["pins"], texts["helix"], system)
            z, d_a = round(parse(texts["z"], "count", system)), parse(texts["tip"], "length", system)
            scale = 25.4 if system == "inch" else 1.0
            return [
                (
                    (
                        f"{f.m_n:.4g}",
                        f"{25.4 / f.m_n:.4g}",
                        f"{degrees(f.alpha_n):g}",
                        f"{degrees(f.beta):.3g}",
                        f"{f.x:+.3f}",
                        f"{f.h_a:.3f}",
                        f"{f.span_residual / scale:.4f}",
                        f"{f.tip_residual / scale:+.4f}",
                    ),
                    f"matched, m {f.m_n:.4g}",
                    take_match(session.design, k, f, z, d_a),
                )
                for f in rows
            ]

        found.show(find)

    button = QPushButton("List what it may be")
    button.setObjectName("match_list")
    button.clicked.connect(list_matches)
    for line in entries.values():
        line.returnPressed.connect(list_matches)
    column.addWidget(button, alignment=Qt.AlignmentFlag.AlignLeft)
    column.addWidget(found.table, 1)
    column.addWidget(found.words)
    note = QLabel(
        "Taking one makes the driving gear the measured one. Two spans over neighbouring counts tell the base pitch."
    )
    note.setStyleSheet(th.label_style(theme, "muted", th.SMALL))
    note.setWordWrap(True)
    column.addWidget(note)
    return sheet


def fit_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """Counts that fit a centre distance and a ratio; module or count for a wanted diameter."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText("What is fixed: centre distance or diameter")
    sheet.setAccessibleName("Counts for a fixed centre distance, ways to a wanted diameter")
    k, system = session.stage, session.system
    stage = session.results.stages[k]
    column = sheet.add_column()
    unit = screen_unit(UNITS["length"].display_unit(system))

    def entry(row: QHBoxLayout, words: str, name: str, text: str) -> QLineEdit:
        label = QLabel(words)
        label.setStyleSheet(th.label_style(theme, "muted", th.SMALL))
        line = QLineEdit(text)
        line.setObjectName(name)
        line.setAccessibleName(words)
        line.setMaximumWidth(110)
        row.addWidget(label)
        row.addWidget(line)
        return line

    def heading(text: str) -> None:
        label = QLabel(text)
        label.setStyleSheet(th.label_style(theme, "copper", bold=True))
        column.addWidget(label)

    def find_button(row: QHBoxLayout, name: str, run: Callable[[], None]) -> None:
        button = QPushButton("List")
        button.setObjectName(name)
        button.clicked.connect(run)
        row.addWidget(button)
        row.addStretch(1)

    heading("Counts for a centre distance and a ratio")
    row = QHBoxLayout()
    duty = session.design.train.duty
    whole = len(session.results.stages) == 1 and duty.u_wanted
    # What does not turn has no ratio; the search says so.
    ratio = duty.u_wanted if whole and duty.u_wanted else abs(stage.mesh.get("u", 1.0))
    a_w = entry(row, f"centre distance, {unit}", "fit_a_w", number(stage.mesh.a_w, "length", system))
    u = entry(row, "ratio", "fit_u", f"{ratio:.6g}")
    tol = entry(row, "± %", "fit_tol", f"{duty.u_tol:g}")
    counts = Finder(sheet, "fit", ("m_n, mm", "z_1", "z_2", "β, °", "Σx needed", "ratio off, %", "met by"))

    def list_counts() -> None:
        def find() -> list[tuple[tuple[str, ...], str, Design]]:
            found = fits(
                session.design,
                session.results,
                k,
                parse(a_w.text(), "length", system, quantity="a_w"),
                parse(u.text(), "factor", system, quantity="u"),
                parse(tol.text(), "factor", system, quantity="tolerance"),
            )
            return [
                (
                    (f"{f.m_n:g}", str(f.z_1), str(f.z_2), f"{f.beta:.4g}", f"{f.x_sum:+.3f}", f"{f.du:+.2f}", f.by),
                    f"{f.z_1}/{f.z_2}, m {f.m_n:g}",
                    f.design,
                )
                for f in found
            ]

        counts.show(find)

    find_button(row, "fit_list", list_counts)
    column.addLayout(row)
    column.addWidget(counts.table, 3)
    column.addWidget(counts.words)

    heading("Module or tooth count for a diameter")
    row = QHBoxLayout()
    which = QComboBox()
    which.setObjectName("reach_which")
    for i in (1, 2):
        for symbol, words in (("d", "reference"), ("d_a", "outside" if not stage.kinds[i - 1].inward else "inner")):
            which.addItem(f"{words} diameter of gear {i}", (i, symbol))
    row.addWidget(which)
    diameter = entry(row, unit, "reach_d", number(stage.gears[0].d, "length", system))
    ways = Finder(sheet, "reach", ("by", f"gives, {unit}"))
    ways.table.setMaximumHeight(100)

    def list_ways() -> None:
        def find() -> list[tuple[tuple[str, ...], str, Design]]:
            i, symbol = which.currentData()
            wanted = parse(diameter.text(), "length", system, quantity=f"{symbol}{i}")
            found = reach(session.design, session.results, k, i, symbol, wanted)
            return [((w.words, number(w.value, "length", system)), w.words, w.design) for w in found]

        ways.show(find)

    def renew_diameter() -> None:
        i, symbol = which.currentData()
        diameter.setText(number(session.results.stages[k].gears[i - 1][symbol], "length", system))

    which.currentIndexChanged.connect(lambda _n: renew_diameter())
    find_button(row, "reach_list", list_ways)
    column.addLayout(row)
    column.addWidget(ways.table, 1)
    column.addWidget(ways.words)
    for line, run in ((a_w, list_counts), (u, list_counts), (tol, list_counts), (diameter, list_ways)):
        line.returnPressed.connect(run)
    assert isinstance(column, QVBoxLayout)
    list_counts()
    return sheet


register_sheet(
    SheetEntry(
        "fit_teeth",
        "Counts for a fixed centre distance, module for a diameter",
        "Ctrl+6",
        lambda w: fit_sheet(w.session, w.theme, w.bench),
        (640, 560),
        6,
    )
)
register_sheet(
    SheetEntry(
        "match", "Match a measured gear", "Ctrl+9", lambda w: match_sheet(w.session, w.theme, w.bench), (680, 560), 7
    )
)

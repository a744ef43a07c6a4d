"""Sheets that open over the Bench: the duty, all data of a gear, the mesh. Built of the same tags as the drawing."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from functools import partial
from itertools import pairwise
from typing import Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QGuiApplication, QKeyEvent
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)  # fmt: skip
from shiboken6 import isValid

from cooper.desk.frame import theme as th
from cooper.desk.frame.session import Session
from cooper.desk.widgets.tag import Tag
from cooper.desk.widgets.typeset import html
from cooper.document.models import Design
from cooper.document.plain import get_at
from cooper.document.quantities import parts
from cooper.document.units import number_with_unit
from cooper.editing.edit import set_many
from cooper.editing.fields import Field, duty_fields, member_path, mesh_fields
from cooper.errors import OutOfRange
from cooper.exchange.dimension_sheet import Row, dimension_rows, dimension_text
from cooper.rating.iso6336.uneven_load import ARRANGEMENTS, MODIFICATIONS
from cooper.stock.agma_tables import table
from cooper.stock.fits import grades, symmetric
from cooper.stock.lubricants import oils
from cooper.stock.materials import is_plastic

Option = tuple[str, Callable[[Design], Design]]


class Choice(QPushButton):
    """A value picked from a list: shows the present one, opens the list on click or Enter."""

    def __init__(
        self,
        session: Session,
        key: str,
        meaning: str,
        now: Callable[[Design], str],
        options: Callable[[], list[Option]],
    ) -> None:
        super().__init__()
        self.session, self.key, self.now, self.options, self.meaning = session, key, now, options, meaning
        self.setObjectName(f"choice_{key}")
        self.setAccessibleName(meaning)
        self.clicked.connect(self._open)
        self.refresh()

    def refresh(self) -> None:
        self.setText(self.now(self.session.design))

    def _open(self) -> None:
        menu = QMenu(self)
        for words, change in self.options():
            menu.addAction(words, partial(self.pick, words, change))
        menu.exec(self.mapToGlobal(self.rect().bottomLeft()))

    def pick(self, words: str, change: Callable[[Design], Design]) -> None:
        self.session.edit(lambda d, _r: change(d), words, self.key)


class Sheet(QFrame):
    """Columns of named groups of tags and choices; Escape closes it."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme
        self.setObjectName("sheet")
        self.fields: dict[str, Tag] = {}
        self.choices: list[Choice] = []
        # Makes the fields anew where they depend on the design, as a hardness does on its scale.
        self.renew: Callable[[], dict[str, Field]] | None = None
        self.rebuild: Callable[[], None] = lambda: None
        self._places: list[QWidget] = []
        outer = QVBoxLayout(self)
        outer.setContentsMargins(18, 12, 10, 12)
        head = QHBoxLayout()
        self.title = QLabel()
        self.title.setStyleSheet(th.label_style(theme, "ink", th.TITLE, bold=True))
        close = QPushButton("Close  Esc")
        close.setObjectName("sheet_close")
        close.setProperty("plain", True)
        close.clicked.connect(self.dismiss)
        head.addWidget(self.title)
        head.addStretch(1)
        head.addWidget(close)
        outer.addLayout(head)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.inside = QWidget()
        self.columns = QHBoxLayout(self.inside)
        self.columns.setContentsMargins(0, 4, 0, 0)
        self.columns.setSpacing(26)
        area.setWidget(self.inside)
        outer.addWidget(area, 1)
        session.changed.connect(self.refresh)
        session.system_changed.connect(self.refresh)

    def add_column(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(4)
        self.columns.addLayout(column)
        return column

    def add_group(self, column: QVBoxLayout, title: str, rows: list[Field | Choice]) -> None:
        """A titled group of rows, each with its meaning at the left and its tag at the right."""
        head = QLabel(title)
        head.setStyleSheet(th.label_style(self.theme, "copper", bold=True))
        column.addWidget(head)
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(4)
        for n, row in enumerate(rows):
            meaning = QLabel(html(row.meaning))
            meaning.setStyleSheet(th.label_style(self.theme, "muted", th.SMALL))
            meaning.setWordWrap(True)
            meaning.setMaximumWidth(190)
            if isinstance(row, Choice):
                self.choices.append(row)
                widget: QWidget = row
            else:
                widget = self.fields[row.key] = Tag(self.session, row, self.theme, self.inside)
            self._places.append(widget)
            grid.addWidget(meaning, n, 0)
            grid.addWidget(widget, n, 1, Qt.AlignmentFlag.AlignLeft)
        grid.setColumnStretch(0, 1)
        column.addLayout(grid)
        column.addSpacing(8)

    def finish(self) -> None:
        """Close the columns and let Tab run down each of them in turn."""
        for a, b in pairwise(self._places):
            QWidget.setTabOrder(a, b)
        for k in range(self.columns.count()):
            item = self.columns.itemAt(k)
            layout = item.layout() if item else None
            if isinstance(layout, QVBoxLayout):
                layout.addStretch(1)

    def refresh(self) -> None:
        fresh = self.renew() if self.renew else {}
        if self.renew is not None and not self.shows(fresh):
            # Another material has other fields: the sheet is made anew once this edit is done.
            QTimer.singleShot(0, self.rebuild)
            fresh = {}
        for key, tag in self.fields.items():
            tag.refresh(fresh.get(key))
        for choice in self.choices:
            choice.refresh()

    def shows(self, fields: dict[str, Field]) -> bool:
        """Whether just these fields stand on the sheet."""
        return set(fields) == set(self.fields)

    def dismiss(self) -> None:
        self.hide()
        self.deleteLater()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.dismiss()
        else:
            event.ignore()


def setting(changes: dict[str, Any]) -> Callable[[Design], Design]:
    """The edit that sets values at paths."""
    return lambda d: set_many(d, changes)


def path_choice(session: Session, key: str, meaning: str, path: str, words: dict[object, str]) -> Choice:
    """A choice among fixed values at a path of the document."""

    def options() -> list[Option]:
        return [(w, setting({path: v})) for v, w in words.items()]

    def now(d: Design) -> str:
        try:
            value = get_at(d, path)
        except (IndexError, AttributeError):
            return ""
        return words.get(value, str(value))

    return Choice(session, key, meaning, now, options)


def duty_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """The duty of the train and what holds for all its stages."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText("Duty")
    sheet.setAccessibleName("Duty")
    fields = duty_fields()

    def oil_options() -> list[Option]:
        base = "train.defaults.lubricant"
        return [
            (name, setting({
                f"{base}.name": o.name, f"{base}.nu_40": float(o.nu_40), f"{base}.nu_100": float(o.nu_100),
                f"{base}.rho_15": float(o.rho_15), f"{base}.X_L": o.X_L,
                f"{base}.kind": o.kind,
            }))
            for name, o in oils().items()
        ]  # fmt: skip

    film = path_choice(session, "oil_kind", "kind of oil", "train.defaults.lubricant.kind",
                       {"mineral": "mineral", "polyalphaolefin": "polyalphaolefin", "polyglycol": "polyglycol"})  # fmt: skip
    direction = path_choice(session, "direction", "input turns, as drawn", "train.duty.direction",
                            {"counter-clockwise": "counter-clockwise", "clockwise": "clockwise"})  # fmt: skip
    oil = Choice(session, "oil", "oil", lambda d: d.train.defaults.lubricant.name, oil_options)
    pitting = path_choice(session, "pitting", "some pitting allowed", "train.defaults.pitting_allowed",
                          {False: "no", True: "a limited amount"})  # fmt: skip
    left, middle, right = sheet.add_column(), sheet.add_column(), sheet.add_column()
    method = path_choice(session, "strength_method", "governing strength method", "train.defaults.method",
                         {"ISO 6336:2019": "ISO 6336:2019", "ANSI/AGMA 2101-D04": "ANSI/AGMA 2101-D04"})  # fmt: skip
    reliability = path_choice(session, "reliability", "reliability (AGMA)", "train.defaults.reliability",
                              {r: f"{r} (Y_Z = {y:g})" for r, y in table("reliability").items()})  # fmt: skip
    service = path_choice(session, "critical_service", "life curves (AGMA)", "train.defaults.critical_service",
                          {False: "general applications", True: "critical service"})  # fmt: skip
    lubrication = path_choice(session, "lubrication", "how the oil reaches the teeth", "train.defaults.lubrication",
                              {"dip": "gears dip into it", "spray": "sprayed on", "submerged": "gears submerged"})  # fmt: skip
    sheet.add_group(left, "What comes in", [*fields["What comes in"].values(), direction])
    sheet.add_group(left, "What is wanted", list(fields["What is wanted"].values()))
    sheet.add_group(left, "Method", [method, reliability, service])
    sheet.add_group(middle, "Oil", [oil, film, *fields["Oil"].values(), lubrication])
    sheet.add_group(middle, "Temperatures in service", list(fields["Temperatures in service"].values()))
    sheet.add_group(right, "Required of every stage", [*fields["Required of every stage"].values(), pitting])
    sheet.finish()
    return sheet


def dimension_sheet(session: Session, theme: th.Theme, parent: QWidget, i: int) -> Sheet:
    """Everything about gear i (1, 2) that belongs on its drawing; follows the design, copied as a table."""
    sheet = Sheet(session, theme, parent)
    k = session.stage
    name = get_at(session.design, member_path(session.design, k, i)).name
    sheet.title.setText(f"{name[:1].upper()}{name[1:]}: dimension sheet")
    sheet.setAccessibleName(f"Dimension sheet of {name}")
    table = QLabel()
    table.setObjectName("dimension_table")
    table.setTextFormat(Qt.TextFormat.RichText)
    table.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
    column = sheet.add_column()
    column.addWidget(table)

    def rows() -> list[Row]:
        return dimension_rows(session.design, k, session.results.stages[k], i)

    def fill() -> None:
        if not isValid(table):
            return
        lines, group = [], ""
        for row in rows():
            if row.group != group:
                group = row.group
                lines.append(
                    f"<tr><td colspan=3 style='color:{theme.copper}; padding-top:5px'><b>{group}</b></td></tr>"
                )
            symbol = html(row.symbol) if "_" in row.symbol else f"<i>{parts(row.symbol)[0]}</i>"
            lines.append(
                f"<tr><td style='color:{theme.muted}; padding-right:24px'>{html(row.meaning)}</td>"
                f"<td style='padding-right:24px'>{symbol}</td><td><b>{row.text(session.system)}</b></td></tr>"
            )
        table.setText(f"<table cellspacing=0 cellpadding=1>{''.join(lines)}</table>")

    copy = QPushButton("Copy as a table")
    copy.setObjectName("copy_dimensions")
    copy.clicked.connect(lambda: QGuiApplication.clipboard().setText(dimension_text(rows(), session.system)))
    column.addWidget(copy, alignment=Qt.AlignmentFlag.AlignLeft)
    session.changed.connect(fill)
    session.system_changed.connect(fill)
    fill()
    sheet.finish()
    return sheet


def mesh_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """The data of the mesh that do not stand on the drawing."""
    sheet = Sheet(session, theme, parent)
    k = session.stage
    hidden = _unused(session.design, k)
    fields = mesh_fields(session.design, k)
    # Another method has other entries: the sheet is made anew with those that count.
    sheet.renew = lambda: {key: f for key, f in mesh_fields(session.design, k).items() if key not in _unused(session.design, k)}
    sheet.title.setText("The mesh")
    sheet.setAccessibleName("All data of the mesh")
    left, right = sheet.add_column(), sheet.add_column()
    base = f"train.stages.{k}.meshes.0"

    def choice(name: str, meaning: str, words: dict[object, str]) -> Choice:
        return path_choice(session, name, meaning, f"{base}.{name}", words)

    def used(*names: str) -> list[Field | Choice]:
        return [fields[n] for n in names if n not in hidden]

    def class_options() -> list[Option]:
        a_w = session.results.stages[k].mesh.a_w
        found: list[Option] = []
        for grade in grades():
            with suppress(OutOfRange):
                upper, lower = symmetric(a_w, grade)
                found.append((f"js{grade}  ±{number_with_unit(upper, 'allowance', session.system)}", setting({f"{base}.A_as": upper, f"{base}.A_ai": lower})))
        return found

    def class_now(design: Design) -> str:
        now = design.train.stages[k].meshes[0]
        a_w = session.results.stages[k].mesh.a_w
        for grade in grades():
            with suppress(OutOfRange):
                if symmetric(a_w, grade) == (now.A_as, now.A_ai):
                    return f"js{grade}  ±{number_with_unit(now.A_as, 'allowance', session.system)}"
        return "as entered"

    distance_class = Choice(session, "distance_class", "class of ISO 286", class_now, class_options)
    sheet.add_group(left, "Centre distance allowances", [distance_class, fields["A_as"], fields["A_ai"]])
    hand = choice("hand", "helix of the driving gear", {"right": "right hand", "left": "left hand"})
    halves = choice("double_helix", "helix", {False: "single", True: "double, halves of opposite hand"})
    sheet.add_group(left, "Helix", [hand, halves, *used("b_gap", "f_ZCa")])
    at: dict[object, str] = {"by quality": "as the quality allows", "outer single contact": "outer point of single contact", "tip": "tip"}
    sheet.add_group(left, "Root", [choice("load_at", "root rated with the load at", at)])
    mounted: dict[object, str] = {name: row["words"] for name, row in table("mounting").items()}
    sheet.add_group(right, "AGMA 2101", [
        choice("mounting", "mounting", mounted), choice("adjusted", "contact at assembly", {False: "as made", True: "adjusted or lapped"}),
        fields["K_s"], fields["A_v"],
    ])  # fmt: skip
    sheet.add_group(left, "Load factors", [
        fields["K_gamma"],
        choice("K_V_method", "dynamic factor K_V", {"C": "method C, simplified", "B": "method B, resonance"}),
        choice("K_Hbeta_method", "face load factor", {"entered": "entered", "C": "method C, from the shafts", "f_sh": "from their misalignment, entered"}),
        *used("K_Hbeta", "f_sh"),
        choice("K_Halpha_method", "transverse load factors", {"entered": "entered", "B": "method B, from the pitch"}),
        *used("K_Halpha"),
    ])  # fmt: skip
    methods: dict[object, str] = {None: "of the train", "ISO 6336:2019": "ISO 6336:2019", "ANSI/AGMA 2101-D04": "ANSI/AGMA 2101-D04"}
    third = sheet.add_column()
    sheet.add_group(third, "In place of the train's defaults", [
        path_choice(session, "own_method", "strength method", f"train.stages.{k}.own.method", methods),
        *(f for key, f in fields.items() if key.startswith("own_")),
    ])  # fmt: skip
    if "mu_pl" not in hidden:
        sheet.add_group(left, "Plastic gears", used("mu_pl"))
    if "l_sh" not in hidden:
        places: dict[object, str] = {name: f"{name}: {v[2]}" for name, v in ARRANGEMENTS.items()}
        sheet.add_group(right, "Pinion's shaft", [choice("arrangement", "place of the pinion", places), *used("l_sh", "s_sh", "d_sh")])
        stiff: dict[object, str] = {"stiff": "taken as stiff", "counted": "bends too"}
        place = [choice("arrangement_2", "place of the wheel", places)] if "l_sh2" not in hidden else []
        sheet.add_group(right, "Wheel's shaft", [choice("wheel_shaft", "the shaft", stiff), *place, *used("l_sh2", "s_sh2", "d_sh2")])
    if "F_beta" not in hidden:
        helices: dict[object, str] = {name: v[2] for name, v in MODIFICATIONS.items()}
        sheet.add_group(right, "Along the width", [choice("helix_modification", "helix modification", helices)])
    if "C_a" not in hidden:
        sheet.add_group(right, "Profile", used("C_a"))
    sheet.finish()
    return sheet


def _unused(design: Design, stage: int) -> set[str]:
    """Entries of a mesh that nothing is computed from, by the methods chosen and the helix."""
    mesh = design.train.stages[stage].meshes[0]
    return {
        *([] if mesh.K_Hbeta_method == "entered" else ["K_Hbeta"]), *([] if mesh.K_Hbeta_method == "f_sh" else ["f_sh"]),
        *([] if mesh.K_Hbeta_method == "C" else ["l_sh", "s_sh", "d_sh"]), *(["F_beta"] if mesh.K_Hbeta_method == "entered" else []),
        *([] if mesh.K_Hbeta_method == "C" and mesh.wheel_shaft == "counted" else ["l_sh2", "s_sh2", "d_sh2"]),
        *(["K_Halpha"] if mesh.K_Halpha_method != "entered" else []), *(["C_a"] if mesh.K_V_method != "B" else []),
        *([] if any(is_plastic(g.material.group) for g in design.train.stages[stage].members) else ["mu_pl"]),
        *([] if mesh.double_helix else ["b_gap"]), *([] if mesh.beta > 0 else ["f_ZCa"]),
    }  # fmt: skip

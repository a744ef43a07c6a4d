"""The entries of the survey panel: its rows, an entry field, materials as lines of text."""

from __future__ import annotations

import re
from typing import Any

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QLineEdit

from cooper.desk.base import theme as th
from cooper.desk.widgets.tag import HEIGHT
from cooper.desk.widgets.typeset import advance
from cooper.document.gear_data import Material
from cooper.document.survey_spec import MaterialChoice
from cooper.document.units import number_with_unit, parse
from cooper.errors import OutOfRange
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.stock.materials import groups

ENTRIES: dict[str, tuple[str, str]] = {
    "power": (tr("power or torque"), "power"),
    "n": (tr("speed at the input"), "speed"),
    "u_wanted": (tr("wanted ratio"), "factor"),
    "u_tol": (tr("tolerance of the ratio"), "share"),
    "L_h": (tr("life"), "time"),
    "K_A": (tr("shocks: application factor K_A"), "factor"),
    "a_w": (tr("given centre distance"), "length"),
    "a_most": (tr("centre distance at most"), "length"),
    "d_most": (tr("outside diameter at most"), "length"),
    "b_most": (tr("width of all stages at most"), "length"),
    "l_most": (tr("length across the axes at most"), "length"),
    "A_h": (tr("area of the housing; with it all losses count"), "area"),
    "theta_most": (tr("oil temperature at most"), "temperature"),
    "z_least": (tr("tooth count of a pinion or sun, from"), "count"),
    "z_pinion": (tr("tooth count of a pinion or sun, to"), "count"),
    "z_most": (tr("tooth count of a wheel at most"), "count"),
    "z_ring": (tr("tooth count of a ring at most"), "count"),
    "m_low": (tr("module, from"), "module"),
    "m_high": (tr("module, to"), "module"),
    "m_step": (tr("step of the module, else standard"), "module"),
    "modules": (tr("modules there are tools for"), "list"),
    "beta_low": (tr("helix angle, from"), "angle"),
    "beta_high": (tr("helix angle, to"), "angle"),
    "beta_step": (tr("step of the helix angle"), "angle"),
    "x_low": (tr("sum of shifts, from"), "factor"),
    "x_high": (tr("sum of shifts, to"), "factor"),
    "x_step": (tr("step of the sum of shifts"), "factor"),
    "b_m_low": (tr("width in modules, from"), "factor"),
    "b_m_high": (tr("width in modules, to"), "factor"),
    "b_steps": (tr("steps of the width"), "count"),
    "b_d_high": (tr("width over diameter at most"), "factor"),
    "b_round": (tr("widths rounded up to"), "length"),
    "planets": (tr("numbers of planets"), "list"),
    "classes": (tr("flank classes that are tried"), "list"),
    "lean": (tr("ratio of a stage over the next one's at most"), "factor"),
    "K_Hbeta": (tr("face load factor"), "factor"),
    "most": (tr("candidates rated, at most"), "count"),
}
"""What is typed, by key: its words and its kind."""
FIXED = ("a_w", "a_most", "d_most", "b_most", "l_most", "A_h", "theta_most")
"""Dimensions that are fixed from outside, if any."""
EMPTY = {
    **dict.fromkeys(FIXED, tr("any")),
    "m_step": tr("standard"),
    "modules": tr("all"),
    "classes": tr("as made"),
    "K_Hbeta": tr("customary"),
}
"""What stands where nothing is typed."""


MAY_LACK = ("m_step", "K_Hbeta", *FIXED)
"""What may be left empty."""


MATTERS = ("factor", "even", "undercut", "clash", "S_B", "S_int", "s_anE", "eps_alpha", "c_pl", "du", "theta_bal")
"""Rules that can be shown only."""


BETWEEN = " | "
"""What stands between materials that are tried in turn."""


def _short(m: Material) -> str:
    return tr("{group} {grade} {hardness:g}", group=m.group, grade=m.grade, hardness=m.hardness)


def material_line(choice: MaterialChoice) -> str:
    """Materials as they are typed: those that are the same as the one before are left out at the end.

    >>> from cooper.document.survey_spec import asked
    >>> material_line(asked(process="ground").materials[0])
    'Eh MQ 700; Eh MQ 700; NT MQ 750'
    """
    names = [_short(choice.pinion), _short(choice.wheel)] + ([_short(choice.ring)] if choice.ring is not None else [])
    while len(names) > 1 and names[-1] == names[-2]:
        names.pop()
    return join("; ", names)


def read_material_line(text: str) -> MaterialChoice:
    """What was typed as group, grade and hardness, of pinion; wheel; ring. Raises `OutOfRange` with what there is."""
    result: list[Material] = []
    for part in text.split(";"):
        match = re.fullmatch(r"\s*(.+?)\s+(ML|MQ|ME|typical|along layers|across layers)\s+([0-9.]+)\s*", part)
        if match is None or match[1] not in groups():
            there = join(", ", groups())
            raise OutOfRange(
                "material",
                part.strip()[:40],
                tr("a material is typed as group, grade, hardness, as Eh MQ 700; groups are {there}", there=there),
            )
        try:
            result.append(
                Material.from_data(
                    {"group": match[1], "grade": match[2], "hardness": float(match[3])}, whole=tr("the survey")
                )
            )
        except ValueError as error:
            raise OutOfRange("material", part.strip()[:40], str(error)) from error
    if len(result) > 3:
        raise OutOfRange("material", text.strip()[:40], tr("a line holds pinion; wheel; ring"))
    return MaterialChoice(
        pinion=result[0], wheel=result[min(1, len(result) - 1)], ring=result[2] if len(result) > 2 else None
    )


class Entry(QLineEdit):
    """A value that is typed with its unit; empty where none is given."""

    def __init__(self, key: str, words: str, kind: str) -> None:
        super().__init__()
        self.key, self.words, self.kind = key, words, kind
        self.setObjectName(f"ask_{key}")
        self.setAccessibleName(translate(words))
        self.setMaxLength(200)
        self.setProperty("calm", True)
        self.setToolTip(translate(words))
        self.textChanged.connect(lambda _text: self.updateGeometry())

    def sizeHint(self) -> QSize:
        """As wide as what stands in it: it is a word in a sentence."""
        text = self.text() or self.placeholderText()
        return QSize(round(min(max(advance(text, self.font()) + 22, 46), 520)), HEIGHT)

    def show_value(self, value: Any, system: str) -> None:
        """Show a value in the unit of the screen."""
        if value is None:
            self.setText("")
        elif self.kind == "list":
            self.setText(translate(join(" ", (tr("{v:g}", v=v) for v in value))))
        else:
            self.setText(translate(number_with_unit(float(value), self.kind, system).rstrip()))
        self.mark("")

    def value(self, system: str) -> Any:
        """What was typed; raises `OutOfRange` where it cannot be read."""
        text = self.text().strip()
        if self.kind == "list":
            try:
                return [float(part) for part in text.replace(",", " ").split()]
            except ValueError as error:
                raise OutOfRange(
                    self.words, text[:40], tr("numbers with spaces between them are wanted here")
                ) from error
        if not text:
            return None
        result = parse(text, self.kind, system, self.words)
        if self.kind == "count" and result != int(result):
            raise OutOfRange(self.words, text[:40], tr("a whole number is needed"))
        return int(result) if self.kind == "count" else result

    def mark(self, fault: str) -> None:
        """Show that what stands here cannot be, and why; empty takes it back."""
        th.set_style(self, "fault", "true" if fault else "")
        self.setToolTip(translate(fault or self.words))

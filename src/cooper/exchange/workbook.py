"""The whole design as a spreadsheet, a record of one state: what is entered, what comes of it, the checks and the
flank points.

Margins, verdicts and some plain relations are formulas, and marked; a formula stands in a cell only where it gives the
value that the program found; the value is kept with it.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from math import cos, isfinite, pi, radians, sin, sqrt, tan
from pathlib import Path
from typing import Any

from cooper.document.base import Model, rules_of
from cooper.document.models import Design
from cooper.document.quantities import QUANTITIES
from cooper.document.units import KINDS
from cooper.errors import OutOfRange
from cooper.exchange.flank_csv import flank_points
from cooper.exchange.loaded_tables import loaded_tables
from cooper.exchange.statement import statement
from cooper.i18n.text import term, tr
from cooper.results.assembly_steps import assembly_steps
from cooper.results.check_types import THIN
from cooper.results.comparison_notes import all_notes
from cooper.results.parts_list import parts_list
from cooper.results.result_tree import Check, Results, StageResults

NAME = re.compile(r"[A-Za-z_]+[0-9]*(?:_[A-Za-z0-9]+)*'?")
OWN = {
    "d": "z * m_n / COS(RADIANS(beta))",
    "d_b": "d * COS(RADIANS(alpha_t))",
    "m_t": "m_n / COS(RADIANS(beta))",
    "p_n": "PI() * m_n",
    "s_n": "m_n * (PI() / 2 + 2 * x * TAN(RADIANS(alpha_n)))",
    "h": "(d_a - d_f) / 2",
}
"""Values of a gear by its own symbols and the mesh's."""
MESH = {
    "u": "z_2 / z_1",
    "p_t": "PI() * m_n / COS(RADIANS(beta))",
    "m_t": "m_n / COS(RADIANS(beta))",
    "p_et": "p_t * COS(RADIANS(alpha_t))",
    "a": "(z_1 + z_2) * m_n / COS(RADIANS(beta)) / 2",
    "eps_alpha": "g_alpha / p_et",
    "eps_gamma": "eps_alpha + eps_beta",
    "F_bt": "F_t / COS(RADIANS(alpha_t))",
    "g_alpha": "g_E - g_A",
}
"""Values of a mesh by its own symbols and those of the gears, which end in _1 and _2."""
SAFETIES = {"S_F": "sigma_FG / sigma_F", "S_H": "sigma_HG / sigma_H"}
LIVE, ENTERED = "#E4EDF2", "#1F4E79"
"""Behind the cells that are formulas; of the values that are entered."""
RECORD = tr(
    "A record of this state. Nothing is worked out anew from the sheet Entered: change the "
    "design in Cooper and write the file again. Cells with this ground are formulas of other "
    "cells (margins, verdicts, plain relations of a stage, x and y of flanks); all others stand "
    "as they were worked out."
)
"""What the first sheet says of the book."""
KNOWN: dict[str, Any] = {"COS": cos, "SIN": sin, "TAN": tan, "RADIANS": radians, "SQRT": sqrt, "PI": lambda: pi}


HEADS = 5
"""Row of the heads on the sheet of checks, from 0."""


def write_workbook(design: Design, results: Results, path: Path, loaded: tuple[str, ...] = ()) -> None:
    """Write the workbook (.xlsx), with tables of the loaded teeth that are wanted (`loaded_tables.TABLES`)."""
    import xlsxwriter

    # Nothing of what a person wrote is taken for a formula or an address.
    options = {"strings_to_formulas": False, "strings_to_urls": False, "nan_inf_to_errors": False}
    book = xlsxwriter.Workbook(str(path), options)
    book.set_properties(
        {
            "title": design.name,
            "comments": tr("{design}; values in the units that stand beside them", design=statement(design)),
        }
    )
    looks = {
        "head": book.add_format({"bold": True, "bottom": 1}),
        "number": book.add_format({"num_format": "0.#####"}),
        "live": book.add_format({"num_format": "0.#####", "bg_color": LIVE}),
        "verdict": book.add_format({"bg_color": LIVE}),
        "entered": book.add_format({"num_format": "0.#####", "font_color": ENTERED}),
        "title": book.add_format({"bold": True, "font_size": 14}),
        "short": book.add_format({"bold": True, "font_color": "#A3302B"}),
        "thin": book.add_format({"font_color": "#8A5A10"}),
        "record": book.add_format({"text_wrap": True, "valign": "top", "bg_color": LIVE}),
        "words": book.add_format({"text_wrap": True, "valign": "top"}),
    }
    _overview(book, looks, design, results)
    _inputs(book, looks, design)
    for k, stage in enumerate(results.stages):
        _stage(book, looks, k, stage)
        _flank(book, looks, k, stage)
        if loaded:
            _loaded(book, looks, k, design, results, loaded)
    if results.machine is not None:
        _parts(book, looks, design, results)
    notes = book.add_worksheet(tr("Notes"))
    notes.set_column(0, 0, 10)
    notes.set_column(1, 1, 8)
    notes.set_column(2, 2, 120)
    notes.write_row(0, 0, ["kind", "stage", tr("text")], looks["head"])
    for row, note in enumerate(all_notes(results), 1):
        notes.write_row(row, 0, [note.level, "" if note.stage is None else note.stage + 1])
        notes.write(row, 2, note.text, looks["words"])
    book.close()


def _parts(book: Any, looks: dict[str, Any], design: Design, results: Results) -> None:
    """The parts list of the machine, with its mass as a formula."""
    assert results.machine is not None
    sheet = book.add_worksheet(tr("Parts"))
    heads = [tr("item"), tr("count"), tr("part"), tr("designation"), tr("material"), tr("mass of one, kg")]
    sheet.write_row(0, 0, [*heads, tr("mass, kg"), tr("on")], looks["head"])
    items = parts_list(design, results, results.machine)
    for row, i in enumerate(items, 1):
        sheet.write_row(row, 0, [row, i.count, i.name, i.designation, i.material])
        sheet.write_number(row, 5, i.mass, looks["number"])
        sheet.write_formula(row, 6, f"=B{row + 1}*F{row + 1}", looks["live"], i.count * i.mass)
        sheet.write(row, 7, i.on)
    last = len(items)
    sheet.write(last + 1, 4, tr("in all, kg"), looks["head"])
    total = sum(i.count * i.mass for i in items)
    sheet.write_formula(last + 1, 6, "=" + "+".join(f"G{n + 2}" for n in range(last)), looks["live"], total)
    for column, width in ((2, 26), (3, 30), (4, 30), (5, 16), (6, 12), (7, 30)):
        sheet.set_column(column, column, width)
    steps = book.add_worksheet(tr("Assembly"))
    steps.write_row(0, 0, [tr("step"), tr("where"), tr("order of assembly")], looks["head"])
    for row, step in enumerate(assembly_steps(results.machine), 1):
        steps.write_row(row, 0, [row, step.where, step.words])
    steps.set_column(1, 1, 20)
    steps.set_column(2, 2, 70)


def margin_formula(check: Check, row: int) -> str:
    """The margin of a check from its value and limit in columns E and F of a row (from 1), where it follows from
    these alone; else empty."""
    ways = {"at least": (check.value / check.limit - 1 if check.limit else None, f"=E{row}/F{row}-1")}
    ways["at most"] = (1 - check.value / check.limit if check.limit else None, f"=1-E{row}/F{row}")
    result, formula = ways[check.sense]
    return formula if result is not None and abs(result - check.margin) < 1e-9 else ""


def verdict_formula(cell: str) -> str:
    """The verdict of a margin in a cell, by the rule of `verdict_of`.

    >>> verdict_formula("I6")
    '=IF(I6<0,"short",IF(I6<=0.1,"thin","holds"))'
    """
    return f'=IF({cell}<0,"short",IF({cell}<={THIN:g},"thin","holds"))'


def _overview(book: Any, looks: dict[str, Any], design: Design, results: Results) -> None:
    sheet = book.add_worksheet(tr("Checks"))
    sheet.write(0, 0, design.name, looks["title"])
    sheet.write(1, 0, statement(design))
    sheet.write(2, 0, tr("Verdict of this state, notes counted: {verdict}", verdict=term(results.verdict)))
    sheet.merge_range(3, 0, 3, 9, RECORD, looks["record"])
    sheet.set_row(3, 32)
    sheet.write_row(
        HEADS,
        0,
        [
            "stage",
            "symbol",
            tr("of gear"),
            "check",
            tr("value"),
            tr("limit"),
            "sense",
            "unit",
            tr("margin"),
            tr("verdict"),
        ],
        looks["head"],
    )
    for row, check in enumerate(results.checks, HEADS + 1):
        stage = "" if check.stage is None else results.stages[check.stage].name
        sheet.write_row(row, 0, [stage, check.symbol, "" if check.index is None else check.index, check.label])
        for column, value in ((4, check.value), (5, check.limit)):
            if isfinite(value):
                sheet.write_number(row, column, value, looks["number"])
        sheet.write_row(row, 6, [check.sense, KINDS[check.kind].document])
        formula = margin_formula(check, row + 1)
        if formula:
            sheet.write_formula(row, 8, formula, looks["live"], check.margin)
        elif isfinite(check.margin):
            sheet.write_number(row, 8, check.margin, looks["number"])
        if isfinite(check.margin):
            sheet.write_formula(row, 9, verdict_formula(f"I{row + 1}"), looks["verdict"], check.verdict)
        else:
            sheet.write(row, 9, check.verdict)
    last = HEADS + len(results.checks)
    for word in ("short", "thin"):
        rule = {"type": "cell", "criteria": "==", "value": f'"{word}"', "format": looks[word]}
        sheet.conditional_format(HEADS + 1, 9, last, 9, rule)
    sheet.freeze_panes(HEADS + 1, 0)
    sheet.autofilter(HEADS, 0, last, 9)
    for column, width in ((0, 18), (3, 34), (4, 12), (5, 12)):
        sheet.set_column(column, column, width)


def entered(value: Model, path: str = "") -> Iterator[tuple[str, Any, str, str]]:
    """Everything that is entered below a model: place, value, unit, meaning; places as formulas and files name them."""
    for name, rule in rules_of(type(value)).items():
        one, place = getattr(value, name), f"{path}.{name}" if path else name
        if isinstance(one, Model):
            yield from entered(one, place)
        elif isinstance(one, tuple):
            for n, part in enumerate(one):
                if isinstance(part, Model):
                    yield from entered(part, f"{place}.{n}")
        elif isinstance(one, dict):
            for key, part in one.items():
                if isinstance(part, Model):
                    yield from entered(part, f"{place}.{key}")
        elif isinstance(one, bool | int | float | str) or one is None:
            extra = rule.extra_json_schema or {}
            yield place, one, str(extra.get("unit", "")), term(rule.description or "")


def _inputs(book: Any, looks: dict[str, Any], design: Design) -> None:
    sheet = book.add_worksheet(tr("Entered"))
    sheet.write_row(0, 0, [tr("place in the design"), tr("value"), "unit", "meaning"], looks["head"])
    for row, (place, value, unit, meaning) in enumerate(entered(design.train, "train"), 1):
        text = (
            tr("yes") if value is True else tr("no") if value is False else tr("not given") if value is None else value
        )
        sheet.write(row, 0, place)
        sheet.write(row, 1, text, looks["entered"])
        sheet.write_row(row, 2, [unit, meaning])
    sheet.freeze_panes(1, 1)
    sheet.set_column(0, 0, 44)
    sheet.set_column(1, 1, 18)
    sheet.set_column(3, 3, 70)


def _stage(book: Any, looks: dict[str, Any], k: int, stage: StageResults) -> None:
    """A stage: mesh and both gears beside each other, one row a quantity."""
    sheet = book.add_worksheet(tr("Stage {value}", value=k + 1))
    sheet.write(0, 0, stage.name, looks["title"])
    sheet.write_row(2, 0, ["symbol", "mesh", tr("gear 1"), tr("gear 2"), "unit", "meaning", "source"], looks["head"])
    symbols = [s for s in QUANTITIES if s in stage.mesh or any(s in g for g in stage.gears)]
    rows = {s: row for row, s in enumerate(symbols, 3)}
    values: dict[str, float] = {s: float(v) for s, v in stage.mesh.items() if isinstance(v, int | float)}
    places = {s: f"$B${rows[s] + 1}" for s in values if s in rows}
    for i, gear in enumerate(stage.gears, 1):
        for s, v in gear.items():
            if s in rows and isinstance(v, int | float):
                values[f"{s}_{i}"], places[f"{s}_{i}"] = float(v), f"${'BCD'[i]}${rows[s] + 1}"
    for s, row in rows.items():
        q = QUANTITIES[s]
        sheet.write(row, 0, s)
        for column, holder in enumerate((stage.mesh, *stage.gears), 1):
            value = holder.get(s)
            if not isinstance(value, int | float) or not isfinite(value):
                continue
            i = column - 1
            formula = (
                living(MESH.get(s, ""), values, places, 0)
                if i == 0
                else living({**OWN, **SAFETIES}.get(s, ""), values, places, i)
            )
            if formula and abs(formula[1] - value) <= 1e-6 * max(abs(value), 1e-9):
                sheet.write_formula(row, column, formula[0], looks["live"], value)
            else:
                sheet.write_number(row, column, value, looks["number"])
        sheet.write_row(row, 4, [KINDS[q.kind].document, q.meaning, q.source])
    sheet.freeze_panes(3, 1)
    sheet.set_column(1, 3, 13)
    sheet.set_column(5, 5, 60)
    sheet.set_column(6, 6, 34)


def living(text: str, values: dict[str, float], places: dict[str, str], i: int) -> tuple[str, float] | None:
    """A formula with the cells of its symbols, and its value; symbols of gear i (1, 2; 0 for the mesh) go before the
    mesh's. None where one is missing.

    >>> living("z_2 / z_1", {"z_1": 20.0, "z_2": 50.0}, {"z_1": "$C$4", "z_2": "$D$4"}, 0)
    ('=$D$4 / $C$4', 2.5)
    """
    if not text:
        return None
    known, cells = dict(KNOWN), text
    for name in sorted(set(NAME.findall(text)) - set(KNOWN), key=len, reverse=True):
        key = f"{name}_{i}" if i and f"{name}_{i}" in values else name
        if key not in values or key not in places:
            return None
        known[name] = values[key]
        cells = re.sub(rf"(?<![A-Za-z_$]){re.escape(name)}(?![A-Za-z_0-9])", places[key].replace("\\", ""), cells)
    try:
        # The text is one of the few above, the names in it numbers.
        value = float(eval(text, {"__builtins__": {}}, known))
    except (ArithmeticError, ValueError):
        return None
    return f"={cells}", value


def _flank(book: Any, looks: dict[str, Any], k: int, stage: StageResults) -> None:
    """Flank points of both gears, in the transverse section."""
    sheet = book.add_worksheet(tr("Flanks {value}", value=k + 1))
    sheet.write(
        0, 0, tr("flanks, tooth on +x with its middle on the axis; within 0.001 mm of the true curve between points")
    )
    sides = [
        (tr("gear {i}{side}{side_2}", i=i, side=", " * bool(side), side_2=side), one, kind)
        for i, (tooth, kind) in enumerate(zip(stage.teeth, stage.kinds, strict=True), 1)
        for side, one in ([("", tooth)] if tooth.left is None else [("right", tooth), ("left", tooth.turned)])
    ]
    for n, (name, tooth, kind) in enumerate(sides):
        left = 7 * n
        if kind.straight:
            sheet.write(
                2, left, tr("{name} is a {name_2}: {straight}", name=name, name_2=kind.name, straight=kind.straight)
            )
            continue
        sheet.write_row(2, left, [name, tr("radius [mm]"), tr("half angle [deg]"), "x [mm]", "y [mm]"], looks["head"])
        for row, (part, r, angle, _x, _y) in enumerate(flank_points(tooth), 3):
            sheet.write(row, left, part)
            sheet.write_number(row, left + 1, r, looks["number"])
            sheet.write_number(row, left + 2, angle, looks["number"])
            at, turn = (f"{_column(left + n)}{row + 1}" for n in (1, 2))
            sheet.write_formula(row, left + 3, f"={at}*COS(RADIANS({turn}))", looks["live"], _x)
            sheet.write_formula(row, left + 4, f"={at}*SIN(RADIANS({turn}))", looks["live"], _y)
    sheet.freeze_panes(3, 0)


def _loaded(
    book: Any, looks: dict[str, Any], k: int, design: Design, results: Results, wanted: tuple[str, ...]
) -> None:
    """Tables of the loaded teeth, one below the other; nothing where no load is on the stage."""
    try:
        tables = loaded_tables(design.train, results, k, wanted)
    except OutOfRange:
        return
    sheet = book.add_worksheet(tr("Loaded {value}", value=k + 1))
    sheet.write(
        0,
        0,
        tr("loaded teeth, nominal load on the flanks that bear; a model beside the rating, which counts in no check"),
    )
    row = 2
    for table in tables:
        sheet.write(row, 0, tr("{name}: {about}", name=table.name, about=table.about), looks["head"])
        sheet.write_row(row + 1, 0, table.heads)
        for n, column in enumerate(table.columns):
            for m, value in enumerate(column.tolist()):
                if isfinite(value):
                    sheet.write_number(row + 2 + m, n, value, looks["number"])
        row += 4 + len(table.columns[0])


def _column(n: int) -> str:
    return chr(ord("A") + n)

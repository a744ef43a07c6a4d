"""The design as a spreadsheet, read back by another library; its formulas recalculated from the cells that they
name."""

import math
import re

import openpyxl
import pytest

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.exchange.save import export
from cooper.exchange.statement import state_hash
from cooper.results.evaluate import evaluate

CELL = re.compile(r"\$?([A-Z]{1,2})\$?(\d+)")


def recalculated(sheet, values, text):
    """A formula's value from the values of other cells."""
    expression = CELL.sub(lambda m: repr(float(values[f"{m[1]}{m[2]}"].value)), text[1:])
    known = {"COS": math.cos, "SIN": math.sin, "TAN": math.tan, "RADIANS": math.radians, "PI": lambda: math.pi}
    return eval(expression, {"__builtins__": {}}, known)


@pytest.mark.parametrize("name", ["winch", "dome-ring", "dome-rack", "focuser"])
def test_values_and_formulas_of_a_workbook_are_those_of_the_results(tmp_path, name):
    d = demo(name)
    r = evaluate(d)
    export(d, r, tmp_path / "d.xlsx")
    book, cached = (openpyxl.load_workbook(tmp_path / "d.xlsx", data_only=v) for v in (False, True))
    living, live = 0, []
    for sheet in book:
        for row in sheet.iter_rows():
            for cell in row:
                if cell.data_type == "f" and cell.column_letter == "J" and sheet.title == "Checks":
                    # Who types another value or limit reads another verdict.
                    live.append(cell.value)
                elif cell.data_type == "f":
                    living += 1
                    value = cached[sheet.title][cell.coordinate].value
                    assert recalculated(sheet, cached[sheet.title], cell.value) == pytest.approx(
                        value, rel=2e-6, abs=1e-9
                    )
    assert living > 60
    checks = [row for row in cached["Checks"].iter_rows(min_row=7, values_only=True) if row[1]]
    assert len(checks) == len(r.checks)
    for row, check in zip(checks, r.checks, strict=True):
        assert (row[1], row[9]) == (check.symbol, check.verdict) and row[8] == pytest.approx(check.margin)
    assert live == [f'=IF(I{n}<0,"short",IF(I{n}<=0.1,"thin","holds"))' for n in range(7, 7 + len(r.checks))]
    text = [book["Checks"].cell(n, 1).value for n in (2, 4)]
    assert state_hash(d) in text[0] and text[1].startswith("A record of this state")
    for k, stage in enumerate(r.stages):
        rows = {row[0]: row for row in cached[f"Stage {k + 1}"].iter_rows(min_row=4, values_only=True)}
        for s in ("sigma_F", "d_a", "S_F", "z"):
            for i in (0, 1):
                if s in stage.gears[i]:
                    assert rows[s][2 + i] == pytest.approx(float(stage.gears[i][s]))
        assert rows["eps_alpha"][1] == pytest.approx(stage.mesh.eps_alpha)
    # Who changes a count sees the ratio follow.
    sheet = book["Stage 1"]
    u = next(row for row in sheet.iter_rows(min_row=4) if row[0].value == "u")[1] if "u" in r.stages[0].mesh else None
    if u is not None and r.stages[0].mesh.u > 0:
        assert u.data_type == "f"


def test_what_is_entered_stands_in_words_and_nothing_of_it_becomes_a_formula(tmp_path):
    d = set_many(demo(), {"train.gears.gear1.name": "=1+1", "name": "@SUM(A1)"})
    export(d, evaluate(d), tmp_path / "d.xlsx")
    book = openpyxl.load_workbook(tmp_path / "d.xlsx")
    rows = {row[0]: row for row in book["Entered"].iter_rows(min_row=2, values_only=True)}
    assert rows["train.gears.gear1.z"][1] == 17 and rows["train.gears.gear1.b"][2] == "mm"
    names = [c for c in book["Entered"]["B"] if c.value == "=1+1"]
    assert names and all(c.data_type == "s" for c in names)
    assert book["Checks"]["A1"].data_type == "s"

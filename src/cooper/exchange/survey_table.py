"""Tables of the designs that a survey found: CSV and spreadsheet."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from math import isfinite
from pathlib import Path
from typing import TYPE_CHECKING

from cooper.atomic_write import atomic_write
from cooper.i18n.text import tr
from cooper.survey.criteria import CRITERIA

if TYPE_CHECKING:
    from cooper.survey.survey_result import SurveyResult

SUFFIXES = (".csv", ".xlsx")


def columns_of(result: SurveyResult, keys: Sequence[str] | None = None) -> list[str]:
    """The quantities that have a column: those of choice, or all that are known."""
    return [k for k in (keys or CRITERIA) if k in CRITERIA and k in result.values]


def save_survey(
    result: SurveyResult, path: Path, keys: Sequence[str] | None = None, rows: Sequence[int] | None = None
) -> None:
    """Write the designs found as a table, values in the document's units; ``rows`` are some of them in their order.

    Raises `ValueError` for a suffix that names no table, `OSError` by the disk; then nothing is left half written.
    """
    kind = path.suffix.lower()
    if kind not in SUFFIXES:
        raise ValueError(tr("{name}: a table is written as {suffixes}", name=path.name, suffixes=" or ".join(SUFFIXES)))
    chosen = list(range(len(result))) if rows is None else list(rows)
    keys = columns_of(result, keys)
    heads = ["number", "arrangement", "materials", "rack", *(_head(k) for k in keys)]
    lines: list[list[object]] = []
    for n in chosen:
        p = result.patterns[int(result.pattern[n])]
        numbers = [float(result.values[k][n]) for k in keys]
        lines.append([n + 1, p.label, p.materials, p.rack, *(v if isfinite(v) else None for v in numbers)])
    if kind == ".csv":
        atomic_write(path, lambda temporary: _text(temporary, _csv(heads, lines)))
    else:
        atomic_write(path, lambda temporary: _xlsx(temporary, heads, lines, result))


def _head(key: str) -> str:
    known = CRITERIA[key]
    unit = "" if known.percent else known.unit()
    return tr("{key} [{unit}]", key=key, unit=unit) if unit else key


def _csv(heads: list[str], lines: list[list[object]]) -> str:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(heads)
    writer.writerows([["" if v is None else v for v in line] for line in lines])
    return out.getvalue()


def _xlsx(path: Path, heads: list[str], lines: list[list[object]], result: SurveyResult) -> None:
    """The table with a head that stays, filters, and a second sheet that says what was searched and what each rule
    took away."""
    import xlsxwriter

    # Nothing of what stands in a cell is taken for a formula or an address.
    book = xlsxwriter.Workbook(
        str(path), {"strings_to_formulas": False, "strings_to_urls": False, "nan_inf_to_errors": False}
    )
    bold, plain = book.add_format({"bold": True, "bottom": 1}), book.add_format({"num_format": "0.####"})
    sheet = book.add_worksheet("Designs")
    sheet.write_row(0, 0, heads, bold)
    for row, line in enumerate(lines, 1):
        for column, value in enumerate(line):
            if value is not None:
                sheet.write(row, column, value, plain if isinstance(value, float) else None)
    sheet.freeze_panes(1, 1)
    sheet.autofilter(0, 0, max(len(lines), 1), len(heads) - 1)
    sheet.set_column(1, 1, 30)
    sheet.set_column(2, len(heads) - 1, 14)
    text = book.add_worksheet(tr("What was searched"))
    text.set_column(0, 0, 34)
    rows: list[tuple[object, object]] = [
        (tr("candidates that the bounds allow"), result.possible),
        (tr("looked at one by one"), result.looked),
        ("found", len(result)),
        (tr("searched to the end"), tr("yes") if result.whole else tr("no")),
    ]
    rows += [
        (tr("taken away: {rule}", rule=rule), many)
        for rule, many in sorted(result.gone.items(), key=lambda kv: -kv[1])
        if many
    ]
    rows += [(k, str(v)) for k, v in result.question.plain(without={"materials"}).items()]
    for n, (name, value) in enumerate(rows):
        text.write(n, 0, name)
        text.write(n, 1, value)
    for n, known in enumerate(CRITERIA.values()):
        text.write(n, 3, _head(known.key))
        text.write(n, 4, known.words)
    book.close()


def _text(path: Path, text: str) -> None:
    path.write_text(text, encoding="utf-8", newline="")

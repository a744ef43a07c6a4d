"""Tables of the report as the typesetter reads them, their columns and rows already measured: it then sets them in a
third of the time."""

from __future__ import annotations

from cooper.document.quantities import parts, symbol_word
from cooper.exchange.formula_setting import Typst
from cooper.exchange.paper import CAPITALS, width_of
from cooper.exchange.report import Block
from cooper.exchange.symbols_in_text import symbol_in
from cooper.i18n.text import join, tr

ROWS = """
#let quiet(body) = text(7pt, fill: muted, body)
#let rows(high, columns, align, heads, ..cells) = table(
  rows: high, columns: columns, align: align, stroke: none, inset: (x: 0pt, y: 1.6pt), column-gutter: 8pt,
  ..if heads.len() > 0 { (table.header(..heads.map(h => quiet(h))),) },
  ..cells,
)
"""
TEXT, QUIET = 8.5, 7.0
"""Sizes of the font; pt."""
PAGE, GUTTER = 174 * 72 / 25.4, 8.0
"""Width between the margins and between two columns; pt."""
HEAD_ROW, ROW = 8.3, 9.3
"""Heights of a head and of a row of one line, as the typesetter finds them; pt."""
SUBSCRIPT, SLACK = 0.72, 3.2
"""Size of a subscript over that of its symbol, and what the typesetter leaves about both at most; pt."""


def table_of(block: Block) -> list[str]:
    """A block under its title; the column with the longest text that starts on the left takes what the others leave."""
    wide = len(block.align)
    last = max((n for n in range(wide) if block.align[n] == "l"), key=lambda n: _longest(block, n), default=wide - 1)
    heads = (block.heads + ("",) * wide)[:wide] if any(block.heads) else ()
    columns, high = _measured(block, heads, last)
    align = join(", ", ("right" if a == "r" else "left" for a in block.align))
    cells = []
    for row in block.rows:
        if len(row) == 1:
            cells.append(f"table.cell(colspan: {wide}, {words(row[0])})")
            continue
        filled = (*row, *([""] * (wide - len(row))))[:wide]
        for n, text in enumerate(map(_quieter, filled) if block.heads else filled):
            shown = _symbol(text) if block.symbols and n == block.at else words(text)
            cells.append(f"quiet({shown})" if block.heads and text.startswith("[") else shown)
    above = "".join(tr("{h}, ", h=string(h)) for h in heads)
    return [
        f"#heading(level: 2, {string(block.title)})",
        f"#rows(({', '.join(high)},), ({', '.join(columns)},), ({align},), ({above}), {', '.join(cells)})",
    ]


def _measured(block: Block, heads: tuple[str, ...], last: int) -> tuple[list[str], list[str]]:
    """Widths of the columns and heights of the rows; what may take more than a line is left to the typesetter."""
    wide = len(block.align)
    full = [row for row in block.rows if len(row) > 1]
    needs = [
        max(
            [_width(block, row[n], n) for row in full if len(row) > n]
            + [_room(h, QUIET) for h in heads[n : n + 1]]
            + [0.0]
        )
        for n in range(wide)
    ]
    left = PAGE - GUTTER * (wide - 1) - sum(needs) + needs[last]
    if left < min(needs[last], PAGE / 5):
        columns = ["1fr" if n == last else "auto" for n in range(wide)]
        return columns, ["auto"] * (len(block.rows) + bool(heads))
    columns = ["1fr" if n == last else f"{need:.2f}pt" for n, need in enumerate(needs)]
    high = [f"{HEAD_ROW}pt"] if heads else []
    for row in block.rows:
        if len(row) == 1:
            fits = _room(row[0], TEXT) <= PAGE
        else:
            fits = len(row) <= last or _width(block, row[last], last) <= left
        high.append(f"{ROW}pt" if fits and "\n" not in "".join(row) else "auto")
    return columns, high


def _width(block: Block, text: str, n: int) -> float:
    """Room of a cell of column n, no less than it takes; pt."""
    if block.symbols and n == block.at and (result := symbol_in(text)) is not None:
        before, main, sub, power = result
        return _symbol_room(before + main, max(sub, power, key=len))
    return _room(text, QUIET if block.heads and text.startswith("[") else TEXT)


def _room(text: str, size: float) -> float:
    """Room of words, symbols among them; pt."""
    plain, symbols = text, 0.0
    if _may_hold_symbols(text):
        for word in text.split(" "):
            if result := symbol_word(word.lstrip("(")):
                main, sub = parts(result[0], result[1])
                symbols += _symbol_room(main, sub)
                plain = plain.replace(
                    word, word.removesuffix(result[2])[: len(word) - len(word.lstrip("("))] + result[2], 1
                )
    return 1.005 * width_of(plain, size * CAPITALS) + symbols + 0.3


def _symbol_room(main: str, sub: str) -> float:
    # Mathematics has the same size in all texts.
    return width_of(main, TEXT * CAPITALS) + width_of(sub, SUBSCRIPT * TEXT * CAPITALS) + SLACK


def _may_hold_symbols(text: str) -> bool:
    return "_" in text or "beta" in text


def words(text: str) -> str:
    """A text in which symbols are typeset."""
    if not _may_hold_symbols(text):
        return string(text)
    shown: list[str] = []
    for word in text.split(" "):
        found = symbol_word(word.lstrip("("))
        if found is None:
            shown.append(f"#{string(word)}")
        else:
            before = "(" * (len(word) - len(word.lstrip("(")))
            shown.append(f"#{string(before)}${Typst().symbol(*parts(found[0], found[1]))}$#{string(found[2])}")
    return f"[{' '.join(shown)}]"


SIGNS = {">=": "≥", "<=": "≤"}


def _quieter(text: str) -> str:
    """A cell without what its column's head says already."""
    return SIGNS.get(text, text.removeprefix("margin "))


def _longest(block: Block, n: int) -> int:
    return max((len(row[n]) for row in block.rows if len(row) > max(n, 1)), default=0)


def _symbol(text: str) -> str:
    result = symbol_in(text)
    if result is None:
        return string(text)
    before, main, sub, power = result
    shown = Typst().symbol(main, sub) + (f'^"{power}"' if power else "")
    return f"[{before}${shown}$]"


def string(text: str) -> str:
    """A text as the typesetter reads it."""
    return '"' + text.replace("\\", "\\\\").replace('"', '\\"').replace("\n", "\\n") + '"'

"""Columns and rows of the report's tables are measured before they are set: no word may then run into another."""

import json
from importlib.resources import files

import typst

from cooper.demo import demo
from cooper.exchange.report import Block, pieces
from cooper.exchange.report_pdf import HEAD
from cooper.exchange.report_tables import PAGE, ROW, ROWS, _quieter, _symbol, _width, table_of, words
from cooper.results.evaluate import evaluate

FONTS = typst.Fonts(include_system_fonts=False, font_paths=[str(files("cooper.stock") / "fonts")])


def test_each_cell_has_the_room_that_the_typesetter_takes():
    design = demo("winch")
    blocks = [p for p in pieces(design, evaluate(design), "mm", "all") if isinstance(p, Block)]
    cells = {}
    for block in blocks:
        for row in block.rows:
            for n, text in enumerate(map(_quieter, row) if block.heads else row):
                shown = _symbol(text) if block.symbols and n == block.at and len(row) > 1 else words(text)
                shown = f"quiet({shown})" if block.heads and text.startswith("[") else shown
                cells[shown] = _width(block, text, n if len(row) > 1 else block.at + 1)
    assert len(cells) > 900
    asked = "\n".join(
        f"#context [#let at = measure({shown})\n#metadata((at.width / 1pt, at.height / 1pt))<m>]" for shown in cells
    )
    setting = HEAD[HEAD.index("#set text(font") :]
    colours = '#let (ink, muted, hair, copper) = ("#000000", "#000000", "#000000", "#000000").map(rgb)\n'
    source = f'#let language = "en"\n{colours}{ROWS}{setting}{asked}'
    result = [m["value"] for m in json.loads(typst.query({"main.typ": source.encode()}, "<m>", font_paths=FONTS))]
    tight = [(s, room, at) for (s, room), at in zip(cells.items(), result, strict=True) if at[0] > room]
    assert not tight
    # A row of one line holds each with a gap to the next, and no room is given away: the texts would wrap sooner than
    # they need to.
    assert max(high for _, high in result) + 2 <= ROW
    loose = [s for (s, room), at in zip(cells.items(), result, strict=True) if "#" not in s and room > 1.03 * at[0] + 6]
    assert not loose


def test_a_row_that_needs_more_than_a_line_grows():
    long = "what is said here takes more than one line of the page, " * 4
    source = table_of(Block("Rows", [("a", "1", "short"), ("b", "2", long)], "lrl"))[1]
    assert source.startswith(f"#rows(({ROW}pt, auto,), (")
    # Where nothing would be left for the last column the typesetter finds its own.
    wide = "x" * int(PAGE / 5)
    assert table_of(Block("Rows", [("a", wide, f"{wide}x")], "lrl"))[1].startswith("#rows((auto,), (auto, auto, 1fr,)")

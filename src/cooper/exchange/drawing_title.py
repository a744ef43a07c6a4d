"""Tables and the title block of a drawing sheet, and the mark of the surfaces without one of their own. ISO 7200."""

from __future__ import annotations

from collections.abc import Sequence

from cooper.document.quantities import parts
from cooper.exchange.drawing_marks import texture
from cooper.exchange.paper import DrawingPage, fitting, shortened
from cooper.i18n.translate import translate

TITLE = 34.0
"""Height of a title block; mm."""
TABLE = 92.0
"""Width of a table of rows; mm."""
ROW = 4.3
WIDTH = 180.0
COLUMNS = ((0.0, 62.0), (62.0, 62.0), (124.0, 56.0))
Cell = tuple[str, str]
"""What a field is for, and what stands in it."""


def title_block(p: DrawingPage, cells: Sequence[Sequence[Cell]], rest: str) -> None:
    """Three columns of four fields at the lower right; ``rest`` is the roughness of all surfaces without a mark."""
    right, low = p.width - 10, 10.0
    left, high = right - WIDTH, low + TITLE
    p.box("frame", left, low, right, high)
    high_of = TITLE / 4
    for (x, wide), rows in zip(COLUMNS, cells, strict=True):
        if x:
            p.line("table", (left + x, low), (left + x, high))
        for n, (what, value) in enumerate(rows):
            y = high - high_of * (n + 1)
            if n < 3:
                p.line("table", (left + x, y), (left + x + wide, y))
            p.text((left + x + 1.2, y + high_of - 2.6), what, 1.5)
            size = fitting(value, 2.9 if (x, n) == (0.0, 0) else 2.3, wide - 2, 0.9)
            p.text((left + x + 1.2, y + 1.6), shortened(value, size, wide - 2), size)
    texture(p, (24.0, 14.0), rest)
    p.text((46.0, 16.5), "(", 3.5)
    texture(p, (51.0, 14.0), "")
    p.text((57.5, 16.5), ")", 3.5)


def rows_table(
    p: DrawingPage,
    title: str,
    rows: Sequence[tuple[str, str, str]],
    across: tuple[float, float],
    room: tuple[float, float],
) -> float:
    """A table of meanings, symbols and values between ``across`` (left, right), from the top of ``room`` (low, top)
    down, as far as it has room; where it ends (mm)."""
    left, right = across
    low, top = room
    rows = rows[: max(int((top - low) / ROW) - 1, 0)]
    bottom = top - ROW * (len(rows) + 1)
    p.box("table", left, bottom, right, top)
    p.text((left + 1.5, top - ROW + 1.2), title, 2.5)
    p.line("table", (left, top - ROW), (right, top - ROW))
    split, symbols = right - 31.0, right - 41.0
    for n, (meaning, symbol, value) in enumerate(rows):
        y = top - ROW * (n + 2)
        p.line("table", (left, y), (right, y))
        meaning, value = translate(meaning), translate(value)
        size = fitting(meaning, 1.9, symbols - left - 2, 1.3)
        p.text((left + 1.2, y + 1.3), shortened(meaning, size, symbols - left - 2), size)
        if symbol:
            p.symbol((symbols + 0.6, y + 1.3), *parts(symbol.rstrip("″")), 1.9)
        size = fitting(value, 1.9, right - split - 2)
        p.text((right - 1.2, y + 1.3), shortened(value, size, right - split - 2), size, "end")
    p.line("table", (split, top - ROW), (split, bottom))
    p.line("table", (symbols, top - ROW), (symbols, bottom))
    return bottom

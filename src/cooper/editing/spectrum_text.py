"""Load spectra as text: read from a spreadsheet's clipboard or a CSV file, written back, and the standard shapes."""

from __future__ import annotations

import re

from cooper.document.duty import Level
from cooper.document.models import Design
from cooper.editing.edit import set_at
from cooper.errors import OutOfRange
from cooper.i18n.text import join, tr
from cooper.rating.iso6336.spectrum import standard_levels

HEADS = (tr("torque, % of nominal"), tr("share of the life"), tr("speed, % of nominal"))
MOST = 200


def read_levels(text: str, *, heads: bool = True) -> list[Level]:
    """Levels from lines of torque (%), share and, where given, speed (%); columns parted by tab, semicolon or comma.

    A first line of words is skipped where there may be ``heads``, a decimal comma is understood beside tabs and
    semicolons. Raises `OutOfRange` naming the line.

    >>> [(v.T_rel, v.q_t, v.n_rel) for v in read_levels("torque;share;speed\\n120;2;100\\n80,5;50;90")]
    [(1.2, 2.0, 1.0), (0.805, 50.0, 0.9)]
    """
    levels = []
    lines = [(n, line) for n, line in enumerate(text.splitlines(), 1) if line.strip()]
    for k, (n, line) in enumerate(lines):
        cells = [c.strip().rstrip("%").strip() for c in _cells(line)]
        try:
            numbers = [float(c) for c in cells if c]
        except ValueError:
            if k == 0 and heads:
                continue
            bad = next(c for c in cells if not _is_number(c))
            raise OutOfRange(
                tr("line {n}", n=n),
                bad,
                tr("a level is torque in %, its share and, if wanted, speed in %, all numbers"),
            ) from None
        if len(numbers) not in (2, 3):
            raise OutOfRange(
                tr("line {n}", n=n),
                line.strip(),
                tr("a level has 2 or 3 numbers, this has {numbers}", numbers=len(numbers)),
            )
        levels.append(_level(n, *numbers))
    if not levels:
        raise OutOfRange(
            "spectrum", "empty", tr("there is no level in it; a line holds torque in %, its share and speed in %")
        )
    if len(levels) > MOST:
        raise OutOfRange("spectrum", len(levels), tr("more levels than are rated one by one"), low=1, high=MOST)
    return levels


def _cells(line: str) -> list[str]:
    if "\t" in line or ";" in line:
        return [c.replace(",", ".") for c in re.split(r"[\t;]", line)]
    return re.split(r"[,\s]+", line.strip())


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


def _level(n: int, torque: float, share: float, speed: float = 100.0) -> Level:
    for what, value, low, high in (("torque", torque, 0, 2000), ("share", share, 0, 1e9), ("speed", speed, 0, 2000)):
        inside = low <= value <= high and (what == "torque" or value > 0)
        if not inside:
            above = "0" if what == "torque" else tr("above 0")
            raise OutOfRange(
                tr("line {n}", n=n),
                value,
                tr("the {what} of a level lies between {above} and {high:g}", what=what, above=above, high=high),
            )
    return Level(T_rel=torque / 100, n_rel=speed / 100, q_t=share)


def levels_text(levels: tuple[Level, ...]) -> str:
    """Levels as lines for a spreadsheet, with heads."""
    rows = [
        HEADS,
        *(
            (tr("{T_rel:.6g}", T_rel=100 * v.T_rel), tr("{q_t:.6g}", q_t=v.q_t), tr("{n_rel:.6g}", n_rel=100 * v.n_rel))
            for v in levels
        ),
    ]
    return join("\n", ("\t".join(r) for r in rows)) + "\n"


def with_levels(design: Design, levels: list[Level]) -> Design:
    """The design under a spectrum; none for an empty list."""
    return set_at(design, "train.duty.spectrum", [v.plain() for v in levels])


def with_shape(design: Design, shape: str, least: float) -> Design:
    """The design under a standard shape whose greatest load is K_A times the nominal one, its least a share of that."""
    K_A = design.train.duty.K_A
    levels = [
        Level(T_rel=round(K_A * a, 6), q_t=float(tr("{q:.6g}", q=100 * q))) for a, q in standard_levels(shape, least)
    ]
    return with_levels(design, levels)

"""The parts of a technical drawing other than its edges: dimensions with limits, surface texture, tolerance frames,
datums."""

from __future__ import annotations

from math import cos, radians, sin

from cooper.exchange.paper import DrawingPage, Point, width_of
from cooper.i18n.translate import translate

SIZE = 2.5
"""Height of dimension figures; mm."""
ARROW = 2.6


def arrow(paper: DrawingPage, tip: Point, towards: float) -> None:
    """An arrowhead at ``tip`` that points in a direction (degrees)."""
    a = radians(towards)
    back = (tip[0] - ARROW * cos(a), tip[1] - ARROW * sin(a))
    side = (-0.16 * ARROW * sin(a), 0.16 * ARROW * cos(a))
    paper.fill(tip, (back[0] + side[0], back[1] + side[1]), (back[0] - side[0], back[1] - side[1]))


def limits_text(paper: DrawingPage, at: Point, words: str, limits: tuple[str, str] | None, turn: float = 0.0) -> None:
    """A figure centred at a place, with its upper and lower deviation behind it where there are any."""
    small = 0.7 * SIZE
    words = translate(words)
    wide = width_of(words, SIZE)
    more = 0.0 if limits is None else 0.8 + max(width_of(t, small) for t in limits)
    c, s = cos(radians(turn)), sin(radians(turn))
    x, y = at[0] - (wide + more) / 2 * c, at[1] - (wide + more) / 2 * s
    paper.text((x, y), words, SIZE, turn=turn)
    if limits is not None:
        for text, up in zip(limits, (1.35, -0.55), strict=True):
            along = wide + 0.8
            paper.text((x + along * c - up * s, y + along * s + up * c), text, small, turn=turn)


def _wide(words: str, limits: tuple[str, str] | None) -> float:
    """Width of a figure with its deviations; mm."""
    return width_of(words, SIZE) + (0.0 if limits is None else 0.8 + max(width_of(t, 0.7 * SIZE) for t in limits))


def across(
    paper: DrawingPage,
    x: float,
    y: tuple[float, float],
    edge: tuple[float, float],
    words: str,
    limits: tuple[str, str] | None = None,
) -> None:
    """A dimension that stands upright at ``x`` between two heights, with lines out to it from the edges at ``edge``
    (x of the lower, of the upper)."""
    low, high = sorted(y)
    for at, start in zip((low, high), edge, strict=True):
        beyond = 1.5 if x > start else -1.5
        paper.line("dimension", (start + beyond * 0.6, at), (x + beyond, at))
    paper.line("dimension", (x, low), (x, high))
    if high - low > 3 * ARROW:
        arrow(paper, (x, low), -90)
        arrow(paper, (x, high), 90)
    else:
        # Arrows from outside, where there is no room within.
        arrow(paper, (x, low), 90)
        arrow(paper, (x, high), -90)
        paper.line("dimension", (x, low - 6), (x, low))
        paper.line("dimension", (x, high), (x, high + 6))
    wide = _wide(words, limits)
    if wide + 1 < high - low:
        limits_text(paper, (x - 0.9, (low + high) / 2), words, limits, 90)
        return
    # No room between: above, on the line drawn on.
    start = high + (6 if high - low <= 3 * ARROW else 1)
    paper.line("dimension", (x, high), (x, start + wide + 2))
    limits_text(paper, (x - 0.9, start + 1 + wide / 2), words, limits, 90)


def along(
    paper: DrawingPage,
    y: float,
    x: tuple[float, float],
    edge: tuple[float, float],
    words: str,
    limits: tuple[str, str] | None = None,
) -> None:
    """A dimension that lies at ``y`` between two places, with lines out to it from the edges at ``edge`` (y of the
    left, of the right)."""
    left, right = sorted(x)
    for at, start in zip((left, right), edge, strict=True):
        beyond = 1.5 if y > start else -1.5
        paper.line("dimension", (at, start + beyond * 0.6), (at, y + beyond))
    paper.line("dimension", (left, y), (right, y))
    wide = _wide(words, limits)
    if right - left > 3 * ARROW:
        arrow(paper, (left, y), 180)
        arrow(paper, (right, y), 0)
    else:
        arrow(paper, (left, y), 0)
        arrow(paper, (right, y), 180)
        paper.line("dimension", (left - 6, y), (left, y))
        paper.line("dimension", (right, y), (right + 6, y))
    if right - left > wide + 1:
        limits_text(paper, ((left + right) / 2, y + 0.9), words, limits)
    else:
        paper.line("dimension", (right, y), (right + 8 + wide, y))
        limits_text(paper, (right + 7 + wide / 2, y + 0.9), words, limits)


def texture(paper: DrawingPage, foot: Point, words: str, turn: float = 0.0) -> None:
    """The mark of a surface made by removing material, standing on a line at ``foot``, with its roughness. ISO
    21920-1."""
    c, s = cos(radians(turn)), sin(radians(turn))

    def at(x: float, y: float) -> Point:
        return foot[0] + c * x - s * y, foot[1] + s * x + c * y

    h = 1.4 * SIZE
    wide = width_of(words, SIZE)
    paper.line("mark", at(-0.58 * h, h), at(0, 0), at(1.2 * h, 2.1 * h), at(1.2 * h + wide + 2, 2.1 * h))
    paper.line("mark", at(-0.58 * h, h), at(0.58 * h, h))
    paper.text(at(1.2 * h + 1, 2.1 * h - SIZE - 0.7), words, SIZE, turn=turn)


def run_out(paper: DrawingPage, at: Point, value: str, datum: str) -> float:
    """A frame for circular run-out, its lower left corner ``at``; its width. ISO 1101."""
    h = 2 * SIZE
    cells = (h, width_of(value, SIZE) + 2.4, width_of(datum, SIZE) + 2.4)
    x, y = at
    paper.box("mark", x, y, x + sum(cells), y + h)
    for k in (1, 2):
        paper.line("mark", (x + sum(cells[:k]), y), (x + sum(cells[:k]), y + h))
    paper.line("mark", (x + 0.25 * h, y + 0.2 * h), (x + 0.72 * h, y + 0.78 * h))
    arrow(paper, (x + 0.78 * h, y + 0.86 * h), 51)
    paper.text((x + cells[0] + 1.2, y + 0.28 * h), value, SIZE)
    paper.text((x + cells[0] + cells[1] + 1.2, y + 0.28 * h), datum, SIZE)
    return sum(cells)


def leader(paper: DrawingPage, *points: Point) -> None:
    """A line from a frame to what it is about, with an arrow at its end."""
    from math import atan2, degrees

    paper.line("mark", *points)
    (x_1, y_1), (x_2, y_2) = points[-2:]
    arrow(paper, points[-1], degrees(atan2(y_2 - y_1, x_2 - x_1)))


def datum(paper: DrawingPage, foot: Point, letter: str, turn: float = -90.0) -> None:
    """A datum's filled triangle on a line at ``foot`` with its letter in a frame. ISO 5459."""
    c, s = cos(radians(turn)), sin(radians(turn))

    def at(x: float, y: float) -> Point:
        return foot[0] + c * x - s * y, foot[1] + s * x + c * y

    paper.fill(at(0, -1.3), at(0, 1.3), at(2.3, 0))
    paper.line("mark", at(2.3, 0), at(6, 0))
    x, y = at(6 + SIZE, 0)
    paper.box("mark", x - SIZE, y - SIZE, x + SIZE, y + SIZE)
    paper.text((x, y - SIZE / 2), letter, SIZE, "middle")

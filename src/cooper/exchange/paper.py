"""A sheet of paper in mm on which a technical drawing is laid: lines by their kind, texts, hatched areas; written as
SVG, DXF and PDF from one source."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from html import escape
from importlib.resources import files
from math import ceil, cos, pi, radians, sin
from pathlib import Path
from typing import Any

from msgspec import Struct, field

from cooper.exchange.dxf_legend import dxf_words
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

Point = tuple[float, float]
THICK, THIN = 0.5, 0.25
LINES: dict[str, tuple[float, tuple[float, ...], str]] = {
    "edge": (THICK, (), "EDGES"),
    "thin": (THIN, (), "THIN_LINES"),
    "axis": (THIN, (8.0, 1.2, 1.2, 1.2), "AXES"),
    "hidden": (THIN, (3.0, 1.5), "HIDDEN_EDGES"),
    "dimension": (THIN, (), "DIMENSIONS"),
    "mark": (0.35, (), "MARKS"),
    "frame": (0.7, (), "FRAME"),
    "table": (THIN, (), "TABLE"),
    "hatch": (0.18, (), "HATCHING"),
}
"""Kinds of lines: width and dashes (mm) by ISO 128, and the layer of a DXF."""
MEANINGS = {
    "EDGES": "visible edges and outlines",
    "THIN_LINES": "root lines and other thin lines",
    "AXES": "axes, reference diameter",
    "HIDDEN_EDGES": "hidden edges",
    "DIMENSIONS": "dimensions with their limits",
    "MARKS": "surface texture, geometrical tolerances, datums",
    "FRAME": "frame and title block",
    "TABLE": "table of the toothing",
    "HATCHING": "cut faces",
    "TEXT": "text",
}
HATCH_STEP = 2.2
"""Distance of the lines of a cut face; mm."""


class Stroke(Struct, frozen=True):
    """A line through points, by its kind."""

    points: tuple[Point, ...]
    kind: str
    closed: bool = False


class Circle(Struct, frozen=True):
    middle: Point
    r: float
    kind: str


class Arc(Struct, frozen=True):
    """From one angle counter-clockwise to another; degrees."""

    middle: Point
    r: float
    start: float
    end: float
    kind: str


class Text(Struct, frozen=True):
    """Words of a height (mm of capitals) at a place; ``anchor`` start, middle or end; turned by degrees; italic for
    symbols."""

    at: Point
    words: str
    size: float
    anchor: str = "start"
    turn: float = 0.0
    italic: bool = False
    layer: str = "TEXT"


class Area(Struct, frozen=True):
    """A closed outline that is hatched, or filled."""

    points: tuple[Point, ...]
    filled: bool = False
    hatch_angle: float = 45.0


@lru_cache(maxsize=64)
def _font(italic: bool) -> Any:
    from PIL import ImageFont

    name = "Lato-Italic.ttf" if italic else "Lato-Regular.ttf"
    return ImageFont.truetype(str(files("cooper.stock") / "fonts" / name), 200)


CAPITALS = 0.72
"""Height of capitals over the size of the font."""


@lru_cache(maxsize=4096)
def width_of(words: str, size: float, italic: bool = False) -> float:
    """Width of words of a height of capitals; mm."""
    return float(_font(italic).getlength(words)) / 200 * size / CAPITALS


def fitting(words: str, size: float, room: float, least: float = 1.2) -> float:
    """The height of capitals with which words fit a room, the size wanted or as much less; not below the least. Mm.

    >>> fitting("short", 2.3, 60.0), round(fitting("x" * 60, 2.3, 60.0), 2) < 2.3
    (2.3, True)
    """
    wide = width_of(words, size)
    return size if wide <= room else max(least, 0.999 * size * room / wide)


class DrawingPage(Struct):
    """What is drawn, in mm from the lower left corner."""

    width: float
    height: float
    title: str = ""
    told: str = ""
    """What a file says of itself: scale, units, state."""
    items: list[Stroke | Circle | Arc | Text | Area] = field(default_factory=list)

    def line(self, kind: str, *points: Point, closed: bool = False) -> None:
        """A line through points."""
        self.items.append(Stroke(tuple(points), kind, closed))

    def box(self, kind: str, left: float, low: float, right: float, high: float) -> None:
        """A rectangle."""
        self.line(kind, (left, low), (right, low), (right, high), (left, high), closed=True)

    def circle(self, kind: str, middle: Point, r: float) -> None:
        self.items.append(Circle(middle, r, kind))

    def arc(self, kind: str, middle: Point, r: float, start: float, end: float) -> None:
        self.items.append(Arc(middle, r, start, end, kind))

    def hatch(self, points: Sequence[Point], hatch_angle: float = 45.0) -> None:
        """A cut face."""
        self.items.append(Area(tuple(points), False, hatch_angle))

    def fill(self, *points: Point) -> None:
        self.items.append(Area(tuple(points), True))

    def text(
        self, at: Point, words: str, size: float = 2.5, anchor: str = "start", turn: float = 0.0, italic: bool = False
    ) -> float:
        """Words on a baseline, in the language in force; their width."""
        words = translate(words)
        self.items.append(Text(at, words, size, anchor, turn, italic))
        return width_of(words, size, italic)

    def symbol(self, at: Point, main: str, sub: str, size: float = 2.5, anchor: str = "start") -> float:
        """A symbol with its subscript; its width."""
        wide = width_of(main, size, True) + (0.2 + width_of(sub, 0.72 * size) if sub else 0.0)
        x = at[0] - {"start": 0.0, "middle": wide / 2, "end": wide}[anchor]
        x += self.text((x, at[1]), main, size, italic=True)
        if sub:
            self.text((x + 0.2, at[1] - 0.3 * size), sub, 0.72 * size)
        return wide

    # --- what comes of it

    def svg(self) -> str:
        """True to size."""
        out = []
        for item in self.items:
            match item:
                case Stroke(points=points, kind=kind, closed=closed):
                    run = "L".join(tr("{x:.3f} {height:.3f}", x=x, height=self.height - y) for x, y in points)
                    out.append(f'<path d="M{run}{"Z" if closed else ""}" {_style(kind)}/>')
                case Circle(middle=(x, y), r=r, kind=kind):
                    out.append(f'<circle cx="{x:.3f}" cy="{self.height - y:.3f}" r="{r:.3f}" {_style(kind)}/>')
                case Arc():
                    out.append(f'<path d="{self._arc(item)}" {_style(item.kind)}/>')
                case Area(filled=True, points=points):
                    run = "L".join(tr("{x:.3f} {height:.3f}", x=x, height=self.height - y) for x, y in points)
                    out.append(f'<path d="M{run}Z" fill="#000" stroke="none"/>')
                case Area():
                    for a, b in hatch_lines(item):
                        run = tr(
                            "M{a:.3f} {height:.3f}L{b:.3f} {height_2:.3f}",
                            a=a[0],
                            height=self.height - a[1],
                            b=b[0],
                            height_2=self.height - b[1],
                        )
                        out.append(f'<path d="{run}" {_style("hatch")}/>')
                case Text():
                    out.append(self._svg_text(item))
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{self.width:g}mm" height="{self.height:g}mm" '
            f'viewBox="0 0 {self.width:g} {self.height:g}">'
            f"<title>{escape(self.title)}</title><desc>{escape(self.told)}</desc>"
            f'<rect width="{self.width:g}" height="{self.height:g}" fill="#fff"/>'
            '<g fill="none" stroke="#000" stroke-linecap="round" stroke-linejoin="round" '
            f'font-family="Lato">{"".join(out)}</g></svg>\n'
        )

    def _arc(self, a: Arc) -> str:
        (x, y), r = a.middle, a.r
        one, two = ((x + r * cos(radians(t)), self.height - y - r * sin(radians(t))) for t in (a.start, a.end))
        wide = 1 if (a.end - a.start) % 360 > 180 else 0
        return tr(
            "M{one:.3f} {one_2:.3f}A{r:.3f} {r:.3f} 0 {wide} 0 {two:.3f} {two_2:.3f}",
            one=one[0],
            one_2=one[1],
            r=r,
            wide=wide,
            two=two[0],
            two_2=two[1],
        )

    def _svg_text(self, t: Text) -> str:
        x, y = t.at[0], self.height - t.at[1]
        turn = f" rotate({-t.turn:g})" if t.turn else ""
        style = ' font-style="italic"' if t.italic else ""
        # Some readers round sizes of fonts to whole units: hundredths of a millimetre do not suffer by it.
        return (
            f'<text transform="translate({x:.3f} {y:.3f}){turn} scale(0.01)" '
            f'font-size="{100 * t.size / CAPITALS:.0f}" text-anchor="{t.anchor}" fill="#000" stroke="none"{style}>'
            f"{escape(t.words)}</text>"
        )

    def pdf(self) -> bytes:
        """One page in true size."""
        from typst import Fonts
        from typst import compile as set_type

        fonts = Fonts(include_system_fonts=False, font_paths=[str(files("cooper.stock") / "fonts")])
        title = self.title.replace("\\", "\\\\").replace('"', '\\"')
        source = (
            f'#set document(title: "{title}", author: "Cooper")\n'
            f"#set page(width: {self.width:g}mm, height: {self.height:g}mm, margin: 0pt)\n"
            f'#image("sheet.svg", width: {self.width:g}mm)'
        )
        made: bytes = set_type({"main.typ": source.encode(), "sheet.svg": self.svg().encode()}, font_paths=fonts)  # type: ignore[call-overload]
        return made

    def write_dxf(self, path: Path) -> None:
        """R2010 in mm of paper, layers by meaning with their legend beside the sheet."""
        import ezdxf
        from ezdxf import units
        from ezdxf.enums import TextEntityAlignment

        at = {"start": TextEntityAlignment.LEFT, "middle": TextEntityAlignment.CENTER, "end": TextEntityAlignment.RIGHT}
        doc = ezdxf.new("R2010", setup=["linetypes"], units=units.MM)
        doc.header["$MEASUREMENT"] = 1
        lines = {"AXES": "CENTER", "HIDDEN_EDGES": "DASHED"}
        for layer, meaning in MEANINGS.items():
            wide = next((w for w, _, name in LINES.values() if name == layer), THIN)
            one = doc.layers.add(layer, color=7, linetype=lines.get(layer, "CONTINUOUS"), lineweight=round(100 * wide))
            one.description = meaning
        doc.styles.add("SHEET", font="Lato-Regular.ttf")
        space = doc.modelspace()
        for item in self.items:
            match item:
                case Stroke(points=points, kind=kind, closed=closed):
                    space.add_lwpolyline(points, close=closed, dxfattribs={"layer": LINES[kind][2]})
                case Circle(middle=middle, r=r, kind=kind):
                    space.add_circle(middle, r, dxfattribs={"layer": LINES[kind][2]})
                case Arc(middle=middle, r=r, start=start, end=end, kind=kind):
                    space.add_arc(middle, r, start, end, dxfattribs={"layer": LINES[kind][2]})
                case Area(points=points, filled=filled, hatch_angle=hatch_angle):
                    area = space.add_hatch(color=7, dxfattribs={"layer": "DIMENSIONS" if filled else "HATCHING"})
                    area.paths.add_polyline_path(points, is_closed=True)
                    if not filled:
                        area.set_pattern_fill("ANSI31", scale=HATCH_STEP / 3.175, angle=hatch_angle - 45)
                case Text():
                    entity = space.add_text(
                        dxf_words(item.words),
                        height=item.size,
                        rotation=item.turn,
                        dxfattribs={"layer": "TEXT", "style": "SHEET", "oblique": 12 if item.italic else 0},
                    )
                    entity.set_placement(item.at, align=at[item.anchor])
        legend = [(tr("Layers"), ""), *MEANINGS.items(), ("", self.told)]
        for n, (layer, meaning) in enumerate(legend):
            words = tr("{layer}: {meaning}", layer=layer, meaning=meaning) if layer and meaning else layer or meaning
            space.add_text(dxf_words(words), height=2.5, dxfattribs={"layer": "TEXT", "style": "SHEET"}).set_placement(
                (self.width + 10, self.height - 10 - 5 * n)
            )
        doc.saveas(path)

    def write(self, path: Path) -> None:
        """By the suffix: .svg, .dxf or .pdf; raises ValueError for another."""
        kind = path.suffix.lower()
        if kind == ".svg":
            path.write_text(self.svg(), encoding="utf-8")
        elif kind == ".dxf":
            self.write_dxf(path)
        elif kind == ".pdf":
            path.write_bytes(self.pdf())
        else:
            raise ValueError(
                tr(
                    "a drawing sheet is written as .pdf, .dxf or .svg, not as {value}",
                    value=kind or "a file without suffix",
                )
            )


def _style(kind: str) -> str:
    wide, dashes, _ = LINES[kind]
    dashed = f' stroke-dasharray="{" ".join(f"{d:g}" for d in dashes)}"' if dashes else ""
    return f'stroke-width="{wide:g}"{dashed}'


def hatch_lines(area: Area) -> list[tuple[Point, Point]]:
    """The lines of a cut face, within its outline.

    >>> square = Area(((0, 0), (10, 0), (10, 10), (0, 10)))
    >>> found = hatch_lines(square)
    >>> len(found), all(abs((b[1] - a[1]) - (b[0] - a[0])) < 1e-9 for a, b in found)
    (7, True)
    """
    from shapely import LineString, Polygon

    shape = Polygon(area.points).buffer(0)
    if shape.is_empty:
        return []
    left, low, right, high = shape.bounds
    hatch_angle = radians(area.hatch_angle)
    along, across = (cos(hatch_angle), sin(hatch_angle)), (-sin(hatch_angle), cos(hatch_angle))
    reach = right - left + high - low
    offsets = [x * across[0] + y * across[1] for x in (left, right) for y in (low, high)]
    result: list[tuple[Point, Point]] = []
    n = int(min(offsets) // HATCH_STEP)
    while (n := n + 1) * HATCH_STEP < max(offsets):
        x, y = n * HATCH_STEP * across[0], n * HATCH_STEP * across[1]
        middle = ((left + right) / 2 - x) * along[0] + ((low + high) / 2 - y) * along[1]
        ends = [(x + (middle + s * reach) * along[0], y + (middle + s * reach) * along[1]) for s in (-1, 1)]
        cut = shape.intersection(LineString(ends))
        for piece in getattr(cut, "geoms", [cut]):
            if piece.geom_type == "LineString" and piece.length > 1e-6:
                a, *_, b = sorted(piece.coords)
                result.append(((a[0], a[1]), (b[0], b[1])))
    return result


def turned(point: Point, degrees: float) -> Point:
    """A point turned about the origin."""
    a = degrees * pi / 180
    return point[0] * cos(a) - point[1] * sin(a), point[0] * sin(a) + point[1] * cos(a)


def shortened(words: str, size: float, room: float) -> str:
    """Words that fit a room, cut with an ellipsis where they do not."""
    if width_of(words, size) <= room:
        return words
    keep = max(1, ceil(len(words) * room / width_of(words, size)))
    while keep > 1 and width_of(words[:keep] + "…", size) > room:
        keep -= 1
    return words[:keep] + "…"

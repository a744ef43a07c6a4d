"""The report as PDF, set by a typesetter that comes with its engine: a first page with duty, verdicts and what
governs, then every calculation."""

from __future__ import annotations

from datetime import date
from importlib import import_module
from importlib.resources import files
from pathlib import Path

from cooper.document.models import Design
from cooper.exchange.formula_setting import Setting, Typst
from cooper.exchange.report import Block, Heading, Picture, Working, pieces, verdict_line
from cooper.exchange.report_figures import figure
from cooper.exchange.report_formulas import lines_of
from cooper.exchange.report_tables import ROWS, string, table_of, words
from cooper.exchange.statement import state_hash
from cooper.i18n.text import join, tr
from cooper.i18n.translate import language_in_force
from cooper.results.result_tree import Results

HEAD = """
#set document(title: title, author: "Cooper")
#set page(
  paper: "a4", margin: (x: 18mm, top: 20mm, bottom: 18mm),
  header: context if counter(page).get().first() > 1 [
    #set text(8pt, fill: muted)
    #title #h(1fr) #state
    #v(-7pt) #line(length: 100%, stroke: 0.4pt + hair)
  ],
  footer: context [
    #set text(8pt, fill: muted)
    #day #h(1fr) #counter(page).display() of #counter(page).final().first()
  ],
)
#set text(font: "Lato", size: 8.5pt, fill: ink, lang: language)
#set par(leading: 0.5em)
#show math.equation: set text(size: 8.5pt)
#show math.equation.where(block: true): set align(left)
#show math.equation.where(block: true): set block(spacing: 3pt)
#show heading.where(level: 1): it => block(above: 16pt, below: 8pt, text(13pt, weight: "semibold", it.body))
#show heading.where(level: 2): it => block(above: 11pt, below: 5pt, width: 100%, sticky: true, stroke: (bottom: 0.5pt + hair), inset: (bottom: 2.5pt),
  text(9.5pt, weight: "semibold", fill: copper, it.body))
#let work(lines, clause) = block(width: 100%, breakable: false, above: 4.5pt, below: 4.5pt, grid(columns: (1fr, 3.1cm), column-gutter: 8pt,
  stack(spacing: 4pt, ..lines), align(right, quiet(clause))))
"""
COLORS = (
    '#let ink = rgb("#22303a")\n#let muted = rgb("#6d7880")\n#let hair = rgb("#d8d0c0")\n#let copper = rgb("#a85420")\n'
)


def report_pdf(design: Design, results: Results, system: str = "mm", length: str = "usual", state: str = "") -> bytes:
    """The report as A4 pages in one of the unit systems ("mm", "inch"); ``state`` says which state of the design it
    is of."""
    from typst import Fonts
    from typst import compile as set_type

    source, pictures = report_source(design, results, system, length, state)
    fonts = Fonts(include_system_fonts=False, font_paths=[str(files("cooper.stock") / "fonts")])
    made: bytes = set_type({"main.typ": source.encode(), **pictures}, font_paths=fonts)  # type: ignore[call-overload]
    return made


def page_png(design: Design, results: Results, number: int, dots: int = 110) -> bytes:
    """One page of the usual report (from 1 on) as a picture with so many dots per inch."""
    from typst import Fonts
    from typst import compile as set_type

    source, pictures = report_source(design, results, "mm", tr("usual"))
    fonts = Fonts(include_system_fonts=False, font_paths=[str(files("cooper.stock") / "fonts")])
    pages: list[bytes] = set_type({"main.typ": source.encode(), **pictures}, font_paths=fonts, format="png", ppi=dots)  # type: ignore[call-overload]
    return pages[min(number, len(pages)) - 1]


def make_ready() -> None:
    """Load what the longest report needs, half a second's work, before it is asked for."""
    for name in ("typst", "PIL.ImageFont", "scipy.spatial", "scipy.sparse.linalg", "skfem"):
        import_module(name)


def write_report_pdf(
    design: Design, results: Results, path: Path, system: str = "mm", length: str = "usual", state: str = ""
) -> None:
    """Write it; raises OSError when the disk refuses."""
    path.write_bytes(report_pdf(design, results, system, length, state))


def report_source(
    design: Design, results: Results, system: str, length: str, state: str = ""
) -> tuple[str, dict[str, bytes]]:
    """What the typesetter is given: its source, and the pictures by name."""
    pictures: dict[str, bytes] = {}
    told = tr("{state}design {design}", state=state + ", " if state else "", design=state_hash(design))
    out = [
        COLORS,
        f"#let title = {string(design.name)}\n#let state = {string(told)}\n#let day = "
        f"{string(date.today().isoformat())}\n#let language = {string(language_in_force()[0])}",
    ]
    out += [ROWS, HEAD]
    out.append('#text(20pt, weight: "semibold", title)\\')
    out.append(f"#text(fill: muted, {string(', '.join(filter(None, (design.place, told))))})\\")
    out.append(f"#text(10pt, {string(verdict_line(design, results))})")
    started = False
    for piece in pieces(design, results, system, length):
        match piece:
            case Heading(title=title, fresh=fresh):
                # The first page is a summary. A part that begins on a fresh page is placed next to the others on
                # another core.
                out.append("#pagebreak(weak: true)" if fresh or not started else "")
                started = True
                out.append(f"#heading(level: 1, {string(title)})")
            case Picture():
                out += _picture(piece, design, results, system, pictures)
            case Working():
                out += _working(piece, system)
            case Block(text_only=False) if piece.rows:
                out += table_of(piece)
    return join("\n", out), pictures


MOST = 330
"""Characters of a line of mathematics, as the typesetter reads it, from which it is set smaller."""
WIDTHS = {
    "train": "100%",
    "mesh": "58%",
    "margins": "100%",
    "losses": "100%",
    "shaft": "88%",
    "stress": "100%",
    "loaded": "92%",
}


def _picture(piece: Picture, design: Design, results: Results, system: str, pictures: dict[str, bytes]) -> list[str]:
    svg = figure(piece, design, results, system)
    if not svg:
        return []
    name = f"picture{len(pictures)}.svg"
    pictures[name] = svg.encode()
    tall = ', height: 50mm, fit: "contain"' if piece.name == "train" else ""
    shown = f'image("{name}", width: {WIDTHS[piece.name]}{tall})'
    return [
        f"#block(width: 100%, breakable: false, above: 8pt, below: 8pt, stack(spacing: 4pt, {shown}, "
        f"quiet({string(piece.caption)})))"
    ]


def _working(piece: Working, system: str) -> list[str]:
    to = Typst()
    out = [f"#heading(level: 2, {string(piece.title)})"]
    for one in piece.rows:
        # With a space inside, fractions are set in full height.
        set_lines = [
            tr("$ {line} $", line=to.row(line)) for line in lines_of(one, lambda names: Setting(names, to), system)
        ]
        lines = join(", ", (f"[#set text(size: 7pt);{line}]" if len(line) > MOST else line for line in set_lines))
        out.append(f"#work(({lines},), {words(one.source)})")
    return out

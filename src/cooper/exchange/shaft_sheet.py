"""The drawing sheet of a shaft: its view with diameters and their limits, places from one datum, grooves, keyways,
centre holes, run-outs and surfaces, the toothing that is cut into it, a title block."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from itertools import pairwise
from pathlib import Path

from cooper.atomic_write import atomic_write
from cooper.document.models import Design
from cooper.document.units import number, screen_unit
from cooper.errors import OutOfRange
from cooper.exchange.dimension_sheet import signed_limits
from cooper.exchange.drawing_marks import SIZE, arrow, datum, limits_text
from cooper.exchange.drawing_title import ROW, TITLE, rows_table, title_block
from cooper.exchange.gear_drawing import SCALES, GearSheet
from cooper.exchange.paper import DrawingPage, Point, width_of
from cooper.exchange.statement import statement
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.machine.shaft_model import Joint, MadeShaft
from cooper.machine.shaft_outline import shaft_outline
from cooper.results.machine_result import ShaftResult
from cooper.results.parts_list import material_words
from cooper.results.result_tree import Results
from cooper.results.shaft_piece_specs import PieceSpec, centre_hole, piece_specs

WIDE, HIGH = 420.0, 297.0
"""A3; mm."""
LEFT, RIGHT = 32.0, 22.0
"""Room beside the view; mm."""
APART = 4.2
"""Least distance of figures that stand beside each other; mm."""
TOP = 112.0
"""Upper edge of the tables; mm."""
REST = 3.2
"""Roughness Ra of surfaces without a mark of their own; um."""


def shaft_drawing(design: Design, results: Results, key: str, system: str = "mm") -> DrawingPage:
    """The sheet of a shaft in a unit system; raises `OutOfRange` for a shaft that is not there, `ValueError` where no
    machine is laid out."""
    m = results.machine
    if m is None:
        raise ValueError(tr("no machine is laid out: let it count first"))
    result = m.shaft(key)
    if result is None:
        names = ", ".join(s.key for s in m.shafts)
        raise OutOfRange("shaft", key, tr("there is none of that name; there are {names}", names=names))
    return _ShaftSheet(design, results, result, system).paper


def machine_counted(design: Design) -> tuple[Design, Results]:
    """The design with its machine laid out, counted or not, and its results."""
    from cooper.editing.machine_edits import count_machine
    from cooper.results.evaluate import evaluate

    counted = design if design.train.machine is not None and design.train.machine.counted else count_machine(design)
    return counted, evaluate(counted)


def write_shaft_drawing(design: Design, path: Path, key: str, system: str = "mm") -> Iterator[Path]:
    """Write the sheet of a shaft, whole or not at all, by the path's suffix; yields the path."""
    counted, results = machine_counted(design)
    atomic_write(path, shaft_drawing(counted, results, key, system).write)
    yield path


class _ShaftSheet:
    """One sheet while it is drawn; lengths on paper in mm."""

    def __init__(self, design: Design, results: Results, shaft: ShaftResult, system: str) -> None:
        self.design, self.results, self.shaft, self.system = design, results, shaft, system
        self.made: MadeShaft = shaft.made
        self.specs = piece_specs(self.made)
        long, thick = self.made.end - self.made.start, max(p.d for p in self.made.pieces)
        room = min((WIDE - 30 - LEFT - RIGHT) / long, 0.28 * HIGH / thick)
        self.scale_name = next((n for n, s in SCALES.items() if s <= room * 1.0001), list(SCALES)[-1])
        self.s = SCALES[self.scale_name]
        self.x0 = 20 + LEFT + (WIDE - 30 - LEFT - RIGHT - self.s * long) / 2
        self.y = HIGH - 92.0 - self.s * thick / 2 + 6
        title = tr("{name}, {name_2}", name=shaft.name, name_2=design.name)
        text = tr(
            "Drawing sheet of {name}; scale {scale_name}; {units}; {design}",
            name=shaft.name,
            scale_name=self.scale_name,
            units=tr("dimensions in mm") if system == "mm" else tr("dimensions in inch"),
            design=statement(design, tr("lengths on the sheet")),
        )
        self.paper = DrawingPage(WIDE, HIGH, title, text)
        self.paper.box("frame", 20, 10, WIDE - 10, HIGH - 10)
        self._view()
        self._diameters()
        self._places()
        self.cut = self._cut()
        self._table()
        self._toothing()
        self._title()

    def x(self, z: float) -> float:
        """Place on the paper of a place along the shaft."""
        return self.x0 + self.s * (z - self.made.start)

    def length(self, mm: float) -> str:
        """A length as its figure in the unit system."""
        return number(mm, "length", self.system, 3 if self.system == "mm" else 4)

    def limits(self, t: PieceSpec) -> tuple[str, str] | None:
        """Deviations of a diameter as figures with their signs."""
        return signed_limits(t.upper, t.lower, self.system) if t.tolerance else None

    # --- view

    def _view(self) -> None:
        p, made = self.paper, self.made
        outline = shaft_outline(made)
        upper: list[Point] = [(self.x(z), self.y + self.s * r) for z, r in outline]
        lower: list[Point] = [(self.x(z), self.y - self.s * r) for z, r in reversed(outline)]
        p.line("edge", *upper, *lower, closed=True)
        for z, r in [outline[1], outline[-2], *((b.start, max(a.d, b.d) / 2) for a, b in pairwise(made.pieces))]:
            p.line("thin", (self.x(z), self.y - self.s * r), (self.x(z), self.y + self.s * r))
        p.line("axis", (self.x(made.start) - 6, self.y), (self.x(made.end) + 6, self.y))
        for joint in made.joints:
            self._joint(joint)
        for piece in made.pieces:
            if piece.hole:
                p.circle("edge", (self.x(piece.at), self.y), self.s * piece.hole / 2)
        if made.wish.d_i:
            for side in (-1, 1):
                y = self.y + side * self.s * made.wish.d_i / 2
                p.line("hidden", (self.x(made.start), y), (self.x(made.end), y))
        for n, own in enumerate(t for t in self.specs if t.piece.kind == "bearing"):
            if n < 2:
                foot = (self.x(own.piece.at), self.y - self.s * own.piece.d / 2)
                datum(p, foot, "AB"[n])
        for end, piece, anchor, side in (
            (made.start, made.pieces[0], "end", -1),
            (made.end, made.pieces[-1], "start", 1),
        ):
            words = tr("ISO 6411 - {name}", name=centre_hole(piece.d))
            p.text((self.x(end) + side * 3, self.y + 1.5), words, 1.9, anchor)

    def _joint(self, j: Joint) -> None:
        """A keyway towards the eye; teeth by their tip lines and a thin line for the roots."""
        p, piece = self.paper, self.made.piece(j.piece)
        if j.kind in ("key", "two keys"):
            low, high = self.x(piece.at - j.length / 2), self.x(piece.at + j.length / 2)
            r = self.s * j.b / 2
            p.line("edge", (low + r, self.y + r), (high - r, self.y + r))
            p.line("edge", (low + r, self.y - r), (high - r, self.y - r))
            p.arc("edge", (low + r, self.y), r, 90, 270)
            p.arc("edge", (high - r, self.y), r, 270, 90)
        elif j.kind == "integral":
            seat = next(s for s in self.made.wish.seats if s.gear == j.gear)
            low, high, r = self.x(piece.start), self.x(piece.end), self.s * seat.d_a / 2
            for side in (-1, 1):
                p.line("edge", (low, self.y), (low, self.y + side * r), (high, self.y + side * r), (high, self.y))
        elif j.kind == "spline":
            for side in (-1, 1):
                y = self.y + side * self.s * (piece.d / 2 - 1.1 * j.m)
                p.line("thin", (self.x(piece.start), y), (self.x(piece.end), y))

    def _diameters(self) -> None:
        """Each diameter above its piece, upright, with its class, limits and roughness."""
        p = self.paper
        tips = {s.gear: s.d_a for s in self.made.wish.seats}
        cut = {j.piece: tips[j.gear] for j in self.made.joints if j.kind == "integral" and j.gear in tips}
        tallest = max([t.piece.d for t in self.specs] + list(cut.values()))
        base = self.y + self.s * tallest / 2 + 8
        wanted = [self.x(t.piece.at) for t in self.specs]
        for x, at, t in zip(spread(wanted, APART + 2.0), wanted, self.specs, strict=True):
            d = cut.get(t.piece.name, t.piece.d)
            p.line("dimension", (x, base - 1), (x, base - 3), (at, self.y + self.s * d / 2))
            arrow(p, (at, self.y + self.s * d / 2), -90)
            words = tr("⌀{d}{tolerance}", d=self.length(d), tolerance=f" {t.tolerance}" if t.tolerance else "")
            if t.Ra:
                words = tr("{words}  Ra {Ra:g}", words=words, Ra=t.Ra)
            limits = self.limits(t)
            wide = width_of(translate(words), SIZE)
            more = 0.0 if limits is None else 0.8 + max(width_of(v, 0.7 * SIZE) for v in limits)
            limits_text(p, (x + SIZE / 2, base + (wide + more) / 2), words, limits, 90)

    def _places(self) -> None:
        """Places of all faces from the left end, on one line: the datum is its origin. ISO 129-1."""
        p = self.paper
        faces = [self.made.start, *(t.piece.end for t in self.specs)]
        thick = max(t.piece.d for t in self.specs)
        y = self.y - self.s * thick / 2 - 14
        p.line("dimension", (self.x(faces[0]), y), (self.x(faces[-1]) + 4, y))
        p.circle("dimension", (self.x(faces[0]), y), 1.0)
        wanted = [self.x(z) for z in faces]
        for x, at, z in zip(spread(wanted, APART), wanted, faces, strict=True):
            p.line("dimension", (at, self.y - 1), (at, y - 1), (x, y - 4))
            if z > faces[0]:
                arrow(p, (at, y), 0)
            words = self.length(z - faces[0])
            p.text((x + SIZE / 2.6, y - 5 - width_of(words, SIZE)), words, SIZE, turn=90)

    def _table(self) -> None:
        """What is worked into each piece, with run-outs."""
        names = {tr("seat {gear}", gear=x.gear): tr("seat of {name}", name=x.name) for x in self.made.wish.seats}
        rows = []
        for t in self.specs:
            words = [t.words] if t.words else []
            if t.run_out:
                words.append(tr("run-out {value} to A-B", value=self.length(t.run_out)))
            if t.piece.kind in ("bearing", "seat", "gap", "collar", "end", "seal") and not t.piece.undercut:
                words.append(tr("fillet R {r}", r=self.length(round(t.piece.r, 2))))
            if words:
                size = tr("⌀{d}", d=self.length(t.piece.d))
                name = names.get(t.piece.name) or names.get(t.piece.holds) or t.piece.name
                rows.append((join("; ", [name, *words]), "", size))
        rows_table(self.paper, tr("Pieces, from the left"), rows, (24.0, 210.0), (22.0, TOP))

    def _cut(self) -> GearSheet | None:
        """The sheet of the gear that is cut into the shaft, the first of them."""
        own = {j.gear for j in self.made.joints if j.kind == "integral"}
        for k, stage in enumerate(self.design.train.stages):
            for i, gear in enumerate(stage.gears, 1):
                if gear.id in own:
                    return GearSheet(self.design, self.results, k, i, self.system)
        return None

    def _toothing(self) -> None:
        """The table of the toothing that is cut into the shaft, in two columns."""
        if self.cut is None:
            return
        rows, title = self.cut.rows, tr("Toothing of {name}", name=self.cut.gear.name)
        room = (12 + TITLE, TOP)
        most = int((room[1] - room[0]) / ROW) - 1
        rows_table(self.paper, title, rows[:most], (214.0, 310.0), room)
        if len(rows) > most:
            rows_table(self.paper, title, rows[most:], (314.0, 410.0), room)

    def _title(self) -> None:
        s, steel = self.shaft, self.made.wish.steel.name
        teeth = sum(x.mass for x in self.made.wish.seats if self.cut is not None and x.gear == self.cut.gear.id)
        if self.cut is not None:
            steel = material_words(self.cut.gear)
        mass = tr(
            "{mass} {screen_unit}",
            mass=number(float(s.checked.mass) + teeth, "mass", self.system),
            screen_unit=screen_unit("kg" if self.system == "mm" else "lb"),
        )
        cells = (
            (
                (tr("title"), s.name),
                (tr("part of"), self.design.name),
                (tr("part number"), ""),
                (tr("drawn, checked"), ""),
            ),
            (
                (tr("material"), steel),
                (tr("surface hardness"), ""),
                (tr("mass"), mass),
                (tr("general tolerances"), "ISO 2768-mK"),
            ),
            (
                (tr("scale"), tr("{scale_name}, {name}", scale_name=self.scale_name, name="A3")),
                (tr("dimensions in"), tr("millimetre") if self.system == "mm" else "inch"),
                (tr("edges"), "ISO 13715"),
                (tr("date"), date.today().isoformat()),
            ),
        )
        title_block(self.paper, cells, tr("Ra {Ra_rest:g}", Ra_rest=REST))


def spread(places: list[float], apart: float) -> list[float]:
    """Rising places, each as near as can be to where it is wanted, at least so far apart; mm.

    >>> [round(v, 3) for v in spread([0.0, 1.0, 10.0], 2.0)]
    [-0.5, 1.5, 10.0]
    """
    result = list(places)
    for _ in range(200):
        over = 0.0
        for n in range(len(result) - 1):
            short = apart - (result[n + 1] - result[n])
            if short > 1e-9:
                result[n] -= short / 2
                result[n + 1] += short / 2
                over = max(over, short)
        if over < 1e-6:
            break
    return result

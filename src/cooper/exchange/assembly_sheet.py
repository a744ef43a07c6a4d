"""The sheet of the whole machine: all shafts in section with their axes unfolded, item numbers, the parts list, a title
block."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from itertools import pairwise
from math import hypot
from pathlib import Path

from msgspec import Struct

from cooper.atomic_write import atomic_write
from cooper.document.models import Design
from cooper.document.units import number, number_with_unit
from cooper.exchange.drawing_title import ROW, TITLE, title_block
from cooper.exchange.gear_drawing import SCALES
from cooper.exchange.paper import DrawingPage, Point, fitting, shortened
from cooper.exchange.shaft_sheet import machine_counted, spread
from cooper.exchange.statement import statement
from cooper.i18n.text import term, tr
from cooper.i18n.translate import translate
from cooper.machine.covers import screw_designation
from cooper.machine.hub_ends import HUB_OUTSIDE, hub_ends
from cooper.machine.shaft_outline import shaft_outline
from cooper.machine.turned_parts import Profile, box, in_housing, on_shaft
from cooper.results.machine_result import MachineResult, ShaftResult
from cooper.results.parts_list import Item, parts_list
from cooper.results.result_tree import Results

WIDE, HIGH = 594.0, 420.0
"""A2; mm."""
TABLE = 190.0
"""Width of the parts list; mm."""
COLUMNS = (
    (tr("item"), 9.0),
    (tr("count"), 10.0),
    (tr("part"), 56.0),
    (tr("designation"), 62.0),
    (tr("material"), 36.0),
)
"""Columns of the parts list before the mass, and their widths (mm)."""
BALLOON = 4.2
"""Radius of the circle of an item number; mm."""


class Spot(Struct, frozen=True):
    """Where an item is seen: on which shaft by number, at which place along it and radius (mm)."""

    shaft: int
    z: float
    r: float


def machine_drawing(design: Design, results: Results, system: str = "mm") -> DrawingPage:
    """The sheet of the machine in a unit system; raises `ValueError` where none is laid out."""
    if results.machine is None:
        raise ValueError(tr("no machine is laid out: let it count first"))
    return _MachineSheet(design, results, results.machine, system).paper


def write_machine_drawing(design: Design, path: Path, system: str = "mm") -> Iterator[Path]:
    """Write the sheet, whole or not at all, by the path's suffix; yields the path."""
    counted, results = machine_counted(design)
    atomic_write(path, machine_drawing(counted, results, system).write)
    yield path


def spot_of(item: Item, m: MachineResult) -> Spot | None:
    """Where a row of the parts list is seen first; None for what the section does not show."""
    for n, s in enumerate(m.shafts):
        made = s.made
        if item.on and s.name not in item.on.split(", ") and not any(item.name == x.name for x in made.wish.seats):
            continue
        if item.name == s.name:
            piece = max(made.pieces, key=lambda p: p.length)
            return Spot(n, piece.at, 0.3 * piece.d)
        for seat in made.wish.seats:
            body = next((b for b in m.bodies if b.key == seat.gear), None)
            if item.name == seat.name and body is not None:
                at = m.places.planes[body.plane][0] + body.lead + body.b / 2
                return Spot(n, at, (body.r + body.r_in) / 2 if body.r_in else 0.8 * body.r)
        for c in s.holding.covers:
            if item.name == tr("cover of {bearing}", bearing=c.bearing):
                return Spot(n, (c.z_2 + c.z_3) / 2, 0.45 * c.D)
            if item.designation == screw_designation(c):
                return Spot(n, c.z_3, c.d_1 / 2)
        for b in made.bearings:
            if item.designation == b.bearing.designation:
                return Spot(n, b.at, 0.45 * b.bearing.D)
        for p, seal in made.seals:
            if item.designation == seal.designation:
                return Spot(n, p.at, 0.45 * seal.D)
        for p, ring in made.rings:
            if item.designation == ring.designation:
                return Spot(n, p.at, ring.d_2 / 2 + 0.6 * ring.width)
        for p, nut in made.nuts:
            if item.designation == tr("DIN 981, KM {n}", n=nut.number):
                return Spot(n, p.at, 0.45 * nut.D)
        for hold in s.holding.holds:
            if item.designation == hold.by:
                return Spot(n, *hold.place)
        if item.name == tr("sleeve") and made.sleeves:
            p = made.sleeves[0]
            return Spot(n, p.at, (p.d + p.sleeve) / 4)
        for j in made.joints:
            if j.kind in ("key", "two keys") and f"{j.b:g} x {j.h:g} x {j.length:g}" in item.designation:
                return Spot(n, made.piece(j.piece).at, j.d / 2)
    return None


class _MachineSheet:
    """One sheet while it is drawn; lengths on paper in mm."""

    def __init__(self, design: Design, results: Results, m: MachineResult, system: str) -> None:
        self.design, self.m, self.system = design, m, system
        self.items = parts_list(design, results, m)
        self.heights = [0.0]
        for one, two in pairwise(m.shafts):
            self.heights.append(self.heights[-1] - hypot(two.axis[0] - one.axis[0], two.axis[1] - one.axis[1]))
        reach = [self._reach(n) for n in range(len(m.shafts))]
        top = max(y + r for y, r in zip(self.heights, reach, strict=True))
        low = min(y - r for y, r in zip(self.heights, reach, strict=True))
        ends = [z for s in m.shafts for z in (s.made.start, s.made.end, *(c.z_3 for c in s.holding.covers))]
        start, end = min(ends), max(ends)
        room = (WIDE - 30 - TABLE - 90.0, HIGH - 60.0)
        scale = min(room[0] / (end - start), room[1] / (top - low))
        self.scale_name = next((n for n, s in SCALES.items() if s <= scale * 1.0001), list(SCALES)[-1])
        self.s = SCALES[self.scale_name]
        self.x0 = 20 + 45.0 + (room[0] - self.s * (end - start)) / 2 - self.s * start
        self.y0 = HIGH / 2 + 5 - self.s * (top + low) / 2
        self.edges = (self.x0 + self.s * start - 18, self.x0 + self.s * end + 18)
        text = tr(
            "Drawing sheet of {name}; scale {scale_name}; {units}; {design}",
            name=tr("machine"),
            scale_name=self.scale_name,
            units=tr("dimensions in mm") if system == "mm" else tr("dimensions in inch"),
            design=statement(design, tr("lengths on the sheet")),
        )
        self.paper = DrawingPage(WIDE, HIGH, tr("{name}, {name_2}", name=tr("machine"), name_2=design.name), text)
        self.paper.box("frame", 20, 10, WIDE - 10, HIGH - 10)
        self._walls(start, end, top, low)
        for n, s in enumerate(m.shafts):
            self._shaft(n, s)
        self._balloons()
        self._list()
        self._title()

    def _reach(self, n: int) -> float:
        """How far a shaft and all on it reach from its axis; mm."""
        own = [b.r for b in self.m.bodies if b.shaft == n]
        return max([*own, *(c.D_2 / 2 for c in self.m.shafts[n].holding.covers), 1.0])

    def at(self, n: int, z: float, r: float) -> Point:
        """The point of the paper for a place along a shaft and a distance from its axis, upwards."""
        return self.x0 + self.s * z, self.y0 + self.s * (self.heights[n] + r)

    def _walls(self, start: float, end: float, top: float, low: float) -> None:
        """The end walls of the housing, thin."""
        wall = self.m.housing.wall
        for z_1, z_2 in ((self.m.places.inner[0] - wall, self.m.places.inner[0]), (self.m.places.inner[1], 0.0)):
            other = z_2 if z_2 else self.m.places.inner[1] + wall
            for z in (z_1, other):
                self.paper.line("thin", self._plain(z, low - 4), self._plain(z, top + 4))

    def _plain(self, z: float, y: float) -> Point:
        return self.x0 + self.s * z, self.y0 + self.s * y

    def _section(self, n: int, profile: Profile, angle: float | None, arm: float = 0.0) -> None:
        """Both halves of a section, or a screw above and below the axis; hatched where an angle is given."""
        for side in (1, -1):
            points = [self.at(n, z, side * (arm + r)) for z, r in profile]
            if arm:
                points += [self.at(n, z, side * (arm - r)) for z, r in reversed(profile)]
            if angle is not None:
                self.paper.hatch(points, angle * side)
            self.paper.line("edge", *points, closed=True)

    def _shaft(self, n: int, s: ShaftResult) -> None:
        p, made = self.paper, s.made
        for b in self.m.bodies:
            if b.shaft == n:
                z = self.m.places.planes[b.plane][0] + b.lead
                inner = b.r_in or next((q.d / 2 for q in made.pieces if q.on == b.key), 0.0)
                self._section(n, box(z, z + b.b, inner, b.r), 45.0 if n % 2 else 135.0)
        for _gear, start, end, d in hub_ends(made):
            self._section(n, box(start, end, d / 2, HUB_OUTSIDE / 2 * d), 45.0 if n % 2 else 135.0)
        for own in in_housing(made, s.holding):
            self._section(n, own.profile, None if own.arm else 60.0, own.arm)
        for one in made.bearings:
            k = one.bearing
            low, high, ring = one.at - k.B / 2, one.at + k.B / 2, 0.28 * (k.D - k.d) / 2
            self._section(n, box(low, high, k.d / 2, k.d / 2 + ring), 30.0)
            self._section(n, box(low, high, k.D / 2 - ring, k.D / 2), 150.0)
            for side in (1, -1):
                x, y = self.at(n, one.at, side * k.D_pw / 2)
                if k.rollers:
                    half, r = self.s * k.L_we / 2, self.s * k.D_w / 2
                    p.box("edge", x - half, y - r, x + half, y + r)
                else:
                    p.circle("edge", (x, y), self.s * k.D_w / 2)
        for own in on_shaft(made):
            self._section(n, own.profile, 45.0)
        outline = shaft_outline(made)
        points = [self.at(n, z, r) for z, r in outline] + [self.at(n, z, -r) for z, r in reversed(outline)]
        p.line("edge", *points, closed=True)
        for q, after in pairwise(made.pieces):
            r = max(q.d, after.d) / 2
            p.line("thin", self.at(n, q.end, -r), self.at(n, q.end, r))
        for j in made.joints:
            if j.kind in ("key", "two keys"):
                q = made.piece(j.piece)
                profile = box(q.at - j.length / 2, q.at + j.length / 2, q.d / 2 - j.t_1, q.d / 2 - j.t_1 + j.h)
                p.line("edge", *(self.at(n, z, r) for z, r in profile), closed=True)
        p.line("axis", self.at(n, made.start - 6 / self.s, 0.0), self.at(n, made.end + 6 / self.s, 0.0))

    def _balloons(self) -> None:
        """Item numbers in circles beside the section, each with a line to what it names."""
        sides: tuple[list[tuple[float, Point, int]], ...] = ([], [])
        middle = sum(self.edges) / 2
        for number_of, item in enumerate(self.items, 1):
            spot = spot_of(item, self.m)
            if spot is None:
                continue
            x, y = self.at(spot.shaft, spot.z, spot.r)
            sides[0 if x < middle else 1].append((y, (x, y), number_of))
        for x, rows in zip(self.edges, sides, strict=True):
            rows.sort()
            places = spread([y for y, _at, _n in rows], 2 * BALLOON + 1.5)
            for y, (_y, target, n) in zip(places, rows, strict=True):
                way = 1 if target[0] > x else -1
                self.paper.line("thin", (x + way * BALLOON, y), target)
                self.paper.circle("thin", target, 0.5)
                self.paper.circle("edge", (x, y), BALLOON)
                self.paper.text((x, y - 1.2), str(n), 2.5, "middle")

    def _list(self) -> None:
        """The parts list above the title block, its first row at the top."""
        p, right, top = self.paper, WIDE - 10, HIGH - 10
        left = right - TABLE
        rows = self.items[: int((top - 10 - TITLE) / ROW) - 1]
        bottom = top - ROW * (len(rows) + 1)
        p.box("table", left, bottom, right, top)
        x = left
        heads = [*COLUMNS, (tr("mass, kg") if self.system == "mm" else tr("mass, lb"), right - left - 173.0)]
        for n, (head, wide) in enumerate(heads):
            if n:
                p.line("table", (x, bottom), (x, top))
            p.text((x + 1.0, top - ROW + 1.2), shortened(translate(head), 1.9, wide - 1.5), 1.9)
            x += wide
        for n, item in enumerate(rows):
            y = top - ROW * (n + 2)
            p.line("table", (left, y + ROW), (right, y + ROW))
            mass = number(item.mass, "mass", self.system)
            cells = (str(n + 1), str(item.count), term(item.name), item.designation, item.material, mass)
            x = left
            for cell, (_head, wide) in zip(cells, heads, strict=True):
                words = translate(cell)
                size = fitting(words, 1.9, wide - 1.6, 1.4)
                p.text((x + 1.0, y + 1.3), shortened(words, size, wide - 1.6), size)
                x += wide

    def _title(self) -> None:
        mass = number_with_unit(sum(i.count * i.mass for i in self.items), "mass", self.system)
        cells = (
            (
                (tr("title"), tr("machine")),
                (tr("part of"), self.design.name),
                (tr("part number"), ""),
                (tr("drawn, checked"), ""),
            ),
            (
                (tr("material"), tr("by the parts list")),
                (tr("surface hardness"), ""),
                (tr("mass"), mass),
                (tr("general tolerances"), "ISO 2768-mK"),
            ),
            (
                (tr("scale"), tr("{scale_name}, {name}", scale_name=self.scale_name, name="A2")),
                (tr("dimensions in"), tr("millimetre") if self.system == "mm" else "inch"),
                (tr("edges"), "ISO 13715"),
                (tr("date"), date.today().isoformat()),
            ),
        )
        title_block(self.paper, cells, tr("Ra {Ra_rest:g}", Ra_rest=3.2))

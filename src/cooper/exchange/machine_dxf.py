"""The shafts of a machine in axial section, for a DXF: pieces, gears, bearings, keys, axes, each on its layer."""

from __future__ import annotations

from math import hypot
from typing import Any

from cooper.document.models import Design
from cooper.exchange.dxf_legend import dxf_words
from cooper.i18n.text import tr
from cooper.machine.shaft_model import MadeShaft
from cooper.machine.shaft_outline import shaft_outline
from cooper.machine.turned_parts import TurnedPart, in_housing, on_shaft
from cooper.results.machine_result import MachineResult
from cooper.results.result_tree import Results

LAYERS = {
    "SHAFT": (7, "CONTINUOUS"),
    "SHAFT_GEAR": (3, "CONTINUOUS"),
    "SHAFT_BEARING": (5, "CONTINUOUS"),
    "SHAFT_KEY": (1, "CONTINUOUS"),
    "SHAFT_AXIS": (9, "CENTER"),
    "SHAFT_FASTENER": (6, "CONTINUOUS"),
    "COVER": (8, "CONTINUOUS"),
    "HOUSING": (8, "CONTINUOUS"),
}
MEANINGS = {
    "SHAFT": tr("shafts in axial section"),
    "SHAFT_GEAR": tr("gears on their shafts"),
    "SHAFT_BEARING": "bearings",
    "SHAFT_KEY": "keys",
    "SHAFT_AXIS": tr("axes of the shafts, with their names"),
    "SHAFT_FASTENER": tr("retaining rings, nuts and sleeves"),
    "COVER": tr("covers with their screws, and seals"),
    "HOUSING": tr("inner walls of the housing"),
}
APART = 40.0
"""Room between the end view and the sections; mm."""


def _box(space: Any, x_1: float, x_2: float, y_1: float, y_2: float, layer: str) -> None:
    corners = [(x_1, y_1), (x_2, y_1), (x_2, y_2), (x_1, y_2)]
    space.add_lwpolyline(corners, close=True, dxfattribs={"layer": layer})


def add_sections(doc: Any, space: Any, design: Design, results: Results, m: MachineResult, left: float) -> None:
    """Draw all shafts with their axes unfolded into the plane, right of ``left`` (mm), each as far below the one
    before as their axes are apart."""
    for name, (color, line) in LAYERS.items():
        doc.layers.add(name, color=color, linetype=line)
    x0 = left + APART - min(s.made.start for s in m.shafts)
    y = 0.0
    for k, s in enumerate(m.shafts):
        if k:
            before = m.shafts[k - 1].axis
            y -= hypot(s.axis[0] - before[0], s.axis[1] - before[1])
        _shaft(space, s.made, x0, y)
        _turned(space, on_shaft(s.made), x0, y, "SHAFT_FASTENER")
        _turned(space, in_housing(s.made, s.holding), x0, y, "COVER")
        for b in m.bodies:
            if b.shaft != k:
                continue
            start = x0 + m.places.planes[b.plane][0] + b.lead
            seat = next((p.d / 2 for p in s.made.pieces if p.on == b.key), 0.0)
            inner = b.r_in or seat
            for side in (1, -1):
                _box(space, start, start + b.b, y + side * inner, y + side * b.r, "SHAFT_GEAR")
        ends = (x0 + s.made.start - 5, x0 + s.made.end + 5)
        space.add_line((ends[0], y), (ends[1], y), dxfattribs={"layer": "SHAFT_AXIS"})
        space.add_text(dxf_words(s.name), height=3, dxfattribs={"layer": "SHAFT_AXIS"}).set_placement((ends[1] + 2, y))
    low, high = (x0 + z for z in m.places.inner)
    for x in (low, high):
        space.add_line((x, y - 20), (x, 20), dxfattribs={"layer": "HOUSING"})


def _turned(space: Any, parts: list[TurnedPart], x0: float, y: float, layer: str) -> None:
    """Both halves of the sections of turned parts; screws lie above and below the axis."""
    for own in parts:
        for side in (1, -1):
            points = [(x0 + z, y + side * (own.arm + r)) for z, r in own.profile]
            if own.arm:
                points = [*points, *((x, 2 * (y + side * own.arm) - v) for x, v in reversed(points))]
            space.add_lwpolyline(points, close=True, dxfattribs={"layer": layer})


def _shaft(space: Any, made: MadeShaft, x0: float, y: float) -> None:
    upper = [(x0 + z, y + r) for z, r in shaft_outline(made)]
    lower = [(x, 2 * y - v) for x, v in reversed(upper)]
    space.add_lwpolyline([*upper, *lower], close=True, dxfattribs={"layer": "SHAFT"})
    for p in made.pieces[1:]:
        space.add_line((x0 + p.start, y - p.d / 2), (x0 + p.start, y + p.d / 2), dxfattribs={"layer": "SHAFT"})
    for b in made.bearings:
        k = b.bearing
        for side in (1, -1):
            _box(
                space, x0 + b.at - k.B / 2, x0 + b.at + k.B / 2, y + side * k.d / 2, y + side * k.D / 2, "SHAFT_BEARING"
            )
            middle = (x0 + b.at, y + side * k.D_pw / 2)
            if not k.rollers:
                space.add_circle(middle, k.D_w / 2, dxfattribs={"layer": "SHAFT_BEARING"})
                continue
            x, r = middle
            _box(space, x - k.L_we / 2, x + k.L_we / 2, r - k.D_w / 2, r + k.D_w / 2, "SHAFT_BEARING")
    for j in made.joints:
        if j.kind in ("key", "two keys"):
            p = made.piece(j.piece)
            top = y + p.d / 2 - j.t_1
            _box(space, x0 + p.at - j.length / 2, x0 + p.at + j.length / 2, top, top + j.h, "SHAFT_KEY")

"""The whole train in place and phase: DXF with layers for every stage, STEP assembly."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from msgspec.structs import replace

from cooper.document.models import Design
from cooper.exchange.body import Body, bodies
from cooper.exchange.dxf_legend import add_legend
from cooper.exchange.machine_dxf import MEANINGS as MACHINE_MEANINGS
from cooper.exchange.machine_dxf import add_sections
from cooper.exchange.solid import Place, write_step_placed
from cooper.exchange.statement import Said, statement
from cooper.i18n.text import tr
from cooper.results.heights import heights
from cooper.results.pose import pose
from cooper.results.result_tree import Results
from cooper.values import GearValues

CIRCLES = ("d", "d_b", "d_a", "d_fE", "d_w")
PARTS = {
    "OUTLINE": tr("outlines of the teeth and bores"),
    "CIRCLES": tr("reference, base, tip, root and working circles"),
    "CENTRES": "axes",
}
"""What lies on the layers of a stage."""


def placed_bodies(design: Design, results: Results, turn: float = 0.0) -> list[tuple[Body, list[Place], int]]:
    """Every gear as a body about its own axis with a tooth along +x, the places where it stands, and its stage.

    ``turn`` is that of the input (rad). What does not turn stands about as many pitches to either side of the
    line of centres and moves within a pitch.
    """
    at = pose(results, turn)
    z = heights(results)
    result: dict[tuple[int, int], tuple[Body, list[Place], int]] = {}
    for g in at.gears:
        key = (g.stage, g.i)
        if key not in result:
            body = bodies(design, results.stages[g.stage], g.stage)[g.i]
            result[key] = (replace(body, x=0.0, phase=0.0), [], g.stage)
        result[key][1].append((g.x, g.y, z[g.stage], g.angle))
    return list(result.values())


def write_train_step(design: Design, results: Results, path: Path, said: Said | None = None) -> None:
    """STEP assembly of the whole train, planets as copies of one product."""
    write_step_placed([(body, places) for body, places, _ in placed_bodies(design, results)], path, design.name, said)


def layer_of(results: Results, stage: int, part: str) -> str:
    """Layer of a stage: its number and name, and what lies on it."""
    name = "".join(c if c.isalnum() else "_" for c in results.stages[stage].name).strip("_")
    return f"{stage + 1}_{name}_{part}"[:80]


def write_train_dxf(design: Design, results: Results, path: Path, tolerance: float) -> None:
    """DXF R2010 in mm of the whole train in end view, with layers for outlines, circles and centres of every stage;
    beside it the shafts in axial section, where the machine counts."""
    import ezdxf
    from ezdxf import units

    doc = ezdxf.new("R2010", setup=["linetypes"], units=units.MM)
    space = doc.modelspace()
    for k in range(len(results.stages)):
        for part, color, line in (
            ("OUTLINE", 1 + k % 6, "CONTINUOUS"),
            ("CIRCLES", 8, "DASHDOT"),
            ("CENTRES", 9, "CENTER"),
        ):
            doc.layers.add(layer_of(results, k, part), color=color, linetype=line)
    drawn = placed_bodies(design, results)
    for body, places, k in drawn:
        points = body.outline(tolerance)
        gear = _values(results, body, k)
        for x, y, _z, angle in places:
            c, s = np.cos(angle), np.sin(angle)
            turned = points @ np.array([[c, s], [-s, c]]) + [x, y]
            space.add_lwpolyline(turned.tolist(), close=True, dxfattribs={"layer": layer_of(results, k, "OUTLINE")})
            if body.edge > 0:
                space.add_circle((x, y), body.edge / 2, dxfattribs={"layer": layer_of(results, k, "OUTLINE")})
            for symbol in CIRCLES:
                if gear.get(symbol, 0) > 0:
                    space.add_circle((x, y), gear[symbol] / 2, dxfattribs={"layer": layer_of(results, k, "CIRCLES")})
            space.add_point((x, y), dxfattribs={"layer": layer_of(results, k, "CENTRES")})
    if results.machine is not None:
        right = max(x for _body, places, _k in drawn for x, _y, _z, _a in places)
        widest = max(b.r for b in results.machine.bodies)
        add_sections(doc, space, design, results, results.machine, right + widest)
    meanings = {
        layer_of(results, k, part): tr("{name}: {words}", name=stage.name, words=words)
        for k, stage in enumerate(results.stages)
        for part, words in PARTS.items()
    }
    if results.machine is not None:
        meanings |= MACHINE_MEANINGS
    reach = [(x, y, _reach(body, tolerance)) for body, places, _k in drawn for x, y, _z, _a in places]
    left, low = min(x - r for x, _, r in reach), min(y - r for _, y, r in reach)
    size = max(0.01 * (max(x + r for x, _, r in reach) - left), 0.2)
    text = statement(design, tr("outlines within {tolerance:g} mm of the true ones", tolerance=tolerance))
    add_legend(doc, space, meanings, text, (left, low - 3 * size), size)
    doc.saveas(path)


def _reach(body: Body, tolerance: float) -> float:
    """How far a body reaches from its axis; mm."""
    return max(float(np.abs(body.outline(tolerance)).max()), body.edge / 2)


def _values(results: Results, body: Body, k: int) -> GearValues[float]:
    stage = results.stages[k]
    return stage.gears[0] if body.tooth is stage.teeth[0] else stage.gears[1]

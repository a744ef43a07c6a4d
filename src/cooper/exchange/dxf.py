"""DXF of a stage: both gears in mesh with their circles, in true position and phase."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

from cooper.arrays import Loose as Array
from cooper.document.models import Design
from cooper.exchange.body import Body
from cooper.exchange.bore_profile import arc_of
from cooper.exchange.dxf_legend import add_legend
from cooper.exchange.mounted import mounted
from cooper.exchange.outlines import grown_diameter
from cooper.exchange.statement import statement
from cooper.i18n.text import tr
from cooper.results.result_tree import Results

LAYERS = {
    "OUTLINE": (7, "CONTINUOUS"),
    "REFERENCE_CIRCLE": (8, "DASHDOT"),
    "BASE_CIRCLE": (8, "DASHED"),
    "TIP_CIRCLE": (9, "DASHED"),
    "ROOT_CIRCLE": (9, "DASHED"),
    "WORKING_CIRCLE": (8, "DASHDOT"),
    "LINE_OF_ACTION": (3, "CONTINUOUS"),
    "CENTRES": (1, "CENTER"),
    "BORE": (7, "CONTINUOUS"),
}
MEANINGS = {
    "OUTLINE": tr("outlines of the teeth"),
    "REFERENCE_CIRCLE": tr("reference circles, datum line of a rack"),
    "BASE_CIRCLE": tr("base circles"),
    "TIP_CIRCLE": tr("tip circles"),
    "ROOT_CIRCLE": tr("root circles at mean allowance"),
    "WORKING_CIRCLE": tr("working pitch circles"),
    "LINE_OF_ACTION": tr("path of contact from A to E"),
    "CENTRES": tr("axes and line of centres"),
    "BORE": tr("bores, outside of a ring"),
}
CIRCLES = (
    ("d", "REFERENCE_CIRCLE"),
    ("d_b", "BASE_CIRCLE"),
    ("d_a", "TIP_CIRCLE"),
    ("d_fE", "ROOT_CIRCLE"),
    ("d_w", "WORKING_CIRCLE"),
)
TOLERANCE = 1e-3
"""Greatest distance between a chord of the outline and the true curve; mm."""
FIT_POINTS = 21
"""Points through which a spline is laid along a flank or a fillet."""


def write_dxf(
    design: Design,
    results: Results,
    path: str | Path,
    stages: tuple[int, ...] = (0,),
    tolerance: float = TOLERANCE,
    compensation: float = 0.0,
    curves: str = "splines",
    only: int = 0,
) -> None:
    """Write transverse sections as DXF R2010 in mm: pinion at the origin, wheel at (a_w, 0), an internal one at
    (-a_w, 0).

    ``curves`` "splines" draws every tooth with true arcs and splines through points of the true curves, "polylines" as
    one closed line within ``tolerance`` (mm). ``only`` 1 or 2 draws one gear alone. An outline grown by
    ``compensation`` (mm) is always a polyline.
    """
    # Imported here, since the program's start does not need it.
    import ezdxf
    from ezdxf import units

    doc = ezdxf.new("R2010", setup=["linetypes"], units=units.MM)
    for name, (color, linetype) in LAYERS.items():
        doc.layers.add(name, color=color, linetype=linetype)
    space = doc.modelspace()
    for k in stages:
        stage = results.stages[k]
        mesh = stage.mesh
        for n, (gear, body) in enumerate(zip(stage.gears, mounted(design, results, k), strict=True), 1):
            if only not in (0, n):
                continue
            if curves == "splines" and compensation == 0:
                _true_curves(space, body, tolerance)
            else:
                points = body.outline(tolerance, compensation)
                layer = {"layer": "OUTLINE"}
                space.add_lwpolyline((points + [body.x, 0.0]).tolist(), close=True, dxfattribs=layer)
            for symbol, layer_name in CIRCLES:
                if gear.get(symbol, 0) > 0:
                    space.add_circle((body.x, 0.0), gear[symbol] / 2, dxfattribs={"layer": layer_name})
            if body.bore_profile is not None:
                _opening(space, body)
            elif body.edge > 0:
                edge = grown_diameter(body.edge, compensation, body.section.inward)
                space.add_circle((body.x, 0.0), edge / 2, dxfattribs={"layer": "BORE"})
            if body.section.datum:
                low, high = ((body.x, body.phase + s * body.section.datum) for s in (-1, 1))
                space.add_line(low, high, dxfattribs={"layer": "REFERENCE_CIRCLE"})
                continue
            space.add_point((body.x, 0.0), dxfattribs={"layer": "CENTRES"})
        if only:
            continue
        space.add_line((0, 0), (stage.wheel_x, 0), dxfattribs={"layer": "CENTRES"})
        start, end = (stage.action_point(mesh[g], 1) for g in ("g_A", "g_E"))
        space.add_line(start, end, dxfattribs={"layer": "LINE_OF_ACTION"})
    first, last, height = results.stages[stages[0]].extent
    size = max(0.012 * (last - first), 0.2)
    grown = tr("; outlines grown by {compensation:g} mm", compensation=compensation) if compensation else ""
    text = statement(
        design, tr("curves within {tolerance:g} mm of the true ones{grown}", tolerance=tolerance, grown=grown)
    )
    add_legend(doc, space, MEANINGS, text, (first, -height - 3 * size), size)
    doc.saveas(path)


def _opening(space: Any, body: Body) -> None:
    """Keyways or spline of a hub: lines and arcs, as they are."""
    assert body.bore_profile is not None
    layer = {"layer": "BORE"}
    for edge in body.bore_profile.edges:
        arc = arc_of(edge)
        if arc is None:
            space.add_lwpolyline((np.asarray(edge) + [body.x, 0.0]).tolist(), dxfattribs=layer)
            continue
        centre, r, start, turn = arc
        low, high = sorted((start, start + turn))
        space.add_arc(
            (centre + [body.x, 0.0]).tolist(), r, float(np.degrees(low)), float(np.degrees(high)), dxfattribs=layer
        )


def _true_curves(space: Any, body: Body, tolerance: float) -> None:
    """Arcs where the outline is an arc, else splines through points, closer together until they keep the tolerance."""
    layer = {"layer": "OUTLINE"}
    section = body.section

    def at(points: Array, motion: float) -> list[list[float]]:
        placed: list[list[float]] = (section.moved(np.asarray(points), np.float64(motion)) + [body.x, 0.0]).tolist()
        return placed

    arcs, lines, splines = [], [], []
    for piece in section.curves():
        arc = _as_arc(piece)
        if arc is not None:
            arcs.append(arc)
        elif _is_line(piece):
            lines.append(piece(np.array([0.0, 1.0])))
        else:
            splines.append(_spline(piece, tolerance))
    for motion in (section.teeth + body.phase).tolist():
        turn = section.placed(motion)[1]
        for centre, radius, start, end in arcs:
            angles = np.degrees([start + turn, end + turn])
            space.add_arc(at([centre], motion)[0], radius, *angles.tolist(), dxfattribs=layer)
        for ends in lines:
            space.add_line(*at(ends, motion), dxfattribs=layer)
        for knots, control in splines:
            space.add_open_spline(at(control, motion), degree=3, knots=knots.tolist(), dxfattribs=layer)
    for piece in section.closing_curves():
        space.add_line(*at(piece(np.array([0.0, 1.0])), body.phase), dxfattribs=layer)


def _is_line(piece: Callable[[Array], Array]) -> bool:
    """Whether a piece is straight (to 1e-9 mm)."""
    p = piece(np.linspace(0, 1, 9))
    along, off = p[8] - p[0], p - p[0]
    return bool(np.max(np.abs(along[0] * off[:, 1] - along[1] * off[:, 0])) <= 1e-9 * np.hypot(*along))


def _as_arc(piece: Callable[[Array], Array]) -> tuple[tuple[float, float], float, float, float] | None:
    """Centre, radius, start and end angle of a piece that is an arc (to 1e-9 mm), counter-clockwise; else None."""
    p = piece(np.linspace(0, 1, 9))
    a, b = p[4] - p[0], p[8] - p[0]
    area = a[0] * b[1] - a[1] * b[0]
    if abs(area) < 1e-12:
        return None
    centre = p[0] + np.array([b[1] * (a @ a) - a[1] * (b @ b), a[0] * (b @ b) - b[0] * (a @ a)]) / (2 * area)
    radius = np.hypot(*(p - centre).T)
    if np.ptp(radius) > 1e-9:
        return None
    first, last = np.arctan2(*(p[[0, 8]] - centre).T[::-1])
    ends = (first, last) if area > 0 else (last, first)
    return (float(centre[0]), float(centre[1])), float(radius[0]), float(ends[0]), float(ends[1])


def _spline(piece: Callable[[Array], Array], tolerance: float) -> tuple[Array, Array]:
    """Knots and control points of a cubic spline through points of the curve, within the tolerance everywhere."""
    from scipy.interpolate import make_interp_spline

    n = FIT_POINTS
    while True:
        t = np.linspace(0, 1, n)
        spline = make_interp_spline(t, piece(t), k=3)
        between = np.linspace(0, 1, 4 * n + 1)
        if n > 2000 or np.max(np.hypot(*(spline(between) - piece(between)).T)) <= tolerance:
            return spline.t, spline.c
        n *= 2

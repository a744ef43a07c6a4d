"""SVG of a stage in true size: both gears in mesh with their circles, one group for each kind of line."""

from __future__ import annotations

from xml.sax.saxutils import escape

import numpy as np

from cooper.document.models import Design
from cooper.exchange.mounted import mounted
from cooper.exchange.outlines import grown_diameter
from cooper.exchange.statement import statement
from cooper.i18n.text import tr
from cooper.results.result_tree import Results

TOLERANCE = 1e-3
"""Greatest distance between a chord of the outline and the true curve; mm."""
EDGE = 2.0
STYLES = {
    "outline": 'stroke="#000" stroke-width="0.15"',
    "reference": 'stroke="#666" stroke-width="0.08" stroke-dasharray="3 0.8 0.4 0.8"',
    "base": 'stroke="#666" stroke-width="0.08" stroke-dasharray="0.6 0.8"',
    "action": 'stroke="#000" stroke-width="0.1"',
}
CIRCLES = (("d", "reference"), ("d_b", "base"))


def pair_svg(design: Design, results: Results, k: int, tolerance: float = TOLERANCE, compensation: float = 0.0) -> str:
    """One unit is one millimetre; pinion at the origin, wheel at (a_w, 0), an internal one at (-a_w, 0), y upwards,
    driving flanks in contact."""
    stage = results.stages[k]
    mesh = stage.mesh
    groups: dict[str, list[str]] = {name: [] for name in STYLES}
    first, last, high = stage.extent
    for gear, body in zip(stage.gears, mounted(design, results, k), strict=True):
        x = body.x
        points = body.outline(tolerance, compensation) + np.array([x, 0.0])
        groups["outline"].append(f'<path d="M{"L".join(f"{a:.4f} {b:.4f}" for a, b in points.tolist())}Z"/>')
        edge = grown_diameter(body.edge, compensation, body.section.inward)
        if body.bore_profile is not None:
            opening = body.bore_profile.points(tolerance) + np.array([x, 0.0])
            groups["outline"].append(f'<path d="M{"L".join(f"{a:.4f} {b:.4f}" for a, b in opening.tolist())}Z"/>')
        elif edge > 0:
            groups["outline"].append(f'<circle cx="{x:.4f}" cy="0" r="{edge / 2:.4f}"/>')
        for symbol, name in CIRCLES:
            if symbol in gear:
                groups[name].append(f'<circle cx="{x:.4f}" cy="0" r="{gear[symbol] / 2:.4f}"/>')
        if body.section.datum:
            high = max(high, float(np.abs(points[:, 1]).max()))
            groups["reference"].append(f'<line x1="{x:.4f}" y1="{-high:.4f}" x2="{x:.4f}" y2="{high:.4f}"/>')
    (x1, y1), (x2, y2) = (stage.action_point(mesh[g], 1) for g in ("g_A", "g_E"))
    groups["action"].append(f'<line x1="{x1:.4f}" y1="{y1:.4f}" x2="{x2:.4f}" y2="{y2:.4f}"/>')
    left, width, high = first - EDGE, last - first + 2 * EDGE, high + EDGE
    grown = tr(", outlines grown by {compensation:g} mm", compensation=compensation) if compensation else ""
    told = statement(
        design, tr("chords within {tolerance:g} mm of the true curves{grown}", tolerance=tolerance, grown=grown)
    )
    lines = "".join(f'<g id="{k}" {STYLES[k]}>{"".join(v)}</g>' for k, v in groups.items())
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.4f}mm" height="{2 * high:.4f}mm" '
        f'viewBox="{left:.4f} {-high:.4f} {width:.4f} '
        f'{2 * high:.4f}"><title>{escape(stage.name)}</title><desc>{escape(told)}</desc>'
        f'<g transform="scale(1,-1)" fill="none">{lines}</g></svg>\n'
    )

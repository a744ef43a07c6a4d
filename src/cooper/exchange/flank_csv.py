"""Flank points of each gear as CSV, from the root to beyond the tip."""

from __future__ import annotations

import csv
import io

import numpy as np

from cooper.arrays import Loose as Array
from cooper.gears.outline import half_tooth, to_xy
from cooper.gears.tip import land_half_angle, tip_form_diameter
from cooper.gears.tooth import Tooth, pointed_diameter
from cooper.i18n.text import tr
from cooper.results.result_tree import StageResults

TOLERANCE = 1e-3
BEYOND = 0.5
"""How far the involute is continued beyond the tip circle, in modules, where the tooth is not pointed before."""


def flank_points(tooth: Tooth, tolerance: float = TOLERANCE) -> list[tuple[str, float, float, float, float]]:
    """Rows of part, radius (mm), half angle (deg), x and y (mm) of one gear's right flank.

    The tooth stands on +x with its middle on the axis; parts are root arc, fillet, involute, beyond tip.
    """
    from cooper.gears.root import root_form

    points = half_tooth(tooth, tolerance)
    points = points[points[:, 1] >= float(land_half_angle(tooth)) - 1e-12]
    sign = float(tooth.sign)
    d_f, d_Ff, d_Fa, d_a = (float(d) for d in (tooth.d_f, root_form(tooth).d_Ff, tip_form_diameter(tooth), tooth.d_a))
    end = min(d_a + 2 * BEYOND * float(tooth.m_n), float(pointed_diameter(tooth)) * (1 - sign * 1e-3))
    if end > d_a and d_Fa == d_a:
        radii = sign * np.linspace(d_a / 2, end / 2, 9)[1:]
        points = np.vstack((points, np.column_stack((radii, tooth.made_angle(sign * 2 * radii)))))

    def part(r: float) -> str:
        # Signed, so that outward along the tooth is upward for internal gears too.
        d, tiny = sign * 2 * r, 1e-12 * abs(d_a)
        if d <= d_f + tiny:
            return tr("root arc")
        if d < d_Ff - tiny:
            return "fillet"
        if d <= d_Fa + tiny:
            return "involute"
        return tr("tip edge") if d <= d_a + tiny else tr("beyond tip")

    xy: Array = to_xy(points)
    return [
        (part(r), r, float(np.degrees(a)), float(x), float(y))
        for (r, a), (x, y) in zip(points.tolist(), xy.tolist(), strict=True)
    ]


def flank_csv(stage: StageResults, tolerance: float = TOLERANCE, told: str = "") -> str:
    """CSV text of both gears' flanks; the first lines state what it is, in comment lines that begin with #."""
    out = io.StringIO()
    out.write(
        f"# flank points, transverse section, within {tolerance:g} mm of the true curve between points; length in "
        "mm, angle in deg\n"
    )
    if told:
        out.write(f"# {told}\n")
    out.write("# tooth on +x, middle of the tooth on the axis; mirror y for the other flank\n")
    table = csv.writer(out, lineterminator="\n")
    table.writerow(["gear", tr("part"), "radius", "half_angle", "x", "y"])
    for i, (tooth, kind) in enumerate(zip(stage.teeth, stage.kinds, strict=True), 1):
        if kind.straight:
            out.write(f"# gear {i} is a {kind.name}: {kind.straight}\n")
            continue
        sides = [("", 1.0, tooth)]
        if tooth.left is not None:
            out.write(f"# gear {i} has flanks of two forms, each where it stands: mirror neither\n")
            sign = float(tooth.sign)
            sides = [("right ", -sign, tooth), ("left ", sign, tooth.turned)]
        for side, up, one in sides:
            for part, r, angle, x, y in flank_points(one, tolerance):
                table.writerow([i, side + part, *(tr("{n:.6f}", n=n) for n in (r, up * angle, x, up * y))])
    return out.getvalue()

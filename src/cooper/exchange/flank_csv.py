"""Flank points of each gear as CSV, from the root to beyond the tip."""

from __future__ import annotations

import csv
import io

import numpy as np

from cooper.arrays import Array
from cooper.design.results import StageResults
from cooper.gears.outline import half_tooth, to_xy
from cooper.gears.tooth import Tooth, pointed_diameter

TOLERANCE = 1e-3
BEYOND = 0.5
"""How far the involute is continued beyond the tip circle, in modules, where the tooth is not pointed before."""


def flank_points(tooth: Tooth, tolerance: float = TOLERANCE) -> list[tuple[str, float, float, float, float]]:
    """Rows of part, radius (mm), half angle (deg), x and y (mm) of one gear's right flank.

    The tooth stands on +x with its middle on the axis; parts are root arc, fillet, involute, beyond tip.
    """
    from cooper.gears.root import root_form

    points = half_tooth(tooth, tolerance)
    points = points[points[:, 1] >= tooth.half_angle(tooth.d_a) - 1e-12]
    d_Ff = float(root_form(tooth).d_Ff)
    d_f, d_a = float(tooth.d_f), float(tooth.d_a)
    end = min(d_a + 2 * BEYOND * float(tooth.m_n), 0.999 * float(pointed_diameter(tooth)))
    if end > d_a:
        radii = np.linspace(d_a / 2, end / 2, 9)[1:]
        points = np.vstack((points, np.column_stack((radii, tooth.half_angle(2 * radii)))))

    def part(r: float) -> str:
        if r <= d_f / 2 * (1 + 1e-12):
            return "root arc"
        if r < d_Ff / 2 * (1 - 1e-12):
            return "fillet"
        return "involute" if r <= d_a / 2 * (1 + 1e-12) else "beyond tip"

    xy: Array = to_xy(points)
    return [
        (part(r), r, float(np.degrees(a)), float(x), float(y))
        for (r, a), (x, y) in zip(points.tolist(), xy.tolist(), strict=True)
    ]


def flank_csv(stage: StageResults) -> str:
    """CSV text of both gears' flanks; the first lines state what it is, in comment lines that begin with #."""
    out = io.StringIO()
    out.write("# flank points, transverse section; length in mm, angle in deg\n")
    out.write("# tooth on +x, middle of the tooth on the axis; mirror y for the other flank\n")
    table = csv.writer(out, lineterminator="\n")
    table.writerow(["gear", "part", "radius", "half_angle", "x", "y"])
    for i, tooth in enumerate(stage.teeth, 1):
        for part, *numbers in flank_points(tooth):
            table.writerow([i, part, *(f"{n:.6f}" for n in numbers)])
    return out.getvalue()

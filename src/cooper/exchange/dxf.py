"""DXF of a stage: both gears in mesh with their circles, in true position and phase."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from cooper.design.results import StageResults
from cooper.gears.outline import gear_outline
from cooper.gears.phase import mesh_stand

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
TOLERANCE = 1e-3
"""Greatest distance between a chord of the outline and the true curve; mm."""


def write_dxf(stage: StageResults, path: str | Path, tolerance: float = TOLERANCE) -> None:
    """Write the transverse section of a pair as DXF R2010 in mm: pinion at the origin, wheel at (a_w, 0), an internal one at (-a_w, 0), driving flanks in contact."""
    # Imported here, since the program's start does not need it.
    import ezdxf
    from ezdxf import units

    doc = ezdxf.new("R2010", setup=["linetypes"], units=units.MM)
    for name, (color, linetype) in LAYERS.items():
        doc.layers.add(name, color=color, linetype=linetype)
    space = doc.modelspace()
    mesh = stage.mesh
    one, two = stage.teeth
    stand = mesh_stand(one.z, two.z, np.float64(mesh["j_wt"]), np.float64(stage.wheel_x))
    for gear, tooth, phi, x in (
        (stage.gears[0], one, float(stand.phi_1), 0.0),
        (stage.gears[1], two, float(stand.phi_2), stage.wheel_x),
    ):
        points = gear_outline(tooth, phi, tolerance) + [x, 0.0]
        space.add_lwpolyline(points.tolist(), close=True, dxfattribs={"layer": "OUTLINE"})
        for symbol, layer in (
            ("d", "REFERENCE_CIRCLE"), ("d_b", "BASE_CIRCLE"), ("d_a", "TIP_CIRCLE"), ("d_fE", "ROOT_CIRCLE"),
            ("d_w", "WORKING_CIRCLE"), ("d_bore", "BORE"), ("d_rim", "BORE"),
        ):  # fmt: skip
            if gear.get(symbol, 0) > 0:
                space.add_circle((x, 0.0), gear[symbol] / 2, dxfattribs={"layer": layer})
        space.add_point((x, 0.0), dxfattribs={"layer": "CENTRES"})
    space.add_line((0, 0), (stage.wheel_x, 0), dxfattribs={"layer": "CENTRES"})
    start, end = (stage.action_point(mesh[g], 1) for g in ("g_A", "g_E"))
    space.add_line(start, end, dxfattribs={"layer": "LINE_OF_ACTION"})
    doc.saveas(path)

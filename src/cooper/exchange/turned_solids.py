"""Solids that are turned about an axis: rings, and the parts that keep what is on a shaft."""

from __future__ import annotations

from math import cos, sin
from typing import Any

from cooper.machine.covers import cover_outline
from cooper.machine.holding import Holding
from cooper.machine.turned_parts import TurnedPart, screw_angles


def turned(profile: list[tuple[float, float]]) -> Any:
    """The solid that a closed profile of (radius, height) in mm turns about the axis."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakePolygon
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeRevol
    from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt

    line = BRepBuilderAPI_MakePolygon()
    for r, z in profile:
        line.Add(gp_Pnt(r, 0.0, z))
    line.Close()
    face = BRepBuilderAPI_MakeFace(line.Wire(), True).Face()
    return BRepPrimAPI_MakeRevol(face, gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))).Shape()


def ring(r_in: float, r_out: float, start: float, end: float) -> Any:
    """A ring or disc between two heights."""
    return turned([(r_in, start), (r_out, start), (r_out, end), (r_in, end)])


def turned_part(own: TurnedPart, holding: Holding) -> Any:
    """The solid of a turned part; a cover has the holes of its screws."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    solid = turned([(r, z) for z, r in own.profile])
    cover = next((c for c in holding.covers if cover_outline(c) == own.profile), None)
    if cover is None:
        return solid
    way = cover.outward
    head = cover.z_2 + way * cover.screw_in_flange
    # A hole through the flange, and room for the head where that is thicker.
    for r, start, end in (
        (0.55 * cover.screw, cover.z_2 - way, cover.z_3 + way),
        (0.95 * cover.screw, head, max(cover.z_3 * way, head * way) * way + way),
    ):
        for a in screw_angles(cover):
            at = gp_Pnt(cover.d_1 / 2 * cos(a), cover.d_1 / 2 * sin(a), min(start, end))
            hole = BRepPrimAPI_MakeCylinder(gp_Ax2(at, gp_Dir(0, 0, 1)), r, abs(end - start)).Shape()
            solid = BRepAlgoAPI_Cut(solid, hole).Shape()
    return solid

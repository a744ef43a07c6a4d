"""Bodies as exact solids and their STEP file: a spur gear as a prism, a helical one swept along its helix."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

from cooper.arrays import Loose as Array
from cooper.exchange.body import Body
from cooper.exchange.statement import Said
from cooper.exchange.step_points import points_once
from cooper.i18n.text import tr

TOLERANCE = 0.001
"""Greatest distance of a surface from the true one; mm."""
COUNTS = (3, 4, 5, 6, 7, 9, 12, 17)
"""Points through which a spline may be laid along a curve of the profile; the fewest that keep the tolerance are
taken."""
FINE, LOOKED = 401, 33
"""Points of the true curve that a spline is held against, and places at which it is."""
FIRST_TURN, MOST_STEPS = 0.5, 400
"""Turn of the section (rad) between points along a helix that is tried first; most of such points."""
SEW = 1e-4
"""Edges of neighbouring surfaces nearer than this are one; mm."""


def body_solid(body: Body) -> Any:
    """A closed solid of a body in place and phase, as a shape of the geometry kernel."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeSolid, BRepBuilderAPI_Sewing, BRepBuilderAPI_Transform
    from OCP.BRepLib import BRepLib
    from OCP.gp import gp_Trsf, gp_Vec
    from OCP.TopAbs import TopAbs_ShapeEnum
    from OCP.TopExp import TopExp_Explorer
    from OCP.TopoDS import TopoDS

    sewing = BRepBuilderAPI_Sewing(SEW)
    rims = []
    for low, high, _twist in body.halves:
        ends: list[list[Any]] = [[], []]

        bands = body.bands(low, high)

        def add(layers: list[Any], ends: list[list[Any]] = ends) -> None:
            for surface in layers:
                sewing.Add(_face(surface))
            for end, layer, v in zip(ends, (layers[0], layers[-1]), (0.0, 1.0), strict=True):
                end.append(_edge(layer.VIso(v)))

        def stacked(pieces: list[Any], bands: list[tuple[float, float]] = bands) -> list[Any]:
            return list(zip(*(_swept(body, pieces, *band) for band in bands), strict=True))

        surfaces = stacked(body.section.curves())
        for motion in body.section.teeth.tolist():
            y, angle = body.section.placed(motion)
            for layers in surfaces:
                add([_shortened(surface.Transformed(_moved((0.0, y, 0.0, angle)))) for surface in layers])
        for layers in stacked(body.section.closing_curves()):
            add([_shortened(surface) for surface in layers])
        rims.append((low, high, [_wire(e) for e in ends]))
    first, last = rims[0], rims[-1]
    sewing.Add(_flat(body, first[2][0], first[0], _opening(body, first[0])))
    sewing.Add(_flat(body, last[2][1], last[1], _opening(body, last[1])))
    if body.gap > 0:
        sewing.Add(_flat(body, first[2][1], first[1], _circle_wire(body.section.groove, first[1])))
        sewing.Add(_flat(body, last[2][0], last[0], _circle_wire(body.section.groove, last[0])))
        sewing.Add(_tube(_circle_wire(body.section.groove, first[1]), last[0] - first[1]))
    if (opening := _opening(body, first[0])) is not None:
        sewing.Add(_tube(opening, last[1] - first[0]))
    sewing.Perform()
    explorer = TopExp_Explorer(sewing.SewedShape(), TopAbs_ShapeEnum.TopAbs_SHELL)
    if not explorer.More():
        raise ValueError(tr("the faces of {name} do not close to a solid", name=body.name))
    solid = BRepBuilderAPI_MakeSolid(TopoDS.Shell(explorer.Current())).Solid()
    BRepLib.OrientClosedSolid_s(solid)
    move = gp_Trsf()
    move.SetTranslation(gp_Vec(body.x, 0.0, 0.0))
    return BRepBuilderAPI_Transform(solid, move, True).Shape()


def volume_of(solid: Any) -> float:
    """Volume of a solid by the kernel, integrated to a millionth; mm3."""
    from OCP.BRepGProp import BRepGProp
    from OCP.GProp import GProp_GProps

    props = GProp_GProps()
    BRepGProp.VolumeProperties_s(solid, props, 1e-6)
    return float(props.Mass())


Place = tuple[float, float, float, float]
"""Where a copy of a body stands: x, y, z (mm) and the angle about its axis (rad)."""


def write_step(parts: tuple[Body, ...], path: Path, name: str = "stage", said: Said | None = None) -> None:
    """STEP (AP214) of bodies in place and phase in mm: an assembly of that name, with a named product for each."""
    write_step_placed([(body, [(0.0, 0.0, 0.0, 0.0)]) for body in parts], path, name, said)


def write_step_placed(parts: list[tuple[Body, list[Place]]], path: Path, name: str, said: Said | None = None) -> None:
    """STEP (AP214) of bodies, each a product that stands at one or several places of the assembly."""
    write_step_shapes([(body.name, body_solid(body), places) for body, places in parts], path, name, said)


def write_step_shapes(
    parts: list[tuple[str, Any, list[Place]]], path: Path, name: str, said: Said | None = None
) -> None:
    """The same of named solids of the kernel."""
    from OCP.APIHeaderSection import APIHeaderSection_MakeHeader
    from OCP.IFSelect import IFSelect_ReturnStatus
    from OCP.Interface import Interface_Static
    from OCP.Message import Message
    from OCP.STEPCAFControl import STEPCAFControl_Writer
    from OCP.TCollection import TCollection_ExtendedString, TCollection_HAsciiString
    from OCP.TDataStd import TDataStd_Name
    from OCP.TDocStd import TDocStd_Document
    from OCP.TopLoc import TopLoc_Location
    from OCP.XCAFApp import XCAFApp_Application
    from OCP.XCAFDoc import XCAFDoc_DocumentTool

    # The kernel otherwise reports its progress on standard output.
    for printer in list(Message.DefaultMessenger_s().Printers()):
        Message.DefaultMessenger_s().RemovePrinter(printer)
    document = TDocStd_Document(TCollection_ExtendedString("XmlXCAF"))
    XCAFApp_Application.GetApplication_s().InitDocument(document)
    shapes = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    whole = shapes.NewShape()
    TDataStd_Name.Set_s(whole, TCollection_ExtendedString(name, True))
    for words, solid, places in parts:
        part = shapes.AddShape(solid, False)
        TDataStd_Name.Set_s(part, TCollection_ExtendedString(words, True))
        for place in places:
            shapes.AddComponent(whole, part, TopLoc_Location(_moved(place)))
    shapes.UpdateAssemblies()
    writer = STEPCAFControl_Writer()
    # Edges lie on their surfaces by themselves: curves in the surfaces' own parameters would double the file. Known
    # once there is a writer.
    Interface_Static.SetIVal_s("write.surfacecurve.mode", 0)
    writer.Transfer(document)
    header = APIHeaderSection_MakeHeader(writer.ChangeWriter().Model())
    header.SetName(TCollection_HAsciiString(path.stem if said is None else said.name))
    header.SetOriginatingSystem(TCollection_HAsciiString("Cooper"))
    text = tr("surfaces within {tolerance:g} mm of the true ones", tolerance=TOLERANCE) + (
        tr(", millimetres") if said is None else tr("; {told}", told=said.told)
    )
    header.SetDescriptionValue(1, TCollection_HAsciiString(text))
    if writer.Write(str(path)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise OSError(tr("{path} could not be written", path=path))
    path.write_bytes(points_once(path.read_bytes().decode("latin-1")).encode("latin-1"))


def _swept(body: Body, pieces: list[Callable[[Array], Array]], low: float, high: float) -> list[Any]:
    """The surfaces that curves of the profile sweep from one height to the other: splines through the fewest points
    that keep the tolerance.

    Where the flanks have a helix form all take as many points along the axis, so that neighbours share their edges.
    """
    turn = abs(body.twist) * (high - low) if body.section.reach else 0.0
    bent = bool(turn) or body.helix is not None
    first = max(4, int(np.ceil(turn / FIRST_TURN)) + 1) if bent else 2
    profiles = [_profile(body, piece) for piece in pieces]
    result = [_strip(body, profile, low, high, first, bent) for profile in profiles]
    if body.helix is None:
        return [surface for surface, _steps in result]
    most = max((steps for _surface, steps in result), default=first)
    return [
        surface if steps == most else _strip(body, profile, low, high, most, False)[0]
        for profile, (surface, steps) in zip(profiles, result, strict=True)
    ]


def _profile(body: Body, piece: Callable[[Array], Array]) -> tuple[Array, Array]:
    """Fine points of a curve of the profile, and which of them a spline is laid through."""
    fine = piece(np.linspace(0, 1, FINE))
    still = body.section.moved(fine, np.float64(body.phase))
    picked = np.arange(FINE)
    for count in COUNTS:
        picked = np.linspace(0, FINE - 1, count).round().astype(int)
        curve = still[picked]
        if _off(_spline([(curve, 0.0), (curve, 1.0)]), lambda _z: still, (0.0,)) < 0.5 * TOLERANCE:
            break
    return fine, picked


def _strip(
    body: Body, profile: tuple[Array, Array], low: float, high: float, steps: int, finer: bool
) -> tuple[Any, int]:
    """One of the surfaces, and through how many points along the axis it is laid: so many, or as many more as the
    tolerance asks for."""
    fine, picked = profile

    def true_at(z: float) -> Array:
        return body.moved(body.section.moved(body.eased(fine, z, low, high), np.float64(body.phase)), z)

    while True:
        surface = _spline([(true_at(h)[picked], h) for h in np.linspace(low, high, steps).tolist()])
        if not finer or steps > MOST_STEPS or _off(surface, true_at, (0.5, 1.5, (steps - 1) / 2)) < TOLERANCE:
            return surface, steps
        steps = int(np.ceil(1.3 * steps))


def _shortened(surface: Any) -> Any:
    """The surface with its poles at whole nanometres: what stands behind is neither seen nor made, but fills files."""
    from OCP.gp import gp_Pnt

    for i in range(1, surface.NbUPoles() + 1):
        for k in range(1, surface.NbVPoles() + 1):
            pole = surface.Pole(i, k)
            surface.SetPole(i, k, gp_Pnt(*(round(v, 6) for v in (pole.X(), pole.Y(), pole.Z()))))
    return surface


def _spline(rows: list[tuple[Array, float]]) -> Any:
    """A spline surface through rows of points (n, 2), each at its height, that lie evenly along both parameters.

    Surfaces that share a row or an edge of points share the curve through it, since nothing else of them enters it.
    """
    from OCP.collections import Array1_double, Array1_int, Array2_gp_Pnt
    from OCP.Geom import Geom_BSplineSurface
    from OCP.gp import gp_Pnt
    from scipy.interpolate import make_interp_spline

    poles = np.array([np.column_stack((points, np.full(len(points), z))) for points, z in rows])
    ends: list[list[Any]] = [[], [], []]
    # Along the profile, then along the axis: each pass leaves the axis it worked on in front.
    for axis in (1, 1):
        n = poles.shape[axis]
        degree = min(3, n - 1)
        spline = make_interp_spline(np.linspace(0, 1, n), poles, k=degree, axis=axis)
        poles = spline.c
        knots, times = np.unique(spline.t, return_counts=True)
        for made, kind, values in ((ends[0], Array1_double, knots), (ends[1], Array1_int, times)):
            made.append(kind(1, len(values)))
            for i, value in enumerate(values.tolist(), 1):
                made[-1].SetValue(i, value)
        ends[2].append(degree)
    # The second pass has brought the axis to the front.
    poles = poles.swapaxes(0, 1)
    net = Array2_gp_Pnt(1, poles.shape[0], 1, poles.shape[1])
    for i, row in enumerate(poles.tolist(), 1):
        for k, pole in enumerate(row, 1):
            net.SetValue(i, k, gp_Pnt(*pole))
    return Geom_BSplineSurface(net, *ends[0], *ends[1], *ends[2])


def _off(surface: Any, true_at: Callable[[float], Array], spans: tuple[float, ...]) -> float:
    """How far a surface leaves the true one (mm), across the profile at places along the axis in spans of its knots."""
    u_0, u_1, v_0, v_1 = surface.Bounds()
    worst = 0.0
    for span in spans:
        v = v_0 + (v_1 - v_0) * min(span / max(surface.NbVKnots() - 1, 1), 1.0)
        result = np.array([[p.X(), p.Y(), p.Z()] for p in (surface.Value(u, v) for u in np.linspace(u_0, u_1, LOOKED))])
        true = true_at(float(result[0, 2]))
        a, d = true[:-1], np.diff(true, axis=0)
        x = result[:, None, :2] - a
        t = np.clip((x * d).sum(axis=2) / np.maximum((d * d).sum(axis=1), 1e-30), 0, 1)
        worst = max(worst, float(np.hypot(*np.moveaxis(x - t[..., None] * d, 2, 0)).min(axis=1).max()))
    return worst


def _rotation(angle: float) -> Any:
    from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt, gp_Trsf

    turn = gp_Trsf()
    turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), angle)
    return turn


def _moved(place: Place) -> Any:
    """Turned about z, then moved."""
    from OCP.gp import gp_Trsf, gp_Vec

    x, y, z, angle = place
    move = gp_Trsf()
    move.SetTranslation(gp_Vec(x, y, z))
    return move.Multiplied(_rotation(angle)) if angle else move


def _face(surface: Any) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace

    return BRepBuilderAPI_MakeFace(surface, 1e-6).Face()


def _edge(curve: Any) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge

    return BRepBuilderAPI_MakeEdge(curve).Edge()


def _wire(edges: list[Any]) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeWire

    wire = BRepBuilderAPI_MakeWire()
    for edge in edges:
        wire.Add(edge)
    return wire.Wire()


def _circle_wire(diameter: float, z: float) -> Any:
    from OCP.gp import gp_Ax2, gp_Circ, gp_Dir, gp_Pnt

    return _wire([_edge_of_circle(gp_Circ(gp_Ax2(gp_Pnt(0, 0, z), gp_Dir(0, 0, 1)), diameter / 2))])


def _edge_of_circle(circle: Any) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge

    return BRepBuilderAPI_MakeEdge(circle).Edge()


def _opening(body: Body, z: float) -> Any:
    """The bore at a height, or the outside of an internal gear; None where there is none."""
    if body.bore_profile is not None:
        return body.bore_profile.wire(z)
    return _circle_wire(body.edge, z) if body.edge > 0 else None


def _flat(body: Body, outline: Any, z: float, edge: Any) -> Any:
    """The flat face between the outline and an edge, which is the outer one of an internal gear."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace
    from OCP.gp import gp_Dir, gp_Pln, gp_Pnt
    from OCP.ShapeFix import ShapeFix_Face

    plane = gp_Pln(gp_Pnt(0, 0, z), gp_Dir(0, 0, 1))
    outer, inner = (edge, outline) if body.section.inward else (outline, edge)
    maker = BRepBuilderAPI_MakeFace(plane, outer, True)
    if inner is not None:
        maker.Add(inner)
    fix = ShapeFix_Face(maker.Face())
    fix.FixOrientation()
    return fix.Face()


def _tube(wire: Any, length: float) -> Any:
    from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
    from OCP.gp import gp_Vec

    return BRepPrimAPI_MakePrism(wire, gp_Vec(0, 0, length)).Shape()

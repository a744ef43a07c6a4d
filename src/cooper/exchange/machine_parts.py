"""The machine as solids: shafts with their keyways, bearings as rings, keys, carriers and pins, gears on their seats
in place and phase."""

from __future__ import annotations

from collections.abc import Sequence
from math import cos, pi, sin
from pathlib import Path
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from cooper.document.models import Design
from cooper.exchange.body import Body, bodies
from cooper.exchange.bore_profile import bore_profile_of, spaces, spline_section
from cooper.exchange.solid import Place, body_solid, write_step_shapes
from cooper.exchange.statement import Said
from cooper.exchange.turned_solids import ring, turned_part
from cooper.i18n.text import tr
from cooper.kinds.section import WheelSection
from cooper.machine.hub_ends import HUB_OUTSIDE, hub_ends
from cooper.machine.shaft_beam import hole_of
from cooper.machine.shaft_making import is_carrier
from cooper.machine.shaft_model import Joint, MadeShaft, Piece
from cooper.machine.shaft_outline import Leg, Point, shaft_path
from cooper.machine.turned_parts import TurnedPart, in_housing, on_shaft
from cooper.machine.turned_parts import box as box_of
from cooper.results.machine_plan import angles_of
from cooper.results.machine_result import MachineResult, ShaftResult
from cooper.results.pose import Placed, pose
from cooper.results.result_tree import Results

CORE = 0.8
"""Diameter of the shaft inside a pinion that is cut into it, over its root diameter: both stand as parts that touch."""


class Part(Struct, frozen=True):
    """A part of the machine: its name, its solid about its own axis, and where it stands."""

    name: str
    solid: Any
    places: list[Place]


def _turned_shaft(start: Point, legs: list[Leg], inner: float) -> Any:
    """The solid of an outline turned about the axis, around a bore of a radius (mm); fillets stay round."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeRevol
    from OCP.GC import GC_MakeArcOfCircle
    from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt

    def place(at: Point) -> Any:
        return gp_Pnt(at[1], 0.0, at[0])

    end = legs[-1].end
    around = [Leg((end[0], inner)), Leg((start[0], inner)), Leg(start)]
    wire, at = BRepBuilderAPI_MakeWire(), start
    for leg in [*legs, *around]:
        if leg.through is None:
            wire.Add(BRepBuilderAPI_MakeEdge(place(at), place(leg.end)).Edge())
        else:
            arc = GC_MakeArcOfCircle(place(at), place(leg.through), place(leg.end)).Value()
            wire.Add(BRepBuilderAPI_MakeEdge(arc).Edge())
        at = leg.end
    face = BRepBuilderAPI_MakeFace(wire.Wire(), True).Face()
    return BRepPrimAPI_MakeRevol(face, gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))).Shape()


def _cut_spaces(solid: Any, joint: Joint, piece: Piece) -> Any:
    """The solid with the spaces of a spline cut into it over the length of a piece."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace
    from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
    from OCP.collections import List_TopoDS_Shape
    from OCP.gp import gp_Vec

    of, tools = List_TopoDS_Shape(), List_TopoDS_Shape()
    of.Append(solid)
    for space in spaces(joint):
        face = BRepBuilderAPI_MakeFace(space.wire(piece.start), True).Face()
        tools.Append(BRepPrimAPI_MakePrism(face, gp_Vec(0, 0, piece.length)).Shape())
    cut = BRepAlgoAPI_Cut()
    cut.SetArguments(of)
    cut.SetTools(tools)
    cut.SetRunParallel(True)
    cut.Build()
    return cut.Shape()


def key_block(joint: Joint, piece: Piece, side: int, depth: float, height: float) -> Any:
    """A parallel key, or the slot for it, from ``depth`` under the shaft's surface to ``height`` above it, on the
    side +1 or -1 of the axis."""
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
    from OCP.gp import gp_Pnt

    low, high = sorted((side * (piece.d / 2 - depth), side * (piece.d / 2 + height)))
    z = piece.at - joint.length / 2
    return BRepPrimAPI_MakeBox(gp_Pnt(-joint.b / 2, low, z), gp_Pnt(joint.b / 2, high, z + joint.length)).Shape()


def shaft_solid(made: MadeShaft) -> Any:
    """A shaft with its bore, fillets or undercuts, chamfers, keyways, splines and cross holes."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut

    integral = {j.piece for j in made.joints if j.kind == "integral" and not is_carrier(j.gear)}
    inner = made.wish.d_i / 2
    core = {p.name: CORE * p.d for p in made.pieces if p.name in integral}
    splines = [j for j in made.joints if j.kind == "spline"]
    core |= {j.piece: float(spline_section(j).tooth.d_a) for j in splines}
    solid = _turned_shaft(*shaft_path(made, core), inner)
    for joint in splines:
        solid = _cut_spaces(solid, joint, made.piece(joint.piece))
    for joint in made.joints:
        for side in _sides(joint):
            slot = key_block(joint, made.piece(joint.piece), side, joint.t_1, joint.h)
            solid = BRepAlgoAPI_Cut(solid, slot).Shape()
    for p in made.pieces:
        d = hole_of(made, p)
        if 0 < d < p.d:
            solid = BRepAlgoAPI_Cut(solid, across(d, p.d, p.at)).Shape()
    return solid


def across(d: float, length: float, z: float) -> Any:
    """A cylinder of a diameter across the axis, at a height along it; mm."""
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(0, -length / 2, z), gp_Dir(0, 1, 0)), d / 2, length).Shape()


def _sides(joint: Joint) -> tuple[int, ...]:
    return {"key": (1,), "two keys": (1, -1)}.get(joint.kind, ())


def shaft_parts(result: ShaftResult, angle: float) -> list[Part]:
    """A shaft with its bearings and keys."""
    made, at = result.made, (*result.axis, 0.0, angle)
    parts = [Part(result.name, shaft_solid(made), [at])]
    for b in made.bearings:
        k = b.bearing
        solid = ring(k.d / 2, k.D / 2, b.at - k.B / 2, b.at + k.B / 2)
        parts.append(
            Part(tr("{name}, {name_2}, {name_3}", name=result.name, name_2=b.name, name_3=k.name), solid, [at])
        )
    for joint in made.joints:
        for n, side in enumerate(_sides(joint)):
            key = key_block(joint, made.piece(joint.piece), side, joint.t_1, joint.h - joint.t_1)
            words = tr("key {b:g} x {h:g} x {length:g}", b=joint.b, h=joint.h, length=joint.length)
            parts.append(
                Part(
                    tr("{name}, {words}{value}", name=result.name, words=words, value="" if n == 0 else tr(", second")),
                    key,
                    [at],
                )
            )
        if joint.kind == "pin":
            pin = across(joint.d_pin, joint.d, made.piece(joint.piece).at)
            parts.append(Part(tr("{name}, pin {d_pin:g} in the shaft", name=result.name, d_pin=joint.d_pin), pin, [at]))
    for own in (*on_shaft(made), *in_housing(made, result.holding)):
        name = tr("{name}, {name_2}", name=result.name, name_2=own.name)
        parts.append(Part(name, turned_part(own, result.holding), _around(result, own, angle)))
    return parts


def _around(result: ShaftResult, own: TurnedPart, angle: float) -> list[Place]:
    """Where a turned part stands: with the shaft, or still about its axis."""
    x, y = result.axis
    return [(x + dx, y + dy, 0.0, angle if own.turns else 0.0) for dx, dy in own.places]


def machine_parts(design: Design, results: Results, m: MachineResult) -> list[Part]:
    """All parts of the machine in place; the gears mesh in phase, each next axis at its angle."""
    turns, placed = _turned(design, results, m)
    parts: list[Part] = []
    for s, angle in zip(m.shafts, turns, strict=True):
        parts += shaft_parts(s, angle)
    done: dict[tuple[int, int], list[Place]] = {}
    for g, place in placed:
        done.setdefault((g.stage, g.i), []).append(place)
    for (stage, i), places in done.items():
        body = _on_seat(design, bodies(design, results.stages[stage], stage)[i], stage, i, m)
        solid = body_solid(_bored(body, _joint_of(design, stage, i, m), turns, places[0]))
        parts.append(
            Part(body.name, _with_hub(solid, design.train.stages[stage].gears[i].id, m, places[0], turns), places)
        )
    for p in m.pins:
        one = next(s for s in results.sets if s.first == p.stage)
        shaft = (
            next(
                s
                for s in m.shafts
                if any(b.shaft == m.shafts.index(s) and b.key.startswith("carrier") for b in m.bodies)
            )
            if any(b.key.startswith("carrier") for b in m.bodies)
            else m.shafts[0]
        )
        plane = m.places.planes[next(b.plane for b in m.bodies if b.key in _keys(design, p.stage))]
        arm = results.stages[p.stage].mesh.a_w
        pin = ring(0.0, p.pin.d / 2, *plane)
        where = [(shaft.axis[0] + arm * cos(a), shaft.axis[1] + arm * sin(a), 0.0, 0.0) for a in one.angles]
        parts.append(Part(tr("pin of {name}", name=p.name), pin, where))
    for b in m.bodies:
        if b.key.startswith("carrier of"):
            start = m.places.planes[b.plane][0] + b.lead
            wall = b.b / 6
            axis = m.shafts[b.shaft].axis
            seat = next(p for p in m.shafts[b.shaft].made.pieces if p.on == b.key)
            for n, z in enumerate((start, start + b.b - wall)):
                inner = seat.d / 2 if abs(seat.at - (z + wall / 2)) < wall else b.r_in
                parts.append(Part(tr("carrier, wall {n}", n=n + 1), ring(inner, b.r, z, z + wall), [(*axis, 0.0, 0.0)]))
    return parts


def _with_hub(solid: Any, gear: str, m: MachineResult, place: Place, turns: Sequence[float]) -> Any:
    """A gear at its place with its hub beyond the teeth, through which its keyways run on."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
    from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
    from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt, gp_Trsf

    z = place[2]
    for k, s in enumerate(m.shafts):
        for own, start, end, d in hub_ends(s.made):
            if own != gear:
                continue
            hub = ring(d / 2, HUB_OUTSIDE / 2 * d, start - z, end - z)
            joint = next(j for j in s.made.joints if j.gear == gear)
            for side in _sides(joint):
                low, high = sorted((0.0, side * (d / 2 + joint.t_2)))
                corners = gp_Pnt(-joint.b / 2, low, start - z), gp_Pnt(joint.b / 2, high, end - z)
                turn = gp_Trsf()
                turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), turns[k] - place[3])
                slot = BRepBuilderAPI_Transform(BRepPrimAPI_MakeBox(*corners).Shape(), turn).Shape()
                hub = BRepAlgoAPI_Cut(hub, slot).Shape()
            solid = BRepAlgoAPI_Fuse(solid, hub).Shape()
    return solid


def _bored(body: Body, result: tuple[int, Joint] | None, turns: Sequence[float], place: Place) -> Body:
    """A gear with the opening that its joint asks for, as it lies on its shaft whatever the phase of its teeth;
    ``found`` the shaft by number, and the joint."""
    if result is None or body.edge <= 0 or body.section.inward:
        return body
    profile = bore_profile_of(result[1])
    return body if profile is None else replace(body, bore_profile=profile.turned(turns[result[0]] - place[3]))


def _keys(design: Design, stage: int) -> set[str]:
    return {g.id for g in design.train.stages[stage].gears} | {
        tr("carrier of {id}", id=g.id) for g in design.train.stages[stage].gears
    }


def _joint_of(design: Design, stage: int, i: int, m: MachineResult) -> tuple[int, Joint] | None:
    """The number of the shaft that a gear sits on, and its joint."""
    key = design.train.stages[stage].gears[i].id
    for k, s in enumerate(m.shafts):
        for joint in s.made.joints:
            if joint.gear == key:
                return k, joint
    return None


def _on_seat(design: Design, body: Body, stage: int, i: int, m: MachineResult) -> Body:
    """The gear with the bore of its seat."""
    body = replace(body, x=0.0, phase=0.0)
    result = _joint_of(design, stage, i, m)
    if result is not None and isinstance(body.section, WheelSection) and not body.section.inward:
        joint = result[1]
        bore = CORE * joint.d if joint.kind == "integral" else joint.d
        return replace(body, section=replace(body.section, edge=bore))
    return body


def _turned(
    design: Design, results: Results, m: MachineResult, turn: float = 0.0
) -> tuple[list[float], list[tuple[Placed, Place]]]:
    """How far each shaft is turned against that, and every gear at its place, from the pose of a train whose axes
    lie in line, its input turned by ``turn``.

    Turning a line of centres by phi turns the driven gear by phi and, rolling on the driving one, by more; a set turns
    as a whole.
    """
    at = pose(results, turn)
    shaft_of = {s.gear: k for k, f in enumerate(m.shafts) for s in f.made.wish.seats}
    plane_of = {b.key: b for b in m.bodies}
    extra = [0.0] * len(m.shafts)
    around = (one for one in results.sets if one.arranged.around)
    centres = {k: at.carriers[n][:2] for n, one in enumerate(around) for k in one.stages}
    result: list[tuple[Placed, Place]] = []
    gears = {(g.stage, g.i): g for g in at.gears}
    delta: dict[int, float] = {}
    given = design.train.machine.angles if design.train.machine is not None else {}
    angles = angles_of(design.train, results, given)
    turned = {design.train.input: 0.0}
    for group in results.groups:
        now = turned[group.comes_in]
        for k in group.stages:
            stage, ids = results.stages[k], [gear.id for gear in design.train.stages[k].gears]
            delta[k] = now
            if k not in at.ways:
                continue
            phi = angles[k] * pi / 180 - at.ways[k]
            ratio = float(stage.teeth[0].z / stage.teeth[1].z) * (1 if stage.kind.inward else -1)
            if ids[0] in shaft_of:
                extra[shaft_of[ids[0]]] = now
            now = phi + abs(ratio) * (1 if stage.kind.inward else -1) * (now - phi)
            if ids[1] in shaft_of:
                extra[shaft_of[ids[1]]] = now
        turned[group.goes_out] = now
    for (k, i), _g in gears.items():
        key = design.train.stages[k].gears[i].id
        for g in (p for p in at.gears if (p.stage, p.i) == (k, i)):
            shaft = shaft_of.get(key)
            one = results.within[k]
            planets = one is not None and one.arranged.around
            if shaft is None and not planets:
                continue
            turn = delta[k] if planets else extra[shaft]  # type: ignore[index]
            body = plane_of.get(key)
            z = _middle(m, body, results, k)
            axis = _axis_of_set(m, design, k) if planets else m.shafts[shaft].axis  # type: ignore[index]
            dx, dy = (g.x - centres[k][0], g.y - centres[k][1]) if planets else (0.0, 0.0)
            c, s = cos(turn), sin(turn)
            result.append((g, (axis[0] + c * dx - s * dy, axis[1] + s * dx + c * dy, z, g.angle + turn)))
    return extra, result


def machine_bodies(
    design: Design, results: Results, m: MachineResult, turn: float = 0.0, openings: bool = False
) -> tuple[list[tuple[Body, list[Place], int]], list[float]]:
    """Every gear with the bore of its seat, the places where it stands, and its stage; and the angle of every shaft
    (rad), with the input turned by ``turn``. With ``openings`` bores have the keyways and splines of their joints."""
    extra, placed = _turned(design, results, m, turn)
    at_rest = {(g.stage, g.i, g.planet): g.angle for g in pose(results, 0.0).gears}
    shaft_of = {s.gear: k for k, f in enumerate(m.shafts) for s in f.made.wish.seats}
    angles = list(extra)
    groups: dict[tuple[int, int], tuple[Body, list[Place], int]] = {}
    for g, place in placed:
        key = design.train.stages[g.stage].gears[g.i].id
        if key in shaft_of:
            angles[shaft_of[key]] = extra[shaft_of[key]] + g.angle - at_rest[g.stage, g.i, g.planet]
        if (g.stage, g.i) not in groups:
            body = bodies(design, results.stages[g.stage], g.stage)[g.i]
            body = _on_seat(design, body, g.stage, g.i, m)
            if openings:
                body = _bored(body, _joint_of(design, g.stage, g.i, m), angles, place)
            groups[g.stage, g.i] = (body, [], g.stage)
        groups[g.stage, g.i][1].append(place)
    return list(groups.values()), angles


SEGMENTS = 64
"""Facets around a shaft."""


def shaft_facets(made: MadeShaft) -> list[tuple[Any, Any]]:
    """Points and triangles of a shaft and of its bearings, about its axis; for pictures."""
    import numpy as np
    from trimesh.creation import box, revolve

    integral = {j.piece for j in made.joints if j.kind == "integral" and not is_carrier(j.gear)}
    outline = [(made.wish.d_i / 2, made.start)]
    for p in made.pieces:
        r = (CORE if p.name in integral else 1.0) * p.d / 2
        outline += [(r, p.start), (r, p.end)]
    outline.append((made.wish.d_i / 2, made.end))
    if made.wish.d_i:
        outline.append(outline[0])
    meshes = [revolve(np.array(outline), sections=SEGMENTS)]
    for b in made.bearings:
        k = b.bearing
        low, high = b.at - k.B / 2, b.at + k.B / 2
        wall = 0.28 * (k.D - k.d) / 2
        for r_1, r_2 in ((k.d / 2, k.d / 2 + wall), (k.D / 2 - wall, k.D / 2)):
            square = [(r_1, low), (r_2, low), (r_2, high), (r_1, high), (r_1, low)]
            meshes.append(revolve(np.array(square), sections=SEGMENTS))
    for j in made.joints:
        for side in _sides(j):
            piece = made.piece(j.piece)
            middle = side * (piece.d / 2 - j.t_1 + j.h / 2)
            block = box((j.b, j.h, j.length))
            block.apply_translation((0.0, middle, piece.at))
            meshes.append(block)
    for _gear, start, end, d in hub_ends(made):
        square = box_of(start, end, d / 2, HUB_OUTSIDE / 2 * d)
        meshes.append(revolve(np.array([(r, z) for z, r in (*square, square[0])]), sections=SEGMENTS))
    for own in on_shaft(made):
        meshes.append(revolve(np.array([(r, z) for z, r in (*own.profile, own.profile[0])]), sections=SEGMENTS))
    return [(np.asarray(x.vertices), np.asarray(x.faces)) for x in meshes]


def _axis_of_set(m: MachineResult, design: Design, k: int) -> tuple[float, float]:
    """The axis about which the set of a stage turns."""
    mine = {g.id for s in design.train.stages[max(k - 2, 0) : k + 3] for g in s.gears} & {
        g.id for g in design.train.stages[k].gears
    }
    names = mine | {tr("carrier of {key}", key=key) for key in mine}
    return next(m.shafts[b.shaft].axis for b in m.bodies if b.key in names)


def _middle(m: MachineResult, body: Any, results: Results, k: int) -> float:
    if body is not None:
        return float(m.places.planes[body.plane][0] + body.lead + body.b / 2)
    # A planet stands in the plane of its set.
    one = results.within[k]
    assert one is not None
    near = next(b for b in m.bodies if b.key.startswith("carrier") or b.r_in > 0)
    plane = m.places.planes[near.plane]
    return float(sum(plane) / 2)


def write_machine_step(
    design: Design, results: Results, m: MachineResult, path: Path, said: Said | None = None
) -> None:
    """STEP assembly of the whole machine."""
    parts = [(p.name, p.solid, p.places) for p in machine_parts(design, results, m)]
    write_step_shapes(parts, path, design.name, said)

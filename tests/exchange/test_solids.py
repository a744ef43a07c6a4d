"""Solids, meshes and drawings of whole gears against area times width, closedness and the outline itself."""

import re
from pathlib import Path

import ezdxf
import numpy as np
import pytest
import trimesh
from ezdxf.path import make_path
from scipy.spatial import cKDTree

from cooper.demo import demo
from cooper.editing.edit import give_count, set_many
from cooper.errors import OutOfRange
from cooper.exchange.body import bodies
from cooper.exchange.formats import Options
from cooper.exchange.mesh_file import body_mesh
from cooper.exchange.mounted import mounted
from cooper.exchange.outlines import grown
from cooper.exchange.save import export
from cooper.exchange.solid import TOLERANCE, body_solid, volume_of
from cooper.exchange.statement import state_hash
from cooper.gears.outline import gear_outline
from cooper.results.evaluate import evaluate

M = "train.meshes.stage1."


def designs():
    spur, helical = demo(), demo("winch")
    ring = set_many(
        give_count(spur, 0, 2, -41),
        {"train.duty.u_wanted": None, "train.gears.gear1.z": 12, "train.gears.gear2.x": -0.3},
    )
    return {
        "spur": spur,
        "chamfered": set_many(spur, {"train.gears.gear1.h_K": 0.2, "train.gears.gear2.rho_a": 0.1}),
        "helical": helical,
        "double": set_many(helical, {M + "double_helix": True}),
        "gap": set_many(
            spur,
            {
                M + "double_helix": True,
                M + "b_gap": 6.0,
                M + "beta": 18.0,
                "train.gears.gear2.z": 23,
                "train.duty.u_wanted": None,
            },
        ),
        "ring": ring,
        "helical ring": set_many(ring, {M + "beta": 18.0}),
    }


@pytest.mark.parametrize("name", list(designs()))
def test_meshes_are_watertight_and_hold_area_times_width(name):
    d = designs()[name]
    for body in bodies(d, evaluate(d).stages[0], 0):
        mesh = body_mesh(body, 0.002)
        assert mesh.is_watertight
        assert mesh.is_winding_consistent
        assert mesh.volume == pytest.approx(body.volume, rel=2e-3)
        coarse = body_mesh(body, 0.02)
        assert coarse.is_watertight
        assert len(coarse.faces) < len(mesh.faces)


@pytest.mark.parametrize("name", ["gap", "helical ring"])
def test_solids_hold_area_times_width_and_their_mid_section_is_the_drawn_outline(name):
    from OCP.BRepCheck import BRepCheck_Analyzer
    from OCP.BRepClass3d import BRepClass3d_SolidClassifier
    from OCP.BRepGProp import BRepGProp
    from OCP.gp import gp_Pnt
    from OCP.GProp import GProp_GProps
    from OCP.TopAbs import TopAbs_State

    d = designs()[name]
    for body in bodies(d, evaluate(d).stages[0], 0):
        solid = body_solid(body)
        assert BRepCheck_Analyzer(solid).IsValid()
        # Faces lie within the tolerance of the true ones to both sides, on the whole within a twentieth of it.
        surface = GProp_GProps()
        BRepGProp.SurfaceProperties_s(solid, surface)
        assert volume_of(solid) == pytest.approx(body.volume, abs=TOLERANCE / 20 * surface.Mass())
        # Points just inside and outside the outline of a section, turned by the helix, are so for the solid as well.
        z = body.halves[-1][1] - 1.0
        turn = body.phase + float(body.angle(z))
        points = gear_outline(body.tooth, turn, 1e-3)[5:400:131]
        after = gear_outline(body.tooth, turn, 1e-3)[6:401:131]
        along = after - points
        normal = np.column_stack((along[:, 1], -along[:, 0])) / np.hypot(*along.T)[:, None]
        middle = (points + after) / 2
        for sign in (1.0, -1.0):
            for x, y in middle + sign * 0.01 * normal:
                state = BRepClass3d_SolidClassifier(solid, gp_Pnt(x + body.x, y, z), 1e-7).State()
                outside = state == TopAbs_State.TopAbs_OUT
                assert outside == ((sign > 0) != body.section.inward)


@pytest.mark.parametrize("name", ["gap", "helical ring"])
def test_solids_carry_what_is_taken_off_along_the_face(name):
    """Points of the involute, moved by the amount of crowning, slope and end relief at their height, other on either
    flank, lie on the surface of the solid and of the mesh; the halves of a double helix mirror each other."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeVertex
    from OCP.BRepCheck import BRepCheck_Analyzer
    from OCP.BRepExtrema import BRepExtrema_DistShapeShape
    from OCP.gp import gp_Pnt

    G = "train.gears."
    forms = {M + "C_beta": 60.0, M + "C_Hbeta": 24.0, G + "gear2.flanks.C_betaI": 90.0, G + "gear2.flanks.l_CI": 4.0}
    forms[G + "gear2.flanks_left"] = {"C_betaII": 50.0, "l_CII": 3.5}
    d = set_many(designs()[name], forms)
    for n, body in enumerate(bodies(d, evaluate(d).stages[0], 0)):
        solid = body_solid(body)
        assert BRepCheck_Analyzer(solid).IsValid()
        shell = next(iter(_shells(solid)))
        mesh = body_mesh(body, 0.002)
        assert mesh.is_watertight
        low, high, _ = body.halves[0]
        r = abs(float(body.tooth.d)) / 2
        for y in (0.5, 3.0, 5.0, high - low - 0.5):
            at = 2 * y / (high - low) - 1
            crowned = 60.0 * at**2 + 12.0 * (at + 1)
            right, left = (
                (crowned,) * 2 if n == 0 else (90.0 * max(1 - y / 4, 0), 50.0 * max(1 - (high - low - y) / 3.5, 0))
            )
            # Of a tooth of a ring, which points inwards, the right flank is above the axis.
            offs = np.array([left, right] if body.section.inward else [right, left])
            half = float(body.tooth.made_angle(body.tooth.sign * 2 * r)) - offs / 500 / abs(float(body.tooth.d_b))
            for angle in body.phase + float(body.angle(low + y)) + np.array([-1, 1]) * half:
                point = gp_Pnt(r * np.cos(angle) + body.x, r * np.sin(angle), low + y)
                vertex = BRepBuilderAPI_MakeVertex(point).Vertex()
                assert BRepExtrema_DistShapeShape(vertex, shell).Value() < 0.0015
                where = [[point.X(), point.Y(), point.Z()]]
                assert abs(trimesh.proximity.closest_point_naive(mesh, where)[1][0]) < 0.003
        assert volume_of(solid) == pytest.approx(mesh.volume, rel=2e-3)


def _shells(solid):
    from OCP.TopAbs import TopAbs_ShapeEnum
    from OCP.TopExp import TopExp_Explorer

    explorer = TopExp_Explorer(solid, TopAbs_ShapeEnum.TopAbs_SHELL)
    while explorer.More():
        yield explorer.Current()
        explorer.Next()


def test_files_read_back_as_what_was_written(tmp_path):
    from OCP.STEPControl import STEPControl_Reader

    d = designs()["helical"]
    r = evaluate(d)
    total = sum(b.volume for b in mounted(d, r, 0))
    export(d, r, tmp_path / "pair.step")
    text = (tmp_path / "pair.step").read_text(encoding="utf-8")
    assert text.startswith("ISO-10303-21")
    assert text.count("MANIFOLD_SOLID_BREP(") == 2
    assert text.count("NEXT_ASSEMBLY_USAGE_OCCURRENCE(") == 2
    assert f"'{r.stages[0].name}'" in text
    for name in (g.name for g in d.train.stages[0].gears):
        assert f"'{name}'" in text
    points = re.findall(r"CARTESIAN_POINT\('',([^;]*)\);", text)
    assert len(points) == len(set(points)) > 1000, "each point once"
    assert len(text) < 2e6
    reader = STEPControl_Reader()
    reader.ReadFile(str(tmp_path / "pair.step"))
    reader.TransferRoots()
    assert volume_of(reader.OneShape()) == pytest.approx(total, rel=2e-5)
    for suffix in (".stl", ".3mf"):
        path = tmp_path / f"pair{suffix}"
        export(d, r, path)
        read = trimesh.load(path, force="mesh")
        assert read.volume == pytest.approx(total, rel=5e-3)
        assert read.bounds[1, 0] - read.bounds[0, 0] == pytest.approx(
            r.stages[0].extent[1] - r.stages[0].extent[0], abs=0.1
        )
    assert not list(tmp_path.glob(".*")), "nothing half-written is left"
    export(d, r, tmp_path / "one.stl", options=Options(gear=2))
    alone = trimesh.load(tmp_path / "one.stl", force="mesh")
    assert alone.volume == pytest.approx(mounted(d, r, 0)[1].volume, rel=5e-3)
    export(d, r, tmp_path / "one.dxf", options=Options(gear=1, curves="polylines"))
    assert len(ezdxf.readfile(tmp_path / "one.dxf").modelspace().query("LWPOLYLINE")) == 1


@pytest.mark.parametrize("name", ["chamfered", "ring"])
def test_dxf_arcs_and_splines_lie_on_the_outline_and_close(tmp_path, name):
    d = designs()[name]
    r = evaluate(d)
    export(d, r, tmp_path / "t.dxf", options=Options(tolerance=1e-4))
    space = ezdxf.readfile(tmp_path / "t.dxf").modelspace()
    kinds = {e.dxftype() for e in space.query('*[layer=="OUTLINE"]')}
    assert kinds == {"ARC", "SPLINE"}
    for body in bodies(d, r.stages[0], 0):
        fine = gear_outline(body.tooth, body.phase, 1e-5) + [body.x, 0.0]
        tree = cKDTree(fine)
        reach = (max(np.hypot(*(fine - [body.x, 0]).T)) + 0.01, min(np.hypot(*(fine - [body.x, 0]).T)) - 0.01)
        ends, length = [], 0.0
        for e in space.query('ARC SPLINE[layer=="OUTLINE"]'):
            p = np.array([(v.x, v.y) for v in make_path(e).flattening(1e-4)])
            away = np.hypot(p[:, 0] - body.x, p[:, 1])
            gap = tree.query(p)[0]
            if not (away.min() > reach[1] and away.max() < reach[0]) or gap.max() > 0.05:
                continue  # of the other gear
            length += np.sum(np.hypot(*np.diff(p, axis=0).T))
            ends += [p[0], p[-1]]
            a = np.abs(gap)
            assert a.max() < 0.03  # the fine outline's own point spacing
        spot = cKDTree(np.array(ends))
        assert all(len(n) == 2 for n in spot.query_ball_point(np.array(ends), 1e-5)), "every end meets one other"
        whole = np.sum(np.hypot(*np.diff(np.vstack((fine, fine[:1])), axis=0).T))
        assert length == pytest.approx(whole, rel=1e-4)


def test_compensation_moves_every_flank_by_its_amount(tmp_path):
    d = designs()["spur"]
    r = evaluate(d)
    body = bodies(d, r.stages[0], 0)[0]
    outline = gear_outline(body.tooth, 0.0, 1e-4)
    for e in (0.08, -0.05):
        moved = grown(outline, e)
        tree = cKDTree(gear_outline(body.tooth, 0.0, 1e-6))
        assert np.abs(tree.query(moved)[0]).max() == pytest.approx(abs(e), abs=2e-3)
    with pytest.raises(OutOfRange, match="compensation"):
        grown(outline, -3.0)
    plain, fat = (body_mesh(body, 0.005, c).volume for c in (0.0, 0.05))
    assert fat > plain
    export(d, r, tmp_path / "k.dxf", options=Options(compensation=0.05))
    kinds = {e.dxftype() for e in ezdxf.readfile(tmp_path / "k.dxf").modelspace().query('*[layer=="OUTLINE"]')}
    assert kinds == {"LWPOLYLINE"}
    with pytest.raises(ValueError, match="never compensated"):
        export(d, r, Path(tmp_path / "k.step"), options=Options(compensation=0.05))


def test_meshes_are_read_strictly_by_the_consortiums_own_reader_and_say_their_error(tmp_path):
    lib3mf = pytest.importorskip("lib3mf")
    d = designs()["helical"]
    r = evaluate(d)
    export(d, r, tmp_path / "pair.3mf")
    model = lib3mf.Wrapper().CreateModel()
    reader = model.QueryReader("3mf")
    reader.SetStrictModeActive(True)
    reader.ReadFromFile(str(tmp_path / "pair.3mf"))
    assert reader.GetWarningCount() == 0
    assert model.GetUnit() == lib3mf.ModelUnit.MilliMeter
    meshes, names = model.GetMeshObjects(), []
    while meshes.MoveNext():
        one = meshes.GetCurrentMeshObject()
        assert one.IsManifoldAndOriented()
        names.append(one.GetName())
    assert names == [f"{i} {g.name}" for i, g in enumerate(d.train.stages[0].gears, 1)]
    text = model.GetMetaDataGroup()
    assert "facets within 0.01 mm" in text.GetMetaDataByKey("", "Description").GetValue()
    export(d, r, tmp_path / "pair.stl")
    assert f"state {state_hash(d)}, mm, within 0.01 mm".encode() in (tmp_path / "pair.stl").read_bytes()[:80]


@pytest.mark.parametrize("name", ["helical", "ring"])
def test_surfaces_keep_the_tolerance_that_the_file_states_with_few_poles(tmp_path, name):
    from cooper.exchange.solid import TOLERANCE, _swept

    d = designs()[name]
    r = evaluate(d)
    rng = np.random.default_rng(3)
    for body in bodies(d, r.stages[0], 0):
        low, high, _ = body.halves[0]
        for piece in body.section.curves():
            (surface,) = _swept(body, [piece], low, high)
            true = body.section.moved(piece(np.linspace(0, 1, 4001)), np.float64(body.phase))
            u_0, u_1, v_0, v_1 = surface.Bounds()
            for u, v in rng.uniform((u_0, v_0), (u_1, v_1), (40, 2)):
                p = surface.Value(float(u), float(v))
                near = body.moved(true, p.Z()) - [p.X(), p.Y()]
                assert np.hypot(*near.T).min() < 1.3 * TOLERANCE
    path = tmp_path / "pair.step"
    export(d, r, path)
    assert f"surfaces within {TOLERANCE:g} mm" in path.read_text(encoding="utf-8")[:600]
    teeth = sum(abs(g.z) for g in r.stages[0].gears)
    assert path.stat().st_size < 60e3 * teeth

"""The machine as it leaves: solids against their own volumes, gears in phase on axes at any angle, the DXF and STEP
read back."""

import re

import ezdxf
import numpy as np
import pytest
from shapely.geometry import Polygon

from cooper.demo import demo
from cooper.editing.edit import set_at
from cooper.editing.machine_edits import count_machine, in_machine
from cooper.exchange.body import bodies
from cooper.exchange.bore_profile import bore_profile_of, spline_section
from cooper.exchange.formats import WHOLE
from cooper.exchange.machine_parts import _turned, machine_bodies, machine_parts, shaft_solid
from cooper.exchange.mesh_file import body_facets
from cooper.exchange.save import export
from cooper.exchange.shaded import Solids
from cooper.exchange.solid import volume_of
from cooper.machine.hub_ends import hub_ends
from cooper.machine.shaft_model import Joint
from cooper.results.evaluate import evaluate


def test_a_shaft_is_its_cylinders_less_the_slots_of_its_keys_and_splines():
    r = evaluate(count_machine(set_at(demo("winch"), "train.machine", None)))
    for s in r.machine.shafts:
        whole = sum(np.pi / 4 * p.d**2 * p.length for p in s.made.pieces)
        slots = sum(
            j.b * j.length * j.t_1 * (2 if j.kind == "two keys" else 1) for j in s.made.joints if "key" in j.kind
        )
        for j in s.made.joints:
            if j.kind == "spline":
                # Between its teeth, and over their tips.
                slots += (np.pi / 4 * j.d**2 - spline_section(j).area()) * s.made.piece(j.piece).length
        assert volume_of(shaft_solid(s.made)) == pytest.approx(whole - slots, rel=0.01)


@pytest.mark.parametrize(
    ("name", "phi"), [("winch", (35.0, 110.0)), ("battery-lift", (0.0, -70.0)), ("dome-ring", (20.0,))]
)
def test_gears_mesh_in_phase_wherever_the_next_axis_lies(name, phi):
    d = set_at(demo(name), "train.machine", None)
    d = in_machine(d, *((("angles", s.id), v) for s, v in zip(d.train.stages, phi, strict=True)))
    r = evaluate(d)
    _, placed = _turned(d, r, r.machine)
    outlines = {}
    for g, (x, y, _z, angle) in placed:
        body = bodies(d, r.stages[g.stage], g.stage)[g.i]
        points = body.section.outline(1e-3, 0.0)
        c, s = np.cos(angle), np.sin(angle)
        turned = points @ np.array([[c, s], [-s, c]]) + [x, y]
        kind = r.stages[g.stage].kinds[g.i]
        shape = Polygon(turned)
        if kind.inward:
            rim = r.stages[g.stage].gears[g.i].d_rim / 2
            shape = Polygon(
                [(x + rim * np.cos(a), y + rim * np.sin(a)) for a in np.linspace(0, 6.283, 400)]
            ).difference(shape)
        outlines[d.train.stages[g.stage].gears[g.i].id] = shape.buffer(0)
    for k, stage in enumerate(d.train.stages):
        one, two = (outlines[gear.id] for gear in stage.gears)
        m_n = r.stages[k].mesh.m_n
        assert one.intersection(two).area < 2e-3 * m_n**2
        # They are in mesh, not apart: a tenth of a module nearer they would overlap.
        assert one.buffer(0.12 * m_n).intersection(two).area > 1e-2 * m_n**2


def test_the_whole_machine_leaves_as_step_and_dxf(tmp_path):
    d = count_machine(demo("mirror-cover"))
    r = evaluate(d)
    export(d, r, tmp_path / "m.step", stage=WHOLE)
    names = re.findall(r"PRODUCT\('([^']*)'", (tmp_path / "m.step").read_text(errors="replace"))
    assert {"input shaft", "output shaft", d.train.stages[0].gears[1].name} <= set(names)
    assert any("deep groove ball" in n for n in names) and any("key" in n for n in names)
    export(d, r, tmp_path / "m.dxf", stage=WHOLE)
    doc = ezdxf.readfile(tmp_path / "m.dxf")
    shafts = doc.modelspace().query('LWPOLYLINE[layer=="SHAFT"]')
    assert len(shafts) == len(r.machine.shafts) == 2
    tall = sorted(max(p[1] for p in s.get_points()) - min(p[1] for p in s.get_points()) for s in shafts)
    assert tall == pytest.approx(sorted(max(p.d for p in s.made.pieces) for s in r.machine.shafts))
    assert len(doc.modelspace().query('LWPOLYLINE[layer=="SHAFT_BEARING"]')) >= 8
    planets = evaluate(count_machine(demo("focuser")))
    assert any(
        p.name.startswith("pin of") and len(p.places) == 4
        for p in machine_parts(count_machine(demo("focuser")), planets, planets.machine)
    )


def test_the_solid_view_turns_gears_and_shafts_together():
    d = demo("winch")
    solids = Solids(d, evaluate(d))
    rest, turned = solids.placed(0.0), solids.placed(0.7)
    assert len(rest) == len(turned) == 4 + sum(len(s) for s in solids.shafts)
    gears = {s.solid.stage: s for s in rest if s.solid.stage >= 0}
    assert len(gears) == 2
    for a, b in zip(rest, turned, strict=True):
        if a.solid.stage >= 0:
            continue
        shaft = solids.machine.shafts[a.solid.gear]
        assert (a.x, a.y) == pytest.approx(shaft.axis)
        ratio = shaft.made.wish.n / solids.machine.shafts[0].made.wish.n
        assert abs(b.angle - a.angle) == pytest.approx(0.7 * ratio, rel=1e-6)
    # Every shaft is as long as it is made, and no wider than its bearings or the hubs beyond the teeth.
    for shaft, parts in zip(solids.machine.shafts, solids.shafts, strict=True):
        z = parts[0].points[:, 2]
        assert (z.min(), z.max()) == pytest.approx((shaft.made.start, shaft.made.end))
        wide = max(np.hypot(p.points[:, 0], p.points[:, 1]).max() for p in parts)
        hubs = [1.6 * d for _g, _z, _end, d in hub_ends(shaft.made)]
        assert wide == pytest.approx(max(*(b.bearing.D for b in shaft.made.bearings), *hubs) / 2, rel=1e-6)


def test_the_whole_machine_leaves_as_facets_that_enclose_what_its_solids_do(tmp_path):
    import trimesh

    d = count_machine(demo("winch"))
    r = evaluate(d)
    export(d, r, tmp_path / "all.stl", stage=WHOLE)
    export(d, r, tmp_path / "all.3mf", stage=WHOLE)
    read = trimesh.load(tmp_path / "all.stl")
    m = r.machine
    low = min(s.made.start for s in m.shafts)
    high = max(s.made.end for s in m.shafts)
    assert read.bounds[:, 2] == pytest.approx([low, high], abs=0.02)
    parts = trimesh.load(tmp_path / "all.3mf").geometry
    for s in m.shafts:
        named = [g for name, g in parts.items() if name.endswith(f" {s.name}")]
        whole = sum(
            np.pi
            / 4
            * p.d**2
            * p.length
            * (0.64 if any(j.piece == p.name and j.kind == "integral" for j in s.made.joints) else 1)
            for p in s.made.pieces
        )
        assert named and named[0].is_watertight and named[0].volume == pytest.approx(whole, rel=0.01)


def test_hubs_have_their_keyways_in_facets_where_the_keys_lie():
    """The metal that the keyway takes, by polygons of its box and the bore; where it opens, against the angle of its
    shaft."""
    import trimesh
    from shapely.geometry import Point, box

    d = count_machine(demo("battery-lift"))
    r = evaluate(d)
    m = r.machine
    seen = 0
    plain, _ = machine_bodies(d, r, m)
    opened, angles = machine_bodies(d, r, m, openings=True)
    for (before, _, _), (body, places, _) in zip(plain, opened, strict=True):
        if body.bore_profile is None:
            continue
        seen += 1
        shaft, joint = next(
            (k, j)
            for k, s in enumerate(m.shafts)
            for j in s.made.joints
            if j.kind == "key" and j.gear and j.d == pytest.approx(body.edge)
        )
        solid, hollow = (trimesh.Trimesh(*body_facets(b, 1e-3), process=False) for b in (before, body))
        assert hollow.is_watertight
        slot = box(-joint.b / 2, 0, joint.b / 2, joint.d / 2 + joint.t_2).difference(
            Point(0, 0).buffer(joint.d / 2, 512)
        )
        assert solid.volume - hollow.volume == pytest.approx(slot.area * body.b, rel=5e-3)
        points = body.bore_profile.points(1e-3)
        top = points[np.hypot(*points.T) > joint.d / 2 + 0.5 * joint.t_2].mean(axis=0)
        turned = np.arctan2(top[1], top[0]) + places[0][3] - angles[shaft] - np.pi / 2
        assert np.sin(turned) == pytest.approx(0, abs=1e-6) and np.cos(turned) > 0
    assert seen == 3


def test_a_spline_is_followed_by_chords_as_near_as_is_asked():
    joint = Joint(piece="p", gear="g", kind="spline", d=30.0, T=100.0, R_e=300.0, m=1.25, z=22)
    coarse, fine = (bore_profile_of(joint).points(t) for t in (0.05, 1e-4))
    assert len(fine) > len(coarse)
    r = np.hypot(*fine.T)
    # Root of the hub's spaces and tip of its teeth by DIN 5480: d_B, and d_B - 2 m.
    assert (2 * r.min(), 2 * r.max()) == pytest.approx((30.0 - 2 * 1.25, 30.0), abs=0.3)
    x, y = fine.T
    area = 0.5 * abs(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))
    assert area == pytest.approx(Polygon(bore_profile_of(joint).points(1e-5)).area, rel=1e-5)

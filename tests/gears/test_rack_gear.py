"""Pinion and rack: the rolling, the exports and what is refused, against plain geometry of a straight profile."""

import re

import numpy as np
import pytest

from cooper.editing.edit import give_kind, set_many
from cooper.errors import OutOfRange
from cooper.exchange.body import bodies
from cooper.exchange.dimension_sheet import dimension_rows
from cooper.exchange.mesh_file import body_mesh
from cooper.exchange.report import report_text
from cooper.exchange.save import export
from cooper.exchange.solid import body_solid, volume_of
from cooper.gears.overlap import overlaps
from cooper.gears.phase import MeshPlacement
from cooper.gears.rack_gear import rack_tooth, tooth_place
from cooper.kinds.external_wheel import EXTERNAL
from cooper.kinds.straight_rack import RACK
from cooper.results.evaluate import evaluate
from cooper.results.why import why
from makers import pair

B = "train."


def rack(z1=20, x1=0.2, beta=0.0, teeth=13, **more):
    d = give_kind(pair(z1, 30, x1, 0.0, m=2.0), 0, RACK)
    return set_many(d, {B + "gears.gear2.z": teeth, B + "meshes.stage1.beta": beta, **more})


def test_the_rack_is_its_basic_profile_and_moves_a_pitch_per_tooth():
    s = evaluate(rack()).stages[0]
    m, g = s.mesh, s.gears[1]
    assert m["travel"] == pytest.approx(20 * 2 * np.pi)
    assert m["a_w"] == pytest.approx(20 + 0.2 * 2, abs=1e-5)
    assert g["L_z"] == pytest.approx(13 * 2 * np.pi)
    tooth = rack_tooth(s.teeth[1], 1e-4)
    flank = tooth[(tooth[:, 1] > -1.0) & (tooth[:, 1] < 1.9) & (tooth[:, 0] > 0)]
    # Straight at 20 degrees, through half the thickness on the datum line.
    slope = np.polyfit(flank[:, 1], flank[:, 0], 1)
    assert -slope[0] == pytest.approx(np.tan(np.radians(20)), abs=2e-6)
    assert slope[1] == pytest.approx(g["s_nE"] / 2, abs=1e-5)
    # The fillet is the basic rack's circle of 0.38 m, tangent to the root line.
    low = tooth[(tooth[:, 0] > 0) & (tooth[:, 1] < -1.9) & (tooth[:, 1] > tooth[:, 1].min() + 1e-6)]
    centre_y = tooth[:, 1].min() + 0.76
    centre_x = np.median(low[:, 0] + np.sqrt(np.maximum(0.76**2 - (low[:, 1] - centre_y) ** 2, 0)))
    assert np.hypot(low[:, 0] - centre_x, low[:, 1] - centre_y) == pytest.approx(np.full(len(low), 0.76), abs=1e-4)
    power = s.power
    assert power["F_out"] * power["v_out"] == pytest.approx(power["P_out"])
    assert power["P_out"] < power["P_in"]


@pytest.mark.parametrize("beta", [0.0, 20.0])
def test_pinion_and_rack_roll_without_overlap_and_touch_on_the_line_of_action(beta):
    s = evaluate(rack(x1=0.3, beta=beta)).stages[0]
    one, r_1 = s.gears[0], s.gears[0]["d"] / 2
    for roll in (0.0, 0.1, -0.23):
        for side in (1.0, -1.0):
            place = tooth_place(one["z"], r_1, s.mesh["j_wt"], roll, side)
            assert overlaps(*s.teeth, s.mesh["a_w"], MeshPlacement(np.float64(roll), np.float64(place))) == []
            # Pushed on by 5 um, the flanks run into each other by its part along the normal.
            into = overlaps(*s.teeth, s.mesh["a_w"], MeshPlacement(np.float64(roll), np.float64(place - side * 0.005)))
            assert into
            assert into[0].depth == pytest.approx(0.005 * np.cos(np.radians(s.mesh["alpha_wt"])), rel=0.1)
            at = np.array([into[0].x, side * into[0].y])
            g = [s.action_point(v, 1) for v in np.linspace(s.mesh["g_A"], s.mesh["g_E"], 400)]
            assert np.min(np.hypot(*(np.array(g) - at).T)) < 0.15


@pytest.mark.parametrize("beta", [0.0, 15.0])
def test_a_rack_leaves_as_mesh_solid_and_drawing(tmp_path, beta):
    d = rack(beta=beta)
    r = evaluate(d)
    body = bodies(d, r.stages[0], 0)[1]
    mesh = body_mesh(body, 0.002)
    assert mesh.is_watertight
    assert mesh.volume == pytest.approx(body.volume, rel=1e-3)
    assert volume_of(body_solid(body)) == pytest.approx(body.volume, rel=2e-5)
    assert body.volume * 7850e-9 == pytest.approx(r.stages[0].gears[1]["mass"], rel=1e-4)
    for kind in (".dxf", ".svg", ".csv", ".txt"):
        export(d, r, tmp_path / f"rack{kind}")
        assert (tmp_path / f"rack{kind}").stat().st_size > 1000
    text = report_text(d, r)
    assert not re.search(r"\b(nan|inf)\b", text.lower())
    assert not any(abs(v) > 1e6 for v in r.stages[0].gears[1].values() if v != r.stages[0].gears[1]["N_L"])
    assert any(row.symbol == "travel" for row in dimension_rows(d, 0, r.stages[0], 2))
    for c in r.checks:
        chain = why(r.stages[0], c)
        if chain:
            assert chain.bearing[-1].value / chain.acting[-1].value == pytest.approx(c.value)


def test_a_given_distance_is_met_by_the_pinion_and_nonsense_is_refused():
    d = rack(**{B + "gears.gear1.x": None, B + "meshes.stage1.a_w": 20.9})
    assert evaluate(d).stages[0].gears[0]["x"] == pytest.approx(0.45, abs=1e-5)
    with pytest.raises(OutOfRange) as fault:
        evaluate(set_many(d, {B + "meshes.stage1.a_w": 40.0}))
    assert 17 < fault.value.low < fault.value.high < 24
    for a_w in (fault.value.low, fault.value.high):
        evaluate(set_many(d, {B + "meshes.stage1.a_w": a_w}))
    for changes, word in (
        ({B + "gears.gear2.h_back": 2.0}, "the back would cut into the roots of the rack"),
        ({B + "gears.gear2.h_back": 3.5}, "half the tooth depth"),
        ({B + "gears.gear2.x": 0.1}, "no shift"),
        ({B + "gears.gear2.z": -30}, "positive count"),
        (
            {B + "gears.gear1.shape": "rack", B + "gears.gear1.x": 0.0, B + "meshes.stage1.a_w": None},
            "driven gear of a pair",
        ),
    ):
        with pytest.raises(OutOfRange, match=word):
            evaluate(set_many(d, changes))
    back = give_kind(rack(), 0, EXTERNAL)
    assert evaluate(back).stages[0].mesh["u"] == pytest.approx(13 / 20)

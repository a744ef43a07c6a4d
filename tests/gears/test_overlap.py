"""Overlaps of known depth are found where they lie; gears that only touch have none."""

import numpy as np
import pytest

from cooper.gears.overlap import COARSE, TOLERANCE, overlaps
from cooper.gears.pair import centre_distance
from cooper.gears.phase import MeshPlacement, mesh_placement
from makers import tooth


def stand_of(one, two, a_w, j_wt, roll=0.05, side=1):
    return mesh_placement(float(one.z), float(two.z), np.float64(j_wt), np.float64(a_w), np.float64(roll), side)


def test_touching_gears_have_no_overlap_in_any_position():
    one, two = tooth(17, 0.32), tooth(41, 0.12)
    a_w = float(centre_distance(17, 41, 2.0, 0.44, np.radians(20)))
    for roll in np.linspace(0, 2 * np.pi / 17, 8):
        assert overlaps(one, two, a_w, stand_of(one, two, a_w, 0.0, roll)) == []
    far = a_w + 10.0
    assert overlaps(one, two, far, stand_of(one, two, far, 0.0)) == []


@pytest.mark.parametrize("press", [0.002, 0.02, 0.1])
def test_flanks_pressed_into_each_other_overlap_by_the_normal_part_of_the_turn(press):
    """Turning the wheel by press/r_b moves its flank along the line of action by press."""
    one, two = tooth(20, 0.2, x_E=0.15), tooth(35, 0.0, x_E=-0.05)
    a_w = float(centre_distance(20, 35, 2.0, 0.2, np.radians(20)))
    stand = stand_of(one, two, a_w, 0.0, 0.0, 0)
    from cooper.running.backlash import backlash

    play = float(backlash(20, 35, 2.0, np.radians(20), 0.0, 0.15, -0.05, a_w).j_bn)
    turn = (play / 2 + press) / (float(two.d_b) / 2)
    result = overlaps(one, two, a_w, MeshPlacement(stand.phi_1, stand.phi_2 + turn))
    assert result
    assert result[0].depth == pytest.approx(press, rel=0.03)
    assert {o.part for o in result} <= {"flank", "tip"}
    # All lie near the line of action of that side.
    alpha = np.arccos(float(one.d_b + two.d_b) / 2 / a_w)
    r_w1 = a_w * 20 / 55
    deepest = result[0]
    assert abs((deepest.x - r_w1) * np.cos(alpha) - deepest.y * np.sin(alpha)) < 0.3


def test_a_long_tip_is_found_in_the_mates_root():
    one, two = tooth(17, 0.0, h_aP=1.0), tooth(41, 0.0, h_aP=1.45)
    a_w = 58.0
    result = overlaps(one, two, a_w, stand_of(one, two, a_w, 0.0, np.pi / 17, 0))
    deepest = result[0]
    # On the centre line the tip of the wheel reaches past the pinion's root circle by 0.2 modules.
    assert deepest.depth == pytest.approx(float(two.d_a) / 2 + float(one.d_f) / 2 - a_w, abs=0.06)
    assert abs(deepest.y) < 1.5


def test_gears_too_near_overlap_on_both_flanks():
    one, two = tooth(20), tooth(30)
    result = overlaps(one, two, 49.9, stand_of(one, two, 49.9, 0.0, 0.0, 0))
    assert {np.sign(o.y) for o in result if abs(o.y) > 0.2} == {1.0, -1.0}


def test_what_lies_deep_within_another_is_found_without_the_finest_outlines(monkeypatch):
    one, two = tooth(17, 0.2), tooth(41, 0.1)
    a_w = 0.8 * 29 * 2.0
    stand = MeshPlacement(0.02, 0.01)
    rough = overlaps(one, two, a_w, stand)
    monkeypatch.setattr("cooper.gears.overlap.DEEP", 10.0)
    monkeypatch.setattr("cooper.gears.overlap.MOST_PAIRS", 10**12)
    fine = overlaps(one, two, a_w, stand)
    assert fine[0].depth > 2.0
    assert abs(rough[0].depth - fine[0].depth) < COARSE * 2.0
    assert (rough[0].chord, fine[0].chord) == (COARSE * 2.0, TOLERANCE), "how exact it is goes along"
    assert (rough[0].inside, rough[0].part) == (fine[0].inside, fine[0].part)

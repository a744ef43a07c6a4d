"""The drawn tooth of the tool: heights, tangents, land, protuberance and stock by elementary geometry."""

import numpy as np
import pytest

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.gears.rack import Rack, greatest_rho_fP
from cooper.gears.tool_profile import tool_profile
from cooper.results.evaluate import evaluate

ALPHA = np.radians(20.0)


def test_a_plain_tool_has_its_thickness_heights_and_a_tip_that_leaves_the_flank_smoothly():
    p = tool_profile(Rack(ALPHA, 1.0, 1.25, 0.3))
    x, y = p.half.T
    assert y.max() == 1.25 and y.min() == -1.0
    # Half a pitch thick on the datum line; the arc ends a tangent's depth below the tip.
    k = int(np.argmin(np.abs(np.hypot(*np.diff(p.half, axis=0).T) - np.hypot(*np.diff(p.half, axis=0).T).max())))
    a, b = p.half[k], p.half[k + 1]
    on_datum = a + (b - a) * a[1] / (a[1] - b[1])
    assert on_datum[0] == pytest.approx(np.pi / 4)
    assert a[1] == pytest.approx(1.25 - 0.3 * (1 - np.sin(ALPHA)))
    lean = np.arctan2(b[0] - a[0], a[1] - b[1])
    assert lean == pytest.approx(ALPHA)
    # The arc is one, about a centre 0.3 below the tip, and 0.3 off the flank.
    centre = np.array([x[1], 1.25 - 0.3])
    assert np.hypot(*(p.half[1:26] - centre).T) == pytest.approx(0.3)
    normal = np.array([np.cos(ALPHA), np.sin(ALPHA)])
    assert (a - centre) @ normal == pytest.approx(0.3)
    full = tool_profile(Rack(ALPHA, 1.0, 1.25, float(greatest_rho_fP(ALPHA, 1.25))))
    assert full.half[1, 0] == pytest.approx(0.0, abs=1e-12)


def test_a_protuberance_stands_out_as_far_as_it_says_and_joins_the_flank_by_its_ramp():
    rack = Rack(ALPHA, 1.0, 1.4, 0.3, pr_P=0.12, q_P=0.08, alpha_prP=np.radians(8.0))
    p = tool_profile(rack)
    normal = np.array([np.cos(ALPHA), np.sin(ALPHA)])
    on_flank = p.half[-2]
    off = (p.half - on_flank) @ normal
    assert off[1:26].max() == pytest.approx(0.12, rel=3e-3)
    assert (p.bulge - on_flank) @ normal == pytest.approx(0.12, rel=3e-3)
    end, foot = p.half[25], p.half[26]
    assert (foot - on_flank) @ normal == pytest.approx(0.0, abs=1e-12)
    assert np.degrees(np.arctan2(foot[0] - end[0], end[1] - foot[1])) == pytest.approx(8.0)
    assert p.ramp == pytest.approx((end + foot) / 2)
    assert p.half[0] == pytest.approx([0.0, 1.4]) and (p.flank - on_flank) @ normal == pytest.approx(0.0, abs=1e-12)
    # What is left when the stock is gone stands its depth outside the tool's flank.
    assert (p.finished - on_flank) @ normal == pytest.approx([0.08, 0.08])


def test_protuberance_and_stock_typed_in_millimetres_stand_over_the_module():
    gear = "train.gears.gear1."
    d = set_many(demo("winch"), {gear + "pr_P": 0.14, gear + "q_P": 0.07, gear + "h_fP": 1.4, gear + "rho_fP": 0.3})
    rack = evaluate(d).stages[0].teeth[0].rack
    assert (float(rack.pr_P), float(rack.q_P)) == pytest.approx((0.14 / 1.75, 0.07 / 1.75))

"""Counts for a fixed centre distance and ways to a diameter, each held against the evaluation of what they offer."""

import pytest

from cooper.demo import demo
from cooper.editing.edit import give_count
from cooper.editing.fitting import fits, reach
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate
from cooper.stock.series import modules
from makers import pair


@pytest.mark.parametrize("base", ["external", "internal", "helical"])
def test_every_listed_set_of_counts_meets_the_centre_distance_and_the_ratio(base):
    d = {"external": pair(), "internal": give_count(pair(), 0, 2, -60), "helical": demo("winch")}[base]
    r = evaluate(d)
    now = r.stages[0]
    u, a_w = abs(now.mesh["u"]), round(now.mesh["a_w"]) + 0.5
    result = fits(d, r, 0, a_w, u, 2.0)
    assert len(result) > 5
    assert {f.by for f in result} <= {"shift", "helix"}
    for f in result:
        s = evaluate(f.design).stages[0]
        assert s.mesh["a_w"] == a_w
        assert s.mesh["x_sum"] == pytest.approx(f.x_sum, abs=1e-6)
        assert abs(f.z_2) / f.z_1 == pytest.approx(u, rel=0.0201)
        assert s.kind is now.kind
        assert f.m_n in modules()
        assert f.by == "shift" or abs(f.x_sum) < 1e-9
    # A set that is known to fit is among them.
    exact = fits(d, r, 0, now.mesh["a_w"], u, 0.01, most=60)
    assert (now.gears[0]["z"], now.gears[1]["z"]) in {(f.z_1, f.z_2) for f in exact}


def test_what_no_counts_meet_is_refused_with_the_nearest_ratio():
    d = pair()
    r = evaluate(d)
    with pytest.raises(OutOfRange, match="nearest ratio"):
        fits(d, r, 0, 20.0, 3.14159265, 0.0)
    for wrong in ((-5.0, 2.0, 1.0), (50.0, 0.0, 1.0), (50.0, 1000.0, 1.0)):
        with pytest.raises(OutOfRange):
            fits(d, r, 0, *wrong)


@pytest.mark.parametrize(("i", "symbol", "wanted"), [(1, "d", 50.0), (2, "d_a", 120.0), (1, "d_a", 63.5)])
def test_a_wanted_diameter_is_met_by_module_and_bracketed_by_counts(i, symbol, wanted):
    for d in (pair(), give_count(pair(), 0, 2, -60)):
        r = evaluate(d)
        ways = reach(d, r, 0, i, symbol, wanted)
        by_module = [w for w in ways if "module " in w.words and "kept" in w.words and w.words.startswith("module")]
        assert by_module[0].value == pytest.approx(wanted, rel=1e-9)
        for w in ways:
            assert evaluate(w.design).stages[0].gears[i - 1][symbol] == pytest.approx(w.value)
        by_count = [w.value for w in ways if "teeth" in w.words]
        assert not by_count or min(by_count) - 1e-9 <= wanted <= max(by_count) + 1e-9 or len(by_count) == 1
    with pytest.raises(OutOfRange):
        reach(pair(), evaluate(pair()), 0, 1, "d", -1.0)

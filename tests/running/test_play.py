"""Play in service against pairs that are really warmed, run out and drawn at random; a wanted backlash reached."""

import numpy as np
import pytest

from cooper.demo import demo
from cooper.editing.edit import give_count, give_kind, set_many
from cooper.editing.wanted_play import WAYS, give_play, spread_of
from cooper.errors import OutOfRange
from cooper.kinds.straight_rack import RACK
from cooper.results.evaluate import evaluate
from cooper.running.backlash import backlash
from cooper.running.play import play, sampled
from makers import pair

DEF = "train.defaults."


def case(heat=0.0):
    return dict(
        z_1=17,
        z_2=41,
        m_n=2.0,
        alpha_n=np.radians(20),
        beta=0.0,
        x_1=(0.17, 0.19),
        x_2=(0.06, 0.1),
        a_w=(58.54, 58.6),
        F_r=(0.03, 0.04),
        heat=heat,
    )


@pytest.mark.parametrize("ring", [False, True])
def test_heat_is_that_of_gears_really_made_larger(ring):
    """Gears of a module grown by their expansion on a centre distance grown by the housing's."""
    base = give_count(pair(17, 41, 0.2, 0.1, m=2.0), 0, 2, -60) if ring else pair(17, 41, 0.2, 0.1, m=2.0)
    cold = evaluate(base).stages[0].mesh
    assert cold["j_heat"] == 0
    for gears, housing, alpha in ((80.0, 50.0, 23.0), (20.0, 90.0, 11.5), (90.0, 20.0, 11.5)):
        warm = set_many(
            base, {DEF + "theta_gears": gears, DEF + "theta_housing": housing, DEF + "alpha_housing": alpha}
        )
        s = evaluate(warm).stages[0]
        grow = 1 + 11.5e-6 * (gears - 20)
        a = s.wheel_x * (1 + alpha * 1e-6 * (housing - 20))
        one, two = s.teeth
        real = backlash(one.z, two.z, 2.0 * grow, np.radians(20), 0.0, one.x_E, two.x_E, a).j_wt
        assert s.mesh["j_op"] == pytest.approx(float(real), rel=1.2e-3)
        assert s.mesh["j_heat"] == pytest.approx(s.mesh["j_op"] - cold["j_op"])
    assert s.mesh["j_heat"] * (-1 if ring else 1) < 0, "hot gears in a cold housing jam; a ring's own warmth makes room"


def test_pairs_drawn_at_random_spread_as_their_parts_do():
    """Even tolerances spread by h / sqrt(3), a run-out at a random place of its turn by h / sqrt(2); none goes
    beyond the worst case."""
    p = play(**case())
    drawn = sampled(p, 100000)
    spread = np.sqrt(sum(h**2 / 3 for h in p.half[:3]) + sum(h**2 / 2 for h in p.half[3:]))
    assert drawn.std() == pytest.approx(spread, rel=0.01)
    assert drawn.mean() == pytest.approx(p.mean, abs=4 * spread / np.sqrt(1e5))
    assert p.worst[0] <= drawn.min() and drawn.max() <= p.worst[1]


def test_worst_case_encloses_every_combination_and_touches_its_corners():
    p = play(**case())
    rng = np.random.default_rng(2)
    n = 4000
    x_1, x_2, a = rng.uniform(0.17, 0.19, n), rng.uniform(0.06, 0.1, n), rng.uniform(58.54, 58.6, n)
    a = a + 0.015 * np.sin(rng.uniform(0, 7, n)) + 0.02 * np.sin(rng.uniform(0, 7, n))
    j = backlash(17, 41, 2.0, np.radians(20), 0.0, x_1, x_2, a).j_wt
    low, high = p.worst
    assert low - 1e-12 <= j.min()
    assert j.max() <= high + 1e-12
    assert high - low == pytest.approx(2 * sum(float(h) for h in p.half), rel=1e-3)
    drawn = sampled(p)
    assert low <= drawn.min() < drawn.max() <= high
    assert drawn.std() == pytest.approx(j.std(), rel=0.05)
    # Root sum of squares is three standard deviations of normal parts of a third each.
    normal = float(p.mean) + sum(rng.normal(0, float(h) / 3, 200_000) for h in p.half)
    assert (p.statistical[1] - p.statistical[0]) / 6 == pytest.approx(normal.std(), rel=0.01)


@pytest.mark.parametrize("way", list(WAYS))
@pytest.mark.parametrize("symbol", ["j_wt_min", "j_op_min"])
def test_a_wanted_backlash_is_reached_by_each_way(way, symbol):
    for d in (demo(), give_count(pair(17, 41, 0.2, 0.0, m=2.0), 0, 2, -60)):
        wide = give_play(d, 0, symbol, 0.15, way)
        assert evaluate(wide).stages[0].mesh[symbol] == pytest.approx(0.15, abs=2e-4)
        for old, new in zip(d.train.stages[0].gears, wide.train.stages[0].gears, strict=True):
            assert new.E_sns - new.E_sni == pytest.approx(old.E_sns - old.E_sni)
    with pytest.raises(OutOfRange):
        give_play(demo(), 0, symbol, 40.0, way)


def test_a_rack_says_why_it_has_no_play_in_service_and_a_jam_is_a_short_check():
    rack = give_kind(pair(), 0, RACK)
    with pytest.raises(OutOfRange, match="rack"):
        spread_of(rack, evaluate(rack), 0)
    hot = set_many(pair(17, 41, m=2.5), {DEF + "theta_gears": 200.0, DEF + "alpha_housing": 0.0})
    check = evaluate(hot).check("stage1.j_op_min")
    assert check.verdict == "short"
    assert "jam" in check.means


@pytest.mark.parametrize(("name", "x"), [("mirror-cover", 0.2), ("filter-wheel", None), ("winch", -1.8)])
def test_centres_at_which_no_teeth_meet_are_refused_with_the_allowance_that_works(name, x):
    gear, mesh = "train.gears.gear2.x", "train.meshes.stage1."
    shift = {} if x is None else {gear: x}
    d = set_many(demo(name), {**shift, mesh + "A_ai": -10.0, mesh + "A_as": 5.0})
    with pytest.raises(OutOfRange, match="base circles let no teeth meet") as text:
        evaluate(d)
    m = evaluate(set_many(d, {mesh + "A_ai": text.value.low})).stages[0].mesh
    assert np.isfinite(m.j_wt_min) and np.isfinite(m.j_wt_max)
    with pytest.raises(OutOfRange, match="base circles"):
        evaluate(set_many(d, {mesh + "A_ai": text.value.low - 0.02}))

import pytest

from cooper.editing.edit import give_shift, set_at, shifts_now
from cooper.editing.share_shifts import NO_UNDERCUT, RULES, shared
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate
from makers import pair

LEVEL = {"sliding": "zeta_f", "root": "S_F", "thickness": "s_Fn"}


@pytest.mark.parametrize("rule", list(RULES))
@pytest.mark.parametrize("solved", ["a_w", "x_1", "x_2"])
def test_a_rule_makes_both_gears_level_and_keeps_the_centre_distance(rule, solved):
    design = pair(19, 43, 0.3, 0.2)
    now = shifts_now(evaluate(design).stages[0])
    kept = next(n for n in ("a_w", "x_1") if n != solved)
    design = give_shift(design, 0, kept, now[kept], solved, now)
    r = evaluate(design)
    again = evaluate(shared(design, r, 0, rule))
    one, two = again.stages[0].gears
    assert one[LEVEL[rule]] == pytest.approx(two[LEVEL[rule]], rel=1e-4)
    assert again.stages[0].mesh["a_w"] == pytest.approx(now["a_w"], abs=1e-9)
    assert solved in again.stages[0].solved
    assert one["x"] != pytest.approx(now["x_1"], abs=1e-3)


def test_a_rule_that_no_sharing_meets_is_refused_in_words():
    iron = {"group": "GG", "grade": "ML", "hardness": 150.0, "R_p02": None}
    design = set_at(pair(), "train.gears.gear2.material", iron)
    with pytest.raises(OutOfRange, match="no sharing"):
        shared(design, evaluate(design), 0, "root")


def test_undercut_is_shared_away_with_the_least_move_or_refused():
    design = pair(11, 60, 0.1, 0.4)
    r = evaluate(design)
    assert r.stages[0].gears[0]["undercut"]
    one, two = evaluate(shared(design, r, 0, NO_UNDERCUT)).stages[0].gears
    assert not one["undercut"]
    assert not two["undercut"]
    assert one["x_E"] == pytest.approx(one["x_min"], abs=1e-5), "no further than it takes"
    assert one["x"] + two["x"] == pytest.approx(0.5)
    fine = pair(20, 60, 0.2, 0.4)
    assert shared(fine, evaluate(fine), 0, NO_UNDERCUT) == fine
    hopeless = pair(14, 15, 0.0, 0.0)
    with pytest.raises(OutOfRange, match="always undercut"):
        shared(hopeless, evaluate(hopeless), 0, NO_UNDERCUT)

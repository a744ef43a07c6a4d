"""Stages added, split, moved and taken away: what follows downstream, and what is refused."""

import pytest

from cooper.demo import demo
from cooper.editing.edit import give_kind
from cooper.editing.formulas import settled, with_formula
from cooper.editing.stages import add_stage, move_stage, remove_stage, split_stage
from cooper.errors import OutOfRange
from cooper.kinds.straight_rack import RACK
from cooper.results.evaluate import evaluate
from makers import pair


def test_torque_and_speed_follow_every_change_of_the_train():
    d = demo("winch")
    first = evaluate(d)
    longer = evaluate(add_stage(d, 1))
    assert len(longer.stages) == 3
    a, b = longer.stages[1].power, longer.stages[2].power
    assert b["T_in"] == pytest.approx(a["T_out"])
    assert b["n_in"] == pytest.approx(a["n_out"])
    assert longer.train["u"] == pytest.approx(first.train["u"] * abs(first.stages[1].mesh["u"]))
    # The new stage carries its torque about as hard as the one it was made from.
    assert longer.stages[2].gears[0]["sigma_F"] == pytest.approx(longer.stages[1].gears[0]["sigma_F"], rel=0.5)
    turned = evaluate(move_stage(d, 0, 1))
    assert [s.name for s in turned.stages] == [s.name for s in first.stages[::-1]]
    assert turned.train["u"] == pytest.approx(first.train["u"])
    assert remove_stage(add_stage(d, 1), 2) == d


def test_a_split_stage_keeps_about_the_ratio_and_its_halves_get_names():
    d = pair(17, 85)
    split = split_stage(d, 0)
    r = evaluate(split)
    assert r.train["u"] == pytest.approx(5.0, rel=0.05)
    assert len({s.name for s in r.stages}) == 2
    assert r.stages[1].mesh["m_n"] > r.stages[0].mesh["m_n"]


def test_formulas_follow_their_stage():
    d = settled(with_formula(demo("winch"), "stage2.b_1", "8*m_n"))[0]
    moved = move_stage(d, 1, -1)
    assert moved.train.stages[0].id == "stage2"
    assert moved.formulas == d.formulas
    assert settled(moved)[0] == moved
    assert remove_stage(d, 1).formulas == {}
    other = settled(with_formula(demo("winch"), "stage2.b_1", "2*stage1.b_1"))[0]
    longer = settled(add_stage(other, 0))[0]
    assert longer.formulas == other.formulas
    assert longer.train.stages[2].gears[0].b == 2 * longer.train.stages[0].gears[0].b


def test_what_no_train_can_be_is_refused():
    with pytest.raises(OutOfRange, match="at least one"):
        remove_stage(pair(), 0)
    with pytest.raises(OutOfRange, match="that end"):
        move_stage(pair(), 0, -1)
    rack = give_kind(pair(), 0, RACK)
    longer = add_stage(rack, 0)
    assert [s.kind.key for s in evaluate(longer).stages] == ["external pair", "rack"]
    with pytest.raises(OutOfRange, match="rack comes last"):
        move_stage(longer, 0, 1)
    with pytest.raises(OutOfRange, match="not split"):
        split_stage(rack, 0)
    with pytest.raises(OutOfRange, match="gears down"):
        split_stage(pair(20, 20), 0)
    many = pair(20, 21)
    for _ in range(11):
        many = add_stage(many, 0)
    with pytest.raises(OutOfRange, match="12"):
        add_stage(many, 0)

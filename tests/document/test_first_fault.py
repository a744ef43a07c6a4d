"""What is refused of plain data: the first fault in the order of the schema, its place, what stands there and what
works."""

import copy
import pickle

import pytest

from cooper.demo import demo
from cooper.document.duty import Duty
from cooper.document.models import Design
from cooper.errors import OutOfRange

GEAR = "train.gears.gear1."
LONG = "x" * 121
CASES = [
    ({GEAR + "z": 17.5}, GEAR + "z = 17.5 cannot be: a whole number is needed."),
    ({GEAR + "z": True}, GEAR + "z = True cannot be: a whole number is needed."),
    ({GEAR + "z": 3000}, GEAR + "z = 3000 cannot be: it is above what Cooper can work with. What works: 2000 or less."),
    ({GEAR + "b": "wide"}, GEAR + "b = 'wide' cannot be: a number is needed."),
    ({GEAR + "b": 0}, GEAR + "b = 0 cannot be: it must be above 0. What works: above 0."),
    ({GEAR + "b": float("nan")}, GEAR + "b = nan cannot be: a finite number is needed."),
    ({GEAR + "Q": 0}, GEAR + "Q = 0 cannot be: it is below what Cooper can work with. What works: 1 or more."),
    ({GEAR + "material.peened": "yes"}, GEAR + "material.peened = 'yes' cannot be: it is true or false."),
    (
        {GEAR + "material.grade": "XX"},
        GEAR + "material.grade = 'XX' cannot be: one of these is needed: ML, MQ, ME, "
        "typical, along layers, across layers.",
    ),
    ({GEAR + "material": 5}, GEAR + "material = 5 cannot be: named values are needed."),
    ({GEAR + "shape": "ball"}, GEAR + "shape = 'ball' cannot be: 'ball' is no shape of a gear; there are gear, rack."),
    ({"name": LONG}, f"name = '{'x' * 36}... cannot be: it has 121 letters, and 120 are the most."),
    ({"name": "a\x07"}, "name = 'a\\x07' cannot be: it holds signs that cannot be kept here."),
    ({"train.losses.seal": ""}, "train.losses.seal = '' cannot be: one of these is needed: FKM, NBR."),
    ({"name": 7}, "name = 7 cannot be: text is needed."),
    ({"train.meshes": {}}, "train.meshes cannot be: 1 to 12 of them can be given; these are 0."),
    ({"train.meshes": "two"}, "train.meshes = 'two' cannot be: named values are needed."),
    (
        {"train.meshes.stage1.driven": "gear9"},
        "train.meshes.stage1.driven = 'gear9' cannot be: there is no gear 'gear9'.",
    ),
    ({"train.input": "gear4"}, "train.meshes.stage1 cannot be: no power comes to this mesh."),
    (
        {"train.duty.T": 5.0, "train.duty.n": 3.0},
        "train.duty cannot be: two of power P, torque T and speed n must be given; this has 3 (P, T, n).",
    ),
    (
        {"train.duty.L_h": -1, GEAR + "z": "x"},
        "train.duty.L_h = -1 cannot be: it must be above 0. What works: above 0.",
    ),
]


def with_changes(changes):
    tree = demo("winch").plain(without={"survey"})
    for path, value in changes.items():
        *parents, last = path.split(".")
        node = tree
        for key in parents:
            node = node[int(key)] if key.isdigit() else node[key]
        node[last] = value
    return tree


@pytest.mark.parametrize(("changes", "text"), CASES, ids=lambda c: next(iter(c)) if isinstance(c, dict) else "")
def test_the_first_fault_is_told_with_its_place_and_what_works(changes, text):
    with pytest.raises(OutOfRange) as fault:
        Design.from_data(with_changes(changes))
    assert str(fault.value) == text


def test_what_is_missing_is_named():
    tree = with_changes({})
    del tree["train"]["gears"]["gear2"]["b"]
    with pytest.raises(OutOfRange, match=r"train\.gears\.gear2\.b = \(nothing\) cannot be: it is missing"):
        Design.from_data(tree)


def test_models_are_checked_where_they_are_made_and_whole_floats_are_whole_numbers():
    with pytest.raises(OutOfRange, match="the oil cannot be"):
        Duty.from_data({"P": 1.0}, whole="the oil")
    with pytest.raises(OutOfRange, match="L_h = -5 cannot be"):
        Duty(P=1.0, n=5.0, L_h=-5)
    made = Design.from_data(with_changes({GEAR + "z": 18.0, GEAR + "b": 30}))
    gear = made.train.stages[0].gears[0]
    assert (type(gear.z), type(gear.b)) == (int, float)
    assert made == copy.copy(made) == pickle.loads(pickle.dumps(made))


def test_what_is_not_known_stays_through_copies_comparison_and_processes():
    one = Duty.from_data({"P": 1.0, "n": 5.0, "colour": ["red", 2], "unknown": 1})
    assert one.plain()["colour"] == ["red", 2]
    assert one.plain()["unknown"] == 1
    assert one != Duty(P=1.0, n=5.0)
    assert one.replace_unchecked(n=6.0).plain()["colour"] == ["red", 2]
    assert pickle.loads(pickle.dumps(one)) == one
    assert len({one, Duty.from_data(one.plain())}) == 1
    with pytest.raises(OutOfRange, match="a finite number is needed"):
        Duty.from_data({"P": 1.0, "n": 5.0, "colour": [float("nan")]})

"""What a proposal keeps to when a person fixes something: given seats, small bores, and rings that can be pulled."""

import pytest

from cooper.demo import demo
from cooper.editing.edit import set_at, set_many
from cooper.editing.machine_edits import count_machine, in_machine
from cooper.machine.shaft_pieces import shut_in
from cooper.results.evaluate import evaluate
from cooper.results.parts_list import parts_list


def bare():
    return set_at(demo("winch"), "train.machine", None)


def shafts(design):
    return {s.key: s for s in evaluate(design).machine.shafts}


@pytest.mark.parametrize("d", [12.0, 15.0, 17.0, 20.0])
def test_a_bearing_has_the_bore_of_the_seat_that_was_given(d):
    """Also where none of that bore lives long enough: a check says so, no other bore is put on it."""
    fixed = (("shafts", "gear1", "pieces", "bearing 1", "d"), d)
    made = shafts(in_machine(bare(), fixed))["gear1"].made
    assert made.bearings[0].bearing.d == made.piece("bearing 1").d == d


@pytest.mark.parametrize("kind", ["key", "press fit", "two keys", "spline", "integral"])
def test_a_joint_that_was_chosen_stays(kind):
    made = shafts(in_machine(bare(), (("shafts", "gear2", "joints", "gear2", "kind"), kind)))["gear2"].made
    assert next(j for j in made.joints if j.gear == "gear2").kind == kind


@pytest.mark.parametrize("kind", ["deep groove ball", "cylindrical roller", "tapered roller", "spherical roller"])
def test_types_that_were_chosen_stay_and_no_other_pair_is_put_in_place_of_them(kind):
    of = [(("shafts", "gear4", "bearings", f"bearing {n}", "type"), kind) for n in (1, 2)]
    made = shafts(in_machine(bare(), *of))["gear4"].made
    assert {b.bearing.type for b in made.bearings} == {kind}


@pytest.mark.parametrize("bore", [14.0, 15.0, 16.0, 18.0, 22.0])
def test_a_pinion_of_any_bore_goes_onto_its_shaft_beside_the_end_with_its_seal(bore):
    d = count_machine(set_many(bare(), {"train.gears.gear1.d_bore": bore}))
    made = shafts(d)["gear1"].made
    joint = next(j for j in made.joints if j.gear == "gear1")
    assert joint.kind == "integral" or made.piece("seat gear1").d == bore
    assert joint.kind == "integral" or not shut_in(made.pieces, "seat gear1")
    assert made.piece("end left").d < made.piece("seal left").d <= made.piece("bearing 1").d


def test_what_is_shut_in_is_told_by_its_neighbours():
    made = shafts(count_machine(bare()))["gear2"].made
    assert not shut_in(made.pieces, "seat gear2")
    fixed = [(("shafts", "gear2", "pieces", p, "d"), 60.0) for p in ("gap 1", "collar")]
    closed = shafts(in_machine(bare(), *fixed))["gear2"].made
    assert shut_in(closed.pieces, "seat gear2")


def test_a_pinion_cut_into_its_shaft_has_no_row_of_its_own_and_its_mass_is_the_shafts():
    rows = {}
    for kind in ("integral", "key"):
        d = in_machine(bare(), (("shafts", "gear1", "joints", "gear1", "kind"), kind))
        r = evaluate(d)
        rows[kind] = {i.name: i for i in parts_list(d, r, r.machine)}
    assert "motor pinion" in rows["key"] and "motor pinion" not in rows["integral"]
    pinion = rows["key"]["motor pinion"].mass
    assert rows["integral"]["input shaft"].mass > rows["key"]["input shaft"].mass + 0.5 * pinion


def test_planets_are_counted_and_keys_of_one_size_stand_in_one_row():
    d = count_machine(set_at(demo("dome-drive"), "train.machine", None))
    r = evaluate(d)
    items = parts_list(d, r, r.machine)
    planet = next(i for i in items if "lanet" in i.name and not i.bought)
    assert planet.count == d.train.placed[0].planets
    names = [(i.name, i.designation) for i in items if i.bought]
    assert len(names) == len(set(names))


def test_the_lip_is_as_the_losses_have_it():
    d = count_machine(bare())
    for material in ("NBR", "FKM"):
        own = set_many(d, {"train.losses.seal": material})
        r = evaluate(own)
        rows = [i for i in parts_list(own, r, r.machine) if i.designation.startswith("ISO 6194")]
        assert rows and {i.material for i in rows} == {material} and r.machine.rules.seal == material

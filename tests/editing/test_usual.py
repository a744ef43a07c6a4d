"""What is usual, what differs from it, and what decides a check that is short."""

import pytest

from cooper.demo import DEMOS, demo
from cooper.editing.all_fields import all_fields
from cooper.editing.edit import set_many
from cooper.editing.usual import NONE_USUAL, back_to_usual, has_usual, is_usual, now_at, usual_at
from cooper.errors import OutOfRange
from cooper.results.deciding import behind, deciding
from cooper.results.evaluate import evaluate

GEAR = "train.gears.gear1"


@pytest.mark.parametrize(
    ("path", "usual"),
    [
        ("train.defaults.S_Hmin", 1.0),
        ("train.defaults.S_Fmin", 1.4),
        ("train.defaults.S_Hstmin", None),
        ("train.losses.k_h", 15.0),
        (f"{GEAR}.h_fP", 1.25),
        (f"{GEAR}.d_i", None),
        ("train.meshes.stage1.K_gamma", 1.0),
        ("train.machine.S_Dmin", 1.5),
    ],
)
def test_a_usual_value_is_the_default_of_its_field(path, usual):
    assert usual_at(demo("mirror-cover"), path) == usual


@pytest.mark.parametrize("path", ["train.duty.K_A", "train.duty.L_h", f"{GEAR}.z", f"{GEAR}.b", "train.duty.u_wanted"])
def test_what_every_design_states_has_no_usual_value(path):
    d = demo("winch")
    assert usual_at(d, path) is NONE_USUAL and not has_usual(d, path)
    assert back_to_usual(d, [path]) is d


def test_material_and_oil_bring_their_own():
    d = demo("mirror-cover")
    steel = set_many(d, {f"{GEAR}.material": {"group": "Eh", "grade": "MQ", "hardness": 650.0}})
    assert usual_at(steel, f"{GEAR}.material.hardness") == 700.0 and not is_usual(steel, f"{GEAR}.material.hardness")
    oil = {"name": "mineral ISO VG 320", "nu_40": 333.0, "nu_100": 24.0}
    thick = set_many(d, {f"train.defaults.lubricant.{k}": v for k, v in oil.items()})
    assert usual_at(thick, "train.defaults.lubricant.nu_40") == 320.0
    again = back_to_usual(thick, ["train.defaults.lubricant.nu_40"])
    assert again.train.defaults.lubricant.nu_40 == 320.0 and again.train.defaults.lubricant.nu_100 == 24.0


def test_usual_values_that_do_not_go_together_are_refused_with_the_reason():
    """The plastic teeth of the filter wheel need the area of the housing, which is usually not given."""
    with pytest.raises(OutOfRange, match="A_h"):
        back_to_usual(demo("filter-wheel"), ["train.losses.A_h"])


@pytest.mark.parametrize("name", [n for n in DEMOS if n != "filter-wheel"])
def test_back_to_the_usual_leaves_nothing_that_differs(name):
    d = demo(name)
    paths = [p.field.path for p in all_fields(d) if p.field.path and p.sheet in ("duty", "losses", "machine")]
    paths = [p for p in paths if has_usual(d, p)]
    back = back_to_usual(d, paths)
    assert all(is_usual(back, p) for p in paths)
    assert back_to_usual(back, paths) is back
    # Nothing else is touched.
    for place in all_fields(d):
        if place.field.path and place.field.path not in paths:
            assert now_at(back, place.field.path) == now_at(d, place.field.path)


def test_a_path_that_has_gone_counts_as_usual():
    d = demo("mirror-cover")
    assert is_usual(d, "train.gears.gear9.h_fP") and not has_usual(d, "train.sets.set3.planets")


@pytest.mark.parametrize(
    ("check", "inputs", "others"),
    [
        ("S_H", {"S_Hmin", "K_A", "hardness", "Rz_H", "N_L"}, {"S_Fmin", "t_g", "eps_alpha_min"}),
        ("S_F", {"S_Fmin", "K_A", "hardness", "rho_F"}, {"S_Hmin", "Z_E"}),
        ("eps_alpha", {"eps_alpha_min", "d_Na"}, {"K_A", "hardness"}),
        ("s_anE", {"s_an_min", "m_n", "d_a"}, {"K_A", "theta_oil"}),
    ],
)
def test_behind_a_check_stand_its_inputs_and_its_limit(check, inputs, others):
    assert inputs <= behind(check) and not others & behind(check)


def test_the_worse_verdict_decides_and_what_holds_decides_nothing():
    d = demo("mirror-cover")
    r = evaluate(d)
    marks = deciding(d.train, r)
    stage = d.train.stages[0].id
    assert marks[stage, "S_Hmin"] == marks["", "S_Hmin"] == "short"
    assert marks[stage, "S_Fmin"] == "thin", "the root is thin while the flank is short"
    assert marks[stage, "K_A"] == "short", "it is behind both"
    easy = set_many(d, {"train.defaults.S_Hmin": 0.5, "train.defaults.S_Fmin": 0.6})
    assert (stage, "K_A") not in deciding(easy.train, evaluate(easy))

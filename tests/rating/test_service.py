"""Load spectra, static strength and mean stress: against the plain rating, the Haigh line and hand counts."""

import numpy as np
import pytest

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.editing.spectrum_text import levels_text, read_levels, with_shape
from cooper.errors import OutOfRange
from cooper.rating.iso6336.life import cycles_to, life_factor, strength_curve
from cooper.rating.iso6336.root_stress import mean_stress_factor
from cooper.rating.iso6336.spectrum import SHAPES, damage, equivalent_safety, standard_levels
from cooper.results.evaluate import evaluate
from makers import pair

CORNERS = [[1e5, 2.236068e6, 5e7], [1.6, 1.2649111, 1.0]]
WHEEL = "train.gears.gear2."


@pytest.mark.parametrize("hours", [0.01, 3.0, 400.0, 1e5])
@pytest.mark.parametrize(
    "change",
    [
        {},
        {WHEEL + "material": {"group": "POM", "grade": "typical", "hardness": 80}},
        {"train.defaults.pitting_allowed": True},
        {"train.defaults.NT_1e10": 1.0},
    ],
)
def test_a_spectrum_of_one_level_is_the_plain_rating_at_every_life(hours, change):
    d = set_many(pair(K_A=1.35), {"train.duty.L_h": hours, **change})
    plain = evaluate(d).stages[0]
    one = evaluate(set_many(d, {"train.duty.spectrum": [{"T_rel": 1.35, "q_t": 7.0}]})).stages[0]
    for a, b in zip(plain.gears, one.gears, strict=True):
        for s in "HF":
            if a["N_L"] < 1e4 and a["density"] < 2000:
                # A plastic's strength begins at 1e4 cycles; with fewer the spectrum asks for that strength too.
                assert b[f"S_{s}eq"] == pytest.approx(a[f"S_{s}"], rel=1e-6)
            elif a[f"S_{s}"] * 0 == 0 and not (change.get("train.defaults.NT_1e10") == 1.0 and hours == 1e5):
                assert b[f"S_{s}eq"] == pytest.approx(a[f"S_{s}"], rel=1e-9), (s, hours)


def test_splitting_a_level_changes_nothing_and_idle_time_only_dilutes():
    base = set_many(demo("winch"), {"train.duty.L_h": 2000.0})

    def eq(levels):
        g = evaluate(set_many(base, {"train.duty.spectrum": levels})).stages[0].gears[0]
        return np.array([g["S_Heq"], g["S_Feq"], g["D_H"]])

    whole = eq([{"T_rel": 1.5, "q_t": 1.0}, {"T_rel": 0.7, "q_t": 3.0}])
    parts = eq(
        [
            {"T_rel": 0.7, "q_t": 20.0},
            {"T_rel": 1.5, "q_t": 6.0},
            {"T_rel": 0.7, "q_t": 10.0},
            {"T_rel": 1.5, "q_t": 4.0},
        ]
    )
    assert parts == pytest.approx(whole, rel=1e-9)
    idle = eq([{"T_rel": 1.5, "q_t": 1.0}, {"T_rel": 0.7, "q_t": 3.0}, {"T_rel": 0.0, "q_t": 4.0}])
    assert idle[2] == pytest.approx(whole[2] / 2, rel=1e-9)
    assert np.all(idle[:2] >= whole[:2])
    higher = eq([{"T_rel": 1.6, "q_t": 1.0}, {"T_rel": 0.7, "q_t": 3.0}])
    assert np.all(higher[:2] < whole[:2])
    assert np.isclose(
        evaluate(set_many(base, {"train.duty.spectrum": [{"T_rel": 0.0, "q_t": 1.0}]})).checks[0].value, 1e6
    )


def test_the_curve_and_its_inverse_agree_with_the_life_factor():
    curve = strength_curve(1600.0, 1000.0, CORNERS, 0.85)
    for n in (1e5, 3e5, 2.236068e6, 1e7, 5e7, 1e9, 1e11):
        stress = 1000.0 * float(life_factor(n, CORNERS, 0.85))
        assert float(cycles_to(stress, curve)) == pytest.approx(n, rel=1e-6)
    level = strength_curve(1600.0, 1000.0, CORNERS, 1.0)
    assert float(cycles_to(1000.0, level)) >= 5e7
    assert np.isinf(cycles_to(999.0, level))
    assert float(cycles_to(1600.1, curve)) == 0


def test_damage_is_counted_by_hand_and_safety_makes_it_one():
    def life(s):
        return 1e6 * (200.0 / s) ** 5

    stress, cycles = np.array([[300.0, 150.0], [100.0, 50.0]]), np.array([[1e4, 1e4], [1e6, 1e6]])
    by_hand = cycles / (1e6 * (200.0 / stress) ** 5)
    assert damage(stress, cycles, life) == pytest.approx(by_hand)
    # A power law without corners: all stresses times S multiply the damage by S^5.
    assert equivalent_safety(stress, cycles, life) == pytest.approx(by_hand.sum(axis=0) ** -0.2, rel=1e-9)


def test_mean_stress_follows_the_haigh_line():
    """Amplitude falls by M per mean stress; pulsating strength is where both are equal."""
    for M in (0.1, 0.4, 0.7):
        pulsating = 2 / (1 + M)
        for R in (-1.2, -0.5, 0.0):
            amplitude = np.linspace(0, 1.2, 400001)
            mean = amplitude * (1 + R) / (1 - R)
            allowed = amplitude[amplitude + M * mean <= 1][-1]
            top = allowed * 2 / (1 - R)
            assert float(mean_stress_factor(R, M)) == pytest.approx(top / pulsating, rel=1e-5)
    both = evaluate(set_many(pair(), {WHEEL + "bending": "both ways"})).stages[0].gears
    one = evaluate(pair()).stages[0].gears
    assert both[1]["S_F"] / one[1]["S_F"] == pytest.approx(both[1]["Y_M"])
    assert both[0]["S_F"] == one[0]["S_F"]


def test_static_strength_is_that_of_a_life_without_fatigue_under_the_greatest_load():
    d = set_many(pair(K_A=1.2), {"train.duty.K_AP": 2.4, WHEEL + "material": {"group": "V", "hardness": 260}})
    s = evaluate(d).stages[0]
    short = evaluate(set_many(d, {"train.duty.L_h": 1e-3})).stages[0]
    for a, b in zip(s.gears, short.gears, strict=True):
        assert a["S_Fst"] == pytest.approx(b["S_F"] / 2, rel=1e-9)
        assert a["S_Hst"] == pytest.approx(b["S_H"] / np.sqrt(2), rel=1e-9)


@pytest.mark.parametrize("shape", list(SHAPES))
def test_standard_shapes_are_whole_fall_and_are_taken_with_k_a_on_top(shape):
    levels = standard_levels(shape, 0.25)
    loads, shares = np.array(levels).T
    assert shares.sum() == pytest.approx(1)
    assert loads[0] == 1
    assert np.all(np.diff(loads) < 0)
    assert loads[-1] > 0.25
    full = np.array(standard_levels("full", 0.25))
    assert (loads**8 * shares).sum() <= (full[:, 0] ** 8 * full[:, 1]).sum() + 1e-12
    d = with_shape(demo("winch"), shape, 0.25)
    assert d.train.duty.spectrum[0].T_rel == pytest.approx(1.35)
    g = evaluate(d).stages[0].gears[0]
    # Never worse than the greatest load all the time, never better than if only static strength counted.
    assert evaluate(demo("winch")).stages[0].gears[0]["S_H"] <= g["S_Heq"] * (1 + 1e-9)


def test_spectra_are_read_from_a_clipboard_and_nonsense_is_named_by_its_line():
    levels = read_levels("torque\tshare\n120\t0,5\n80\t30\t50\n")
    assert [(v.T_rel, v.q_t, v.n_rel) for v in levels] == [(1.2, 0.5, 1.0), (0.8, 30.0, 0.5)]
    assert read_levels(levels_text(tuple(levels))) == levels
    assert read_levels("100, 1\n50 2 100")[1].q_t == 2
    for text, place in (
        ("1\n", "line 1"),
        ("100 1\nabc 2", "line 2"),
        ("100 1\n-5 2", "line 2"),
        ("", "spectrum"),
        ("100 0", "line 1"),
        ("100 1 2 3", "line 1"),
        ("1e400 1", "line 1"),
        ("nan 1", "line 1"),
    ):
        with pytest.raises(OutOfRange) as fault:
            read_levels(text)
        assert fault.value.quantity == place


HARDENED = {
    f"train.gears.gear{i + 1}.{k}": v
    for i in (0, 1)
    for k, v in {"material": {"group": "Eh", "hardness": 700}, "CHD": 0.8, "HV_core": 330.0}.items()
}


@pytest.mark.parametrize("steady", [4200.0, 20e3])
def test_a_level_of_three_times_the_torque_is_the_pair_under_that_torque(steady):
    """Scuffing, static strength, micropitting and flank fracture of a spectrum are those of its worst level, rated
    alone."""
    d = set_many(pair(P=steady, K_A=1.0), {**HARDENED, "train.defaults.lubricant.S_GF": 10})
    levels = [{"T_rel": 1.0, "q_t": 98.0}, {"T_rel": 3.0, "q_t": 1.0}, {"T_rel": 0.0, "q_t": 1.0}]
    under = evaluate(set_many(d, {"train.duty.spectrum": levels})).stages[0]
    alone = evaluate(set_many(d, {"train.duty.P": 3 * steady})).stages[0]
    least = {"S_B", "S_int", "S_lambda"}
    result = {k: (float(under.mesh[k]), float(alone.mesh[k])) for k in least if k in alone.mesh}
    assert set(result) == least
    for k, i in ((k, i) for i in (0, 1) for k in ("S_FF", "S_Hst", "S_Fst")):
        if k in alone.gears[i]:
            result[f"{k}{i}"] = (float(under.gears[i][k]), float(alone.gears[i][k]))
    assert {"S_FF0", "S_FF1", "S_Hst0", "S_Fst1"} <= set(result)
    assert all(a == pytest.approx(b, rel=1e-9) for a, b in result.values()), result

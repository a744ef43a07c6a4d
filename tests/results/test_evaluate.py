"""The one entrance to the numbers: solving, refusals, arrays, properties over random designs."""

import json
from math import isfinite

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec import Struct

from cooper.demo import demo
from cooper.editing.edit import give_shift, give_size, set_at, set_many, shifts_now
from cooper.editing.levers import levers
from cooper.editing.ranges import each_range, trials_of
from cooper.errors import OutOfRange
from cooper.gears.outline import one_tooth
from cooper.results.evaluate import evaluate
from cooper.results.pair_numbers import pair_numbers
from cooper.results.solve_stage import solve_duty, solve_stage
from cooper.results.to_core import pair_input
from cooper.results.why import product, why
from makers import pair


def test_each_of_shifts_and_centre_distance_solves_back_to_the_others():
    base = pair()
    r = evaluate(base)
    now = shifts_now(r.stages[0])
    for freed in ("x_1", "x_2", "a_w"):
        kept = next(n for n in now if n != freed)
        again = evaluate(give_shift(base, 0, kept, now[kept], freed, now))
        assert freed in again.stages[0].solved
        for name, value in shifts_now(again.stages[0]).items():
            assert value == pytest.approx(now[name], abs=1e-9)


@pytest.mark.parametrize("pitch", [0.21, 0.2539])
def test_a_pitch_whose_module_is_beyond_all_is_refused_by_its_own_name(pitch):
    mesh = {"train.meshes.stage1.m_n": None, "train.meshes.stage1.P_nd": pitch}
    with pytest.raises(OutOfRange, match="module would be 1") as text:
        evaluate(set_many(demo(), mesh))
    assert text.value.quantity == "P_nd" and text.value.low == pytest.approx(0.254)


def test_module_pitch_and_reference_diameters_are_one_size():
    base = pair()
    safety = evaluate(base).stages[0].gears[0]["S_F"]
    for name, value in (("P_nd", 25.4 / 2.5), ("d_1", 42.5), ("d_2", 102.5)):
        r = evaluate(give_size(base, 0, name, value))
        assert r.stages[0].mesh["m_n"] == pytest.approx(2.5, rel=1e-12)
        assert r.stages[0].gears[0]["S_F"] == pytest.approx(safety, rel=1e-9)


def test_any_two_of_power_torque_and_speed_give_the_third():
    base = evaluate(pair(P=3000.0, n=900.0)).train
    for T, P, n in ((base["T_in"], 3000.0, None), (base["T_in"], None, 900.0)):
        r = evaluate(set_many(pair(), {"train.duty.T": T, "train.duty.P": P, "train.duty.n": n})).train
        assert r["P_in"] == pytest.approx(3000.0)
        assert r["n_in"] == pytest.approx(900.0)


@pytest.mark.parametrize(
    ("path", "value", "quantity", "inside"),
    [
        ("gear1.rho_fP", 0.6, "rho_fP1", 0.45),
        ("gear1.h_fP", 1.9, "rho_fP1", None),
        ("gear1.x", 2.5, "x_1", 0.5),
        ("gear2.d_a", 140.0, "d_a2", 108.0),
        ("gear1.d_bore", 38.0, "d_bore1", 20.0),
        ("gear1.d_bore", 36.5, "d_bore1", 20.0),
        ("gear2.d_a", 96.0, "d_a2", 108.0),
        ("gear2.material.hardness", 900.0, "hardness_2", 300.0),
    ],
)
def test_what_cannot_be_is_refused_with_value_reason_and_a_range_that_works(path, value, quantity, inside):
    base = pair()
    with pytest.raises(OutOfRange) as caught:
        evaluate(set_at(base, f"train.gears.{path}", value))
    fault = caught.value
    assert fault.quantity == quantity
    assert len(fault.reason) > 20
    assert fault.range_text()
    if inside is not None:
        assert (fault.low is None or fault.low <= inside) and (fault.high is None or inside <= fault.high)
        nearest = fault.nearest()
        assert nearest is not None
        evaluate(set_at(base, f"train.gears.{path}", nearest * (1 - 1e-6 * np.sign(value - nearest))))


def test_a_centre_distance_that_no_shift_can_reach_names_what_can():
    base = pair()
    now = shifts_now(evaluate(base).stages[0])
    with pytest.raises(OutOfRange) as caught:
        evaluate(give_shift(base, 0, "a_w", 60.0, "x_2", now))
    assert caught.value.quantity == "a_w"
    assert 60 < caught.value.low < 73.5 < caught.value.high


def test_a_ring_whose_cutter_fails_at_the_nominal_shift_alone_is_refused():
    d = set_many(demo("dome-drive"), {"train.meshes.stage1.beta": 17.0, "train.gears.gear2.x": -0.8017364501953126})
    with pytest.raises(OutOfRange, match="cutter cannot generate"):
        evaluate(d)


def test_working_range_found_by_trying_ends_where_evaluation_does():
    base = pair()
    *first, works = trials_of(lambda v: set_at(base, "train.gears.gear1.x", v))
    *_, (low, high) = each_range((*first, works), 0.32, -3.0, 3.0)
    *_, alone = each_range((works,), 0.32, -3.0, 3.0)
    assert alone == (low, high)
    assert works(low)
    assert works(high)
    assert not works(low - 1e-3)
    assert not works(high + 1e-3)


def test_the_core_rates_arrays_exactly_as_one_by_one():
    base = pair()
    designs, inputs = [], []
    for z1, x1, b, hours in ((17, 0.32, 20.0, 10.0), (9, 0.1, 30.0, 1e4), (40, -0.2, 12.0, 1e5)):
        d = set_many(
            base,
            {
                "train.gears.gear1.z": z1,
                "train.gears.gear1.x": x1,
                "train.gears.gear1.b": b,
                "train.duty.L_h": hours,
            },
        )
        designs.append(d)
        stage = d.train.stages[0]
        _P, T, omega = solve_duty(d.train.duty)
        inputs.append(pair_input(stage, solve_stage(stage), d.train.duty, d.train.defaults, T, omega))

    def stack(items):
        first = items[0]
        if first is None:
            return None
        if isinstance(first, Struct):
            return type(first)(**{f: stack([getattr(i, f) for i in items]) for f in first.__struct_fields__})
        if isinstance(first, tuple):
            return tuple(stack([i[k] for i in items]) for k in range(len(first)))
        return np.stack([np.asarray(i) for i in items], axis=-1)

    with np.errstate(all="ignore"):
        together = pair_numbers(stack(inputs))
        for k, one in enumerate(inputs):
            alone = pair_numbers(one)
            for i in (0, 1):
                for symbol, value in alone.gears[i].items():
                    assert np.broadcast_to(together.gears[i][symbol], (3,))[k] == pytest.approx(
                        float(value), rel=1e-12
                    ), symbol


@settings(max_examples=150, deadline=None, suppress_health_check=list(HealthCheck))
@given(
    z1=st.integers(4, 150),
    z2=st.integers(4, 400),
    x1=st.floats(-3, 3),
    x2=st.floats(-3, 3),
    m=st.floats(0.02, 100),
    alpha=st.floats(10, 35),
    h_f=st.floats(0.5, 2),
    rho=st.floats(0, 0.8),
    b=st.floats(1e-3, 5000),
    P=st.floats(1e-9, 1e9),
    n=st.floats(1e-6, 1e6),
    hours=st.floats(1e-9, 1e7),
    bore=st.floats(0, 1e5),
)
def test_any_input_gives_finite_numbers_or_a_refusal_in_words(z1, z2, x1, x2, m, alpha, h_f, rho, b, P, n, hours, bore):
    gear = "train.gears.gear1."
    try:
        design = set_many(
            pair(z1, z2, x1, x2, m, P, n, L_h=hours),
            {
                gear + "h_fP": h_f,
                gear + "rho_fP": rho,
                gear + "b": b,
                gear + "d_bore": bore,
                "train.meshes.stage1.alpha_n": alpha,
            },
        )
        results = evaluate(design)
    except OutOfRange as fault:
        if fault.reason:
            return
        raise
    text = json.dumps(results.as_tree(), allow_nan=False)
    assert "NaN" not in text
    for tooth in results.stages[0].teeth:
        assert np.all(np.isfinite(one_tooth(tooth, 0.01 * m)))
    assert all(isfinite(c.margin) for c in results.checks)


def test_factor_chains_multiply_out_to_the_stresses_they_explain():
    r = evaluate(demo())
    seen = set()
    for check in [
        *r.checks,
        *evaluate(set_many(demo("winch"), {"train.defaults.method": "ANSI/AGMA 2101-D04"})).checks_of(0),
    ]:
        by_agma = check.symbol.endswith("A")
        chain = (
            why((evaluate(demo("winch")) if by_agma else r).stages[0], check) if by_agma or check in r.checks else None
        )
        if chain is None:
            continue
        seen.add(check.symbol)
        for side in (chain.acting, chain.bearing):
            assert product(side) == pytest.approx(side[-1].value, rel=1e-12)
        assert chain.bearing[-1].value / chain.acting[-1].value == pytest.approx(check.value, rel=1e-12)
        if not check.symbol.endswith("st"):
            assert {s.symbol for s in chain.acting if s.entered} >= {"K_A", "K_gamma"}


def test_levers_bring_the_demo_to_its_target_and_a_little_less_would_not():
    design = demo()
    r = evaluate(design)
    worst = r.checks_of(0)[0]
    assert worst.verdict == "short"
    result = levers(design, r, worst)
    width = result[0]
    assert [lever.label for lever in result] == [
        "face width",
        "module",
        "material",
        "hardness",
        "profile shift",
        "helix angle",
        "flank class",
        "oil",
        "power at the input",
        "life",
    ]
    for lever in result:
        assert (lever.design is None) == bool(lever.cannot), lever.label
        if lever.design is not None:
            assert evaluate(lever.design).check(worst.key).margin >= 0, lever.label
    assert sum(lever.design is not None for lever in result) >= 5
    power, hours = result[-2:]
    for lever, path in ((power, "train.duty.P"), (hours, "train.duty.L_h")):
        more = set_many(design, {path: lever.shown * 1.02})
        assert evaluate(more).check(worst.key).margin < 0, "the greatest that holds"
    less = set_many(
        design,
        {
            f"train.gears.gear{i + 1}.b": lever_b - 0.2
            for i, lever_b in enumerate(g.b for g in width.design.train.stages[0].gears)
        },
    )
    assert evaluate(less).check(worst.key).margin < 0


def test_a_fixed_centre_distance_makes_the_module_lever_say_so():
    base = demo()
    now = shifts_now(evaluate(base).stages[0])
    fixed = give_shift(base, 0, "a_w", 36.8, "x_2", now)
    r = evaluate(fixed)
    module = levers(fixed, r, r.checks_of(0)[0])[1]
    assert module.design is None
    assert "36.8" in module.cannot


def test_undercut_and_estimates_are_said_in_the_notes():
    notes = [n.text for n in evaluate(pair(z1=10, x1=0.0)).notes]
    assert any("undercuts" in t and "0.415" in t and "18 teeth" in t for t in notes)
    assert any("estimated from hardness" in t for t in notes)
    assert any("K_Hbeta" in t and "entered" in t for t in notes)


def test_friction_beyond_its_formula_is_refused_and_not_turned_into_negative_power():
    crawl = set_many(
        pair(),
        {"train.duty.n": 1e-5, "train.duty.P": None, "train.duty.T": 5000.0, "train.defaults.lubricant.X_L": 2.0},
    )
    with pytest.raises(OutOfRange, match="lose all") as fault:
        evaluate(crawl)
    assert fault.value.value > fault.value.high > 0


def test_a_stage_states_its_own_in_place_of_the_trains_defaults():
    base = demo("winch")
    r = evaluate(base)
    own = evaluate(
        set_many(
            base,
            {
                "train.meshes.stage2.own.S_Fmin": 3.0,
                "train.meshes.stage2.own.L_h": 10.0,
                "train.meshes.stage2.own.theta_oil": 60.0,
                "train.meshes.stage2.own.method": "ANSI/AGMA 2101-D04",
            },
        )
    )
    assert own.check("stage1.S_F1") == r.check("stage1.S_F1")
    assert own.check("stage2.S_FA1").limit == 3.0
    assert own.check("stage2.S_F1") is None
    assert own.stages[1].gears[0]["N_L"] == pytest.approx(r.stages[1].gears[0]["N_L"] / 300)
    assert (
        own.stages[1].mesh["nu_oil"]
        < r.stages[1].mesh["nu_oil"]
        == r.stages[0].mesh["nu_oil"]
        == own.stages[0].mesh["nu_oil"]
    )
    assert any(n.stage == 1 and "Of its own" in n.text for n in own.notes)

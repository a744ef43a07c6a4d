"""Losses: energy balance, friction laws against each other, oil temperature by balance, both directions of power."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.demo import DEMOS, demo
from cooper.editing.edit import set_many
from cooper.editing.levers import levers
from cooper.editing.machine_edits import count_machine
from cooper.errors import OutOfRange
from cooper.gears.inputs import FRICTIONS
from cooper.results.evaluate import evaluate
from cooper.results.pair_numbers import loss_numbers, pair_numbers
from cooper.results.power_flow import pair_now, stages_of
from cooper.results.set_flow import solve_set
from cooper.results.train_losses import (
    efficiency_curves,
    heat_balance,
    pin_forces,
    planet_bearings,
    shaft_bores,
    train_losses,
    varied,
)
from cooper.running.friction import loss_along_path, loss_factor_1
from makers import pair, planet_set

ALL = {"train.machine": None, "train.losses.counted": "all", "train.losses.h_e": 10.0}


@pytest.mark.parametrize("name", list(DEMOS))
@pytest.mark.parametrize("method", FRICTIONS[:2])
def test_power_in_less_all_losses_is_power_out(name, method):
    d = set_many(demo(name), {**ALL, "train.losses.method": method})
    r = evaluate(d)
    v = r.train
    assert v["P_V"] == pytest.approx(v["P_Vz"] + v["P_V0"] + v["P_VL"] + v["P_VD"], rel=1e-12)
    # A train that would lose more than it is given stands still.
    assert v["P_out"] == pytest.approx(max(v["P_in"] - v["P_V"], 0.0), rel=1e-12)
    if "T_out" in v:
        assert v["T_out"] * v["n_out"] * np.pi / 30 == pytest.approx(v["P_out"], rel=1e-9)
    else:
        assert v["F_out"] * v["v_out"] == pytest.approx(v["P_out"], rel=1e-9)
    assert v["P_Vz"] == pytest.approx(sum(s.mesh["P_VZ"] for s in r.stages), rel=1e-6)
    assert 0 <= v["eta_back"] < 1
    mesh_only = evaluate(set_many(d, {"train.losses.counted": "mesh"})).train
    assert mesh_only["eta"] > v["eta"]


def test_a_train_that_loses_more_than_comes_in_is_said_to_stand_still():
    d = set_many(demo("winch"), {**ALL, "train.duty.P": 5.0, "train.gears.gear1.d_s": 30.0})
    r = evaluate(d)
    assert r.train["eta_all"] < 0 == r.train["eta"] == r.train["P_out"] == r.train["T_out"]
    assert any("does not turn" in n.text for n in r.notes)


@pytest.mark.parametrize(
    ("kind", "z"), [("planetary", (24, 30, 84)), ("stepped", (21, 30, 24, 75)), ("two rings", (18, 54, 17, 53))]
)
def test_planets_bear_the_carriers_torque_on_their_pins(kind, z):
    d = set_many(planet_set(kind=kind, z=z), {"train.losses.counted": "all"})
    lost = stages_of(d.train)
    one = d.train.placed[0]
    across, along = pin_forces(one, lost)
    assert float(along) >= 0
    free = solve_set(one, d.train.stages, evaluate(d).train["T_in"], 1.0)
    a_w = evaluate(d).stages[0].mesh["a_w"]
    assert one.planets * float(across) * a_w / 1000 == pytest.approx(
        abs(free.torque_of("carrier")), rel=0.01 if kind == "two rings" else 1e-9
    )
    # Bearings of given bore: a larger one loses more, a planet at rest on its carrier nothing.
    wide = set_many(d, {f"train.gears.gear{1 if kind == 'two rings' else 2}.d_s": 30.0})
    assert evaluate(wide).train["P_VL"] > evaluate(d).train["P_VL"] > float(planet_bearings(d.train, lost)) > 0


@pytest.mark.parametrize("beta", [0.0, 15.0])
@pytest.mark.parametrize("z2", [41, -61])
def test_integrated_friction_is_torque_times_speed_and_the_closed_forms_agree(z2, beta):
    """Summing friction force times sliding speed over one pitch of rolling, pair by pair, against all three laws'
    loss."""
    if z2 < 0 and beta:
        return
    d = set_many(pair(19, 41, 0.2, 0.1), {"train.meshes.stage1.beta": beta}) if z2 > 0 else demo("dome-ring")
    d = set_many(d, {"train.losses.friction": "along the path"})
    s = evaluate(d).stages[0]
    m, omega = s.mesh, s.power["n_in"] * np.pi / 30
    path = tuple(np.asarray(m[f"g_{p}"]) for p in "ABCDE")
    P, mu = loss_along_path(path, s.T2, s.ratio, omega, m["F_bt"], m["b_H"], m["eta_oil"])
    # The law of the report, with this mean coefficient: the same loss.
    T_law = evaluate(set_many(d, {"train.losses.friction": FRICTIONS[0]})).stages[0].mesh
    closed = float(mu) * T_law["H_V"] * s.power["P_in"] * np.cos(np.radians(m["beta_b"]))
    assert float(P) == pytest.approx(closed, rel=1e-6)
    assert m["P_VZ"] == pytest.approx(float(P) / np.cos(np.radians(m["beta_b"])), rel=1e-9)
    # 1/M: mean sliding over the whole path with an even load.
    g = np.linspace(m["g_A"], m["g_E"], 100001)
    v_w = s.gears[0]["d_w"] / 2 * omega
    slide = np.abs(g * omega - (s.T2 - g) * omega / s.ratio) / v_w
    even = np.mean(slide) / np.cos(np.radians(m["alpha_wt"]))
    assert float(loss_factor_1(slide[0], slide[-1], np.radians(m["alpha_wt"]))) == pytest.approx(even, rel=1e-4)


def test_oil_temperature_by_balance_gives_off_what_is_lost_and_a_small_housing_is_refused():
    d = set_many(demo("winch"), {**ALL, "train.losses.A_h": 0.12, "train.losses.theta_air": 25.0})
    theta = evaluate(d).train["theta_bal"]
    warm = set_many(d, {"train.duty.theta_oil": theta})
    v = evaluate(warm).train
    assert v["P_V"] == pytest.approx(15.0 * 0.12 * (theta - 25.0), rel=3e-6)
    taken = evaluate(set_many(d, {"train.losses.oil_by_balance": True})).train
    assert taken["theta_oil"] == pytest.approx(theta, abs=0.02)
    assert taken["P_V"] == pytest.approx(v["P_V"], rel=2e-3)
    bigger = evaluate(set_many(d, {"train.losses.A_h": 0.3})).train["theta_bal"]
    assert 25 < bigger < theta
    hot = set_many(
        demo("winch"),
        {
            **ALL,
            "train.duty.P": 40000.0,
            "train.losses.A_h": 0.0005,
            "train.losses.theta_air": 25.0,
            "train.losses.oil_by_balance": True,
        },
    )
    with pytest.raises(OutOfRange) as fault:
        evaluate(hot)
    assert fault.value.quantity == "A_h"
    fits = set_many(hot, {"train.losses.A_h": fault.value.low})
    assert evaluate(fits).train["theta_bal"] < 110
    with pytest.raises(OutOfRange):
        set_many(demo(), {"train.losses.oil_by_balance": True})


def test_oil_that_gets_hotter_than_it_may_fails_a_check():
    d = set_many(demo("winch"), {**ALL, "train.losses.A_h": 0.12, "train.losses.theta_air": 25.0})

    def checked(**losses):
        r = evaluate(set_many(d, {f"train.losses.{k}": v for k, v in losses.items()}))
        return r, next((c for c in r.checks if c.symbol == "theta_bal"), None)

    r, none = checked()
    theta = r.train["theta_bal"]
    assert none is None
    _, holds = checked(theta_max=theta + 10)
    assert holds.value == theta and holds.margin == pytest.approx(10 / (theta + 10 - 25))
    assert checked(theta_max=theta - 1)[1].verdict == "short"
    assert checked(theta_max=90.0, A_h=0.001)[1].value == 250
    for counted in (False, True):
        hot = set_many(d, {"train.losses.theta_max": theta - 6, "train.losses.h_e": 40.0})
        hot = count_machine(hot) if counted else set_many(hot, {"train.machine": None})
        r = evaluate(hot)
        ways = levers(hot, r, r.check("train.theta_bal"))
        assert [way.label for way in ways] == ["area of the housing", "oil", "depth of the oil", "power at the input"]
        reached = [way for way in ways if way.results is not None]
        assert {"area of the housing", "power at the input"} <= {way.label for way in reached}
        for way in reached:
            assert 0 <= way.results.check("train.theta_bal").margin < 0.05, (way.label, counted)
    with pytest.raises(OutOfRange, match="no heat to air"):
        checked(theta_max=20.0)
    alone, none = checked(theta_max=90.0, counted="mesh")
    assert none is None
    assert any("not checked against theta_max" in n.text and n.prominent for n in alone.notes)


def test_curves_pass_through_the_duty_and_free_losses_eat_light_loads():
    d = set_many(demo("winch"), ALL)
    lost = stages_of(d.train)
    curves = efficiency_curves(d.train, lost)
    assert curves.over_load[0][0] < curves.over_load[0][-1]
    assert curves.over_load[1][0] < 0.9
    at = {k: float(v) for k, v in train_losses(d.train, varied(d.train, lost, load=1.0)).items()}
    assert at["eta_all"] == pytest.approx(evaluate(d).train["eta"], rel=1e-9)
    # One call with arrays is many single ones.
    loads = np.array([0.2, 0.7, 1.3])
    together = train_losses(d.train, varied(d.train, lost, load=loads))
    for k, load in enumerate(loads):
        alone = train_losses(d.train, varied(d.train, lost, load=float(load)))
        for key in alone:
            assert together[key][k] == pytest.approx(float(alone[key]), rel=1e-12), key
    assert heat_balance(set_many(d, {"train.losses.A_h": 1.0}).train, lost) > 5


def test_bores_follow_the_torque_and_a_given_one_is_taken():
    d = set_many(demo("winch"), ALL)
    bores = [float(b) for b in shaft_bores(d.train, stages_of(d.train)).values()]
    assert len(bores) == 3
    assert (bores[2] / bores[0]) ** 3 == pytest.approx(evaluate(d).train["u"], rel=1e-9)
    stress = 16000 * evaluate(d).train["T_in"] * 1.35 / (np.pi * bores[0] ** 3)
    assert stress == pytest.approx(15.0, rel=1e-9)
    given = set_many(d, {"train.gears.gear3.d_s": 33.0})
    assert [float(b) for b in shaft_bores(given.train, stages_of(given.train)).values()][1] == 33.0
    free = evaluate(set_many(d, {"train.losses.seals": 0, "train.losses.h_e": 0.0})).train
    assert free["P_VD"] == free["P_V0"] == 0


@pytest.mark.parametrize("law", ["ISO/TR 14179-2", "ISO/TR 14179-1", "along the path"])
@pytest.mark.parametrize("name", ["winch", "dome-drive"])
def test_losses_at_other_loads_speeds_and_oils_are_those_of_the_train_rated_there(name, law):
    """`varied` finds only what changes; the second way rates every pair anew."""
    train = set_many(demo(name), {"train.losses.friction": law, "train.losses.counted": "all"}).train
    lost = stages_of(train)
    for load, speed, theta in ((1.0, 1.0, 95.0), (0.4, 1.0, None), (1.0, 1.7, None), (1.3, 0.6, 40.0)):
        at = None if theta is None else np.array(theta)
        result = varied(train, lost, load=np.array(load), speed=np.array(speed), theta=at)
        relative = load
        for (p, n), (_q, m) in zip(lost, result, strict=True):
            warm = p.theta_oil if theta is None else theta
            anew = pair_numbers(replace(p, T_1=p.T_1 * relative, omega_1=p.omega_1 * speed, theta_oil=warm))
            for symbol in ("P_VZ", "eta_z", "mu_mz", "F_t", "F_r", "F_a", "F_bt", "v"):
                assert m.mesh[symbol] == pytest.approx(anew.mesh[symbol], rel=1e-12), symbol
            relative = relative * float(anew.mesh.eta_z / n.mesh.eta_z)


def test_what_a_pair_loses_is_found_alone_as_with_all_else():
    for name in DEMOS:
        train, results = demo(name).train, evaluate(demo(name))
        for k in range(len(train.stages)):
            pair = pair_now(train, results, k)
            with np.errstate(all="ignore"):
                whole, alone = pair_numbers(pair), loss_numbers(pair)
            for values, of in ((alone.mesh, whole.mesh), *zip(alone.gears, whole.gears, strict=True)):
                assert set(values) <= set(of)
                for symbol in values:
                    np.testing.assert_array_equal(values[symbol], of[symbol], err_msg=f"{name} {k} {symbol}")
            assert "eta_z" in alone.mesh
            assert "S_F" not in alone.gears[0]

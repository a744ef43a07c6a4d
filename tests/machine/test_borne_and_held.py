"""What bearings, pins and joints really bear: overturned planets, thrust and who takes it, pressure points, hollow
shafts, splines, ratings of the smallest."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.document.machine_data import BearingData
from cooper.document.store import design_text, read_design
from cooper.editing.edit import set_many
from cooper.editing.machine_edits import count_machine, in_machine, refuse_unbuildable
from cooper.editing.machine_fields import rating_field
from cooper.errors import OutOfRange
from cooper.machine import bearing_loads
from cooper.machine.check_bearing import ratings
from cooper.machine.check_joint import check_joint
from cooper.machine.check_shaft import check_shaft
from cooper.machine.hub_joints import press_fit
from cooper.machine.planet_pin import PinLoad, propose_pin
from cooper.machine.propose_joint import joint_of
from cooper.machine.propose_shaft import propose_shaft
from cooper.machine.shaft_beam import cores_of, nodes_of, notches_of
from cooper.machine.shaft_model import BearingGiven, Borne, JointGiven, Rules
from cooper.results.evaluate import evaluate
from cooper.stock.rolling import bearing_of, bearings_of, rolling_types, series_of
from cooper.stock.shaft_steel import shaft_steel
from machine.test_proposal import RULES, wish
from makers import pair, planet_set

EASY = Rules(S_Dmin=0.01, S_Ymin=0.01, S_0min=0.01, S_joint=0.01, L_h=1e-6)


def texts(r, level="warning:short"):
    kind, _, counts = level.partition(":")
    return " ".join(n.text for n in r.notes if n.level == kind and (not counts or n.counts == counts))


def test_a_planet_that_is_overturned_loads_the_ends_of_its_bearing():
    """Two rings: +4493 N at -10 mm and -4321 N at +10 mm leave 172 N and a couple of 88.14 N m, which both halves of
    a bearing take at a quarter of its rollers."""
    loads = (PinLoad(at=-10.0, b=20.0, across=4493.0, along=0.0), PinLoad(at=10.0, b=20.0, across=-4321.0, along=0.0))
    given = {
        "d_f": 60.0,
        "m_n": 1.0,
        "b": 40.0,
        "wall": 10.0,
        "centrifugal": 0.0,
        "n": 1000.0,
        "steel": shaft_steel("C45E+QT"),
    }
    pin = propose_pin(loads=loads, rules=EASY, **given)
    assert pytest.approx(172.0) == pin.F and pytest.approx(88140.0) == pin.M
    L = pin.bearing.bearing.L_we
    assert pin.count == 1 and sorted(pin.ends) == pytest.approx(sorted((88140 / (L / 2) - 86, 88140 / (L / 2) + 86)))
    straight = propose_pin(loads=(PinLoad(at=0.0, b=40.0, across=172.0, along=0.0),), rules=EASY, **given)
    assert straight.bearing == pin.bearing and pin.checked.L_nmh < 1e-3 * straight.checked.L_nmh
    # Asked to live, it stands on two bearings at its ends, or on a larger one.
    asked = replace(EASY, L_h=1000.0)
    lives = propose_pin(loads=loads, rules=asked, **given)
    assert lives.checked.L_nmh >= 1000 and (lives.count == 2 or lives.bearing.bearing.D > pin.bearing.bearing.D)


def test_thrust_overturns_a_helical_planet():
    d = planet_set(P=5000.0, n=1450.0)
    d = set_many(d, {f"train.meshes.stage{k + 1}.beta": 20.0 for k in (0, 1)})
    r = evaluate(count_machine(d))
    s, pin = r.stages[0], r.machine.pins[0].pin
    F_t = 2000 * s.power.T_mesh / s.gears[0].d_w
    # Sun and ring push along the axis against each other, on opposite sides of the pin.
    assert pytest.approx(2 * F_t * np.tan(np.radians(20.0)) * s.gears[1].d_w / 2, rel=1e-2) == pin.M
    shared = evaluate(set_many(count_machine(d), {f"train.meshes.stage{k + 1}.K_gamma": 1.3 for k in (0, 1)}))
    assert (
        shared.stages[0].mesh.K_gamma == pytest.approx(1.3)
        and pytest.approx(1.3 * pin.F, rel=1e-3) == shared.machine.pins[0].pin.F
    )


def test_a_planets_bearing_wall_and_speed_are_checked():
    load = PinLoad(at=0.0, b=20.0, across=2000.0, along=0.0)
    given = {
        "loads": (load,),
        "d_f": 40.0,
        "m_n": 1.0,
        "b": 20.0,
        "wall": 5.0,
        "centrifugal": 0.0,
        "steel": shaft_steel("C45E+QT"),
    }
    pin = propose_pin(n=1000.0, rules=replace(EASY, K_A=1.5, K_AP=2.0), **given)
    assert pin.p_wall == pytest.approx(2.0 * 1000 / (pin.d * 5.0))
    more = propose_pin(n=1000.0, rules=EASY, **{**given, "loads": (replace(load, across=2600.0),)})
    less = propose_pin(n=1000.0, rules=EASY, **given)
    assert more.bearing == less.bearing and more.checked.L_10h / less.checked.L_10h == pytest.approx(1.3 ** (-10 / 3))
    r = evaluate(count_machine(planet_set(P=20.0, n=20000.0)))
    assert {c.symbol for c in r.checks if c.part.startswith("pin of")} >= {"S_J", "n_lim"}


def test_what_bears_no_thrust_does_not_hold_a_shaft():
    d = set_many(pair(20, 60, 0.0, 0.0, P=15000.0), {"train.meshes.stage1.beta": 25.0})
    d = count_machine(d)
    key = evaluate(d).machine.shafts[0].key
    for kind in ("cylindrical roller", "needle roller"):
        both = [(("shafts", key, "bearings", f"bearing {n}", "type"), kind) for n in (1, 2)]
        r = evaluate(in_machine(d, *both))
        fixed = next(b for b in r.machine.shafts[0].made.bearings if b.fixed)
        check = r.check(next(c.key for c in r.checks if c.part == f"{key} {fixed.name}" and c.symbol == "L_nmh"))
        assert check.value == 0 and "takes no thrust" in texts(r) and "cannot" in texts(r)
    spur = count_machine(pair(20, 60, 0.0, 0.0, P=15000.0))
    for s in evaluate(spur).machine.shafts:
        assert next(b for b in s.made.bearings if b.fixed).bearing.thrust


@pytest.mark.parametrize("seed", range(12))
def test_every_proposed_shaft_is_kept_along_its_axis(seed):
    w = wish(seed)
    flat = tuple(replace(c, force=c.force * [1.0, 1.0, 0.0]) for c in w.contacts)
    made, _ = propose_shaft(replace(w, contacts=flat), RULES)
    assert next(b for b in made.bearings if b.fixed).bearing.thrust


@pytest.mark.parametrize("back", [False, True])
def test_pairs_hold_the_shaft_at_their_pressure_points(back):
    """One force between angular contact bearings: reactions by levers about the points where their lines of contact
    meet the axis; thrust by the rule of pairs."""
    w = wish(3)
    kinds = {f"bearing {n}": BearingGiven(type="angular contact ball", series="02") for n in (1, 2)}
    made, result = propose_shaft(replace(w, bearings=kinds, back_to_back=back), RULES)
    away = [b.bearing.D_pw / 2 * np.tan(np.radians(40.0)) for b in made.bearings]
    sign = -1 if back else 1
    points = [made.bearings[0].at + sign * away[0], made.bearings[1].at - sign * away[1]]
    points = [min(max(p, made.start), made.end) for p in points]
    assert [made.support(k) for k in (0, 1)] == pytest.approx(points)
    forces = np.array([c.force for c in w.contacts])
    turned = sum(c.force[:, :2] * (c.at - points[0]) - c.point * c.force[:, 2:] for c in w.contacts)
    R_2 = -turned / (points[1] - points[0])
    assert result.reactions[:, 1, :2] == pytest.approx(R_2, rel=1e-3, abs=1e-3 * np.abs(R_2).max())
    F_r = np.hypot(result.reactions[..., 0], result.reactions[..., 1])
    own, push = F_r / (2 * 0.57), forces[..., 2].sum(axis=0)
    # Face to face the right one takes a push to the right, back to back the left one.
    right, left = (0, 1) if back else (1, 0)
    assert result.reactions[:, right, 2] == pytest.approx(np.maximum(own[:, right], own[:, left] + push), rel=1e-6)


def test_a_tilted_bearing_alone_presses_itself_apart():
    w = wish(3)
    made, result = propose_shaft(
        replace(w, fixed="bearing 1", bearings={"bearing 2": BearingGiven(type="tapered roller", series="302")}), RULES
    )
    F_r = np.hypot(*result.reactions[:, 1, :2].T)
    Y = 0.4 / np.tan(made.bearings[1].bearing.alpha)
    assert result.reactions[:, 1, 2] == pytest.approx(F_r / (2 * Y))
    thrust = np.abs(sum(c.force[:, 2] for c in w.contacts))
    assert result.reactions[:, 0, 2] == pytest.approx(thrust + F_r / (2 * Y))
    d = count_machine(pair())
    key = evaluate(d).machine.shafts[0].key
    assert "adjusted against" in texts(
        evaluate(in_machine(d, (("shafts", key, "bearings", "bearing 2", "type"), "tapered roller")))
    )


def test_a_press_fit_on_a_hollow_shaft_by_lame():
    """Thick rings, written out: 42 mm on a hub of 80, bored 30. Solid it would bear more than twice as much."""
    fit = joint_of(
        "press fit",
        "s",
        "g",
        JointGiven(),
        42.0,
        1e3,
        (600.0, 490.0),
        30.0,
        80.0,
        206000.0,
        11.5e-6,
        0.0,
        Rules(),
        30.0,
    )
    solid = replace(fit, d_i=0.0)
    hub, bore = (42 / 80) ** 2, (30 / 42) ** 2
    K = ((1 + hub) / (1 - hub) + 0.3) / 206000 + ((1 + bore) / (1 - bore) - 0.3) / 206000
    p = check_joint(fit, Rules()).p
    assert p == pytest.approx(fit.U / (42 * K)) and check_joint(solid, Rules()).p > 1.7 * p
    result = press_fit(U=fit.U_max, d=42.0, d_hub=80.0, length=30.0, mu=0.14, d_i=30.0)
    # Hub and shaft each by its own yield point.
    T = np.pi / 2 * 0.14 * p * 42**2 * 30 / 1000
    wanted = min(T / 1e3, 600 / float(result.sigma_hub), 490 / float(result.sigma_shaft))
    assert pytest.approx(wanted, rel=1e-6) == check_joint(fit, Rules()).S
    light = replace(fit, T=1.0)
    assert (
        pytest.approx(min(600 / float(result.sigma_hub), 490 / float(result.sigma_shaft)), rel=1e-6)
        == check_joint(light, Rules()).S
    )


def test_a_keyway_needs_a_wall():
    d = count_machine(pair(20, 60, 0.0, 0.0, P=2000.0))
    s = evaluate(d).machine.shafts[-1]
    end = next(j for j in s.made.joints if j.kind == "key" and not j.gear)
    for left, text in ((end.t_1 + 1.0, False), (0.5, True), (-0.5, True)):
        d_i = end.d - 2 * (end.t_1 + left)
        r = evaluate(
            in_machine(d, (("shafts", s.key, "d_i"), d_i), (("shafts", s.key, "pieces", end.piece, "d"), end.d))
        )
        assert ("under the keyway" in texts(r)) == text
        S = next(c for c in r.checks if c.part == f"{s.key} {end.piece}")
        assert (S.value == 0) == (left < 0)


def test_ratings_belong_to_the_bearing_they_were_typed_for():
    d = count_machine(pair())
    r = evaluate(d)
    s = r.machine.shafts[0]
    d = rating_field(s, "bearing 1", "C_r").give(d, r, 40000.0)
    data = d.train.machine.shafts[s.key].bearings["bearing 1"]
    assert data.rated == s.made.bearings[0].bearing.name
    one = evaluate(d).machine.shafts[0].made.bearings[0]
    assert one.C == 40000.0 and one.typed
    wider = in_machine(d, (("shafts", s.key, "bearings", "bearing 1", "type"), "spherical roller"))
    other = evaluate(wider)
    b = other.machine.shafts[0].made.bearings[0]
    assert b.bearing.name != data.rated and not b.typed and pytest.approx(ratings(b.bearing)[0]) == b.C
    assert "the ratings typed are those of" in texts(other, "warning:thin")
    assert read_design(design_text(wider)) == wider
    old = in_machine(count_machine(pair()), (("shafts", s.key, "bearings", "bearing 1", "C"), 40000.0))
    assert "do not say of which bearing" in texts(evaluate(old), "warning:thin")
    assert BearingData(C=1.0).rated is None


def test_the_smallest_ball_bearings_are_no_stronger_than_customary():
    """Of bores 3 to 5 of series 02 and 5 to 8 of series 18 geometry with the usual share of balls says 1.36 to 1.6
    and 1.65 to 2 times too much."""
    for series, bores, share in (("02", (3, 4, 5), (0.6, 0.8)), ("18", (5, 6, 7, 8), (0.45, 0.62))):
        for d in bores:
            b = bearing_of("deep groove ball", series, float(d))
            D_w = 0.3 * (b.D - b.d)
            usual = replace(b, D_w=D_w, Z=int(0.6 * np.pi / np.arcsin(D_w / b.D_pw)))
            assert share[0] < ratings(b)[0] / ratings(usual)[0] < share[1], b.name


def test_a_splined_piece_bears_with_its_core_and_two_keyways_weaken_more():
    made, result = propose_shaft(wish(2, joints={"gear0": JointGiven(kind="spline")}), RULES)
    j = next(j for j in made.joints if j.gear == "gear0")
    x, d = nodes_of(made)
    e = int(np.argmax(cores_of(made, x, d) < d - 1e-9))
    core = j.d - 2.2 * j.m
    M, F = np.hypot(result.M[:, 0], result.M[:, 1])[:, e].max(axis=0), result.sigma[e]
    assert pytest.approx(RULES.K_A * 1000 * M / (np.pi * core**3 / 32)) == F
    assert d[e] == j.d and (j.d / core) ** 3 > 1.2
    one, two = (
        notches_of(replace(made, joints=(replace(j, kind=kind, l_tr=5.0),)), x, d, 700.0, 490.0)[1][e]
        for kind in ("key", "two keys")
    )
    assert np.all(two > 1.1 * one) and np.all(two < 1.2 * one)


def test_every_type_and_row_of_bearings_bears_what_it_says():
    for kind in rolling_types():
        for series in series_of(kind):
            for b in bearings_of(kind, series):
                C, C_0 = ratings(b)
                assert C > 0 and C_0 > 0 and b.d < b.D and b.D_w < (b.D - b.d) / 2 and b.cost > 0
                P = float(bearing_loads.equivalent_load(kind, b.alpha, 100.0, 0.0, C_0))
                pushed = float(bearing_loads.equivalent_load(kind, b.alpha, 100.0, 300.0, C_0))
                assert P == 100.0 and (pushed > 100.0) == b.thrust
    for function in (bearing_loads.axial_factors, bearing_loads.equivalent_load):
        with pytest.raises(ValueError, match="ferrofluid"):
            function("ferrofluid", 0.0, 1.0, 1.0, 1.0)
    with pytest.raises(ValueError, match="ferrofluid"):
        bearing_loads.static_load("ferrofluid", 0.0, 1.0, 1.0)


def test_what_bearings_slide_or_groove_at_is_told():
    d = count_machine(pair(P=2.0))
    assert "may slide instead of roll" in texts(evaluate(d), "range")
    d = count_machine(set_many(pair(20, 60, 0.0, 0.0, P=90000.0), {"train.meshes.stage1.beta": 35.0}))
    key = evaluate(d).machine.shafts[0].key
    light = [
        (("shafts", key, "bearings", f"bearing {n}", k), v)
        for n in (1, 2)
        for k, v in (("type", "deep groove ball"), ("series", "18"))
    ]
    assert "takes up to" in texts(evaluate(in_machine(d, *light)))


@pytest.mark.parametrize("edit", [{"train.duty.n": 0.01}, {"train.gears.gear2.d_bore": 0.00045}])
def test_gears_around_which_no_machine_can_stand_are_kept(edit):
    """No bearing has such a bore: all results of the gears are there, the machine is reported as missing, the file
    opens again."""
    d = set_many(count_machine(pair(P=4200.0, n=1400.0)), edit)
    r = evaluate(d)
    assert r.machine is None and r.no_machine is not None and not [c for c in r.checks if c.part]
    assert r.stages[0].gears[0].S_F > 0 and "is not worked out" in texts(r) and r.verdict == "short"
    assert read_design(design_text(d)) == d
    with pytest.raises(OutOfRange):
        refuse_unbuildable(set_many(d, {"train.machine": None}), d, r)
    refuse_unbuildable(d, d, r)


def test_by_hand_judged_bearings_share_what_they_are_given():
    """`Borne` of a bearing without thrust under one newton along the axis lives for nothing."""
    b = bearing_of("cylindrical roller", "02", 30.0)
    made, _ = propose_shaft(wish(4), RULES)
    bearings = tuple(Borne(name=x.name, bearing=b, at=x.at, C=1e5, C_0=1e5, fixed=x.fixed) for x in made.bearings)
    result = check_shaft(replace(made, bearings=bearings), RULES)
    assert [f.L_nmh > 0 for f in result.bearings] == [not x.fixed for x in bearings]

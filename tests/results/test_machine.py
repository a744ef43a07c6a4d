"""The machine around the gears of whole designs: equilibrium, what it leaves alone, the face load from its shafts,
the order of failure."""

import json

import numpy as np
import pytest

from cooper.demo import DEMOS, demo
from cooper.document.store import design_text, read_design
from cooper.editing.edit import set_at, set_many
from cooper.editing.levers import levers
from cooper.editing.machine_edits import count_machine, in_machine, propose_anew
from cooper.errors import OutOfRange
from cooper.exchange.report import report_text
from cooper.machine.check_bearing import ratings
from cooper.machine.rolling_life import rating_life
from cooper.results.evaluate import evaluate
from cooper.results.find_machine import find_machine, machine_of
from cooper.results.machine_checks import order_of_failure
from cooper.results.machine_why import why_machine


def bare(name):
    """A demo of whose machine nothing is fixed and that does not count."""
    return set_at(demo(name), "train.machine", None)


FIXED_AXES = ("winch", "mirror-cover", "dome-ring", "dome-rack", "battery-lift")


@pytest.mark.parametrize("name", DEMOS)
def test_a_machine_that_counts_alters_no_number_of_the_gears(name):
    plain, counted = evaluate(bare(name)), evaluate(count_machine(bare(name)))
    for a, b in zip(plain.stages, counted.stages, strict=True):
        assert dict(a.mesh) == dict(b.mesh) and [dict(g) for g in a.gears] == [dict(g) for g in b.gears]
    assert plain.machine is None and counted.machine is not None
    own = [c for c in counted.checks if c.part]
    assert [c for c in counted.checks if not c.part] == list(plain.checks)
    assert len({c.key for c in counted.checks}) == len(counted.checks)
    assert all(c.means and c.kind for c in own)
    # Every gear that turns about a fixed axis stands on just one shaft.
    on = [s.gear for f in counted.machine.shafts for s in f.made.wish.seats]
    assert len(on) == len(set(on))


@pytest.mark.parametrize("name", FIXED_AXES)
def test_the_housing_feels_only_what_comes_in_and_goes_out(name):
    """All bearings together: no force is left but that of a rack, and about every axis only the torques of both
    ends."""
    d = demo(name)
    r = evaluate(d)
    m = find_machine(d.train, r)
    for case in (0, 1):
        force, turn = np.zeros(3), np.zeros(3)
        for s in m.shafts:
            for b, R in zip(s.made.bearings, s.checked.reactions[case], strict=True):
                at = np.array([*s.axis, b.at])
                F = np.array([R[0], R[1], 0.0])
                force += F
                turn += np.cross(at, F)
            thrust = -sum(c.force[case, 2] for c in s.made.wish.contacts)
            force += [0, 0, thrust]
            turn += np.cross([*s.axis, 0.0], [0, 0, thrust])
        # What the couplings take out and bring in.
        ends = sum(
            sum(c.point[case, 0] * c.force[case, 1] - c.point[case, 1] * c.force[case, 0] for c in s.made.wish.contacts)
            for s in m.shafts
        )
        scale = max(abs(c.force).max() for s in m.shafts for c in s.made.wish.contacts)
        if name == "dome-rack":
            assert np.hypot(*force[:2]) == pytest.approx(np.hypot(*m.shafts[0].made.wish.contacts[0].force[case, :2]))
            continue
        assert force == pytest.approx(np.zeros(3), abs=1e-6 * scale)
        assert turn[2] == pytest.approx(ends, rel=1e-6)
        assert turn[:2] == pytest.approx(np.zeros(2), abs=1e-4 * scale)


def test_gear_forces_are_those_of_the_mesh():
    """At the pitch point: F_t by the torque, F_r by the working pressure angle, thrust by the hand and the sense."""
    d = bare("winch")
    r = evaluate(d)
    one, two = (find_machine(d.train, r).shafts[k].made.wish.contacts[0] for k in (0, 1))
    g, m = r.stages[0].gears, r.stages[0].mesh
    F_t = 2000 * r.stages[0].power.T_mesh / g[0].d_w
    assert two.force[0] == pytest.approx([F_t * np.tan(np.radians(m.alpha_wt)), F_t, two.force[0][2]], rel=1e-9)
    assert np.abs(two.force[0][2]) == pytest.approx(m.F_a)
    assert one.force == pytest.approx(-two.force) and one.point[0] == pytest.approx([g[0].d_w / 2, 0.0])
    right = d.train.stages[0].mesh.hand == "right"
    # A right-hand pinion that turns counter-clockwise is pushed towards the viewer.
    assert (one.force[0][2] > 0) == right and one.force[1][2] == pytest.approx(-one.force[0][2])


def test_what_is_fixed_of_a_machine_is_written_and_read_again():
    d = in_machine(
        bare("winch"),
        (("shafts", "gear2", "pieces", "seat gear2", "d"), 32.0),
        (("shafts", "gear2", "bearings", "bearing 1", "type"), "cylindrical roller"),
        (("angles", "stage2"), 90.0),
        (("S_Dmin",), 2.0),
    )
    again = read_design(design_text(d))
    assert again == d and json.loads(design_text(d))["train"]["machine"]["angles"] == {"stage2": 90.0}
    m = evaluate(again).machine
    assert m.shaft("gear2").made.piece("seat gear2").d == 32.0
    assert m.shaft("gear2").made.bearings[0].bearing.type == "cylindrical roller"
    a_w = evaluate(again).stages[1].mesh.a_w
    assert np.subtract(m.shafts[2].axis, m.shafts[1].axis) == pytest.approx([0.0, a_w], abs=1e-9)
    assert propose_anew(again).train.machine.shafts == {} and propose_anew(again).train.machine.S_Dmin == 2.0
    for path, value in (
        (("steel",), "adamantium"),
        (("shafts", "gear2", "bearings", "bearing 1", "type"), "magnetic"),
        (("shafts", "gear2", "pieces", "end left", "d"), -3.0),
        (("shafts", "gear2", "bearings", "bearing 1", "series"), "77"),
    ):
        with pytest.raises(OutOfRange):
            in_machine(d, (path, value))


def test_collisions_and_what_cannot_be_put_together_are_told():
    d = bare("winch")
    near = evaluate(in_machine(d, (("angles", "stage2"), 180.0)))
    assert near.machine.clashes == () or any("run into each other" in n.text for n in near.notes)
    thick = evaluate(in_machine(d, (("shafts", "gear2", "pieces", "gap 1", "d"), 200.0)))
    assert any("run into each other" in n.text and n.counts == "short" for n in thick.notes)
    assert any("higher than the inner ring" in n.text for n in thick.notes)
    hollow = evaluate(in_machine(d, (("shafts", "gear1", "d_i"), 11.0)))
    assert any("leaves" in n.text and "too thin" in n.text for n in hollow.notes)
    box = evaluate(in_machine(d, (("L_max",), 60.0)))
    assert next(c for c in box.checks if c.symbol == "L_box").verdict == "short"
    key = evaluate(
        in_machine(
            d,
            (("shafts", "gear1", "joints", "gear1", "kind"), "key"),
            (("shafts", "gear1", "joints", "gear1", "length"), 30.0),
        )
    )
    assert any("longer than the seat" in n.text for n in key.notes)
    seat = evaluate(in_machine(d, (("shafts", "gear1", "pieces", "seat gear1", "d"), 31.0)))
    assert any("under its roots" in n.text for n in seat.notes)


def test_the_face_load_factor_from_the_shafts_follows_their_stiffness_and_what_is_done_against_it():
    base = "train.meshes.stage1."
    d = set_at(demo("mirror-cover"), base + "K_Hbeta_method", "shafts")
    plain = evaluate(d)
    K = plain.stages[0].mesh.K_Hbeta
    assert plain.faces[0].K_Hbeta == pytest.approx(K, rel=1e-6) and K > 1
    assert plain.stages[0].methods["K_Hbeta"] == "shafts"
    as_entered = evaluate(set_many(d, {base + "K_Hbeta_method": "entered", base + "K_Hbeta": round(K, 6)}))
    assert [dict(g) for g in plain.stages[0].gears] == [dict(g) for g in as_entered.stages[0].gears]
    evened = evaluate(set_many(d, {base + "C_Hbeta": plain.faces[0].C_Hbeta, base + "C_beta": plain.faces[0].C_beta}))
    assert evened.stages[0].mesh.K_Hbeta < K
    # Twice as wide a distance of the bearings lets the shafts bend more.
    soft = in_machine(d, (("shafts", "gear2", "pieces", "gap 1", "length"), 40.0))
    assert evaluate(soft).stages[0].mesh.K_Hbeta != pytest.approx(K, rel=1e-3)
    with pytest.raises(OutOfRange, match="planets"):
        evaluate(set_at(demo("focuser"), base + "K_Hbeta_method", "shafts"))


def test_the_order_of_failure_and_the_part_that_goes_first():
    d = count_machine(bare("winch"))
    r = evaluate(d)
    order = order_of_failure(r)
    assert [g.load for g in order] == sorted(g.load for g in order)
    labels = {g.label for g in order}
    assert any("flank" in w for w in labels) and any("key" in w for w in labels) and any("life" in w for w in labels)
    # At the load at which a part gives way its safety is one.
    root = next(g for g in order if g.part == "stage1.S_F1")
    assert root.load == pytest.approx(r.check("stage1.S_F1").value)
    flank = next(g for g in order if g.part == "stage1.S_H1")
    more = evaluate(
        set_many(d, {"train.duty.K_A": d.train.duty.K_A * flank.load, "train.duty.K_AP": None, "train.machine": None})
    )
    assert more.check("stage1.S_H1").value == pytest.approx(1.0, abs=0.04)
    weakest = next(g for g in order if g.kind == "static")
    first = evaluate(in_machine(d, (("goes_first",), weakest.part)))
    check = next(c for c in first.checks if c.symbol == "X_go")
    rest = [g.load for g in order if g.kind == "static" and g.part != weakest.part]
    assert check.value == pytest.approx(min(rest) / weakest.load)
    lost = evaluate(in_machine(d, (("goes_first",), "gear99 end")))
    assert any("not in this machine" in n.text for n in lost.notes)


def test_the_machine_is_found_once_for_a_train():
    d = count_machine(demo("mirror-cover"))
    r = evaluate(d)
    assert machine_of(d.train, r) is r.machine
    plain = demo("mirror-cover")
    p = evaluate(plain)
    assert machine_of(plain.train, p) is machine_of(plain.train, p)


@pytest.mark.parametrize("name", ["dome-drive", "focuser"])
def test_the_pins_of_planets_bear_what_the_carrier_takes_out(name):
    r = evaluate(count_machine(bare(name)))
    one, pin = r.sets[0], r.machine.pins[0].pin
    s = r.stages[one.first]
    # Without friction, for which the teeth are rated.
    across = 1000 * abs(one.shafts[one.input]["T"] * one.values["u"]) / (one.planets * s.mesh.a_w) * s.mesh.K_gamma
    ring = r.stages[one.first + 1]
    F_t = [2000 * x.power.T_mesh * x.mesh.K_gamma / x.gears[0].d_w for x in (s, ring)]
    along = F_t[0] * np.tan(np.radians(s.mesh.alpha_wt)) - F_t[1] * np.tan(np.radians(ring.mesh.alpha_wt))
    omega = one.speeds["carrier"] * one.shafts[one.input]["n"] * np.pi / 30
    along += s.gears[1].mass * s.mesh.a_w * 1e-3 * omega**2
    assert pytest.approx(np.hypot(across, along), rel=1e-3) == pin.F
    b, span = s.gears[1].b, pin.span
    M = pin.F * (2 * span - b) / 8
    assert pin.sigma == pytest.approx(r.machine.rules.K_A * M / (np.pi * pin.d**3 / 32), rel=2e-3)
    # A ground pin of C45E+QT that starts and stops with its load: by DIN 743, written out.
    rules = r.machine.rules
    K_1, K_1S = (1 - f * np.log10(max(pin.d, 16) / 16) for f in (0.26, 0.34))
    B, S = 700 * K_1, 490 * K_1S
    K_2 = 1 - 0.2 * np.log10(max(pin.d, 7.5) / 7.5) / np.log10(20)
    K = 1 / K_2 + 1 / (1 - 0.22 * np.log10(rules.Rz) * (np.log10(B / 20) - 1)) - 1
    W = 350 * K_1 / K
    assert pytest.approx(W / (1 + W / (2 * B - W)) / (pin.sigma / 2), rel=1e-6) == pin.S_D
    assert pytest.approx(1.2 * S / (pin.sigma * max(rules.K_AP, rules.K_A) / rules.K_A), rel=1e-6) == pin.S_Y
    if pin.bearing is not None:
        assert s.gears[1].d_fE - 2 * 2.7 * s.mesh.m_n + 1e-9 >= pin.bearing.bearing.D or s.gears[1].d_bore > 0
        # Spur and with one ring it bears no moment: both halves the same, together as the whole bearing.
        assert pin.ends == pytest.approx((pin.F / 2, pin.F / 2)) and pin.checked.L_nmh >= rules.L_h
        if pin.count == 1:
            C = ratings(pin.bearing.bearing)[0]
            basic = float(rating_life(C, rules.K_A * pin.F, pin.checked.n, True))
            assert pin.checked.L_10h == pytest.approx(basic, rel=1e-6)
    assert {c.symbol for c in r.checks if c.part.startswith("pin of")} >= {"S_D", "S_Y"}
    assert all(why_machine(r.machine, c.part, c.symbol) for c in r.checks if c.part.startswith("pin of"))


def test_the_steps_behind_a_check_end_at_its_value():
    r = evaluate(count_machine(bare("winch")))
    for c in r.checks:
        if c.part and c.symbol in ("S_D", "S_Y", "S_0", "L_nmh", "S_J"):
            rows = why_machine(r.machine, c.part, c.symbol)
            assert any(value == pytest.approx(c.value, rel=1e-9) for _, value, _, _ in rows), c.label
    assert "Machine: order of failure" in report_text(bare("winch"), r)
    assert {s["id"] for s in r.as_tree()["machine"]["shafts"]} == {"gear1", "gear2", "gear4"}


def test_levers_of_the_machine_bring_its_checks_to_their_limits():
    fixed = (("shafts", "gear2", "pieces", "gap 3", "d"), 10.0), (("shafts", "gear4", "pieces", "end right", "d"), 25.0)
    fixed += ((("shafts", "gear1", "bearings", "bearing 1"), {"type": "deep groove ball", "series": "18"}),)
    fixed += ((("shafts", "gear1", "pieces", "bearing 1", "d"), 15.0),)
    d = in_machine(bare("winch"), *fixed, (("S_Dmin",), 1.4))
    r = evaluate(d)
    short = [c for c in r.checks if c.part and c.margin < 0]
    assert {c.symbol for c in short} >= {"L_nmh", "S_D", "S_J"}
    for c in short:
        result = levers(d, r, c)
        assert any(lever.design is not None for lever in result), c.label
        for lever in result:
            if lever.design is None:
                assert lever.cannot
                continue
            again = evaluate(lever.design).check(c.key)
            assert again is not None and again.margin >= 0
            assert lever.design != d and lever.effect(r, 0)["worst"] <= again.margin


def test_a_belt_on_the_end_and_the_weight_bear_on_the_bearings():
    d = count_machine(bare("winch"))
    plain = evaluate(d).machine.shafts[0]
    pulled = in_machine(
        d, (("shafts", "gear1", "ends", "end left", "F"), 500.0), (("shafts", "gear1", "ends", "end left", "phi"), 90.0)
    )
    belt = evaluate(pulled).machine.shafts[0]
    for case in (0, 1):
        more = belt.checked.reactions[case, :, :2].sum(0) - plain.checked.reactions[case, :, :2].sum(0)
        assert more == pytest.approx([0.0, -500.0], abs=1e-3)
    # It turns the shaft about its bearings with the arm of its end.
    end, (one, two) = belt.made.piece("end left").at, (b.at for b in belt.made.bearings)
    turn = sum(R[1] * b.at for R, b in zip(belt.checked.reactions[0], belt.made.bearings, strict=True))
    contact = belt.made.wish.contacts[0]
    meshes = contact.force[0][1] * contact.at - contact.point[0][1] * contact.force[0][2]
    assert turn + meshes + 500.0 * end == pytest.approx(0.0, abs=1e-2) and end < one < two
    heavy = evaluate(in_machine(d, (("weight",), True))).machine.shafts[2]
    light = evaluate(d).machine.shafts[2]
    lifted = heavy.checked.reactions[0, :, 1].sum() - light.checked.reactions[0, :, 1].sum()
    assert lifted * 1.35 == pytest.approx(9.81 * (heavy.checked.mass + heavy.made.wish.seats[0].mass), rel=2e-3)


def test_the_bearings_of_the_machine_join_the_losses():
    d = set_many(bare("winch"), {"train.losses.counted": "all"})
    by_type, own = evaluate(d).train, evaluate(count_machine(d))
    v, m = own.train, own.machine
    mu_f = {"deep groove ball": (0.0015, 2.0), "cylindrical roller": (0.0011, 3.0), "spherical roller": (0.0018, 4.0)}
    mu_f["tapered roller"] = (0.0018, 4.0)
    lost = 0.0
    for s in m.shafts:
        for b, f in zip(s.made.bearings, s.checked.bearings, strict=True):
            mu, f_0 = mu_f[b.bearing.type]
            thick = m.rules.nu * f.n
            oil = 1e-7 * f_0 * (thick ** (2 / 3) if thick >= 2000 else 160) * b.bearing.D_pw**3
            lost += (mu * f.F_r * b.bearing.d / 2 + oil) / 1000 * np.pi * f.n / 30
    assert pytest.approx(lost, rel=1e-9) == v.P_VL and pytest.approx(by_type.P_VL, rel=0.05) != v.P_VL
    assert pytest.approx(v.P_Vz + v.P_V0 + v.P_VL + v.P_VD) == v.P_V
    # The seals rub on the machine's own seats: ISO/TR 14179-2, 145 - 1.6 theta + 350 lglg(nu + 0.8), d^2 n 1e-7.
    theta, nu = own.train.theta_oil, d.train.defaults.lubricant.nu_40
    lip = 145 - 1.6 * theta + 350 * np.log10(np.log10(nu + 0.8))
    ends = [(m.shafts[0], "seal left"), (m.shafts[-1], "seal right")]
    rub = sum(lip * s.made.piece(p).d ** 2 * s.made.wish.n * 1e-7 for s, p in ends)
    assert pytest.approx(rub, rel=1e-6) == v.P_VD and by_type.P_VD > v.P_VD
    assert v.eta == pytest.approx(1 - v.P_V / v.P_in) and v.P_out == pytest.approx(v.P_in - v.P_V)
    assert v.T_out * v.n_out == pytest.approx(v.eta * v.P_in * 30 / np.pi, rel=1e-9)
    assert evaluate(set_at(count_machine(bare("winch")), "train.losses.counted", "mesh")).train.eta == pytest.approx(
        evaluate(set_at(bare("winch"), "train.losses.counted", "mesh")).train.eta
    )

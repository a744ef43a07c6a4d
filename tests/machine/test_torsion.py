"""Turning to and fro of shafts and trains against closed forms and an independent chain of masses; holes and pins
across shafts."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.demo import DEMOS, demo
from cooper.document.machine_data import EndLoad, ShaftData
from cooper.editing.edit import set_at
from cooper.editing.machine_edits import in_machine, refuse_unbuildable, set_bearing, take_bearing
from cooper.errors import OutOfRange
from cooper.machine.check_joint import check_joint
from cooper.machine.check_shaft import check_shaft
from cooper.machine.notch_factors import cross_hole_form
from cooper.machine.shaft_model import Joint, Rules
from cooper.machine.torsion import TorsionModel, natural_frequencies, torsion_stiffness
from cooper.results.evaluate import evaluate
from cooper.results.find_machine import find_machine
from cooper.results.machine_torsion import torsion_of


def test_a_geared_pair_turns_to_and_fro_as_if_its_second_shaft_stood_on_the_first():
    """Four inertias on two shafts with a stiff mesh of ratio u: what stands behind the mesh counts by u^2 less."""
    k_1, k_2, r_1, r_2 = (float(v) for v in (torsion_stiffness(20, 0, 200), torsion_stiffness(35, 5, 120), 15.0, 60.0))
    J = np.array([900.0, 40.0, 2500.0, 8000.0])
    B = np.array([[1.0, -1, 0, 0], [0, r_1, r_2, 0], [0, 0, 1, -1]])
    result = natural_frequencies(TorsionModel(J, B, np.array([k_1, 1e9, k_2])))
    u = r_2 / r_1
    m_1, m_2, m_3 = J[0], J[1] + J[2] / u**2, J[3] / u**2
    a, b = k_1, k_2 / u**2
    # omega^4 - omega^2 (a (1/m1 + 1/m2) + b (1/m2 + 1/m3)) + a b (m1 + m2 + m3) / (m1 m2 m3) = 0
    p = np.roots(
        [1, -(a * (1 / m_1 + 1 / m_2) + b * (1 / m_2 + 1 / m_3)), a * b * (m_1 + m_2 + m_3) / (m_1 * m_2 * m_3)]
    )
    assert result[:2] == pytest.approx(np.sort(np.sqrt(1000 * p)), rel=1e-5)


@pytest.mark.parametrize("name", [n for n in DEMOS if n not in ("dome-rack", "filter-wheel")])
def test_a_train_between_two_flywheels_swings_as_its_stiffness_reduced_to_the_input_says(name):
    """With inertias that dwarf those of the gears the lowest mode is that of both ends against each other; its
    spring is found by twisting the train slowly: the energy under the torques that the ratios say, in every piece of
    shaft and every mesh."""
    d = demo(name)
    r = evaluate(d)
    shafts = find_machine(d.train, r).shafts
    heavy = {shafts[0].key: ShaftData(ends={"end left": EndLoad(J=100.0)})}
    heavy[shafts[-1].key] = ShaftData(ends={"end right": EndLoad(J=1e5)})
    t = torsion_of(d.train, r, shafts, heavy)
    n_in, n_out = shafts[0].made.wish.n, shafts[-1].made.wish.n
    ends = [(shafts[0], "end left"), (shafts[-1], "end right")]
    assert t is not None and all(any(p.name == e for p in s.made.pieces) for s, e in ends)
    # Energy of one N m at the input: every piece of shaft and every mesh under the torque that reaches it.
    energy = 0.0
    for s, nearest in ((shafts[0], min), (shafts[-1], max)):
        T = 1000.0 * n_in / s.made.wish.n
        end = next(p for p in s.made.pieces if p.name == ("end left" if s is shafts[0] else "end right"))
        seats = [q.at for q in s.made.wish.seats]
        at = (
            nearest(seats, key=lambda z, e=end: abs(z - e.at))
            if len(seats) == 1
            else seats[0 if s is shafts[0] else -1]
        )
        low, high = sorted((at, end.at))
        for p in s.made.pieces:
            length = min(p.end, high) - max(p.start, low)
            if length > 0:
                energy += T**2 * length / float(torsion_stiffness(p.d, 0.0, 1.0)) / 2
    for s in shafts[1:-1]:
        T = 1000.0 * n_in / s.made.wish.n
        low, high = min(q.at for q in s.made.wish.seats), max(q.at for q in s.made.wish.seats)
        for p in s.made.pieces:
            length = min(p.end, high) - max(p.start, low)
            if length > 0 and len(s.made.wish.seats) > 1:
                energy += T**2 * length / float(torsion_stiffness(p.d, 0.0, 1.0)) / 2
    for s in r.stages:
        if s.power.get("T_mesh") is None:
            continue
        many = next((x.planets for x in r.sets if x.first <= r.stages.index(s) < x.first + 3 and x.kind != "idler"), 1)
        T = float(s.power.T_mesh) / float(r.train.T_in) * 1000.0
        F = T / (float(s.gears[0].d_b) / 2)
        k = float(s.mesh.c_gamma) * min(float(g.b) for g in s.gears) * 1000
        energy += many * F**2 / k / 2
    k = 1000.0**2 / (2 * energy)
    u2 = (n_out / n_in) ** 2
    J_1, J_2 = 100e6, 1e5 * 1e6 * u2
    wanted = np.sqrt(1000 * k * (1 / J_1 + 1 / J_2)) * 30 / np.pi
    # Friction of the rated torques is not in the swinging train.
    assert t.n[0] == pytest.approx(wanted, rel=0.06)


def test_a_fine_hole_concentrates_stress_as_one_in_an_endless_plate():
    alpha = cross_hole_form(100.0, 1e-6)
    # Tension and bending 3; in shear the rim bears four times tau, twice what tau alone is worth as a tension of 2 tau.
    assert alpha == pytest.approx([3.0, 3.0, 2.023], abs=1e-3)


def test_a_hole_weakens_where_it_is_and_a_pin_is_rated_as_it_stands():
    d = set_at(demo("winch"), "train.machine", None)
    m = find_machine(d.train, evaluate(d))
    made, rules = m.shafts[1].made, m.rules
    piece = max((p for p in made.pieces if p.kind in ("gap", "collar")), key=lambda p: p.length)
    holed = replace(made, pieces=tuple(replace(p, hole=0.25 * p.d) if p is piece else p for p in made.pieces))
    before, after = check_shaft(made, rules), check_shaft(holed, rules)
    at = np.isclose(after.ends, piece.at, atol=1e-3)
    assert at.sum() == 2 and np.all(after.beta[at][:, 1] > 1.8)
    away = np.abs(after.ends - piece.at) > piece.length
    old = {}
    for x, S in zip(before.ends.ravel(), before.S_D.ravel(), strict=True):
        old.setdefault(round(float(x), 3), []).append(float(S))
    assert away.sum() > 20
    assert all(
        min(abs(S / v - 1) for v in old[round(float(x), 3)]) < 1e-6
        for x, S in zip(after.ends[away], after.S_D[away], strict=True)
        if round(float(x), 3) in old
    )
    pin = Joint(piece="p", gear="g", kind="pin", d=20.0, T=20.0, R_e=300.0, d_hub=40.0, d_pin=5.0)
    result = check_joint(pin, Rules())
    assert (result.p, result.S) == pytest.approx((60.0, 150 * np.pi * 25 * 20 / 80e3))


def test_a_hub_that_grows_more_than_its_shaft_slips_warm_and_one_that_turns_fast_holds_less():
    fit = Joint(
        piece="p", gear="g", kind="press fit", d=30.0, T=50.0, R_e=300.0, l_tr=25.0, U=0.03, U_max=0.03, d_hub=60.0,
        E_hub=70000.0, alpha_hub=23.5e-6,
    )  # fmt: skip
    cold, warm = check_joint(fit, Rules()), check_joint(fit, Rules(theta=80.0))
    # 12e-6 * 60 * 30 = 21.6 um of 30 are gone.
    assert warm.p / cold.p == pytest.approx(8.4 / 30, rel=1e-9) and warm.S < 0.3 * cold.S
    assert check_joint(replace(fit, n=8000.0), Rules()).p < cold.p


def test_a_third_bearing_takes_its_share_and_is_refused_where_it_has_no_room():
    d = set_at(demo("winch"), "train.machine", None)
    m = find_machine(d.train, evaluate(d))
    s = m.shafts[1]
    piece = max((p for p in s.made.pieces if p.kind in ("gap", "collar")), key=lambda p: p.length)
    wide = in_machine(d, (("shafts", s.key, "pieces", piece.name, "length"), piece.length + 40.0), (("c",), 30.0))
    s_1 = evaluate(wide).machine.shaft(s.key)
    piece = max((p for p in s_1.made.pieces if p.kind in ("gap", "collar")), key=lambda p: p.length)
    three = set_bearing(wide, s.key, s_1.made, piece.at)
    r = evaluate(three)
    s_3 = r.machine.shaft(s.key)
    assert [b.name for b in s_3.made.bearings] == ["bearing 1", "bearing 2", "bearing 3"]
    R = s_3.checked.reactions[..., :2]
    force = sum(c.force[:, :2] for c in s_3.made.wish.contacts)
    assert R.sum(axis=1) == pytest.approx(-force, rel=1e-6, abs=1e-6 * np.abs(force).max())
    # It does not give way where it is held, and has checks of its own.
    x = s_3.checked.x
    assert abs(s_3.checked.w[..., int(np.argmin(np.abs(x - s_3.made.bearings[2].at)))]).max() < 1e-6
    assert any(c.part == f"{s.key} bearing 3" and c.symbol == "L_nmh" for c in r.checks)
    assert len(evaluate(take_bearing(three, s.key, "bearing 3")).machine.shaft(s.key).made.bearings) == 2
    on_it = in_machine(wide, (("shafts", s.key, "bearings", "bearing 3", "at"), 0.0))
    with pytest.raises(OutOfRange) as fault:
        refuse_unbuildable(wide, on_it, evaluate(on_it))
    assert fault.value.low is not None and fault.value.low < fault.value.high
    text = in_machine(
        wide, (("shafts", s.key, "bearings", "bearing 3", "at"), (fault.value.low + fault.value.high) / 2)
    )
    assert len(evaluate(text).machine.shaft(s.key).made.bearings) == 3

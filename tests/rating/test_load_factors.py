"""K_V by method B, K_Hbeta by method C, K_Halpha by method B: against mechanics of their own and at every seam."""

import numpy as np
import pytest
from scipy.optimize import brentq

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.gears.outline import gear_outline
from cooper.rating.iso6336 import dynamic, running_in, stiffness
from cooper.rating.iso6336 import uneven_load as sharing
from cooper.results.evaluate import evaluate
from cooper.results.why import why
from makers import pair, planet_set

M = "train.meshes.stage1."
COMPUTED = {M + "K_V_method": "B", M + "K_Hbeta_method": "C", M + "K_Halpha_method": "B"}


def test_the_resonance_is_that_of_two_discs_on_a_spring():
    """Mesh frequency at n_E1 equals the natural frequency of both gears' true inertias on the mesh stiffness."""
    d = set_many(pair(21, 55, 0.2, 0.0, m=3.0), {**COMPUTED, "train.gears.gear1.d_bore": 20.0})
    s = evaluate(d).stages[0]
    m = s.mesh
    masses = []
    for t, g in zip(s.teeth, s.gears, strict=True):
        p = gear_outline(t, 0.0, 1e-3)
        x, y = p.T
        cross = x * np.roll(y, -1) - y * np.roll(x, -1)
        polar = np.sum(cross * (x**2 + x * np.roll(x, -1) + np.roll(x, -1) ** 2)) / 12
        polar += np.sum(cross * (y**2 + y * np.roll(y, -1) + np.roll(y, -1) ** 2)) / 12
        polar -= np.pi / 32 * g["d_bore"] ** 4
        density = 7830e-9 if g is s.gears[0] else 7850e-9
        masses.append(polar * density / (g["d_b"] / 2) ** 2)  # kg per mm of width
    reduced = masses[0] * masses[1] / sum(masses)
    assert m["m_red"] == pytest.approx(reduced, rel=0.06)
    omega = np.sqrt(m["c_gamma"] * 1e9 / (m["m_red"] * 1e3))  # N/m per m over kg per m
    assert m["n_E1"] / 60 * s.gears[0]["z"] == pytest.approx(omega / (2 * np.pi), rel=1e-6)


def test_k_v_has_no_step_at_any_seam_and_falls_to_one_at_rest():
    at = dict(line_load=200.0, c=14.0, f_pbeff=9.0, f_faeff=11.0, B_k=1.0)
    for eps in (1.4, 1.5, 2.0, 2.5, 3.2):
        for seam in (1.15, 1.5):
            low, high = (float(dynamic.dynamic_factor_b(seam + e, eps_gamma=eps, **at)) for e in (-1e-9, 1e-9))
            assert low == pytest.approx(high, abs=1e-6)
        assert float(dynamic.dynamic_factor_b(1e-9, eps_gamma=eps, **at)) == pytest.approx(1.0, abs=1e-6)
        peak = dynamic.dynamic_factor_b(np.array([0.5, 1.0, 2.0]), eps_gamma=eps, **at)
        assert peak[1] > peak[0]
        assert peak[1] > peak[2]
    for N in (0.4, 1.0, 2.0):
        low, high = (float(dynamic.dynamic_factor_b(N, eps_gamma=2 + e, **at)) for e in (-1e-9, 1e-9))
        # The two columns of coefficients meet at 2 to the digits that they have.
        assert low == pytest.approx(high, rel=0.03)


@pytest.mark.parametrize("lean", [0.2, 0.9, 1.5, 6.0])
def test_k_hbeta_is_the_peak_of_a_load_that_leans_on_springs(lean):
    """A rigid misaligned body on springs across the width, lifted where they would pull: equilibrium found by root
    search."""
    w, c = 250.0, 16.0
    F = lean * 2 * w / c
    x = np.linspace(0, 1, 20001)

    def total(depth):
        return float(np.trapezoid(np.maximum(c * (depth + F * (x - 0.5)), 0), x)) - w

    depth = brentq(total, -10 * F, 10 * w)
    peak = c * (depth + F / 2)
    assert float(sharing.face_load_factor(F, c, w)) == pytest.approx(peak / w, rel=1e-4)


def test_running_in_never_takes_more_than_there_is_and_hard_flanks_run_in_least():
    f = np.linspace(0.0, 200.0, 41)
    for v in (1.0, 7.0, 30.0):
        each = [running_in.helix_allowance(k, s, f, v) for k, s in ((0, 800.0), (1, 300.0), (2, 1500.0))]
        assert all(np.all(y <= f) for y in each)
        assert all(np.all(np.diff(y) >= -1e-12) for y in each)
        assert np.all(each[2] <= each[0] + 1e-12)
    fast, slow = (running_in.profile_allowance(0, 800.0, 100.0, v) for v in (20.0, 1.0))
    assert fast < slow


def test_stiffness_in_its_limits():
    same = dict(alpha_n=np.radians(20), beta=0.0, line_load=300.0, E_1=206e3, E_2=206e3)
    spur = float(stiffness.single_stiffness(30, 30, 0, 0, 1.2, **same))
    assert 12 < spur < 16  # 14 N/(mm um) is the customary mean
    ring, rack = (float(stiffness.single_stiffness(30, z, 0, 0, 1.2, **same)) for z in (-200, 1e9))
    assert ring == pytest.approx(rack)
    soft = float(stiffness.single_stiffness(30, 30, 0, 0, 1.2, **{**same, "E_2": 3e3}))
    assert soft == pytest.approx(spur * 2 * 3 / (206 + 3), rel=1e-9)
    assert float(stiffness.mesh_stiffness(spur, 1.0)[0]) == pytest.approx(spur)


@pytest.mark.parametrize("name", ["mirror-cover", "winch", "dome-ring", "dome-rack"])
def test_computed_factors_enter_the_stresses_and_the_chain_shows_what_drives_them(name):
    d = set_many(demo(name), COMPUTED)
    r = evaluate(d)
    s = r.stages[0]
    m = s.mesh
    K = m["K_A"] * m["K_V"] * m["K_Hbeta"] * m["K_Halpha"]
    assert s.gears[1]["sigma_H"] == pytest.approx(m["sigma_H0"] * s.gears[1]["Z_BD"] * np.sqrt(K))
    assert 1 <= m["K_V"] < 1.6
    assert 1 <= m["K_Halpha"] <= m["K_Falpha"] + 1e-9 or m["K_Falpha"] >= 1
    assert m["F_betay"] <= m["F_betax"]
    check = next(c for c in r.checks if c.symbol in ("S_H", "S_Heq") and c.stage == 0)
    steps = {step.symbol: step for step in why(s, check).acting}
    assert not steps["K_Hbeta"].entered
    assert {n for n, *_ in steps["K_Hbeta"].inputs} >= {"F_betay", "f_sh", "f_ma"}
    assert {n for n, *_ in steps["K_V"].inputs} >= {"N_res", "f_pbeff"}
    plain = evaluate(set_many(d, {M + "K_Hbeta_method": "entered"})).stages[0]
    assert next(step for step in why(plain, check).acting if step.symbol == "K_Hbeta").entered


def test_more_shaft_and_better_class_lower_the_face_load_factor():
    base = {**COMPUTED, M + "l_sh": 120.0, M + "s_sh": 20.0, M + "d_sh": 22.0, M + "arrangement": "a"}
    d = set_many(pair(20, 50, 0.2, 0.0, m=2.0, P=9000.0), base)

    def K(**changes):
        return evaluate(set_many(d, {M + k: v for k, v in changes.items()})).stages[0].mesh["K_Hbeta"]

    assert K(d_sh=30.0) < K() < K(s_sh=40.0)
    assert K(arrangement="c", s_sh=20.0) > K()
    assert K(helix_modification="crowned") < K()
    assert K(helix_modification="corrected") < K()
    finer = evaluate(set_many(d, {f"train.gears.gear{n + 1}.Q": 5 for n in (0, 1)})).stages[0].mesh
    assert finer["K_Hbeta"] < K()
    assert finer["f_pbeff"] < evaluate(d).stages[0].mesh["f_pbeff"]
    with pytest.raises(OutOfRange, match="overhung"):
        evaluate(set_many(d, {M + "s_sh": 80.0}))


def test_the_twist_in_the_shaft_formula_is_that_of_a_steel_bar_under_an_even_load():
    """0.7 of the 0.023 um mm/N is the angle 16 w r b^2/(pi G d^4) at the far end, as it leans the pitch line; the
    rest is bending."""
    d, b, w, G = 40.0, 30.0, 250.0, 206e3 / 2.6
    x = np.linspace(0, b, 20001)
    torque = w * d / 2 * (b - x)
    twist = float(np.trapezoid(torque, x)) / (G * np.pi * d**4 / 32)
    of_one = sharing.shaft_deflection(w, sharing.planet_factor(1, d, 0.8, 60.0, 0.0, 50.0, 15.0, b))
    assert float(of_one) == pytest.approx(1000 * twist * d / 2, rel=0.005)


def test_both_shafts_the_planets_and_a_given_misalignment_in_the_face_load_factor():
    base = {**COMPUTED, M + "l_sh": 120.0, M + "s_sh": 20.0, M + "d_sh": 22.0, M + "arrangement": "a"}
    d = set_many(pair(20, 50, 0.2, 0.0, m=2.0, P=9000.0), base)

    def mesh(**changes):
        return evaluate(set_many(d, {M + k: v for k, v in changes.items()})).stages[0].mesh

    one = mesh()
    line = one["w_t"] * one["K_V"]
    second = dict(wheel_shaft="counted", l_sh2=140.0, s_sh2=15.0, d_sh2=30.0, arrangement_2="b")
    both = mesh(**second)
    # The wheel's body, 100 mm on a shaft of 30 mm, stiffens it: K' = -0.48.
    bent = 1 - 0.3 - 0.48 * 140 * 15 / 100**2 * (100 / 30) ** 4
    assert both["f_sh"] - one["f_sh"] == pytest.approx(line * 0.023 * (abs(bent) + 0.3) * (26 / 100) ** 2)
    assert both["K_Hbeta"] > one["K_Hbeta"]
    entered = mesh(K_Hbeta_method="f_sh", f_sh=one["f_sh"])
    assert entered["K_Hbeta"] == pytest.approx(one["K_Hbeta"])
    assert mesh(K_Hbeta_method="f_sh", f_sh=30.0)["f_sh"] == 30.0
    with pytest.raises(OutOfRange, match="wheel"):
        mesh(wheel_shaft="counted", s_sh2=90.0)
    planets = planet_set(z=(24, 30, 84), planets=4, P=5000.0, n=1000.0)
    both = {
        f"train.meshes.stage{k + 1}.{n}": v
        for k in (0, 1)
        for n, v in (("K_Hbeta_method", "C"), ("l_sh", 60.0), ("s_sh", 3.0), ("d_sh", 25.0))
    }
    sun, ring = evaluate(set_many(planets, both)).stages
    lean = 2 * 0.48 * 60 * 3 / 60**2 * (60 / 25) ** 4 * (sun.mesh["b_H"] / 60) ** 2
    assert sun.mesh["f_sh"] == pytest.approx(
        sun.mesh["w_t"] * sun.mesh["K_V"] * 0.023 * (0.7 * 4 * (sun.mesh["b_H"] / 48) ** 2 + lean)
    )
    assert ring.mesh["f_sh"] == pytest.approx(ring.mesh["w_t"] * ring.mesh["K_V"] * 0.023 * lean)

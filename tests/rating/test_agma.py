"""ANSI/AGMA 2101 with I and J by AGMA 908: against geometry found on the outline, limits, seams, and ISO within a
band."""

import numpy as np
import pytest

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.gears.outline import gear_outline
from cooper.rating.agma2101 import factors
from cooper.rating.agma2101.geometry import load_sharing_ratio
from cooper.results.comparison_notes import apart
from cooper.results.evaluate import evaluate
from makers import pair

CASE = {
    "train.gears.gear2.material": {"group": "Eh", "hardness": 700},
    "train.meshes.stage1.load_at": "outer single contact",
}


def like(z1, z2, x1=0.0, x2=0.0, m=2.0, **more):
    return set_many(pair(z1, z2, x1, x2, m=m), {**CASE, **more})


@pytest.mark.parametrize(("z1", "z2", "x1", "x2"), [(21, 55, 0.0, 0.0), (17, 41, 0.32, 0.12), (30, 30, -0.1, 0.1)])
def test_y_and_the_fillet_are_those_of_the_outline(z1, z2, x1, x2):
    """The weakest parabola and the smallest radius found on the finely drawn tooth, with the load line at single
    contact."""
    s = evaluate(like(z1, z2, x1, x2)).stages[0]
    m_n = s.mesh["m_n"]
    for i, g in enumerate(s.gears):
        tooth = s.teeth[i]
        p = gear_outline(tooth, 0.0, 2e-6)
        r, angle = np.hypot(*p.T), np.arctan2(p[:, 1], p[:, 0])
        r_b = g["d_b"] / 2
        along = s.mesh["g_D"] if i == 0 else s.T2 - s.mesh["g_B"]
        d_W = 2 * np.hypot(r_b, along)
        load = np.arctan(along / r_b) - float(tooth.half_angle(d_W))
        top = r_b / np.cos(load)
        # One side of the tooth that stands on +x, below where the involute begins.
        side = (angle > 0) & (angle < np.pi / g["z"]) & (r < g["d_Ff"] / 2 + 0.02) & (r > g["d_fE"] / 2 + 1e-3)
        half, h = r[side] * np.sin(angle[side]), top - r[side] * np.cos(angle[side])
        k = np.argmin((2 * half) ** 2 / h)
        chord, height = 2 * half[k], h[k]
        phi = np.radians(s.mesh["alpha_wt"])
        Y = np.cos(phi) / np.cos(load) / (6 * height * m_n / chord**2 - np.tan(load) * m_n / chord)
        assert g["Y_AGMA"] == pytest.approx(Y, rel=2e-3)
        order = np.argsort(angle[side])
        x, y = (p[side][order][:, n] for n in (0, 1))
        dx, dy = np.gradient(x), np.gradient(y)
        curve = np.abs(dx * np.gradient(dy) - dy * np.gradient(dx)) / (dx**2 + dy**2) ** 1.5
        rho = 1 / np.quantile(curve[5:-5], 0.98)
        alpha = np.radians(20)
        H, L, M = 0.331 - 0.436 * alpha, 0.324 - 0.492 * alpha, 0.261 + 0.545 * alpha
        K_f = H + (chord / rho) ** L * (chord / height) ** M
        assert g["K_f"] == pytest.approx(K_f, rel=0.01)
        assert g["Y_J"] == pytest.approx(g["Y_AGMA"] / g["K_f"], rel=1e-12)


def test_contact_stress_is_hertz_at_the_inner_point_of_single_contact():
    s = evaluate(like(21, 55, 0.2, 0.1)).stages[0]
    m, g = s.mesh, s.gears[0]
    rho = m["g_B"] * (s.T2 - m["g_B"]) / s.T2
    K = m["K_A"] * m["K_vA"] * m["K_s"] * m["K_HA"]
    hertz = m["Z_E"] * np.sqrt(m["F_bt"] / m["b_H"] / rho * K)
    assert g["sigma_HA"] == pytest.approx(hertz, rel=1e-9)


def test_i_and_j_are_continuous_where_a_helix_begins_to_overlap_and_as_it_vanishes():
    spur = evaluate(like(21, 55)).stages[0]
    near = evaluate(like(21, 55, **{"train.meshes.stage1.beta": 0.01})).stages[0]
    assert near.mesh["Z_I"] == pytest.approx(spur.mesh["Z_I"], rel=2e-3)
    for a, b in zip(spur.gears, near.gears, strict=True):
        assert b["Y_J"] == pytest.approx(a["Y_J"], rel=2e-3)
    # The sharing ratio against the length of the contact lines, laid into the field of contact at many phases.
    for eps_a, eps_b, b in ((1.6, 1.3, 40.0), (1.45, 2.7, 30.0)):
        beta_b, p_b = 0.2, 5.0
        p_x = b / eps_b
        phase = np.linspace(0, 1, 4001)
        # A line enters the field at g = phase and leans by p_b/p_x over the width.
        lines = np.arange(-int(eps_b) - 3, int(eps_a) + 3)[:, None] + phase
        w = np.linspace(0, b, 2001)
        inside = [np.mean((g0[:, None] + w / p_x >= 0) & (g0[:, None] + w / p_x <= eps_a), axis=1) for g0 in lines]
        L_min = np.min(np.sum(inside, axis=0)) * b / np.cos(beta_b)
        assert p_b > 0
        assert float(load_sharing_ratio(eps_a, eps_b, b, p_x, beta_b)) == pytest.approx(b / L_min, rel=3e-3)


def test_life_curves_meet_and_harder_or_slower_is_never_worse():
    for kind, HB in (("through", 200.0), ("carburized", np.nan), ("nitrided", np.nan)):
        low, high = (float(factors.bending_cycle_factor(3e6 * f, HB, kind, False)) for f in (1 - 1e-9, 1 + 1e-9))
        assert low == pytest.approx(high, rel=1e-3)
    low, high = (float(factors.contact_cycle_factor(1e7 * f, False, False)) for f in (1 - 1e-9, 1 + 1e-9))
    assert low == pytest.approx(high, rel=1e-3)
    v = np.linspace(0, 30, 50)
    assert np.all(np.diff(factors.dynamic_factor(8, v)) > 0)
    assert float(factors.dynamic_factor(8, 0.0)) == 1
    assert np.all(np.diff(factors.dynamic_factor(np.arange(6, 13), 10.0)) > 0)
    for b in (25.0, 432.0):
        at = [
            float(factors.load_distribution_factor(b + e, 500.0, 0, (0.1, 5e-4, -1e-7), False, False))
            for e in (-1e-6, 1e-6)
        ]
        assert at[0] == pytest.approx(at[1], abs=2e-3)


def test_iso_and_agma_agree_within_a_band_and_say_what_parts_them():
    """Steel pairs of middling size: both safeties within a factor of two; where they differ by a quarter the cause
    is told."""
    rng, ratios, text = np.random.default_rng(7), [], 0
    for _ in range(40):
        z1, u = int(rng.integers(17, 40)), rng.uniform(1, 4)
        d = like(
            z1,
            round(z1 * u),
            rng.uniform(0, 0.3),
            rng.uniform(0, 0.2),
            m=float(rng.choice([2.0, 3.0, 4.0])),
            **{"train.meshes.stage1.beta": float(rng.choice([0.0, 12.0, 20.0]))},
        )
        s = evaluate(d).stages[0]
        for g in s.gears:
            ratios.append((g["S_HA"] / g["S_H"], g["S_FA"] / g["S_F"]))
            for kind in "HF":
                words = apart(g, s.mesh, kind)
                text += bool(words)
                assert bool(words) == (abs(np.log(g[f"S_{kind}A"] / g[f"S_{kind}"])) >= np.log(1.25))
    ratios = np.array(ratios)
    assert np.all((ratios > 0.5) & (ratios < 2.0)), (ratios.min(0), ratios.max(0))
    assert text > 0


def test_the_governing_method_makes_the_checks_and_says_where_it_cannot():
    agma = {"train.defaults.method": "ANSI/AGMA 2101-D04"}
    r = evaluate(set_many(demo("winch"), agma))
    assert {c.symbol for c in r.checks} >= {"S_FA", "S_HA"}
    assert not {c.symbol for c in r.checks} & {"S_F", "S_H"}
    tougher = evaluate(set_many(demo("winch"), {**agma, "train.defaults.reliability": "0.999"}))
    assert tougher.check("stage1.S_FA1").value == pytest.approx(r.check("stage1.S_FA1").value / 1.25)
    own = evaluate(set_many(demo("winch"), {**agma, "train.gears.gear1.material.sigma_Flim": 400.0}))
    assert "S_FA" not in own.stages[0].gears[0]
    assert any("are those of ISO 6336" in n.text for n in own.notes)
    ring = evaluate(set_many(demo("dome-ring"), agma))
    assert {c.symbol for c in ring.checks} >= {"S_Feq", "S_HA"}
    rack = evaluate(set_many(demo("dome-rack"), agma))
    assert any("rated by ISO 6336" in n.text and n.level == "warning" for n in rack.notes)


def test_flanks_of_an_internal_pair_bear_hertz_pressure_and_its_roots_go_by_iso():
    d = set_many(
        demo("dome-ring"),
        {
            "train.defaults.method": "ANSI/AGMA 2101-D04",
            "train.duty.spectrum": [],
            **{f"train.gears.gear{n + 1}.material": {"group": "Eh", "grade": "MQ", "hardness": 700.0} for n in (0, 1)},
        },
    )
    r = evaluate(d)
    s = r.stages[0]
    m, (one, ring) = s.mesh, s.gears
    # The inner point of single contact of the pinion, whose mate is hollow there.
    r_b1, r_b2 = one["d_b"] / 2, ring["d_b"] / 2
    T2 = m["a_w"] * np.sin(np.radians(m["alpha_wt"]))
    rho_1 = np.sqrt((one["d_Na"] / 2) ** 2 - r_b1**2) - np.pi * one["d_b"] / one["z"]
    rho_2 = T2 + rho_1
    assert r_b2 > r_b1
    load = (
        m["K_A"]
        * m["K_gamma"]
        * m["K_vA"]
        * m["K_s"]
        * m["K_HA"]
        * m["F_w"]
        / np.cos(np.radians(m["alpha_wt"]))
        / m["b_H"]
    )
    assert one["sigma_HA"] == pytest.approx(m["Z_E"] * np.sqrt(load * (1 / rho_1 - 1 / rho_2)), rel=1e-9)
    assert ring["sigma_HA"] == one["sigma_HA"]
    assert "S_FA" not in one
    assert {c.symbol for c in r.checks if c.stage == 0} >= {"S_HA", "S_F"}
    assert any("AGMA 908 gives no Y_J for internal" in n.text for n in r.notes)

"""Scuffing by flash and by integral temperature: against the heat equation, against each other, at every seam."""

import numpy as np
import pytest

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.rating.scuffing import flash, integral
from cooper.results.evaluate import evaluate
from makers import pair

FAST = {"train.duty.n": 6000.0, "train.duty.P": 60000.0, "train.duty.theta_oil": 70.0}


def test_the_flash_is_what_the_heat_equation_gives_for_a_band_that_moves_fast():
    """One body alone: surface temperature of a half space under a moving band by superposing instantaneous line
    sources."""
    v, half, heat_flow = 8000.0, 0.15, 400.0  # mm/s, mm, N/(mm s)
    conduct, capacity = flash.LAMBDA, flash.HEAT
    # Depth does not matter for a fast band: heat flows straight in, T(x) = integral of q dt / sqrt(pi lambda rho c t).
    # A Hertzian
    # pressure heats it as q0 sqrt(1 - (x/b)^2).
    x = np.linspace(-half, half, 20001)
    q = 2 * heat_flow / (np.pi * half) * np.sqrt(np.maximum(1 - (x / half) ** 2, 0))
    best = 0.0
    for end in np.linspace(0.2, 0.9, 71) * half:
        before = x < end - 1e-9
        t = (end - x[before]) / v
        f = q[before] / np.sqrt(np.pi * conduct * capacity)
        # The last step is integrated with the singularity taken out.
        u = np.sqrt(t)
        best = max(best, -2 * np.trapezoid(f, u))
    blok = 1.11 * heat_flow / (np.sqrt(2 * half) * flash.B_M * np.sqrt(v))
    assert blok == pytest.approx(best, rel=0.03)


def test_both_methods_start_from_the_same_flash_at_the_end_of_the_path():
    """The gathered factors X_M X_BE X_alphabeta of the integral method are Blok's flash at E under the whole load."""
    s = evaluate(set_many(pair(21, 55, 0.2, 0.1, m=3.0), FAST)).stages[0]
    m = s.mesh
    mu, w = 0.05, 300.0
    v_w = m["F_bt"] * 0 + s.gears[0]["d_w"] * 6000 * np.pi / 30 / 2000
    one = flash.flash_temperature(
        mu,
        w / np.cos(np.radians(m["alpha_t"])),
        m["g_E"],
        s.T2,
        s.ratio,
        6000 * np.pi / 30,
        0.0,
        206e3,
        206e3,
        0.3,
        0.3,
    )
    angles = tuple(np.radians(m[a]) for a in ("alpha_wt", "alpha_t", "alpha_n"))
    X_eps_args = (m["eps_alpha"], 0.8, 0.8, m["eps_gamma"])
    t = integral.integral(
        s.T2,
        m["g_E"],
        s.ratio,
        m["a_w"],
        v_w,
        w,
        m["rho_red"],
        angles,
        0.0,
        X_eps_args,
        20.0,
        0.8,
        1.0,
        1.0,
        1.0,
        12,
        70.0,
        206e3 / (1 - 0.09),
        0.0,
        True,
        nu_40=220.0,
    )
    X_Ca = 1 + 0.06 * 0.8 + 0.02 * 0.64
    at_E = t.theta_flaint / t.X_eps * X_Ca * mu / t.mu_mC
    assert float(at_E) == pytest.approx(float(one), rel=0.02)


def test_the_contact_ratio_factor_is_the_mean_of_a_flash_shared_by_two_pairs():
    """X_eps against the mean of a flash that grows evenly away from the pitch point with a sharing that rises and
    falls in line.

    The true flash grows faster than evenly towards the ends, so that its mean is less; within a fifth.
    """
    for e1, e2 in ((0.7, 0.7), (0.9, 0.7), (0.6, 0.95), (1.05, 0.7), (0.7, 1.05)):
        e = e1 + e2
        g = np.linspace(-e2, e1, 200001)
        single = (g > e1 - 1) & (g < 1 - e2)
        line = np.where(g <= e1 - 1, (g + e2) / (e - 1), (e1 - g) / (e - 1))
        share = np.where(single, 1.0, (1 + line) / 3) ** 0.75
        mean = np.mean(np.abs(g) / e1 * share)
        assert 0.8 * mean < float(integral.contact_ratio_factor(e, e1, e2)) < mean
    for e1 in (1.0,):
        low, high = (float(integral.contact_ratio_factor(e1 + d + 0.7, e1 + d, 0.7)) for d in (-1e-9, 1e-9))
        assert low == pytest.approx(high, rel=0.02)


def test_sharing_is_whole_between_the_points_of_single_contact_and_falls_to_a_third_outside():
    g = np.array([5.0, 7.99, 8.0, 10.0, 12.0, 12.01, 15.0])
    shared = flash.load_sharing_factor(g, 5.0, 8.0, 12.0, 15.0, 7, 1.6, 0.0)
    assert shared == pytest.approx([1 / 3, 2 / 3 - 0.0011, 1, 1, 1, 2 / 3 - 0.0011, 1 / 3], abs=2e-3)
    coarse = flash.load_sharing_factor(g, 5.0, 8.0, 12.0, 15.0, 10, 1.6, 0.0)
    assert np.all(coarse >= shared)
    helical = flash.load_sharing_factor(g, 5.0, 8.0, 12.0, 15.0, 7, 1.6, 2.0)
    assert helical[3] == pytest.approx(1 / 1.6)
    assert helical[0] == pytest.approx(1.3 / 1.6)


def test_more_load_speed_or_roughness_never_helps_and_a_tougher_oil_does():
    d = set_many(pair(21, 55, 0.2, 0.1, m=3.0), FAST)

    def safeties(**changes):
        m = evaluate(set_many(d, {k.replace("__", "."): v for k, v in changes.items()})).stages[0].mesh
        return np.array([m["S_B"], m["S_int"]])

    base = safeties()
    assert np.all(base < 8)
    for change in (
        {"train__duty__P": 90000.0},
        {"train__duty__n": 9000.0, "train__duty__P": 90000.0},
        {"train__gears__gear1__Rz_H": 12.0},
        {"train__duty__theta_oil": 100.0},
    ):
        assert np.all(safeties(**change) < base), change
    assert np.all(safeties(train__defaults__lubricant__S_FZG=14) > base)
    assert np.all(safeties(train__defaults__lubrication="submerged") > base)
    # Tip relief is counted on for class 6 and finer alone.
    fine = {f"train__gears__gear{n + 1}__Q": 6 for n in (0, 1)}
    relief = {"train__meshes__stage1__C_a": 30.0}
    assert safeties(**relief)[1] == base[1]
    assert safeties(**fine, **relief)[1] > 1.05 * safeties(**fine)[1] > 1.1 * base[1]
    assert (
        "S_B"
        not in evaluate(
            set_many(demo(), {"train.gears.gear2.material": {"group": "POM", "grade": "typical", "hardness": 80}})
        )
        .stages[0]
        .mesh
    )


def test_treated_flanks_have_their_structural_factor():
    for chosen, X_W in (
        (("phosphated", "phosphated"), 1.25),
        (("copper plated", "copper plated"), 1.5),
        (("copper plated", "none"), 1.0),
        (("much retained austenite", "none"), 0.85),
        (("little retained austenite",) * 2, 1.15),
    ):
        d = set_many(
            pair(21, 55, 0.2, 0.1, m=3.0), {f"train.gears.gear{n + 1}.treatment": t for n, t in enumerate(chosen)}
        )
        m = evaluate(d).stages[0].mesh
        assert m["X_W"] == X_W
        assert m["theta_S"] == pytest.approx(80 + (0.85 + 1.4 * X_W) * 144)

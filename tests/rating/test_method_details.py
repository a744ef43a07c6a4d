"""Single terms of the methods that are easily left out: each by hand or by another way than the program's."""

from math import exp, log, pi

import numpy as np
import pytest

from cooper.demo import demo
from cooper.document.models import Design
from cooper.editing.edit import give_kind, give_size, set_many
from cooper.editing.make_sets import with_set
from cooper.editing.stages import add_stage, split_stage
from cooper.errors import OutOfRange
from cooper.gears.path_of_contact import pairs_in_contact
from cooper.kinds.straight_rack import RACK
from cooper.rating.iso6336.contact_stress import single_contact_factors
from cooper.rating.iso6336.form import load_distribution_factor
from cooper.results.evaluate import evaluate
from cooper.results.solve_stage import module_of
from cooper.results.why import why
from cooper.running.mesh_loss import mean_distance
from cooper.stock.materials import material_numbers
from makers import pair, planet_set

B = "train."
M = B + "meshes.stage1."


def test_the_load_share_of_helical_teeth_joins_that_of_spur_and_of_full_overlap():
    for eps_n, spur in ((1.6, 1.0), (2.4, 0.5**0.5)):
        assert float(load_distribution_factor(eps_n, 1e-9)) == pytest.approx(spur, rel=1e-6)
        assert float(load_distribution_factor(eps_n, 1.0)) == pytest.approx(eps_n**-0.5, rel=1e-9)
        assert float(load_distribution_factor(eps_n, 0.5)) == pytest.approx(((spur**2 + 1 / eps_n) / 2) ** 0.5)
    assert float(load_distribution_factor(2.4, 1e-9)) == pytest.approx(float(load_distribution_factor(2.4)), rel=0.02)


@pytest.mark.parametrize(
    ("kind", "z", "planets", "n_p"),
    [
        ("planetary", (24, 30, 84), 4, (4, 4)),
        ("stepped", (24, 30, 20, 74), 3, (3, 3)),
        ("idler", (24, 30, 40), 1, (2, 2)),
    ],
)
def test_every_mesh_that_warms_a_gear_at_once_adds_half_to_its_bulk_temperature(kind, z, planets, n_p):
    r = evaluate(planet_set(kind=kind, z=z, planets=planets))
    for s, n in zip(r.stages, n_p, strict=True):
        m = s.mesh
        assert (m["theta_int"] - 60.0) / m["theta_flaint"] == pytest.approx(0.7 * (1 + n) / 2 + 1.5)
        # With the oil of the same bulk and no rise over it the flash method is left with its flash alone.
        assert m["X_mp"] == (1 + n) / 2
        rise = m["theta_M"] - 60.0
        alone = evaluate(set_many(planet_set(kind=kind, z=z, planets=planets), {"train.defaults.lubrication": "spray"}))
        assert rise > 0 and any(t.mesh["theta_M"] - 60.0 == pytest.approx(1.2 * rise) for t in alone.stages)


def test_new_flanks_warm_by_their_roughness_and_a_note_says_what_that_does():
    d = pair()
    run_in = evaluate(d)
    new = evaluate(set_many(d, {"train.defaults.phi_E": 0.0}))
    m, hot = run_in.stages[0].mesh, new.stages[0].mesh
    Ra = 6.0 / 6
    assert hot["theta_flaint"] / m["theta_flaint"] == pytest.approx(1 + 30 * Ra / m["rho_red"])
    assert any("run in" in n.text and f"{hot['S_int']:.2f}" in n.text for n in run_in.notes)
    assert not any("run in" in n.text and n.level == "warning" for n in new.notes)


def test_helix_modifications_count_as_the_table_has_them_and_the_least_misalignment_stays():
    base = {M + "K_Hbeta_method": "C", M + "K_V_method": "B", M + "s_sh": 12.0, M + "l_sh": 80.0, M + "d_sh": 20.0}
    d = set_many(pair(P=9000.0), base)
    plain = evaluate(d).stages[0].mesh
    for name, B_1, B_2 in (
        ("crowned", 0.5, 0.5),
        ("crowned for manufacture", 1, 0.5),
        ("corrected", 0.1, 1),
        ("corrected and crowned", 0.1, 0.5),
        ("end relief", 0.7, 0.7),
    ):
        m = evaluate(set_many(d, {M + "helix_modification": name})).stages[0].mesh
        assert m["F_betax"] == pytest.approx(1.33 * B_1 * plain["f_sh"] + B_2 * plain["f_ma"])
    # A stiff shaft and a fine class leave less than half the helix slope tolerance; f_Hbeta of class 5, width 28, by
    # hand.
    fine = set_many(
        d,
        {
            M + "helix_modification": "corrected and crowned",
            M + "s_sh": 0.0,
            M + "d_sh": 40.0,
            M + "K_V_method": "C",
            B + "gears.gear1.Q": 8,
            B + "gears.gear2.Q": 2,
        },
    )
    m = evaluate(fine).stages[0].mesh
    assert m["F_betax"] >= 0.5 * m["f_ma"] / np.sqrt(1 + (1 / 8) ** 2) * 0.999
    assert m["F_betax"] > 1.33 * 0.1 * m["f_sh"] + 0.5 * m["f_ma"] - 1e-9 or m["F_betax"] == pytest.approx(
        0.005 * m["w_t"] * m["K_V"]
    )
    old = d.plain()
    old["train"]["meshes"]["stage1"]["helix_modification"] = "crowned to load"
    assert Design.from_data(old).train.stages[0].mesh.helix_modification == "corrected and crowned"


def test_agma_counts_the_narrower_width_alone():
    d = set_many(demo("winch"), {})
    narrow = evaluate(set_many(d, {B + "gears.gear1.b": d.train.stages[0].gears[1].b})).stages[0].gears
    wide = evaluate(set_many(d, {B + "gears.gear1.b": 3 * d.train.stages[0].gears[1].b})).stages[0].gears
    for a, b in zip(narrow, wide, strict=True):
        assert a["S_FA"] == pytest.approx(b["S_FA"], rel=1e-12)
    assert wide[0]["S_F"] > narrow[0]["S_F"]


def test_mean_stress_of_static_strength_is_its_own():
    """Annex B by hand, R = -1.2: M 0.8 - 0.15 Y_S endurance and 0.7 static for case-hardened teeth, 0.3 and 0.5 for
    through-hardened."""
    d = set_many(pair(), {B + f"gears.gear{n + 1}.bending": "both ways" for n in (0, 1)})
    one, two = evaluate(set_many(d, {"train.duty.L_h": 1e5})).stages[0].gears

    def Y_M(M):
        return 1 / (1 + 1.2 * (1 - M) / (1 + M))

    assert one["Y_Mst"] == pytest.approx(Y_M(0.7)) == pytest.approx(0.8252, abs=1e-4)
    assert one["Y_M"] == pytest.approx(Y_M(0.8 - 0.15 * one["Y_S"]))
    assert two["Y_Mst"] == pytest.approx(Y_M(0.5)) == pytest.approx(0.7143, abs=1e-4)
    assert two["Y_M"] == pytest.approx(Y_M(0.3)) == pytest.approx(0.6075, abs=1e-4)
    # Between both ends of the life curve on a log line, as every other factor.
    share = 0.4
    h = 10 ** (4 + share * (np.log10(3e6) - 4)) / (60 * 1400 * 17 / 41)
    short = evaluate(set_many(d, {"train.duty.L_h": h})).stages[0].gears[1]
    assert short["Y_M"] == pytest.approx(Y_M(0.5) ** (1 - share) * Y_M(0.3) ** share, rel=1e-6)


def test_flank_and_root_of_a_material_end_at_their_own_hardness():
    at_600 = material_numbers("IF", "MQ", 600.0)
    assert float(at_600.sigma_Flim) == 369.0
    assert float(at_600.sigma_Hlim) == pytest.approx(0.541 * 600 + 882)
    soft = material_numbers("V carbon", "MQ", 120.0)
    assert float(soft.sigma_Flim) == pytest.approx(0.240 * 120 + 163)
    assert float(soft.sigma_Hlim) == pytest.approx(0.925 * 135 + 360)


def test_helical_teeth_that_hand_over_by_their_helix_alone_stand_as_geometry():
    short_teeth = {M + "beta": 25.0, B + "gears.gear1.d_a": 57.0, B + "gears.gear2.d_a": 141.0}
    r = evaluate(set_many(pair(20, 50), short_teeth))
    s = r.stages[0]
    assert s.mesh["eps_alpha"] < 1 < s.mesh["eps_gamma"]
    assert not any(c.symbol.startswith("S_") for c in r.checks)
    assert any(n.level == "warning" and "does not rate such a pair" in n.text for n in r.notes)
    with pytest.raises(OutOfRange, match="total contact ratio"):
        evaluate(set_many(pair(20, 50), {**short_teeth, B + "gears.gear2.b": 3.0}))
    Z_B, _ = single_contact_factors(np.radians(20), 39.0, 37.588, 20, 100.0, 93.969, 50, 1.2)
    assert np.isnan(Z_B)


def test_losses_with_any_number_of_pairs_are_those_of_sharing_laid_out_along_the_path():
    """Every pair of teeth stepped through a base pitch by hand: how many touch, how far from the pitch point each."""
    rng = np.random.default_rng(4)
    phase = (np.arange(4000) + 0.5) / 4000
    for _ in range(60):
        e_1, e_2 = rng.uniform(-0.4, 1.9, 2)
        if e_1 + e_2 < 1:
            continue
        x = phase[:, None] + np.arange(-5, 5)
        on = (x <= e_1) & (x >= -e_2)
        expected = np.mean(np.sum(np.where(on, np.abs(x), 0), axis=1) / np.sum(on, axis=1))
        assert float(mean_distance(e_1, e_2)) == pytest.approx(expected, rel=2e-3)
        touching = np.broadcast_to(np.sum(on, axis=1)[:, None], x.shape)[on]
        assert np.mean(pairs_in_contact(x[on], -e_2, e_1, 1.0) == touching) > 0.999
    # The standard's closed form where it holds, and with the sign of a pitch point beyond the path.
    for e_1, e_2 in ((0.8, 0.9), (1.3, 0.3), (1.5, -0.2)):
        closed = (e_1 * abs(e_1) + e_2 * abs(e_2) + (1 - e_1) * abs(1 - e_1) + (1 - e_2) * abs(1 - e_2)) / 4
        assert float(mean_distance(e_1, e_2)) == pytest.approx(closed)


@pytest.mark.parametrize("size", ["d_1", "d_2"])
def test_helical_stages_sized_by_a_diameter_keep_their_module_as_they_are_changed(size):
    d = set_many(pair(20, 60, 0.0, 0.0), {M + "beta": 20.0})
    d = give_size(d, 0, size, evaluate(d).stages[0].gears[0 if size == "d_1" else 1]["d"])

    def module(design, k=0):
        s = design.train.stages[k]
        return module_of(s.mesh, s.gears[0].z, s.gears[1].z)

    assert module(d) == pytest.approx(2.5)
    assert module(split_stage(d, 0)) == pytest.approx(2.5)
    assert module(give_kind(d, 0, RACK)) == pytest.approx(2.5)
    for kind in ("planetary", "idler"):
        assert module(with_set(d, 0, kind)) == pytest.approx(2.5)
    grown, straight = (add_stage(x, 0) for x in (d, set_many(pair(20, 60, 0.0, 0.0), {M + "beta": 20.0})))
    assert module(grown, 1) == module(straight, 1)


def test_a_grinding_notch_raises_the_root_stress_and_too_deep_a_one_is_refused():
    notched = set_many(pair(), {B + "gears.gear1.t_g": 0.1, B + "gears.gear1.rho_g": 0.4})
    a, b = evaluate(pair()).stages[0].gears[0], evaluate(notched).stages[0].gears[0]
    assert b["sigma_F"] / a["sigma_F"] == pytest.approx(1.3 / (1.3 - 0.6 * 0.5)) == b["Y_g"]
    check = next(c for c in evaluate(notched).checks if c.symbol == "S_F" and c.index == 1)
    assert [s.symbol for s in why(evaluate(notched).stages[0], check).acting][:4] == [
        "sigma_Fload",
        "Y_F",
        "Y_S",
        "Y_g",
    ]
    with pytest.raises(OutOfRange, match="too deep"):
        set_many(pair(), {B + "gears.gear1.t_g": 2.0, B + "gears.gear1.rho_g": 0.4})
    # Stock beyond the protuberance is ground off down to a notch of that depth; the rest of the tooth is the finished
    # one.
    stock = set_many(pair(), {B + "gears.gear1.pr_P": 0.15, B + "gears.gear1.q_P": 0.25, B + "gears.gear1.rho_g": 0.4})
    plain = set_many(pair(), {B + "gears.gear1.pr_P": 0.15, B + "gears.gear1.q_P": 0.15})
    c, d = evaluate(stock).stages[0].gears[0], evaluate(plain).stages[0].gears[0]
    assert c["t_g"] == pytest.approx(0.1)
    assert c["sigma_F"] == pytest.approx(1.3 / (1.3 - 0.6 * 0.5) * d["sigma_F"])
    assert any("protuberance of 0.15" in n.text and n.level == "warning" for n in evaluate(stock).notes)
    with pytest.raises(OutOfRange, match="stock less protuberance"):
        set_many(stock, {B + "gears.gear1.q_P": 1.9})


def test_a_helix_beyond_thirty_degrees_is_told():
    for beta, text in ((30.0, False), (31.0, True)):
        assert (
            any("30°, to which ISO 6336" in n.text for n in evaluate(set_many(pair(), {M + "beta": beta})).notes)
            == text
        )


def test_least_safeties_go_by_gear_and_by_kind_of_failure_and_a_grade_of_agma_can_be_entered():
    d = set_many(pair(), {"train.defaults.S_Fmin": 1.4, "train.defaults.S_Fstmin": 1.9, B + "gears.gear2.S_Fmin": 2.5})
    limits = {c.key.split(".")[1]: c.limit for c in evaluate(d).checks if c.symbol in ("S_F", "S_Fst", "S_H", "S_Hst")}
    assert limits == {
        "S_F1": 1.4,
        "S_F2": 2.5,
        "S_Fst1": 1.9,
        "S_Fst2": 1.9,
        "S_H1": 1.0,
        "S_H2": 1.0,
        "S_Hst1": 1.0,
        "S_Hst2": 1.0,
    }
    by_class, entered = (evaluate(set_many(pair(), {M + "A_v": A})).stages[0].mesh for A in (None, 10))
    # Grade 10 by hand: B = 0.25 * 5^(2/3), A = 50 + 56 (1 - B).
    B_v = 0.25 * 5 ** (2 / 3)
    A_v = 50 + 56 * (1 - B_v)
    assert entered["K_vA"] == pytest.approx(((A_v + np.sqrt(200 * entered["v_wt"])) / A_v) ** B_v)
    assert by_class["A_v"] == 7 and entered["K_vA"] > by_class["K_vA"]


def test_rim_and_web_of_a_wheel_count_in_root_stiffness_mass_and_inertia():
    solid = evaluate(pair())
    d_f = solid.stages[0].gears[1]["d_fE"]
    rim, web, at = 4.0, 8.0, "train.gears.gear2"
    light = evaluate(set_many(pair(), {f"{at}.d_i": d_f - 2 * rim, f"{at}.b_s": web, f"{at}.d_bore": 20.0}))
    (g, m), before = (light.stages[0].gears[1], light.stages[0].mesh), solid.stages[0].gears[1]
    assert g["s_R"] == pytest.approx(rim, abs=1e-9)
    # ISO 6336-3, 9: Y_B = 1.6 ln(2.242 h_t/s_R) below s_R = 1.2 h_t.
    assert g["Y_B"] == pytest.approx(1.6 * log(2.242 * g["h"] / rim))
    C_R = (1 + (1 + log(web / 26) / (5 * exp(rim / 2.5 / 5)))) / 2
    assert m["C_R"] == pytest.approx(C_R)
    assert m["c_s"] == pytest.approx(C_R * solid.stages[0].mesh["c_s"])
    gone = pi / 4 * ((d_f - 2 * rim) ** 2 - 20**2) * (26 - web) + pi / 4 * 20**2 * 26
    assert g["mass"] == pytest.approx(before["mass"] - gone * before["density"] * 1e-9)
    assert light.stages[0].mesh["m_red"] < solid.stages[0].mesh["m_red"]
    with pytest.raises(OutOfRange, match="rim"):
        evaluate(set_many(pair(), {f"{at}.d_i": d_f - 1.0}))
    with pytest.raises(OutOfRange, match="root circle"):
        evaluate(set_many(pair(), {f"{at}.d_i": d_f + 1.0}))

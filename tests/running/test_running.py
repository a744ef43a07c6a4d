import numpy as np
import pytest

from cooper.editing.edit import set_at
from cooper.gears.involute import inv
from cooper.results.evaluate import evaluate
from makers import pair


def test_loss_factor_is_the_integral_of_sliding_over_the_path_of_contact():
    """Energy balance: friction work of every contact, load shared equally in double contact, over one base pitch."""
    m = evaluate(pair()).stages[0].mesh
    g = np.linspace(m["g_A"], m["g_E"], 400_001)
    share = np.where((g >= m["g_B"]) & (g <= m["g_D"]), 1.0, 0.5)
    # Sliding speed over pitch line speed: |g - g_C| (omega_1 + omega_2) / (r_w1 omega_1); force along the line F_bt.
    r_w1 = m["a_w"] / (1 + m["u"])
    sliding = np.abs(g - m["g_C"]) * (1 + 1 / m["u"]) / r_w1
    power_share = np.trapezoid(share * sliding, g) / m["p_et"]
    # F_bt = F_wt/cos(alpha_wt), and H_V is referred to F_wt v_wt.
    assert m["H_V"] == pytest.approx(power_share / np.cos(np.radians(m["alpha_wt"])), rel=1e-4)


def test_power_in_less_mesh_loss_is_power_out():
    r = evaluate(pair())
    t = r.train
    assert t["P_in"] - r.stages[0].mesh["P_VZ"] == pytest.approx(t["P_out"], rel=1e-12)
    assert t["T_out"] * t["n_out"] * np.pi / 30 == pytest.approx(t["P_out"], rel=1e-12)


def test_backlash_vanishes_at_the_solved_centre_distance_and_grows_with_it():
    """Without allowances the play is zero at a_w; a small shift of the centres gives 2 tan(alpha_wt) of it."""
    design = pair()
    for i in (0, 1):
        for name in ("E_sns", "E_sni"):
            design = set_at(design, f"train.gears.gear{i + 1}.{name}", 0.0)
    design = set_at(set_at(design, "train.meshes.stage1.A_as", 1e-4), "train.meshes.stage1.A_ai", 0.0)
    m = evaluate(design).stages[0].mesh
    assert abs(m["j_wt"]) < 1e-12
    assert m["j_wt_max"] == pytest.approx(2 * np.tan(np.radians(m["alpha_wt"])) * 1e-4, rel=1e-4)


def test_backlash_by_direct_subtraction_of_thicknesses_on_the_working_circles():
    r = evaluate(pair())
    s, m = r.stages[0], r.stages[0].mesh
    used = 0.0
    for g, t in zip(s.gears, s.teeth, strict=True):
        alpha_w = np.arccos(g["d_b"] / g["d_w"])
        used += g["d_w"] * (float(t.s_t()) / g["d"] + inv(np.radians(20)) - inv(alpha_w))
    pitch = np.pi * s.gears[0]["d_w"] / s.gears[0]["z"]
    assert m["j_wt"] == pytest.approx(pitch - used, abs=1e-12)

"""Helical pairs: the limit of no helix, and each number by a second way."""

import numpy as np
import pytest

from cooper.editing.edit import give_shift, give_size, set_at, set_many, shifts_now
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate
from cooper.results.result_tree import StageResults
from makers import pair


def helical(beta: float, **more):
    return set_at(pair(**more), "train.meshes.stage1.beta", beta)


def stage(design) -> StageResults:
    return evaluate(design).stages[0]


def test_a_vanishing_helix_gives_the_spur_pair():
    spur, nearly = stage(helical(0.0)), stage(helical(1e-7))
    for a, b in ((spur.mesh, nearly.mesh), *zip(spur.gears, nearly.gears, strict=True)):
        for symbol, value in a.items():
            if symbol not in ("p_z", "beta", "beta_b", "F_a", "eps_beta"):
                assert b[symbol] == pytest.approx(value, rel=1e-5, abs=1e-7), symbol


def test_geometry_by_hand_from_the_helix_on_the_cylinders():
    s = stage(helical(20.0))
    m, (g1, _) = s.mesh, s.gears
    beta = np.radians(20)
    assert g1["d"] == pytest.approx(17 * 2.5 / np.cos(beta))
    # Lead is the same on every cylinder: tan(beta)/d is constant.
    lead = np.pi * g1["d"] / np.tan(beta)
    assert g1["p_z"] == pytest.approx(lead)
    assert np.pi * g1["d_b"] / np.tan(np.radians(m["beta_b"])) == pytest.approx(lead)
    # Overlap ratio: how many axial pitches stand across the face width in contact.
    axial_pitch = np.pi * 2.5 / np.sin(beta)
    assert m["eps_beta"] == pytest.approx(m["b_H"] / axial_pitch)
    assert m["eps_gamma"] == pytest.approx(m["eps_alpha"] + m["eps_beta"])
    # Normal tooth thickness and base pitch from their transverse counterparts.
    assert m["p_et"] * np.cos(np.radians(m["beta_b"])) == pytest.approx(np.pi * 2.5 * np.cos(np.radians(20)))


def test_force_on_the_flank_has_the_components_stated():
    """The flank force stands normal to the helicoid: its transverse part on the line of action, its axial part by
    beta_b."""
    s = stage(helical(25.0))
    m = s.mesh
    axial = m["F_bt"] * np.tan(np.radians(m["beta_b"]))
    assert m["F_a"] == pytest.approx(axial, rel=1e-12)
    torque = m["F_bt"] * s.gears[0]["d_b"] / 2000
    assert torque == pytest.approx(evaluate(helical(25.0)).train["T_in"])


@pytest.mark.parametrize("beta", [5.0, 15.0, 30.0])
def test_contact_stress_is_hertz_on_the_inclined_line_of_contact(beta):
    m = stage(helical(beta)).mesh
    b_b, alpha_w = np.radians(m["beta_b"]), np.radians(m["alpha_wt"])
    force = m["F_bt"] / np.cos(b_b)
    line = m["b_H"] / np.cos(b_b)
    rho = m["g_C"] * m["g_C"] * m["u"] / (m["g_C"] * (1 + m["u"])) / np.cos(b_b)
    E_red = 1 / (2 * (1 - 0.09) / 206e3)
    assert m["sigma_H0"] / (m["Z_eps"] * m["Z_beta"]) == pytest.approx(
        np.sqrt(force / line * E_red / (np.pi * rho)), rel=1e-12
    )
    assert m["rho_red"] == pytest.approx(rho, rel=1e-12)
    assert m["H_V"] * np.cos(b_b) > 0
    assert 0 < alpha_w < np.pi / 4


def test_factors_run_smoothly_from_spur_to_full_overlap():
    """No step at an overlap of 1, where the standard changes formulas."""
    full = stage(helical(20.0)).mesh["eps_beta"] / 26
    b_one = 1.0 / full
    sides = []
    for b in (b_one * (1 - 1e-7), b_one * (1 + 1e-7)):
        d = set_many(helical(20.0), {f"train.gears.gear{i + 1}.b": b for i in (0, 1)})
        sides.append(stage(d))
    for i in (0, 1):
        for symbol in ("S_H", "S_F", "Z_BD", "Y_F", "Y_beta"):
            assert sides[0].gears[i][symbol] == pytest.approx(sides[1].gears[i][symbol], rel=1e-5), symbol
    assert sides[1].gears[0]["Z_BD"] == pytest.approx(np.sqrt(1.2), rel=1e-5)
    assert sides[1].mesh["K_V"] == pytest.approx(sides[0].mesh["K_V"], rel=1e-5)


def test_shift_distance_and_diameter_solve_back_on_a_helical_pair():
    base = helical(18.0)
    r = evaluate(base)
    now = shifts_now(r.stages[0])
    again = evaluate(give_shift(base, 0, "a_w", now["a_w"], "x_2", now))
    assert again.stages[0].gears[1]["x"] == pytest.approx(now["x_2"], abs=1e-10)
    sized = evaluate(give_size(base, 0, "d_1", r.stages[0].gears[0]["d"]))
    assert sized.stages[0].mesh["m_n"] == pytest.approx(2.5, rel=1e-12)
    # Zero backlash at the solved distance also with a helix: play comes from the allowances alone.
    m = r.stages[0].mesh
    thinning = 4 * 0.075 / 2 / np.cos(np.radians(18.0))
    assert m["j_wt"] == pytest.approx(thinning * r.stages[0].gears[0]["d_w"] / r.stages[0].gears[0]["d"], rel=1e-9)


@pytest.mark.parametrize(("field", "value"), [("beta", -5.0), ("beta", 60.0), ("hand", "up"), ("f_ZCa", 0.5)])
def test_nonsense_of_the_helix_is_refused(field, value):
    with pytest.raises(OutOfRange) as fault:
        set_at(pair(), f"train.meshes.stage1.{field}", value)
    assert field in str(fault.value)

"""Values that are published, from memory and not from print (`published.json` says how sure each is)."""

import json
from pathlib import Path

import numpy as np
import pytest

from cooper.editing.edit import set_many
from cooper.gears.measure import over_two_balls
from cooper.gears.tooth import least_z
from cooper.rating.iso6336.form import form_factor, root_section, stress_correction_factor
from cooper.rating.lewis import lewis_form_factor
from cooper.results.evaluate import evaluate
from makers import pair, tooth

PINS = json.loads((Path(__file__).parent / "published.json").read_text(encoding="utf-8"))
B = "train."
M = 3.0


def agma(z_1, z_2, at="outer single contact"):
    gear = {"x": 0.0, "h_fP": 1.25, "rho_fP": 0.25, "E_sns": -0.024 * M, "E_sni": -0.024 * M, "Q": 6}
    d = set_many(
        pair(z_1, z_2, 0.0, 0.0, m=M),
        {f"{B}gears.gear{n + 1}.{k}": v for n in (0, 1) for k, v in gear.items()} | {B + "meshes.stage1.load_at": at},
    )
    return evaluate(d).stages[0]


def rows(name):
    return [pytest.param(*map(int, k.split("/")), v, id=k) for k, v in PINS[name]["rows"].items()]


@pytest.mark.parametrize(("z_1", "z_2", "published"), rows("agma908_I_20deg_spur_equal_addendum"))
def test_pitting_geometry_factor_of_agma(z_1, z_2, published):
    assert agma(z_1, z_2).mesh["Z_I"] == pytest.approx(published, abs=0.0006)


@pytest.mark.parametrize(
    ("z_1", "z_2", "published", "at"),
    [
        pytest.param(*p.values, at, id=f"{p.id} {at}")
        for name, at in (
            ("agma908_J_20deg_spur_outer_single_contact", "outer single contact"),
            ("agma908_J_20deg_spur_tip", "tip"),
        )
        for p in rows(name)
    ],
)
def test_bending_geometry_factor_of_agma(z_1, z_2, published, at):
    assert [g["Y_J"] for g in agma(z_1, z_2, at).gears] == pytest.approx(published, abs=0.006)


@pytest.mark.parametrize(
    ("z", "published"), [(int(k), v) for k, v in PINS["Y_Fa_Y_Sa_tip_rack_1.25_0.38"]["rows"].items()]
)
def test_form_and_stress_correction_of_racks_read_from_the_curves(z, published):
    t = tooth(float(z), m=1.0)
    # With one pair in contact all the load acts at the tip.
    section = root_section(t.z, 1.0, 0.0, 0.0, t.rack, t.d_a, 1.0)
    result = float(form_factor(section, 1.0, t.rack.alpha_n)), float(stress_correction_factor(section))
    assert result == pytest.approx(tuple(published), rel=0.008)


@pytest.mark.parametrize(("z", "published"), [(int(k), v) for k, v in PINS["over_wires_1.728_over_P"]["rows"].items()])
def test_size_over_wires_in_inches(z, published):
    t = tooth(float(z), m=25.4)
    assert float(over_two_balls(t, 1.728 * 25.4)) / 25.4 == pytest.approx(published, abs=0.00011)


def test_customary_limits():
    limits = PINS["limits"]
    for alpha in (14.5, 20, 25):
        t = tooth(20.0, alpha=alpha, h_fP=1.25, rho=0.25 / (1 - np.sin(np.radians(alpha))) if alpha > 14.5 else 0.2)
        # The straight part of a tool of one module below its datum line decides.
        assert 2 / np.sin(np.radians(alpha)) ** 2 == pytest.approx(limits[f"undercut_{alpha:g}"], abs=6e-4)
        if alpha > 14.5:
            assert float(least_z(0.0, 0.0, t.rack)) == pytest.approx(limits[f"undercut_{alpha:g}"], abs=6e-4)
    for z in (20, 40):
        assert evaluate(pair(20, z, 0.0, 0.0)).stages[0].mesh["eps_alpha"] == pytest.approx(
            limits[f"eps_alpha_20_{z}"], abs=6e-4
        )


@pytest.mark.parametrize(("z", "published"), [(int(k), v) for k, v in PINS["lewis_Y_20deg_full_depth"]["rows"].items()])
def test_lewis_factor_of_the_true_tooth(z, published):
    """The textbooks' parabola stands on another root: within 3 % from 26 teeth to 150, 12 % beside."""
    t = tooth(float(z), m=1.0, rho=0.3)
    assert float(lewis_form_factor(t, 0.0)) == pytest.approx(published, rel=0.03 if 26 <= z <= 150 else 0.12)

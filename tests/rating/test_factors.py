"""Each influence factor alone: its neutral point, its direction, no step where its formula changes."""

import numpy as np
import pytest

from cooper.rating.iso6336.contact_strength import (
    equivalent_roughness,
    lubricant_factor,
    roughness_factor,
    static_work_hardening_factor,
    velocity_factor,
    work_hardening_factor,
)
from cooper.rating.iso6336.contact_stress import contact_ratio_factor, single_contact_factors, zone_factor
from cooper.rating.iso6336.life import between, endurance_share, life_factor
from cooper.rating.iso6336.nominal_load import K1_HELICAL, K1_SPUR, dynamic_factor_c, root_face_load_factor
from cooper.rating.iso6336.root_stress import (
    helix_factor_root,
    notch_sensitivity,
    rim_factor,
    size_factor,
    surface_factor,
)
from cooper.running.mesh_loss import friction_coefficient
from cooper.running.viscosity import kinematic_viscosity
from cooper.stock.materials import groups, is_standard, material_numbers


def smooth(f, at, step=1e-6, rel=1e-4):
    """No jump of f across a place where its formula changes."""
    assert float(f(at * (1 - step))) == pytest.approx(float(f(at * (1 + step))), rel=rel)


def test_contact_strength_factors_change_formula_without_a_step():
    for limit in (850.0, 1200.0):
        smooth(lambda s: lubricant_factor(s, 100.0), limit)
        smooth(lambda s: velocity_factor(s, 3.0), limit)
        smooth(lambda s: roughness_factor(s, 6.0, 6.0, 8.0), limit)
    for hardness in (130.0, 470.0):
        smooth(lambda h: work_hardening_factor(h, np.nan, 1.0, 4.0, 3.0), hardness)
        smooth(static_work_hardening_factor, hardness)
    for ratio in (1.2, 1.7):
        # The standard's line meets its ends to the third decimal, not exactly.
        smooth(lambda r: work_hardening_factor(200.0, 200.0 * r, 0.0, 4.0, 10.0), ratio, rel=0.03)


def test_contact_strength_factors_are_neutral_where_the_test_gears_ran():
    sigma = np.array([600.0, 1000.0, 1500.0])
    # Z_L is 1 for 100 mm2/s at 50 degrees C, which is some 167 at 40.
    assert lubricant_factor(sigma, 167.5) == pytest.approx(1.0, abs=1e-3)
    assert velocity_factor(sigma, 10.0) == pytest.approx(1.0, abs=0.01)
    assert roughness_factor(sigma, 3.0, 3.0, 10.0) == pytest.approx(1.0)
    grid = np.linspace(5, 1000, 60)
    assert np.all(np.diff(lubricant_factor(1500.0, grid)) > 0)
    assert np.all(np.diff(velocity_factor(1500.0, grid / 10)) > 0)
    assert np.all(np.diff(roughness_factor(1500.0, grid, grid, 10.0)) < 0)
    R = equivalent_roughness(np.array([0.1, 4.0, 90.0]), 4.0, 10.0, 150.0, 10.0)
    assert list(R) == pytest.approx([3.0, 4.0, 16.0], rel=0.01)


@pytest.mark.parametrize("group", [g for g in groups() if is_standard(g)])
def test_root_strength_factors_of_every_group(group):
    m = material_numbers(group, "MQ", float(groups()[group]["hardness_default"]))
    smooth(lambda mod: size_factor(mod, m.size_a, m.size_b, m.size_least), 5.0)
    modules = np.linspace(0.5, 60, 200)
    assert np.all(np.diff(size_factor(modules, m.size_a, m.size_b, m.size_least)) <= 0)
    assert float(size_factor(60.0, m.size_a, m.size_b, m.size_least)) == float(m.size_least)
    smooth(lambda rz: surface_factor(rz, m.surface_a, m.surface_b, m.surface_n, m.surface_smooth), 1.0, rel=0.013)
    rz = np.linspace(1, 40, 100)
    assert np.all(np.diff(surface_factor(rz, m.surface_a, m.surface_b, m.surface_n, m.surface_smooth)) < 0)
    # The test gears had Rz = 10 um: their factor is 1 to a few per mille.
    assert float(surface_factor(10.0, m.surface_a, m.surface_b, m.surface_n, m.surface_smooth)) == pytest.approx(
        1, abs=0.006
    )
    assert float(notch_sensitivity(2.5, m.rho_slip)) == 1.0
    assert float(notch_sensitivity(5.0, m.rho_slip)) > 1.0 > float(notch_sensitivity(1.2, m.rho_slip))


def test_life_share_runs_from_static_to_endurance_with_the_life_factor():
    curve = material_numbers("Eh", "MQ", 700.0).Y_N
    N = np.logspace(0, 12, 400)
    share, Y = endurance_share(N, curve), life_factor(N, curve, 0.85)
    assert np.all(np.diff(share) >= 0)
    assert np.all(np.diff(Y) <= 1e-15)
    assert share[0] == 0.0
    assert share[-1] == 1.0
    # On the sloping part the share is what the life factor has fallen, on a log scale.
    mid = (N > 2e3) & (N < 2e6)
    assert np.log(Y[mid] / 2.5) / np.log(1 / 2.5) == pytest.approx(share[mid], abs=1e-12)
    assert between(2.0, 0.5, np.array([0.0, 0.5, 1.0])) == pytest.approx([2.0, 1.0, 0.5])


def test_load_factors_grow_with_speed_and_class_and_shrink_with_load():
    parameter = np.linspace(0, 10, 300)
    smooth(lambda v: dynamic_factor_c(14.9, 200.0, v), 0.2, rel=1e-3)
    assert float(dynamic_factor_c(14.9, 200.0, 0.0)) == 1.0
    assert np.all(np.diff(dynamic_factor_c(14.9, 200.0, parameter[:30])) > 0)
    for Q in range(3, 12):
        assert K1_SPUR[Q] < K1_SPUR[Q + 1]
        assert K1_HELICAL[Q] < K1_SPUR[Q]
    assert dynamic_factor_c(14.9, 400.0, 2.0) < dynamic_factor_c(14.9, 150.0, 2.0)
    assert dynamic_factor_c(14.9, 10.0, 2.0) == dynamic_factor_c(14.9, 100.0, 2.0)
    spur, half, full = (float(dynamic_factor_c(14.9, 200.0, 2.0, e, 13.3)) for e in (0.0, 0.5, 2.0))
    assert half == pytest.approx((spur + full) / 2)
    assert 1.0 < float(root_face_load_factor(1.4, 20.0, 5.0)) < 1.4


def test_geometry_factors_at_their_limits():
    assert float(contact_ratio_factor(1.0, 0.0)) == 1.0
    smooth(lambda e: contact_ratio_factor(1.6, e), 1.0)
    assert zone_factor(np.radians(20), np.radians(20), 0.0) == pytest.approx(
        np.sqrt(2 / (np.sin(np.radians(20)) * np.cos(np.radians(20))))
    )
    # Where B lies on the pitch point the factor is exactly 1.
    z, d_b = 30.0, 60.0 * np.cos(np.radians(20))
    tip = np.tan(np.radians(20)) + 2 * np.pi / z
    d_a = d_b * np.hypot(1, tip)
    eps = (2 * tip - 2 * np.tan(np.radians(20))) * z / (2 * np.pi)
    Z_B, Z_D = single_contact_factors(np.radians(20), d_a, d_b, z, d_a, d_b, z, eps)
    assert float(Z_B) == pytest.approx(1.0, abs=1e-9)
    assert float(Z_D) == pytest.approx(1.0, abs=1e-9)
    smooth(lambda s: rim_factor(s, 10.0), 12.0, rel=2e-3)
    assert np.isnan(rim_factor(5.0, 10.0))
    assert float(helix_factor_root(0.0, 0.0)) == 1.0


def test_oil_thins_with_heat_and_friction_falls_with_speed_and_thickness():
    theta = np.linspace(-20, 140, 50)
    nu = kinematic_viscosity(220.0, 18.9, theta)
    assert np.all(np.diff(nu) < 0)
    assert np.all(np.diff(kinematic_viscosity(np.array([68.0, 150.0]), np.array([8.7, 14.7]), 60.0)) > 0)
    alpha = np.radians(22.0)
    mu = friction_coefficient(4000.0, 20.0, np.array([1.0, 4.0, 16.0]), alpha, 8.0, 60.0, 0.7, 1.0)
    assert mu[:-1] / mu[1:] == pytest.approx(4**0.2)
    assert friction_coefficient(4000.0, 20.0, 60.0, alpha, 8.0, 60.0, 0.7, 1.0) == friction_coefficient(
        4000.0, 20.0, 50.0, alpha, 8.0, 60.0, 0.7, 1.0
    )
    assert friction_coefficient(100.0, 20.0, 5.0, alpha, 8.0, 60.0, 0.7, 1.0) == friction_coefficient(
        3000.0, 20.0, 5.0, alpha, 8.0, 60.0, 0.7, 1.0
    )

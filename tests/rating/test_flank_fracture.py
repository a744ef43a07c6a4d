"""Flank fracture: the field by point loads, the intensity by planes of all directions, the exposure by brute force,
and what a stage makes of it."""

import numpy as np
import pytest

from cooper.editing.edit import set_many
from cooper.editing.levers import levers
from cooper.rating.iso6336.flank_fracture import (
    hardness_at,
    hertz_stresses,
    material_exposure,
    residual_stress,
    shear_intensity,
)
from cooper.results.evaluate import evaluate
from makers import pair

E_R = 226373.6


def field_by_point_loads(x, y):
    """Stresses along, into and in shear, over the peak pressure, of the half plane's point loads (Flamant) under the
    pressure of Hertz."""
    at = (np.arange(20000) + 0.5) / 20000 * np.pi
    s, load = np.cos(at), np.sin(at) ** 2 * np.pi / len(at)
    X = x - s
    c = 2 * load * y / (np.pi * (X**2 + y**2) ** 2)
    return -(c * X**2).sum(), -(c * y**2).sum(), -(c * X * y).sum()


@pytest.mark.parametrize("y", [0.3, 1.0, 2.0, 5.0])
def test_the_field_is_that_of_point_loads_all_over_the_contact(y):
    along, into, shear = field_by_point_loads(0.0, y)
    assert [float(v) for v in hertz_stresses(y)] == pytest.approx([along, into], abs=2e-6)
    assert shear == pytest.approx(0.0, abs=1e-9)


def test_the_intensity_is_the_mean_over_planes_of_all_directions():
    """Of the tensor under 1200 MPa at 0.6 with -300 MPa along the surface, the shear of 200,000 planes."""
    s_x, s_y = (1200 * float(v) for v in hertz_stresses(0.6))
    s_z = 0.3 * (s_x + s_y) - 300
    tensor = np.diag([s_x - 300, s_y, s_z])
    n = np.random.default_rng(4).normal(size=(200_000, 3))
    n /= np.linalg.norm(n, axis=1)[:, None]
    pull = n @ tensor
    shear = (pull**2).sum(axis=1) - (pull * n).sum(axis=1) ** 2
    assert float(shear_intensity(1200.0, 0.6, 0.3, -300.0)) == pytest.approx(np.sqrt(shear.mean()), rel=3e-3)


@pytest.mark.parametrize(
    ("p", "rho", "CHD"), [(1500.0, 10.0, 1.0), (1400.0, 40.0, 1.2), (900.0, 60.0, 2.5), (1500.0, 60.0, 3.0)]
)
def test_the_exposure_is_the_largest_of_all_depths(p, rho, CHD):
    A, y = material_exposure(np.array([p]), np.array([rho]), E_R, 0.3, 700.0, 300.0, CHD)
    b = 4 * p * rho / E_R
    depth = np.linspace(b, 6 * max(CHD, b), 4000)
    HV = hardness_at(depth, 700.0, 300.0, CHD)
    all_of = shear_intensity(p, depth / b, 0.3, residual_stress(HV, 300.0)) / (0.4 * HV) + 0.04
    assert float(A) == pytest.approx(all_of.max(), rel=2e-3)
    assert float(y) >= b and np.interp(float(y), depth, all_of) == pytest.approx(all_of.max(), rel=4e-3)


def test_a_flank_breaks_from_below_where_the_case_is_shallow_for_its_curvature():
    """The same pressure on flanks curved alike but thrice as large, with one case: the exposure moves from near the
    surface into the core and grows."""
    small, large = (
        material_exposure(np.array([1300.0]), np.array([r]), E_R, 0.3, 700.0, 300.0, 1.0) for r in (10.0, 30.0)
    )
    assert large[0] > 1.3 * small[0] and large[1] > 1.5 > small[1]


def test_a_stage_is_rated_once_case_and_core_are_given():
    members = [f"train.gears.gear{n + 1}" for n in (0, 1)]
    bare = pair(P=15000.0)
    assert bare.train.stages[0].gears[0].material.group == "Eh"
    plain = evaluate(bare)
    assert plain.check("stage1.S_FF1") is None and any("CHD" in n.text for n in plain.notes)
    cased = set_many(bare, {f"{m}.CHD": 0.6 for m in members})
    assert any("HV_core" in n.text for n in evaluate(cased).notes)
    rated = evaluate(set_many(cased, {f"{members[0]}.HV_core": 300.0, "train.defaults.S_FFmin": 1.3}))
    s, check = rated.stages[0], rated.check("stage1.S_FF1")
    assert rated.check("stage1.S_FF2") is None and check.limit == 1.3
    # At the points of the path with the share of ISO/TS 6336-20 on each pair: Hertz's pressure, and what it does
    # beneath.
    m = s.mesh
    K = m.K_A * m.K_gamma * m.K_V * m.K_Hbeta * m.K_Halpha
    worst = 0.0
    points = (
        (m.g_A, 1 / 3),
        ((m.g_A + m.g_B) / 2, 1 / 2),
        (m.g_B, 1),
        (m.g_C, 1),
        (m.g_D, 1),
        ((m.g_D + m.g_E) / 2, 1 / 2),
        (m.g_E, 1 / 3),
    )
    for g, share in points:
        rho = g * (s.T2 - g) / s.T2
        p = np.sqrt(E_R * K * m.F_bt * share / (2 * np.pi * m.b_H * rho))
        worst = max(worst, float(material_exposure(np.array([p]), np.array([rho]), E_R, 0.3, 700.0, 300.0, 0.6)[0]))
    assert pytest.approx(worst, rel=1e-6) == s.gears[0].A_FF
    assert check.value == pytest.approx(0.8 / worst, rel=1e-6)
    # A deeper case or a harder core would do, where it falls short.
    short = set_many(cased, {f"{members[0]}.HV_core": 260.0, "train.defaults.S_FFmin": round(1.02 * check.value, 4)})
    results = evaluate(short)
    result = {lever.label: lever for lever in levers(short, results, results.check("stage1.S_FF1"))}
    made = [result[label].design for label in ("hardness of the core", "depth of the case") if result[label].design]
    assert made and all(evaluate(d).check("stage1.S_FF1").margin >= 0 for d in made)

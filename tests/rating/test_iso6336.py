"""Factors of ISO 6336 held against direct second ways."""

import numpy as np
import pytest

from cooper.document.gear_data import Material
from cooper.editing.edit import set_at
from cooper.gears.outline import half_tooth, to_xy
from cooper.rating.iso6336.form import root_section
from cooper.rating.iso6336.life import life_factor
from cooper.results.evaluate import evaluate
from makers import pair, tooth


@pytest.mark.parametrize(
    ("z", "x", "rho"), [(17, 0.32, 0.38), (41, 0.12, 0.38), (30, -0.3, 0.25), (12, 0.5, 0.2), (90, 0.0, 0.3)]
)
def test_critical_section_measured_on_the_generated_outline(z, x, rho):
    """The point where the fillet's tangent stands at 30 degrees to the tooth's middle line, found on the points."""
    t = tooth(z, x, m=3.0, rho=rho)
    s = root_section(t.z, t.m_n, 0.0, x, t.rack, t.d_a, 1.6)
    xy = to_xy(half_tooth(t, 1e-5))
    step = np.diff(xy, axis=0)
    angle = np.degrees(np.arctan2(-step[:, 1], step[:, 0]))  # falls from 90 at the root arc to the flank's
    fillet = np.hypot(*xy[1:].T) < float(t.d_f) / 2 + 0.9 * 3.0
    k = np.flatnonzero(fillet & (angle >= 30))[-1]
    assert 2 * xy[k, 1] == pytest.approx(float(s.s_Fn), abs=2e-2)
    # Radius of the circle through three neighbouring points.
    a, b, c = xy[k - 3], xy[k], xy[k + 3]
    area = abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2
    sides = [np.hypot(*(p - q)) for p, q in ((a, b), (b, c), (c, a))]
    assert np.prod(sides) / (4 * area) == pytest.approx(float(s.rho_F), rel=0.03)


def test_lever_arm_follows_from_the_line_of_force_at_the_outer_point_of_single_contact():
    """The line of action through the outer single contact point meets the tooth's middle line h_Fe above the chord."""
    design = pair()
    r = evaluate(design)
    g, m = r.stages[0].gears[0], r.stages[0].mesh
    r_b = g["d_b"] / 2
    rho_e = m["g_D"]  # tangent length at D on the pinion
    t = r.stages[0].teeth[0]
    # Thinning below 0.05 m_n: the method rates the nominal tooth, so its half angle is taken with x.
    half = float(t.s_t(g["x"]) / t.d) + np.tan(np.radians(20)) - np.radians(20) - (rho_e / r_b - np.arctan(rho_e / r_b))
    alpha_e = np.arctan(rho_e / r_b)
    direction = alpha_e - half  # angle of the force to the tooth's transverse direction
    apex = r_b / np.cos(direction)
    chord_height = np.sqrt(1e-300 + 0) + apex - g["h_Fe"]
    assert np.degrees(direction) == pytest.approx(g["alpha_Fen"], abs=1e-9)
    xy = to_xy(half_tooth(tooth(17, 0.32, m=2.5), 1e-5))
    on = np.interp(g["s_Fn"] / 2, xy[::-1, 1][np.hypot(*xy[::-1].T) < 20.5], xy[::-1, 0][np.hypot(*xy[::-1].T) < 20.5])
    assert chord_height == pytest.approx(on, abs=5e-3)


def test_contact_stress_equals_hertz_pressure_of_two_cylinders():
    """sigma_H0 with Z_eps = 1 at the pitch point, and Z_B at point B, by Hertz's formula for line contact."""
    r = evaluate(pair())
    m, (g1, g2) = r.stages[0].mesh, r.stages[0].gears
    E_red = 1 / (2 * (1 - 0.09) / 206e3)

    def hertz(at):
        one, two = at, m["g_C"] * (1 + m["u"]) - at
        rho = one * two / (one + two)
        return np.sqrt(m["F_bt"] / m["b_H"] * E_red / (np.pi * rho))

    assert m["sigma_H0"] / m["Z_eps"] == pytest.approx(hertz(m["g_C"]), rel=1e-12)
    assert g1["Z_BD"] == pytest.approx(max(1, hertz(m["g_B"]) / hertz(m["g_C"])), rel=1e-12)
    assert g2["Z_BD"] == pytest.approx(max(1, hertz(m["g_D"]) / hertz(m["g_C"])), rel=1e-12)


def test_life_curve_of_case_hardened_steel_has_the_slopes_of_part_6():
    """Between 1e5 and 5e7 cycles the contact curve of steel falls with the exponent 6.6 of torque (13.2 of stress)."""
    corners = [[1e5, np.sqrt(1e5 * 5e7), 5e7], [1.6, np.sqrt(1.6), 1.0]]
    n = np.array([2e5, 4e6])
    z = life_factor(n, corners, 0.85)
    exponent = -np.diff(np.log(n)) / np.diff(np.log(z))
    assert exponent == pytest.approx(13.2, abs=0.05)
    assert life_factor(1e12, corners, 1.0) == pytest.approx(1.0)


@pytest.mark.parametrize("hours", [1e-3, 0.1, 10.0, 1e4])
def test_safety_never_rises_with_life_or_load_and_never_falls_with_width(hours):
    base = set_at(pair(), "train.duty.L_h", hours)
    r0 = evaluate(base)
    longer = evaluate(set_at(base, "train.duty.L_h", hours * 3))
    heavier = evaluate(set_at(base, "train.duty.K_A", 1.5))
    wide = set_at(set_at(base, "train.gears.gear1.b", 40.0), "train.gears.gear2.b", 38.0)
    wider = evaluate(wide)
    for i in (0, 1):
        for s in ("S_F", "S_H"):
            now = r0.stages[0].gears[i][s]
            assert longer.stages[0].gears[i][s] <= now * (1 + 1e-12)
            assert heavier.stages[0].gears[i][s] < now
            assert wider.stages[0].gears[i][s] > now


def test_the_softer_wheel_gains_from_a_hard_smooth_pinion_and_the_pinion_does_not():
    design = set_at(pair(), "train.gears.gear1.Rz_H", 2.0)
    r = evaluate(design)
    assert r.stages[0].gears[0]["Z_W"] == 1.0
    assert r.stages[0].gears[1]["Z_W"] > 1.0
    both = set_at(design, "train.gears.gear2.material", Material(group="Eh", hardness=700).plain())
    assert evaluate(both).stages[0].gears[1]["Z_W"] == 1.0

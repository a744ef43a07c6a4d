"""Places on the curves of fillets, sizes read back from gears, and counts that a search may offer: each by another
way."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.gears.fillets import RAMP, fillet, flank_parallel
from cooper.gears.involute import inv, inverse_inv
from cooper.gears.root import root_form
from cooper.trains.counts import Bounds, in_line, pairs, planetary
from makers import tooth


def protuberant(s_pr=0.03, q=0.04):
    plain = tooth(30, 0.2, h_fP=1.4, rho=0.3)
    return replace(plain, rack=replace(plain.rack, pr_P=q + s_pr, q_P=q, alpha_prP=np.radians(8)))


def test_a_protuberance_cuts_deepest_where_it_runs_parallel_to_the_flank():
    t = protuberant()
    at = np.linspace(RAMP, 1.0, 60001)
    radius, psi = fillet(t, at)
    flank = np.pi / 30 - np.asarray(t.half_angle(2 * np.maximum(radius, float(t.d_b) / 2)))
    # Depth under the finished flank, normal to it, where there is an involute at all.
    alpha = np.arccos(np.clip(float(t.d_b) / 2 / radius, -1, 1))
    depth = np.where(radius > float(t.d_b) / 2, (psi - flank) * radius * np.cos(alpha), -1.0)
    deepest = float(at[np.argmax(depth)])
    assert float(flank_parallel(t)) == pytest.approx(deepest, abs=0.02)
    assert depth.max() == pytest.approx(0.03 * 2, rel=0.05)
    assert float(flank_parallel(tooth(30))) == 0.0


def test_the_fillet_of_a_protuberance_is_what_the_racks_corner_leaves():
    """The rack's outline, moved past the gear, as points: none comes nearer to the gear's middle than the curve, and
    some touch it."""
    t = protuberant()
    m, r = 2.0, float(t.d) / 2
    rack = t.rack
    rho, alpha, pr = rack.rho_fP * m, float(rack.alpha_n), float(rack.alpha_prP)
    y_M = -rack.h_fP * m + rho
    x_M = np.pi / 4 * m + y_M * np.tan(alpha) + (rack.s_pr * m - rho) / np.cos(alpha)
    turn = np.linspace(pr, np.pi / 2, 400)
    tip = np.stack((x_M + rho * np.cos(turn), y_M - rho * np.sin(turn)))
    x_0, y_0 = tip[:, 0]
    # Up the ramp until it meets the flank that stands the stock outside the finished one.
    ramp = [np.array([x_0 + s * np.sin(pr), y_0 + s * np.cos(pr)]) for s in np.linspace(0, 2, 4001)]
    line = [
        p
        for p in ramp
        if p[0] <= np.pi / 4 * m + p[1] * np.tan(alpha) - rack.q_P * m / np.cos(alpha) + 1e-12 or p is ramp[0]
    ]
    inside = np.array(
        [p for p in ramp if p[0] - np.pi / 4 * m - p[1] * np.tan(alpha) + rack.q_P * m / np.cos(alpha) >= 0]
    ).T
    points = np.concatenate((tip, inside), axis=1)
    assert len(line) > 1
    points[1] += float(t.x_E) * m
    phi = np.linspace(-0.6, 0.6, 4001)
    across, up = points[0][:, None] - r * phi, r + points[1][:, None]
    radius, angle = np.hypot(across, up), np.arctan2(across, up) + phi
    # From where the fillet leaves the flank; above it the flank is what stays.
    at_r, at_psi = fillet(t, np.linspace(float(root_form(t).t), 1.0, 401))
    for k in (5, 60, 120, 180, 220):
        near = np.abs(radius - at_r[k]) < 2e-3
        assert float(np.max(angle[near])) == pytest.approx(float(at_psi[k]), abs=4e-4)


def test_the_fillet_runs_from_the_form_circle_to_the_root_circle():
    for t in (tooth(24, 0.1), protuberant()):
        form = root_form(t)
        ends = fillet(t, np.array([float(form.t), 1.0]))[0]
        assert 2 * ends == pytest.approx([float(form.d_Ff), float(t.d_f)], rel=1e-9)


def test_involute_function_over_its_range():
    for angle in (0.01, 0.4, 1.2, 1.55):
        assert float(inverse_inv(inv(angle))) == pytest.approx(angle, rel=1e-12)


def test_planets_of_every_offer_stand_clear_and_no_fitting_set_is_left_out():
    at = Bounds(least=12, greatest=60, tolerance=1.0, planets=5, largest=140)
    offers = {o.z for o in planetary(4.2, ("sun", "carrier", "ring"), at)}
    fitting = set()
    for sun in range(12, 61):
        for ring in range(12, 141):
            planet = (ring - sun) // 2
            if (
                12 <= planet <= 60
                and abs((1 + ring / sun) / 4.2 - 1) <= 0.01
                and (sun + planet) * np.sin(np.pi / 5) > planet + 2.5
            ):
                fitting.add((sun, planet, ring))
    assert offers <= fitting
    assert offers == fitting or len(offers) >= 100
    assert offers


def test_offers_come_nearest_first_and_of_equals_the_smaller():
    result = pairs(2.5, Bounds(least=15, greatest=60, tolerance=2.0))
    key = [(round(abs(o.deviation), 6), sum(o.z)) for o in result]
    assert key == sorted(key)
    near = {
        tuple(round(b / a, 2) for a, b in zip(o.z[::2], o.z[1::2], strict=True))
        for o in in_line(16.0, 2, Bounds(least=15, greatest=90, tolerance=0.5))
    }
    assert all(abs(r[0] / (16 / r[0]) - 1) < 1.2 for r in near)

"""The closed-form outline against a rack moved by brute force, and two outlines rolled on each other."""

import numpy as np
import pytest
from scipy.optimize import minimize_scalar

from cooper.gears.outline import gear_outline, half_tooth, to_xy
from cooper.gears.pair import centre_distance
from cooper.gears.phase import mesh_placement
from cooper.gears.root import root_form
from cooper.running.backlash import backlash
from makers import polyline_distance, signed_depth, tooth

CASES = [
    dict(z=17, x=0.32, m=2.5),
    dict(z=41, x=0.12, m=2.5),
    dict(z=8, x=0.0),  # undercut
    dict(z=6, x=0.1, rho=0.2),  # deep undercut
    dict(z=16, x=0.0, rho=0.30),  # undercut so slight that fillet and involute nearly touch
    dict(z=10, x=0.5),
    dict(z=120, x=-0.6),
    dict(z=25, x=0.9, rho=0.0),  # sharp tool corner
    dict(z=12, x=0.3, alpha=25.0, h_fP=1.2, rho=0.25),
    dict(z=20, x=0.0, rho=0.4719, h_fP=1.25),  # full round tool tip
    dict(z=15, x=0.2, beta=28.0),  # helical: the tool's tip is an ellipse in the transverse section
    dict(z=7, x=0.0, beta=20.0),  # helical and undercut
]


def rack_distance(px, py, t):
    """Signed distance of points in the rack's frame to the tooth of the cutting rack, negative inside its metal.

    Built from half-planes and a circle only, sharing nothing with the closed form under test.
    """
    m, a = float(t.m_n), float(t.rack.alpha_n)
    hf, rho = float(t.rack.h_fP) * m, float(t.rack.rho_fP) * m
    px = np.abs((px + np.pi * m / 2) % (np.pi * m) - np.pi * m / 2)
    flank = (px - np.pi * m / 4) * np.cos(a) - py * np.sin(a)
    tip = -hf - py
    yc = -hf + rho
    xc = np.pi * m / 4 + yc * np.tan(a) - rho / np.cos(a)
    corner = np.hypot(px - xc, py - yc) - rho
    along = (px - xc) * np.sin(a) + (py - yc) * np.cos(a)  # direction of the flank, away from the tip
    in_corner = (px > xc) & (along < 0)
    return np.where(in_corner, corner, np.maximum(flank, tip))


def envelope_gap(polar, t):
    """Least distance that the moving rack ever keeps from each gear point (mm); 0 on the true outline."""
    r, z = float(t.d) / 2, float(t.z)
    psi = np.pi / z - polar[:, 1]  # angle from the middle of the space
    span = 3.2 * np.pi * float(t.m_n)

    def at(s, i):
        turn = psi[i] + s / r
        x, y = polar[i, 0] * np.sin(turn), polar[i, 0] * np.cos(turn)
        # The rack's own profile stands in the normal section; along the pitch line that is shorter by cos(beta).
        return rack_distance((x - s) * np.cos(float(t.beta)), y - r - float(t.x_E) * float(t.m_n), t)

    grid = np.linspace(-span, span, 3001)
    out = np.empty(len(polar))
    for i in range(len(polar)):
        coarse = at(grid, i)
        best = np.inf
        for k in np.argsort(coarse)[:3]:
            step = grid[1] - grid[0]
            fine = minimize_scalar(
                lambda s, i=i: float(at(s, i)),
                bounds=(grid[k] - step, grid[k] + step),
                method="bounded",
                options={"xatol": 1e-10},
            )
            best = min(best, fine.fun)
        out[i] = best
    return out


@pytest.mark.parametrize("case", CASES, ids=str)
def test_outline_is_the_envelope_of_the_rolling_rack(case):
    t = tooth(**case)
    points = half_tooth(t, 2e-3)
    below_tip = points[points[:, 0] < float(t.d_a) / 2 - 1e-9]
    assert np.max(np.abs(envelope_gap(below_tip, t))) < 5e-4  # mm, half the micrometre asked for


@pytest.mark.parametrize("case", CASES, ids=str)
def test_fillet_joins_the_involute_tangentially_unless_undercut(case):
    t = tooth(**case)
    form = root_form(t)
    points = half_tooth(t, 1e-4)
    at = int(np.argmin(np.abs(points[:, 0] - float(form.d_Ff) / 2)))
    xy = to_xy(points)
    before, after = xy[at] - xy[at - 1], xy[at + 1] - xy[at]
    kink = np.degrees(abs(np.arctan2(before[0] * after[1] - before[1] * after[0], before @ after)))
    sharp = float(t.rack.rho_fP) == 0.0
    assert (kink > 2.0) == bool(form.undercut) or sharp or case["z"] == 16
    assert np.all(np.diff(points[:, 0]) > -1e-9), "radius must rise from root to tip"


def test_no_chord_leaves_the_curve_by_more_than_the_tolerance():
    t = tooth(17, 0.32)
    fine, coarse = to_xy(half_tooth(t, 1e-5)), to_xy(half_tooth(t, 5e-3))
    assert len(coarse) < len(fine) / 3
    assert np.max(np.abs(polyline_distance(fine, coarse))) < 5e-3


def in_mesh(one, two, a_w, j_wt, roll, side=1.0):
    """Points of the pinion near the mesh and how deep each lies inside the wheel."""
    stand = mesh_placement(one.z, two.z, j_wt, a_w, roll, side)
    p1 = gear_outline(one, float(stand.phi_1), 2e-5)
    # Start the wheel's outline on its far side, so that the part in mesh is one run of points.
    pitch = 2 * np.pi / two.z
    p2 = gear_outline(two, float(stand.phi_2 - pitch * np.round(stand.phi_2 / pitch)), 2e-5) + [a_w, 0.0]
    p1 = p1[(p1[:, 0] > a_w - float(two.d_a) / 2 - 0.2) & (np.abs(p1[:, 1]) < 8)]
    zone2 = p2[(p2[:, 0] < float(one.d_a) / 2 + 1) & (np.abs(p2[:, 1]) < 11)]
    return p1, signed_depth(p1, np.vstack((zone2, [a_w, 0.0])))


@pytest.mark.parametrize(("z1", "x1", "z2", "x2"), [(17, 0.32, 41, 0.12), (20, 0.0, 30, 0.0), (12, 0.5, 23, -0.1)])
def test_outlines_rolled_at_zero_backlash_touch_on_both_sides_and_never_overlap(z1, x1, z2, x2):
    one, two = tooth(z1, x1), tooth(z2, x2)
    a_w = float(centre_distance(z1, z2, 2.0, x1 + x2, np.radians(20)))
    for roll in np.linspace(0, 2 * np.pi / z1, 5)[:-1]:
        points, depth = in_mesh(one, two, a_w, 0.0, roll)
        assert depth.max() < 1e-4, "overlap"
        touching = points[depth > -1e-4]
        r_w1 = a_w * z1 / (z1 + z2)
        slope = -(touching[:, 0] - r_w1) * np.cos(working_angle(one, a_w, z1, z2))
        lift = touching[:, 1] * np.sin(working_angle(one, a_w, z1, z2))
        on = [np.abs(slope - s * lift) < 0.1 for s in (1, -1)]
        assert np.all(on[0] | on[1]), "touching away from both lines of action"
        assert on[0].any()
        assert on[1].any()


def working_angle(one, a_w, z1, z2):
    return np.arccos(float(one.d_b) / 2 / (a_w * z1 / (z1 + z2)))


def test_drawn_stand_touches_on_the_driving_flank_only():
    """With backlash, the flanks touch on the line of action of the chosen side and nowhere else."""
    one, two = tooth(17, 0.2, x_E=0.17), tooth(41, 0.1, x_E=0.08)
    a_w = float(centre_distance(17, 41, 2.0, 0.3, np.radians(20)))
    play = backlash(17, 41, 2.0, np.radians(20), 0.0, 0.17, 0.08, a_w)
    for side in (1.0, -1.0):
        points, depth = in_mesh(one, two, a_w, float(play.j_wt), 0.1, side)
        assert -1e-4 < depth.max() < 1e-4
        touching = points[depth > -1e-4]
        alpha = working_angle(one, a_w, 17, 41)
        r_w1 = a_w * 17 / 58
        across = (touching[:, 0] - r_w1) * np.cos(alpha) - side * touching[:, 1] * np.sin(alpha)
        assert np.max(np.abs(across)) < 0.06
    loose, depth = in_mesh(one, two, a_w, float(play.j_wt), 0.1, 0.0)
    # In the middle of the backlash the normal gap on each side is half the normal backlash.
    assert abs(-depth.max() - float(play.j_bn) / 2) < 1e-3
    assert len(loose)

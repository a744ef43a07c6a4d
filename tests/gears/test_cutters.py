"""Roots by pinion cutter, form and protuberance, and the tip edges, each against a way of its own."""

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.optimize import brentq, minimize_scalar

from cooper.gears.area import section_area
from cooper.gears.cutter import FormCut, PinionCutter, greatest_cutter_rounding
from cooper.gears.fillets import formed_centre
from cooper.gears.outline import gear_outline, half_tooth, to_xy
from cooper.gears.rack import Rack
from cooper.gears.root import root_form
from cooper.gears.tip import Tip, land_half_angle, tip_form_diameter
from makers import shaped, tooth


def inv(a):
    return np.tan(a) - a


def cutter_distance(px, py, t):
    """Signed distance of points in the cutter's frame (a tooth on +x) to its metal; built from tangent lengths
    alone."""
    z_0, x_0 = float(t.tool.z_0), float(t.tool.x_0)
    a_t, m_t, m_n = float(t.alpha_t), float(t.m_t), float(t.m_n)
    r_b, r_a = z_0 * m_t / 2 * np.cos(a_t), z_0 * m_t / 2 + m_n * (x_0 + float(t.rack.h_fP))
    rho = float(t.rack.rho_fP) * m_n
    base = (np.pi / 2 + 2 * x_0 * np.tan(float(t.rack.alpha_n))) / z_0 + inv(a_t)

    def flank(r, phi):
        along = np.sqrt(np.maximum(r**2 - r_b**2, 0))
        return along - r_b * (base - phi + np.arctan(along / r_b))

    pitch = 2 * np.pi / z_0
    r = np.hypot(px, py)
    phi = np.abs((np.arctan2(py, px) + pitch / 2) % pitch - pitch / 2)
    M_r = r_a - rho
    M_phi = brentq(lambda f: float(flank(M_r, f)) + rho, -0.5, 0.5, xtol=1e-15)
    T = M_phi - np.arccos(r_b / M_r)
    v = r * np.cos(phi) - M_r * np.cos(M_phi), r * np.sin(phi) - M_r * np.sin(M_phi)
    corner = (np.cos(M_phi) * v[1] - np.sin(M_phi) * v[0] > 0) & (v[0] * np.cos(T) + v[1] * np.sin(T) > 0)
    below = r * np.sin(phi - base)  # radial line under the base circle
    plain = np.where(r > r_b, np.maximum(flank(r, phi), r - r_a), below)
    return np.where(corner, np.hypot(*v) - rho, plain)


def cut_gap(polar, t):
    """Least distance that the rolling cutter ever keeps from each gear point; 0 on the true outline."""
    z, z_0, s = float(t.z), float(t.tool.z_0), float(t.sign)
    # Its own way to the centre distance: both thicknesses fill the pitch on the rolling circles.
    a_ref = abs(z + z_0) * float(t.m_t) / 2
    thick = 2 * np.tan(float(t.rack.alpha_n)) * (float(t.x_E) + float(t.tool.x_0)) / (z + z_0)
    a_w = brentq(lambda a: inv(a) - inv(float(t.alpha_t)) - thick, 1e-3, 1.2, xtol=1e-15)
    a_0 = a_ref * np.cos(float(t.alpha_t)) / np.cos(a_w)
    psi = np.pi / abs(z) - polar[:, 1]

    def at(turn, i):
        # Gear space at angle 0 of +x; the cutter's tooth points at it from outside (external) or inside (internal).
        x, y = polar[i, 0] * np.cos(psi[i] + turn), polar[i, 0] * np.sin(psi[i] + turn)
        own = -s * turn * abs(z) / z_0
        dx, dy = (a_0 - x, -y) if s > 0 else (x - a_0, y)
        return cutter_distance(dx * np.cos(own) + dy * np.sin(own), dy * np.cos(own) - dx * np.sin(own), t)

    grid = np.linspace(-1, 1, 4001) * 2.5 * 2 * np.pi / abs(z) * max(1.0, 12 / z_0)
    out = []
    for i in range(len(polar)):
        coarse = at(grid, i)
        step, best = grid[1] - grid[0], np.inf
        for k in np.argsort(coarse)[:3]:
            fine = minimize_scalar(
                lambda q, i=i: float(at(q, i)),
                bounds=(grid[k] - step, grid[k] + step),
                method="bounded",
                options={"xatol": 1e-11},
            )
            best = min(best, fine.fun)
        out.append(best)
    return np.array(out)


CUTS = [
    dict(z=-60), dict(z=-72, x=0.4, z_0=20.0, x_0=0.2, rho=0.1), dict(z=-45, x=-0.3, z_0=18.0, beta=18.0, m=1.5),
    dict(z=30, x=0.1), dict(z=14, x=0.0, z_0=40.0), dict(z=-200, z_0=30.0, rho=0.0),
]  # fmt: skip


@pytest.mark.parametrize("case", CUTS, ids=str)
def test_outline_is_the_envelope_of_the_rolling_pinion_cutter(case):
    t = shaped(**case)
    points = half_tooth(t, 2e-3)
    inside = points[np.abs(points[:, 0] - abs(t.d_a) / 2) > 1e-9]
    assert np.max(np.abs(cut_gap(inside, t))) < 5e-4
    assert bool(root_form(t).undercut) == (case["z"] == 14)
    p = gear_outline(t, 0.3, 1e-5)
    polygon = 0.5 * np.sum(p[:, 0] * np.roll(p[:, 1], -1) - p[:, 1] * np.roll(p[:, 0], -1))
    assert float(section_area(t, root_form(t))) == pytest.approx(polygon, rel=2e-5)


def test_a_great_cutter_leaves_the_root_of_the_rack():
    for z, x in ((20, 0.2), (13, 0.0)):
        rack_cut, cutter_cut = tooth(z, x, rho=0.25), shaped(z, x, z_0=1e6, rho=0.25)
        assert float(cutter_cut.d_f) == pytest.approx(float(rack_cut.d_f), abs=1e-5)
        forms = root_form(rack_cut), root_form(cutter_cut)
        assert float(forms[1].d_Ff) == pytest.approx(float(forms[0].d_Ff), abs=1e-4)
    assert greatest_cutter_rounding(
        PinionCutter(1e6, 0.0), Rack(np.radians(20), 1.0, 1.25, 0.2), 2.0, 2.0, np.radians(20)
    ) == pytest.approx(0.4719, abs=1e-4)


@pytest.mark.parametrize(("z", "rho"), [(40, 0.3), (12, 0.25), (22, 0.1), (-50, 0.3), (60, 0.0), (42, 0.35)])
def test_a_formed_fillet_is_a_circle_tangent_to_root_circle_and_flank(z, rho):
    t = replace(shaped(z, rho=rho), tool=FormCut())
    form = root_form(t)
    r_M, psi_M, t_F = (float(v) for v in formed_centre(t))
    polar = half_tooth(t, 1e-4)
    xy, centre = to_xy(polar), r_M * np.array([np.cos(np.pi / abs(z) - psi_M), np.sin(np.pi / abs(z) - psi_M)])
    away = np.hypot(*(xy - centre).T)
    assert away.min() > rho * 2 - 1e-6, "nothing reaches into the circle"
    assert np.sum(np.abs(away - rho * 2) < 1e-6) >= 8 or rho == 0
    assert polar[0, 0] == pytest.approx(abs(float(t.d_f)) / 2)
    assert (t_F < 0) == (z in (12, 22)), "a radial line joins fillet and flank where the base circle lies above"
    assert float(form.d_Ff) == pytest.approx(float(t.d_b)) or t_F > 0
    corner = np.diff(np.unwrap(np.arctan2(*np.diff(xy, axis=0).T[::-1])))
    here = (polar[1:-1, 0] - abs(float(t.d_f)) / 2) * t.sign
    inner = corner[(here < 0.8 * abs(float(t.d_a) - float(t.d_f)) / 2) & (here > 1e-6)]
    assert rho == 0 or np.max(np.abs(inner)) < 0.2, "no kink"


def test_a_protuberance_clears_the_ground_flank_by_what_it_has_over_the_stock():
    plain = tooth(30, 0.2, h_fP=1.4, rho=0.3)
    none = replace(plain, rack=replace(plain.rack, pr_P=0.0, q_P=0.0))
    assert float(root_form(none).d_Ff) == float(root_form(plain).d_Ff)
    relief = []
    for s_pr in (0.001, 0.02, 0.04):
        rack = replace(plain.rack, pr_P=0.05 + s_pr, q_P=0.05, alpha_prP=np.radians(8))
        t = replace(plain, rack=rack)
        form = root_form(t)
        points = half_tooth(t, 1e-4)
        root = points[points[:, 0] < float(form.d_Ff) / 2]
        above = root[root[:, 0] > float(root_form(plain).d_Ff) / 2]
        lost = (np.asarray(t.half_angle(2 * above[:, 0])) - above[:, 1]) * above[:, 0]
        relief.append(lost.max() * np.cos(np.radians(18)))
        assert float(form.d_Ff) > float(root_form(plain).d_Ff)
        assert not form.undercut
    # Normal depth of the relief in mm is what the protuberance stands out over the stock.
    assert relief == pytest.approx([0.002, 0.04, 0.08], rel=0.05)


@pytest.mark.parametrize("z", [24, -60])
def test_chamfer_and_rounding_leave_the_flank_where_they_say(z):
    base = shaped(z, 0.1)
    chamfered = replace(base, tip=Tip(h_K=0.3))
    points = half_tooth(chamfered, 1e-4)
    xy = to_xy(points)
    r_F = abs(float(tip_form_diameter(chamfered))) / 2
    assert abs(r_F - abs(float(base.d_a)) / 2) == pytest.approx(0.3)
    beyond = (points[:, 0] - r_F) * float(base.sign) > -1e-9
    edge = xy[beyond & (np.abs(points[:, 0] - abs(float(base.d_a)) / 2) > 1e-9)]
    direction = edge[1] - edge[0]
    slope = np.degrees(np.arccos(abs(direction @ edge[0]) / np.hypot(*direction) / np.hypot(*edge[0])))
    assert slope == pytest.approx(45.0, abs=1.5)
    rounded = replace(base, tip=Tip(rho_a=0.25))
    smooth = to_xy(half_tooth(rounded, 1e-5))
    turn = np.diff(np.unwrap(np.arctan2(*np.diff(smooth, axis=0).T[::-1])))
    tip_part = (np.hypot(*smooth[1:-1].T) - abs(float(base.d)) / 2) * base.sign > 0
    assert np.max(np.abs(turn[tip_part])) < 0.1, "the rounding is tangent to flank and tip circle"
    for t in (chamfered, rounded):
        assert float(land_half_angle(t)) < float(land_half_angle(base))
        p = gear_outline(t, 0.0, 1e-5)
        polygon = 0.5 * np.sum(p[:, 0] * np.roll(p[:, 1], -1) - p[:, 1] * np.roll(p[:, 0], -1))
        assert float(section_area(t, root_form(t))) == pytest.approx(polygon, rel=2e-5)

"""Internal pairs: rolled conjugacy, interferences found on outlines, and the limits they share with external ones."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.editing.edit import give_count, set_many
from cooper.errors import OutOfRange
from cooper.gears.internal import slips_on_radially, tip_gap
from cooper.gears.measure import ball_contact_diameter, best_ball, over_two_balls
from cooper.gears.outline import gear_outline
from cooper.gears.overlap import overlaps
from cooper.gears.pair import centre_distance, working_pressure_angle
from cooper.gears.phase import mesh_placement
from cooper.results.evaluate import evaluate
from makers import pair, shaped, signed_depth, tooth

ALPHA = np.radians(20.0)


def inside(one, two, a_w, j, roll, side=1.0):
    """Pinion points and how deep each lies in the ring's metal, from the two outlines alone."""
    stand = mesh_placement(one.z, two.z, j, a_w, roll, side)
    opening = gear_outline(two, float(stand.phi_2), 2e-5) + [a_w, 0.0]
    points = gear_outline(one, float(stand.phi_1), 5e-4)
    points = points[points[:, 0] > 0.5 * float(one.d_a) / 2]
    near = opening[np.hypot(*opening.T) < float(one.d_a) / 2 + 2.5 * float(one.m_n)]
    depth = -signed_depth(points, np.vstack((near[np.argsort(np.arctan2(near[:, 1], near[:, 0] - a_w))], [a_w, 0.0])))
    return points, depth


@pytest.mark.parametrize(("z1", "x1", "z2", "x2"), [(17, 0.3, -60, 0.1), (25, 0.2, -72, -0.2), (20, 0.1, -41, -0.2)])
def test_internal_outlines_roll_with_contact_on_the_line_of_action_and_never_overlap(z1, x1, z2, x2):
    one, two = tooth(z1, x1, rho=0.25), shaped(z2, x2)
    two = replace(two, d_a=two.d_a - 0.6)  # clear of the pinion's fillet
    a_w = float(centre_distance(z1, z2, 2.0, x1 + x2, ALPHA))
    assert a_w < 0
    alpha_w = float(working_pressure_angle(z1, z2, x1 + x2, ALPHA))
    r_w1 = a_w * z1 / (z1 + z2)
    for roll in np.linspace(0, 2 * np.pi / z1, 4)[:-1]:
        points, depth = inside(one, two, a_w, 0.0, roll)
        assert depth.max() < 2e-4, "overlap"
        touching = points[depth > -2e-4]
        across = (touching[:, 0] - r_w1) * np.cos(alpha_w), touching[:, 1] * np.sin(alpha_w)
        on = [np.abs(across[0] - s * across[1]) < 0.1 for s in (1, -1)]
        assert np.all(on[0] | on[1])
        assert on[0].any()
        assert on[1].any()


def test_fouling_of_the_tips_is_what_overlapping_outlines_show():
    """The arc gap is zero just where the outlines, rolled through the exit, begin to run into each other."""
    result = set()
    for z1, z2 in ((20, -60), (24, -30), (19, -32)):
        one, two = tooth(z1, 0.0, h_fP=1.4, rho=0.2), shaped(z2, 0.0, z_0=16.0, h=1.4)
        two = replace(two, d_a=-118.0 if z2 == -60 else float(two.d_b) - 0.8)
        a_w = float(centre_distance(z1, z2, 2.0, 0.0, ALPHA))
        gap = float(tip_gap(one, two, a_w, ALPHA))
        worst = 0.0
        for roll in np.linspace(0, 2 * np.pi / z1, 5)[:-1]:
            stand = mesh_placement(one.z, two.z, 0.0, a_w, roll)
            far = [o.depth for o in overlaps(one, two, a_w, stand) if abs(o.y) > 0.35 * float(one.d_a) / 2]
            worst = max([worst, *far])
        result.add(gap < 0)
        assert (worst > 2e-4) == (gap < 0), (z1, z2, gap, worst)
    assert result == {True, False}


def test_slipping_on_radially_agrees_with_moving_the_pinion_out_step_by_step():
    answers = set()
    for z1, z2, x in ((18, -72, 0.0), (24, -42, 0.0), (26, -32, 0.0)):
        one, two = tooth(float(z1), x), shaped(float(z2), x, z_0=18.0)
        two = replace(two, d_a=-max(abs(float(two.d_b)) + 0.4, abs(float(two.d_a))))
        one, two = (replace(t, x_E=t.x_E - 0.06) for t in (one, two))  # a little play
        a_w = float(centre_distance(z1, z2, 2.0, 2 * x, ALPHA))
        free = False
        for phase in (0.0, np.pi / z1):
            ring = gear_outline(two, 0.0 if phase else np.pi / abs(z2), 1e-2)
            pinion = gear_outline(one, phase, 1e-2)
            pinion = pinion[pinion[:, 0] > 0]
            deepest = max(
                float(np.max(-signed_depth(pinion + [abs(a_w) - out, 0.0], ring))) for out in np.linspace(0, 4.4, 7)
            )
            free = free or deepest < 2e-2
        assert slips_on_radially(one, two, a_w) == free, (z1, z2, deepest)
        answers.add(free)
    assert answers == {True, False}


def test_balls_between_teeth_touch_both_flanks_of_the_generated_outline():
    for z in (-60, -61):
        t = shaped(z, 0.1)
        D = float(best_ball(t))
        size = float(over_two_balls(t, D))
        d_K = (size + D) / (1 if z % 2 == 0 else np.cos(np.pi / 2 / abs(z)))
        outline = gear_outline(t, np.pi / abs(z), 1e-5)
        reach = np.hypot(outline[:, 0] - d_K / 2, outline[:, 1])
        assert reach.min() == pytest.approx(D / 2, abs=2e-4)
        at = outline[np.argsort(reach)[:2]]
        assert np.hypot(*at[0]) * 2 == pytest.approx(float(ball_contact_diameter(t, D)), abs=0.05)


def ring(z1=25, z2=-60, **more):
    d = pair(z1, 41, 0.2, 0.0, m=2.0)
    d = give_count(d, 0, 2, z2)
    return set_many(d, {"train.gears.gear2.b": 26.0, **more})


def test_internal_results_agree_with_plain_geometry_and_statics():
    r = evaluate(ring()).stages[0]
    m, (one, two) = r.mesh, r.gears
    assert two["z"] == -60
    assert min(two[k] for k in ("d", "d_a", "d_f", "d_b", "d_Ff", "d_w")) > 0
    assert two["d_f"] > two["d"] > two["d_a"]
    # The clearances are what is left between the circles.
    assert one["c"] == pytest.approx(two["d_f"] / 2 - m["a_w"] - one["d_a"] / 2)
    assert two["c"] == pytest.approx(two["d_a"] / 2 - m["a_w"] - one["d_f"] / 2)
    # Hertz's line pressure at the pitch point, concave against convex.
    rho = [g["d_b"] / 2 * np.tan(np.radians(m["alpha_wt"])) for g in (one, two)]
    relative = rho[0] * rho[1] / (rho[1] - rho[0])
    hertz = m["Z_E"] * np.sqrt(m["F_bt"] / m["b_H"] / relative) * m["Z_eps"]
    assert m["sigma_H0"] == pytest.approx(hertz, rel=1e-6)
    # Mean of friction loss along the path by integration with equal sharing.
    g = np.linspace(m["g_A"], m["g_E"], 200_001)
    share = np.where((g >= m["g_B"]) & (g <= m["g_D"]), 1.0, 0.5)
    slide = np.abs(g - m["g_C"]) * (1 / (one["d_w"] / 2) - 1 / (two["d_w"] / 2)) / np.cos(np.radians(m["alpha_wt"]))
    assert m["H_V"] == pytest.approx(np.trapezoid(share * slide, g) / m["p_et"], rel=1e-3)
    # A wider centre distance brings ring and pinion nearer.
    near = evaluate(ring(**{"train.meshes.stage1.A_as": 0.1})).stages[0].mesh
    assert near["j_wt_min"] < m["j_wt_min"]
    assert near["j_wt_max"] == pytest.approx(m["j_wt_max"])


def test_internal_and_external_meet_at_the_rack():
    """With ever more teeth the ring and the wheel become the same rack: mesh and root alike."""
    out = evaluate(pair(25, 2000, 0.2, 0.0, m=2.0))
    far = give_count(pair(25, 41, 0.2, 0.0, m=2.0), 0, 2, -2000)
    inn = evaluate(
        set_many(
            far,
            {
                "train.gears.gear2.z_0": 400,
                "train.gears.gear2.rho_fP": 0.38,
                "train.gears.gear2.x_0": 0.0,
            },
        )
    )
    for symbol, tol in (("eps_alpha", 0.01), ("alpha_wt", 0.01), ("sigma_H0", 0.02), ("H_V", 0.05)):
        assert inn.stages[0].mesh[symbol] == pytest.approx(out.stages[0].mesh[symbol], rel=tol), symbol
    assert inn.stages[0].gears[0]["Y_F"] == pytest.approx(out.stages[0].gears[0]["Y_F"], rel=0.02)


@pytest.mark.parametrize(
    ("z1", "z2", "word"), [(60, -60, "more teeth"), (25, -3, "-4 or fewer"), (25, -20, "more teeth")]
)
def test_internal_counts_that_cannot_be_are_refused_in_words(z1, z2, word):
    with pytest.raises(OutOfRange, match=word):
        evaluate(ring(z1, z2))


def test_a_centre_distance_out_of_reach_tells_the_distances_that_work():
    base = ring(**{"train.gears.gear2.x": None, "train.meshes.stage1.a_w": 35.2})
    assert evaluate(base).stages[0].gears[1]["x"] == pytest.approx(-0.3, abs=0.01)  # 0.2 mm further out
    with pytest.raises(OutOfRange) as fault:
        evaluate(set_many(base, {"train.meshes.stage1.a_w": 60.0}))
    low, high = fault.value.low, fault.value.high
    assert 30 < low < high < 45
    for a_w in (low, high):
        evaluate(set_many(base, {"train.meshes.stage1.a_w": a_w}))

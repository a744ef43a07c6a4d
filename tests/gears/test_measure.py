"""Measured sizes against direct measurement on the generated outline."""

import numpy as np
import pytest
from scipy.optimize import brentq

from cooper.gears.identify import identify
from cooper.gears.measure import (
    ball_centre_diameter,
    ball_contact_diameter,
    best_ball,
    best_span,
    chordal_thickness,
    least_face_width_for_span,
    measurable_span,
    over_three_pins,
    over_two_balls,
    span,
    span_contact_diameter,
)
from cooper.gears.outline import gear_outline, half_tooth, to_xy
from cooper.gears.root import root_form
from cooper.stock.series import modules
from makers import tooth

GEARS = [(17, 0.32), (20, 0.0), (41, -0.3), (60, 0.5), (11, 0.4)]


@pytest.mark.parametrize(("z", "x"), GEARS)
def test_span_is_the_width_between_parallel_faces_on_the_outline(z, x):
    t = tooth(z, x)
    form = root_form(t)
    low, high = measurable_span(t, form.d_Ff)
    assert low <= best_span(t, form.d_Ff) <= high
    half = half_tooth(t, 1e-6)
    flank = half[(half[:, 0] >= float(form.d_Ff) / 2) & (half[:, 1] >= float(t.half_angle(t.d_a)) - 1e-12)]
    for k in range(int(low), int(high) + 1):
        # Upper flank of the last of k teeth placed evenly about +x; the face touches at its highest point.
        turned = flank + [0.0, np.pi / z * (k - 1)]
        y = to_xy(turned)[:, 1]
        assert 2 * y.max() == pytest.approx(float(span(t, k)), abs=2e-6)
        at = turned[int(np.argmax(y)), 0] * 2
        assert at == pytest.approx(float(span_contact_diameter(t, k)), abs=0.05)
    for k in (low - 1, high + 1):
        at = float(span_contact_diameter(t, k))
        assert k < 2 or not float(form.d_Ff) <= at <= float(t.d_a)


@pytest.mark.parametrize(("z", "x"), GEARS)
def test_ball_rests_where_its_distance_to_the_outline_is_its_radius(z, x):
    t = tooth(z, x)
    D = float(best_ball(t))
    assert float(ball_contact_diameter(t, D)) == pytest.approx(float(t.d) + 2 * x * 2.0, abs=1e-6)
    outline = gear_outline(t, np.pi / z, 1e-6)  # a space on +x

    def gap(r):
        return np.hypot(outline[:, 0] - r, outline[:, 1]).min() - D / 2

    r = brentq(gap, float(t.d_f) / 2 + D * 0.3, float(t.d_a) / 2 + D)
    assert 2 * r == pytest.approx(float(ball_centre_diameter(t, D)), abs=2e-3)
    # The size over both balls, from their true centres.
    angle = np.pi if z % 2 == 0 else np.pi * (z - 1) / z
    across = np.hypot(r - r * np.cos(angle), r * np.sin(angle)) + D
    assert float(over_two_balls(t, D)) == pytest.approx(across, abs=3e-3)
    if z % 2:
        # Two pins side by side opposite to one: the distance of their common tangent from it.
        height = r + r * np.cos(np.pi / z) + D
        assert float(over_three_pins(t, D)) == pytest.approx(height, abs=3e-3)


def test_a_helical_ball_is_held_by_the_normal_distance_to_the_helicoid():
    """The ball's centre keeps its radius from the flank surface itself, found by least distance in space."""
    t = tooth(23, 0.2, m=2.0, beta=28.0)
    D = 3.6
    r = float(ball_centre_diameter(t, D)) / 2
    lead = np.pi * float(t.d) / np.tan(float(t.beta))
    middle = np.pi / 23
    radii = np.linspace(float(t.d_b) / 2 * 1.0001, float(t.d_a) / 2, 1500)
    axial = np.linspace(-2, 2, 1601)
    # Flank below the space on +x, as a surface: turned by the helix with the height.
    angle = -middle + np.asarray(t.half_angle(2 * radii))
    turn = angle[:, None] + 2 * np.pi * axial[None, :] / lead
    distance = np.sqrt(
        (radii[:, None] * np.cos(turn) - r) ** 2 + (radii[:, None] * np.sin(turn)) ** 2 + axial[None, :] ** 2
    )
    assert distance.min() == pytest.approx(D / 2, abs=2e-5)
    i, _ = np.unravel_index(np.argmin(distance), distance.shape)
    assert 2 * radii[i] == pytest.approx(float(ball_contact_diameter(t, D)), abs=0.02)


def test_a_helical_span_lies_on_the_base_cylinder():
    """The two faces touch on the base tangent plane; its normal length is the sum of normal base pitches and
    thickness."""
    t = tooth(30, 0.1, m=2.0, beta=20.0)
    p_bn = np.pi * 2.0 * np.cos(np.radians(20))
    s_bt = float(t.d_b) * float(t.s_t() / t.d + np.tan(t.alpha_t) - t.alpha_t)
    for k in (3, 5):
        assert float(span(t, k)) == pytest.approx((k - 1) * p_bn + s_bt * np.cos(float(t.beta_b)), abs=1e-9)
    assert float(least_face_width_for_span(t, 5)) > float(least_face_width_for_span(t, 3)) > 0


def test_chordal_thickness_on_the_outline():
    t = tooth(25, 0.2)
    chord, height = chordal_thickness(t)
    half = half_tooth(t, 1e-6)
    angle = np.interp(float(t.d) / 2, half[:, 0], half[:, 1])
    assert float(chord) == pytest.approx(float(t.d) * np.sin(angle), abs=1e-5)
    assert float(height) == pytest.approx(float(t.d_a) / 2 - float(t.d) / 2 * np.cos(angle), abs=1e-5)


def test_identification_finds_hundreds_of_random_gears_again():
    rng = np.random.default_rng(7)
    first = 0
    for _ in range(300):
        m = float(rng.choice([v for v in modules() if 0.5 <= v <= 10]))
        alpha = float(rng.choice([14.5, 20.0, 25.0]))
        z, x = int(rng.integers(14, 90)), float(rng.uniform(-0.2, 0.5))
        t = tooth(z, x, m=m, alpha=alpha, h_fP=1.2, rho=0.2)
        k = int(best_span(t, root_form(t).d_Ff))
        spans = {n: float(span(t, n)) + rng.normal(0, 0.003) for n in (k, k + 1)}
        result = identify(z, float(t.d_a) + rng.normal(0, 0.01), spans, modules())
        right = [f for f in result if f.m_n == m and np.isclose(np.degrees(f.alpha_n), alpha)]
        assert right, (z, x, m, alpha)
        assert right[0].x == pytest.approx(x, abs=0.06 / m + 0.01)
        first += result[0] is right[0]
    assert first > 285  # the right one is nearly always the first of the list


def test_identification_works_from_pins_and_finds_an_unknown_helix():
    rng = np.random.default_rng(11)
    right_first, helix_right = 0, 0
    for _ in range(150):
        m = float(rng.choice([v for v in modules() if 1 <= v <= 6]))
        z, x, beta = int(rng.integers(18, 70)), float(rng.uniform(-0.1, 0.3)), float(rng.choice([0.0, 0.0, 12.0, 25.0]))
        t = tooth(z, x, m=m, h_fP=1.2, rho=0.2, beta=beta)
        D = round(float(best_ball(t)) * 4) / 4
        k = int(best_span(t, root_form(t).d_Ff))
        balls = {D: float(over_two_balls(t, D)) + rng.normal(0, 0.002)}
        by_pin = identify(z, float(t.d_a), {}, modules(), balls=balls, beta=np.radians(beta), alphas_deg=(20.0,))
        right_first += by_pin[0].m_n == m and abs(by_pin[0].x - x) < 0.02 / m + 0.005
        spans = {n: float(span(t, n)) + rng.normal(0, 0.001) for n in (k, k + 1)}
        free = identify(z, float(t.d_a), spans, modules(), balls=balls, beta=None, alphas_deg=(20.0,))
        near = [f for f in free if f.m_n == m and abs(np.degrees(f.beta) - beta) < 0.6]
        assert near, (z, x, m, beta)
        helix_right += near[0] in free[:2]
    assert right_first >= 146
    assert helix_right >= 140


def test_the_span_is_taken_where_the_flank_is_met_half_way_up_for_shifted_gears_too():
    """The best number of teeth by looking at all: its contact lies nearest to the circle d + 2 x m_n."""
    for z in range(12, 120, 7):
        for x in (-0.4, 0.0, 0.5, 1.0):
            t = tooth(float(z), x=x)
            form = float(root_form(t).d_Ff)
            low, high = (int(v) for v in measurable_span(t, form))
            d_b, wanted = float(t.d_b), max(float(t.d + 2 * x * t.m_n), float(t.d_b))

            def along(d, d_b=d_b):  # length of the tangent from the base circle
                return np.sqrt(max(d**2 - d_b**2, 0.0))

            off = {
                k: abs(along(float(span_contact_diameter(t, k))) - along(wanted)) for k in range(max(low, 1), high + 1)
            }
            assert not off or off[int(best_span(t, form))] <= min(off.values()) + 1e-9, (z, x, off)

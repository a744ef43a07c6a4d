"""How gears stand to each other, by hand and by where their teeth and spaces lie."""

import numpy as np
import pytest

from cooper.gears.measure import measurable_span, span
from cooper.gears.phase import contact_positions, mesh_placement
from cooper.gears.root import root_form
from cooper.trains.planets import phase_at_external, phase_at_ring, ring_phase
from makers import tooth


def test_a_pair_stands_tooth_to_space_and_lags_by_its_play():
    # z = 20 and 40, a = 60 mm: the wheel's working pitch circle is 80 mm; 0.08 mm of play is 0.001 rad of it... over
    # the diameter.
    for side in (-1, 0, 1):
        s = mesh_placement(20.0, 40.0, 0.08, 60.0, 0.0, side)
        assert float(s.phi_1) == 0.0
        assert float(s.phi_2) == pytest.approx(np.pi + np.pi / 40 + side * 0.08 / 80)
    rolled = mesh_placement(20.0, 40.0, 0.0, 60.0, 0.3, 1)
    assert float(rolled.phi_2) == pytest.approx(np.pi + np.pi / 40 - 0.15)
    ring = mesh_placement(20.0, -60.0, 0.0, -40.0, 0.3, 1)
    assert float(ring.phi_2) == pytest.approx(-np.pi / 60 + 0.1)


def test_teeth_touch_a_base_pitch_apart_and_move_with_the_base_circle():
    at = contact_positions(0.05, 20, 18.0, 0.09, 0.4, (2.0, 16.0), 1)
    first = 18.0 * (0.05 + 0.09 + 0.4)
    pitch = 18.0 * 2 * np.pi / 20
    expected = [first + k * pitch for k in range(-3, 4) if 2.0 <= first + k * pitch <= 16.0]
    assert at == pytest.approx(expected)
    assert len(at) == 3
    back = contact_positions(0.05, 20, 18.0, 0.09, 0.4, (2.0, 16.0), -1)
    assert back[0] == pytest.approx(18.0 * (0.09 + 0.4 - 0.05) - pitch * np.floor((18.0 * 0.44 - 2.0) / pitch))


def to_tooth(angle, phase, z):
    """How far a direction lies from the middle of the next tooth, in pitches."""
    return ((angle - phase) * z / (2 * np.pi) + 0.5) % 1 - 0.5


@pytest.mark.parametrize("theta", [0.0, 0.7, -2.1])
def test_planets_stand_tooth_to_space_with_sun_and_ring(theta):
    z_s, z_p, z_r, psi_s, psi_r = 24, 30, 84, 0.13, -0.4
    planet = float(phase_at_external(z_p, z_s, theta, psi_s))
    # On the line of centres what the sun shows outwards the planet shows inwards, half a pitch off.
    apart = to_tooth(theta, psi_s, z_s) + to_tooth(theta + np.pi, planet, z_p)
    assert abs(apart % 1) == pytest.approx(0.5)
    in_ring = float(phase_at_ring(z_p, z_r, theta, psi_r))
    apart = to_tooth(theta, psi_r, z_r) - to_tooth(theta, in_ring, z_p)
    assert abs(apart % 1) == pytest.approx(0.5)
    assert to_tooth(theta, float(ring_phase(z_p, z_r, theta, in_ring)), z_r) == pytest.approx(
        to_tooth(theta, psi_r, z_r)
    )


def test_spans_reach_from_root_form_to_tip_on_shifted_teeth():
    for x in (-0.3, 0.0, 0.5):
        t = tooth(40, x)
        low, high = (int(k) for k in measurable_span(t, root_form(t).d_Ff))
        for k in range(2, 12):
            # Faces stand evenly to both sides: each touches half the span from the base tangent.
            touch = np.hypot(float(t.d_b), float(span(t, k)))
            fits = float(root_form(t).d_Ff) <= touch <= float(t.d_a)
            assert fits == (low <= k <= high), (x, k)

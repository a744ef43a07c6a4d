"""Strength of shafts: form factors against other curves, DIN 743 written out, hubs against Lame's equation solved by
differences."""

import numpy as np
import pytest

from cooper.machine.hub_joints import press_fit
from cooper.machine.notch_factors import groove_form, shoulder_form
from cooper.machine.shaft_strength import ShaftMaterial, fatigue_safety, goodman_safety, notch_total, yield_safety
from cooper.stock.shaft_steel import shaft_steel, size_factor

BEND = {
    "low": ((0.947, 1.206, -0.131), (0.022, -3.405, 0.915), (0.869, 1.777, -0.555), (-0.810, 0.422, -0.260)),
    "high": ((1.232, 0.832, -0.008), (-3.813, 0.968, -0.260), (7.423, -4.868, 0.869), (-3.839, 3.070, -0.600)),
}
TWIST = ((0.905, 0.783, -0.075), (-0.437, -1.969, 0.553), (1.557, 1.073, -0.578), (-1.061, 0.171, 0.086))
"""Polynomials of the stress concentration at shoulders of round shafts over h/r and 2h/D, as printed in collections
of such curves."""


def from_curves(rows, d, D, r):
    h = (D - d) / 2
    s, share = np.sqrt(h / r), 2 * h / D
    return sum((a + b * s + c * s * s) * share**k for k, (a, b, c) in enumerate(rows))


@pytest.mark.parametrize("D", [44.0, 50.0, 60.0])
@pytest.mark.parametrize("r", [1.0, 2.0, 4.0])
def test_form_factors_of_shoulders_lie_near_printed_curves(D, r):
    h = (D - 40) / 2
    bending = from_curves(BEND["low" if h / r <= 2 else "high"], 40, D, r)
    _, b, t = shoulder_form(40.0, D, r)
    assert b == pytest.approx(bending, rel=0.07)
    if 0.25 <= h / r <= 4:
        assert t == pytest.approx(from_curves(TWIST, 40, D, r), rel=0.07)


def test_a_groove_notches_more_than_a_shoulder_and_a_large_radius_hardly():
    assert np.all(groove_form(40.0, 50.0, 2.0) > shoulder_form(40.0, 50.0, 2.0))
    assert np.all(shoulder_form(40.0, 41.0, 30.0) < 1.3)


def test_a_section_by_din_743_written_out():
    """A shaft of C45E+QT, 50 mm, at a shoulder; bending turns with it, torsion starts and stops."""
    steel = shaft_steel("C45E+QT")
    K_1 = 1 - 0.26 * np.log10(50 / 16)
    assert size_factor(steel.kind, 50.0) == pytest.approx(K_1, rel=1e-12)
    sigma_B, sigma_S = 700 * K_1, 490 * (1 - 0.34 * np.log10(50 / 16))
    beta = np.array([2.0, 1.8, 1.5])
    K = notch_total(beta, 40.0, 16.0, sigma_B)
    K_F = 1 - 0.22 * np.log10(16) * (np.log10(sigma_B / 20) - 1)
    K_2 = 1 - 0.2 * np.log10(40 / 7.5) / np.log10(20)
    K_b, K_t = 1.8 / K_2 + 1 / K_F - 1, 1.5 / K_2 + 1 / (0.575 * K_F + 0.425) - 1
    assert K[1:] == pytest.approx([K_b, K_t], rel=1e-12)
    W_b, W_t = 350 * K_1 / K_b, 210 * K_1 / K_t
    sigma, tau_a, tau_m = 55.0, 18.0, 18.0
    mean = np.sqrt(3) * tau_m
    psi_b, psi_t = W_b / (2 * sigma_B - W_b), W_t / (2 * sigma_B - W_t)
    bears_b = W_b / (1 + psi_b * mean / sigma)
    bears_t = W_t / (1 + psi_t * (mean / np.sqrt(3)) / tau_a)
    S = 1 / np.hypot(sigma / bears_b, tau_a / bears_t)
    stuff = ShaftMaterial(sigma_B=sigma_B, sigma_S=sigma_S, sigma_W=K_1 * np.array(steel.sigma_W))
    result = fatigue_safety(np.array([0.0, sigma, tau_a]), np.array([0.0, 0.0, tau_m]), K, stuff)
    assert result == pytest.approx(S, rel=1e-9)
    at_limit = fatigue_safety(S * np.array([0.0, sigma, tau_a]), S * np.array([0.0, 0.0, tau_m]), K, stuff)
    assert at_limit == pytest.approx(1.0, rel=1e-9)
    # With the mean kept and the amplitude at what it bears, both cases meet.
    one = fatigue_safety(np.array([0, bears_b, 0.0]), np.array([0, 0, tau_m]), K, stuff, constant_ratio=False)
    assert one == pytest.approx(bears_b**-1 * (W_b - psi_b * mean), rel=1e-9)
    S_Y = yield_safety(np.array([10.0, 120.0, 80.0]), stuff, np.array([2.2, 2.2, 1.5]))
    hand = 1 / np.hypot(10 / (1.1 * sigma_S) + 120 / (1.2 * 1.1 * sigma_S), 80 * np.sqrt(3) / (1.2 * sigma_S))
    assert pytest.approx(hand, rel=1e-9) == S_Y


def test_hollow_and_hard_shafts_yield_earlier_and_sharp_notches_later():
    soft = ShaftMaterial(sigma_B=700.0, sigma_S=500.0, sigma_W=np.array([280.0, 350.0, 210.0]))
    hard = ShaftMaterial(sigma_B=700.0, sigma_S=500.0, sigma_W=np.array([280.0, 350.0, 210.0]), hard=True)
    b, t = np.array([0.0, 100.0, 0.0]), np.array([0.0, 0.0, 100.0])
    assert yield_safety(b, soft) == pytest.approx(1.2 * 5) and yield_safety(b, soft, hollow=True) == pytest.approx(
        1.1 * 5
    )
    assert yield_safety(t, soft) == pytest.approx(1.2 * 5 / np.sqrt(3))
    assert yield_safety(t, soft, hollow=True) == pytest.approx(5 / np.sqrt(3))
    assert [float(yield_safety(b, soft, a)) for a in (1.4, 1.5, 2.0, 3.1)] == pytest.approx([6, 6.3, 6.6, 6.9])
    assert yield_safety(b, hard, 3.1) == pytest.approx(5.0) and yield_safety(t, hard) == pytest.approx(5 / np.sqrt(3))


def test_goodmans_line_goes_through_both_of_its_ends():
    ones = np.ones(3)
    assert goodman_safety(np.array([0, 200.0, 0]), np.zeros(3), ones, 200.0, 700.0) == pytest.approx(1.0)
    assert goodman_safety(np.zeros(3), np.array([700.0, 0, 0]), ones, 200.0, 700.0) == pytest.approx(1.0)
    assert goodman_safety(np.zeros(3), np.array([0, 0, 700 / np.sqrt(3)]), ones, 200.0, 700.0) == pytest.approx(1.0)


def lame(r, p_in, p_out, E, nu):
    """Radial displacement of a ring in plane stress, u'' + u'/r - u/r^2 = 0 by differences; at the radii r."""
    n, h = len(r), r[1] - r[0]
    A, rhs = np.zeros((n, n)), np.zeros(n)
    for i in range(1, n - 1):
        A[i, i - 1] = 1 / h**2 - 1 / (2 * h * r[i])
        A[i, i] = -2 / h**2 - 1 / r[i] ** 2
        A[i, i + 1] = 1 / h**2 + 1 / (2 * h * r[i])
    c = E / (1 - nu**2)
    for i, sign, p in ((0, 1, p_in), (n - 1, -1, p_out)):
        A[i, i] = c * (-1.5 * sign / h + nu / r[i])
        A[i, i + sign], A[i, i + 2 * sign] = c * 2 * sign / h, -c * 0.5 * sign / h
        rhs[i] = -p
    return np.linalg.solve(A, rhs)


def test_a_press_fit_against_the_equation_of_the_ring():
    result = press_fit(U=0.06, d=60.0, d_hub=110.0, d_i=20.0, length=50.0, mu=0.12, E_hub=118000.0, nu_hub=0.26)
    p = float(result.p)
    hub, shaft = np.linspace(30, 55, 401), np.linspace(10, 30, 401)
    opens = lame(hub, p, 0.0, 118000.0, 0.26)[0] - lame(shaft, 0.0, p, 206000.0, 0.3)[-1]
    assert 2 * opens == pytest.approx(0.06, rel=2e-4)
    assert pytest.approx(0.12 * p * np.pi * 60 * 50 * 30 / 1000, rel=1e-9) == result.T
    warm = press_fit(U=0.06, d=60.0, d_hub=110.0, length=50.0, mu=0.12, dtheta=50.0, alpha_hub=23e-6)
    assert warm.p == pytest.approx(0.0) or warm.p < press_fit(U=0.06, d=60.0, d_hub=110.0, length=50.0, mu=0.12).p


def test_turning_loosens_a_press_fit_as_the_ring_grows():
    """The speed that lets go: where the growth of hub and shaft at their joint, free of each other, takes up the
    interference."""
    d, D, rho, nu, E, U = 100.0, 250.0, 7850.0, 0.3, 206000.0, 0.05
    a, b = 50e-3, 125e-3

    def grows(omega):
        hub = rho * omega**2 / 4 / (E * 1e6) * a * ((1 - nu) * a**2 + (3 + nu) * b**2)
        shaft = rho * omega**2 * a**3 * (1 - nu) / (4 * E * 1e6)
        return 2000 * (hub - shaft)

    omega = np.sqrt(U / grows(1.0))
    still = press_fit(U=U, d=d, d_hub=D, length=80.0, mu=0.1)
    slow = press_fit(U=U, d=d, d_hub=D, length=80.0, mu=0.1, omega=0.5 * omega)
    assert float(slow.p / still.p) == pytest.approx(0.75, rel=2e-3)
    assert float(press_fit(U=U, d=d, d_hub=D, length=80.0, mu=0.1, omega=1.01 * omega).p) == 0.0

"""The stepped beam against closed forms, and against virtual work integrated numerically over random stepped shafts."""

import numpy as np
import pytest

from cooper.machine.beam import RIGID, Beam, bend, whirling_speeds

E, G = 206000.0, 206000.0 / 2.6


def beam(x, d, supports, stiffness=None, d_i=0.0):
    d = np.broadcast_to(np.asarray(d, dtype=float), (len(x) - 1,))
    return Beam(x=np.asarray(x, dtype=float), d=d, d_i=np.full(len(x) - 1, float(d_i)), supports=tuple(supports),
                stiffness=tuple(stiffness or [RIGID] * len(supports)))  # fmt: skip


def test_a_shaft_on_two_bearings_under_a_force_in_its_middle_and_beyond_its_end():
    L, d, F = 400.0, 25.0, 1500.0
    EI, kGA = E * np.pi * d**4 / 64, 0.886363636 * G * np.pi * d**2 / 4
    x = np.linspace(0, L, 11)
    forces = np.zeros(11)
    forces[5] = -F
    bent = bend(beam(x, d, (0, 10)), forces)
    assert bent.w[5] == pytest.approx(-(F * L**3 / (48 * EI) + F * L / (4 * kGA)), rel=1e-8)
    assert bent.M.max() == pytest.approx(F * L / 4, rel=1e-9)
    forces = np.zeros(11)
    forces[10] = -F
    over = bend(beam(x, d, (0, 6)), forces)
    a, b = 240.0, 160.0
    assert over.reactions == pytest.approx([-F * b / a, F * (a + b) / a], rel=1e-9)
    slope_at_bearing = F * b * a / (3 * EI)
    sag = F * b**3 / (3 * EI) + slope_at_bearing * b + F * b / kGA + F * b * b / (a * kGA)
    assert over.w[10] == pytest.approx(-sag, rel=1e-8)


def test_three_bearings_share_an_even_load_as_textbooks_say():
    n, L, q = 81, 800.0, 2.0
    x = np.linspace(0, L, n)
    share = np.full(n, -q * L / (n - 1))
    share[[0, -1]] /= 2
    bent = bend(beam(x, 12.0, (0, 40, 80)), share)
    # A slender beam: 3/8 and 10/8 of the load of one span.
    assert bent.reactions == pytest.approx([0.375 * q * L / 2, 1.25 * q * L / 2, 0.375 * q * L / 2], rel=4e-3)


def test_soft_bearings_sink_by_their_load_over_their_stiffness():
    x = np.linspace(0, 200, 5)
    forces = np.array([0, 0, -800.0, 0, 0])
    stiff, soft = bend(beam(x, 30, (0, 4)), forces), bend(beam(x, 30, (0, 4), (4e4, 2e4)), forces)
    assert soft.reactions == pytest.approx(stiff.reactions, rel=1e-9)
    assert soft.w[0] == pytest.approx(-400 / 4e4, rel=1e-9)
    assert soft.w[2] - stiff.w[2] == pytest.approx(-(400 / 4e4 + 400 / 2e4) / 2, rel=1e-9)


@pytest.mark.parametrize("seed", range(8))
def test_random_stepped_shafts_against_virtual_work(seed):
    """Deflection by integrating M m / EI + V v / kGA, moments from equilibrium alone."""
    rng = np.random.default_rng(seed)
    x = np.concatenate(([0.0], np.cumsum(rng.uniform(5, 60, 9))))
    d, d_i = rng.uniform(15, 60, 9), rng.uniform(0, 10)
    a, b = sorted(rng.choice(np.arange(1, 9), 2, replace=False))
    if b - a < 2:
        a, b = 1, 8
    F, M = rng.uniform(-2000, 2000, 10), rng.uniform(-3e4, 3e4, 10)
    bent = bend(beam(x, d, (a, b), d_i=d_i), F, M)

    def statics(F, M):
        R_b = -(np.sum(F * (x - x[a])) + np.sum(M)) / (x[b] - x[a])
        R_a = -np.sum(F) - R_b
        return R_a, R_b

    def inner(F, M, s):
        """Shear and moment just at s from what stands left of it."""
        R_a, R_b = statics(F, M)
        left = F.copy()
        left[a] += R_a
        left[b] += R_b
        here = x[:, None] < s
        V = np.sum(left[:, None] * here, axis=0)
        m = np.sum((left[:, None] * (s - x[:, None]) - M[:, None]) * here, axis=0)
        return V, m

    assert bent.reactions == pytest.approx(statics(F, M), rel=1e-7, abs=1e-6)
    at = int(rng.integers(0, 10))
    unit = np.zeros(10)
    unit[at] = 1.0
    nodes, weights = np.polynomial.legendre.leggauss(4)
    total = 0.0
    for e in range(9):
        s = (x[e] + x[e + 1]) / 2 + nodes * (x[e + 1] - x[e]) / 2
        w = weights * (x[e + 1] - x[e]) / 2
        I = np.pi * (d[e] ** 4 - d_i**4) / 64
        A = np.pi * (d[e] ** 2 - d_i**2) / 4
        m_ = d_i / d[e]
        k = 7.8 * (1 + m_**2) ** 2 / (8.8 * (1 + m_**2) ** 2 + 23.6 * m_**2)
        (V, Mo), (v, mo) = inner(F, M, s), inner(unit, np.zeros(10), s)
        total += np.sum(w * (Mo * mo / (E * I) + V * v / (k * G * A)))
    assert bent.w[at] == pytest.approx(total, rel=1e-6, abs=1e-9)


def test_whirling_of_a_light_shaft_with_a_disc_and_of_a_bare_one():
    x, d = np.linspace(0, 300, 7), 16.0
    EI = E * np.pi * d**4 / 64
    masses = np.zeros(7)
    masses[3] = 5.0
    kGA = 0.886363636 * G * np.pi * d**2 / 4
    give = 300.0**3 / (48 * EI) + 300.0 / (4 * kGA)
    result = whirling_speeds(beam(x, d, (0, 6)), masses, np.zeros(7), rho=1e-12)
    assert result[0] == pytest.approx(np.sqrt(1000 / (give * 5.0)), rel=1e-4)
    bare = whirling_speeds(beam(np.linspace(0, 900, 25), 10.0, (0, 24)), np.zeros(25), np.zeros(25), count=2)
    c = np.sqrt(E * 1000 / 7.85e-6 * 10.0**2 / 16)
    assert bare == pytest.approx([(np.pi / 900) ** 2 * c, (2 * np.pi / 900) ** 2 * c], rel=2e-3)

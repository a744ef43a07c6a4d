"""Rolling bearings: factors against tables and derivations, ratings against customary ones, loads of pairs."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.machine import bearing_loads
from cooper.machine import rolling_life as life
from cooper.machine.check_bearing import ratings, static_factor_of
from cooper.machine.rolling_rating import F_C_BALL, GAMMA_BALL, roller_factor
from cooper.stock.rolling import bearing_of, bearings_of, rolling_types, series_of

ROLLERS = {0.02: 60.8, 0.05: 74.1, 0.08: 81.2, 0.10: 84.2, 0.14: 87.7, 0.18: 88.8, 0.22: 88.2, 0.26: 86.4, 0.30: 83.8}
"""f_c of radial roller bearings as the standard tabulates it."""


def test_factors_of_rating_follow_from_their_derivation():
    assert [float(roller_factor(g)) for g in ROLLERS] == pytest.approx(list(ROLLERS.values()), rel=1.5e-3)
    # Of balls in grooves of 0.52 D_w: both raceways in series.
    g = GAMMA_BALL
    inner = (1 + (1.04 * ((1 - g) / (1 + g)) ** 1.72) ** (10 / 3)) ** -0.3
    derived = 38.2 * inner * g**0.3 * (1 - g) ** 1.39 / (1 + g) ** (1 / 3) * 26**0.41
    assert pytest.approx(derived, rel=6e-3) == F_C_BALL


@pytest.mark.parametrize(
    ("kind", "series", "d", "C", "C_0"),
    [
        ("deep groove ball", "10", 25.0, 11.9, 6.5),
        ("deep groove ball", "02", 30.0, 19.5, 11.2),
        ("deep groove ball", "03", 40.0, 41.0, 24.0),
        ("deep groove ball", "02", 60.0, 52.0, 36.0),
        ("cylindrical roller", "02", 30.0, 42.0, 37.0),
        ("cylindrical roller", "03", 50.0, 118.0, 113.0),
        ("angular contact ball", "02", 40.0, 36.0, 26.0),
        ("needle roller", "49", 30.0, 25.0, 39.0),
    ],
)
def test_ratings_from_typical_geometry_lie_near_customary_ones(kind, series, d, C, C_0):
    result = ratings(bearing_of(kind, series, d))
    assert np.array(result) / 1000 == pytest.approx([C, C_0], rel=0.17)


def test_a_bearing_has_the_static_factor_of_its_row():
    """ISO 76, Table 1: between 0.12 (15.9) and 0.14 (15.4), between 0.20 (14) and 0.22 (13.5)."""
    ball = bearing_of("deep groove ball", "02", 30.0)
    for gamma, f_0 in ((0.13, (15.9 + 15.4) / 2), (0.21, (14 + 13.5) / 2)):
        assert static_factor_of(replace(ball, D_w=gamma * ball.D_pw)) == pytest.approx(f_0, rel=1e-6)
    tilted = replace(ball, D_w=0.26 * ball.D_pw, alpha=np.radians(60))
    assert static_factor_of(tilted) == pytest.approx((15.9 + 15.4) / 2, rel=1e-6)


def test_every_bearing_can_be():
    for kind in rolling_types():
        for series in series_of(kind):
            row = bearings_of(kind, series)
            assert [b.d for b in row] == sorted({b.d for b in row})
            for b in row:
                assert b.D > b.d > 0 and b.B > 0 and b.D_w < (b.D - b.d) / 2 and b.Z >= 5
                # Rolling elements have room side by side, and the ratings grow with the bearing.
                assert b.Z * b.D_w < np.pi * b.D_pw
            C = np.array([ratings(b)[0] for b in row])
            # Whole rolling elements let the rating fall a little from one size to the next at times.
            assert np.all(np.diff(C) > -0.06 * C[1:]) and C[-1] > 4 * C[0]


def test_the_factors_of_life_go_on_without_a_step():
    for rollers in (False, True):
        for edge in (0.4, 1.0):
            below, above = (float(life.life_factor_iso(edge * (1 + s * 1e-9), 0.3, rollers)) for s in (-1, 1))
            assert below == pytest.approx(above, rel=1e-3)
        assert float(life.life_factor_iso(0.1, 3.0, rollers)) == pytest.approx(0.1, rel=1e-2)


def test_loads_of_bearings_by_the_standards_tables():
    """f_0 F_a / C_0 = 1.38: e = 0.30, Y = 1.45; tapered by their angle; rollers alone bear no thrust."""
    P = bearing_loads.equivalent_load("deep groove ball", 0.0, np.array([1000.0, 5000.0]), 1380.0, np.array(14000.0))
    assert pytest.approx([0.56 * 1000 + 1.45 * 1380, 5000.0], rel=1e-6) == P
    a = np.radians(14.0)
    assert bearing_loads.equivalent_load("tapered roller", a, 1000.0, 2000.0, 5e4) == pytest.approx(
        400 + 0.4 / np.tan(a) * 2000
    )
    both = bearing_loads.equivalent_load("spherical roller", np.radians(10.0), 9000.0, 500.0, 5e4)
    assert both == pytest.approx(9000 + 0.45 / np.tan(np.radians(10.0)) * 500)
    # Beyond e = 1.5 tan(alpha) both of its factors change.
    much = bearing_loads.equivalent_load("spherical roller", np.radians(10.0), 4000.0, 3000.0, 5e4)
    assert much == pytest.approx(0.67 * 4000 + 0.67 / np.tan(np.radians(10.0)) * 3000)
    for angle, (e, X, Y, Y_0) in {
        25: (0.68, 0.41, 0.87, 0.38),
        30: (0.80, 0.39, 0.76, 0.33),
        35: (0.95, 0.37, 0.66, 0.29),
        40: (1.14, 0.35, 0.57, 0.26),
    }.items():
        at = ("angular contact ball", np.radians(angle))
        assert bearing_loads.equivalent_load(*at, 1000.0, 3000.0, 5e4) == pytest.approx(X * 1000 + Y * 3000)
        assert bearing_loads.equivalent_load(*at, 1000.0, 0.99 * e * 1000, 5e4) == pytest.approx(1000.0)
        assert bearing_loads.static_load(*at, 1000.0, 9000.0) == pytest.approx(500 + Y_0 * 9000)
    for share, (e, Y) in {
        0.172: (0.19, 2.3),
        0.345: (0.22, 1.99),
        0.689: (0.26, 1.71),
        1.03: (0.28, 1.55),
        2.07: (0.34, 1.31),
        3.45: (0.38, 1.15),
        5.17: (0.42, 1.04),
        6.89: (0.44, 1.0),
    }.items():
        result = bearing_loads.axial_factors("deep groove ball", 0.0, share * 1000, 14000.0)
        assert (float(result[0]), float(result[2])) == pytest.approx((e, Y), rel=1e-9)
    assert bearing_loads.equivalent_load(
        "angular contact ball", np.radians(40.0), 1000.0, 2000.0, 5e4
    ) == pytest.approx(1490.0)
    assert bearing_loads.static_load("deep groove ball", 0.0, 1000.0, 2000.0) == pytest.approx(1600.0)
    assert bearing_loads.static_load("tapered roller", a, 1000.0, 100.0) == pytest.approx(1000.0)
    assert bearing_loads.static_load("spherical roller", a, 1000.0, 900.0) == pytest.approx(
        1000 + 0.44 / np.tan(a) * 900
    )
    assert bearing_loads.static_load("cylindrical roller", 0.0, 800.0, 0.0) == pytest.approx(800.0)


def test_a_spectrum_damages_as_its_levels_one_after_the_other():
    P, n, q = np.array([3000.0, 1200.0, 500.0]), np.array([900.0, 1400.0, 300.0]), np.array([0.2, 0.5, 0.3])
    for rollers in (False, True):
        P_m = bearing_loads.mean_load(P, n, q, rollers)
        whole = life.rating_life(30000.0, P_m, np.sum(n * q), rollers)
        each = life.rating_life(30000.0, P, n, rollers)
        assert whole == pytest.approx(1 / np.sum(q / each), rel=1e-9)
    assert life.system_life(np.array([10000.0, 40000.0]), np.zeros(2)) == pytest.approx(
        (1e4 ** (-10 / 9) + 4e4 ** (-10 / 9)) ** -0.9
    )
    assert life.contamination_factor("ISO 4406 -/13/10", 1.0, 100.0) == pytest.approx(
        min(0.0864 * 100**0.55, 1) * (1 - 0.5796 / 100 ** (1 / 3))
    )

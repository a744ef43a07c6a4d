"""The rating of a pair by ISO 6336 without a document, each factor put together here once more by hand."""

from math import atan, cos, pi, radians, sqrt, tan

import numpy as np
import pytest

from cooper.gears.inputs import TIP_LOAD, GearInput, PairInput
from cooper.gears.pair_shape import make_tooth
from cooper.gears.tooth import tip_diameter
from cooper.rating.iso6336.form import form_factor, root_section, stress_correction_factor
from cooper.rating.iso6336.rate import rate
from cooper.rating.iso6336.rate_root import root_shift
from cooper.rating.iso6336.strength_number import life_factor, strength_number
from cooper.stock.materials import material_numbers

CASE = material_numbers("Eh", "MQ", 700.0)


def gear(z, x, b, **more):
    given = dict(
        h_aP=1.0,
        h_fP=1.25,
        rho_fP=0.38,
        E_sns=0.0,
        E_sni=0.0,
        d_bore=0.0,
        Rz_H=4.0,
        Rz_F=16.0,
        K_1=9.6,
        K_1_helical=8.5,
    )
    return GearInput(z=float(z), x=x, b=float(b), d_a=np.nan, material=CASE, **{**given, **more})


def given(**more):
    at = dict(
        m_n=4.0,
        alpha_n=radians(20),
        beta=0.0,
        f_ZCa=1.2,
        a_w=4.0 * 30,
        A_as=0.0,
        A_ai=0.0,
        T_1=500.0,
        omega_1=100.0,
        L_h=50000.0,
        K_A=1.5,
        K_Hbeta=1.25,
        K_Halpha=1.1,
        theta_oil=70.0,
        nu_40=220.0,
        nu_100=18.9,
        rho_15=895.0,
        X_L=1.0,
        NT_1e10=0.85,
        pitting_allowed=False,
    )
    return PairInput(**{"gears": (gear(20, 0.0, 40), gear(40, 0.0, 38)), **at, **more})


def test_a_spur_pair_put_together_by_hand():
    s, _ = rate(given())
    m, one = s.mesh, s.gears[0]
    F_t = 2000 * 500 / 80
    v = 100 * 80 / 2000
    alpha = radians(20)
    vz = v * 20 / 100 * sqrt(4 / 5)
    K_V = 1 + (9.6 / (1.5 * F_t / 38) + 0.0193) * vz * (2.071 - 0.357 * vz)
    r_b, r_a = [40 * cos(alpha), 80 * cos(alpha)], [44.0, 84.0]
    path = sum(sqrt(a**2 - b**2) for a, b in zip(r_a, r_b, strict=True)) - 120 * np.sin(alpha)
    eps = path / (pi * 4 * cos(alpha))
    Z_eps = sqrt((4 - eps) / 3)
    Z_H = sqrt(2 * cos(alpha) / (cos(alpha) ** 2 * np.sin(alpha)) * cos(0.0))
    Z_E = sqrt(206e3 / (2 * pi * 0.91))
    Z_B = tan(alpha) / sqrt(
        (sqrt(r_a[0] ** 2 / r_b[0] ** 2 - 1) - 2 * pi / 20)
        * (sqrt(r_a[1] ** 2 / r_b[1] ** 2 - 1) - (eps - 1) * 2 * pi / 40)
    )
    sigma = Z_H * Z_E * Z_eps * sqrt(F_t / (80 * 38) * 3 / 2) * max(Z_B, 1) * sqrt(1.5 * K_V * 1.25 * 1.1)
    assert float(m.K_V) == pytest.approx(K_V, rel=1e-6)
    assert float(m.eps_alpha) == pytest.approx(eps)
    assert float(one.sigma_H) == pytest.approx(sigma, rel=1e-6)
    # The net width of the wider pinion reaches a module beyond the wheel at each end, at most its own 40 mm.
    section = root_section(20.0, 4.0, 0.0, 0.0, make_tooth(given().gears[0], 4.0, alpha).rack, one.d_Na, eps)
    f = sqrt(1.0)
    Y_F, Y_S = form_factor(section, 4.0, alpha, f), stress_correction_factor(section)
    N = (38 / 9.0) ** 2 / (1 + 38 / 9.0 + (38 / 9.0) ** 2)
    sigma_F = F_t / (40 * 4) * float(Y_F * Y_S) * 1.5 * K_V * 1.25**N * 1.1
    assert float(one.sigma_F) == pytest.approx(sigma_F, rel=1e-6)
    assert float(one.N_L) == pytest.approx(100 * 3600 * 50000 / (2 * pi))
    assert float(one.S_F) == pytest.approx(float(one.sigma_FG) / sigma_F, rel=1e-6)


def test_a_shape_that_is_there_already_is_rated_the_same_and_arrays_as_each_alone():
    both, _ = rate(given(T_1=np.array([300.0, 500.0]), load_at=TIP_LOAD))
    for n, T in enumerate((300.0, 500.0)):
        alone, _ = rate(given(T_1=T, load_at=TIP_LOAD))
        for symbol in ("S_F", "S_H", "S_Fst", "sigma_HG"):
            assert float(np.broadcast_to(both.gears[1][symbol], 2)[n]) == pytest.approx(float(alone.gears[1][symbol]))


def test_thinning_counts_for_the_root_from_a_twentieth_of_the_module_on():
    for allowance, counts in ((-0.19, False), (-0.21, True)):
        p = given(gears=(gear(20, 0.3, 40, E_sns=allowance, E_sni=allowance), gear(40, 0.0, 38)))
        tooth = make_tooth(p.gears[0], p.m_n, p.alpha_n)
        s, _ = rate(p)
        shift = 0.3 + allowance / (2 * 4 * tan(p.alpha_n)) if counts else 0.3
        assert float(root_shift(p, tooth, s.gears[0])) == pytest.approx(shift)
    assert float(tip_diameter(20.0, 4.0, 0.0, 0.3, 1.0)) == pytest.approx(90.4)
    assert atan(tan(p.alpha_n)) == pytest.approx(float(tooth.alpha_t))


def test_strength_and_life_of_metals_and_plastics():
    corners = np.array([[1e5, 1e6, 1e8], [1.6, 1.3, 1.0]])
    assert float(strength_number(1500.0, np.array([30.0, 400.0, 0.2]), 0.0, 1e6)) == 1500.0
    assert float(strength_number(0.0, np.array([30.0, 400.0, 0.2]), 1.0, 1e5)) == pytest.approx(30 + 400 * 0.1)
    assert float(life_factor(1.0, 1e5, corners, 0.85)) == 1.0
    assert float(life_factor(0.0, 1e5, corners, 0.85)) == pytest.approx(1.6)

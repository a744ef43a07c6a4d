"""What is composed of several steps, each step written out here again from the method."""

from math import cos, log, pi, radians, sin, sqrt

import numpy as np
import pytest

from cooper.rating.agma2101.geometry import (
    MeshGeometry,
    bending_geometry_factor,
    helical_overlap_factor,
    pitting_geometry_factor,
)
from cooper.rating.along_path import along_path
from cooper.rating.iso6336.form import (
    RootSection,
    form_factor,
    notch_parameter,
    root_section,
    root_section_on_curve,
    stress_correction_factor,
)
from cooper.rating.iso6336.life import cycles_to, strength_curve
from cooper.rating.iso6336.spectrum import damage, equivalent_safety, standard_levels
from cooper.rating.scuffing.flash import flash
from cooper.rating.scuffing.integral import integral
from cooper.running.friction import loss_along_path
from makers import tooth


def test_form_and_stress_correction_factor():
    s = RootSection(np.float64(5.2), np.float64(2.9), np.float64(1.3), np.radians(21.0))
    assert float(form_factor(s, 2.5, np.radians(20), 0.9)) == pytest.approx(
        6 * (2.9 / 2.5) * cos(radians(21)) / ((5.2 / 2.5) ** 2 * cos(radians(20))) * 0.9
    )
    assert float(notch_parameter(s)) == pytest.approx(5.2 / 2.6)
    L = 5.2 / 2.9
    assert float(stress_correction_factor(s)) == pytest.approx((1.2 + 0.13 * L) * 2.0 ** (1 / (1.21 + 2.3 / L)))


PATH = tuple(np.float64(v) for v in (4.0, 8.0, 10.0, 11.0, 16.0))
"""g of A, B, C, D, E; base pitch 7.9 of no importance to the flash."""


def flash_by_hand(g, share, w, mu, T2, u, omega, steel=206000.0):
    rho_1, rho_2 = g, T2 - g
    rho = rho_1 * rho_2 / T2
    v_1, v_2 = omega * rho_1, omega / u * rho_2
    half = sqrt(4 * share * w * rho * 2 * 0.91 / steel / pi)
    return 1.11 * mu * share * w * abs(v_1 - v_2) / (sqrt(2 * half) * sqrt(50 * 3.8) * (sqrt(v_1) + sqrt(v_2)))


def test_flash_temperature_method_written_out():
    T2, u, omega, w_Bt, rho_red, alpha, v = 30.0, 2.0, 150.0, 250.0, 10.0 * 20 / 30, 20.0, 4.0
    result = flash(
        PATH,
        T2,
        u,
        omega,
        w_Bt,
        rho_red,
        np.radians(alpha),
        np.radians(alpha),
        v,
        0.0,
        (1.5, 0.0),
        (206e3, 0.3, 206e3, 0.3),
        7,
        0.6,
        40.0,
        0.9,
        1.2,
        1.2,
        11,
        65.0,
        n_p=3,
    )
    mu = 0.060 * (w_Bt / (2 * v * sin(radians(alpha)) * rho_red)) ** 0.2 * 0.9 * 4.0**-0.05 * 0.6**0.25
    assert float(result.mu_m) == pytest.approx(mu)
    w_n = w_Bt / cos(radians(alpha))

    def share(g):
        return 1 / 3 + (g - 4) / 12 if g < 8 else 1 / 3 + (16 - g) / 15 if g > 11 else 1.0

    rises = [flash_by_hand(g, share(g), w_n, mu, T2, u, omega) for g in np.linspace(4, 16, 41)]
    assert float(result.theta_flm) == pytest.approx(np.mean(rises))
    ends = [flash_by_hand(g, 1.0, w_n, mu, T2, u, omega) for g in (8.0, 11.0)]
    assert float(result.theta_fl) == pytest.approx(max(*rises, *ends))
    bulk = 65 + 0.47 * 1.2 * 2.0 * np.mean(rises)
    assert float(result.theta_M) == pytest.approx(bulk)
    top = bulk + max(*rises, *ends)
    theta_S = 80 + (0.85 + 1.4 * 1.2) * 0.9 * 121
    assert float(result.theta_B) == pytest.approx(top)
    assert float(result.S_B) == pytest.approx((theta_S - 65) / (top - 65))
    fast, limit = (
        flash(
            PATH,
            T2,
            u,
            omega,
            w_Bt,
            rho_red,
            np.radians(alpha),
            np.radians(alpha),
            x,
            0.0,
            (1.5, 0.0),
            (206e3, 0.3, 206e3, 0.3),
            7,
            0.6,
            40.0,
            0.9,
            1.2,
            1.2,
            11,
            65.0,
        ).mu_m
        for x in (80.0, 50.0)
    )
    assert fast == limit


def test_integral_temperature_method_written_out():
    T2, g_E, u, a_w, v, w, rho_red, Ra, eta = 34.2, 19.0, 2.5, 100.0, 6.0, 240.0, 7.0, 0.7, 35.0
    a_wt, a_t, a_n, beta = 21.5, 21.0, 20.0, 12.0
    eps, e_1, e_2, e_g = 1.55, 0.95, 0.6, 2.4
    E_r, relief = 226e3, 0.4
    result = integral(
        T2,
        g_E,
        u,
        a_w,
        v,
        w,
        rho_red,
        (np.radians(a_wt), np.radians(a_t), np.radians(a_n)),
        np.radians(beta),
        (eps, e_1, e_2, e_g),
        eta,
        Ra,
        0.8,
        1.25,
        1.0,
        12,
        60.0,
        E_r,
        relief,
        True,
        5,
        2,
        0.3,
        nu_40=220.0,
    )
    load = w * (1 + 0.2 * sqrt((e_g - 2) * (5 - e_g)))
    mu = (
        0.045 * (load / (2 * v * sin(radians(a_wt)) * rho_red)) ** 0.2 * eta**-0.05 * 2.2 * (Ra / rho_red) ** 0.25 * 0.8
    )
    assert float(result.mu_mC) == pytest.approx(mu)
    r_1, r_2 = g_E, T2 - g_E
    X_BE = 0.51 * sqrt(3.5) * abs(sqrt(r_1) - sqrt(r_2 / 2.5)) / (r_1 * r_2) ** 0.25
    X_M = sqrt(1000) * E_r**0.25 / sqrt(50 * 3.8)
    X_ab = (
        1.22
        * (sin(radians(a_wt)) * cos(radians(a_n)) * cos(radians(beta))) ** 0.25
        / sqrt(cos(radians(a_wt)) * cos(radians(a_t)))
    )
    X_Ca = 1 + (0.06 + 0.18 * 0.4) * 0.95 + (0.02 + 0.69 * 0.4) * 0.95**2
    X_E = 1 + 0.7 * 30 * Ra / rho_red
    flash_E = mu * X_M * X_BE * X_ab * load**0.75 * sqrt(v) / a_w**0.25 * X_E / X_Ca  # X_Q = 1 below 1.5
    X_eps = (0.70 * (e_1**2 + e_2**2) - 0.22 * eps + 0.52 - 0.60 * e_1 * e_2) / (2 * eps * e_1)
    mean = flash_E * X_eps
    assert float(result.theta_flaint) == pytest.approx(mean)
    assert float(result.theta_Mi) == pytest.approx(60 + 0.7 * 1.5 * mean)
    total = 60 + 0.7 * 1.5 * mean + 1.5 * mean
    assert float(result.theta_int) == pytest.approx(total)
    limit = 80 + 0.23 * 3.726 * 144 * 0.8 + 1.25 * 1.5 * 0.2 * 3.726 * 144 * 0.8 * (100 / 220) ** 0.02
    assert float(result.S_int) == pytest.approx(limit / total)

    def rise(eps=(eps, e_1, e_2, e_g), driving=True, Q=5, w=w, v=v):
        t = integral(
            T2,
            g_E,
            u,
            a_w,
            v,
            w,
            rho_red,
            (np.radians(a_wt), np.radians(a_t), np.radians(a_n)),
            np.radians(beta),
            eps,
            eta,
            Ra,
            0.8,
            1.25,
            1.0,
            12,
            60.0,
            E_r,
            relief,
            driving,
            Q,
            nu_40=220.0,
        )
        return t

    # Approach: 1 up to a ratio of 1.5, 0.6 from 3 on, a line between; the wheel drives.
    assert rise(driving=False).theta_flaint / rise().theta_flaint == pytest.approx(1 / (1.4 - 4 / 15 * 0.95 / 0.6))
    late = (1.6, 1.25, 0.35, 1.6)
    assert rise(late, False).theta_flaint / rise(late).theta_flaint == pytest.approx(1 / 0.6)
    assert rise(Q=7).theta_flaint / rise(Q=6).theta_flaint == pytest.approx(X_Ca)
    light = (eps, e_1, e_2, 1.5)
    assert rise(light, w=20.0).mu_mC == rise(light, w=150.0).mu_mC
    assert rise(v=80.0).mu_mC == rise(v=50.0).mu_mC


def test_life_under_a_stress():
    corners = [[1e5, 2.236068e6, 5e7], [1.6, 1.2649111, 1.0]]
    # Influence factors of 1.1 static and 0.9 at the reference life: halfway on the log scale their geometric mean.
    cycles, stress = strength_curve(1500 * 1.6 * 1.1, 1500 * 0.9, corners, 0.85)
    assert cycles.tolist() == [1e5, 2.236068e6, 5e7, 1e10]
    assert stress == pytest.approx([2640.0, 1500 * 1.2649111 * sqrt(1.1 * 0.9), 1350.0, 1350 * 0.85], rel=1e-6)
    curve = (np.array([1e3, 1e5, 1e7, 1e10]), np.array([800.0, 400.0, 200.0, 200.0]))
    assert float(cycles_to(801.0, curve)) == 0
    assert float(cycles_to(566.0, curve)) == pytest.approx(1e3 * (566 / 800) ** (log(100) / log(0.5)))
    assert float(cycles_to(300.0, curve)) == pytest.approx(1e5 * (300 / 400) ** (log(100) / log(0.5)))
    assert float(cycles_to(199.0, curve)) == np.inf
    falling = (curve[0], np.array([800.0, 400.0, 200.0, 170.0]))
    assert float(cycles_to(185.0, falling)) == pytest.approx(1e7 * (185 / 200) ** (log(1000) / log(170 / 200)))


def test_spectrum_by_miners_rule():
    def life(s):
        return 1e20 / np.maximum(s, 1e-9) ** 6.0

    n, s = np.array([1e5, 2e6]), np.array([200.0, 100.0])
    assert damage(s, n, life).tolist() == pytest.approx([1e5 / 1e20 * 200**6, 2e6 / 1e20 * 100**6])
    total = 1e5 / 1e20 * 200**6 + 2e6 / 1e20 * 100**6
    assert float(equivalent_safety(s, n, life)) == pytest.approx(total ** (-1 / 6), rel=1e-9)
    assert float(equivalent_safety([0.0], [1e5], life)) == np.inf
    levels = standard_levels("normal", 0.2, 4, 6.0)
    assert [t for t, _ in levels] == pytest.approx([1.0, 0.8, 0.6, 0.4])
    passed = [0.0, 10 ** (6 * (1 - 0.75**2)), 10 ** (6 * (1 - 0.5**2)), 10 ** (6 * (1 - 0.25**2)), 1e6]
    assert [q for _, q in levels] == pytest.approx(np.diff(passed) / 1e6)
    for shape, v in (("straight", 1.0), ("full", 6.0)):
        assert standard_levels(shape, 0.0, 4)[0][1] == pytest.approx(10 ** (-6 * 0.75**v))
    assert len(standard_levels("normal", 0.0)) == 8
    assert standard_levels("straight", 0.0)[0][1] == pytest.approx(10 ** (-6 * 7 / 8))


GEOMETRY = {
    "g_B": 6.0,
    "g_m": 9.0,
    "T2": 30.0,
    "g_alpha": 12.0,
    "p_bn": 7.4,
    "alpha_wt": np.radians(21.0),
    "beta_b": np.radians(11.0),
    "d_w1": 52.0,
}


def test_geometry_of_a_mesh_by_agma():
    def at(eps_beta, m_N):
        return MeshGeometry(
            **{k: np.asarray(v) for k, v in GEOMETRY.items()}, eps_beta=np.asarray(eps_beta), m_N=np.asarray(m_N)
        )

    C = sqrt(1 - 0.4 * (1 - 9 * 21 * 12 / (6 * 24 * 7.4)))
    assert float(helical_overlap_factor(at(0.0, 1.0))) == 1
    assert float(helical_overlap_factor(at(0.4, 1.0))) == pytest.approx(C)
    assert float(helical_overlap_factor(at(1.3, 0.6))) == 1
    assert float(pitting_geometry_factor(at(0.0, 1.0))) == pytest.approx(cos(radians(21)) / ((1 / 6 + 1 / 24) * 52))
    assert float(pitting_geometry_factor(at(0.4, 1.0))) == pytest.approx(
        cos(radians(21)) * C**2 / ((1 / 6 + 1 / 24) * 52)
    )
    assert float(pitting_geometry_factor(at(1.3, 0.6))) == pytest.approx(
        cos(radians(21)) / ((1 / 9 + 1 / 21) * 52 * 0.6)
    )


@pytest.mark.parametrize(
    ("beta", "eps_beta", "alpha"), [(0.0, 0.0, 20.0), (20.0, 0.5, 20.0), (20.0, 1.4, 20.0), (0.0, 0.0, 25.0)]
)
def test_bending_geometry_from_its_section(beta, eps_beta, alpha):
    """J by its own chord, height and radius: stress correction of Dolan and Broghamer, leaning contact line, helix."""
    t = tooth(30.0, m=2.0, beta=beta, rho=0.25, alpha=alpha)
    b, a_n = radians(beta), radians(alpha)
    alpha_t, beta_b = np.arctan(np.tan(a_n) / cos(b)), np.arcsin(sin(b) * cos(a_n))
    d_b = float(t.d_b)
    p_bt = pi * 2 / cos(b) * cos(alpha_t)
    rho_tip = sqrt((float(t.d_a) / 2) ** 2 - (d_b / 2) ** 2)
    g_B = rho_tip - p_bt
    T2 = 2 * 30 / cos(b) * 2 / 2 * 2 * sin(alpha_t)
    m = MeshGeometry(
        *(
            np.asarray(v)
            for v in (
                g_B,
                float(t.d) / 2 * sin(alpha_t),
                T2,
                1.6 * p_bt,
                pi * 2 * cos(a_n),
                alpha_t,
                beta_b,
                t.d,
                eps_beta,
                0.7,
            )
        )
    )
    result = bending_geometry_factor(t, m, 1.6, False)
    s, h, r = (float(v) for v in (result.s_F, result.h_F, result.rho_F))
    H, L, M = 0.331 - 0.436 * a_n, 0.324 - 0.492 * a_n, 0.261 + 0.545 * a_n
    K_f = H + (s / r) ** L * (s / h) ** M
    assert float(result.K_f) == pytest.approx(K_f)
    deep = 1.25 - 0.25
    z_v = 30 / cos(b) ** 3 if beta else 30
    assert r == pytest.approx(2 * (0.25 + deep**2 / (z_v / 2 + deep)))
    C_psi = float(helical_overlap_factor(m))
    assert float(result.Y_J) == pytest.approx(float(result.Y) * C_psi / (K_f * 0.7))
    # Y from chord, height and the direction of the load, which follows from where it meets the middle of the tooth.
    r_nb = z_v * 2 * cos(a_n) / 2
    eps_n = 1.6 / cos(beta_b) ** 2
    r_na = (z_v * 2 + float(t.d_a) - float(t.d)) / 2
    along = sqrt(r_na**2 - r_nb**2) - (0.0 if eps_beta > 1 else pi * 2 * cos(a_n) * (eps_n - 1))
    at = np.arctan(along / r_nb)
    half = pi / 2 / z_v + np.tan(a_n) - a_n - (np.tan(at) - at)
    phi_L = at - half
    full = eps_beta > 1
    omega = np.degrees(np.arctan(np.tan(b) * sin(a_n)))
    C_h = 1 / (1 - sqrt(omega / 100 * (1 - omega / 100))) if full else 1.0
    K_psi = cos(b) * cos(b) if full else 1.0
    Y = K_psi / (cos(phi_L) / cos(a_n) * (6 * h * 2 / (s**2 * C_h) - np.tan(phi_L) * 2 / s))
    assert float(result.Y) == pytest.approx(Y, rel=1e-6)


def test_pressure_at_one_place():
    a = along_path(np.array([9.0, 5.0]), 30.0, 2.0, 4.0, 16.0, 8.5, 1000.0, 20.0, 189.8, 1.4, np.radians(10.0))
    assert a.share.tolist() == [1.0, 0.5]
    rho = 9 * 21 / 30 / cos(radians(10))
    assert a.rho_red[0] == pytest.approx(rho)
    assert a.sigma_H[0] == pytest.approx(189.8 * sqrt(1.4 * 1000 / (20 * rho)))
    assert a.sigma_H[1] == pytest.approx(189.8 * sqrt(1.4 * 500 / (20 * 5 * 25 / 30 / cos(radians(10)))))
    assert (a.zeta_1[0], a.zeta_2[0]) == pytest.approx((1 - 21 / 18, 1 - 18 / 21))


def test_friction_along_a_path():
    """The same integral in ten thousand steps, with the shares of one to three pairs."""
    for E, p in ((16.0, 8.5), (20.0, 7.0)):
        A, C, T2, u, omega, F, b, eta = 3.0, 10.0, 30.0, 2.0, 150.0, 3000.0, 20.0, 40.0
        P, mu_m = loss_along_path(tuple(np.float64(v) for v in (A, E - p, C, A + p, E)), T2, u, omega, F, b, eta)
        g = A + (E - A) * (np.arange(20000) + 0.5) / 20000
        n = 1 + np.floor((E - g) / p) + np.floor((g - A) / p)
        v_1, v_2 = g * omega / 1000, (T2 - g) * omega / u / 1000
        slide, force = np.abs(v_1 - v_2), F / n
        mu = np.clip(0.0127 * np.log10(29660 * force / b / (eta * slide * (v_1 + v_2) ** 2)), 0.005, 0.15)
        expected = np.sum(mu * force * slide) * (E - A) / 20000 / p
        assert float(P) == pytest.approx(expected, rel=2e-3)
        assert float(mu_m) == pytest.approx(np.sum(mu * force * slide) / np.sum(force * slide), rel=2e-3)


def test_the_critical_section_sought_on_the_curve_is_the_closed_form_of_a_rack():
    for z, beta, x in ((17.0, 0.0, 0.3), (40.0, 18.0, -0.2)):
        t = tooth(z, x=x, beta=beta)
        closed = root_section(t.z, t.m_n, t.beta, x, t.rack, t.d_a, 1.4)
        result = root_section_on_curve(t, x, t.d_a, 1.4)
        for name in ("s_Fn", "h_Fe", "alpha_Fen"):
            assert float(getattr(result, name)) == pytest.approx(float(getattr(closed, name)), rel=1e-8)
        assert float(result.rho_F) == pytest.approx(float(closed.rho_F), rel=1e-4)

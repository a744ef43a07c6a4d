"""The film along the path of contact, each step written out, and the test gear by the pressures that are published
of it."""

from math import cos, log10, pi, radians, sqrt

import numpy as np
import pytest

from cooper.document.duty import Lubricant
from cooper.editing.edit import set_many
from cooper.rating.micropitting import film as micropitting
from cooper.rating.micropitting.film import OILS, Oil, film, reference_film
from cooper.results.evaluate import evaluate
from makers import pair


def eta(theta):
    w = [log10(log10(nu + 0.7)) for nu in (220.0, 18.9)]
    slope = (w[0] - w[1]) / log10(373.15 / 313.15)
    nu = 10**10 ** (w[0] - slope * log10((theta + 273.15) / 313.15)) - 0.7
    return nu * (895 - 0.7 * (theta - 15)) * 1e-6


OIL = Oil(np.vectorize(eta), "mineral", 1.0)


def alpha(theta):
    return 2.657e-8 * eta(38) ** 0.1348 * (1 + 516 * (1 / (theta + 273) - 1 / 311))


def test_film_along_a_path_written_out():
    path, T2, u, omega, b, K, E_r, Ra = (4.0, 8.0, 10.0, 11.0, 16.0), 30.0, 2.0, 150.0, 20.0, 1.4, 226374.0, 0.6
    F_bt, P, H_V, a_w = 4000.0, 12.0, 0.15, 95.0
    f = film(path, T2, u, omega, 0.0, (1.5, 0.0), 6, F_bt, b, K, P, H_V, a_w, E_r, Ra, OIL, 70.0, 1.2)
    rho_C = 10 * 20 / 30
    mu = 0.045 * (K * F_bt / b / (2 * 1.5 * rho_C)) ** 0.2 * (1000 * eta(70)) ** -0.05 * 2.2 * (Ra / rho_C) ** 0.25
    theta_M = 70 + 7400 * (P * mu * H_V / (a_w * b)) ** 0.72
    assert float(f.mu_m) == pytest.approx(mu)
    assert float(f.theta_M) == pytest.approx(theta_M)
    for n, (g, X) in enumerate(((4, 1 / 3), (6, 1 / 2), (8, 1), (10, 1), (11, 1), (13.5, 1 / 2), (16, 1 / 3))):
        rho, v_1, v_2 = g * (30 - g) / 30, 0.15 * g, 0.075 * (30 - g)
        p = sqrt(K * F_bt * X * E_r / (2 * pi * b * rho))
        rise = (
            sqrt(pi)
            / 2
            * mu
            * p
            * 1e6
            * abs(v_1 - v_2)
            / (sqrt(45 * 7800 * 440) * (sqrt(v_1) + sqrt(v_2)))
            * sqrt(8 * rho * p / 1000 / E_r)
        )
        warm = theta_M + rise
        h = (
            1600
            * rho
            * (1e6 * alpha(theta_M) * E_r) ** 0.6
            * (eta(theta_M) * (v_1 + v_2) / (2000 * E_r * rho)) ** 0.7
            * (2 * pi * p**2 / E_r**2) ** -0.13
            * (alpha(warm) * eta(warm) / alpha(theta_M) / eta(theta_M)) ** 0.22
        )
        assert float(f.g[n]) == g
        assert float(f.p[n]) == pytest.approx(p)
        assert float(f.theta_fl[n]) == pytest.approx(rise)
        assert float(f.h[n]) == pytest.approx(h)
        assert float(f.lambda_GF[n]) == pytest.approx(h / Ra)


def test_flash_of_the_film_is_that_of_blok():
    """1.11 mu w |v_1 - v_2|/(sqrt(2 b_H) B_M (sqrt(v_1) + sqrt(v_2))), with w = pi p b_H/2 and b_H = 4 p rho/E_r."""
    p, rho, E_r = 900.0, 7.0, 226374.0
    half = 4 * p * rho / E_r
    w = pi * p * half / 2
    blok = 1.11 * 0.06 * w * 1000 * 3 / (sqrt(2 * half / 1000) * micropitting.B_M * (sqrt(2) + sqrt(5)))
    assert float(micropitting.local_flash(0.06, p, 2.0, 5.0, rho, E_r)) == pytest.approx(blok, rel=0.02)


def test_the_test_gear_bears_the_pressures_that_its_load_stages_are_known_by(monkeypatch):
    """Pressure at the pitch point in load stages 5 to 10: 795, 945, 1094, 1245, 1395, 1547 MPa, as the test's
    description has them."""
    seen = []

    def spied(*given):
        seen.append(film(*given))
        return seen[-1]

    monkeypatch.setattr(micropitting, "film", spied)
    least = [float(reference_film(stage, 90.0, OIL)) for stage in range(5, 11)]
    # Without the dynamic factor 1.05 that the test gear is counted with.
    at_pitch_point = [float(f.p[3]) / sqrt(1.05) for f in seen]
    assert at_pitch_point == pytest.approx([795, 945, 1094, 1245, 1395, 1547], rel=0.004)
    assert all(np.diff(least) < 0)
    f = seen[3]
    assert float(np.argmin(f.lambda_GF)) == 0
    mu_less = 2000 * 171.6 / (72 * cos(radians(20))) / 14 * 1.05
    assert float(f.mu_m) == pytest.approx(
        0.045
        * (mu_less / (2 * 0.2356194 * 13.97 * 8.384)) ** 0.2
        * (1000 * eta(90)) ** -0.05
        * 2.2
        * (0.5 / 8.384) ** 0.25,
        rel=2e-3,
    )
    assert float(f.theta_M) > 90


def test_a_stage_is_rated_once_the_oil_has_its_test_stage():
    design = pair()
    steel = {f"train.gears.gear{n + 1}.material": {"group": "Eh", "grade": "MQ", "hardness": 700.0} for n in (0, 1)}
    plain = evaluate(set_many(design, steel))
    assert plain.check("stage1.S_lambda") is None
    assert any("S_GF" in n.text for n in plain.notes)
    rated = evaluate(
        set_many(design, {**steel, "train.defaults.lubricant.S_GF": 9, "train.defaults.S_lambda_min": 1.2})
    )
    m, check = rated.stages[0].mesh, rated.check("stage1.S_lambda")
    assert check.limit == 1.2
    assert check.value == pytest.approx(m["lambda_GF"] / (1.4 * float(reference_film(9, 90.0, OIL))))
    soft = {"train.gears.gear2.material": {"group": "V", "grade": "MQ", "hardness": 300.0}}
    through = evaluate(set_many(design, {**soft, "train.defaults.lubricant.S_GF": 9}))
    assert through.stages[0].mesh["W_W"] == 0.5


def test_older_files_tell_the_kind_of_oil_by_its_name():
    assert Lubricant.from_data({"name": "polyglycol ISO VG 220", "nu_40": 220, "nu_100": 39.5}).kind == "polyglycol"
    assert Lubricant.from_data({"name": "own oil"}).kind == "mineral"
    assert set(OILS) == {"mineral", "polyalphaolefin", "polyglycol"}

import numpy as np
import pytest

from cooper.desk.lenses.contact_lens import stage_along
from cooper.results.evaluate import evaluate
from makers import pair


def test_pressure_along_the_path_meets_the_standard_at_its_points():
    s = evaluate(pair()).stages[0]
    m, (g1, g2) = s.mesh, s.gears
    at = stage_along(s, np.array([m["g_C"], m["g_B"], m["g_D"]]))
    plain = m["sigma_H0"] / m["Z_eps"] * np.sqrt(m["K_A"] * m["K_V"] * m["K_Hbeta"] * m["K_Halpha"])
    assert at.sigma_H[0] == pytest.approx(plain, rel=1e-12)
    assert at.sigma_H[1] == pytest.approx(plain * g1["Z_BD"], rel=1e-9)
    assert max(at.sigma_H[2], at.sigma_H[0]) == pytest.approx(plain * g2["Z_BD"], rel=1e-9)


def test_sliding_by_finite_difference_of_the_rolled_flanks():
    """Specific sliding from how far each flank's touching point moves along its own profile as the mesh rolls on."""
    s = evaluate(pair()).stages[0]
    m, (g1, g2) = s.mesh, s.gears
    T2 = m["g_C"] * (1 + m["u"])
    g = np.linspace(m["g_A"] + 0.05, m["g_E"] - 0.05, 9)
    h = 1e-6

    def arc(r_b, rho):  # length of an involute from its base point
        return rho**2 / (2 * r_b)

    d1 = arc(g1["d_b"] / 2, g + h) - arc(g1["d_b"] / 2, g - h)
    d2 = arc(g2["d_b"] / 2, T2 - g + h) - arc(g2["d_b"] / 2, T2 - g - h)
    at = stage_along(s, g)
    assert at.zeta_1 == pytest.approx((d1 - d2) / d1, rel=1e-5, abs=1e-6)
    assert at.zeta_2 == pytest.approx((d2 - d1) / d2, rel=1e-5, abs=1e-6)
    ends = stage_along(s, np.array([m["g_A"], m["g_E"]]))
    assert g1["zeta_f"] == pytest.approx(ends.zeta_1[0])
    assert g2["zeta_f"] == pytest.approx(ends.zeta_2[1])
    assert g1["zeta_a"] == pytest.approx(ends.zeta_1[1])


def test_load_on_all_pairs_in_contact_adds_up_to_the_whole():
    s = evaluate(pair()).stages[0]
    m = s.mesh
    start = m["g_A"] + m["p_et"] * (np.arange(200) + 0.5) / 200
    total = np.zeros_like(start)
    for k in (0, 1):
        g = start + k * m["p_et"]
        on = g <= m["g_E"]
        total[on] += stage_along(s, g[on]).share
    assert total == pytest.approx(np.ones_like(total))

"""Lewis's factor of the true tooth against the textbooks' tables and against a parabola laid into the outline."""

import numpy as np
import pytest

from cooper.gears.outline import half_tooth
from cooper.rating.lewis import lewis_form_factor, table_value
from cooper.results.evaluate import evaluate
from cooper.stock.files import load
from makers import pair, shaped, tooth


@pytest.mark.parametrize(("alpha", "h_fP", "rho", "band"), [("20", 1.25, 0.3, 0.03), ("14.5", 1.157, 0.209, 0.06)])
def test_the_true_tooth_agrees_with_the_textbooks(alpha, h_fP, rho, band):
    for z, Y in load("lewis")[alpha]:
        # The tables do not say how the roots of their few-toothed gears were drawn; those that a tool cuts are weaker.
        few = z < (25 if alpha == "20" else 60)
        t = tooth(float(z), 0.0, alpha=float(alpha), h_fP=h_fP, rho=rho)
        assert float(lewis_form_factor(t, 0.0)) == pytest.approx(Y, rel=0.11 if few else band), z
        assert float(table_value(z, float(alpha))) == pytest.approx(Y)
    assert table_value(20, 25.0) is None


@pytest.mark.parametrize("t", [tooth(23.0, 0.3), shaped(30, 0.1), shaped(-60, 0.0)], ids=["rack", "cutter", "ring"])
def test_the_parabola_of_even_strength_touches_the_outline_and_cuts_it_nowhere(t):
    half = half_tooth(t, 1e-4)
    x, y = half[:, 0] * np.cos(half[:, 1]), half[:, 0] * np.sin(half[:, 1])
    s = float(t.sign)
    alpha = np.arccos(abs(float(t.d_b / t.d_a)))
    where = abs(float(t.d_b)) / 2 / np.cos(alpha - s * float(t.half_angle(t.d_a)))
    Y = float(lewis_form_factor(t, float(t.x)))
    # Half the width of the parabola with its point where the load's line meets the middle: t^2 = 6 h m Y.
    h = s * (where - x)
    inside = (h > 0.05) & (y > 0)
    width = np.sqrt(6 * h[inside] * float(t.m_n) * Y) / 2
    assert np.all(width <= y[inside] * (1 + 2e-3))
    assert np.min(y[inside] / width) == pytest.approx(1.0, abs=3e-3)


def test_lewis_stands_beside_the_standard_in_the_results():
    s = evaluate(pair()).stages[0]
    for g in s.gears:
        assert g["sigma_L"] == pytest.approx(s.mesh["F_t"] / (g["b_F"] * s.mesh["m_n"] * g["Y_L"]))
        # ISO's nominal stress holds the notch, and less lever arm: of the same size.
        assert 0.7 < g["sigma_F0"] / g["sigma_L"] < 2.0

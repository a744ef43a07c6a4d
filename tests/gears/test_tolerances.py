"""Flank tolerances of ISO 1328-1:2013 written out by hand; root and gaps of planets are elsewhere."""

import numpy as np
import pytest

from cooper.gears.tolerances import flank_tolerances, pitch_span_tolerance


def test_every_symbol_of_class_5_by_arithmetic():
    """d = 100, m_n = 2.5, b = 25 mm: roots are 10 and 5."""
    by_hand = {
        "f_pT": 0.1 + 1.0 + 5,
        "F_pT": 0.2 + 5.5 + 1.75 + 12,
        "f_HalphaT": 1.0 + 0.1 + 4,
        "f_falphaT": 1.375 + 5,
        "F_alphaT": (5.1**2 + 6.375**2) ** 0.5,
        "f_HbetaT": 0.5 + 1.75 + 4,
        "f_fbetaT": 0.7 + 2.25 + 4,
        "F_betaT": (6.25**2 + 6.95**2) ** 0.5,
        "F_rT": 0.9 * 19.45,
    }
    result = flank_tolerances(100.0, 2.5, 25.0, 5)
    assert {k: float(v) for k, v in result.items()} == pytest.approx(by_hand, rel=1e-12)
    coarser = flank_tolerances(100.0, 2.5, 25.0, np.array([4, 8]))
    assert coarser["f_HbetaT"] == pytest.approx([6.25 / 2**0.5, 6.25 * 2**1.5])


def test_the_tolerance_of_some_pitches_by_arithmetic():
    """d = 100, m_n = 4 mm, 25 teeth, two of them, class 7: twice 6.7 + 8/25 (0.1 + 5.5 + 1.2 + 7)."""
    assert float(pitch_span_tolerance(100.0, 4.0, 25, 2, 7)) == pytest.approx(2 * (6.7 + 0.32 * 13.8))
    assert float(pitch_span_tolerance(100.0, 4.0, -25, 2, 7)) == pytest.approx(2 * (6.7 + 0.32 * 13.8))

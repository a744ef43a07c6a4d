import numpy as np
import pytest

from cooper.editing.edit import set_at, set_many
from cooper.exchange.dimension_sheet import dimension_rows, dimension_text
from cooper.gears.tolerances import (
    flank_tolerances,
    pitch_span_tolerance,
    radial_tolerances,
    rounded,
    single_flank_tolerances,
)
from cooper.results.evaluate import evaluate
from makers import pair


def sheet(design, i=1, **more):
    return {(r.meaning, r.symbol): r for r in dimension_rows(design, 0, evaluate(design).stages[0], i, **more)}


def by_symbol(rows, symbol):
    return next(r for (_, s), r in rows.items() if s == symbol and r.low is not None)


def test_limits_of_every_measured_size_follow_from_the_thickness_allowances():
    design = pair()
    rows = sheet(design)
    s, W, M, chord = (by_symbol(rows, k) for k in ("s_n", "W_k", "M_dK", "s_nc"))
    gear = design.train.stages[0].gears[0]
    assert s.high - s.low == pytest.approx(gear.E_sns - gear.E_sni, abs=1e-12)
    # The span changes by cos(alpha_n) of the thickness, the ball size by about 1/sin of the angle at the ball.
    assert W.high - W.low == pytest.approx((gear.E_sns - gear.E_sni) * np.cos(np.radians(20)), abs=1e-12)
    assert 1.5 < (M.high - M.low) / (s.high - s.low) < 3.5
    assert chord.low < s.low < chord.high + 0.02
    nominal = evaluate(design).stages[0].gears[0]
    assert s.low < nominal["s_nE"] < s.high < nominal["s_n"]
    assert nominal["s_n"] == pytest.approx(2.5 * (np.pi / 2 + 2 * 0.32 * np.tan(np.radians(20))))
    assert nominal["d_f"] - nominal["d_fE"] == pytest.approx(0.075 / np.tan(np.radians(20)))


def test_a_ball_or_span_that_cannot_touch_says_so():
    rows = sheet(pair(), D_M=1.0)
    assert "outside the involute" in rows[("size over two balls", "M_dK")].words
    narrow = set_many(pair(), {"train.meshes.stage1.beta": 35.0, "train.gears.gear1.b": 4.0})
    assert any("too narrow" in r.words for r in sheet(narrow).values())


def test_hands_of_a_helical_pair_oppose():
    design = set_at(pair(), "train.meshes.stage1.beta", 15.0)
    hands = [next(r.words for r in sheet(design, i).values() if "hand" in r.meaning) for i in (1, 2)]
    assert hands == ["right", "left"]


def test_sheet_in_both_unit_systems_and_with_chosen_decimals():
    rows = dimension_rows(pair(), 0, evaluate(pair()).stages[0], 2)
    metric, inch = dimension_text(rows, "mm"), dimension_text(rows, "inch")
    assert "108.1 mm" in metric
    assert "4.2559 in" in inch
    assert "4.26 in" in dimension_text(rows, "inch", 2)
    assert all(line.count("\t") in (0, 2) for line in metric.splitlines())


def test_tolerances_rise_by_root_two_a_class_and_totals_join_slope_and_form():
    five, nine = (flank_tolerances(120.0, 3.0, 30.0, q) for q in (5, 9))
    for symbol, value in five.items():
        assert nine[symbol] == pytest.approx(4 * value)
    assert five["F_alphaT"] == pytest.approx(np.hypot(five["f_HalphaT"], five["f_falphaT"]))
    assert five["F_betaT"] == pytest.approx(np.hypot(five["f_HbetaT"], five["f_fbetaT"]))
    assert list(rounded(np.array([10.4, 9.3, 4.96]))) == [10.0, 9.5, 5.0]
    # A quarter of a turn has the tolerance of all pitches.
    assert float(pitch_span_tolerance(120.0, 3.0, 40, 10, 5)) == pytest.approx(float(five["F_pT"]), rel=1e-12)
    assert float(pitch_span_tolerance(120.0, 3.0, 40, 1e-9, 5)) == pytest.approx(float(five["f_pT"]))
    # By hand: 6.32 + 4 * 5/40 * (0.12 + 0.55 * sqrt(120) + 0.9 + 7), of class 7 twice that.
    assert float(pitch_span_tolerance(120.0, 3.0, 40, 5, 7)) == pytest.approx(
        2 * (6.32 + 0.5 * (0.12 + 6.0249481 + 0.9 + 7))
    )
    assert {k: float(v) for k, v in single_flank_tolerances(120.0, 3.0, 7).items()} == pytest.approx(
        {"f_isT": 12.25, "F_isT": 12.25 + 2 * 20.3649481}
    )
    # Rows of the printed tables at the middles of their ranges: 50 to 125 mm, 1.5 to 2.5 mm and 125 to 280 mm, 4 to 6
    # mm, class 5.
    for d, m, F, f in (((50 * 125) ** 0.5, (1.5 * 2.5) ** 0.5, 22, 6.5), ((125 * 280) ** 0.5, (4 * 6) ** 0.5, 36, 15)):
        radial = radial_tolerances(d, m, 5)
        assert float(rounded(radial["F_i"])) == F
        assert float(rounded(radial["f_i"])) == f
    rows = sheet(pair())
    assert {"F_pkT", "F_isT", "f_isT", "F_i″", "f_i″"} <= {r.symbol for r in rows.values()}
    out = set_at(pair(), "train.gears.gear1.Q", 12)
    assert any("not stated for Q" in r.words for r in sheet(out).values())


def test_forms_of_the_flanks_stand_on_the_sheet_where_there_are_any():
    base = "train."
    values = {
        f"{base}gears.gear1.flanks.C_alphaa": 12.0,
        f"{base}gears.gear1.flanks.relief": "curved",
        f"{base}meshes.stage1.C_beta": 4.0,
    }
    d = set_many(pair(), values)
    for design, wanted in ((d, {"C_alphaa": 12.0, "C_beta": 4.0}), (pair(), {})):
        rows = [r for r in dimension_rows(design, 0, evaluate(design).stages[0], 1) if r.group == "Flank forms"]
        assert {r.symbol: r.value for r in rows if r.kind == "roughness"} == wanted
    long = next(r.value for r in dimension_rows(d, 0, evaluate(d).stages[0], 1) if r.symbol == "l_Ca")
    m = evaluate(d).stages[0].mesh
    assert long == pytest.approx(m.g_alpha - m.p_et)

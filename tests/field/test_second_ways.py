"""What independent reckoning found of the loaded tooth: convergence, the gap before the path begins, stiffness,
small modules, thin rims, the flank that bears."""

import numpy as np
import pytest

import cooper
from cooper.editing.edit import set_many
from cooper.exchange.report_loaded import loaded_rows
from cooper.field.loaded_contact import felt
from cooper.field.stress_field import field_basis
from cooper.field.tooth_grid import COARSE
from cooper.results import loaded_tooth
from cooper.results.evaluate import evaluate
from cooper.results.flank_forms import bears_left
from cooper.results.loaded_tooth import compared, cycle_of, loaded_ask
from cooper.results.root_comparison import root_comparison
from makers import pair

MESH = "train.meshes.stage1."


def helical(**more):
    return set_many(pair(25, 60, 0.0, 0.0, P=20000.0), {MESH + "beta": 20.0, MESH + "C_beta": 6.0, **more})


def test_a_helical_mesh_needs_few_slices(monkeypatch):
    d = helical()
    ask = loaded_ask(d.train, evaluate(d), 0, "nominal")
    monkeypatch.setitem(loaded_tooth.FINENESS, "many", (COARSE, 80, 32))
    monkeypatch.setitem(loaded_tooth.FINENESS, "few", (COARSE, 20, 32))
    many, few = cycle_of(ask, "many"), cycle_of(ask, "few")
    assert np.ptp(few.te) == pytest.approx(np.ptp(many.te), rel=0.06)
    assert few.p.max() == pytest.approx(many.p.max(), rel=0.03)
    assert ((few.w * few.part).sum(axis=(1, 2)) * ask.b / 20) == pytest.approx(ask.F, rel=1e-9)
    off = compared(cycle_of(ask, "coarse"), few).off
    assert 0 < off[0] < np.ptp(few.te) and 0 < off[1] < 0.1


def test_a_string_on_springs_by_differences():
    """Its deflection under a load on a part of the face, by finite differences of u - r^2 u'' = f with free ends."""
    b, r, n = 12.0, 2.5, 4800
    d = b / n
    x = (np.arange(n) + 0.5) * d
    patches = [(0.7, 1.4), (4.0, 2.0), (6.0, 2.0), (11.6, 0.8)]
    k = (r / d) ** 2
    A = np.diag(np.full(n, 1 + 2 * k)) - k * (np.eye(n, k=1) + np.eye(n, k=-1))
    A[0, 0] = A[-1, -1] = 1 + k
    on = np.array([(abs(x - y) < w / 2) / w for y, w in patches])
    wanted = on @ np.linalg.solve(A, on.T) * d
    y, w = (np.array(v) for v in zip(*patches, strict=True))
    assert felt(y, w, b, r) == pytest.approx(wanted, rel=2e-3)


@pytest.mark.parametrize("end", [0, 1])
def test_a_tip_edge_before_the_path_by_turning_both_gears(end):
    """The corner of the tip that comes to bear at an end of the path, both gears turned away from there until its
    distance from the mate's flank equals the deflection of the teeth."""
    d = pair(25, 60, 0.0, 0.0, P=20000.0)
    r = evaluate(d)
    s = r.stages[0]
    ask = loaded_ask(d.train, r, 0, "nominal")
    c = cycle_of(ask, "coarse")
    # Seen from the mate of the tip: base radii, centre distance, place of the corner on the line of action.
    r_b, R_b = (float(s.teeth[i].d_b) / 2 for i in ((0, 1) if end == 0 else (1, 0)))
    a, alpha = float(s.mesh.a_w), np.radians(float(s.mesh.alpha_wt))
    g = ask.A if end == 0 else ask.T2 - ask.E
    u = np.array([np.sin(alpha), -np.cos(alpha)])
    P = r_b * np.array([np.cos(alpha), np.sin(alpha)]) + g * u
    O2 = np.array([a, 0.0])

    def turn(p, angle):
        co, si = np.cos(angle), np.sin(angle)
        return np.array([co * p[0] - si * p[1], si * p[0] + co * p[1]])

    def gap(way):
        corner = O2 + turn(P - O2, -way / R_b)
        q = turn(corner, -way / r_b)
        inv = [np.tan(t) - t for t in (np.arccos(r_b / np.hypot(*v)) for v in (q, P))]
        moved = np.arctan2(q[1], q[0]) - np.arctan2(P[1], P[0])
        return r_b * min(abs(moved - (inv[0] - inv[1])), abs(moved + (inv[0] - inv[1])))

    assert gap(c.early[end]) == pytest.approx(float(c.te.max()) / 1000, rel=0.1)


def test_mesh_stiffness_is_the_slope_of_load_over_approach():
    d = helical()
    ask = loaded_ask(d.train, evaluate(d), 0, "nominal")
    c, (less, more) = cycle_of(ask, "coarse"), (cycle_of(ask, "coarse", q * ask.F) for q in (0.995, 1.005))
    slope = 0.01 * ask.F / (more.te - less.te) / ask.b
    assert c.c == pytest.approx(slope, rel=0.02)


def test_small_teeth_are_as_strong_as_large_ones():
    """Stress under the same line load over the module does not hang on the module."""
    tops = []
    for m in (0.05, 5.0):
        d = set_many(
            pair(20, 40, 0.0, 0.0, P=0.001 * m**3),
            {
                MESH + "m_n": m,
                **{
                    f"train.gears.gear{i + 1}.{s}": m * v
                    for i in (0, 1)
                    for s, v in (("b", 10), ("E_sns", 0.0), ("E_sni", 0.0))
                },
            },
        )
        ask = loaded_ask(d.train, evaluate(d), 0, "nominal")
        basis = field_basis(ask.bodies[0])
        tops.append(basis.root(float(basis.L[8]))[0] * m)
    assert tops[0] == pytest.approx(tops[1], rel=1e-3)


def test_report_and_library_take_the_flanks_that_bear():
    d = helical(**{MESH + "C_Hbeta": 12.0, "train.duty.direction": "clockwise"})
    r = evaluate(d)
    assert not bears_left(d.train, r, 0)
    right, left = (cycle_of(loaded_ask(d.train, r, 0, "nominal", side), "usual").p.max() for side in (False, True))
    assert abs(right / left - 1) > 0.1
    text = next(v for words, v, _ in loaded_rows(d.train, r, 0, "mm") if words.startswith("largest pressure"))
    shown = float(text.split()[0])
    model = cooper.Model(d)
    assert shown == pytest.approx(float(model.loaded().p.max()), abs=1) and abs(shown / right - 1) < 0.02


def test_a_thin_rim_is_told_by_range_and_compression():
    d = set_many(
        pair(30, 60, 0.0, 0.0),
        {"train.gears.gear2.d_i": 60 * 2.5 - 2.5 * 2.5 - 2 * 0.7 * 5.6, "train.gears.gear2.b_s": 10.0},
    )
    r = evaluate(d)
    s = r.stages[0]
    assert s.gears[1].Y_B > 1.05
    ask = loaded_ask(d.train, r, 0, "nominal")
    text = root_comparison(s, 1, field_basis(ask.bodies[1]), ask)
    rows = {row.words: row.factor for row in text.rows}
    plain = float(s.gears[1].Y_F * s.gears[1].Y_S / s.gears[1].f_eps)
    assert rows["ISO 6336-3, Y_F Y_S Y_B"] == pytest.approx(plain * s.gears[1].Y_B)
    low, span = rows["field, compression at the other side"], rows["field, from tension to compression"]
    assert low < 0 and span == pytest.approx(rows["field, largest at the root"] - low)
    assert "Judge it by the range" in text.parts

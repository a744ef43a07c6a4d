"""Flank points at chosen diameters against the outline; layers and their magnified differences."""

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.spatial import cKDTree

from cooper.gears.cutter import FormCut
from cooper.gears.flank_points import FRAMES, half_angles, in_frame
from cooper.gears.layers import magnified, makes_of, nearest_on
from cooper.gears.outline import half_tooth, one_tooth, to_xy
from cooper.gears.root import root_form
from cooper.gears.tip import Tip
from makers import shaped, tooth

TEETH = {
    "rack": tooth(17, 0.3), "undercut": tooth(8, 0.0), "internal": shaped(-60, 0.1),
    "formed": replace(shaped(12, rho=0.25), tool=FormCut()), "chamfer": replace(tooth(24, 0.1), tip=Tip(h_K=0.3)),
    "rounded ring": replace(shaped(-50), tip=Tip(rho_a=0.2)),
}  # fmt: skip


@pytest.mark.parametrize("name", list(TEETH))
def test_flank_points_lie_on_the_outline_at_their_diameters(name):
    t = TEETH[name]
    form = root_form(t)
    d_y = np.linspace(abs(float(t.d_f)), abs(float(t.d_a)), 60)[1:-1]
    half = half_angles(t, form, d_y)
    fine = to_xy(half_tooth(t, 1e-5))
    points = in_frame(t, d_y, half, "gear")
    assert np.hypot(*points.T) == pytest.approx(d_y / 2)
    assert nearest_on(points, fine)[1].max() < 2e-5
    polar, own = in_frame(t, d_y, half, "polar"), in_frame(t, d_y, half, "tooth")
    assert polar[:, 1] == pytest.approx(np.degrees(half))
    # Along the tooth x rises towards its tip, for a ring as well; the reference circle is at zero on the middle.
    assert np.all(np.diff(own[:, 0]) > 0)
    assert own[:, 1] == pytest.approx(points[:, 1])
    assert np.isnan(half_angles(t, form, np.array([abs(float(t.d_f)) - float(t.sign) * 0.1]))[0])
    assert set(FRAMES) == {"gear", "tooth", "polar"}


def test_layers_differ_only_where_their_edges_are_and_by_a_magnified_amount():
    t = tooth(20, 0.2)
    makes = makes_of(t)
    assert {n.split()[0] for n in makes} == {"as", "plain", "chamfer", "rounding"}
    base = one_tooth(t, 1e-4)
    for name, made in makes.items():
        line = one_tooth(made, 1e-4)
        away = nearest_on(line, base)[1]
        if name.startswith(("chamfer", "rounding")):
            assert 0.01 < away.max() < 0.25
            tip = np.hypot(*line.T) > float(t.d_a) / 2 - 0.35
            assert away[~tip].max() < 2e-4
            more = nearest_on(magnified(line, base, 3.0), base)[1]
            assert more.max() == pytest.approx(3 * away.max(), rel=0.35)
        else:
            assert away.max() < 1e-9
    assert np.array_equal(magnified(base, base, 1), base)
    # Three times as far, on the same side.
    assert magnified(np.array([[1.0, 0.5], [2.0, -0.2]]), np.array([[0.0, 0.0], [9.0, 0.0]]), 3.0) == pytest.approx(
        np.array([[1.0, 1.5], [2.0, -0.6]])
    )
    assert cKDTree(base).query(nearest_on(np.array([[100.0, 0.0]]), base)[0])[0][0] < 1.0
    pointed = replace(tooth(12, 0.85), d_a=tooth(12, 0.85).d_a - 0.02)
    assert len(makes_of(pointed)) < 4, "no chamfer where no land would be left"

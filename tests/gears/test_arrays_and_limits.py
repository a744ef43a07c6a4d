"""Circles, path and root of whole arrays of gears, against limits and against single ones."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.editing.edit import set_at, set_many
from cooper.gears.area import section_area
from cooper.gears.outline import gear_outline, one_tooth
from cooper.gears.path_of_contact import diameters_at
from cooper.gears.root import root_form
from cooper.gears.tooth import Tooth, least_x, least_z, pointed_diameter
from cooper.results.evaluate import evaluate
from makers import pair, tooth


def test_root_forms_of_an_array_equal_those_of_single_gears():
    rng = np.random.default_rng(3)
    z, x = rng.integers(6, 60, 200).astype(float), rng.uniform(-0.5, 0.8, 200)
    many = tooth(z, x)
    together = root_form(many)
    assert together.undercut.any()
    assert not together.undercut.all()
    for k in range(0, 200, 7):
        one = root_form(tooth(z[k], x[k]))
        assert together.d_Ff[k] == pytest.approx(float(one.d_Ff), rel=1e-12)
        assert together.undercut[k] == one.undercut
    # Undercut exactly where the shift is below its least value, and there the diameter passes on without a step.
    assert np.array_equal(together.undercut, x < least_x(z, 0.0, many.rack))
    limit = float(least_x(12.0, 0.0, many.rack))
    sides = [float(root_form(tooth(12.0, limit + e)).d_Ff) for e in (-1e-9, 1e-9)]
    assert sides[0] == pytest.approx(sides[1], rel=1e-5)
    assert float(least_z(limit, 0.0, many.rack)) == pytest.approx(12.0)


def test_a_great_count_tends_to_the_rack():
    t = tooth(200_000.0, 0.0)
    half_pitch = float(t.s_t())
    assert half_pitch == pytest.approx(np.pi)
    flank = [float(t.s_y(float(t.d) + 2 * h)) for h in (-1.5, 1.5)]
    assert (flank[0] - flank[1]) / 3.0 == pytest.approx(2 * np.tan(np.radians(20)), rel=1e-3)


def test_the_pointed_diameter_is_where_the_tooth_ends():
    z, x = np.array([8.0, 12.0, 30.0]), np.array([0.5, 0.9, 1.2])
    t = tooth(z, x)
    at = pointed_diameter(t)
    assert t.s_y(at) == pytest.approx(np.zeros(3), abs=1e-9)
    assert np.all(t.s_y(at * 0.99) > 0)


def test_area_of_arrays_equals_the_outlines():
    z, x = np.array([7.0, 17.0, 45.0]), np.array([0.1, 0.32, -0.4])
    many = tooth(z, x)
    areas = section_area(many, root_form(many))
    for k in range(3):
        p = gear_outline(tooth(int(z[k]), x[k]), 0.0, 1e-6)
        polygon = 0.5 * np.sum(p[:, 0] * np.roll(p[:, 1], -1) - p[:, 1] * np.roll(p[:, 0], -1))
        assert areas[k] == pytest.approx(polygon, rel=2e-5)


def test_path_of_contact_from_the_tip_circles_by_hand():
    r = evaluate(pair())
    m, (g1, g2) = r.stages[0].mesh, r.stages[0].gears
    T2 = m["g_C"] * (1 + m["u"])
    assert np.hypot(T2, (g1["d_b"] + g2["d_b"]) / 2) == pytest.approx(m["a_w"])
    d1, d2 = diameters_at(m["g_E"], g1["d_b"], g2["d_b"], T2)
    assert float(d1) == pytest.approx(g1["d_a"])
    assert float(d2) == pytest.approx(g2["d_Nf"])
    assert m["g_E"] - m["g_B"] == pytest.approx(m["p_et"])
    assert m["eps_alpha"] == pytest.approx((m["g_E"] - m["g_A"]) / m["p_et"])


def test_exchanging_the_gears_mirrors_every_number():
    """A pair seen from the wheel, at the wheel's torque and speed: same stresses, indices exchanged."""
    forward = evaluate(pair(20, 20, 0.3, 0.1))
    base = pair(20, 20, 0.1, 0.3)
    one, two = base.train.stages[0].gears
    swapped = set_many(
        base,
        {
            "train.gears.gear1.material": two.material.plain(),
            "train.gears.gear2.material": one.material.plain(),
            "train.gears.gear1.b": two.b,
            "train.gears.gear2.b": one.b,
        },
    )
    back = evaluate(swapped)
    for i in (0, 1):
        for symbol in ("S_F", "S_H", "d_Ff", "zeta_f", "c_F", "mass", "Y_F"):
            assert back.stages[0].gears[i][symbol] == pytest.approx(forward.stages[0].gears[1 - i][symbol], rel=1e-9), (
                symbol
            )


def test_similar_pairs_scale():
    """Twice the size at four times the torque (and so b, m, rho all doubled): same nominal stresses."""
    small = evaluate(pair(m=2.0))
    big_design = set_many(pair(m=4.0), {f"train.gears.gear{i + 1}.b": 2 * b for i, b in ((0, 28.0), (1, 26.0))})
    big_design = set_at(big_design, "train.duty.P", 4200.0 * 8)
    big = evaluate(big_design)
    for symbol in ("sigma_F0",):
        assert big.stages[0].gears[0][symbol] == pytest.approx(small.stages[0].gears[0][symbol], rel=1e-3)
    assert big.stages[0].mesh["sigma_H0"] == pytest.approx(small.stages[0].mesh["sigma_H0"], rel=1e-3)
    for g_big, g_small in zip(big.stages[0].gears, small.stages[0].gears, strict=True):
        assert g_big["d_a"] == pytest.approx(2 * g_small["d_a"])


def test_a_tooth_broadcasts_over_every_field():
    shape = (3, 1)
    t = tooth(np.full(shape, 20.0), np.linspace(0, 0.4, 5), m=2.0)
    assert isinstance(t, Tooth)
    assert root_form(t).d_Ff.shape == (3, 5)
    assert np.shape(pointed_diameter(t)) == (3, 5)
    # Undercut gears that differ in nothing but their tip circle.
    base = tooth(8, 0.0)
    many = replace(base, d_a=np.array([19.0, 19.5, 20.0]))
    assert root_form(many).d_Ff == pytest.approx(np.full(3, float(root_form(base).d_Ff)))


def test_what_is_kept_cannot_be_written_to():
    r = evaluate(pair())
    t = r.stages[0].teeth[0]
    outline = one_tooth(t, 1e-3)
    assert one_tooth(t, 1e-3) is outline or np.array_equal(one_tooth(t, 1e-3), outline)
    with pytest.raises(ValueError, match="read-only"):
        outline[0] = 0.0
    with pytest.raises(ValueError, match="read-only"):
        t.__dict__["_kept"]["root form"].d_Ff[...] = 0.0

"""Pictures of a field against the field itself, and what patches press in against their double integral."""

import numpy as np
import pytest
from scipy.spatial import Delaunay

from cooper.field.compliance import patch_near
from cooper.field.raster import boundary_of, isolines, raster_of, triangles_of
from cooper.field.unit_loads import patches


def test_a_linear_field_is_shown_as_it_is_at_every_pixel_and_lined_where_it_has_its_levels():
    rng = np.random.default_rng(2)
    for _ in range(4):
        points = rng.uniform(-20, 90, (60, 2))
        hull = Delaunay(points)
        triangles = hull.simplices.astype(int)
        a, b, c = rng.normal(size=3)
        f = a * points[:, 0] + b * points[:, 1] + c
        r = raster_of(points, triangles, 70, 50)
        y, x = np.nonzero(r.inside)
        assert r.values(f) == pytest.approx(a * (x + 0.5) + b * (y + 0.5) + c, abs=1e-9)
        every = np.stack(np.meshgrid(np.arange(70) + 0.5, np.arange(50) + 0.5), axis=-1)
        assert (r.inside == (hull.find_simplex(every) >= 0)).mean() > 0.999
        levels = np.quantile(f, [0.2, 0.5, 0.9])
        lines = isolines(points, triangles, f, levels).reshape(-1, 2)
        off = np.abs((a * lines[:, 0] + b * lines[:, 1] + c)[:, None] - levels).min(axis=1)
        assert off.max() < 1e-9 and len(lines) > 20


def test_elements_fall_into_triangles_that_fill_them_and_their_edge_goes_round():
    q = np.array([[0, 2, 8, 6, 1, 5, 7, 3, 4], [2, 10, 12, 8, 9, 11, 13, 5, 14]])
    x = np.array([[i % 3, i // 3] for i in range(9)] + [[3, 0], [4, 0], [4, 1], [4, 2], [3, 2], [3, 1]], dtype=float)
    t = triangles_of(q)
    p = x[t]
    area = (p[:, 1, 0] - p[:, 0, 0]) * (p[:, 2, 1] - p[:, 0, 1]) - (p[:, 1, 1] - p[:, 0, 1]) * (p[:, 2, 0] - p[:, 0, 0])
    assert len(t) == 16 and (area == 1).all()
    assert {int(m) for _, m, _ in boundary_of(q)} == {1, 7, 3, 9, 11, 13}


@pytest.mark.parametrize("d", [0.0, 0.05, 0.12, 0.2, 0.4, 0.7])
def test_what_one_patch_presses_in_at_another_is_the_double_integral(d):
    a, h, E, nu = 0.12, 2.0, 206000.0, 0.3
    turn = (np.arange(400) + 0.5) * np.pi / 400
    s, w = a * np.cos(turn), np.sin(turn) ** 2
    w = w / w.sum()
    # A little apart, so that no place meets itself.
    away = np.abs(d + s[:, None] - s[None, :] * (1 + 1e-9))
    mean = -(w[:, None] * w[None, :] * np.log(np.maximum(away, 1e-6))).sum()
    wanted = 2 * (1 - nu**2) / (np.pi * E) * (mean + np.log(h) - 1 / (2 * (1 - nu)))
    assert float(patch_near(d, a, h, E, nu)) == pytest.approx(wanted, rel=0.025)
    # Where the half-plane would lift, it knows no more of a tooth.
    assert float(patch_near(1.5, a, h, E, nu)) == 0


def test_a_patch_puts_all_of_its_load_where_it_stands():
    rng = np.random.default_rng(6)
    along = np.concatenate(([0.0], np.cumsum(rng.uniform(0.05, 0.3, 40))))
    s = np.linspace(0.5, along[-1] - 0.5, 9)
    w = patches(along, s, 0.25)
    assert w.sum(axis=1) == pytest.approx(1.0)
    assert w @ along == pytest.approx(s, abs=1e-9)

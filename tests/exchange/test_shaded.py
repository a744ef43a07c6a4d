"""Shaded solids: every ray against all triangles by hand, the silhouette against the outlines, the light against the
slope."""

import numpy as np
import pytest
from shapely import union_all
from shapely.affinity import rotate, translate
from shapely.geometry import Point, Polygon

from cooper.demo import demo
from cooper.exchange.camera import Camera
from cooper.exchange.shaded import AMBIENT, LIGHT, Solids, cast, frame, shaded
from cooper.exchange.train import placed_bodies
from cooper.results.evaluate import evaluate


def nearest(points, faces, start, away):
    """Distance to the nearest triangle along a ray, by solving every plane (inf where none is met)."""
    a, b, c = (points[faces[:, k]] for k in range(3))
    e, f = b - a, c - a
    p = np.cross(away, f)
    det = np.einsum("ij,ij->i", e, p)
    with np.errstate(divide="ignore", invalid="ignore"):
        t = start - a
        u = np.einsum("ij,ij->i", t, p) / det
        q = np.cross(t, e)
        v = (q @ away) / det
        far = np.einsum("ij,ij->i", f, q) / det
        met = (u >= 0) & (v >= 0) & (u + v <= 1) & (np.abs(det) > 1e-12)
    return float(np.min(np.where(met, far, np.inf)))


@pytest.mark.parametrize("name", ["winch", "filter-wheel", "dome-rack"])
def test_rays_meet_what_a_search_of_every_triangle_finds(name):
    d = demo(name)
    placed = Solids(d, evaluate(d)).placed(0.83)
    camera, size = Camera(0.7, 0.4), (90, 60)
    middle, scale = frame(placed, camera, size)
    hits = cast(placed, camera, middle, scale, size)
    seen = [(camera.seen(at.world(at.solid.points)), at.solid.faces) for at in placed]
    rng = np.random.default_rng(4)
    missed = 0
    for row, column in zip(rng.integers(0, size[1], 60), rng.integers(0, size[0], 60), strict=True):
        x, y = middle[0] + (column + 0.5 - size[0] / 2) / scale, middle[1] - (row + 0.5 - size[1] / 2) / scale
        result = [nearest(p, f, np.array([x, y, 1e4]), np.array([0.0, 0.0, -1.0])) for p, f in seen]
        if np.isinf(min(result)):
            assert hits.solid[row, column] == -1
            missed += 1
        else:
            assert hits.height[row, column] == pytest.approx(1e4 - min(result), abs=2e-3)
    assert 5 < missed < 55
    there = hits.solid >= 0
    assert np.linalg.norm(hits.normal[there], axis=1) == pytest.approx(1.0, abs=1e-5)
    assert np.all(hits.normal[there][:, 2] >= 0)


def test_seen_from_the_front_the_solids_cover_what_their_outlines_do():
    d = demo("focuser")
    r = evaluate(d)
    placed = Solids(d, r).placed(0.4)
    size = (400, 400)
    middle, scale = frame(placed, Camera(0.0, 0.0), size)
    hits = cast(placed, Camera(0.0, 0.0), middle, scale, size)
    shapes = []
    for body, places, _stage in placed_bodies(d, r, 0.4):
        whole = Polygon(body.outline(1e-3))
        edge = Point(0, 0).buffer(body.edge / 2, 256)
        whole = edge.difference(whole) if body.section.inward else whole.difference(edge)
        shapes += [translate(rotate(whole, a, origin=(0, 0), use_radians=True), x, y) for x, y, _z, a in places]
    assert np.sum(hits.solid >= 0) / scale**2 == pytest.approx(union_all(shapes).area, rel=5e-3)
    # Faces look at the viewer: lit as the light falls on them, but for the lines at their edges.
    picture = shaded(placed, [(0.6, 0.6, 0.6)] * len(placed), (0.0, 0.0, 0.0), Camera(0.0, 0.0), size)
    flat = 0.6 * (AMBIENT + (1 - AMBIENT) * LIGHT[2]) * 255
    assert np.median(picture[..., 0][picture[..., 3] == 255]) == pytest.approx(flat, abs=1.0)
    assert np.all(picture[picture[..., 3] == 0] == 0)


def test_a_camera_keeps_lengths_and_hands():
    axes = Camera(0.7, -0.4).axes
    assert axes @ axes.T == pytest.approx(np.eye(3))
    assert np.linalg.det(axes) == pytest.approx(1.0)

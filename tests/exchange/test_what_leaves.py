"""Files that leave, opened by other readers: the parts as they are mounted, what each says of itself, and how near
its facets are."""

import zipfile

import ezdxf
import numpy as np
import pytest
import trimesh

from cooper.editing.edit import set_many
from cooper.exchange.body import bodies
from cooper.exchange.gear_drawing import gear_drawing
from cooper.exchange.mesh_file import body_mesh
from cooper.exchange.save import export
from cooper.exchange.statement import state_hash
from cooper.gears.identify import identify
from cooper.gears.measure import over_two_balls, span
from cooper.results.evaluate import evaluate
from exchange.test_gear_drawing import words
from makers import polyline_distance, splined_winch


@pytest.fixture(scope="module")
def winch():
    design = splined_winch()
    return design, evaluate(design)


def content(path):
    if path.suffix in (".3mf", ".xlsx"):
        with zipfile.ZipFile(path) as file:
            return b"".join(file.read(name) for name in file.namelist()).decode("utf-8", "replace")
    return path.read_bytes().decode("utf-8", "replace")


@pytest.mark.parametrize("kind", [".dxf", ".svg", ".step", ".stl", ".3mf", ".csv", ".txt", ".html", ".xlsx"])
def test_every_file_tells_the_state_it_is_of(tmp_path, winch, kind):
    design, results = winch
    export(design, results, tmp_path / f"a{kind}")
    assert state_hash(design) in content(tmp_path / f"a{kind}")
    other = set_many(design, {"train.gears.gear1.b": 15.0})
    assert state_hash(other) != state_hash(design)


def test_a_stage_leaves_as_it_is_mounted(tmp_path, winch):
    """Gear 2 of the winch sits on a spline 30 x 1.25 x 22: the hub's tip circle is 30 - 2 x 1.25, its space circle
    30, after the standard; the pinion is cut into its shaft."""
    design, results = winch
    export(design, results, tmp_path / "a.dxf")
    space = ezdxf.readfile(tmp_path / "a.dxf").modelspace()
    bore = [e for e in space if e.dxf.layer == "BORE"]
    assert bore and {e.dxftype() for e in bore} <= {"ARC", "LWPOLYLINE"}
    x = results.stages[0].mesh.a_w
    ends = np.array([[*p][:2] for e in bore if e.dxftype() == "ARC" for p in (e.start_point, e.end_point)])
    r = np.hypot(ends[:, 0] - x, ends[:, 1])
    assert r.min() == pytest.approx(27.5 / 2, abs=0.01) and r.max() == pytest.approx(30.0 / 2, abs=0.06)


def test_facets_of_a_helical_gear_keep_the_tolerance_that_is_stated(winch):
    design, results = winch
    rng = np.random.default_rng(2)
    for tolerance in (0.01, 0.05):
        body = bodies(design, results.stages[1], 1)[0]
        mesh = body_mesh(body, tolerance)
        at, _ = trimesh.sample.sample_surface(mesh, 400, seed=3)
        at = at[np.abs(at[:, 2]) < body.b / 2 - 1e-6]
        line = body.outline(1e-4)
        line = np.vstack((line, line[:1]))
        away = []
        for p in at[rng.permutation(len(at))[:150]]:
            angle = -float(body.angle(p[2]))
            c, s = np.cos(angle), np.sin(angle)
            away.append(
                polyline_distance(np.array([[c * (p[0] - body.x) - s * p[1], s * (p[0] - body.x) + c * p[1]]]), line)[0]
            )
        away = np.array(away)
        near = away < 5
        # Those in the bore are none of the outline.
        assert near.sum() > 40 and away[near & (away < 3)].max() <= tolerance * 1.05


def test_a_span_that_does_not_fit_on_the_face_is_not_printed(winch):
    """Gear 2 of the winch with b 12 and 20 degrees of helix: over a face of 12 mm no span of 8 teeth lies on both
    flanks."""
    design, _ = winch
    wide = set_many(design, {"train.gears.gear4.b": 40.0})
    narrow = set_many(design, {"train.gears.gear4.b": 4.0})
    text = [" ".join(words(gear_drawing(d, evaluate(d), 1, 2))) for d in (wide, narrow)]
    assert "base tangent length" in text[0] or "span" in text[0]
    assert text[0] != text[1] and "too narrow" in text[1]


@pytest.mark.parametrize("k", [0, 1])
def test_a_gear_measured_from_its_true_sizes_is_found_with_its_helix(winch, k):
    """Standard data and whole degrees first; balls alone tell as much as spans."""
    stage = winch[1].stages[k]
    g, t = stage.gears[0], stage.teeth[0]
    spans = {n: float(span(t, n)) for n in (2, 3, 4)}
    balls = {d: float(over_two_balls(t, d)) for d in (3.0, 4.0)}
    modules = (1.0, 1.25, 1.5, 1.75, 2.0, 2.25, 2.5, 3.0)
    for sizes in ({"spans": spans}, {"spans": {}, "balls": balls}):
        best = identify(int(g.z), float(g.d_a), modules=modules, beta=None, **sizes)[0]
        assert (best.m_n, np.degrees(best.alpha_n)) == (stage.mesh.m_n, 20.0)
        assert np.degrees(best.beta) == pytest.approx(stage.mesh.beta) and abs(best.span_residual) < 2e-3

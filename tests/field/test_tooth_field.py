"""The field of true teeth: refinement, reciprocity, equilibrium, and its root stress beside ISO 6336-3 for dozens of
gears."""

import numpy as np
import pytest
from msgspec.structs import replace

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.field.elastic import Plane
from cooper.field.elements import elements_of
from cooper.field.stress_field import crack_path, field_basis, loaded_section, refined, section_body
from cooper.field.tooth_grid import COARSE, FINE, USUAL, frame_of, grid_of
from cooper.field.unit_loads import unit_loads
from cooper.results.evaluate import evaluate
from cooper.results.loaded_tooth import each_loaded, loaded_ask
from cooper.results.root_comparison import root_comparison
from makers import pair


def asks(name):
    d = demo(name)
    r = evaluate(d)
    return [(s, loaded_ask(d.train, r, k, "nominal", True)) for k, s in enumerate(r.stages)]


@pytest.mark.parametrize("name", ["mirror-cover", "dome-ring", "dome-rack", "winch", "filter-wheel"])
def test_the_root_stress_is_converged_within_the_error_that_is_told(name):
    ask = asks(name)[0][1]
    for body in ask.bodies:
        coarse, usual, fine = (field_basis(body, f) for f in (COARSE, USUAL, FINE))
        usual = refined(coarse, usual)
        assert usual.error < 0.02
        for L in usual.L[usual.clear]:
            off = abs(usual.root(L)[0] / fine.root(L)[0] - 1)
            assert off < min(usual.error + fine.error, 0.013)
            assert coarse.root(L)[0] == pytest.approx(fine.root(L)[0], rel=0.045)
    # What is seen first says that it is rough.
    first = next(each_loaded(ask, (0, 1)))
    for i, body in enumerate(ask.bodies):
        usual, rough = field_basis(body, USUAL), first.fields[i]
        off = max(abs(rough.root(L)[0] / usual.root(L)[0] - 1) for L in usual.L[usual.clear])
        assert 0.01 < off < rough.error < 0.1 and first.fineness == "rough"


def test_what_one_load_does_at_another_is_the_same_the_other_way_round_and_nothing_is_lost():
    for name in ("mirror-cover", "dome-ring"):
        _, ask = asks(name)[0]
        result = loaded_section(section_body(ask.bodies[1])[0], COARSE)
        plane, loads = result.plane, result.loads
        chain = plane.grid.chains[plane.grid.mid]
        force = loads.weight[:, :, None] * loads.normal[:, None, :]
        work = np.einsum("inc,jnc->ij", force, loads.u[:, chain])
        assert work == pytest.approx(work.T, rel=1e-9)
        for j in (0, 9, 16):
            held = plane.reactions(loads.u[j])[plane.grid.held]
            assert held.sum(axis=0) == pytest.approx(-loads.normal[j], abs=1e-9)
            place = loads.places.of(plane.grid.nodes[chain])[j]
            x = plane.grid.nodes[plane.grid.held]
            turned = (x[:, 0] * held[:, 1] - x[:, 1] * held[:, 0]).sum()
            assert turned == pytest.approx(-(place[0] * loads.normal[j, 1] - place[1] * loads.normal[j, 0]), rel=5e-3)


def test_a_load_on_the_other_flank_stresses_the_mirror_image():
    _, ask = asks("mirror-cover")[0]
    body = ask.bodies[0]
    grid = grid_of(frame_of(body.tooth, body.form, body.edge), COARSE)
    plane = Plane(grid, elements_of(grid), body.E, body.nu)
    loads = unit_loads(plane, body.tooth, body.L_f, body.L_a)
    right = np.zeros((len(grid.nodes), 2))
    chain = grid.chains[grid.mid]
    right[chain] = loads.weight[10][:, None] * loads.normal[10]
    order = np.lexsort(np.round(grid.nodes, 7).T)
    other = np.lexsort(np.round(grid.nodes * [-1, 1], 7).T)
    mirror = np.empty(len(order), dtype=int)
    mirror[order] = other
    left = np.zeros_like(right)
    left[mirror] = right * [-1, 1]
    u, v = plane.displaced(np.stack((right, left)))
    assert v[mirror] == pytest.approx(u * [-1, 1], abs=1e-9 * np.abs(u).max())


def test_the_root_is_stressed_as_iso_has_it_within_a_band():
    """External gears with their load at the outer point of single contact: ISO lies -2 to +15 % from the field,
    mostly +2 to +8; shifted gears of 14 to 80 teeth, helical ones too."""
    rng = np.random.default_rng(16)
    apart = []
    while len(apart) < 36:
        z = int(rng.integers(14, 81))
        base = "train."
        d = set_many(
            pair(z, int(rng.integers(z, 100)), float(rng.uniform(0.0, 0.5)), float(rng.uniform(-0.1, 0.4))),
            {
                f"{base}gears.gear1.rho_fP": float(rng.uniform(0.2, 0.38)),
                f"{base}gears.gear2.rho_fP": float(rng.uniform(0.2, 0.38)),
                f"{base}meshes.stage1.beta": float(rng.choice([0.0, 0.0, 15.0])),
                f"{base}meshes.stage1.load_at": "outer single contact",
            },
        )
        r = evaluate(d)
        s, ask = r.stages[0], loaded_ask(d.train, r, 0, "nominal", True)
        for i in (0, 1):
            result = root_comparison(s, i, field_basis(ask.bodies[i], COARSE), ask)
            apart.append(result.rows[2].factor / result.rows[0].factor)
    assert min(apart) > 0.98 and max(apart) < 1.15
    assert 1.02 < np.median(apart) < 1.08


def test_a_crack_runs_into_the_tooth_from_where_it_is_pulled_most():
    _, ask = asks("mirror-cover")[0]
    basis = field_basis(ask.bodies[0], COARSE)
    L = float(basis.L[12])
    path = crack_path(basis, basis.between(L, basis.stress), basis.root(L)[1])
    assert len(path) > 8
    assert path[0, 0] > path[-1, 0] and abs(path[-1, 0]) < abs(path[0, 0])
    # At the surface the pull runs along it, so that the crack leaves at right angles.
    k = int(np.nonzero(basis.pull == basis.root(L)[1])[0][0])
    along = basis.nodes[basis.pull[k + 1]] - basis.nodes[basis.pull[k - 1]]
    first = path[1] - path[0]
    # Between its stations as at them, and no further than its ends.
    reach = np.linspace(basis.L[0] - 0.3, basis.L[-1] + 0.3, 41)
    one, other = basis.roots(reach)
    assert one == pytest.approx([basis.root(v)[0] for v in reach], rel=1e-9)
    assert other == pytest.approx([basis.root(v)[2] for v in reach], rel=1e-9)
    assert one[0] == pytest.approx(basis.sigma[0][0].max(), rel=1e-9)
    assert one[-1] == pytest.approx(basis.sigma[0][-1].max(), rel=1e-6)
    assert abs(along @ first) < 0.2 * np.hypot(*along) * np.hypot(*first)
    slope = np.degrees(np.arctan2(abs(along[0]), abs(along[1])))
    assert basis.tangent_angle(basis.root(L)[1]) == pytest.approx(slope, abs=2.0)


def test_a_thin_ring_is_not_held_by_its_rim_and_gives_way_more():
    _, ask = asks("dome-ring")[0]
    body = ask.bodies[1]
    thin = replace(body, edge=abs(float(body.tooth.d_f)) + 3.0 * float(body.tooth.m_n))
    soft, stiff = (loaded_section(b, COARSE) for b in (thin, body))
    assert np.abs(soft.loads.u).max() > 1.5 * np.abs(stiff.loads.u).max()

"""Fields and displacements against closed forms: cantilever, tube in a stiff casing, wedge, Hertz under the surface."""

import numpy as np
import pytest

from cooper.field.compliance import pressed_in
from cooper.field.elastic import Plane, principal, von_mises
from cooper.field.elements import elements_of
from cooper.field.tooth_grid import Grid
from cooper.field.unit_loads import patches

E, NU = 206000.0, 0.3


def block(x, y, bend=lambda p: p):
    """A grid over a rectangle of nodes at x and y (odd counts), bent by a map; held where asked later."""
    X, Y = np.meshgrid(x, y, indexing="ij")
    index = np.arange(X.size).reshape(X.shape)
    c = index[::2, ::2]
    quads = np.stack(
        (
            c[:-1, :-1],
            c[1:, :-1],
            c[1:, 1:],
            c[:-1, 1:],
            index[1::2, :-2:2],
            index[2::2, 1::2],
            index[1::2, 2::2],
            index[:-2:2, 1::2],
            index[1::2, 1::2],
        ),
        axis=-1,
    ).reshape(-1, 9)
    return bend(np.column_stack((X.ravel(), Y.ravel()))), quads, index


def plane(nodes, quads, chain, held, strain=True):
    along = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(nodes[chain], axis=0).T))))
    grid = Grid(nodes, quads, chain[None], along, held, len(chain) - 1, 0, None)
    return Plane(grid, elements_of(grid), E, NU, strain)


def side_load(nodes, chain, traction):
    """Loads on the nodes of a chain under a traction (n, 2) at them, by Simpson's rule."""
    result = np.zeros((len(nodes), 2))
    length = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(nodes[chain], axis=0).T))))
    for k in range(0, len(chain) - 2, 2):
        h = length[k + 2] - length[k]
        for n, w in zip((k, k + 1, k + 2), (1, 4, 1), strict=True):
            result[chain[n]] += w * h / 6 * traction[n]
    return result


def test_a_cantilever_bends_as_timoshenko_has_it():
    L, h, P = 40.0, 4.0, 10.0
    nodes, quads, index = block(np.linspace(0, L, 41), np.linspace(-h / 2, h / 2, 9))
    p = plane(nodes, quads, index[:, -1], index[0], strain=False)
    y = nodes[index[-1], 1]
    load = side_load(nodes, index[-1], np.column_stack((0 * y, -1.5 * P / h * (1 - (2 * y / h) ** 2))))
    u = p.displaced(load)
    inertia = h**3 / 12
    bend = P * L**3 / (3 * E * inertia) + P * L / (5 / 6 * E / (2 * (1 + NU)) * h)
    assert -u[index[-1, 4], 1] == pytest.approx(bend, rel=3e-3)
    stress = p.stresses(u)
    middle = index[20, -1]
    assert stress[middle, 0] == pytest.approx(P * (L - nodes[middle, 0]) * (h / 2) / inertia, rel=2e-3)
    # What holds it is what loads it, and turns as much.
    r = p.reactions(u)[index[0]]
    assert r.sum(axis=0) == pytest.approx([0.0, P], abs=1e-7)
    assert -(nodes[index[0], 1] * r[:, 0]).sum() == pytest.approx(P * L, rel=1e-9)
    assert p.along_edge(u, index[:, -1])[20] == pytest.approx(stress[middle, 0], rel=2e-3)


def test_a_tube_in_a_stiff_casing_is_lames():
    a, b, q = 5.0, 12.0, 100.0
    bend = lambda p: np.column_stack((p[:, 1] * np.cos(p[:, 0]), p[:, 1] * np.sin(p[:, 0])))  # noqa: E731
    nodes, quads, index = block(np.linspace(0, 2 * np.pi, 65), a * (b / a) ** np.linspace(0, 1, 17), bend)
    # The seam is closed: what stands there twice is one.
    keep = np.arange(len(nodes))
    keep[index[-1]] = index[0]
    used, number = np.unique(keep, return_inverse=True)
    quads, index = number[quads], number[index]
    nodes = nodes[used]
    p = plane(nodes, quads[:, [0, 3, 2, 1, 7, 6, 5, 4, 8]], index[:, 0], np.unique(index[:, -1]))
    inner = index[:, 0]
    load = side_load(nodes, inner, q * nodes[inner] / a)
    u = p.displaced(load)
    # u = A r + B / r, no displacement at the casing, pressure q at the bore; plane strain.
    lam, mu = E * NU / ((1 + NU) * (1 - 2 * NU)), E / (2 * (1 + NU))
    A, B = np.linalg.solve([[b, 1 / b], [2 * (lam + mu), -2 * mu / a**2]], [0.0, -q])
    assert np.hypot(*u[inner].T) == pytest.approx(A * a + B / a, rel=2e-3)
    hoop = 2 * (lam + mu) * A + 2 * mu * B / a**2
    s = p.stresses(u)[inner[0]]
    # At angle 0 the hoop is along y.
    assert s[1] == pytest.approx(hoop, rel=0.02) and s[0] == pytest.approx(-q, rel=0.02)


def test_a_wedge_under_a_push_at_its_point_is_michells():
    half, P, inner, outer = 0.35, 50.0, 1.0, 60.0
    bend = lambda p: np.column_stack((p[:, 1] * np.cos(p[:, 0]), p[:, 1] * np.sin(p[:, 0])))  # noqa: E731
    nodes, quads, index = block(np.linspace(-half, half, 17), inner * (outer / inner) ** np.linspace(0, 1, 61), bend)
    p = plane(nodes, quads[:, [0, 3, 2, 1, 7, 6, 5, 4, 8]], index[:, 0], index[:, -1])
    k = P / (half + np.sin(2 * half) / 2)
    face = index[:, 0]
    angle = np.arctan2(nodes[face, 1], nodes[face, 0])
    u = p.displaced(side_load(nodes, face, (k * np.cos(angle) / inner)[:, None] * nodes[face] / inner))
    for at in (8, 4, 12):
        n = index[at, 30]
        r, t = np.hypot(*nodes[n]), np.arctan2(nodes[n, 1], nodes[n, 0])
        one, two, _ = principal(p.stresses(u)[n])
        assert two == pytest.approx(-k * np.cos(t) / r, rel=0.01)
        assert abs(one) < 0.01 * abs(two)


def test_under_a_patch_the_stresses_are_hertzs_and_it_is_pressed_in_as_weber_has_it():
    a = 0.1
    fine = np.concatenate(
        (-(0.1 * 60 ** np.linspace(1, 0, 13)), np.linspace(-0.1, 0.1, 41)[1:-1], 0.1 * 60 ** np.linspace(0, 1, 13))
    )
    deep = np.concatenate((np.linspace(0, 0.16, 33), 0.16 * 40 ** np.linspace(0, 1, 25)[1:]))
    nodes, quads, index = block(fine, -deep)
    quads = quads[:, [0, 3, 2, 1, 7, 6, 5, 4, 8]]
    edge = np.unique(np.concatenate((index[0], index[-1], index[:, -1])))
    p = plane(nodes, quads, index[:, 0], edge)
    chain = index[:, 0]
    along = nodes[chain, 0] - nodes[chain[0], 0]
    weight = patches(along, np.array([-nodes[chain[0], 0]]), a)[0]
    load = np.zeros((len(nodes), 2))
    load[chain, 1] = -weight
    assert load.sum() == pytest.approx(-1.0, rel=1e-12)
    u = p.displaced(load)
    stress = p.stresses(u)
    p_0 = 2 / (np.pi * a)
    under = index[len(fine) // 2]
    z = deep / a
    one, two, _ = principal(stress[under])
    shear = (one - two) / 2 / p_0
    # Johnson, Contact Mechanics, 4.2: the greatest shear 0.30 p_0 at 0.78 a; along the axis s_z = -p_0 / sqrt(1 + z^2).
    assert shear.max() == pytest.approx(0.30, abs=0.006) and z[int(shear.argmax())] == pytest.approx(0.78, abs=0.06)
    deep_in = (z > 0.3) & (z < 4)
    assert stress[under, 1][deep_in] / p_0 == pytest.approx(-1 / np.sqrt(1 + z[deep_in] ** 2), rel=0.02)
    # Pressed in against a point beneath, in a half-plane: sides 60 a away hold little of it.
    for h in (1.0, 2.0):
        n = int(np.argmin(np.abs(deep - h)))
        middle = u[chain[len(fine) // 2], 1]
        assert -(middle - u[under[n], 1]) == pytest.approx(float(pressed_in(a, deep[n], E, NU)), rel=0.02)


def test_equivalent_stress_is_that_of_the_whole_tensor():
    rng = np.random.default_rng(5)
    for x, y, t in rng.normal(size=(50, 3)) * 100:
        z = NU * (x + y)
        s = np.array([[x, t, 0], [t, y, 0], [0, 0, z]])
        dev = s - np.eye(3) * np.trace(s) / 3
        assert von_mises(np.array([x, y, t]), NU) == pytest.approx(np.sqrt(1.5 * (dev * dev).sum()), rel=1e-12)
        assert principal(np.array([x, y, t]))[:2] == pytest.approx(
            np.linalg.eigvalsh(s[:2, :2])[::-1], rel=1e-9, abs=1e-9
        )

"""Many trains at once against one after the other, over random sets of every kind, driven either way, with little
and much friction."""

from itertools import permutations

import numpy as np
import pytest

from cooper.errors import OutOfRange
from cooper.trains.flows import Links, flows
from cooper.trains.solve import FRAME, Link, flow

rng = np.random.default_rng(7)
N = 120


def _sets(kind):
    """Members, links as (a, b, z_a, z_b, carrier) and the shafts that can be driven, held or loaded."""
    sun, planet, small = (rng.integers(10, 50, N).astype(float) for _ in range(3))
    if kind == "planet set":
        return 4, [(0, 1, sun, planet, 3), (1, 2, planet, -(sun + 2 * planet), 3)], (0, 2, 3)
    if kind == "stepped":
        return 4, [(0, 1, sun, planet, 3), (1, 2, small, -(sun + planet + small), 3)], (0, 2, 3)
    ring_1 = sun + 2 * planet
    ring_2 = small + ring_1 - planet
    links = [(0, 1, planet, -ring_1, 3), (0, 2, small, -ring_2, 3)]
    if kind == "two rings":
        return 4, links, (1, 2, 3)
    return 5, [*links, (4, 0, sun, planet, 3)], (1, 2, 4)


@pytest.mark.parametrize("kind", ["planet set", "stepped", "two rings", "two rings and sun"])
def test_many_trains_are_those_solved_one_by_one(kind):
    members, links, shafts = _sets(kind)
    locked = turned = 0
    for source, held, output in permutations(shafts):
        loss = [rng.uniform(0.002, 0.08, N) for _ in links]
        torque, omega = rng.uniform(0.5, 50, N), rng.uniform(1, 300, N)
        many = [Links(*k, gone) for k, gone in zip(links, loss, strict=True)]
        with np.errstate(all="ignore"):
            result = flows(members, many, [held], source, omega, torque, output)
        for n in range(N):
            one = [
                Link(a, b, float(za[n]), float(zb[n]), c, float(gone[n]))
                for (a, b, za, zb, c), gone in zip(links, loss, strict=True)
            ]
            names = [str(m) for m in range(members)]
            try:
                wanted = flow(names, one, [held], {source: float(omega[n])}, float(torque[n]), output)
            except OutOfRange:
                locked += 1
                # Two rings alike do not turn at all.
                still = abs(result.omega[n, output]) < 1e-6 * np.max(np.abs(result.omega[n]))
                assert still or not np.all(np.isfinite(result.torque[n]))
                continue
            turned += 1
            for name in ("omega", "torque", "mesh_a", "mesh_b", "through"):
                a, b = getattr(result, name)[n], getattr(wanted, name)
                assert np.allclose(a, b, rtol=1e-8, atol=1e-9 * np.max(np.abs(b))), (kind, source, held, output, name)
            assert result.efficiency[n] == pytest.approx(wanted.efficiency, rel=1e-9, abs=1e-12)
    assert turned > 500


def test_gears_on_fixed_axes():
    result = flows(
        3,
        [
            Links(0, 1, np.array([20.0]), np.array([30.0]), FRAME, 0.01),
            Links(1, 2, np.array([30.0]), np.array([50.0]), FRAME, 0.02),
        ],
        [],
        0,
        np.array([10.0]),
        np.array([2.0]),
        2,
    )
    # By hand: 20/50 of the speed, 2 * 2.5 * 0.99 * 0.98 of the torque, the same sense of rotation.
    assert result.omega[0, 2] == pytest.approx(4.0)
    assert result.torque[0, 2] == pytest.approx(-4.851)
    assert result.efficiency[0] == pytest.approx(0.9702)

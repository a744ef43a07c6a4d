"""The solver of members and meshes: against the basic-train formula, counted teeth, closed forms, and power in
random trains."""

from itertools import permutations, product

import numpy as np
import pytest

from cooper.document.models import GearSet
from cooper.errors import OutOfRange
from cooper.results.set_flow import drives_back, solve_set
from cooper.trains.solve import FRAME, Link, flow, locks, speeds
from makers import planet_set

NAMES = ("sun", "planet", "ring", "carrier")


def simple(z_s, z_p, z_r, loss=(0.0, 0.0)):
    return [Link(0, 1, z_s, z_p, 3, loss[0]), Link(1, 2, z_p, -z_r, 3, loss[1])]


@pytest.mark.parametrize("roles", list(permutations((0, 2, 3), 3)))
def test_every_shaft_held_or_driven_follows_the_basic_train_equation(roles):
    """omega_s - i0 omega_r = (1 - i0) omega_c with i0 = -z_r/z_s (Willis), torques by the same ratio."""
    source, target, held = roles
    z_s, z_p, z_r = 24, 30, 84
    w = speeds(NAMES, simple(z_s, z_p, z_r), [held], {source: 7.0})
    i_0 = -z_r / z_s
    assert w[0] - i_0 * w[2] == pytest.approx((1 - i_0) * w[3], abs=1e-9)
    assert w[held] == pytest.approx(0, abs=1e-12)
    f = flow(NAMES, simple(z_s, z_p, z_r), [held], {source: 7.0}, 10.0, target)
    assert f.torque[2] / f.torque[0] == pytest.approx(-i_0)
    assert f.torque.sum() == pytest.approx(0, abs=1e-9)
    assert f.efficiency == pytest.approx(1)


def test_speeds_are_those_of_counting_teeth_as_they_pass():
    """A long roll in small steps: teeth that pass the pitch point of each mesh, counted on both gears."""
    z_s, z_p, z_r = 21, 30, 81
    w = speeds(NAMES, simple(z_s, z_p, z_r), [2], {0: 1.0})
    steps = np.linspace(0, 400 * 2 * np.pi, 400001)
    passed_sun = np.floor((w[0] - w[3]) * steps * z_s / (2 * np.pi))
    passed_planet = np.floor(-(w[1] - w[3]) * steps * z_p / (2 * np.pi))
    passed_ring = np.floor(-(w[2] - w[3]) * steps * z_r / (2 * np.pi))
    assert np.max(np.abs(passed_sun - passed_planet)) <= 1
    assert np.max(np.abs(passed_planet - passed_ring)) <= 1


def test_two_rings_have_their_closed_ratio_and_lose_what_circulates():
    for z_a, z_1, z_b, z_2 in ((18, 54, 17, 53), (20, 80, 21, 81), (30, 84, 29, 83)):
        names = ("planet", "ring", "ring 2", "carrier")
        links = [Link(0, 1, z_a, -z_1, 3, 0.01), Link(0, 2, z_b, -z_2, 3, 0.008)]
        w = speeds(names, links, [1], {3: 1.0})
        base = z_1 * z_b / (z_a * z_2)
        assert 1 / w[2] == pytest.approx(1 / (1 - base), rel=1e-9)
        f = flow(names, links, [1], {3: 1.0}, 1.0, 2)
        eta_0 = 0.99 * 0.992
        expected = (1 - base) / (1 - (base * eta_0 if base < 1 else base / eta_0))
        assert f.efficiency == pytest.approx(expected, rel=1e-9)
        assert f.circulating > 5


def test_a_very_high_ratio_locks_backward_and_says_so():
    names = ("planet", "ring", "ring 2", "carrier")
    high = [Link(0, 1, 99, -199, 3, 0.01), Link(0, 2, 100, -200, 3, 0.01)]
    assert locks(names, high, [1], 2, 3)
    assert not locks(names, high, [1], 3, 2)
    forward = flow(names, high, [1], {3: 1.0}, 1.0, 2).efficiency
    assert 0 < forward < 0.5
    one = GearSet(kind="two rings", held="ring", input="carrier", output="ring 2")
    d = planet_set(kind="two rings", z=(40, 80, 41, 81))
    stages = (d.train.stages[0], d.train.stages[1])
    assert drives_back(one, stages, (0.02, 0.02)) == 0
    # Little friction lets it turn either way.
    assert drives_back(one, stages, (1e-4, 1e-4)) > 0.9


def random_train(rng):
    """A chain of members: fixed pairs, then a planet set whose sun is the last of them."""
    n = int(rng.integers(1, 4))
    names = [f"shaft {k}" for k in range(n)]
    links = [
        Link(k, k + 1, float(rng.integers(12, 40)), float(rng.integers(20, 90)), FRAME, float(rng.uniform(0, 0.03)))
        for k in range(n - 1)
    ]
    sun = n - 1
    z_s, z_p = float(rng.integers(15, 30)), float(rng.integers(15, 40))
    names += ["planet", "ring", "carrier"]
    links += [
        Link(sun, n, z_s, z_p, n + 2, float(rng.uniform(0, 0.03))),
        Link(n, n + 1, z_p, -(z_s + 2 * z_p), n + 2, float(rng.uniform(0, 0.03))),
    ]
    return names, links


def test_power_in_less_losses_is_power_out_for_every_member_and_mesh_of_random_trains():
    rng = np.random.default_rng(3)
    for _ in range(200):
        names, links = random_train(rng)
        held, out = rng.permutation([len(names) - 2, len(names) - 1])
        f = flow(names, links, [int(held)], {0: 5.0}, 3.0, int(out))
        power = f.omega * f.torque
        assert power.sum() == pytest.approx(f.lost.sum(), rel=1e-9, abs=1e-9)
        assert np.all(f.lost >= -1e-9)
        expected = np.abs(f.through) * [k.loss for k in links]
        # What a mesh loses is its share of the power that goes into it.
        assert np.all(np.abs(f.lost - expected) <= 0.04 * np.abs(expected) + 1e-9)
        for k in range(len(names)):
            acting = f.torque[k]
            for n, link in enumerate(links):
                acting += (
                    f.mesh_a[n] * (link.a == k)
                    + f.mesh_b[n] * (link.b == k)
                    - (f.mesh_a[n] + f.mesh_b[n]) * (link.carrier == k)
                )
            assert acting == pytest.approx(0, abs=1e-7)
        free = flow(
            names, [Link(k.a, k.b, k.z_a, k.z_b, k.carrier) for k in links], [int(held)], {0: 5.0}, 3.0, int(out)
        )
        assert free.efficiency == pytest.approx(1, rel=1e-9)
        assert f.efficiency < 1


def test_what_no_train_can_be_is_said_with_its_members():
    links = simple(24, 30, 84)
    with pytest.raises(OutOfRange, match="nothing decides"):
        speeds(NAMES, links, [], {0: 1.0})
    with pytest.raises(OutOfRange, match="held or driven at once"):
        speeds(NAMES, links, [2, 3], {0: 1.0})
    with pytest.raises(OutOfRange, match="one input"):
        flow(NAMES, links, [], {0: 1.0, 3: 2.0}, 1.0, 2)
    with pytest.raises(OutOfRange, match="stands still"):
        flow(NAMES, links, [2], {0: 1.0}, 1.0, 2)


def test_a_set_shares_its_torque_among_planets_and_its_meshes_turn_relative_to_the_carrier():
    d = planet_set(planets=4)
    f = solve_set(d.train.placed[0], d.train.stages[:2], 40.0, 100.0)
    assert f.mesh_torque[0] == pytest.approx(10.0)
    assert f.mesh_speed[0] == pytest.approx(100 - f.speed_of("carrier"))
    assert f.ratio == pytest.approx(4.5)


def balance_by_hand(n, links, held, source, output, ways, omega):
    """Outer torques for stated directions of power, and whether power does go those ways: one equation a member."""
    unknowns = len(links) + 2
    A, y = np.zeros((n, unknowns)), np.zeros(n)
    y[source] = -1.0
    sides = [
        (k.z_a, k.z_b * (1 - k.loss)) if way else (k.z_a * (1 - k.loss), k.z_b)
        for k, way in zip(links, ways, strict=True)
    ]
    for j, (k, (a, b)) in enumerate(zip(links, sides, strict=True)):
        A[k.a, j], A[k.b, j] = a, b
        A[k.carrier, j] = -a - b
    A[held, -2] = A[output, -1] = 1.0
    x = np.linalg.lstsq(A, y, rcond=None)[0]
    assert np.allclose(A @ x, y, atol=1e-7)
    power = [-x[j] * sides[j][0] * (omega[k.a] - omega[k.carrier]) for j, k in enumerate(links)]
    agree = all((p >= 0) == bool(way) or abs(p) < 1e-12 for p, way in zip(power, ways, strict=True))
    return x[-1] * omega[output], agree


def random_set(rng):
    """A planet set, one with stepped planets, or two rings with a sun, with 0.5 to 2 times the usual friction."""
    kind, f = rng.integers(3), rng.uniform(0.5, 2)
    loss = [float(rng.uniform(0.003, 0.03) * f) for _ in range(3)]
    z_s, z_p, z_q = (float(z) for z in rng.integers(12, 60, 3))
    if kind < 2:
        last = (z_p, -(z_s + 2 * z_p)) if kind == 0 else (z_q, -float(rng.integers(60, 200)))
        return 4, [Link(0, 1, z_s, z_p, 3, loss[0]), Link(1, 2, *last, 3, loss[1])], [0, 2, 3]
    z_1 = float(rng.integers(60, 150))
    z_q, z_2 = z_p + float(rng.integers(-4, 5)), z_1 + float(rng.integers(-4, 5))
    return (
        5,
        [Link(0, 1, z_p, -z_1, 3, loss[0]), Link(0, 2, z_q, -z_2, 3, loss[1]), Link(4, 0, z_s, z_p, 3, loss[2])],
        [1, 2, 3, 4],
    )


def test_directions_of_power_are_those_that_all_combinations_agree_on():
    """Wherever any directions let power out at the output, those are found, driven from either end."""
    rng = np.random.default_rng(11)
    ran = locked = 0
    for _ in range(1500):
        n, links, shafts = random_set(rng)
        source, output, held = (int(k) for k in rng.permutation(shafts)[:3])
        names = [str(k) for k in range(n)]
        for a, b in ((source, output), (output, source)):
            try:
                omega = speeds(names, links, [held], {a: 1.0})
                result = flow(names, links, [held], {a: 1.0}, 1.0, b)
            except OutOfRange:
                continue
            every = [balance_by_hand(n, links, held, a, b, ways, omega) for ways in product((0, 1), repeat=len(links))]
            out = [power for power, agree in every if agree and power < 0]
            given = result.torque[b] * result.omega[b]
            if out:
                ran += 1
                assert given < 0
                assert min(abs(given - power) for power in out) < 1e-9
            else:
                locked += 1
                assert given >= 0
                assert locks(names, links, [held], a, b)
    assert ran > 2000 and locked > 50

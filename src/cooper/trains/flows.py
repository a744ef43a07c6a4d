"""Many trains of one arrangement at once: speeds, torques and power through every mesh, as arrays over designs.

The same equations as in `trains.solve`, for trains that differ in counts, losses and torques alone.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import product

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from cooper.arrays import Array, as_float, where
from cooper.trains.solve import FRAME, Turns

LEAST_LEFT = 1e-9
"""Share of the power that a mesh leaves at least, so that the equations keep a solution."""


class Links(Struct, frozen=True):
    """A mesh of member ``a`` with member ``b`` borne by ``carrier`` in every train; signed counts and share of the
    power lost, arrays."""

    a: int
    b: int
    z_a: Array
    z_b: Array
    carrier: int = FRAME
    loss: Array | float = 0.0


class Flows(Struct, frozen=True):
    """Speeds (rad/s) and outer torques (N m) by train and member; by train and mesh the torque on a and on b (N m)
    and the power that goes through (W, positive from a to b), relative to the carrier; NaN where a train has no one
    motion or no balance. Members and meshes stand last."""

    omega: Array
    torque: Array
    mesh_a: Array
    mesh_b: Array
    through: Array

    @property
    def efficiency(self) -> Array:
        """Power out over power in."""
        power = self.omega * self.torque
        given = np.sum(where(power > 0, power, 0.0), axis=-1)
        with np.errstate(invalid="ignore", divide="ignore"):
            return where(given > 0, -np.sum(where(power < 0, power, 0.0), axis=-1) / given, np.nan)


def flows(
    members: int,
    links: Sequence[Links],
    held: Sequence[int],
    source: int,
    omega: Array,
    torque: Array,
    output: int,
    turns: Turns = (),
) -> Flows:
    """Speeds, torques and powers of trains driven at one member and loaded at another.

    Parameters
    ----------
    members : int
        Number of members.
    links : Sequence[Links]
        Meshes with their counts, a ring's negative, and the carrier of each.
    held : Sequence[int]
        Numbers of the members that are held.
    source : int
        Number of the driven member.
    omega : Array
        Angular speed of the driven member (rad/s), of each train.
    torque : Array
        Torque of the driven member (N m), of each train.
    output : int
        Number of the loaded member.
    turns : Turns
        Held members that are not at rest.

    Returns
    -------
    Flows
        Speeds (rad/s), torques (N m) and powers (W) of all members.

    Notes
    -----
    The directions of power are those without friction, turned until the torques agree with them; where that goes round
    all are tried, those nearest first, and of those that agree one that gives power at the output is taken.

    Examples
    --------
    >>> z = np.array([20.0, 24.0])
    >>> links = [Links(0, 1, z, np.array([30.0, 30.0]), 3), Links(1, 2, np.array([30.0, 30.0]), -np.array([80.0, 84.0]), 3)]
    >>> f = flows(4, links, [2], 0, np.full(2, 10.0), np.full(2, 1.0), 3)
    >>> f.omega[:, 3].round(6).tolist(), f.torque[:, 3].round(6).tolist()
    ([2.0, 2.222222], [-5.0, -4.5])
    """  # noqa: E501
    n = np.broadcast_shapes(np.shape(omega), np.shape(torque), *(np.shape(k.z_a) for k in links))[0]
    turned = _speeds(members, links, held, source, np.broadcast_to(omega, n), n, turns)
    bent = np.column_stack([turned[:, k.a] - (turned[:, k.carrier] if k.carrier != FRAME else 0.0) for k in links])
    load = np.broadcast_to(torque, n)

    def balance(ways: NDArray[np.bool_], rows: NDArray[np.intp], lossy: bool = True) -> tuple[Array, ...]:
        return _equilibrium(members, links, held, source, output, load, ways, rows, lossy)

    def meant(mesh_a: Array, ways: NDArray[np.bool_], rows: NDArray[np.intp]) -> NDArray[np.bool_]:
        through = -mesh_a * bent[rows]
        idle = np.abs(through) < 1e-9 * np.max(np.abs(through), axis=1, keepdims=True)
        return np.where(idle, ways, through >= 0)

    every = np.arange(n)
    forward = np.ones((n, len(links)), dtype=bool)
    first = meant(balance(forward, every, lossy=False)[0], forward, every)
    a, b, t = (v.copy() for v in balance(first, every))
    ways, now = first.copy(), meant(a, first, every)
    for _ in range(len(links)):
        rows = np.flatnonzero(np.any(now != ways, axis=1))
        if not len(rows):
            break
        ways[rows] = now[rows]
        a[rows], b[rows], t[rows] = balance(ways[rows], rows)
        now[rows] = meant(a[rows], ways[rows], rows)
    rows = np.flatnonzero(np.any(now != ways, axis=1))
    if len(rows):
        _try_all(rows, first, balance, meant, (a, b, t), turned, output)
    still = ~np.all(np.isfinite(turned), axis=1)
    a[still], b[still], t[still] = np.nan, np.nan, np.nan
    return Flows(turned, t, a, b, -a * bent)


def _try_all(
    rows: NDArray[np.intp],
    first: NDArray[np.bool_],
    balance: Callable[[NDArray[np.bool_], NDArray[np.intp]], tuple[Array, ...]],
    meant: Callable[[Array, NDArray[np.bool_], NDArray[np.intp]], NDArray[np.bool_]],
    result: tuple[Array, ...],
    turned: Array,
    output: int,
) -> None:
    """Every set of directions for the trains whose directions went round; NaN where none agrees."""
    best = np.full(len(rows), np.inf)
    kept = [np.full((len(rows), *v.shape[1:]), np.nan) for v in result]
    for way in product((False, True), repeat=first.shape[1]):
        ways = np.broadcast_to(np.array(way), (len(rows), first.shape[1]))
        tried = balance(ways, rows)
        agree = np.all(meant(tried[0], ways, rows) == ways, axis=1)
        gives = tried[2][:, output] * turned[rows, output] < 0
        # Those that give power at the output before those that do not, then the nearest.
        far = np.sum(ways != first[rows], axis=1) + where(gives, 0, len(first[0]) + 1)
        better = agree & (far < best)
        best = where(better, far, best)
        for k, v in zip(kept, tried, strict=True):
            k[better] = v[better]
    for whole, k in zip(result, kept, strict=True):
        whole[rows] = k


def _speeds(
    members: int, links: Sequence[Links], held: Sequence[int], source: int, omega: Array, n: int, turns: Turns
) -> Array:
    A, y = np.zeros((n, members, members)), np.zeros((n, members))
    for row, k in enumerate(links):
        size = np.maximum(np.abs(k.z_a), np.abs(k.z_b))
        A[:, row, k.a] += k.z_a / size
        A[:, row, k.b] += k.z_b / size
        if k.carrier != FRAME:
            A[:, row, k.carrier] -= (k.z_a + k.z_b) / size
    for row, member in enumerate(held, len(links)):
        A[:, row, member] = 1.0
        for third, other, ratio in turns:
            if third == member:
                A[:, row, other] -= ratio
    A[:, len(links) + len(held), source] = 1.0
    y[:, len(links) + len(held)] = omega
    return _solved(A, y)


def _equilibrium(
    members: int,
    links: Sequence[Links],
    held: Sequence[int],
    source: int,
    output: int,
    torque: Array,
    ways: NDArray[np.bool_],
    rows: NDArray[np.intp],
    lossy: bool,
) -> tuple[Array, ...]:
    """Torque of each mesh on a and on b and outer torques of the trains in ``rows``, for given directions of power."""
    n, outer = len(rows), [*held, output]
    A, y = np.zeros((n, members, len(links) + len(outer))), np.zeros((n, members))
    on_a, on_b = np.zeros((n, len(links))), np.zeros((n, len(links)))

    def of(value: Array | float) -> Array:
        return as_float(value)[rows] if np.ndim(value) else as_float(value)

    for k, link in enumerate(links):
        eta = np.maximum(1 - of(link.loss), LEAST_LEFT) if lossy else 1.0
        on_a[:, k] = of(link.z_a) * where(ways[:, k], 1.0, eta)
        on_b[:, k] = of(link.z_b) * where(ways[:, k], eta, 1.0)
        A[:, link.a, k] += on_a[:, k]
        A[:, link.b, k] += on_b[:, k]
        if link.carrier != FRAME:
            A[:, link.carrier, k] -= on_a[:, k] + on_b[:, k]
    for k, member in enumerate(outer):
        A[:, member, len(links) + k] += 1
    y[:, source] = -torque[rows]
    x = _solved(A, y)
    out = np.zeros((n, members))
    out[:, source] = torque[rows]
    for k, member in enumerate(outer):
        out[:, member] += x[:, len(links) + k]
    return on_a * x[:, : len(links)], on_b * x[:, : len(links)], out


def _solved(A: Array, y: Array) -> Array:
    """Solutions of square systems, NaN where there is none."""
    with np.errstate(all="ignore"):
        bad = ~(np.abs(np.linalg.det(A)) > 1e-12)
        whole = A if not bad.any() else where(bad[:, None, None], np.eye(A.shape[1]), A)
        x = np.linalg.solve(whole, y[..., None])[..., 0]
    x[bad] = np.nan
    return as_float(x)

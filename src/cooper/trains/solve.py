"""Any train from its members and meshes: speeds from the linear system, torques from equilibrium, power through
every mesh.

No formula per kind of train: members turn, meshes tie them together relative to their carrier, members are held or
driven.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Array, all_, as_float, frozen
from cooper.errors import OutOfRange
from cooper.kept import keeps

FRAME = -1
"""The carrier of meshes between gears with fixed axes."""


Turns = tuple[tuple[int, int, float], ...]
"""Held members that are not at rest: their number, and how many times as fast as another member they turn."""


class Link(Struct, frozen=True):
    """A mesh of member ``a`` with member ``b``, whose centres are borne by member ``carrier`` (`FRAME`: the
    housing).

    Counts are signed, negative for an internal gear. ``loss`` is the share of the power through the mesh, relative to
    the carrier, that friction takes.
    """

    a: int
    b: int
    z_a: float
    z_b: float
    carrier: int = FRAME
    loss: float = 0.0


class Flow(Struct, frozen=True):
    """Speeds (rad/s) and outer torques (N m, what acts on the member from outside) by member; by mesh the torque on
    a and on b and the power that goes through, relative to the carrier (W, positive from a to b), and what is lost
    there."""

    omega: Array
    torque: Array
    mesh_a: Array
    mesh_b: Array
    through: Array
    lost: Array

    @property
    def efficiency(self) -> float:
        """Power out over power in."""
        power = self.omega * self.torque
        given = float(np.sum(power[power > 0]))
        return float(-np.sum(power[power < 0]) / given) if given > 0 else 0.0

    @property
    def circulating(self) -> float:
        """Greatest power through a mesh over the power that comes in; above 1 power circulates."""
        power = self.omega * self.torque
        given = float(np.sum(power[power > 0]))
        return float(np.max(np.abs(self.through)) / given) if given > 0 else 0.0


def speeds(
    names: Sequence[str],
    links: Sequence[Link],
    held: Sequence[int],
    driven: dict[int, float],
    gaps: Sequence[float] | None = None,
    turns: Turns = (),
) -> Array:
    """Speeds of all members.

    Parameters
    ----------
    names : Sequence[str]
        Names of the members, for faults.
    links : Sequence[Link]
        Meshes with their counts, a ring's negative, and the carrier of each.
    held : Sequence[int]
        Numbers of the members that are held.
    driven : dict[int, float]
        Speeds (rad/s) of the driven members by number.
    gaps : Sequence[float] | None
        Slip of the teeth of each mesh: its counts times turns relative to the carrier add up to that (teeth/s), None
        for 0.
    turns : Turns
        Held members that are not at rest.

    Returns
    -------
    Array
        Angular speeds (rad/s).

    Raises
    ------
    OutOfRange
        With the members concerned, where the speeds are not determined or contradict.

    Examples
    --------
    >>> sun, planet, ring, carrier = range(4)
    >>> links = [Link(sun, planet, 20, 30, carrier), Link(planet, ring, 30, -80, carrier)]
    >>> w = speeds(["sun", "planet", "ring", "carrier"], links, [ring], {sun: 10.0})
    >>> round(float(w[carrier]), 6)
    2.0
    """
    turning = tuple(replace(k, loss=0.0) for k in links)
    slips = tuple(gaps or [0.0] * len(links))
    return _speeds(tuple(names), turning, tuple(held), tuple(driven.items()), slips, tuple(turns)).copy()


@keeps(256)
def _speeds(
    names: tuple[str, ...],
    links: tuple[Link, ...],
    held: tuple[int, ...],
    turned: tuple[tuple[int, float], ...],
    gaps: tuple[float, ...],
    turns: Turns,
) -> Array:
    """Speeds do not depend on losses, so that those of one train are found once for all its efficiencies."""
    driven = dict(turned)
    n = len(names)
    rows, right = [], []
    for slip, link in zip(gaps, links, strict=True):
        row = np.zeros(n)
        row[link.a] += link.z_a
        row[link.b] += link.z_b
        if link.carrier != FRAME:
            row[link.carrier] -= link.z_a + link.z_b
        size = max(abs(link.z_a), abs(link.z_b))
        rows.append(row / size)
        right.append(slip / size)
    tied = {k: (other, ratio) for k, other, ratio in turns}
    for k in held:
        row = np.eye(n)[k]
        if k in tied:
            row[tied[k][0]] -= tied[k][1]
        rows.append(row)
        right.append(0.0)
    for k, omega in driven.items():
        rows.append(np.eye(n)[k])
        right.append(omega)
    A, y = np.array(rows), np.array(right)
    _, sizes, motions = np.linalg.svd(A)
    rank = int(np.sum(sizes > 1e-9 * sizes[0]))
    omega = np.linalg.lstsq(A, y, rcond=None)[0]
    scale = max(np.max(np.abs(y)), 1e-300)
    if np.max(np.abs(A @ omega - y)) > 1e-7 * scale:
        fixed = ", ".join(names[k] for k in (*held, *driven))
        raise OutOfRange(
            "train",
            fixed,
            "these members are held or driven at once, but the meshes tie them together: let one of them go",
        )
    # Rounding of the solution is not a motion.
    omega = np.round(omega / max(np.max(np.abs(omega)), 1e-300), 14) * max(np.max(np.abs(omega)), 1e-300)
    if rank < n:
        loose = np.nonzero(np.max(np.abs(motions[rank:]), axis=0) > 1e-7)[0]
        free = ", ".join(names[int(k)] for k in loose)
        raise OutOfRange(
            "train", free, f"nothing decides how these members turn: hold or drive {n - rank} more of them"
        )
    return frozen(as_float(omega))


def flow(
    names: Sequence[str],
    links: Sequence[Link],
    held: Sequence[int],
    driven: dict[int, float],
    torque_in: float,
    output: int,
    turns: Turns = (),
) -> Flow:
    """Speeds, torques and powers of a train driven at one member and loaded at another.

    Parameters
    ----------
    names : Sequence[str]
        Names of the members, for faults.
    links : Sequence[Link]
        Meshes with their counts, a ring's negative, and the carrier of each.
    held : Sequence[int]
        Numbers of the members that are held.
    driven : dict[int, float]
        Speeds (rad/s) of the driven members by number.
    torque_in : float
        Torque of the driven member (N m).
    output : int
        Number of the loaded member.
    turns : Turns
        Held members that are not at rest; power is taken off there too.

    Returns
    -------
    Flow
        Speeds (rad/s), torques (N m) and powers (W).

    Raises
    ------
    OutOfRange
        Where the output cannot turn, and where friction locks the train.

    Notes
    -----
    Each mesh loses its share of the power that goes through it relative to its carrier, on the side where it leaves;
    which side that is follows from the torques. The search starts from the directions without friction and turns those
    that the torques contradict; where it goes round in circles every set of directions is tried.
    """
    if len(driven) != 1:
        listed = ", ".join(names[k] for k in driven) or "none"
        raise OutOfRange("input", listed, "a train has one input; several would share the power as their motors like")
    (at,) = driven.items()
    return _flow(_Case(tuple(names), tuple(links), tuple(held), at, torque_in, output, tuple(turns)))


class _Case(Struct, frozen=True):
    """What decides a flow of power, as it is asked again: ``driven`` the member that is driven and its speed."""

    names: tuple[str, ...]
    links: tuple[Link, ...]
    held: tuple[int, ...]
    driven: tuple[int, float]
    torque_in: float
    output: int
    turns: Turns = ()

    def speeds(self) -> Array:
        """Speeds of all members."""
        return speeds(self.names, self.links, self.held, dict([self.driven]), turns=self.turns)

    def torques(self, a_drives: Array) -> tuple[Array, Array, Array]:
        """The torques for given directions of power in the meshes."""
        size, source = len(self.names), self.driven[0]
        return _equilibrium(size, self.links, self.held, source, self.output, self.torque_in, a_drives)


@keeps(256)
def _flow(case: _Case) -> Flow:
    names, links, output, omega = case.names, case.links, case.output, case.speeds()
    if output in case.held or abs(omega[output]) < 1e-9 * max(np.max(np.abs(omega)), 1e-300):
        raise OutOfRange("output", names[output], "it stands still: no power can be taken there")
    w_a, w_b = (_relative(omega, of, links) for of in ([k.a for k in links], [k.b for k in links]))

    def balance(a_drives: Array) -> tuple[tuple[Array, Array, Array], Array, bool]:
        """The torques for given directions, the directions that they mean, and whether both are the same."""
        result = case.torques(a_drives)
        now = _directions(result[0], w_a, a_drives)
        return result, now, all_(now == a_drives)

    source, turned = case.driven
    free = tuple(replace(k, loss=0.0) for k in links)
    unit = replace(case, links=free, driven=(source, float(np.sign(turned))), torque_in=float(np.sign(case.torque_in)))
    a_drives = _without_friction(unit)
    result, now, agree = balance(a_drives)
    for _ in range(len(links)):
        if agree:
            break
        result, now, agree = balance(now)
    if not agree:
        # All directions, those nearest to the ones without friction first; of those that agree one that gives power at
        # the output.
        ways = sorted(product((False, True), repeat=len(links)), key=lambda way: int(np.sum(np.array(way) != a_drives)))
        tried = [balance(np.array(way)) for way in ways]
        whole = [f for f, _, fits in tried if fits]
        if not whole:
            raise OutOfRange(
                "output",
                names[output],
                "friction locks the train: no directions of power through its meshes agree with the torques",
            )
        result = next((f for f in whole if f[2][output] * omega[output] < 0), whole[0])
    mesh_a, mesh_b, torque = result
    lost = -(mesh_a * w_a + mesh_b * w_b)
    return frozen(Flow(omega, torque, mesh_a, mesh_b, -mesh_a * w_a, lost))


def _relative(omega: Array, members: Sequence[int], links: Sequence[Link]) -> Array:
    """Speeds of members relative to the carriers of their meshes."""
    return np.array(
        [omega[m] - (omega[k.carrier] if k.carrier != FRAME else 0.0) for m, k in zip(members, links, strict=True)]
    )


def _directions(mesh_a: Array, w_a: Array, before: Array) -> Array:
    """In which meshes member a drives, by the power that goes through."""
    through = -mesh_a * w_a
    # What goes through the mesh of a free member is rounding.
    idle = np.abs(through) < 1e-9 * np.max(np.abs(through))
    return np.where(idle, before, through >= 0)


@keeps(256)
def _without_friction(case: _Case) -> Array:
    """In which meshes member a drives where nothing is lost: it does not depend on how great torque and speed are."""
    w_a = _relative(case.speeds(), [k.a for k in case.links], case.links)
    any_way = np.ones(len(case.links), dtype=bool)
    return frozen(_directions(case.torques(any_way)[0], w_a, any_way))


def locks(names: Sequence[str], links: Sequence[Link], held: Sequence[int], source: int, output: int) -> bool:
    """Whether friction lets no power through, however great the torque.

    Parameters
    ----------
    names : Sequence[str]
        Names of the members, for faults.
    links : Sequence[Link]
        Meshes with their counts, a ring's negative, and the carrier of each.
    held : Sequence[int]
        Numbers of the members that are held.
    source : int
        Number of the driven member.
    output : int
        Number of the loaded member.

    Returns
    -------
    bool
        True where it locks.
    """
    try:
        result = flow(names, links, held, {source: 1.0}, 1.0, output)
    except OutOfRange:
        return True
    return bool(result.omega[output] * result.torque[output] >= 0)


def _equilibrium(
    n: int, links: Sequence[Link], held: Sequence[int], source: int, output: int, torque_in: float, a_drives: Array
) -> tuple[Array, Array, Array]:
    """Torque of each mesh on a and on b, and outer torques, for given directions of power in the meshes."""
    outer = [*held, output]
    size = len(links) + len(outer)
    A, y = np.zeros((n, size)), np.zeros(n)
    share = []
    for k, (link, forward) in enumerate(zip(links, a_drives, strict=True)):
        eta = max(1 - link.loss, 1e-9)
        on_a, on_b = (link.z_a, link.z_b * eta) if forward else (link.z_a * eta, link.z_b)
        share.append((on_a, on_b))
        A[link.a, k] += on_a
        A[link.b, k] += on_b
        if link.carrier != FRAME:
            A[link.carrier, k] -= on_a + on_b
    for k, member in enumerate(outer):
        A[member, len(links) + k] += 1
    y[source] = -torque_in
    x, *_ = np.linalg.lstsq(A, y, rcond=None)
    if np.max(np.abs(A @ x - y)) > 1e-6 * abs(torque_in):
        raise OutOfRange(
            "train", "", "its torques are not in equilibrium: a member that carries torque is neither held nor loaded"
        )
    mesh_a = np.array([s[0] for s in share]) * x[: len(links)]
    mesh_b = np.array([s[1] for s in share]) * x[: len(links)]
    torque = np.zeros(n)
    torque[source] = torque_in
    for k, member in enumerate(outer):
        torque[member] += x[len(links) + k]
    return mesh_a, mesh_b, torque

"""Sets of the train solved as members and meshes."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from cooper.arrays import Loose as Array
from cooper.arrays import as_float, where
from cooper.document.models import GearSet, Stage
from cooper.errors import OutOfRange
from cooper.trains.flows import Flows, Links, flows
from cooper.trains.planets import nearest_angles, positions
from cooper.trains.solve import FRAME, Flow, Link, Turns, flow, locks, speeds


class SetFlow(Struct, frozen=True):
    """A set solved: its shafts by name, speeds (rad/s), the flow of power, and for each of its meshes the torque on
    the driver of one planet's mesh (N m) and the driver's speed relative to the carrier (rad/s)."""

    one: GearSet
    names: tuple[str, ...]
    found: Flow
    mesh_torque: tuple[float, ...]
    mesh_speed: tuple[float, ...]

    @property
    def ratio(self) -> float:
        """Input over output speed, with its sign."""
        w = self.speed_of
        return w(self.one.input) / w(self.one.output)

    @property
    def power_in(self) -> float:
        """Power at the input; W."""
        return abs(self.speed_of(self.one.input) * self.torque_of(self.one.input))

    def speed_of(self, shaft: str) -> float:
        return float(self.found.omega[self.names.index(shaft)])

    def torque_of(self, shaft: str) -> float:
        """Torque that acts on a shaft from outside; N m."""
        return float(self.found.torque[self.names.index(shaft)])


Losses = tuple[float, ...]
"""Share of the power that friction takes in each mesh; none where it is empty."""


def members_of(one: GearSet) -> tuple[str, ...]:
    """Names of the rotating parts of a set."""
    return (*one.arranged.members, "sun") if one.free_sun else one.arranged.members


def third_of(one: GearSet) -> tuple[list[int], Turns]:
    """The third shaft, which is held, and how it turns where it is not at rest."""
    if one.held is None:
        return [], ()
    names = members_of(one)
    third = names.index(one.held)
    return [third], () if one.u_third is None else ((third, names.index(one.output), one.u_third),)


def links_of(one: GearSet, stages: tuple[Stage, ...], losses: Losses = ()) -> list[Link]:
    """The meshes of a set for the solver."""
    carrier = one.arranged.members.index(one.arranged.carrier) if one.arranged.around else FRAME
    return [
        Link(a, b, float(s.gears[0].z), float(s.gears[1].z), carrier, loss)
        for (a, b), s, loss in zip(
            one.arranged.meshes[: len(stages)], stages, losses or (0.0,) * len(stages), strict=True
        )
    ]


def solve_set(one: GearSet, stages: tuple[Stage, ...], T: float, omega: float, losses: Losses = ()) -> SetFlow:
    """Speeds, torques and power of a set driven at its input; raises `OutOfRange` where it cannot turn or has no one
    motion."""
    names = members_of(one)
    links = links_of(one, stages, losses)
    held, turns = third_of(one)
    result = flow(names, links, held, {names.index(one.input): omega}, T, names.index(one.output), turns)
    carrier = 0.0 if not one.arranged.around else result.omega[names.index(one.arranged.carrier)]
    per_planet = tuple(abs(float(t)) / one.planets for t in result.mesh_a)
    relative = tuple(abs(float(result.omega[k.a] - carrier)) for k in links)
    return SetFlow(one, names, result, per_planet, relative)


def set_flows(
    one: GearSet,
    counts: Sequence[tuple[Array, Array]],
    losses: Sequence[Array] = (),
    T: Array = 1.0,
    omega: Array = 1.0,
    backward: bool = False,
) -> Flows:
    """`solve_set` for many sets of one arrangement at once: signed ``counts`` of driver and driven gear of each
    mesh, ``losses``, torque (N m) and speed (rad/s) as arrays, driven at the input or ``backward`` at the output. NaN
    where a set has no one motion or no balance."""
    names = members_of(one)
    carrier = names.index(one.arranged.carrier) if one.arranged.around else FRAME
    shape = np.broadcast_shapes(*(np.shape(v) for v in (T, omega, *losses, *(z for pair in counts for z in pair))))

    def flat(value: Array) -> Array:
        return np.broadcast_to(as_float(value), shape).ravel()

    links = [
        Links(a, b, flat(z_a), flat(z_b), carrier, flat(loss))
        for (a, b), (z_a, z_b), loss in zip(
            one.arranged.meshes[: len(counts)], counts, losses or (0.0,) * len(counts), strict=True
        )
    ]
    held, turns = third_of(one)
    ends = names.index(one.input), names.index(one.output)
    source, target = ends[::-1] if backward else ends
    f = flows(len(names), links, held, source, flat(omega), flat(T), target, turns)
    omega, torque, mesh_a, mesh_b, through = (
        v.reshape(*shape, v.shape[-1]) for v in (f.omega, f.torque, f.mesh_a, f.mesh_b, f.through)
    )
    return Flows(omega, torque, mesh_a, mesh_b, through)


def efficiencies(
    one: GearSet, counts: Sequence[tuple[Array, Array]], losses: Sequence[Array], backward: bool = False
) -> Array:
    """Efficiency of many sets, from input to output or ``backward``; 0 where friction locks them."""
    result = set_flows(one, counts, losses, backward=backward)
    target = members_of(one).index(one.input if backward else one.output)
    gives = result.omega[..., target] * result.torque[..., target] < 0
    return where(gives, np.maximum(result.efficiency, 0.0), 0.0)


def forward_efficiency(one: GearSet, stages: tuple[Stage, ...], losses: Losses) -> float:
    """Efficiency with the power going from input to output; 0 where friction locks it."""
    try:
        flow = solve_set(one, stages, 1.0, 1.0, losses)
    except OutOfRange:
        return 0.0
    locked = flow.speed_of(one.output) * flow.torque_of(one.output) >= 0
    return 0.0 if locked else max(float(flow.found.efficiency), 0.0)


def drives_back(one: GearSet, stages: tuple[Stage, ...], losses: Losses) -> float:
    """Efficiency with the power going from output to input; 0 where friction locks it, or two outputs drive it."""
    names, links = members_of(one), links_of(one, stages, losses)
    held, turns = third_of(one)
    source, target = names.index(one.output), names.index(one.input)
    if turns or locks(names, links, held, source, target):
        return 0.0
    return float(flow(names, links, held, {source: 1.0}, 1.0, target).efficiency)


def set_speeds(one: GearSet, stages: tuple[Stage, ...], omega: float = 1.0) -> dict[str, float]:
    """Speeds of all members by name for a speed of the input."""
    names = members_of(one)
    held, turns = third_of(one)
    result = speeds(names, links_of(one, stages), held, {names.index(one.input): omega}, turns=turns)
    return dict(zip(names, result.tolist(), strict=True))


def counts_of(one: GearSet, stages: tuple[Stage, ...]) -> tuple[int, ...]:
    """Tooth counts of the gears of a set as they are told, a gear in two meshes once; positive."""
    (a, b), (c, d) = ((abs(g.z) for g in s.gears) for s in stages[:2])
    free = (stages[2].gears[0].z,) if one.free_sun else ()
    return (a, b, d) if one.arranged.one_gear else (a, b, c, d, *free)


def places_of(one: GearSet, stages: tuple[Stage, ...]) -> int:
    """Number of places at which a planet can be put in; 0 where none goes around."""
    if not one.arranged.around:
        return 0
    first, second = (
        (s.gears[i].z, s.gears[1 - i].z) for s, i in ((s, one.arranged.at(n)) for n, s in enumerate(stages[:2]))
    )
    return int(positions(first, second, stages[2].gears[0].z if one.free_sun else None))


def planet_angles(one: GearSet, stages: tuple[Stage, ...]) -> np.ndarray:
    """Where the planets stand on the carrier; rad."""
    if not one.arranged.around:
        return np.zeros(1)
    return as_float(nearest_angles(places_of(one, stages), one.planets))


def play_gain(one: GearSet, links: list[Link], mesh: int) -> float:
    """Turn of the output, input held, for a turn of the driver of one mesh through its gap."""
    names = members_of(one)
    held, turns = third_of(one)
    gaps = [links[n].z_a if n == mesh else 0.0 for n in range(len(links))]
    return float(speeds(names, links, held, {names.index(one.input): 0.0}, gaps, turns)[names.index(one.output)])

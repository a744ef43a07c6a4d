"""Torque and speed on their way through the train: what each mesh has, and what is left behind it."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Real, all_, as_float
from cooper.document.models import GearSet, Stage, Train, at_stage
from cooper.document.walk import Group
from cooper.errors import OutOfRange
from cooper.gears.inputs import PairInput
from cooper.i18n.text import tr
from cooper.kept import Kept
from cooper.results.bearing_rows import losses_around
from cooper.results.cached_shapes import shape_of
from cooper.results.machine_result import MachineResult
from cooper.results.pair_numbers import PairNumbers, loss_numbers
from cooper.results.refuse import solve_or_refuse
from cooper.results.result_tree import Results
from cooper.results.set_flow import SetFlow, forward_efficiency, solve_set
from cooper.results.solve_stage import Solved, solve_duty, solve_stage
from cooper.results.to_core import in_train, pair_input
from cooper.results.train_losses import Curves, Lost, efficiency_curves, heat_balance, train_losses, varied
from cooper.trains.planets import load_share

IDLE = 1e-6
"""Share of the set's torque with which the mesh of a free sun is computed: so little that no number becomes
infinite."""


STILL = 1e-6
"""Share of the input's speed below which the teeth of a set do not roll."""


class MeshLoad(Struct, frozen=True):
    """What comes to the driving gear of a mesh: torque (N m) and speed (rad/s) relative to its carrier; ``idle`` for
    a free sun, whose numbers are not shown; ``first_drives`` false where power goes the other way through the mesh;
    ``T_carrier`` the torque of the carrier (N m) where it tells how planets share the load."""

    T: float
    omega: float
    idle: bool = False
    first_drives: bool = True
    T_carrier: float = 0.0


class Arrived(Struct, frozen=True):
    """What comes to a shaft: torque (N m), speed (rad/s), the speed of the input over it, and its share of the power
    that comes in."""

    T: float
    omega: float
    ratio: float
    eta: float


class Flow:
    """Follows the power from shaft to shaft: `at` a stage, then `past` its group with what that lost."""

    def __init__(self, train: Train) -> None:
        self.train, self.walk = train, train.walk
        self.P, self.T, self.omega = solve_duty(train.duty)
        self.shafts = {train.input: Arrived(self.T, self.omega, 1.0, 1.0)}
        self._set: SetFlow | None = None

    def coming(self, group: Group) -> tuple[float, float]:
        """Torque and speed with which power comes into a group."""
        there = self.shafts[group.comes_in]
        return there.T * group.share, there.omega

    def at(self, k: int) -> MeshLoad:
        """The load of the mesh of stage k."""
        one = self.train.stages[k].within
        T, omega = self.coming(self.walk.group_of(k))
        if one is None:
            return MeshLoad(T, omega)
        if k == one.first or self._set is None:
            self._set = set_flow(one, self.train, T, omega)
        n = k - one.first
        if n == 2 and not one.sun_works:
            return MeshLoad(
                IDLE * T, self._set.mesh_speed[n], idle=True, first_drives=bool(self._set.found.through[n] >= 0)
            )
        return MeshLoad(
            self._set.mesh_torque[n],
            self._set.mesh_speed[n],
            first_drives=bool(self._set.found.through[n] >= 0),
            T_carrier=abs(self._set.torque_of(one.arranged.carrier)) if one.shares_by_stiffness else 0.0,
        )

    def past(self, group: Group, u: float, eta: float) -> Arrived:
        """Behind a pair of ratio u, with its efficiency; what comes to its driven gear."""
        T, omega = self.coming(group)
        return self._leave(group, group.goes_out, T * abs(u) * eta, omega / abs(u), abs(u), eta)

    def past_set(self, group: Group, one: GearSet, loaded: SetFlow) -> Arrived:
        """Behind a set, found with its losses; what comes to its output."""
        for key, role in zip(group.ends, (one.output, one.second), strict=False):
            T, omega = (abs(of(role or one.output)) for of in (loaded.torque_of, loaded.speed_of))
            ratio = abs(loaded.speed_of(one.input)) / omega
            eta = loaded.found.efficiency if len(group.ends) == 1 else T * omega / loaded.power_in
            self._leave(group, key, T, omega, ratio, eta)
        return self.shafts[group.goes_out]

    def _leave(self, group: Group, key: str, T: float, omega: float, ratio: float, eta: float) -> Arrived:
        there = self.shafts[group.comes_in]
        result = Arrived(T, omega, there.ratio * ratio, there.eta * group.share * eta)
        self.shafts[key] = result
        return result

    @property
    def main(self) -> Arrived:
        """What is taken off at the main output."""
        return self.taken(self.walk.main)

    def taken(self, shaft: str) -> Arrived:
        """What is taken off at an output."""
        there, share = self.shafts[shaft], self.walk.outputs[shaft]
        return Arrived(there.T * share, there.omega, there.ratio, there.eta * share)

    @property
    def eta(self) -> float:
        """What is taken off at all outputs, over the power that comes in."""
        return sum(self.taken(shaft).eta for shaft in self.walk.outputs)


def members_of_set(one: GearSet, train: Train) -> tuple[Stage, ...]:
    """The stages of a set."""
    return tuple(train.stages[n] for n in one.stages)


def set_flow(one: GearSet, train: Train, T: float, omega: float) -> SetFlow:
    """The torques for which the teeth of a set are rated: without friction, which takes little on the way. In two
    rings power circulates and friction takes much of it, so that there the torques are those with the losses of their
    meshes."""
    members = members_of_set(one, train)
    flow = solve_set(one, members, T, omega)
    if one.second is not None and min(flow.mesh_speed) < STILL * omega:
        raise OutOfRange(
            "u_third",
            one.u_third or 0.0,
            tr(
                "all shafts of {name} turn at one speed, so that its teeth bear standing still, which no method here "
                "rates: give the least difference of speeds that it runs with, as 0.95",
                name=one.name,
            ),
        )
    if not one.arranged.circulates:
        return flow
    # What the meshes lose is asked for twice in a train whose teeth are warmed by all of them.
    key = (one, members, train.duty, train.defaults, train.losses, T, omega)
    return LOSSY.of(key, lambda: _with_losses(one, train, members, flow, T, omega))


LOSSY: Kept[SetFlow] = Kept(8)
"""Flows with losses."""


def _with_losses(
    one: GearSet, train: Train, members: tuple[Stage, ...], flow: SetFlow, T: float, omega: float
) -> SetFlow:
    losses = []
    for n in range(len(members)):
        numbers = lost_in(train, one.first + n, MeshLoad(flow.mesh_torque[n] or IDLE * T, flow.mesh_speed[n]))
        losses.append(1 - float(numbers.mesh.eta_z))
    if not all_(np.isfinite(losses)) or max(losses) >= 1 or forward_efficiency(one, members, tuple(losses)) <= 0:
        # Teeth that cannot be, and a set that friction locks, are refused with their reasons later.
        return flow
    result = solve_set(one, members, T, omega, tuple(losses)).found
    # Of both sides of a mesh the greater load.
    torque = [
        max(abs(a), abs(b * s.gears[0].z / s.gears[1].z)) / one.planets
        for a, b, s in zip(result.mesh_a, result.mesh_b, members, strict=True)
    ]
    return replace(flow, mesh_torque=tuple(float(t) for t in torque))


def mesh_input(
    train: Train, k: int, load: MeshLoad, ranges: bool = True, P_beside: float = 0.0
) -> tuple[Solved, PairInput]:
    """The mesh of stage k under a load, solved and in the core's units; raises `OutOfRange` with the range that
    works, found if ``ranges``."""
    stage = train.stages[k]
    solved = solve_or_refuse(stage, train, load.T, load.omega, ranges)
    pair = pair_input(stage, solved, *at_stage(train, k), load.T, load.omega, train.losses.friction)
    return solved, in_train(train, k, shared(train.stages[k].within, pair, load.T_carrier), P_beside)


def shared(one: GearSet | None, pair: PairInput, T_carrier: Real) -> PairInput:
    """The pair with the load that its planets share by their stiffness, where the set asks for that; ``T_carrier`` N
    m."""
    if one is None or not one.shares_by_stiffness:
        return pair
    assert one.k_pl is not None and one.e_pl is not None
    F = 1000 * as_float(T_carrier) / (one.planets * np.abs(pair.a_w))
    return replace(pair, K_gamma=load_share(one.planets, one.floating, one.k_pl, one.e_pl, F))


def lost_in(train: Train, k: int, load: MeshLoad) -> PairNumbers:
    """What the mesh of stage k loses under a load."""
    _, pair = mesh_input(train, k, load)
    with np.errstate(all="ignore"):
        return loss_numbers(pair, shape_of(train.stages[k], pair).fresh())


def stages_of(train: Train) -> Lost:
    """Inputs of every stage at the duty and what it loses, for what is computed of them beside the results."""
    flow = Flow(train)
    lost: Lost = []
    for group in train.walk.groups:
        for k in group.stages:
            numbers = lost_in(train, k, flow.at(k))
            lost.append((numbers.pair, numbers))
        one = train.stages[group.stages[0]].within
        if one is None:
            flow.past(group, float(numbers.mesh.u), float(numbers.mesh.eta_z))
        else:
            losses = tuple(1 - float(n.mesh.eta_z) for _, n in lost[one.first :])
            T, omega = flow.coming(group)
            loaded = solve_set(one, members_of_set(one, train), T, omega, losses)
            flow.past_set(group, one, loaded)
    return lost


def heated(train: Train) -> tuple[Train, list[float]]:
    """The train with the oil temperature of its heat balance, where that is taken, and what all other meshes of the
    housing lose beside that of each stage (W); 0 where it warms no teeth. One walk finds both: the balance is sought
    between two temperatures of a grid (`oil_temperatures`), not iterated."""
    at = train.defaults.plastics
    warms = at.heat != "entered" and at.running != "oil bath" and at.housing != "open" and len(train.stages) > 1
    cold = [0.0] * len(train.stages)
    if not train.losses.oil_by_balance and not warms:
        return train, cold
    lost = stages_of(train)
    if train.losses.oil_by_balance:
        theta = round(heat_balance(train, lost), 2)
        train = train.replace_unchecked(duty=train.duty.replace_unchecked(theta_oil=theta))
        lost = varied(train, lost, theta=np.array(theta)) if warms else lost
    if not warms:
        return train, cold
    each = [float(n.mesh.P_VZ) for _, n in lost]
    return train, [sum(each) - own for own in each]


def pair_now(train: Train, results: Results, k: int, stage: Stage | None = None) -> PairInput:
    """The pair of stage k as it works in its train; ``stage`` is another form of it under the same load."""
    stage = train.stages[k] if stage is None else stage
    power = results.stages[k].power
    pair = pair_input(
        stage, solve_stage(stage), *at_stage(train, k), power.T_mesh, power.n_mesh * np.pi / 30, train.losses.friction
    )
    pair = replace(pair, K_gamma=results.stages[k].mesh.K_gamma)
    return in_train(train, k, pair, sum(s.mesh.P_VZ for n, s in enumerate(results.stages) if n != k))


def losses_of(train: Train, machine: MachineResult | None = None) -> tuple[dict[str, float], Curves]:
    """The losses of a train by symbol, all of them, counted or not, and its efficiency over load and speed; with the
    bearings of its machine where it counts."""
    lost = stages_of(train)
    around = losses_around(machine) if machine is not None and not train.losses.oil_by_balance else None
    values = {k: float(v) for k, v in train_losses(train, lost, around=around).items()}
    return values, efficiency_curves(train, lost, around)

"""The numbers and checks of a whole block of designs: those of `results.evaluate`, as arrays."""

from __future__ import annotations

from collections.abc import Sequence
from math import pi

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Mixed as Array
from cooper.document.models import GearSet, at_stage
from cooper.gears.cutter import PinionCutter, cutter_rounding_fits
from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape, pair_shape, with_widths
from cooper.gears.rack import greatest_rho_fP
from cooper.i18n.text import tr
from cooper.rating.iso6336.rate import rate
from cooper.results.checks import load_checks, stage_checks, train_checks
from cooper.results.limits import workable
from cooper.results.pair_numbers import PairNumbers, loss_numbers, pair_numbers
from cooper.results.power_flow import shared
from cooper.results.present import array_values
from cooper.results.rate_methods import add_methods
from cooper.results.result_tree import Check, StageResults
from cooper.results.set_flow import members_of, set_flows
from cooper.results.set_results import gap_check
from cooper.results.solve_stage import solve_duty
from cooper.results.train_losses import Lost, all_losses
from cooper.running.pair_losses import add_loss_factor, add_losses
from cooper.stock.materials import is_plastic
from cooper.survey.batch_places import counts, planet_angles
from cooper.survey.design_batch import DesignBatch
from cooper.survey.rated_designs import Rated
from cooper.survey.rated_sizes import add_sizes
from cooper.trains.flows import Flows
from cooper.values import PowerValues, TrainValues


def rate_block(block: DesignBatch) -> Rated:
    """All designs of a block rated.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.

    Returns
    -------
    Rated
        Values and checks of all designs.
    """
    stages = len(block.design.train.stages)
    nothing: list[Array] = [0.0] * stages
    with np.errstate(all="ignore"):
        if stages > 1 and _warms(block):
            # The warmth of plastic teeth in one housing: what the other meshes lose counts too.
            lost = [s.mesh.P_VZ for s in _rate(block, nothing).stages]
            return _rate(block, [sum(lost) - own for own in lost])
        return _rate(block, nothing)


def _rate(block: DesignBatch, beside: list[Array]) -> Rated:
    n, train = len(block), block.design.train
    P, T, omega = solve_duty(train.duty)
    out = Rated(block, np.ones(n, dtype=bool))
    at = At(np.full(n, T), np.full(n, omega), np.ones(n), np.ones(n))
    lost: Lost = []
    k = 0
    while k < len(train.stages):
        one = train.stages[k].within
        if one is None:
            stage, good, numbers = rate_mesh(block, k, Load(at.T, at.omega, P_beside=beside[k]))
            lost.append((numbers.pair, numbers))
            out.stages.append(stage)
            out.alive &= good
            at = at.past(stage)
            k += 1
        else:
            at = _rate_set(block, one, at, out, lost, beside)
            k = one.stages[-1] + 1
    values: dict[str, Array] = {"u": at.ratio, "eta": at.eta, "T_out": at.T, "P_out": P * at.eta}
    if train.losses.counted == "all":
        values |= all_losses(train, lost, values)
    add_sizes(out)
    for k, stage in enumerate(out.stages):
        out.checks += stage_checks(k, stage, at_stage(train, k)[1], train.stages[k].gears)
    if train.duty.u_wanted is not None:
        values["du"] = np.round(100 * (at.ratio / train.duty.u_wanted - 1), 9)
    out.checks += train_checks(TrainValues(**values), train)
    out.values.update({s: values[s] for s in ("u", "eta", "T_out", "P_out", "du", "theta_bal") if s in values})
    return out


class At(Struct):
    """Where the power is on its way: torque (N m), speed (rad/s), ratio and efficiency so far."""

    T: Array
    omega: Array
    ratio: Array
    eta: Array

    def pick(self, rows: Array) -> At:
        """The state of the designs selected by ``rows`` (mask or indices)."""
        return At(self.T[rows], self.omega[rows], self.ratio[rows], self.eta[rows])

    def past(self, stage: StageResults) -> At:
        """Behind a stage of its own."""
        u: Array = np.abs(stage.mesh.u)
        eta: Array = stage.mesh.eta_z
        return At(self.T * u * eta, self.omega / u, self.ratio * u, self.eta * eta)


def rate_mesh(block: DesignBatch, k: int, at: Load) -> tuple[StageResults, Array, PairNumbers]:
    """The mesh of stage k of all designs, which of them can be made and rated, and its numbers in the core's units.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.
    k : int
        Number of the stage, from 0.
    at : Load
        Load that comes to the pairs.

    Returns
    -------
    tuple[StageResults, Array, PairNumbers]
        Results of the stage, which designs can be made and rated, and the numbers in the core's units.
    """
    stage = block.design.train.stages[k]
    duty, defaults = at_stage(block.design.train, k)
    numbers = pair_numbers(loaded(block, k, at))
    pair = numbers.pair
    good = can_be(numbers) & (numbers.mesh.eta_z > 0)
    add_methods(pair, numbers, stage, duty, defaults, at.first_drives)
    values, gears, whole = array_values(numbers, stage.kinds)
    return _results(block, k, numbers, values, gears), good & whole, numbers


def can_be(numbers: PairShape) -> Array:
    """Which pairs can be made and rated.

    Parameters
    ----------
    numbers : PairShape
        Geometry and values of the pairs.

    Returns
    -------
    Array
        True where they can.
    """
    good: Array = workable(numbers) & tools_fit(numbers)
    for g in numbers.gears:
        good = good & np.isfinite(g.Z_BD)
    return good


class Load(Struct):
    """What comes to a mesh: torque (N m) and speed (rad/s) at its driving gear, whether that drives, what other
    meshes lose beside (W), and the measured centre distance where the set gives it (mm)."""

    T: Array
    omega: Array
    a_w: Array | None = None
    first_drives: Array = True
    P_beside: Array = 0.0
    T_carrier: Array = 0.0

    def pick(self, rows: Array) -> Load:
        """The loads of the designs selected by ``rows`` (mask or indices)."""

        def of(value: Array) -> Array:
            return value[rows] if value is not None and np.ndim(value) else value

        return Load(
            of(self.T), of(self.omega), of(self.a_w), of(self.first_drives), of(self.P_beside), of(self.T_carrier)
        )


Shaped = tuple[PairInput, PairShape]
"""Pairs and their geometry, to which no rating has added."""


def shaped(block: DesignBatch, k: int, at: Load) -> Shaped:
    """The pairs of stage k under their load.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.
    k : int
        Number of the stage, from 0.
    at : Load
        Load that comes to the pairs.

    Returns
    -------
    Shaped
        Input and geometry.
    """
    pair = loaded(block, k, at)
    return pair, pair_shape(pair)


def loaded(block: DesignBatch, k: int, at: Load) -> PairInput:
    """The pairs of stage k as their load comes to them.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.
    k : int
        Number of the stage, from 0.
    at : Load
        Load that comes to the pairs.

    Returns
    -------
    PairInput
        Input of the pairs.
    """
    pair = block.pair(k, at.T, at.omega, at.a_w, at.P_beside)
    return shared(block.design.train.stages[k].within, pair, at.T_carrier)


def strength(
    block: DesignBatch, k: int, at: Load, of: Shaped | None = None, whole: bool = True
) -> tuple[list[Check], PairShape, Array]:
    """The checks that the load decides, without plays; the shape, and the efficiency of the mesh.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.
    k : int
        Number of the stage, from 0.
    at : Load
        Load that comes to the pairs.
    of : Shaped | None
        The same pairs shaped before at other widths, from which only the widths are altered.
    whole : bool
        Whether scuffing, micropitting and the losses, which decide a width seldom, are rated too.

    Returns
    -------
    tuple[list[Check], PairShape, Array]
        The checks, the geometry, and the efficiency of the mesh.
    """
    stage = block.design.train.stages[k]
    duty, defaults = at_stage(block.design.train, k)
    if of is None:
        of = shaped(block, k, at)
    one, two = (replace(g, b=block.width(k, i)) for i, g in enumerate(of[0].gears))
    pair = replace(of[0], gears=(one, two))
    shape = with_widths(pair, of[1])
    if whole or _plastic(block, k):
        add_loss_factor(pair, shape.mesh, shape.path)
    shape, pair = rate(pair, shape)
    eta: Array = np.nan
    if whole:
        add_losses(pair, shape.mesh, shape.path)
        eta = shape.mesh.eta_z
    add_methods(pair, shape, stage, duty, defaults, at.first_drives, whole)
    checks = load_checks(k, _results(block, k, shape, shape.mesh, shape.gears), defaults, stage.gears)
    return checks, shape, eta


def _plastic(block: DesignBatch, k: int) -> bool:
    """Whether friction warms the teeth of a mesh."""
    return any(is_plastic(g.material.group) for g in block.design.train.stages[k].gears)


def _results(block: DesignBatch, k: int, shape: PairShape, mesh: Array, gears: Array) -> StageResults:
    stage = block.design.train.stages[k]
    one = block.design.train.stages[k].within
    roles = None if one is None else one.arranged.roles[k - one.first]
    return StageResults(
        stage.name,
        mesh,
        gears,
        PowerValues(),
        frozenset(),
        shape.teeth,
        shape.forms,
        roles=roles,
        kinds=stage.kinds,
    )


def tools_fit(numbers: PairShape) -> Array:
    """Whether the tools themselves can be: their tips have room for their roundings.

    Parameters
    ----------
    numbers : PairShape
        Geometry and values of the pairs.

    Returns
    -------
    Array
        True where they can be.
    """
    good: Array = np.ones((), dtype=bool)
    for tooth in numbers.teeth:
        rack = tooth.rack
        if isinstance(tooth.tool, PinionCutter):
            good = good & cutter_rounding_fits(tooth.tool, rack, tooth.m_t, tooth.m_n, tooth.alpha_t)
        elif tooth.tool is None:
            room = greatest_rho_fP(rack.alpha_n, rack.h_fP, np.maximum(rack.s_pr, 0.0))
            good = good & (rack.rho_fP <= room + 1e-12) & (rack.h_FfP > 0)
    return good


def _rate_set(block: DesignBatch, one: GearSet, at: At, out: Rated, lost: Lost, beside: list[Array]) -> At:
    """The meshes of a set rated under the torques that they have in it, and what is left behind it."""
    if one.free_sun and not one.sun_works:
        raise ValueError(tr("a set with a free sun is not searched"))
    names = members_of(one)
    pairs: list[StageResults] = []
    a_w: Array | None = None
    for k, load in zip(one.stages, set_loads(block, one, at), strict=True):
        if one.arranged.around:
            load.a_w = a_w
        load.P_beside = beside[k]
        stage, good, numbers = rate_mesh(block, k, load)
        lost.append((numbers.pair, numbers))
        a_w = stage.mesh.a_w if a_w is None else a_w
        pairs.append(stage)
        out.alive &= good
    result = _flow(block, one, at.T, at.omega, [1 - p.mesh.eta_z for p in pairs])
    source, target = names.index(one.input), names.index(one.output)
    out.alive &= (result.efficiency > 0) & (result.omega[:, target] * result.torque[:, target] < 0)
    if one.arranged.around:
        planet = np.maximum(pairs[0].gears[one.arranged.planet].d_a, pairs[1].gears[0].d_a)
        angles = planet_angles(block, one)
        if one.planets > 1:
            turned = np.sort(angles % (2 * pi), axis=1)
            steps = np.diff(np.column_stack((turned, turned[:, 0] + 2 * pi)), axis=1)
            gap = 2 * pairs[0].mesh.a_w * np.sin(np.min(steps, axis=1) / 2) - planet
            out.alive &= gap >= 0
            out.checks.append(gap_check(one.first, gap, pairs[-1].mesh.m_n))
        out.values["even"] = np.all(np.abs(angles - 2 * pi * np.arange(one.planets) / one.planets) < 1e-8, axis=1)
    out.stages += pairs
    ratio = np.abs(result.omega[:, source] / result.omega[:, target])
    return At(
        np.abs(result.torque[:, target]), np.abs(result.omega[:, target]), at.ratio * ratio, at.eta * result.efficiency
    )


def _warms(block: DesignBatch) -> bool:
    """Whether the losses of one mesh warm the teeth of another."""
    plastics = block.design.train.defaults.plastics
    return plastics.heat == "by friction" and plastics.running != "oil bath" and plastics.housing != "open"


def _flow(block: DesignBatch, one: GearSet, T: Array, omega: Array, losses: Sequence[Array] = ()) -> Flows:
    """The power through a set of all designs."""
    z = [(counts(block, k, 0), counts(block, k, 1)) for k in one.stages]
    return set_flows(one, z, losses, T, omega)


def set_loads(block: DesignBatch, one: GearSet, at: At) -> list[Load]:
    """What comes to the meshes of a set: on the driver of one planet's mesh, relative to the carrier.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.
    one : GearSet
        The set.
    at : At
        Load of each shaft of the set.

    Returns
    -------
    list[Load]
        Load of each mesh.
    """
    result = _flow(block, one, at.T, at.omega)
    names = members_of(one)
    carrier = 0.0 if not one.arranged.around else result.omega[:, names.index(one.arranged.carrier)]
    meshes = list(zip(one.arranged.meshes, one.stages, strict=False))
    relative = [np.abs(result.omega[:, a] - carrier) for (a, _), _ in meshes]
    torque = [np.abs(result.mesh_a[:, i]) / one.planets for i in range(len(meshes))]
    drives = [result.through[:, i] >= 0 for i in range(len(meshes))]
    if one.arranged.circulates:
        # Power circulates, and friction takes much of it: the torques are those with the losses of the meshes.
        losses, a_w = [], None
        for i, (_, k) in enumerate(meshes):
            numbers = loss_numbers(block.pair(k, torque[i], relative[i], a_w))
            a_w = np.abs(numbers.mesh.a_w) if a_w is None else a_w
            losses.append(1 - numbers.mesh.eta_z)
        lossy = _flow(block, one, at.T, at.omega, losses)
        target = names.index(one.output)
        turns = (lossy.efficiency > 0) & (lossy.omega[:, target] * lossy.torque[:, target] < 0)
        for i, (_, k) in enumerate(meshes):
            z_a, z_b = counts(block, k, 0), counts(block, k, 1)
            both = np.maximum(np.abs(lossy.mesh_a[:, i]), np.abs(lossy.mesh_b[:, i] * z_a / z_b)) / one.planets
            torque[i] = np.where(turns, both, torque[i])
    held = np.abs(result.torque[:, names.index(one.arranged.carrier)]) if one.shares_by_stiffness else 0.0
    return [Load(t, w, first_drives=d, T_carrier=held) for t, w, d in zip(torque, relative, drives, strict=True)]

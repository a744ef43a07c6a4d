"""The one entrance to the numbers: `evaluate(design)`."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from cooper.document.models import Design, GearSet, Train, at_stage
from cooper.document.units import from_core
from cooper.document.walk import Group
from cooper.errors import OutOfRange
from cooper.gears.inputs import PairInput
from cooper.i18n.text import term, tr
from cooper.kept import Kept
from cooper.results.bearing_rows import losses_around
from cooper.results.checks import stage_checks, train_checks
from cooper.results.comparison_values import ComparisonValues
from cooper.results.face_of_mesh import asks_shafts, entered_for_now, named_by_shafts, with_factors
from cooper.results.flank_forms import with_forms
from cooper.results.form_limits import refuse_forms
from cooper.results.messages import note, once
from cooper.results.notes import stage_notes, train_notes
from cooper.results.pair_numbers import PairNumbers, pair_numbers
from cooper.results.pose import clashes
from cooper.results.power_flow import Flow, MeshLoad, heated, members_of_set, mesh_input
from cooper.results.present import stage_results
from cooper.results.rate_methods import add_methods
from cooper.results.refuse import refuse_unworkable, shape_or_refuse
from cooper.results.result_tree import Check, Note, Output, Results, SetResults, StageResults
from cooper.results.set_results import lost_motion, set_checks, set_notes, set_results
from cooper.results.solve_stage import solve_stage
from cooper.results.to_core import pair_input
from cooper.results.train_losses import Around, Lost, all_losses
from cooper.values import PowerValues, TrainValues


class Scope(Struct, frozen=True):
    """``ranges``: the values that work, if a value is refused; ``beside`` what stands beside the
    governing method; ``machine`` the machine around the gears, where it counts."""

    ranges: bool = True
    beside: bool = True
    machine: bool = True


WHOLE, GEARS, QUICK = Scope(), Scope(machine=False), Scope(ranges=False, beside=False, machine=False)
"""All of it, all but the machine, and what a search needs."""


def fits(design: Design) -> bool:
    """Whether the gears of a design can be made and mesh; what does not fit does not work either, and this is told
    in a fraction of the time."""
    train = design.train
    try:
        for k, stage in enumerate(train.stages):
            solved = solve_stage(stage)
            shape_or_refuse(stage, solved, pair_input(stage, solved, *at_stage(train, k), 1.0, 1.0), ranges=False)
    except OutOfRange:
        return False
    return True


def works_for_now(design: Design) -> bool:
    """Whether a design can be evaluated with face load factors that are entered where they are to come from the
    shafts, which take longest to find."""
    if asks_shafts(design.train):
        design = design.replace_unchecked(train=_without_machine(entered_for_now(design.train)))
    return works(design)


def works(design: Design) -> bool:
    """Whether a design can be evaluated; quicker than `evaluate` to say no, as no working ranges are looked for."""
    try:
        evaluate(design, QUICK)
    except OutOfRange:
        return False
    return True


class _Found(Struct):
    """What is gathered on the way through a train."""

    values: TrainValues
    stages: list[StageResults] = field(default_factory=list)
    checks: list[Check] = field(default_factory=list)
    notes: list[Note] = field(default_factory=list)
    sets: list[SetResults] = field(default_factory=list)
    lost: Lost = field(default_factory=list)


def evaluate(design: Design, scope: Scope = WHOLE) -> Results:
    """All results of a design; raises `OutOfRange` where a value cannot work.

    Pure: the same design gives the same results. Values are in the document's units (`Results.as_tree` states them).
    """
    if asks_shafts(design.train):
        return _by_shafts(design, scope)
    train, beside = heated(design.train)
    flow = Flow(train)
    found = _Found(TrainValues(P_in=flow.P, T_in=flow.T, n_in=from_core(flow.omega, "speed")))
    for group in train.walk.groups:
        for k in group.stages:
            result = _mesh(train, k, flow.at(k), beside[k], found, scope)
        one = train.stages[group.stages[0]].within
        if one is None:
            _behind_stage(result, group, flow, found)
        else:
            _behind_set(train, one, group, flow, found)
    return _whole(design.name, train, flow, found, scope)


def _by_shafts(design: Design, scope: Scope) -> Results:
    """Results of a design in which meshes take their face load factor from the shafts, which are found first."""
    from cooper.results.find_machine import NoMachine
    from cooper.results.machine_checks import without_machine

    plain = design.replace_unchecked(train=_without_machine(entered_for_now(design.train)))
    try:
        train, faces = with_factors(design.train, evaluate(plain, QUICK))
    except NoMachine as fault:
        return without_machine(evaluate(plain, scope), fault)
    results = evaluate(design.replace_unchecked(train=train), scope)
    return replace(named_by_shafts(results, design.train), faces=faces)


def _without_machine(train: Train) -> Train:
    return train.replace_unchecked(machine=None)


def each_whole(design: Design) -> Iterator[Results]:
    """The whole results of a design, as they are asked for beside the window."""
    yield evaluate(design)


def with_entered_faces(design: Design) -> Design:
    """The design whose face load factors from the shafts are entered as they are now, for what looks at many designs
    at once."""
    if not asks_shafts(design.train):
        return design
    plain = design.replace_unchecked(train=_without_machine(entered_for_now(design.train)))
    return design.replace_unchecked(train=with_factors(design.train, evaluate(plain, QUICK))[0])


def _mesh(train: Train, k: int, load: MeshLoad, P_beside: float, found: _Found, scope: Scope) -> StageResults:
    """One mesh under its load: refused or rated, presented, checked and noted."""
    stage = train.stages[k]
    duty, defaults = at_stage(train, k)
    one = train.stages[k].within
    members = stage.gears
    key = (stage, duty, defaults, load, P_beside, train.losses, train.defaults, scope)
    pair, numbers, result = MESHES.of(key, lambda: _rated(train, k, load, P_beside, scope))
    found.lost.append((pair, numbers))
    result = replace(result, power=PowerValues(**result.power))
    if one is not None:
        result = replace(result, roles=one.arranged.roles[k - one.first])
    result.power.update(T_mesh=0.0 if load.idle else load.T, n_mesh=from_core(load.omega, "speed"))
    found.stages.append(result)
    found.checks += stage_checks(k, result, defaults, members)
    found.notes += [n for n in stage_notes(k, train, result) if not load.idle or n.level == "warning"]
    return result


MESHES: Kept[tuple[PairInput, PairNumbers, StageResults]] = Kept(24)
"""Meshes whose numbers are kept: an edit of one stage finds the others again where their load is the same."""


def _rated(
    train: Train, k: int, load: MeshLoad, P_beside: float, scope: Scope
) -> tuple[PairInput, PairNumbers, StageResults]:
    """One mesh refused or rated, and as it is presented."""
    stage = train.stages[k]
    duty, defaults = at_stage(train, k)
    solved, pair = mesh_input(train, k, load, scope.ranges, P_beside)
    shape = shape_or_refuse(stage, solved, pair, scope.ranges)
    with np.errstate(all="ignore"):
        numbers = pair_numbers(pair, shape.fresh())
    pair = numbers.pair
    refuse_unworkable(solved, pair, numbers, scope.ranges)
    refuse_forms(stage, numbers)
    rated = not load.idle and _is_rated(numbers)
    agma_governs = defaults.method.startswith("ANSI")
    if rated:
        add_methods(pair, numbers, stage, duty, defaults, load.first_drives)
    result = stage_results(stage, solved, numbers, load.T, load.omega, rated)
    if scope.beside:
        ComparisonValues(stage, numbers, defaults, result, agma=rated and not agma_governs)
    return pair, numbers, with_forms(stage, result)


def _behind_stage(s: StageResults, group: Group, flow: Flow, result: _Found) -> None:
    """What a stage of its own leaves for the next ones."""
    there = flow.past(group, s.mesh.get("u", 1.0), s.mesh.eta_z)
    if not s.kind.turns:
        # The output is a force along a line: no ratio, no torque.
        result.values.update(F_out=s.power.F_out, v_out=s.power.v_out, P_out=s.power.P_out)
        result.values.update(travel=s.mesh.travel / flow.shafts[group.comes_in].ratio, eta=there.eta)


def _behind_set(train: Train, one: GearSet, group: Group, flow: Flow, found: _Found) -> None:
    """The results of a set, and what it leaves."""
    T, omega = flow.coming(group)
    members, pairs = members_of_set(one, train), tuple(found.stages[one.first :])
    result, loaded = set_results(one, members, pairs, T, omega)
    found.sets.append(result)
    found.checks += set_checks(result, pairs[-1].mesh.m_n)
    found.notes += set_notes(one, members, pairs, result)
    there = flow.past_set(group, one, loaded)
    ends = {"T_in": T, "n_in": from_core(omega, "speed"), "P_in": T * omega}
    ends |= {"T_out": there.T, "n_out": from_core(there.omega, "speed"), "P_out": there.T * there.omega}
    for n, (s, gone) in enumerate(zip(pairs, loaded.found.lost, strict=True)):
        s.power.update(ends)
        # As friction leaves the power to the mesh, which circulation makes another than that without friction.
        found.stages[one.first + n] = s.with_mesh(P_VZ=max(float(gone), 0.0))


def _whole(name: str, train: Train, flow: Flow, result: _Found, scope: Scope) -> Results:
    """The results of the whole train."""
    values = result.values
    counted = train.machine is not None and train.machine.counted
    # A heat balance that is taken was found with two bearings a shaft by their type, which then stay.
    own_bearings = counted and scope.machine and train.losses.counted == "all" and not train.losses.oil_by_balance
    values.update(lost_motion(train, result.stages))
    if "travel" not in values:
        out = flow.main
        values.update(
            u=out.ratio, eta=flow.eta, P_out=flow.P * flow.eta, T_out=out.T, n_out=from_core(out.omega, "speed")
        )
    if train.losses.counted == "all":
        _counted(train, result, values, balance=not own_bearings)
    if train.duty.u_wanted is not None and "u" in values:
        # Rounding of the solved speeds is no deviation.
        values.du = round(100 * (values.u / train.duty.u_wanted - 1), 9)
    result.checks += train_checks(values, train)
    if not own_bearings:
        result.notes += _loss_warnings(train, values)
    sets = tuple(result.sets)
    for s in result.stages:
        s.power.freeze()
    text = once((*result.notes, *train_notes(train)), sets)
    results = Results(
        name,
        values.freeze(),
        tuple(result.stages),
        tuple(result.checks),
        text,
        sets,
        groups=train.walk.groups,
        outputs=_outputs(train, flow, values),
    )
    if counted and scope.machine:
        # Imported where it is used: most trains count no machine.
        from cooper.results.machine_checks import with_machine

        results = with_machine(train, results)
        if own_bearings:
            own = TrainValues(**results.train)
            # Without a machine bearings count by their type again.
            _counted(train, result, own, None if results.machine is None else losses_around(results.machine))
            checks = {c.key: c for c in (*results.checks, *train_checks(own, train))}
            warned = (*results.notes, *_loss_warnings(train, own))
            outputs = _outputs(train, flow, own)
            results = replace(results, train=own.freeze(), checks=tuple(checks.values()), notes=warned, outputs=outputs)
    # Where the machine counts it says itself what runs into what, on its own axes and planes.
    if len(result.stages) < 2 or not scope.beside or counted:
        return results
    clashing = tuple(note("shafts_clash", c.stage, **c.values) for c in clashes(results))
    return replace(results, notes=(*clashing, *results.notes)) if clashing else results


def _outputs(train: Train, flow: Flow, values: TrainValues) -> tuple[Output, ...]:
    """What is taken off at each output, after the losses that count."""
    left = values.eta / flow.eta if flow.eta > 0 else 0.0
    result = []
    for key in train.walk.outputs:
        there = flow.taken(key)
        P = there.T * there.omega * left
        ends = [g for g in train.walk.groups if key in g.ends]
        last = train.stages[(ends or train.walk.groups)[0].stages[-1]]
        name: str = last.name
        if ends and len(ends[0].ends) > 1 and last.within is not None:
            role = (last.within.output, last.within.second or "")[ends[0].ends.index(key)]
            name = tr("{name}: {role}", name=last.within.name, role=term(role))
        if ends and not last.kind_of_pair.turns:
            result.append(Output(key, name, P))
        else:
            result.append(Output(key, name, P, there.ratio, from_core(there.omega, "speed"), there.T * left))
    return tuple(result)


def _loss_warnings(train: Train, values: TrainValues) -> list[Note]:
    """Where the losses let the train stand still, or overheat it."""
    result = []
    if values.get("eta_all", 1.0) <= 0:
        result.append(note("does_not_turn", None, P_in=values.P_in, P_V=values.P_V, P_Vz=values.P_Vz))
    if train.losses.counted == "all" and train.losses.A_h is not None and "theta_bal" not in values:
        result.append(note("housing_too_hot", None, A_h=train.losses.A_h))
    return result


def _counted(
    train: Train, result: _Found, values: TrainValues, around: Around | None = None, balance: bool = True
) -> None:
    """Put the losses of the whole train into its values; that there is no heat balance is said in a note, it is
    refused only where it is to be taken."""
    for symbol, value in all_losses(train, result.lost, values, around, balance).items():
        if symbol != "theta_bal" or np.isfinite(value):
            values[symbol] = float(value)


def _is_rated(n: PairNumbers) -> bool:
    """Whether ISO 6336 rates the pair: its teeth hand over within the transverse section."""
    return bool(n.mesh.eps_alpha >= 1)

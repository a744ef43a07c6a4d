"""The checks and notes of the machine around the gears, and the order in which its parts give way."""

from __future__ import annotations

import itertools
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.document.machine_data import Machine
from cooper.document.models import Train
from cooper.errors import OutOfRange, message_of
from cooper.i18n.text import join, term, tr
from cooper.machine.check_bearing import BearingCheck
from cooper.machine.holding import hold_words
from cooper.machine.notch_factors import HOLE_MOST
from cooper.machine.shaft_beam import piece_of
from cooper.machine.shaft_fastening import LEAST_GAP
from cooper.machine.shaft_making import is_carrier
from cooper.machine.shaft_model import Borne
from cooper.machine.shaft_pieces import shut_in
from cooper.machine.shaft_seal import seal_fits
from cooper.results.check_types import MOST, Check, make_check
from cooper.results.find_machine import NoMachine, machine_of
from cooper.results.machine_result import MachineResult, PinResult, ShaftResult
from cooper.results.messages import Note, note
from cooper.results.result_tree import Results
from cooper.stock.fasteners import ring_on
from cooper.stock.seals import seal_for, seal_speed, seals_beside
from cooper.stock.undercuts import undercut_of

APART = 0.2
"""Distance of torsional natural frequencies from speeds that is customary."""
LIFE_MOST = 1e9
"""Life (h) that stands for any longer one."""


def with_machine(train: Train, results: Results) -> Results:
    """The results with the machine, its checks and notes."""
    try:
        result = machine_of(train, results)
    except NoMachine as fault:
        return without_machine(results, fault)
    checks = machine_checks(train, result)
    whole = replace(results, machine=result, checks=(*results.checks, *checks))
    notes = (*machine_notes(train, result), *results.notes)
    data = train.machine or Machine()
    if data.goes_first:
        whole = replace(whole, checks=(*whole.checks, *_goes_first(data, whole)))
        if not any(c.symbol == "X_go" for c in whole.checks):
            notes = (note("goes_first_missing", None, goes_first=data.goes_first), *notes)
    return replace(whole, notes=notes)


def without_machine(results: Results, fault: Exception) -> Results:
    """Results of the gears alone, with the reason why there is no machine, which counts as short."""
    text = note("no_machine", None, fault=message_of(fault))
    why = fault if isinstance(fault, OutOfRange) else OutOfRange("machine", "", message_of(fault))
    return replace(results, notes=(text, *results.notes), no_machine=why)


def coupled(train: Train) -> bool:
    """Whether the inertia of anything coupled to a shaft is known: shafts and gears alone turn to and fro far above
    their speeds."""
    data = train.machine or Machine()
    return any(e.J > 0 for s in data.shafts.values() for e in s.ends.values())


def machine_checks(train: Train, m: MachineResult) -> list[Check]:
    """Every check of shafts, bearings, joints and housing."""
    result: list[Check] = []
    for s in m.shafts:
        result += _shaft(s, m)
    for p in m.pins:
        result += _pin(p, m)
    if m.torsion is not None and coupled(train):
        t = m.torsion
        result.append(
            make_check("torsional_resonance", min(t.apart, MOST), APART, part="torsion", n=t.n_near, shaft=t.shaft)
        )
    data, box = train.machine or Machine(), m.housing
    for key, value, limit in (
        ("housing_length", box.length, data.L_max),
        ("housing_width", box.width, data.W_max),
        ("housing_height", box.height, data.H_max),
    ):
        if limit is not None:
            result.append(make_check(key, value, limit, part="housing"))
    return result


def _shaft(s: ShaftResult, m: MachineResult) -> list[Check]:
    rules, j = m.rules, s.checked
    result: list[Check] = []

    def add(type_: str, part: str, value: float, limit: float, **values: Any) -> None:
        result.append(make_check(type_, value, limit, stage=s.stage, part=part, shaft=s.name, **values))

    for key, S, limit in (("shaft_fatigue", j.S_D, rules.S_Dmin), ("shaft_yield", j.S_Y, rules.S_Ymin)):
        at, value = j.place(S)
        add(key, s.key, min(value, MOST), limit, piece=piece_of(s.made.pieces, at).name)
    for seat in s.made.wish.seats:
        # Where no force is left but torque, what rounding leaves is no deflection.
        w = j.w_gears[seat.gear] if j.w_gears[seat.gear] > 1e-7 else 0.0
        add("gear_deflection", tr("{key} {gear}", key=s.key, gear=seat.gear), w, rules.w_rel * seat.m_n, gear=seat.name)
    for b, f in zip(s.made.bearings, j.bearings, strict=True):
        part = tr("{key} {name}", key=s.key, name=b.name)
        add("bearing_life", part, min(f.L_nmh, LIFE_MOST), rules.L_h, bearing=b.name)
        add("bearing_static", part, f.S_0, rules.S_0min, bearing=b.name)
        slope = float(np.degrees(f.slope))
        add("bearing_slope", part, slope, float(np.degrees(b.bearing.slope)), bearing=b.name)
        if f.n > 0.5 * b.bearing.n_limit:
            add("bearing_speed", part, f.n, b.bearing.n_limit, bearing=b.name)
    for joint, g in zip(s.made.joints, j.joints, strict=True):
        if joint.kind == "integral":
            continue
        on = next((x.name for x in s.made.wish.seats if x.gear == joint.gear), tr("coupling"))
        add(
            "joint",
            tr("{key} {piece}", key=s.key, piece=joint.piece),
            min(g.S, MOST),
            rules.S_joint,
            joint=term(joint.kind),
            on=on,
        )
    worst = s.holding.worst
    if worst is not None and worst.held:
        what, thing, side = hold_words(s.made, worst)
        part = tr("{key} {piece}", key=s.key, piece=worst.thing)
        add("held_along", part, min(worst.S, MOST), rules.S_joint, what=what, thing=thing, side=side)
    for piece, seal in s.made.seals:
        v = float(np.pi * seal.d * s.made.wish.n / 60000)
        if v > 0.5 * seal_speed(rules.seal):
            part = tr("{key} {piece}", key=s.key, piece=piece.name)
            add("seal_speed", part, v, seal_speed(rules.seal), seal=term(piece.name))
    if np.isfinite(j.n_crit) and s.made.wish.n > 0:
        add("whirling", s.key, j.n_crit, rules.whirl * s.made.wish.n)
    return result


def _pin(p: PinResult, m: MachineResult) -> list[Check]:
    """The checks of the pins of a set and of the bearings on them."""
    rules, part = m.rules, tr("pin of {key}", key=p.key)
    result: list[Check] = []

    def add(type_: str, value: float, limit: float, at: str = "") -> None:
        result.append(make_check(type_, value, limit, stage=p.stage, part=part + at, planet=p.name))

    add("pin_fatigue", p.pin.S_D, rules.S_Dmin)
    add("pin_yield", p.pin.S_Y, rules.S_Ymin)
    add("pin_in_walls", min(p.pin.S_wall, MOST), rules.S_joint, " wall")
    f, own = p.pin.checked, p.pin.bearing
    if f is None:
        return result
    if own is not None and f.n > 0.5 * own.bearing.n_limit:
        add("pin_bearing_speed", f.n, own.bearing.n_limit, " bearing")
    add("pin_bearing_life", min(f.L_nmh, LIFE_MOST), rules.L_h, " bearing")
    add("pin_bearing_static", f.S_0, rules.S_0min, " bearing")
    return result


def machine_notes(train: Train, m: MachineResult) -> list[Note]:
    """What a reader must know about the machine."""
    result = [note("parts_clash", None, one=c.one, two=c.two, by=c.by) for c in m.clashes]
    for s in m.shafts:
        result += _faults(s)
    result += [note("bearing_walled_in", None, bearing=b) for b in m.housing_order.stuck]
    result.append(note("machine_methods", None))
    result.append(note("clearances", None, c=m.rules.c, wall=m.housing.wall))
    for p in m.pins:
        values: dict[str, object] = {"name": p.name, "d_pin": p.pin.d, "span": p.pin.span}
        if p.pin.bearing is None:
            result.append(note("pin_slides", p.stage, **values))
            continue
        own = p.pin.bearing.bearing
        values |= {"d": own.d, "D": own.D, "B": own.B, "F": p.pin.F, "M": p.pin.M / 1000}
        result.append(note("pin_with_two_bearings" if p.pin.count == 2 else "pin_with_bearing", p.stage, **values))
    if m.torsion is not None and not coupled(train):
        n = join(", ", (tr("{0:.0f}", v) for v in m.torsion.n[:2]))
        result.append(note("torsion_uncoupled", None, n=n))
    if any(j.kind == "integral" and not is_carrier(j.gear) for s in m.shafts for j in s.made.joints):
        result.append(note("integral_pinion", None))
    if any(p.undercut for s in m.shafts for p in s.made.pieces):
        result.append(note("undercut_sizes", None))
    return result


def _faults(s: ShaftResult) -> list[Note]:
    """What cannot be made or put together on one shaft."""
    result: list[Note] = []
    pieces = s.made.pieces
    for p in pieces:
        if p.length < 1e-6:
            result.append(note("piece_no_length", s.stage, shaft=s.name, piece=p.name))
        if p.hole > HOLE_MOST * p.d:
            values = {"shaft": s.name, "hole": p.hole, "piece": p.name, "rated": HOLE_MOST * p.d}
            result.append(note("hole_through" if p.hole >= p.d else "hole_wide", s.stage, **values))
        if p.undercut:
            u = undercut_of(p.undercut, p.d)
            if u.f > 0.5 * p.length:
                result.append(
                    note("undercut_wide", s.stage, shaft=s.name, undercut=u.name, piece=p.name, f=u.f, length=p.length)
                )
        if s.made.wish.d_i and s.made.wish.d_i > 0.8 * p.d:
            result.append(
                note("bore_leaves_thin", s.stage, shaft=s.name, d_i=s.made.wish.d_i, piece=p.name, d_max=0.8 * p.d)
            )
    for one, two in itertools.pairwise(pieces):
        if two.start < one.end - 1e-6:
            result.append(
                note("pieces_overlap", s.stage, shaft=s.name, one=one.name, two=two.name, by=one.end - two.start)
            )
    for b in s.made.bearings:
        k = next(k for k, p in enumerate(pieces) if p.name == b.name)
        if b.bearing.d != pieces[k].d:
            result.append(
                note("bearing_bore_differs", s.stage, shaft=s.name, bearing=b.name, d=b.bearing.d, d_shaft=pieces[k].d)
            )
        low, high = b.bearing.d_a_min, b.bearing.d_a_max
        for n in (k - 1, k + 1):
            if 0 <= n < len(pieces) and pieces[n].kind in ("gap", "collar") and pieces[n].d > high:
                result.append(
                    note(
                        "shoulder_high",
                        s.stage,
                        shaft=s.name,
                        piece=pieces[n].name,
                        d=pieces[n].d,
                        bearing=b.name,
                        low=low,
                        high=high,
                    )
                )
        result += _bearing_faults(s, b, s.checked.bearings[s.made.bearings.index(b)])
    result += _held_faults(s)
    result += _loose_faults(s)
    hubs = {tr("seat {gear}", gear=x.gear) for x in s.made.wish.seats}
    for out in s.order.blocked:
        if out.piece not in hubs:
            values = {"shaft": s.name, "part": out.words, "by": out.by, "d": out.d, "bore": out.bore}
            result.append(note("cannot_slide_on", s.stage, **values))
    result += _seal_faults(s)
    for seat in s.made.wish.seats:
        p = next(p for p in pieces if p.on == seat.gear)
        joint = next(j for j in s.made.joints if j.gear == seat.gear)
        # Less than a module under the roots is no hub; the rim factor Y_B of the teeth counts what is more.
        if joint.kind != "integral" and not seat.inward and p.d + 2 * (joint.t_2 + seat.m_n) > seat.d_f:
            result.append(
                note(
                    "hub_thin",
                    s.stage,
                    shaft=s.name,
                    gear=seat.name,
                    d=p.d,
                    d_f=seat.d_f,
                    d_max=max(seat.d_f - 2 * (joint.t_2 + seat.m_n), 0),
                )
            )
        elif joint.kind != "integral" and not seat.inward and shut_in(pieces, p.name):
            result.append(note("hub_shut_in", s.stage, shaft=s.name, gear=seat.name, d=p.d))
        if joint.length > p.length + 1e-6 and joint.kind in ("key", "two keys"):
            result.append(note("key_long", s.stage, shaft=s.name, length=joint.length, gear=seat.name, seat=p.length))
    return result


MOST_THRUST = 0.5
"""Axial load of a deep groove ball bearing over its static rating up to which it customarily bears it; of the
lightest series and small ones half of that."""
LEAST_LOAD = {False: 0.01, True: 0.02}
"""Load of bearings with balls and with rollers over their dynamic rating below which the elements customarily begin
to slide."""


def _bearing_faults(s: ShaftResult, b: Borne, f: BearingCheck) -> list[Note]:
    """What a bearing cannot do where it stands, and what its typed ratings belong to."""
    result: list[Note] = []
    where, kind = tr("{0}: {1}", s.name, b.name), b.bearing
    if not kind.thrust and f.F_a > 1e-6 * f.F_r:
        result.append(note("bearing_no_thrust", s.stage, where=where, type=term(kind.type), F_a=f.F_a))
    if kind.type == "deep groove ball":
        most = MOST_THRUST / (2 if kind.series == "18" or kind.d < 12 else 1) * b.C_0
        if f.F_a > most:
            result.append(note("thrust_high", s.stage, where=where, F_a=f.F_a, most=most))
    least = LEAST_LOAD[kind.rollers] * b.C
    if f.n > 0 and least > f.P:
        result.append(
            note(
                "bearing_load_low",
                s.stage,
                where=where,
                P=f.P,
                least=least,
                elements=tr("rollers") if kind.rollers else tr("balls"),
            )
        )
    given = s.made.wish.bearings.get(b.name)
    if given is not None and (given.C is not None or given.C_0 is not None):
        if given.rated is None:
            result.append(note("ratings_unnamed", s.stage, where=where, bearing=kind.name))
        elif given.rated != kind.name:
            result.append(note("ratings_of_another", s.stage, where=where, rated=given.rated, bearing=kind.name))
    return result


def _held_faults(s: ShaftResult) -> list[Note]:
    """Where nothing keeps the shaft along its axis, and where a hollow shaft's wall is cut through."""
    result: list[Note] = []
    own = s.made.bearings[:2]
    tilted = [b for b in own if b.bearing.adjusted]
    if len(tilted) == 1:
        result.append(
            note(
                "single_adjusted_bearing",
                s.stage,
                shaft=s.name,
                bearing=tilted[0].name,
                type=term(tilted[0].bearing.type),
            )
        )
    fixed = next((b for b in own if b.fixed), None)
    if len(tilted) < 2 and fixed is not None and not fixed.bearing.thrust:
        result.append(note("shaft_not_held", s.stage, shaft=s.name, bearing=fixed.name, type=term(fixed.bearing.type)))
    for j in s.made.joints:
        if j.kind in ("key", "two keys") and j.wall < j.t_1:
            result.append(note("keyway_through_wall", s.stage, shaft=s.name, piece=j.piece, wall=j.wall, t_1=j.t_1))
    return result


def _loose_faults(s: ShaftResult) -> list[Note]:
    """Hubs and rings that nothing keeps on one side."""
    result: list[Note] = []
    for hold in s.holding.holds:
        if not hold.held:
            what, thing, side = hold_words(s.made, hold)
            ring = ring_on(s.made.piece(hold.thing).d)
            need = LEAST_GAP + (0.0 if ring is None else ring.m + ring.n)
            result.append(note("not_held", s.stage, shaft=s.name, what=what, thing=thing, side=side, need=need))
    return result


def _seal_faults(s: ShaftResult) -> list[Note]:
    """Ends that leave the housing without a seat for a radial shaft seal, and seats that no seal is made for."""
    result: list[Note] = []
    for end, name in (("end left", "seal left"), ("end right", "seal right")):
        piece = next((p for p in s.made.pieces if p.name == end), None)
        if piece is None:
            continue
        seat = next((p for p in s.made.pieces if p.name == name), None)
        if seat is None:
            key = "no_seal_so_small" if seal_fits(piece.d) is None else "no_room_for_seal"
            result.append(note(key, s.stage, shaft=s.name, end=term(end), d=piece.d))
        elif seal_for(seat.d, seat.d) is None:
            low, high = seals_beside(seat.d)
            result.append(note("seal_not_made", s.stage, shaft=s.name, d=seat.d, low=low, high=high))
    return result


class FailureLoad(Struct, frozen=True):
    """A part that gives way: under which kind of load (``static`` or ``fatigue``), at which load over the nominal
    one, and after which life (h; None where none is known). ``part`` names it from one state to the next."""

    part: str
    label: str
    kind: str
    load: float
    life: float | None


STATIC = {"S_Fst": 1.0, "S_Hst": 2.0, "S_Y": 1.0, "S_0": 1.0, "S_J": 1.0}
FATIGUE = {"S_F": 1.0, "S_H": 2.0, "S_Feq": 1.0, "S_Heq": 2.0, "S_FA": 1.0, "S_HA": 2.0, "S_D": 1.0, "L_nmh": 1 / 3}
"""Power of a check's value with which its load grows until the part gives way."""


def order_of_failure(results: Results) -> list[FailureLoad]:
    """All parts by the load at which each gives way, the first one first. Safeties reach 1, lives the required one;
    static loads count over the greatest load, lasting ones over the nominal one with K_A."""
    result = []
    rules = None if results.machine is None else results.machine.rules
    for c in results.checks:
        kind = "static" if c.symbol in STATIC else "fatigue" if c.symbol in FATIGUE else ""
        if not kind or c.value <= 0:
            continue
        power = STATIC.get(c.symbol) or FATIGUE[c.symbol]
        label = c.label
        if not c.part and c.stage is not None and len(results.stages) > 1:
            label = tr("{0}, {1}", label, results.stages[c.stage].name)
        if c.symbol == "L_nmh":
            result.append(FailureLoad(c.part or c.key, label, kind, (c.value / c.limit) ** power, c.value))
            continue
        load = c.value**power
        if kind == "static" and rules is not None:
            load *= rules.K_AP / rules.K_A
        result.append(FailureLoad(c.part or c.key, label, kind, load, None))
    return sorted(result, key=lambda g: g.load)


def _goes_first(data: Machine, results: Results) -> list[Check]:
    """The check that all other parts outlast the one that shall go first, by static load."""
    order = [g for g in order_of_failure(results) if g.kind == "static"]
    own = next((g for g in order if g.part == data.goes_first), None)
    others = [g for g in order if g.part != data.goes_first]
    if own is None or not others:
        return []
    nearest = min(others, key=lambda g: g.load)
    ratio = nearest.load / own.load
    return [make_check("goes_first", ratio, data.X_gomin, part=own.part, first=own.label, nearest=nearest.label)]

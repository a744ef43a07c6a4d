"""The checks and notes of the machine around the gears, and the order in which its parts give way."""

from __future__ import annotations

import itertools

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.document.machine_data import Machine
from cooper.document.models import Train
from cooper.errors import OutOfRange
from cooper.machine.judge_shaft import BearingJudged, piece_of
from cooper.machine.notch_factors import HOLE_MOST
from cooper.machine.shaft_model import Borne
from cooper.results.checks import MOST, at_least, at_most
from cooper.results.find_machine import NoMachine, machine_of
from cooper.results.machine_found import MachineFound, PinFound, ShaftFound
from cooper.results.result_tree import Check, Note, Results, note
from cooper.stock.undercuts import undercut_of

APART = 0.2
"""Distance of torsional natural frequencies from speeds that is customary."""
LIFE_MOST = 1e9
"""Life (h) that stands for any longer one."""


def with_machine(train: Train, results: Results) -> Results:
    """The results with the machine, its checks and notes."""
    try:
        found = machine_of(train, results)
    except NoMachine as fault:
        return without_machine(results, fault)
    checks = machine_checks(train, found)
    whole = replace(results, machine=found, checks=(*results.checks, *checks))
    notes = (*machine_notes(train, found), *results.notes)
    data = train.machine or Machine()
    if data.goes_first:
        whole = replace(whole, checks=(*whole.checks, *_goes_first(data, whole)))
        if not any(c.symbol == "X_go" for c in whole.checks):
            notes = (
                note(
                    "warning", None, f"The part that shall give way first, {data.goes_first}, is not in this machine."
                ),
                *notes,
            )
    return replace(whole, notes=notes)


def without_machine(results: Results, fault: Exception) -> Results:
    """Results of the gears alone, with the reason why there is no machine, which counts as short."""
    told = note(
        "warning:short", None, f"The machine around the gears is not worked out, none of its checks is made: {fault}"
    )
    why = fault if isinstance(fault, OutOfRange) else OutOfRange("machine", "", str(fault))
    return replace(results, notes=(told, *results.notes), no_machine=why)


def coupled(train: Train) -> bool:
    """Whether the inertia of anything coupled to a shaft is known: shafts and gears alone turn to and fro far above their speeds."""
    data = train.machine or Machine()
    return any(e.J > 0 for s in data.shafts.values() for e in s.ends.values())


def machine_checks(train: Train, m: MachineFound) -> list[Check]:
    """Every check of shafts, bearings, joints and housing."""
    found: list[Check] = []
    for s in m.shafts:
        found += _shaft(s, m)
    for p in m.pins:
        found += _pin(p, m)
    if m.torsion is not None and coupled(train):
        t = m.torsion
        label = f"torsion at {t.n_near:.4g} 1/min, {t.shaft}"
        means = "the train turns to and fro in resonance with that shaft: a stiffer or softer shaft or coupling, other inertias"
        found.append(
            Check(
                "X_tors",
                None,
                None,
                label,
                min(t.apart, MOST),
                APART,
                "at least",
                at_least(min(t.apart, MOST), APART),
                means,
                "torsion",
            )
        )
    data = train.machine or Machine()
    box = (("L_box", "length", m.housing.length, data.L_max), ("W_box", "width", m.housing.width, data.W_max))
    for symbol, word, value, limit in (*box, ("H_box", "height", m.housing.height, data.H_max)):
        if limit is not None:
            found.append(
                Check(
                    symbol,
                    None,
                    None,
                    f"{word} of the housing",
                    value,
                    limit,
                    "at most",
                    at_most(value, limit),
                    "the machine does not go into the room that there is: narrower gears, closer bearings, other angles of the axes",
                    "housing",
                )
            )
    return found


def _shaft(s: ShaftFound, m: MachineFound) -> list[Check]:
    rules, j, found = m.rules, s.judged, []

    def least(symbol: str, part: str, label: str, value: float, limit: float, means: str) -> None:
        found.append(Check(symbol, None, s.stage, label, value, limit, "at least", at_least(value, limit), means, part))

    def most(symbol: str, part: str, label: str, value: float, limit: float, means: str) -> None:
        found.append(Check(symbol, None, s.stage, label, value, limit, "at most", at_most(value, limit), means, part))

    for symbol, S, limit, word, means in (
        (
            "S_D",
            j.S_D,
            rules.S_Dmin,
            "fatigue",
            "cracks begin at {} and the shaft breaks: thicker there, a larger fillet, a stronger steel",
        ),
        (
            "S_Y",
            j.S_Y,
            rules.S_Ymin,
            "yield",
            "the shaft stays bent or twisted at {} after the greatest load: thicker there, or a stronger steel",
        ),
    ):
        at, value = j.place(S)
        where = piece_of(s.made.pieces, at).name
        least(symbol, s.key, f"{word} of the {s.name}", min(value, MOST), limit, means.format(where))
    for seat in s.made.wish.seats:
        # Where no force is left but torque, what rounding leaves is no deflection.
        w = j.w_gears[seat.gear] if j.w_gears[seat.gear] > 1e-7 else 0.0
        sags = (
            "the shaft gives way under the gear and its teeth bear on one edge: thicker, or bearings closer to the gear"
        )
        most("w_g", f"{s.key} {seat.gear}", f"deflection at {seat.name}, {s.name}", w, rules.w_rel * seat.m_n, sags)
    for b, f in zip(s.made.bearings, j.bearings, strict=True):
        part, label = f"{s.key} {b.name}", f"{b.name}, {s.name}"
        worn = "the bearing flakes before the required life: a heavier series, a larger bore, cleaner or thicker oil"
        least("L_nmh", part, f"life of {label}", min(f.L_nmh, LIFE_MOST), rules.L_h, worn)
        dents = "the bearing's raceways are dented under the greatest load: a heavier series or rollers"
        least("S_0", part, f"static, {label}", f.S_0, rules.S_0min, dents)
        slope = float(np.degrees(f.slope))
        tilts = "the shaft stands too askew in the bearing, whose edges are overloaded: a thicker shaft or a bearing that swivels"
        most("theta_sh", part, f"slope in {label}", slope, float(np.degrees(b.bearing.slope)), tilts)
        if f.n > 0.5 * b.bearing.n_limit:
            runs = "the bearing runs hot above its customary limit of speed: a lighter series, a smaller bore, another type"
            most("n_lim", part, f"speed of {label}", f.n, b.bearing.n_limit, runs)
    for joint, g in zip(s.made.joints, j.joints, strict=True):
        if joint.kind == "integral":
            continue
        on = next((x.name for x in s.made.wish.seats if x.gear == joint.gear), "coupling")
        fails = f"the {joint.kind} is crushed or slips: longer, a thicker shaft, or another joint"
        least("S_J", f"{s.key} {joint.piece}", f"{joint.kind} of {on}, {s.name}", min(g.S, MOST), rules.S_joint, fails)
    if np.isfinite(j.n_crit) and s.made.wish.n > 0:
        whirls = "the shaft runs near the speed at which it whirls: thicker, or bearings closer together"
        least("n_crit", s.key, f"whirling of the {s.name}", j.n_crit, rules.whirl * s.made.wish.n, whirls)
    return found


def _pin(p: PinFound, m: MachineFound) -> list[Check]:
    """The checks of the pins of a set and of the bearings on them."""
    rules, part, found = m.rules, f"pin of {p.key}", []
    for symbol, S, limit, word, means in (
        (
            "S_D",
            p.pin.S_D,
            rules.S_Dmin,
            "fatigue",
            "the pin breaks under the planet: a thicker one, closer walls, a stronger steel",
        ),
        (
            "S_Y",
            p.pin.S_Y,
            rules.S_Ymin,
            "yield",
            "the pin stays bent after the greatest load: thicker, closer walls, a stronger steel",
        ),
    ):
        label = f"{word} of the pin of {p.name}"
        found.append(Check(symbol, None, p.stage, label, S, limit, "at least", at_least(S, limit), means, part))
    crushed = "the walls of the carrier are crushed around the pin: a thicker pin, thicker walls, a stronger steel"
    label = f"pin of {p.name} in its walls"
    S_wall = min(p.pin.S_wall, MOST)
    margin = at_least(S_wall, rules.S_joint)
    found.append(Check("S_J", None, p.stage, label, S_wall, rules.S_joint, "at least", margin, crushed, f"{part} wall"))
    f, own = p.pin.judged, p.pin.bearing
    if f is not None and own is not None and f.n > 0.5 * own.bearing.n_limit:
        runs = "the planet's bearing runs hot above its customary limit of speed: a slower carrier, a smaller pin"
        limit = own.bearing.n_limit
        label = f"speed of the bearing of {p.name}"
        margin = at_most(f.n, limit)
        found.append(Check("n_lim", None, p.stage, label, f.n, limit, "at most", margin, runs, f"{part} bearing"))
    if f is not None:
        worn = "the planet's bearing flakes before the required life: a larger planet or more of them, cleaner or thicker oil"
        dents = "the planet's bearing is dented under the greatest load: a larger planet, or more of them"
        for symbol, value, limit, word, means in (
            ("L_nmh", min(f.L_nmh, LIFE_MOST), rules.L_h, "life", worn),
            ("S_0", f.S_0, rules.S_0min, "static", dents),
        ):
            label = f"{word} of the bearing of {p.name}"
            found.append(
                Check(
                    symbol,
                    None,
                    p.stage,
                    label,
                    value,
                    limit,
                    "at least",
                    at_least(value, limit),
                    means,
                    f"{part} bearing",
                )
            )
    return found


def machine_notes(train: Train, m: MachineFound) -> list[Note]:
    """What a reader must know about the machine."""
    found = [
        note("warning:short", None, f"{c.one} and {c.two} run into each other by {c.by:.2f} mm.") for c in m.clashes
    ]
    for s in m.shafts:
        found += [note(level, s.stage, text) for level, text in _faults(s)]
    found.append(
        note(
            "assumed",
            None,
            "Shafts by DIN 743:2012 under K_A and the greatest load, bending as it turns with them, both senses of rotation; bearings rigid and "
            "hinged, the thrust on one; those with a contact angle hold the shaft at their pressure points. Bearings by ISO 281:2007 and ISO 76:2006 from boundary dimensions and typical inner ones where no "
            "maker's ratings are typed.",
        )
    )
    found.append(
        note(
            "assumed",
            None,
            f"Around the gears {m.rules.c:g} mm of clearance; walls of the housing {m.housing.wall:g} mm, its mass that of bare walls of cast iron.",
        )
    )
    for p in m.pins:
        what = (
            f"{'two needle bearings' if p.pin.count == 2 else 'a needle bearing'} {p.pin.bearing.bearing.d:g} x {p.pin.bearing.bearing.D:g} x {p.pin.bearing.bearing.B:g} inside it, "
            f"under {p.pin.F:.4g} N and an overturning moment of {p.pin.M / 1000:.4g} N m, with K_gamma"
            if p.pin.bearing is not None
            else "no needle bearing goes into it: it slides on its pin, which is not rated"
        )
        found.append(
            note(
                "assumed" if p.pin.bearing is not None else "warning",
                p.stage,
                f"The pin of {p.name} of {p.pin.d:.4g} mm stands free between walls {p.pin.span:.4g} mm apart, which are taken as of its steel; {what}.",
            )
        )
    if m.torsion is not None and not coupled(train):
        n = ", ".join(f"{v:.0f}" for v in m.torsion.n[:2])
        found.append(
            note(
                "assumed",
                None,
                f"In torsion gears and shafts alone turn to and fro at {n} 1/min; with the inertia of what is coupled, entered at the ends of shafts, "
                "the distance of all natural frequencies from the speeds becomes a check.",
            )
        )
    if any(j.kind == "integral" for s in m.shafts for j in s.made.joints):
        found.append(
            note(
                "assumed",
                None,
                "A pinion cut into its shaft counts as a piece of its root diameter with the notch of a splined shaft; the steel is that of the shaft.",
            )
        )
    if any(p.undercut for s in m.shafts for p in s.made.pieces):
        found.append(
            note(
                "assumed",
                None,
                "Undercuts have the sizes of DIN 509 and the form factor of DIN 743-2 as known, not compared with print.",
            )
        )
    return found


def _faults(s: ShaftFound) -> list[tuple[str, str]]:
    """What cannot be made or put together on one shaft."""
    found: list[tuple[str, str]] = []
    pieces = s.made.pieces
    for p in pieces:
        if p.length < 1e-6:
            found.append(
                ("warning:short", f"{s.name}: {p.name} has no length left: its neighbours run into each other.")
            )
        if p.hole > HOLE_MOST * p.d:
            level = "warning:short" if p.hole >= p.d else "range"
            found.append(
                (
                    level,
                    f"{s.name}: the hole of {p.hole:g} mm across {p.name} is rated as {HOLE_MOST * p.d:.4g} mm; up to there, 0.4 of its diameter, factors are known.",
                )
            )
        if p.undercut:
            u = undercut_of(p.undercut, p.d)
            if u.f > 0.5 * p.length:
                found.append(
                    (
                        "warning:short",
                        f"{s.name}: the undercut {u.name} of {p.name} is {u.f:g} mm wide on {p.length:.4g} mm; by a rule of thumb it takes half of that at most.",
                    )
                )
        if s.made.wish.d_i and s.made.wish.d_i > 0.8 * p.d:
            found.append(
                (
                    "warning:short",
                    f"{s.name}: the bore of {s.made.wish.d_i:g} mm leaves {p.name} too thin; up to {0.8 * p.d:.4g} mm works.",
                )
            )
    for one, two in itertools.pairwise(pieces):
        if two.start < one.end - 1e-6:
            found.append(
                ("warning:short", f"{s.name}: {one.name} and {two.name} overlap by {one.end - two.start:.2f} mm.")
            )
    for b in s.made.bearings:
        k = next(k for k, p in enumerate(pieces) if p.name == b.name)
        if b.bearing.d != pieces[k].d:
            found.append(
                (
                    "warning:short",
                    f"{s.name}: {b.name} has a bore of {b.bearing.d:g} mm on a shaft of {pieces[k].d:g} mm.",
                )
            )
        low, high = b.bearing.d + 2 * b.bearing.r_s, b.bearing.D - 4 * 1.4 * b.bearing.r_s
        for n in (k - 1, k + 1):
            if 0 <= n < len(pieces) and pieces[n].kind in ("gap", "collar") and pieces[n].d > high:
                found.append(
                    (
                        "warning:thin",
                        f"{s.name}: {pieces[n].name} of {pieces[n].d:g} mm is higher than the inner ring of {b.name}; {low:.4g} to {high:.4g} mm works.",
                    )
                )
        found += _bearing_faults(s, b, s.judged.bearings[s.made.bearings.index(b)])
    found += _held_faults(s)
    for seat in s.made.wish.seats:
        p = next(p for p in pieces if p.on == seat.gear)
        joint = next(j for j in s.made.joints if j.gear == seat.gear)
        # Less than a module under the roots is no hub; the rim factor Y_B of the teeth counts what is more.
        if joint.kind != "integral" and not seat.inward and p.d + 2 * (joint.t_2 + seat.m_n) > seat.d_f:
            found.append(
                (
                    "warning:short",
                    f"{s.name}: the seat of {seat.name} of {p.d:g} mm leaves less than a module under its roots at {seat.d_f:.4g} mm; up to {max(seat.d_f - 2 * (joint.t_2 + seat.m_n), 0):.4g} mm works.",
                )
            )
        elif joint.kind != "integral" and not seat.inward and _shut_in(pieces, p.name):
            found.append(
                (
                    "warning:thin",
                    f"{s.name}: {seat.name} on its seat of {p.d:g} mm has thicker pieces on both sides and slides on from neither.",
                )
            )
        if joint.length > p.length + 1e-6 and joint.kind in ("key", "two keys"):
            found.append(
                (
                    "warning:short",
                    f"{s.name}: a key of {joint.length:g} mm is longer than the seat of {seat.name}, {p.length:g} mm.",
                )
            )
    return found


MOST_THRUST = 0.5
"""Axial load of a deep groove ball bearing over its static rating up to which it customarily bears it; of the lightest series and small ones half of that."""
LEAST_LOAD = {False: 0.01, True: 0.02}
"""Load of bearings with balls and with rollers over their dynamic rating below which the elements customarily begin to slide."""


def _bearing_faults(s: ShaftFound, b: Borne, f: BearingJudged) -> list[tuple[str, str]]:
    """What a bearing cannot do where it stands, and what its typed ratings belong to."""
    found: list[tuple[str, str]] = []
    where, kind = f"{s.name}: {b.name}", b.bearing
    if not kind.thrust and f.F_a > 1e-6 * f.F_r:
        found.append(
            (
                "warning:short",
                f"{where}, a {kind.type} bearing, bears no thrust, and {f.F_a:.4g} N act on it: a ball, tapered or spherical one holds the shaft there.",
            )
        )
    if kind.type == "deep groove ball":
        most = MOST_THRUST / (2 if kind.series == "18" or kind.d < 12 else 1) * b.C_0
        if f.F_a > most:
            found.append(
                (
                    "warning:short",
                    f"{where} bears {f.F_a:.4g} N along its axis; a groove customarily bears up to {most:.4g} N, a part of C_0: an angular contact or tapered pair takes more.",
                )
            )
    least = LEAST_LOAD[kind.rollers] * b.C
    if f.n > 0 and least > f.P:
        found.append(
            (
                "range",
                f"{where} has an equivalent load of {f.P:.3g} N; below some {least:.3g} N its {'rollers' if kind.rollers else 'balls'} may slide instead of roll.",
            )
        )
    given = s.made.wish.bearings.get(b.name)
    if given is not None and (given.C is not None or given.C_0 is not None):
        if given.rated is None:
            found.append(
                (
                    "warning:thin",
                    f"{where}: the ratings typed for it do not say of which bearing they are; here stands the {kind.name}. Type them again for this one.",
                )
            )
        elif given.rated != kind.name:
            found.append(
                (
                    "warning:thin",
                    f"{where}: the ratings typed are those of the {given.rated}; here stands the {kind.name}, which has its own.",
                )
            )
    return found


def _held_faults(s: ShaftFound) -> list[tuple[str, str]]:
    """Where nothing keeps the shaft along its axis, and where a hollow shaft's wall is cut through."""
    found: list[tuple[str, str]] = []
    own = s.made.bearings[:2]
    tilted = [b for b in own if b.bearing.adjusted]
    if len(tilted) == 1:
        found.append(
            (
                "warning:short",
                f"{s.name}: {tilted[0].name}, a single-row {tilted[0].bearing.type} bearing, bears thrust one way only and presses itself apart: it needs another one to be "
                "adjusted against.",
            )
        )
    fixed = next((b for b in own if b.fixed), None)
    if len(tilted) < 2 and fixed is not None and not fixed.bearing.thrust:
        found.append(
            (
                "warning:short",
                f"{s.name}: {fixed.name}, a {fixed.bearing.type} bearing without ribs, is to hold it along its axis and cannot: a ball or spherical roller bearing does.",
            )
        )
    for j in s.made.joints:
        if j.kind in ("key", "two keys") and j.wall < j.t_1:
            found.append(
                (
                    "warning:short",
                    f"{s.name}: under the keyway of {j.piece} {j.wall:.2f} mm are left of the wall of the hollow shaft; by a rule of thumb as much as the keyway is deep, {j.t_1:g} mm, "
                    "has to be. A smaller bore, a thicker shaft or another joint.",
                )
            )
    return found


def _shut_in(pieces: tuple, name: str) -> bool:
    k = next(k for k, p in enumerate(pieces) if p.name == name)
    d = pieces[k].d
    return any(p.d > d for p in pieces[:k]) and any(p.d > d for p in pieces[k + 1 :])


class GivesWay(Struct, frozen=True):
    """A part that gives way: under which kind of load (``static`` or ``fatigue``), at which load over the nominal one, and after which life (h; None
    where none is known). ``part`` names it from one state to the next."""

    part: str
    label: str
    kind: str
    load: float
    life: float | None


STATIC = {"S_Fst": 1.0, "S_Hst": 2.0, "S_Y": 1.0, "S_0": 1.0, "S_J": 1.0}
FATIGUE = {"S_F": 1.0, "S_H": 2.0, "S_Feq": 1.0, "S_Heq": 2.0, "S_FA": 1.0, "S_HA": 2.0, "S_D": 1.0, "L_nmh": 1 / 3}
"""Power of a check's value with which its load grows until the part gives way."""


def order_of_failure(results: Results) -> list[GivesWay]:
    """All parts by the load at which each gives way, the first one first. Safeties reach 1, lives the required one; static loads count over the
    greatest load, lasting ones over the nominal one with K_A."""
    found = []
    rules = None if results.machine is None else results.machine.rules
    for c in results.checks:
        kind = "static" if c.symbol in STATIC else "fatigue" if c.symbol in FATIGUE else ""
        if not kind or c.value <= 0:
            continue
        power = STATIC.get(c.symbol) or FATIGUE[c.symbol]
        label = c.label
        if not c.part and c.stage is not None and len(results.stages) > 1:
            label = f"{label}, {results.stages[c.stage].name}"
        if c.symbol == "L_nmh":
            found.append(GivesWay(c.part or c.key, label, kind, (c.value / c.limit) ** power, c.value))
            continue
        load = c.value**power
        if kind == "static" and rules is not None:
            load *= rules.K_AP / rules.K_A
        found.append(GivesWay(c.part or c.key, label, kind, load, None))
    return sorted(found, key=lambda g: g.load)


def _goes_first(data: Machine, results: Results) -> list[Check]:
    """The check that all other parts outlast the one that shall go first, by static load."""
    order = [g for g in order_of_failure(results) if g.kind == "static"]
    own = next((g for g in order if g.part == data.goes_first), None)
    others = [g for g in order if g.part != data.goes_first]
    if own is None or not others:
        return []
    nearest = min(others, key=lambda g: g.load)
    ratio = nearest.load / own.load
    means = (
        f"{nearest.label} gives way before or with the part that is meant to: weaken that one, or strengthen this one"
    )
    label = f"{own.label} goes first, before {nearest.label}"
    margin = at_least(ratio, data.X_gomin)
    return [Check("X_go", None, None, label, ratio, data.X_gomin, "at least", margin, means, own.part)]

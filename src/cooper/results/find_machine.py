"""The machine around the gears of a train: proposed, laid out, judged."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec.structs import replace

from cooper.document.machine_data import Machine, ShaftData
from cooper.document.models import Train
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.kept import Kept
from cooper.machine.assembly import housing_order, shaft_order
from cooper.machine.holding import held_mass, holding_of
from cooper.machine.lay_out import Placement, Places, clashes_of, held_at, housing_of, lay_out
from cooper.machine.propose_shaft import Proposed, bearings_live, propose_shaft
from cooper.machine.rolling_life import system_life
from cooper.machine.shaft_fastening import LEAST_GAP
from cooper.machine.shaft_making import is_carrier
from cooper.machine.shaft_model import (
    BearingGiven,
    Contact,
    JointGiven,
    MadeShaft,
    PieceGiven,
    Rules,
    ShaftRequirements,
)
from cooper.results.machine_pins import find_pins
from cooper.results.machine_plan import Plan, PlannedShaft, plan_of
from cooper.results.machine_result import MachineResult, ShaftResult
from cooper.results.machine_torsion import torsion_of
from cooper.results.result_tree import Results
from cooper.stock.fasteners import ring_on
from cooper.stock.shaft_steel import shaft_steel


def rules_of(train: Train, data: Machine, results: Results, m_n: float) -> Rules:
    """What holds for all shafts, from the duty and what the machine asks for."""
    duty = train.duty
    if duty.spectrum:
        T_rel, n_rel, q = (tuple(float(getattr(v, s)) for v in duty.spectrum) for s in ("T_rel", "n_rel", "q_t"))
    else:
        T_rel, n_rel, q = (duty.K_A,), (1.0,), (1.0,)
    K_A = max(T_rel)
    return Rules(
        K_A=K_A,
        K_AP=max(duty.K_AP or K_A, K_A),
        L_h=duty.L_h,
        T_rel=T_rel,
        n_rel=n_rel,
        q=q,
        swing=data.swing,
        S_Dmin=data.S_Dmin,
        S_Ymin=data.S_Ymin,
        S_0min=data.S_0min,
        S_joint=data.S_Jmin,
        w_rel=data.w_rel,
        Rz=data.Rz,
        nu=float(results.stages[0].mesh.get("nu_oil", 100.0)),
        cleanliness=data.cleanliness,
        reliability=float(data.reliability),
        R_e_key=data.R_e_key,
        c=clearance(data, m_n),
        weight=data.weight,
        seal=train.losses.seal,
        theta=float(results.train.get("theta_oil", duty.theta_oil)),
    )


def clearance(data: Machine, m_n: float) -> float:
    """Clearance between neighbours: as given, or three modules rounded up to half a millimetre."""
    return data.c if data.c is not None else float(np.ceil(2 * max(3 * m_n, 1.0)) / 2)


def find_machine(train: Train, results: Results) -> MachineResult:
    """The machine of a train whose meshes are rated; what is not fixed in ``train.machine`` is proposed."""
    data = train.machine or Machine()
    plan = plan_of(train, results, data.angles, data.shafts)
    rules = rules_of(train, data, results, plan.m_n)
    d_T = [_first_diameter(s, data, rules) for s in plan.shafts]
    standing = tuple(
        Placement(key=s.key, axis=s.axis, r=0.7 * d, bars_left=s.bars_left, bars_right=s.bars_right)
        for s, d in zip(plan.shafts, d_T, strict=True)
    )
    bodies = tuple(plan.bodies)
    spans = {n: 2 * (max(s.b for _, s in shaft.seats) + rules.c) for n, shaft in enumerate(plan.shafts)}
    B = {(n, k): 0.4 * d + 6 for n, d in enumerate(d_T) for k in (0, 1)}
    held = held_at(bodies, standing, len(plan.widths), rules.c)
    most = _most(plan, d_T, rules.c, held)
    plain = all(h == (0, len(plan.widths)) for h in held)
    made: list[MadeShaft] = []
    for _again in range(ROOM_ROUNDS):
        for _ in range(1 if plain else 3):
            places = lay_out(tuple(plan.widths), bodies, standing, rules.c, B, spans)
            rooms = [_hub_rooms(plan, places, n, d_T[n], rules.c) for n in range(len(plan.shafts))]
            result = [
                propose_shaft(_wish(shaft, places, n, data, rooms[n]), rules, most[n])
                for n, shaft in enumerate(plan.shafts)
            ]
            made = [m for m, _ in result]
            now = {(n, k): b.bearing.B for n, m in enumerate(made) for k, b in enumerate(m.bearings)}
            if now == B:
                break
            B = now
        wider = _left_over(plan, result, rules, held, most)
        if wider == most:
            break
        most = wider
    clashes = clashes_of(bodies, standing, tuple(made), places.planes, frozenset(plan.together))
    shafts = tuple(
        ShaftResult(s.key, s.name, s.stage, s.axis, m, j, holding_of(m, j, rules, places.inner), shaft_order(m))
        for s, (m, j) in zip(plan.shafts, result, strict=True)
    )
    faces = tuple(c.z_2 for s in shafts for c in s.holding.covers)
    housing = housing_of(bodies, standing, tuple(made), places.inner, rules.c, data.wall, faces)
    pins = find_pins(train, results, rules)
    parts = [
        (j.L_nmh, b.bearing.rollers) for s in shafts for b, j in zip(s.made.bearings, s.checked.bearings, strict=True)
    ]
    parts += [(p.pin.checked.L_nmh, True) for p in pins for _ in range(p.planets) if p.pin.checked is not None]
    lives, rollers = (np.array(v) for v in zip(*parts, strict=True))
    mass = sum(s.checked.mass for s in shafts) + sum(b.bearing.mass for s in made for b in s.bearings)
    mass += sum(held_mass(s.made, s.holding) for s in shafts)
    mass += sum(float(g.get("mass", 0.0)) for s in results.stages for g in s.gears) + housing.mass
    return MachineResult(
        shafts,
        bodies,
        standing,
        places,
        tuple(clashes),
        housing,
        rules,
        system_life(lives, rollers),
        float(mass),
        housing_order([s.axis for s in shafts], [(s.name, s.made, s.holding) for s in shafts]),
        pins,
        torsion_of(train, results, shafts, data.shafts),
    )


def each_machine(train: Train, results: Results) -> Iterator[MachineResult]:
    """The same, as it is asked for beside the window."""
    yield find_machine(train, results)


MACHINES: Kept[MachineResult] = Kept(6)
"""Machines that were found of the last trains."""


def keep_machine(train: Train, result: MachineResult) -> None:
    """Remember the machine of a train, as it comes from a process beside the window."""
    MACHINES.put(train.key, result)


def cached_machine(train: Train, results: Results) -> MachineResult | None:
    """The machine where it is counted or was found before."""
    return results.machine or MACHINES.find(train.key)


class NoMachine(OutOfRange):
    """The machine around sound gears that cannot be worked out, with the reason."""


def machine_of(train: Train, results: Results) -> MachineResult:
    """The machine of a train, counted or not; found once. Raises `NoMachine` where it cannot be worked out."""
    result = cached_machine(train, results)
    if result is None:
        try:
            result = find_machine(train, results)
        except OutOfRange as fault:
            raise NoMachine(
                fault.quantity, fault.value, fault.reason, low=fault.low, high=fault.high, unit=fault.unit
            ) from fault
        except (ArithmeticError, ValueError, np.linalg.LinAlgError) as fault:
            # Sizes that no shaft has, such as a bore of a millionth of the torque's, leave no stiffness to solve with.
            raise NoMachine(
                "machine", "", tr("its sizes leave no shaft that can be solved; fix fewer of them")
            ) from fault
        keep_machine(train, result)
    return result


def _first_diameter(s: PlannedShaft, data: Machine, rules: Rules) -> float:
    """A first guess of a shaft's diameter, from its torque alone; mm."""
    T = max(s.T, s.T_most)
    sigma_S = shaft_steel(_data(s, data).steel or data.steel).sigma_S
    return float(np.cbrt(16000 * max(T * rules.K_A, 1e-6) / (np.pi * 0.25 * sigma_S)))


def _data(s: PlannedShaft, data: Machine) -> ShaftData:
    return data.shafts.get(s.key, ShaftData())


def _most(plan: Plan, d_T: list[float], c: float, held: list[tuple[int, int]]) -> list[float]:
    """Greatest outside diameter of the bearings of each shaft: neighbours in one wall share the distance of their
    axes as their torques ask."""
    result = []
    for n, s in enumerate(plan.shafts):
        room = np.inf
        for k, other in enumerate(plan.shafts):
            apart = float(np.hypot(s.axis[0] - other.axis[0], s.axis[1] - other.axis[1]))
            if k != n and apart > 1 and set(held[k]) & set(held[n]):
                room = min(room, 2 * apart * d_T[n] / (d_T[n] + d_T[k]) - c / 2)
        result.append(max(room, 1.0))
    return result


def _left_over(
    plan: Plan, result: list[Proposed], rules: Rules, held: list[tuple[int, int]], most: list[float]
) -> list[float]:
    """The greatest outside diameters once more: a shaft whose bearings fall short takes what its neighbours in the
    same wall leave of the distance of their axes."""
    wider = list(most)
    for n, (_made, checked) in enumerate(result):
        if bearings_live(checked, rules) >= 1:
            continue
        room = np.inf
        for k, (other, _checked) in enumerate(result):
            one, two = plan.shafts[n].axis, plan.shafts[k].axis
            apart = float(np.hypot(one[0] - two[0], one[1] - two[1]))
            beside = [b.bearing.D for b, wall in zip(other.bearings, held[k], strict=False) if wall in held[n]]
            if k != n and apart > 1 and beside:
                room = min(room, 2 * apart - max(beside) - rules.c)
        if room > most[n] + 1:
            wider[n] = room
    return wider


ROOM_ROUNDS = 3
"""How often the room between neighbours is shared anew."""


def _hub_rooms(plan: Plan, places: Places, n: int, d_T: float, c: float) -> dict[str, tuple[float, float]]:
    """How far the hubs of a shaft may reach beyond their teeth to the left and right, by the gear (mm): as far as its
    bearings, half of the way to the next hub, and the gears of other shafts that come near."""
    shaft, walls = plan.shafts[n], places.walls[n]
    zones = {b.key: (places.planes[b.plane][0] + b.lead, places.planes[b.plane][0] + b.lead + b.b) for b in plan.bodies}
    result = {}
    for _plane, seat in shaft.seats:
        if seat.inward or is_carrier(seat.gear) or seat.gear not in zones:
            continue
        low, high = zones[seat.gear]
        r_hub = HUB_GUESS * d_T
        ring = ring_on(2 * d_T)
        beside = max(0.5 * c, 0.0 if ring is None else ring.m + ring.n + 2 * LEAST_GAP)
        left: list[float] = []
        right: list[float] = []
        for wall in walls:
            (left if wall.face < low else right).append(abs(wall.face - (low if wall.face < low else high)) - beside)
        for b in plan.bodies:
            start, end = zones[b.key]
            axis = plan.shafts[b.shaft].axis
            apart = float(np.hypot(axis[0] - shaft.axis[0], axis[1] - shaft.axis[1]))
            own = b.shaft == n
            if b.key == seat.gear or (not own and (b.r_in or apart > b.r + r_hub + 0.5 * c)):
                continue
            share, gap = (0.5, HUB_APART) if own else (1.0, c)
            if start >= high - 1e-6:
                right.append(share * (start - high) - gap)
            elif end <= low + 1e-6:
                left.append(share * (low - end) - gap)
            elif not own and frozenset((b.key, seat.gear)) not in plan.together:
                left.append(0.0)
                right.append(0.0)
        ends = [max(min(side, default=0.0), 0.0) for side in (left, right)]
        result[seat.gear] = (float(np.floor(2 * ends[0]) / 2), float(np.floor(2 * ends[1]) / 2))
    return result


HUB_GUESS = 1.5
"""Radius of a hub over the first guess of its shaft's diameter, by which its room is found."""
HUB_APART = 4.0
"""Half of a collar between two hubs; mm."""


def _wish(
    shaft: PlannedShaft, places: Places, n: int, data: Machine, rooms: dict[str, tuple[float, float]]
) -> ShaftRequirements:
    """What a planned shaft has to carry, with everything at its place."""
    given = _data(shaft, data)
    seats = tuple(
        replace(s, at=places.planes[p][0] + s.at, room=rooms.get(s.gear, (0.0, 0.0)))
        for p, s in sorted(shaft.seats, key=lambda x: (x[0], x[1].at))
    )
    walls = places.walls[n]
    first, last = walls[0].face - 2 * seats[0].b, walls[1].face + 2 * seats[0].b
    contacts = [f.contact(places.planes) for f in shaft.forces if f.plane >= 0]
    # A force from outside stands on the end of that name, which finds its place once the shaft is made.
    contacts += [
        Contact(gear=f.gear, at=first if f.plane == -1 else last, b=0.0, point=f.point, force=f.force)
        for f in shaft.forces
        if f.plane < 0
    ]
    return ShaftRequirements(
        key=shaft.key,
        name=shaft.name,
        seats=seats,
        contacts=tuple(contacts),
        walls=walls,
        left_end=shaft.left_end,
        right_end=shaft.right_end,
        n=abs(shaft.n),
        T=shaft.T,
        T_most=shaft.T_most,
        steel=shaft_steel(given.steel or data.steel),
        pieces={
            k: PieceGiven(d=v.d, length=v.length, r=v.r, hole=v.hole, undercut=v.undercut or "", cuts=v.cuts)
            for k, v in given.pieces.items()
        },
        bearings={
            k: BearingGiven(type=v.type, series=v.series, C=v.C, C_0=v.C_0, at=v.at, rated=v.rated)
            for k, v in given.bearings.items()
        },
        joints={
            k: JointGiven(kind=v.kind, length=v.length, d_pin=v.d_pin, d_screw=v.d_screw, M_A=v.M_A)
            for k, v in given.joints.items()
        },
        retention=given.retention,
        d_i=given.d_i,
        fixed=given.fixed or "",
        back_to_back=given.paired == "back to back",
    )

"""The pins of every planet set: their forces from the meshes, and what they come to."""

from __future__ import annotations

from math import pi, radians, tan

from msgspec.structs import replace

from cooper.document.machine_data import Machine
from cooper.document.models import Train
from cooper.machine.planet_pin import PinLoad, propose_pin
from cooper.machine.shaft_model import Rules
from cooper.results.machine_result import PinResult
from cooper.results.result_tree import Results, SetResults
from cooper.stock.shaft_steel import shaft_steel


def find_pins(train: Train, results: Results, rules: Rules) -> tuple[PinResult, ...]:
    """The pins of all sets with planets."""
    return tuple(_pin(train, results, s, rules) for s in results.sets if s.arranged.around)


def _pin(train: Train, results: Results, one: SetResults, rules: Rules) -> PinResult:
    data = train.machine or Machine()
    of = one.arranged
    planet = train.stages[one.first].gears[of.planet]
    first = results.stages[one.first]
    members = [results.stages[k] for k in one.stages]
    gears = [s.gears[of.at(n)] for n, s in enumerate(members)]
    widths = [float(g.b) for g in gears[:2]]
    beside = [n for n in range(2) if of.stands_in(n) == n]
    offset = (widths[0] + widths[1]) / 4 if len(beside) > 1 else 0.0
    loads = []
    for n, s in enumerate(members):
        if s.power.T_mesh == 0:
            continue
        # Of a torque that the planets share unevenly the one that has most.
        F_t = 2000 * float(s.power.T_mesh) * float(s.mesh.get("K_gamma", 1.0)) / float(s.gears[0].d_w)
        F_r = F_t * tan(radians(float(s.mesh.alpha_wt)))
        # A ring pushes its planet inwards, a sun outwards.
        along = -F_r if s.kind.inward else F_r
        at = offset if of.stands_in(n) == 1 else -offset
        # The thrust on the working circle tilts the planet: that of a sun inwards of the pin, of a ring outwards of it.
        F_a = 0.0 if train.stages[one.first + n].mesh.double_helix else F_t * tan(radians(float(s.mesh.beta)))
        arm = abs(float(gears[n].d_w)) / 2
        loads.append(PinLoad(at=at, b=float(gears[n].b), across=of.across[n] * F_t, along=along, tilt=F_a * arm))
    if of.circulates:
        # What is left of two great forces is what the carrier bears, friction included.
        T = abs(one.shafts.get(of.carrier, {"T": 0.0})["T"])
        wanted = 1000 * T / (one.planets * float(first.mesh.a_w)) * float(first.mesh.get("K_gamma", 1.0))
        now = sum(g.across for g in loads)
        spread = (wanted - now) / len(loads)
        loads = [replace(g, across=g.across + spread) for g in loads]
    whole = sum(widths[n] for n in beside)
    omega_in = abs(one.shafts[one.input]["n"]) * pi / 30
    turns, carrier = one.speeds[of.between] - one.speeds[of.carrier], abs(one.speeds[of.carrier]) * omega_in
    mass = sum(float(gears[n].get("mass", 0.0)) for n in beside)
    pull = mass * float(first.mesh.a_w) * 1e-3 * carrier**2
    roots = [float(g.d_fE) for g in gears[:2]]
    pin = propose_pin(
        d_f=min(roots),
        m_n=float(first.mesh.m_n),
        b=whole,
        wall=0.25 * whole,
        loads=tuple(loads),
        centrifugal=pull,
        n=abs(turns) * omega_in * 30 / pi,
        steel=shaft_steel(data.steel),
        rules=rules,
        bore=float(planet.d_bore),
    )
    return PinResult(planet.id, planet.name, one.first, one.planets, pin)

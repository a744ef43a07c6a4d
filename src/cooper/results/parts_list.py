"""The parts list of a machine: what is made, and what is bought with its designation by a standard."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi

from msgspec import Struct
from msgspec.structs import replace

from cooper.document.models import Design, Gear
from cooper.i18n.text import term, tr
from cooper.machine.covers import screw_designation
from cooper.machine.holding import sleeve_mass
from cooper.machine.hub_ends import hub_mass
from cooper.machine.shaft_model import SCREWS, Joint
from cooper.results.machine_result import MachineResult, ShaftResult
from cooper.results.result_tree import Results
from cooper.stock.fasteners import rings
from cooper.stock.materials import groups

STEEL = 7.85e-6
"""Density of steel; kg/mm3."""


class Item(Struct, frozen=True):
    """One row: how many, what it is, what it is ordered or made by, of what, mass of one (kg), whether it is bought,
    and the shafts on which it stands."""

    count: int
    name: str
    designation: str
    material: str
    mass: float
    bought: bool
    on: str


def parts_list(design: Design, results: Results, m: MachineResult) -> list[Item]:
    """Every part of the machine: shafts, gears, bearings, seals, keys, pins, screws and the housing.

    Parameters
    ----------
    design : Design
        The design.
    results : Results
        Its results.
    m : MachineResult
        Its machine.

    Returns
    -------
    list[Item]
        What is made first, then what is bought; equal bought parts in one row. A gear that is cut into its shaft has
        no row of its own, its mass is the shaft's.
    """
    made = [*_shafts(design, m), *_gears(design, results, m), *_turned_parts(m)]
    made.append(Item(1, tr("housing"), tr("to its drawing"), tr("cast iron"), float(m.housing.mass), False, ""))
    bought: dict[tuple[str, str], Item] = {}
    for item in _bought(m):
        key = (item.name, item.designation)
        there = bought.get(key)
        if there is None:
            bought[key] = item
        else:
            on = there.on if item.on in there.on.split(", ") else f"{there.on}, {item.on}"
            bought[key] = replace(there, count=there.count + item.count, on=on)
    return [*made, *sorted(bought.values(), key=lambda i: (i.name, i.designation))]


def material_words(gear: Gear) -> str:
    """The material of a gear by its name, else by its group and grade."""
    own = gear.material
    return own.name or tr("{group}, {grade}", group=term(groups()[own.group]["name"]), grade=term(own.grade))


def _shafts(design: Design, m: MachineResult) -> Iterator[Item]:
    for s in m.shafts:
        cut = {j.gear for j in s.made.joints if j.kind == "integral"}
        teeth = sum(seat.mass for seat in s.made.wish.seats if seat.gear in cut)
        steel = next((material_words(g) for t in design.train.stages for g in t.gears if g.id in cut), "")
        steel = steel or s.made.wish.steel.name
        yield Item(1, s.name, tr("to its drawing"), steel, float(s.checked.mass) + teeth, False, s.name)


def _gears(design: Design, results: Results, m: MachineResult) -> Iterator[Item]:
    """The gears that are parts of their own, each once; planets as many as there are."""
    integral = {j.gear for s in m.shafts for j in s.made.joints if j.kind == "integral"}
    seen: set[str] = set()
    for k, stage in enumerate(design.train.stages):
        for i, gear in enumerate(stage.gears):
            if gear.id in seen or gear.id in integral:
                continue
            seen.add(gear.id)
            one = results.within[k]
            many = 1
            if one is not None and one.arranged.around:
                member = one.arranged.roles[k - one.first][i]
                many = one.planets if member == one.arranged.between else 1
            material = material_words(gear)
            g = results.stages[k].gears[i]
            size = tr("z {z}, m {m:g}", z=abs(gear.z), m=float(results.stages[k].mesh.m_n))
            hub = sum(hub_mass(s.made, gear.id) for s in m.shafts)
            yield Item(many, gear.name, size, material, float(g.get("mass", 0.0)) + hub, False, stage.name)


def _bought(m: MachineResult) -> Iterator[Item]:
    for s in m.shafts:
        for b in s.made.bearings:
            k = b.bearing
            yield Item(1, term(k.type), k.designation, tr("rolling bearing steel"), k.mass, True, s.name)
        for _piece, seal in s.made.seals:
            mass = 0.4 * STEEL * pi / 4 * (seal.D**2 - seal.d**2) * seal.b
            yield Item(1, tr("radial shaft seal"), seal.designation, term(m.rules.seal), mass, True, s.name)
        for joint in s.made.joints:
            yield from _joint(joint, s.name)
        yield from _fasteners(s)
    for p in m.pins:
        if p.pin.bearing is not None:
            k = p.pin.bearing.bearing
            yield Item(
                p.planets * p.pin.count, term(k.type), k.designation, tr("rolling bearing steel"), k.mass, True, p.name
            )


def _fasteners(s: ShaftResult) -> Iterator[Item]:
    """What keeps rings and hubs along a shaft, and the screws of its covers."""
    for _piece, ring in s.made.rings:
        yield Item(1, tr("retaining ring"), ring.designation, tr("spring steel"), ring.mass, True, s.name)
    for _piece, nut in s.made.nuts:
        name = tr("DIN 981, KM {n}", n=nut.number)
        yield Item(1, tr("slotted round nut"), name, tr("steel"), nut.mass, True, s.name)
        washer = tr("DIN 5406, MB {n}", n=nut.number)
        yield Item(1, tr("tab washer"), washer, tr("steel"), 0.1 * nut.mass, True, s.name)
    for hold in s.holding.holds:
        if hold.ring == "outer ring" and hold.by.startswith("DIN 472"):
            ring = next(r for r in rings(True) if r.designation == hold.by)
            yield Item(1, tr("retaining ring"), ring.designation, tr("spring steel"), ring.mass, True, s.name)
    for c in s.holding.covers:
        mass = STEEL * pi / 4 * c.screw**2 * (c.screw_length + 2.2 * c.screw)
        yield Item(c.screws, tr("socket head cap screw"), screw_designation(c), "8.8", mass, True, s.name)


def _turned_parts(m: MachineResult) -> Iterator[Item]:
    """Covers and sleeves, which are turned to drawings of their own."""
    for s in m.shafts:
        for c in s.holding.covers:
            name = tr("cover of {bearing}", bearing=c.bearing)
            size = tr("{D:g} h7, flange {D_2:g} x {flange:g}", D=c.D, D_2=c.D_2, flange=c.flange)
            yield Item(1, name, size, tr("cast iron"), c.mass, False, s.name)
        for p in s.made.sleeves:
            size = tr("{D:g} x {d:g} x {length:g}", D=p.sleeve, d=p.d, length=round(p.length, 2))
            yield Item(1, tr("sleeve"), size, "C45", sleeve_mass(p), False, s.name)


def _joint(j: Joint, on: str) -> Iterator[Item]:
    """What a joint needs beside shaft and hub."""
    if j.kind in ("key", "two keys"):
        count = 2 if j.kind == "two keys" else 1
        size = tr("DIN 6885-1, A {b:g} x {h:g} x {length:g}", b=j.b, h=j.h, length=j.length)
        yield Item(count, tr("parallel key"), size, "C45+C", STEEL * j.b * j.h * j.length, True, on)
    elif j.kind == "pin":
        size = tr("ISO 8734, {d:g} x {length:g}", d=j.d_pin, length=round(j.d_hub or j.d))
        yield Item(1, tr("parallel pin"), size, tr("hardened steel"), STEEL * pi / 4 * j.d_pin**2 * j.d, True, on)
    elif j.kind in SCREWS:
        size = tr("ISO 4029, M{d:g}", d=j.d_screw)
        yield Item(j.screws, tr("set screw"), size, "45H", STEEL * pi / 4 * j.d_screw**3, True, on)

"""Edits of sets: a stage made into one, its counts and shafts altered, a set taken apart."""

from __future__ import annotations

from collections.abc import Callable
from itertools import permutations
from math import cos, radians
from typing import Any

from msgspec.structs import replace

from cooper.document.gear_data import SIZES, Gear, Mesh
from cooper.document.models import Design
from cooper.document.row import row_of
from cooper.document.sets import GearSet, SetData
from cooper.document.walk import Stage
from cooper.editing.edit import set_many
from cooper.editing.stages import part_at, with_row
from cooper.errors import OutOfRange
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.kinds.internal_wheel import INTERNAL
from cooper.kinds.known import ARRANGED, kind_of
from cooper.results.solve_stage import module_of, normal_module
from cooper.trains.counts import LEAST_SUN, Offer, follow

KIND_WORDS = {key: a.words for key, a in ARRANGED.items()}
RIM = 5.0
"""Rim of a new ring over its root, in modules."""


def with_set(design: Design, k: int, kind: str) -> Design:
    """Stage k made into the first mesh of a set of a kind, a second mesh put behind it; its widths and materials are
    kept."""
    row, at = row_of(design.train), part_at(design, k)
    old = design.train.stages[k]
    if old.within is not None:
        raise OutOfRange("stage", k + 1, tr("it belongs to a set already: take that apart first"))
    mesh, (one, two) = old.mesh, old.gears
    if not old.kind_of_pair.splits:
        raise OutOfRange("stage", k + 1, tr("an external pair of gears becomes a set; this stage has a ring or a rack"))
    m_n = module_of(mesh, one.z, two.z)
    plain = mesh.replace_unchecked(**{**dict.fromkeys(SIZES), "m_n": m_n, "a_w": None, "id": ""})
    sun = one.replace_unchecked(name="sun", x=one.x or 0.0, d_a=None)
    # Planets that leave room for three of them.
    z_p = max(min(two.z, round(1.6 * one.z)), 12)
    planet = two.replace_unchecked(
        name="planet", z=z_p, x=two.x if two.x is not None else 0.0, d_a=None, d_bore=0.0, d_i=None
    )
    first, second, extra = NEW[kind](sun, planet, plain, m_n)
    first = Stage(first.gears, first.mesh.replace_unchecked(id=old.id))
    names = {s.name for s in design.train.placed}
    label = ARRANGED[kind].label
    name = next(n for n in (label, *(tr("{label} {i}", label=label, i=i) for i in range(2, 99))) if n not in names)
    of = SetData.from_data({"name": name, "kind": kind, "share": old.mesh.share, **extra})
    row[at] = replace(row[at], stages=(first, second), of=of)
    return with_row(design, row)


def _ring(like: Gear, z: int, mesh: Mesh, m_n: float) -> Gear:
    depth, m_t = like.h_fP * m_n, m_n / cos(radians(mesh.beta))
    return like.replace_unchecked(
        id="",
        name="ring",
        z=-z,
        x=None,
        d_a=None,
        tool="pinion cutter",
        z_0=max(min(25, z // 3), 10),
        x_0=0.0,
        rho_fP=0.2,
        pr_P=0.0,
        q_P=0.0,
        h_K=0.0,
        rho_a=0.0,
        d_bore=0.0,
        d_i=None,
        bending="one way",
        d_rim=round(z * m_t + 2 * depth + 2 * RIM * m_n, 1),
    )


Made = tuple[Stage, Stage, dict[str, Any]]
"""Both stages of a new set, and what the set is told besides its kind."""


def _stage(name: str, one: Gear, two: Gear, mesh: Mesh) -> Stage:
    return Stage((one, two), mesh.replace_unchecked(name=translate(name)))


def _idler(sun: Gear, planet: Gear, mesh: Mesh, m_n: float) -> Made:
    first, last = (
        sun.replace_unchecked(name=translate(tr("first gear"))),
        sun.replace_unchecked(id="", name=translate(tr("last gear")), z=planet.z, x=0.0),
    )
    idler = planet.replace_unchecked(name="idler", bending="both ways")
    return (
        _stage(tr("First gear – idler"), first, idler, mesh),
        _stage(tr("Idler – last gear"), idler, last, mesh),
        {"planets": 1, "held": None, "input": tr("first gear"), "output": tr("last gear")},
    )


def _plain_planets(sun: Gear, planet: Gear, mesh: Mesh, m_n: float) -> Made:
    shared = planet.replace_unchecked(bending="both ways")
    ring = _ring(planet, sun.z + 2 * planet.z, mesh, m_n)
    return _stage(tr("Sun – planet"), sun, shared, mesh), _stage(tr("Planet – ring"), shared, ring, _far(mesh)), {}


def _stepped_planets(sun: Gear, planet: Gear, mesh: Mesh, m_n: float) -> Made:
    small = planet.replace_unchecked(id="", name=translate(tr("planet, small gear")), z=max(planet.z - 4, 10))
    ring = _ring(small, small.z + sun.z + planet.z, mesh, m_n)
    return _stage(tr("Sun – planet"), sun, planet, mesh), _stage(tr("Planet – ring"), small, ring, _far(mesh)), {}


def _two_rings(sun: Gear, planet: Gear, mesh: Mesh, m_n: float) -> Made:
    z_a = max(planet.z, 16)
    one = planet.replace_unchecked(name=translate(tr("planet, lower gear")), z=z_a)
    two = planet.replace_unchecked(id="", name=translate(tr("planet, upper gear")), z=z_a - 1)
    gap = 2 * z_a
    # Of the first pair the ring's shift is solved from a given centre distance.
    given = mesh.replace_unchecked(a_w=gap * m_n / cos(radians(mesh.beta)) / 2)
    ring_2 = _ring(two, z_a - 1 + gap, mesh, m_n).replace_unchecked(name="ring 2")
    return (
        _stage(tr("Planet – ring"), one, _ring(one, z_a + gap, mesh, m_n), given),
        _stage(tr("Planet – ring 2"), two, ring_2, _far(mesh)),
        {"held": "ring", "input": "carrier", "output": "ring 2"},
    )


def _countershafts(first: Gear, second: Gear, mesh: Mesh, m_n: float) -> Made:
    # Both meshes of the same module at their reference distance: of as many teeth in all.
    small = max(min(first.z, second.z - 1), 12)
    pinion = second.replace_unchecked(id="", name=translate(tr("countershaft, small gear")), z=small)
    last = second.replace_unchecked(id="", name=translate(tr("last gear")), z=first.z + second.z - small, x=None)
    return (
        _stage(tr("First gear – countershaft"), *_called(first, second), mesh),
        _stage(tr("Countershaft – last gear"), pinion, last, _far(mesh)),
        {"planets": 2, "held": "housing", "input": tr("first gear"), "output": tr("last gear"), "floating": False},
    )


def _called(first: Gear, second: Gear) -> tuple[Gear, Gear]:
    names = translate(tr("first gear")), translate(tr("countershaft, large gear"))
    return first.replace_unchecked(name=names[0]), second.replace_unchecked(name=names[1])


def _far(mesh: Mesh) -> Mesh:
    """A mesh whose distance follows from the first one's."""
    return mesh.replace_unchecked(a_w=1.0)


NEW: dict[str, Callable[[Gear, Gear, Mesh, float], Made]] = {
    "planetary": _plain_planets,
    "stepped": _stepped_planets,
    "two rings": _two_rings,
    "idler": _idler,
    "countershafts": _countershafts,
}
"""What a pair becomes of each kind."""


def without_set(design: Design, n: int) -> Design:
    """Set n taken apart: its first mesh stays as a pair of its own, an external pair or a pinion in a ring."""
    row, at = row_of(design.train), part_at(design, design.train.placed[n].first)
    first = row[at].stages[0]
    one, two = (g.replace_unchecked(x=g.x or 0.0, bending="one way") for g in first.gears)
    mesh = first.mesh.replace_unchecked(a_w=None, K_gamma=1.0, share=design.train.placed[n].share)
    row[at] = replace(row[at], stages=(Stage((one, two), mesh),), of=None)
    return with_row(design, row)


def roles(one: GearSet) -> list[tuple[str, str, str | None]]:
    """Every (input, output, held) of a set; two rings have their sun where there is one."""
    shafts = one.arranged.shafts_of(one.free_sun)
    if not one.arranged.around:
        return [(shafts[0], shafts[1], None)]
    fixed = one.arranged.fixed
    if fixed is not None:
        return [(a, b, fixed) for a, b in permutations([s for s in shafts if s != fixed], 2)]
    return [(a, b, c) for a, b, c in permutations(shafts, 3)]


def with_roles(design: Design, n: int, role: tuple[str, str, str | None]) -> Design:
    """Set n with other shafts driven, taken off and held."""
    path = design.train.placed[n].path
    return set_many(design, {f"{path}.input": role[0], f"{path}.output": role[1], f"{path}.held": role[2]})


def free_sun_count(design: Design, n: int) -> int:
    """Count of a free sun that fits between the planets of two rings; raises `OutOfRange` where none does."""
    planet, ring = (abs(g.z) for g in design.train.stages[design.train.placed[n].first].gears)
    z = ring - 2 * planet
    if z < LEAST_SUN:
        raise OutOfRange(
            "free_sun",
            z,
            tr(
                "between planets of {planet} teeth in a ring of {ring} a sun would have {z} teeth: take "
                "planets of {ring_2} teeth or fewer",
                planet=planet,
                ring=ring,
                z=z,
                ring_2=(ring - LEAST_SUN) // 2,
            ),
            low=LEAST_SUN,
        )
    return z


def with_free_sun(design: Design, n: int, wanted: bool) -> Design:
    """Two rings with a free sun that bears the planets inwards, or without it."""
    one = design.train.placed[n]
    if not one.arranged.sun_between:
        raise OutOfRange(
            "free_sun",
            one.name,
            tr("a free sun supports the planets of two rings; in other sets the sun carries torque"),
        )
    if one.free_sun == wanted:
        return design
    row, at = row_of(design.train), part_at(design, one.first)
    stages, of = row[at].stages, design.train.sets[one.id].replace_unchecked(free_sun=wanted)
    if wanted:
        first = stages[0]
        planet = first.gears[0]
        sun = planet.replace_unchecked(
            id="",
            name="sun",
            z=free_sun_count(design, n),
            x=None,
            d_a=None,
            tool="rack",
            d_bore=0.0,
            d_i=None,
            bending="one way",
        )
        stages += (_stage(tr("Sun – planet"), sun, planet, first.mesh.replace_unchecked(id="", a_w=1.0)),)
    else:
        stages = stages[:2]
        if one.sun_works:
            # Without the sun the carrier is driven again.
            of = of.replace_unchecked(input="carrier", held="ring", output="ring 2")
    row[at] = replace(row[at], stages=stages, of=of)
    return with_row(design, row)


def give_counts(design: Design, n: int, z: tuple[int, ...], m_2: float | None = None) -> Design:
    """Set n with other counts, as an offer of the search states them; rims follow their rings, given tips are set
    free.

    ``m_2`` is the transverse module of the second mesh of two rings, where it is to be another (mm).
    """
    one = design.train.placed[n]
    stages = [design.train.stages[k] for k in one.stages]
    first, second = stages[:2]
    own = list(dict.fromkeys(path for stage in stages[:2] for path in stage.paths))
    wheels = {path: (stage, gear) for stage in stages for path, gear in zip(stage.paths, stage.gears, strict=True)}
    counts = dict(zip(own, z, strict=False))
    if one.free_sun:
        sun = z[1] - 2 * z[0]
        if sun < LEAST_SUN:
            raise OutOfRange(
                "free_sun",
                sun,
                tr(
                    "planets of {z} teeth in a ring of {z_2} leave no room for the sun: take it out first",
                    z=z[0],
                    z_2=z[1],
                ),
                low=LEAST_SUN,
            )
        counts[stages[2].paths[0]] = sun
    changes: dict[str, Any] = {}
    for path, count in counts.items():
        stage, gear = wheels[path]
        changes |= {f"{path}.z": -count if kind_of(gear).inward else count, f"{path}.d_a": None}
        if gear.d_rim is not None:
            now = transverse_module(stage)
            new = m_2 if m_2 is not None and stage.id == second.id else now
            # What stands over the reference circle stays.
            changes[f"{path}.d_rim"] = round(gear.d_rim + count * new - abs(gear.z) * now, 2)
            if gear.tool == "pinion cutter":
                changes[f"{path}.z_0"] = min(gear.z_0, count // 2)
    if m_2 is not None and abs(m_2 / transverse_module(second) - 1) > 1e-9:
        changes |= {f"{second.path}.{s}": None for s in SIZES}
        changes |= {f"{second.path}.m_n": round(m_2 * cos(radians(second.mesh.beta)), 9), f"{one.path}.agree": "shift"}
    if first.kind_of_pair.inward and first.mesh.a_w is not None:
        changes[f"{first.path}.a_w"] = (z[1] - z[0]) * transverse_module(first) / 2
    return set_many(design, changes)


def transverse_module(stage: Stage) -> float:
    """Transverse module of a stage; mm."""
    return normal_module(stage) / cos(radians(stage.mesh.beta))


def take_offer(design: Design, n: int, offer: Offer) -> Design:
    """Set n with the counts of an offer, and the second module that it was found with."""
    return give_counts(design, n, offer.z, offer.more.get("m_2"))


def change_count(design: Design, n: int, changed: int, value: int, kept: int) -> Design:
    """One count of a planet set (0 sun, 1 planet, 2 ring) changed, another kept, the third following.

    Half teeth are refused with the nearest sets that work.
    """
    result, near = follow(_counts_now(design, n), changed, value, kept)
    names = ("sun", "planet", "ring")
    if result is None:
        offers = join("; ", (tr("sun {a}, planet {b}, ring {c}", a=a, b=b, c=c) for a, b, c in near))
        raise OutOfRange(
            tr("z of the {names}", names=names[changed]),
            value,
            tr(
                "with the {names} kept the {names_2} would have half a tooth or none. Nearest that work: {value}",
                names=names[kept],
                names_2=names[3 - changed - kept],
                value=offers or "none",
            ),
        )
    return give_counts(design, n, result)


def _counts_now(design: Design, n: int) -> tuple[int, int, int]:
    k = design.train.placed[n].first
    (sun, planet), ring = design.train.stages[k].gears, design.train.stages[k + 1].gears[1]
    return sun.z, planet.z, -ring.z


def nearest_counts(design: Design, n: int, changed: int, value: int, kept: int) -> list[tuple[int, int, int]]:
    """The sets of whole teeth next to a change that would leave half a tooth."""
    return follow(_counts_now(design, n), changed, value, kept)[1]


def planetary_set(design: Design, k: int) -> int | None:
    """Number of the planet set with plain planets that stage k belongs to."""
    n = set_number(design, k)
    return n if n is not None and design.train.placed[n].arranged.plain_planets else None


def count_in_set(design: Design, k: int, i: int, z: int) -> Design:
    """A planet set with another count of gear i (1, 2) of its stage k: with another sun or planet the ring follows,
    with another ring the planet takes the whole number next below, and the shifts do the rest."""
    n = planetary_set(design, k)
    assert n is not None
    sun, planet, _ = _counts_now(design, n)
    place = k - design.train.placed[n].first + i - 1
    if INTERNAL.counts(z) != (place == 2):
        raise OutOfRange(
            "z",
            z,
            tr("sun and planets have external teeth (a positive count), the ring internal ones (a negative count)"),
        )
    if place == 2:
        return give_counts(design, n, (sun, (-z - sun) // 2, -z))
    sun, planet = (z, planet) if place == 0 else (sun, z)
    return give_counts(design, n, (sun, planet, sun + 2 * planet))


def set_number(design: Design, k: int) -> int | None:
    """Number of the set that stage k belongs to."""
    return next((n for n, s in enumerate(design.train.placed) if k in s.stages), None)

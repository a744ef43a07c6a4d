"""Edits of sets: a stage made into one, its counts and shafts altered, a set taken apart."""

from __future__ import annotations

from collections.abc import Callable
from itertools import permutations
from math import cos, radians
from typing import Any

from cooper.document.gear_data import SIZES, Gear, Mesh
from cooper.document.models import Design, GearSet, Stage, one_gear
from cooper.document.plain import one_of_each, plain_data, validated, validated_sets
from cooper.editing.edit import set_many
from cooper.editing.whole_sets import enforce_set_constraints
from cooper.errors import OutOfRange
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.kinds.internal_wheel import INTERNAL
from cooper.kinds.known import ARRANGED, kind_of
from cooper.results.solve_stage import module_of
from cooper.trains.counts import LEAST_SUN, Offer, follow

KIND_WORDS = {key: a.words for key, a in ARRANGED.items()}
RIM = 5.0
"""Rim of a new ring over its root, in modules."""


def with_set(design: Design, k: int, kind: str) -> Design:
    """Stage k made into the first mesh of a set of a kind, a second mesh put behind it; its widths and materials are
    kept."""
    stages = list(design.train.stages)
    old = stages[k]
    if set_number(design, k) is not None:
        raise OutOfRange("stage", k + 1, tr("it belongs to a set already: take that apart first"))
    mesh = old.meshes[0]
    one, two = old.members[mesh.driver], old.members[mesh.driven]
    if not old.kind_of_pair.splits:
        raise OutOfRange("stage", k + 1, tr("an external pair of gears becomes a set; this stage has a ring or a rack"))
    if len(stages) >= 12:
        raise OutOfRange("stages", 13, tr("a train has 1 to 12 stages"), low=1, high=12)
    m_n = module_of(mesh, one.z, two.z)
    plain = mesh.replace_unchecked(**{**dict.fromkeys(SIZES), "m_n": m_n, "a_w": None, "driver": 0, "driven": 1})
    sun = one.replace_unchecked(name="sun", x=one.x or 0.0, d_a=None)
    # Planets that leave room for three of them.
    z_p = max(min(two.z, round(1.6 * one.z)), 12)
    planet = two.replace_unchecked(
        name="planet", z=z_p, x=two.x if two.x is not None else 0.0, d_a=None, d_bore=0.0, d_i=None
    )
    first, second, extra = NEW[kind](sun, planet, plain, m_n)
    tree = plain_data(design)
    first, second = first.replace_unchecked(id=old.id), second
    tree["train"]["stages"][k : k + 1] = [first.plain(), second.plain()]
    sets = [{**s.plain(), "first": s.first + (s.first > k)} for s in design.train.sets]
    names = {s["name"] for s in sets}
    label = ARRANGED[kind].label
    name = next(n for n in (label, *(tr("{label} {i}", label=label, i=i) for i in range(2, 99))) if n not in names)
    tree["train"]["sets"] = [*sets, {"name": name, "kind": kind, "first": k, **extra}]
    return _whole(tree)


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


def _idler(sun: Gear, planet: Gear, mesh: Mesh, m_n: float) -> Made:
    first, last = (
        sun.replace_unchecked(name=translate(tr("first gear"))),
        sun.replace_unchecked(id="", name=translate(tr("last gear")), z=planet.z, x=0.0),
    )
    idler = planet.replace_unchecked(name="idler", bending="both ways")
    return (
        Stage(name=translate(tr("First gear – idler")), members=(first, idler), meshes=(mesh,)),
        Stage(name=translate(tr("Idler – last gear")), members=(idler, last), meshes=(mesh,)),
        {"planets": 1, "held": None, "input": tr("first gear"), "output": tr("last gear")},
    )


def _plain_planets(sun: Gear, planet: Gear, mesh: Mesh, m_n: float) -> Made:
    shared = planet.replace_unchecked(bending="both ways")
    ring = _ring(planet, sun.z + 2 * planet.z, mesh, m_n)
    return (
        Stage(name=translate(tr("Sun – planet")), members=(sun, shared), meshes=(mesh,)),
        Stage(name=translate(tr("Planet – ring")), members=(shared, ring), meshes=(_far(mesh),)),
        {},
    )


def _stepped_planets(sun: Gear, planet: Gear, mesh: Mesh, m_n: float) -> Made:
    small = planet.replace_unchecked(id="", name=translate(tr("planet, small gear")), z=max(planet.z - 4, 10))
    ring = _ring(small, small.z + sun.z + planet.z, mesh, m_n)
    return (
        Stage(name=translate(tr("Sun – planet")), members=(sun, planet), meshes=(mesh,)),
        Stage(name=translate(tr("Planet – ring")), members=(small, ring), meshes=(_far(mesh),)),
        {},
    )


def _two_rings(sun: Gear, planet: Gear, mesh: Mesh, m_n: float) -> Made:
    z_a = max(planet.z, 16)
    one = planet.replace_unchecked(name=translate(tr("planet, lower gear")), z=z_a)
    two = planet.replace_unchecked(id="", name=translate(tr("planet, upper gear")), z=z_a - 1)
    gap = 2 * z_a
    # Of the first pair the ring's shift is solved from a given centre distance.
    given = mesh.replace_unchecked(a_w=gap * m_n / cos(radians(mesh.beta)) / 2)
    ring_2 = _ring(two, z_a - 1 + gap, mesh, m_n).replace_unchecked(name="ring 2")
    return (
        Stage(name=translate(tr("Planet – ring")), members=(one, _ring(one, z_a + gap, mesh, m_n)), meshes=(given,)),
        Stage(name=translate(tr("Planet – ring 2")), members=(two, ring_2), meshes=(_far(mesh),)),
        {"held": "ring", "input": "carrier", "output": "ring 2"},
    )


def _far(mesh: Mesh) -> Mesh:
    """A mesh whose distance follows from the first one's."""
    return mesh.replace_unchecked(a_w=1.0)


NEW: dict[str, Callable[[Gear, Gear, Mesh, float], Made]] = {
    "planetary": _plain_planets,
    "stepped": _stepped_planets,
    "two rings": _two_rings,
    "idler": _idler,
}
"""What a pair becomes of each kind."""


def _whole(tree: dict[str, Any]) -> Design:
    validated_sets(tree)
    return validated(enforce_set_constraints(one_of_each(tree), set()))


def without_set(design: Design, n: int) -> Design:
    """Set n taken apart: its first mesh stays as a pair of its own, an external pair or a pinion in a ring."""
    one = design.train.sets[n]
    tree = plain_data(design)
    stages = list(tree["train"]["stages"])
    first = stages[one.first]
    members = [g | {"x": g["x"] or 0.0, "bending": "one way"} for g in first["members"]]
    stages[one.first : one.stages[-1] + 1] = [
        first | {"members": members, "meshes": [first["meshes"][0] | {"a_w": None, "K_gamma": 1.0}]}
    ]
    less = len(one.stages) - 1
    tree["train"]["stages"] = stages
    tree["train"]["sets"] = [
        s | {"first": s["first"] - less * (s["first"] > one.first)}
        for i, s in enumerate(tree["train"]["sets"])
        if i != n
    ]
    return _whole(tree)


def roles(one: GearSet) -> list[tuple[str, str, str | None]]:
    """Every (input, output, held) of a set; two rings have their sun where there is one."""
    shafts = one.arranged.shafts_of(one.free_sun)
    if not one.arranged.around:
        return [(shafts[0], shafts[1], None)]
    return [(a, b, c) for a, b, c in permutations(shafts, 3)]


def with_roles(design: Design, n: int, role: tuple[str, str, str | None]) -> Design:
    """Set n with other shafts driven, taken off and held."""
    base = f"train.sets.{n}."
    return set_many(design, {base + "input": role[0], base + "output": role[1], base + "held": role[2]})


def free_sun_count(design: Design, n: int) -> int:
    """Count of a free sun that fits between the planets of two rings; raises `OutOfRange` where none does."""
    planet, ring = (abs(g.z) for g in design.train.stages[design.train.sets[n].first].members)
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
    one = design.train.sets[n]
    if not one.arranged.sun_between:
        raise OutOfRange(
            "free_sun",
            one.name,
            tr("a free sun supports the planets of two rings; in other sets the sun carries torque"),
        )
    if one.free_sun == wanted:
        return design
    tree = plain_data(design)
    stages, at = list(tree["train"]["stages"]), one.first + 2
    if wanted:
        if len(stages) >= 12:
            raise OutOfRange("stages", 13, tr("a train has 1 to 12 stages"), low=1, high=12)
        first = design.train.stages[one.first]
        planet = first.members[0]
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
        mesh = first.meshes[0].replace_unchecked(a_w=1.0)
        stages.insert(
            at,
            Stage(
                name=translate(tr("Sun – planet")),
                members=(sun, planet.replace_unchecked(x=planet.x or 0.0)),
                meshes=(mesh,),
            ).plain(),
        )
    else:
        del stages[at]
    tree["train"]["stages"] = stages
    for i, s in enumerate(tree["train"]["sets"]):
        s["first"] += (1 if wanted else -1) * (s["first"] >= at)
        if i == n:
            s["free_sun"] = wanted
            if one.sun_works:
                # Without the sun the carrier is driven again.
                s |= {"input": "carrier", "held": "ring", "output": "ring 2"}
    return _whole(tree)


def give_counts(design: Design, n: int, z: tuple[int, ...], m_2: float | None = None) -> Design:
    """Set n with other counts, as an offer of the search states them; rims follow their rings, given tips are set
    free.

    ``m_2`` is the transverse module of the second mesh of two rings, where it is to be another (mm).
    """
    one = design.train.sets[n]
    k = one.first
    first = design.train.stages[k]
    same = one_gear(one)
    own = [place for place in ((k, 0), (k, 1), (k + 1, 0), (k + 1, 1)) if place not in same]
    counts = {
        (s, i): -c if kind_of(design.train.stages[s].members[i]).inward else c
        for (s, i), c in zip(own, z[: len(own)], strict=True)
    }
    counts |= {place: counts[of] for place, of in same.items() if of in counts and place[0] == k + 1}
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
        counts |= {(k + 2, 0): sun, (k + 2, 1): z[0]}
    changes: dict[str, Any] = {}
    for (s, i), count in counts.items():
        gear = design.train.stages[s].members[i]
        base = f"train.stages.{s}.members.{i}."
        changes |= {base + "z": count, base + "d_a": None}
        if gear.d_rim is not None:
            now = _transverse(design, s)
            new = m_2 if m_2 is not None and s == k + 1 else now
            # What stands over the reference circle stays.
            changes[base + "d_rim"] = round(gear.d_rim + abs(count) * new - abs(gear.z) * now, 2)
            if gear.tool == "pinion cutter":
                changes[base + "z_0"] = min(gear.z_0, abs(count) // 2)
    if m_2 is not None and abs(m_2 / _transverse(design, k + 1) - 1) > 1e-9:
        beta = design.train.stages[k + 1].meshes[0].beta
        changes |= {f"train.stages.{k + 1}.meshes.0.{s}": None for s in SIZES}
        changes |= {
            f"train.stages.{k + 1}.meshes.0.m_n": round(m_2 * cos(radians(beta)), 9),
            f"train.sets.{n}.agree": "shift",
        }
    if first.kind_of_pair.inward and first.meshes[0].a_w is not None:
        changes[f"train.stages.{k}.meshes.0.a_w"] = (z[1] - z[0]) * _transverse(design, k) / 2
    return set_many(design, changes)


def _transverse(design: Design, k: int) -> float:
    """Transverse module of stage k; mm."""
    return module_now(design, k) / cos(radians(design.train.stages[k].meshes[0].beta))


def module_now(design: Design, k: int) -> float:
    """Normal module of stage k, however its size is given; mm."""
    stage = design.train.stages[k]
    return module_of(stage.meshes[0], stage.members[0].z, stage.members[1].z)


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
    k = design.train.sets[n].first
    (sun, planet), ring = design.train.stages[k].members, design.train.stages[k + 1].members[1]
    return sun.z, planet.z, -ring.z


def nearest_counts(design: Design, n: int, changed: int, value: int, kept: int) -> list[tuple[int, int, int]]:
    """The sets of whole teeth next to a change that would leave half a tooth."""
    return follow(_counts_now(design, n), changed, value, kept)[1]


def planetary_set(design: Design, k: int) -> int | None:
    """Number of the planet set with plain planets that stage k belongs to."""
    n = set_number(design, k)
    return n if n is not None and design.train.sets[n].arranged.plain_planets else None


def count_in_set(design: Design, k: int, i: int, z: int) -> Design:
    """A planet set with another count of gear i (1, 2) of its stage k: with another sun or planet the ring follows,
    with another ring the planet takes the whole number next below, and the shifts do the rest."""
    n = planetary_set(design, k)
    assert n is not None
    sun, planet, _ = _counts_now(design, n)
    place = k - design.train.sets[n].first + i - 1
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
    return next((n for n, s in enumerate(design.train.sets) if k in s.stages), None)

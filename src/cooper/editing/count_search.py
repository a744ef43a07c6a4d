"""The search for tooth counts, asked from a design: for the selected set, or for the pairs in line; and an offer
taken."""

from __future__ import annotations

from collections.abc import Callable
from math import cos, radians

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.document.models import Design, GearSet
from cooper.editing.edit import give_count
from cooper.editing.make_sets import set_number, take_offer
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.kinds.external_wheel import EXTERNAL
from cooper.kinds.known import kind_of
from cooper.results.evaluate import evaluate
from cooper.results.result_tree import Results
from cooper.stock.series import modules
from cooper.trains.counts import Bounds, Offer, in_line, pairs, planetary
from cooper.trains.equal_strength import Strength, bears, equal_strength
from cooper.trains.two_ring_counts import two_rings

SPLITS = {"falling": tr("falling from stage to stage"), "strength": tr("equal strength of the stages")}
"""How a ratio is split over stages in line."""


def subject(design: Design, k: int) -> str:
    """What is searched for at stage k: the kind of a set (`SET_SEARCHES`), "pairs" (all stages, 1 to 3), or empty
    where there is no search."""
    n = set_number(design, k)
    if n is not None:
        one = design.train.placed[n]
        return one.kind if one.kind in SET_SEARCHES and one.second is None else ""
    members = [g for s in design.train.stages for g in s.gears]
    plain = (
        design.train.walk.in_line
        and not design.train.placed
        and len(design.train.stages) <= 3
        and all(kind_of(g) is EXTERNAL for g in members)
    )
    return "pairs" if plain else ""


def sized(results: Results, k: int, what: str, at: Bounds) -> Bounds:
    """The bounds with the modules and rims of the design, by which its offers have a size."""
    stages = results.stages if what == "pairs" else results.stages[k : k + 1]
    m_t = tuple(s.mesh.m_n / cos(radians(s.mesh.beta)) for s in stages)
    over = tuple(2 * s.mesh.m_n for s in stages)
    one = results.within[k]
    if one is not None:
        m_t = m_t[:1]
        rings = [s for s in results.stages[one.first : one.first + 2] if s.kind.inward]
        over = tuple(s.gears[1].d_rim - s.gears[1].d for s in rings)
    return replace(at, m_t=m_t, over=over)


def strength_now(results: Results) -> Strength:
    """What the stages bear now, by the governing method's checks of flank and root."""
    flank, root = [], []
    for k in range(len(results.stages)):
        margins = {
            c.symbol[:3]: min(
                1 + d.margin
                for d in results.checks
                if d.stage == k and d.symbol[:3] == c.symbol[:3] and d.symbol in LOADED
            )
            for c in results.checks
            if c.stage == k and c.symbol in LOADED
        }
        flank.append(max(margins["S_H"], 1e-3) ** 2)
        root.append(max(margins["S_F"], 1e-3))
    gears = [s.gears for s in results.stages]
    return Strength(
        tuple(flank), tuple(root), tuple(abs(s.ratio) for s in results.stages), tuple(int(g[0].z) for g in gears)
    )


LOADED = ("S_H", "S_F", "S_HA", "S_FA", "S_Heq", "S_Feq")


def search(
    design: Design, k: int, u: float, at: Bounds, split: str = "falling", other_modules: bool = False
) -> list[Offer]:
    """Offers for a wanted ratio; raises `OutOfRange` with what can be reached, or where there is no search for the
    kind.

    ``split`` is one of `SPLITS`, for stages in line; their offers carry in ``more["strength"]`` by how much the load
    could grow in the weakest stage. ``other_modules`` lets the second mesh of two rings have any standard module near
    the first one's.
    """
    what = subject(design, k)
    if not 1e-3 < abs(u) < 1e6:
        raise OutOfRange("u", u, tr("a ratio to search for lies between 0.001 and a million"), low=0.001, high=1e6)
    if at.least >= at.greatest:
        raise OutOfRange(
            "z",
            at.least,
            tr("the least count must lie below the greatest, {greatest}", greatest=at.greatest),
            high=at.greatest - 1,
        )
    n_set = set_number(design, k)
    if not what or (n_set is None and what != "pairs"):
        raise OutOfRange(
            "stage",
            k + 1,
            tr("counts are searched for up to three external pairs in line, for planet sets and for two rings"),
        )
    results = evaluate(design)
    at = sized(results, design.train.placed[n_set].first if n_set is not None else k, what, at)
    if what == "pairs":
        n = len(design.train.stages)
        now = strength_now(results)
        if n == 1:
            result = pairs(abs(u), at)
        else:
            result = in_line(abs(u), n, at, split=equal_strength(abs(u), now) if split == "strength" else None)
        z = np.array([o.z for o in result])
        least = np.min(bears(now, z[:, 1::2] / z[:, ::2], z[:, ::2]), axis=1)
        return [replace(o, more={**o.more, "strength": float(s)}) for o, s in zip(result, least, strict=True)]
    assert n_set is not None
    one = design.train.placed[n_set]
    if other_modules and SET_SEARCHES[what].modules:
        first = results.stages[one.first].mesh
        scale = cos(radians(results.stages[one.first + 1].mesh.beta))
        near = [m for m in modules() if 0.4 * first["m_n"] <= m <= 2.5 * first["m_n"]]
        at = replace(at, modules_2=tuple(m / scale for m in near))
    return SET_SEARCHES[what].find(u, one, at)


def _two_rings(u: float, one: GearSet, at: Bounds) -> list[Offer]:
    if one.input not in ("carrier", "sun") or (one.held, one.output) != ("ring", "ring 2"):
        raise OutOfRange(
            "set",
            one.name,
            tr("two rings are searched with the carrier or the sun driven, the first ring held and ring 2 taken off"),
        )
    return two_rings(u, at, one.input == "sun")


class SetSearch(Struct, frozen=True):
    """The counts of a kind of set: how they are found, what is listed of the offers besides what all have, and
    whether the second mesh may have another module."""

    find: Callable[[float, GearSet, Bounds], list[Offer]]
    columns: tuple[str, ...]
    modules: bool = False


SET_SEARCHES = {
    "planetary": SetSearch(
        lambda u, one, at: planetary(u, (one.input, one.output, str(one.held)), at), columns=("planets",)
    ),
    "two rings": SetSearch(_two_rings, columns=("η 1 %", "planets", "m 2"), modules=True),
}
"""The kinds of sets whose counts are searched."""


def take(design: Design, k: int, offer: Offer) -> Design:
    """The design with the counts of an offer."""
    n = set_number(design, k)
    if n is not None:
        return take_offer(design, n, offer)
    for stage, (z_1, z_2) in enumerate(zip(offer.z[::2], offer.z[1::2], strict=True)):
        for i, z in ((1, z_1), (2, z_2)):
            design = give_count(design, stage, i, z)
    return design

"""The search for tooth counts, asked from a design: for the selected set, or for the pairs in line; and an offer taken."""

from __future__ import annotations

from cooper.design.document import Design
from cooper.design.edit import give_count
from cooper.design.evaluate import evaluate
from cooper.design.make_sets import set_number, take_offer
from cooper.errors import OutOfRange
from cooper.trains.counts import Bounds, Offer, in_line, pairs, planetary, two_rings


def subject(design: Design, k: int) -> str:
    """What is searched for at stage k: "planetary", "two rings", "pairs" (all stages, 1 to 3), or empty where there is no search."""
    n = set_number(design, k)
    if n is not None:
        kind = design.train.sets[n].kind
        return kind if kind in ("planetary", "two rings") else ""
    members = [g for s in design.train.stages for g in s.members]
    plain = not design.train.sets and len(design.train.stages) <= 3 and all(g.z > 0 and g.shape == "gear" for g in members)
    return "pairs" if plain else ""


def search(design: Design, k: int, u: float, at: Bounds) -> list[Offer]:
    """Offers for a wanted ratio; raises `OutOfRange` with what can be reached, or where there is no search for the kind."""
    what = subject(design, k)
    if not 1e-3 < abs(u) < 1e6:
        raise OutOfRange("u", u, "a ratio to search for lies between 0.001 and a million", low=0.001, high=1e6)
    if at.least >= at.greatest:
        raise OutOfRange("z", at.least, f"the least count must lie below the greatest, {at.greatest}", high=at.greatest - 1)
    if what == "pairs":
        n = len(design.train.stages)
        return pairs(abs(u), at) if n == 1 else in_line(abs(u), n, at)
    n_set = set_number(design, k)
    if not what or n_set is None:
        raise OutOfRange("stage", k + 1, "counts are searched for up to three external pairs in line, for planet sets and for two rings")
    one = design.train.sets[n_set]
    if what == "planetary":
        return planetary(u, (one.input, one.output, str(one.held)), at)
    if (one.input, one.held, one.output) != ("carrier", "ring", "ring 2"):
        raise OutOfRange("set", one.name, "two rings are searched with the carrier driven, the first ring held and ring 2 taken off")
    return two_rings(u, at)


def take(design: Design, k: int, offer: Offer) -> Design:
    """The design with the counts of an offer."""
    n = set_number(design, k)
    if n is not None:
        return take_offer(design, n, offer)
    for stage, (z_1, z_2) in enumerate(zip(offer.z[::2], offer.z[1::2], strict=True)):
        for i, z in ((1, z_1), (2, z_2)):
            design = give_count(design, stage, i, z, evaluate(design).stages[stage].mesh["m_n"])
    return design

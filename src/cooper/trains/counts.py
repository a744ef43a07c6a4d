"""Tooth counts for a wanted ratio: pairs, stages in line, planet sets and two rings, as arrays over all
combinations.

All counts are positive here. Results are ranked by the deviation from the wanted ratio, then by size.
"""

from __future__ import annotations

from math import inf, lcm

import numpy as np
from msgspec import Struct, field
from numpy.typing import NDArray

from cooper.arrays import Array, as_float
from cooper.errors import OutOfRange
from cooper.i18n.text import tr

Mask = NDArray[np.bool_]
MOST = 400
"""Offers that are kept."""
LEAST_SUN = 8
"""Fewest teeth of a sun between two rings."""


class Bounds(Struct, frozen=True):
    """Least and greatest count, tolerance of the ratio (%), number of planets, greatest count of a ring; transverse
    modules by stage, what stands over the reference circle of its largest gear or of each ring (mm, on the diameter),
    and the greatest centre distance and outside diameter (mm); transverse modules that the second mesh of two rings may
    have besides the first one's (mm)."""

    least: int = 17
    greatest: int = 120
    tolerance: float = 1.0
    planets: int = 3
    largest: int = 400
    m_t: tuple[float, ...] = (1.0,)
    over: tuple[float, ...] = (2.0,)
    a_most: float = inf
    d_most: float = inf
    modules_2: tuple[float, ...] = ()


class Offer(Struct, frozen=True):
    """Counts with what they give: ratio with its sign, deviation (%), whether planets can stand evenly, turns of the
    first gear after which the same teeth meet again; centre distance ``a``, of stages in line the sum, and outside
    diameter ``d`` (mm)."""

    z: tuple[int, ...]
    ratio: float
    deviation: float
    even: bool = True
    hunting: int = 1
    a: float = 0.0
    d: float = 0.0
    more: dict[str, float] = field(default_factory=dict)


def hunting_turns(z_1: int, z_2: int) -> int:
    """Turns of the first gear after which the same two teeth meet again; z_2 when the counts have no common factor.

    Parameters
    ----------
    z_1 : int
        Tooth count of the first gear.
    z_2 : int
        Tooth count of the second gear.

    Returns
    -------
    int
        Turns of the first gear.

    Examples
    --------
    >>> hunting_turns(20, 40), hunting_turns(19, 40)
    (2, 40)
    """
    return lcm(z_1, z_2) // z_1


def _ranked(offers: list[Offer]) -> list[Offer]:
    return sorted(offers, key=lambda o: (round(abs(o.deviation), 6), not o.even, sum(o.z)))[:MOST]


def _none(u: float, what: str, low: float, high: float) -> OutOfRange:
    return OutOfRange(
        "u",
        round(u, 6),
        tr("no counts within the bounds give {what} this ratio within its tolerance; they reach about", what=what),
        low=float(tr("{low:.4g}", low=low)),
        high=float(tr("{high:.4g}", high=high)),
    )


def _small(good: Mask, a: Array, d: Array, at: Bounds) -> Mask:
    """Those of the good ones that are small enough; raises `OutOfRange` with the least size where none is."""
    fits = good & (a <= at.a_most) & (d <= at.d_most)
    if good.any() and not fits.any():
        what, value, least = (
            ("a", at.a_most, a[good & (d <= at.d_most)]) if at.a_most < inf else ("d", at.d_most, d[good])
        )
        if least.size == 0:
            what, value, least = "d", at.d_most, d[good]
        word = tr("centre distance") if what == "a" else tr("outside diameter")
        raise OutOfRange(
            what,
            value,
            tr("with all counts of this ratio the {word} is greater at this module", word=word),
            low=float(np.round(least.min(), 3)),
            unit="mm",
        )
    return fits


def pairs(u: float, at: Bounds) -> list[Offer]:
    """Counts of one pair.

    Parameters
    ----------
    u : float
        Ratio wanted, input over output speed, with its sign.
    at : Bounds
        Bounds of counts, tolerance of the ratio and modules.

    Returns
    -------
    list[Offer]
        Counts, the nearest ratio first.

    Examples
    --------
    >>> pairs(2.5, Bounds(tolerance=0.1))[0].z
    (18, 45)
    """
    z = np.arange(at.least, at.greatest + 1)
    one, two = np.meshgrid(z, z, indexing="ij")
    off = 100 * (two / one / u - 1)
    good = np.abs(off) <= at.tolerance
    if not good.any():
        raise _none(u, tr("a pair"), at.least / at.greatest, at.greatest / at.least)
    good = _small(good, at.m_t[0] * (one + two) / 2, at.m_t[0] * np.maximum(one, two) + at.over[0], at)
    order = np.lexsort((one[good] + two[good], np.round(np.abs(off[good]), 6)))[:MOST]
    return [
        Offer(
            (int(a), int(b)),
            b / a,
            float(d),
            True,
            hunting_turns(int(a), int(b)),
            at.m_t[0] * (a + b) / 2,
            at.m_t[0] * max(a, b) + at.over[0],
        )
        for a, b, d in zip(one[good][order], two[good][order], off[good][order], strict=True)
    ]


def stage_ratios(u: float, stages: int) -> tuple[float, ...]:
    """A sensible split of a ratio: each stage's teeth about equally stressed, the first geared most, as its torque is
    least.

    Parameters
    ----------
    u : float
        Ratio wanted, input over output speed, with its sign.
    stages : int
        Number of stages.

    Returns
    -------
    tuple[float, ...]
        Ratio of each stage, first stage first.

    Notes
    -----
    The ratios fall by the same factor from stage to stage, 1.25 for two and 1.15 for more.

    Examples
    --------
    >>> [round(r, 3) for r in stage_ratios(12.0, 2)]
    [3.873, 3.098]
    """
    step = 1.25 if stages == 2 else 1.15
    powers = np.arange(stages) - (stages - 1) / 2
    return tuple(float(v) for v in abs(u) ** (1 / stages) * step**-powers)


def in_line(
    u: float, stages: int, at: Bounds, near: float = 0.18, split: tuple[float, ...] | None = None
) -> list[Offer]:
    """Counts of two or three stages, each ratio within ``near`` of a split (the sensible one where none is given); the
    exact product by search over the last.

    Parameters
    ----------
    u : float
        Ratio wanted, input over output speed, with its sign.
    stages : int
        Number of stages.
    at : Bounds
        Bounds of counts, tolerance of the ratio and modules.
    near : float
        Greatest share by which a ratio leaves that of the split.
    split : tuple[float, ...] | None
        Ratios of the stages, None for `stage_ratios`.

    Returns
    -------
    list[Offer]
        Counts, the nearest ratio first.

    Examples
    --------
    >>> o = in_line(12.0, 2, Bounds(tolerance=0.05))[0]
    >>> round(o.ratio, 2), len(o.z)
    (12.0, 4)
    """
    z = np.arange(at.least, at.greatest + 1)
    one, two = (v.ravel() for v in np.meshgrid(z[: max(12, len(z) // 5)], z, indexing="ij"))
    ratio = two / one
    lists = []
    for wanted in split or stage_ratios(u, stages):
        close = np.abs(ratio / wanted - 1) <= near
        lists.append((one[close], two[close], ratio[close]))
    if any(len(r) == 0 for _, _, r in lists):
        raise _none(
            u,
            tr("{stages} stages", stages=stages),
            (at.least / at.greatest) ** stages,
            (at.greatest / at.least) ** stages,
        )
    head = [lists[0]]
    product = lists[0][2]
    index = [np.arange(len(product))]
    for nxt in lists[1:-1]:
        # A thinned choice for the middle stage keeps the search instant.
        keep = np.unique(np.round(nxt[2], 3), return_index=True)[1]
        nxt = tuple(v[keep] for v in nxt)  # type: ignore[assignment]
        head.append(nxt)
        product = (product[:, None] * nxt[2][None, :]).ravel()
        index = [np.repeat(i, len(nxt[2])) for i in index] + [np.tile(np.arange(len(nxt[2])), len(index[0]))]
    last = np.argsort(lists[-1][2], kind="stable")
    sorted_last = lists[-1][2][last]
    place = np.clip(np.searchsorted(sorted_last, u / product), 1, len(sorted_last) - 1)
    result: list[Offer] = []
    best = np.full(len(product), np.inf)
    chosen = np.zeros(len(product), dtype=int)
    for shift in (-1, 0):
        k = np.clip(place + shift, 0, len(sorted_last) - 1)
        off = np.abs(product * sorted_last[k] / u - 1)
        better = off < best
        best, chosen = np.where(better, off, best), np.where(better, k, chosen)
    near_enough = 100 * best <= at.tolerance
    if not near_enough.any():
        raise _none(
            u,
            tr("{stages} stages", stages=stages),
            (at.least / at.greatest) ** stages,
            (at.greatest / at.least) ** stages,
        )
    pairs_now = [(part[0][i], part[1][i]) for part, i in zip(head, index, strict=True)]
    pairs_now.append((lists[-1][0][last[chosen]], lists[-1][1][last[chosen]]))
    m_t, over = (v if len(v) == stages else (v[0],) * stages for v in (at.m_t, at.over))
    a = sum(m * (x + y) / 2 for m, (x, y) in zip(m_t, pairs_now, strict=True))
    d = np.max([m * np.maximum(x, y) + o for m, o, (x, y) in zip(m_t, over, pairs_now, strict=True)], axis=0)
    good = np.nonzero(_small(near_enough, as_float(a), d, at))[0]
    for n in good[np.argsort(best[good], kind="stable")][: 2 * MOST]:
        counts = [int(v[n]) for both in pairs_now for v in both]
        exact = float(np.prod(np.array(counts[1::2]) / np.array(counts[::2])))
        meet = max(hunting_turns(x, y) for x, y in zip(counts[::2], counts[1::2], strict=True))
        result.append(
            Offer(tuple(counts), exact, 100 * (exact / u - 1), True, meet, float(as_float(a)[n]), float(d[n]))
        )
    return _ranked(result)


PLANETARY_RATIO = {
    ("sun", "carrier", "ring"): lambda i: 1 + i, ("carrier", "sun", "ring"): lambda i: 1 / (1 + i),
    ("sun", "ring", "carrier"): lambda i: -i, ("ring", "sun", "carrier"): lambda i: -1 / i,
    ("ring", "carrier", "sun"): lambda i: 1 + 1 / i, ("carrier", "ring", "sun"): lambda i: 1 / (1 + 1 / i),
}  # fmt: skip
"""Ratio by (input, output, held) from the ring's over the sun's count; for the search alone, the train itself is
solved."""


def planetary(u: float, roles: tuple[str, str, str], at: Bounds) -> list[Offer]:
    """Counts (sun, planet, ring) of a planet set; planets that would touch are left out.

    Parameters
    ----------
    u : float
        Ratio wanted, input over output speed, with its sign.
    roles : tuple[str, str, str]
        Driving, driven and held member.
    at : Bounds
        Bounds of counts, tolerance of the ratio and modules.

    Returns
    -------
    list[Offer]
        Counts, the nearest ratio first.

    Notes
    -----
    Half teeth are left out too: the planet takes the whole number next below half the difference, and shifts do the
    rest.

    Examples
    --------
    >>> o = planetary(4.5, ("sun", "carrier", "ring"), Bounds(tolerance=0.01))[0]
    >>> o.z[2] / o.z[0], o.even
    (3.5, True)
    """
    sun, ring = np.meshgrid(np.arange(at.least, at.greatest + 1), np.arange(at.least, at.largest + 1), indexing="ij")
    with np.errstate(divide="ignore"):
        ratio = PLANETARY_RATIO[roles](ring / sun)
    planet = (ring - sun) // 2
    fits = (planet >= at.least) & (planet <= at.greatest)
    clear = (sun + planet) * np.sin(np.pi / at.planets) > planet + 2.5 if at.planets > 1 else np.ones_like(fits)
    off = 100 * (np.abs(ratio) / abs(u) - 1)
    good = fits & clear & (np.abs(off) <= at.tolerance)
    if not good.any():
        inside = np.abs(ratio[fits & clear])
        low, high = (float(inside.min()), float(inside.max())) if inside.size else (0.0, 0.0)
        raise _none(u, tr("a planet set"), low, high)
    m = at.m_t[0]
    good = _small(good, as_float(m * (sun + planet) / 2), as_float(m * ring + at.over[0]), at)
    even = (sun + ring) % at.planets == 0
    rows = zip(sun[good], planet[good], ring[good], ratio[good], off[good], even[good], strict=True)
    result = [
        Offer(
            (int(s), int(p), int(r)),
            float(w),
            float(d),
            bool(e),
            hunting_turns(int(s), int(p)),
            float(m * (s + p) / 2),
            float(m * r + at.over[0]),
            {"shift": float((r - s) % 2)},
        )
        for s, p, r, w, d, e in rows
    ]
    return _ranked(result)


def follow(
    z: tuple[int, int, int], changed: int, value: int, kept: int
) -> tuple[tuple[int, int, int] | None, list[tuple[int, int, int]]]:
    """Counts (sun, planet, ring) after one is changed and another kept, the third following from ring = sun + 2 planet.

    Parameters
    ----------
    z : tuple[int, int, int]
        Counts of sun, planet, ring.
    changed : int
        Number of the count that is changed.
    value : int
        Its new value.
    kept : int
        Number of the count that is kept.

    Returns
    -------
    tuple[tuple[int, int, int] | None, list[tuple[int, int, int]]]
        The counts, or None where a half tooth would come out, and the nearest whole sets.

    Examples
    --------
    >>> follow((20, 30, 80), 0, 22, 1)
    ((22, 30, 82), [])
    >>> follow((20, 30, 80), 0, 21, 2)
    (None, [(20, 30, 80), (22, 29, 80)])
    """
    new = list(z)
    new[changed] = value
    third = 3 - changed - kept
    sun, planet, ring = new
    exact = {0: ring - 2 * planet, 1: (ring - sun) / 2, 2: sun + 2 * planet}[third]
    if exact == int(exact):
        new[third] = int(exact)
        return ((new[0], new[1], new[2]) if min(new) > 0 else None), []
    near = []
    for step in (-1, 1):
        result, _ = follow(z, changed, value + step, kept)
        if result:
            near.append(result)
    return None, near

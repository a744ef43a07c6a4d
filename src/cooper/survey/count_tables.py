"""Tooth counts that have the wanted ratio, for every arrangement: all combinations, those that the rules of counts
leave."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from msgspec import Struct, field
from numpy.typing import NDArray

from cooper.document.survey_spec import SurveySpec
from cooper.kinds.internal_wheel import ROOM_IN_RING
from cooper.trains.counts import LEAST_SUN, PLANETARY_RATIO

Counts = NDArray[np.int64]
MOST_ROWS = 400_000
"""Combinations that are kept of one arrangement; of more every so-many-th."""
NEAR = 0.8
"""Addendum, in modules, with which planets surely touch where they do not pass."""


class CountTable(Struct):
    """``z`` (rows, gears): positive counts in the order in which the meshes name the gears, each gear once.
    ``possible`` combinations there were, ``gone`` how many each rule took; where there were too many, one in
    ``thinned`` was kept. ``own`` are further numbers of each row, by name, where they go with its counts instead of
    being combined with them."""

    z: Counts
    possible: float
    gone: dict[str, float] = field(default_factory=dict)
    thinned: float = 1.0
    own: dict[str, NDArray[np.float64]] = field(default_factory=dict)


def _grid(*ranges: tuple[int, int]) -> list[Counts]:
    lines = [np.arange(low, high + 1) for low, high in ranges]
    return [g.ravel() for g in np.meshgrid(*lines, indexing="ij")]


class _Sieve:
    """Combinations as they pass rule after rule; rules that are shown only take nothing away."""

    def __init__(
        self, z: list[Counts], possible: float, shown: tuple[str, ...], weight: NDArray[np.float64] | None = None
    ) -> None:
        self.z, self.shown = z, shown
        self.table = CountTable(np.empty((0, len(z)), dtype=np.int64), possible)
        self.weight = np.full(len(z[0]), possible / max(len(z[0]), 1)) if weight is None else weight

    def rule(self, key: str, good: NDArray[np.bool_]) -> None:
        if key in self.shown:
            return
        self.table.gone[key] = self.table.gone.get(key, 0.0) + float(np.sum(self.weight[~good]))
        self.z, self.weight = [v[good] for v in self.z], self.weight[good]

    def done(self) -> CountTable:
        z = np.stack(self.z, axis=1) if self.z else self.table.z
        if len(z) > MOST_ROWS:
            self.table.thinned *= len(z) / MOST_ROWS
            few = np.linspace(0, len(z) - 1, MOST_ROWS).astype(int)
            z, self.table.own = z[few], {name: v[few] for name, v in self.table.own.items()}
        self.table.z = z
        return self.table


class ModulePairs(Struct, frozen=True):
    """Modules ``m`` (mm) of the first mesh of a planet with two gears, how many steps of the series the second
    mesh's stands above each (``grow``), and the ``ratio`` of the first to the second. Counts depend on the ratio
    alone."""

    m: NDArray[np.float64]
    grow: NDArray[np.float64]
    ratio: NDArray[np.float64]

    @property
    def ratios(self) -> NDArray[np.float64]:
        """Each ratio once."""
        return np.unique(self.ratio)

    @property
    def many(self) -> Counts:
        """How many pairs have each of them."""
        return np.unique(self.ratio, return_counts=True)[1]

    def sieve(
        self, z: list[Counts], step: Counts, shown: tuple[str, ...], near: Callable[[Counts], NDArray[np.bool_]]
    ) -> _Sieve:
        """Counts with that of the ring at the end, for each ratio the one nearest to ``step`` teeth of the first
        module above the last of ``z``, and the number of the ratio, that are ``near`` the wanted one. One ratio after
        the other, as there may be many combinations of which few are."""
        kept, weight, lost = [], [], 0.0
        # Where any ratio will do there are too many to hold: every so-many-th stands for all.
        few = max(1, len(step) * len(self.ratios) // MOST_ROWS) if "ratio" in shown else 1
        for k, (ratio, times) in enumerate(zip(self.ratios.tolist(), self.many.tolist(), strict=True)):
            ring = z[-1] + np.rint(step * ratio).astype(np.int64)
            good = np.arange(len(ring)) % few == 0 if "ratio" in shown else near(ring)
            kept.append(np.stack([v[good] for v in (*z, ring, np.full(len(ring), k))]))
            weight.append(np.full(int(good.sum()), float(times) * few))
            lost += 0.0 if "ratio" in shown else times * float(np.sum(~good))
        sieve = _Sieve(
            list(np.concatenate(kept, axis=1)), float(len(step) * len(self.m)), shown, np.concatenate(weight)
        )
        sieve.table.gone["ratio"], sieve.table.thinned = lost, float(few)
        return sieve

    def given(self, sieve: _Sieve) -> CountTable:
        """The table with each of its rows, the last column of which is the number of its ratio, once for every pair
        of that ratio."""
        many, order = self.many, np.argsort(self.ratio, kind="stable")
        of = sieve.z.pop()
        end = np.cumsum(many[of])
        total = int(end[-1]) if len(end) else 0
        picked = np.linspace(0, total - 1, min(total, MOST_ROWS)).astype(np.int64)
        sieve.table.thinned *= max(total / MOST_ROWS, 1.0)
        row = np.searchsorted(end, picked, side="right")
        place = picked - (end - many[of])[row]
        chosen = order[(np.cumsum(many) - many)[of[row]] + place]
        sieve.z = [v[row] for v in sieve.z]
        sieve.table.own = {"m": self.m[chosen], "grow 1": self.grow[chosen]}
        return sieve.done()


def _near(ratio: NDArray[np.float64], u: float, tolerance: float) -> NDArray[np.bool_]:
    # A ratio at the very end of its tolerance is within it.
    return np.abs(np.abs(ratio) / u - 1) * 100 <= tolerance * (1 + 1e-12) + 1e-9


def _no_factor(*pairs: tuple[Counts, Counts]) -> NDArray[np.bool_]:
    good = np.ones(len(pairs[0][0]), dtype=bool)
    for a, b in pairs:
        good &= np.gcd(a, b) == 1
    return good


def pair_counts(q: SurveySpec, u: float, tolerance: float, ring: bool = False) -> CountTable:
    """Pinion and wheel of a pair, the driving gear first; or pinion and ring.

    Parameters
    ----------
    q : SurveySpec
        What is asked of the survey.
    u : float
        Ratio wanted, input over output speed, with its sign.
    tolerance : float
        Greatest chord error (mm).
    ring : bool
        Whether the wheel is a ring.

    Returns
    -------
    CountTable
        Counts of pinion and wheel, the driving gear first.
    """
    high = q.z_ring if ring else q.z_most
    small, large = _grid((q.z_least, q.z_pinion), (q.z_least, high))
    possible = float(len(small))
    z = [small, large] if u >= 1 or ring else [large, small]
    sieve = _Sieve(z, possible, q.shown)
    sieve.rule("ratio", _near(sieve.z[1] / sieve.z[0], u, tolerance))
    if ring:
        sieve.rule("ring", sieve.z[1] >= sieve.z[0] + ROOM_IN_RING // 2)
    sieve.rule("factor", _no_factor((sieve.z[0], sieve.z[1])))
    return sieve.done()


def chain_counts(q: SurveySpec, u: float, tolerance: float, stages: int) -> CountTable:
    """Counts of stages in line.

    Parameters
    ----------
    q : SurveySpec
        What is asked of the survey.
    u : float
        Ratio wanted, input over output speed, with its sign.
    tolerance : float
        Greatest chord error (mm).
    stages : int
        Number of stages.

    Returns
    -------
    CountTable
        Counts of all gears in line.

    Notes
    -----
    The ratio falls from each stage to the next by 1 to ``q.lean`` times, a little either way.
    """
    low, high = _grid((q.z_least, q.z_pinion), (q.z_least, q.z_most))
    if u < 1:
        low, high = high, low
    r = high / low
    n_all = len(r)
    least, most = (1.0, max(q.lean, 1.0))
    mean = u ** (1 / stages)
    around = []
    for k in range(stages):
        # Where the greatest lean would put this stage, and none.
        power = (stages - 1) / 2 - k
        ends = sorted((mean * least**power, mean * most**power))
        around.append((r >= ends[0] * 0.96) & (r <= ends[1] * 1.04))
    possible = float(n_all) ** stages
    rows = [np.flatnonzero(a) for a in around]
    head = rows[0][:, None]
    product = r[rows[0]]
    for k in range(1, stages - 1):
        most_here = max(int(MOST_ROWS / max(len(head), 1)), 1)
        pick = (
            rows[k] if len(rows[k]) <= most_here else rows[k][np.linspace(0, len(rows[k]) - 1, most_here).astype(int)]
        )
        head = np.column_stack((np.repeat(head, len(pick), axis=0), np.tile(pick, len(head))))
        product = np.repeat(product, len(pick)) * np.tile(r[pick], len(product))
    last = rows[-1][np.argsort(r[rows[-1]], kind="stable")]
    band = 1 + (tolerance * (1 + 1e-12) + 1e-9) / 100
    inner = 1 - (tolerance * (1 + 1e-12) + 1e-9) / 100
    start = np.searchsorted(r[last], u * inner / product * (1 - 1e-13))
    end = np.searchsorted(r[last], u * band / product * (1 + 1e-13))
    count = end - start
    each = np.repeat(np.arange(len(head)), count)
    offset = np.arange(int(count.sum())) - np.repeat(np.cumsum(count) - count, count)
    tail = last[start[each] + offset]
    table = CountTable(np.empty((0, 2 * stages), dtype=np.int64), possible)
    chosen = np.column_stack((head[each], tail)) if len(each) else np.empty((0, stages), dtype=int)
    if len(chosen) > MOST_ROWS:
        table.thinned = len(chosen) / MOST_ROWS
        chosen = chosen[np.linspace(0, len(chosen) - 1, MOST_ROWS).astype(int)]
    z = np.empty((len(chosen), 2 * stages), dtype=np.int64)
    for k in range(stages):
        z[:, 2 * k], z[:, 2 * k + 1] = low[chosen[:, k]], high[chosen[:, k]]
    table.gone["ratio"] = possible - len(z) * table.thinned
    if "factor" not in q.shown and len(z):
        good = _no_factor(*((z[:, 2 * k], z[:, 2 * k + 1]) for k in range(stages)))
        table.gone["factor"] = float(np.sum(~good)) * table.thinned
        z = z[good]
    table.z = z
    return table


def idler_counts(q: SurveySpec, u: float, tolerance: float) -> CountTable:
    """First gear, idler, last gear; the idler's count is free.

    Parameters
    ----------
    q : SurveySpec
        What is asked of the survey.
    u : float
        Ratio wanted, input over output speed, with its sign.
    tolerance : float
        Greatest chord error (mm).

    Returns
    -------
    CountTable
        Counts of first gear, idler, last gear.
    """
    ends = pair_counts(q.replace_unchecked(shown=(*q.shown, "factor")), u, tolerance)
    idlers = np.arange(q.z_least, q.z_most + 1)
    z = np.column_stack((np.repeat(ends.z, len(idlers), axis=0), np.tile(idlers, len(ends.z))))[:, [0, 2, 1]]
    sieve = _Sieve([z[:, 0], z[:, 1], z[:, 2]], float(len(z)), q.shown)
    sieve.table.possible = ends.possible * len(idlers)
    sieve.table.gone = {k: v * len(idlers) for k, v in ends.gone.items()}
    sieve.rule("factor", _no_factor((sieve.z[0], sieve.z[1]), (sieve.z[1], sieve.z[2])))
    return sieve.done()


def _clear(step: Counts, planet: Counts, planets: int) -> NDArray[np.bool_]:
    """Whether planets do not surely touch, from the count of the distance (both gears' counts added) and theirs."""
    if planets < 2:
        return np.ones(len(step), dtype=bool)
    return np.asarray(step * np.sin(np.pi / planets) > planet + 2 * NEAR - 1.5)


def planet_counts(q: SurveySpec, u: float, tolerance: float, role: tuple[str, str, str], planets: int) -> CountTable:
    """Sun, planet, ring; the planet takes the whole number next below half of what is between sun and ring.

    Parameters
    ----------
    q : SurveySpec
        What is asked of the survey.
    u : float
        Ratio wanted, input over output speed, with its sign.
    tolerance : float
        Greatest chord error (mm).
    role : tuple[str, str, str]
        Driven, driving and held member of the set, input first.
    planets : int
        Number of planets.

    Returns
    -------
    CountTable
        Counts of sun, planet, ring.
    """
    sun, planet, odd = _grid((q.z_least, q.z_pinion), (q.z_least, q.z_most), (0, 1))
    sieve = _Sieve([sun, planet, sun + 2 * planet + odd], float(len(sun)), q.shown)
    with np.errstate(divide="ignore"):
        ratio = PLANETARY_RATIO[role](sieve.z[2] / sieve.z[0])
    sieve.rule("ratio", _near(np.asarray(ratio, dtype=float), u, tolerance))
    sieve.rule("ring", sieve.z[2] <= q.z_ring)
    sieve.rule("even", (sieve.z[0] + sieve.z[2]) % planets == 0)
    sieve.rule("room", _clear(sieve.z[0] + sieve.z[1], sieve.z[1], planets))
    sieve.rule("factor", _no_factor((sieve.z[0], sieve.z[1]), (sieve.z[1], sieve.z[2])))
    return sieve.done()


def stepped_counts(
    q: SurveySpec, u: float, tolerance: float, role: tuple[str, str, str], planets: int, modules: ModulePairs
) -> CountTable:
    """Sun, planet at the sun, planet at the ring, ring: the count of the ring that is nearest to the first mesh's
    distance; pairs of modules go with the counts.

    Parameters
    ----------
    q : SurveySpec
        What is asked of the survey.
    u : float
        Ratio wanted, input over output speed, with its sign.
    tolerance : float
        Greatest chord error (mm).
    role : tuple[str, str, str]
        Driven, driving and held member of the set, input first.
    planets : int
        Number of planets.
    modules : ModulePairs
        Pairs of modules of both meshes (mm).

    Returns
    -------
    CountTable
        Counts of sun, planet at the sun, planet at the ring, ring.
    """
    ratios = modules.ratios
    # Planets beyond a few times the sun leave no room for the ring.
    sun, large, small = _grid(
        (q.z_least, q.z_pinion), (q.z_least, q.z_most), (q.z_least, max(q.z_pinion, q.z_least + 1))
    )

    def near(ring: Counts) -> NDArray[np.bool_]:
        i = large * ring / (sun * small)
        return _near(np.asarray(PLANETARY_RATIO[role](i), dtype=float), u, tolerance)

    sieve = modules.sieve([sun, large, small], sun + large, q.shown, near)
    sieve.rule("ring", (sieve.z[3] <= q.z_ring) & (sieve.z[1] != sieve.z[2]))
    z_s, z_1, z_2, z_r, of = sieve.z
    sieve.rule("even", ((z_1 * z_r + z_2 * z_s) // np.gcd(z_1, z_2)) % planets == 0)
    z_s, z_1, z_2, _, of = sieve.z
    sieve.rule("room", _clear(z_s + z_1, np.maximum(z_1, z_2 / ratios[of]), planets))
    sieve.rule("factor", _no_factor((sieve.z[0], sieve.z[1]), (sieve.z[2], sieve.z[3])))
    return modules.given(sieve)


def two_ring_counts(
    q: SurveySpec, u: float, tolerance: float, sun: bool, planets: int, modules: ModulePairs
) -> CountTable:
    """Planet, ring, planet's second gear, ring 2, and the sun where it drives: the count of ring 2 that is nearest to
    the first mesh's distance; pairs of modules go with the counts.

    Parameters
    ----------
    q : SurveySpec
        What is asked of the survey.
    u : float
        Ratio wanted, input over output speed, with its sign.
    tolerance : float
        Greatest chord error (mm).
    sun : bool
        Whether a sun drives.
    planets : int
        Number of planets.
    modules : ModulePairs
        Pairs of modules of both meshes (mm).

    Returns
    -------
    CountTable
        Counts of planet, ring, planet's second gear, ring 2, sun.
    """
    ratios = modules.ratios
    high = min(q.z_most, 60)
    first, second, step = _grid((q.z_least, high), (q.z_least, high), (q.z_least, max(q.z_ring - q.z_least, q.z_least)))
    outer = first + step
    through = outer * second / first
    between = outer - 2 * first
    driven = np.where(between > 0, 1 + outer / np.maximum(between, 1), np.inf) if sun else 1.0

    def near(other: Counts) -> NDArray[np.bool_]:
        with np.errstate(divide="ignore", invalid="ignore"):
            ratio = driven / (1 - through / other)
            return np.isfinite(ratio) & _near(ratio, u, tolerance)

    sieve = modules.sieve([first, outer, second], step, q.shown, near)
    if sun:
        sieve.rule("ring", sieve.z[1] - 2 * sieve.z[0] >= LEAST_SUN)
    sieve.rule("ring", np.maximum(sieve.z[1], sieve.z[3]) <= q.z_ring)
    z_1, r_1, z_2, r_2, of = sieve.z
    places = np.abs(z_1 * r_2 - z_2 * r_1) // np.gcd(z_1, z_2)
    if sun:
        places = np.gcd(places, r_1 - 2 * z_1 + r_1)
    sieve.rule("even", (places > 0) & (places % planets == 0))
    z_1, r_1, z_2, _, of = sieve.z
    sieve.rule("room", _clear(r_1 - z_1, np.maximum(z_1, z_2 / ratios[of]), planets))
    sieve.rule("factor", _no_factor((sieve.z[0], sieve.z[1]), (sieve.z[2], sieve.z[3])))
    if sun:
        sieve.z.insert(4, sieve.z[1] - 2 * sieve.z[0])
    return modules.given(sieve)


def reaches(role: tuple[str, str, str], u: float, tolerance: float) -> bool:
    """Whether a planet set so driven has such a ratio at all, for rings of 1.2 to 30 times the sun.

    Parameters
    ----------
    role : tuple[str, str, str]
        Driven, driving and held member of the set, input first.
    u : float
        Ratio wanted, input over output speed, with its sign.
    tolerance : float
        Greatest chord error (mm).

    Returns
    -------
    bool
        True where it has.
    """
    ends = sorted(abs(float(PLANETARY_RATIO[role](i))) for i in (1.2, 30.0))
    return bool(ends[0] * (1 - tolerance / 100) <= u <= ends[1] * (1 + tolerance / 100))

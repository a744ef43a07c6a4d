"""The bearing that is proposed for a place: the one that costs least of those that live long enough."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from cooper.arrays import Array, frozen
from cooper.machine.judge_shaft import lives_of, ratings, static_factor_of
from cooper.machine.shaft_model import BearingGiven, Borne, Rules
from cooper.stock.rolling import Bearing, bearings_of, rolling_types, series_of

DEARER = {
    "deep groove ball": 1.0,
    "angular contact ball": 1.4,
    "cylindrical roller": 1.4,
    "tapered roller": 1.4,
    "needle roller": 1.2,
    "spherical roller": 2.2,
}
"""Rough cost of a type for its mass; chosen here, to prefer the plain ball bearing where it does."""

PROPOSED = {
    True: ("deep groove ball", "spherical roller"),
    False: ("deep groove ball", "cylindrical roller", "spherical roller"),
}
"""Types that are proposed for a bearing that bears thrust, and for one that floats."""

BORES = 4
"""Next greater bores that are looked at."""


def candidates(given: BearingGiven, least: float, fixed: bool) -> Iterator[Bearing]:
    """Bearings of the next bores from ``least`` (mm) on, of the types that fit the place, or of the one that is given."""
    kinds = (given.type,) if given.type in rolling_types() else PROPOSED[fixed]
    for kind in kinds:
        assert kind is not None
        for series in series_of(kind):
            if given.series and given.series in series_of(kind) and series != given.series:
                continue
            if not given.series and series == "18":
                continue
            yield from [b for b in bearings_of(kind, series) if b.d >= least - 1e-9][:BORES]


def borne(name: str, b: Bearing, at: float, fixed: bool, given: BearingGiven) -> Borne:
    """A bearing at its place, with the maker's ratings where they are typed."""
    C, C_0 = ratings(b)
    typed = given.C is not None or given.C_0 is not None
    return Borne(name=name, bearing=b, at=at, C=given.C or C, C_0=given.C_0 or C_0, fixed=fixed, typed=typed)


def choose_bearing(
    least: float,
    roof: float,
    D_most: float,
    F_r: Array,
    F_a: Array,
    n: float,
    fixed: bool,
    given: BearingGiven,
    rules: Rules,
    spare: float = 1.0,
    B_most: float = np.inf,
) -> Bearing | None:
    """The cheapest bearing from the bore ``least`` on that holds the loads of all cases (N), whose shoulder goes under ``roof`` and whose outside
    diameter is at most ``D_most`` and width ``B_most`` (mm), with ``spare`` times the life and that power of the static safety asked for; the strongest that fits where none holds, None where there is none of such a bore."""
    left = _that_fit(given, least, fixed, roof, D_most, B_most)
    # Types one after the other, each only as far as it is cheaper than what was found before.
    best: tuple[int, Bearing] | None = None
    strongest: tuple[float, int, Bearing] | None = None
    for all_of in left:
        of = all_of if best is None else all_of.before(best[0])
        if not of.bearings:
            continue
        f = lives_of(of.bearings[0], of.C, of.C_0, of.D_pw, of.f_0, F_r, F_a, n, rules)
        worst = np.minimum(f.L_nmh / rules.L_h, (f.S_0 / rules.S_0min) ** 3)
        holds = np.nonzero((worst >= spare) & (n <= of.n_limit))[0]
        if len(holds):
            best = of.order[holds[0]], of.bearings[holds[0]]
        k = int(np.argmax(worst))
        if strongest is None or (float(worst[k]), of.order[k]) > strongest[:2]:
            strongest = float(worst[k]), of.order[k], of.bearings[k]
    if best is not None:
        return best[1]
    return None if strongest is None else strongest[2]


@dataclass(frozen=True)
class _OfType:
    """Bearings of one type, the cheapest first, with their place in the order of all types, and what their lives ask for."""

    bearings: tuple[Bearing, ...]
    order: tuple[int, ...]
    C: Array
    C_0: Array
    D_pw: Array
    f_0: Array
    n_limit: Array

    def before(self, place: int) -> _OfType:
        """Those that are cheaper than the one at a place of the order."""
        n = sum(k < place for k in self.order)
        return _OfType(
            self.bearings[:n],
            self.order[:n],
            *(v[:n] for v in (self.C, self.C_0, self.D_pw, self.f_0, self.n_limit)),
        )


@lru_cache(maxsize=512)
def _that_fit(
    given: BearingGiven, least: float, fixed: bool, roof: float, D_most: float, B_most: float
) -> tuple[_OfType, ...]:
    """The bearings for a place by their types; where nothing fits the one that is least in the way."""
    found = sorted(candidates(given, least, fixed), key=lambda b: _cost(b, least))
    fitting = [b for b in found if D_most >= b.D and B_most >= b.B and b.d + 2 * shoulder_height(b.r_s) <= roof + 1e-9]
    left = fitting or sorted(found, key=lambda b: (b.d, b.D))[:1]
    types = []
    for kind in dict.fromkeys(b.type for b in left):
        own = [(k, b) for k, b in enumerate(left) if b.type == kind]
        rated = [borne("", b, 0.0, fixed, given) for _, b in own]
        columns = (
            [b.C for b in rated],
            [b.C_0 for b in rated],
            [b.D_pw for _, b in own],
            [static_factor_of(b) for _, b in own],
            [b.n_limit for _, b in own],
        )
        types.append(
            frozen(_OfType(tuple(b for _, b in own), tuple(k for k, _ in own), *(np.array(c) for c in columns)))
        )
    return tuple(types)


def shoulder_height(r_s: float) -> float:
    """Least height of the shoulder against which a bearing with the chamfer r_s stands: 2.8 r_s; mm. As is customary."""
    return 2.8 * r_s


def _cost(b: Bearing, least: float) -> float:
    """Rough cost of a bearing, with the thicker shaft that it asks for."""
    return DEARER[b.type] * (b.mass + 1e-3) * (b.d / least) ** 2

"""The bearing that is proposed for a place: the one that costs least of those that live long enough."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from cooper.arrays import Array
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
    name: str,
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
    found = sorted(candidates(given, least, fixed), key=lambda b: _cost(b, least))
    fitting = [b for b in found if D_most >= b.D and B_most >= b.B and b.d + 2 * shoulder_height(b.r_s) <= roof + 1e-9]
    # Where nothing fits the one that is least in the way.
    left = fitting or sorted(found, key=lambda b: (b.d, b.D))[:1]
    if not left:
        return None
    # Types one after the other, each only as far as it is cheaper than what was found before.
    best: int | None = None
    strongest = (-1.0, 0)
    for kind in dict.fromkeys(b.type for b in left):
        own = [k for k, b in enumerate(left) if b.type == kind and (best is None or k < best)]
        if not own:
            continue
        rated = [borne(name, left[k], 0.0, fixed, given) for k in own]
        C, C_0 = np.array([b.C for b in rated]), np.array([b.C_0 for b in rated])
        D_pw, f_0 = np.array([left[k].D_pw for k in own]), np.array([static_factor_of(left[k]) for k in own])
        f = lives_of(left[own[0]], C, C_0, D_pw, f_0, F_r, F_a, n, rules)
        worst = np.minimum(f.L_nmh / rules.L_h, (f.S_0 / rules.S_0min) ** 3)
        best = next((k for k, w in zip(own, worst, strict=True) if w >= spare and n <= left[k].n_limit), best)
        strongest = max(strongest, (float(worst.max()), own[int(np.argmax(worst))]))
    return left[best if best is not None else strongest[1]]


def shoulder_height(r_s: float) -> float:
    """Least height of the shoulder against which a bearing with the chamfer r_s stands: 2.8 r_s; mm. As is customary."""
    return 2.8 * r_s


def _cost(b: Bearing, least: float) -> float:
    """Rough cost of a bearing, with the thicker shaft that it asks for."""
    return DEARER[b.type] * (b.mass + 1e-3) * (b.d / least) ** 2

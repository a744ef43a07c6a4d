"""The bearing that is proposed for a place: the one that costs least of those that live long enough."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Index, frozen
from cooper.kept import keeps
from cooper.machine.check_bearing import lives_of, ratings, static_factor_of
from cooper.machine.shaft_model import BearingGiven, Borne, Rules
from cooper.stock.rolling import Bearing, bearings_of, bores_of, rolling_types, series_of

PROPOSED = {
    True: ("deep groove ball", "spherical roller"),
    False: ("deep groove ball", "cylindrical roller", "spherical roller"),
}
"""Types that are proposed for a bearing that bears thrust, and for one that floats."""

BORES = 9
"""Number of next greater bores that are candidates."""


def candidates(given: BearingGiven, least: float, fixed: bool) -> Iterator[Bearing]:
    """Bearings of the next bores, of the types that fit the place or of the one that is given.

    Parameters
    ----------
    given : BearingGiven
        What a person fixed of it.
    least : float
        Least bore (mm).
    fixed : bool
        Whether the bearing has to hold the shaft along its axis.

    Yields
    ------
    Bearing
        Bearings by rising bore.
    """
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
    """A bearing at its place, with the maker's ratings where they are typed for this one.

    Parameters
    ----------
    name : str
        Name of the bearing.
    b : Bearing
        The bearing.
    at : float
        Place of its middle (mm).
    fixed : bool
        Whether the bearing has to hold the shaft along its axis.
    given : BearingGiven
        What a person fixed of it.

    Returns
    -------
    Borne
        The bearing at its place.
    """
    C, C_0 = ratings(b)
    own = given.rated is None or given.rated == b.name
    typed = own and (given.C is not None or given.C_0 is not None)
    return Borne(
        name=name,
        bearing=b,
        at=at,
        C=(own and given.C) or C,
        C_0=(own and given.C_0) or C_0,
        fixed=fixed,
        typed=typed,
    )


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
    bore: float | None = None,
) -> Bearing | None:
    """The cheapest bearing that holds the loads of all cases.

    Parameters
    ----------
    least : float
        Least bore (mm).
    roof : float
        Greatest diameter of its shoulder (mm).
    D_most : float
        Greatest outside diameter (mm).
    F_r : Array
        Radial loads of all cases (N).
    F_a : Array
        Axial loads of all cases (N).
    n : float
        Speed (1/min).
    fixed : bool
        Whether the bearing has to hold the shaft along its axis.
    given : BearingGiven
        What a person fixed of it.
    rules : Rules
        What is counted, with least safeties and methods.
    spare : float
        Factor on the life asked for; that power of it on the static safety.
    B_most : float
        Greatest width (mm).
    bore : float | None
        The bore that a person gave the seat (mm); no other is taken where one of it is made.

    Returns
    -------
    Bearing | None
        The bearing; the strongest that fits where none holds, None where there is none of such a bore.

    References
    ----------
    ISO 281:2007 and ISO 76:2006.
    """
    all_of = _candidates_of(given, _next_bore(least), fixed)
    # Types one after the other, each only as far as it is cheaper than what was found before.
    fits = np.nonzero((D_most >= all_of.D) & (B_most >= all_of.B) & (all_of.d_shoulder <= roof + 1e-9))[0]
    given_bore = [k for k in fits if all_of.bearings[k].d == bore]
    if given_bore:
        fits = np.array(given_bore, dtype=int)
    if not len(fits):
        # No bearing fits: those of the smallest bore.
        least_bore = min((b.d for b in all_of.bearings), default=0.0)
        fits = np.array([k for k, b in enumerate(all_of.bearings) if b.d == least_bore], dtype=int)
    best: int | None = None
    strongest = (-1.0, -1)
    for kind in dict.fromkeys(all_of.kind[fits].tolist()):
        own = fits[(all_of.kind[fits] == kind) & (fits < (len(all_of.bearings) if best is None else best))]
        if not len(own):
            continue
        C, C_0, D_pw, f_0 = (v[own] for v in (all_of.C, all_of.C_0, all_of.D_pw, all_of.f_0))
        f = lives_of(all_of.bearings[own[0]], C, C_0, D_pw, f_0, F_r, F_a, n, rules)
        worst = np.minimum(f.L_nmh / rules.L_h, (f.S_0 / rules.S_0min) ** 3)
        holds = own[(worst >= spare) & (n <= all_of.n_limit[own])]
        best = int(holds[0]) if len(holds) else best
        strongest = max(strongest, (float(worst.max()), int(own[int(np.argmax(worst))])))
    chosen = best if best is not None else strongest[1]
    return all_of.bearings[chosen] if chosen >= 0 else None


class _Candidates(Struct, frozen=True):
    """Bearings for a place, the cheapest first, with the number of their type and what fit and lives ask for, an
    array over them."""

    bearings: tuple[Bearing, ...]
    kind: Index
    D: Array
    B: Array
    d_shoulder: Array
    C: Array
    C_0: Array
    D_pw: Array
    f_0: Array
    n_limit: Array


@keeps(512)
def _candidates_of(given: BearingGiven, least: float, fixed: bool) -> _Candidates:
    bearings = sorted(candidates(given, least, fixed), key=_cost)
    rated = [borne("", b, 0.0, fixed, given) for b in bearings]
    kinds = list(dict.fromkeys(b.type for b in bearings))
    columns = (
        [b.D for b in bearings],
        [b.B for b in bearings],
        [b.d_a_min for b in bearings],
        [r.C for r in rated],
        [r.C_0 for r in rated],
        [b.D_pw for b in bearings],
        [static_factor_of(b) for b in bearings],
        [b.n_limit for b in bearings],
    )
    numbers = frozen(tuple(np.array(c, dtype=float) for c in columns))
    return _Candidates(tuple(bearings), frozen(np.array([kinds.index(b.type) for b in bearings], dtype=int)), *numbers)


def _next_bore(least: float) -> float:
    """The least bore from ``least`` on that any type has; what is cheaper than what else does not depend on the
    diameter between two bores."""
    bores = _all_bores()
    k = int(np.searchsorted(bores, least - 1e-9))
    return float(bores[k]) if k < len(bores) else least


@cache
def _all_bores() -> Array:
    return frozen(np.array(sorted({d for kind in rolling_types() for d in bores_of(kind)})))


def _cost(b: Bearing) -> float:
    """Rough cost of a bearing, with the thicker shaft that it asks for; its unit does not matter."""
    return b.cost * (b.mass + 1e-3) * b.d**2

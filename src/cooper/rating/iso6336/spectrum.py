"""Service life under a load spectrum, each level of which is a load case: damage sum, and the safety at which it is 1.
ISO 6336-6:2019."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from cooper.arrays import Array, Real, as_float, where

ROUNDS = 60
"""Halvings of the safety; from a factor of 1e12 they leave less than 1e-15 of it."""


def damage(stress: Real, cycles: Real, life: Callable[[Array], Array]) -> Array:
    """Share of the life that each level uses up, n_i/N_i; the levels are the first axis.

    Parameters
    ----------
    stress : Real
        Stress of each level, on the first axis (MPa).
    cycles : Real
        Load cycles of each level, on the first axis.
    life : Callable[[Array], Array]
        Cycles that a stress may act.

    Returns
    -------
    Array
        Damage of each level; infinite where a stress above static strength acts at all.

    Notes
    -----
    n_i/N_i.

    References
    ----------
    Miner's rule, ISO 6336-6:2019, 5.

    Examples
    --------
    >>> damage([100.0, 50.0], [10.0, 30.0], lambda s: 1e5 / s).tolist()
    [0.01, 0.015]
    """
    N = life(as_float(stress))
    n = as_float(cycles)
    with np.errstate(divide="ignore", invalid="ignore"):
        return where(n > 0, where(N > 0, n / N, np.inf), 0.0)


def equivalent_safety(stress: Real, cycles: Real, life: Callable[[Array], Array]) -> Array:
    """Factor on all stresses of a spectrum at which its damage sum becomes 1: the safety for the whole spectrum.

    Parameters
    ----------
    stress : Real
        Stress of each level, on the first axis (MPa).
    cycles : Real
        Load cycles of each level, on the first axis.
    life : Callable[[Array], Array]
        Cycles that a stress may act.

    Returns
    -------
    Array
        Factor, infinite where no level bears any stress.

    Notes
    -----
    With one level it is the plain safety at that level's cycles.

    References
    ----------
    ISO 6336-6:2019, 6.

    Examples
    --------
    >>> round(float(equivalent_safety([100.0], [10.0], lambda s: 1e5 / s)), 6)
    100.0
    """
    stress, cycles = as_float(stress), as_float(cycles)
    top = np.max(where(cycles > 0, stress, 0.0), axis=0)
    low = np.full(np.shape(top), np.log(1e-6))
    high = np.full(np.shape(top), np.log(1e6))
    for _ in range(ROUNDS):
        mid = (low + high) / 2
        too_much = np.sum(damage(stress * np.exp(mid), cycles, life), axis=0) > 1
        low, high = where(too_much, low, mid), where(too_much, mid, high)
    return where(top > 0, np.exp(low), np.inf)


SHAPES = {"straight": 1.0, "normal": 2.0, "full": 6.0}
"""Exponent of the standard shapes of a load collective; the greater, the longer its high loads act."""


def standard_levels(shape: str, least: float, levels: int = 8, decades: float = 6.0) -> list[tuple[float, float]]:
    """A standard shape of a spectrum as levels.

    Parameters
    ----------
    shape : str
        A key of `SHAPES`.
    least : float
        Least load ratio.
    levels : int
        Number of levels.
    decades : float
        Powers of ten between the most and the fewest cycles.

    Returns
    -------
    list[tuple[float, float]]
        Load ratio and share of the cycles of each level.

    Notes
    -----
    The load T/T_max is exceeded by 10^(decades (1 - a^v)) cycles, where a runs from 0 at the least ratio to 1 at the
    greatest and v is the exponent of `SHAPES`.

    Examples
    --------
    >>> [round(t, 3) for t, _ in standard_levels("normal", 0.0, 4)]
    [1.0, 0.75, 0.5, 0.25]
    """
    v = SHAPES[shape]
    edges = np.linspace(1, 0, levels + 1)
    exceeded = 10 ** (decades * (1 - edges**v))
    exceeded[0] = 0.0
    share = np.diff(exceeded) / exceeded[-1]
    return [(float(least + (1 - least) * a), float(q)) for a, q in zip(edges[:-1], share, strict=True)]

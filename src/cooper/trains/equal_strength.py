"""How a whole ratio is shared out among stages of equal contact strength."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, as_float
from cooper.errors import OutOfRange
from cooper.i18n.text import tr


class Strength(Struct, frozen=True):
    """What the stages of a design bear now, by stage: by how much the load could grow by its flanks and by its
    roots, ratio and count of the pinion."""

    flank: tuple[float, ...]
    root: tuple[float, ...]
    u: tuple[float, ...]
    z_1: tuple[int, ...]


def bears(now: Strength, u: Array, z_1: Array | None = None) -> Array:
    """By how much the load could grow in each stage with other ratios, modules and widths kept. 5 and ISO 6336-3:2019,
    eq. 3.

    Parameters
    ----------
    now : Strength
        Safeties and counts of the stages as they are.
    u : Array
        Ratios of the stages (..., stages).
    z_1 : Array | None
        Pinion counts of the stages, None for those that are there.

    Returns
    -------
    Array
        Factors on the load (..., stages).

    Notes
    -----
    By the nominal stresses: sigma_H^2 ~ T (u + 1)/(u b d_1^2), sigma_F ~ T/(b m_n d_1), with F_t = 2000 T/d_1; form,
    contact ratio and life factors are taken as they are.

    References
    ----------
    ISO 6336-2:2019, eq.

    Examples
    --------
    >>> now = Strength((1.0, 1.0), (1.0, 1.0), (4.0, 3.0), (20, 20))
    >>> bears(now, np.array([4.0, 3.0])).tolist(), bears(now, np.array([2.0, 6.0])).round(2).tolist()
    ([1.0, 1.0], [0.83, 2.0])
    """
    u = as_float(u)
    before = as_float(now.u)
    size = np.ones_like(u) if z_1 is None else as_float(z_1) / as_float(now.z_1)

    def torque(v: Array) -> Array:
        through = np.cumprod(v, axis=-1)
        return np.concatenate((np.ones_like(through[..., :1]), through[..., :-1]), axis=-1)

    load = torque(u) / torque(before)
    flank = as_float(now.flank) / load * (u / (u + 1)) / (before / (before + 1)) * size**2
    return as_float(np.minimum(flank, as_float(now.root) / load * size))


def equal_strength(u: float, now: Strength) -> tuple[float, ...]:
    """The split of a ratio with which all stages bear the same growth of load, modules, widths and pinions kept; each
    ratio stays between 1 and 12, so that very unlike stages end there.

    Parameters
    ----------
    u : float
        Ratio wanted, input over output speed, with its sign.
    now : Strength
        Safeties and counts of the stages as they are.

    Returns
    -------
    tuple[float, ...]
        Ratio of each stage, between 1 and 12.

    Examples
    --------
    >>> now = Strength((1.0, 1.5), (2.0, 3.0), (4.0, 3.0), (20, 20))
    >>> split = equal_strength(12.0, now)
    >>> bears(now, np.array(split)).round(3).tolist()
    [1.051, 1.051]
    """
    n = len(now.u)
    if not 1 < u <= 12.0**n:
        raise OutOfRange(
            "u", u, tr("a ratio that {n} stages split lies between 1 and {n_2}", n=n, n_2=12**n), low=1.0, high=12.0**n
        )
    whole = float(np.log(u))

    def ratios(free: Array) -> Array:
        return np.exp(np.append(free, whole - np.sum(free)))

    def miss(free: Array) -> Array:
        v = ratios(free)
        # Beyond the ends the ratio itself pulls back.
        beyond = 10 * (np.maximum(np.log(v) - np.log(12.0), 0) + np.maximum(-np.log(v), 0))
        return np.concatenate((np.diff(np.log(bears(now, v))), beyond))

    # Imported here: it would double the time that the program needs to start.
    from scipy.optimize import least_squares

    result = least_squares(miss, np.full(n - 1, whole / n)).x
    return tuple(float(v) for v in np.clip(ratios(result), 1.0, 12.0))

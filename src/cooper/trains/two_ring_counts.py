"""Counts of planet sets with two rings."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Array, as_float, where
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.trains.counts import LEAST_SUN, MOST, Bounds, Offer, _none, _ranked, _small, hunting_turns
from cooper.trains.planets import positions
from cooper.trains.solve import Link, flow, locks


def two_rings(u: float, at: Bounds, sun: bool = False) -> list[Offer]:
    """Counts of a set of planets in two rings, both meshes at one reference distance.

    Parameters
    ----------
    u : float
        Ratio wanted, input over output speed, with its sign.
    at : Bounds
        Bounds of counts, tolerance of the ratio and modules.
    sun : bool
        Whether it is driven at a sun between the planets, whose count is the fifth; else at the carrier.

    Returns
    -------
    list[Offer]
        Counts (planet, ring, planet's second gear, ring 2, sun), the nearest ratio first.

    Notes
    -----
    Ring held, ring 2 out. The second mesh has the first one's module, or one of ``at.modules_2``. ``more`` has the
    efficiency for a loss of 1 % in every mesh, as what decides, and the transverse module of the second mesh (mm).

    Examples
    --------
    >>> o = two_rings(50.0, Bounds(tolerance=2.0))[0]
    >>> o.z[1] - o.z[0] == o.z[3] - o.z[2], round(abs(o.ratio))
    (True, 50)
    >>> o = next(o for o in two_rings(50.0, Bounds(tolerance=0.5, modules_2=(0.8,))) if o.more["m_2"] == 0.8)
    >>> (o.z[1] - o.z[0]) * 1.0 == (o.z[3] - o.z[2]) * 0.8
    True
    >>> o = two_rings(150.0, Bounds(tolerance=2.0), sun=True)[0]
    >>> z_1, r_1, z_2, r_2, s = o.z
    >>> s + 2 * z_1 == r_1, round(o.ratio / ((1 + r_1 / s) / (1 - r_1 * z_2 / (z_1 * r_2))), 9)
    (True, 1.0)
    """
    result: list[Offer] = []
    reached: list[float] = []
    small: OutOfRange | None = None
    for m_2 in dict.fromkeys((at.m_t[0], *at.modules_2)):
        try:
            result += _two_rings(u, at, m_2, reached, sun)
        except OutOfRange as fault:
            small = small or fault
    if not result:
        if small is not None:
            raise small
        raise _none(u, tr("two rings"), min(reached, default=0.0), max(reached, default=0.0))
    return _ranked(result)


def _two_rings(u: float, at: Bounds, m_2: float, reached: list[float], sun: bool) -> list[Offer]:
    """The offers with one module of the second mesh; least and greatest ratio go to ``reached``. Raises where none
    is small enough."""
    m = at.m_t[0]
    step = np.arange(at.least, max(at.least + 1, at.largest - at.least))
    # Of other modules only those distances that give whole teeth in both.
    step = step[np.abs(step * m / m_2 - np.round(step * m / m_2)) < 1e-9][None, :]
    if step.size == 0:
        return []
    a, b = np.meshgrid(np.arange(at.least, at.greatest + 1), np.arange(at.least, at.greatest + 1), indexing="ij")
    a, b = a.ravel()[:, None], b.ravel()[:, None]
    ring_1, ring_2 = a + step, b + np.round(step * m / m_2).astype(int)
    base = ring_1 * b / (a * ring_2)
    with np.errstate(divide="ignore"):
        ratio = 1 / (1 - base)
    z_sun = ring_1 - 2 * a
    if sun:
        # The sun turns 1 + z_1/z_s times as fast as the carrier.
        ratio = where(z_sun > 0, ratio * (1 + ring_1 / np.maximum(z_sun, 1)), np.nan)
    tips = np.maximum(a + 2.5, (b + 2.5) * m_2 / m)
    clear = step * np.sin(np.pi / at.planets) > tips if at.planets > 1 else np.ones_like(base, dtype=bool)
    off = 100 * (np.abs(ratio) / abs(u) - 1)
    if sun:
        clear = clear & (z_sun >= LEAST_SUN)
    good = np.isfinite(ratio) & clear & (np.maximum(ring_1, ring_2) <= at.largest) & (np.abs(off) <= at.tolerance)
    outside = np.maximum(m * ring_1 + at.over[0], m_2 * ring_2 + at.over[-1])
    if not good.any():
        inside = np.abs(ratio[np.isfinite(ratio) & clear])
        reached += [float(inside.min()), float(inside.max())] if inside.size else []
        return []
    good = _small(good, np.broadcast_to(m * step / 2, good.shape), outside, at)
    i, j = np.nonzero(good)
    order = np.lexsort((outside[i, j], np.round(np.abs(off[i, j]), 4)))[: 2 * MOST]
    result = []
    for n, k in zip(i[order], j[order], strict=True):
        z_a, z_1, z_b, z_2 = int(a[n, 0]), int(ring_1[n, k]), int(b[n, 0]), int(ring_2[n, k])
        z: tuple[int, ...] = (z_a, z_1, z_b, z_2, z_1 - 2 * z_a) if sun else (z_a, z_1, z_b, z_2)
        places = int(positions((z_a, -z_1), (z_b, -z_2), z[4] if sun else None))
        # That of a driven sun is found when it is asked for: it takes a search for the directions of power.
        more = {"m_2": m_2} if sun else {"eta": float(two_ring_efficiency(base[n, k], 0.98)), "m_2": m_2}
        result.append(
            Offer(
                z,
                float(ratio[n, k]),
                float(off[n, k]),
                places % at.planets == 0,
                hunting_turns(z_a, z_1),
                m * (z_1 - z_a) / 2,
                float(outside[n, k]),
                more,
            )
        )
    return result


def two_ring_efficiency(base: Array, eta_0: float) -> Array:
    """Efficiency from carrier to ring 2.

    Parameters
    ----------
    base : Array
        z_1 z_b/(z_a z_2).
    eta_0 : float
        Efficiency of both meshes together.

    Returns
    -------
    Array
        Efficiency.

    Examples
    --------
    >>> round(float(two_ring_efficiency(918 / 954, 0.98)), 3)
    0.662
    """
    base = as_float(base)
    # With the carrier standing the power goes through both meshes, from the ring that is held to the one that turns or
    # back.
    with_loss = where(base < 1, base * eta_0, base / eta_0)
    return as_float((1 - base) / (1 - with_loss))


def efficiency_of(offer: Offer) -> float:
    """Efficiency of an offer of two rings with 1 % lost in each mesh, kept with the offer once it is found.

    Parameters
    ----------
    offer : Offer
        Counts of a set of planets in two rings.

    Returns
    -------
    float
        Efficiency.
    """
    if "eta" not in offer.more:
        offer.more["eta"] = driven_sun_efficiency(offer.z, 0.01)
    return offer.more["eta"]


def driven_sun_efficiency(z: tuple[int, ...], loss: float) -> float:
    """Efficiency from the sun to ring 2 with the same loss in all three meshes.

    Parameters
    ----------
    z : tuple[int, ...]
        Counts of planet, ring, planet's second gear, ring 2, sun.
    loss : float
        Loss of each mesh, a share.

    Returns
    -------
    float
        Efficiency, 0 where friction locks the set.
    """
    z_a, z_1, z_b, z_2, z_s = (float(n) for n in z)
    links = [Link(0, 1, z_a, -z_1, 3, loss), Link(0, 2, z_b, -z_2, 3, loss), Link(4, 0, z_s, z_a, 3, loss)]
    names = ("planet", "ring", "ring 2", "carrier", "sun")
    return 0.0 if locks(names, links, [1], 4, 2) else flow(names, links, [1], {4: 1.0}, 1.0, 2).efficiency

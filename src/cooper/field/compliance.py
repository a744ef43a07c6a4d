"""How a tooth gives way along its flank: influence numbers from the section, split into what the whole tooth does and what is pressed in at the contact.

A load is a patch of Hertz's form on the outline. Pressing in at the patch is known in closed form for a half-plane down to the middle of the
tooth; taken off, what is left is smooth, and the true contact's own pressing in is put in its place.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cooper.arrays import Array, Real
from cooper.field.elastic import Plane
from cooper.field.tooth_grid import Grid
from cooper.gears.tooth import Tooth

STATIONS = 15
"""Places along a flank where influence numbers are found."""
PATCH = 0.12
"""Half the width of the patch in modules."""
SAMPLES = 24
"""Points over a patch at which its load is put on the outline."""


def pressed_in(a: Real, h: Real, E: float, nu: float) -> Array:
    """How far a line load of 1 N/mm on a patch of Hertz's form, half as wide as a, presses the surface in against a point h beneath it; mm.

    2 (1 - nu^2) / (pi E) (ln(2 h / a) - nu / (2 (1 - nu))). Weber and Banaschek, 1953.

    >>> round(float(1e6 * pressed_in(0.1, 2.0, 206000.0, 0.3)), 4)
    9.771
    """
    c = 2 * (1 - nu**2) / (np.pi * E)
    return np.asarray(c * (np.log(2 * np.asarray(h) / a) - nu / (2 * (1 - nu))))


def patch_near(d: Real, a: float, h: Real, E: float, nu: float) -> Array:
    """The same as the mean over one patch for the load on another, their middles d apart; 0 where the half-plane no longer knows of it.

    The mean of ln(1/distance) over both is ln(2/a) + 1/4 where they fall together, else about ln(1/d) + (a / (2 d))^2.
    """
    c = 2 * (1 - nu**2) / (np.pi * E)
    d = np.abs(np.asarray(d, dtype=float))
    far = np.maximum(d, 0.4 * a)
    apart = -np.log(far) + (a / (2 * far)) ** 2
    together = np.log(2 / a) + 0.25
    # Between both the mean falls as a parabola would.
    near = np.where(d < 1.2 * a, together - (together + np.log(1.2 * a) - (1 / 2.4) ** 2) * (d / (1.2 * a)) ** 2, apart)
    return np.asarray(np.maximum(c * (near + np.log(h) - 1 / (2 * (1 - nu))), 0.0))


@dataclass(frozen=True)
class Compliance:
    """Influence numbers of one gear at the lengths of roll ``L`` (stations; mm, rising): ``G`` (3, stations, stations; mm per N/mm) what the tooth behind, the
    same and the one ahead give way at the second station for a load at the first, without what is pressed in; ``h`` depth of the middle of the tooth under
    each station (mm); ``sigma`` (stations, places; MPa per N/mm) stress along the fillet of the loaded side, ``at`` where those places are
    (places, 2; mm), E (MPa) and nu."""

    L: Array
    G: Array
    h: Array
    sigma: Array
    at: Array
    E: float
    nu: float


def patch_load(grid: Grid, chain: Array, s: float, a: float) -> tuple[Array, Array]:
    """The load of a patch of Hertz's form at the place s of an outline, half as wide as a, of 1 N/mm in all into the tooth at right angles to it: on every node
    of the chain (nodes, 2), and its direction (2)."""
    along = grid.along
    t = np.cos((np.arange(SAMPLES) + 0.5) * np.pi / SAMPLES)
    places = s + a * t
    weight = np.sqrt(1 - t**2) * np.sin((np.arange(SAMPLES) + 0.5) * np.pi / SAMPLES)
    inside = (places <= along[-1]) & (places >= along[0])
    places, weight = places[inside], weight[inside] / weight[inside].sum()
    x = grid.nodes[chain]
    direction = _normal(along, x, s)
    found = np.zeros((len(chain), 2))
    for place, w in zip(places, weight, strict=True):
        e, N, _ = _element(along, place)
        found[e : e + 3] += w * N[:, None] * direction
    return found, direction


def _element(along: Array, s: float) -> tuple[int, Array, Array]:
    """The element of a chain at a place: its first node, its functions there and their slopes."""
    e = 2 * int(np.clip(np.searchsorted(along[::2], s) - 1, 0, len(along) // 2 - 1))
    low, mid, high = along[e : e + 3]
    # The middle node need not stand in the middle of the length.
    q, p = (low + high) / 2 - mid, (high - low) / 2
    t = (s - mid) / p
    for _ in range(4):
        t = t - (mid + p * t + q * t**2 - s) / (p + 2 * q * t)
    return e, np.array([t * (t - 1) / 2, 1 - t**2, t * (t + 1) / 2]), np.array([t - 0.5, -2 * t, t + 0.5])


def _normal(along: Array, x: Array, s: float) -> Array:
    e, _, slope = _element(along, s)
    t = slope @ x[e : e + 3]
    t = t / np.hypot(*t)
    return np.array([-t[1], t[0]])


def place_of(grid: Grid, tooth: Tooth, L: Array) -> Array:
    """Places along the outline of a loaded flank at lengths of roll; mm."""
    x = grid.nodes[grid.chains[grid.mid]][grid.flank :]
    r_b = abs(float(tooth.d_b)) / 2
    if grid.frame.straight:
        r = float(tooth.d) / 2 + x[:, 1]
    else:
        r = np.hypot(x[:, 0], x[:, 1])
    roll = np.sqrt(np.maximum(r**2 - r_b**2, 0.0))
    s = grid.along[grid.flank :]
    return np.interp(L, roll, s) if roll[-1] > roll[0] else np.interp(-L, -roll, s)


def compliance_of(plane: Plane, tooth: Tooth, L_f: float, L_a: float, driver: bool) -> Compliance:
    """Influence numbers of a gear whose contact reaches from L_f to L_a (mm) along its flank, as driver or driven: of a driver the tooth to the right goes
    ahead."""
    grid = plane.grid
    L = np.linspace(min(L_f, L_a), max(L_f, L_a), STATIONS)
    s = place_of(grid, tooth, L)
    a = PATCH * float(tooth.m_n)
    n = len(grid.nodes)
    loads = np.zeros((STATIONS, n, 2))
    h = np.zeros(STATIONS)
    x = grid.nodes[grid.chains[grid.mid]]
    for j, place in enumerate(s):
        load, direction = patch_load(grid, grid.chains[grid.mid], float(place), a)
        np.add.at(loads[j], grid.chains[grid.mid], load)
        e, N, _ = _element(grid.along, float(place))
        h[j] = (N @ x[e : e + 3])[0] / max(-direction[0], 0.05)
    u = plane.displaced(loads)
    behind, ahead = (grid.mid - 1, grid.mid + 1) if driver else (grid.mid + 1, grid.mid - 1)
    G = np.zeros((3, STATIONS, STATIONS))
    for k, tooth_at in enumerate((behind, grid.mid, ahead)):
        if not 0 <= tooth_at < len(grid.chains):
            continue
        chain = grid.chains[tooth_at]
        measure = np.stack([patch_load(grid, chain, float(place), a)[0] for place in s])
        G[k] = np.einsum("inc,jnc->ji", measure, u[:, chain])
    G[1] -= patch_near(s[:, None] - s[None, :], a, np.sqrt(h[:, None] * h[None, :]), plane.E, plane.nu)
    G[1] = (G[1] + G[1].T) / 2
    sigma = np.stack([plane.on_fillet(v, plane.stresses(v), grid.fillet)[0] for v in u])
    return Compliance(L, G, h, sigma, grid.nodes[grid.fillet], plane.E, plane.nu)

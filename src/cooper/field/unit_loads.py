"""Unit loads along a flank, each a patch of Hertz's form at right angles to the outline, and how the section gives
way under them."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Index
from cooper.field.elastic import Plane
from cooper.field.tooth_grid import Grid
from cooper.gears.tooth import Tooth

STATIONS = 17
"""Places along a flank at which it is loaded."""
PATCH = 0.12
"""Half the width of the patch in modules."""
SAMPLES = 24
"""Points over a patch at which its load is put on the outline."""


class Places(Struct, frozen=True):
    """Places of an outline within its elements: first node of each, its functions there (..., 3) and their slopes
    (..., 3)."""

    first: Index
    N: Array
    slope: Array

    def of(self, rows: Array) -> Array:
        """What stands at the nodes of a chain (nodes, ...), at the places."""
        at = self.first[..., None] + np.arange(3)
        return np.asarray(np.einsum("...k,...kc->...c", self.N, rows[at]))


class UnitLoads(Struct, frozen=True):
    """Loads of 1 N/mm at the lengths of roll ``L`` (loads; mm): ``places`` on the outline, the share ``weight`` of
    each node of the chain (loads, nodes), the ``normal`` into the tooth (loads, 2), half a patch's width ``a`` (mm),
    and the displacements ``u`` (loads, all nodes, 2; mm)."""

    L: Array
    s: Array
    places: Places
    weight: Array
    normal: Array
    a: float
    u: Array


def places_at(along: Array, s: Array) -> Places:
    """Where places along an outline stand in its elements, whose middle nodes need not be in the middle of their
    length.

    Parameters
    ----------
    along : Array
        Places of the nodes along the outline (mm).
    s : Array
        Places that are asked for (mm).

    Returns
    -------
    Places
        Element and coordinate of each.
    """
    first = np.asarray(2 * np.clip(np.searchsorted(along[::2], s) - 1, 0, len(along) // 2 - 1), dtype=np.intp)
    low, mid, high = along[first], along[first + 1], along[first + 2]
    q, p = (low + high) / 2 - mid, (high - low) / 2
    t = (s - mid) / p
    for _ in range(4):
        t = t - (mid + p * t + q * t**2 - s) / (p + 2 * q * t)
    N = np.stack((t * (t - 1) / 2, 1 - t**2, t * (t + 1) / 2), axis=-1)
    return Places(first, N, np.stack((t - 0.5, -2 * t, t + 0.5), axis=-1))


def normals_at(places: Places, x: Array) -> Array:
    """The normals into the metal of an outline at places.

    Parameters
    ----------
    places : Places
        Places in the elements, by `places_at`.
    x : Array
        Nodes of the outline (n, 2; mm).

    Returns
    -------
    Array
        Unit vectors (..., 2).
    """
    t = Places(places.first, places.slope, places.slope).of(x)
    t = t / np.hypot(t[..., 0], t[..., 1])[..., None]
    return np.stack((-t[..., 1], t[..., 0]), axis=-1)


def patches(along: Array, s: Array, a: float) -> Array:
    """The shares of each node of an outline in patches of Hertz's form.

    Parameters
    ----------
    along : Array
        Places of the nodes along the outline (mm).
    s : Array
        Middles of the patches (mm).
    a : float
        Half width of the patches (mm).

    Returns
    -------
    Array
        Shares (places, nodes), each row in all 1.
    """
    turn = (np.arange(SAMPLES) + 0.5) * np.pi / SAMPLES
    at = s[:, None] + a * np.cos(turn)
    # The pressure falls with the sine of the turn, and so do the steps.
    share = np.where((at >= along[0]) & (at <= along[-1]), np.sin(turn) ** 2, 0.0)
    share = share / share.sum(axis=1, keepdims=True)
    places = places_at(along, np.clip(at, along[0], along[-1]))
    result = np.zeros((len(s), len(along)))
    rows = np.broadcast_to(np.arange(len(s))[:, None, None], places.N.shape)
    np.add.at(result, (rows, places.first[..., None] + np.arange(3)), share[..., None] * places.N)
    return result


def place_of(grid: Grid, tooth: Tooth, L: Array) -> Array:
    """Places along the outline of a loaded flank at lengths of roll.

    Parameters
    ----------
    grid : Grid
        Grid of nine-node elements.
    tooth : Tooth
        The tooth with its tool, as made.
    L : Array
        Lengths of roll (mm).

    Returns
    -------
    Array
        Places (mm).
    """
    x = grid.nodes[grid.chains[grid.mid]][grid.flank :]
    r_b = abs(float(tooth.d_b)) / 2
    r = float(tooth.d) / 2 + x[:, 1] if grid.frame.straight else np.hypot(x[:, 0], x[:, 1])
    roll = np.sqrt(np.maximum(r**2 - r_b**2, 0.0))
    s = grid.along[grid.flank :]
    return np.asarray(np.interp(L, roll, s) if roll[-1] > roll[0] else np.interp(-L, -roll, s))


def unit_loads(plane: Plane, tooth: Tooth, L_f: float, L_a: float) -> UnitLoads:
    """Unit loads along the flank of a gear.

    Parameters
    ----------
    plane : Plane
        The solved section of the tooth.
    tooth : Tooth
        The tooth with its tool, as made.
    L_f : float
        Length of roll at the root end of the contact (mm).
    L_a : float
        Length of roll at the tip end of the contact (mm).

    Returns
    -------
    UnitLoads
        The loads and their places.
    """
    grid = plane.grid
    chain = grid.chains[grid.mid]
    L = np.linspace(min(L_f, L_a), max(L_f, L_a), STATIONS)
    s = place_of(grid, tooth, L)
    a = PATCH * float(tooth.m_n)
    weight = patches(grid.along, s, a)
    places = places_at(grid.along, s)
    normal = normals_at(places, grid.nodes[chain])
    loads = np.zeros((STATIONS, len(grid.nodes), 2))
    loads[:, chain] = weight[:, :, None] * normal[:, None, :]
    return UnitLoads(L, s, places, weight, normal, a, plane.displaced(loads))

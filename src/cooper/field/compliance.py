"""How a tooth gives way along its flank: influence numbers from the section, split into what the whole tooth does
and what is pressed in at the contact.

A load is a patch of Hertz's form on the outline. Pressing in at the patch is known in closed form for a half-plane down
to the middle of the tooth; taken off, what is left is smooth, and the true contact's own pressing in is put in its
place.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real
from cooper.field.elastic import Plane
from cooper.field.unit_loads import UnitLoads, normals_at


def pressed_in(a: Real, h: Real, E: float, nu: float) -> Array:
    """How far a line load of 1 N/mm on a patch of Hertz's form presses the surface in against a point beneath it.

    Parameters
    ----------
    a : Real
        Half width of the patch (mm).
    h : Real
        Depth of the point (mm).
    E : float
        Modulus of elasticity (MPa).
    nu : float
        Poisson's ratio.

    Returns
    -------
    Array
        Approach (mm).

    Notes
    -----
    2 (1 - nu^2) / (pi E) (ln(2 h / a) - nu / (2 (1 - nu))).

    References
    ----------
    Weber and Banaschek, 1953.

    Examples
    --------
    >>> round(float(1e6 * pressed_in(0.1, 2.0, 206000.0, 0.3)), 4)
    9.7714
    """
    c = 2 * (1 - nu**2) / (np.pi * E)
    return np.asarray(c * (np.log(2 * np.asarray(h) / a) - nu / (2 * (1 - nu))))


def patch_near(d: Real, a: float, h: Real, E: float, nu: float) -> Array:
    """Approach as by `pressed_in`, as the mean over one patch for the load on another.

    Parameters
    ----------
    d : Real
        Distance of their middles (mm).
    a : float
        Half width of the patches (mm).
    h : Real
        Depth of the point (mm).
    E : float
        Modulus of elasticity (MPa).
    nu : float
        Poisson's ratio.

    Returns
    -------
    Array
        Approach (mm), 0 where the half-plane no longer knows of it.

    Notes
    -----
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


class Compliance(Struct, frozen=True):
    """Influence numbers of one gear at the lengths of roll ``L`` (stations; mm, rising): ``G`` (3, stations,
    stations; mm per N/mm) what the tooth behind, the same and the one ahead give way at the second station for a load
    at the first, without what is pressed in; ``h`` depth of the middle of the tooth under each station (mm); ``sigma``
    (stations, places; MPa per N/mm) stress along the fillet of the loaded side, ``at`` where those places are (places,
    2; mm), E (MPa) and nu."""

    L: Array
    G: Array
    h: Array
    sigma: Array
    at: Array
    E: float
    nu: float


def compliance_of(plane: Plane, loads: UnitLoads, sigma: Array, driver: bool) -> Compliance:
    """Influence numbers of a gear under its unit loads.

    Parameters
    ----------
    plane : Plane
        The solved section of the tooth.
    loads : UnitLoads
        Unit loads along the flank.
    sigma : Array
        Stress along the fillet (loads, places; MPa).
    driver : bool
        Whether the gear drives; of a driver the tooth to the right goes ahead.

    Returns
    -------
    Compliance
        Influence numbers (mm/N and MPa mm/N).
    """
    grid = plane.grid
    x = grid.nodes[grid.chains[grid.mid]]
    h = loads.places.of(x)[:, 0] / np.maximum(-loads.normal[:, 0], 0.05)
    n = len(loads.L)
    behind, ahead = (grid.mid - 1, grid.mid + 1) if driver else (grid.mid + 1, grid.mid - 1)
    G = np.zeros((3, n, n))
    for k, tooth_at in enumerate((behind, grid.mid, ahead)):
        if not 0 <= tooth_at < len(grid.chains):
            continue
        chain = grid.chains[tooth_at]
        normal = normals_at(loads.places, grid.nodes[chain])
        # What is measured is the mean over a patch, along its own normal.
        G[k] = np.einsum("in,jnc,ic->ji", loads.weight, loads.u[:, chain], normal, optimize=True)
    d = loads.s[:, None] - loads.s[None, :]
    G[1] -= patch_near(d, loads.a, np.sqrt(h[:, None] * h[None, :]), plane.E, plane.nu)
    G[1] = (G[1] + G[1].T) / 2
    return Compliance(loads.L, G, h, sigma, grid.nodes[grid.fillet], plane.E, plane.nu)

"""Planet sets: where planets can stand, how they are turned there, and whether they are clear of each other.

Counts are positive here, the ring's too. Angles in rad, counter-clockwise; the phase of a gear is the direction of the
middle of one of its teeth.
"""

from __future__ import annotations

from math import pi

import numpy as np

from cooper.arrays import Array, Real, as_float


def positions(first: tuple[Real, Real], second: tuple[Real, Real], sun: Real | None = None) -> Array:
    """Number of evenly spread places around the carrier at which a planet can be put in, the first one being taken.

    Parameters
    ----------
    first : tuple[Real, Real]
        Counts of the planet and of its mate in the first mesh, a ring's negative.
    second : tuple[Real, Real]
        Counts of the planet and of its mate in the second mesh; of plain planets the same planet twice.
    sun : Real | None
        Count of a sun between two rings.

    Returns
    -------
    Array
        Number of places.

    Notes
    -----
    Planets of one set are alike, stepped ones with the same turn between their two gears: |z_p1 z_2 - z_p2 z_1| /
    gcd(z_p1, z_p2).

    Examples
    --------
    >>> [int(positions(*z)) for z in (((30, 20), (30, -80)), ((30, 20), (20, -70)), ((20, -60), (19, -59)))]
    [100, 250, 40]
    """
    (p_1, z_1), (p_2, z_2) = ([np.asarray(v, dtype=int) for v in pair] for pair in (first, second))
    places = np.abs(p_1 * z_2 - p_2 * z_1) // np.gcd(p_1, p_2)
    # A sun asks for places of its own; where both agree, a planet goes in.
    return np.asarray(places if sun is None else np.gcd(places, np.asarray(sun, dtype=int) + np.abs(z_1)))


def spaced_evenly(places: Real, planets: Real) -> Array:
    """Whether planets can stand evenly.

    Parameters
    ----------
    places : Real
        Number of places by `positions`.
    planets : Real
        Number of planets.

    Returns
    -------
    Array
        True where they can.

    Examples
    --------
    >>> bool(spaced_evenly(100, 4)), bool(spaced_evenly(100, 3))
    (True, False)
    """
    return np.asarray(np.asarray(places) % np.asarray(planets) == 0)


def nearest_angles(places: int, planets: int) -> Array:
    """Angles of the planets: evenly spaced where the counts let them, else each at the nearest place that they do.

    Parameters
    ----------
    places : int
        Number of places by `positions`.
    planets : int
        Number of planets.

    Returns
    -------
    Array
        Angles (rad).

    Examples
    --------
    >>> np.degrees(nearest_angles(100, 3)).round(1).tolist()
    [0.0, 118.8, 241.2]
    """
    even = np.arange(planets) / planets
    return 2 * pi * np.round(even * places) / places if places else 2 * pi * even


def planet_gap(a_w: Real, d_a: Real, angles: Array) -> Array:
    """Least gap between the tip circles of neighbouring planets.

    Parameters
    ----------
    a_w : Real
        Working centre distance (mm).
    d_a : Real
        Tip diameter of the planets (mm).
    angles : Array
        Angles of the planets (rad).

    Returns
    -------
    Array
        Gap (mm).

    Examples
    --------
    >>> round(float(planet_gap(50.0, 64.0, np.radians([0.0, 120.0, 240.0]))), 2)
    22.6
    """
    turned = np.sort(as_float(angles) % (2 * pi))
    steps = np.diff(np.append(turned, turned[0] + 2 * pi))
    return as_float(2 * np.abs(a_w) * np.sin(np.min(steps) / 2) - np.abs(d_a))


def most_planets(a_w: float, d_a: float, gap: float) -> int:
    """Most planets that stand clear of each other by a gap (mm).

    Parameters
    ----------
    a_w : float
        Working centre distance (mm).
    d_a : float
        Tip diameter of the planets (mm).
    gap : float
        Least gap between the tip circles (mm).

    Returns
    -------
    int
        Number of planets.

    Examples
    --------
    >>> most_planets(50.0, 64.0, 1.0)
    4
    """
    ratio = (abs(d_a) + gap) / (2 * abs(a_w))
    return 1 if ratio >= 1 else int(pi / np.arcsin(ratio) + 1e-9)


def phase_at_external(z_own: float, z_mate: float, theta: Real, psi_mate: Real) -> Array:
    """Phase of a gear in mesh with an external mate: a tooth of one meets the middle of a space of the other on the
    line of centres.

    Parameters
    ----------
    z_own : float
        Tooth count of the gear.
    z_mate : float
        Tooth count of the mate.
    theta : Real
        Direction of the gear's centre from the mate's (rad).
    psi_mate : Real
        Phase of the mate, the direction of the middle of one of its teeth (rad).

    Returns
    -------
    Array
        Phase (rad).
    """
    theta = as_float(theta)
    return (z_mate * (theta - psi_mate) + z_own * (theta + pi) - pi) / z_own


def phase_at_ring(z_own: float, z_ring: float, theta: Real, psi_ring: Real) -> Array:
    """Phase of a planet in a ring.

    Parameters
    ----------
    z_own : float
        Tooth count of the planet.
    z_ring : float
        Tooth count of the ring.
    theta : Real
        Direction of the planet's centre from the ring's (rad).
    psi_ring : Real
        Phase of the ring, the direction of the middle of one of its teeth (rad).

    Returns
    -------
    Array
        Phase (rad).
    """
    theta = as_float(theta)
    return (z_own * theta - z_ring * (theta - psi_ring) + pi) / z_own


def ring_phase(z_planet: float, z_ring: float, theta: Real, psi_planet: Real) -> Array:
    """Phase of a ring that meshes with a planet of given phase.

    Parameters
    ----------
    z_planet : float
        Tooth count of the planet.
    z_ring : float
        Tooth count of the ring.
    theta : Real
        Direction of the planet's centre from the ring's (rad).
    psi_planet : Real
        Phase of the planet (rad).

    Returns
    -------
    Array
        Phase (rad).
    """
    return as_float(theta) - (z_planet * (as_float(theta) - psi_planet) + pi) / z_ring


def phase_in_mesh(z_own: float, z_mate: float, theta: Real, psi_mate: Real) -> Array:
    """The phase of a planet at one of its mates.

    Parameters
    ----------
    z_own : float
        Tooth count of the planet.
    z_mate : float
        Tooth count of the mate, negative for a ring.
    theta : Real
        Direction of the planet's centre from the mate's (rad).
    psi_mate : Real
        Phase of the mate (rad).

    Returns
    -------
    Array
        Phase (rad).
    """
    met = phase_at_ring if z_mate < 0 else phase_at_external
    return met(z_own, abs(z_mate), theta, psi_mate)


def phase_of_mate(z_planet: float, z_mate: float, theta: Real, psi_planet: Real) -> Array:
    """Inverse of `phase_in_mesh`: the phase of the mate that a planet of given phase asks for.

    Parameters
    ----------
    z_planet : float
        Tooth count of the planet.
    z_mate : float
        Tooth count of the mate, negative for a ring.
    theta : Real
        Direction of the planet's centre from the mate's (rad).
    psi_planet : Real
        Phase of the planet (rad).

    Returns
    -------
    Array
        Phase (rad).

    Examples
    --------
    >>> [round(float(phase_in_mesh(30, z, 0.4, phase_of_mate(30, z, 0.4, 1.1))), 9) for z in (20, -80)]
    [1.1, 1.1]
    """
    if z_mate < 0:
        return ring_phase(z_planet, -z_mate, theta, psi_planet)
    theta = as_float(theta)
    return theta - (z_planet * (as_float(psi_planet) - theta - pi) + pi) / z_mate


def in_step(z: int, angles: Array) -> float:
    """How much the meshes of one gear with all planets are staggered: 0 all in step, 1 spread evenly over a pitch.

    Parameters
    ----------
    z : int
        Tooth count of the gear.
    angles : Array
        Angles of the planets (rad).

    Returns
    -------
    float
        0 to 1.

    Examples
    --------
    >>> in_step(21, np.radians([0.0, 120.0, 240.0])), round(in_step(20, np.radians([0.0, 120.0, 240.0])), 6)
    (0.0, 1.0)
    """
    phases = np.exp(1j * z * as_float(angles))
    return float(round(1 - abs(np.mean(phases)), 12))


def load_share(planets: int, floating: bool, k_pl: Real, e_pl: Real, F: Real) -> Array:
    """Mesh load factor K_gamma of planets on springs of which one stands ahead.

    Parameters
    ----------
    planets : int
        Number of planets.
    floating : bool
        Whether a member floats.
    k_pl : Real
        Stiffness of a planet (N/um).
    e_pl : Real
        By how much one planet stands ahead (um).
    F : Real
        Mean force on a planet (N).

    Returns
    -------
    Array
        K_gamma, at most the number of planets, where one planet bears all.

    Notes
    -----
    K_gamma = 1 + (1 - m/n) k e/F. What turns moves on until the forces are in balance (m = 1); where a member floats it
    moves to both sides as well (m = 3), so that three planets share evenly. All springs alike, planets evenly about the
    axis. Statics.

    Examples
    --------
    >>> float(load_share(4, False, 40.0, 20.0, 3000.0)), float(load_share(3, True, 40.0, 20.0, 3000.0))
    (1.2, 1.0)
    """
    left = 1 - min(3 if floating else 1, planets) / planets
    return as_float(np.minimum(1 + left * as_float(k_pl) * e_pl / as_float(F), planets))


def mesh_load_factor(planets: int, floating: bool) -> float:
    """Mesh load factor K_gamma of a planet set by its number of planets, for sets with a floating member and without.

    Parameters
    ----------
    planets : int
        Number of planets.
    floating : bool
        Whether a member floats.

    Returns
    -------
    float
        K_gamma.

    Notes
    -----
    Customary values of gear practice for middling quality: floating 1.0 to three planets, 1.1, 1.15, 1.2 ... beyond;
    else 1.1, 1.2, 1.3 ...

    References
    ----------
    ISO 6336-1:2019, which leaves them to experience.

    Examples
    --------
    >>> mesh_load_factor(3, True), mesh_load_factor(4, True), mesh_load_factor(4, False)
    (1.0, 1.1, 1.3)
    """
    if planets <= 1:
        return 1.0
    if floating:
        return 1.0 if planets <= 3 else round(1.1 + 0.05 * (planets - 4), 3)
    return round(1.1 + 0.1 * (planets - 2), 3)

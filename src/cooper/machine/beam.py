"""A stepped shaft as a beam on any number of bearings: deflection, slope, shear, moment, whirling speeds.

Timoshenko elements, exact for sections of constant diameter under loads at their ends: shear deforms too, and three or
more bearings need no special case.
"""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float

RIGID = 1e9
"""Stiffness (N/mm) from which a bearing counts as one that does not give way."""


def area_moment(d: Real, d_i: Real = 0.0) -> Array:
    """Second moment of area of a ring-shaped section about a diameter.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_i : Real
        Bore (mm), 0 for a solid shaft.

    Returns
    -------
    Array
        Moment (mm4).

    Notes
    -----
    I = pi (d^4 - d_i^4) / 64.

    Examples
    --------
    >>> round(float(area_moment(20.0)), 2)
    7853.98
    """
    return as_float(np.pi * (as_float(d) ** 4 - as_float(d_i) ** 4) / 64)


def shear_coefficient(d: Real, d_i: Real = 0.0, nu: float = 0.3) -> Array:
    """Share of a ring-shaped section that bears shear.

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_i : Real
        Bore (mm), 0 for a solid shaft.
    nu : float
        Poisson's ratio.

    Returns
    -------
    Array
        Share, 0 to 1.

    Notes
    -----
    6 (1 + nu) (1 + m^2)^2 / ((7 + 6 nu) (1 + m^2)^2 + (20 + 12 nu) m^2), m = d_i / d.

    References
    ----------
    Cowper, 1966.

    Examples
    --------
    >>> round(float(shear_coefficient(20.0)), 4)
    0.8864
    """
    m = as_float(d_i) / as_float(d)
    q = (1 + m**2) ** 2
    return as_float(6 * (1 + nu) * q / ((7 + 6 * nu) * q + (20 + 12 * nu) * m**2))


class Beam(Struct, frozen=True, kw_only=True):
    """Nodes ``x`` (n; mm, rising), outside and inside diameter of the n - 1 elements between them (mm), E (MPa), nu;
    the bearings by the numbers of their nodes with their radial stiffness (N/mm), `RIGID` and above for one that does
    not give."""

    x: Array
    d: Array
    d_i: Array
    supports: tuple[int, ...]
    stiffness: tuple[float, ...]
    E: float = 206000.0
    nu: float = 0.3

    def element_stiffness(self) -> Array:
        """Stiffness of every element over its deflections and slopes (w_1, t_1, w_2, t_2); (n - 1, 4, 4)."""
        L = np.diff(self.x)
        EI = self.E * area_moment(self.d, self.d_i)
        A = np.pi * (self.d**2 - self.d_i**2) / 4
        phi = 12 * EI / (shear_coefficient(self.d, self.d_i, self.nu) * A * self.E / (2 * (1 + self.nu)) * L**2)
        k = EI / (L**3 * (1 + phi))
        K = np.empty((len(L), 4, 4))
        rows = (
            (12 + 0 * L, 6 * L, -12 + 0 * L, 6 * L),
            (6 * L, (4 + phi) * L**2, -6 * L, (2 - phi) * L**2),
            (-12 + 0 * L, -6 * L, 12 + 0 * L, -6 * L),
            (6 * L, (2 - phi) * L**2, -6 * L, (4 + phi) * L**2),
        )
        for i, row in enumerate(rows):
            for j, value in enumerate(row):
                K[:, i, j] = k * value
        return K

    def free_stiffness(self, parts: Array | None = None) -> Array:
        """Stiffness of the shaft without its bearings, of its elements' stiffness; (2 n, 2 n)."""
        n = len(self.x)
        K = np.zeros((2 * n, 2 * n))
        for e, part in enumerate(self.element_stiffness() if parts is None else parts):
            K[2 * e : 2 * e + 4, 2 * e : 2 * e + 4] += part
        return K


class Bent(Struct, frozen=True):
    """A bent beam: deflection ``w`` (mm) and slope ``theta`` (rad) at the nodes, ``reactions`` of the bearings (N),
    shear ``V`` (N) and bending moment ``M`` (N mm) at both ends of every element; leading axes are those of the
    loads."""

    w: Array
    theta: Array
    reactions: Array
    V: Array
    M: Array


def bend(beam: Beam, forces: Array, moments: Array | None = None) -> Bent:
    """The beam under forces and moments at its nodes.

    Parameters
    ----------
    beam : Beam
        Nodes, diameters and supports.
    forces : Array
        Forces at the nodes (..., n; N).
    moments : Array | None
        Moments at the nodes (..., n; N mm), turning x towards w.

    Returns
    -------
    Bent
        Deflections, slopes, shear forces, moments and reactions.

    Raises
    ------
    numpy.linalg.LinAlgError
        Where the bearings do not hold it.

    Notes
    -----
    Reactions are what the bearings give; V is the sum of forces to the left and M their moment, positive where it bends
    the beam hollow towards +w: w'' = M / (E I) without shear.

    Examples
    --------
    >>> b = Beam(x=np.array([0.0, 50.0, 100.0]), d=np.full(2, 20.0), d_i=np.zeros(2), supports=(0, 2), stiffness=(RIGID, RIGID))
    >>> bent = bend(b, np.array([0.0, -1000.0, 0.0]))
    >>> [round(float(r), 3) for r in bent.reactions], round(float(bent.M[0, 1]), 3)
    ([500.0, 500.0], 25000.0)
    """  # noqa: E501
    n = len(beam.x)
    load = np.zeros((*np.shape(forces)[:-1], 2 * n))
    load[..., 0::2] = forces
    if moments is not None:
        load[..., 1::2] = moments
    parts = beam.element_stiffness()
    loose = beam.free_stiffness(parts)
    K = loose.copy()
    held = [2 * s for s, k in zip(beam.supports, beam.stiffness, strict=True) if k >= RIGID]
    for s, k in zip(beam.supports, beam.stiffness, strict=True):
        if k < RIGID:
            K[2 * s, 2 * s] += k
    moves = np.ones(2 * n, dtype=bool)
    moves[held] = False
    free = np.flatnonzero(moves)
    flat = load.reshape(-1, 2 * n)
    u = np.zeros_like(flat)
    u[:, free] = np.linalg.solve(K[np.ix_(free, free)], flat[:, free].T).T
    u = u.reshape(load.shape)
    w, theta = u[..., 0::2], u[..., 1::2]
    ends = np.stack([u[..., 2 * e : 2 * e + 4] for e in range(n - 1)], axis=-2)
    f = np.einsum("eij,...ej->...ei", parts, ends)
    given = u @ loose.T - load
    reactions = np.stack([given[..., 2 * s] for s in beam.supports], axis=-1)
    V = np.stack((f[..., 0], -f[..., 2]), axis=-1)
    M = np.stack((-f[..., 1], f[..., 3]), axis=-1)
    return Bent(w, theta, reactions, V, M)


def whirling_speeds(beam: Beam, mass: Array, inertia: Array, rho: float = 7.85e-6, count: int = 2) -> Array:
    """The lowest speeds at which a shaft with discs bends to and fro.

    Parameters
    ----------
    beam : Beam
        Nodes, diameters and supports.
    mass : Array
        Masses at the nodes (kg).
    inertia : Array
        Moments of inertia about a diameter at the nodes (kg mm2).
    rho : float
        Density of the shaft (kg/mm3).
    count : int
        Number of speeds.

    Returns
    -------
    Array
        Speeds, rising (rad/s).

    Notes
    -----
    K u = omega^2 M u, the shaft's own mass consistent with its bending. Gyroscopic moments, which raise the forward
    speeds, are left out.

    Examples
    --------
    >>> b = Beam(x=np.linspace(0, 400, 9), d=np.full(8, 20.0), d_i=np.zeros(8), supports=(0, 8), stiffness=(RIGID, RIGID))
    >>> round(float(whirling_speeds(b, np.zeros(9), np.zeros(9))[0]))
    1576
    """  # noqa: E501
    n, L = len(beam.x), np.diff(beam.x)
    m = rho * np.pi * (beam.d**2 - beam.d_i**2) / 4 * L
    M = np.zeros((2 * n, 2 * n))
    for e in range(n - 1):
        a = L[e]
        part = np.array(
            [
                [156, 22 * a, 54, -13 * a],
                [22 * a, 4 * a * a, 13 * a, -3 * a * a],
                [54, 13 * a, 156, -22 * a],
                [-13 * a, -3 * a * a, -22 * a, 4 * a * a],
            ]
        )
        M[2 * e : 2 * e + 4, 2 * e : 2 * e + 4] += m[e] / 420 * part
    M[0::2, 0::2] += np.diag(mass)
    M[1::2, 1::2] += np.diag(inertia)
    K = beam.free_stiffness()
    for s, k in zip(beam.supports, beam.stiffness, strict=True):
        K[2 * s, 2 * s] += min(k, RIGID)
    # Sought as the greatest of M over K, which stays exact however light the shaft is; N/mm over kg is 1000 / s2.
    lower = np.linalg.cholesky(1000 * K)
    reduced = np.linalg.solve(lower, np.linalg.solve(lower, M).T)
    result = np.linalg.eigvalsh((reduced + reduced.T) / 2)[: -count - 1 : -1]
    return as_float(1 / np.sqrt(np.maximum(result, 1e-30)))

"""Turning to and fro of shafts and gears against each other: torsional natural frequencies of a whole train."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Real, as_float

G_STEEL = 79300.0
"""Shear modulus of shafts; MPa."""


def torsion_stiffness(d: Real, d_i: Real, length: Real, G: float = G_STEEL) -> Array:
    """Torque over twist of a piece of shaft: G pi (d^4 - d_i^4) / (32 l).

    Parameters
    ----------
    d : Real
        Diameter (mm).
    d_i : Real
        Bore (mm), 0 for a solid shaft.
    length : Real
        Length (mm).
    G : float
        Shear modulus (MPa).

    Returns
    -------
    Array
        Stiffness (N mm/rad).

    Examples
    --------
    >>> round(float(torsion_stiffness(20.0, 0.0, 100.0)))
    12456415
    """
    d, d_i = as_float(d), as_float(d_i)
    return as_float(G * np.pi * (d**4 - d_i**4) / (32 * as_float(length)))


def ring_inertia(mass: Real, d: Real, d_i: Real = 0.0) -> Array:
    """Moment of inertia of a ring or disc about its axis: m (d^2 + d_i^2) / 8.

    Parameters
    ----------
    mass : Real
        Mass (kg).
    d : Real
        Diameter (mm).
    d_i : Real
        Bore (mm), 0 for a solid shaft.

    Returns
    -------
    Array
        Moment of inertia (kg mm2).

    Examples
    --------
    >>> round(float(ring_inertia(2.0, 100.0, 20.0)), 1)
    2600.0
    """
    return as_float(as_float(mass) * (as_float(d) ** 2 + as_float(d_i) ** 2) / 8)


class TorsionModel(Struct, frozen=True):
    """Angles of a train: inertia ``J`` of each (n; kg mm2), and springs, each with its stiffness ``k`` and the row
    of ``B`` (springs, n) that makes of all angles how far it is strained: a piece of shaft (N mm/rad, 1 and -1), a mesh
    (N/mm, its base radii in mm)."""

    J: Array
    B: Array
    k: Array


def natural_frequencies(model: TorsionModel) -> Array:
    """Natural frequencies of a train that turns freely, without the turning of the whole.

    Parameters
    ----------
    model : TorsionModel
        Inertias and springs of the train.

    Returns
    -------
    Array
        Angular frequencies, rising (rad/s).

    Notes
    -----
    The singular values of k^1/2 B J^-1/2, whose squares are the values omega^2 of B^T k B q = omega^2 J q for what
    strains a spring; found so, slow modes stay exact beside fast ones. N mm / rad over kg mm2 is 1000 / s2. No spring's
    row may follow from the others', as none does without closed loops.

    Examples
    --------
    >>> two = TorsionModel(np.array([10.0, 10.0]), np.array([[1.0, -1.0]]), np.array([5000.0]))
    >>> [round(float(v), 3) for v in natural_frequencies(two)]
    [1000.0]
    """
    A = np.sqrt(1000 * model.k)[:, None] * model.B / np.sqrt(model.J)
    return as_float(np.linalg.svd(A, compute_uv=False)[::-1])

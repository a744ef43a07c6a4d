"""Plane elasticity over a grid of nine-node elements: stiffness, displacements under loads on an outline, stresses
at the nodes."""

from __future__ import annotations

from functools import cached_property
from typing import Any

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Index
from cooper.field.elements import GAUSS, Elements, spread_of
from cooper.field.tooth_grid import Grid


def plane_law(E: float, nu: float, strain: bool = True) -> Array:
    """Stresses (sxx, syy, sxy) over strains (exx, eyy, 2 exy).

    Parameters
    ----------
    E : float
        Modulus of elasticity (MPa).
    nu : float
        Poisson's ratio.
    strain : bool
        Plane strain, else plane stress.

    Returns
    -------
    Array
        Matrix (3, 3; MPa).

    Examples
    --------
    >>> [round(float(v)) for v in plane_law(206000.0, 0.3)[0]]
    [277308, 118846, 0]
    """
    if not strain:
        return np.asarray(E / (1 - nu**2) * np.array([[1, nu, 0], [nu, 1, 0], [0, 0, (1 - nu) / 2]]))
    k = E / ((1 + nu) * (1 - 2 * nu))
    return np.asarray(k * np.array([[1 - nu, nu, 0], [nu, 1 - nu, 0], [0, 0, (1 - 2 * nu) / 2]]))


class Plane(Struct, frozen=True, dict=True):
    """A section that is held, ready to be loaded; E in MPa."""

    grid: Grid
    elements: Elements
    E: float
    nu: float
    strain: bool = True

    @cached_property
    def law(self) -> Array:
        return plane_law(self.E, self.nu, self.strain)

    @cached_property
    def own(self) -> Array:
        """Stiffness of each element over its nodes, x and y of each in turn (m, 18, 18)."""
        e, D = self.elements, self.law
        g_x, g_y, w = e.grad[:, 0], e.grad[:, 1], e.weight
        xx = np.einsum("aeq,beq,eq->eab", g_x, g_x, w, optimize=True)
        yy = np.einsum("aeq,beq,eq->eab", g_y, g_y, w, optimize=True)
        xy = np.einsum("aeq,beq,eq->eab", g_x, g_y, w, optimize=True)
        yx = xy.transpose(0, 2, 1)
        m = len(xx)
        K = np.empty((m, 9, 2, 9, 2))
        K[:, :, 0, :, 0] = D[0, 0] * xx + D[2, 2] * yy
        K[:, :, 1, :, 1] = D[1, 1] * yy + D[2, 2] * xx
        K[:, :, 0, :, 1] = D[0, 1] * xy + D[2, 2] * yx
        K[:, :, 1, :, 0] = K[:, :, 0, :, 1].transpose(0, 2, 1)
        return K.reshape(m, 18, 18)

    @property
    def dofs(self) -> Index:
        """Numbers of the elements' unknowns (m, 18)."""
        return np.asarray((2 * self.grid.elements[:, :, None] + np.arange(2)).reshape(-1, 18))

    @cached_property
    def stiffness(self) -> Any:
        """Stiffness over all nodes, x and y of each in turn; sparse."""
        from scipy.sparse import coo_matrix

        rows, columns = np.repeat(self.dofs, 18, axis=1).ravel(), np.tile(self.dofs, (1, 18)).ravel()
        n = 2 * len(self.grid.nodes)
        return coo_matrix((self.own.ravel(), (rows, columns)), shape=(n, n)).tocsc()

    @cached_property
    def factor(self) -> tuple[Index, Any]:
        """Numbers of what moves in an order that is good to eliminate in, and its factorised stiffness."""
        from scipy.sparse.linalg import splu

        pattern, held = self.elements.pattern, self.grid.held
        how: dict[str, Any] = dict(diag_pivot_thresh=0.0, options={"SymmetricMode": True})
        if pattern.knows(held):
            return pattern.order, splu(pattern.matrix(self.own), permc_spec="NATURAL", **how)
        n = 2 * len(self.grid.nodes)
        free = np.setdiff1d(np.arange(n), (2 * held[:, None] + np.arange(2)).ravel())
        result = splu(self.stiffness[free][:, free].tocsc(), permc_spec="MMD_AT_PLUS_A", **how)
        pattern.learn(self.dofs, held, free[np.argsort(result.perm_c)], n)
        return free, result

    def displaced(self, load: Array) -> Array:
        """Displacements of the nodes (..., n, 2; mm) under loads on them (..., n, 2; N per mm of width)."""
        flat = load.reshape(-1, 2 * len(self.grid.nodes))
        u = np.zeros_like(flat)
        free, factor = self.factor
        u[:, free] = factor.solve(np.ascontiguousarray(flat[:, free].T)).T
        return u.reshape(load.shape)

    def reactions(self, u: Array) -> Array:
        """Forces that hold the section (n, 2; N/mm), zero where it moves freely under no load."""
        return np.asarray(self.stiffness @ u.reshape(-1)).reshape(-1, 2)

    @cached_property
    def mean(self) -> Any:
        """From the nodes of each element to the nodes of the grid: the mean of those that meet; sparse."""
        from scipy.sparse import csr_matrix

        own = self.grid.elements.ravel()
        n = len(self.grid.nodes)
        count = np.bincount(own, minlength=n)
        return csr_matrix((1.0 / count[own], (own, np.arange(len(own)))), shape=(n, len(own)))

    def stresses(self, u: Array) -> Array:
        """Stresses (sxx, syy, sxy) at the nodes (..., n, 3; MPa) under displacements (..., n, 2): from the points of
        each element, the mean of those that meet at a node."""
        e = self.elements
        m, loads = len(self.grid.elements), u.reshape(-1, *u.shape[-2:])
        q = len(loads)
        grad = e.grad_stress.transpose(2, 3, 1, 0).reshape(m, 8, 9)
        moved = loads[:, self.grid.elements].transpose(1, 2, 0, 3).reshape(m, 9, 2 * q)
        slope = (grad @ moved).reshape(m, 4, 2, q, 2)
        strain = np.stack((slope[:, :, 0, :, 0], slope[:, :, 1, :, 1], slope[:, :, 1, :, 0] + slope[:, :, 0, :, 1]), -1)
        at_nodes = np.matmul(spread_of(), (strain @ self.law.T).reshape(m, 4, 3 * q))
        result = self.mean @ at_nodes.reshape(9 * m, 3 * q)
        return np.ascontiguousarray(result.reshape(-1, q, 3).transpose(1, 0, 2)).reshape(*u.shape[:-1], 3)

    def along_edge(self, u: Array, chain: Index) -> Array:
        """Stress along a free edge at the nodes of a chain of elements' sides (odd in number; (..., nodes), MPa),
        from how the edge itself is stretched: nothing pulls on it across."""
        x, v = self.grid.nodes[chain], u[..., chain, :]
        first = np.arange(0, len(chain) - 2, 2)
        at = []
        for t in (-GAUSS, GAUSS):
            slope = (t - 0.5, -2 * t, t + 0.5)
            dx = sum(slope[k] * x[first + k] for k in range(3))
            du = sum(slope[k] * v[..., first + k, :] for k in range(3))
            at.append((du * dx).sum(axis=-1) / (dx * dx).sum(axis=-1))
        low, high = at
        middle, rise = (low + high) / 2, (high - low) / (2 * GAUSS)
        result, count = np.zeros(v.shape[:-1]), np.zeros(len(chain))
        for k, t in enumerate((-1.0, 0.0, 1.0)):
            # The first nodes of different elements are different ones.
            result[..., first + k] += middle + t * rise
            count[first + k] += 1.0
        D = self.law
        # Without stress across the edge.
        E_edge = D[0, 0] - D[0, 1] ** 2 / D[0, 0]
        return np.asarray(E_edge * result / count)

    def on_fillet(self, u: Array, stress: Array, chain: Index) -> tuple[Array, Array]:
        """Stress along a fillet at the nodes of a chain (..., nodes; MPa), and how far it may be off there: the mean
        of what the elements say and of what the edge says, of which one tends to be too high and the other too low, and
        half of what parts them."""
        one, two, _ = principal(stress[..., chain, :])
        own = np.where(np.abs(one) > np.abs(two), one, two)
        edge = self.along_edge(u, chain)
        return (own + edge) / 2, np.abs(own - edge) / 2


def principal(stress: Array) -> tuple[Array, Array, Array]:
    """Principal stresses and the direction of the largest.

    Parameters
    ----------
    stress : Array
        Stresses sxx, syy, sxy (..., 3; MPa).

    Returns
    -------
    tuple[Array, Array, Array]
        Largest and smallest (MPa), and the angle of the largest from x (rad).

    Examples
    --------
    >>> one, two, angle = principal(np.array([30.0, -10.0, 20.0]))
    >>> round(float(one), 4), round(float(two), 4), round(float(np.degrees(angle)), 4)
    (38.2843, -18.2843, 22.5)
    """
    mean, half = (stress[..., 0] + stress[..., 1]) / 2, (stress[..., 0] - stress[..., 1]) / 2
    r = np.hypot(half, stress[..., 2])
    return mean + r, mean - r, np.asarray(np.arctan2(stress[..., 2], half) / 2)


def von_mises(stress: Array, nu: float, strain: bool = True) -> Array:
    """Equivalent stress by the energy of distortion, with the stress across the plane in plane strain.

    Parameters
    ----------
    stress : Array
        Stresses sxx, syy, sxy (..., 3; MPa).
    nu : float
        Poisson's ratio.
    strain : bool
        Plane strain, else plane stress.

    Returns
    -------
    Array
        Stress (MPa).

    Examples
    --------
    >>> round(float(von_mises(np.array([100.0, 0.0, 0.0]), 0.3, False)), 6), round(float(von_mises(np.array([100.0, 0.0, 0.0]), 0.3)), 4)
    (100.0, 88.8819)
    """  # noqa: E501
    x, y, t = stress[..., 0], stress[..., 1], stress[..., 2]
    z = nu * (x + y) if strain else 0.0 * x
    return np.asarray(np.sqrt(((x - y) ** 2 + (y - z) ** 2 + (z - x) ** 2) / 2 + 3 * t**2))

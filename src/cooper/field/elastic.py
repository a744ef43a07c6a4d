"""Plane elasticity over a grid of nine-node elements: stiffness, displacements under loads on an outline, stresses at the nodes."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from cooper.arrays import Array, Index
from cooper.field.tooth_grid import Grid

GAUSS = 1 / np.sqrt(3)
"""Places of the two points from which stresses are taken to the nodes: they are nearest to the truth there."""


def plane_law(E: float, nu: float, strain: bool = True) -> Array:
    """Stresses (sxx, syy, sxy) over strains (exx, eyy, 2 exy) in plane strain, or in plane stress; MPa.

    >>> [round(float(v)) for v in plane_law(206000.0, 0.3)[0]]
    [277308, 118846, 0]
    """
    if not strain:
        return np.asarray(E / (1 - nu**2) * np.array([[1, nu, 0], [nu, 1, 0], [0, 0, (1 - nu) / 2]]))
    k = E / ((1 + nu) * (1 - 2 * nu))
    return np.asarray(k * np.array([[1 - nu, nu, 0], [nu, 1 - nu, 0], [0, 0, (1 - 2 * nu) / 2]]))


@dataclass(frozen=True)
class Elements:
    """Elements as a solver takes them: ``nodes`` of each (m, 9), gradients of their functions (9, 2, m, points) with weights (m, points) where stiffness is
    summed up, and where stresses are found."""

    nodes: Index
    grad: Array
    weight: Array
    grad_stress: Array


def elements_of(grid: Grid) -> Elements:
    """The grid's elements with their gradients."""
    import logging

    from skfem import Basis, ElementQuad2, MeshQuad2

    # It tells of every array that it copies.
    logging.getLogger("skfem").setLevel(logging.ERROR)

    numbering = _numbering(grid)
    of_dof = numbering.of_dof
    mesh = MeshQuad2(grid.nodes[of_dof].T, numbering.t)
    if numbering.dofs is None:
        numbering.dofs = Basis(mesh, ElementQuad2(), intorder=0).dofs
    basis = Basis(mesh, ElementQuad2(), intorder=4, dofs=numbering.dofs)
    # skfem's unit square reaches from 0 to 1.
    at = np.array([0.5 - GAUSS / 2, 0.5 + GAUSS / 2])
    X = np.stack(np.meshgrid(at, at, indexing="ij")).reshape(2, -1)
    few = Basis(mesh, ElementQuad2(), quadrature=(X, np.full(4, 0.25)), dofs=numbering.dofs)
    return Elements(
        of_dof[basis.element_dofs].T,
        np.stack([f[0].grad for f in basis.basis]),
        basis.dx,
        np.stack([f[0].grad for f in few.basis]),
    )


@dataclass
class _Numbering:
    """The solver's numbers of nodes, sides and middles, the same for all grids that hang together alike: the node of each of its degrees of freedom, its elements'
    corners, its degrees of freedom once they are known."""

    elements: Index
    of_dof: Index
    t: Index
    dofs: Any = None


_NUMBERINGS: list[_Numbering] = []


def _numbering(grid: Grid) -> _Numbering:
    for known in _NUMBERINGS:
        if known.elements is grid.elements:
            return known
    from skfem import MeshQuad, MeshQuad2

    corners = np.unique(grid.corners)
    number = np.full(len(grid.nodes), -1)
    number[corners] = np.arange(len(corners))
    mesh = MeshQuad2.from_mesh(MeshQuad(grid.nodes[corners].T, number[grid.corners].T))
    # Middles of sides lie on the curves, not on the chords.
    pairs, mids = [], []
    for k in range(4):
        two = np.sort(number[grid.elements[:, [k, (k + 1) % 4]]], axis=1)
        pairs.append(two[:, 0] * len(corners) + two[:, 1])
        mids.append(grid.elements[:, 4 + k])
    key, first = np.unique(np.concatenate(pairs), return_index=True)
    mid = np.concatenate(mids)[first]
    facets = np.sort(mesh.facets, axis=0)
    of_facets = mid[np.searchsorted(key, facets[0] * len(corners) + facets[1])]
    node = np.concatenate((corners, of_facets, grid.elements[:, 8]))
    order = np.concatenate((mesh.dofs.nodal_dofs[0], mesh.dofs.facet_dofs[0], mesh.dofs.interior_dofs[0]))
    of_dof = np.empty(len(node), dtype=int)
    of_dof[order] = node
    found = _Numbering(grid.elements, of_dof, mesh.t)
    _NUMBERINGS.append(found)
    del _NUMBERINGS[:-KEPT]
    return found


KEPT = 16


@dataclass(frozen=True)
class Plane:
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
    def stiffness(self) -> Any:
        """Stiffness over all nodes, x and y of each in turn; sparse."""
        from scipy.sparse import coo_matrix

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
        dofs = (2 * e.nodes[:, :, None] + np.arange(2)).reshape(m, 18)
        rows, columns = np.repeat(dofs, 18, axis=1).ravel(), np.tile(dofs, (1, 18)).ravel()
        n = 2 * len(self.grid.nodes)
        return coo_matrix((K.ravel(), (rows, columns)), shape=(n, n)).tocsc()

    @cached_property
    def free(self) -> Index:
        """Numbers of what moves."""
        held = (2 * self.grid.held[:, None] + np.arange(2)).ravel()
        return np.setdiff1d(np.arange(2 * len(self.grid.nodes)), held)

    @cached_property
    def factor(self) -> Any:
        """The factorised stiffness of what moves."""
        from scipy.sparse.linalg import splu

        K = self.stiffness[self.free][:, self.free]
        return splu(K.tocsc(), permc_spec="MMD_AT_PLUS_A", diag_pivot_thresh=0.0, options={"SymmetricMode": True})

    def displaced(self, load: Array) -> Array:
        """Displacements of the nodes (..., n, 2; mm) under loads on them (..., n, 2; N per mm of width)."""
        flat = load.reshape(-1, 2 * len(self.grid.nodes))
        u = np.zeros_like(flat)
        u[:, self.free] = self.factor.solve(np.ascontiguousarray(flat[:, self.free].T)).T
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
        """Stresses (sxx, syy, sxy) at the nodes (..., n, 3; MPa) under displacements (..., n, 2): from the points of each element, the mean of those that meet
        at a node."""
        e = self.elements
        m, loads = len(e.nodes), u.reshape(-1, *u.shape[-2:])
        q = len(loads)
        grad = e.grad_stress.transpose(2, 3, 1, 0).reshape(m, 8, 9)
        moved = loads[:, e.nodes].transpose(1, 2, 0, 3).reshape(m, 9, 2 * q)
        slope = (grad @ moved).reshape(m, 4, 2, q, 2)
        strain = np.stack((slope[:, :, 0, :, 0], slope[:, :, 1, :, 1], slope[:, :, 1, :, 0] + slope[:, :, 0, :, 1]), -1)
        at_nodes = np.matmul(_spread(), (strain @ self.law.T).reshape(m, 4, 3 * q))
        found = self.mean @ at_nodes.reshape(9 * m, 3 * q)
        return np.ascontiguousarray(found.reshape(-1, q, 3).transpose(1, 0, 2)).reshape(*u.shape[:-1], 3)

    def along_edge(self, u: Array, chain: Index) -> Array:
        """Stress along a free edge at the nodes of a chain of elements' sides (odd in number; (..., nodes), MPa), from how the edge itself is stretched: nothing
        pulls on it across."""
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
        found, count = np.zeros(v.shape[:-1]), np.zeros(len(chain))
        for k, t in enumerate((-1.0, 0.0, 1.0)):
            # The first nodes of different elements are different ones.
            found[..., first + k] += middle + t * rise
            count[first + k] += 1.0
        D = self.law
        # Without stress across the edge.
        E_edge = D[0, 0] - D[0, 1] ** 2 / D[0, 0]
        return np.asarray(E_edge * found / count)

    def on_fillet(self, u: Array, stress: Array, chain: Index) -> tuple[Array, Array]:
        """Stress along a fillet at the nodes of a chain (..., nodes; MPa), and how far it may be off there: the mean of what the elements say and of what the edge
        says, of which one tends to be too high and the other too low, and half of what parts them."""
        one, two, _ = principal(stress[..., chain, :])
        own = np.where(np.abs(one) > np.abs(two), one, two)
        edge = self.along_edge(u, chain)
        return (own + edge) / 2, np.abs(own - edge) / 2


def _spread() -> Array:
    """From the four points to the nine nodes of an element, in the grid's order, as a bilinear function."""
    xi = np.array([-1, 1, 1, -1, 0, 1, 0, -1, 0.0]) / GAUSS
    eta = np.array([-1, -1, 1, 1, -1, 0, 1, 0, 0.0]) / GAUSS
    p = np.array([[-1, -1], [-1, 1], [1, -1], [1, 1.0]])
    return np.asarray((1 + xi[:, None] * p[:, 0]) * (1 + eta[:, None] * p[:, 1]) / 4)


def principal(stress: Array) -> tuple[Array, Array, Array]:
    """Largest and smallest principal stress (MPa) and the direction of the largest (rad from x); stresses (..., 3).

    >>> one, two, angle = principal(np.array([30.0, -10.0, 20.0]))
    >>> round(float(one), 4), round(float(two), 4), round(float(np.degrees(angle)), 4)
    (38.2843, -18.2843, 22.5)
    """
    mean, half = (stress[..., 0] + stress[..., 1]) / 2, (stress[..., 0] - stress[..., 1]) / 2
    r = np.hypot(half, stress[..., 2])
    return mean + r, mean - r, np.asarray(np.arctan2(stress[..., 2], half) / 2)


def von_mises(stress: Array, nu: float, strain: bool = True) -> Array:
    """Equivalent stress by the energy of distortion, with the stress across the plane in plane strain; MPa.

    >>> round(float(von_mises(np.array([100.0, 0.0, 0.0]), 0.3, False)), 6), round(float(von_mises(np.array([100.0, 0.0, 0.0]), 0.3)), 4)
    (100.0, 88.8819)
    """
    x, y, t = stress[..., 0], stress[..., 1], stress[..., 2]
    z = nu * (x + y) if strain else 0.0 * x
    return np.asarray(np.sqrt(((x - y) ** 2 + (y - z) ** 2 + (z - x) ** 2) / 2 + 3 * t**2))

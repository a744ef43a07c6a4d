"""The elements of a grid as a solver takes them: their functions' gradients, and where each of their numbers goes in
a sparse matrix."""

from __future__ import annotations

from functools import cache
from typing import Any

import numpy as np
from msgspec import Struct, field

from cooper.arrays import Array, Index
from cooper.field.tooth_grid import Grid

GAUSS = 1 / np.sqrt(3)
"""Places of the two points from which stresses are taken to the nodes: they are nearest to the truth there."""
CACHE_SIZE = 16


class Elements(Struct, frozen=True):
    """Elements as a solver takes them: gradients of their functions (9, 2, m, points) with weights (m, points) where
    stiffness is summed up, and where stresses are found; ``pattern`` what grids that hang together alike have in
    common."""

    grad: Array
    weight: Array
    grad_stress: Array
    pattern: Pattern


def elements_of(grid: Grid) -> Elements:
    """The grid's elements with their gradients.

    Parameters
    ----------
    grid : Grid
        Grid of nine-node elements.

    Returns
    -------
    Elements
        Elements.
    """
    full, few = _reference()
    x = grid.nodes[grid.elements]
    grad, weight = _mapped(x, *full)
    return Elements(grad, weight, _mapped(x, *few)[0], _pattern(grid))


@cache
def _reference() -> tuple[tuple[Array, Array], tuple[Array, Array]]:
    """Gradients of the nine functions over the unit square (9, 2, points) and weights (points), where stiffness is
    summed up and where stresses are found."""
    from skfem.element import ElementQuad2
    from skfem.quadrature import get_quadrature

    element = ElementQuad2()
    # The unit square reaches from 0 to 1.
    at = np.array([0.5 - GAUSS / 2, 0.5 + GAUSS / 2])
    few = np.stack(np.meshgrid(at, at, indexing="ij")).reshape(2, -1)
    points, weights = get_quadrature(element.refdom, 4)

    def gradients(X: Array) -> Array:
        return np.stack([element.lbasis(X, a)[1] for a in range(9)])

    return (gradients(points), weights), (gradients(few), np.full(4, 0.25))


def _mapped(x: Array, grad: Array, weights: Array) -> tuple[Array, Array]:
    """Gradients (9, 2, m, points) and weights (m, points) of elements with their nodes at x (m, 9, 2)."""
    a, b = np.einsum("eac,adq->cdeq", x, grad, optimize=True)
    det = a[0] * b[1] - a[1] * b[0]
    by_x = grad[:, 0, None, :] * (b[1] / det) - grad[:, 1, None, :] * (b[0] / det)
    by_y = grad[:, 1, None, :] * (a[0] / det) - grad[:, 0, None, :] * (a[1] / det)
    return np.stack((by_x, by_y), axis=1), np.asarray(det * weights)


def spread_of() -> Array:
    """From the four points to the nine nodes of an element, in the grid's order, as a bilinear function.

    Returns
    -------
    Array
        Matrix (9, 4).
    """
    xi = np.array([-1, 1, 1, -1, 0, 1, 0, -1, 0.0]) / GAUSS
    eta = np.array([-1, -1, 1, 1, -1, 0, 1, 0, 0.0]) / GAUSS
    p = np.array([[-1, -1], [-1, 1], [1, -1], [1, 1.0]])
    return np.asarray((1 + xi[:, None] * p[:, 0]) * (1 + eta[:, None] * p[:, 1]) / 4)


class Pattern(Struct):
    """Where the stiffnesses of elements (m, 18, 18) go in the matrix of what moves, in the order in which its
    unknowns are best eliminated; known once one grid of that kind has been solved."""

    held: Index | None = None
    order: Index = field(default_factory=lambda: np.zeros(0, dtype=np.intp))
    slot: Index = field(default_factory=lambda: np.zeros(0, dtype=np.intp))
    indices: Index = field(default_factory=lambda: np.zeros(0, dtype=np.intp))
    starts: Index = field(default_factory=lambda: np.zeros(0, dtype=np.intp))

    def knows(self, held: Index) -> bool:
        """Whether it is that of a grid with such nodes held."""
        return self.held is not None and np.array_equal(self.held, held)

    def learn(self, dofs: Index, held: Index, order: Index, total: int) -> None:
        """Take over an order of the unknowns; ``dofs`` (m, 18) of the elements, ``total`` unknowns of which those
        not in ``order`` are held."""
        number = np.full(total, -1)
        number[order] = np.arange(len(order))
        row, column = number[np.repeat(dofs, 18, axis=1)].ravel(), number[np.tile(dofs, (1, 18))].ravel()
        n = len(order)
        # What is held goes to a place of its own, past all others.
        key = np.where((row < 0) | (column < 0), n * n, column * n + row)
        places, slot = np.unique(key, return_inverse=True)
        free = places[places < n * n]
        self.held, self.order, self.slot = held, order, slot.ravel()
        self.indices = (free % n).astype(np.int32)
        self.starts = np.searchsorted(free // n, np.arange(n + 1)).astype(np.int32)

    def matrix(self, K: Array) -> Any:
        """The matrix of what moves; sparse."""
        from scipy.sparse import csc_matrix

        nnz, n = len(self.indices), len(self.order)
        data = np.bincount(self.slot, weights=K.ravel(), minlength=nnz)[:nnz]
        return csc_matrix((data, self.indices, self.starts), shape=(n, n))


_PATTERNS: list[tuple[Index, Pattern]] = []


def _pattern(grid: Grid) -> Pattern:
    for elements, known in _PATTERNS:
        if elements is grid.elements:
            return known
    _PATTERNS.append((grid.elements, Pattern()))
    del _PATTERNS[:-CACHE_SIZE]
    return _PATTERNS[-1][1]

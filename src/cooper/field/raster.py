"""A field over a grid as a picture: which triangle lies under each pixel, values there, lines of equal value."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array, Index, Marks

SPLIT = np.array([[0, 4, 7], [4, 8, 7], [4, 1, 8], [1, 5, 8], [7, 8, 3], [8, 6, 3], [8, 5, 6], [5, 2, 6]])
"""The eight triangles of a nine-node element."""


def triangles_of(elements: Index) -> Index:
    """The triangles of nine-node elements.

    Parameters
    ----------
    elements : Index
        Nodes of the elements (m, 9).

    Returns
    -------
    Index
        Nodes (8 m, 3).
    """
    return np.asarray(elements[:, SPLIT].reshape(-1, 3), dtype=np.intp)


class Raster(Struct, frozen=True):
    """A picture's pixels that lie in the section: ``inside`` (height, width), and for each of them in order its
    three nodes (k, 3) with their weights (k, 3)."""

    inside: Marks
    nodes: Index
    weights: Array

    def values(self, at_nodes: Array) -> Array:
        """Values at the pixels inside, from those at the nodes."""
        return np.asarray((at_nodes[self.nodes] * self.weights).sum(axis=1))


def raster_of(points: Array, triangles: Index, width: int, height: int) -> Raster:
    """Find the triangle under the middle of each pixel.

    Parameters
    ----------
    points : Array
        Nodes in pixels (n, 2), y downwards.
    triangles : Index
        Nodes of the triangles (m, 3).
    width : int
        Width of the picture (pixels).
    height : int
        Height of the picture (pixels).

    Returns
    -------
    Raster
        Triangle and weights of each pixel.

    Examples
    --------
    >>> square = np.array([[0, 0], [4, 0], [4, 4], [0, 4.0]])
    >>> r = raster_of(square, np.array([[0, 1, 2], [0, 2, 3]]), 5, 4)
    >>> r.inside.sum(axis=1).tolist(), np.round(r.values(square[:, 0])[:4], 6).tolist()
    ([4, 4, 4, 4], [0.5, 1.5, 2.5, 3.5])
    """
    x, y = points[:, 0][triangles], points[:, 1][triangles]
    # Pixels whose middles the box about each triangle holds.
    x_0 = np.clip(np.ceil(_least(x) - 0.5), 0, width).astype(np.int32)
    x_1 = np.clip(np.floor(-_least(-x) + 0.5), 0, width).astype(np.int32)
    y_0 = np.clip(np.ceil(_least(y) - 0.5), 0, height).astype(np.int32)
    y_1 = np.clip(np.floor(-_least(-y) + 0.5), 0, height).astype(np.int32)
    wide, count = np.maximum(x_1 - x_0, 0), np.maximum(x_1 - x_0, 0) * np.maximum(y_1 - y_0, 0)
    which = np.repeat(np.arange(len(triangles), dtype=np.int32), count)
    k = np.arange(len(which), dtype=np.int32) - np.repeat((np.cumsum(count) - count).astype(np.int32), count)
    below = k // np.maximum(wide, 1)[which]
    column, row = x_0[which] + k - below * wide[which], y_0[which] + below
    # The weights of the second and third corner are linear over the picture.
    b_x, b_y, c_x, c_y = x[:, 1] - x[:, 0], y[:, 1] - y[:, 0], x[:, 2] - x[:, 0], y[:, 2] - y[:, 0]
    area = b_x * c_y - b_y * c_x
    over = 1 / np.where(np.abs(area) > 1e-12, area, np.inf)
    at_x, at_y = 0.5 - x[:, 0], 0.5 - y[:, 0]
    of_b = np.stack(((at_x * c_y - at_y * c_x) * over, c_y * over, -c_x * over))
    of_c = np.stack(((at_y * b_x - at_x * b_y) * over, -b_y * over, b_x * over))
    w_b = of_b[0][which] + of_b[1][which] * column + of_b[2][which] * row
    w_c = of_c[0][which] + of_c[1][which] * column + of_c[2][which] * row
    within = (w_b >= -1e-9) & (w_c >= -1e-9) & (w_b + w_c <= 1 + 1e-9)
    # Where two share a pixel on their common side one of them counts.
    result = np.full(width * height, -1)
    hits = np.flatnonzero(within)
    result[row[hits] * width + column[hits]] = hits
    inside = result >= 0
    k = result[inside]
    w_b, w_c = w_b[k], w_c[k]
    return Raster(inside.reshape(height, width), triangles[which[k]], np.stack((1 - w_b - w_c, w_b, w_c), axis=1))


def _least(v: Array) -> Array:
    return np.asarray(np.minimum(np.minimum(v[:, 0], v[:, 1]), v[:, 2]))


def isolines(points: Array, triangles: Index, at_nodes: Array, levels: Array) -> Array:
    """Segments of the lines of equal value.

    Parameters
    ----------
    points : Array
        Nodes (n, 2).
    triangles : Index
        Nodes of the triangles (m, 3).
    at_nodes : Array
        Value at each node.
    levels : Array
        Values of the lines.

    Returns
    -------
    Array
        Segments (k, 2, 2).

    Examples
    --------
    >>> line = isolines(np.array([[0, 0], [2, 0], [0, 2.0]]), np.array([[0, 1, 2]]), np.array([0.0, 2.0, 0.0]), np.array([1.0]))
    >>> np.round(line, 6).tolist()
    [[[1.0, 1.0], [1.0, 0.0]]]
    """  # noqa: E501
    v = at_nodes[triangles]
    low, high = np.minimum(np.minimum(v[:, 0], v[:, 1]), v[:, 2]), np.maximum(np.maximum(v[:, 0], v[:, 1]), v[:, 2])
    which, crossed = np.nonzero((low <= levels[:, None]) & (high > levels[:, None]))
    t, w, level = triangles[crossed], v[crossed], levels[which]
    o = w > level[:, None]
    # The corner that stands alone on its side of the level.
    alone = np.argmax(o == (o.sum(axis=1) == 1)[:, None], axis=1)
    rows = np.arange(len(t))
    a, one = w[rows, alone], points[t[rows, alone]]
    ends = []
    for other in (1, 2):
        j = (alone + other) % 3
        s = ((level - a) / (w[rows, j] - a))[:, None]
        ends.append(one * (1 - s) + points[t[rows, j]] * s)
    return np.stack(ends, axis=1)


def boundary_of(elements: Index) -> Index:
    """The sides of nine-node elements that belong to one of them alone.

    Parameters
    ----------
    elements : Index
        Nodes of the elements (m, 9).

    Returns
    -------
    Index
        First corner, middle, second corner (k, 3).
    """
    sides = np.concatenate([elements[:, [k, 4 + k, (k + 1) % 4]] for k in range(4)])
    _, first, count = np.unique(sides[:, 1], return_index=True, return_counts=True)
    return np.asarray(sides[first[count == 1]], dtype=np.intp)

"""Gears whose widths a survey finds together, and what keeps clear of the axes."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from cooper.arrays import Array
from cooper.document.models import Design

TORSION = 25.0
"""Stress (MPa) by which shafts are sized from their torque until they are laid out."""


def clear_of_axes(axes: list[Array], tips: list[list[Array]], bores: list[Array]) -> NDArray[np.bool_]:
    """Whether no gear of stages in line runs into the shaft of another stage, the axes in one plane, as
    `results.pose.clashes` has it.

    Parameters
    ----------
    axes : list[Array]
        Places of the shafts, one more than stages (mm).
    tips : list[list[Array]]
        Tip diameters by stage of the driving and the driven gear (mm).
    bores : list[Array]
        Diameters of the shafts (mm).

    Returns
    -------
    NDArray[np.bool_]
        True where none does.
    """
    good = np.ones(len(axes[0]), dtype=bool)
    for k, pair in enumerate(tips):
        for i in (0, 1):
            for x, axis in enumerate(axes):
                # Its own shaft, and that of its mate.
                if x not in (k, k + 1):
                    good &= np.abs(axis - axes[k + i]) >= pair[i] / 2 + bores[x] / 2
    return good


def shaft_diameter(T: Array) -> Array:
    """Diameter of a solid shaft under a torque at the stress `TORSION`.

    Parameters
    ----------
    T : Array
        Torque (N m).

    Returns
    -------
    Array
        Diameter (mm).

    Examples
    --------
    >>> round(float(shaft_diameter(np.array(100.0))), 2)
    27.31
    """
    return np.asarray(np.cbrt(16e3 * np.asarray(T, dtype=float) / (np.pi * TORSION)), dtype=np.float64)


def width_groups(design: Design) -> list[list[int]]:
    """Stages whose gears share one width, each group by itself: the meshes of one planet side by side.

    Parameters
    ----------
    design : Design
        The design.

    Returns
    -------
    list[list[int]]
        Numbers of the stages, group by group.
    """
    groups: list[list[int]] = []
    for k in range(len(design.train.stages)):
        one = design.train.stages[k].within
        of = k if one is None else one.stages[one.arranged.stands_in(k - one.first)]
        if of == k:
            groups.append([k])
        else:
            next(group for group in groups if group[0] == of).append(k)
    return groups

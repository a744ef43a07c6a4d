"""Counts of the gears of a batch of designs, and where their planets are."""

from __future__ import annotations

from math import pi

import numpy as np

from cooper.arrays import Mixed as Array
from cooper.document.models import GearSet
from cooper.kinds.known import kind_of
from cooper.survey.design_batch import DesignBatch
from cooper.trains.planets import positions


def counts(block: DesignBatch, k: int, i: int) -> Array:
    """Signed counts of gear i of stage k of all designs.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.
    k : int
        Number of the stage, from 0.
    i : int
        Number of the gear in its stage, 0 or 1.

    Returns
    -------
    Array
        Counts, negative for internal gears.
    """
    stage = block.design.train.stages[k]
    result = block.of_gear(k, i, "z")
    gear = stage.gears[i]
    return np.broadcast_to(
        np.asarray(kind_of(gear).count(gear.z) if result is None else result, dtype=float), len(block)
    )


def planet_angles(block: DesignBatch, one: GearSet) -> Array:
    """Where the planets of all designs stand.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.
    one : GearSet
        The set.

    Returns
    -------
    Array
        Angles (designs, planets; rad).
    """
    first, second = (
        (counts(block, one.stages[n], i), counts(block, one.stages[n], 1 - i))
        for n, i in ((n, one.arranged.at(n)) for n in range(2))
    )
    places = positions(first, second, counts(block, one.stages[2], 0) if len(one.stages) == 3 else None)
    even = np.arange(one.planets) / one.planets
    with np.errstate(all="ignore"):
        at = np.round(even * places[:, None]) / places[:, None]
    return 2 * pi * np.where(places[:, None] > 0, at, even)

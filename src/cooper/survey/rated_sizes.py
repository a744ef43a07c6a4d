"""Mass, cost and space of rated designs."""

from __future__ import annotations

import numpy as np

from cooper.arrays import Mixed as Array
from cooper.gears.area import section_area
from cooper.results.result_tree import StageResults
from cooper.results.to_core import material_of
from cooper.survey.design_batch import DesignBatch
from cooper.survey.rated_designs import Rated


def add_sizes(out: Rated) -> None:
    """Add what a person chooses by: mass (kg) and cost of the gears, and the space (mm) that they take with their axes
    in one plane.

    Parameters
    ----------
    out : Rated
        Rated designs, to which they are added.
    """
    train, n = out.block.design.train, len(out.block)
    seen: set[str] = set()
    mass, cost, width, out_d = np.zeros(n), np.zeros(n), np.zeros(n), np.zeros(n)
    x, left, right, high = np.zeros(n), np.zeros(n), np.zeros(n), np.zeros(n)
    for k, stage in enumerate(out.stages):
        one = train.stages[k].within
        around = one is not None and one.arranged.around
        for i, gear in enumerate(train.stages[k].gears):
            planet = one is not None and around and one.arranged.roles[k - one.first][i] == one.arranged.between
            if gear.id not in seen:
                seen.add(gear.id)
                own = gear_mass(out.block, k, i, stage) * (one.planets if planet and one is not None else 1)
                mass, cost = mass + own, cost + own * float(material_of(gear.material).price_index)
            reach = stage.kinds[i].outside(stage.gears[i]) / 2
            at = x + (np.asarray(stage.wheel_x) if i == 1 and not around else 0.0)
            if planet:
                reach = reach + stage.mesh.a_w
            out_d = np.maximum(out_d, 2 * reach)
            left, right, high = np.minimum(left, at - reach), np.maximum(right, at + reach), np.maximum(high, reach)
        if not around:
            x = x + stage.wheel_x
        # Stages lie behind each other along their axes; the meshes of one planet side by side share their width.
        beside = one is not None and one.arranged.stands_in(k - one.first) < k - one.first
        if not beside:
            width = width + np.maximum(stage.gears[0].b, stage.gears[1].b)
    out.values.update(mass=mass, cost=cost, length=right - left, height=2 * high, width=width, d_out=out_d)


def gear_mass(block: DesignBatch, k: int, i: int, stage: StageResults) -> Array:
    """Mass of one gear of all designs, as the results have it.

    Parameters
    ----------
    block : DesignBatch
        Designs that differ in numbers alone.
    k : int
        Number of the stage, from 0.
    i : int
        Number of the gear in its stage, 0 or 1.
    stage : StageResults
        Results of the stage.

    Returns
    -------
    Array
        Mass (kg).
    """
    gear, kind, values = block.design.train.stages[k].gears[i], stage.kinds[i], stage.gears[i]
    column = block.of_gear(k, i, kind.boundary_diameter)
    edge: Array = getattr(gear, kind.boundary_diameter) or 0.0 if column is None else column
    area = np.abs(np.pi / 4 * edge**2 - section_area(stage.teeth[i], stage.forms[i]))
    if gear.d_i is not None:
        b_s = gear.b if gear.b_s is None else gear.b_s
        area = area - np.pi / 4 * (gear.d_i**2 - gear.d_bore**2) * (1 - b_s / values.b)
    # A ring's outside stands with its results.
    if kind.boundary_diameter == "d_rim":
        values["d_rim"] = edge
    return area * values.b * float(material_of(gear.material).density) * 1e-9

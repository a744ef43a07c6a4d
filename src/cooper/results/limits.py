"""Where a pair stops to work, found by computing whole ranges of it at once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from cooper.arrays import Loose as Array
from cooper.arrays import as_float, where
from cooper.gears.cutter import ConicCut, FormCut, PinionCutter
from cooper.gears.fillets import conic_corner, formed_centre
from cooper.gears.inputs import PairInput
from cooper.gears.pair import centre_distance
from cooper.gears.pair_shape import PairShape
from cooper.gears.tip import land_half_angle
from cooper.gears.tooth import Tooth, pointed_diameter
from cooper.results.pair_numbers import pair_numbers

LEAST_FLANK = 0.02
"""Height of involute, in modules of diameter, below which a tooth counts as having no flank."""
LEAST_THICKNESS = 0.05
"""Tooth thickness at the reference circle, in modules, below which a tooth counts as having none."""
ROUNDS = 4
POINTS = 129

Vary = Callable[[Array], PairInput]


def workable(n: PairShape) -> Array:
    """Which pairs can be made and rated: the conditions under which `evaluate` refuses none."""
    good = as_float(n.mesh.eps_alpha) >= 1.0
    for play in ("j_wt_min", "j_wt_max", "j_op_min", "j_op_max"):
        # At the ends of its tolerances the centre distance may leave the flanks nothing to work on.
        good = good & np.isfinite(n.mesh.get(play, 0.0))
    for tooth, form, gear in zip(n.teeth, n.forms, n.gears, strict=True):
        good = good & (tooth.s_t() > LEAST_THICKNESS * tooth.m_n) & (tooth.d_f * tooth.sign > 0)
        lowest = where(tooth.sign > 0, np.maximum(tooth.d_b, tooth.d_f), tooth.d_f)
        # A ring has no involute inside its base circle.
        good = good & ((tooth.sign > 0) | (tooth.d_a < tooth.d_b))
        good = good & (gear.d_bore < tooth.d_f) & (tooth.d_a < pointed_diameter(tooth)) & (tooth.d_a > lowest)
        good = good & tool_fits(tooth) & np.isfinite(tooth.d_f_nominal) & (land_half_angle(tooth) > 0)
        good = good & (form.d_Ff < tooth.d_a - LEAST_FLANK * tooth.m_n) & np.isfinite(gear.Y_B)
    return good


def tool_fits(tooth: Tooth) -> NDArray[np.bool_]:
    """Whether the root that the tool leaves exists: its rounding fits, and it can roll with the gear."""
    if isinstance(tooth.tool, PinionCutter):
        cut = tooth.cut
        turns = np.arctan(cut.t_M / cut.r_b0) > cut.alpha_w0
        smaller = (tooth.sign > 0) | (tooth.tool.z_0 < np.abs(tooth.z))
        return np.asarray((cut.eta_M >= 0) & turns & smaller, dtype=bool)
    if isinstance(tooth.tool, ConicCut):
        x_0, y_0, x_1, y_1 = conic_corner(tooth, tooth.tool)
        return np.asarray((x_1 >= 0) & (x_1 <= x_0 * (1 + 1e-9)) & (tooth.sign * (y_0 - y_1) > 0), dtype=bool)
    if isinstance(tooth.tool, FormCut):
        return np.asarray(formed_centre(tooth)[1] >= 0, dtype=bool)
    return np.ones((), dtype=bool)


def range_near(vary: Vary, value: float, low: float, high: float, *, whole: bool = False) -> tuple[float, float] | None:
    """Ends of the working interval nearest to ``value`` within low..high; None when nothing there works.

    Looks at a grid, then at ever finer grids about both ends; the ends returned work themselves.
    """
    if not low < high:
        return None
    with np.errstate(all="ignore"):
        grid = np.arange(np.ceil(low), high + 1) if whole else np.linspace(low, high, POINTS)
        good = np.broadcast_to(workable(pair_numbers(vary(grid))), grid.shape)
        if not good.any():
            return None
        nearest = int(np.argmin(where(good, np.abs(grid - value), np.inf)))
        first = nearest
        while first > 0 and good[first - 1]:
            first -= 1
        last = nearest
        while last < len(grid) - 1 and good[last + 1]:
            last += 1
        ends = [float(grid[first]), float(grid[last])]
        for e, beyond in ((0, first - 1), (1, last + 1)):
            if whole or not 0 <= beyond < len(grid):
                continue
            bad = float(grid[beyond])
            for _ in range(ROUNDS):
                fine = np.linspace(ends[e], bad, POINTS)
                ok = np.broadcast_to(workable(pair_numbers(vary(fine))), fine.shape)
                stop = len(fine) - 1 if ok.all() else int(np.argmin(ok))
                ends[e], bad = float(fine[max(stop - 1, 0)]), float(fine[stop])
    return ends[0], ends[1]


def vary_gear(pair: PairInput, i: int, name: str, solved: frozenset[str]) -> Vary:
    """Vary a field of gear i (0, 1); the centre distance follows where it is the solved one."""

    def vary(values: Array) -> PairInput:
        gears = [pair.gears[0], pair.gears[1]]
        changed: Any = {name: values}
        if name in ("h_K", "rho_a"):
            changed = {"tip": replace(pair.gears[i].tip, **changed)}
        gears[i] = replace(gears[i], **changed)
        a_w = pair.a_w
        if "a_w" in solved and name in ("z", "x"):
            one, two = gears
            a_w = centre_distance(one.z, two.z, pair.m_n, one.x + two.x, pair.alpha_n, pair.beta)
        return replace(pair, gears=(gears[0], gears[1]), a_w=a_w)

    return vary


def vary_distance(pair: PairInput, solved: frozenset[str]) -> Vary:
    """Vary the centre distance; the solved shift follows."""
    from cooper.gears.pair import shift_sum

    i = 0 if "x_1" in solved else 1

    def vary(values: Array) -> PairInput:
        one, two = pair.gears
        total = shift_sum(one.z, two.z, pair.m_n, values, pair.alpha_n, pair.beta)
        gears = [one, two]
        gears[i] = replace(gears[i], x=total - gears[1 - i].x)
        return replace(pair, gears=(gears[0], gears[1]), a_w=values)

    return vary

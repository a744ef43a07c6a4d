"""What each choice of the two profile shifts allows: the fields behind the map of x_1 and x_2."""

from __future__ import annotations

from functools import cached_property

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from numpy.typing import NDArray

from cooper.arrays import Loose as Array
from cooper.document.duty import Defaults
from cooper.document.models import Design, at_stage
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.gears.cutter import FormCut
from cooper.gears.inputs import PairInput
from cooper.gears.pair import centre_distance
from cooper.gears.root import flank_end
from cooper.gears.tooth import pointed_diameter
from cooper.i18n.text import tr
from cooper.results.checks import FORM_SCALE
from cooper.results.pair_numbers import pair_numbers
from cooper.results.power_flow import pair_now
from cooper.results.result_tree import Results

LOW, HIGH, STEPS = -1.0, 1.6, 105


class ShiftMap(Struct, frozen=True, dict=True):
    """Margins over a grid of shifts: ``x`` the axis of both, ``margins[name][i, k]`` at x_1 = x[k] and x_2 = x[i].

    A margin below 0 means that this condition is not met; ``level`` is the difference of the specific slidings at the
    two roots, 0 where they are equal.
    """

    x: Array
    margins: dict[str, Array]
    level: Array

    @property
    def worst(self) -> Array:
        return np.min(np.stack(list(self.margins.values())), axis=0)

    @cached_property
    def lines(self) -> dict[str, tuple[Array, NDArray[np.bool_]]]:
        """Of every condition, and of equal sliding, the segments on which it is at its limit, and which of them
        bound."""
        fields = {**self.margins, "equal sliding": self.level}
        result = {name: zero_line(self.x, values) for name, values in fields.items()}
        return {name: (ends, self.others_hold(name, ends)) for name, ends in result.items() if len(ends)}

    def others_hold(self, name: str, segments: Array) -> NDArray[np.bool_]:
        """For each segment whether every condition but the named one holds about its middle: a true bound."""
        rest = np.min(np.stack([m for k, m in self.margins.items() if k != name]), axis=0)
        middle = segments.mean(axis=1)
        step = self.x[1] - self.x[0]
        k, i = (np.clip(np.round((middle[:, c] - self.x[0]) / step).astype(int), 0, len(self.x) - 1) for c in (0, 1))
        return np.asarray(rest[i, k] >= -0.03)


def shift_map(design: Design, results: Results, stage: int) -> ShiftMap:
    """The map of a stage; the centre distance follows the shifts, everything else is kept.

    It does not depend on the present shifts, nor on which of them or the centre distance is given.
    """
    kind = results.stages[stage].kind
    if not kind.shifts:
        raise OutOfRange("x_2", 0.0, tr("a {name} has no profile shift", name=kind.name))
    doc = design.train.stages[stage]
    plain = set_many(design, {f"{path}.x": 0.0 for path in doc.paths} | {f"{doc.path}.a_w": None})
    defaults = at_stage(design.train, stage)[1]
    pair = pair_now(design.train, results, stage, plain.train.stages[stage])
    axis = np.linspace(LOW, HIGH, STEPS)
    x_1, x_2 = np.meshgrid(axis, axis)
    return _fields(_vary(pair, x_1, x_2), axis, defaults)


def _vary(pair: PairInput, x_1: Array, x_2: Array) -> PairInput:
    one, two = (replace(g, x=x) for g, x in zip(pair.gears, (x_1, x_2), strict=True))
    a_w = centre_distance(one.z, two.z, pair.m_n, x_1 + x_2, pair.alpha_n, pair.beta)
    return replace(pair, gears=(one, two), a_w=a_w)


def _fields(pair: PairInput, axis: Array, defaults: Defaults) -> ShiftMap:
    with np.errstate(all="ignore"):
        n = pair_numbers(pair)
        m_n = pair.m_n
        margins = {"contact ratio": n.mesh.eps_alpha / defaults.eps_alpha_min - 1}
        if "c_tip" in n.mesh:
            margins["tips beyond the mesh"] = n.mesh.c_tip / (FORM_SCALE * m_n)
        for i, (g, tooth, form) in enumerate(zip(n.gears, n.teeth, n.forms, strict=True), 1):
            if not isinstance(tooth.tool, FormCut) and np.all(tooth.sign > 0):
                # In shifts; of a rack this is x_E less the least shift.
                margins[tr("undercut {i}", i=i)] = flank_end(tooth) * np.sin(tooth.alpha_t) / m_n
            least = max(defaults.s_an_min, 1e-6) * m_n
            land = np.where(tooth.d_a < pointed_diameter(tooth), g.s_anE / least - 1, -1.0)
            margins[tr("tip land {i}", i=i)] = land
            reach = g.c_F / (FORM_SCALE * m_n)
            # An undercut flank is cleared by the tool; there the undercut itself is the condition.
            margins[tr("flank reach {i}", i=i)] = np.where(form.undercut, np.maximum(reach, 0.01), reach)
    level = n.gears[0].zeta_f - n.gears[1].zeta_f
    shape = (len(axis), len(axis))
    whole = {
        k: np.nan_to_num(np.broadcast_to(v, shape), nan=-1.0, posinf=10.0, neginf=-1.0) for k, v in margins.items()
    }
    result = ShiftMap(axis, whole, np.nan_to_num(np.broadcast_to(level, shape), nan=0.0, posinf=99.0, neginf=-99.0))
    # Its lines are found here, beside the window, and not while it is painted.
    assert result.lines is not None
    return result


def zero_line(axis: Array, field: Array) -> Array:
    """Segments on which a field over the grid is zero, by linear interpolation in every cell; (n, 2, 2) of x_1, x_2."""
    values = np.stack((field[:-1, :-1], field[:-1, 1:], field[1:, 1:], field[1:, :-1]))
    x, y = np.meshgrid(axis[:-1], axis[:-1])
    h = axis[1] - axis[0]
    corners = [(x, y), (x + h, y), (x + h, y + h), (x, y + h)]
    cut, places = [], []
    for k in range(4):
        a, b = values[k], values[(k + 1) % 4]
        crosses = (a < 0) != (b < 0)
        t = np.where(crosses, a / np.where(crosses, a - b, 1.0), 0.0)
        (ax, ay), (bx, by) = corners[k], corners[(k + 1) % 4]
        cut.append(crosses)
        places.append(np.stack((ax + t * (bx - ax), ay + t * (by - ay)), axis=-1))
    cuts, points = np.stack(cut), np.stack(places)
    two = cuts.sum(0) == 2
    order = np.argsort(~cuts[:, two], axis=0, kind="stable")[:2]
    chosen = points[:, two]
    return np.stack([chosen[order[e], np.arange(chosen.shape[1])] for e in (0, 1)], axis=1)

"""Candidates sifted rule by rule, their widths solved, and what is left rated whole."""

from __future__ import annotations

from typing import Any

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace
from numpy.typing import NDArray

from cooper.arrays import Array
from cooper.arrays import Mixed as Many
from cooper.document.models import at_stage
from cooper.document.survey_spec import SurveySpec
from cooper.results.result_tree import Check
from cooper.results.solve_stage import solve_duty
from cooper.stock.materials import is_plastic
from cooper.survey.batch_places import counts
from cooper.survey.choice_table import table_of
from cooper.survey.design_batch import DesignBatch
from cooper.survey.equal_roots import equal_roots
from cooper.survey.rated import At, Load, Shaped, can_be, loaded, rate_block, set_loads, shaped, strength
from cooper.survey.rated_designs import Rated
from cooper.survey.rules import LOADED
from cooper.survey.search_space import Candidates
from cooper.survey.too_weak import too_weak
from cooper.survey.width_groups import clear_of_axes, width_groups
from cooper.survey.widths import least_margin, solve_widths

BLOCK = 4_096
"""Candidates that are rated at once: their arrays fit the cache."""


AGAIN = 3
"""How often widths are widened where the whole rating finds a little less than the solver did."""


class Batch(Struct):
    """Survivors of one pattern, by its number: columns by path, values by quantity, least margin; and what the rules
    took away."""

    pattern: int
    columns: dict[str, Array] = field(default_factory=dict)
    values: dict[str, Array] = field(default_factory=dict)
    looked: int = 0
    gone: dict[str, float] = field(default_factory=dict)

    def __len__(self) -> int:
        return len(next(iter(self.columns.values()))) if self.columns else 0


def filter_and_rate(space: Candidates, i: int, numbers: NDArray[np.int64]) -> Batch:
    """Some candidates of a space rule by rule: the cheap ones first, the widths solved for what is left, then rated
    whole.

    Parameters
    ----------
    space : Candidates
        Candidates of a pattern.
    i : int
        Number of the pattern.
    numbers : NDArray[np.int64]
        Numbers of the candidates.

    Returns
    -------
    Batch
        Survivors with their quantities, and how many each rule took.
    """
    out = Batch(i, looked=len(numbers))
    if not len(numbers):
        return out
    q = space.question
    with np.errstate(all="ignore"):
        block, early = space.block(numbers)
        keep = np.ones(len(numbers), dtype=bool)
        tally = _Tally(out, np.ones(len(numbers)))
        for rule, good in early.items():
            if rule not in q.shown:
                tally.take(rule, keep, good)
        block = block.pick(np.flatnonzero(keep))
        if q.share == "root" and len(block):
            block = equal_roots(block)
        if q.widths == "solved" and len(block):
            block = _solved(space, block, out)
        parts = [_rated(space, block.pick(slice(k, k + BLOCK)), out) for k in range(0, len(block), BLOCK)]
    parts = [p for p in parts if len(p.block)]
    if parts:
        out.columns = {c: np.concatenate([p.block.columns[c] for p in parts]) for c in parts[0].block.columns}
        tables = [table_of(p) for p in parts]
        out.values = {c: np.concatenate([t[c] for t in tables]) for c in tables[0]}
    return out


def _rated(space: Candidates, block: DesignBatch, out: Batch) -> Rated:
    """A block rated whole: what every rule leaves of it."""
    q = space.question
    rated = rate_block(block)
    if q.widths == "solved":
        rated = _widened(space, rated)
    keep, tally = np.ones(len(block), dtype=bool), _Tally(out, np.ones(len(block)))
    tally.take("made", keep, rated.alive)
    _sizes(tally, rated, keep, q)
    for stage in rated.stages:
        for g in stage.gears:
            if "undercut" not in q.shown:
                tally.take("undercut", keep, np.asarray(g.undercut) == 0)
    if "clash" not in q.shown:
        tally.take("clash", keep, clear_of_shafts(rated))
    asked = [c for c in rated.checks if c.symbol not in q.shown and space.concerns(c.stage)]
    lost = keep & (np.min(np.stack([_ending(np.broadcast_to(c.margin, len(keep))) for c in asked]), axis=0) < 0)
    tally.worst([_some(c, lost) for c in asked], lost, q.shown)
    keep &= ~lost
    return rated if keep.all() else rated.pick(np.flatnonzero(keep))


def _sizes(tally: _Tally, rated: Rated, keep: NDArray[np.bool_], q: SurveySpec) -> None:
    if q.a_most is not None:
        for stage in rated.stages:
            tally.take("a_most", keep, stage.mesh.a_w <= q.a_most + 1e-9)
    for name, most, value in (
        ("d_most", q.d_most, "d_out"),
        ("b_most", q.b_most, "width"),
        ("l_most", q.l_most, "length"),
    ):
        if most is not None:
            tally.take(name, keep, rated.values[value] <= most + 1e-9)


def _solved(space: Candidates, block: DesignBatch, out: Batch) -> DesignBatch:
    """The designs whose widths can be solved, with them, stage after stage as the power goes."""
    train = block.design.train
    _, T, omega = solve_duty(train.duty)
    n = len(block)
    at = At(np.full(n, T), np.full(n, omega), np.ones(n), np.ones(n))
    groups = width_groups(block.design)
    for group in groups:
        one = train.stages[group[0]].within
        if one is None and len(groups) > 1 and group is groups[0]:
            # Many candidates have one and the same first stage: it is solved once.
            rows, b, eta = _first_once(space, block, at, group, out)
        else:
            rows, b, eta = _in_blocks(space, block, at, group, out, np.ones(len(block)))
        block, at = block.pick(rows), at.pick(rows)
        if not len(block):
            break
        block = block.more(dict.fromkeys(_width_paths(block, group), np.round(b, 6)))
        if one is None:
            u = np.abs(counts(block, group[0], 1) / counts(block, group[0], 0))
            at = At(at.T * u * eta, at.omega / u, at.ratio * u, at.eta * eta)
    return block


Solved = tuple[NDArray[np.intp], Array, Array]
"""The rows for which a group can be wide enough, how wide, and the efficiency of its first mesh."""


def _first_once(space: Candidates, block: DesignBatch, at: At, group: list[int], out: Batch) -> Solved:
    """The first stage of designs that share it."""
    stage = block.design.train.stages[group[0]]
    own = [v for p, v in block.columns.items() if p.startswith(tuple(f"{at}." for at in (stage.path, *stage.paths)))]
    if not own:
        return _in_blocks(space, block, at, group, out, np.ones(len(block)))
    _, first, back, many = np.unique(
        np.stack(own, axis=1), axis=0, return_index=True, return_inverse=True, return_counts=True
    )
    rows, b, eta = _in_blocks(space, block.pick(first), at.pick(first), group, out, many.astype(float))
    place = np.full(len(first), -1)
    place[rows] = np.arange(len(rows))
    at_row = place[np.ravel(back)]
    kept = np.flatnonzero(at_row >= 0)
    return kept, b[at_row[kept]], eta[at_row[kept]]


def _in_blocks(space: Candidates, block: DesignBatch, at: At, group: list[int], out: Batch, weight: Array) -> Solved:
    parts: list[Solved] = []
    one = block.design.train.stages[group[0]].within
    for start in range(0, len(block), BLOCK):
        some = np.arange(start, min(start + BLOCK, len(block)))
        rows, b, eta = _group(space, block.pick(some), one, at.pick(some), group, _Tally(out, weight[some]))
        parts.append((some[rows], b, eta))
    if not parts:
        return np.empty(0, dtype=np.intp), np.empty(0), np.empty(0)
    rows, b, eta = (np.concatenate(p) for p in zip(*parts, strict=True))
    return rows, b, eta


def _group(space: Candidates, block: DesignBatch, one: Any, at: At, group: list[int], tally: _Tally) -> Solved:
    """The designs for which the meshes of a group can be wide enough."""
    q = space.question
    loads = _loads(block, one, at, group)
    paths = _width_paths(block, group)
    if paths:
        strong = np.flatnonzero(_strong_enough(block, loads, group, tally, q))
        if len(strong) < len(block):
            rows, b, eta = _group_of(space, block.pick(strong), loads, strong, group, paths, tally)
            return rows, b, eta
    return _group_of(space, block, loads, np.arange(len(block)), group, paths, tally)


def _strong_enough(
    block: DesignBatch, loads: dict[int, Load], group: list[int], tally: _Tally, q: SurveySpec
) -> NDArray[np.bool_]:
    """What is not too weak for any load factors, at the greatest width."""
    keep = np.ones(len(block), dtype=bool)
    for k in group:
        duty, defaults = at_stage(block.design.train, k)
        own = block.design.train.stages[k].gears[0]
        if "S_H" in q.shown or duty.spectrum or defaults.method.startswith("ANSI") or is_plastic(own.material.group):
            continue
        load = loads[k]
        weak = too_weak(loaded(block, k, load), own.S_Hmin or defaults.S_Hmin)
        tally.take("S_H", keep, ~np.broadcast_to(weak, keep.shape))
    return keep


def _group_of(
    space: Candidates,
    block: DesignBatch,
    loads: dict[int, Load],
    numbers: NDArray[np.intp],
    group: list[int],
    paths: list[str],
    tally: _Tally,
) -> Solved:
    """The same for those that may hold; ``numbers`` are their rows among all."""
    q = space.question
    loads = {k: v.pick(numbers) for k, v in loads.items()}
    tally = tally.pick(numbers)
    if not len(block):
        return numbers, np.empty(0), np.empty(0)
    if not paths:
        # What is not varied is left as it is.
        eta = strength(block, group[0], loads[group[0]])[2]
        return numbers, np.full(len(block), np.nan), np.broadcast_to(eta, len(block))
    rows, result = _makeable(block, loads, group, tally, q)
    block, loads, tally = block.pick(rows), {k: v.pick(rows) for k, v in loads.items()}, tally.pick(rows)
    high = block.columns[paths[0]]
    low = np.minimum(np.ceil(q.b_m_low * _module(block, group[0]) / q.b_round - 1e-9) * q.b_round, high)
    judge = _Judge(block, loads, group, paths)
    b = solve_widths(judge.light, q.shown, low, high, result, q.b_round)
    lost = np.isnan(b)
    tally.worst([_some(c, lost) for c in result], lost, q.shown)
    picked = np.flatnonzero(~lost)
    b = b[picked]
    if not len(picked):
        return numbers[:0], b, b
    # Scuffing is looked at where the rest holds, and asks for more seldom.
    checks = judge.whole(picked, b)
    short = np.flatnonzero(least_margin(checks, q.shown, len(b)) < 0)
    if len(short):
        some = picked[short]
        at_high = [_some(c, some) for c in result]
        wider = solve_widths(lambda n, w: judge.whole(some[n], w), q.shown, b[short], high[some], at_high, q.b_round)
        b[short] = wider
        lost = np.isnan(b)
        tally.pick(picked).worst([_some(c, lost) for c in checks], lost, q.shown)
        picked, b = picked[~lost], b[~lost]
        if not len(picked):
            return numbers[:0], b, b
        judge.whole(picked, b)
    return numbers[rows[picked]], b, judge.eta


class _Judge:
    """The checks of the meshes of a group at some width; shapes are kept as long as the same designs are asked for."""

    def __init__(self, block: DesignBatch, loads: dict[int, Load], group: list[int], paths: list[str]) -> None:
        self.block, self.loads, self.group, self.paths = block, loads, group, paths
        self.last: NDArray[np.intp] | None = None
        self.shaped: dict[int, Shaped] = {}
        self.some: DesignBatch = block
        self.at: dict[int, Load] = {}
        self.eta: Array = np.empty(0)

    def light(self, rows: NDArray[np.intp], b: Array) -> list[Check]:
        return self._checks(rows, b, False)

    def whole(self, rows: NDArray[np.intp], b: Array) -> list[Check]:
        """With scuffing and losses; the efficiency of the first mesh stays in ``eta``."""
        return self._checks(rows, b, True)

    def _checks(self, rows: NDArray[np.intp], b: Array, whole: bool) -> list[Check]:
        if self.last is None or not np.array_equal(self.last, rows):
            self.last, self.some = rows, self.block.pick(rows)
            self.at = {k: self.loads[k].pick(rows) for k in self.group}
            self.shaped = {k: shaped(self.some, k, self.at[k]) for k in self.group}
        some = self.some.more(dict.fromkeys(self.paths, b))
        checks: list[Check] = []
        for k in self.group:
            result, _, eta = strength(some, k, self.at[k], self.shaped[k], whole=whole)
            checks += result
            if whole and k == self.group[0]:
                self.eta = eta
        return checks


class _Tally(Struct):
    """What rules take away, each row counted for as many candidates as it stands for."""

    out: Batch
    weight: Array

    def pick(self, rows: Many) -> _Tally:
        return _Tally(self.out, self.weight[rows])

    def take(self, rule: str, keep: NDArray[np.bool_], good: Many) -> None:
        """A rule takes away what it does not hold for."""
        lost = keep & ~np.broadcast_to(good, keep.shape)
        if lost.any():
            self.out.gone[rule] = self.out.gone.get(rule, 0.0) + float(np.sum(self.weight[lost]))
            keep &= ~lost

    def worst(self, checks: list[Check], lost: NDArray[np.bool_], shown: tuple[str, ...]) -> None:
        """Each of the rows that are lost is counted for the check that it fails worst; ``checks`` are those of these
        rows."""
        asked = [c for c in checks if c.symbol not in shown]
        n = int(np.sum(lost))
        if not asked or not n:
            return
        margins = np.stack([_ending(np.broadcast_to(c.margin, n)) for c in asked])
        worst = np.argmin(margins, axis=0)
        for k in np.unique(worst):
            many = float(np.sum(self.weight[lost][worst == k]))
            self.out.gone[asked[k].symbol] = self.out.gone.get(asked[k].symbol, 0.0) + many


def _ending(margin: Array) -> Array:
    """Margins, those that could not be computed as the worst."""
    return np.where(np.isnan(margin), -np.inf, margin)


def _some(check: Check, rows: Many) -> Check:
    """A check of some of the designs."""

    def of(value: Many) -> Many:
        return value[rows] if np.ndim(value) else value

    return replace(check, value=of(check.value), limit=of(check.limit), margin=of(check.margin))


def _loads(block: DesignBatch, one: Any, at: At, group: list[int]) -> dict[int, Load]:
    """What comes to the meshes of a group."""
    if one is None:
        return {group[0]: Load(at.T, at.omega)}
    result = dict(zip(one.stages, set_loads(block, one, at), strict=True))
    if one.arranged.around:
        # The set has the distance of its first mesh.
        first = np.abs(np.asarray(block.pair(one.first, at.T, at.omega).a_w)) + 0 * at.T
        for k, load in result.items():
            load.a_w = None if k == one.first else first
    return result


def _makeable(
    block: DesignBatch, loads: dict[int, Load], group: list[int], tally: _Tally, q: SurveySpec
) -> tuple[NDArray[np.intp], list[Check]]:
    """What can be made at all, before widths are looked for, and its checks at the greatest width."""
    keep = np.ones(len(block), dtype=bool)
    checks: list[Check] = []
    for k in group:
        result, shape, eta = strength(block, k, loads[k])
        checks += result
        tally.take("made", keep, can_be(shape) & (eta > 0))
        if "undercut" not in q.shown:
            for g in shape.gears:
                tally.take("undercut", keep, np.asarray(g.undercut) == 0)
        if "eps_alpha" not in q.shown:
            tally.take("eps_alpha", keep, shape.mesh.eps_alpha >= block.design.train.defaults.eps_alpha_min)
        if q.a_most is not None:
            tally.take("a_most", keep, np.abs(shape.mesh.a_w) <= q.a_most + 1e-9)
    return np.flatnonzero(keep), [_some(c, keep) for c in checks]


def _module(block: DesignBatch, k: int) -> Array:
    return block.columns[f"{block.design.train.stages[k].path}.m_n"]


def _width_paths(block: DesignBatch, group: list[int]) -> list[str]:
    """The columns that take the width of a group."""
    own = [f"{path}.b" for k in group for path in block.design.train.stages[k].paths]
    return [p for p in dict.fromkeys(own) if p in block.columns]


def _widened(space: Candidates, rated: Rated) -> Rated:
    """Widths that the whole rating finds a little too narrow are widened by a step; losses on the way make that
    little."""
    q = space.question
    for _ in range(AGAIN):
        paths = [p for p in rated.block.columns if p.endswith(".b")]
        if not len(rated.block) or not paths:
            return rated
        asked = [c for c in rated.checks if c.symbol in LOADED and c.symbol not in q.shown and space.concerns(c.stage)]
        margins = np.stack([np.broadcast_to(c.margin, len(rated.block)) for c in asked]) if asked else np.zeros((1, 1))
        little = np.min(margins, axis=0)
        rows = np.flatnonzero((little < 0) & (little > -0.02))
        if not len(rows):
            return rated
        some = rated.block.pick(rows)
        wider = {p: np.round(np.ceil(some.columns[p] * 1.01 / q.b_round) * q.b_round, 6) for p in paths}
        columns = {p: v.copy() for p, v in rated.block.columns.items()}
        for p, v in wider.items():
            columns[p][rows] = v
        rated = rate_block(DesignBatch(rated.block.design, columns))
    return rated


def clear_of_shafts(rated: Rated) -> NDArray[np.bool_]:
    """Whether no wheel runs into the shaft of another stage.

    Parameters
    ----------
    rated : Rated
        Rated designs.

    Returns
    -------
    NDArray[np.bool_]
        True where none does.
    """
    stages = rated.block.design.train.stages
    n = len(rated.block)
    if len(stages) < 2 or rated.block.design.train.placed:
        return np.ones(n, dtype=bool)
    axes = [np.zeros(n)]
    for s in rated.stages:
        axes.append(axes[-1] + s.mesh.a_w)
    tips = [[np.broadcast_to(g.d_a, n) for g in s.gears] for s in rated.stages]
    bores = []
    for x in range(len(axes)):
        bore = np.zeros(n)
        for own, end in ((x - 1, 1), (x, 0)):
            if 0 <= own < len(stages):
                result = rated.block.of_gear(own, end, "d_bore")
                fixed = stages[own].gears[end].d_bore
                bore = np.maximum(bore, fixed if result is None else result)
        bores.append(bore)
    return clear_of_axes(axes, tips, bores)

"""The candidates of one pattern: its counts with every module, helix, shift and, where they are stepped, width."""

from __future__ import annotations

from collections.abc import Callable
from math import prod

import numpy as np
from msgspec import Struct, field
from numpy.typing import NDArray

from cooper.arrays import Array
from cooper.document.models import Design, GearSet, Train
from cooper.document.survey_spec import SurveySpec
from cooper.editing.edit import set_many
from cooper.kinds.known import kind_of
from cooper.survey.candidate_columns import CandidateColumns
from cooper.survey.count_tables import (
    CountTable,
    ModulePairs,
    chain_counts,
    idler_counts,
    pair_counts,
    planet_counts,
    stepped_counts,
    two_ring_counts,
)
from cooper.survey.design_batch import DesignBatch
from cooper.survey.module_series import GROWTH, grown, module_list, steps
from cooper.survey.patterns import Pattern

HELICES = (15.0, 30.0)
"""Helix angles of double helices where the bounds have none but 0."""


def _two_modules(q: SurveySpec) -> ModulePairs:
    """Every module with those up to so many steps of the series above it."""
    m, grow = (v.ravel() for v in np.meshgrid(np.array(module_list(q)), np.array(GROWTH, dtype=float), indexing="ij"))
    result, within = grown(q, m, grow)
    return ModulePairs(m[within], grow[within], np.round(m / result, 9)[within])


class Candidates(Struct):
    """What is searched of a pattern, by number; ``genes`` are what is combined with the counts, a column of values
    each."""

    pattern: Pattern
    question: SurveySpec
    table: CountTable
    design: Design
    genes: dict[str, Array] = field(default_factory=dict)

    def concerns(self, stage: int | None) -> bool:
        """Whether the checks of a stage are asked for; None is the whole train."""
        return True

    @property
    def size(self) -> int:
        """Candidates that the rules of counts leave."""
        return len(self.table.z) * self.combined

    @property
    def combined(self) -> int:
        return prod(len(v) for v in self.genes.values())

    @property
    def possible(self) -> float:
        """Candidates before any rule."""
        return self.table.possible * self.combined

    def chosen(self, numbers: NDArray[np.int64]) -> tuple[Array, dict[str, Array]]:
        """The counts, and of each gene the value, of the candidates of some numbers."""
        digits: dict[str, Array] = {}
        rest = numbers
        for name, values in self.genes.items():
            digits[name] = values[rest % len(values)]
            rest = rest // len(values)
        digits |= {name: values[rest] for name, values in self.table.own.items()}
        return self.table.z[rest].astype(float), digits

    def block(self, numbers: NDArray[np.int64]) -> tuple[DesignBatch, dict[str, NDArray[np.bool_]]]:
        """The candidates of some numbers, widths as great as they may be, and what each of the early rules thinks of
        them."""
        raise NotImplementedError


class SearchSpace(Candidates):
    """All candidates of a pattern, from the duty alone."""

    def block(self, numbers: NDArray[np.int64]) -> tuple[DesignBatch, dict[str, NDArray[np.bool_]]]:
        return CandidateColumns(self, *self.chosen(numbers)).made()


def search_space_of(pattern: Pattern, q: SurveySpec) -> SearchSpace:
    """The candidates of a pattern within the bounds; an empty one where its counts cannot have the ratio.

    Parameters
    ----------
    pattern : Pattern
        The pattern.
    q : SurveySpec
        What is asked of the survey.

    Returns
    -------
    SearchSpace
        Candidates by number.
    """
    train = pattern.design.train
    stages, one = train.stages, train.placed[0] if train.placed else None
    table = _counts(train, q)
    genes: dict[str, Array] = {} if table.own else {"m": np.array(module_list(q))}
    for k in range(1, len(stages) if one is None else 1):
        genes[f"grow {k}"] = np.array(GROWTH, dtype=float)
    if one is None or one.arranged.one_gear:
        angles = steps(q.beta_low, q.beta_high, q.beta_step) if q.beta_high > q.beta_low else (q.beta_low,)
        if stages[0].mesh.double_helix:
            angles = tuple(a for a in angles if a > 0) or HELICES
        genes["beta"] = np.array(angles)
    # With a_w given, x_1 + x_2 of an external pair is fixed and is not searched.
    if q.a_w is None or not takes_distance(train) or one is not None or stages[0].kind_of_pair.inward:
        sums = steps(q.x_low, q.x_high, q.x_step) if q.x_high > q.x_low else (q.x_low,)
        genes["x"] = np.array(sums)
    if q.widths == "stepped":
        genes["b"] = np.linspace(0.0, 1.0, max(q.b_steps, 1)) if q.b_steps > 1 else np.array([1.0])
    return SearchSpace(pattern, q, table, _free(pattern.design, q), genes)


def _counts(train: Train, q: SurveySpec) -> CountTable:
    """The counts of a pattern's gears that the ratio leaves."""
    u, tol = train.duty.u_wanted or 1.0, train.duty.u_tol
    if train.placed:
        return SET_COUNTS[train.placed[0].kind](q, u, tol, train.placed[0])
    if len(train.stages) == 1:
        return pair_counts(q, u, tol, ring=train.stages[0].kind_of_pair.inward)
    return chain_counts(q, u, tol, len(train.stages))


def _role(one: GearSet) -> tuple[str, str, str]:
    return one.input, one.output, str(one.held)


SET_COUNTS: dict[str, Callable[[SurveySpec, float, float, GearSet], CountTable]] = {
    "planetary": lambda q, u, tol, one: planet_counts(q, u, tol, _role(one), one.planets),
    "stepped": lambda q, u, tol, one: stepped_counts(q, u, tol, _role(one), one.planets, _two_modules(q)),
    "two rings": lambda q, u, tol, one: two_ring_counts(q, u, tol, one.sun_works, one.planets, _two_modules(q)),
    "idler": lambda q, u, tol, one: idler_counts(q, u, tol),
}
"""The counts of each kind of set."""


def takes_distance(train: Train) -> bool:
    """Whether a wanted centre distance is that of a pattern: of one pair, or from end to end of an idler's gears.

    Parameters
    ----------
    train : Train
        The train of the pattern.

    Returns
    -------
    bool
        True for them.
    """
    return not train.placed[0].arranged.around if train.placed else len(train.stages) == 1


def _free(design: Design, q: SurveySpec) -> Design:
    """The pattern with the shift solved that a given centre distance leaves open."""
    if q.a_w is None or not takes_distance(design.train):
        return design
    # The pattern itself stands at its reference distance; the candidates have their own.
    stage = design.train.stages[0]
    mesh = stage.mesh
    one, two = stage.gears
    assert mesh.m_n is not None
    a = abs(abs(two.z) + (-1 if kind_of(two).inward else 1) * one.z) * mesh.m_n / 2 / np.cos(np.radians(mesh.beta))
    if not design.train.placed:
        return set_many(design, {f"{stage.paths[1]}.x": None, f"{stage.path}.a_w": float(a)})
    last = design.train.stages[1]
    b = (last.gears[0].z + last.gears[1].z) * mesh.m_n / 2 / np.cos(np.radians(mesh.beta))
    return set_many(
        design,
        {
            f"{stage.paths[0]}.x": None,
            f"{stage.path}.a_w": float(a),
            f"{last.paths[1]}.x": None,
            f"{last.path}.a_w": float(b),
        },
    )

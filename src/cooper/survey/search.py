"""A survey made: its plan, then batches of designs as they are found, by several processes at once."""

from __future__ import annotations

import itertools
import os
from collections.abc import Iterator

from cooper.document.models import Design
from cooper.document.survey_spec import SurveySpec
from cooper.survey.filter_and_rate import BLOCK, Batch, filter_and_rate
from cooper.survey.plan import Plan, plan
from cooper.survey.side_by_side import side_by_side

CHUNK = 32_768
"""Candidates that are made at once."""


FIRST = 160
"""Candidates of the first chunk of each pattern, so that something is seen at once."""


def search(question: SurveySpec, base: Design, workers: int | None = None) -> Iterator[Plan | Batch]:
    """The plan first, then batches of survivors as they are found.

    Parameters
    ----------
    question : SurveySpec
        What is asked of the survey.
    base : Design
        The design whose duty and first stage the survey starts from.
    workers : int | None
        Number of processes, None for as many as there are cores.

    Yields
    ------
    Plan | Batch
        The plan, then survivors.
    """
    made = plan(question, base)
    yield made
    yield from run(made, workers)


def run(made: Plan, workers: int | None = None) -> Iterator[Batch]:
    """The batches of a plan, those of all patterns in turn; found by several processes at once where there is enough to
    do.

    Parameters
    ----------
    made : Plan
        The plan.
    workers : int | None
        Number of processes, None for as many as there are cores.

    Yields
    ------
    Batch
        Survivors, batch by batch.
    """
    jobs = _jobs(made)
    count = min(workers if workers is not None else (os.cpu_count() or 1), len(jobs))
    if count <= 1 or made.size < BLOCK:
        for i, start, end in jobs:
            yield filter_and_rate(made.spaces[i], i, made.numbers(i)[start:end])
        return

    def work(job: tuple[int, int, int]) -> Batch:
        i, start, end = job
        return filter_and_rate(made.spaces[i], i, made.numbers(i)[start:end])

    yield from side_by_side(work, jobs, count)


def _jobs(made: Plan) -> list[tuple[int, int, int]]:
    """Chunks (space, first, last), a small one of each space first, so that something is seen at once."""
    rows: list[list[tuple[int, int, int]]] = []
    for i in range(len(made.spaces)):
        size = len(made.numbers(i))
        edges = [0, min(FIRST, size)]
        while edges[-1] < size:
            edges.append(min(edges[-1] + CHUNK, size))
        rows.append([(i, a, b) for a, b in itertools.pairwise(edges) if b > a])
    most = max(len(r) for r in rows)
    return [r[k] for k in range(most) for r in rows if k < len(r)]

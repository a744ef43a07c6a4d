"""What a survey looks at: the candidates of every pattern, all of them or an even sample; refused where that says
nothing."""

from __future__ import annotations

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from cooper.document.models import Design
from cooper.document.survey_spec import SurveySpec
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.survey.heated import heated
from cooper.survey.module_series import module_list
from cooper.survey.patterns import Pattern, patterns
from cooper.survey.search_space import Candidates, search_space_of
from cooper.trains.counts import PLANETARY_RATIO

MOST_POSSIBLE = 1e12
"""Candidates above which a survey is refused."""


class Plan(Struct):
    """All that is searched: patterns with their spaces, in how large strides; ``gone`` what the rules of counts took
    beforehand."""

    question: SurveySpec
    spaces: list[Candidates]
    stride: float

    @property
    def possible(self) -> float:
        """Candidates before any rule."""
        return sum(s.possible for s in self.spaces)

    @property
    def size(self) -> int:
        """Candidates that are looked at one by one."""
        return sum(len(self.numbers(i)) for i in range(len(self.spaces)))

    def numbers(self, i: int) -> NDArray[np.int64]:
        """The numbers of the candidates of a space that are looked at, spread evenly."""
        size = self.spaces[i].size
        wanted = int(np.ceil(size / self.stride))
        return np.arange(size) if wanted >= size else np.linspace(0, size - 1, wanted).astype(np.int64)

    def gone(self) -> dict[str, float]:
        """What the rules of counts took away."""
        result: dict[str, float] = {}
        for s in self.spaces:
            for rule, many in s.table.gone.items():
                result[rule] = result.get(rule, 0.0) + many * s.combined
        return result


def plan(question: SurveySpec, base: Design, most: int | None = None) -> Plan:
    """What a question asks for under a design's duty.

    Parameters
    ----------
    question : SurveySpec
        What is asked of the survey.
    base : Design
        The design whose duty and first stage the survey starts from.
    most : int | None
        Greatest number of candidates.

    Returns
    -------
    Plan
        The plan.

    Raises
    ------
    OutOfRange
        For what cannot be searched.
    """
    base = heated(question, base)
    duty = base.train.duty
    if duty.u_wanted is None:
        raise OutOfRange("u_wanted", "none", tr("a survey needs the wanted ratio: give it with the duty"))
    if not module_list(question):
        raise OutOfRange(
            "m_low",
            question.m_low,
            tr(
                "no module of the series lies between {m_low:g} and {m_high:g} mm",
                m_low=question.m_low,
                m_high=question.m_high,
            ),
            unit="mm",
        )
    spaces: list[Candidates] = [search_space_of(p, question) for p in patterns(question, base) if _can_reach(p)]
    if not spaces:
        raise OutOfRange(
            "u_wanted", duty.u_wanted, tr("none of these arrangements has such a ratio: take others among them")
        )
    size = sum(s.size for s in spaces)
    whole = sum(s.size * s.table.thinned for s in spaces)
    if whole > MOST_POSSIBLE:
        raise OutOfRange(
            "steps",
            tr("{whole:.2g} candidates", whole=whole),
            tr(
                "these bounds and steps make {whole:.2g} candidates of the wanted ratio, of which no even "
                "sample says anything: {spaces}",
                whole=whole,
                spaces=_propose(spaces),
            ),
            high=MOST_POSSIBLE,
        )
    return Plan(question, spaces, max(size / (most or question.most), 1.0))


def _propose(spaces: list[Candidates]) -> str:
    """What to take fewer of: the gene with the most values, and the arrangement with the most candidates."""
    genes = {name: len(values) for s in spaces for name, values in s.genes.items()}
    words = {"m": "modules", "beta": tr("helix angles"), "x": tr("sums of shifts"), "b": "widths"}
    most = max(genes, key=lambda g: genes[g])
    largest = max(spaces, key=lambda s: s.size).pattern.arrangement
    return tr(
        "fewer {most} than {genes} by a greater step, narrower bounds, or the arrangement '{largest}' by itself",
        most=words.get(most, tr("modules from stage to stage")),
        genes=genes[most],
        largest=largest,
    )


def _can_reach(pattern: Pattern) -> bool:
    """Whether a planet set so driven can have the ratio at all; other arrangements are asked by their counts."""
    train = pattern.design.train
    if not train.placed or not train.placed[0].arranged.sun_inside:
        return True
    one, u = train.placed[0], train.duty.u_wanted or 1.0
    ratio = PLANETARY_RATIO[one.input, one.output, str(one.held)]
    ends = sorted(abs(float(ratio(i))) for i in (1.2 if one.arranged.one_gear else 0.2, 30.0))
    return ends[0] * (1 - train.duty.u_tol / 100) <= u <= ends[1] * (1 + train.duty.u_tol / 100)

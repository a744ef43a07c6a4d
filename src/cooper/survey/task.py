"""A survey as the worker process makes it: what it is of, then what is found, and at last what is kept
with the document."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec.structs import replace

from cooper.document.models import Design
from cooper.document.survey_spec import Survey, SurveySpec
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.evaluate import evaluate, with_entered_faces
from cooper.results.result_tree import Results
from cooper.survey.choice_table import table_of
from cooper.survey.close_in import near
from cooper.survey.design_batch import DesignBatch
from cooper.survey.filter_and_rate import Batch
from cooper.survey.plan import plan
from cooper.survey.rated import rate_block
from cooper.survey.search import run
from cooper.survey.survey_result import SurveyResult, first_of, survey_of

MOST_HELD = 100_000
"""Designs at which a survey ends: more than that nobody chooses among."""


def searched(question: SurveySpec, base: Design, around: int | None = None) -> Iterator[SurveyResult | Batch]:
    """First an empty `SurveyResult` that says what is searched, then batches; ends early where more is found than
    anybody looks at.

    Parameters
    ----------
    question : SurveySpec
        What is asked of the survey.
    base : Design
        The design whose duty and first stage the survey starts from.
    around : int | None
        Number of the stage to vary, None for the whole train.

    Yields
    ------
    SurveyResult | Batch
        Empty result, then batches.
    """
    global _LAST
    made = plan(question, base) if around is None else near(question, with_entered_faces(base), around)
    _LAST = SurveyResult.of(made)
    yield SurveyResult.of(made)
    for batch in run(made):
        _LAST.add(batch)
        yield batch
        if len(_LAST) >= MOST_HELD:
            return


_LAST: SurveyResult | None = None
"""What this process found last: it need not be handed back to be kept."""


def kept(design: Design, around: int | None, many: int, looked: int, whole: bool) -> Survey | None:
    """What is kept with a document of the survey that this process made last, of which the window has ``many`` designs;
    None where it made none of that kind, as one does that was started anew.

    Parameters
    ----------
    design : Design
        The design.
    around : int | None
        Number of the stage to vary, None for the whole train.
    many : int
        Number of designs that the window has.
    looked : int
        Number of candidates looked at.
    whole : bool
        Whether the survey came to its end.

    Returns
    -------
    Survey | None
        Survey of the document, None where this process made none of that kind.
    """
    if _LAST is None or len(_LAST) < many:
        return None
    result = first_of(_LAST, many)
    result.looked, result.whole = looked, whole
    return survey_of(result, design, around)


def at_once(question: SurveySpec, base: Design, around: int | None = None) -> SurveyResult:
    """A whole survey, for the command line and for programs.

    Parameters
    ----------
    question : SurveySpec
        What is asked of the survey.
    base : Design
        The design whose duty and first stage the survey starts from.
    around : int | None
        Number of the stage to vary, None for the whole train.

    Returns
    -------
    SurveyResult
        All designs found.
    """
    result: SurveyResult | None = None
    for item in searched(question, base, around):
        if isinstance(item, SurveyResult):
            result = item
        else:
            assert result is not None
            result.add(item)
    assert result is not None
    result.whole = result.looked >= result.size
    return result


def one_of(design: Design) -> tuple[Design, Results]:
    """A design found, evaluated, as its picture and its margins ask for.

    Parameters
    ----------
    design : Design
        The design.

    Returns
    -------
    tuple[Design, Results]
        The design and its results.
    """
    return design, evaluate(design)


def numbers_of(design: Design) -> dict[str, float]:
    """The quantities of the survey for one design, as the present one.

    Parameters
    ----------
    design : Design
        The design.

    Returns
    -------
    dict[str, float]
        Values by quantity.

    Raises
    ------
    OutOfRange
        Where it is none that is searched.
    """
    design = with_entered_faces(design)
    train = design.train
    free = any(s.free_sun and not s.sun_works for s in train.placed)
    if free or not train.walk.in_line or any(not s.kind_of_pair.turns for s in train.stages):
        raise OutOfRange("design", design.name, tr("it is of no arrangement that is searched"))
    b = train.stages[0].gears[0].b
    balance = train.losses.oil_by_balance
    plain = train.replace_unchecked(losses=train.losses.replace_unchecked(oil_by_balance=False)) if balance else train
    block = DesignBatch(design.replace_unchecked(train=plain), {f"{train.stages[0].paths[0]}.b": np.array([b])})
    return {k: float(v[0]) for k, v in table_of(rate_block(block)).items()}


def each_of(result: SurveyResult, numbers: tuple[int, ...]) -> Iterator[tuple[int, Results]]:
    """Designs found, evaluated one after the other.

    Parameters
    ----------
    result : SurveyResult
        Designs found, with their quantities.
    numbers : tuple[int, ...]
        Numbers of the designs.

    Yields
    ------
    tuple[int, Results]
        Number and results of each.
    """
    for n in numbers:
        yield n, evaluate(result.design(n))


def alone(result: SurveyResult, n: int) -> SurveyResult:
    """What is needed of one design found, without the others: little enough to be handed over.

    Parameters
    ----------
    result : SurveyResult
        Designs found, with their quantities.
    n : int
        Number of the design.

    Returns
    -------
    SurveyResult
        That design alone.
    """
    i = int(result.pattern[n])
    block = result.blocks[i].pick(np.array([int(result.row[n])]))
    values = {k: v[[n]] for k, v in result.values.items()}
    zero = np.zeros(1, dtype=np.int64)
    return replace(result, patterns=[result.patterns[i]], blocks=[block], pattern=zero, row=zero, values=values)

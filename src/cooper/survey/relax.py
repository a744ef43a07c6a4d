"""The least change of one bound with which something is found: one change after the other, as Levers are for checks."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from math import ceil

from msgspec import Struct

from cooper.document.duty import Duty
from cooper.document.models import Design
from cooper.document.survey_spec import MOST_MODULES, SurveySpec
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.stock.series import modules
from cooper.survey.filter_and_rate import Batch
from cooper.survey.plan import plan
from cooper.survey.search import run

QUICK = 4_000
"""Candidates that are looked at for one trial."""
FACTORS = (1.25, 1.6, 2.5, 5.0)
HALVINGS = 3


class Relaxed(Struct, frozen=True):
    """A bound changed so far that designs live: its words, the value it takes, the question and the duty with it,
    how many were found of a sample; none where it does not help alone."""

    key: str
    words: str
    value: float | None
    question: SurveySpec
    duty: Duty
    found: int


Change = Callable[[float], tuple[SurveySpec, Duty]]


def each_relaxed(question: SurveySpec, base: Design) -> Iterator[Relaxed]:
    """The bounds that could give, each changed as little as helps.

    Parameters
    ----------
    question : SurveySpec
        What is asked of the survey.
    base : Design
        The design whose duty and first stage the survey starts from.

    Yields
    ------
    Relaxed
        Bounds as changed, with how many designs they let through.
    """
    duty = base.train.duty

    def asked(**values: object) -> tuple[SurveySpec, Duty]:
        return SurveySpec.from_data({**question.plain(), **values}), duty

    def owed(**values: object) -> tuple[SurveySpec, Duty]:
        return question, Duty.from_data({**duty.plain(), **values})

    m_most = 50.0 if question.m_step is None else min(50.0, question.m_low + MOST_MODULES * question.m_step)
    ways: list[tuple[str, str, Change, float, float]] = [
        ("m_high", tr("greatest module"), lambda v: asked(m_high=min(_module(v), m_most)), question.m_high, m_most),
        ("b_d_high", tr("greatest width over diameter"), lambda v: asked(b_d_high=round(v, 2)), question.b_d_high, 3.0),
        ("b_m_high", tr("greatest width in modules"), lambda v: asked(b_m_high=ceil(v)), question.b_m_high, 100.0),
        ("u_tol", tr("tolerance of the ratio"), lambda v: owed(u_tol=round(v, 2)), max(duty.u_tol, 0.1), 25.0),
        ("z_most", tr("greatest count of a wheel"), lambda v: asked(z_most=ceil(v)), question.z_most, 1000.0),
        ("z_ring", tr("greatest count of a ring"), lambda v: asked(z_ring=ceil(v)), question.z_ring, 1500.0),
        ("z_pinion", tr("greatest count of a pinion"), lambda v: asked(z_pinion=ceil(v)), question.z_pinion, 100.0),
        ("x_high", tr("greatest sum of shifts"), lambda v: asked(x_high=round(v, 2)), max(question.x_high, 0.2), 1.6),
    ]
    for key, words in (
        ("a_most", tr("greatest centre distance")),
        ("d_most", tr("greatest outside diameter")),
        ("b_most", tr("greatest width of all stages")),
        ("l_most", tr("greatest length across the axes")),
        ("A_h", tr("area of the housing")),
        ("theta_most", tr("greatest temperature of the oil")),
    ):
        now = getattr(question, key)
        if now is not None:
            end, digits = (250.0, 0) if key == "theta_most" else (20 * now, 3 if key == "A_h" else 1)
            ways.append((key, words, lambda v, key=key, n=digits: asked(**{key: round(v, n)}), now, end))  # type: ignore[misc]
    load = "T" if duty.T is not None else "P"
    ways.append(
        (
            "L_h",
            tr("required life"),
            lambda v: owed(L_h=float(tr("{L_h:.3g}", L_h=duty.L_h * duty.L_h / v))),
            duty.L_h,
            100 * duty.L_h,
        )
    )
    amount = float(getattr(duty, load))
    ways.append(
        (
            load,
            tr("torque at the input") if load == "T" else tr("power at the input"),
            lambda v: owed(**{load: float(tr("{amount:.3g}", amount=amount * amount / v))}),
            amount,
            20 * amount,
        )
    )
    for key, words, change, now, end in ways:
        yield _least(key, words, change, now, end, question, base)


def _module(v: float) -> float:
    """The next standard module from v on."""
    return next((m for m in modules() if m >= v - 1e-9), modules()[-1])


def count(question: SurveySpec, duty: Duty, base: Design, most: int = QUICK) -> int:
    """How many designs a sample of the candidates has.

    Parameters
    ----------
    question : SurveySpec
        What is asked of the survey.
    duty : Duty
        Power, speeds and life.
    base : Design
        The design whose duty and first stage the survey starts from.
    most : int
        Greatest number of candidates.

    Returns
    -------
    int
        Number of designs.
    """
    train = base.train.replace_unchecked(duty=duty)
    try:
        made = plan(question, base.replace_unchecked(train=train), most)
    except OutOfRange:
        return 0
    result = 0
    for batch in run(made, 1):
        assert isinstance(batch, Batch)
        result += len(batch)
        if result:
            break
    return result


def _least(key: str, words: str, change: Change, now: float, end: float, question: SurveySpec, base: Design) -> Relaxed:
    duty = base.train.duty
    bad, good, many = 1.0, 0.0, 0
    for factor in FACTORS:
        if now * factor > end * (1 + 1e-9):
            break
        try:
            q, d = change(now * factor)
        except ValueError:
            break
        many = count(q, d, base)
        if many:
            good = factor
            break
        bad = factor
    if not good:
        return Relaxed(key, words, None, question, duty, 0)
    for _ in range(HALVINGS):
        middle = (bad * good) ** 0.5
        q, d = change(now * middle)
        if (q, d) == change(now * good) or (q, d) == change(now * bad):
            break
        result = count(q, d, base)
        bad, good, many = (bad, middle, result) if result else (middle, good, many)
    q, d = change(now * good)
    value = getattr(q, key) if hasattr(q, key) else getattr(d, key)
    return Relaxed(key, words, float(value), q, d, many)

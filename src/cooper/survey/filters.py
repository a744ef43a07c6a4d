"""Designs chosen by what is typed: conditions such as ``m_n<3 S_F>=1.5``, joined by spaces or commas."""

from __future__ import annotations

import re
from difflib import get_close_matches

import numpy as np
from numpy.typing import NDArray

from cooper.errors import OutOfRange
from cooper.i18n.text import join, term, tr
from cooper.survey.criteria import CRITERIA
from cooper.survey.survey_result import SurveyResult

CONDITION = re.compile(r"\s*([A-Za-z_/]+\d?)\s*(<=|>=|<|>|=|≤|≥)\s*(\S+)")
WORD = re.compile(r"\s*(not\s+)?([A-Za-z][\w-]*)")
SIGNS = {"≤": "<=", "≥": ">="}


def chosen(result: SurveyResult, text: str) -> NDArray[np.bool_]:
    """The designs that meet all conditions of a text.

    Parameters
    ----------
    result : SurveyResult
        Designs found, with their quantities.
    text : str
        Conditions in the document's units; words choose by the arrangement and the materials.

    Returns
    -------
    NDArray[np.bool_]
        True for the designs chosen.

    Raises
    ------
    OutOfRange
        With what can be typed.

    Notes
    -----
    A number with per cent is a hundredth of it: ``worst>10%``.
    """
    keep = np.ones(len(result), dtype=bool)
    rest = text.replace(",", " ").strip()
    while rest:
        match = CONDITION.match(rest)
        if match:
            keep &= _condition(result, *match.groups())
            rest = rest[match.end() :].strip()
            continue
        match = WORD.match(rest)
        if not match:
            raise OutOfRange("filter", rest[:40], "a condition is a quantity, a sign and a number, as m_n<3")
        keep &= _word(result, match[2], bool(match[1]))
        rest = rest[match.end() :].strip()
    return keep


def _condition(result: SurveyResult, name: str, sign: str, number: str) -> NDArray[np.bool_]:
    key = {k.symbol: k.key for k in CRITERIA.values()}.get(name, name)
    values = result.values.get(key)
    if values is None:
        near = get_close_matches(name, result.values, 3, 0.3)
        there = join(", ", near or sorted(result.values))
        raise OutOfRange("filter", name, tr("no quantity of the survey is called so; there is {there}", there=there))
    scale = 0.01 if number.endswith("%") else 1.0
    try:
        limit = float(number.rstrip("%")) * scale
    except ValueError as error:
        raise OutOfRange(
            "filter", number[:40], tr("behind {name} and {sign} a number is needed", name=name, sign=sign)
        ) from error
    sign = SIGNS.get(sign, sign)
    with np.errstate(invalid="ignore"):
        if sign == "=":
            return np.isclose(values, limit, rtol=1e-9, atol=1e-9)
        close = 1e-12 * max(abs(limit), 1.0)
        if sign in ("<", "<="):
            return values < limit if sign == "<" else values <= limit + close
        return values > limit if sign == ">" else values >= limit - close


def _word(result: SurveyResult, word: str, but_not: bool) -> NDArray[np.bool_]:
    lower = word.lower()
    of = np.array(
        [
            lower
            in tr(
                "{label} {arrangement} {materials} {rack}",
                label=p.label,
                arrangement=term(p.arrangement),
                materials=p.materials,
                rack=p.rack,
            ).lower()
            for p in result.patterns
        ],
        dtype=bool,
    )
    beta = result.values.get("beta", np.zeros(len(result)))
    mine = of[result.pattern] if len(result) else np.empty(0, dtype=bool)
    if lower in ("spur", "helical"):
        mine = (beta == 0) if lower == "spur" else (beta > 0)
    elif not of.any():
        words = sorted({w for p in result.patterns for w in re.findall(r"[A-Za-z]{3,}", p.label)} | {"spur", "helical"})
        raise OutOfRange(
            "filter",
            word[:40],
            tr("no arrangement or material has this word; there are {words}", words=join(", ", words)),
        )
    return ~mine if but_not else mine

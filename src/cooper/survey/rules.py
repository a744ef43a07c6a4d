"""The rules of a survey that are no checks, in words, and the checks that a width decides."""

from __future__ import annotations

from cooper.document.quantities import QUANTITIES
from cooper.i18n.text import tr

RULES = {
    "ratio": tr("ratio within its tolerance"),
    "ring": tr("ring within its bounds"),
    "even": tr("planets stand evenly"),
    "room": tr("planets pass each other"),
    "factor": tr("no common factor"),
    "module": tr("modules within their bounds"),
    "distance": tr("shifts for the given distance"),
    "width": tr("room between least and greatest width"),
    "a_most": tr("centre distance"),
    "d_most": tr("outside diameter"),
    "b_most": tr("width of all stages"),
    "l_most": tr("length across the axes"),
    "made": tr("teeth that can be made"),
    "undercut": tr("no undercut"),
    "clash": tr("wheels clear of other shafts"),
}
"""The rules that are no checks, in the words of the screen."""


def rule_words(rule: str) -> str:
    """A rule as it is told.

    Parameters
    ----------
    rule : str
        Identity of the rule.

    Returns
    -------
    str
        Its words.

    Examples
    --------
    >>> rule_words("even"), rule_words("S_F")
    ('planets stand evenly', 'safety against tooth breakage')
    """
    if rule in RULES:
        return RULES[rule]
    return QUANTITIES[rule].meaning if rule in QUANTITIES else rule


LOADED = frozenset(
    {"S_F", "S_H", "S_Fst", "S_Hst", "S_FA", "S_HA", "S_Feq", "S_Heq", "S_B", "S_int", "S_lambda", "S_FF"}
)
"""Checks that the width decides."""

"""The housing that a survey asks for, in place of the design's own."""

from __future__ import annotations

from cooper.document.models import Design, Losses
from cooper.document.survey_spec import SurveySpec
from cooper.i18n.text import tr


def heated(question: SurveySpec, design: Design) -> Design:
    """The design with all losses counted in the housing that is asked for, and the greatest temperature of its oil.

    Parameters
    ----------
    question : SurveySpec
        What is asked of the survey.
    design : Design
        The design.

    Returns
    -------
    Design
        The design, as it is where none is asked for.

    Raises
    ------
    OutOfRange
        Where they cannot go together with the air around it.

    Notes
    -----
    Raises `OutOfRange` where they cannot go together with the air around it.
    """
    if question.A_h is None:
        return design
    at = design.train.losses
    asked = {"counted": "all", "A_h": question.A_h, "theta_max": question.theta_most}
    losses = Losses.from_data({**at.plain(), **asked}, whole=tr("the housing"))
    return design.replace_unchecked(train=design.train.replace_unchecked(losses=losses))

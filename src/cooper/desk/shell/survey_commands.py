"""Commands of the survey."""

from __future__ import annotations

from typing import TYPE_CHECKING

from cooper.desk.base.registry import Action, register_actions
from cooper.i18n.text import tr

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window


def _ask(window: Window) -> None:
    window.open_survey().ask()


def _near(window: Window) -> None:
    window.open_survey().close_in()


register_actions(
    "files",
    Action("from_duty", tr("New design from a duty …"), "Ctrl+Alt+N", lambda w: w.begin_from_duty(), asks=True),
    Action("survey", tr("Survey: the designs that were found, or a new search"), "Ctrl+F", lambda w: w.open_survey()),
    Action("sweep", tr("Survey: what is searched, and search wide"), "Ctrl+Shift+F", _ask),
    Action("close_in", tr("Survey: close in around the selected stage"), "", _near),
    place=1,
)

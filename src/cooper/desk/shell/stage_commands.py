"""Commands that change the selected stage."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from cooper.desk.base.registry import Action, register_actions
from cooper.desk.shell.stage_card import stage_acts
from cooper.editing.edit import give_size
from cooper.editing.make_sets import KIND_WORDS, set_number
from cooper.editing.share_shifts import NO_UNDERCUT, RULES
from cooper.i18n.text import term, tr

STAGE_WORDS = (
    (tr("Add a stage behind it"), "Ctrl+Ins"),
    (tr("Split it in two"), ""),
    (tr("Move it towards the input"), "Ctrl+Alt+Left"),
    (tr("Move it towards the output"), "Ctrl+Alt+Right"),
    (tr("Take it away"), "Ctrl+Del"),
)

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window


def clear_tips(window: Window) -> None:
    """Alter the tip diameters so that the clearance of the basic racks is left."""

    def then(changed: bool) -> None:
        if not changed:
            window.notice.report(tr("The tips leave that clearance already"))

    window.session.change("tips", window.session.stage, label=tr("tips shortened"), then=then)


def act_on_stage(window: Window, n: int) -> None:
    """One of the acts on the selected stage: add, split, move, take away."""
    stage_acts(window.session, window.session.stage)[n][1]()


def share_shifts(window: Window, rule: str) -> None:
    """Share the sum of the shifts by a rule, the centre distance kept."""
    window.session.change("share", window.session.stage, rule, label=tr("shifts: {rule}", rule=rule))


def make_set(window: Window, kind: str) -> None:
    """Make the selected stage the first mesh of a set."""
    window.session.change("set", window.session.stage, kind, label=KIND_WORDS[kind])


def take_apart(window: Window) -> None:
    """Take the selected stage's set apart."""
    n = set_number(window.session.design, window.session.stage)
    window.session.change("apart", n, label=tr("set taken apart"))


def toggle_pitch(window: Window) -> None:
    """Let the other of module and diametral pitch be the given size."""
    k = window.session.stage
    m_n = window.session.results.stages[k].mesh.m_n
    by_pitch = window.session.design.train.stages[k].mesh.P_nd is not None
    name, value = ("m_n", m_n) if by_pitch else ("P_nd", 25.4 / m_n)
    window.session.edit(lambda d, _r: give_size(d, k, name, value), tr("{name} given", name=name), "size")


def branch(window: Window) -> None:
    """Put a stage beside the selected one."""
    window.session.change("branch", window.session.stage, label=tr("branch put beside it"))


def take_off(window: Window) -> None:
    """Take half of the power off behind the selected stage; its sheet has the share."""
    window.session.change("take off", window.session.stage, 0.5, label=tr("power taken off"))


def _at_end(window: Window) -> str:
    """Why nothing is taken off on the way."""
    walk = window.session.design.train.walk
    return (
        ""
        if walk.ways(walk.group_of(window.session.stage).goes_out)
        else tr("Nothing goes on behind it: all of its power is taken off there")
    )


def _no_set(window: Window) -> str:
    """Why there is no set to take apart."""
    inside = set_number(window.session.design, window.session.stage) is not None
    return "" if inside else tr("The selected stage belongs to no set")


register_actions(
    "stages",
    *(
        Action(
            f"make_{kind.replace(' ', '_')}",
            tr("Stage: turn it into {words}", words=term(words)),
            "",
            partial(make_set, kind=kind),
        )
        for kind, words in KIND_WORDS.items()
    ),
    Action("branch_stage", tr("Stage: a like one beside it, on the same driving shaft"), "", branch),
    Action("take_off", tr("Stage: take half of the power off behind it"), "", take_off, _at_end),
    Action("set_apart", tr("Set: take it apart, its first mesh stays"), "", take_apart, _no_set),
    Action("clear_tips", tr("Shorten the tips to the racks' clearance"), "", clear_tips),
    *(
        Action(
            f"stage_{n}",
            tr("Stage: {words}", words=words),
            key,
            partial(act_on_stage, n=n),
        )
        for n, (words, key) in enumerate(STAGE_WORDS)
    ),
    *(
        Action(f"share_{rule}", tr("Share the shifts: {words}", words=words), "", partial(share_shifts, rule=rule))
        for rule, words in (*((k, v[0]) for k, v in RULES.items()), (NO_UNDERCUT, tr("no undercut of either gear")))
    ),
    Action("pitch", tr("Switch between module and diametral pitch"), "Ctrl+M", toggle_pitch),
)

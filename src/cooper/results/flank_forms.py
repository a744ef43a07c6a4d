"""The forms of a gear's flanks in the core's terms, and the teeth of a stage made with them."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from cooper.document.gear_data import Flanks, Gear
from cooper.document.models import Stage, Train
from cooper.gears.flank_form import FlankForm, MadeFlank, long_relief
from cooper.i18n.text import tr
from cooper.results.result_tree import Results, StageResults


def single_relief(s: StageResults) -> float:
    """Length of roll of a long relief on the teeth of a stage; mm."""
    return long_relief(float(s.mesh.g_alpha), float(s.mesh.p_et))


def reach_of(s: StageResults, i: int) -> tuple[float, float]:
    """Lengths of roll of gear i (0, 1) between which it is in contact, at its root and at its tip; mm."""
    A, E, T2 = float(s.mesh.g_A), float(s.mesh.g_E), s.T2
    return (A, E) if i == 0 else (abs(T2 - E), abs(T2 - A))


def form_of(gear: Gear, s: StageResults, left: bool = False) -> FlankForm:
    """The form of a gear's right or left flanks."""
    f, long = gear.each_flanks[left], single_relief(s)
    return FlankForm(
        C_a=f.C_alphaa,
        l_Ca=f.l_Ca or long,
        C_f=f.C_alphaf,
        l_Cf=f.l_Cf or long,
        shape=f.relief,
        C_alpha=f.C_alpha,
        C_Halpha=f.C_Halpha,
        C_bI=f.C_betaI,
        l_I=f.l_CI,
        C_bII=f.C_betaII,
        l_II=f.l_CII,
    )


def bears_left(train: Train, results: Results, k: int) -> bool:
    """Whether left flanks bear in stage k, as its driving gear turns counter-clockwise as drawn."""
    return (train.duty.direction == "counter-clockwise") == (results.side_of(k) > 0)


def named_forms(gear: Gear) -> list[tuple[str, str, Flanks]]:
    """The forms of a gear: of which flanks in words, the end of their quantities' names, and what they are; one
    where both flanks are alike."""
    if gear.flanks_left is None:
        return [("", "", gear.flanks)]
    return [(tr(" of the right flanks"), "", gear.flanks), (tr(" of the left flanks"), LEFT, gear.flanks_left)]


LEFT = "_left"
"""The end of the names of what the left flanks have of their own."""
PLAIN = Flanks()


def with_forms(stage: Stage, s: StageResults) -> StageResults:
    """The results whose teeth are drawn and made with the profile forms of the document; the same where there are
    none."""
    gears = stage.gears
    if all(f == PLAIN for g in gears for f in g.each_flanks):
        return s
    teeth = []
    for i, gear in enumerate(gears):
        tooth, (L_f, L_a) = s.teeth[i], reach_of(s, i)
        r_b, r_Ff = abs(float(tooth.d_b)) / 2, abs(float(s.forms[i].d_Ff)) / 2
        L_Ff = float(np.sqrt(max(r_Ff**2 - r_b**2, 0.0)))
        right, left = (MadeFlank(form_of(gear, s, side), L_f, L_a, L_Ff) for side in (False, True))
        teeth.append(replace(tooth, flank=right, left=None if gear.flanks_left is None else left))
    return replace(s, teeth=(teeth[0], teeth[1]))

"""Close-up figures of the place that a check refers to."""

from __future__ import annotations

from cooper.document.models import Design
from cooper.exchange.report_figures import Close, mesh_svg, train_svg
from cooper.kinds.known import kind_of
from cooper.results.result_tree import Check, Results

NAMED = {
    "s_anE": ("own d_a", "own d_w"),
    "c": ("own d_a", "mate d_f"),
    "c_tip": ("own d_a", "mate d_a"),
    "c_F": ("own d_Nf", "own d_Ff", "mate d_Na"),
}
"""The circles that are named at a place; the working circles where none are."""
CLOSE = {"s_anE": 2.4, "c": 1.5, "c_tip": 1.8, "c_F": 1.3, "j_wt_min": 1.8, "j_bn_min": 1.8, "j_op_min": 1.8}
"""Half the height of the section shown around the place of a check, in modules; other checks show the whole path of
contact."""


def place_svg(design: Design, results: Results, check: Check) -> str:
    """The teeth around the place of a check as SVG; the whole train for a check of the train."""
    if check.stage is None:
        return train_svg(design, results)
    stage = results.stages[check.stage]
    half = CLOSE.get(check.symbol)
    members = design.train.stages[check.stage].gears
    if half is None or not all(kind_of(g).turns for g in members):
        return mesh_svg(design, results, check.stage, clip=False)
    own = check.index or 1
    if check.symbol == "c_F":
        # Where the mate's tip runs on the flank: the end of contact below the own root.
        x, y = stage.action_point(float(stage.mesh["g_A" if own == 1 else "g_E"]), 1)
    elif check.symbol.startswith("j_"):
        x, y = stage.action_point(float(stage.mesh["g_C"]), 1)
    else:
        tip = float(stage.gears[own - 1]["d_a"]) / 2
        x, y = (tip if own == 1 else float(stage.mesh.a_w) - tip), 0.0
    circles = tuple(
        (own if word.startswith("own") else 3 - own, word.split()[1])
        for word in NAMED.get(check.symbol, ("own d_w", "mate d_w"))
    )
    return mesh_svg(design, results, check.stage, Close(x, y, half * float(stage.mesh.m_n), circles), clip=False)

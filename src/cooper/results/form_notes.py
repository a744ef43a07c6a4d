"""Notes on the forms of the flanks: reliefs that do too little or too much, crowning that lifts the ends of the face."""

from __future__ import annotations

from collections.abc import Callable

from cooper.document.gear_data import Gear, Mesh
from cooper.results.checks import gear_word
from cooper.results.flank_forms import named_forms, single_relief
from cooper.results.form_limits import gives_way, lifted
from cooper.results.result_tree import StageResults

Say = Callable[[str, str], None]


def form_notes(mesh: Mesh, members: tuple[Gear, Gear], s: StageResults, say: Say) -> None:
    """Say what the forms of a mesh mean at its load."""
    reliefs = [min(f.C_alphaa for f in g.each_flanks) for g in members]
    if mesh.C_a and max(reliefs) > 0 and abs(mesh.C_a - min(reliefs)) > 1e-9:
        say(
            "range",
            f"K_V and scuffing count the entered tip relief C_a = {mesh.C_a:g} um; the flanks are made with {reliefs[0]:g} and {reliefs[1]:g} um.",
        )
    elif min(reliefs) > 0:
        own = " and of either flank" if any(g.flanks_left is not None for g in members) else ""
        say("assumed", f"K_V and scuffing count the lesser tip relief of both gears{own}, {min(reliefs):g} um.")
    if not s.rated or not float(s.mesh.F_bt) > 0:
        return
    give, long = gives_way(s), single_relief(s)
    each = [(f, gear_word(s, i), side) for i, gear in enumerate(members, 1) for side, _end, f in named_forms(gear)]
    for f, word, side in each:
        if f.C_alphaa > 0 and f.l_Ca is not None and f.l_Ca > 1.001 * long:
            say(
                "range",
                f"The tip relief{side} of the {word} reaches over {f.l_Ca:g} mm of roll, beyond the {long:.3f} mm on which another pair bears too: at light "
                "load a pair parts before the next one has taken over.",
            )
        if 0 < f.C_alphaa < 0.5 * give:
            say(
                "range",
                f"A tip relief of {f.C_alphaa:g} um{side} on the {word} is less than half of the {give:.1f} um by which the teeth give way under K_A: tip edges "
                "still meet their mates early.",
            )
    share = lifted(s, mesh.C_beta)
    if share < 1:
        say(
            "warning",
            f"A crowning of C_beta = {mesh.C_beta:g} um lifts the ends of the face at this load: about {100 * share:.0f} % of it bears, up to "
            f"{1.5 * give:.1f} um all of it.",
        )

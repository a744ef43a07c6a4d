"""Notes on the forms of the flanks: reliefs that do too little or too much, crowning that lifts the ends of the
face."""

from __future__ import annotations

from cooper.document.gear_data import Gear, Mesh
from cooper.results.checks import gear_word
from cooper.results.flank_forms import named_forms, single_relief
from cooper.results.form_limits import lifted, mesh_deflection
from cooper.results.messages import AddNote
from cooper.results.result_tree import StageResults


def form_notes(mesh: Mesh, members: tuple[Gear, Gear], s: StageResults, add_note: AddNote) -> None:
    """Say what the forms of a mesh mean at its load."""
    reliefs = [min(f.C_alphaa for f in g.each_flanks) for g in members]
    if mesh.C_a and max(reliefs) > 0 and abs(mesh.C_a - min(reliefs)) > 1e-9:
        add_note("relief_entered_and_made", C_a=mesh.C_a, one=reliefs[0], two=reliefs[1])
    elif min(reliefs) > 0:
        either = any(g.flanks_left is not None for g in members)
        add_note("relief_lesser_of_either_flank" if either else "relief_lesser", C_a=min(reliefs))
    if not s.rated or not float(s.mesh.F_bt) > 0:
        return
    give, long = mesh_deflection(s), single_relief(s)
    each = [(f, gear_word(s, i), side) for i, gear in enumerate(members, 1) for side, _end, f in named_forms(gear)]
    for f, word, side in each:
        if f.C_alphaa > 0 and f.l_Ca is not None and f.l_Ca > 1.001 * long:
            add_note("relief_long", side=side, word=word, l_Ca=f.l_Ca, long=long)
        if 0 < f.C_alphaa < 0.5 * give:
            add_note("relief_small", C_alphaa=f.C_alphaa, side=side, word=word, give=give)
    share = lifted(s, mesh.C_beta)
    if share < 1:
        add_note("crowning_lifts", C_beta=mesh.C_beta, share=100 * share, give=1.5 * give)

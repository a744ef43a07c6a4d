"""What is taken off a flank on purpose, over roll and face."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from cooper.arrays import Array
from cooper.document.models import Train
from cooper.gears.flank_form import helix_form, profile_form
from cooper.results.flank_forms import bears_left, form_of, reach_of
from cooper.results.result_tree import Results

ROLLS, PLACES = 61, 41


class Topography(Struct, frozen=True):
    """``C`` (lengths of roll, places along the face; um) taken off at lengths of roll ``L`` (mm) from the root's end
    of the contact to the tip's and at ``y`` (mm) from the left end."""

    L: Array
    y: Array
    C: Array


def topography(train: Train, results: Results, k: int, i: int, left: bool | None = None) -> Topography:
    """The flank of gear i (0, 1) of stage k: its left one, its right one or (None) the one that bears."""
    s = results.stages[k]
    side = bears_left(train, results, k) if left is None else left
    form = form_of(train.stages[k].gears[i], s, side)
    L_f, L_a = reach_of(s, i)
    b = float(s.mesh.b_H) / (2 if train.stages[k].mesh.double_helix else 1)
    L, y = np.linspace(L_f, L_a, ROLLS), np.linspace(0, b, PLACES)
    return Topography(L, y, profile_form(form, L, L_f, L_a)[:, None] + helix_form(form, y, b)[None, :])

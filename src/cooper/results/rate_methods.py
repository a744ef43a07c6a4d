"""Everything that is rated of a pair beyond ISO 6336 at its nominal load, for one pair or for arrays of pairs in the
same way."""

from __future__ import annotations

from cooper.arrays import Mixed as Array
from cooper.document.duty import Defaults, Duty
from cooper.document.models import Stage
from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape
from cooper.results.other_methods import add_agma, add_flank_fracture, add_micropitting, add_scuffing
from cooper.results.service import add_service, at_levels


def add_methods(
    pair: PairInput,
    numbers: PairShape,
    stage: Stage,
    duty: Duty,
    defaults: Defaults,
    first_drives: Array,
    whole: bool = True,
) -> None:
    """AGMA where it governs, scuffing, micropitting, flank fracture and, under a load spectrum, all of them at its
    levels, into the values of a rated pair.

    Not ``whole`` leaves out scuffing, micropitting and flank fracture.
    """
    members = stage.gears
    if defaults.method.startswith("ANSI"):
        add_agma(pair, numbers, members, stage.mesh, defaults)

    def add_damage(p: PairInput, n: PairShape) -> None:
        if whole:
            add_scuffing(p, n, members, defaults, first_drives)
            add_micropitting(p, n, members, defaults)
            add_flank_fracture(p, n)

    add_damage(pair, numbers)
    if duty.spectrum:
        at = at_levels(pair, duty.spectrum)
        add_damage(at.pair, at)
        add_service(numbers, at, duty.spectrum, duty.K_AP is not None)

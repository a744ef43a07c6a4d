"""Shapes of pairs, kept by their stage: under another load the teeth are the same."""

from __future__ import annotations

import numpy as np

from cooper.arrays import frozen
from cooper.document.models import Stage
from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape, pair_shape
from cooper.kept import Kept

SHAPES: Kept[PairShape] = Kept(24)
"""An edit of one stage finds those of the others again."""
SOUND: Kept[bool] = Kept(24)
"""Those that were looked at, and not refused."""


def shape_of(stage: Stage, pair: PairInput) -> PairShape:
    """The shape of a stage's pair, read-only (`PairShape.fresh`); NaN where it cannot be."""

    def made() -> PairShape:
        with np.errstate(all="ignore"):
            shape = pair_shape(pair)
        # Teeth and root forms are kept, and so frozen, already.
        frozen((shape.mesh, *shape.gears, shape.path))
        return shape

    return SHAPES.of(stage, made)


def is_sound(stage: Stage) -> bool:
    """Whether the shape of a stage was looked at, and not refused."""
    return stage in SOUND


def found_sound(stage: Stage) -> None:
    """Keep that the shape of a stage is not to be refused."""
    SOUND.put(stage, True)

"""Shapes of pairs, kept by their stage: under another load the teeth are the same."""

from __future__ import annotations

from collections import OrderedDict

import numpy as np

from cooper.arrays import frozen
from cooper.document.models import Stage
from cooper.gears.inputs import PairInput
from cooper.gears.pair_shape import PairShape, pair_shape

CACHE_SIZE = 24
"""How many: an edit of one stage finds those of the others again."""
_SHAPES: OrderedDict[Stage, PairShape] = OrderedDict()
_SOUND: set[Stage] = set()


def shape_of(stage: Stage, pair: PairInput) -> PairShape:
    """The shape of a stage's pair, read-only (`PairShape.fresh`); NaN where it cannot be."""
    shape = _SHAPES.get(stage)
    if shape is not None:
        _SHAPES.move_to_end(stage)
        return shape
    with np.errstate(all="ignore"):
        shape = _SHAPES[stage] = pair_shape(pair)
    # Teeth and root forms are kept, and so frozen, already.
    frozen((shape.mesh, *shape.gears, shape.path))
    if len(_SHAPES) > CACHE_SIZE:
        _SOUND.discard(_SHAPES.popitem(last=False)[0])
    return shape


def is_sound(stage: Stage) -> bool:
    """Whether the shape that is kept of a stage was looked at, and not refused."""
    return stage in _SOUND


def found_sound(stage: Stage) -> None:
    """Keep that the shape of a stage is not to be refused, as long as it is kept itself."""
    if stage in _SHAPES:
        _SOUND.add(stage)

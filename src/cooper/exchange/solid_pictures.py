"""Pictures of a train's solids: coarse at once, finer step by step. Run in a worker process, as
fine ones take seconds."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, sqrt

import numpy as np

from cooper.arrays import Loose as Array
from cooper.document.models import Design
from cooper.exchange.camera import Sight
from cooper.exchange.shaded import Solids, shaded
from cooper.results.pose import pose
from cooper.results.result_tree import Results

ROUGH_RAYS, MOST_RAYS = 150_000, 6_000_000
"""Rays of the first picture, and above which none is made finer."""


def picture(solids: Solids, sight: Sight, fine: int = 1, part: int = 1) -> Array:
    """A sight as (height, width, 4) bytes, red to alpha (premultiplied), with ``fine`` rays along each side of a
    pixel, or a ``part`` of the pixels along each."""
    placed = solids.placed(sight.turn)
    drivers = {(g.stage, g.i) for g in pose(solids.results, 0.0).gears if g.drives}
    colors = [
        sight.shaft
        if at.solid.stage < 0
        else (sight.driver if (at.solid.stage, at.solid.gear) in drivers else sight.driven)
        for at in placed
    ]
    size = max(1, round(sight.size[0] / part)), max(1, round(sight.size[1] / part))
    return shaded(placed, colors, sight.ink, sight.camera, size, fine, solids.frame(sight.camera, size))


_CACHE: dict[int, Solids] = {}
"""The solids that were made last, by the number under which they were asked for."""


def each_picture(
    number: int, made: tuple[Design, Results] | None, sight: Sight, rests: bool
) -> Iterator[tuple[int, int, bytes]]:
    """Width, height and bytes of a sight's pictures, each finer than the one before; only the first where it does
    not rest.

    What is ``made`` is kept under its ``number``, so that it need not come again; raises LookupError where it did not
    come and is not kept.
    """
    if made is not None:
        _CACHE.clear()
        _CACHE[number] = Solids(*made)
    solids = _CACHE[number]
    pixels = sight.size[0] * sight.size[1]
    rough = max(2, ceil(sqrt(pixels / ROUGH_RAYS)))
    for part, fine in ((rough, 1), (1, 1), (1, 2)) if rests else ((rough, 1),):
        if part > 1 or pixels * fine**2 <= MOST_RAYS:
            result = picture(solids, sight, fine, part)
            yield result.shape[1], result.shape[0], np.ascontiguousarray(result).tobytes()

"""Where the stages of a train stand along its axis."""

from __future__ import annotations

from cooper.results.result_tree import Results

GAP = 0.25
"""Gap between neighbouring stages along the axis, as a share of the wider face before it."""


def heights(results: Results) -> list[float]:
    """Place of the middle of every stage's face width along the axis; mm. Meshes of one shared gear stand at one
    height."""
    result: list[float] = []
    low = 0.0
    for k, stage in enumerate(results.stages):
        one = results.within[k]
        widest = max(g.b for g in stage.gears)
        if one is not None and one.arranged.one_gear and k == one.first + 1:
            result.append(result[-1])
            continue
        if one is not None and k == one.first + 2:
            # A free sun stands between the first gears of the planets.
            result.append(result[one.first])
            continue
        result.append(low + widest / 2)
        low += widest * (1 + GAP)
    return result

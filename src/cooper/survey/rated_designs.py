"""Rated designs with their numbers."""

from __future__ import annotations

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from cooper.arrays import Mixed as Array
from cooper.results.result_tree import Check, StageResults
from cooper.survey.design_batch import DesignBatch
from cooper.values import GearValues, MeshValues


class Rated(Struct):
    """A block with its numbers. ``alive`` tells which designs `evaluate` would not refuse; the checks hold arrays."""

    block: DesignBatch
    alive: Array
    stages: list[StageResults] = field(default_factory=list)
    checks: list[Check] = field(default_factory=list)
    values: dict[str, Array] = field(default_factory=dict)

    def pick(self, rows: Array) -> Rated:
        """Some of the designs with their numbers."""
        n = len(self.block)

        def of(value: Array) -> Array:
            return value[rows] if isinstance(value, np.ndarray) and value.ndim and value.shape[-1] == n else value

        checks = [replace(c, value=of(c.value), limit=of(c.limit), margin=of(c.margin)) for c in self.checks]
        stages = [
            replace(
                s,
                mesh=MeshValues(**{k: of(v) for k, v in s.mesh.items()}),
                gears=tuple(GearValues(**{k: of(v) for k, v in g.items()}) for g in s.gears),
            )
            for s in self.stages
        ]
        values = {k: of(v) for k, v in self.values.items()}
        return Rated(self.block.pick(rows), self.alive[rows], stages, checks, values)

    @property
    def worst(self) -> Array:
        """The least margin of each design."""
        return np.min(np.stack([np.broadcast_to(c.margin, len(self.block)) for c in self.checks]), axis=0)

"""What stands beside the governing method: found when it is looked at, and not at every edit."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from functools import cached_property, partial

from cooper.document.duty import Defaults
from cooper.document.models import Stage
from cooper.document.quantities import QUANTITIES
from cooper.errors import OutOfRange
from cooper.results.other_methods import add_agma
from cooper.results.pair_numbers import PairNumbers, add_lewis
from cooper.results.present import in_document_units
from cooper.results.result_tree import StageResults

AGMA = frozenset(s for s, q in QUANTITIES.items() if "AGMA" in q.source)
LEWIS = frozenset({"Y_L", "sigma_L"})


class ComparisonValues:
    """Lewis, and AGMA where it does not govern, for one mesh: both at once, and once."""

    def __init__(self, stage: Stage, numbers: PairNumbers, defaults: Defaults, s: StageResults, agma: bool) -> None:
        self.stage, self.numbers, self.defaults, self.kinds, self.agma = stage, numbers, defaults, s.kinds, agma
        self.symbols = LEWIS | AGMA if agma else LEWIS
        for n, values in enumerate((s.mesh, *s.gears)):
            values.later(self.symbols, partial(self._of, n))

    def _of(self, n: int) -> dict[str, float]:
        """Those of the mesh (0) or of a gear (1, 2)."""
        return self.found[n]

    @cached_property
    def found(self) -> tuple[dict[str, float], ...]:
        """By symbol in the document's units, of mesh and gears; what cannot be computed is absent, as it does not
        govern."""
        n = self.numbers.fresh()
        add_lewis(n.pair, n)
        if self.agma:
            # Where it refuses Lewis stands alone.
            with suppress(OutOfRange):
                add_agma(n.pair, n, self.stage.gears, self.stage.mesh, self.defaults)
        one, two = self.kinds
        has: tuple[Callable[[str], bool], ...] = (two.has_in_mesh, one.has, two.has)
        return tuple(
            in_document_units({k: v for k, v in values.items() if k in self.symbols and own(k)}, missing=True)
            for values, own in zip((n.mesh, *n.gears), has, strict=True)
        )

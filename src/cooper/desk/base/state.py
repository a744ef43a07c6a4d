"""One state of the document in the history: design and results, packed when it is old."""

from __future__ import annotations

import pickle
import zlib

from msgspec import Struct

from cooper.document.models import Design
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.evaluate import evaluate
from cooper.results.result_tree import Results

PACK_MS = 400
"""Rest of the hand after which others are packed."""


class State:
    """One state of the Trail. ``parent`` is the state it was made from, None for the first.

    A state that was not looked at for long is kept packed; its results are found again when they are asked for.
    """

    __slots__ = (
        "_design",
        "_packed",
        "_results",
        "_survey",
        "awaits",
        "key",
        "label",
        "name",
        "parent",
        "stamp",
        tr("verdict"),
    )

    def __init__(
        self, design: Design, results: Results, label: str, parent: int | None, key: str = "", stamp: float = 0.0
    ) -> None:
        self._design: Design | None = design
        self._results: Results | None = results
        self._packed = b""
        # One and the same from state to state, and too long to be packed with each.
        self._survey = design.survey
        self.verdict = results.verdict
        # Results of the gears alone, while a worker process calculates the machine around them.
        self.awaits: Results | None = None
        self.label, self.parent, self.key, self.stamp, self.name = label, parent, key, stamp, ""

    @property
    def design(self) -> Design:
        if self._design is None:
            result = pickle.loads(zlib.decompress(self._packed))
            assert isinstance(result, Design)
            self._design = result.replace_unchecked(survey=self._survey)
        return self._design

    @property
    def results(self) -> Results:
        if self._results is None:
            self._results = evaluate(self.design)
        return self._results

    @property
    def pinned(self) -> bool:
        return bool(self.name)

    def complete(self, results: Results) -> None:
        """Results whose machine has come in."""
        self._results, self.verdict, self.awaits = results, results.verdict, None

    def pack(self) -> None:
        """Keep the design in few bytes and the results not at all."""
        if self._design is not None:
            alone = self._design.replace_unchecked(survey=None)
            self._packed = zlib.compress(pickle.dumps(alone, protocol=pickle.HIGHEST_PROTOCOL))
            self._design = self._results = self.awaits = None


class Outcome(Struct, frozen=True):
    """What became of an edit: the present design after it, and why it was refused (None when it was not)."""

    design: Design
    fault: OutOfRange | None = None

    def __bool__(self) -> bool:
        return self.fault is None

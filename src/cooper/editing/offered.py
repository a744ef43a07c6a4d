"""What an offer would come to: the results of each, quickly, so that it is seen before it is taken."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from cooper.document.models import Design
from cooper.editing.count_search import take
from cooper.errors import OutOfRange
from cooper.results.evaluate import QUICK, evaluate
from cooper.results.result_tree import Results
from cooper.trains.counts import Offer

Seen = tuple[int, Results | None]
"""Which offer, and its results; None where it cannot be."""


def each_evaluated(designs: Sequence[Design]) -> Iterator[Seen]:
    """The results of each design, without its machine."""
    for n, design in enumerate(designs):
        try:
            yield n, evaluate(design, QUICK)
        except OutOfRange:
            yield n, None


def each_taken(design: Design, k: int, offers: Sequence[Offer]) -> Iterator[Seen]:
    """The results of the design with each of these counts at stage k."""
    for n, offer in enumerate(offers):
        try:
            yield n, evaluate(take(design, k, offer), QUICK)
        except OutOfRange:
            yield n, None

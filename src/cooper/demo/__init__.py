"""The demo designs, set in the workshop of Larkfell observatory."""

from __future__ import annotations

from collections.abc import Iterator
from importlib.resources import files

from cooper.document.models import Design
from cooper.document.store import read_design
from cooper.i18n.text import tr
from cooper.results.evaluate import evaluate
from cooper.results.result_tree import Results

DEMOS = {
    "mirror-cover": tr("a spur pair, small, case-hardened"),
    "winch": tr("two helical stages"),
    "dome-ring": tr("a pinion in a toothed ring"),
    "dome-rack": tr("a pinion on a rack"),
    "dome-drive": tr("a planet set, then a pinion in a toothed ring"),
    "focuser": tr("a fine-pitch planet set, sintered"),
    "filter-wheel": tr("two rings driven at a sun, printed"),
    "battery-lift": tr("an idler between two gears"),
}
"""The demo designs by file name, and what each shows."""


def each_demo() -> Iterator[tuple[str, Results]]:
    """Every demo's file name and results, one after the other."""
    for name in DEMOS:
        yield name, evaluate(demo(name))


def demo(name: str = "mirror-cover") -> Design:
    """One demo design by its file name.

    >>> demo().name
    'Mirror-cover actuator'
    """
    return read_design((files("cooper.demo") / f"{name}.json").read_text(encoding="utf-8"), name)

"""Decent numbers in place of odd ones: widths, centre distance and shifts of a design rounded, each with what it
costs."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from msgspec import Struct

from cooper.document.models import Design
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.kinds.known import kind_of
from cooper.results.evaluate import evaluate
from cooper.results.result_tree import Results

WIDTHS = (0.5, 1.0, 2.0, 5.0)
DISTANCES = (0.05, 0.1, 0.5, 1.0, 5.0)
SHIFTS = (0.01, 0.05, 0.1)
"""Units that are tried, mm and factors."""


class Rounded(Struct, frozen=True):
    """One way to round: in words, the design with it, and its results; the worst margin and the mass before it."""

    words: str
    design: Design
    results: Results
    worst_before: float
    mass_before: float

    @property
    def worst(self) -> float:
        """The least margin of all checks with it."""
        return min(c.margin for c in self.results.checks)

    @property
    def mass(self) -> float:
        """Mass of all gears over that before; relative change."""
        return mass_of(self.design, self.results) / self.mass_before - 1


def mass_of(design: Design, results: Results) -> float:
    """Mass of all gears, each once and planets as many times as there are.

    Parameters
    ----------
    design : Design
        The design.
    results : Results
        Results of the design.

    Returns
    -------
    float
        Mass (kg).

    Examples
    --------
    >>> from cooper.demo import demo
    >>> from cooper.results.evaluate import evaluate
    >>> round(mass_of(demo(), evaluate(demo())), 3)
    0.174
    """
    seen: dict[str, float] = {}
    for stage, result in zip(design.train.stages, results.stages, strict=True):
        one = stage.within
        for i in (0, 1):
            planet = (
                one is not None
                and one.arranged.around
                and result.roles is not None
                and result.roles[i] == one.arranged.between
            )
            seen.setdefault(stage.gears[i].id, result.gears[i].mass * (one.planets if planet and one else 1))
    return sum(seen.values())


def each_rounded(design: Design) -> Iterator[Rounded]:
    """All ways that leave something that can be made; those that alter nothing are left out.

    Parameters
    ----------
    design : Design
        The design.

    Yields
    ------
    Rounded
        Designs with round numbers.
    """
    before = evaluate(design)
    worst, mass = min(c.margin for c in before.checks), mass_of(design, before)
    text: set[str] = set()
    for words, changes in _ways(design, before):
        try:
            changed = set_many(design, changes)
            if changed == design or words in text:
                continue
            results = evaluate(changed)
        except OutOfRange:
            continue
        text.add(words)
        yield Rounded(words, changed, results, worst, mass)


def _ways(design: Design, results: Results) -> Iterator[tuple[str, dict[str, object]]]:
    stages = design.train.stages
    for unit in WIDTHS:
        changes: dict[str, object] = {}
        for stage in stages:
            for path, gear in zip(stage.paths, stage.gears, strict=True):
                if gear.b >= 2 * unit:
                    changes[f"{path}.b"] = round(ceil(gear.b / unit - 1e-9) * unit, 6)
        yield tr("all widths up to the next {unit:g} mm", unit=unit), changes
    for k, stage in enumerate(stages):
        if stage.within is not None or not stage.kind_of_pair.turns:
            continue
        now = results.stages[k].mesh.a_w
        mesh = stage.mesh
        for unit in DISTANCES:
            if now < 10 * unit:
                continue
            for up in (True, False):
                a_w = round((ceil(now / unit - 1e-9) if up else int(now / unit + 1e-9)) * unit, 6)
                wheel = 1 if stage.gears[1].x is not None or mesh.a_w is None else 0
                changes = {f"{stage.path}.a_w": a_w}
                if mesh.a_w is None:
                    changes[f"{stage.paths[wheel]}.x"] = None
                yield (
                    tr(
                        "{name}: centre distance {a_w:g} mm, the shift of the {name_2} follows",
                        name=stage.name,
                        a_w=a_w,
                        name_2=_name(stage.gears[wheel].name),
                    ),
                    changes,
                )
    for unit in SHIFTS:
        changes = {}
        for stage in stages:
            for path, gear in zip(stage.paths, stage.gears, strict=True):
                if gear.x is not None and kind_of(gear).shifts:
                    changes[f"{path}.x"] = round(round(gear.x / unit) * unit, 6) + 0.0
        yield tr("all given shifts to the next {unit:g}", unit=unit), changes


def _name(name: str) -> str:
    return name[:1].lower() + name[1:] if name else "gear"

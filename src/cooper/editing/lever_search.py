"""A lever, and the searches along one value for where a check's margin is reached."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil, floor

import numpy as np
from msgspec import Struct

from cooper.document.models import Design
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.evaluate import QUICK, Scope, evaluate
from cooper.results.result_tree import Check, Results


class Lever(Struct, frozen=True):
    """A change that brings a check to its target, or why it cannot.

    ``label`` names the quantity, ``shown`` the value it takes with ``kind`` for its unit (None for a choice such as a
    material), ``design`` the changed design (None when out of reach, with the reason in ``cannot``).
    """

    label: str
    shown: float | str
    kind: str | None
    design: Design | None
    results: Results | None
    cannot: str = ""

    def effect(self, before: Results, stage: int) -> dict[str, float]:
        """Relative change of mass and centre distance, and the worst margin of all checks afterwards."""
        assert self.results is not None
        old, new = before.stages[stage], self.results.stages[stage]
        mass = sum(g.mass for g in new.gears) / sum(g.mass for g in old.gears) - 1
        if before.machine is not None and self.results.machine is not None:
            mass = self.results.machine.mass / before.machine.mass - 1
        return {
            "mass": mass,
            "a_w": new.mesh.a_w / old.mesh.a_w - 1,
            "worst": min(c.margin for c in self.results.checks),
        }


STEEPEST = 30.0
"""Helix angle (degrees) up to which a helix lever looks."""


def search_value(
    label: str,
    kind: str | None,
    check: Check,
    make: Callable[[float], Design],
    now: float,
    end: float,
    cannot: str,
    step: float,
    scope: Scope = QUICK,
) -> Lever:
    """The value nearest to the present one, towards ``end``, at which the check reaches its limit; rounded up to
    ``step``."""

    def margin(v: float) -> float:
        try:
            return margin_of(make(v), check.key, scope)[0]
        except OutOfRange:
            return float("-inf")

    if check.margin >= 0:
        end = now
    # Loads and lives fall by ever smaller ratios, the others rise by even steps.
    falls = end < now and step == 0
    by_ones = np.arange(now, end + np.sign(end - now or -1), np.sign(end - now or -1))
    grid = np.geomspace(now, end, 9) if falls else np.linspace(now, end, 9) if step != 1 else by_ones
    last, result = now, None
    for v in grid.tolist():
        if margin(v) >= 0:
            result = v
            break
        last = v
    if result is None:
        return Lever(label, end, kind, None, None, cannot)
    if result != last and step != 1:
        result = float(halve_interval(margin, last, result))
        if step:
            to = ceil(result / step - 1e-9) if end >= now else floor(result / step + 1e-9)
            result = round(to * step, 9)
        else:
            result = (
                float(tr("{found:.2e}", found=result))
                if margin(float(tr("{found:.2e}", found=result))) >= 0
                else result * 0.999
            )
    if margin(result) < 0:
        return Lever(label, result, kind, None, None, cannot)
    design = make(result)
    return Lever(label, result if kind else tr("{found:g}", found=result), kind, design, evaluate(design))


def halve_interval(margin: Callable[[float], float], bad: float, good: float, steps: int = 14) -> float:
    """A value with a margin of zero or more, as near to the bad end as a few halvings find it."""
    for _ in range(steps):
        mid = (bad + good) / 2
        if margin(mid) >= 0:
            good = mid
        else:
            bad = mid
    return good


def margin_of(design: Design, key: str, scope: Scope = QUICK) -> tuple[float, Results | None]:
    """Margin of a check in a changed design; minus infinity where the change cannot work."""
    try:
        results = evaluate(design, scope)
    except OutOfRange:
        return float("-inf"), None
    result = results.check(key)
    return (result.margin if result else float("-inf")), results


def least_value(margin: Callable[[float], float], low: float, high: float) -> float | None:
    """Least value in low..high with a margin of zero or more, for a margin that rises with the value."""
    # Imported here: it would double the time that the program needs to start.
    from scipy.optimize import brentq

    if margin(high) < 0:
        return None
    while margin(low) == float("-inf") and low < high:
        low = low * 1.3
    if margin(low) >= 0:
        return low
    return float(brentq(lambda v: max(margin(v), -10.0), low, high, xtol=1e-4, rtol=1e-10))

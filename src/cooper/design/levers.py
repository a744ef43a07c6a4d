"""Levers: one quantity changed so that a check reaches its target, solved on the real evaluation."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import ceil

from cooper.design.document import Design
from cooper.design.edit import set_many
from cooper.design.evaluate import evaluate
from cooper.design.results import Check, Results
from cooper.errors import OutOfRange
from cooper.stock.materials import groups
from cooper.stock.series import modules


@dataclass(frozen=True)
class Lever:
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
        mass = sum(g["mass"] for g in new.gears) / sum(g["mass"] for g in old.gears) - 1
        return {
            "mass": mass,
            "a_w": new.mesh["a_w"] / old.mesh["a_w"] - 1,
            "worst": min(c.margin for c in self.results.checks),
        }


WIDEST = 60.0
"""Face width, in modules, up to which a width lever looks."""


def levers(design: Design, results: Results, check: Check) -> list[Lever]:
    """Face width, module and material that would bring a strength check of a stage to its limit."""
    if check.stage is None or check.symbol not in ("S_H", "S_F"):
        return []
    return [_width(design, results, check), _module(design, results, check), _material(design, check)]


def _margin(design: Design, key: str) -> tuple[float, Results | None]:
    """Margin of a check in a changed design; minus infinity where the change cannot work."""
    try:
        results = evaluate(design)
    except OutOfRange:
        return float("-inf"), None
    found = results.check(key)
    return (found.margin if found else float("-inf")), results


def _width(design: Design, results: Results, check: Check) -> Lever:
    k = check.stage or 0
    members = design.train.stages[k].members
    mesh = design.train.stages[k].meshes[0]
    widths = [members[mesh.driver].b, members[mesh.driven].b]
    extra = [b - min(widths) for b in widths]

    def with_width(b: float) -> Design:
        paths = [f"train.stages.{k}.members.{n}.b" for n in (mesh.driver, mesh.driven)]
        return set_many(design, {p: b + e for p, e in zip(paths, extra, strict=True)})

    top = max(WIDEST * results.stages[k].mesh["m_n"], 2 * min(widths))
    found = _least(lambda b: _margin(with_width(b), check.key)[0], 0.05 * min(widths), top)
    if found is None:
        return Lever("face width", top, "length", None, None, f"not reached up to b = {top:.0f} mm")
    rounded = ceil(found * 10 - 1e-9) / 10
    changed = with_width(rounded)
    return Lever("face width", rounded, "length", changed, evaluate(changed))


def _module(design: Design, results: Results, check: Check) -> Lever:
    k = check.stage or 0
    stage = design.train.stages[k]
    mesh = stage.meshes[0]
    if mesh.a_w is not None:
        return Lever("module", results.stages[k].mesh["m_n"], "module", None, None,
                     f"the centre distance is fixed at {mesh.a_w:g} mm; free it first")  # fmt: skip
    base = f"train.stages.{k}.meshes.0"
    for m in modules():
        if not 0.3 * results.stages[k].mesh["m_n"] <= m <= 8 * results.stages[k].mesh["m_n"]:
            continue
        changes: dict[str, float | None] = {f"{base}.{n}": None for n in ("P_nd", "d_1", "d_2")}
        # Given tip circles, rims and backs keep their proportion to the teeth.
        grown = m / results.stages[k].mesh["m_n"]
        for n, gear in enumerate(stage.members):
            for name in ("d_a", "d_rim"):
                if getattr(gear, name) is not None:
                    changes[f"train.stages.{k}.members.{n}.{name}"] = round(getattr(gear, name) * grown, 3)
            if gear.shape == "rack":
                changes[f"train.stages.{k}.members.{n}.h_back"] = round(gear.h_back * grown, 3)
        try:
            changed = set_many(design, {**changes, f"{base}.m_n": m})
        except OutOfRange:
            continue
        margin, after = _margin(changed, check.key)
        if margin >= 0 and after is not None:
            return Lever("module", m, "module", changed, after)
    return Lever(
        "module", results.stages[k].mesh["m_n"], "module", None, None, "no standard module up to 8 times reaches it"
    )


def _material(design: Design, check: Check) -> Lever:
    """The material of the stock with the least price that reaches the target for the gear concerned."""
    k = check.stage or 0
    mesh = design.train.stages[k].meshes[0]
    member = (mesh.driver, mesh.driven)[(check.index or 1) - 1]
    present = design.train.stages[k].members[member].material
    path = f"train.stages.{k}.members.{member}.material"
    options = []
    for group, data in groups().items():
        for grade in data["grades"]:
            hardness = present.hardness if group == present.group else float(data["hardness_default"])
            options.append((data["price_index"], list(data["grades"]).index(grade), group, grade, hardness))
    for _, _, group, grade, hardness in sorted(options):
        try:
            same = (group, grade) == (present.group, present.grade)
            values = {"group": group, "grade": grade, "hardness": hardness, "R_p02": present.R_p02 if same else None}
            changed = set_many(design, {path: {**present.model_dump(), **values}})
        except OutOfRange:
            continue
        margin, after = _margin(changed, check.key)
        if margin >= 0 and after is not None:
            name = f"{groups()[group]['name']} {grade}"
            return Lever("material", name, None, changed, after)
    return Lever("material", "–", None, None, None, "no material of the stock reaches it alone")


def _least(margin: Callable[[float], float], low: float, high: float) -> float | None:
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

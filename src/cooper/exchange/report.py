"""The plain-text report: inputs, results, factor chains and notes, for checking by hand."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel

from cooper.design.document import Design
from cooper.design.quantities import QUANTITIES, plain, quantity_of
from cooper.design.results import Check, Results
from cooper.design.units import KINDS, number, screen_unit
from cooper.design.why import Step, why
from cooper.exchange.dimension_sheet import dimension_rows

WIDTH = 100


def report_text(design: Design, results: Results, system: str = "mm") -> str:
    """The report in one of the unit systems ("mm", "inch")."""
    return "\n".join(_lines(design, results, system)) + "\n"


def _lines(design: Design, results: Results, system: str) -> Iterator[str]:
    yield f"{design.name}" + (f" – {design.place}" if design.place else "")
    yield "=" * WIDTH
    yield f"Method {design.train.defaults.method}.  Verdict: {results.verdict}."
    yield ""
    yield from _title("Duty and train")
    yield from _inputs(design.train.duty, system)
    yield from _inputs(design.train.defaults, system)
    yield from _inputs(design.train.defaults.lubricant, system)
    for k, (stage, values) in enumerate(zip(design.train.stages, results.stages, strict=True)):
        mesh = stage.meshes[0]
        members = (stage.members[mesh.driver], stage.members[mesh.driven])
        yield from _title(f"{stage.name}: inputs")
        yield from _inputs(mesh, system)
        for i, gear in enumerate(members, 1):
            yield f"  gear {i}: {gear.name}"
            yield from _inputs(gear, system)
            yield from _inputs(gear.material, system)
        yield from _title(f"{stage.name}: checks")
        yield from _checks(results.checks_of(k), system)
        yield from _title(f"{stage.name}: power")
        yield from _values(values.power, None, system)
        yield from _title(f"{stage.name}: mesh")
        yield from _values(values.mesh, None, system)
        for i, gear_values in enumerate(values.gears, 1):
            yield from _title(f"{stage.name}: gear {i}, {members[i - 1].name}")
            yield from _values(gear_values, i, system)
        for i in (1, 2):
            yield from _title(f"{stage.name}: dimension sheet of gear {i}")
            for row in dimension_rows(design, k, values, i):
                yield f"  {row.symbol:10} {row.text(system):>26}  {row.meaning}"
        for c in results.checks_of(k):
            chain = why(values, c)
            if chain is None:
                continue
            yield from _title(f"{plain(c.symbol, c.index)}, {c.label}: factor chain")
            yield from _chain(chain.acting, system)
            yield "  against"
            yield from _chain(chain.bearing, system)
            yield f"  {plain(c.symbol, c.index)} = {chain.bearing[-1].value:.2f} / {chain.acting[-1].value:.2f} = {c.value:.4f}"
    yield from _title("Notes")
    for note in results.notes:
        where = "" if note.stage is None else f"{results.stages[note.stage].name}: "
        yield f"  [{note.level}] {where}{note.text}"


def checks_text(results: Results, system: str = "mm") -> str:
    """The verdicts alone, stage by stage, worst first."""
    lines = []
    for k, stage in enumerate(results.stages):
        lines += [stage.name, *_checks(results.checks_of(k), system)]
    return "\n".join(lines)


def _checks(checks: list[Check], system: str) -> Iterator[str]:
    for c in checks:
        unit = screen_unit(KINDS[c.kind].display_unit(system))
        sign = ">=" if c.sense == "at least" else "<="
        value, limit = number(c.value, c.kind, system), number(c.limit, c.kind, system)
        name = plain(c.symbol, c.index)
        yield f"  {c.verdict:6} {name:10} {c.label:24} {value:>9} {sign} {limit:<7} {unit:4} margin {c.margin:+8.1%}"
        if c.verdict == "short":
            yield f"         {c.means}"


def _title(text: str) -> Iterator[str]:
    yield ""
    yield text
    yield "-" * len(text)


def _inputs(model: BaseModel, system: str) -> Iterator[str]:
    for name, field in type(model).model_fields.items():
        extra: Any = field.json_schema_extra
        value = getattr(model, name)
        if not isinstance(extra, dict) or "symbol" not in extra:
            if isinstance(value, str | bool):
                yield f"  {name:12} {value!s:>14}   {field.description}"
            continue
        shown = "solved" if value is None else number(value, extra["kind"], system)
        unit = screen_unit(KINDS[extra["kind"]].display_unit(system))
        yield f"  {name:12} {shown:>14} {unit if value is not None else '':6} {field.description}"


def _values(values: dict[str, float], index: int | None, system: str) -> Iterator[str]:
    for symbol, value in values.items():
        q = quantity_of(symbol)
        unit = screen_unit(KINDS[q.kind].display_unit(system))
        shown = number(value, q.kind, system, 5 if q.kind == "factor" else None)
        yield f"  {plain(symbol, index):14} {shown:>14} {unit:7} {q.meaning}  [{q.source}]"


def _chain(steps: tuple[Step, ...], system: str) -> Iterator[str]:
    for s in steps:
        q = QUANTITIES[s.symbol]
        power = "" if s.power in (0, 1) else f"^{s.power:g}"
        sign = "  " if s.power == 0 else "× "
        entered = " (entered)" if s.entered else ""
        name = plain(s.symbol, s.index) + power
        inputs = ", ".join(f"{plain(n, i)} = {number(v, QUANTITIES[n].kind, system)}" for n, i, v in s.inputs)
        tail = f"  from {inputs}" if inputs else ""
        unit = screen_unit(KINDS[q.kind].display_unit(system))
        yield f"  {sign}{name:16} {number(s.value, q.kind, system, 4):>12} {unit:5}{entered} [{s.source}]{tail}"

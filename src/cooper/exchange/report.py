"""The report: inputs, results, factor chains and notes, for checking by hand; as text and as a page with the drawing."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from html import escape
from typing import Any

from pydantic import BaseModel

from cooper.document.models import Design
from cooper.document.quantities import QUANTITIES, parts, plain, quantity_of
from cooper.document.units import KINDS, number, screen_unit
from cooper.editing.spectrum_text import levels_text
from cooper.exchange.dimension_sheet import dimension_rows
from cooper.exchange.report_loaded import loaded_rows
from cooper.exchange.svg import pair_svg
from cooper.results.beside import beside
from cooper.results.machine_checks import order_of_failure
from cooper.results.machine_found import MachineFound
from cooper.results.machine_why import why_machine
from cooper.results.result_tree import Check, Results
from cooper.results.why import Step, why

WIDTH = 100
Rows = Sequence[tuple[str, ...]]


@dataclass(frozen=True)
class Block:
    """A titled table of the report; ``align`` has a letter for each column, l or r; ``symbols`` whether column ``at``
    holds symbols to be typeset. ``stage`` is the stage whose drawing stands above it, None for none."""

    title: str
    rows: Rows
    align: str
    symbols: bool = True
    stage: int | None = None
    at: int = 0


LENGTHS = ("summary", "usual", "all")
"""How much a report holds: duty, verdicts and what governs; what another engineer needs to check it by hand; every entry and value besides."""


def blocks(design: Design, results: Results, system: str = "mm", length: str = "usual") -> Iterator[Block]:
    """The report's content, table by table, in one of the unit systems."""
    if length not in LENGTHS:
        raise ValueError(f"a report of length {length!r} cannot be: there are {', '.join(LENGTHS)}")
    yield from _summary(design, results, system)
    if length == "summary":
        for k, stage in enumerate(design.train.stages):
            rows = _checks(results.checks_of(k), system)
            yield Block(f"{stage.name}: checks", rows, "lllrlrlr", stage=k, at=1)
        yield Block("Notes", _notes(results, loud=True), "ll", symbols=False)
        return
    whole = length == "all"
    train = design.train
    duty = [
        *_inputs(train.duty, system),
        *_inputs(train.defaults, system, whole),
        *_inputs(train.defaults.lubricant, system),
    ]
    yield Block("Duty and train", duty, "lrll")
    if train.duty.spectrum:
        heads, *lines = (line.split("\t") for line in levels_text(train.duty.spectrum).splitlines())
        yield Block("Load spectrum", [tuple(heads), *(tuple(line) for line in lines)], "rrr", symbols=False)
    yield Block("Losses: inputs", list(_inputs(train.losses, system)), "lrll")
    yield Block("The whole train", list(_values(results.train, None, system)), "lrlll")
    if design.names or design.formulas:
        yield Block("Named values and formulas", list({**design.names, **design.formulas}.items()), "ll", symbols=False)
    for k, (stage, values) in enumerate(zip(train.stages, results.stages, strict=True)):
        mesh = stage.meshes[0]
        members = (stage.members[mesh.driver], stage.members[mesh.driven])
        yield Block(f"{stage.name}: inputs of the mesh", list(_inputs(mesh, system, whole)), "lrll", stage=k)
        for i, gear in enumerate(members, 1):
            inputs = [*_inputs(gear, system, whole), *_inputs(gear.flanks, system), *_inputs(gear.material, system)]
            yield Block(f"{stage.name}: inputs of gear {i}, {gear.name}", inputs, "lrll")
        yield Block(f"{stage.name}: checks", _checks(results.checks_of(k), system), "lllrlrlr", at=1)
        yield Block(f"{stage.name}: power", list(_values(values.power, None, system)), "lrlll")
        yield Block(f"{stage.name}: mesh", list(_values(values.mesh, None, system)), "lrlll")
        for i, gear_values in enumerate(values.gears, 1):
            yield Block(
                f"{stage.name}: gear {i}, {members[i - 1].name}", list(_values(gear_values, i, system)), "lrlll"
            )
        for i in (1, 2):
            sheet = [(row.symbol, row.text(system), row.meaning) for row in dimension_rows(design, k, values, i)]
            yield Block(f"{stage.name}: dimension sheet of gear {i}", sheet, "lrl")
        for c in results.checks_of(k):
            chain = why(values, c)
            if chain is None:
                continue
            quotient = f"{chain.bearing[-1].value:.2f} / {chain.acting[-1].value:.2f} = {c.value:.4f}"
            last: Rows = [("against",), *_chain(chain.bearing, system), (plain(c.symbol, c.index), quotient)]
            told = [(text,) for text in beside(values, c, system)]
            rows = [*_chain(chain.acting, system), *last, *told]
            yield Block(f"{stage.name}: {plain(c.symbol, c.index)}, {c.label}, factor chain", rows, "lrlll")
        if whole and values.rated:
            rows = list(loaded_rows(train, results, k, system))
            yield Block(
                f"{stage.name}: teeth under nominal load, models that count in no check", rows, "lrl", symbols=False
            )
    if results.machine is not None:
        yield from _machine(results, results.machine, system)
    yield Block("Notes", _notes(results), "ll", symbols=False)


def _notes(results: Results, loud: bool = False) -> Rows:
    """Warnings first, then what is assumed; of a summary the warnings alone."""
    read = "docs/numbers.md tells of every number by which method it is found, how it is held against other ways, and what is not certain."
    rows: list[tuple[str, ...]] = [("read", read)]
    for note in sorted(results.notes, key=lambda n: not n.loud):
        if loud and not note.loud:
            continue
        where = "" if note.stage is None else f"{results.stages[note.stage].name}: "
        rows.append((note.level, f"{where}{note.text}"))
    return rows


def _summary(design: Design, results: Results, system: str) -> Iterator[Block]:
    """What is wanted, what it became, and what governs, on one page."""

    def shown(value: float, kind: str) -> str:
        return f"{number(value, kind, system)} {screen_unit(KINDS[kind].display_unit(system))}".strip()

    duty, train = design.train.duty, results.train
    rows: list[tuple[str, ...]] = [
        ("in", f"{shown(train.P_in, 'power')}, {shown(train.T_in, 'torque')}, {shown(train.n_in, 'speed')}")
    ]
    if "u" in train:
        wanted = "" if duty.u_wanted is None else f", wanted {duty.u_wanted:g} within {duty.u_tol:g} %"
        rows.append(("ratio", f"{train.u:.5g}{wanted}"))
    rows += [("life", shown(duty.L_h, "time")), ("efficiency", f"{100 * train.eta:.2f} %")]
    for stage, values in zip(design.train.stages, results.stages, strict=True):
        one, two = values.gears
        m = values.mesh
        data = f"z {one.z:g} / {two.z:g}, m_n {shown(m.m_n, 'module')}, beta {m.beta:.4g}°, a_w {shown(m.a_w, 'length')}, b {shown(one.b, 'length')} / {shown(two.b, 'length')}"
        rows.append((stage.name, data))
    for k, stage in enumerate(design.train.stages):
        worst = min(results.checks_of(k), key=lambda c: c.margin)
        rows.append(
            (
                f"{stage.name} is governed by",
                f"{worst.label}, {plain(worst.symbol, worst.index)}: {worst.verdict}, margin {worst.margin:+.1%}",
            )
        )
    loud = len(results.warnings())
    rows.append(("warnings", "none" if not loud else f"{loud}, see Notes"))
    yield Block("Summary", rows, "ll", symbols=False)


def _machine(results: Results, m: MachineFound, system: str) -> Iterator[Block]:
    """Shafts, bearings, joints, the order of failure, and the steps behind each check of the machine."""

    def shown(value: float, kind: str) -> str:
        return f"{number(value, kind, system)} {screen_unit(KINDS[kind].display_unit(system))}".strip()

    for s in m.shafts:
        rows = [
            (p.name, shown(p.start, "length"), shown(p.end, "length"), shown(p.d, "length"), shown(p.r, "length"))
            for p in s.made.pieces
        ]
        heads = ("piece", "from", "to", "diameter", "fillet at its foot")
        yield Block(f"Machine: {s.name}, {s.made.wish.steel.name}", [heads, *rows], "lrrrr", symbols=False)
        of_shaft = [c for c in results.checks if c.part == s.key or c.part.startswith(f"{s.key} ")]
        for c in of_shaft:
            steps = why_machine(m, c.part, c.symbol)
            if steps:
                lines = [(name, shown(value, kind), f"[{source}]") for name, value, kind, source in steps]
                yield Block(f"Machine: {c.label}", lines, "lrl", symbols=False)
    order = [
        (g.label, f"{g.load:.2f}", g.kind, "" if g.life is None else shown(min(g.life, 1e9), "time"))
        for g in order_of_failure(results)
    ]
    yield Block("Machine: order of failure, load over the nominal one", order, "lrll", symbols=False)


def report_text(design: Design, results: Results, system: str = "mm", length: str = "usual") -> str:
    """The report as plain text in one of the unit systems ("mm", "inch")."""
    lines = [_head(design), "=" * WIDTH, _verdict(design, results)]
    for block in blocks(design, results, system, length):
        lines += ["", block.title, "-" * len(block.title), *_columns(block.rows, block.align)]
    return "\n".join(lines) + "\n"


def report_html(design: Design, results: Results, system: str = "mm", length: str = "usual") -> str:
    """The report as one page that needs nothing else: tables, typeset symbols, a drawing of every stage."""
    body = [
        f"<h1>{escape(design.name)}</h1>",
        f"<p class=place>{escape(design.place)}</p>",
        f"<p>{escape(_verdict(design, results))}</p>",
    ]
    for block in blocks(design, results, system, length):
        body.append(f"<h2>{escape(block.title)}</h2>")
        if block.stage is not None:
            svg = pair_svg(design, results.stages[block.stage], block.stage, 0.02)
            body.append(f"<figure>{svg}</figure>")
        body.append("<table>")
        for row in block.rows:
            cells = []
            for n, text in enumerate(row):
                shown = _symbol(text) if block.symbols and n == block.at and len(row) > block.at else escape(text)
                span = f" colspan={len(block.align)}" if len(row) == 1 else ""
                cells.append(f"<td class={block.align[min(n, len(block.align) - 1)]}{span}>{shown}</td>")
            body.append(f"<tr>{''.join(cells)}</tr>")
        body.append("</table>")
    return (
        f"<!doctype html><html lang=en><head><meta charset=utf-8><title>{escape(design.name)}</title>"
        f"<style>{STYLE}</style></head><body>{''.join(body)}</body></html>\n"
    )


STYLE = (
    "body{font:14px/1.4 Lato,sans-serif;color:#22303a;background:#fff;max-width:1000px;margin:2em auto;padding:0 1em}"
    "h1{font-size:24px;margin:0}h2{font-size:16px;color:#a85420;margin:1.6em 0 .3em;border-bottom:1px solid #ddd3c2}"
    ".place{color:#777;margin:0}table{border-collapse:collapse;width:100%}td{padding:1px 10px 1px 0;vertical-align:top}"
    ".r{text-align:right;font-variant-numeric:tabular-nums;white-space:nowrap}sub{font-size:75%}"
    "figure{margin:1em 0}svg{max-width:100%;max-height:360px;height:auto}@media print{h2{break-after:avoid}tr{break-inside:avoid}}"
)


def _symbol(text: str) -> str:
    """A plain symbol with its subscript and Greek letters, signs before it and powers after it kept."""
    sign, _, rest = text.rpartition("× ")
    name, hat, power = rest.partition("^")
    base, index = (
        (name[:-1], name[-1]) if name[-1:] in ("1", "2") and name[:-1].rstrip("_") in QUANTITIES else (name, "")
    )
    symbol = base.rstrip("_") if base.rstrip("_") in QUANTITIES else base
    if symbol not in QUANTITIES:
        return escape(text)
    main, sub = parts(symbol, int(index) if index else None)
    return f"{sign + '× ' if sign else ''}<i>{escape(main)}</i><sub>{escape(sub)}</sub>" + (
        f"<sup>{power}</sup>" if hat else ""
    )


def _head(design: Design) -> str:
    return f"{design.name}" + (f" – {design.place}" if design.place else "")


def _verdict(design: Design, results: Results) -> str:
    return f"Method {design.train.defaults.method}.  Verdict: {results.verdict}."


def checks_text(results: Results, system: str = "mm") -> str:
    """The verdicts alone, stage by stage, worst first, and the warnings."""
    warnings = results.warnings()
    number_of = {0: "no warnings", 1: "1 warning"}.get(len(warnings), f"{len(warnings)} warnings")
    worst = results.worst
    lines = [
        f"{results.name}: {results.verdict}; worst {plain(worst.symbol, worst.index)}, margin {worst.margin:+.1%}; {number_of}"
    ]
    for k, stage in enumerate(results.stages):
        lines += [stage.name, *_columns(_checks(results.checks_of(k), system), "lllrlrlr")]
    for n in warnings:
        where = f"{results.stages[n.stage].name}: " if n.stage is not None and len(results.stages) > 1 else ""
        lines.append(f"warning{f' ({n.counts})' if n.counts else ''}  {where}{n.text}")
    return "\n".join(lines)


def _columns(rows: Rows, align: str) -> Iterator[str]:
    """Rows as lines, each column as wide as its widest cell; the last one and single cells run on."""
    last = len(align) - 1
    widths = [max((len(r[n]) for r in rows if 1 < len(r) > n), default=0) for n in range(last)]
    for row in rows:
        if len(row) == 1:
            yield f"      {row[0]}"
            continue
        cells = [
            (text.rjust(widths[n]) if align[n] == "r" else text.ljust(widths[n])) if n < last else text
            for n, text in enumerate(row)
        ]
        yield ("  " + "  ".join(cells)).rstrip()


def _checks(checks: list[Check], system: str) -> Rows:
    rows: list[tuple[str, ...]] = []
    for c in checks:
        unit = screen_unit(KINDS[c.kind].display_unit(system))
        sign = ">=" if c.sense == "at least" else "<="
        value, limit = number(c.value, c.kind, system), number(c.limit, c.kind, system)
        rows.append((c.verdict, plain(c.symbol, c.index), c.label, value, sign, limit, unit, f"margin {c.margin:+.1%}"))
        if c.verdict == "short":
            rows.append((c.means,))
    return rows


def _inputs(model: BaseModel, system: str, whole: bool = True) -> Iterator[tuple[str, ...]]:
    """What is entered; what is solved or not given is left out, and, unless ``whole``, what stands as it does in every new design."""
    for name, field in type(model).model_fields.items():
        extra: Any = field.json_schema_extra
        value = getattr(model, name)
        if not whole and value == field.default and name not in ALWAYS:
            continue
        if isinstance(value, bool):
            yield name, "yes" if value else "no", "", field.description or ""
        elif isinstance(value, str) and value:
            yield name, value, "", field.description or ""
        elif isinstance(value, int | float) and isinstance(extra, dict) and "symbol" in extra:
            unit = screen_unit(KINDS[extra["kind"]].display_unit(system))
            yield name, number(value, extra["kind"], system), unit, field.description or ""


ALWAYS = (
    "x",
    "alpha_n",
    "beta",
    "h_aP",
    "h_fP",
    "rho_fP",
    "Q",
    "method",
    "S_Hmin",
    "S_Fmin",
    "tool",
    "Rz_H",
    "Rz_F",
    "lubrication",
)
"""What a reader looks for, whatever it is."""


def _values(values: Mapping[str, float], index: int | None, system: str) -> Iterator[tuple[str, ...]]:
    for symbol, value in values.items():
        q = quantity_of(symbol)
        unit = screen_unit(KINDS[q.kind].display_unit(system))
        shown = number(value, q.kind, system, 5 if q.kind == "factor" else None)
        yield plain(symbol, index), shown, unit, q.meaning, f"[{q.source}]"


def _chain(steps: tuple[Step, ...], system: str) -> Iterator[tuple[str, ...]]:
    for s in steps:
        q = QUANTITIES[s.symbol]
        power = "" if s.power in (0, 1) else f"^{s.power:g}"
        sign = "" if s.power == 0 else "× "
        inputs = ", ".join(f"{plain(n, i)} = {number(v, QUANTITIES[n].kind, system)}" for n, i, v in s.inputs)
        unit = screen_unit(KINDS[q.kind].display_unit(system))
        source = "(entered)" if s.entered else f"[{s.source}]"
        shown = f"from {inputs}" if inputs else ""
        formula = f"= {s.formula}" if s.formula else ""
        yield (
            sign + plain(s.symbol, s.index) + power,
            number(s.value, q.kind, system, 4),
            unit,
            source,
            "; ".join(filter(None, (formula, shown))),
        )

"""What a report holds, piece by piece, for checking by hand; as plain text here, as pages in `report_page` and
`report_pdf`."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct
from msgspec.structs import replace

from cooper.document.gear_data import Gear
from cooper.document.models import Design
from cooper.document.quantities import plain
from cooper.document.units import KINDS, number, screen_unit
from cooper.editing.spectrum_text import levels_text
from cooper.exchange.dimension_sheet import dimension_rows
from cooper.exchange.report_loaded import loaded_rows
from cooper.exchange.report_rows import (
    CHECK_HEADS,
    INPUT_HEADS,
    VALUE_HEADS,
    Rows,
    chain_rows,
    check_rows,
    columns,
    input_rows,
    side_by_side,
    value_rows,
)
from cooper.exchange.statement import statement
from cooper.i18n.text import join, term, tr
from cooper.i18n.translate import translate
from cooper.results.calculation import Calculated, calculations
from cooper.results.comparison_notes import all_notes, comparison_notes
from cooper.results.machine_checks import order_of_failure
from cooper.results.machine_result import MachineResult
from cooper.results.machine_why import why_machine
from cooper.results.result_tree import Check, Results
from cooper.results.why import why

WIDTH = 100


class Block(Struct, frozen=True):
    """A titled table of the report; ``align`` has a letter for each column, l or r; ``symbols`` whether column
    ``at`` holds symbols to be typeset; ``heads`` stand above the columns. ``text_only`` marks what pages show in
    another way."""

    title: str
    rows: Rows
    align: str
    symbols: bool = True
    at: int = 0
    heads: tuple[str, ...] = ()
    text_only: bool = False
    pages_only: bool = False


class Heading(Struct, frozen=True):
    """Where a stage or another part begins; ``fresh`` on a page of its own."""

    title: str
    fresh: bool = False


class Picture(Struct, frozen=True):
    """A drawing on pages: by name, of a stage or of a shaft by number where it is of one."""

    name: str
    caption: str
    number: int = 0


class Working(Struct, frozen=True):
    """Formulas with their numbers, on pages."""

    title: str
    rows: tuple[Calculated, ...]


Piece = Block | Heading | Picture | Working


LENGTHS = ("summary", tr("usual"), "all")
"""How much a report holds: duty, verdicts and what governs; what another engineer needs to check it by hand; every
entry and value besides."""


def pieces(design: Design, results: Results, system: str = "mm", length: str = "usual") -> Iterator[Piece]:
    """The report's content in its order, in one of the unit systems and in the language in force."""
    for piece in _pieces(design, results, system, length):
        match piece:
            case Block():
                rows = [tuple(map(translate, row)) for row in piece.rows]
                yield replace(piece, title=translate(piece.title), rows=rows, heads=tuple(map(translate, piece.heads)))
            case Picture():
                yield replace(piece, caption=translate(piece.caption))
            case _:
                yield replace(piece, title=translate(piece.title))


def _pieces(design: Design, results: Results, system: str, length: str) -> Iterator[Piece]:
    if length not in LENGTHS:
        raise ValueError(
            tr(
                "a report of length {length!r} cannot be: there are {lengths}",
                length=length,
                lengths=join(", ", LENGTHS),
            )
        )
    yield from _summary(design, results, system)
    if length == "summary":
        for k in range(len(results.stages)):
            yield _checked(results, k, system)
        yield _checked(results, None, system)
        yield Block(tr("Notes"), _notes(results, prominent=True), "ll", symbols=False)
        return
    yield from _duty(design, results, system, length == "all")
    for k in range(len(results.stages)):
        yield from _stage(design, results, k, system, length == "all")
    yield Heading(tr("Train and machine"), fresh=True)
    yield _checked(results, None, system)
    yield Heading(tr("Losses"))
    yield Picture("losses", tr("Where the power goes"))
    yield Block(tr("Losses: inputs"), list(input_rows(design.train.losses, system)), ENTERED, heads=INPUT_HEADS)
    if results.machine is not None:
        yield from _machine(results, results.machine, system)
    yield Heading(tr("Notes and assumptions"))
    yield Block(tr("Notes"), _notes(results), "ll", symbols=False)


ENTERED, VALUES, CHECKED = "lrll", "lrlll", "lllrlrlr"


def _duty(design: Design, results: Results, system: str, whole: bool) -> Iterator[Piece]:
    train = design.train
    yield Heading(tr("Duty and train"), fresh=True)
    duty = [
        *input_rows(train.duty, system),
        *input_rows(train.defaults, system, whole),
        *input_rows(train.defaults.lubricant, system),
    ]
    yield Block(tr("Duty and train"), duty, ENTERED, heads=INPUT_HEADS)
    if train.duty.spectrum:
        heads, *lines = (tuple(line.split("\t")) for line in levels_text(train.duty.spectrum).splitlines())
        yield Block(tr("Load spectrum"), lines, "rrr", symbols=False, heads=heads)
    yield Block(tr("The whole train"), list(value_rows(results.train, None, system)), VALUES, heads=VALUE_HEADS)
    if design.names or design.formulas:
        yield Block(
            tr("Named values and formulas"), list({**design.names, **design.formulas}.items()), "ll", symbols=False
        )


def _stage(design: Design, results: Results, k: int, system: str, whole: bool) -> Iterator[Piece]:
    """All of one stage."""
    train, stage, values = design.train, design.train.stages[k], results.stages[k]
    mesh = stage.mesh
    members = stage.gears
    yield Heading(stage.name, fresh=True)
    yield Picture(
        "mesh",
        tr("{name} drives {name_2}; path of contact from A to E", name=members[0].name, name_2=members[1].name),
        k,
    )
    yield Block(
        tr("{name}: inputs of the mesh", name=stage.name),
        list(input_rows(mesh, system, whole)),
        ENTERED,
        heads=INPUT_HEADS,
    )
    one, two = ({row[0]: row for row in _gear_inputs(g, system, whole)} for g in members)
    both = [
        (name, one.get(name, ("", ""))[1], two.get(name, ("", ""))[1], *(one.get(name) or two[name])[2:])
        for name in {**one, **two}
    ]
    heads = ("entered", members[0].name, members[1].name, "", "meaning")
    yield Block(tr("{name}: inputs of both gears", name=stage.name), both, "lrrll", heads=heads)
    yield _checked(results, k, system)
    for title, worked in calculations(train, results, k):
        yield Working(tr("{name}: {title}", name=stage.name, title=title), tuple(worked))
    for c in results.checks_of(k):
        chain = why(values, c)
        if chain is None:
            continue
        quotient = tr(
            "{value:.2f} / {value_2:.2f} = {value_3:.4f}",
            value=chain.bearing[-1].value,
            value_2=chain.acting[-1].value,
            value_3=c.value,
        )
        last: Rows = [("against",), *chain_rows(chain.bearing, system), (plain(c.symbol, c.index), quotient)]
        message = [(text,) for text in comparison_notes(values, c, system)]
        chained = [*chain_rows(chain.acting, system), *last, *message]
        title = tr(
            "{name}: {symbol}, {label}, factor chain", name=stage.name, symbol=plain(c.symbol, c.index), label=c.label
        )
        yield Block(title, chained, VALUES, text_only=True)
        if message:
            yield Block(
                tr("{name}: beside {symbol}", name=stage.name, symbol=plain(c.symbol, c.index)),
                message,
                "l",
                symbols=False,
                pages_only=True,
            )
    names = (members[0].name, members[1].name)
    sheets = (
        [(row.symbol, row.text(system), row.meaning) for row in dimension_rows(design, k, values, i)] for i in (1, 2)
    )
    yield Block(
        tr("{name}: dimension sheet of both gears", name=stage.name),
        side_by_side(*sheets),
        "lrrl",
        heads=("", *names, tr("meaning")),
    )
    if not whole:
        return
    yield Block(
        tr("{name}: power", name=stage.name), list(value_rows(values.power, None, system)), VALUES, heads=VALUE_HEADS
    )
    yield Block(
        tr("{name}: mesh", name=stage.name), list(value_rows(values.mesh, None, system)), VALUES, heads=VALUE_HEADS
    )
    gears = (list(value_rows(gear_values, None, system)) for gear_values in values.gears)
    yield Block(
        tr("{name}: both gears", name=stage.name),
        side_by_side(*gears),
        "lrrlll",
        heads=(VALUE_HEADS[0], *names, *VALUE_HEADS[2:]),
    )
    if values.rated:
        rows = list(loaded_rows(train, results, k, system))
        yield Picture("stress", tr("Stress of the true teeth under the nominal load"), k)
        yield Picture("loaded", tr("Pressure, root stress, transmission error and stiffness under that load"), k)
        yield Block(
            tr("{name}: teeth under nominal load, models that count in no check", name=stage.name),
            rows,
            "lrl",
            symbols=False,
        )


def _checked(results: Results, k: int | None, system: str) -> Block:
    """The checks of a stage, or those of train and machine, worst first."""
    result = [c for c in results.checks if (c.part or c.stage is None if k is None else c.stage == k and not c.part)]
    rows = check_rows(sorted(result, key=lambda c: c.margin), system)
    title = tr("Train and machine") if k is None else results.stages[k].name
    return Block(tr("{title}: checks", title=title), rows, CHECKED, at=1, heads=CHECK_HEADS)


def _gear_inputs(gear: Gear, system: str, whole: bool) -> Iterator[tuple[str, ...]]:
    for part in (gear, gear.flanks):
        yield from input_rows(part, system, whole)
    if gear.flanks_left is not None:
        yield from (
            (*row[:-1], tr("left flanks: {row}", row=row[-1])) for row in input_rows(gear.flanks_left, system, whole)
        )
    yield from input_rows(gear.material, system, whole)


def _notes(results: Results, prominent: bool = False) -> Rows:
    """Warnings first, then what is assumed; of a summary the warnings alone."""
    read = tr(
        "docs/numbers.md tells of every number by which method it is found, how it is held against "
        "other ways, and what is not certain."
    )
    rows: list[tuple[str, ...]] = [("read", read)]
    for note in sorted(all_notes(results), key=lambda n: not n.prominent):
        if prominent and not note.prominent:
            continue
        where = "" if note.stage is None else tr("{name}: ", name=results.stages[note.stage].name)
        rows.append((note.level, tr("{where}{text}", where=where, text=note.text)))
    return rows


def _summary(design: Design, results: Results, system: str) -> Iterator[Piece]:
    """What is wanted, what it became, and what governs, on one page."""

    def shown(value: float, kind: str) -> str:
        return tr(
            "{kind} {system}", kind=number(value, kind, system), system=screen_unit(KINDS[kind].display_unit(system))
        ).strip()

    duty, train = design.train.duty, results.train
    rows: list[tuple[str, ...]] = [
        (
            "in",
            tr(
                "{P_in}, {T_in}, {n_in}",
                P_in=shown(train.P_in, "power"),
                T_in=shown(train.T_in, "torque"),
                n_in=shown(train.n_in, "speed"),
            ),
        )
    ]
    if "u" in train:
        wanted = (
            ""
            if duty.u_wanted is None
            else tr(", wanted {u_wanted:g} within {u_tol:g} %", u_wanted=duty.u_wanted, u_tol=duty.u_tol)
        )
        rows.append(("ratio", tr("{u:.5g}{wanted}", u=train.u, wanted=wanted)))
    for out in results.outputs if len(results.outputs) > 1 else ():
        data = tr("{P}, {T}, {n}", P=shown(out.P, "power"), T=shown(out.T, "torque"), n=shown(out.n, "speed"))
        rows.append((tr("out: {name}", name=out.name), data))
    rows += [("life", shown(duty.L_h, "time")), ("efficiency", tr("{eta:.2f} %", eta=100 * train.eta))]
    for stage, values in zip(design.train.stages, results.stages, strict=True):
        one, two = values.gears
        m = values.mesh
        data = tr(
            "z {z:g} / {z_2:g}, m_n {m_n}, beta {beta:.4g}°, a_w {a_w}, b {b} / {b_2}",
            z=one.z,
            z_2=two.z,
            m_n=shown(m.m_n, "module"),
            beta=m.beta,
            a_w=shown(m.a_w, "length"),
            b=shown(one.b, "length"),
            b_2=shown(two.b, "length"),
        )
        rows.append((stage.name, data))
    prominent = len(results.warnings())
    rows.append(("warnings", "none" if not prominent else tr("{count}, see Notes", count=prominent)))
    yield Block(tr("Summary"), rows, "ll", symbols=False)
    governs: list[tuple[str, ...]] = []
    for k, stage in enumerate(design.train.stages):
        own = [c for c in results.checks if c.stage == k and not c.part]
        if own:
            governs.append(_governed(tr("{name} is governed by", name=stage.name), min(own, key=lambda c: c.margin)))
    for words, rest in (
        (tr("the train is governed by"), [c for c in results.checks if c.stage is None and not c.part]),
        (tr("what stands around the gears is governed by"), [c for c in results.checks if c.part]),
    ):
        if rest:
            governs.append(_governed(words, min(rest, key=lambda c: c.margin)))
    yield Block(tr("What governs"), governs, "ll", symbols=False)
    yield Picture("train", tr("The train in end view"))
    yield Picture("margins", tr("Margins of all checks, the least first"))


def _governed(of: str, worst: Check) -> tuple[str, str]:
    return of, tr(
        "{label}, {symbol}: {verdict}, margin {margin:+.1%}",
        label=worst.label,
        symbol=plain(worst.symbol, worst.index),
        verdict=term(worst.verdict),
        margin=worst.margin,
    )


def _machine(results: Results, m: MachineResult, system: str) -> Iterator[Piece]:
    """Shafts, bearings, joints, the order of failure, and the steps behind each check of the machine."""

    def shown(value: float, kind: str) -> str:
        return tr(
            "{kind} {system}", kind=number(value, kind, system), system=screen_unit(KINDS[kind].display_unit(system))
        ).strip()

    yield Heading(tr("Around the gears"))
    for n, s in enumerate(m.shafts):
        yield Picture("shaft", tr("{name} in axial section", name=s.name), n)
        rows = [
            (p.name, shown(p.start, "length"), shown(p.end, "length"), shown(p.d, "length"), shown(p.r, "length"))
            for p in s.made.pieces
        ]
        heads = ("piece", "from", "to", "diameter", tr("fillet at its foot"))
        yield Block(
            tr("Machine: {name}, {name_2}", name=s.name, name_2=s.made.wish.steel.name),
            rows,
            "lrrrr",
            symbols=False,
            heads=heads,
        )
        of_shaft = [c for c in results.checks if c.part == s.key or c.part.startswith(f"{s.key} ")]
        for c in of_shaft:
            steps = why_machine(m, c.part, c.symbol)
            if steps:
                lines = [(name, shown(value, kind), f"[{source}]") for name, value, kind, source in steps]
                yield Block(tr("Machine: {label}", label=c.label), lines, "lrl", symbols=False)
    order = [
        (g.label, tr("{load:.2f}", load=g.load), g.kind, "" if g.life is None else shown(min(g.life, 1e9), "time"))
        for g in order_of_failure(results)
    ]
    title = tr("Machine: order of failure, load over the nominal one")
    yield Block(title, order, "lrll", symbols=False, heads=(tr("part"), tr("load"), tr("how"), tr("life")))


def report_text(design: Design, results: Results, system: str = "mm", length: str = "usual") -> str:
    """The report as plain text in one of the unit systems ("mm", "inch")."""
    lines = [head_line(design), "=" * WIDTH, verdict_line(design, results), statement(design)]
    for piece in pieces(design, results, system, length):
        if isinstance(piece, Block) and piece.rows and not piece.pages_only:
            above = [piece.heads] if any(piece.heads) and not piece.symbols else []
            lines += ["", piece.title, "-" * len(piece.title), *columns([*above, *piece.rows], piece.align)]
    return join("\n", lines) + "\n"


def head_line(design: Design) -> str:
    """Name and place of a design."""
    return f"{design.name}" + (tr(" – {place}", place=design.place) if design.place else "")


def verdict_line(design: Design, results: Results) -> str:
    """Method and verdict in a sentence."""
    return tr(
        "Method {method}.  Verdict: {verdict}.", method=design.train.defaults.method, verdict=term(results.verdict)
    )


def checks_text(results: Results, system: str = "mm") -> str:
    """The verdicts alone, stage by stage, worst first, and the warnings."""
    warnings = results.warnings()
    number_of = {0: tr("no warnings"), 1: tr("1 warning")}.get(len(warnings), f"{len(warnings)} warnings")
    worst = results.worst
    text = tr(
        "{verdict}; worst {symbol}, margin {margin:+.1%}; {number_of}",
        verdict=term(results.verdict),
        symbol=plain(worst.symbol, worst.index),
        margin=worst.margin,
        number_of=number_of,
    )
    lines = [tr("{name}: {told}", name=results.name, told=text)]
    for k, stage in enumerate(results.stages):
        rows = [tuple(map(translate, row)) for row in check_rows(results.checks_of(k), system)]
        lines += [stage.name, *columns(rows, "lllrlrlr")]
    for n in warnings:
        where = (
            tr("{name}: ", name=results.stages[n.stage].name) if n.stage is not None and len(results.stages) > 1 else ""
        )
        lines.append(
            tr(
                "{level}{counts}  {where}{text}",
                level=tr("warning"),
                counts=tr(" ({counts})", counts=term(n.counts)) if n.counts else "",
                where=where,
                text=n.text,
            )
        )
    return join("\n", lines)

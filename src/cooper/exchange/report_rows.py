"""The rows of a report's tables: inputs, values, checks, chains; and how a table of text is set."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from cooper.document.base import Model, default_of, rules_of
from cooper.document.quantities import QUANTITIES, plain, quantity_of
from cooper.document.units import KINDS, number, screen_unit
from cooper.i18n.text import join, term, tr
from cooper.results.result_tree import Check
from cooper.results.why import Step

Rows = Sequence[tuple[str, ...]]


INPUT_HEADS = ("entered", "", "", "meaning")


VALUE_HEADS = ("", tr("value"), "", "meaning", "source")


CHECK_HEADS = (tr("verdict"), "", "check", tr("value"), "", "required", "", tr("margin"))


def side_by_side(one: Rows, two: Rows) -> Rows:
    """Rows of two gears as one: symbol, value of the one, value of the other, what else stands there.

    >>> side_by_side([("z", "17", "teeth"), ("x", "0.3", "shift")], [("z", "41", "teeth"), ("b", "20", "width")])
    [('z', '17', '41', 'teeth'), ('b', '', '20', 'width'), ('x', '0.3', '', 'shift')]
    """
    values = [{(r[0], *r[2:]): r[1] for r in rows} for rows in (one, two)]
    keys, at = list(values[0]), 0
    for key in values[1]:
        if key in values[0]:
            at = keys.index(key) + 1
            continue
        # What the other gear alone has stands where it would stand there, behind what goes by the same symbol.
        while at < len(keys) and keys[at][0] == key[0]:
            at += 1
        keys.insert(at, key)
        at += 1
    return [(key[0], *(v.get(key, "") for v in values), *key[1:]) for key in keys]


def columns(rows: Rows, align: str) -> Iterator[str]:
    """Rows as lines, each column as wide as its widest cell; the last one and single cells run on."""
    last = len(align) - 1
    widths = [max((len(r[n]) for r in rows if 1 < len(r) > n), default=0) for n in range(last)]
    for row in rows:
        if len(row) == 1:
            yield tr("      {row}", row=row[0])
            continue
        cells = [
            (text.rjust(widths[n]) if align[n] == "r" else text.ljust(widths[n])) if n < last else text
            for n, text in enumerate(row)
        ]
        yield ("  " + join("  ", cells)).rstrip()


def check_rows(checks: list[Check], system: str) -> Rows:
    rows: list[tuple[str, ...]] = []
    for c in checks:
        unit = screen_unit(KINDS[c.kind].display_unit(system))
        sign = ">=" if c.sense == "at least" else "<="
        value, limit = number(c.value, c.kind, system), number(c.limit, c.kind, system)
        rows.append(
            (
                term(c.verdict),
                plain(c.symbol, c.index),
                c.label,
                value,
                sign,
                limit,
                unit,
                tr("margin {margin:+.1%}", margin=c.margin),
            )
        )
        if c.verdict == "short":
            rows.append((c.means,))
    return rows


def input_rows(model: Model, system: str, whole: bool = True) -> Iterator[tuple[str, ...]]:
    """What is entered; what is solved or not given is left out, and, unless ``whole``, what stands as it does in
    every new design."""
    for name, rule in rules_of(type(model)).items():
        extra = rule.extra_json_schema or {}
        value = getattr(model, name)
        if name in ("id", "name") or (not whole and value == default_of(type(model), name) and name not in ALWAYS):
            continue
        if isinstance(value, bool):
            yield name, tr("yes") if value else tr("no"), "", term(rule.description or "")
        elif isinstance(value, str) and value:
            yield name, value, "", term(rule.description or "")
        elif isinstance(value, int | float) and "symbol" in extra:
            unit = screen_unit(KINDS[extra["kind"]].display_unit(system))
            yield name, number(value, extra["kind"], system), unit, term(rule.description or "")


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
    tr("lubrication"),
)
"""What a reader looks for, whatever it is."""


def value_rows(values: Mapping[str, float], index: int | None, system: str) -> Iterator[tuple[str, ...]]:
    for symbol, value in values.items():
        q = quantity_of(symbol)
        unit = screen_unit(KINDS[q.kind].display_unit(system))
        shown = number(value, q.kind, system, 5 if q.kind == "factor" else None)
        yield plain(symbol, index), shown, unit, q.meaning, f"[{q.source}]"


def chain_rows(steps: tuple[Step, ...], system: str) -> Iterator[tuple[str, ...]]:
    for s in steps:
        q = QUANTITIES[s.symbol]
        power = "" if s.power in (0, 1) else tr("^{power:g}", power=s.power)
        sign = "" if s.power == 0 else "× "
        inputs = join(", ", (f"{plain(n, i)} = {number(v, QUANTITIES[n].kind, system)}" for n, i, v in s.inputs))
        unit = screen_unit(KINDS[q.kind].display_unit(system))
        source = "(entered)" if s.entered else f"[{s.source}]"
        shown = tr("from {inputs}", inputs=inputs) if inputs else ""
        formula = f"= {s.formula}" if s.formula else ""
        yield (
            sign + plain(s.symbol, s.index) + power,
            number(s.value, q.kind, system, 4),
            unit,
            source,
            join("; ", filter(None, (formula, shown))),
        )

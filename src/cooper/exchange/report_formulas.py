"""The lines of a calculation: formula, numbers, result with its unit, for each gear; in the language of a setter."""

from __future__ import annotations

from collections.abc import Callable

from cooper.document.quantities import QUANTITIES
from cooper.document.units import KINDS, convert, screen_unit
from cooper.exchange.formula_setting import Setting, figures
from cooper.i18n.text import tr
from cooper.results.calculation import Calculated
from cooper.results.printed_formulas import Names


def result_of(symbol: str, value: float, setting: Setting, system: str) -> list[str]:
    """A value with its unit, and in inch the value there too."""
    kind = KINDS[QUANTITIES[symbol].kind]
    to = setting.to

    def shown(v: float, unit: str) -> list[str]:
        text = screen_unit(unit)
        if text in ("°", "′", "%"):
            return [to.number(f"{figures(v)}°") if text == "°" else to.row((to.number(figures(v)), to.words(text)))]
        if text.startswith("√"):
            return [to.number(figures(v)), to.mark(" "), to.root(2, to.words(text[1:]))]
        return [to.number(figures(v)), *([to.mark(" "), to.words(text)] if text else [])]

    if kind.name == "share":
        return [to.number(figures(100 * value)), to.words("%")]
    result = shown(value, kind.document)
    other = kind.display_unit(system)
    if system != "mm" and other != kind.document and screen_unit(other) != screen_unit(kind.document):
        result += [to.mark("="), *shown(convert(value, kind.document, other), other)]
    return result


LONG = 52
"""Characters of a formula from which its numbers stand on a line of their own."""


def lines_of(one: Calculated, setting_of: Callable[[Names], Setting], system: str) -> list[list[str]]:
    """Lines of pieces, to be put in rows by the setter."""
    lines: list[list[str]] = []
    told_before: dict[str, float] = {}
    before = ""
    for n, fill in enumerate(one.fills):
        setting = setting_of(fill.names)
        to = setting.to
        symbol, equals = setting.symbol(one.symbol), to.mark("=")
        result = result_of(one.symbol, fill.value, setting, system)
        case = fill.case
        if case is None or _is_number(case.written.text):
            message = (
                [to.mark(" "), to.words(tr(" ({told})", told=case.written.told))] if case and case.written.told else []
            )
            if n and lines and one.fills[n - 1].case is None and case is None:
                # Values from a table or the geometry stand side by side.
                lines[-1] += [to.mark(","), to.mark(" "), to.mark(" "), symbol, equals, *result]
            else:
                lines.append([symbol, equals, *result, *message])
            continue
        written = case.written
        filled_in = setting.filled(written.text, case.locals)
        if n and filled_in == before:
            lines[-1] += [to.mark(","), to.mark(" "), to.mark(" "), symbol, equals, *result]
            continue
        before = filled_in
        for name, text in written.where.items():
            if told_before.get(name) == case.locals[name]:
                continue
            told_before[name] = case.locals[name]
            line = [setting.symbol(name), equals]
            if not _is_number(text):
                if n == 0:
                    line += [setting.formula(text), equals]
                    if len(text) > LONG:
                        lines.append(line[:-1])
                        line = [setting.symbol(name), equals]
                line += [setting.filled(text, case.locals), equals]
            lines.append([*line, to.number(figures(case.locals[name]))])
        filled = [filled_in, equals, *result]
        # The second gear's formula is that of the first.
        if n and one.fills[0].case is not None and one.fills[0].case.written == written:
            lines.append([symbol, equals, *filled])
        elif len(written.text) > LONG:
            lines += [[symbol, equals, setting.formula(written.text)], [symbol, equals, *filled]]
        else:
            lines.append([symbol, equals, setting.formula(written.text), equals, *filled])
    return lines


def _is_number(text: str) -> bool:
    return text.replace(".", "").isdigit()

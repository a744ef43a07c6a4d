"""Formulas set as mathematics: for the typesetter of the PDF, and as MathML for pages; with symbols, or with the
numbers put in."""

from __future__ import annotations

import ast
from collections.abc import Callable, Sequence
from html import escape
from typing import Any, Protocol

from msgspec import Struct

from cooper.document.quantities import parts
from cooper.i18n.translate import with_mark
from cooper.results.printed_formulas import OWN_NAMES, parsed

SUM, PRODUCT, SIGN, POWER, ATOM = 1, 2, 3, 4, 5
"""How tightly the parts of a formula hold together."""
WORDS = {"asin": "arcsin", "acos": "arccos", "atan": "arctan"}


class Setter(Protocol):
    """How pieces of a formula are put together in one language."""

    def number(self, text: str) -> str: ...
    def symbol(self, main: str, sub: str) -> str: ...
    def mark(self, text: str) -> str: ...
    def row(self, pieces: Sequence[str]) -> str: ...
    def fraction(self, over: str, under: str) -> str: ...
    def power(self, base: str, exponent: str) -> str: ...
    def root(self, degree: int, inside: str) -> str: ...
    def bracketed(self, inside: str) -> str: ...
    def upright(self, word: str) -> str: ...
    def words(self, text: str) -> str: ...


class Typst:
    """The PDF's typesetter."""

    def number(self, text: str) -> str:
        mantissa, _, exponent = text.partition("e")
        shown = f'"{with_mark(mantissa)}"'
        return f"{shown} dot 10^({int(exponent)})" if exponent else shown

    def symbol(self, main: str, sub: str) -> str:
        if main.startswith("√"):
            return self.root(2, self.symbol(main[1:], sub))
        base = main if len(main) == 1 else f'italic("{main}")'
        return f'{base}_"{sub}"' if sub else base

    def mark(self, text: str) -> str:
        return {
            "·": "dot",
            "−": "-",
            " ": "thin",
            "≥": ">=",
            "≤": "<=",
            "°": '"°"',
            "=": "=",
            ",": "\\,",
            "±": "plus.minus",
        }.get(text, text)

    def row(self, pieces: Sequence[str]) -> str:
        return " ".join(pieces)

    def fraction(self, over: str, under: str) -> str:
        return f"frac({over}, {under})"

    def power(self, base: str, exponent: str) -> str:
        return f"{base}^({exponent})"

    def root(self, degree: int, inside: str) -> str:
        return f"sqrt({inside})" if degree == 2 else f"root({degree}, {inside})"

    def bracketed(self, inside: str) -> str:
        return f"lr(({inside}))"

    def upright(self, word: str) -> str:
        return f'op("{word}")'

    def words(self, text: str) -> str:
        return '"' + text.replace("\\", "").replace('"', "″") + '"'


class MathML:
    """Pages."""

    def number(self, text: str) -> str:
        mantissa, _, exponent = text.partition("e")
        shown = f"<mn>{with_mark(mantissa).replace('-', '−')}</mn>"
        return f"{shown}<mo>·</mo><msup><mn>10</mn><mn>{int(exponent)}</mn></msup>" if exponent else shown

    def symbol(self, main: str, sub: str) -> str:
        if main.startswith("√"):
            return self.root(2, self.symbol(main[1:], sub))
        base = f"<mi>{escape(main)}</mi>"
        return f"<msub>{base}<mtext>{escape(sub)}</mtext></msub>" if sub else base

    def mark(self, text: str) -> str:
        return "<mspace width='.17em'/>" if text == " " else f"<mo>{escape(text)}</mo>"

    def row(self, pieces: Sequence[str]) -> str:
        return f"<mrow>{''.join(pieces)}</mrow>"

    def fraction(self, over: str, under: str) -> str:
        return f"<mfrac><mrow>{over}</mrow><mrow>{under}</mrow></mfrac>"

    def power(self, base: str, exponent: str) -> str:
        return f"<msup><mrow>{base}</mrow><mrow>{exponent}</mrow></msup>"

    def root(self, degree: int, inside: str) -> str:
        return f"<msqrt>{inside}</msqrt>" if degree == 2 else f"<mroot><mrow>{inside}</mrow><mn>{degree}</mn></mroot>"

    def bracketed(self, inside: str) -> str:
        return f"<mrow><mo>(</mo>{inside}<mo>)</mo></mrow>"

    def upright(self, word: str) -> str:
        return f"<mi mathvariant='normal'>{escape(word)}</mi>"

    def words(self, text: str) -> str:
        return f"<mtext>{escape(text)}</mtext>"


class Inline(MathML):
    """Where mathematics cannot be set: on one line, with italic letters and true subscripts."""

    def number(self, text: str) -> str:
        mantissa, _, exponent = text.partition("e")
        return f"{mantissa}·10<sup>{exponent}</sup>" if exponent else mantissa

    def symbol(self, main: str, sub: str) -> str:
        return f"<i>{escape(main)}</i>" + (f"<sub>{escape(sub)}</sub>" if sub else "")

    def mark(self, text: str) -> str:
        return {" ": "&nbsp;", ",": ", "}.get(text, f" {escape(text)} ") if text != "°" else "°"

    def row(self, pieces: Sequence[str]) -> str:
        return "".join(pieces)

    def fraction(self, over: str, under: str) -> str:
        return f"{self._held(over)} / {self._held(under)}"

    def power(self, base: str, exponent: str) -> str:
        return f"{base}<sup>{exponent}</sup>"

    def root(self, degree: int, inside: str) -> str:
        return f"{'√' if degree == 2 else '∛'}({inside})"

    def bracketed(self, inside: str) -> str:
        return f"({inside})"

    def upright(self, word: str) -> str:
        return word

    def words(self, text: str) -> str:
        return escape(text)

    def _held(self, text: str) -> str:
        return f"({text})" if "&nbsp;" in text or " " in text.strip() else text


class Scope(Protocol):
    """What is known of the names of a formula."""

    def split(self, name: str) -> tuple[str, int | None]: ...
    def value(self, name: str) -> Any: ...
    def kind(self, name: str) -> str: ...


class NoScope:
    """Names of no design in particular: 1 is the pinion, 2 the wheel, what has no number is the gear's own."""

    def split(self, name: str) -> tuple[str, int | None]:
        symbol, _, whose = name.partition("__")
        return symbol, {"1": 1, "p": 1, "2": 2, "w": 2, "m": 2}.get(whose)

    def value(self, name: str) -> Any:
        raise KeyError(name)

    def kind(self, name: str) -> str:
        return "factor"


def figures(value: float, digits: int = 5) -> str:
    """A number with so many figures that count, small and great ones with a power of ten.

    >>> figures(3.421053), figures(255600000.0), figures(0.00404), figures(20.0)
    ('3.4211', '2.556e8', '0.00404', '20')
    """
    if 1e5 <= abs(value) < 1e6:
        return f"{value:.0f}"
    mantissa, _, exponent = f"{value:.{digits}g}".partition("e")
    return f"{mantissa}e{int(exponent)}" if exponent else mantissa


class Setting(Struct, frozen=True):
    """Sets formulas of one scope of names."""

    names: Scope
    to: Setter

    def symbol(self, name: str) -> str:
        """A name as it is shown: with the number of its gear where it is one gear's."""
        symbol, gear = self.names.split(name)
        if symbol in OWN_NAMES:
            return self.to.symbol(*OWN_NAMES[symbol][0])
        return self.to.symbol(*parts(symbol, gear))

    def formula(self, text: str) -> str:
        """With symbols."""
        return self._set(parsed(text), lambda name: (self.symbol(name), ATOM), spaced=True)[0]

    def filled(self, text: str, own: dict[str, float]) -> str:
        """With numbers; those of ``own`` names before all others."""

        def shown(name: str) -> tuple[str, int]:
            value = float(own[name] if name in own else self.names.value(name))
            text = figures(value)
            number = self.to.number(f"{text}°" if self.names.kind(name) == "angle" else text)
            return number, SUM if value < 0 else PRODUCT if "e" in text else ATOM

        return self._set(parsed(text), shown, spaced=False)[0]

    def _set(self, node: ast.expr, leaf: Callable[[str], tuple[str, int]], spaced: bool) -> tuple[str, int]:
        to = self.to

        def of(part: ast.expr, least: int = 0) -> str:
            shown, holds = self._set(part, leaf, spaced)
            return to.bracketed(shown) if holds < least else shown

        match node:
            case ast.Constant(value=float() | int() as value):
                return to.number(figures(value, 6)), ATOM
            case ast.Name(id="pi"):
                return to.symbol("π", ""), ATOM
            case ast.Name(id=name):
                return leaf(name)
            case ast.UnaryOp(operand=operand):
                return to.row((to.mark("−"), of(operand, PRODUCT))), SIGN
            case ast.BinOp(left=left, op=ast.Add() | ast.Sub() as op, right=right):
                sign = "+" if isinstance(op, ast.Add) else "−"
                return to.row((of(left, SUM), to.mark(sign), of(right, PRODUCT))), SUM
            case ast.BinOp(left=left, op=ast.Mult(), right=right):
                # Numbers are parted by a dot, symbols stand side by side.
                apart = "·" if not spaced or isinstance(right, ast.Constant) or _begins_with_number(right) else " "
                return to.row((of(left, PRODUCT), to.mark(apart), of(right, SIGN if spaced else POWER))), PRODUCT
            case ast.BinOp(left=left, op=ast.Div(), right=right):
                return to.fraction(of(left), of(right)), POWER
            case ast.BinOp(left=ast.Call(func=ast.Name(id=word), args=[inside]), op=ast.Pow(), right=right) if word in (
                "sin",
                "cos",
                "tan",
            ):
                head = to.power(to.upright(word), of(right))
                return to.row((head, to.mark(" "), of(inside, ATOM))), POWER
            case ast.BinOp(left=left, op=ast.Pow(), right=right):
                # A fraction is raised in brackets.
                low = isinstance(left, ast.BinOp) or (
                    not spaced and isinstance(left, ast.Name) and self.names.kind(left.id) == "angle"
                )
                base = to.bracketed(of(left)) if low else of(left, ATOM)
                return to.power(base, of(right)), POWER
            case ast.Call(func=ast.Name(id="sqrt"), args=[inside]):
                return to.root(2, of(inside)), ATOM
            case ast.Call(func=ast.Name(id="cbrt"), args=[inside]):
                return to.root(3, of(inside)), ATOM
            case ast.Call(func=ast.Name(id="abs"), args=[inside]):
                return to.row((to.mark("|"), of(inside), to.mark("|"))), ATOM
            case ast.Call(func=ast.Name(id=word), args=[inside]):
                shown = of(inside, ATOM)
                if not isinstance(inside, ast.Name | ast.Constant):
                    shown = to.bracketed(of(inside))
                return to.row((to.upright(WORDS.get(word, word)), to.mark(" "), shown)), POWER
            case ast.Call(func=ast.Name(id=word), args=args):
                pieces = [of(args[0])]
                for one in args[1:]:
                    pieces += [to.mark(","), to.mark(" "), of(one)]
                return to.row((to.upright(word), to.bracketed(to.row(pieces)))), ATOM
        raise ValueError(f"{ast.unparse(node)} is no part of a formula")


def _begins_with_number(node: ast.expr) -> bool:
    while isinstance(node, ast.BinOp) and not isinstance(node.op, ast.Div):
        node = node.left
    return isinstance(node, ast.Constant)

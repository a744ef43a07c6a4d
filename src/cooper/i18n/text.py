"""A text of the program: an English string that keeps its template and values, so that it can be shown in another
language.

Only such texts are translated. A plain `str` – a name, a part number, a path – passes through every output as it is.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from functools import lru_cache
from string import Formatter
from typing import Any

Show = Callable[[Any, str, str], str]
"""How a value is set into a gap: value, conversion (``r``, ``c``, ``t`` or empty), format with the unit behind it."""

_PARSE = Formatter()
_UNIT = re.compile(r"^([^ ]*) (.+)$", re.S)


@lru_cache(maxsize=8192)
def gaps_of(template: str) -> tuple[tuple[str, str | None, str, str], ...]:
    """The parts of a template: literal text, then name, format and conversion of the gap behind it.

    >>> gaps_of("d_a is {d_a:.3f mm}.")
    (('d_a is ', 'd_a', '.3f mm', ''), ('.', None, '', ''))
    """
    parts, place = [], 0
    for literal, name, spec, conversion in _PARSE.parse(template):
        if name == "":
            name, place = str(place), place + 1
        parts.append((literal, name, spec or "", conversion or ""))
    return tuple(parts)


def units_of(template: str) -> dict[str, str]:
    """The units of a template's gaps by name; a gap without a unit has an empty one.

    >>> units_of("{Q} and {b:g mm}")
    {'Q': '', 'b': 'mm'}
    """
    result = {}
    for _, name, spec, _ in gaps_of(template):
        if name is not None:
            unit = _UNIT.match(spec)
            result[name] = unit[2] if unit else ""
    return result


def with_ellipses(template: str) -> str:
    """The text of a template with … for what is put in.

    >>> with_ellipses("d_a is {d_a:.3f mm}.")
    'd_a is ….'
    """
    return _made(template, _Ellipses())


class _Ellipses(dict[str, Any]):
    """Values of which each is an ellipsis."""

    def __missing__(self, key: str) -> Any:
        return _ELLIPSIS


class _Ellipsis:
    def __format__(self, spec: str) -> str:
        return "…"

    def __str__(self) -> str:
        return "…"


_ELLIPSIS = _Ellipsis()


_SIGNS = {"um": " µm", "m2": " m²", "deg": "°", "°": "°"}
"""Units of the document that are shown by a sign, with the blank before it."""


def shown_unit(unit: str) -> str:
    """A unit of the document as it stands behind a number, with the blank before it.

    >>> shown_unit("um"), shown_unit("mm"), shown_unit("deg")
    (' µm', ' mm', '°')
    """
    return _SIGNS.get(unit, f" {unit}") if unit else ""


def plain_value(value: Any, conversion: str, spec: str) -> str:
    """A value as it stands in English with a decimal point.

    >>> plain_value(12.34567, "", ".3f mm"), plain_value("a", "r", "")
    ('12.346 mm', "'a'")
    >>> plain_value(3.0, "", "g um"), plain_value(20.0, "", ".1f deg")
    ('3 µm', '20.0°')
    """
    if conversion:
        value = converted(value, conversion)
    unit = _UNIT.match(spec) if " " in spec else None
    if unit is None:
        return format(value, spec)
    shown = format(value, unit[1])
    return shown if value is _ELLIPSIS else shown + shown_unit(unit[2])


def converted(value: Any, conversion: str) -> str:
    """A value as it is quoted (``r``), with a capital at its beginning (``c``), or without blanks at its ends
    (``t``)."""
    text = str(value)
    if conversion == "t":
        return text.strip()
    return repr(text) if conversion == "r" else text[:1].upper() + text[1:]


def fill(template: str, values: Mapping[str, Any], show: Show = plain_value) -> str:
    """A template with its values; a format may itself have gaps, as ``{x:.{digits}f}``."""
    out = []
    for literal, name, spec, conversion in gaps_of(template):
        out.append(literal)
        if name is not None:
            out.append(show(values[name], conversion, fill(spec, values) if "{" in spec else spec))
    return "".join(out)


class Text(str):
    """A text of the program. As a string it is English with a decimal point; ``template`` and ``values`` are what it
    is made of.

    ``values`` is None for a text without gaps, whose braces then mean themselves.
    """

    __slots__ = ("template", "values")
    template: str
    values: dict[str, Any] | None

    def __reduce__(self) -> tuple[Any, ...]:
        return _made, (self.template, self.values)

    def __add__(self, other: str) -> str:
        return tr("{0}{1}", self, other) if other else self

    def strip(self, chars: str | None = None, /) -> str:
        """Without blanks at its ends, in whatever language."""
        bare = super().strip(chars)
        return self if bare == self else tr("{0!t}", self)

    def __radd__(self, other: str) -> str:
        return tr("{0}{1}", other, self) if other else self


class Figure(Text):
    """A number that has been formatted: shown with the decimal mark in force."""

    __slots__ = ()

    def __reduce__(self) -> tuple[Any, ...]:
        return figure, (str(self),)


def figure(digits: str) -> str:
    """A number that has been formatted with a point, to be shown with the decimal mark in force."""
    made = Figure(digits)
    made.template, made.values = digits, None
    return made


def _made(template: str, values: dict[str, Any] | None) -> Text:
    text = Text(template if values is None else fill(template, values))
    text.template, text.values = template, values
    return text


def tr(template: str, /, *places: Any, **values: Any) -> str:
    """Mark a text for translation where it arises; what comes back is a `Text`. Gaps are named, or numbered for
    ``places``; a format may have a unit behind it.

    >>> tr("The root is rated {share:.0f %} higher.", share=12.3)
    'The root is rated 12 % higher.'
    """
    if places:
        values.update((str(n), value) for n, value in enumerate(places))
    return _made(template, values or None)


def term(word: str) -> str:
    """A word of the program that is held in a variable: a choice, a name from the data files. Never one that a
    person typed."""
    return word if isinstance(word, Text) else _made(word, None)


def capital(text: str) -> str:
    """A text with a capital at its beginning, in whatever language.

    >>> capital(term("steel"))
    'Steel'
    """
    return tr("{0!c}", text)


def join(separator: str, parts: Iterable[str]) -> str:
    """Parts in a row, each translated by itself.

    >>> join(", ", ["a", "b"])
    'a, b'
    """
    listed = list(parts)
    if isinstance(separator, Text):
        listed = [one for part in listed for one in (separator, part)][1:]
        separator = ""
    mark = separator.replace("{", "{{").replace("}", "}}")
    return tr(mark.join(f"{{{n}}}" for n in range(len(listed))), *listed)


def values_of(text: str) -> dict[str, Any]:
    """The values in a text, by name; none in what is no `Text`."""
    return (text.values or {}) if isinstance(text, Text) else {}


def plain_values(text: str) -> dict[str, Any]:
    """The values of a text for other programs: numbers, or words in English."""
    return {name: _plain(value) for name, value in values_of(text).items()}


def _plain(value: Any) -> Any:
    if isinstance(value, str):
        return str(value)
    return value.item() if hasattr(value, "item") else value

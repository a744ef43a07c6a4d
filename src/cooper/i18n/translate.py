"""The language and the decimal mark in force, and texts as they are shown in them: gettext catalogues, numbers by
locale."""

from __future__ import annotations

import gettext
import os
import re
from functools import cache, lru_cache
from importlib.resources import files
from pathlib import Path
from typing import Any, overload

from msgspec import Struct

from cooper.i18n.text import Figure, Text, converted, fill, plain_value

PLAIN = ("en", ".")
"""Language and mark in which texts stay as they are made."""
DOMAIN = "cooper"
TOLD = "COOPER_SPEAKS"
"""Variable of the environment that hands language and mark to a process that is started."""


class _Now(Struct):
    """The language and the decimal mark in force."""

    language: str = "en"
    mark: str = "."
    catalogue: gettext.NullTranslations = gettext.NullTranslations()


_NOW = _Now()


def locale_folder() -> Path:
    """The folder of the catalogues."""
    return Path(str(files("cooper.i18n"))) / "locale"


@cache
def languages() -> dict[str, str]:
    """Every language with a catalogue by its code, each in its own words; a further one is a further file."""
    result = {"en": "English"}
    for file in sorted(locale_folder().glob(f"*/LC_MESSAGES/{DOMAIN}.mo")):
        code = file.parent.parent.name
        result[code] = _catalogue(code).gettext(result["en"])
    return result


@lru_cache(maxsize=4)
def _catalogue(language: str) -> gettext.GNUTranslations:
    with (locale_folder() / language / "LC_MESSAGES" / f"{DOMAIN}.mo").open("rb") as file:
        return gettext.GNUTranslations(file)


def set_language(language: str = "en", mark: str = ".") -> None:
    """Show everything in a language and with a decimal mark from now on; raises ValueError for a language without a
    catalogue."""
    if language not in languages():
        raise ValueError(f"there is no catalogue for {language!r}: there are {', '.join(languages())}")
    _NOW.language, _NOW.mark = language, mark
    _NOW.catalogue = gettext.NullTranslations() if language == "en" else _catalogue(language)


def language_in_force() -> tuple[str, str]:
    """The language and the decimal mark in force."""
    return _NOW.language, _NOW.mark


def inherit_language() -> None:
    """Take the language and the mark of the process that started this one."""
    text = os.environ.get(TOLD, "")
    if text[:-1] in languages() and text[-1] in ".,":
        set_language(text[:-1], text[-1])


def language_for_children() -> str:
    """The language and the mark in force for `TOLD`; empty for English with a point."""
    return "" if (_NOW.language, _NOW.mark) == PLAIN else _NOW.language + _NOW.mark


@overload
def translate(text: str) -> str: ...
@overload
def translate(text: list[str]) -> list[str]: ...
@overload
def translate(text: Any) -> Any: ...
def translate(text: Any) -> Any:
    """A text as it is shown, or each of a list; what is not a `Text` is shown as it is.

    >>> from cooper.i18n.text import tr
    >>> set_language("en", ","); translate(tr("{x:.2f mm} by {part}", x=1.5, part="4711.25")), translate("4711.25")
    ('1,50 mm by 4711.25', '4711.25')
    >>> set_language()
    """
    if not isinstance(text, Text):
        return [translate(t) for t in text] if isinstance(text, list) else text
    if (_NOW.language, _NOW.mark) == PLAIN:
        return str(text)
    if isinstance(text, Figure):
        return with_mark(text)
    template = text.template
    if _NOW.language != "en" and template:
        template = _NOW.catalogue.gettext(template)
    template = _with_own_numbers(template, _NOW.language, _NOW.mark)
    return template if text.values is None else fill(template, text.values, _shown_value)


CLAUSE = (
    r"(?:ANSI/AGMA|AGMA|ISO|DIN|VDI|ASTM)[\w/ -]*(?::\d{4})?(?:-[A-Z]\d+)?(?:, (?:[A-Z]?\d+(?:\.\d+)*|Annex "
    r"\w+|Anhang \w+|Table \d+|Tabelle \d+|method \w+|case \d+)(?: (?:and|to|und|bis) [1-9]\d*(?:\.\d+)*)?)*"
    r"|\d+(?:\.\d+){2,}|[\w-]+\.(?:json|png|dxf|step|stl|3mf|pdf|svg|csv|txt|html|xlsx|gif|mp4|webm|md)\b"
)
"""Clauses of standards, versions and names of files in our own texts, whose points are no decimal marks."""


@lru_cache(maxsize=4096)
def _with_own_numbers(template: str, language: str, mark: str) -> str:
    """A template of the program whose own numbers have the decimal mark in force; its gaps and the clauses of
    standards in it stay.

    >>> _with_own_numbers("more than 0.05 m_n by ISO 6336-3, 7.3: {x:.3f mm}", "en", ",")
    'more than 0,05 m_n by ISO 6336-3, 7.3: {x:.3f mm}'
    """
    own = decimal_mark(language)
    if mark == own or own not in template:
        return template
    kept = re.compile(rf"{CLAUSE}|\{{[^{{}}]*(?:\{{[^{{}}]*\}}[^{{}}]*)*\}}")
    number = re.compile(rf"(?<![\w.,:])([-−+±≥≤=×Ø~]?\d+){re.escape(own)}(\d+)(?![\d.]*[:\w]*\.\d)")
    out, at = [], 0
    for result in kept.finditer(template):
        out += [number.sub(rf"\1{mark}\2", template[at : result.start()]), result[0]]
        at = result.end()
    return "".join([*out, number.sub(rf"\1{mark}\2", template[at:])])


@cache
def decimal_mark(language: str) -> str:
    """The decimal mark that a language or a place writes; a point where it is not known."""
    if language == "en":
        return "."
    from babel.core import UnknownLocaleError
    from babel.numbers import get_decimal_symbol

    try:
        return str(get_decimal_symbol(language))
    except (ValueError, UnknownLocaleError):
        return "."


def _shown_value(value: Any, conversion: str, spec: str) -> str:
    if isinstance(value, str):
        shown = translate(value)
        return converted(shown, conversion) if conversion else format(shown, spec)
    shown = plain_value(value, conversion, spec)
    return shown if isinstance(value, int) else with_mark(shown)


def with_mark(figure: str) -> str:
    """A number that has been formatted, with the decimal mark in force.

    >>> set_language("en", ","); with_mark("-1.5e-05")
    '-1,5e-05'
    >>> set_language()
    """
    return figure.replace(".", _NOW.mark, 1) if _NOW.mark != "." else figure

"""The language and the decimal mark in force, and texts as they are shown in them: gettext catalogues, numbers by locale."""

from __future__ import annotations

import gettext
import os
from functools import cache, lru_cache
from importlib.resources import files
from pathlib import Path
from typing import Any

from msgspec import Struct

from cooper.i18n.text import Text, converted, fill, plain_value

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
    found = {"en": "English"}
    for file in sorted(locale_folder().glob(f"*/LC_MESSAGES/{DOMAIN}.mo")):
        code = file.parent.parent.name
        found[code] = _catalogue(code).info().get("x-language-name", code)
    return found


@lru_cache(maxsize=4)
def _catalogue(language: str) -> gettext.GNUTranslations:
    with (locale_folder() / language / "LC_MESSAGES" / f"{DOMAIN}.mo").open("rb") as file:
        return gettext.GNUTranslations(file)


def set_language(language: str = "en", mark: str = ".") -> None:
    """Show everything in a language and with a decimal mark from now on; raises ValueError for a language without a catalogue."""
    if language not in languages():
        raise ValueError(f"there is no catalogue for {language!r}: there are {', '.join(languages())}")
    _NOW.language, _NOW.mark = language, mark
    _NOW.catalogue = gettext.NullTranslations() if language == "en" else _catalogue(language)


def language_in_force() -> tuple[str, str]:
    """The language and the decimal mark in force."""
    return _NOW.language, _NOW.mark


def inherit_language() -> None:
    """Take the language and the mark of the process that started this one."""
    told = os.environ.get(TOLD, "")
    if told[:-1] in languages() and told[-1] in ".,":
        set_language(told[:-1], told[-1])


def language_for_children() -> str:
    """The language and the mark in force for `TOLD`; empty for English with a point."""
    return "" if (_NOW.language, _NOW.mark) == PLAIN else _NOW.language + _NOW.mark


def translate(text: str) -> str:
    """A text as it is shown; what is not a `Text` is shown as it is.

    >>> from cooper.i18n.text import tr
    >>> set_language("en", ","); translate(tr("{x:.2f mm} by {part}", x=1.5, part="4711.25")), translate("4711.25")
    ('1,50 mm by 4711.25', '4711.25')
    >>> set_language()
    """
    if not isinstance(text, Text):
        return text
    if (_NOW.language, _NOW.mark) == PLAIN:
        return str(text)
    template = text.template
    if _NOW.language != "en" and template:
        template = _NOW.catalogue.gettext(template)
    return template if text.values is None else fill(template, text.values, _shown_value)


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

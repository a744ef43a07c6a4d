"""Texts in the language that is chosen: whole ones, and templates whose gaps are translated by themselves; numbers with the decimal mark of the place.

A text that the catalogue does not hold is parted at its lines, sentences and clauses, and stays as it is where no part is known.
"""

from __future__ import annotations

import os
import re
from functools import cache, lru_cache
from gettext import GNUTranslations
from importlib.resources import files

from msgspec import Struct, field

PLAIN = ("en", ".")
"""Language and mark in which nothing is put into another form."""
LANGUAGES = {"en": "English", "de": "Deutsch"}
"""Languages by their code, each in its own words."""
TOLD = "COOPER_SPEAKS"
"""Variable of the environment by which a process is told how to speak."""
GAP = re.compile(r"\{(\d+)\}")
PARTS = ("\n", "\t", ". ", "; ", ": ", ", ", " – ", " (")
"""Where a text that is not known as a whole is parted, coarsest first."""
NUMBER = r"(?<![\w.,:])([-−+±≥≤=×Ø~]?\d+)\.(\d+)(?![\d.]*[:\w]*\.\d)"
CLAUSE = (
    r"(?:ANSI/AGMA|AGMA|ISO|DIN|VDI|ASTM)[\w/ -]*(?::\d{4})?(?:-[A-Z]\d+)?(?:, (?:[A-Z]?\d+(?:\.\d+)*|Annex \w+|Anhang \w+|Table \d+|Tabelle \d+|method \w+|case \d+)(?: (?:and|to|und|bis) [1-9]\d*(?:\.\d+)*)?)*"
    r"|\d+(?:\.\d+){2,}|\w+\.\w+\.\w+|[\w-]+\.(?:json|png|dxf|step|stl|3mf|pdf|svg|csv|txt|html|xlsx|gif|mp4|webm|md)\b"
)
"""Clauses of standards, versions and names of files, whose points are no decimal marks."""


class _Spoken(Struct):
    """The language and the decimal mark in force."""

    language: str = "en"
    mark: str = "."
    whole: dict[str, str] = field(default_factory=dict)
    gapped: dict[str, list[tuple[int, str, str]]] = field(default_factory=dict)
    own: frozenset[str] = frozenset()
    long: re.Pattern[str] | None = None


_NOW = _Spoken()


def speak(language: str = "en", mark: str = ".") -> None:
    """Show everything in a language and with a decimal mark from now on; raises ValueError for a language without a catalogue."""
    if language not in LANGUAGES:
        raise ValueError(f"there is no catalogue for {language!r}: there are {', '.join(LANGUAGES)}")
    _NOW.language, _NOW.mark = language, mark
    _NOW.whole, _NOW.gapped = ({}, {}) if language == "en" else _catalogue(language)
    shown.cache_clear()


def speak_of(own: frozenset[str]) -> None:
    """Leave texts that a person wrote as they are, wherever they stand, from now on."""
    if own == _NOW.own:
        return
    _NOW.own = own
    # A single word is left where it stands by itself; what has parts or figures wherever it stands.
    long = sorted((t for t in own if not t.isalpha()), key=len, reverse=True)
    _NOW.long = re.compile("|".join(rf"(?<![^\W_]){re.escape(t)}(?![^\W_])" for t in long)) if long else None
    shown.cache_clear()


def spoken() -> tuple[str, str]:
    """The language and the decimal mark in force."""
    return _NOW.language, _NOW.mark


@lru_cache(maxsize=4)
def _catalogue(language: str) -> tuple[dict[str, str], dict[str, list[tuple[int, str, str]]]]:
    with (files("cooper.language") / f"{language}.mo").open("rb") as file:
        entries: dict[str, str] = GNUTranslations(file)._catalog  # type: ignore[attr-defined]
    whole: dict[str, str] = {}
    gapped: dict[str, list[tuple[int, str, str]]] = {}
    for text, told in entries.items():
        if not text or not told:
            continue
        # What stands behind something else is known without the mark before it, too.
        lead = re.match(r"(?:[,;:.–] ?| )+", text)
        for source, target in (
            (text, told),
            *([(text[lead.end() :], re.sub(r"^(?:[,;:.–] ?| )+", "", told))] if lead else []),
        ):
            if source and not GAP.search(source):
                whole.setdefault(source, target)
            elif source:
                _add(gapped, source, target)
    for rows in gapped.values():
        rows.sort(key=lambda r: -r[0])
    return whole, gapped


def _add(gapped: dict[str, list[tuple[int, str, str]]], text: str, told: str) -> None:
    """A template by its longest word."""
    literal = GAP.sub(" ", text)
    words = re.findall(r"[A-Za-z]{2,}", literal)
    if words:
        gapped.setdefault(max(words, key=len), []).append((len(literal), text, told))


@lru_cache(maxsize=4096)
def _pattern(text: str) -> tuple[re.Pattern[str], tuple[int, ...]]:
    """A template as a pattern, and the numbers of its gaps."""
    return re.compile("(.*?)".join(re.escape(p) for p in GAP.split(text)[::2]), re.S), tuple(
        map(int, GAP.findall(text))
    )


def speak_as_told() -> None:
    """Speak as the process that started this one does."""
    told = os.environ.get(TOLD, "")
    if told[:-1] in LANGUAGES and told[-1] in ".,":
        speak(told[:-1], told[-1])


def as_told() -> str:
    """The language and the mark in force, as a process that is started is told them; empty for English with a point."""
    return "" if (_NOW.language, _NOW.mark) == ("en", ".") else _NOW.language + _NOW.mark


@lru_cache(maxsize=60000)
def shown(text: str) -> str:
    """A text as it is shown.

    >>> speak("en", ","); shown("d_a is 12.5 mm by ISO 21771:2007, 5.2"), shown("0.5 to 1.25")
    ('d_a is 12,5 mm by ISO 21771:2007, 5.2', '0,5 to 1,25')
    >>> speak()
    """
    if text in _NOW.own:
        return text
    kept: list[str] = []

    def aside(found: re.Match[str]) -> str:
        kept.append(found[0])
        return f"\ue000{chr(0xE100 + len(kept) - 1)}\ue001"

    if _NOW.long is not None:
        text = _NOW.long.sub(aside, text)
    if _NOW.language != "en":
        text = _translated(text, 0) or text
    text = with_mark(text) if _NOW.mark != "." else text
    return re.sub("\ue000(.)\ue001", lambda m: kept[ord(m[1]) - 0xE100], text) if kept else text


def with_mark(text: str) -> str:
    """A text's numbers with the decimal mark in force; clauses of standards, versions and names of files stay."""
    if "." not in text:
        return text
    if MARKUP.search(text):
        return "".join(p if MARKUP.fullmatch(p) else with_mark(p) for p in MARKUP.split(text))
    out, at = [], 0
    number, clause = _numbers()
    for kept in clause.finditer(text):
        out += [number.sub(rf"\1{_NOW.mark}\2", text[at : kept.start()]), kept[0]]
        at = kept.end()
    return "".join([*out, number.sub(rf"\1{_NOW.mark}\2", text[at:])])


@cache
def _numbers() -> tuple[re.Pattern[str], re.Pattern[str]]:
    """Both made out when the first text is put into another language."""
    return re.compile(NUMBER), re.compile(CLAUSE)


DEEPEST = 8
MARKUP = re.compile(r"(</?[a-z][^<>]*>|&nbsp;)")
SLIGHT = 4
"""Letters of its longest word below which a template counts only where what is put in is known."""
SYMBOL = re.compile(r"[A-Za-z]\w*_\w+|[A-Za-z]{1,2}\d?|[\d.,/×·+-]+")
"""What stands behind words and is no word."""
COUNTED = re.compile(r"[\d.,]+(?: (?:h|%|mm|in))?")
"""A number, with or without its unit."""


def _translated(text: str, depth: int) -> str | None:
    """A text in the language in force; None where nothing of it is known."""
    if not text or depth > DEEPEST or not re.search("[A-Za-z]{2}", text) or text in _NOW.own:
        return None
    known = _NOW.whole.get(text)
    if known is not None:
        return known
    if MARKUP.search(text):
        pieces = MARKUP.split(text)
        told = [None if MARKUP.fullmatch(p) else _translated(p, depth + 1) for p in pieces]
        return "".join(t or p for t, p in zip(told, pieces, strict=True)) if any(told) else None
    bare = text.strip(" …:*")
    if bare != text and bare:
        found = _translated(bare, depth + 1)
        if found is not None:
            start = text.index(bare)
            return text[:start] + found + text[start + len(bare) :]
    found = _by_template(text, depth)
    if found is not None:
        return found
    words, _, last = text.rpartition(" ")
    if words and SYMBOL.fullmatch(last) and (found := _translated(words, depth + 1)) is not None:
        # Words with the symbol of their quantity behind them.
        return f"{found} {last}"
    lower = text[:1].lower() + text[1:]
    if lower != text and (known := _NOW.whole.get(lower)) is not None:
        return known[:1].upper() + known[1:]
    head, colon, rest = text.partition(": ")
    if colon and (found := _NOW.whole.get(rest) or _by_template(rest, depth)) is not None:
        # What is said of something: a note of several sentences behind the name of its stage.
        return f"{_translated(head, depth + 1) or head}: {found}"
    for part in PARTS:
        if part in text:
            pieces = text.split(part)
            told = [_translated(p, depth + 1) for p in pieces]
            if any(t is not None for t in told):
                return part.join(t if t is not None else p for t, p in zip(told, pieces, strict=True))
    return None


def _by_template(text: str, depth: int) -> str | None:
    best: tuple[int, re.Match[str], str, tuple[int, ...], str] | None = None
    for word in set(re.findall(r"[A-Za-z]{2,}", text)):
        for length, template, told in _NOW.gapped.get(word, ()):
            if best is not None and length <= best[0]:
                break
            pattern, gaps = _pattern(template)
            match = pattern.fullmatch(text)
            if match is not None:
                best = (length, match, told, gaps, template)
                break
    if best is None:
        return None
    _, match, told, gaps, _ = best
    told_in = {n: _translated(match[k], depth + 1) for k, n in enumerate(gaps, 1)}
    slight = max(map(len, re.findall("[A-Za-z]+", GAP.sub(" ", best[4])))) < SLIGHT
    if slight and "; " in text:
        # Such words join what stands in one clause.
        return None
    if slight and not any(told_in.values()) and not all(COUNTED.fullmatch(match[k]) for k in range(1, len(gaps) + 1)):
        # Little words alone say nothing: this may be a name of the user's own.
        return None
    put = {n: told_in[n] or match[k] for k, n in enumerate(gaps, 1)}
    return GAP.sub(lambda m: put.get(int(m[1]), ""), told)

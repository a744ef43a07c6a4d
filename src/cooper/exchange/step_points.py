"""The text of a STEP file with each point written once: the kernel writes it for every surface and every edge that
it belongs to."""

from __future__ import annotations

import re

STATEMENT = re.compile(r"((?:[^';]|'(?:[^']|'')*')*;\s*)")
"""One statement of the exchange structure (ISO 10303-21) with what follows its semicolon; strings are kept whole."""
POINT = re.compile(r"#(\d+)\s*=\s*CARTESIAN_POINT\s*\(\s*''\s*,(\([^()']*\))\s*\)\s*;\s*")
WORD = re.compile(r"'(?:[^']|'')*'|#\d+")


def points_once(text: str) -> str:
    """The same file with one statement for all unnamed points of the same coordinates, which whatever used the
    others refers to.

    >>> points_once("#1 = CARTESIAN_POINT('',(0.,1.,2.)); #2 = CARTESIAN_POINT('',(0.,1.,2.)); #3 = LINE('#2',#1,#2);")
    "#1 = CARTESIAN_POINT('',(0.,1.,2.)); #3 = LINE('#2',#1,#1);"
    """
    first: dict[str, str] = {}
    instead: dict[str, str] = {}
    kept = []
    end = 0
    for result in STATEMENT.finditer(text):
        end = result.end()
        if point := POINT.fullmatch(result[0]):
            number, place = f"#{point[1]}", "".join(point[2].split())
            if first.setdefault(place, number) != number:
                instead[number] = first[place]
                continue
        kept.append(result[0])
    kept.append(text[end:])
    return WORD.sub(lambda word: instead.get(word[0], word[0]), "".join(kept))

"""Opening and saving of design documents: JSON with a format version, written atomically."""

from __future__ import annotations

import json
import math
import os
import stat
from collections.abc import Callable
from pathlib import Path
from typing import Any

from cooper.atomic_write import atomic_write_text
from cooper.document.base import NOT_TEXT, UNKNOWN
from cooper.document.file_format import to_file
from cooper.document.models import FORMAT, VERSION, Design
from cooper.document.older_files import from_version_1, from_version_2
from cooper.errors import OutOfRange
from cooper.i18n.text import tr

SUFFIX = ".cooper.json"
GREATEST_FILE = 64 * 1024 * 1024


class Unusable(Exception):
    """A file that cannot be opened as a design: where in it, and why. The file is left as it is."""


MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: from_version_1, 2: from_version_2}
"""For each older version the function that brings its data to the next one."""


def open_design(path: str | os.PathLike[str]) -> Design:
    """Read a design; raises `Unusable` with place and reason."""
    file = Path(path)
    try:
        if not stat.S_ISREG(file.stat().st_mode):
            raise Unusable(tr("{file}: this is no file that can be read from its beginning to its end", file=file))
        if file.stat().st_size > GREATEST_FILE:
            raise Unusable(
                tr("{file}: {st_size} bytes are far more than a design has", file=file, st_size=file.stat().st_size)
            )
        text = file.read_text(encoding="utf-8")
    except UnicodeDecodeError as error:
        raise Unusable(
            tr("{file}: byte {start} is not text (UTF-8); this is no Cooper design", file=file, start=error.start)
        ) from error
    except (OSError, RuntimeError, ValueError) as error:
        raise Unusable(tr("{file}: {value}", file=file, value=getattr(error, "strerror", None) or error)) from error
    return read_design(text, str(file))


def read_design(text: str, name: str = "design") -> Design:
    """A design from the text of a file; ``name`` is used in messages."""
    if not text.strip():
        raise Unusable(tr("{name}: the file is empty", name=name))
    try:
        tree = json.loads(
            text,
            parse_constant=_no_constant,
            parse_float=_finite,
            parse_int=_whole,
            object_pairs_hook=_once,
        )
        tree = _looked_through(tree)
    except json.JSONDecodeError as error:
        at_end = error.pos >= len(text.rstrip()) - 1
        reason = tr("the file ends too early (truncated)") if at_end else error.msg
        raise Unusable(
            tr(
                "{name}: line {lineno}, column {colno}: {reason}",
                name=name,
                lineno=error.lineno,
                colno=error.colno,
                reason=reason,
            )
        ) from error
    except (RecursionError, ValueError) as error:
        raise Unusable(tr("{name}: {error}", name=name, error=error)) from error
    if not isinstance(tree, dict) or tree.get("format") != FORMAT:
        raise Unusable(
            tr(
                '{name}: this is JSON but no Cooper design (the field "format" is not "{format}")',
                name=name,
                format=FORMAT,
            )
        )
    try:
        tree = _migrate(tree, name)
    except (KeyError, TypeError, AttributeError, ValueError, IndexError) as error:
        raise Unusable(
            tr(
                "{name}: its gears, meshes and groups do not hang together ({name_2}: {error})",
                name=name,
                name_2=type(error).__name__,
                error=error,
            )
        ) from error
    try:
        return Design.from_data(tree)
    except OutOfRange as error:
        raise Unusable(tr("{name}: at {error}", name=name, error=error)) from error


MOST_DIGITS = 300
DEEPEST = 60
"""Levels of nesting up to which a file is read; a design has about ten."""


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(tr("{text} is no number that a design can hold", text=text[:40]))
    return value


def _whole(text: str) -> int:
    if len(text) > MOST_DIGITS:
        raise ValueError(tr("a number of {text} digits is none that a design can hold", text=len(text)))
    return int(text)


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    result = dict(pairs)
    if len(result) != len(pairs):
        names = [name for name, _ in pairs]
        raise ValueError(
            tr("{names!r} is given twice in one place", names=next(n for n in names if names.count(n) > 1)[:40])
        )
    return result


def _looked_through(tree: Any) -> Any:
    """The tree without signs that are no text and that no later version writes; refuses what could be read but not
    written again."""

    def of(name: str, value: Any, depth: int) -> Any:
        if depth > DEEPEST:
            raise ValueError(tr("it is nested more than {deepest} levels deep", deepest=DEEPEST))
        if isinstance(value, str):
            if any(0xD800 <= ord(c) <= 0xDFFF for c in value):
                raise ValueError(tr("{name}: half a character (a lone surrogate) cannot be kept", name=name))
            return NOT_TEXT.sub("", value)
        if isinstance(value, dict):
            return {of(name, key, depth): of(key, inner, depth + 1) for key, inner in value.items()}
        if isinstance(value, list):
            return [of(name, inner, depth + 1) for inner in value]
        return value

    return of("", tree, 0)


def _no_constant(constant: str) -> float:
    raise ValueError(tr("{constant} is not a number that a design can hold", constant=constant))


def _migrate(tree: dict[str, Any], name: str) -> dict[str, Any]:
    version = tree.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise Unusable(tr("{name}: version: {version!r} is not a version number", name=name, version=version))
    if version > VERSION:
        raise Unusable(
            tr(
                "{name}: version: the file has format version {version}; this Cooper reads up to "
                "{version_2}. A newer Cooper wrote it; the file is left as it is.",
                name=name,
                version=version,
                version_2=VERSION,
            )
        )
    while version < VERSION:
        tree = MIGRATIONS[version](tree)
        version += 1
    return tree


def design_text(design: Design) -> str:
    """The text of a design file; readable, stable order, unknown fields kept."""
    return json.dumps(to_file(design.plain()), indent=2, ensure_ascii=False) + "\n"


def save_design(design: Design, path: str | os.PathLike[str]) -> None:
    """Write a design so that the file is always whole: to a temporary file beside it, flushed, then renamed."""
    atomic_write_text(path, design_text(design))


def schema_text() -> str:
    """The JSON schema of the document, as published in docs/."""
    from msgspec.json import schema_components

    (whole,), parts = schema_components((Design,), ref_template="#/$defs/{name}")
    schema = {"title": tr("Cooper design, version {version}", version=VERSION), **whole, "$defs": parts}
    for part in parts.values():
        # It is where files hold what this version does not know.
        part.get("properties", {}).pop(UNKNOWN, None)
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"

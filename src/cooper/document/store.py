"""Opening and saving of design documents: JSON with a format version, written atomically."""

from __future__ import annotations

import errno
import json
import math
import os
import re
import stat
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

from cooper.document.base import UNKNOWN
from cooper.document.file_format import from_file, from_version_1, to_file
from cooper.document.models import FORMAT, VERSION, Design
from cooper.document.quantities import QUANTITIES
from cooper.errors import OutOfRange

SUFFIX = ".cooper.json"
GREATEST_FILE = 64 * 1024 * 1024


class Unusable(Exception):
    """A file that cannot be opened as a design: where in it, and why. The file is left as it is."""


MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: from_version_1}
"""For each older version the function that brings its data to the next one."""


def open_design(path: str | os.PathLike[str]) -> Design:
    """Read a design; raises `Unusable` with place and reason."""
    file = Path(path)
    try:
        if not stat.S_ISREG(file.stat().st_mode):
            raise Unusable(f"{file}: this is no file that can be read from its beginning to its end")
        if file.stat().st_size > GREATEST_FILE:
            raise Unusable(f"{file}: {file.stat().st_size} bytes are far more than a design has")
        text = file.read_text(encoding="utf-8")
    except UnicodeDecodeError as error:
        raise Unusable(f"{file}: byte {error.start} is not text (UTF-8); this is no Cooper design") from error
    except (OSError, RuntimeError, ValueError) as error:
        raise Unusable(f"{file}: {getattr(error, 'strerror', None) or error}") from error
    return read_design(text, str(file))


def read_design(text: str, name: str = "design") -> Design:
    """A design from the text of a file; ``name`` is used in messages."""
    if not text.strip():
        raise Unusable(f"{name}: the file is empty")
    try:
        tree = json.loads(
            text,
            parse_constant=_no_constant,
            parse_float=_finite,
            parse_int=_whole,
            object_pairs_hook=_once,
        )
        _looked_through(tree)
    except json.JSONDecodeError as error:
        at_end = error.pos >= len(text.rstrip()) - 1
        reason = "the file ends too early (truncated)" if at_end else error.msg
        raise Unusable(f"{name}: line {error.lineno}, column {error.colno}: {reason}") from error
    except (RecursionError, ValueError) as error:
        raise Unusable(f"{name}: {error}") from error
    if not isinstance(tree, dict) or tree.get("format") != FORMAT:
        raise Unusable(f'{name}: this is JSON but no Cooper design (the field "format" is not "{FORMAT}")')
    try:
        file = _migrate(tree, name)
        tree = from_file(file)
    except (KeyError, TypeError, AttributeError, ValueError, IndexError) as error:
        raise Unusable(
            f"{name}: its gears, meshes and groups do not hang together ({type(error).__name__}: {error})"
        ) from error
    try:
        return Design.of(tree)
    except OutOfRange as error:
        raise Unusable(f"{name}: at {_in_file(str(error), file)}") from error


def _in_file(text: str, file: dict[str, Any]) -> str:
    """A fault with the place that it has in the file: gears and meshes by identity."""
    train = file["train"]
    meshes = [part["mesh"] for group in train["groups"] for part in group["stages"]]

    def gear(found: re.Match[str]) -> str:
        return f"train.gears.{train['meshes'][meshes[int(found[1])]][('driver', 'driven')[int(found[2])]]}"

    text = re.sub(r"train\.stages\.(\d+)\.members\.(\d+)", gear, text)
    return re.sub(r"train\.stages\.(\d+)\.meshes\.0", lambda m: f"train.meshes.{meshes[int(m[1])]}", text)


MOST_DIGITS = 300
DEEPEST = 60
"""Levels of nesting up to which a file is read; a design has about ten."""


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(f"{text[:40]} is no number that a design can hold")
    return value


def _whole(text: str) -> int:
    if len(text) > MOST_DIGITS:
        raise ValueError(f"a number of {len(text)} digits is none that a design can hold")
    return int(text)


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) != len(pairs):
        names = [name for name, _ in pairs]
        raise ValueError(f"{next(n for n in names if names.count(n) > 1)[:40]!r} is given twice in one place")
    return found


def _looked_through(tree: Any) -> None:
    """Refuse what could be read but not written again, and numbers that are given as something else."""
    waiting: list[tuple[str, Any, int]] = [("", tree, 0)]
    while waiting:
        name, value, depth = waiting.pop()
        if depth > DEEPEST:
            raise ValueError(f"it is nested more than {DEEPEST} levels deep")
        if isinstance(value, str):
            if any(0xD800 <= ord(c) <= 0xDFFF for c in value):
                raise ValueError(f"{name}: half a character (a lone surrogate) cannot be kept")
        elif isinstance(value, dict):
            for key, inner in value.items():
                if key in QUANTITIES and isinstance(inner, str | bool):
                    raise ValueError(f"{key}: {json.dumps(inner)[:40]} is no number")
                waiting.append((key, inner, depth + 1))
                waiting.append((key, key, depth))
        elif isinstance(value, list):
            waiting += [(name, inner, depth + 1) for inner in value]


def _no_constant(constant: str) -> float:
    raise ValueError(f"{constant} is not a number that a design can hold")


def _migrate(tree: dict[str, Any], name: str) -> dict[str, Any]:
    version = tree.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise Unusable(f"{name}: version: {version!r} is not a version number")
    if version > VERSION:
        raise Unusable(
            f"{name}: version: the file has format version {version}; this Cooper reads up to {VERSION}. "
            "A newer Cooper wrote it; the file is left as it is."
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
    write_atomically(path, design_text(design))


def write_atomically(path: str | os.PathLike[str], text: str) -> None:
    """Write a text file whole or not at all; raises OSError with the file left as it was."""
    import tempfile

    target = followed(path)
    mode = target.stat().st_mode & 0o7777 if target.exists() else 0o666 & ~umask()
    clear_parts(target.parent)
    try:
        handle, temporary = tempfile.mkstemp(prefix=".cooper-", suffix=".part", dir=target.parent)
    except OSError as fault:
        # It is not the hidden file's name that the user knows.
        raise OSError(fault.errno, fault.strerror, str(target)) from None
    try:
        with os.fdopen(handle, "w", encoding="utf-8") as out:
            out.write(text)
            out.flush()
            os.fsync(out.fileno())
        os.chmod(temporary, mode)
        os.replace(temporary, target)
        flush_folder(target.parent)
    except OSError as fault:
        Path(temporary).unlink(missing_ok=True)
        raise OSError(fault.errno, fault.strerror, str(target)) from None
    except BaseException:
        Path(temporary).unlink(missing_ok=True)
        raise


OLD_PARTS = 24 * 3600.0
"""Seconds after which a half-written file belongs to nobody: its program was killed."""


def clear_parts(folder: Path) -> None:
    """Take away what programs that were killed while they wrote have left half written."""
    for part in folder.glob(".cooper-*.part"):
        with suppress(OSError):
            if time.time() - part.stat().st_mtime > OLD_PARTS:
                part.unlink()


def followed(path: str | os.PathLike[str]) -> Path:
    """The file that a path stands for, links followed; raises OSError where they go in a circle."""
    target = Path(path)
    try:
        return target.resolve() if target.is_symlink() else target
    except RuntimeError as error:
        raise OSError(errno.ELOOP, "the link leads back to itself", str(path)) from error


def flush_folder(folder: Path) -> None:
    """Have the disk know that a file has been put in place, so that no loss of power takes it back."""
    with suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def umask() -> int:
    """The rights that new files do not get."""
    mask = os.umask(0)
    os.umask(mask)
    return mask


def schema_text() -> str:
    """The JSON schema of the document, as published in docs/."""
    from msgspec.json import schema_components

    from cooper.document.file_schema import FileDesign, FilePair, FileSet

    (whole, *groups), parts = schema_components((FileDesign, FilePair, FileSet), ref_template="#/$defs/{name}")
    parts["FileTrain"]["properties"]["groups"]["items"] = {"anyOf": groups}
    schema = {"title": f"Cooper design, version {VERSION}", **whole, "$defs": parts}
    for part in parts.values():
        # It is where files hold what this version does not know.
        part.get("properties", {}).pop(UNKNOWN, None)
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"

"""Files that are whole or left as they were: written in the same folder, flushed, then renamed. Every way out of the
program goes through here."""

from __future__ import annotations

import errno
import os
import re
import tempfile
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from cooper.i18n.text import tr

PART = re.compile(r"\.cooper-(\d+)-.*\.part")
"""Names of files on their way: the process that writes them stands in it."""
OLD_PARTS = 24 * 3600.0
"""Seconds after which a part belongs to nobody, whatever process has its number now."""


def atomic_write(path: str | os.PathLike[str], write: Callable[[Path], None]) -> None:
    """Have ``write`` fill a file in the same folder and rename it once it is complete; raises OSError, in the name
    of the wanted file, with that file left as it was."""
    target = followed(path)
    clear_parts(target.parent)
    # Where the wanted file is itself one on the way, its name begins this one's, so that whoever asked for it finds
    # both.
    own = target.stem.removesuffix(".part") + "-" if PART.match(target.name) else f".cooper-{os.getpid()}-"
    try:
        handle, name = tempfile.mkstemp(prefix=own, suffix=f".part{Path(path).suffix.lower()}", dir=target.parent)
    except OSError as fault:
        # It is not the hidden file's name that the user knows.
        raise OSError(fault.errno, fault.strerror, str(path)) from None
    os.close(handle)
    temporary = Path(name)
    try:
        write(temporary)
        with temporary.open("rb") as written:
            os.fsync(written.fileno())
        temporary.chmod(target.stat().st_mode & 0o7777 if target.exists() else 0o666 & ~umask())
        temporary.replace(target)
        flush_folder(target.parent)
    except OSError as fault:
        raise OSError(fault.errno, fault.strerror or str(fault), str(path)) from None
    finally:
        temporary.unlink(missing_ok=True)


def atomic_write_text(path: str | os.PathLike[str], text: str) -> None:
    """A text file (UTF-8), whole or left as it was."""
    atomic_write(path, lambda part: _fill(part, text.encode("utf-8")))


def atomic_write_bytes(path: str | os.PathLike[str], content: bytes) -> None:
    """A file of bytes, whole or left as it was: for what is painted, whose writers tell nothing of a full disk."""
    atomic_write(path, lambda part: _fill(part, content))


def _fill(part: Path, content: bytes) -> None:
    with part.open("wb") as out:
        out.write(content)


def clear_parts(folder: Path) -> None:
    """Take away what programs that were killed while they wrote have left half written."""
    for part in folder.glob(".cooper-*.part*"):
        with suppress(OSError):
            known = PART.match(part.name)
            if time.time() - part.stat().st_mtime > OLD_PARTS or (known is not None and not _runs(int(known[1]))):
                part.unlink()


def _runs(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except (OSError, OverflowError):
        pass
    return True


def followed(path: str | os.PathLike[str]) -> Path:
    """The file that a path stands for, links followed; raises OSError where they go in a circle."""
    target = Path(path)
    try:
        return target.resolve() if target.is_symlink() else target
    except RuntimeError as error:
        raise OSError(errno.ELOOP, tr("the link leads back to itself"), str(path)) from error


def flush_folder(folder: Path) -> None:
    """fsync the directory so that the rename survives a power loss."""
    with suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def umask() -> int:
    """The process umask."""
    mask = os.umask(0)
    os.umask(mask)
    return mask

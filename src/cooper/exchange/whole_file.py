"""Files that are whole or not there: written beside their place, put into it when they are done."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Callable
from pathlib import Path

from cooper.document.store import flush_folder, followed, umask


def whole_or_not(path: Path, write: Callable[[Path], None]) -> None:
    """Write to a file beside the wanted one and put it in its place only when it is whole."""
    target = followed(path)
    # Where the wanted file is itself one on the way, its name begins this one's, so that whoever asked for it finds both.
    prefix = f"{target.stem}." if target.name.startswith(".cooper-") else ".cooper-"
    try:
        handle, name = tempfile.mkstemp(prefix=prefix, suffix=path.suffix.lower(), dir=target.parent)
    except OSError as fault:
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

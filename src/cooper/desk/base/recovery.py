"""Autosave of unsaved work, and finding what a killed program left behind.

Each window keeps its work in a file of its own, with a lock beside it that the system lets go when the program ends,
however it does.
"""

from __future__ import annotations

import fcntl
import json
import time
import uuid
from contextlib import suppress
from pathlib import Path
from threading import Thread
from typing import IO

from msgspec import Struct

from cooper.atomic_write import atomic_write_text, clear_parts
from cooper.document.models import Design
from cooper.document.store import Unusable, design_text, read_design
from cooper.folders import state_folder
from cooper.i18n.text import tr


class Leftover(Struct, frozen=True):
    """Unsaved work of a program that no longer runs: the file it belonged to, if any, and when it was saved
    (seconds)."""

    file: Path
    path: Path | None
    design: Design
    when: float = 0.0

    def forget(self) -> None:
        """Take it away."""
        for file in (self.file, lock_of(self.file)):
            with suppress(OSError):
                file.unlink(missing_ok=True)


def lock_of(file: Path) -> Path:
    """The lock that is held while the program of an autosave runs."""
    return file.with_suffix(".lock")


class AutosaveStore:
    """The autosave of one window."""

    def __init__(self) -> None:
        self.file = state_folder() / f"autosave-{uuid.uuid4().hex}.json"
        self.fault = ""
        self._lock: IO[str] | None = None
        self._writing: Thread | None = None

    def keep(self, design: Design, path: Path | None) -> str:
        """Write the unsaved design down, whole or not at all; why not, empty when it is kept."""
        self._wait()
        self._write(design, path)
        return self.fault

    def keep_beside(self, design: Design, path: Path | None) -> None:
        """The same in a thread, as the disk takes its time; ``fault`` tells later what became of it."""
        self._wait()
        self._writing = Thread(target=self._write, args=(design, path))
        self._writing.start()

    def _wait(self) -> None:
        if self._writing is not None:
            self._writing.join()
            self._writing = None

    def _write(self, design: Design, path: Path | None) -> None:
        body = {"path": str(path) if path else None, "design": json.loads(design_text(design)), "when": time.time()}
        try:
            if self._lock is None:
                lock = lock_of(self.file).open("w")
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
                self._lock = lock
            atomic_write_text(self.file, json.dumps(body))
        except OSError as fault:
            self.fault = tr("{parent}: {value}", parent=self.file.parent, value=fault.strerror or fault)
        else:
            self.fault = ""

    def forget(self) -> None:
        """Remove the autosave, once its work is saved or given up."""
        self._wait()
        with suppress(OSError):
            self.file.unlink(missing_ok=True)
        if self._lock is not None:
            with suppress(OSError):
                lock_of(self.file).unlink(missing_ok=True)
            self._lock.close()
            self._lock = None


def leftovers() -> list[Leftover]:
    """Unsaved work of programs that ended without saving, newest first."""
    folder = state_folder()
    result = []
    for file in folder.glob("autosave-*.json"):
        if _held(lock_of(file)):
            continue
        try:
            body = json.loads(file.read_text(encoding="utf-8"))
            design = read_design(json.dumps(body["design"]), "autosave")
            path = body.get("path")
            result.append(
                Leftover(file, Path(path) if isinstance(path, str) and path else None, design, _when(file, body))
            )
        except (OSError, ValueError, KeyError, TypeError, AttributeError, RecursionError, Unusable):
            continue
    clear_parts(folder)
    return sorted(result, key=lambda left: -left.when)


def _when(file: Path, body: dict[str, object]) -> float:
    """When it was kept, as it says, or as the disk does where it says nothing that can be."""
    text = body.get("when")
    if isinstance(text, int | float) and not isinstance(text, bool) and 0 < text < 1e11:
        return float(text)
    return file.stat().st_mtime


def unreadable() -> list[Path]:
    """Autosaves of programs that no longer run from which no design can be read; they stay where they are."""
    readable = {left.file for left in leftovers()}
    return [f for f in sorted(state_folder().glob("autosave-*.json")) if f not in readable and not _held(lock_of(f))]


def _held(lock: Path) -> bool:
    """Whether a running program holds a lock."""
    try:
        with lock.open() as file:
            fcntl.flock(file, fcntl.LOCK_SH | fcntl.LOCK_NB)
    except FileNotFoundError:
        return False
    except OSError:
        return True
    return False

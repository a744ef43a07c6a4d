"""Autosave of unsaved work, and finding what a killed program left behind."""

from __future__ import annotations

import json
import os
from dataclasses import dataclass
from pathlib import Path

import platformdirs

from cooper.document.models import Design
from cooper.document.store import Unusable, design_text, read_design, write_atomically


def state_folder() -> Path:
    """Where autosaves and settings live; made on first use."""
    folder = Path(platformdirs.user_state_dir("cooper", appauthor=False))
    folder.mkdir(parents=True, exist_ok=True)
    return folder


@dataclass(frozen=True)
class Leftover:
    """Unsaved work of a program that no longer runs. ``path`` is the file that it belonged to, if any."""

    file: Path
    path: Path | None
    design: Design


def autosave_file() -> Path:
    """The autosave of this process."""
    return state_folder() / f"autosave-{os.getpid()}.json"


def autosave(design: Design, path: Path | None) -> None:
    """Write the unsaved design down; atomic, silent when the disk refuses (the design in the window is untouched)."""
    body = {"pid": os.getpid(), "path": str(path) if path else None, "design": json.loads(design_text(design))}
    try:
        write_atomically(autosave_file(), json.dumps(body))
    except OSError:
        return


def forget() -> None:
    """Remove this process's autosave, once its work is saved or given up."""
    autosave_file().unlink(missing_ok=True)


def leftovers() -> list[Leftover]:
    """Unsaved work of programs that ended without saving, newest first."""
    found = []
    for file in sorted(state_folder().glob("autosave-*.json"), key=lambda f: f.stat().st_mtime, reverse=True):
        try:
            body = json.loads(file.read_text(encoding="utf-8"))
            if _runs(int(body["pid"])):
                continue
            design = read_design(json.dumps(body["design"]), "autosave")
            found.append(Leftover(file, Path(body["path"]) if body["path"] else None, design))
        except (OSError, ValueError, KeyError, TypeError, Unusable):
            continue
    return found


def _runs(pid: int) -> bool:
    if pid == os.getpid():
        return True
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    # Another program may have been given the number since; ours names itself in its command line.
    try:
        return b"cooper" in Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return True

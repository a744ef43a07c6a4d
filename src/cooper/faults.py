"""Faults of the program itself: written to a log and reported to listeners. The log contains nothing of a design:
quoted texts and numbers are removed from messages."""

from __future__ import annotations

import contextlib
import logging
import platform
import re
import sys
import threading
import traceback
from collections.abc import Callable
from logging.handlers import RotatingFileHandler
from pathlib import Path
from types import TracebackType

from cooper.folders import state_folder
from cooper.i18n.text import tr

LOG = logging.getLogger("cooper")
LEVELS = ("error", "warning", "info", "debug")
LOG_LEVEL = "COOPER_LOG_LEVEL"
"""Environment variable that passes the level to worker processes."""
SIZE, OLDER = 512 * 1024, 3
"""Bytes of a log file, and how many older ones are kept."""
CONTENTS = re.compile(r"'[^']*'|\"[^\"]*\"|“[^”]*”|[-+]?\d[\d.,]*(?:[eE][-+]?\d+)?")

Hear = Callable[[BaseException, str], object]


def log_file(role: str = "cooper") -> Path:
    """The log of a process by its role: those that run at once write files of their own."""
    return state_folder() / "log" / f"{role}.log"


def start_log(role: str = "cooper", level: str = "warning", *, to_screen: bool = False) -> None:
    """Begin to write the log, a rotating one; also to standard error where asked. Without a disk that takes it there
    is none."""
    LOG.setLevel(level.upper())
    LOG.propagate = False
    for handler in list(LOG.handlers):
        LOG.removeHandler(handler)
        handler.close()
    style = logging.Formatter("%(asctime)s %(levelname)s %(message)s")
    handlers: list[logging.Handler] = [logging.StreamHandler()] if to_screen else []
    try:
        file = log_file(role)
        file.parent.mkdir(parents=True, exist_ok=True)
        handlers.append(RotatingFileHandler(file, maxBytes=SIZE, backupCount=OLDER, encoding="utf-8", delay=True))
    except OSError:
        pass
    for handler in handlers or [logging.NullHandler()]:
        handler.setFormatter(style)
        LOG.addHandler(handler)
    logging.raiseExceptions = False


def without_contents(words: str) -> str:
    """A message without what it quotes and without its numbers, which are those of a design.

    >>> without_contents("'Output 2.5' has no m_n of 1.25 mm")
    '… has no m_n of … mm'
    """
    return CONTENTS.sub("…", words)


def details(fault: BaseException) -> str:
    """What a fault is and where it arose: program, system, kinds and messages of all faults behind it, places in the
    code."""
    from cooper.version import __version__

    lines = [f"Cooper {__version__}, Python {platform.python_version()}, {platform.system()} {platform.release()}"]
    one: BaseException | None = fault
    while one is not None:
        lines.append(
            tr("{name}: {without_contents}", name=type(one).__name__, without_contents=without_contents(str(one)))
        )
        frames = traceback.extract_tb(one.__traceback__)
        lines += [
            tr("  {filename}:{lineno} {name}", filename=_place(f.filename), lineno=f.lineno, name=f.name)
            for f in frames
        ]
        lines += [tr("  {where}", where=where) for where in getattr(one, FAR, ())]
        one = one.__cause__ or (None if one.__suppress_context__ else one.__context__)
    return "\n".join(lines)


FAR = "places_beside"
"""Attribute of a fault that came from another process: the places in the code where it arose there."""


def mark_places(fault: BaseException) -> None:
    """Write the places where a fault arose onto it, which do not go over to another process."""
    frames = traceback.extract_tb(fault.__traceback__)
    with contextlib.suppress(AttributeError):
        setattr(
            fault,
            FAR,
            tuple(
                tr("{filename}:{lineno} {name}", filename=_place(f.filename), lineno=f.lineno, name=f.name)
                for f in frames
            ),
        )


def _place(file: str) -> str:
    """A file of the program below its folder, any other by its last parts; whose home it is in stays out."""
    parts = Path(file).parts
    at = max((n for n, part in enumerate(parts) if part in ("cooper", "site-packages")), default=len(parts) - 2)
    return "/".join(parts[at:])


def is_fault(fault: BaseException | None) -> bool:
    """Whether an exception is the program's fault: not the refusal of a value, nor a disk's, nor an end that was
    asked for."""
    from cooper.errors import OutOfRange

    expected = fault is None or isinstance(fault, OutOfRange | OSError | KeyboardInterrupt | SystemExit)
    # An unknown suffix, a file that is no design: plain refusals in words.
    return not expected and type(fault) is not ValueError and type(fault).__name__ != "Unusable"


def record(fault: BaseException, where: str) -> str:
    """Write a fault down; what was written."""
    words = details(fault)
    LOG.error("%s\n%s", where, words)
    return words


def listen(hear: Hear | None = None) -> None:
    """Record every exception that nobody handles: of slots, of the main program, of threads, of what is cleared
    away; and tell it to ``hear``."""

    def told(fault: BaseException | None, where: str) -> None:
        if fault is None or isinstance(fault, KeyboardInterrupt | SystemExit):
            return
        record(fault, where)
        if hear is not None:
            hear(fault, where)

    def of_main(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
        if isinstance(fault, KeyboardInterrupt):
            sys.__excepthook__(kind, fault, trace)
            return
        told(fault.with_traceback(trace), tr("not handled"))

    sys.excepthook = of_main
    threading.excepthook = lambda args: told(args.exc_value, f"thread {(args.thread.name if args.thread else '')}")
    sys.unraisablehook = lambda args: told(args.exc_value, tr("while clearing away"))

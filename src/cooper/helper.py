"""The worker process: runs functions of the core one after the other and returns their results, item
by item.

Frames over the standard streams: eight bytes of length, then a pickled tuple. Only the window that started it talks to
it.
"""

from __future__ import annotations

import fcntl
import importlib
import os
import pickle
import signal
import sys
import time
from collections.abc import Iterator
from contextlib import suppress
from types import FrameType
from typing import Any, BinaryIO

from cooper.faults import LOG_LEVEL, is_fault, mark_places, record, start_log

LENGTH = 8
STAND_BACK = 5
"""How much lower the priority of this process is than the window's, if it is not told."""
BREATH = 0.0
"""Seconds that it rests after each finding, if it is not told: on a machine of few cores the window then paints it
twice as fast."""
ROOM = 1 << 20
"""What the stream to the window holds before its reader must take something out; bytes, as much as anybody may ask
for."""
STOP = signal.SIGUSR1
"""The signal that breaks off what runs."""
AGAIN = 0.05
"""Seconds after which what was broken off and still runs is broken off again."""


class Stopped(Exception):
    """The window does not want the rest any more."""


def frame(message: tuple[Any, ...]) -> bytes:
    """A message as it goes over the stream.

    >>> read_frame(__import__("io").BytesIO(frame((1, "a"))))
    (1, 'a')
    """
    body = pickle.dumps(message, protocol=pickle.HIGHEST_PROTOCOL)
    return len(body).to_bytes(LENGTH, "big") + body


def read_frame(stream: BinaryIO) -> Any:
    """The next message of a stream; None at its end, be it in the midst of one, as when the program that sent it was
    killed.

    >>> read_frame(__import__("io").BytesIO(frame((1, "a"))[:-1])) is None
    True
    """
    head = stream.read(LENGTH)
    length = int.from_bytes(head, "big")
    body = stream.read(length) if len(head) == LENGTH else b""
    return pickle.loads(body) if body and len(body) == length else None


def call(function: str, args: tuple[Any, ...]) -> Iterator[Any]:
    """What a function, named as module:name, finds; raises `ValueError` for one that is not Cooper's."""
    module, _, name = function.partition(":")
    if not module.startswith("cooper."):
        raise ValueError(f"{function} is no function of Cooper")
    result = getattr(importlib.import_module(module), name)(*args)
    if isinstance(result, Iterator):
        yield from result
    else:
        yield result


class Server:
    """Reads requests (number, function, arguments) and answers with (number, kind, content): items, then an end or a
    fault."""

    def __init__(self, source: BinaryIO, sink: BinaryIO, breath: float = BREATH) -> None:
        self.source, self.sink, self.breath = source, sink, breath
        self.busy = self.stopped = False

    def stop(self, _signal: int, _frame: FrameType | None) -> None:
        self.stopped = True
        if self.busy:
            # An exception raised inside __del__ or a GC callback is swallowed, so resend until it is received.
            signal.setitimer(signal.ITIMER_REAL, AGAIN)
            raise Stopped

    def run(self) -> None:
        """Serve until the window closes the stream."""
        while (request := read_frame(self.source)) is not None:
            self.serve(*request)

    def serve(self, number: int, function: str, args: tuple[Any, ...]) -> None:
        try:
            signal.setitimer(signal.ITIMER_REAL, 0)
            try:
                self.stopped, self.busy = False, True
                for item in call(function, args):
                    self.busy = False
                    self.send(number, "item", item)
                    time.sleep(self.breath)
                    if self.stopped:
                        # Asked while an item was handed over, which must not be cut in two.
                        raise Stopped
                    self.busy = True
            finally:
                self.busy = False
                signal.setitimer(signal.ITIMER_REAL, 0)
        except Stopped:
            self.send(number, "end", None)
        except Exception as fault:
            mark_places(fault)
            if is_fault(fault):
                record(fault, f"beside the window, {function}")
            self.send(number, "fault", fault)
        else:
            self.send(number, "end", None)

    def send(self, number: int, kind: str, content: Any) -> None:
        try:
            out = frame((number, kind, content))
        except Exception as fault:  # what cannot be handed over
            out = frame((number, "fault", RuntimeError(str(fault))))
        self.sink.write(out)
        self.sink.flush()


def _told_unless_stopped(lost: Any) -> None:
    if not isinstance(lost.exc_value, Stopped):
        sys.__unraisablehook__(lost)


def main() -> None:
    """Serve the process that started this one."""
    text = sys.argv[1:]
    # Whoever works beside the window stands back while the hand is at work.
    with suppress(OSError):
        os.nice(int(text[0]) if text else STAND_BACK)
    sink = os.fdopen(os.dup(sys.stdout.fileno()), "wb")
    with suppress(OSError):
        # An answer goes over in one piece, not in many small ones for which both wait for each other.
        fcntl.fcntl(sink, fcntl.F_SETPIPE_SZ, ROOM)
    # What a library prints must not run into the frames.
    os.dup2(sys.stderr.fileno(), sys.stdout.fileno())
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    from cooper.i18n.translate import inherit_language

    inherit_language()
    start_log("helper", os.environ.get(LOG_LEVEL, "warning"))
    server = Server(sys.stdin.buffer, sink, float(text[1]) if text else BREATH)
    signal.signal(STOP, server.stop)
    signal.signal(signal.SIGALRM, server.stop)
    sys.unraisablehook = _told_unless_stopped
    # Where the window is gone there is nobody to tell anything.
    with suppress(BrokenPipeError):
        server.run()


if __name__ == "__main__":
    main()

"""The worker process: runs functions of the core one after the other and returns their results, item
by item.

Frames over the standard streams: eight bytes of length, then a pickled tuple. Only the window that started it talks to
it. A request that is not wanted any more is left at its next item; one that does not come to an item is ended with its
process by the window, which has another one ready.
"""

from __future__ import annotations

import fcntl
import importlib
import os
import pickle
import signal
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import suppress
from queue import SimpleQueue
from typing import Any, BinaryIO

from cooper.faults import LOG_LEVEL, is_fault, mark_places, record, start_log

LENGTH = 8
STAND_BACK = 5
"""How much lower the priority of a lane's process is than the window's, if the lane has no other."""
SPARE_BACK = 2
"""How much lower that of a process is which has no lane yet."""
BREATH = 0.0
"""Seconds that it rests after each result, if it is not told: on a machine of few cores the window then paints it
twice as fast."""
ROOM = 1 << 20
"""What the stream to the window holds before its reader must take something out; bytes, as much as anybody may ask
for."""
STOP, LANE, READY = "stop", "lane", "ready"
"""Requests and answers that name no function: leave a request, work for a lane, be ready to work."""
SPARE = "spare"
"""The argument of a process that waits to be used."""
USUAL = ("cooper.results.evaluate", "cooper.results.find_machine", "cooper.results.loaded_tooth")
"""What most requests need, imported by a spare process before the first one."""


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

    def __init__(self, source: BinaryIO, sink: BinaryIO) -> None:
        self.source, self.sink, self.breath = source, sink, BREATH
        self.requests: SimpleQueue[tuple[int, str, tuple[Any, ...]] | None] = SimpleQueue()
        self.unwanted: set[int] = set()
        self.alone = False

    def listen(self) -> None:
        """Read requests until the window closes the stream, those to leave another one at once."""
        while (request := read_frame(self.source)) is not None:
            if request[1] == STOP:
                self.unwanted.add(request[0])
            else:
                self.requests.put(request)
        self.alone = True
        self.requests.put(None)

    def run(self) -> None:
        """Serve until the window closes the stream."""
        threading.Thread(target=self.listen, daemon=True).start()
        while (request := self.requests.get()) is not None:
            if request[1] == LANE:
                back, self.breath = request[2]
                with suppress(OSError):
                    os.nice(back)
            else:
                self.serve(*request)

    def serve(self, number: int, function: str, args: tuple[Any, ...]) -> None:
        try:
            for item in call(function, args):
                self.send(number, "item", item)
                time.sleep(self.breath)
                if number in self.unwanted or self.alone:
                    break
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


def main() -> None:
    """Serve the process that started this one."""
    # Whoever works beside the window stands back while the hand is at work; what it starts is ended with it.
    with suppress(OSError):
        os.nice(SPARE_BACK)
        os.setpgid(0, 0)
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
    for module in USUAL if SPARE in sys.argv[1:] else ():
        importlib.import_module(module)
    # Processes that are forked from this one close their standard input, which must not be what a thread waits at.
    source = os.fdopen(os.dup(sys.stdin.fileno()), "rb")
    sys.stdin.close()
    os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
    sys.stdin = open(0)  # noqa: SIM115
    server = Server(source, sink)
    # Where the window is gone there is nobody to tell anything.
    with suppress(BrokenPipeError):
        server.send(0, READY, None)
        server.run()


if __name__ == "__main__":
    main()

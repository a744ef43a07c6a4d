"""The process beside the window: what runs there is broken off whatever it is at."""

import io
import os
import signal
import threading
import time

from cooper import helper
from cooper.helper import STOP, Server, Stopped, read_frame


def test_what_swallows_the_first_word_to_stop_hears_the_next(monkeypatch):
    heard = []

    def endless(_function, _args):
        while True:
            try:
                time.sleep(0.002)
            except Stopped:
                heard.append(time.perf_counter())
                if len(heard) > 1:
                    raise
        yield

    monkeypatch.setattr(helper, "call", endless)
    out = io.BytesIO()
    server = Server(io.BytesIO(), out)
    before = [signal.signal(number, server.stop) for number in (STOP, signal.SIGALRM)]
    try:
        threading.Timer(0.05, os.kill, (os.getpid(), STOP)).start()
        server.serve(7, "cooper.any:thing", ())
        assert len(heard) == 2
        # The next one is not broken off by what is left of that.
        monkeypatch.setattr(helper, "call", lambda _function, _args: (time.sleep(0.03) or n for n in range(4)))
        server.serve(8, "cooper.any:thing", ())
    finally:
        for number, handler in zip((STOP, signal.SIGALRM), before, strict=True):
            signal.signal(number, handler)
    out.seek(0)
    said = [read_frame(out) for _ in range(6)]
    assert said == [(7, "end", None), *((8, "item", n) for n in range(4)), (8, "end", None)]

"""From the start of the program to the painted demo, against a bare window of the toolkit: whole processes, one of
each in turn.

``python benchmarks/start.py [TIMES] [DEMO]``; settings of the person are left out.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import cooper

BARE = ["-P", str(Path(cooper.__file__).parent / "desk" / "widgets" / "bare_window.py")]
OURS = """
import gc
gc.set_threshold(200_000)
import cooper.cli
from cooper.desk.shell.app import application
from cooper.demo import demo
from cooper.desk.base.session import Session
from cooper.desk.shell.window import Window
app = application()
window = Window(Session(demo({demo!r})), recover=False)
window.resize(1280, 800)
window.show()
app.processEvents()
while window.unpainted:
    app.processEvents()
import os
os._exit(0)
"""


def seconds(text: list[str], surroundings: dict[str, str]) -> float:
    """How long a process of the interpreter takes that is told this."""
    begun = time.perf_counter()
    subprocess.run([sys.executable, *text], env=surroundings, check=True, stderr=subprocess.DEVNULL)
    return time.perf_counter() - begun


def main() -> None:
    times = int(sys.argv[1]) if len(sys.argv) > 1 else 9
    demo = sys.argv[2] if len(sys.argv) > 2 else "mirror-cover"
    with tempfile.TemporaryDirectory() as state:
        surroundings = {**os.environ, "XDG_STATE_HOME": state, "QT_QPA_PLATFORM": "offscreen"}
        ways = (BARE, ["-c", OURS.format(demo=demo)])
        for way in ways:
            seconds(way, surroundings)
        took = [[seconds(way, surroundings) for way in ways] for _ in range(times)]
    bare, ours = map(statistics.median, zip(*took, strict=True))
    print(f"bare window {bare:.3f} s, {demo} painted {ours:.3f} s, ratio {ours / bare:.2f}")


if __name__ == "__main__":
    main()

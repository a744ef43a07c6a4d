"""How long an edit takes until the window is painted again, and where the time goes.

Run: .venv/bin/python benchmarks/edit_to_paint.py
"""

from __future__ import annotations

import os
import statistics
import sys
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

from cooper.demo import demo
from cooper.design.edit import set_at
from cooper.design.evaluate import evaluate
from cooper.desk.app import application
from cooper.desk.pictures import settle
from cooper.desk.session import Session
from cooper.desk.window import Window

ROUNDS = 60


def median_ms(act) -> float:  # type: ignore[no-untyped-def]
    times = []
    for k in range(ROUNDS):
        start = time.perf_counter()
        act(k)
        times.append(1e3 * (time.perf_counter() - start))
    return statistics.median(times)


def main() -> None:
    app = application()
    design = demo()
    window = Window(Session(design))
    window.resize(1280, 800)
    window.show()
    settle()
    paths = ("train.stages.0.members.0.x", [0.30 + 0.001 * k for k in range(ROUNDS)])

    def edit(k: int) -> None:
        window.session.edit(lambda d, _r: set_at(d, paths[0], paths[1][k]), "x", "x_1")
        # The event loop does the layout and paints all that the edit asked to be painted, once.
        app.processEvents()

    alone = median_ms(lambda k: evaluate(set_at(design, *[paths[0], paths[1][k]])))
    whole = median_ms(edit)
    repaint = median_ms(lambda _k: window.repaint())
    print(f"evaluate alone         {alone:6.1f} ms")
    print(f"repaint of the window  {repaint:6.1f} ms")
    print(f"edit to painted window {whole:6.1f} ms   (ratio to evaluate {whole / alone:.2f})")


if __name__ == "__main__":
    main()

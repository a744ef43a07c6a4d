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
from cooper.desk.base.session import Session
from cooper.desk.shell.app import QApplication, application
from cooper.desk.shell.pictures import settle
from cooper.desk.shell.window import Window
from cooper.document.models import Design
from cooper.editing.edit import give_count, set_at, set_many
from cooper.results.evaluate import evaluate
from cooper.trains.counts import Bounds
from cooper.trains.two_ring_counts import two_rings

ROUNDS = 60


def median_ms(act) -> float:  # type: ignore[no-untyped-def]
    times = []
    for k in range(ROUNDS):
        start = time.perf_counter()
        act(k)
        times.append(1e3 * (time.perf_counter() - start))
    return statistics.median(times)


def ring() -> Design:
    """A pinion of 61 teeth in a ring of 200."""
    design = give_count(demo(), 0, 2, -200)
    changes = {"train.gears.gear1.z": 61, "train.duty.u_wanted": None, "train.gears.gear2.x": -0.1}
    return set_many(design, changes)


def measure(app: QApplication, name: str, design: Design) -> None:
    """Evaluation alone, the whole picture alone, and from an edit to the painted window."""
    window = Window(Session(design), recover=False)
    window.resize(1280, 800)
    window.show()
    settle()
    path, values = "train.gears.gear1.x", [0.30 + 0.001 * k for k in range(ROUNDS)]

    def painted() -> None:
        """The event loop does the layout, and in a turn of its own paints all that was asked to be painted, once."""
        app.processEvents()
        while window.unpainted:
            app.processEvents()

    def edit(k: int) -> None:
        window.session.edit(lambda d, _r: set_at(d, path, values[k]), "x", "x_1")
        painted()

    alone = median_ms(lambda k: evaluate(set_at(design, path, values[k])))
    whole = median_ms(edit)
    whole_picture = median_ms(lambda _k: window.grab())
    rolled = median_ms(lambda k: (window.bench.drawing.set_roll(0.001 * k), painted()))
    print(
        f"{name}: evaluate {alone:.1f} ms, whole picture {whole_picture:.1f} ms, edit to painted {whole:.1f} ms "
        f"(ratio to evaluate {whole / alone:.2f}), roll to painted {rolled:.1f} ms"
    )
    window.session.saved = window.session.design
    window.close()


def counts() -> None:
    """The search for tooth counts over about a million combinations, as a ratio to one evaluation."""
    at = Bounds(least=12, greatest=112, tolerance=0.2, planets=3, largest=212)
    looked = 101 * 101 * (212 - 2 * 12)
    search = median_ms(lambda _k: two_rings(60.0, at))
    one = median_ms(lambda _k: evaluate(demo("filter-wheel")))
    print(f"two rings: {looked} combinations in {search:.0f} ms, ratio to one evaluation {search / one:.1f}")


def main() -> None:
    app = application()
    measure(app, "external pair 17/41", demo())
    measure(app, "internal pair 61/200", ring())
    measure(app, "three stages: planet set and ring", demo("dome-drive"))
    counts()


if __name__ == "__main__":
    main()

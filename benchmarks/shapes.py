"""Outlines and exports of large gears: how long each takes, as ratios to the outline of the demo's wheel.

Run: .venv/bin/python benchmarks/shapes.py
"""

from __future__ import annotations

import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

from cooper.demo import demo
from cooper.editing.edit import give_count, set_many
from cooper.exchange.save import export
from cooper.gears.outline import gear_outline
from cooper.results.evaluate import evaluate


def ms(act: Callable[[], object], rounds: int) -> float:
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        act()
        times.append(1e3 * (time.perf_counter() - start))
    return statistics.median(times)


def main() -> None:
    small = evaluate(demo()).stages[0].teeth[1]
    base = ms(lambda: gear_outline(small, 0.0, 1e-3), 30)
    print(f"outline, 41 teeth, 1 um          {base:8.2f} ms")
    large = set_many(demo(), {"train.gears.gear2.z": 200, "train.duty.u_wanted": None})
    ring = set_many(give_count(large, 0, 2, -200), {"train.gears.gear2.x": -0.1})
    for name, design in (("external", large), ("internal, pinion cutter", ring)):
        tooth = evaluate(design).stages[0].teeth[1]
        for tolerance in (1e-3, 1e-5):
            took = ms(lambda tooth=tooth, tolerance=tolerance: gear_outline(tooth, 0.0, tolerance), 20)  # type: ignore[misc]
            print(f"outline, 200 teeth, {name}, {1000 * tolerance:g} um {took:8.2f} ms   ratio {took / base:6.1f}")
    helical = demo("winch")
    results = evaluate(helical)
    with tempfile.TemporaryDirectory() as folder:
        for suffix in (".dxf", ".svg", ".stl", ".3mf", ".step"):
            path = Path(folder) / f"pair{suffix}"
            took = ms(lambda path=path: export(helical, results, path), 1)  # type: ignore[misc]
            size = path.stat().st_size / 1e6
            print(f"{suffix:5} of a helical pair 19/65      {took:8.0f} ms   ratio {took / base:8.0f}   {size:6.1f} MB")


if __name__ == "__main__":
    main()

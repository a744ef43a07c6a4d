"""The machine around the gears: proposed anew, after an edit of one shaft, its checks, and the load along a face, as
ratios to the gears' evaluation.

Run: .venv/bin/python benchmarks/machine.py
"""

from __future__ import annotations

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

from timing import ms

from cooper.demo import demo
from cooper.editing.machine_edits import count_machine, in_machine
from cooper.editing.stages import split_stage
from cooper.kept import forget
from cooper.results.evaluate import GEARS, evaluate
from cooper.results.face_of_mesh import face_of_mesh
from cooper.results.find_machine import find_machine, machine_of


def main() -> None:
    two = count_machine(demo("winch"))
    three = count_machine(split_stage(two, 1))
    for name, d in (
        ("two stages", two),
        ("three stages", three),
        ("planets and a ring", count_machine(demo("dome-drive"))),
    ):
        gears = evaluate(d, GEARS)
        base = ms(lambda d=d: evaluate(d, GEARS), forget)
        anew = ms(lambda d=d, g=gears: find_machine(d.train, g), forget)
        find_machine(d.train, gears)
        key = machine_of(d.train, gears).shafts[0].key
        own = in_machine(d, (("shafts", key, "pieces", "collar", "d"), 90.0))
        edit = ms(lambda o=own, d=d, g=gears: (find_machine(d.train, g), find_machine(o.train, g)))
        print(
            f"{name:20s} gears {base:6.1f} ms   machine anew {anew:6.1f} ms ({anew / base:4.1f})   two known "
            f"{edit:6.1f} ms ({edit / base:4.1f})"
        )
    g = evaluate(two, GEARS)
    m = find_machine(two.train, g)
    print(f"load along a face {ms(lambda: face_of_mesh(two.train, g, m, 0)):6.1f} ms")


if __name__ == "__main__":
    main()

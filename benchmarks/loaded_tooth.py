"""The tooth under load: coarse and usual field, influence numbers, a mesh cycle of a helical pair with 20 slices,
the picture, as ratios to the pair's evaluation.

Run: .venv/bin/python benchmarks/loaded_tooth.py
"""

from __future__ import annotations

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

import numpy as np
from timing import ms

from cooper.demo import demo
from cooper.field.raster import raster_of, triangles_of
from cooper.field.stress_field import field_basis
from cooper.field.tooth_grid import COARSE, USUAL
from cooper.kept import forget
from cooper.results.evaluate import evaluate
from cooper.results.loaded_tooth import cycle_of, each_loaded, loaded_ask


def main() -> None:
    design = demo("winch")
    results = evaluate(design)
    ask = loaded_ask(design.train, results, 0, "nominal", True)
    pair = ms(lambda: evaluate(design), forget)
    print(f"the design evaluated: {pair:.1f} ms")
    rows = {
        "coarse field of one gear": ms(lambda: field_basis(ask.bodies[0], COARSE), forget),
        "usual field of one gear": ms(lambda: field_basis(ask.bodies[0], USUAL), forget),
        "coarse cycle with both gears": ms(lambda: cycle_of(ask, "coarse"), forget),
        "usual cycle, 20 slices, with both gears": ms(lambda: cycle_of(ask, "usual"), forget),
        "usual cycle, gears known": ms(lambda: cycle_of(ask, "usual")),
        "field and cycle, coarse and usual": ms(lambda: list(each_loaded(ask, (0,))), forget),
    }
    basis = field_basis(ask.bodies[0])
    at = (basis.nodes - basis.nodes.min(axis=0)) / np.ptp(basis.nodes, axis=0) * [170.0, 150.0]
    triangles = triangles_of(basis.elements)
    rows["shades of a picture of 170 x 150"] = ms(lambda: raster_of(at, triangles, 170, 150))
    for name, value in rows.items():
        print(f"{name}: {value:.1f} ms, {value / pair:.1f} evaluations")


if __name__ == "__main__":
    main()

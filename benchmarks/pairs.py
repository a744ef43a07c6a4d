"""Complete rating of arrays of random pairs: pairs a second without the drawing of them, memory, and the ratio to
single calls.

Run: .venv/bin/python benchmarks/pairs.py
"""

from __future__ import annotations

import resource
import sys
import time
from pathlib import Path
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import asdict, replace

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

from cooper.demo import demo
from cooper.gears.inputs import PairInput
from cooper.gears.pair import centre_distance
from cooper.memory import keep_freed_memory
from cooper.results.pair_numbers import pair_numbers
from cooper.results.solve_stage import solve_duty, solve_stage
from cooper.results.to_core import pair_input


def random_pairs(n: int, seed: int = 1) -> PairInput:
    """n pairs about the demo: counts, module, helix, shifts and widths at random, centre distance solved."""
    rng = np.random.default_rng(seed)
    design = demo()
    stage = design.train.stages[0]
    _, T, omega = solve_duty(design.train.duty)
    base = pair_input(stage, solve_stage(stage), design.train.duty, design.train.defaults, T, omega)
    z1, z2 = rng.integers(9, 40, n).astype(float), rng.integers(41, 160, n).astype(float)
    x1, x2 = rng.uniform(0, 0.5, n), rng.uniform(-0.2, 0.4, n)
    m, beta = rng.uniform(0.8, 6.0, n), np.radians(rng.uniform(0, 25, n))
    one = replace(base.gears[0], z=z1, x=x1, b=rng.uniform(6, 15, n) * m)
    two = replace(base.gears[1], z=z2, x=x2, b=rng.uniform(6, 15, n) * m)
    a_w = centre_distance(z1, z2, m, x1 + x2, base.alpha_n, beta)
    return replace(base, gears=(one, two), m_n=m, beta=beta, a_w=a_w)


def pick(value: Any, n: int, k: int) -> Any:
    """The k-th pair of an array of n, as scalars."""
    if isinstance(value, Struct):
        return type(value)(**{name: pick(v, n, k) for name, v in asdict(value).items()})
    if value is None:
        return None
    if isinstance(value, tuple):
        return tuple(pick(v, n, k) for v in value)
    array = np.asarray(value)
    return array[..., k] if array.ndim and array.shape[-1] == n else array


def main() -> None:
    keep_freed_memory()
    with np.errstate(all="ignore"):
        few = random_pairs(300)
        start = time.perf_counter()
        for k in range(300):
            pair_numbers(pick(few, 300, k))
        single = (time.perf_counter() - start) / 300
        print(f"one by one      {1 / single:10.0f} pairs/s")
        for n in (10_000, 100_000, 1_000_000):
            block, took = 20_000, 0.0
            for k in range(0, n, block):
                some = random_pairs(min(block, n), seed=k)
                start = time.perf_counter()
                pair_numbers(some)
                took += time.perf_counter() - start
            memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
            print(f"{n:9d} pairs {n / took:10.0f} pairs/s   {n / took * single:6.0f} times single   {memory:6.0f} MB")


if __name__ == "__main__":
    main()

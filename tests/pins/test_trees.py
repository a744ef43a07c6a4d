"""Every number of every demo at ten digits, as `tools/write_trees.py` wrote it: what moves shows as a difference to be read."""

from pathlib import Path

import pytest

from cooper.demo import DEMOS, demo
from cooper.results.evaluate import evaluate
from pins.tree_lines import tree_lines

TREES = Path(__file__).parent / "trees"


def same(line: str, other: str) -> bool:
    if line == other:
        return True
    (path, _, value), (where, _, kept) = line.partition(" = "), other.partition(" = ")
    try:
        return path == where and abs(float(value) - float(kept)) <= 2e-9 * abs(float(kept)) + 1e-12
    except ValueError:
        return False


@pytest.mark.parametrize("name", DEMOS)
def test_the_numbers_of_a_demo_stand_where_they_stood(name):
    kept = (TREES / f"{name}.txt").read_text(encoding="utf-8").splitlines()
    found = list(tree_lines(evaluate(demo(name)).as_tree()))
    moved = [f"{b!r} was {a!r}" for a, b in zip(kept, found, strict=False) if not same(b, a)]
    assert not moved, "\n".join(moved[:20])
    assert len(kept) == len(found)

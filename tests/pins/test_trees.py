"""Every number of every demo at ten digits, as `tools/write_trees.py` wrote it, and of designs and teeth that no
demo has: what moves shows as a difference to be read."""

from pathlib import Path

import pytest

from cooper.demo import DEMOS, demo
from cooper.results.evaluate import evaluate
from pins.odd_designs import odd_designs, odd_lines
from pins.odd_teeth import tree_of_teeth
from pins.tree_lines import tree_lines

TREES = Path(__file__).parent / "trees"


def near(one: str, other: str) -> bool:
    if one == other:
        return True
    try:
        return abs(float(one) - float(other)) <= 2e-9 * abs(float(other)) + 1e-12
    except ValueError:
        return False


def same(line: str, other: str) -> bool:
    one, two = line.split(" "), other.split(" ")
    return line == other or (len(one) == len(two) and all(map(near, one, two)))


def hold(name, result):
    kept = (TREES / f"{name}.txt").read_text(encoding="utf-8").splitlines()
    moved = [f"{b!r} was {a!r}" for a, b in zip(kept, result, strict=False) if not same(b, a)]
    assert not moved, "\n".join(moved[:20])
    assert len(kept) == len(result)


@pytest.mark.parametrize("name", DEMOS)
def test_the_numbers_of_a_demo_stand_where_they_stood(name):
    hold(name, list(tree_lines(evaluate(demo(name)).as_tree())))


def test_the_numbers_of_designs_that_no_demo_has_stand_where_they_stood():
    hold("odd-designs", list(odd_lines()))


def test_the_numbers_of_teeth_and_trains_stand_where_they_stood():
    hold("odd-teeth", list(tree_lines(tree_of_teeth(odd_designs()))))

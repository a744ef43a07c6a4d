"""Results are the same with what is kept from before and without."""

import random

import pytest

from cooper.demo import DEMOS, demo
from cooper.editing.formulas import all_fields
from cooper.errors import OutOfRange
from cooper.kept import Kept, nothing_kept
from cooper.results.evaluate import evaluate
from pins.tree_lines import tree_lines

EDITS = 6


def edited(design, results, rng):
    """The design after one edit at random, of any field and by up to a fifth; the same where it cannot be."""
    fields = all_fields(design)
    field = fields[rng.choice(sorted(fields))]
    value = field.read(design, results)
    if value is None:
        return design
    wanted = value * (1 + rng.uniform(-0.2, 0.2)) if value % 1 else value + rng.choice((-1, 1))
    try:
        return field.give(design, results, wanted)
    except OutOfRange:
        return design


def told(design):
    try:
        return list(tree_lines(evaluate(design).as_tree()))
    except OutOfRange as fault:
        return [str(fault)]


@pytest.mark.parametrize("name", DEMOS)
def test_results_with_and_without_what_is_kept_are_the_same(name):
    rng, design = random.Random(name), demo(name)
    for _ in range(EDITS):
        kept = told(design)
        with nothing_kept():
            assert told(design) == kept
            assert all(not one._rows for one in Kept.every)
        try:
            design = edited(design, evaluate(design), rng)
        except OutOfRange:
            design = demo(name)

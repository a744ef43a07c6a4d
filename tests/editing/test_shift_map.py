"""The map of shifts says at each point what evaluating that very pair says."""

import numpy as np
import pytest

from cooper.editing.edit import set_many
from cooper.editing.shift_map import shift_map, zero_line
from cooper.errors import OutOfRange
from cooper.results.evaluate import evaluate
from makers import pair


def at(design, x_1, x_2):
    return set_many(design, {"train.gears.gear1.x": x_1, "train.gears.gear2.x": x_2})


def test_margins_of_the_map_are_those_of_the_pair_there():
    design = pair(14, 33, 0.2, 0.1)
    field = shift_map(design, evaluate(design), 0)
    rng = np.random.default_rng(5)
    seen = 0
    for i, k in rng.integers(0, len(field.x), (60, 2)):
        here = {name: m[i, k] for name, m in field.margins.items()}
        try:
            r = evaluate(at(design, float(field.x[k]), float(field.x[i])))
        except OutOfRange:
            assert min(here.values()) < 0
            continue
        seen += 1
        checks = {c.key.split(".")[1]: c.margin for c in r.checks}
        assert here["contact ratio"] == pytest.approx(checks["eps_alpha"], rel=1e-9)
        for g in (1, 2):
            assert here[f"tip land {g}"] == pytest.approx(checks[f"s_anE{g}"], rel=1e-9)
            gear = r.stages[0].gears[g - 1]
            assert (here[f"undercut {g}"] < 0) == bool(gear["undercut"])
            if not gear["undercut"]:
                assert here[f"flank reach {g}"] == pytest.approx(checks[f"c_F{g}"], rel=1e-9)
        assert field.level[i, k] == pytest.approx(
            r.stages[0].gears[0]["zeta_f"] - r.stages[0].gears[1]["zeta_f"], rel=1e-9
        )
    assert seen > 10


def test_the_map_forgets_the_present_shifts_and_who_is_given():
    one, two = pair(17, 41, 0.32, 0.12), pair(17, 41, -0.1, 0.4)
    a, b = (shift_map(d, evaluate(d), 0) for d in (one, two))
    for name, margins in a.margins.items():
        assert np.array_equal(margins, b.margins[name])


def test_zero_lines_lie_on_the_zeros_of_a_known_field():
    axis = np.linspace(-1, 1, 81)
    x, y = np.meshgrid(axis, axis)
    segments = zero_line(axis, x**2 + y**2 - 0.5)
    assert np.hypot(segments[..., 0], segments[..., 1]) == pytest.approx(
        np.full(segments.shape[:2], np.sqrt(0.5)), abs=1e-3
    )
    length = np.hypot(*(segments[:, 1] - segments[:, 0]).T).sum()
    assert length == pytest.approx(2 * np.pi * np.sqrt(0.5), rel=1e-3)
    assert len(zero_line(axis, x * 0 + 1.0)) == 0

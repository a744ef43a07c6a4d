"""An arrangement that the program does not know, made here of one shape, is rated, posed, listed, kept and laid out:
stepped planets on two suns, without a ring."""

import numpy as np
import pytest
from shapely.geometry import Polygon

from cooper.document.store import design_text, read_design
from cooper.editing import make_sets
from cooper.editing.edit import set_many
from cooper.editing.make_sets import give_counts, roles, with_roles, with_set, without_set
from cooper.editing.set_fields import set_parts
from cooper.errors import OutOfRange
from cooper.gears.outline import gear_outline
from cooper.kinds.arranged import Arrangement
from cooper.kinds.known import ARRANGED
from cooper.results.evaluate import evaluate
from cooper.results.find_machine import find_machine
from cooper.results.pose import pose
from makers import pair

TWO_SUNS = Arrangement(
    label="Two suns",
    words="two suns on stepped planets",
    members=("sun", "planet", "sun 2", "carrier"),
    meshes=((0, 1), (1, 2)),
    roles=(("sun", "planet"), ("planet", "sun 2")),
    shafts=("sun", "carrier", "sun 2"),
    same={},
    inward={(0, 0): False, (0, 1): False, (1, 0): False, (1, 1): False},
    parts=(("sun", (0, 0)), ("planets, lower", (0, 1)), ("planets, upper", (1, 0)), ("sun 2", (1, 1))),
    # Both suns push the planet outwards, and against each other across.
    across=(1, -1),
)


@pytest.fixture
def suns(monkeypatch):
    def made(sun, planet, mesh, m_n):
        one, two, upper, lower = 30, 40, 32, 38
        first = make_sets.Stage((sun.replace_unchecked(z=one), planet.replace_unchecked(z=two)), mesh)
        gears = (
            planet.replace_unchecked(id="", name="upper", z=upper),
            sun.replace_unchecked(id="", name="sun 2", z=lower, x=None),
        )
        second = make_sets.Stage(gears, make_sets._far(mesh))
        return first, second, {"held": "sun 2", "input": "sun", "output": "carrier"}

    monkeypatch.setitem(ARRANGED, "two suns", TWO_SUNS)
    monkeypatch.setitem(make_sets.NEW, "two suns", made)
    design = with_set(set_many(pair(), {"train.duty.u_wanted": None}), 0, "two suns")
    return set_many(design, {f"train.gears.{key}.b": 12.0 for key in design.train.gears})


def test_its_ratio_torques_and_roles_are_those_of_willis(suns):
    results = evaluate(suns)
    one = results.sets[0]
    (a, b), (c, d) = ((int(g.z) for g in s.gears) for s in results.stages)
    fixed = b * d / (a * c)
    assert one.values.u == pytest.approx(1 - fixed, rel=1e-12)
    sun, arm = one.shafts["sun"], one.shafts["carrier"]
    assert abs(arm["T"] * arm["n"]) == pytest.approx(one.values.eta_set * abs(sun["T"] * sun["n"]), rel=1e-9)
    assert sum(v["T"] for v in one.shafts.values()) == pytest.approx(0.0, abs=1e-9 * abs(arm["T"]))
    assert len(roles(suns.train.placed[0])) == 6
    turned = evaluate(with_roles(suns, 0, ("carrier", "sun", "sun 2"))).sets[0]
    assert turned.values.u == pytest.approx(1 / (1 - fixed), rel=1e-12)


def test_its_planets_stand_where_both_suns_let_them_and_touch_neither(suns):
    design = set_many(suns, {"train.sets.set1.planets": 2})
    results = evaluate(design)
    at = pose(results, 0.3)
    assert [g.member for g in at.gears] == ["sun", "sun 2", "planet", "planet", "planet", "planet"]

    def solid(g):
        outline = gear_outline(results.stages[g.stage].teeth[g.i], g.angle, 2e-3) + np.array([g.x, g.y])
        return Polygon(outline).buffer(0)

    for k in (0, 1):
        central = next(solid(g) for g in at.gears if g.stage == k and g.planet is None)
        for g in at.gears:
            if g.stage == k and g.planet is not None:
                assert solid(g).intersection(central).area < 1e-3
                assert solid(g).distance(central) < 0.2


def test_it_is_kept_edited_listed_laid_out_and_taken_apart(suns):
    assert read_design(design_text(suns)) == suns
    assert [p.name for p in set_parts(suns, 0)] == ["the set", "sun", "planets, lower", "planets, upper", "sun 2"]
    other = give_counts(suns, 0, (29, 41, 32, 38))
    assert [g.z for s in other.train.stages for g in s.gears] == [29, 41, 32, 38]
    machine = find_machine(suns.train, evaluate(suns))
    assert {s.name for s in machine.shafts}
    assert len(machine.pins) == 1
    with pytest.raises(OutOfRange, match="no shaft"):
        set_many(suns, {"train.sets.set1.held": "ring"})
    with pytest.raises(OutOfRange, match="no arrangement"):
        set_many(suns, {"train.sets.set1.kind": "three suns"})
    assert len(without_set(suns, 0).train.placed) == 0

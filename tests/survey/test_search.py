"""The survey against brute force: every candidate of small searches as a design of its own under `evaluate`."""

import numpy as np
import pytest

from cooper.document.duty import Duty
from cooper.document.survey_spec import ARRANGEMENTS, asked
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.results.evaluate import QUICK, evaluate
from cooper.stock.series import modules
from cooper.survey.count_tables import MOST_ROWS, ModulePairs, chain_counts, planet_counts, two_ring_counts
from cooper.survey.design_batch import DesignBatch
from cooper.survey.patterns import from_duty
from cooper.survey.plan import Plan, plan
from cooper.survey.rules import LOADED, RULES
from cooper.survey.search import run, search
from cooper.survey.task import at_once

DUTY = Duty(P=4000, n=1450, u_wanted=4.0, u_tol=2.0, L_h=5000, K_A=1.25)


def batches(question, duty=DUTY, workers=1):
    made, *result = search(question, from_duty(duty, question.process), workers)
    assert isinstance(made, Plan)
    return made, result


def checked(design):
    """The rules that a design breaks, by `evaluate`."""
    try:
        results = evaluate(design, QUICK)
    except OutOfRange:
        return {"made"}
    if not all(s.rated for s in results.stages):
        return {"made"}
    broken = {c.symbol for c in results.checks if c.margin < 0}
    if any(g.undercut for s in results.stages for g in s.gears):
        broken.add("undercut")
    return broken


SMALL = {
    "z_least": 18,
    "z_pinion": 20,
    "z_most": 84,
    "modules": (1.5, 2.0, 2.5),
    "beta_low": 0.0,
    "beta_high": 12.0,
    "beta_step": 12.0,
    "x_low": 0.0,
    "x_high": 0.4,
    "x_step": 0.4,
    "widths": "stepped",
    "b_steps": 2,
    "shown": ("factor", "clash"),
}


@pytest.mark.parametrize(
    ("arrangement", "process", "duty"),
    [
        ("pair", "ground", DUTY),
        ("pair", "cut", DUTY.replace_unchecked(u_wanted=0.25, P=700)),
        ("internal", "cut", DUTY.replace_unchecked(P=1500)),
        ("planet set", "cut", DUTY.replace_unchecked(u_wanted=4.5, P=1000)),
        ("two stages", "ground", DUTY.replace_unchecked(u_wanted=9.0, u_tol=0.6)),
        ("stepped planets", "cut", DUTY.replace_unchecked(u_wanted=8.0, P=700)),
        ("two rings", "cut", DUTY.replace_unchecked(u_wanted=30.0, u_tol=1.0, P=200)),
    ],
)
def test_exhaustive_searches_find_what_brute_force_finds(arrangement, process, duty):
    sets = {} if arrangement == "planet set" else {"planets": (3,)}
    question = asked(process=process, arrangements=(arrangement,), **SMALL, **sets)
    made, result = batches(question, duty)
    kept = {}
    for batch in result:
        for row in range(len(batch)):
            key = (batch.pattern, tuple(batch.columns[p][row] for p in sorted(batch.columns)))
            kept[key] = True
    rng = np.random.default_rng(1)
    looked = survivors = 0
    for i, space in enumerate(made.spaces):
        numbers = np.sort(rng.permutation(space.size)[:90])
        block, early = space.block(numbers)
        good = np.ones(len(numbers), dtype=bool)
        for rule, mask in early.items():
            assert rule in RULES
            if rule not in question.shown:
                good &= np.broadcast_to(mask, good.shape)
        for row in np.flatnonzero(good):
            key = (i, tuple(block.columns[p][row] for p in sorted(block.columns)))
            broken = checked(block.design_at(int(row)))
            looked += 1
            survivors += not broken
            assert (key in kept) == (not broken), (arrangement, row, broken)
    assert looked > 40
    assert survivors > 0
    # Nothing is lost on the way: what was looked at was taken away by a rule or found.
    gone = sum(sum(b.gone.values()) for b in result)
    assert sum(b.looked for b in result) == gone + sum(len(b) for b in result)
    counted = sum(made.gone().values())
    assert made.possible == pytest.approx(counted + sum(s.size for s in made.spaces), rel=1e-9)


@pytest.mark.parametrize("arrangement", [a for a in ARRANGEMENTS if a not in ("idler",)])
def test_widths_are_the_least_that_hold_and_numbers_are_those_of_evaluate(arrangement):
    high = {"two rings": 30.0, "two rings, sun": 90.0, "three stages": 30.0, "two stages": 11.0}
    u = high.get(arrangement, 11.0 if "coaxial" in arrangement else 5.0)
    rings = arrangement.startswith("two rings")
    heavy = "stages" in arrangement or arrangement.startswith("stepped")
    duty = Duty(P=300 if rings else 9000 if heavy else 3000, n=1450, u_wanted=u, u_tol=3.0, L_h=3000)
    question = asked(
        process="ground",
        arrangements=(arrangement,),
        shown=("factor", "clash"),
        z_least=18,
        beta_step=20.0,
        most=1500,
        b_m_low=3.0,
    )
    made, result = batches(question, duty)
    rng = np.random.default_rng(3)
    rows = [(b, k) for b in result for k in range(len(b))]
    assert len(rows) > 20, arrangement
    narrow = 0
    for n in rng.permutation(len(rows))[:14]:
        batch, k = rows[n]
        block = DesignBatch(made.spaces[batch.pattern].design, {p: v[[k]] for p, v in batch.columns.items()})
        design = block.design_at(0)
        results = evaluate(design)
        assert min(c.margin for c in results.checks if c.symbol != "du") >= 0 or not all(
            s.rated for s in results.stages
        )
        assert batch.values["worst"][k] == pytest.approx(min(c.margin for c in results.checks), rel=1e-9, abs=1e-9)
        assert batch.values["u"][k] == pytest.approx(results.train.u, rel=1e-9)
        assert batch.values["eta"][k] == pytest.approx(results.train.eta, rel=1e-9)
        roots = [c.value for c in results.checks if c.symbol == "S_F"]
        assert batch.values["S_F"][k] == pytest.approx(min(roots), rel=1e-9)
        # Five per cent less of every width that is above its least fails.
        widths = {p: batch.columns[p][k] for p in batch.columns if p.endswith(".b")}
        module = {f"{p}.b": batch.columns[f"{s.path}.m_n"][k] for s in design.train.stages for p in s.paths}
        least = {p: question.b_m_low * module[p] for p in widths}
        if all(b > 1.08 * least[p] + 0.2 for p, b in widths.items()):
            thinner = set_many(design, {p: 0.95 * (b - 0.1) for p, b in widths.items()})
            broken = checked(thinner)
            assert broken & (LOADED | {"CHD"}), (arrangement, widths)
            narrow += 1
    assert narrow > 0 or rings


def test_counts_against_plain_loops():
    q = asked(z_least=17, z_pinion=22, z_most=60, z_ring=120, arrangements=("planet set",), shown=())
    result = {tuple(row) for row in planet_counts(q, 5.0, 1.0, ("sun", "carrier", "ring"), 3).z.tolist()}
    wanted = set()
    for s in range(17, 23):
        for p in range(17, 61):
            for odd in (0, 1):
                r = s + 2 * p + odd
                if r > 120 or abs((1 + r / s) / 5 - 1) > 0.01 + 1e-9 or (s + r) % 3:
                    continue
                if np.gcd(s, p) == 1 and np.gcd(p, r) == 1 and (s + p) * np.sin(np.pi / 3) > p + 0.1:
                    wanted.add((s, p, r))
    assert result == wanted
    assert wanted
    chain = chain_counts(q.replace_unchecked(z_most=90), 12.0, 0.5, 2)
    mean = 12**0.5
    loops = set()
    for a in range(17, 23):
        for b in range(17, 91):
            if not mean * 0.96 <= b / a <= mean * q.lean**0.5 * 1.04:
                continue
            for c in range(17, 23):
                for d in range(17, 91):
                    r = d / c
                    near = mean * q.lean**-0.5 * 0.96 <= r <= mean * 1.04 and abs(b / a * r / 12 - 1) <= 0.005
                    if near and np.gcd(a, b) == 1 and np.gcd(c, d) == 1:
                        loops.add((a, b, c, d))
    assert {tuple(row) for row in chain.z.tolist()} == loops
    two = ModulePairs(np.array([2.0, 2.0, 4.0]), np.array([0.0, 1.0, 0.0]), np.array([1.0, 0.8, 1.0]))
    rings = two_ring_counts(q.replace_unchecked(shown=("factor",)), 40.0, 1.0, False, 3, two)
    for (a, r, b, t), m, grow in zip(rings.z.tolist(), rings.own["m"], rings.own["grow 1"], strict=True):
        assert abs(abs(1 / (1 - r * b / (a * t))) / 40 - 1) <= 0.0101
        assert abs((r - a) * (0.8 if grow else 1.0) - (t - b)) <= 0.5 and (m, grow) != (4.0, 1.0)
    assert {(m, g) for m, g in zip(rings.own["m"], rings.own["grow 1"], strict=True)} == {(2, 0), (2, 1), (4, 0)}


@pytest.mark.parametrize("arrangement", ["stepped planets", "two rings"])
def test_a_set_with_two_modules_is_closed_in_on_and_held_in_bounded_tables(arrangement):
    u = 8.0 if arrangement == "stepped planets" else 30.0
    duty = DUTY.replace_unchecked(P=300.0, u_wanted=u, u_tol=2.0)
    question = asked(process="cut", arrangements=(arrangement,), planets=(3,), most=1500)
    result = at_once(question, from_duty(duty, "cut"))
    designs = (result.design(n) for n in range(len(result)))
    two = next(d for d in designs if len({s.mesh.m_n for s in d.train.stages[:2]}) == 2)
    near = at_once(question, two, 0)
    # Two rings hardly have a neighbour of the same ratio.
    assert len(near) > (5 if arrangement == "stepped planets" else 0)
    ratios = {
        d.train.stages[1].mesh.m_n / d.train.stages[0].mesh.m_n for d in map(near.design, range(min(5, len(near))))
    }
    assert min(ratios) > 1
    # Where any ratio will do the tables stay as small as others.
    free = plan(question.replace_unchecked(shown=("ratio", "even", "factor")), from_duty(duty, "cut"))
    for space in free.spaces:
        assert len(space.table.z) <= MOST_ROWS and space.table.thinned > 1
        assert len(space.table.own["m"]) == len(space.table.z)


def test_what_cannot_be_searched_is_refused_with_its_reason():
    base = from_duty(DUTY, "cut")
    with pytest.raises(OutOfRange, match="no module"):
        plan(asked(modules=(0.77,), m_low=1.0, m_high=2.0), base)
    with pytest.raises(OutOfRange, match="wanted ratio"):
        plan(asked(), set_many(base, {"train.duty.u_wanted": None}))
    with pytest.raises(ValueError, match="lies above"):
        asked(z_least=30, z_pinion=20)
    with pytest.raises(ValueError, match="wanted centre distance"):
        asked(arrangements=("idler",))
    with pytest.raises(ValueError, match="leave one of them empty"):
        asked(m_step=0.05, modules=(2.0,))
    with pytest.raises(ValueError, match="at most 400"):
        asked(m_low=1.0, m_high=6.0, m_step=0.001)
    fine = asked(arrangements=("three stages",), beta_step=0.001, x_step=0.0001)
    with pytest.raises(OutOfRange, match="candidates"):
        plan(fine, base)
    # A ratio of 1 with a ring has no counts: nothing is found, and the rule that took all says so.
    made, result = batches(asked(arrangements=("internal",)), DUTY.replace_unchecked(u_wanted=1.0))
    assert sum(len(b) for b in result) == 0
    assert made.gone()["ratio"] > 0


def test_modules_by_a_step_leave_the_series_and_grow_from_stage_to_stage():
    duty = DUTY.replace_unchecked(u_wanted=9.0)
    bounds = {**SMALL, "modules": (), "m_low": 1.5, "m_high": 2.6, "m_step": 0.07}
    _, result = batches(asked(process="ground", arrangements=("two stages",), **bounds), duty)
    one, two = (np.concatenate([b.columns[f"train.meshes.stage{k + 1}.m_n"] for b in result if len(b)]) for k in (0, 1))
    grid = {round(1.5 + 0.07 * k, 9) for k in range(16)} | {2.6}
    assert len({*one.tolist()} - {*modules()}) > 5
    assert {*one.tolist(), *two.tolist()} <= grid
    # Grown by steps as the standard series has them, about 12 %, or what the step allows.
    assert np.all(two >= one)
    assert np.max(two / one) > 1.12**3 - 1e-9


def test_several_processes_find_the_same_and_end_when_they_are_not_wanted():
    question = asked(process="ground", arrangements=("pair",), **{**SMALL, "z_pinion": 40, "modules": (), "b_steps": 6})
    made = plan(question, from_duty(DUTY, "ground"))

    def rows(result):
        return sorted(
            (b.pattern, *(float(v) for v in row)) for b in result for row in np.stack(list(b.columns.values()), axis=1)
        )

    assert made.size > 4096
    assert rows(run(made, 2)) == rows(run(made, 1))
    some = run(made, 2)
    next(some)
    some.close()


def test_shifts_by_rule_do_what_the_rule_says():
    """Equal root safeties, equal sliding, no more than undercut asks for, none: seen in what `evaluate` gives."""
    base = from_duty(DUTY, "ground")
    small = {"z_least": 14, "z_pinion": 22, "modules": (2.0, 2.5, 3.0), "beta_high": 0.0, "x_high": 0.4, "x_step": 0.4}
    apart = {}
    for rule in ("root", "sliding", "least", "none"):
        made, *result = search(
            asked(process="ground", arrangements=("pair",), share=rule, shown=("factor", "undercut"), **small), base, 1
        )
        roots, slides, shifts = [], [], []
        for batch in result:
            block = DesignBatch(made.spaces[batch.pattern].design, batch.columns)
            for row in range(0, len(batch), 3):
                stage = evaluate(block.design_at(row), QUICK).stages[0]
                one, two = stage.gears
                roots.append(abs(np.log(one.S_F / two.S_F)))
                slides.append(abs(one.zeta_f - two.zeta_f))
                shifts.append((one.x, one.x_min + one.x - one.x_E, stage.mesh.x_sum))
        assert len(roots) > 20, rule
        apart[rule] = (np.median(roots), np.median(slides))
        if rule == "none":
            assert all(
                x == pytest.approx(max(0.0, np.ceil(1000 * least) / 1000), abs=2e-3)
                for x, least, total in shifts
                if total == 0
            )
        if rule == "least":
            assert all(x >= least - 1e-3 for x, least, _ in shifts)
    assert apart["root"][0] < 0.01 < apart["sliding"][0]
    assert apart["sliding"][1] < 0.02 < apart["root"][1]

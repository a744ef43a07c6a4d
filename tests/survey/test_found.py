"""What a survey found: bounds that take nothing away that holds, the edge, filters, packing, closing in, what would
have to give."""

import csv

import numpy as np
import openpyxl
import pytest

from cooper.demo import DEMOS, demo
from cooper.document.duty import Duty
from cooper.document.store import open_design, save_design
from cooper.document.survey_spec import asked
from cooper.editing.edit import set_many
from cooper.errors import OutOfRange
from cooper.exchange.survey_table import save_survey
from cooper.results.evaluate import QUICK, evaluate
from cooper.survey.criteria import CRITERIA
from cooper.survey.filters import chosen
from cooper.survey.pareto_front import pareto_front
from cooper.survey.patterns import customary_words, from_duty
from cooper.survey.plan import plan
from cooper.survey.rated import Load, strength
from cooper.survey.relax import each_relaxed
from cooper.survey.rounding import each_rounded, mass_of
from cooper.survey.survey_result import SurveyResult, packed, reopened, survey_of, unpacked
from cooper.survey.task import at_once, numbers_of
from cooper.survey.too_weak import too_weak

DUTY = Duty(P=4000, n=1450, u_wanted=4.0, u_tol=2.0, L_h=5000, K_A=1.25)


@pytest.fixture(scope="module")
def result():
    base = from_duty(DUTY, "ground")
    question = asked(process="ground", arrangements=("pair", "planet set"), z_pinion=24, shown=("factor",))
    return base, at_once(question, base)


@pytest.mark.parametrize("process", ["cut", "ground"])
@pytest.mark.parametrize("arrangement", ["pair", "internal", "two stages", "double helix"])
def test_what_is_called_too_weak_never_holds(process, arrangement):
    base = from_duty(DUTY.replace_unchecked(P=15000), process)
    made = plan(asked(process=process, arrangements=(arrangement,), shown=("factor",)), base)
    weak_ones = 0
    for space in made.spaces:
        block, _ = space.block(np.linspace(0, space.size - 1, 600).astype(np.int64))
        rng = np.random.default_rng(5)
        n = len(block)
        narrower = {
            p: np.maximum(v * rng.uniform(0.3, 1.0, n), 0.5) for p, v in block.columns.items() if p.endswith(".b")
        }
        block = block.more(narrower)
        load = Load(rng.uniform(5, 400, n), rng.uniform(5, 300, n))
        with np.errstate(all="ignore"):
            checks, _, _ = strength(block, 0, load, whole=False)
            weak = too_weak(block.pair(0, load.T, load.omega), 1.0)
        margin = next(c.margin for c in checks if c.symbol == "S_H" and c.index == 1)
        assert not np.any(weak & (margin >= 0))
        weak_ones += int(np.sum(weak))
    assert weak_ones > 20


def test_edge_against_every_pair():
    rng = np.random.default_rng(2)
    values = {"mass": rng.integers(0, 40, 400) / 10, "worst": rng.integers(0, 40, 400) / 100, "length": rng.random(400)}
    values["length"][7] = np.nan
    for x, y in (("mass", "worst"), ("length", "mass"), ("worst", "length")):
        a, b = (values[k] * -float(CRITERIA[k].better) for k in (x, y))
        edge = set(pareto_front(values, x, y).tolist())
        points = {(a[n], b[n]) for n in edge}
        for n in range(400):
            if np.isnan(a[n]) or np.isnan(b[n]):
                assert n not in edge
                continue
            beaten = np.any((a <= a[n]) & (b <= b[n]) & ((a < a[n]) | (b < b[n])))
            assert beaten != ((a[n], b[n]) in points)


def test_filters_and_their_refusals(result):
    _, all_ = result
    v = all_.values
    assert np.array_equal(chosen(all_, "m_n<3, S_F>=1.5"), (v["m_n"] < 3) & (v["S_F"] >= 1.5))
    assert np.array_equal(chosen(all_, "worst>=5% helical"), (v["worst"] >= 0.05) & (v["beta"] > 0))
    assert np.array_equal(
        chosen(all_, "not planet z_1=20"),
        np.array(["planet" not in all_.label(n) for n in range(len(all_))]) & (v["z_1"] == 20),
    )
    for text, reason in (
        ("m_x<3", "no quantity"),
        ("m_n<", "no arrangement"),
        ("m_n<three", "number is needed"),
        ("purple", "no arrangement"),
        ("<>", "condition"),
    ):
        with pytest.raises(OutOfRange, match=reason):
            chosen(all_, text)


def test_kept_with_the_document_and_read_again_to_the_same_numbers(result, tmp_path):
    base, all_ = result
    kept = base.replace_unchecked(survey=survey_of(all_, base))
    path = tmp_path / "kept.cooper.json"
    save_design(kept, path)
    again = open_design(path)
    assert again == kept
    first, *batches = reopened(again.survey)
    assert isinstance(first, SurveyResult)
    for batch in batches:
        first.add(batch)
    assert len(first) == len(all_)
    assert again.survey.possible == all_.possible
    order = [np.lexsort((f.values["mass"], f.values["u"], f.values["worst"])) for f in (first, all_)]
    for key in ("mass", "S_F", "S_H", "worst", "eta", "length", "cost"):
        assert np.allclose(first.values[key][order[0]], all_.values[key][order[1]], rtol=1e-9, equal_nan=True), key
    # Any of them is a design, with the survey in it.
    design = first.design(3, again)
    assert design.survey == again.survey
    assert min(c.margin for c in evaluate(design).checks) == pytest.approx(first.values["worst"][3], abs=1e-9)
    assert again.survey.stale(DUTY.replace_unchecked(L_h=1.0)) == ("L_h",)
    # Fewer are kept where there are many: those on the edge of mass and margin are among them.
    few = unpacked(again.survey.replace_unchecked(found=packed(all_, 60)))
    assert len(few) == 60
    edge = pareto_front(all_.values, "mass", "worst")
    assert len(edge) < 60


@pytest.mark.parametrize(
    "broken",
    [
        "",
        "no base64 at all",
        "aGVsbG8=",
        "eJyLrlZKSS3OTM9TslKortVRUErOzynNzSsGcZUqgGS0YWxtbSwAAQUMow==",
        "eJyrVspPylKyUqpWyk4tUrJSMlSqBQAvPQUM=",
    ],
)
def test_a_broken_survey_in_a_file_is_told_and_harms_nothing(result, broken):
    base, all_ = result
    survey = survey_of(all_, base).replace_unchecked(found=broken)
    if not broken:
        assert len(unpacked(survey)) == 0
        return
    with pytest.raises(OutOfRange, match="cannot be read"):
        unpacked(survey)


def test_tables_read_back_by_other_readers(result, tmp_path):
    _, all_ = result
    rows = [4, 0, 2]
    save_survey(all_, tmp_path / "t.csv", ["mass", "S_F"], rows)
    with open(tmp_path / "t.csv", newline="", encoding="utf-8") as file:
        lines = list(csv.reader(file))
    assert lines[0][-2:] == ["mass [kg]", "S_F"]
    assert [float(line[-2]) for line in lines[1:]] == [all_.values["mass"][n] for n in rows]
    save_survey(all_, tmp_path / "t.xlsx", None, rows)
    book = openpyxl.load_workbook(tmp_path / "t.xlsx")
    sheet = book["Designs"]
    heads = [c.value for c in sheet[1]]
    assert sheet.cell(2, heads.index("mass [kg]") + 1).value == pytest.approx(all_.values["mass"][4])
    assert any("taken away" in str(c.value) for c in book["What was searched"]["A"])
    with pytest.raises(ValueError, match="written as"):
        save_survey(all_, tmp_path / "t.docx")


@pytest.mark.parametrize("name", [n for n in DEMOS if n not in ("dome-rack",)])
def test_closing_in_finds_designs_around_the_present_one(name):
    design = demo(name)
    now = numbers_of(design)
    results = evaluate(design)
    # What is chosen among are gears: those of the machine around them are checked once it is there.
    assert now["worst"] == pytest.approx(min(c.margin for c in results.checks if not c.part), abs=1e-9)
    assert now["mass"] == pytest.approx(mass_of(design, results), rel=1e-9)
    everything = ("factor", "clash", "S_H", "S_F", "S_Hst", "S_Heq", "S_Feq", "lambda_t", "c_F", "undercut")
    result = at_once(
        asked(shown=everything, most=400, b_m_low=3.0, b_d_high=3.0, widths="stepped", b_steps=1), design, 0
    )
    if name != "filter-wheel":
        assert len(result), result.gone
    for n in range(0, len(result), max(len(result) // 4, 1)):
        near = evaluate(result.design(n), QUICK)
        assert result.values["worst"][n] == pytest.approx(min(c.margin for c in near.checks), rel=1e-9, abs=1e-9)
        assert near.train.u == pytest.approx(design.train.duty.u_wanted or results.train.u, rel=0.021)


def test_what_is_taken_keeps_what_is_the_designs_own():
    own = set_many(
        demo("winch"),
        {
            "train.losses.A_h": 0.4,
            "train.losses.counted": "all",
            "train.losses.oil_by_balance": True,
            "train.duty.u_wanted": None,
        },
    )
    own = own.replace_unchecked(formulas={"stage1.b_1": "b_stage + 1"}, names={"b_stage": "13"})
    result = at_once(asked(shown=("factor", "clash"), most=200, b_m_low=3.0), own, 1)
    assert len(result)
    taken = result.design(0, own, around=True)
    assert (taken.train.duty, taken.train.losses, taken.train.defaults) == (
        own.train.duty,
        own.train.losses,
        own.train.defaults,
    )
    assert (taken.formulas, taken.names, taken.name, taken.survey) == (own.formulas, own.names, own.name, own.survey)
    assert taken.train.stages[0] == own.train.stages[0]
    assert taken.train.stages[1] != own.train.stages[1]
    # The oil was as warm as with the present design: what is found comes to nearly the same margins in its own warmth.
    worst = min(c.margin for c in evaluate(taken).checks if not c.part)
    assert worst == pytest.approx(result.values["worst"][0], abs=0.03)
    assert not result.altered(own)
    assert result.altered(set_many(own, {"train.defaults.S_Fmin": 1.9}))
    assert result.altered(set_many(own, {"train.losses.A_h": 0.7}))


def test_oil_that_would_get_too_hot_takes_designs_away_and_the_rest_have_the_temperature_of_evaluate():
    base = set_many(demo("winch"), {"train.losses.A_h": 0.05, "train.losses.theta_max": 79.0, "train.machine": None})
    question = base.survey.question
    cool = at_once(question, base)
    all_ = at_once(question, set_many(base, {"train.losses.theta_max": None}))
    assert 0 < len(cool) < len(all_) and cool.gone["theta_bal"] >= len(all_) - len(cool)
    assert np.sum(all_.values["theta_bal"] <= 79.0) == len(cool) and np.max(cool.values["theta_bal"]) <= 79.0
    for n in (0, len(cool) // 2, len(cool) - 1):
        train = evaluate(cool.design(n)).train
        assert (train.theta_bal, train.eta) == pytest.approx(
            (cool.values["theta_bal"][n], cool.values["eta"][n]), rel=1e-9
        )


def test_a_housing_and_the_oils_temperature_are_asked_from_a_duty():
    base = from_duty(DUTY, "ground")
    question = asked(process="ground", arrangements=("pair",), A_h=0.08, m_high=3.0, most=600)
    warm = at_once(question, base)
    middle = round(float(np.median(warm.values["theta_bal"])), 1)
    cool = at_once(question.replace_unchecked(theta_most=middle), base)
    assert 0 < len(cool) < len(warm) and np.max(cool.values["theta_bal"]) <= middle
    # What is taken has the housing, and the numbers of the survey.
    taken = cool.design(0, base)
    assert (taken.train.losses.A_h, taken.train.losses.theta_max, taken.train.losses.counted) == (0.08, middle, "all")
    assert evaluate(taken).train.theta_bal == pytest.approx(cool.values["theta_bal"][0], rel=1e-9)
    assert not cool.altered(taken) and not cool.altered(base)
    least = round(float(np.min(warm.values["theta_bal"])) - 3)
    hot = question.replace_unchecked(theta_most=float(least))
    assert len(at_once(hot, base)) == 0
    ways = {}
    for way in each_relaxed(hot, base):
        ways[way.key] = way.value
        if {"theta_most", "A_h"} <= set(ways):
            break
    assert ways["theta_most"] > least and ways["A_h"] > 0.08
    with pytest.raises(ValueError, match="give its area"):
        asked(theta_most=60.0)
    with pytest.raises(OutOfRange, match="no heat to air"):
        at_once(question.replace_unchecked(theta_most=15.0), base)


def test_nothing_found_is_not_the_end():
    base = from_duty(DUTY, "ground")
    question = asked(process="ground", arrangements=("pair",), m_high=1.0, z_pinion=20, shown=("factor",))
    assert len(at_once(question, base)) == 0
    ways = {}
    for way in each_relaxed(question, base):
        ways[way.key] = way
        if len(ways) == 3:
            break
    better = ways["m_high"]
    assert better.value is not None
    assert len(at_once(better.question, base)) > 0
    # The least: the standard module before it leaves nothing.
    smaller = question.replace_unchecked(m_high={1.25: 1.125, 1.375: 1.25, 1.5: 1.375, 1.75: 1.5}[better.value])
    assert len(at_once(smaller, base)) == 0


def test_rounding_says_what_it_costs():
    design = demo("winch")
    before = evaluate(design)
    ways = list(each_rounded(design))
    assert {w.words for w in ways} >= {"all widths up to the next 5 mm"}
    for way in ways:
        again = evaluate(way.design)
        assert way.worst == pytest.approx(min(c.margin for c in again.checks))
        assert way.mass == pytest.approx(mass_of(way.design, again) / mass_of(design, before) - 1)
    wide = next(w for w in ways if w.words.startswith("all widths up to the next 5"))
    assert all(g.b % 5 == pytest.approx(0) for s in wide.design.train.stages for g in s.gears)


@pytest.mark.parametrize("arrangement", ["pair", "two stages", "planet set"])
def test_sizes_are_those_of_the_circles_laid_out_by_hand(arrangement):
    """Outside circles by `evaluate`, put side by side here; masses and costs of the gears added up, planets three
    times."""
    duty = DUTY.replace_unchecked(u_wanted=9.0) if arrangement == "two stages" else DUTY
    base = from_duty(duty, "ground")
    all_ = at_once(asked(process="ground", arrangements=(arrangement,), shown=("factor",), most=300), base)
    assert len(all_) > 5
    for n in np.linspace(0, len(all_) - 1, 5).astype(int).tolist():
        stages, v = evaluate(all_.design(n)).stages, {k: float(x[n]) for k, x in all_.values.items()}
        if arrangement == "planet set":
            sun, planet, ring = *stages[0].gears, stages[1].gears[1]
            outside = max(ring.d_rim, 2 * stages[0].mesh.a_w + planet.d_a)
            sizes = {"d_out": outside, "length": outside, "height": outside, "width": max(sun.b, planet.b)}
        else:
            circles, at = [], 0.0
            for s in stages:
                circles += [(at, s.gears[0].d_a / 2), (at + s.mesh.a_w, s.gears[1].d_a / 2)]
                at += s.mesh.a_w
            sizes = {
                "d_out": 2 * max(r for _, r in circles),
                "height": 2 * max(r for _, r in circles),
                "length": max(x + r for x, r in circles) - min(x - r for x, r in circles),
                "width": sum(max(g.b for g in s.gears) for s in stages),
            }
        for key, value in sizes.items():
            assert v[key] == pytest.approx(value, rel=1e-9), (arrangement, key)
        weights = (
            [(sun, 1), (planet, 3), (ring, 1)]
            if arrangement == "planet set"
            else [(g, 1) for s in stages for g in s.gears]
        )
        assert v["mass"] == pytest.approx(sum(g.mass * k for g, k in weights), rel=1e-9)
        assert v["cost"] == pytest.approx(sum(g.cost * k for g, k in weights), rel=1e-9)


def test_a_small_drive_is_found_as_customary_and_says_why():
    """50 W, 1:30 at 1500 1/min: small cut drives of that size weigh about a kilogram; method C, with the whole
    deviation of manufacture on a line load of a few N/mm, asks for several."""
    small = Duty(P=50, n=1500, u_wanted=30.0, u_tol=3.0, L_h=5000, K_A=1.25)
    base = from_duty(small, "cut")
    question = asked(process="cut", arrangements=("two stages",), most=4000, shown=("factor",))
    light = at_once(question, base)
    stage = light.design(0, base).train.stages[0]
    assert (stage.mesh.K_Hbeta_method, stage.mesh.K_Hbeta) == ("entered", 1.3)
    assert "customary" in customary_words("cut", 0.32) and not customary_words("cut", 30.0)
    heavy = at_once(question.replace_unchecked(K_Hbeta=6.0), base)
    assert np.min(light.values["mass"]) < 0.6 * np.min(heavy.values["mass"])
    # What is entered goes before what is customary.
    entered = at_once(question.replace_unchecked(K_Hbeta=1.6), base).design(0, base).train.stages[0].mesh
    assert entered.K_Hbeta == 1.6

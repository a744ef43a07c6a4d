"""Every note and every check of the tables is raised by a design, so that its condition, its values and their units
are seen."""

import pytest

from cooper.demo import DEMOS, demo
from cooper.i18n.text import gaps_of, shown_unit, units_of
from cooper.results.check_types import CHECKS
from cooper.results.comparison_notes import all_notes
from cooper.results.evaluate import evaluate
from cooper.results.messages import MESSAGES
from pins.odd_designs import odd_designs
from results.raised_designs import raised_designs


@pytest.fixture(scope="module")
def raised():
    """What each design raises: its identities, then all notes and checks by identity."""
    by_design, notes, checks = {}, {}, {}
    plain = [(name, demo(name)) for name in DEMOS] + list(odd_designs().items())
    for name, design in [*plain, *raised_designs()]:
        results = evaluate(design)
        own = all_notes(results)
        by_design.setdefault(name, set()).update(n.key for n in own)
        by_design[name].update(c.type for c in results.checks)
        for one in own:
            notes.setdefault(one.key, []).append(one)
        for check in results.checks:
            checks.setdefault(check.type, []).append(check)
    return by_design, notes, checks


def test_every_message_is_raised_by_a_design(raised):
    by_design, notes, checks = raised
    assert [key for key, _ in raised_designs() if key not in by_design[key]] == []
    assert set(MESSAGES) - set(notes) == set()
    assert set(CHECKS) - set(checks) == set()


def test_a_message_says_its_template_with_every_value_in_its_unit(raised):
    _, notes, _ = raised
    for key, text in notes.items():
        kind = MESSAGES[key]
        units = units_of(kind.template)
        for one in text:
            assert set(one.values) >= set(units), key
            for literal, name, _, _ in gaps_of(kind.template):
                assert literal.replace("{{", "{") in one.text, key
                assert name is None or shown_unit(units[name]) in one.text, (key, name)


def test_a_message_tells_its_identity_and_values_to_other_programs():
    design = dict(raised_designs())["undercut"]
    row = next(n for n in evaluate(design).as_tree()["notes"] if n["key"] == "undercut")
    assert row["values"]["z"] == 10 and row["values"]["word"] == "pinion" and row["values"]["x_min"] > 0
    assert row["text"].startswith("z_1 = 10 cut with x_E = ")

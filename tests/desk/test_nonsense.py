"""Random typing and random editing of the real window: it answers, it never breaks, the design stays whole."""

import random

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from cooper.demo import demo
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.fault_card import FaultCard
from cooper.desk.widgets.tag import Tag
from cooper.results.evaluate import evaluate

TEXTS = [
    "0",
    "-1",
    "1e9",
    "-1e-9",
    "nan",
    "inf",
    "1/0",
    "5/8 in",
    "3 kg",
    "))",
    "0,5",
    "1e400",
    "½",
    "12 DP",
    "7°",
    "--3",
    "1..2",
    "999999999999",
    "0.0000001",
    "2+2*",
    "mm",
    " ",
    "π",
    "1 mm 2",
    "17",
    "2.5",
    "0.3",
]


def test_nonsense_in_every_tag_of_bench_and_sheets(window):
    session = window.session
    window.open_sheet("duty")
    sheets = [dict(window.sheet.fields)]
    for i in (1, 2, 0):
        window.open_more(i)
        sheets.append(None)
        for tag in window.sheet.fields.values():
            type_all(tag, session)
    for key in ("plastics", "losses", "duty"):
        window.open_sheet(key)
        for tag in window.sheet.fields.values():
            type_all(tag, session)
    for tag in window.bench.tags.values():
        type_all(tag, session)
    settle()
    for check in session.results.checks:
        assert check.margin == check.margin


def type_all(tag, session):
    rng = random.Random(tag.field.key)
    # What works is looked for at one tag of three.
    waited = rng.random() < 0.67
    for text in rng.sample(TEXTS, 3):
        before = session.design
        tag.open()
        tag.editor.setText(text)
        QTest.keyClick(tag.editor, Qt.Key.Key_Return)
        if tag.editor is not None:
            if text.strip():
                assert tag.fault is not None, (tag.field.key, text)
                assert session.design == before
                # What works is waited for once; after that the hand goes on while it is looked for.
                if not waited:
                    waited = True
                    settle()
                    assert tag.fault is not None, "what works is added to it"
            QTest.keyClick(tag.editor, Qt.Key.Key_Escape)
        assert session.results.train["P_out"] > 0
    settle()


def cards(window):
    return [c for c in window.findChildren(FaultCard) if c.isVisible()]


def refused(tag, text="1e9"):
    tag.open()
    tag.editor.setText(text)
    QTest.keyClick(tag.editor, Qt.Key.Key_Return)


def test_what_is_said_beside_a_tag_goes_with_it(window):
    session = window.session
    for away in (
        lambda: window.open_sheet("duty"),
        lambda: QTest.keyClick(window.sheet, Qt.Key.Key_Escape),
        lambda: session.restart(demo("winch"), None),
        window.open_survey,
    ):
        window.leave_survey()
        window.open_more(0)
        refused(next(t for t in window.sheet.findChildren(Tag) if t.isVisible() and t.field.key == "K_gamma"), "0")
        assert len(cards(window)) == 1
        away()
        settle()
        assert cards(window) == []
    window.leave_survey()
    tag = window.bench.tags["b_1"]
    refused(tag)
    session.select_stage(1)
    assert (cards(window), tag.editor) == ([], None)
    session.select_stage(0)
    tag.open()
    tag.editor.setText("31")
    # What can be taken is taken where it was typed, not where the hand has gone.
    session.select_stage(1)
    assert [s.gears[0].b for s in session.design.train.stages] == [31.0, demo("winch").train.stages[1].gears[0].b]
    tag.open()
    tag.editor.setText("99")
    session.restart(demo("winch"), None)
    assert tag.editor is None
    assert session.design == demo("winch")


@pytest.mark.parametrize("seed", range(3))
def test_a_random_walk_of_edits_undo_and_swaps_keeps_every_state_valid(window, seed):
    rng = random.Random(seed)
    session, tags = window.session, list(window.bench.tags.values())
    for _ in range(60):
        tag = rng.choice(tags)
        what = rng.choice(["up", "down", "fine", "swap", "undo", "redo", "scale", "units", "lens"])
        if what in ("up", "down", "fine"):
            tag.step(1 if what != "down" else -1, fine=what == "fine")
        elif what == "swap":
            tag.swap()
        elif what == "undo":
            session.undo()
        elif what == "redo":
            session.redo()
        elif what == "units":
            window.toggle_units()
        elif what == "lens":
            window.bench.set_lens(rng.choice(["teeth", "side", "contact"]))
        elif tag.value() is not None:
            value = tag.value() * rng.uniform(0.7, 1.4)
            tag.commit(round(value) if tag.field.kind == "count" else value)
        tag.close_fault()
    settle()
    for state in session.states:
        assert evaluate(state.design).as_tree() == state.results.as_tree()
    while session.state.parent is not None:
        session.undo()
    assert session.at == 0

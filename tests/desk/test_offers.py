"""Offers are seen before they are taken: drawn with their margins, laid on the Bench under the hand."""

from collections import Counter

import pytest
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton

from cooper.demo import demo
from cooper.desk.base.theme import LIGHT
from cooper.desk.lenses.gear_item import GearItem
from cooper.desk.sheets.offers import Offers
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.choices import Choice
from cooper.desk.widgets.offer_marks import paint_margins, paint_train, paired
from cooper.desk.widgets.rows_view import RowsView
from cooper.editing.edit import give_count, set_many
from cooper.editing.formulas import with_name
from cooper.results.compare import compare, differing
from cooper.results.evaluate import evaluate
from waiting import wait_for


@pytest.mark.parametrize(("sheet", "table"), [("set", "offers"), ("round", "round_table"), ("fit_teeth", "fit_table")])
def test_every_offer_in_sight_is_worked_out_and_lies_on_the_bench_under_the_hand(window, sheet, table):
    window.open_demo("winch")
    window.open_sheet(sheet)
    view = window.sheet.findChild(RowsView, table)
    offers = view.findChild(Offers)
    wait_for(lambda: len(view.rows.rows) > 3 and any(offers.results.values()))
    settle()
    row = next(n for n, r in offers.results.items() if r is not None)
    results, before = offers.results[row], window.session.laid
    view.entered.emit(view.model().index(row, 0))
    assert window.session.laid is results is window.session.ghost
    ghosts = [g for g in window.bench.drawing.ghosts if isinstance(g, GearItem)]
    assert ghosts and all(g.isVisible() for g in ghosts)
    window.sheet.dismiss()
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    settle()
    assert window.session.laid is before


def test_a_lever_is_drawn_and_laid_on_the_bench_while_the_hand_is_on_it(window):
    window.open_demo("mirror-cover")
    margins = window.margins
    margins.open(next(c.key for c in window.session.results.checks if c.symbol == "S_H"))
    settle()
    margins.fill_now()
    row = next(r for r in margins.lever_rows if r.moves)
    assert row.height() > next(r for r in margins.lever_rows if not r.moves).height()
    QApplication.sendEvent(row, QEvent(QEvent.Type.Enter))
    assert window.session.laid is row.lever.results
    QApplication.sendEvent(row, QEvent(QEvent.Type.Leave))
    assert window.session.laid is None


def painted(paint):
    image = QImage(200, 60, QImage.Format.Format_RGB32)
    image.fill(QColor("white"))
    p = QPainter(image)
    paint(p, QRectF(0, 0, 200, 60))
    p.end()
    return Counter(image.pixelColor(x, y).name() for x in range(200) for y in range(60))


def test_the_marks_show_what_is_short_and_where_the_present_design_stands():
    now = evaluate(demo("mirror-cover"))
    wide = evaluate(set_many(demo("mirror-cover"), {"train.gears.gear1.b": 20.0}))
    short = QColor(LIGHT.color("short")).name()
    assert painted(lambda p, r: paint_margins(p, r, now, None, LIGHT))[short] > 5
    sound = evaluate(set_many(demo("mirror-cover"), {"train.defaults.S_Hmin": 0.5, "train.defaults.S_Fmin": 0.6}))
    assert painted(lambda p, r: paint_margins(p, r, sound, None, LIGHT))[short] == 0
    rows = paired(wide, now)
    assert len(rows) == 8 and all(past is not None and past.key == c.key for c, past in rows)
    larger = evaluate(give_count(demo("mirror-cover"), 0, 2, 60))
    alone, both = (painted(lambda p, r, g=g: paint_train(p, r, now, g, LIGHT, 0.8)) for g in (None, larger))
    assert both["#ffffff"] < alone["#ffffff"], "the ghost is drawn too"


def test_what_differs_is_listed_alone_and_the_largest_first():
    one, two = demo("winch"), give_count(demo("winch"), 0, 1, 21)
    states = (one, evaluate(one)), (two, evaluate(two))
    lines = differing(*states)
    assert lines and not any(n.same for n in lines)
    assert len(lines) == sum(not n.same for n in compare(*states))
    for group in {n.group for n in lines}:
        by = [n.by for n in lines if n.group == group]
        assert by == sorted(by, reverse=True)
    z = next(n for n in lines if n.name.endswith("z"))
    assert z.by == pytest.approx(2 / 19)


def test_a_spectrum_is_begun_from_an_example_and_its_steps_are_pulled(window):
    window.open_demo("mirror-cover")
    window.open_sheet("spectrum")
    settle()
    picture = window.sheet.findChild(object, "damage_picture")
    assert picture.example and not window.session.design.train.duty.spectrum
    QTest.mouseClick(window.sheet.findChild(QPushButton, "spectrum_take"), Qt.MouseButton.LeftButton)
    settle()
    levels = window.session.design.train.duty.spectrum
    assert len(levels) > 3 and not picture.example
    boxes, order = picture.boxes(), sorted(levels, key=lambda v: -v.T_rel)
    n = max(range(len(boxes)), key=lambda k: boxes[k].width())
    top = QPointF(boxes[n].center().x(), boxes[n].top()).toPoint()
    frame = picture._frame()
    QTest.mousePress(picture, Qt.MouseButton.LeftButton, pos=top)
    QTest.mouseMove(picture, top + QPointF(0, 4).toPoint())
    QTest.mouseRelease(picture, Qt.MouseButton.LeftButton, pos=top + QPointF(0, 4).toPoint())
    settle()
    moved = sorted(window.session.design.train.duty.spectrum, key=lambda v: -v.T_rel)
    most = max(order[0].T_rel, 1.0)
    assert moved[n].T_rel == pytest.approx(order[n].T_rel - 4 / frame.height() * most, abs=0.02)
    assert sum(v.q_t for v in moved) == pytest.approx(sum(v.q_t for v in order))
    window.run("undo")
    assert window.session.design.train.duty.spectrum == levels


def test_a_choice_is_found_by_its_words(window):
    for text, key, sheet in (("governing strength", "strength_method", "duty"), ("basic rack", "rack_1", "gear_1")):
        QTest.keyClick(window, Qt.Key.Key_F3)
        settle()
        QTest.keyClicks(window.value_list.line, text)
        QTest.keyClick(window.value_list.line, Qt.Key.Key_Return)
        settle()
        found = QApplication.focusWidget()
        assert isinstance(found, Choice) and found.key == key and window.sheet_key == sheet


def test_all_choices_that_are_listed_stand_on_their_sheets(window):
    from cooper.editing.all_fields import CHOSEN

    window.open_demo("dome-ring")
    for sheet, listed in CHOSEN.items():
        window.open_sheet(sheet)
        settle()
        there = {c.key: c.meaning for c in window.sheet.choices}
        for key, meaning in listed.items():
            assert key in there or key.startswith("tool"), (sheet, key)
            assert there.get(key, meaning) == meaning


def test_named_values_begin_with_an_example_that_changes_nothing_by_itself(window):
    window.open_demo("winch")
    window.open_sheet("formulas")
    settle()
    before = window.session.results.checks
    QTest.mouseClick(window.sheet.findChild(QPushButton, "formula_take"), Qt.MouseButton.LeftButton)
    settle()
    design = window.session.design
    assert design.names == {"width": "12"} and len(design.formulas) == 2
    assert [c.value for c in window.session.results.checks] == pytest.approx([c.value for c in before], nan_ok=True)
    assert not window.sheet.findChild(QPushButton, "formula_take").isVisible()
    window.session.edit(lambda d, _r: with_name(d, "width", "13"), "wider")
    settle()
    stage = window.session.design.train.stages[0]
    assert [g.b for g in stage.gears] == [15.0, 13.0]

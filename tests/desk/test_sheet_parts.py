"""The parts that sheets are made of: drawings with tags, words that open a list, sentences, titles, ticks."""

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from cooper.demo import demo
from cooper.desk.base.theme import DARK, LIGHT
from cooper.desk.sheets.mesh_drawing import MeshDrawing
from cooper.desk.sheets.oil_drawing import OilDrawing
from cooper.desk.sheets.tagged_drawing import TaggedDrawing
from cooper.desk.sheets.thickness_drawing import ThicknessDrawing
from cooper.desk.shell.pictures import settle
from cooper.desk.survey.arrangement_ticks import SKETCHES, ArrangementTick
from cooper.desk.widgets.brief import Sentence, Topic, slot, slots_of, with_parts
from cooper.desk.widgets.labels import ElidedLabel
from cooper.desk.widgets.word_choice import WordChoice
from cooper.document.survey_spec import ARRANGEMENTS
from cooper.editing.edit import set_many


def pixels(widget):
    image = widget.grab().toImage()
    colors = [image.pixelColor(x, y).name() for x in range(0, image.width(), 2) for y in range(0, image.height(), 2)]
    return colors, image


@pytest.mark.parametrize("name", ["mirror-cover", "winch", "dome-ring", "dome-rack", "filter-wheel"])
@pytest.mark.parametrize("sheet", ["gear_1", "gear_2", "mesh", "losses"])
def test_every_drawing_paints_something_and_its_tags_lie_within(window, name, sheet):
    window.open_demo(name)
    window.open_sheet(sheet)
    settle()
    for drawing in window.sheet.findChildren(TaggedDrawing):
        colors, _image = pixels(drawing)
        assert len(set(colors)) > 3, drawing.objectName()
        boxes = [tag.geometry() for tag in drawing.tags.values()]
        assert all(drawing.rect().contains(b) for b in boxes), drawing.objectName()
        assert not any(a.intersects(b) for n, a in enumerate(boxes) for b in boxes[:n]), drawing.objectName()


def test_the_tooth_between_its_limits_has_the_thickness_of_the_gear(window):
    window.open_demo("winch")
    window.open_sheet("gear_1")
    settle()
    drawing = window.sheet.findChild(ThicknessDrawing)
    up, half, s_n = drawing.half_widths()
    g = window.session.results.stages[0].gears[0]
    assert s_n == float(g.s_n) and up[-1] == pytest.approx((float(g.d_a) - float(g.d_fE)) / 2)
    reference = np.interp((float(g.d) - float(g.d_fE)) / 2, up, 2 * half)
    assert reference == pytest.approx(s_n / np.cos(np.radians(window.session.results.stages[0].mesh.beta)), rel=0.01)
    assert (np.diff(half) < 0).all(), "it grows thinner towards its tip"


def test_the_oil_stands_as_high_as_it_is_entered(window):
    window.open_demo("winch")
    window.open_sheet("losses")
    settle()
    drawing = window.sheet.findChild(OilDrawing)
    dry, wet = None, []
    for depth in (0.0, 10.0, 40.0):
        window.session.edit(lambda d, _r, h=depth: set_many(d, {"train.losses.h_e": h}), "oil")
        settle()
        colors, _image = pixels(drawing)
        dry = dry or colors
        wet.append(sum(a != b for a, b in zip(colors, dry, strict=True)))
    assert wet[0] == 0 < wet[1] < wet[2]


def test_the_mesh_drawing_has_a_shaft_where_method_c_counts_it(window):
    window.open_demo("mirror-cover")
    for method, shown in (("entered", False), ("C", True)):
        window.session.edit(lambda d, _r, m=method: set_many(d, {"train.meshes.stage1.K_Hbeta_method": m}), "method")
        window.open_sheet("mesh")
        settle()
        tags = window.sheet.findChild(MeshDrawing).tags
        assert {"A_as", "A_ai"} <= set(tags) and ("l_sh" in tags) == shown


def test_a_word_is_chosen_by_keys_and_tells_of_it_once(window):
    word = WordChoice("word", "a word")
    for n, text in enumerate(("one", "two", "three")):
        word.addItem(text, n)
    changed, picked = [], []
    word.currentIndexChanged.connect(changed.append)
    word.activated.connect(picked.append)
    assert (word.currentText(), word.currentData(), word.count()) == ("one", 0, 3)
    QTest.keyClick(word, Qt.Key.Key_Up)
    assert not changed and word.currentIndex() == 0
    QTest.keyClick(word, Qt.Key.Key_Down)
    QTest.keyClick(word, Qt.Key.Key_Down)
    QTest.keyClick(word, Qt.Key.Key_Down)
    assert changed == picked == [1, 2] and word.text() == "three"
    word.setCurrentIndex(2)
    word.setCurrentIndex(7)
    assert changed == [1, 2] and word.findData(1) == 1 and word.findData("none") == -1
    word.clear()
    assert word.currentIndex() == -1 and word.currentData() is None and word.text() == ""


def test_a_sentence_without_its_values_is_left_out_with_its_topic():
    one, two = Sentence(f"A {slot('a')} and {slot('b')}."), Sentence(f"C {slot('c')}.", light=True)
    topics = [Topic("first", [one, two]), Topic("second", [two])]
    assert slots_of(one) == ["a", "b"]
    assert [(t.name, t.sentences) for t in with_parts(topics, {"a", "b"})] == [("first", [one])]
    assert with_parts(topics, {"a"}) == [] and with_parts(topics, {"a", "b", "c"}) == topics


def test_a_title_ends_in_an_ellipsis_and_is_whole_in_its_tip(window):
    label = ElidedLabel("a very long title of a sheet")
    label.resize(60, 20)
    label.grab()
    assert label.toolTip() == "a very long title of a sheet" and label.minimumSizeHint().width() == 40
    label.resize(600, 20)
    label.grab()
    assert label.toolTip() == ""


@pytest.mark.parametrize("theme", [LIGHT, DARK])
def test_every_arrangement_has_a_sketch_that_shows_whether_it_is_ticked(window, theme):
    assert set(SKETCHES) == set(ARRANGEMENTS)
    seen = []
    for key, words in ARRANGEMENTS.items():
        tick = ArrangementTick(key, words, theme, window)
        off, _ = pixels(tick)
        QTest.keyClick(tick, Qt.Key.Key_Space)
        on, _ = pixels(tick)
        assert tick.isChecked() and on != off
        seen.append(tuple(off))
    assert len(set(seen)) == len(seen), "no two look alike"


def test_a_demo_without_a_case_has_no_curve_of_hardness(window):
    names = {}
    for name in ("winch", "dome-ring"):
        window.open_demo(name)
        window.open_sheet("gear_2")
        settle()
        names[name] = {d.objectName() for d in window.sheet.findChildren(TaggedDrawing)}
    case = demo("winch").train.stages[0].gears[1].material.group == "Eh"
    assert ("case_2" in names["winch"]) == case and "case_2" not in names["dome-ring"]

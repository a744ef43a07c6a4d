"""Sheets written as sentences: every value stands in one, in any language and width, and is reached by keys."""

import re
from functools import partial
from itertools import pairwise
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from shiboken6 import isValid

import cooper.desk.sheets
from cooper.desk.sheets.duty_sheet import SLOTS, duty_topics
from cooper.desk.sheets.forms_sheet import FLANK_SLOTS, flank_topic, pair_topic
from cooper.desk.sheets.gear_sheet import CHOSEN, GEAR_SLOTS, gear_topics
from cooper.desk.sheets.loss_sheet import LOSS_SLOTS, loss_topics
from cooper.desk.sheets.machine_sheet import MACHINE_SLOTS, machine_topics
from cooper.desk.sheets.mesh_sheet import MESH_SLOTS, mesh_topics
from cooper.desk.sheets.plastic_sheet import PLASTIC_SLOTS, plastic_topics
from cooper.desk.sheets.set_drawing import SetDrawing
from cooper.desk.sheets.set_sheet import SET_SLOTS, set_topics
from cooper.desk.sheets.tagged_drawing import TaggedDrawing
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.brief import _SLOT, Brief
from cooper.desk.widgets.choices import Choice
from cooper.desk.widgets.tag import Tag
from cooper.document.quantities import plain
from cooper.editing.edit import set_many
from cooper.editing.usual import back_to_usual
from cooper.i18n.translate import set_language, translate


@pytest.fixture
def duty(window):
    window.open_sheet("duty")
    settle()
    return window.sheet


def gear_slots():
    fixed = [f"{name}_1" for name in CHOSEN] + ["shape", "hardness_1"]
    return [*(plain(name, 1) for name in GEAR_SLOTS), *fixed]


def flank_slots():
    own = [*(plain(name, 1) for name in FLANK_SLOTS), "relief_1", "own_flanks_1", "C_beta", "C_Hbeta"]
    return own


BRIEFS = {
    "duty": (duty_topics, lambda: SLOTS),
    "losses": (loss_topics, lambda: LOSS_SLOTS),
    "plastics": (plastic_topics, lambda: [f"plastic_{s}" for s in PLASTIC_SLOTS]),
    "mesh": (mesh_topics, lambda: MESH_SLOTS),
    "gear": (partial(gear_topics, 1), gear_slots),
    "forms": (lambda: [flank_topic("pinion", 1, "", ""), pair_topic()], flank_slots),
    "machine": (machine_topics, lambda: [f"machine_{s}" for s in MACHINE_SLOTS]),
    "set": (partial(set_topics, "planet set"), lambda: SET_SLOTS),
}


@pytest.mark.parametrize("name", BRIEFS)
@pytest.mark.parametrize("language", ["en", "de", "fr"])
def test_every_value_stands_in_one_sentence_of_every_language(language, name):
    topics, wanted = BRIEFS[name]
    set_language(language)
    try:
        text = " ".join(translate(s.text) for t in topics() for s in t.sentences)
    finally:
        set_language("en")
    assert sorted(_SLOT.findall(text)) == sorted(wanted())


@pytest.mark.parametrize("language", ["en", "de", "fr"])
def test_the_question_of_the_survey_has_every_entry_in_every_language(window, language):
    set_language(language)
    try:
        window.begin_from_duty()
        settle()
        panel = window.survey_page.panel
        briefs = [panel.brief, panel.usual]
        written = [i.part for b in briefs for _n, sentences in b._topics for s in sentences for i in s if i.part]
    finally:
        set_language("en")
    wanted = {*panel.entries.values(), *panel.racks.values(), *panel.rules.values()}
    wanted |= {panel.process, panel.materials, panel.add_material, panel.share, panel.widths}
    assert wanted <= set(written) and len(written) == len(set(written))
    assert all(part.isVisible() for part in wanted)


SHEETS = ["duty", "losses", "plastics", "mesh", "gear_1", "gear_2", "forms", "machine", "set", "drawing_1"]


@pytest.mark.parametrize("demo", ["filter-wheel", "winch", "dome-drive", "dome-rack", "dome-ring"])
def test_every_value_of_a_sheet_is_in_its_sentences_or_on_its_drawings(window, demo):
    window.open_demo(demo)
    for name in SHEETS:
        window.open_sheet(name)
        settle()
        sheet = window.sheet
        written = {
            i.part
            for b in sheet.findChildren(Brief)
            for _name, sentences in b._topics
            for s in sentences
            for i in s
            if i.part is not None
        }
        drawn = {t for d in sheet.findChildren(TaggedDrawing) for t in d.tags.values()}
        drawn |= {c for d in sheet.findChildren(SetDrawing) for c in d.choices.values()}
        assert {*sheet.fields.values(), *sheet.choices, *sheet.texts} <= written | drawn, (demo, name)


@pytest.mark.parametrize("wide", [300, 430, 700, 1100])
def test_no_line_is_wider_than_its_room_and_no_point_begins_one(duty, wide):
    brief = duty.findChild(Brief)
    brief.resize(wide, brief.heightForWidth(wide))
    items = [i for _name, sentences in brief._topics for s in sentences for i in s]
    for before, item in pairwise(items):
        assert item.x + brief._wide(item) <= wide + 0.5 or brief._wide(item) > wide - 150
        if item.glued:
            assert item.y == before.y and item.x == pytest.approx(before.x + brief._wide(before), abs=0.5)
    boxes = [i.part.geometry() for i in items if i.part is not None]
    assert not any(a.intersects(b) for n, a in enumerate(boxes) for b in boxes[:n])
    assert max(b.bottom() for b in boxes) < brief.heightForWidth(wide)


@pytest.mark.parametrize(("demo", "sheets"), [("winch", SHEETS), ("dome-drive", ["set", "forms"])])
def test_keys_go_from_value_to_value_and_each_takes_a_number_and_gives_it_back(window, demo, sheets):
    window.open_demo(demo)
    before, changed, tried = window.session.design, 0, 0
    for name in sheets:
        window.open_sheet(name)
        settle()
        sheet, seen = window.sheet, []
        fields = dict(sheet.fields)
        if not fields:
            continue
        sheet._places[0].setFocus()
        for _ in range(120):
            widget = QApplication.focusWidget()
            if widget in seen:
                break
            seen.append(widget)
            QTest.keyClick(widget, Qt.Key.Key_Tab)
        assert set(fields) <= {w.field.key for w in seen if isinstance(w, Tag)}, name
        assert {c.key for c in sheet.choices} <= {w.key for w in seen if isinstance(w, Choice)}, name
        for key in fields:
            tag, tried = sheet.fields[key], tried + 1
            value = tag.value()
            tag.setFocus()
            QTest.keyClick(tag, Qt.Key.Key_Return)
            number = 1.0 if value is None else round(value * 1.01 + 1e-4, 4)
            tag.editor.setText(str(round(number) if tag.field.kind == "count" else number))
            QTest.keyClick(tag.editor, Qt.Key.Key_Return)
            if window.session.design is not before:
                changed += 1
                assert tag.width() == tag.sizeHint().width(), key
                window.run("undo")
            tag.close_editor(take=False)
            tag.close_fault()
            assert window.session.design is before, key
            if not isValid(sheet) or not sheet.is_open:
                window.open_sheet(name)
                settle()
                sheet = window.sheet
    assert changed >= 0.7 * tried


def test_what_differs_stands_alone_and_goes_back_to_the_usual_in_one_step(window, duty):
    session = window.session
    session.edit(lambda d, _r: back_to_usual(d, list(duty.parts_with_usual().values())), "usual")
    settle()
    assert duty.differs.text().endswith("0") and not duty.usual.isEnabled()
    session.edit(lambda d, _r: set_many(d, {"train.defaults.S_Fmin": 1.7, "train.duty.theta_oil": 71.0}), "two")
    settle()
    assert duty.differs.text().endswith("2") and duty.fields["S_Fmin"].usual is False
    duty.differs.click()
    settle()
    shown = {key for key, tag in duty.fields.items() if tag.isVisible()}
    assert {"S_Fmin", "theta_oil"} <= shown and "X_L" not in shown and "P" not in shown
    duty.usual.click()
    settle()
    defaults = session.design.train.defaults
    assert (defaults.S_Fmin, session.design.train.duty.theta_oil) == (1.4, 60.0)
    window.run("undo")
    assert session.design.train.defaults.S_Fmin == 1.7


def test_what_decides_a_check_that_is_short_is_marked(window):
    window.open_demo("mirror-cover")
    assert any(c.verdict == "short" and c.symbol == "S_H" for c in window.session.results.checks)
    window.open_sheet("duty")
    settle()
    marks = {key: tag.decides for key, tag in window.sheet.fields.items()}
    assert (
        marks["S_Hmin"] == marks["K_A"] == "short"
        and not marks["NT_1e10"]
        and not marks["k_h" if "k_h" in marks else "c_proc"]
    )
    window.session.edit(lambda d, _r: set_many(d, {"train.defaults.S_Hmin": 0.5, "train.defaults.S_Fmin": 0.7}), "less")
    settle()
    assert window.sheet.fields["S_Hmin"].decides == ""


def test_members_of_a_set_change_places_on_its_drawing(window):
    window.open_demo("dome-drive")
    window.open_sheet("set")
    settle()
    drawing, one = window.sheet.findChild(SetDrawing), window.session.design.train.placed[0]
    assert {drawing._now(m, window.session.design) for m in drawing.shafts} >= {"ring: held"}
    carrier = dict(drawing.choices["carrier"].options())
    drawing.choices["carrier"].pick("held", carrier["held"])
    settle()
    now = window.session.design.train.placed[0]
    assert (now.input, now.output, now.held) == (one.input, "ring", "carrier")
    ways, circles = drawing.places()
    assert set(ways) == set(drawing.shafts) and len(circles) == 2 + one.planets
    window.run("undo")
    assert window.session.design.train.placed[0] == one


def test_no_sheet_is_a_form_of_two_columns():
    folder = Path(cooper.desk.sheets.__file__).parent
    text = "".join(path.read_text(encoding="utf-8") for path in folder.glob("*.py"))
    assert not re.search(r"add_group|QFormLayout|QComboBox", text)

"""Sheets written as sentences: every value stands in one, in any language and width, and is reached by keys."""

from functools import partial
from itertools import pairwise

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from cooper.desk.sheets.duty_sheet import SLOTS, duty_topics
from cooper.desk.sheets.loss_sheet import LOSS_SLOTS, loss_topics
from cooper.desk.sheets.mesh_sheet import MESH_SLOTS, mesh_topics
from cooper.desk.sheets.plastic_sheet import PLASTIC_SLOTS, plastic_topics
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.brief import _SLOT, Brief
from cooper.desk.widgets.choices import Choice
from cooper.desk.widgets.tag import Tag
from cooper.i18n.translate import set_language, translate


@pytest.fixture
def duty(window):
    window.open_sheet("duty")
    settle()
    return window.sheet


@pytest.mark.parametrize("topics", [duty_topics, loss_topics, plastic_topics, partial(mesh_topics, ())])
@pytest.mark.parametrize("language", ["en", "de", "fr"])
def test_every_value_stands_in_one_sentence_of_every_language(language, topics):
    plastic = [f"plastic_{s}" for s in PLASTIC_SLOTS]
    wanted = {duty_topics: SLOTS, loss_topics: LOSS_SLOTS, plastic_topics: plastic}.get(topics, MESH_SLOTS)
    set_language(language)
    try:
        text = " ".join(translate(s.text) for t in topics() for s in t.sentences)
    finally:
        set_language("en")
    assert sorted(_SLOT.findall(text)) == sorted(wanted)


@pytest.mark.parametrize("sheet", ["duty", "losses", "plastics", "mesh"])
@pytest.mark.parametrize("demo", ["filter-wheel", "winch"])
def test_every_value_of_a_sheet_is_in_its_sentences(window, sheet, demo):
    window.open_demo(demo)
    window.open_sheet(sheet)
    settle()
    brief = window.sheet.findChild(Brief)
    written = {i.part for _name, sentences in brief._topics for s in sentences for i in s if i.part is not None}
    assert written == {*window.sheet.fields.values(), *window.sheet.choices}


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


def test_keys_go_from_value_to_value_and_each_takes_a_number_and_gives_it_back(window, duty):
    before, seen = window.session.design, []
    next(iter(duty.fields.values())).setFocus()
    for _ in range(60):
        widget = QApplication.focusWidget()
        if widget in seen:
            break
        seen.append(widget)
        QTest.keyClick(widget, Qt.Key.Key_Tab)
    assert set(duty.fields) <= {w.field.key for w in seen if isinstance(w, Tag)}
    assert {c.key for c in duty.choices} <= {w.key for w in seen if isinstance(w, Choice)}
    changed = 0
    for key, tag in duty.fields.items():
        value, wide = tag.value(), tag.width()
        tag.setFocus()
        QTest.keyClick(tag, Qt.Key.Key_Return)
        tag.editor.setText(str(1.0 if value is None else round(value * 1.01 + 1e-4, 4)))
        QTest.keyClick(tag.editor, Qt.Key.Key_Return)
        settle()
        if window.session.design is not before:
            changed += 1
            assert tag.width() == tag.sizeHint().width(), (key, wide)
            window.run("undo")
            settle()
        tag.close_editor(take=False)
        tag.close_fault()
        assert window.session.design is before, key
    assert changed >= len(duty.fields) - 6

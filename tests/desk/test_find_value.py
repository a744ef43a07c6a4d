"""A value is found by its symbol, name or meaning, wherever it stands, and can be typed at once."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from cooper.demo import DEMOS, demo
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.tag import Tag
from cooper.editing.all_fields import all_fields, matching
from cooper.editing.edit import set_at


def listed(window):
    shown = window.value_list.list
    return [shown.item(n).text() for n in range(shown.count())]


def asked(window, text):
    QTest.keyClick(window, Qt.Key.Key_F3)
    settle()
    QTest.keyClicks(window.value_list.line, text)
    return listed(window)


def test_symbol_name_and_meaning_find_a_value_and_enter_selects_its_tag(window):
    for text, symbol, sheet in (
        ("S_Hmin", "S_Hmin", "duty"),
        ("viscosity 40", "nu_40", "duty"),
        ("backlash required", "j_min", "duty"),
        ("centre distance allowance", "A_as", "mesh"),
        ("rho_fp2", "rho_fP", "gear_2"),
        ("heat transfer", "k_h", "losses"),
    ):
        rows = asked(window, text)
        assert rows and rows[0].casefold().startswith(symbol.casefold()), (text, rows[:3])
        QTest.keyClick(window.value_list.line, Qt.Key.Key_Return)
        settle()
        tag = QApplication.focusWidget()
        assert isinstance(tag, Tag) and tag.field.symbol == symbol and window.sheet_key == sheet
    before = window.session.design.train.losses.k_h
    QTest.keyClick(tag, Qt.Key.Key_Return)
    tag.editor.setText("21")
    QTest.keyClick(tag.editor, Qt.Key.Key_Return)
    settle()
    assert window.session.design.train.losses.k_h == 21 != before
    window.run("undo")
    assert window.session.design.train.losses.k_h == before


def test_a_letter_typed_in_a_sheet_begins_the_search_and_nonsense_finds_nothing(window):
    window.open_sheet("duty")
    settle()
    tag = window.sheet.fields["n"]
    tag.setFocus()
    QTest.keyClick(tag, Qt.Key.Key_O)
    settle()
    assert window.value_list.line.text() == "o" and window.value_list.isVisible()
    QTest.keyClicks(window.value_list.line, "il temp")
    assert any(row.startswith("theta_oil") for row in listed(window))
    window.value_list.line.setText("∞ no such thing")
    assert not listed(window) and window.value_list.none.isVisible()
    QTest.keyClick(window.value_list.line, Qt.Key.Key_Return)
    QTest.keyClick(window.value_list.line, Qt.Key.Key_Escape)
    assert not window.value_list.isVisible() and window.sheet is not None


def test_another_stage_is_selected_and_the_drawings_own_values_are_found(window):
    window.open_demo("winch")
    settle()
    name = window.session.design.train.stages[1].gears[0].name
    rows = asked(window, f"z_1 {name}")
    if not rows:
        rows = asked(window, "z_1")
    assert rows[0].startswith("z_1")
    many = len(window.session.design.train.stages)
    wanted = [n for n, row in enumerate(asked(window, "beta")) if row.startswith("beta ")]
    assert len(wanted) == many
    window.value_list.list.setCurrentRow(wanted[1])
    window.value_list.run()
    settle()
    tag = QApplication.focusWidget()
    assert window.session.stage == 1 and isinstance(tag, Tag) and tag.field.symbol == "beta"


def test_the_list_goes_when_the_design_is_another_one(window):
    window.open_demo("winch")
    settle()
    asked(window, "beta")
    window.open_demo("mirror-cover")
    settle()
    assert not window.value_list.isVisible()
    asked(window, "beta")
    window.session.edit(lambda d, _r: set_at(d, "train.duty.L_h", 123.0), "L_h")
    settle()
    assert not window.value_list.isVisible()


def test_every_value_is_found_by_its_symbol_and_its_whole_meaning():
    for name in DEMOS:
        places = list(all_fields(demo(name)))
        keys = [p.field.full_key + p.sheet for p in places]
        assert len(keys) == len(set(keys)) > 100, name
        for place in places:
            assert place in matching(places, place.words.replace("  ", " ")), place.words
        assert matching(places, "") == [] and matching(places, "zzz qqq") == []

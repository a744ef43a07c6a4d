"""Sheets of losses, load spectrum, methods and own materials, driven in the real window."""

import re
from functools import partial

import pytest
from PySide6.QtCore import SIGNAL, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QPushButton
from shiboken6 import isValid

from cooper.demo import demo
from cooper.desk.base import shelf
from cooper.desk.base.registry import sheets
from cooper.desk.sheets.gear_sheet import keep_material
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.sheets.spectrum_sheet import open_file
from cooper.desk.sheets.tool_drawing import ToolDrawing
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.cells_view import CellsView
from cooper.desk.widgets.choices import Choice
from cooper.desk.widgets.clear_area import ClearArea
from cooper.desk.widgets.word_choice import WordChoice
from cooper.document.plain import get_at
from cooper.editing.edit import set_many
from cooper.results.result_tree import Check

LEFT = Qt.MouseButton.LeftButton
WHEEL = "train.gears.gear2"


def choose(window, key, words):
    """Pick an option of a choice by words that it holds."""
    choice = window.sheet.findChild(Choice, f"choice_{key}")
    option = next(o for o in choice.options() if words in o[0])
    choice.pick(*option)
    settle()
    return choice


def give(window, key, text):
    tag = window.sheet.fields[key]
    QTest.mouseClick(tag, LEFT)
    QTest.keyClicks(tag.editor, text)
    QTest.keyClick(tag.editor, Qt.Key.Key_Return)
    settle()
    return tag


def test_losses_are_counted_shown_and_heat_the_oil(window):
    s = window.session
    only = s.results.train["eta"]
    window.open_sheet("losses")
    settle()
    choose(window, "counted", "all")
    assert s.results.train["eta"] < only
    assert s.results.train["P_V"] > s.results.train["P_Vz"]
    give(window, "h_e", "6 mm")
    assert s.results.train["P_V0"] > 0
    eta = s.results.train["eta"]
    choose(window, "bearing", "tapered")
    assert s.results.train["eta"] < eta
    give(window, "A_h", "0.05")
    warm = s.results.train["theta_bal"]
    choose(window, "oil_by_balance", "heat balance")
    assert s.results.train["theta_oil"] == pytest.approx(warm, abs=0.1)
    text = window.sheet.findChild(object, "loss_picture").accessibleDescription()
    assert "meshes" in text
    assert "bearings" in text
    choose(window, "friction", "along the path")
    assert s.results.stages[0].mesh["mu_mz"] < 0.15
    # A housing that cannot hold the oil is refused with the area that would.
    tag = give(window, "A_h", "0.00001")
    assert re.search(r"[0-9] m²", tag.fault.findChild(QLabel, "fault_range").text())
    assert get_at(s.design, "train.losses.A_h") == 0.05


def test_a_spectrum_is_pasted_typed_shaped_read_and_taken_away(window, tmp_path):
    s = window.session
    window.open_sheet("spectrum")
    settle()
    table = window.sheet.findChild(CellsView, "spectrum_table")
    text = window.sheet.findChild(QLabel, "spectrum_words")
    QGuiApplication.clipboard().setText("torque\tshare\tspeed\n150\t1\t50\n100\t20\t100\n40\t79\t100\n")
    table.setFocus()
    QTest.keyClick(table, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    settle()
    assert [v.T_rel for v in s.design.train.duty.spectrum] == [1.5, 1.0, 0.4]
    assert {c.symbol for c in s.results.checks} >= {"S_Feq", "S_Heq"}
    window.margins.open("stage1.S_Heq1")
    settle()
    assert "damage sum" in window.why.beside.text()
    window.margins.open("")
    # Typing into a cell edits the level; words are refused and said, the design stays.
    table.type_in(0, 0, "180")
    assert s.design.train.duty.spectrum[0].T_rel == 1.8
    table.type_in(0, 0, "lots")
    assert "lots" in text.text()
    assert s.design.train.duty.spectrum[0].T_rel == 1.8
    table.fill()
    table.type_in(3, 0, "20")
    assert len(s.design.train.duty.spectrum) == 3
    table.type_in(3, 1, "5")
    assert len(s.design.train.duty.spectrum) == 4
    table.selectRow(3)
    QTest.keyClick(table, Qt.Key.Key_Delete)
    assert len(s.design.train.duty.spectrum) == 3
    shape = window.sheet.findChild(WordChoice, "spectrum_shape")
    shape.setCurrentIndex(1)
    shape.activated.emit(1)
    assert len(s.design.train.duty.spectrum) == 8
    path = tmp_path / "levels.csv"
    path.write_text("torque,share\n90,1\n110,2\n", encoding="utf-8")
    assert open_file(table, path)
    assert len(s.design.train.duty.spectrum) == 2
    path.write_bytes(b"\xff\xfe\x00")
    assert not open_file(table, path)
    assert not open_file(table, tmp_path / "none.csv")
    assert "Not opened" in text.text()
    QTest.mouseClick(window.sheet.findChild(QPushButton, "spectrum_none"), LEFT)
    assert s.design.train.duty.spectrum == ()
    s.undo()
    assert len(s.design.train.duty.spectrum) == 2


def test_the_method_governs_from_the_duty_and_the_other_is_told_beside(window):
    s = window.session
    window.open_sheet("duty")
    settle()
    choose(window, "strength_method", "AGMA")
    assert window.margins.method.text() == "ANSI/AGMA 2101-D04"
    assert {c.symbol for c in s.results.checks} >= {"S_FA", "S_HA"}
    low = s.results.check("stage1.S_FA1").value
    choose(window, "reliability", "0.999 ")
    assert s.results.check("stage1.S_FA1").value == pytest.approx(low / 1.25)
    give(window, "K_AP", "3")
    assert s.results.stages[0].mesh["K_AP"] == 3
    give(window, "K_AP", "none")
    assert s.design.train.duty.K_AP is None
    window.over_bench.drop()
    window.margins.open("stage1.S_HA1")
    window.margins.fill_now()
    settle()
    assert "ISO 6336" in window.why.beside.text()
    steps = [step.symbol for step, _ in window.why.stairs.steps]
    assert steps[:3] == ["p_HA", "Z_E", "Z_I"]
    assert steps[-1] == "sigma_HPA"
    assert "helix angle" in {row.lever.label for row in window.margins.lever_rows}
    tried = next(r for r in window.margins.lever_rows if r.moves)
    assert "→" in tried.toolTip()
    check: Check | None = s.results.check("stage1.S_B")
    assert check is not None
    window.margins.open("stage1.S_B")
    window.margins.fill_now()
    assert {r.lever.label for r in window.margins.lever_rows} >= {"face width", "module"}


def test_own_materials_are_made_kept_and_taken_in_another_design(window):
    s = window.session
    window.open_more(2)
    settle()
    choose(window, "material_2", "POM")
    assert get_at(s.design, WHEEL).swelling > 0
    assert any("outside ISO 6336-5" in n.text for n in s.results.notes)
    play = s.results.stages[0].mesh["j_op"]
    give(window, "swelling2" if "swelling2" in window.sheet.fields else "swelling_2", "1")
    assert s.results.stages[0].mesh["j_op"] < play
    window.over_bench.drop()
    window.open_more(2)
    key = next(k for k in window.sheet.fields if k.startswith("sigma_Flim"))
    give(window, key, "55 MPa")
    assert s.results.stages[0].gears[1]["sigma_Flim"] == 55
    assert keep_material(s, WHEEL, window.sheet, "tested resin")
    assert [m.name for m in shelf.materials()] == ["tested resin"]
    s.restart(demo("winch"), None)
    window.open_more(2)
    settle()
    choose(window, "material_2", "own: tested resin")
    m = get_at(s.design, WHEEL).material
    assert (m.name, m.group, m.sigma_Flim) == ("tested resin", "POM", 55)
    assert any("tested resin" in n.text for n in s.results.notes)
    # A damaged shelf is no reason to fail.
    shelf.shelf_file().write_text("{}", encoding="utf-8")
    assert shelf.materials() == []
    choose(window, "bending_2", "both ways")
    assert s.results.stages[0].gears[1]["Y_M"] < 1


def test_the_load_goes_to_the_tip_of_coarse_light_teeth_and_the_note_tells_why(window):
    s = window.session
    quality = {f"train.gears.gear{i + 1}.Q": 11 for i in (0, 1)}
    assert s.edit(lambda d, _r: set_many(d, {**quality, "train.duty.P": 50.0}), "coarse")
    assert s.results.stages[0].gears[0]["at_tip"] == 1
    note = next(n.text for n in s.results.notes if "at the tip" in n.text)
    assert "pitch deviation" in note
    alone = s.results.stages[0].gears[0]["Y_F"]
    window.open_sheet("mesh")
    settle()
    choose(window, "load_at", "outer point")
    assert s.results.stages[0].gears[0]["Y_F"] < alone
    choose(window, "mounting", "open")
    wide = s.results.stages[0].mesh["K_HA"]
    choose(window, "mounting", "extra precision")
    assert s.results.stages[0].mesh["K_HA"] < wide


def test_every_field_that_a_sheet_renews_stands_on_it(window):
    """Else the sheet would be made anew after each edit, under the hand."""
    for name in ("filter-wheel", "dome-ring", "dome-rack", "winch"):
        for method in ("entered", "C", "f_sh"):
            mesh = "train.meshes.stage1"
            window.session.restart(
                set_many(demo(name), {f"{mesh}.K_Hbeta_method": method, f"{mesh}.wheel_shaft": "counted"}), None
            )
            for i in (1, 2, 0):
                window.open_more(i)
                assert window.sheet.shows(window.sheet.renew()), (name, method, i)


def test_plastic_gears_warm_themselves_on_their_sheet(window):
    window.session.restart(demo("filter-wheel"), None)
    window.open_sheet("plastics")
    table = window.sheet.findChild(QLabel, "plastic_table")
    before = table.text()
    give(window, "plastic_ED", "100")
    warm = window.session.results.stages[0].gears[0]["theta_Fla"]
    assert table.text() != before
    assert f"{warm:.0f} °C" in table.text()
    choose(window, "plastic_running", "oil bath")
    assert window.session.results.stages[0].gears[0]["theta_Fla"] == window.session.design.train.duty.theta_oil
    choose(window, "plastic_running", "dry")
    give(window, "plastic_S_Fmin", "3")
    assert window.session.results.check("stage1.S_F1").limit == 3.0
    # A closed housing cannot do without its area.
    tag = window.sheet.fields["plastic_A_h"]
    QTest.mouseClick(tag, LEFT)
    tag.editor.clear()
    QTest.keyClick(tag.editor, Qt.Key.Key_Return)
    settle()
    assert window.session.design.train.losses.A_h == 0.02


def every_sheet(window):
    """Ways to open each sheet that is registered."""
    return [partial(window.open_sheet, key) for key in sheets()]


def test_a_sheet_closes_by_escape_and_when_another_design_opens(window):
    two = set_many(demo("winch"), {"train.machine": None})
    window.session.restart(demo("winch"), None)
    window.session.select_stage(1)
    for open_sheet in every_sheet(window):
        open_sheet()
        settle()
        sheet = window.sheet
        # From whatever has the keyboard: what does not want the key hands it on.
        QTest.keyClick(window.focusWidget() or window, Qt.Key.Key_Escape)
        settle()
        assert not isValid(sheet), open_sheet
    for open_sheet in every_sheet(window):
        window.session.restart(two, None)
        window.session.select_stage(1)
        open_sheet()
        settle()
        sheet = window.sheet
        # The stage that it shows is no more there.
        window.session.restart(demo("mirror-cover"), None)
        settle()
        assert not isValid(sheet), open_sheet


def test_levers_name_the_limit_with_its_unit(window):
    hot = {"train.losses.A_h": 0.05, "train.losses.theta_max": 60.0}
    window.session.restart(set_many(demo("winch"), hot), None)
    for system, words in (("mm", "Levers to reach 60 °C"), ("inch", "Levers to reach 140 °F")):
        window.session.set_system(system)
        window.margins.open("")
        window.margins.open("train.theta_bal")
        assert window.margins.card_title.text() == words
    window.session.set_system("mm")


@pytest.mark.parametrize("name", ["winch", "filter-wheel"])
def test_no_sheet_scrolls_sideways_on_the_smallest_screen(window, name):
    window.session.restart(demo(name), None)
    window.resize(1024, 700)
    wide = 0
    for open_sheet in every_sheet(window):
        window.session.select_stage(1)
        open_sheet()
        settle()
        if window.sheet.accessibleName().startswith("Round") and name == "filter-wheel":
            assert "round numbers already" in window.sheet.findChild(QLabel, "round_words").text()
        # A table that has more columns than fit scrolls by itself.
        for area in window.sheet.findChildren(ClearArea):
            assert not area.horizontalScrollBar().isVisible(), open_sheet
        for label in window.sheet.findChildren(QLabel):
            # Markup of our own is typeset, not shown.
            assert label.textFormat() == Qt.TextFormat.RichText or not re.search(r"</\w+>", label.text()), label.text()
        wide += len(getattr(window.sheet.inside, "_lanes", ())) > 1 if isinstance(window.sheet, Sheet) else 0
    assert wide > 3, "where there is room columns stand side by side"


def test_a_closed_sheet_hears_nothing_of_the_session_any_more(window):
    session = window.session

    def heard():
        return session.receivers(SIGNAL("changed()")), session.receivers(SIGNAL("system_changed()"))

    opens = every_sheet(window)
    for open_sheet in opens:
        open_sheet()
        settle()
        window.over_bench.drop()
        settle()
    before = heard()
    for open_sheet in opens:
        open_sheet()
        settle()
        window.over_bench.drop()
        settle()
        assert heard() == before, open_sheet


def test_the_gear_sheet_draws_what_cuts_the_gear_with_its_numbers(window):
    """Of a hob, a cutter, a form and an ellipse: the drawing follows what is typed, each number on it, and goes with
    its stage."""
    base = "train.gears.gear1."
    for tool, symbols in (
        ("rack", {"h_fP", "rho_fP", "h_aP", "pr_P", "q_P", "alpha_prP"}),
        ("pinion cutter", {"h_fP", "rho_fP", "h_aP"}),
        ("elliptic", {"h_fP", "rho_fP", "h_aP", "h_Ff", "w_F"}),
        ("form", {"h_fP", "rho_fP", "h_aP"}),
    ):
        window.session.edit(lambda d, _r, tool=tool: set_many(d, {base + "tool": tool, base + "rho_fP": 0.25}), tool)
        window.open_sheet("gear_1")
        settle()
        drawing = window.sheet.findChild(ToolDrawing, "tool_1")
        assert set(drawing.tags) == symbols and symbols <= set(drawing.profile().at)
        before = drawing.profile().metal
        typed = drawing.tags["h_fP"]
        typed.commit_text("1.3")
        assert drawing.profile().metal[:, 1].max() > before[:, 1].max()
        drawing.grab()
        window.session.undo()
        window.sheet.dismiss()
        settle()

"""Sheets and lenses beyond the first job, driven in the real window."""

import numpy as np
import pytest
from pypdf import PdfReader
from PySide6.QtCore import QCoreApplication, QEvent, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QLineEdit, QPushButton, QWidget
from shiboken6 import isValid

from cooper.demo import DEMOS, demo
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.shell.exporting import ExportCard
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.cells_view import CellsView
from cooper.desk.widgets.fault_card import FaultCard
from cooper.desk.widgets.rich_page import RichPage
from cooper.desk.widgets.rows_view import RowsView
from cooper.desk.widgets.tag import Tag
from cooper.desk.widgets.tag_range import tell_range
from cooper.desk.widgets.word_choice import WordChoice
from cooper.editing.edit import set_many
from cooper.gears.measure import span
from waiting import wait_for

LEFT = Qt.MouseButton.LeftButton


def type_into(window, key, text):
    tag = window.bench.tags[key]
    QTest.mouseClick(tag, LEFT)
    QTest.keyClicks(tag.editor, text)
    QTest.keyClick(tag.editor, Qt.Key.Key_Return)
    settle()
    return tag


def test_a_negative_count_makes_a_ring_that_every_lens_shows(window):
    s = window.session
    s.edit(lambda d, _r: set_many(d, {"train.duty.u_wanted": None, "train.gears.gear2.x": -0.1}), "")
    type_into(window, "z_2", "-72")
    stage = s.results.stages[0]
    assert stage.kind.inward
    assert stage.wheel_x == -stage.mesh["a_w"]
    assert s.design.train.stages[0].gears[1].tool == "pinion cutter"
    assert window.bench.tags["z_2"].text() == "-72"
    ring = window.bench.drawing.gears[1]
    assert ring.pos().x() == pytest.approx(-stage.mesh["a_w"])
    # The ring is filled between opening and rim: its own centre is open, its rim is not.
    assert not ring.path().contains(ring.path().boundingRect().center())
    for lens in ("side", "contact", "shifts", "tooth", "teeth"):
        window.bench.set_lens(lens)
        settle()
        assert not window.grab().isNull()
    window.open_more(2)
    fields = window.sheet.fields
    assert {"d_rim2", "z_0_2" if "z_0_2" in fields else "z_02"} <= set(fields)
    assert "d_bore2" not in fields
    window.open_sheet("sheet_2")
    assert "between two balls" in window.sheet.findChild(RichPage, "dimension_table").text()
    # Both gears turn the same way: the pinion's roll moves the ring in the same sense.
    before = ring.rotation()
    window.bench.drawing.set_roll(0.05)
    assert 0 < ring.rotation() - before < np.degrees(0.05)
    type_into(window, "z_2", "41")
    assert s.design.train.stages[0].gears[1].tool == "rack"
    assert s.design.train.stages[0].gears[1].d_rim is None


def test_counts_for_a_centre_distance_are_listed_and_taken(window):
    window.open_sheet("fit_teeth")
    settle()
    table = window.sheet.findChild(RowsView, "fit_table")
    assert len(table.rows.rows) > 3
    line = window.sheet.findChild(QLineEdit, "fit_a_w")
    line.setText("40")
    QTest.keyClick(line, Qt.Key.Key_Return)
    settle()
    row = [table.text(0, c) for c in range(2, 9)]
    table.activated.emit(table.model().index(0, 0))
    settle()
    stage = window.session.results.stages[0]
    assert stage.mesh["a_w"] == 40
    assert [stage.mesh["m_n"], stage.gears[0]["z"], stage.gears[1]["z"]] == [float(v) for v in row[:3]]
    for nonsense in ("0.001", "-3", "banana"):
        line.setText(nonsense)
        QTest.keyClick(line, Qt.Key.Key_Return)
        settle()
        assert len(table.rows.rows) == 0
        assert "cannot be" in window.sheet.findChild(QLabel, "fit_words").text()
    window.sheet.findChild(WordChoice, "reach_which").setCurrentIndex(1)
    diameter = window.sheet.findChild(QLineEdit, "reach_d")
    diameter.setText("30")
    QTest.mouseClick(window.sheet.findChild(QPushButton, "reach_list"), LEFT)
    settle()
    ways = window.sheet.findChild(RowsView, "reach_table")
    assert len(ways.rows.rows) >= 1
    ways.activated.emit(ways.model().index(0, 0))
    settle()
    assert window.session.results.stages[0].gears[0]["d_a"] == pytest.approx(30.0, abs=1.5)


def test_a_formula_typed_into_a_tag_holds_until_a_number_is_typed(window):
    s = window.session
    tag = type_into(window, "b_1", "=9*m_n")
    assert s.results.stages[0].gears[0]["b"] == pytest.approx(11.25)
    assert "formula" in tag.accessibleDescription()
    type_into(window, "size", "1.5")
    assert s.results.stages[0].gears[0]["b"] == pytest.approx(13.5)
    refused = type_into(window, "b_2", "=b_1*banana")
    assert "banana is not known" in refused.fault.findChild(QLabel, "fault_reason").text()
    QTest.keyClick(refused.editor, Qt.Key.Key_Escape)
    window.open_sheet("formulas")
    names = window.sheet.findChild(CellsView, "names_table")
    names.type_in(0, 0, "psi")
    names.type_in(0, 1, "8")
    ties = window.sheet.findChild(CellsView, "formulas_table")
    assert ties.row(0)[0] == "stage1.b_1"
    ties.type_in(0, 1, "psi*m_n")
    settle()
    assert s.results.stages[0].gears[0]["b"] == pytest.approx(12.0)
    ties.type_in(0, 1, "b_1")
    assert "depends on itself" in window.sheet.findChild(QLabel, "formulas_fault").text()
    type_into(window, "b_1", "14")
    assert s.design.formulas == {}
    s.undo()
    assert s.design.formulas == {"stage1.b_1": "psi*m_n"}


def test_the_flank_table_follows_the_design_in_each_frame(window):
    window.open_sheet("flank_points")
    table = window.sheet.findChild(RowsView, "flank_points_table")
    assert len(table.rows.rows) == 25
    first = float(table.text(0, 0))
    assert first == pytest.approx(window.session.results.stages[0].gears[0]["d_fE"], abs=1e-5)
    type_into(window, "x_1", "0.4")
    assert float(table.text(0, 0)) > first
    count = window.sheet.findChild(QLineEdit, "flank_count")
    for text, rows in (("7", 7), ("1", 0), ("1e9", 0), ("x", 0), ("4", 4)):
        count.setText(text)
        count.editingFinished.emit()
        assert len(table.rows.rows) == rows
    window.sheet.findChild(WordChoice, "flank_frame").setCurrentIndex(2)
    assert "half angle" in table.rows.names[2]
    QTest.mouseClick(window.sheet.findChild(QPushButton, "copy_flank"), LEFT)
    assert len(QGuiApplication.clipboard().text().splitlines()) == 5


def test_the_tooth_lens_measures_between_picked_points_and_switches_layers(window):
    window.session.edit(lambda d, _r: set_many(d, {"train.gears.gear1.h_K": 0.15}), "chamfer")
    window.bench.set_lens("tooth")
    settle()
    lens = window.bench.view("tooth")
    g = window.session.results.stages[0].gears[0]
    assert set(map(lens.kind_of, lens.lines())) == {"as designed", "plain involute", "state before"}
    for sign in (-1, 1):
        QTest.mouseClick(lens, LEFT, pos=lens.at(sign * g["s_nE"] / 2, g["d"] / 2).toPoint())
    assert lens.measured() == pytest.approx(g["d"] * np.sin(g["s_nE"] / g["d"]), abs=0.03)
    assert float(np.abs(lens.lines()["as designed"] - lens.picked[0]).sum(axis=1).min()) < 0.05, "picks snap to a line"
    QTest.mouseClick(lens.buttons["rounding"], LEFT)
    assert any(n.startswith("rounding") for n in lens.lines())
    QTest.keyClick(lens, Qt.Key.Key_M)
    assert lens.factor == 5
    assert lens.measured() is None
    QTest.keyClick(lens, Qt.Key.Key_2)
    assert lens.gear == 2


def wait_for_export(window):
    wait_for(lambda: not window.ways_out.running.busy, "the export never ended")
    settle()


def test_slow_exports_run_beside_the_window_and_can_be_cancelled(window, tmp_path):
    path = tmp_path / "pair.stl"
    window.ways_out.export_to(path)
    assert window.ways_out.running.busy
    window.session.undo()
    wait_for_export(window)
    assert path.stat().st_size > 10_000
    assert str(path) in window.notice.text.text()
    window.ways_out.export_to(tmp_path / "late.step")
    QTest.mouseClick(window.notice.findChild(QPushButton, "notice_cancel"), LEFT)
    running = window.ways_out.running
    assert not running.busy
    # Nobody waited for it; it goes by itself and leaves nothing, while the next one is written already.
    assert running.leaving
    window.ways_out.export_to(tmp_path / "next.stl")
    wait_for(lambda: not running.leaving)
    wait_for_export(window)
    assert sorted(p.name for p in tmp_path.iterdir() if "cooper" in p.name or p.suffix) == ["next.stl", "pair.stl"]
    window.ways_out.export_to(tmp_path / "no" / "where.stl")
    wait_for_export(window)
    assert "Not exported" in window.notice.text.text()
    window.ways_out.export_to(tmp_path / "report.pdf")
    settle()
    assert "state 1 of" in "".join(page.extract_text() for page in PdfReader(tmp_path / "report.pdf").pages[:2])
    window.ways_out.export_to(tmp_path / "no" / "report.pdf")
    settle()
    assert "Not exported" in window.notice.text.text()
    dialog = ExportCard(window, "mm")
    dialog.kind.setCurrentIndex(0)
    for tolerance, grown, good in (("0.01", "0.05 mm", True), ("9", "0", False), ("", "50", False), ("x", "0", False)):
        dialog.tolerance.setText(tolerance)
        dialog.compensation.setText(grown)
        dialog.accept()
        assert (dialog.fault.text() == "" or good) == good
    assert dialog.options.compensation == 0.05


def test_a_measured_gear_is_matched_and_put_into_the_design(window):
    g, t = window.session.results.stages[0].gears[0], window.session.results.stages[0].teeth[0]
    window.open_sheet("match")
    sheet = window.sheet
    size = span(t, 3), span(t, 2)
    entries = {
        "z": "17",
        "tip": f"{g['d_a']:.3f}",
        "spans": f"3:{float(size[0]):.3f}; 2:{float(size[1]):.3f}",
        "helix": "",
    }
    for name, text in entries.items():
        sheet.findChild(QLineEdit, f"match_{name}").setText(text)
    QTest.mouseClick(sheet.findChild(QPushButton, "match_list"), LEFT)
    settle()
    table = sheet.findChild(RowsView, "match_table")
    rows = [[table.text(r, c) for c in range(8)] for r in range(len(table.rows.rows))]
    mine = next(r for r, row in enumerate(rows) if row[0] == "1.25" and row[2] == "20" and row[3] == "0")
    assert mine < 2
    assert float(rows[mine][4]) == pytest.approx(g["x_E"], abs=0.01)
    table.activated.emit(table.model().index(mine, 0))
    settle()
    assert window.session.results.stages[0].gears[0]["x"] == pytest.approx(g["x_E"], abs=0.01)
    for name, text, word in (("z", "2", "tooth count"), ("spans", "banana", "number:size"), ("tip", "-3", "above 0")):
        line = sheet.findChild(QLineEdit, f"match_{name}")
        line.setText(text)
        QTest.keyClick(line, Qt.Key.Key_Return)
        settle()
        assert word in sheet.findChild(QLabel, "match_words").text()
        assert len(table.rows.rows) == 0
        line.setText(entries[name])


def test_the_user_chooses_how_many_decimals_are_shown(window, tmp_path):
    tag, value = window.bench.tags["a_w"], window.session.results.stages[0].mesh["a_w"]
    usual = tag.text()
    QTest.keyClick(window, Qt.Key.Key_Period, Qt.KeyboardModifier.ControlModifier)
    window.change_digits(1)
    settle()
    assert len(tag.text()) > len(usual)
    # What is written from the window shows what is on it.
    for name in ("report.txt", "report.html"):
        window.ways_out.export_to(tmp_path / name)
        settle()
        assert tag.text() in (tmp_path / name).read_text(encoding="utf-8"), name
    window.change_digits(-4)
    settle()
    assert len(tag.text()) < len(usual)
    assert window.session.results.stages[0].mesh["a_w"] == value
    while window.digits:
        window.change_digits(1 if window.digits < 0 else -1)
    assert tag.text() == usual


def test_a_rack_has_its_own_tags_and_rolls_along_its_line(window):
    window.open_more(2)
    shape = next(c for c in window.sheet.choices if c.key == "shape")
    shape.pick(*next(o for o in shape.options() if o[0] == "rack"))
    settle()
    s = window.session
    assert s.results.stages[0].kind.key == "rack"
    tags = window.bench.tags
    assert tags["h_back2"].isVisible()
    assert not any(tags[k].isVisible() for k in ("d_2", "d_a2", "x_2"))
    item = window.bench.drawing.gears[1]
    before = item.pos().y()
    window.bench.drawing.set_roll(0.1)
    assert item.pos().y() - before == pytest.approx(0.1 * s.results.stages[0].gears[0]["d"] / 2)
    assert len(window.bench.drawing.contacts()) in (1, 2)
    for lens in ("side", "contact", "shifts", "tooth", "teeth"):
        window.bench.set_lens(lens)
        settle()
        assert not window.grab().isNull()
    assert [len(plot.lines) for plot in window.bench.view("contact").plots()] == [2, 1, 1, 1], (
        "no radius for the straight flank"
    )
    type_into(window, "h_back2", "1")
    assert "back" in tags["h_back2"].fault.findChild(QLabel, "fault_reason").text()
    s.undo()
    settle()
    assert tags["d_2"].isVisible()
    assert not tags["h_back2"].isVisible()


def test_an_open_tag_tells_the_range_that_works_before_it_is_left(window):
    window.open_more(1)
    tag = window.sheet.fields["rho_fP1"]
    QTest.mouseClick(tag, LEFT)
    tell_range(tag)
    settle()
    words = tag.hint.text()
    low, high = (float(v) for v in words.removeprefix("works from ").split(" to "))
    assert low == pytest.approx(0.0, abs=1e-3)
    assert high == pytest.approx(0.4719, abs=2e-3)  # full round of the tool's tip at a dedendum of 1.25
    QTest.keyClick(tag.editor, Qt.Key.Key_Escape)
    assert tag.hint is None
    tag = window.bench.tags["z_1"]
    QTest.mouseClick(tag, LEFT)
    # It comes by itself, half a second after the hand rests and as soon as the ends are found.
    wait_for(lambda: tag.hint is not None)
    assert tag.hint.text().startswith("works from ")
    assert tag.hint.parentWidget() is tag.parentWidget(), "what covers the tag covers its hint"
    QTest.keyClicks(tag.editor, "3")
    QTest.keyClick(tag.editor, Qt.Key.Key_Return)
    assert tag.hint is None
    assert tag.fault is not None


def test_tips_are_shortened_to_the_clearance_of_the_racks(window):
    s = window.session
    s.edit(lambda d, _r: set_many(d, {"train.gears.gear1.x": 0.6, "train.gears.gear2.x": 0.5}), "")
    window.run("clear_tips")
    settle()
    stage = s.results.stages[0]
    assert [g["c"] for g in stage.gears] == pytest.approx([0.25 * 1.25] * 2, abs=6e-4)
    assert {"d_a1", "d_a2"}.isdisjoint(stage.solved)
    window.run("clear_tips")
    settle()
    assert "already" in window.notice.text.text()


def test_two_states_lie_side_by_side_and_are_copied(window):
    s = window.session
    window.open_sheet("compare")
    alone = window.sheet.findChild(QLabel, "compare_alone")
    assert not alone.isHidden() and "one state" in alone.text()
    type_into(window, "b_1", "14")
    assert alone.isHidden()
    type_into(window, "x_1", "0.4")
    table = window.sheet.findChild(RowsView, "compare_table")

    def rows():
        return [[table.text(r, c) for c in range(4)] for r in range(table.rows.rowCount())]

    assert ["stage 1, gear 1, x", "0.32", "0.4", "▲ 25.0 %"] in rows()
    assert not any("gear 1, b" in r[0] for r in rows())
    window.sheet.findChild(WordChoice, "compare_first").setCurrentIndex(0)
    assert ["stage 1, gear 1, b", "11 mm", "14 mm", "▲ 27.3 %"] in rows()
    QTest.mouseClick(window.sheet.findChild(QPushButton, "copy_compare"), LEFT)
    assert "stage 1, gear 1, b\t11 mm\t14 mm\trose" in QGuiApplication.clipboard().text()
    s.undo()
    settle()
    assert any("gear 1, b" in r[0] for r in rows()), "the sheet follows the Trail"


def test_stages_are_added_selected_moved_and_taken_away_on_the_power_line(window):
    s = window.session
    window.run("stage_0")
    settle()
    assert len(window.power_line.cards) == 2
    assert s.stage == 1
    name = s.design.train.stages[1].name
    window.run("stage_2")
    settle()
    assert (s.stage, s.design.train.stages[0].name) == (0, name)
    window.run("stage_3")
    window.run("stage_4")
    settle()
    assert len(window.power_line.cards) == 1
    assert s.stage == 0
    window.run("stage_4")
    settle()
    assert "at least one" in window.notice.text.text()
    s.undo()
    settle()
    s.select_stage(1)
    s.redo()
    settle()
    assert s.stage == 0, "a selection that the state does not have moves to one that it has"


def test_the_play_sheet_reaches_a_wanted_backlash(window):
    s = window.session
    window.open_sheet("play")
    line = window.sheet.findChild(QLineEdit, "play_wanted")
    words = window.sheet.findChild(QLabel, "play_words")
    picture = window.sheet.findChild(QWidget, "play_picture")
    before = picture.spread
    line.setText("0.12")
    QTest.mouseClick(window.sheet.findChild(QPushButton, "play_reach"), LEFT)
    settle()
    assert s.results.stages[0].mesh["j_wt_min"] == pytest.approx(0.12, abs=2e-4)
    assert picture.spread is not before
    for nonsense, word in (("banana", "cannot be"), ("49", "no thinning"), ("-5", "between")):
        line.setText(nonsense)
        QTest.keyClick(line, Qt.Key.Key_Return)
        assert word in words.text()


def test_the_mesh_sheet_shows_only_entries_that_count(window):
    def names():
        return set(window.sheet.fields)

    window.open_sheet("mesh")
    assert {"K_Hbeta", "K_Halpha"} <= names()
    assert names().isdisjoint({"l_sh", "C_a", "b_gap", "f_ZCa"})
    for key, word in (("K_Hbeta_method", "method C"), ("K_V_method", "method B"), ("K_Halpha_method", "method B")):
        choice = next(c for c in window.sheet.choices if c.key == key)
        choice.pick(*next(o for o in choice.options() if o[0].startswith(word)))
        settle()
    assert {"l_sh", "s_sh", "d_sh", "C_a"} <= names()
    assert names().isdisjoint({"K_Hbeta", "K_Halpha"})
    assert window.session.results.stages[0].methods == {"K_V": "B", "K_Hbeta": "C", "K_Halpha": "B"}
    type_into(window, "beta", "15")
    assert "f_ZCa" in names()


@pytest.mark.parametrize("name", list(DEMOS))
def test_every_demo_opens_from_the_command_list_in_every_lens(window, name):
    window.session.saved = window.session.design
    next(c for c in window.commands if c.key == f"demo_{name}").run()
    settle()
    assert window.session.design == demo(name)
    for stage in range(len(window.session.results.stages)):
        window.session.select_stage(stage)
        for lens in ("side", "contact", "shifts", "tooth", "teeth"):
            window.bench.set_lens(lens)
            settle()
            assert not window.grab().isNull()
    assert {c.verdict for c in window.session.results.checks} >= {"holds"}


def test_a_gear_beyond_the_tolerance_tables_is_told_on_its_drawing_sheet(window):
    window.open_sheet("drawing_2")
    settle()
    grown = {"train.meshes.stage1.m_n": 60.0, "train.gears.gear2.z": 60}
    window.session.edit(lambda d, _r: set_many(d, grown), "grown")
    settle()
    assert "cannot be drawn" in window.sheet.preview.fault and "3150" in window.sheet.preview.fault
    window.session.undo()
    settle()
    assert window.sheet.preview.paper is not None and "IT_bore2" in window.sheet.fields


def test_the_drawing_sheet_shows_says_and_writes_what_it_is_told(window, tmp_path):
    window.open_sheet("drawing_2")
    sheet = window.sheet
    settle()
    assert sheet.preview.paper is not None and not sheet.preview.fault
    part = sheet.findChild(QLineEdit, "text_part")
    part.setFocus()
    QTest.keyClicks(part, "KL-7 & <b>")
    QTest.keyClick(part, Qt.Key.Key_Return)
    settle()
    gear = window.session.design.train.stages[0].gears[1]
    assert gear.drawing.part == "KL-7 & <b>"
    assert "KL-7 & <b>" in [t.words for t in sheet.preview.paper.items if hasattr(t, "words")]
    tag = sheet.fields["IT_bore2"]
    for text, wanted in (("6", 6), ("99", 6), ("x", 6), ("7.5", 6)):
        QTest.mouseClick(tag, LEFT)
        QTest.keyClicks(tag.editor, text)
        QTest.keyClick(tag.editor, Qt.Key.Key_Return)
        if text != "6":
            # What was refused is taken back.
            QTest.keyClick(tag.editor, Qt.Key.Key_Escape)
        settle()
        assert window.session.design.train.stages[0].gears[1].drawing.IT_bore == wanted
    assert window.sheet is sheet
    for suffix in (".pdf", ".dxf", ".svg"):
        sheet.save_to(tmp_path / f"wheel{suffix}")
        assert (tmp_path / f"wheel{suffix}").stat().st_size > 5000
    sheet.save_to(tmp_path / "no" / "wheel.pdf")
    assert "Not saved" in window.notice.text.text()
    QTest.mouseClick(sheet.findChild(QPushButton, "drawing_copy"), LEFT)
    assert QGuiApplication.clipboard().image().width() > 2000
    window.session.undo()
    window.session.undo()
    assert window.session.design.train.stages[0].gears[1].drawing.part == ""
    assert part.text() == ""


def test_a_sheet_comes_in_turns_and_what_is_typed_meanwhile_is_its_own(window):
    window.open_sheet("duty")
    assert not any(s.isVisible() for s in window.findChildren(Sheet, "sheet"))
    # The window gets the key, as it does from the hand; by then the sheet is still on its way.
    QTest.keyClick(window.windowHandle(), Qt.Key.Key_7)
    first = next(iter(window.sheet.fields.values()))
    assert first.isVisible() and first.editor is not None and first.editor.text() == "7"
    first.close_editor(take=False)
    # Another takes its place once it is there, and not before.
    before = window.sheet
    window.open_sheet("mesh")
    assert before.isVisible()
    settle()
    assert not isValid(before) or not before.isVisible()
    assert window.sheet.isVisible() and window.sheet is not before
    # Given up on the way, nothing of it is left to follow the design.
    window.open_sheet("losses")
    window.over_bench.drop()
    settle()
    assert window.sheet is None and not any(s.isVisible() for s in window.findChildren(Sheet, "sheet"))
    # Another design that opens before it is there closes it too.
    window.open_sheet("gear_1")
    window.session.restart(demo("winch"), None)
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    settle()
    assert window.sheet is None and not any(s.isVisible() for s in window.findChildren(Sheet, "sheet"))


def test_a_sheet_lies_over_what_was_refused_beneath_it_and_what_was_typed_is_kept(window):
    tag = window.bench.tags["z_1"]
    window.activateWindow()
    tag.open("1")
    QTest.keyClick(tag.editor, Qt.Key.Key_Return)
    assert tag.fault is not None and tag.editor.hasFocus()
    window.open_sheet("duty")
    settle()
    assert tag.fault is None and not any(c.isVisible() for c in window.findChildren(FaultCard))
    window.over_bench.drop()
    assert tag.editor is not None and tag.editor.text() == "1"
    # However a tag goes, its card goes with it.
    other = Tag(window.session, tag.field, window.theme, window.bench)
    other.show()
    assert not other.commit_text("1") and other.fault.isVisible()
    other.deleteLater()
    settle()
    assert not any(c.isVisible() for c in window.findChildren(FaultCard))


def test_exports_are_written_one_after_the_other_and_closing_tells_of_those_under_way(window, tmp_path, monkeypatch):
    ways, tmp_path = window.ways_out, tmp_path / "out"
    tmp_path.mkdir()
    for name in ("a.stl", "b.stl", "c.stl", "d.csv"):
        ways.export_to(tmp_path / name)
    assert [p.name for p in ways.under_way()] == ["a.stl", "b.stl", "c.stl", "d.csv"]
    wait_for(
        lambda: any(b.isVisible() and b.height() == b.sizeHint().height() for b in window.notice.buttons[:1]),
        "the words on it stand whole",
    )
    ways.cancel(tmp_path / "b.stl")
    asked = []

    def answer(title, words, answers, n):
        asked.append(words)
        return answers[n]

    monkeypatch.setattr(window, "ask_first", lambda *asked_of: answer(*asked_of, n=2))
    window.close()
    assert window.isVisible() and "a.stl" in asked[-1] and "d.csv" in asked[-1]
    monkeypatch.setattr(window, "ask_first", lambda *asked_of: answer(*asked_of, n=0))
    window.close()
    assert window.isVisible(), "it waits for what is being written"
    wait_for(lambda: not window.isVisible())
    assert not ways.under_way()
    assert sorted(p.name for p in tmp_path.iterdir()) == ["a.stl", "c.stl", "d.csv"]
    assert not window.notice.questions, "no question is left of what was written or cancelled"


def test_an_export_is_broken_off_where_the_window_closes_on_it(window, tmp_path, monkeypatch):
    folder = tmp_path / "out"
    folder.mkdir()
    for name in ("a.step", "b.step"):
        window.ways_out.export_to(folder / name)
    window.ways_out.export_to(folder / "c.pdf")
    monkeypatch.setattr(window, "ask_first", lambda _title, _words, answers: answers[1])
    window.close()
    assert not window.isVisible() and not window.ways_out.under_way()
    settle()
    assert [p.name for p in folder.iterdir() if p.suffix == ".step"] == []

"""The real window, driven offscreen by mouse and keyboard through the main job."""

import json
import os
import re
import subprocess
import sys

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt, QTimer
from PySide6.QtGui import QGuiApplication, QPalette, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QLineEdit, QPushButton, QWidget
from shiboken6 import isValid

from cooper.demo import demo
from cooper.desk.base import recovery
from cooper.desk.shell.first_walk_commands import begin_walk
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.fault_card import FaultCard
from cooper.desk.widgets.rich_page import RichPage
from cooper.document.store import open_design, save_design
from cooper.editing.edit import set_at
from waiting import wait_for

LEFT = Qt.MouseButton.LeftButton


def type_into(window, key, text, end=Qt.Key.Key_Return):
    tag = window.bench.tags[key]
    QTest.mouseClick(tag, LEFT)
    QTest.keyClicks(tag.editor, text)
    QTest.keyClick(tag.editor, end)
    settle()
    return tag


def test_the_main_job(window, tmp_path):
    session = window.session
    worst = session.results.checks_of(0)[0]
    assert worst.verdict == "short"
    row = window.margins.rows[worst.key]
    assert "short" in row.accessibleDescription()

    # Edit a number on the drawing: the margin moves and keeps a tick of the value before, the Trail grows.
    type_into(window, "b_1", "16")
    type_into(window, "b_2", "15 mm")
    assert session.design.train.stages[0].gears[1].b == 15.0
    assert session.results.check(worst.key).verdict == "holds"
    row = window.margins.rows[worst.key]
    assert row.before is not None and row.before < row.check.margin
    assert len(window.trail.stops) == 3

    # Nonsense keeps the last valid design, says why, and offers a value that works.
    tag = type_into(window, "z_1", "3")
    assert tag.fault is not None
    assert "4" in tag.fault.findChild(QLabel, "fault_range").text()
    assert session.results.stages[0].gears[0]["z"] == 17
    QTest.mouseClick(tag.fault.findChild(QPushButton, "take_nearest"), LEFT)
    settle()
    for text in ("blue", "1/0", "12 kg", "16.5"):
        tag.open()
        tag.editor.setText(text)
        QTest.keyClick(tag.editor, Qt.Key.Key_Return)
        assert tag.fault is not None, text
        if text == "blue":
            # It is refused at once; the range is looked for while the window goes on.
            assert tag.fault.findChild(QLabel, "fault_range").text().endswith("…")
        settle()
        # Never a message without a number: the range that works stands beside the reason.
        assert re.search(r"[0-9]", tag.fault.findChild(QLabel, "fault_range").text()), text
        QTest.keyClick(tag.editor, Qt.Key.Key_Escape)

    # Undo goes back along the Trail and redo forward; nothing is lost.
    while session.state.parent is not None:
        QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert session.design == demo()
    QTest.keyClick(window, Qt.Key.Key_Y, Qt.KeyboardModifier.ControlModifier)
    assert session.design.train.stages[0].gears[0].b == 16.0
    states = len(session.states)

    # Save, reopen: the same design; the window knows that nothing is unsaved.
    file = tmp_path / "job.cooper.json"
    assert session.dirty
    assert window.save_to(file)
    assert not session.dirty
    assert open_design(file) == session.design
    assert len(session.states) == states
    window.open_path(file)
    assert session.design.train.stages[0].gears[0].b == 16.0
    assert window.settings.recent() == [file]


def test_units_sums_and_both_systems_in_a_tag(window):
    type_into(window, "b_1", "5/8 in")
    assert window.session.design.train.stages[0].gears[0].b == 15.875
    QTest.keyClick(window, Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
    assert window.bench.tags["b_1"].text() == "0.625"
    type_into(window, "b_1", "2*0.25")
    assert window.session.design.train.stages[0].gears[0].b == pytest.approx(12.7)
    type_into(window, "size", "20 DP")
    assert window.session.results.stages[0].mesh["m_n"] == pytest.approx(1.27)
    assert window.bench.tags["size"].field.key == "P_nd"
    QTest.keyClick(window, Qt.Key.Key_M, Qt.KeyboardModifier.ControlModifier)
    assert window.bench.tags["size"].field.key == "m_n"


def test_given_and_solved_change_places_by_one_key(window):
    tags, session = window.bench.tags, window.session
    assert tags["a_w"].is_solved()
    x_2 = session.results.stages[0].gears[1]["x"]
    a_w = session.results.stages[0].mesh["a_w"]
    tags["a_w"].setFocus()
    QTest.keyClick(tags["a_w"], Qt.Key.Key_G)
    assert not tags["a_w"].is_solved()
    assert tags["x_2"].is_solved()
    assert session.results.stages[0].gears[1]["x"] == pytest.approx(x_2, abs=1e-9)
    type_into(window, "a_w", "37")
    assert session.results.stages[0].mesh["a_w"] == 37.0
    tag = type_into(window, "a_w", "20")
    assert "no shift" in tag.fault.findChild(QLabel, "fault_reason").text().lower()
    low, high = (float(t) for t in re.findall(r"[0-9.]+", tag.fault.findChild(QLabel, "fault_range").text()))
    assert 34 < low < 36.8 < high < 39
    QTest.keyClick(tag.editor, Qt.Key.Key_Escape)
    type_into(window, "x_2", "0.1")
    assert session.results.stages[0].mesh["a_w"] != pytest.approx(a_w)
    type_into(window, "d_a1", "24.3")
    assert not tags["d_a1"].is_solved()
    QTest.keyClick(tags["d_a1"], Qt.Key.Key_G)
    assert tags["d_a1"].is_solved()
    type_into(window, "d_1", "34")
    assert session.results.stages[0].mesh["m_n"] == pytest.approx(2.0)
    assert tags["size"].is_solved()


def test_arrows_step_along_the_standard_series_and_make_one_state(window):
    tag = window.bench.tags["size"]
    tag.setFocus()
    for key, expected in ((Qt.Key.Key_Up, 1.375), (Qt.Key.Key_Up, 1.5), (Qt.Key.Key_Down, 1.375)):
        QTest.keyClick(tag, key)
        assert window.session.results.stages[0].mesh["m_n"] == expected
    assert len(window.session.states) == 2
    QTest.keyClick(window.bench.tags["z_2"], Qt.Key.Key_Up)
    assert window.session.results.stages[0].gears[1]["z"] == 42


def test_rolling_and_zooming_with_mouse_and_keys(window):
    drawing = window.bench.drawing
    centre = drawing.at(0, 0).toPoint()
    start = centre + QPoint(0, -60)
    QTest.mousePress(drawing.viewport(), LEFT, pos=start)
    QTest.mouseMove(drawing.viewport(), start + QPoint(-20, 0))
    QTest.mouseRelease(drawing.viewport(), LEFT, pos=start + QPoint(-20, 0))
    assert drawing.roll > 0.1  # pushed to the left above its centre, the pinion turns counter-clockwise
    stage = drawing.stage
    for x, y in drawing.contacts():
        for cx, g in ((0.0, stage.gears[0]), (stage.mesh["a_w"], stage.gears[1])):
            r = np.hypot(x - cx, y)
            assert g["d_Nf"] / 2 - 1e-9 <= r <= g["d_a"] / 2 + 1e-9
    QTest.keyClick(drawing, Qt.Key.Key_Right)
    for _ in range(18):
        at = drawing.at(stage.gears[0]["d_w"] / 2, 0)
        under = drawing.mapToScene(at.toPoint())
        event = QWheelEvent(
            QPointF(at.toPoint()),
            drawing.mapToGlobal(at),
            QPoint(),
            QPoint(0, 120),
            Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        QApplication.sendEvent(drawing.viewport(), event)
        after = drawing.mapToScene(at.toPoint())
        # What is under the pointer stays there, to a pixel.
        assert np.hypot(after.x() - under.x(), after.y() - under.y()) <= 2 / drawing.px_per_mm
    assert drawing.width() / drawing.px_per_mm < np.pi * stage.mesh["m_n"]
    QTest.keyClick(window, Qt.Key.Key_F)
    assert drawing.fitted


def test_a_check_opens_its_factors_and_a_lever_fixes_it(window):
    session = window.session
    worst = session.results.checks_of(0)[0]
    QTest.mouseClick(window.margins.rows[worst.key], LEFT)
    window.margins.fill_now()
    settle()
    assert window.why.isVisible()
    assert "Z_H" in window.why.stairs.accessibleDescription()
    lever = next(r for r in window.margins.lever_rows if r.objectName() == "lever_face_width")
    assert lever.isEnabled()
    QTest.mouseClick(lever, LEFT)
    settle()
    assert session.results.check(worst.key).margin >= 0
    assert session.state.label.startswith("face width")
    QTest.keyClick(window, Qt.Key.Key_Escape)
    assert not window.why.isVisible()


def test_trail_keeps_every_branch_and_pins(window):
    session = window.session
    type_into(window, "b_1", "14")
    session.undo()
    type_into(window, "b_1", "15")
    assert [s.parent for s in session.states] == [None, 0, 0]
    session.pin("light")
    QTest.mouseClick(window.trail.stops[1], LEFT)
    assert session.design.train.stages[0].gears[0].b == 14.0
    assert session.states[2].name == "light"
    assert "light" in window.trail.stops[2].accessibleName()


def test_duty_and_gear_sheets_edit_by_the_same_tags(window):
    QTest.mouseClick(window.power_line.ends[0], LEFT)
    sheet = window.sheet
    T = window.session.results.train["T_in"]
    tag = sheet.fields["T"]
    assert tag.is_solved()
    tag.open()
    tag.editor.setText("12 Nm")
    QTest.keyClick(tag.editor, Qt.Key.Key_Return)
    assert window.session.results.train["T_in"] == pytest.approx(12.0)
    assert sheet.fields["P"].is_solved()
    assert T > 12
    window.open_more(2)
    choice = next(c for c in window.sheet.choices if c.objectName().startswith("choice_material"))
    words, change = next(o for o in choice.options() if "grey cast iron" in o[0])
    choice.pick(words, change)
    assert window.session.design.train.stages[0].gears[1].material.group == "GG"
    window.sheet.fields["rho_fP2"].commit(0.6)
    card = window.findChild(FaultCard)
    assert card is not None
    assert "0.4719" in card.findChild(QLabel, "fault_range").text()


def test_each_shortcut_runs_one_command_as_its_keys_are_pressed(window):
    taken = [c.shortcut for c in window.commands if c.shortcut]
    assert sorted(k for k in set(taken) if taken.count(k) > 1) == []
    control, alt = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.AltModifier
    for key, held, name in (
        (Qt.Key.Key_4, control, "Machine"),
        (Qt.Key.Key_5, control, "Bearings to choose from"),
        (Qt.Key.Key_1, control | alt, "Dimension sheet"),
    ):
        QTest.keyClick(window, key, held)
        assert name in window.sheet.accessibleName()
        QTest.keyClick(window.sheet, Qt.Key.Key_Escape)


def test_commands_are_found_by_their_words_and_run(window):
    QTest.keyClick(window, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    assert window.command_list.isVisible()
    QTest.keyClicks(window.command_list.line, "dark")
    assert window.command_list.list.count() == 1
    QTest.keyClick(window.command_list.line, Qt.Key.Key_Return)
    assert window.theme.name == "dark"
    window.run("copy_checks")
    assert QGuiApplication.clipboard().text().count("\n") == len(window.session.results.checks)


def test_a_damaged_file_is_refused_in_the_window_and_the_design_stays(window, tmp_path):
    before = window.session.design
    (tmp_path / "cut.json").write_text((tmp_path / "x").name + '{"format": "cooper-design", "version": 1,')
    window.open_path(tmp_path / "cut.json")
    assert window.session.design == before
    assert "cut.json" in window.notice.text.text()
    assert not window.save_to(tmp_path / "no" / "such" / "folder.json")
    assert "still here" in window.notice.text.text()


def test_unsaved_work_of_a_killed_program_is_offered_again(window, tmp_path):
    code = (
        "import os, signal\n"
        "from cooper.demo import demo\n"
        "from cooper.editing.edit import set_at\n"
        "from cooper.desk.base.recovery import AutosaveStore\n"
        "kept = [AutosaveStore(), AutosaveStore()]\n"
        "kept[0].keep(set_at(demo(), 'train.gears.gear1.b', 12.75), None)\n"
        "kept[1].keep(set_at(demo(), 'train.gears.gear1.b', 13.25), None)\n"
        "print('kept', flush=True)\n"
        "input()\n"
    )
    surroundings = {**os.environ, "PYTHONPATH": "src"}
    other = subprocess.Popen(
        [sys.executable, "-c", code], env=surroundings, stdin=subprocess.PIPE, stdout=subprocess.PIPE
    )
    assert other.stdout.readline() == b"kept\n"
    assert recovery.leftovers() == [], "what a running program keeps is not left over"
    other.kill()
    other.wait()
    assert [left.design.train.stages[0].gears[0].b for left in recovery.leftovers()] == [13.25, 12.75]
    window._offer_recovery()
    window.notice.report("something else")
    window.notice.end()
    assert "1 more" in window.notice.text.text(), "a question stays until it is answered"
    QTest.mouseClick(next(b for b in window.notice.buttons if b.text() == "Recover it"), LEFT)
    settle()
    assert window.session.design.train.stages[0].gears[0].b == 13.25
    assert window.session.dirty
    QTest.mouseClick(next(b for b in window.notice.buttons if b.text() == "Give it up"), LEFT)
    assert recovery.leftovers() == []
    body = json.loads(window.keeper.file.read_text())
    assert body["design"]["train"]["gears"]["gear1"]["b"] == 13.25
    window.session.undo()
    window.session.restart(window.session.design, None)
    window.autosave_now()
    assert not window.keeper.file.exists()


def test_every_control_has_a_name_and_can_be_reached_by_tab(window):
    controls = [
        w
        for w in window.findChildren(QWidget)
        if w.isVisible() and w.isEnabled() and w.focusPolicy() & Qt.FocusPolicy.TabFocus
    ]
    controls = [w for w in controls if type(w).__module__.startswith("cooper") or isinstance(w, QPushButton)]
    assert len(controls) > 25
    for w in controls:
        assert w.objectName(), w
        assert w.accessibleName() or w.text(), w.objectName()
    seen = set()
    window.bench.tags["size"].setFocus()
    for _ in range(80):
        focus = QApplication.focusWidget()
        seen.add(focus.objectName())
        QTest.keyClick(focus, Qt.Key.Key_Tab)
    assert {w.objectName() for w in controls} <= seen


def test_files_saved_by_hand_elsewhere_open_by_dropping(window, tmp_path):
    save_design(demo(), tmp_path / "dropped.json")
    from PySide6.QtCore import QMimeData, QUrl
    from PySide6.QtGui import QDropEvent

    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(tmp_path / "dropped.json"))])
    event = QDropEvent(QPointF(5, 5), Qt.DropAction.CopyAction, data, LEFT, Qt.KeyboardModifier.NoModifier)
    window.dropEvent(event)
    assert window.session.path == tmp_path / "dropped.json"


def test_the_dimension_sheet_follows_the_design_and_is_copied(window):
    window.open_sheet("sheet_1")
    table = window.sheet.findChild(RichPage, "dimension_table")
    before = table.text()
    window.bench.tags["x_1"].commit(0.4)
    settle()
    assert table.text() != before
    QTest.mouseClick(window.sheet.findChild(QPushButton, "copy_dimensions"), LEFT)
    text = QGuiApplication.clipboard().text()
    assert "span over" in text
    assert "size over two balls" in text
    QTest.keyClick(window, Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
    settle()
    assert re.search(r"\d in\n", table.text())


def test_a_helix_is_set_on_the_drawing_and_its_hand_in_the_sheet(window):
    a_w = window.session.results.stages[0].mesh["a_w"]
    type_into(window, "beta", "15°")
    mesh = window.session.results.stages[0].mesh
    assert mesh["a_w"] > a_w
    assert mesh["eps_beta"] > 0.5
    window.open_sheet("mesh")
    hand = next(c for c in window.sheet.choices if c.key == "hand")
    words, change = hand.options()[1]
    hand.pick(words, change)
    assert window.session.design.train.stages[0].mesh.hand == "left"
    tag = type_into(window, "beta", "70")
    assert "45" in tag.fault.findChild(QLabel, "fault_range").text()


def test_lenses_share_one_roll_and_keep_the_tags(window):
    bench = window.bench
    QTest.mouseClick(bench.lens_buttons["contact"], LEFT)
    assert bench.view("contact").isVisible() and not bench.drawing.isVisible()
    m = bench.drawing.stage.mesh
    for share in (0.1, 0.5, 0.9):
        frame = bench.view("contact")._frame(0)
        QTest.mouseClick(
            bench.view("contact"), LEFT, pos=QPoint(int(frame.left() + share * frame.width()), int(frame.center().y()))
        )
        wanted = m["g_A"] + share * m["g_alpha"]
        # Some contact now stands under the pointer, to a pixel's width of the plot.
        assert min(abs(bench.drawing.contact_gs() - wanted)) < 2 * m["g_alpha"] / frame.width()
    roll = bench.drawing.roll
    QTest.keyClick(bench.view("contact"), Qt.Key.Key_Right)
    assert bench.drawing.roll != roll
    QTest.keyClick(window, Qt.Key.Key_2, Qt.KeyboardModifier.AltModifier)
    assert bench.view("side").isVisible() and not bench.view("contact").isVisible()
    type_into(window, "beta", "12")
    assert window.session.results.stages[0].mesh["F_a"] > 0
    QTest.mouseClick(bench.lens_buttons["teeth"], LEFT)
    assert bench.drawing.isVisible()


def test_the_axial_force_turns_with_hand_and_sense():
    from cooper.desk.lenses.side_lens import thrust_to_right

    # A right-hand tooth runs as (0, sin beta, cos beta) where it meets the wheel on +x; driven upwards it pushes the
    # wheel along the part of (0, 1, 0) that is normal to the tooth, and is itself pushed the other way.
    for hand, lean in (("right", 1.0), ("left", -1.0)):
        for turns_left, motion in ((True, 1.0), (False, -1.0)):
            trace = np.array([0.0, lean * np.sin(0.3), np.cos(0.3)])
            push = np.array([0.0, motion, 0.0])
            on_wheel = push - (push @ trace) * trace
            assert (-on_wheel[2] > 0) == thrust_to_right(hand, turns_left)


def test_a_train_of_two_stages_is_walked_along_the_power_line(window):
    window.session.restart(demo("winch"), None)
    settle()
    cards = window.power_line.cards
    assert len(cards) == 2
    power = [s.power for s in window.session.results.stages]
    assert power[0]["T_out"] == pytest.approx(power[1]["T_in"])
    assert power[0]["n_out"] == pytest.approx(power[1]["n_in"])
    QTest.mouseClick(cards[1], LEFT)
    settle()
    assert window.session.stage == 1
    assert window.bench.tags["z_1"].text() == "20"
    type_into(window, "z_2", "72")
    stages = window.session.design.train.stages
    assert [s.gears[1].z for s in stages] == [65, 72]
    assert window.session.results.train["u"] == pytest.approx(65 / 19 * 72 / 20)
    # The second mesh turns the other way, and is drawn so.
    assert window.bench.drawing.side == -1
    check = next(c for c in window.session.results.checks_of(1) if c.symbol == "S_F")
    window.margins.open(check.key)
    window.margins.fill_now()
    settle()
    lever = next(r for r in window.margins.lever_rows if r.objectName() == "lever_face_width")
    QTest.mouseClick(lever, LEFT)
    assert window.session.design.train.stages[0].gears[1].b == 12.0
    assert window.session.results.check(check.key).margin == pytest.approx(0.0, abs=0.02)


def test_the_close_up_shows_where_the_outlines_really_touch(window):
    """The contact discs lie on both drawn outlines, to a hundredth of a pixel."""
    from cooper.gears.outline import gear_outline
    from cooper.gears.phase import mesh_placement

    drawing = window.bench.drawing
    for roll in (0.0, 0.07, -0.21):
        drawing.set_roll(roll)
        drawing.look_at_mesh()
        stage = drawing.stage
        stand = mesh_placement(17, 41, stage.mesh["j_wt"], stage.mesh["a_w"], np.float64(roll), drawing.side)
        outlines = [
            gear_outline(stage.teeth[0], float(stand.phi_1), 1e-5),
            gear_outline(stage.teeth[1], float(stand.phi_2), 1e-5) + [stage.mesh["a_w"], 0],
        ]
        assert drawing.contacts()
        for x, y in drawing.contacts():
            for outline in outlines:
                a, b = outline, np.roll(outline, -1, axis=0)
                d = b - a
                t = np.clip(((np.array([x, y]) - a) * d).sum(1) / (d * d).sum(1), 0, 1)
                gap = np.hypot(*(a + t[:, None] * d - [x, y]).T).min()
                assert gap * drawing.px_per_mm < 0.01


def test_keys_on_checks_and_trail(window):
    first, second = window.session.results.checks_of(0)[:2]
    rows = window.margins.rows
    rows[first.key].setFocus()
    QTest.keyClick(rows[first.key], Qt.Key.Key_Down)
    assert QApplication.focusWidget() is rows[second.key]
    QTest.keyClick(rows[second.key], Qt.Key.Key_Space)
    assert window.margins.opened == second.key
    QTest.keyClick(window, Qt.Key.Key_Escape)
    assert window.margins.opened == ""
    type_into(window, "x_1", "0.4")
    window.trail.stops[0].setFocus()
    QTest.keyClick(window.trail.stops[0], Qt.Key.Key_Space)
    assert window.session.at == 0
    QTest.keyClick(window, Qt.Key.Key_W, Qt.KeyboardModifier.ControlModifier)
    assert window.why.isVisible()
    tag = window.bench.tags["b_1"]
    tag.setFocus()
    QTest.keyClick(tag, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert QGuiApplication.clipboard().text() == "11 mm"
    QTest.keyClick(tag, Qt.Key.Key_5)
    assert tag.editor is not None and tag.editor.text() == "5"
    QTest.keyClick(tag.editor, Qt.Key.Key_Tab)
    assert window.session.design.train.stages[0].gears[0].b == 5.0
    assert QApplication.focusWidget() is not tag


def test_leaving_unsaved_work_asks_first(window, monkeypatch):
    from PySide6.QtWidgets import QMessageBox

    type_into(window, "b_1", "13")
    asked = []

    def choose(name):
        def run(box):
            asked.append(box.text())
            button = next(b for b in box.buttons() if b.text() == name)
            monkeypatch.setattr(QMessageBox, "clickedButton", lambda _box: button)

        monkeypatch.setattr(QMessageBox, "exec", run)

    choose("Stay")
    assert not window.close()
    window.open_demo()
    assert window.session.design.train.stages[0].gears[0].b == 13.0
    choose("Give them up")
    window.open_demo()
    assert window.session.design.train.stages[0].gears[0].b == 11.0
    assert len(asked) == 3


def test_notes_say_what_is_assumed_and_every_picture_can_be_taken(window, tmp_path):
    from cooper.desk.shell.pictures import LENSES, picture

    window.open_sheet("notes")
    text = window.sheet.findChild(RichPage, "all_notes").text()
    assert "entered, not computed" in text
    assert "await a check against print" in text
    for n, lens in enumerate(LENSES):
        for theme in ("light", "dark") if n % 10 == 0 else ("light",):
            picture(
                demo("focuser" if lens == "whole set" else "mirror-cover"),
                lens,
                tmp_path / f"{lens}-{theme}.png",
                (900, 650),
                theme,
            )
    sizes = [p.stat().st_size for p in tmp_path.glob("*.png")]
    assert len(set(sizes)) == len(sizes) > len(LENSES)


def test_teeth_are_pressed_onto_either_flank_or_stand_loose(window):
    drawing = window.bench.drawing
    drawing.setFocus()
    angles = {}
    for expected in ("coast", "loose", "driving"):
        QTest.keyClick(drawing, Qt.Key.Key_P)
        assert drawing.flank == expected
        angles[expected] = drawing.gears[1].rotation()
        assert bool(drawing.contacts()) == (expected != "loose")
    play = window.session.results.stages[0].mesh["j_wt"] / window.session.results.stages[0].gears[1]["d_w"] * 2
    assert np.radians(angles["driving"] - angles["coast"]) == pytest.approx(play, rel=1e-6)
    assert np.radians(angles["driving"] - angles["loose"]) == pytest.approx(play / 2, rel=1e-6)


def test_shifts_are_shared_by_a_command_and_its_refusal_is_said(window):
    QTest.keyClick(window, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(window.command_list.line, "equal specific sliding")
    QTest.keyClick(window.command_list.line, Qt.Key.Key_Return)
    settle()
    one, two = window.session.results.stages[0].gears
    assert one["zeta_f"] == pytest.approx(two["zeta_f"], rel=1e-4)
    window.open_more(1)
    material = next(c for c in window.sheet.choices if c.key == "material_1")
    words, change = next(o for o in material.options() if o[0] == "grey cast iron, ML")
    material.pick(words, change)
    window.run("share_root")
    settle()
    assert "no sharing" in window.notice.text.text()


def test_an_overlap_is_marked_on_the_drawing_with_its_depth(window):
    drawing = window.bench.drawing
    assert drawing.overlaps() == []
    type_into(window, "d_a2", "54.9")
    window.session.edit(lambda d, _r: set_at(d, "train.gears.gear1.h_fP", 1.0), "h_fP")
    result = drawing.overlaps()
    assert result
    assert result[0].depth > 0.01
    before = result[0]
    drawing.set_roll(0.04)
    assert drawing.overlaps()[0] != before


def test_the_pair_is_dragged_on_the_map_of_shifts(window):
    bench, session = window.bench, window.session
    QTest.mouseClick(bench.lens_buttons["shifts"], LEFT)
    settle()
    lens = bench.view("shifts")
    QTest.mouseClick(lens, LEFT, pos=lens.at(0.4, 0.25).toPoint())
    one, two = session.results.stages[0].gears
    assert (one["x"], two["x"]) == (pytest.approx(0.4, abs=0.01), pytest.approx(0.25, abs=0.01))
    QTest.keyClick(lens, Qt.Key.Key_Right)
    assert session.results.stages[0].gears[0]["x"] == pytest.approx(one["x"] + 0.01)
    # A given centre distance keeps the pair on its line.
    a_w = session.results.stages[0].mesh["a_w"]
    bench.tags["a_w"].swap()
    QTest.mouseClick(lens, LEFT, pos=lens.at(0.2, 0.0).toPoint())
    mesh = session.results.stages[0].mesh
    assert mesh["a_w"] == pytest.approx(a_w, abs=1e-9)
    assert session.results.stages[0].gears[0]["x"] != pytest.approx(0.41, abs=1e-3)
    before = session.design
    QTest.mouseClick(lens, LEFT, pos=lens.at(1.5, -0.9).toPoint())
    assert session.design == before or session.results.stages[0].mesh["a_w"] == pytest.approx(a_w, abs=1e-9)


def test_what_may_be_absent_is_left_open_by_a_word(window, monkeypatch):

    window.open_sheet("duty")
    wanted = window.sheet.fields["u_wanted"]
    assert wanted.commit_text("any")
    assert window.session.design.train.duty.u_wanted is None
    assert wanted.text() == "any"
    assert window.session.results.check("train.du") is None
    assert wanted.commit_text("2.4")
    assert window.session.results.check("train.du").verdict == "holds"
    window.open_more(2)
    assert "R_p022" not in window.sheet.fields
    material = next(c for c in window.sheet.choices if c.key == "material_2")
    material.pick(*next(o for o in material.options() if o[0] == "through-hardened alloy steel, MQ"))
    settle()
    strength = window.sheet.fields["R_p022"]
    assert strength.text() == "estimated"
    notch = window.session.results.stages[0].gears[1]["Y_delta_relT"]
    assert strength.commit_text("600 MPa")
    assert window.session.results.stages[0].gears[1]["Y_delta_relT"] != notch

    def answer():
        card = QApplication.activeModalWidget()
        assert not any(not b.icon().isNull() for b in card.findChildren(QPushButton))
        card.findChild(QLineEdit, "card_text").setText("Cover drive B")
        QTest.mouseClick(card.findChild(QPushButton, "card_answer"), LEFT)

    QTimer.singleShot(0, answer)
    window.run("rename")
    assert window.session.design.name == "Cover drive B"
    assert "Cover drive B" in window.windowTitle()


def test_a_size_typed_in_another_measure_stays_in_that_measure(window):
    s = window.session
    tag = window.bench.tags["size"]
    assert tag.commit_text("24 DP")
    settle()
    mesh = s.design.train.stages[0].mesh
    assert (mesh.P_nd, mesh.m_n) == (24.0, None)
    shown = window.bench.tags["size"]
    assert shown.field.symbol == "P_nd" and shown.text().startswith("24")
    assert shown.commit_text("12 dp") and s.design.train.stages[0].mesh.P_nd == 12.0
    assert shown.commit_text("2.5 mm")
    settle()
    mesh = s.design.train.stages[0].mesh
    assert (mesh.P_nd, mesh.m_n) == (None, 2.5)
    assert not window.bench.tags["size"].commit_text("-3 DP")


def worn(widget):
    """The colour that the words of a label or button are painted in."""
    role = QPalette.ColorRole.ButtonText if isinstance(widget, QPushButton) else QPalette.ColorRole.WindowText
    return widget.palette().color(QPalette.ColorGroup.Active, role).name().upper()


def test_a_theme_reaches_every_word_seen_or_not_and_no_style_sheet_is_put_on_anew(window):
    """Qt goes over the widgets of a new sheet once for each of their parents."""
    window.open_survey().ask()
    window.leave_survey()
    sheets = {w: w.styleSheet() for w in (QApplication.instance(), window, *window.findChildren(QWidget))}
    window.notice.ask("Shall it be?", [("Yes", lambda: None)])
    before, wide = window.theme, window.power_line.named.width()
    window.run("theme")
    settle()
    theme = window.theme
    assert theme.dark != before.dark
    words = [w for w in window.findChildren(QWidget) if w.property("word")]
    assert len(words) > 20 and {w.isVisible() for w in words} == {True, False}

    def behind():
        """What is not dressed yet: what is out of sight comes after the window is painted."""
        return [w.objectName() for w in words if worn(w) != getattr(theme, w.property("word").split()[0])]

    wait_for(lambda: not behind())
    assert worn(window.notice.text) == theme.ink and worn(window.notice.buttons[0]) == theme.ink
    assert window.power_line.named.width() == wide
    assert all(b.width() == b.sizeHint().width() for b in window.bench.lens_buttons.values())
    # What is beneath a button's words is painted anew too.
    button = window.notice.buttons[0]
    assert button.grab().toImage().pixelColor(5, button.height() // 2).name().upper() == theme.card
    assert all(w.styleSheet() == sheet for w, sheet in sheets.items() if isValid(w))
    window.notice.end()
    window.run("theme")
    # What comes over the window at once is dressed as the window is.
    window.notice.report("no place left", bad=True)
    assert window.notice.grab().toImage().pixelColor(8, 20).name().upper() == window.theme.card != theme.card
    window.notice.end()
    walk = begin_walk(window)
    settle()
    assert walk.card.grab().toImage().pixelColor(160, 5).name().upper() == window.theme.card
    walk.close()

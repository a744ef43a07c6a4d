"""The Shafts lens driven as a user does: tags, dragging, choices, keys, nonsense, the whole machine, the face, the
sheet."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QWidget

from cooper.demo import demo
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.tag_editor import TagEditor
from cooper.editing.edit import set_at
from cooper.editing.machine_edits import count_machine, in_machine
from cooper.results.evaluate import evaluate
from cooper.results.face_of_mesh import face_of_mesh
from waiting import wait_for

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def lens(window):
    """The lens on the winch, with its machine found."""
    window.session.saved = window.session.design
    window.session.restart(set_at(demo("winch"), "train.machine", None), None)
    settle()
    QTest.mouseClick(window.bench.lens_buttons["shafts"], LEFT)
    result = with_machine(window.bench.views["shafts"])
    assert not result.fault
    return result


def with_machine(result):
    """The lens once its machine is there."""
    wait_for(lambda: result.machine() is not None, "no machine came")
    settle()
    return result


def tag(lens, name, what):
    return lens.tags[f"{lens.key} {name} {what}"]


def typed(t, text):
    QTest.mouseClick(t, LEFT)
    t.editor.selectAll()
    QTest.keyClicks(t.editor, text)
    QTest.keyClick(t.editor, Qt.Key.Key_Return)
    settle()


def test_a_diameter_is_typed_stepped_dragged_let_go_and_undone(window, lens):
    s = window.session
    assert s.design.train.machine is None and s.results.machine is None
    lens.choose("gear2")
    before = s.results.machine
    typed(tag(lens, "gap 3", "d"), "21")
    assert before is None and s.results.machine.shaft("gear2").made.piece("gap 3").d == 21.0
    assert not tag(lens, "gap 3", "d").is_solved() and tag(lens, "gap 1", "d").is_solved()
    QTest.keyClick(tag(lens, "gap 3", "d"), Qt.Key.Key_Up)
    settle()
    assert lens.shaft.made.piece("gap 3").d == 22.0
    QTest.keyClick(tag(lens, "gap 3", "d"), Qt.Key.Key_G)
    settle()
    assert tag(lens, "gap 3", "d").is_solved()
    # Drag the collar's edge outward.
    view, piece = lens._view(), lens.shaft.made.piece("collar")
    edge = QPoint(round(view.x(piece.at)), round(view.y - view.scale * piece.d / 2))
    QTest.mousePress(lens, LEFT, pos=edge)
    assert lens.piece == "collar"
    QTest.mouseMove(lens, edge - QPoint(0, round(view.scale * 5)))
    QTest.mouseRelease(lens, LEFT, pos=edge - QPoint(0, round(view.scale * 5)))
    settle()
    assert lens.shaft.made.piece("collar").d == pytest.approx(piece.d + 10, abs=2.1)
    s.undo()
    settle()
    assert lens.shaft.made.piece("collar").d == piece.d


def test_an_undercut_takes_the_place_of_a_fillet_and_goes_again(window, lens):
    lens.choose("gear2")
    lens.select("bearing 1")
    cut = lens.bar.choices[-1]
    assert cut.text() == "fillet" and any(t.field.symbol == "r_piece" for t in lens.bar.tags)
    words, change = next(o for o in cut.options() if o[0] == "undercut F")
    cut.pick(words, change)
    settle()
    assert lens.shaft.made.piece("bearing 1").undercut == "F"
    assert lens.bar.choices[-1].text() == "undercut F" and all(t.field.symbol != "r_piece" for t in lens.bar.tags)
    lens.grab()
    words, change = lens.bar.choices[-1].options()[0]
    lens.bar.choices[-1].pick(words, change)
    settle()
    assert lens.shaft.made.piece("bearing 1").undercut == "" and lens.bar.choices[-1].text() == "fillet"


def test_a_face_is_dragged_snaps_to_what_is_near_and_goes_back_by_escape(window, lens):
    s = window.session
    lens.choose("gear2")

    def drag(z_from, z_to, let_go=True):
        view = lens._view()
        y = round(view.y)
        QTest.mousePress(lens, LEFT, pos=QPoint(round(view.x(z_from)), y))
        assert lens.moving.face is not None
        QTest.mouseMove(lens, QPoint(round(view.x(z_to)), y))
        result = lens.moving.z, lens.moving.what
        lens.grab()
        if let_go:
            QTest.mouseRelease(lens, LEFT, pos=QPoint(round(view.x(z_to)), y))
            settle()
        return result

    start = lens.shaft.made.piece("bearing 2").start
    z, what = drag(start, start + 4.1)
    assert what == "" and z == lens.shaft.made.piece("bearing 2").start and z % 0.5 == pytest.approx(0)
    assert z == pytest.approx(start + 4.1, abs=1.0) and "from the hub to bearing 2" in s.state.label
    # Nearly back, it comes to stand flush with what the other shafts have there.
    z, what = drag(z, start + 0.6)
    assert z == start == lens.shaft.made.piece("bearing 2").start and what
    hub = lens.shaft.made.piece("seat gear3")
    drag(hub.end, hub.end + 3, let_go=False)
    design = s.design
    QTest.keyClick(lens, Qt.Key.Key_Escape)
    assert lens.moving.face is None
    QTest.mouseRelease(lens, LEFT, pos=QPoint(5, 300))
    assert s.design is design
    # Beyond what it ends at a face does not go.
    drag(hub.end, hub.start - 40)
    assert lens.shaft.made.piece("seat gear3").length > 0
    s.undo()
    settle()
    assert lens.shaft.made.piece("seat gear3").length == hub.length


@pytest.mark.parametrize("text", ["", "ten", "-4", "1e9", "0", "nan"])
def test_nonsense_at_a_tag_is_told_there_and_nothing_changes(window, lens, text):
    lens.choose("gear1")
    design = window.session.design
    for name, what in (("gap 2", "d"), ("end left", "l"), ("bearing 1", "d")):
        t = tag(lens, name, what)
        typed(t, text)
        assert window.session.design is design
        assert t.fault is not None or text == ""
        QTest.keyClick(t.editor or t, Qt.Key.Key_Escape)
        settle()


def test_a_bearing_a_joint_and_the_makers_ratings_are_chosen_in_the_bar(window, lens):
    s = window.session
    lens.choose("gear4")
    lens.select("bearing 1")
    kind, series = lens.bar.choices[:2]
    words, change = next(o for o in kind.options() if o[0] == "cylindrical roller")
    kind.pick(words, change)
    settle()
    b = lens.shaft.made.bearings[0]
    assert b.bearing.type == "cylindrical roller" and kind.text() == "cylindrical roller"
    words, change = next(o for o in series.options() if o[0] == "series 23")
    series.pick(words, change)
    settle()
    assert lens.shaft.made.bearings[0].bearing.series == "23"
    C = next(t for t in lens.bar.tags if t.field.symbol == "C_r")
    typed(C, "99 kN")
    assert lens.shaft.made.bearings[0].C == 99000.0 and lens.shaft.made.bearings[0].typed
    lens.select("seat gear4")
    joint = lens.bar.choices[0]
    words, change = next(o for o in joint.options() if o[0] == "press fit")
    joint.pick(words, change)
    settle()
    assert next(j for j in lens.shaft.made.joints if j.gear == "gear4").kind == "press fit"
    assert "interference" in lens.bar.told.text()
    assert s.design.train.machine.shafts["gear4"].joints["gear4"].kind == "press fit"


def test_keys_go_from_piece_to_piece_and_turn_the_machine(window, lens):
    lens.choose("gear2")
    lens.setFocus()
    names = [p.name for p in lens.shaft.made.pieces]
    for n in range(3):
        QTest.keyClick(lens, Qt.Key.Key_Right)
        assert lens.piece == names[n]
    d = lens.shaft.made.piece(names[2]).d
    QTest.keyClick(lens, Qt.Key.Key_Up)
    settle()
    assert lens.shaft.made.piece(names[2]).d > d
    QTest.keyClick(lens, Qt.Key.Key_R)
    assert lens.case == 1
    QTest.keyClick(lens, Qt.Key.Key_Escape)
    assert lens.piece == ""


def test_the_whole_machine_turns_its_axes_and_bounds_its_box(window, lens):
    s = window.session
    lens.choose("whole machine")
    flat = lens.machine().housing
    typed(lens.tags["phi_stage2"], "60")
    box = s.results.machine.housing
    assert box.width < flat.width and box.height > flat.height
    typed(lens.tags["W_box"], "100")
    short = next(c for c in s.results.checks if c.symbol == "W_box")
    assert short.limit == 100.0 and short.verdict == "short"
    typed(lens.tags["phi_stage2"], "999")
    assert lens.tags["phi_stage2"].fault is not None


def test_a_check_of_the_machine_opens_on_its_drawing_and_stops_counting(window, lens):
    s = window.session
    QTest.mouseClick(lens.count, LEFT)
    settle()
    life = next(c for c in s.results.checks if c.symbol == "L_nmh" and c.part.startswith("gear4"))
    window.bench.set_lens("teeth")
    window.margins.toggle(life.key)
    settle()
    assert window.bench.lens == "shafts" and lens.key == "gear4" and lens.piece == life.part.removeprefix("gear4 ")
    QTest.mouseClick(lens.count, LEFT)
    settle()
    assert s.results.machine is None and not any(c.part for c in s.results.checks)
    assert lens.machine() is not None


def test_the_load_along_the_face_is_evened_by_a_click(window, lens):
    s = window.session
    s.select_stage(0)
    lens.choose("load along the face")
    settle()
    face = face_of_mesh(s.design.train, s.results, lens.machine(), 0)
    assert lens.face.load().K_Hbeta == pytest.approx(face.K_Hbeta)
    words, change = next(o for o in lens.face.method.options() if "these shafts" in o[0])
    lens.face.method.pick(words, change)
    settle()
    uneven = s.results.stages[0].mesh.K_Hbeta
    assert uneven == pytest.approx(face.K_Hbeta, rel=0.02)
    QTest.mouseClick(lens.face.even, LEFT)
    settle()
    assert s.results.stages[0].mesh.K_Hbeta < uneven
    assert s.design.train.stages[0].mesh.C_beta > 0


def test_the_sheet_of_the_machine_and_the_part_that_goes_first(window, lens):
    s = window.session
    s.edit(lambda d, _r: count_machine(d), "count")
    window.open_sheet("machine")
    settle()
    sheet = window.sheet
    typed(sheet.fields["machine_S_Dmin"], "2.5")
    assert s.design.train.machine.S_Dmin == 2.5
    # What no hub limits grows to what is asked.
    assert max(f.checked.S_D.min() for f in s.results.machine.shafts) > 2.5
    rows = sheet.inside.findChild(QWidget, "failure_list")
    rows.setFocus()
    rows.at = next(k for k, g in enumerate(rows.rows) if g.kind == "static" and "key" in g.label)
    part = rows.rows[rows.at].part
    QTest.keyClick(rows, Qt.Key.Key_Return)
    settle()
    assert s.design.train.machine.goes_first == part
    assert any(c.symbol == "X_go" for c in s.results.checks)
    steel = next(c for c in sheet.choices if c.key == "machine_steel")
    words, change = next(o for o in steel.options() if o[0] == "42CrMo4+QT")
    steel.pick(words, change)
    settle()
    assert s.results.machine.shafts[0].made.wish.steel.name == "42CrMo4+QT"


def test_after_an_edit_of_a_gear_the_machine_comes_beside_the_window(window, lens):
    s = window.session
    s.edit(lambda d, _r: count_machine(d), "count")
    settle()
    before = s.results.machine
    s.edit(lambda d, _r: set_at(d, "train.gears.gear1.b", d.train.stages[0].gears[0].b + 6), "wider")
    # At once the gears are new, and the machine before stands.
    assert s.state.awaits is not None and s.results.machine is before
    assert s.results.stages[0].gears[0].b == pytest.approx(evaluate(s.design).stages[0].gears[0].b)
    whole = s.whole_results()
    assert s.state.awaits is None
    settle()
    s.edit(lambda d, _r: set_at(d, "train.gears.gear1.b", d.train.stages[0].gears[0].b + 2), "wider still")
    settle()
    assert s.state.awaits is None and s.results.machine is not before
    alone = evaluate(s.design)
    assert s.results.as_tree() == alone.as_tree() and whole.as_tree() != alone.as_tree()
    s.undo()
    settle()
    assert s.results.as_tree() == evaluate(s.design).as_tree()


def test_a_piece_is_cut_grooved_and_made_whole_again(window, lens):
    s = window.session
    lens.choose("gear1")
    lens.select("gap 2")
    lens.setFocus()
    QTest.keyClick(lens, Qt.Key.Key_S)
    settle()
    whole = lens.shaft.made
    assert [p.name for p in whole.pieces if p.name.startswith("gap 2")] == ["gap 2", "gap 2, part 2"]
    one, two = (whole.piece(n) for n in ("gap 2", "gap 2, part 2"))
    assert one.end == pytest.approx(two.start) and one.d == two.d
    safe = lens.shaft.checked.S_D.min()
    typed(tag(lens, "gap 2, part 2", "d"), f"{two.d + 1:g}")
    assert lens.shaft.made.piece("gap 2, part 2").d == two.d + 1
    # A narrow ring groove beside the wheel notches more than the step that was there.
    lens.cut(one.start + 2.0)
    settle()
    lens.cut(one.start + 3.2)
    settle()
    names = [p.name for p in lens.shaft.made.pieces if p.name.startswith("gap 2")]
    assert len(names) == 4
    typed(tag(lens, "gap 2, part 2", "d"), f"{one.d - 1:g}")
    assert lens.shaft.made.piece("gap 2, part 2").kind == "groove"
    assert lens.shaft.checked.S_D.min() < safe
    lens.cut(lens.shaft.made.piece("seat gear1").at)
    assert "seat whole" in window.notice.text.text()
    lens.select("gap 2, part 3")
    lens.setFocus()
    QTest.keyClick(lens, Qt.Key.Key_J)
    settle()
    assert [p.name for p in lens.shaft.made.pieces if p.name.startswith("gap 2")] == ["gap 2"]
    assert s.design.train.machine.shafts["gear1"].pieces["gap 2"].cuts == ()


def test_a_bearing_is_chosen_from_the_list_of_all_that_fit(window, lens):
    lens.choose("gear4")
    lens.select("bearing 2")
    QTest.mouseClick(lens.bar.findChild(QWidget, "bearing_list"), LEFT)
    settle()
    sheet = window.sheet
    rows = sheet.finder.found
    assert len(rows) > 30 and {r.bearing.type for r in rows} >= {
        "deep groove ball",
        "needle roller",
        "spherical roller",
    }
    good = [r for r in rows if r.holds]
    assert rows[: len(good)] == good and [r.bearing.mass for r in good] == sorted(r.bearing.mass for r in good)
    now = lens.shaft.made.bearings[1].bearing
    here = next(r for r in rows if r.bearing == now)
    checked = lens.shaft.checked.bearings[1]
    assert (here.L_nmh, here.S_0) == (pytest.approx(checked.L_nmh, rel=1e-6), pytest.approx(checked.S_0, rel=1e-6))
    wanted = next(k for k, r in enumerate(rows) if r.bearing.type == "spherical roller")
    sheet.finder.take(wanted)
    settle()
    assert lens.shaft.made.bearings[1].bearing == rows[wanted].bearing


def test_a_belt_is_put_on_an_end_by_its_tags(window, lens):
    lens.choose("gear1")
    lens.select("end left")
    before = lens.shaft.checked.reactions[0].copy()
    F = next(t for t in lens.bar.tags if t.field.symbol == "F_end")
    typed(F, "0.6 kN")
    assert abs(lens.shaft.checked.reactions[0] - before).max() > 100
    typed(F, "-5")
    assert F.fault is not None


def test_a_bearing_is_set_moved_and_taken_away_and_a_coupling_pinned(window, lens):
    s = window.session
    s.edit(lambda d, _r: in_machine(d, (("c",), 18.0)), "c", "c")
    settle()
    lens.choose("gear1")
    lens.select("no such piece")
    lens.cursor_at = None
    QTest.keyClick(lens, Qt.Key.Key_B)
    assert len(lens.shaft.made.bearings) == 2
    free = [p for p in lens.shaft.made.pieces if p.kind in ("gap", "collar")]
    lens.select(max(free, key=lambda p: p.length).name)
    QTest.keyClick(lens, Qt.Key.Key_B)
    settle()
    assert [b.name for b in lens.shaft.made.bearings] == ["bearing 1", "bearing 2", "bearing 3"]
    lens.select("bearing 3")
    before = lens.shaft.made.bearings[2].at
    place = next(t for t in lens.bar.tags if t.field.symbol == "l_bearing")
    typed(place, f"{place.field.read(s.design, s.results) - 5:g}")
    assert lens.shaft.made.bearings[2].at == pytest.approx(before - 5, abs=3)
    place = next(t for t in lens.bar.tags if t.field.symbol == "l_bearing")
    typed(place, "0")
    assert place.fault is not None
    place.close_fault()
    QTest.keyClick(place.editor or place, Qt.Key.Key_Escape)
    lens.select("bearing 3")
    QTest.keyClick(lens, Qt.Key.Key_Delete)
    settle()
    assert len(lens.shaft.made.bearings) == 2
    path = ("shafts", "gear1", "joints", "end left", "kind")
    s.edit(lambda d, _r: in_machine(d, (path, "pin")), "pin", "pin")
    settle()
    lens.select("end left")
    assert any(t.field.symbol == "d_pin" for t in lens.bar.tags)
    typed(next(t for t in lens.bar.tags if t.field.symbol == "J_end"), "0.05")
    assert any(c.symbol == "X_tors" for c in s.results.checks)


def test_a_coupling_is_held_by_set_screws_of_the_table(window, lens):
    lens.choose("gear1")
    lens.select("end left")
    words, change = next(o for o in lens.bar.choices[0].options() if o[0] == "two set screws")
    lens.bar.choices[0].pick(words, change)
    settle()
    before = next(j for j in lens.shaft.made.joints if j.piece == "end left")
    assert before.kind == "two set screws" and before.M_A > 0
    thread = next(t for t in lens.bar.tags if t.field.symbol == "d_screw")
    typed(thread, "7")
    assert thread.fault is not None and "M6, M8" in thread.fault.findChild(QLabel, "fault_reason").text()
    thread.close_fault()
    QTest.keyClick(thread.editor or thread, Qt.Key.Key_Escape)
    typed(next(t for t in lens.bar.tags if t.field.symbol == "d_screw"), "4")
    torque = next(t for t in lens.bar.tags if t.field.symbol == "M_A")
    typed(torque, "3")
    assert "bears in its test" in torque.fault.findChild(QLabel, "fault_reason").text()
    torque.close_fault()
    QTest.keyClick(torque.editor or torque, Qt.Key.Key_Escape)
    typed(next(t for t in lens.bar.tags if t.field.symbol == "M_A"), "2")
    settle()
    now = next(j for j in lens.shaft.made.joints if j.piece == "end left")
    assert (now.d_screw, now.M_A) == (4.0, 2.0)
    assert "two set screws M4" in lens.bar.told.text() and "slipping" in lens.bar.told.text()


def test_what_is_typed_into_a_shaft_goes_with_the_shaft(window, lens):
    keys = [chip.property("key") for chip in lens.chips]
    tag = next(iter(lens.tags.values()))
    tag.open()
    tag.editor.setText("31")
    lens.choose(next(k for k in keys if k != lens.key))
    settle()
    assert tag.editor is None
    assert [e for e in window.findChildren(TagEditor) if e.isVisible()] == []


def test_a_range_that_holds_what_was_refused_is_not_told(window):
    """The face load of this pair comes from its shafts, which are left out where what works is looked for."""
    window.session.restart(demo("dome-ring"), None)
    window.bench.set_lens("shafts")
    lens = with_machine(window.bench.views["shafts"])
    lens.choose("gear2")
    settle()
    t = lens.tags["gear2 gap 1 l"]
    typed(t, "431.8 mm")
    settle()
    assert "beyond its neighbour" in t.fault.findChild(QLabel, "fault_reason").text()
    assert t.fault.findChild(QLabel, "fault_range") is None


def held(made):
    """Distance of the points at which two bearings hold a shaft; mm."""
    return abs(made.support(1) - made.support(0))


def test_bearings_with_a_contact_angle_are_turned_to_each_other_by_a_choice(window, lens):
    s = window.session
    types = [(("shafts", "gear1", "bearings", f"bearing {n}", "type"), "tapered roller") for n in (1, 2)]
    s.edit(lambda d, _r: in_machine(d, *types), "tapered")
    with_machine(lens)
    lens.choose("gear1")
    lens.select("bearing 1")
    settle()
    choice = next(c for c in lens.bar.choices if c.key == "bearing_1_paired")
    before = held(lens.shaft.made)
    choice.pick(*next(o for o in choice.options() if o[0] == "back to back"))
    settle()
    assert s.design.train.machine.shafts["gear1"].paired == "back to back"
    # Back to back the shaft is held further out.
    assert held(with_machine(lens).shaft.made) > before

"""Trains in the window: the moving lens, sets made and searched, whole-train exports, the start page."""

import ezdxf
import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QLineEdit, QPushButton
from shapely.affinity import rotate, translate
from shapely.geometry import Polygon

from cooper.demo import DEMOS, demo
from cooper.desk.base.theme import LIGHT
from cooper.desk.base.workers import WorkerProcess
from cooper.desk.lenses.train_painter import HOUSING, PACES
from cooper.desk.shell.moving_picture import write_film
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.rows_view import RowsView
from cooper.desk.widgets.word_choice import WordChoice
from cooper.editing.edit import set_many
from cooper.editing.stages import add_stage
from cooper.exchange.camera import Camera
from cooper.exchange.formats import WHOLE
from cooper.exchange.save import export
from cooper.exchange.train import placed_bodies
from cooper.results.evaluate import evaluate
from waiting import wait_for

LEFT = Qt.MouseButton.LeftButton


def test_solids_are_turned_about_and_painted_finer_at_rest(window):
    window.session.restart(demo("focuser"), None)
    window.bench.set_lens("train")
    lens = window.bench.view("train")
    flat = pixels(lens)
    came = []
    lens.solids.came.connect(lambda: came.append(lens.solids.image.width()))
    QTest.keyClick(lens, Qt.Key.Key_S)
    settle()
    solid = pixels(lens)
    assert np.mean(solid != flat) > 0.05
    wide = round(lens._room().width())
    assert came[0] < wide and came[1:] == [wide, wide], "rough, then whole, then smooth"
    # While it moves only the rough one, and always of the newest sight.
    came.clear()
    lens.toggle()
    # However slow: as many steps as it takes until a picture has come.
    steps = 0
    while not came or steps < 5:
        lens._tick()
        steps += 1
        QTest.qWait(30)
    lens.toggle()
    assert len(came) <= steps + 1 and max(came) < wide
    settle()
    assert came[-1] == wide
    assert np.any(pixels(lens) != solid)
    # As long as it is held it moves; let go it rests.
    QTest.mousePress(lens, LEFT, pos=QPoint(300, 250))
    QTest.mouseMove(lens, QPoint(340, 270))
    settle()
    assert lens.solids.image.width() < wide
    QTest.mouseRelease(lens, LEFT, pos=QPoint(340, 270))
    settle()
    assert lens.solids.image.width() == wide
    before = pixels(lens)
    # Where the process beside the window is another one, it is told the train anew.
    running = WorkerProcess.of_program("solid").process
    running.kill()
    wait_for(
        lambda: (
            WorkerProcess.of_program("solid").process is not running
            or running.state() == running.ProcessState.NotRunning
        )
    )
    QTest.keyClick(lens, Qt.Key.Key_Up)
    settle()
    assert np.any(pixels(lens) != before)
    assert lens.animation_options()[:2] == ("--view", "solid")
    QTest.keyClick(lens, Qt.Key.Key_S)
    assert lens.camera is None


def run(window, key):
    next(c for c in window.commands if c.key == key).run()
    settle()


def pixels(widget):
    image = widget.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    return np.frombuffer(bytes(image.constBits()), dtype=np.uint8).copy()


def test_the_train_lens_turns_rests_and_stands_on_a_member(window):
    window.session.restart(demo("dome-drive"), None)
    window.bench.set_lens("train")
    settle()
    lens = window.bench.view("train")
    still = pixels(lens)
    QTest.keyClick(lens, Qt.Key.Key_Right)
    assert lens.turn == pytest.approx(-0.05)
    assert np.any(pixels(lens) != still)
    QTest.keyClick(lens, Qt.Key.Key_Space)
    wait_for(lambda: abs(lens.turn + 0.05) > 1e-3)
    QTest.keyClick(lens, Qt.Key.Key_Space)
    assert not lens.timer.isActive()
    QTest.keyClick(lens, Qt.Key.Key_Plus)
    assert PACES[lens.pace] == 0.2
    assert lens.frames() == [HOUSING, "Reducer: sun", "Reducer: ring", "Reducer: carrier"]
    lens.stand_on("Reducer: carrier")
    one = pixels(lens)
    lens.stand_on(HOUSING)
    assert np.any(pixels(lens) != one)
    QTest.keyClick(lens, Qt.Key.Key_C)
    assert not lens.look.circles
    # Another train without that member: the housing stands again; leaving the lens rests it.
    lens.stand_on("Reducer: sun")
    lens.toggle()
    window.session.restart(demo("winch"), None)
    settle()
    lens.grab()
    assert lens.look.still == HOUSING
    window.bench.set_lens("teeth")
    assert not lens.timer.isActive()


@pytest.mark.parametrize("name", ["dome-drive", "focuser", "filter-wheel", "battery-lift"])
def test_every_set_opens_in_every_sheet_and_stage(window, name):
    window.session.restart(demo(name), None)
    for k in range(len(window.session.design.train.stages)):
        window.session.select_stage(k)
        # Each sheet for one stage at least; all stages together see all of them.
        keys = (
            ("gear_1", "set", "losses", "flank_points") if k == 0 else ("gear_2", "mesh", "play", "spectrum", "sheet_1")
        )
        for key in keys:
            run(window, key)
            assert window.sheet.isVisible()
    window.open_worst()
    window.margins.fill_now()
    assert window.margins.lever_rows


def test_a_stage_becomes_a_set_by_command_its_counts_follow_and_it_comes_apart(window):
    s = window.session
    run(window, "make_planetary")
    assert len(s.results.stages) == 2
    assert len(window.power_line.cards) == 2
    run(window, "set")
    sheet = window.sheet
    assert "places for planets" in sheet.findChild(QLabel, "set_numbers").text()
    line, message = sheet.findChild(QLineEdit, "count_value"), sheet.findChild(QLabel, "count_words")
    which, kept = sheet.findChild(WordChoice, "count_which"), sheet.findChild(WordChoice, "count_kept")
    sun, planet, ring = (
        s.design.train.stages[0].gears[0].z,
        s.design.train.stages[0].gears[1].z,
        -s.design.train.stages[1].gears[1].z,
    )
    which.setCurrentIndex(2)
    kept.setCurrentIndex(0)
    line.setText(str(ring + 1))
    QTest.mouseClick(sheet.findChild(QPushButton, "count_go"), LEFT)
    assert "half a tooth" in message.text()
    # The nearest that works is one click away.
    QTest.mouseClick(sheet.findChild(QPushButton, f"count_take_{sun}_{planet + 1}_{ring + 2}"), LEFT)
    assert s.design.train.stages[0].gears[1].z == planet + 1
    for text in ("", "3.5", "many"):
        line.setText(text)
        QTest.mouseClick(sheet.findChild(QPushButton, "count_go"), LEFT)
        assert message.text()
    tag = sheet.fields["n_planets"]
    QTest.mouseClick(tag, LEFT)
    QTest.keyClicks(tag.editor, "0")
    QTest.keyClick(tag.editor, Qt.Key.Key_Return)
    assert s.design.train.placed[0].planets == 3
    assert sun == s.design.train.stages[0].gears[0].z
    run(window, "set_apart")
    assert s.design.train.placed == ()
    # The open sheet becomes that of the pair which is left.
    assert window.sheet.title.text() == "Tooth counts for a ratio"
    run(window, "set_apart")
    assert "belongs to no set" in window.notice.text.text()


def test_counts_are_searched_listed_taken_and_nonsense_is_answered(window):
    s = window.session
    s.restart(demo("focuser"), None)
    run(window, "set")
    table, message = window.sheet.findChild(RowsView, "offers"), window.sheet.findChild(QLabel, "search_words")
    ratio = window.sheet.findChild(QLineEdit, "search_u")
    ratio.setText("5.4")
    QTest.keyClick(ratio, Qt.Key.Key_Return)
    settle()
    assert table.rows.rowCount() > 3
    table.doubleClicked.emit(table.rows.index(0, 0))
    settle()
    assert s.results.sets[0].values["u"] == pytest.approx(5.4, rel=0.011)
    for text in ("0", "nan", "1e30", "x", "9000"):
        ratio.setText(text)
        QTest.mouseClick(window.sheet.findChild(QPushButton, "search_go"), LEFT)
        settle()
        assert table.rows.rowCount() == 0
        assert message.text()


def test_the_whole_train_leaves_as_drawing_with_layers_and_as_moving_picture(window, tmp_path):
    d = demo("dome-drive")
    window.session.restart(d, None)
    r = window.session.results
    path = tmp_path / "train.dxf"
    export(d, r, path, stage=WHOLE)
    space = ezdxf.readfile(path).modelspace()
    outlines = list(space.query("LWPOLYLINE"))
    assert len(outlines) == 1 + 3 + 1 + 2
    assert {e.dxf.layer[0] for e in outlines} == {"1", "2", "3"}
    assert sum(len(places) for _, places, _ in placed_bodies(d, r)) == 7
    with pytest.raises(ValueError, match="stage by stage"):
        export(d, r, tmp_path / "train.csv", stage=WHOLE)
    gif = tmp_path / "train.gif"
    write_film(d, r, gif, LIGHT, size=(160, 120))
    with Image.open(gif) as moving:
        assert moving.n_frames > 40
    write_film(d, r, gif, LIGHT, camera=Camera(), size=(80, 60))
    with Image.open(gif) as moving:
        assert moving.n_frames > 40
    # A rack at the output stands in the middle of the backlash, and half a pitch off it would run into its pinion.
    rack = set_many(add_stage(demo("dome-rack"), 0), {"train.gears.gear2.z": 47, "train.duty.u_wanted": None})
    r = evaluate(rack)
    *_, (pinion, [(x, y, _, angle)], _), (bar, [(x_0, y_0, _, _)], last) = placed_bodies(rack, r)
    one = translate(rotate(Polygon(pinion.outline(2e-3)), angle, origin=(0, 0), use_radians=True), x, y)
    two = translate(Polygon(bar.outline(2e-3)), x_0, y_0)
    m = r.stages[last].mesh
    assert one.distance(two) == pytest.approx(m["j_wt"] / 2 * np.cos(np.radians(m["alpha_wt"])), rel=0.02)
    assert translate(two, 0, m["p_t"] / 2).intersection(one).area > 1
    export(rack, r, path, stage=WHOLE)


def test_a_stage_is_dragged_along_the_power_line(window):
    window.open_demo("winch")
    settle()
    s, cards = window.session, window.power_line.cards
    names = [stage.name for stage in s.design.train.stages]
    card, span = cards[0], cards[1].x() - cards[0].x()
    middle = card.rect().center()

    def drag(by):
        QTest.mousePress(card, LEFT, pos=middle)
        for part in (0.3, 0.7, 1.0):
            QTest.mouseMove(card, middle + QPoint(round(by * part), 0) - QPoint(card.x() - home, 0))
        QTest.mouseRelease(card, LEFT, pos=middle)
        settle()

    home = card.x()
    drag(0.3 * span)
    assert [stage.name for stage in s.design.train.stages] == names
    assert card.x() == home
    drag(0.8 * span)
    assert [stage.name for stage in s.design.train.stages] == names[::-1]
    assert s.stage == 1
    assert s.state.label == "stage moved"
    s.undo()
    # A plain click still selects.
    QTest.mouseClick(cards[0], LEFT)
    assert s.stage == 0


def test_the_start_page_shows_every_demo_and_opens_one(window):
    page = window.open_start()
    settle()
    assert {c.name for c in page.cards} == set(DEMOS)
    card = next(c for c in page.cards if c.name == "filter-wheel")
    window.session.saved = window.session.design
    QTest.mouseClick(card, LEFT)
    settle()
    assert window.session.design.name == demo("filter-wheel").name
    page = window.open_start()
    QTest.keyClick(page, Qt.Key.Key_Escape)
    settle()
    assert window.session.design.name == demo("filter-wheel").name

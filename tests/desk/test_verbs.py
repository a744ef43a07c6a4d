"""The verbs are found by looking: by the name of the design, the right button on every object, and a first walk."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu

from cooper.demo import demo
from cooper.desk.base.lens_entries import LENSES
from cooper.desk.shell.first_walk_commands import STOPS, FirstWalk, walk_once
from cooper.desk.shell.pictures import settle
from cooper.desk.shell.verbs import bench_menu, file_menu
from cooper.editing.edit import set_many
from cooper.results.evaluate import evaluate

LEFT = Qt.MouseButton.LeftButton


def words(menu):
    return [a.text().partition("\t")[0] for a in menu.actions() if not a.isSeparator()]


def opened(window):
    """The menu that was popped up last; closed again."""
    menus = [m for m in window.findChildren(QMenu) if m.isVisible()]
    assert len(menus) == 1
    result = words(menus[0])
    menus[0].close()
    settle()
    return result


def ask(widget, at=None):
    at = at or widget.rect().center()
    QApplication.sendEvent(widget, QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, widget.mapToGlobal(at)))
    settle()


def test_the_name_of_the_design_opens_what_one_does_with_a_file(window):
    QTest.mouseClick(window.power_line.named, LEFT)
    settle()
    result = opened(window)
    assert {"Open a design …", "Save", "Save as …", "Export, report, print", "Rename the design …"} <= set(result)
    menu = file_menu(window)
    undo = next(a for a in menu.actions() if a.text().startswith("Undo"))
    b = window.session.design.train.stages[0].gears[0].b
    tag = window.bench.tags["b_1"]
    tag.step(1)
    undo.trigger()
    assert window.session.design.train.stages[0].gears[0].b == b
    out = next(a.menu() for a in menu.actions() if a.text() == "Export, report, print")
    assert len(out.actions()) > 5


@pytest.mark.parametrize("lens", [k for k in LENSES if k != "set"])
def test_the_right_button_on_every_lens_says_what_can_be_done_and_does_it(window, lens):
    window.bench.set_lens(lens)
    settle()
    QTest.mouseClick(window.bench.verbs, LEFT)
    settle()
    result = opened(window)
    view = window.bench.views[lens]
    assert {row[0] for row in getattr(view, "VERBS", ())} <= set(result)
    assert "All data of the mesh …" in result and "Look at it as" in result and "Find a command" in result
    ask(view.viewport() if hasattr(view, "viewport") else view, QPoint(5, view.height() - 5))
    assert opened(window) == result
    before = window.bench.drawing.roll
    for action in bench_menu(window).actions():
        if action.text().startswith(("Roll on", "Move the contact on")):
            action.trigger()
            assert window.bench.drawing.roll != before


def test_checks_tags_and_stages_carry_their_own_verbs(window):
    row = next(iter(window.margins.rows.values()))
    row.customContextMenuRequested.emit(QPoint(4, 4))
    settle()
    menu = next(m for m in window.findChildren(QMenu) if m.isVisible())
    assert words(menu)[:3] == ["Why, and what would help", "What it is", "Copy it"]
    next(a for a in menu.actions() if a.text() == "Copy it").trigger()
    assert row.check.label in QApplication.clipboard().text()
    next(a for a in menu.actions() if a.text().startswith("Why")).trigger()
    menu.close()
    settle()
    assert window.margins.opened == row.check.key and window.why.isVisible()


def test_a_first_walk_stops_five_times_and_is_skipped_at_any(window):
    window.run("walk")
    settle()
    walk = window.findChild(FirstWalk)
    seen = []
    for _ in range(len(STOPS)):
        place = walk.place()
        assert window.rect().contains(place) and not walk.card.geometry().isNull()
        assert walk.rect().contains(walk.card.geometry())
        seen.append(walk.title.text())
        walk.grab()
        QTest.keyClick(walk, Qt.Key.Key_Return)
        settle()
    assert len(set(seen)) == 5 and window.findChild(FirstWalk) is None
    assert window.settings.text("walked", "") == "yes"
    # A survey that is asked for meanwhile ends it; it does not begin over one, and who asks for it leaves the survey.
    window.settings.set_text("walked", "")
    window.run("walk")
    settle()
    window.open_survey()
    settle()
    assert window.findChild(FirstWalk) is None and window.pages.currentIndex()
    window.settings.set_text("walked", "")
    walk_once(window)
    assert window.findChild(FirstWalk) is None
    window.run("walk")
    settle()
    assert window.findChild(FirstWalk) is not None and not window.pages.currentIndex()
    QTest.keyClick(window.findChild(FirstWalk), Qt.Key.Key_Escape)
    settle()
    window.resize(960, 600)
    window.run("walk")
    settle()
    walk = window.findChild(FirstWalk)
    walk.go_on()
    assert walk.rect().contains(walk.card.geometry())
    QTest.keyClick(walk, Qt.Key.Key_Escape)
    settle()
    assert window.findChild(FirstWalk) is None


def test_a_check_without_factors_opens_into_what_it_is_made_of_its_place_and_its_levers(window):
    window.session.edit(
        lambda d, _r: set_many(d, {"train.defaults.eps_alpha_min": 1.6, "train.defaults.c_min": 0.3}), "asked"
    )
    settle()
    stage = window.session.results.stages[0]
    for key, text in (
        ("stage1.eps_alpha", {"g_alpha": stage.mesh.g_alpha, "p_et": stage.mesh.p_et}),
        ("stage1.c_1", {"d_a1": stage.gears[0].d_a, "d_f2": stage.gears[1].d_f}),
        ("stage1.c_F1", {"d_Ff1": stage.gears[0].d_Ff, "d_Nf1": stage.gears[0].d_Nf}),
        ("stage1.j_wt_min", {"E_sns1": stage.gears[0].E_sns, "E_sns2": stage.gears[1].E_sns}),
    ):
        window.margins.open("")
        window.margins.toggle(key)
        settle()
        sheet = window.why
        rows = {name: value for name, value, _k, _s in sheet._rows(window.session.results.check(key))}
        assert sheet.isVisible() and {k: rows[k] for k in text} == pytest.approx(text), key
        assert sheet.place.isVisible() and sheet.place.picture.isValid()
        window.margins.fill_now()
        levers = [row.lever for row in window.margins.lever_rows]
        assert levers, key
        for lever in levers:
            if lever.design is not None:
                result = evaluate(lever.design).check(key)
                # What is proposed is enough, and hardly more.
                assert -1e-9 <= result.margin < 0.05 or window.session.results.check(key).margin >= 0


def test_the_first_window_leaves_room_for_its_frame(window):
    from cooper.desk.base.session import Session
    from cooper.desk.shell.window import FRAME, Window

    other = Window(Session(demo()), recover=False)
    room = QApplication.primaryScreen().availableGeometry()
    assert other.height() <= room.height() - FRAME[1] and other.width() <= max(
        room.width() - FRAME[0], other.minimumWidth()
    )
    other.deleteLater()

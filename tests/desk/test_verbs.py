"""The verbs are found by looking: by the name of the design, the right button on every object, and a first walk."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu

from cooper.desk.frame.first_walk_commands import STOPS, FirstWalk
from cooper.desk.frame.verbs import bench_menu, file_menu
from cooper.desk.lenses.entries import LENSES
from cooper.desk.widgets.pictures import settle

LEFT = Qt.MouseButton.LeftButton


def words(menu):
    return [a.text().partition("\t")[0] for a in menu.actions() if not a.isSeparator()]


def opened(window):
    """The menu that was popped up last; closed again."""
    menus = [m for m in window.findChildren(QMenu) if m.isVisible()]
    assert len(menus) == 1
    found = words(menus[0])
    menus[0].close()
    settle()
    return found


def ask(widget, at=None):
    at = at or widget.rect().center()
    QApplication.sendEvent(widget, QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, widget.mapToGlobal(at)))
    settle()


def test_the_name_of_the_design_opens_what_one_does_with_a_file(window):
    QTest.mouseClick(window.power_line.named, LEFT)
    settle()
    found = opened(window)
    assert {"Open a design …", "Save", "Save as …", "Export, report, print", "Rename the design …"} <= set(found)
    menu = file_menu(window)
    undo = next(a for a in menu.actions() if a.text().startswith("Undo"))
    b = window.session.design.train.stages[0].members[0].b
    tag = window.bench.tags["b_1"]
    tag.step(1)
    undo.trigger()
    assert window.session.design.train.stages[0].members[0].b == b
    out = next(a.menu() for a in menu.actions() if a.text() == "Export, report, print")
    assert len(out.actions()) > 5


@pytest.mark.parametrize("lens", [k for k in LENSES if k != "set"])
def test_the_right_button_on_every_lens_says_what_can_be_done_and_does_it(window, lens):
    window.bench.set_lens(lens)
    settle()
    QTest.mouseClick(window.bench.verbs, LEFT)
    settle()
    found = opened(window)
    view = window.bench.views[lens]
    assert {row[0] for row in getattr(view, "VERBS", ())} <= set(found)
    assert "All data of the mesh …" in found and "Look at it as" in found and "Find a command" in found
    ask(view.viewport() if hasattr(view, "viewport") else view, QPoint(5, view.height() - 5))
    assert opened(window) == found
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
    window.resize(960, 600)
    window.run("walk")
    settle()
    walk = window.findChild(FirstWalk)
    walk.go_on()
    assert walk.rect().contains(walk.card.geometry())
    QTest.keyClick(walk, Qt.Key.Key_Escape)
    settle()
    assert window.findChild(FirstWalk) is None

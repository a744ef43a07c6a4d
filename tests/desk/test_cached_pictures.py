"""What is painted once and laid down again shows what it would show if it were painted anew."""

import pytest
from PySide6.QtCore import QEvent, QObject, QTimer
from PySide6.QtGui import QImage, QPalette
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from cooper.desk.shell.margin_rows import CheckRow
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.cached_picture import CachedPicture
from cooper.desk.widgets.rows_view import RowsView
from cooper.desk.widgets.tag import Tag
from cooper.editing.edit import set_at, set_many


def stale(window):
    """The tags and checks in sight whose kept picture is not that of now."""
    parts = [(t, "_picture") for t in window.findChildren(Tag)]
    parts += [(row, "_still") for row in window.findChildren(CheckRow)]
    result = []
    for widget, name in parts:
        if widget.isVisible():
            kept = widget.grab().toImage()
            setattr(widget, name, CachedPicture())
            if widget.grab().toImage() != kept:
                result.append(widget.objectName())
    return result


def test_no_kept_picture_is_stale_whatever_happens(window):
    s, x = window.session, "train.gears.gear1.x"

    def edit(**values):
        s.edit(lambda d, _r: set_many(d, {k.replace("__", "."): v for k, v in values.items()}), "more")

    acts = [
        lambda: s.edit(lambda d, _r: set_at(d, x, 0.31), "x"),
        lambda: edit(train__gears__gear1__b=4.0, train__gears__gear2__b=4.0),
        lambda: edit(train__gears__gear1__z=9),
        lambda: window.run("theme"),
        lambda: window.run("units"),
        lambda: window.bench.tags["z_1"].setFocus(),
        lambda: window.margins.open(next(iter(window.margins.rows))),
        lambda: s.undo(),
        lambda: window.resize(1100, 760),
        lambda: window.run("contrast"),
        lambda: window.run("units"),
    ]
    window.show()
    for n, act in enumerate(acts):
        act()
        settle()
        assert not stale(window), n
    window.run("contrast")


def test_a_sheet_lets_nothing_beneath_be_painted(window):
    """Its ground is of one colour, also after the style sheet has gone over it."""
    window.show()
    window.open_sheet("gear_1")
    settle()
    ground = window.sheet.inside.parentWidget()
    assert ground.autoFillBackground() and ground.backgroundRole() == QPalette.ColorRole.Base
    window.run("theme")
    settle()
    ground = window.sheet.inside.parentWidget()
    assert ground.autoFillBackground()
    assert window.sheet.grab().toImage().pixelColor(40, 300).name().upper() == window.theme.card


@pytest.mark.parametrize("wide", ["12345.678", "several words in a cell"])
def test_columns_follow_the_width_of_their_texts(window, wide):
    view = RowsView({"one": lambda row: row[0], "two": lambda row: row[1]}, stretch=False)
    view.setParent(window)
    view.show()
    view.show_rows([["1.5", "a"]])
    narrow = view.columnWidth(0)
    view.show_rows([["1.5", "a"], [wide, "a"]])
    assert view.columnWidth(0) > narrow + 10
    view.show_rows([["2.5", "a"]])
    assert view.columnWidth(0) == narrow


def on_screen(window):
    """What the window has on the screen, and what it would have if all of it were painted now."""
    for _ in range(60):
        settle()
        shown = window.screen().grabWindow(window.winId()).toImage().convertToFormat(QImage.Format.Format_RGB32)
        anew = window.grab().toImage().convertToFormat(shown.format())
        if shown == anew:
            break
        # What is out of sight is dressed once the window is painted.
        QTest.qWait(20)
    return shown, anew


@pytest.mark.parametrize("lens", ["teeth", "stress", "shafts"])
def test_a_theme_is_on_the_whole_screen_and_each_part_is_painted_once(window, lens):
    window.show()
    window.bench.set_lens(lens)
    painted = []

    class Watch(QObject):
        def eventFilter(self, watched, event):
            if event.type() == QEvent.Type.Paint and isinstance(watched, CheckRow):
                painted.append(watched)
            return False

    watch, app = Watch(), QApplication.instance()
    for key in ("theme", "contrast", "theme", "contrast"):
        settle()
        painted.clear()
        app.installEventFilter(watch)
        window.run(key)
        while not painted:
            app.processEvents()
        app.removeEventFilter(watch)
        assert len(painted) == len(set(painted))
        shown, anew = on_screen(window)
        assert shown == anew, key


def test_a_table_paints_its_cells_to_their_sides_and_the_chosen_row_on_its_band(window):
    view = RowsView({"words": lambda r: r[0], "number": lambda r: r[1]}, stretch=False)
    view.setParent(window)
    view.setGeometry(0, 0, 400, 200)
    view.show_rows([("one", "1.5"), ("two, much longer than there is room for", "22.25"), ("three", "–")])
    view.setColumnWidth(0, 120)
    view.setColumnWidth(1, 120)
    view.selectRow(1)
    view.show()
    settle()
    view.setColumnWidth(0, 120)
    view.setColumnWidth(1, 120)
    image = view.viewport().grab().toImage()
    paper, band = (view.palette().color(r) for r in (QPalette.ColorRole.Base, QPalette.ColorRole.AlternateBase))

    def ink(row, column):
        """First and last column of pixels in a cell that are not its ground."""
        ground = band if row == 1 else paper
        left, top = view.columnViewportPosition(column), view.rowViewportPosition(row)
        at = [x for x in range(119) if any(image.pixelColor(left + x, top + y) != ground for y in range(1, 23))]
        return at[0], at[-1]

    assert ink(0, 0)[0] < 6 and ink(0, 0)[1] < 40, "words begin at the left"
    assert ink(0, 1)[0] > 80 and 112 < ink(0, 1)[1] < 118, "numbers end at the right"
    assert ink(2, 1)[1] < 20, "what is no number stands as words"
    assert 100 < ink(1, 0)[1] < 118, "what is too long is cut within its cell"
    assert image.pixelColor(60, view.rowViewportPosition(1) + 2) == band
    view.rows.show([])
    view.viewport().grab()


def test_an_edit_is_painted_in_a_turn_of_its_own(window):
    window.show()
    settle()
    seen = []

    class Watch(QObject):
        def eventFilter(self, watched, event):
            if watched is window and event.type() == QEvent.Type.Paint:
                seen.append("painted")
            return False

    watch, app, turns = Watch(), QApplication.instance(), QTimer()
    turns.timeout.connect(lambda: seen.append("turn"))
    turns.start(0)
    app.installEventFilter(watch)
    window.session.edit(lambda d, _r: set_at(d, "train.gears.gear1.x", 0.31), "x")
    while "painted" not in seen:
        app.processEvents()
    app.removeEventFilter(watch)
    assert "turn" in seen[: seen.index("painted")], "the hand is heard before it is painted"
    shown, anew = on_screen(window)
    assert shown == anew

"""Whole sets on the Bench and arrangements exchanged: what the tags do, what the Margins list, what the pictures
show."""

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton
from shapely.geometry import Point, Polygon

from cooper.demo import DEMOS, demo
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.rich_page import RichPage
from cooper.desk.widgets.tag import Tag
from cooper.editing.arrangement import added, arrangement_of, arrangements, exchanged
from cooper.editing.edit import set_many
from cooper.editing.make_sets import change_count, set_number, with_free_sun
from cooper.errors import OutOfRange
from cooper.gears.outline import gear_outline
from cooper.results.evaluate import QUICK, evaluate
from cooper.results.pose import pose


def tag(window, name) -> Tag:
    return window.bench.set.findChild(Tag, f"set_{name}")


def typed(window, name, text):
    t = tag(window, name)
    t.open(text)
    QTest.keyClick(t.editor, Qt.Key.Key_Return)
    settle()
    return t


def test_a_set_opens_whole_and_its_tags_keep_it_one(window):
    window.open_demo("focuser")
    settle()
    assert window.bench.lens == "set"
    assert window.bench.tags["a_w"].isHidden()
    s = window.session
    typed(window, "planets_z", "22")
    assert s.state.label == "planets z 22"
    assert [g["z"] for st in s.results.stages for g in st.gears] == [19, 22, 22, -63]
    typed(window, "the_set_n_planets", "3")
    assert s.results.sets[0].planets == 3
    typed(window, "the_set_envelope", "44")
    assert s.results.sets[0].values["envelope"] == pytest.approx(44.0)
    # The ring's shift typed: the sun's gives way, the planet stays.
    x = s.results.stages[0].gears[1]["x"]
    typed(window, "ring_x", "-0.4")
    assert s.results.stages[1].gears[1]["x"] == pytest.approx(-0.4, abs=1e-6)
    assert s.results.stages[0].gears[1]["x"] == x
    before = s.at
    refused = typed(window, "sun_z", "3.5")
    assert refused.fault is not None
    assert s.at == before
    refused.close_editor(False)
    refused = typed(window, "sun_z", "-15")
    assert "external" in refused.fault.findChild(type(window.margins.title), "fault_reason").text()
    refused.close_editor(False)
    s.saved = s.design
    window.open_demo("mirror-cover")
    settle()
    assert window.bench.lens == "teeth"
    assert window.bench.lens_buttons["set"].isHidden()


def test_margins_list_the_checks_of_all_meshes_of_a_set_and_open_each_for_its_own(window):
    window.open_demo("filter-wheel")
    s = window.session
    settle()
    assert [k for k, _ in s.checks()][:2] == sorted(
        (0, 1), key=lambda k: min(c.margin for c in s.results.checks if c.stage == k)
    )
    assert set(window.margins.rows) == {c.key for c in s.results.checks}
    assert [h.text() for h in window.margins.heads][:2] == [s.design.train.stages[k].name for k, _ in s.checks()[:2]]
    key = next(c.key for c in s.results.checks if c.stage == 1 and c.symbol == "S_H")
    window.margins.rows[key].click()
    assert s.stage == 1
    assert window.margins.opened == key
    assert window.bench.lens == "set"
    window.margins.open("")
    window.bench.set_lens("teeth")
    assert {c.stage for row in window.margins.rows.values() for c in [row.check]} <= {1, None}
    window.findChild(QPushButton, "whole_set_1").click()
    settle()
    assert window.bench.lens == "set"


def test_a_set_is_turned_zoomed_and_shows_where_its_teeth_touch(window):
    window.open_demo("filter-wheel")
    window.session.edit(lambda d, _r: with_free_sun(d, 0, True), "free sun")
    settle()
    lens = window.bench.set
    lens.grab()
    part = window.session.results.part(lens.shown)
    for turn in (0.0, 1.3):
        lens.set_turn(turn)
        at = pose(part, turn)
        points = lens.contacts(at)
        assert {k for k, *_ in points} == {0, 1, 2}
        for k, x, y in points:
            gears = [g for g in at.gears if g.stage == k or (k == 2 and g.stage == 0 and g.i == 0)]
            near = [
                Polygon(
                    gear_outline(part.stages[g.stage].teeth[g.i], g.angle, 2e-3) + np.array([g.x, g.y])
                ).boundary.distance(Point(x, y))
                for g in gears
            ]
            assert sorted(near)[1] < part.stages[k].mesh["j_wt_max"]
    scale, origin = lens.look()
    place = QPointF(300, 300)
    QApplication.sendEvent(
        lens,
        QWheelEvent(
            place,
            place,
            QPoint(),
            QPoint(0, 120),
            Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        ),
    )
    new, moved = lens.look()
    assert new == pytest.approx(1.25 * scale)
    # What was under the pointer stays there.
    assert ((place - moved) / new).x() == pytest.approx(((place - origin) / scale).x())
    QTest.keyClick(lens, Qt.Key.Key_F)
    assert lens.look()[0] == scale
    turn = lens.turn
    QTest.keyClick(lens, Qt.Key.Key_Left)
    assert lens.turn > turn


@pytest.mark.parametrize("name", list(DEMOS))
def test_every_stage_becomes_every_arrangement_or_says_why_not(name):
    d = demo(name)
    last = len(d.train.stages) - 1
    for k in range(last + 1):
        for kind in arrangements():
            n = set_number(d, k)
            ends = k == last or (n is not None and d.train.placed[n].stages[-1] == last)
            for way in ("exchange", "add"):
                if kind == "rack" and (not ends or (way == "add" and arrangement_of(d, k) == "rack")):
                    with pytest.raises(OutOfRange, match="comes last"):
                        exchanged(d, k, kind) if way == "exchange" else added(d, k, kind)
                    continue
                at = k if n is None else d.train.placed[n].first
                e, at = (exchanged(d, k, kind), at) if way == "exchange" else added(d, k, kind)
                assert arrangement_of(e, at) == kind
                r = evaluate(e, QUICK)
                assert 0 < r.train["eta"] < 1
                if arrangement_of(d, k) == kind and way == "exchange":
                    assert e == d


def test_the_distances_of_an_idler_stand_on_their_lines_and_are_edited_there(window):
    window.open_demo("battery-lift")
    settle()
    lens = window.bench.set
    for _ in range(2):
        scale, origin = lens.look()
        for tag, a, b in lens.distances():
            assert tag.geometry().center().x() == pytest.approx(origin.x() + scale * (a + b) / 2, abs=2)
        lens.zoom(1.3)
    one, two = (t for t, _a, _b in lens.distances())
    assert (one.field.name, two.field.name) == ("a_w1", "a_w2")
    two.commit(79.6)
    assert [s.mesh["a_w"] for s in window.session.results.stages] == pytest.approx([57.4, 79.6])


def test_an_arrangement_is_taken_by_a_click(window):
    window.open_demo("mirror-cover")
    window.open_sheet("arrangement")
    settle()
    cards = {
        kind: window.sheet.findChild(QPushButton.__base__, f"kind_{kind.replace(' ', '_')}") for kind in arrangements()
    }
    assert not cards["external pair"].isEnabled()
    cards["planetary"].click()
    settle()
    s = window.session
    assert arrangement_of(s.design, 0) == "planetary"
    assert s.results.stages[0].gears[0]["z"] == 17
    window.open_sheet("arrangement")
    window.findChild(QPushButton, "mode_add").click()
    settle()
    window.sheet.findChild(QPushButton.__base__, "kind_rack").click()
    settle()
    assert s.stage == 2
    assert not s.results.stages[2].kind.turns
    s.undo()
    assert len(s.results.stages) == 2


def test_warnings_and_the_worst_of_the_train_are_in_sight_without_being_asked_for(window):
    """The focuser with three planets and a sun of 16 teeth: planets uneven, ratio off, load at the tip, typical
    strengths."""
    window.open_demo("focuser")
    s = window.session
    # A deeper root leaves the flanks their reach.
    deeper = {"train.sets.set1.planets": 3, "train.gears.gear2.h_fP": 1.35}
    s.edit(lambda d, _r: change_count(set_many(d, deeper), 0, 0, 16, 1), "sun 16")
    settle()
    assert s.results.verdict == "short"
    texts = [n.text for n in s.results.warnings()]
    assert "cannot stand evenly" in texts[0] and len(set(texts)) == len(texts) == 4
    assert window.margins.count.text() == "4 warnings"
    row = next(w for w in window.margins.warnings if w.note.counts)
    assert row.isVisibleTo(window.margins) and "1.28° off" in row.toolTip() and "verdict thin" in row.toolTip()
    window.bench.set_lens("set")
    settle()
    marked = {t.field.key for t in window.bench.set.findChildren(Tag) if t.warning() is not None and not t.isHidden()}
    assert marked == {"n_planets", "z_1", "z_2"}
    assert (
        "cannot stand evenly"
        in next(t for t in window.bench.set.findChildren(Tag) if t.field.key == "n_planets").toolTip()
    )
    # Whatever lens or mesh is looked at, the ratio that is off by more than its tolerance stays in sight.
    for lens, stage in (("set", 0), ("teeth", 1)):
        window.bench.set_lens(lens)
        s.select_stage(stage)
        settle()
        first = [c.key for _k, checks in s.checks()[:1] for c in checks[:4]]
        assert window.margins.worst.isVisibleTo(window.margins) == ("train.du" not in first)
        assert "train.du" in first or "ratio against wanted" in window.margins.worst.accessibleName()
    window.bench.set_lens("set")
    window.margins.worst.click()
    assert window.margins.rows["train.du"].hasFocus() or not window.isActiveWindow()
    window.bench.set.grab()
    next(w for w in window.margins.warnings if w.note.counts).click()
    settle()
    assert "cannot stand evenly" in window.sheet.findChild(RichPage, "all_notes").text()
    # Without a wanted ratio the planets alone make the verdict thin.
    s.edit(lambda d, _r: set_many(d, {"train.duty.u_wanted": None}), "any ratio")
    assert s.results.verdict == "thin"
    assert min(c.margin for c in s.results.checks) > 0.1


def test_keys_go_on_to_the_lenses_where_a_set_is_left(window):
    window.session.restart(demo("dome-drive"), None)
    window.bench.begin()
    window.activateWindow()
    QTest.qWaitForWindowActive(window)
    settle()
    assert window.bench.lens == "set" and QApplication.focusWidget() is window.bench.set
    QTest.keyClick(window.bench.set, Qt.Key.Key_6, Qt.KeyboardModifier.AltModifier)
    settle()
    # Not to the Margins, which would scroll away under the eye.
    assert window.bench.lens == "train"
    assert QApplication.focusWidget() in (*window.bench.lens_buttons.values(), window.bench.views["train"])
    assert window.margins.area.verticalScrollBar().value() == 0

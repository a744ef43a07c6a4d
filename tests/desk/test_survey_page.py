"""The survey in the real window: from a duty to a design that holds, bounds, cloud, table, shelf, what is kept, and
nonsense."""

import numpy as np
import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog

from cooper.desk.shell.pictures import settle
from cooper.document.store import open_design
from cooper.editing.edit import set_many
from cooper.results.evaluate import evaluate
from cooper.survey.survey_result import unpacked
from waiting import wait_for


def asked(window, arrangements, most=4000, **typed):
    """From the start page to the list, hands on the keyboard."""
    window.session.saved = window.session.design
    page = window.open_start()
    settle()
    assert page.first.hasFocus()
    QTest.keyClick(page.first, Qt.Key.Key_Space)
    settle()
    survey = window.survey_page
    panel = survey.panel
    assert panel.isVisible()
    assert panel.entries["power"].hasFocus()
    for key, text in {**typed, "most": str(most)}.items():
        entry = panel.entries[key]
        entry.setFocus()
        entry.selectAll()
        QTest.keyClicks(entry, text)
    for key, box in panel.arrangements.items():
        box.setChecked(key in arrangements)
    return survey, panel


@pytest.mark.parametrize(
    ("arrangements", "process", "typed", "most"),
    [
        (("pair",), "ground", {"power": "4 kW", "n": "1450", "u_wanted": "3.2", "L_h": "10000"}, 4000),
        (
            ("two stages",),
            "ground",
            {
                "power": "11 kW",
                "n": "1470 rpm",
                "u_wanted": "14.5",
                "L_h": "20000",
                "beta_low": "10",
                "beta_high": "20",
            },
            5000,
        ),
        (
            ("planet set",),
            "sintered",
            {
                "power": "0.9 Nm",
                "n": "6000",
                "u_wanted": "5.6",
                "L_h": "500",
                "d_most": "52",
                "z_least": "12",
                "planets": "3 4",
            },
            5000,
        ),
    ],
)
def test_from_an_empty_start_to_a_design_that_holds(window, arrangements, process, typed, most):
    survey, panel = asked(window, arrangements)
    panel.process.setCurrentIndex(panel.process.findData(process))
    panel._process()
    for key, text in {**typed, "most": str(most)}.items():
        panel.entries[key].setText(text)
    QTest.keyClick(panel.entries["u_wanted"], Qt.Key.Key_Return)
    assert panel.fault.text() == ""
    wait_for(lambda: survey.task is None and survey.survey is not None)
    settle()
    assert len(survey.result) > 0
    assert survey.table.rows.rowCount() == len(survey.result)
    # The best margin of the list becomes the design.
    survey.table.rows.sort_by("worst", add=False)
    survey.table.rows.sort_by("worst", add=False)
    best = int(survey.table.rows.order[0])
    assert survey.result.values["worst"][best] == np.max(survey.result.values["worst"])
    survey.table.selectRow(0)
    QTest.keyClick(survey.table, Qt.Key.Key_Space)
    settle()
    assert window.pages.currentIndex() == 0
    results = window.session.results
    assert min(c.margin for c in results.checks) == pytest.approx(survey.result.values["worst"][best], abs=1e-9)
    assert min(c.margin for c in results.checks) >= 0
    assert window.session.design.survey is not None
    if arrangements == ("two stages",):
        a_whole_machine(window)
    window.session.undo()
    assert window.session.design.survey is not None


def a_whole_machine(window):
    """From the design on to shafts, bearings, joints and housing that hold, with three clicks."""
    before = [dict(g) for s in window.session.results.stages for g in s.gears]
    QTest.mouseClick(window.bench.lens_buttons["shafts"], Qt.MouseButton.LeftButton)
    lens = window.bench.views["shafts"]
    wait_for(lambda: lens.machine() is not None)
    settle()
    QTest.mouseClick(lens.chips[-2], Qt.MouseButton.LeftButton)
    QTest.mouseClick(lens.count, Qt.MouseButton.LeftButton)
    settle()
    results = window.session.results
    assert len(results.machine.shafts) == 3 and results.machine.clashes == ()
    of_machine = [c for c in results.checks if c.part]
    assert len(of_machine) > 25 and [c.label for c in of_machine if c.margin < 0] == []
    assert not [n.text for n in results.notes if n.counts == "short"]
    assert [dict(g) for s in results.stages for g in s.gears] == before


def test_escape_in_the_filter_clears_it_leaves_it_and_only_then_the_page(window):
    survey, panel = asked(window, ("pair",), most=800)
    panel.submit()
    wait_for(lambda: survey.task is None and survey.survey is not None)
    survey.filter.setFocus()
    QTest.keyClicks(survey.filter, "m_n<3")
    assert survey.filter.text() == "m_n<3"
    QTest.keyClick(survey.filter, Qt.Key.Key_Escape)
    assert survey.filter.text() == "" and survey.filter.hasFocus() and survey.isVisible()
    QTest.keyClick(survey.filter, Qt.Key.Key_Escape)
    assert not survey.filter.hasFocus() and survey.isVisible()
    QTest.keyClick(survey.table, Qt.Key.Key_Escape)
    settle()
    assert not survey.isVisible()


def test_nonsense_is_told_at_its_field(window):
    survey, panel = asked(window, ("pair",))
    cases = {
        "power": ("", "ten", "10 m", "-5 kW"),
        "u_wanted": ("", "0", "nan", "1e99"),
        "z_least": ("17.5", "2", "99"),
        "m_low": ("9", "0"),
        "modules": ("1 two", "0.0001"),
        "m_step": ("0", "0.0001", "x"),
        "beta_step": ("0", ""),
        "planets": ("0", "99", "x"),
        "most": ("0", "1e30"),
        "b_m_high": ("1",),
    }
    good = {key: entry.text() for key, entry in panel.entries.items()}
    for key, texts in cases.items():
        for text in texts:
            panel.entries[key].setText(text)
            panel.submit()
            assert panel.fault.text(), (key, text)
            assert panel.isVisible()
            assert survey.task is None
            panel.entries[key].setText(good[key])
    own = panel.materials.text()
    for text in (
        "",
        "Eh",
        "Eh MQ soft",
        "wood MQ 3",
        "Eh typical 700",
        "Eh MQ 700; ; V MQ 300",
        "Eh MQ 1; V MQ 1; V MQ 2; V MQ 3",
    ):
        panel.materials.setText(text)
        panel.submit()
        assert panel.fault.text(), text
        assert survey.task is None
    panel.materials.setText(own)
    for box in panel.arrangements.values():
        box.setChecked(False)
    panel.submit()
    assert "arrangement" in panel.fault.text()
    panel.arrangements["idler"].setChecked(True)
    panel.submit()
    assert "distance" in panel.fault.text()
    QTest.keyClick(panel.entries["power"], Qt.Key.Key_Escape)
    assert not panel.isVisible()


@pytest.fixture
def surveyed(window):
    survey, panel = asked(
        window, ("pair", "planet set"), power="4 kW", n="1450", u_wanted="4", L_h="5000", z_pinion="22"
    )
    panel.submit()
    wait_for(lambda: survey.task is None and survey.survey is not None)
    settle()
    return survey


def test_bounds_filter_cloud_and_table_at_once(window, surveyed):
    page, result = surveyed, surveyed.result
    row = page.bounds["m_n"]
    row.give(2.0, 3.0)
    settle()
    within = (result.values["m_n"] >= 2.0) & (result.values["m_n"] <= 3.0)
    assert np.array_equal(page.keep, within)
    assert page.table.rows.rowCount() == int(np.sum(within))
    assert row.lost == int(np.sum(~within))
    page.filter.setText("helical")
    settle()
    assert np.array_equal(page.keep, within & (result.values["beta"] > 0))
    page.filter.setText("m_q<3")
    settle()
    assert "no quantity" in page.words.text()
    page.filter.setText("")
    # Ends are typed too; what is no number stays open.
    row.open("high")
    row.editor.setText("three")
    row._typed("high")
    assert row.editor is not None
    row.editor.setText("2,5")
    row._typed("high")
    assert row.high == 2.5
    QTest.keyClick(row, Qt.Key.Key_Delete)
    settle()
    assert page.keep.all()


def test_box_lasso_and_edge_choose_the_same_designs_in_cloud_and_table(window, surveyed):
    page, cloud = surveyed, surveyed.cloud
    page.show_axes("mass", "S_F", "m_n")
    settle()
    cloud.grab()
    px, py = cloud._px
    n = int(np.flatnonzero(page.keep)[5])
    at = QPointF(px[n], py[n])
    box = [QPointF(at.x() - 12, at.y() - 9), QPointF(at.x() + 12, at.y() + 9)]
    wanted = np.flatnonzero((np.abs(px - at.x()) <= 12) & (np.abs(py - at.y()) <= 9) & page.keep)
    assert np.array_equal(cloud.inside(box, "box"), wanted)
    corners = [box[0], QPointF(box[1].x(), box[0].y()), box[1], QPointF(box[0].x(), box[1].y())]
    assert set(wanted.tolist()) >= set(cloud.inside(corners, "lasso").tolist()) >= {n}
    QTest.mousePress(cloud, Qt.MouseButton.LeftButton, pos=box[0].toPoint())
    QTest.mouseMove(cloud, box[1].toPoint())
    QTest.mouseRelease(cloud, Qt.MouseButton.LeftButton, pos=box[1].toPoint())
    assert n in page.table.numbers().tolist()
    assert set(page.table.numbers().tolist()) == set(cloud.chosen.tolist())
    page.choose_edge()
    assert set(page.table.numbers().tolist()) == set(cloud.edge.tolist())
    v = page.result.values
    for k in cloud.edge.tolist():
        assert not np.any(
            (v["mass"] <= v["mass"][k])
            & (v["S_F"] >= v["S_F"][k])
            & ((v["mass"] < v["mass"][k]) | (v["S_F"] > v["S_F"][k]))
        )
    cloud.look_at(n)
    assert page.card.isVisible()
    page._draw_hover()
    wait_for(lambda: n in page.results)


def test_the_shelf_holds_six_and_shows_what_differs(window, surveyed, tmp_path, monkeypatch):
    page = surveyed
    for n in range(7):
        page.put(n)
    page.put(-1)
    wait_for(lambda: len(page.shelf.picks) == 6)
    assert len(page.picks) == 6
    page.off_shelf(5)
    page.put(-1)
    wait_for(lambda: len(page.shelf.picks) == 6)
    assert page.shelf.picks[-1].number == -1
    page.toggle_side()
    page.grab()
    text = page.side.as_text()
    assert "margin of S_H" in text
    assert len(text.splitlines()[0].split("\t")) == 7
    for row in page.side.rows():
        cells = {p.values.get(row) for p in page.shelf.picks}
        assert len(cells) > 1
    page.side.copy()
    assert QApplication.clipboard().text() == text
    assert not QApplication.clipboard().image().isNull()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "shelf.pdf"), ""))
    page.side.printing.emit()
    assert (tmp_path / "shelf.pdf").read_bytes().startswith(b"%PDF")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "no" / "shelf.pdf"), ""))
    page.side.printing.emit()
    assert "Not saved" in window.notice.text.text()
    QTest.keyClick(page.side, Qt.Key.Key_Escape)
    assert page.middle.currentIndex() == 0
    page.table.give_column("eta", True)
    assert window.settings.text("survey_columns", "").split()[-1] == "eta"
    page.take(2)
    settle()
    assert window.session.design.survey.shelf == (0, 1, 2, 3, 4)
    # Saved, opened in another session: the designs are there, and say what has changed since.
    path = tmp_path / "kept.cooper.json"
    assert window.save_to(path)
    window.open_demo("winch")
    assert page.result is None
    window.open_path(path)
    window.open_survey()
    wait_for(lambda: page.task is None and page.result is not None and len(page.shelf.picks) == 5)
    settle()
    worst = page.result.values["worst"]
    assert min(c.margin for c in evaluate(page.result.design(0)).checks) == pytest.approx(worst[0], abs=1e-9)
    window.session.edit(lambda d, _r: set_many(d, {"train.duty.L_h": 777.0}), "L_h")
    settle()
    assert "L_h" in page.words.text()
    page.take(1)
    assert window.session.design.train.duty.L_h == 777.0
    out = tmp_path / "table.csv"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(out), ""))
    window.run("survey_table")
    settle()
    assert len(out.read_text().splitlines()) == len(page.result) + 1
    assert open_design(path).survey is not None


def test_a_search_is_stopped_with_what_is_found_and_another_design_drops_it(window):
    survey, panel = asked(window, ("two stages",), most=60000, power="11 kW", n="1470", u_wanted="14.5", L_h="20000")
    panel.submit()
    wait_for(lambda: survey.result is not None and len(survey.result) > 0)
    # What else is asked beside the window does not wait for the survey.
    survey.put(0)
    wait_for(lambda: 0 in survey.results)
    assert survey.task is not None
    survey.stop()
    # It does not wait for what was being searched: the shelf still comes after it.
    assert survey.task is None and survey.survey is None
    many = len(survey.result)
    wait_for(lambda: survey.survey is not None)
    settle()
    assert len(survey.result) == many
    assert not survey.survey.whole
    assert "not searched to the end" in survey.words.text()
    survey.sweep(survey.question())
    window.session.saved = window.session.design
    window.open_demo("battery-lift")
    settle()
    assert survey.result is None
    assert window.session.design.survey is None
    # One that holds a survey shows its own.
    window.open_demo("focuser")
    wait_for(lambda: survey.task is None and survey.result is not None)
    assert len(survey.result) == len(unpacked(window.session.design.survey))
    survey.close_in()
    wait_for(lambda: survey.task is None)
    settle()
    assert all("around" in survey.result.label(n) for n in range(min(len(survey.result), 3)))


def test_nothing_found_offers_the_least_change(window):
    survey, panel = asked(window, ("pair",), power="40 kW", n="1450", u_wanted="4", m_high="1.25")
    panel.submit()
    wait_for(lambda: survey.task is None and survey.survey is not None)
    assert len(survey.result) == 0
    wait_for(lambda: survey.findChild(object, "relax_m_high") is not None)
    survey.findChild(object, "relax_m_high").click()
    wait_for(lambda: survey.task is None and survey.survey is not None and len(survey.result) > 0)
    settle()
    assert survey.question().m_high > 1.25


def test_a_theme_units_and_the_smallest_window_keep_the_page_whole(window, surveyed):
    surveyed.ask()
    window.run("theme")
    window.run("units")
    window.resize(1024, 700)
    settle()
    assert surveyed.panel.isVisible()
    assert surveyed.panel.width() <= surveyed.width()
    assert "lbf" in surveyed.panel.entries["power"].text() or "hp" in surveyed.panel.entries["power"].text()
    window.grab()
    window.run("theme")
    window.run("units")


def test_a_theme_put_on_behind_the_page_is_worn_when_it_is_seen_and_what_is_typed_stays(window):
    page = window.open_survey()
    page.ask()
    entry = page.panel.entries["power"]
    entry.setText("7 kW")
    page.panel.entries["n"].mark("a fault")
    before = entry.grab().toImage().pixelColor(4, 4)
    window.toggle_theme()
    settle()
    assert page.panel.entries["power"].text() == "7 kW"
    wrong = page.panel.entries["n"]
    assert wrong.grab().toImage().pixelColor(wrong.width() // 2, 0).name().upper() == window.theme.short
    dark = entry.grab().toImage().pixelColor(4, 4)
    assert dark != before
    window.leave_survey()
    window.toggle_theme()
    settle()
    assert window.open_survey() is page
    settle()
    assert page.isVisible()
    assert page.theme is window.theme
    assert entry.text() == "7 kW"
    assert entry.grab().toImage().pixelColor(4, 4) == before


def test_a_quantity_no_design_has_leaves_the_cloud_empty(window, surveyed):
    settle()
    assert len(surveyed.cloud.edge) > 1
    surveyed.cloud.values.pop("S_B")
    surveyed.cloud.show_keys("S_B", "worst", "m_n")
    surveyed.cloud.grab()
    assert not len(surveyed.cloud.edge)
    surveyed.show_axes("mass", "worst", "m_n")
    wait_for(lambda: len(surveyed.cloud.edge) > 1)


def test_escape_and_nonsense_at_a_bound_stay_with_the_bound(window, surveyed):
    row = surveyed.bounds["mass"]
    for text in ("nan", "ten"):
        row.open("low")
        row.editor.setText(text)
        QTest.keyClick(row.editor, Qt.Key.Key_Return)
        assert row.editor is not None
        assert "no number" in row.editor.toolTip()
        assert not row.bounded
        QTest.keyClick(row.editor, Qt.Key.Key_Escape)
        settle()
        assert row.editor is None
        row.open("low")
        row.editor.setText("")
        QTest.keyClick(row.editor, Qt.Key.Key_Return)
        assert row.editor is None
        assert window.pages.currentIndex() == 1


def test_another_design_takes_the_card_along_and_no_design_shows_no_range(window, surveyed):
    surveyed._hovered(0)
    assert surveyed.card.isVisible()
    window.session.saved = window.session.design
    window.open_demo("battery-lift")
    window.open_survey()
    settle()
    assert not surveyed.card.isVisible()
    row = surveyed.bounds["mass"]
    assert not row.isEnabled()
    assert "no design" in row.accessibleDescription()
    surveyed.cloud.grab()

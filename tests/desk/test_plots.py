"""Plots: what is painted leaves as a table with the same numbers, and is told to those who do not see it."""

from xml.etree import ElementTree

import numpy as np
import pytest
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QApplication

from cooper.desk.base.theme import THEMES
from cooper.desk.shell.pictures import settle
from cooper.desk.shell.view_commands import copy_plots
from cooper.desk.widgets.plot import paint_plot
from cooper.editing.edit import set_at
from cooper.exchange.plots import Line, Plot, plot_svg, plot_table, plot_words, round_steps, value_at


def columns(text):
    """The tables of a text: heads and numbers of each."""
    result = []
    for block in text.split("\n\n"):
        head, *rows = block.split("\n")
        result.append((head.split("\t"), np.array([[float(v or "nan") for v in r.split("\t")] for r in rows])))
    return result


def copied(window):
    copy_plots(window)
    return QApplication.clipboard().text()


def test_jumps_gaps_and_rounding_stay_out_of_the_numbers_of_a_table():
    jump = Line(np.array([0.0, 1.0, 1.0, 2.0]), np.array([5.0, 5.0, 1e-15, np.nan]), "ink")
    short = Line(np.array([0.0, 1.0]), np.array([2.0, 4.0]), "driver", name="own")
    (head, rows), *rest = columns(plot_table([Plot("torque", "torque", (jump, short), "place")], "mm"))
    assert head == ["place, mm", "torque, N m", "torque: own, N m"] and not rest
    np.testing.assert_array_equal(rows[:, 1], [5, 5, 0, np.nan])
    np.testing.assert_array_equal(rows[:, 2], [2, 4, 4, np.nan])
    assert np.isnan(value_at(short, 1.5)) and value_at(short, 0.5) == 3.0
    inch = columns(plot_table([Plot("width", "length", (short,), "place")], "inch"))[0]
    assert inch[0][1] == "width: own, in" and inch[1][1] == pytest.approx([1 / 25.4, 4 / 25.4], rel=1e-6)
    assert round_steps(-3.2, 3.1, 4) == [-2.0, 0.0, 2.0] and round_steps(1.0, 1.0) == []
    assert "no values" in plot_words(Plot("torque", "torque", (Line(np.zeros(2), np.full(2, np.nan), "ink"),)), "mm")


def test_the_contact_leaves_as_a_table_and_is_described(window):
    window.bench.set_lens("contact")
    settle()
    lens, m = window.bench.views["contact"], window.session.results.stages[0].mesh
    tables = columns(copied(window))
    assert [len(h) for h, _ in tables] == [3, 2, 2, 3]
    g, rho_1 = tables[3][1][:, 0], tables[3][1][:, 1]
    assert g[[0, -1]] == pytest.approx([m.g_A, m.g_E], rel=1e-6)
    # An involute's radius of curvature is the length of its generating line.
    assert rho_1 == pytest.approx(g, rel=1e-6)
    assert tables[3][1][:, 2] == pytest.approx(window.session.results.stages[0].T2 - g, rel=1e-5)
    assert "radius of curvature: least" in lens.accessibleDescription()
    lens.show_mode("loaded teeth")
    settle()
    lens.grab()
    tables = columns(copied(window))
    assert tables[0][0][1:] == [f"share of the load on one pair of teeth: {w}" for w in ("loaded teeth", "formula")]
    assert tables[0][1][:, 1].max() == pytest.approx(1.0)
    assert "transmission error, two pitches: least" in lens.accessibleDescription()


def test_the_diagrams_of_a_shaft_leave_as_a_table(window):
    window.bench.set_lens("shafts")
    settle()
    lens = window.bench.views["shafts"]
    shear, moment, torque, *_ = columns(copied(window))
    T = 500 / (2 * np.pi * 240 / 60)
    assert torque[1][0, 1] == pytest.approx(T, rel=1e-5) and torque[1][-1, 1] == 0
    # The moment is the area under the shear force, where both are free of jumps.
    x, V = moment[1][:, 0], shear[1][:, 1]
    slope = np.abs(np.diff(moment[1][:, 1]))
    assert np.all(slope <= np.maximum(V[1:], V[:-1]) * np.diff(x) / 1000 * 1.001 + 1e-6)
    assert "torque: least 0 N m" in lens.accessibleDescription()
    window.bench.set_lens("teeth")
    QApplication.clipboard().setText("as before")
    copied(window)
    assert QApplication.clipboard().text() == "as before" and "no plot in view" in window.notice.text.text()


def test_an_open_sheet_gives_its_own_plots_and_not_those_behind_it(window):
    window.bench.set_lens("contact")
    window.session.edit(lambda d, _r: set_at(d, "train.gears.gear1.flanks.C_alphaa", 12.0), "C", "C")
    window.open_sheet("forms")
    settle()
    tables = columns(copied(window))
    heads = [h[1].split(", ")[1] for h, _ in tables]
    assert heads == ["off the profile", "off the helix", "off the profile", "off the helix and the pair's"]
    # At the tip all of the relief is taken off, at the other end of the contact nothing.
    assert tables[0][1][[0, -1], 1] == pytest.approx([0.0, 12.0])
    assert all(h[0].endswith("mm") and h[1].endswith("µm") for h, _ in tables)


def test_a_title_keeps_its_unit_however_narrow_the_frame(window):
    painted = QImage(200, 60, QImage.Format.Format_ARGB32)
    painted.fill(0)
    level = Line(np.arange(2.0), np.ones(2), "ink")
    plot = Plot("a title of many words that no narrow frame holds", "stress", (level,), ticks=False)
    p = QPainter(painted)
    paint_plot(p, THEMES["light"], QRectF(20, 20, 100, 30), plot, "mm")
    p.end()
    assert all(painted.pixelColor(x, y).alpha() == 0 for x in range(125, 200) for y in range(60))


def test_stress_and_shifts_leave_as_tables_too(window):
    window.bench.set_lens("stress")
    settle()
    lens = window.bench.views["stress"]
    ((head, rows),) = columns(copied(window))
    assert head[1:] == [f"root stress through the mesh: {w} side, MPa" for w in ("loaded", "other")]
    m = window.session.results.stages[0].mesh
    assert rows[:, 1].max() > 0 > rows[:, 2].min()
    assert rows[[0, -1], 0] == pytest.approx([m.g_A, m.g_E], abs=0.2)
    assert "through the mesh: least" in lens.accessibleDescription()
    window.bench.set_lens("shifts")
    settle()
    ((head, rows),) = columns(copied(window))
    # The least of all margins, at the pair as everywhere else.
    assert head[0] == "x_1" and np.allclose(rows[:, 1], np.min(rows[:, 2:], axis=1), atol=0.03)
    s = window.session.results.stages[0]
    field, (x_1, x_2) = window.bench.views["shifts"].map(), (float(g.x) for g in s.gears)
    i, k = (int(np.argmin(abs(field.x - x))) for x in (x_2, x_1))
    assert np.interp(x_1, rows[:, 0], rows[:, 1]) == pytest.approx(field.worst[i, k], abs=0.1)


def test_a_plot_as_svg_has_its_points_where_its_ticks_say():
    line = Line(np.array([0.0, 5.0, 10.0]), np.array([0.0, 100.0, 50.0]), "copper", name="<a & b>")
    other = Line(np.array([0.0, 10.0]), np.array([20.0, 20.0]), "ink", faint=True, name="other")
    tree = ElementTree.fromstring(plot_svg([Plot("pressure", "stress", (line, other), "path")] * 3, "mm"))
    plots = tree.findall("{*}g")
    assert len(plots) == 3 and "— <a & b>\u2003" in [t.text for t in plots[0].findall("{*}text/{*}tspan")]
    texts = {t.text: t for t in plots[0].findall("{*}text")}
    faint, full = (
        [tuple(map(float, q.split(","))) for q in p.get("points").split()] for p in plots[0].findall("{*}polyline")
    )
    # On the height of the tick 100, over the tick 10 at the right end, halfway there.
    assert full[1][1] == pytest.approx(float(texts["100"].get("y")) - 3.2, abs=0.02)
    assert full[2][0] == pytest.approx(float(texts["10"].get("x")), abs=0.02) == pytest.approx(2 * full[1][0], abs=0.02)
    assert faint[0][1] == pytest.approx(full[0][1] + 0.2 * (full[1][1] - full[0][1]), abs=0.02)
    assert "pressure, MPa" in texts and "path, mm" in texts

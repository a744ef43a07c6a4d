"""The Stress lens, the Contact lens with loaded teeth and the sheet of forms, driven as a user does."""

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest

from cooper.demo import demo
from cooper.desk.base import theme as th
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.shading import shades
from cooper.editing.edit import set_at, set_many
from cooper.field.shades import SHADES
from cooper.results.form_limits import form_limits, lifted

LEFT = Qt.MouseButton.LeftButton


def typed(t, text):
    QTest.mouseClick(t, LEFT)
    t.editor.selectAll()
    QTest.keyClicks(t.editor, text)
    QTest.keyClick(t.editor, Qt.Key.Key_Return)
    settle()


@pytest.fixture
def stress(window):
    QTest.mouseClick(window.bench.lens_buttons["stress"], LEFT)
    settle()
    result = window.bench.views["stress"]
    assert result.source.fineness in ("coarse", "usual") and not result.source.fault
    result.grab()
    return result


def test_the_field_follows_the_roll_the_gear_and_what_is_typed(window, usual_loads, stress):
    first = stress.line_load()
    assert stress.basis.error < 0.02 and first > 0
    before = stress.cursor_g()
    QTest.keyClick(stress, Qt.Key.Key_Right)
    assert stress.cursor_g() > before
    # Past the outer point of single contact another pair takes half of the load.
    loads = []
    for _ in range(30):
        QTest.keyClick(stress, Qt.Key.Key_Right)
        loads.append(stress.line_load())
        stress.grab()
    assert max(loads) == pytest.approx(stress.source.ask.F / stress.source.ask.b, rel=0.02) and min(loads) < 0.7 * max(
        loads
    )
    top = stress.comparison().rows[0].sigma
    typed(stress.tags["rho_fP1"], "0.2")
    assert window.session.design.train.stages[0].gears[0].rho_fP == 0.2
    assert stress.source.fineness == "usual" and stress.comparison().rows[0].sigma > 1.08 * top
    QTest.keyClick(stress, Qt.Key.Key_2)
    settle()
    assert stress.gear == 1 and stress.basis is stress.source.fields[1]
    assert "z_2" in stress.tags and "z_1" not in stress.tags
    window.session.undo()
    settle()
    assert stress.comparison() is not None


def test_chips_keys_wheel_and_drag_change_what_is_seen_and_nothing_else(window, stress):
    design = window.session.design
    pictures = [stress.grab().toImage()]
    for key in (Qt.Key.Key_Q, Qt.Key.Key_Q, Qt.Key.Key_M, Qt.Key.Key_M, Qt.Key.Key_M, Qt.Key.Key_S, Qt.Key.Key_L):
        QTest.keyClick(stress, key)
        pictures.append(stress.grab().toImage())
        assert pictures[-1] != pictures[-2]
    before = stress.look.scale
    at = stress.area().center()
    turn = QWheelEvent(
        at,
        QPointF(stress.mapToGlobal(at.toPoint())),
        QPoint(),
        QPoint(0, 240),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    stress.wheelEvent(turn)
    assert stress.look.scale > before
    QTest.mousePress(stress, LEFT, Qt.KeyboardModifier.ShiftModifier, at.toPoint())
    QTest.mouseMove(stress, at.toPoint() + QPoint(40, 30))
    QTest.mouseRelease(stress, LEFT, Qt.KeyboardModifier.ShiftModifier, at.toPoint() + QPoint(40, 30))
    QTest.keyClick(stress, Qt.Key.Key_F)
    stress.grab()
    assert stress.look.scale == pytest.approx(before)
    for _ in range(2):
        QTest.mouseClick(stress.chips["load"], LEFT)
        settle()
    assert stress.source.ask.counted and stress.source.ask.F > 0
    QTest.mouseClick(stress.chips["share"], LEFT)
    assert stress.line_load() == pytest.approx(stress.source.ask.F / stress.source.ask.b)
    assert window.session.design is design


def test_the_root_of_least_stress_is_given_in_one_click_and_leaves_the_mate_room(window, stress):
    before = [stress.comparison().rows[0].sigma]
    QTest.keyClick(stress, Qt.Key.Key_2)
    settle()
    before.append(stress.comparison().rows[0].sigma)
    assert stress.chips["hob"].isVisible()
    for way, gear, less in (("ellipse", 1, 0.9), ("hob", 0, 0.99)):
        stress.choose(gear)
        settle()
        QTest.mouseClick(stress.chips[way], LEFT)
        settle()
        settle()
        assert "stressed least" in stress.told and not stress.searching
        assert stress.comparison().rows[0].sigma < less * before[gear]
    gears = window.session.design.train.stages[0].gears
    assert gears[1].tool == "elliptic" and gears[0].tool == "rack" and gears[0].rho_fP > 0.4
    stress.choose(1)
    settle()
    assert not stress.chips["hob"].isVisible() and {"h_Ff2", "w_F2"} <= set(stress.tags)
    # In every position of the mesh the outlines stay clear of each other.
    for _ in range(6):
        window.bench.drawing.set_roll(window.bench.drawing.roll + 0.06)
        assert not window.bench.drawing.overlaps()
    typed(stress.tags["w_F2"], "5")
    assert window.session.design.train.stages[0].gears[1].w_F < 1
    window.session.undo()
    window.session.undo()
    settle()
    assert window.session.design.train.stages[0].gears[1].tool == "rack"


def test_nonsense_in_every_tag_of_the_lenses_and_the_sheet_of_forms(window, stress):
    texts = ("nan", "-1", "1e9", "0", "abc", "3 kg", "1/0")
    lens = window.bench.view("contact")

    def all_of(tags):
        for n, tag in enumerate(tuple(tags)):
            # Three of the texts each, so that neighbours have all of them.
            for text in (texts * 2)[3 * n % len(texts) :][:3]:
                before = window.session.design
                tag.open()
                tag.editor.setText(text)
                QTest.keyClick(tag.editor, Qt.Key.Key_Return)
                if tag.editor is not None:
                    assert tag.fault is not None and window.session.design == before
                    QTest.keyClick(tag.editor, Qt.Key.Key_Escape)
            settle()

    all_of(stress.tags.values())
    stress.grab()
    window.bench.set_lens("contact")
    lens.show_mode("loaded teeth")
    settle()
    all_of(lens.loaded.tags.values())
    lens.grab()
    window.open_sheet("forms")
    all_of(window.sheet.fields.values())
    settle()
    assert window.session.results.stages[0].mesh.eps_alpha > 1


def test_the_kept_picture_is_never_an_old_one(window, usual_loads, stress):
    """Whatever changes what is shown paints it anew: what is on the screen is what painting once more gives."""

    def other_lens():
        window.bench.set_lens("teeth")
        window.session.edit(lambda d, _r: set_at(d, "train.gears.gear1.x", 0.21), "x")
        settle()
        window.bench.set_lens("stress")

    for act in (
        lambda: window.change_digits(1),
        window.toggle_units,
        lambda: window.run("theme"),
        lambda: stress.set_length(0.3),
        lambda: stress.press("magnify"),
        lambda: stress.choose(1),
        other_lens,
        window.session.undo,
    ):
        before = stress.grab().toImage()
        act()
        settle()
        shown = stress.grab().toImage()
        stress.update()
        assert shown != before
        assert shown == stress.grab().toImage()
    window.toggle_units()
    window.run("theme")
    window.change_digits(-1)


def test_what_is_told_of_one_tooth_goes_with_it(window, stress):
    stress.told = window.bench.view("contact").loaded.why = "of another tooth"
    window.session.saved = window.session.design
    window.session.restart(demo("winch"), None)
    settle()
    assert stress.told == "" and window.bench.view("contact").loaded.why == ""
    window.bench.set_lens("stress")
    settle()
    stress.told = "of this one"
    window.session.select_stage(1)
    settle()
    assert stress.told == ""
    # Narrow windows keep the field, the numbers and the tags apart.
    window.resize(960, 700)
    settle()
    stress.grab()
    assert stress.area().right() < stress.width() - stress.panel() and stress.area().width() > 180
    assert max(tag.geometry().right() for tag in stress.tags.values()) <= stress.width()


def test_a_relief_is_taken_with_one_click_and_the_map_has_the_design_on_it(window):
    window.bench.set_lens("contact")
    lens = window.bench.view("contact")
    assert not lens.own_tags and window.bench.tags["a_w"].isVisible()
    QTest.mouseClick(lens.modes["loaded teeth"], LEFT)
    settle()
    loaded = lens.loaded
    assert lens.own_tags and not window.bench.tags["a_w"].isVisible()
    before = loaded.curves.ptp
    chip = loaded.chips["smooth", True]
    assert chip.isEnabled() and "µm" in chip.accessibleDescription()
    QTest.mouseClick(chip, LEFT)
    settle()
    flanks = [g.flanks for g in window.session.design.train.stages[0].gears]
    assert flanks[0].C_alphaa == flanks[1].C_alphaa > 3 and flanks[0].l_Ca is None
    assert loaded.curves.ptp < 0.4 * before
    # What was proposed for these teeth still is, and the rating counts the relief.
    assert len(loaded.reliefs) == 8
    QTest.mouseClick(lens.modes["error over load and relief"], LEFT)
    settle()
    settle()
    result = loaded.error_map
    assert np.isfinite(result.ptp).all()
    lens.grab()
    QTest.mouseClick(loaded.chips["bears", False], LEFT)
    settle()
    assert window.session.design.train.stages[0].gears[0].flanks.l_Ca == pytest.approx(loaded.reliefs[7].l_Ca)
    QTest.mouseClick(loaded.place, LEFT)
    QTest.mouseClick(loaded.chips["smooth", True], LEFT)
    settle()
    one, two = (g.flanks for g in window.session.design.train.stages[0].gears)
    assert one.C_alphaa == one.C_alphaf > 3 and two.C_alphaa == two.C_alphaf == 0
    # Then another one on the flanks that bear alone: the others keep theirs.
    QTest.mouseClick(loaded.sides, LEFT)
    QTest.mouseClick(loaded.chips["bears", True], LEFT)
    settle()
    was, bears = one, window.session.turns_left(0)
    one = window.session.design.train.stages[0].gears[0]
    assert one.each_flanks[bears].C_alphaa == next(r.C_a for r in loaded.reliefs if r.aim == "bears" and r.long)
    assert one.each_flanks[not bears] == was != one.each_flanks[bears]
    assert loaded.tags[f"C_alphaa1{'_left' * bears}"].isVisible() and len(loaded.tags) == 6
    QTest.mouseClick(loaded.crown, LEFT)
    settle()
    assert window.session.design.train.stages[0].mesh.C_beta == loaded.crowning.C_beta > 0
    for _ in range(5):
        window.session.undo()
    settle()
    assert window.session.design.train.stages[0].gears[0].flanks.C_alphaa == 0
    lens.setFocus()
    QTest.keyClick(lens, Qt.Key.Key_L)
    assert not lens.own_tags and window.bench.tags["a_w"].isVisible()
    window.bench.set_lens("teeth")
    assert window.bench.tags["z_1"].isVisible()


def test_reliefs_are_given_by_length_diameter_or_roll_angle_and_refused_beyond_the_flank(window):
    window.open_sheet("forms")
    fields = window.sheet.fields
    typed(fields["C_alphaa1"], "12")
    g = window.session.results.stages[0]
    r_b = g.gears[0].d_b / 2
    d = round(2 * float(np.hypot(r_b, g.mesh.g_E - 1.3)), 3)
    typed(fields["d_Ca1"], f"{d}")
    flanks = window.session.design.train.stages[0].gears[0].flanks
    assert flanks.C_alphaa == 12 and flanks.l_Ca == pytest.approx(1.3, abs=3e-3)
    xi = np.degrees((g.mesh.g_E - 1.0) / r_b)
    typed(fields["xi_Ca1"], f"{xi:.6f}")
    assert window.session.design.train.stages[0].gears[0].flanks.l_Ca == pytest.approx(1.0, abs=1e-3)
    typed(fields["l_Ca1"], "50")
    assert window.session.design.train.stages[0].gears[0].flanks.l_Ca == pytest.approx(1.0, abs=1e-3)
    fault = window.session.attempt(lambda d, _r: set_many(d, {"train.gears.gear1.flanks.l_Ca": 50.0}), "x", "x").fault
    assert "longer than the contact of the flank" in str(fault) and fault.high < 10
    for change, words in (
        ({"C_alphaa": 490.0}, "tip land"),
        ({"C_betaI": 5.0, "l_CI": 20.0, "C_betaII": 5.0, "l_CII": 20.0}, "do not fit on a face"),
    ):
        values = {f"train.gears.gear1.flanks.{s}": v for s, v in change.items()}
        outcome = window.session.attempt(lambda d, _r, values=values: set_many(d, values), "x", "x")
        assert words in str(outcome.fault)
    s = window.session.results.stages[0]
    # Twice as deep as the teeth give way, a parabola bears over s of the face: its load is 2/3 C s^3.
    give = s.mesh.F_bt * s.mesh.K_A * s.mesh.K_gamma / (s.mesh.b_H * s.mesh.c_gamma)
    assert lifted(s, 12.0 * give) == pytest.approx(0.5) and lifted(s, 1.5 * give) == 1.0
    assert form_limits(s, 0)["C_alphaa"].low == pytest.approx(give)
    # Springs under a wedge that rises by C give way by the mean plus and minus C/2: none at one end where that is the
    # mean.
    assert form_limits(s, 0)["C_Hbeta"].high == -form_limits(s, 0)["C_Halpha"].low == pytest.approx(2 * give)
    window.session.edit(lambda d, _r: set_many(d, {"train.meshes.stage1.C_beta": 200.0}), "x", "x")
    assert any("lifts the ends" in n.text for n in window.session.results.notes)
    window.sheet.grab()


def test_each_flank_has_a_form_of_its_own_until_they_are_made_alike_again(window):
    """On the sheet: the left flanks part from the right ones, are typed, refused by their own name, and made alike
    again."""
    session = window.session
    window.open_sheet("forms")

    def member():
        return session.design.train.stages[0].gears[0]

    typed(window.sheet.fields["C_alphaa1"], "9")
    own = next(c for c in window.sheet.choices if c.key == "own_flanks_1")
    words, change = own.options()[1]
    own.pick(words, change)
    settle()
    fields = window.sheet.fields
    assert member().flanks_left == member().flanks and "left flanks" in fields["C_alphaa1_left"].field.meaning
    typed(fields["C_alphaa1_left"], "4")
    typed(fields["C_alphaa2"], "3")
    assert (member().flanks.C_alphaa, member().flanks_left.C_alphaa) == (9, 4)
    # The least relieved tip counts in K_V and scuffing.
    assert any("least relieved" in n.text or "of either flank, 3 µm" in n.text for n in session.results.notes)
    for text in ("-3", "9999", "abc", "nan"):
        typed(fields["l_Ca1_left"], text)
        assert member().flanks_left.l_Ca is None
    typed(fields["l_Ca1_left"], "50")
    assert fields["l_Ca1_left"].fault is not None and member().flanks_left.l_Ca is None
    QTest.keyClick(fields["l_Ca1_left"].editor, Qt.Key.Key_Escape)
    window.sheet.grab()
    own = next(c for c in window.sheet.choices if c.key == "own_flanks_1")
    own.pick(*own.options()[0])
    settle()
    assert member().flanks_left is None and "C_alphaa1_left" not in window.sheet.fields
    window.sheet.dismiss()


def test_shades_are_in_order_for_grey_prints_and_colour_blind_eyes():
    for theme in th.THEMES.values():
        rgb = shades(theme)
        channels = [((rgb >> s) & 255) / 255 for s in (16, 8, 0)]
        linear = [np.where(c <= 0.04045, c / 12.92, ((c + 0.055) / 1.055) ** 2.4) for c in channels]
        # Lightness as all eyes have it, and as one without red or green cones has it, by their luminance.
        for weights in ((0.2126, 0.7152, 0.0722), (0.05, 0.87, 0.08), (0.35, 0.58, 0.07)):
            light = sum(w * c for w, c in zip(weights, linear, strict=True)) ** (1 / 3)
            steps = np.diff(light) * (1 if theme.dark else -1)
            assert (steps > -0.004).all() and abs(light[-1] - light[0]) > 0.6
    assert set(SHADES) == {"light", "dark"}

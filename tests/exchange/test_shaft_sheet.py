"""The drawing sheets of shafts and of the machine: what a turner reads from it, in its files and from the window."""

import re
from itertools import pairwise

import ezdxf
import numpy as np
import pytest
from click.testing import CliRunner

import cooper
from cooper.cli import main
from cooper.demo import demo
from cooper.desk.shell.pictures import settle
from cooper.errors import OutOfRange
from cooper.exchange.assembly_sheet import machine_drawing, spot_of
from cooper.exchange.shaft_sheet import machine_counted, shaft_drawing, spread
from cooper.results.parts_list import parts_list
from cooper.results.shaft_piece_specs import piece_specs


@pytest.fixture(scope="module")
def winch():
    return machine_counted(demo("winch"))


def words_of(paper):
    return [item.words for item in paper.items if hasattr(item, "words")]


def test_diameters_have_the_classes_and_limits_of_the_standard(winch):
    """Limits of ISO 286-2 and DIN 471, as tables have them; mm."""
    made = winch[1].machine.shaft("gear4").made
    told = {t.piece.name: t for t in piece_specs(made)}
    limits = {name: (t.piece.d, t.tolerance, round(t.upper, 4), round(t.lower, 4)) for name, t in told.items()}
    assert limits["bearing 1"] == (35.0, "k6", 0.018, 0.002) and limits["end right"] == (32.0, "k6", 0.018, 0.002)
    assert limits["seal right"] == (35.0, "h11", 0.0, -0.16)
    assert limits["groove of bearing 1"] == (33.0, "h12", 0.0, -0.25)
    assert limits["collar"][1] == "" and told["seal right"].Ra < told["bearing 1"].Ra
    assert "61907" in told["bearing 1"].words and "1.6 H13 for DIN 471, 35 x 1.5" in told["groove of bearing 1"].words
    joint = next(j for j in made.joints if j.gear == "gear4")
    assert f"keyway {joint.b:g} P9 x {joint.length:g}, {joint.t_1:g} deep" in told["seat gear4"].words
    # A press fit is turned to the class of its fit.
    second = winch[1].machine.shaft("gear2").made
    press = next(j for j in second.joints if j.kind == "press fit")
    own = next(t for t in piece_specs(second) if t.piece.name == press.piece)
    assert own.tolerance == press.fit.partition("/")[2] and own.lower > 0


@pytest.mark.parametrize("key", ["gear1", "gear2", "gear4"])
def test_every_face_stands_on_one_line_from_the_left_end(winch, key, tmp_path):
    design, results = winch
    made = results.machine.shaft(key).made
    paper = shaft_drawing(design, results, key)
    words = words_of(paper)
    for z in (0.0, *np.cumsum([p.length for p in made.pieces])):
        assert f"{round(z, 3):g}" in words, z
    assert all(any(w.startswith(f"⌀{round(p.d, 3):g}") for w in words) for p in made.pieces if p.kind != "seat")
    # Nothing stands out of the frame.
    for item in paper.items:
        for x, y in getattr(item, "points", ()):
            assert 19 <= x <= paper.width - 9 and 9 <= y <= paper.height - 9
    cut = any(j.kind == "integral" for j in made.joints)
    assert any(w.startswith("Toothing of") for w in words) == cut
    for suffix in (".svg", ".dxf", ".pdf"):
        paper.write(tmp_path / f"a{suffix}")
    read = ezdxf.readfile(tmp_path / "a.dxf")
    texts = [t.dxf.text for t in read.modelspace().query("TEXT")]
    assert any("k6" in t for t in texts) and not read.audit().has_errors
    assert (tmp_path / "a.pdf").read_bytes().startswith(b"%PDF")
    assert "<title>" in (tmp_path / "a.svg").read_text(encoding="utf-8")


def test_figures_keep_their_distance_and_stay_near():
    places = spread([0.0, 0.5, 1.0, 30.0, 31.0], 4.2)
    assert np.diff(places).min() >= 4.2 - 1e-6 and abs(places[3] + places[4] - 61.0) < 1e-6


def test_inches_a_missing_shaft_and_the_other_ways_in(winch, tmp_path):
    design, results = winch
    inch = words_of(shaft_drawing(design, results, "gear4", "inch"))
    assert any(w.startswith("⌀1.378") for w in inch)
    with pytest.raises(OutOfRange, match="gear2"):
        shaft_drawing(design, results, "gear9")
    path = tmp_path / "w.cooper.json"
    cooper.Model(design).save(path)
    run = CliRunner().invoke(main, ["drawing", str(path), str(tmp_path / "s.svg"), "--shaft", "gear2"])
    assert run.exit_code == 0 and "shaft 2" in (tmp_path / "s.svg").read_text(encoding="utf-8")
    wrong = CliRunner().invoke(main, ["drawing", str(path), str(tmp_path / "n.svg"), "--shaft", "gear7"])
    assert wrong.exit_code and "gear4" in wrong.output and not (tmp_path / "n.svg").exists()
    run = CliRunner().invoke(main, ["drawing", str(path), str(tmp_path / "all.svg"), "--machine"])
    assert run.exit_code == 0 and "NU 202" in (tmp_path / "all.svg").read_text(encoding="utf-8")
    cooper.Model(design).shaft_drawing(tmp_path / "m.dxf", "gear1")
    assert re.search("motor pinion", (tmp_path / "m.dxf").read_text(encoding="utf-8"))


def test_the_window_saves_the_shaft_in_view(window, tmp_path):
    window.session.saved = window.session.design
    window.session.restart(demo("winch"), None)
    settle()
    window.bench.set_lens("shafts")
    window.bench.view("shafts").choose("gear4")
    settle()
    assert window.ways_out.shaft_in_view().key == "gear4"
    window.ways_out.save_sheet_to(tmp_path / "g.svg", "gear4")
    settle()
    assert "output shaft" in (tmp_path / "g.svg").read_text(encoding="utf-8")
    window.ways_out.save_sheet_to(tmp_path / "all.svg")
    settle()
    assert "ISO 4762" in (tmp_path / "all.svg").read_text(encoding="utf-8")
    window.ways_out.save_sheet_to(tmp_path / "no" / "g.svg", "gear4")
    settle()
    assert "Not saved" in window.notice.text.text()


@pytest.mark.parametrize("name", ["winch", "battery-lift", "dome-drive"])
def test_each_part_that_is_seen_has_its_number_beside_the_section(name, tmp_path):
    design, results = machine_counted(demo(name))
    items = parts_list(design, results, results.machine)
    paper = machine_drawing(design, results)
    words = words_of(paper)
    seen = [n for n, item in enumerate(items, 1) if spot_of(item, results.machine) is not None]
    # All but the housing, planets, pins and what stands on them; a tab washer stands with its nut.
    hidden = {items[n].name for n in range(len(items)) if n + 1 not in seen}
    planets = {g.name for g in design.train.gears.values()} if design.train.sets else set()
    assert hidden <= {"housing", "needle roller", "tab washer"} | planets and len(seen) > 10
    assert all(words.count(str(n)) >= 2 for n in seen)
    assert all(i.designation in words for i in items)
    for item in paper.items:
        for x, y in getattr(item, "points", ()):
            assert 19 <= x <= paper.width - 9 and 9 <= y <= paper.height - 9
    circles = [i for i in paper.items if hasattr(i, "middle") and abs(i.r - 4.2) < 1e-9]
    places = sorted(c.middle for c in circles)
    assert len(circles) == len(seen)
    assert all(b[1] - a[1] >= 8.4 or b[0] - a[0] > 1 for a, b in pairwise(places))
    cooper.Model(design).machine_drawing(tmp_path / "m.dxf")
    assert not ezdxf.readfile(tmp_path / "m.dxf").audit().has_errors

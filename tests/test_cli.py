import json
import os
import re
import subprocess
import sys
from pathlib import Path

import pytest

from cooper.demo import demo
from cooper.document.store import save_design
from cooper.editing.edit import set_many

ROOT = Path(__file__).parents[1]


def cooper(*words, told=None, **env):
    full = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "LC_ALL": "C", **env}
    full.pop("DISPLAY", None)
    call = [sys.executable, "-m", "cooper", *map(str, words)]
    return subprocess.run(call, capture_output=True, text=True, env=full, input=told)


@pytest.fixture
def good(tmp_path):
    """The demo with enough width to hold."""
    changes = {f"train.gears.gear{i + 1}.b": b for i, b in ((0, 15.0), (1, 14.0))}
    save_design(set_many(demo(), changes), tmp_path / "good.json")
    return tmp_path / "good.json"


def test_check_ends_with_the_verdict(tmp_path, good):
    save_design(demo(), tmp_path / "short.json")
    (tmp_path / "bad.json").write_text("{")
    assert cooper("check", good).returncode == 0
    short = cooper("check", tmp_path / "short.json")
    assert short.returncode == 1
    assert "would pit" in short.stdout
    bad = cooper("check", tmp_path / "bad.json")
    assert bad.returncode == 2
    assert "truncated" in bad.stderr
    assert "Traceback" not in bad.stderr
    assert cooper("check", tmp_path / "none.json").returncode == 2
    for text, code, words in ((good.read_text(), 0, "holds"), ("{", 2, "standard input: ")):
        done = cooper("check", "-", told=text)
        assert done.returncode == code and words in done.stdout + done.stderr


def test_the_command_line_speaks_as_the_window_or_the_place_does(tmp_path, good):
    german = {"LC_ALL": "de_DE.UTF-8"}
    text = cooper("check", good, **german).stdout
    assert "hält" in text and "Zahnfuß, Ritzel" in text and "would" not in text
    assert re.search(r"\d,\d+ +>=", text) and not re.search(r"\d\.\d", text)
    help_ = cooper("export", "--help", **german).stdout
    assert help_.startswith("Aufruf: cooper export") and "sonst: 1" in help_ and "Show this" not in help_
    refused = cooper("export", good, tmp_path / "a.dxf", "--gear", "7", **german)
    assert (
        refused.returncode == 2 and "Fehler: Wert für '--gear' geht nicht: 7 liegt nicht im Bereich" in refused.stderr
    )
    # What is typed or read by programs stays.
    assert "'cut', 'ground'" in cooper("survey", "--process", "glued", **german).stderr
    assert cooper("check", good, "--json", **german).stdout == cooper("check", good, "--json").stdout
    # What was chosen in the window goes before the place.
    (tmp_path / "cooper").mkdir()
    (tmp_path / "cooper" / "settings.ini").write_text("[General]\ndecimal=.\nlanguage=de\n")
    chosen = cooper("check", good, XDG_STATE_HOME=str(tmp_path), LC_ALL="C").stdout
    assert "hält" in chosen and re.search(r"\d\.\d+ +>=", chosen)


def test_check_prints_the_whole_tree_as_json(good):
    tree = json.loads(cooper("check", good, "--json").stdout)
    assert tree["units"]["length"] == "mm"
    stage = tree["stages"][0]
    assert {"m_n", "alpha_n", "eps_alpha", "sigma_H0", "K_V"} <= set(stage["mesh"])
    assert {"z", "d_a", "S_F", "S_H", "Y_F"} <= set(stage["gears"][0])
    assert tree["notes"]


def test_export_and_shot_write_files_and_refuse_what_they_do_not_know(tmp_path, good):
    for name in ("a.dxf", "a.csv", "a.txt"):
        assert cooper("export", good, tmp_path / name).returncode == 0
        assert (tmp_path / name).stat().st_size > 1000
    wrong = cooper("export", good, tmp_path / "a.xyz")
    assert wrong.returncode == 2
    assert ".dxf" in wrong.stderr
    assert cooper("shot", good, "--lens", "teeth", "--out", tmp_path / "a.png", "--size", "1100x700").returncode == 0
    assert (tmp_path / "a.png").read_bytes()[:4] == b"\x89PNG"
    assert "known are" in cooper("shot", good, "--lens", "xray", "--out", tmp_path / "b.png").stderr
    assert cooper("shot", good, "--out", tmp_path / "b.png", "--size", "10x10").returncode == 2


def test_help_names_every_command_and_no_display_is_said():
    text = cooper("--help").stdout
    for word in ("check", "export", "shot", "demo", "FILE"):
        assert word in text
    missing = cooper(ROOT / "src/cooper/demo/mirror-cover.json", WAYLAND_DISPLAY="")
    assert missing.returncode == 2
    assert "no display" in missing.stderr


def test_a_measured_gear_is_matched_and_nonsense_is_refused():
    from cooper.gears.measure import span
    from makers import tooth

    t = tooth(23, 0.2, m=2.0)
    words = ["match", "-z", 23, "--tip", f"{float(t.d_a):.3f}"]
    for k in (3, 4):
        words += ["--span", f"{k}:{float(span(t, k)):.4f}"]
    first = cooper(*words).stdout.splitlines()[1].split()
    assert [float(v) for v in first[:5]] == pytest.approx([2.0, 12.7, 20.0, 0.0, 0.2], abs=2e-3)
    for bad in (["--span", "3"], ["--span", "1:5"], ["--span", "3:blue"], ["--span", "3:5", "--helix", "80"]):
        result = cooper("match", "-z", 20, "--tip", "44 mm", *bad)
        assert result.returncode == 2
        assert "cannot be" in result.stderr

"""What files, texts and disks do to a program that is left open for weeks; each of these once broke it."""

import json
import os
import signal
import stat
import subprocess
import sys
import time
from contextlib import suppress

import pytest

from cooper.demo import demo
from cooper.document.store import Unusable, design_text, open_design, read_design, save_design
from cooper.document.units import parse
from cooper.editing.edit import set_at, set_many
from cooper.editing.formulas import all_fields, read_formula, settled, with_formula, with_name
from cooper.editing.machine_edits import in_machine
from cooper.errors import OutOfRange
from cooper.exchange.save import export
from cooper.results.evaluate import evaluate
from makers import pair
from waiting import LONGEST


def cooper(*words, cwd=None, **more):
    """The program as its users start it, from a folder that may hold anything."""
    root = os.path.dirname(os.path.dirname(os.path.dirname(os.path.abspath(__file__))))
    return subprocess.run(
        [f"{root}/cooper", *map(str, words)], cwd=cwd, capture_output=True, text=True, timeout=LONGEST, **more
    )


def test_nothing_is_imported_from_the_folder_one_stands_in(tmp_path):
    save_design(demo(), tmp_path / "a.cooper.json")
    for name in ("click", "numpy", "json", "pickle"):
        (tmp_path / f"{name}.py").write_text("print('taken in'); raise SystemExit(9)\n")
    for words in (("check", "a.cooper.json"), ("export", "a.cooper.json", "a.svg")):
        done = cooper(*words, cwd=tmp_path, env={**os.environ, "PYTHONPATH": str(tmp_path)})
        assert done.returncode in (0, 1)
        assert "taken in" not in done.stdout + done.stderr


def test_every_way_to_end_has_a_code_of_its_own(tmp_path):
    save_design(demo(), tmp_path / "a.cooper.json")
    assert cooper("check", tmp_path / "none.json").returncode == 2
    assert cooper("check", "--no-such-option", "x").returncode == 2
    done = cooper("shot", tmp_path / "a.cooper.json", "--out", tmp_path / "a.nonsense")
    assert (done.returncode, "names no kind of picture" in done.stderr) == (2, True)
    done = cooper("shot", tmp_path / "a.cooper.json", "--out", tmp_path / "no" / "a.png")
    assert done.returncode == 2
    assert "written" not in done.stdout
    assert str(tmp_path / "no" / "a.png") in done.stderr
    root = os.path.dirname(os.path.dirname(os.path.dirname(os.path.abspath(__file__))))
    piped = subprocess.run(
        [
            "bash",
            "-c",
            f"'{root}/cooper' check --json '{tmp_path}/a.cooper.json' | head -c 1 >/dev/null; echo ${{PIPESTATUS[0]}}",
        ],
        capture_output=True,
        text=True,
        timeout=LONGEST,
    )
    assert piped.stdout.strip() in ("0", "1", "141")
    assert "Traceback" not in piped.stderr


def changed(**fields):
    return json.dumps(json.loads(design_text(demo())) | fields)


@pytest.mark.parametrize(
    ("text", "word"),
    [
        (changed(place="\ud800"), "surrogate"),
        (changed(note=json.loads("[" * 200 + "]" * 200)), "nested"),
        (design_text(demo()).replace('"L_h"', '"L_h": 1e999, "K_A"', 1), "no number|twice"),
        (design_text(demo()).replace('"name"', '"x": 1' + "0" * 400 + ', "name"', 1), "401 digits"),
        (design_text(demo()).replace('"format"', '"format": 1, "format"', 1), "twice"),
        (design_text(demo()).replace('"b": ', '"b": "17", "b_": ', 1), "b = '17' cannot be: a number is needed"),
        (design_text(demo()).replace('"b": ', '"b": true, "b_": ', 1), "b = True cannot be: a number is needed"),
        (changed(name="a\x1b[31mb"), "name"),
        (changed(names={f"n{k}": "1" for k in range(2000)}), "names"),
    ],
)  # fmt: skip
def test_a_file_that_could_not_be_kept_is_refused_with_its_place(text, word):
    with pytest.raises(Unusable, match=word):
        read_design(text)


def test_what_is_no_file_is_refused_and_not_waited_for(tmp_path):
    os.mkfifo(tmp_path / "pipe")
    (tmp_path / "loop").symlink_to(tmp_path / "loop")
    for path in (tmp_path / "pipe", "/dev/zero", tmp_path, tmp_path / "loop", tmp_path / ("n" * 300)):
        with pytest.raises(Unusable):
            open_design(path)
    with pytest.raises(OSError, match="leads back"):
        save_design(demo(), tmp_path / "loop")


def test_chains_of_names_and_huge_values_are_answered():
    chain = {f"n{k}": f"n{k + 1}" for k in range(199)} | {"n199": "2"}
    from cooper.editing.formulas import settled

    design = pair().replace_unchecked(names=chain, formulas={"stage1.b_1": "9*n0"})
    assert settled(design)[0].train.stages[0].gears[0].b == 18
    with pytest.raises(OutOfRange):
        settled(pair().replace_unchecked(formulas={"stage1.b_1": "-1e308"}))


@pytest.mark.parametrize("text", ["9²²²²²", "9³³", "2²", "~5", "9**9**9"])
def test_powers_that_would_never_end_are_not_worked_out(text):
    with pytest.raises(OutOfRange):
        parse(text, "length")


@pytest.mark.parametrize("text", ["~5", "not 1", "1 if 2 else 3", "5 @ 3", "1 << 60"])
def test_a_formula_is_arithmetic_alone(text):
    from cooper.editing.formulas import value_of

    with pytest.raises(OutOfRange):
        value_of(read_formula(text, "b_1"), lambda _n: 1.0, "b_1", text)


def test_a_comma_that_may_mean_two_things_is_asked_about():
    assert parse("1.234,5", "length") == parse("1,234.5", "length") == 1234.5
    assert parse("0,125", "length") == 0.125
    assert parse("12,5 mm", "length") == 12.5
    assert (
        parse("6,5 cm²", "area") == pytest.approx(6.5e-4)
        if "area" in __import__("cooper.document.units").document.units.KINDS
        else True
    )
    with pytest.raises(OutOfRange, match=r"1\.234 or 1234"):
        parse("1,234", "length")
    with pytest.raises(OutOfRange, match="thousands"):
        parse("1,23,4.5", "length")


def test_an_export_is_whole_or_not_there_and_keeps_the_rights_that_files_get(tmp_path):
    d = demo()
    r = evaluate(d)
    before = os.umask(0o077)
    try:
        for kind in (".dxf", ".svg", ".stl"):
            export(d, r, tmp_path / f"a{kind}")
            assert stat.S_IMODE((tmp_path / f"a{kind}").stat().st_mode) == 0o600
    finally:
        os.umask(before)
    tmp_path.chmod(0o500)
    if os.geteuid():
        with pytest.raises(OSError, match=r"a\.dxf"):
            export(d, r, tmp_path / "a.dxf")
    tmp_path.chmod(0o700)
    assert not list(tmp_path.glob(".cooper-*"))


@pytest.mark.skipif(not os.path.exists("/dev/full"), reason="no full device here")
def test_a_full_disk_leaves_the_old_file_and_names_it(tmp_path):
    import resource

    save_design(demo(), tmp_path / "a.cooper.json")
    old = (tmp_path / "a.cooper.json").read_bytes()
    code = (
        "import resource, signal, sys\n"
        "from pathlib import Path\n"
        "from cooper.document.store import open_design, save_design\n"
        "signal.signal(signal.SIGXFSZ, signal.SIG_IGN)\n"
        "d = open_design(sys.argv[1])\n"
        "resource.setrlimit(resource.RLIMIT_FSIZE, (500, resource.RLIM_INFINITY))\n"
        "save_design(d, sys.argv[1])\n"
    )
    done = subprocess.run(
        [sys.executable, "-c", code, str(tmp_path / "a.cooper.json")],
        capture_output=True,
        text=True,
        env={**os.environ, "PYTHONPATH": "src"},
        timeout=LONGEST,
    )
    assert resource.RLIM_INFINITY
    assert done.returncode == 1
    assert f"{tmp_path}/a.cooper.json" in done.stderr.splitlines()[-1]
    assert (tmp_path / "a.cooper.json").read_bytes() == old
    assert [f.name for f in tmp_path.iterdir()] == ["a.cooper.json"]


def test_kills_while_saving_lose_nothing(tmp_path):
    """The old file or the whole new one, however it ends; a hundred here, a thousand by hand."""
    file = tmp_path / "a.cooper.json"
    save_design(demo(), file)
    code = (
        "import sys\n"
        "from cooper.document.store import open_design, save_design\n"
        "d = open_design(sys.argv[1])\n"
        "print('on', flush=True)\n"
        "while True:\n"
        "    save_design(d, sys.argv[1])\n"
    )
    for n in range(4):
        other = subprocess.Popen(
            [sys.executable, "-c", code, str(file)], env={**os.environ, "PYTHONPATH": "src"}, stdout=subprocess.PIPE
        )
        other.stdout.readline()
        time.sleep(0.02 + 0.013 * n)
        other.send_signal(signal.SIGKILL)
        other.wait()
        assert open_design(file) == demo()
    for part in tmp_path.glob(".cooper-*.part"):
        os.utime(part, (0, 0))
    save_design(demo(), file)
    assert [f.name for f in tmp_path.iterdir()] == ["a.cooper.json"], "what was left half written is cleared away"


def test_mutated_files_are_refused_or_read_and_never_raise(tmp_path):
    import random

    rng = random.Random(7)
    text = design_text(demo("dome-drive"))
    marks = ['"', "{", "}", "[", "]", ",", ":", "-", "0", "9", "e", "null", "true", "1e400", "\\ud800", "\n"]
    result = 0
    for _ in range(200):
        broken = list(text)
        for _ in range(rng.choice((1, 1, 2, 5))):
            at = rng.randrange(len(broken))
            broken[at : at + rng.choice((0, 1, 1, 8))] = rng.choice(marks)
        with suppress(Unusable, OutOfRange):
            evaluate(read_design("".join(broken)))
            result += 1
    assert result < 200


def test_a_rack_made_with_protuberance_and_next_to_no_load_are_answered():
    """Found by mutated files: a note asked a rack for a circle that it does not have; a safety without an end was
    shown."""
    rack = evaluate(set_many(demo("dome-rack"), {"train.gears.gear2.pr_P": 0.09}))
    assert any(n.text.startswith("Protuberance 0.09 mm") and "ends at" not in n.text for n in rack.notes)
    light = evaluate(set_many(demo("winch"), {"train.duty.P": 1e-9}))
    assert all(abs(c.margin) < 1e7 for c in light.checks if c.symbol.startswith("S_"))


def test_painted_pages_leave_the_old_file_on_a_full_disk(tmp_path, monkeypatch):
    """The toolkit's writers tell nothing of it: what they painted goes through the one way of writing files."""
    from PySide6.QtWidgets import QLabel

    from cooper import atomic_write
    from cooper.desk.base.theme import LIGHT
    from cooper.desk.shell.app import application
    from cooper.desk.shell.picture_commands import save_view
    from cooper.desk.survey.picked import SideBySide

    application()
    view = QLabel("x")
    view.resize(80, 40)
    side = SideBySide(LIGHT)
    side.resize(300, 200)
    ways = {f"a{kind}": lambda p: save_view(view, p, "x") for kind in (".png", ".svg", ".pdf")} | {
        "shelf.pdf": side.print_to
    }
    for name, way in ways.items():
        way(tmp_path / name)
        old = (tmp_path / name).read_bytes()
        assert len(old) > 100 and old[:4] in (b"\x89PNG", b"<?xm", b"%PDF")

        def full(part, content):
            part.write_bytes(content[:10])
            raise OSError(28, "No space left on device")

        with monkeypatch.context() as m:
            m.setattr(atomic_write, "_fill", full)
            with pytest.raises(OSError, match="No space"):
                way(tmp_path / name)
        assert (tmp_path / name).read_bytes() == old
    assert not list(tmp_path.glob(".cooper-*"))


def test_parts_of_killed_programs_go_at_the_next_writing(tmp_path):
    from cooper.atomic_write import atomic_write_text

    done = subprocess.run([sys.executable, "-c", "import os; print(os.getpid())"], capture_output=True, text=True)
    gone, alive = (tmp_path / f".cooper-{pid}-x.part.step" for pid in (int(done.stdout), os.getppid()))
    gone.write_text("half")
    alive.write_text("half")
    atomic_write_text(tmp_path / "a.txt", "whole")
    assert not gone.exists() and alive.exists() and (tmp_path / "a.txt").read_text() == "whole"


def test_what_is_under_a_symbol_and_no_number_opens_again():
    """A formula on a quantity of the duty, an undercut, a named value called as a symbol: texts stand where texts
    belong."""
    d = demo("winch")
    s = evaluate(d).machine.shafts[0]
    d = in_machine(d, (("shafts", s.key, "pieces", s.made.pieces[0].name, "undercut"), "E"))
    d = with_formula(with_name(d, "F_end", "3"), "L_h", "=2000*4")
    d, _ = settled(d)
    assert read_design(design_text(d)) == d


def test_signs_that_are_no_characters_are_left_out_of_old_files_and_refused_now():
    text = design_text(demo()).replace('"name": "Mirror', '"name": "\ufffeMirror')
    assert read_design(text) == demo()
    with pytest.raises(OutOfRange):
        set_at(demo(), "train.gears.gear1.name", "a\ufffeb")


@pytest.mark.parametrize("when", ["soon", -1, 1e300, None, [1]])
def test_an_autosave_of_no_time_is_offered(when):
    from cooper.desk.base import recovery
    from cooper.folders import state_folder

    body = {"path": None, "design": json.loads(design_text(demo())), "when": when}
    (state_folder() / "autosave-1.json").write_text(json.dumps(body))
    (state_folder() / "autosave-2.json").write_text("[" * 100000)
    assert [left.design for left in recovery.leftovers()] == [demo()]
    assert recovery.unreadable() == [state_folder() / "autosave-2.json"]


@pytest.mark.parametrize("name", ["dome-ring", "dome-rack", "battery-lift", "winch"])
@pytest.mark.parametrize("value", [float("nan"), float("-inf"), -1e308, 1e308])
def test_numbers_beyond_all_are_refused_at_every_field(name, value):
    d = demo(name)
    r = evaluate(d)
    for field in all_fields(d).values():
        with pytest.raises(OutOfRange):
            field.give(d, r, value)


def test_a_limit_of_next_to_nothing_leaves_a_finite_margin():
    d = set_at(demo(), "train.defaults.S_Hmin", 1e-308)
    tree = evaluate(d).as_tree()
    assert json.loads(json.dumps(tree, allow_nan=False))
    assert max(c.margin for c in evaluate(d).checks) == 1e6

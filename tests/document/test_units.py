import contextlib
import gc
import os
import subprocess
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cooper.document.units import KINDS, by_library, cached_factors, convert, number, pairs_of_units, parse
from cooper.errors import OutOfRange


@pytest.mark.parametrize(
    ("text", "kind", "expected"),
    [
        ("5/8 in", "length", 15.875),
        ('5/8"', "length", 15.875),
        ("96/41", "factor", 96 / 41),
        ("2*1.75+3", "length", 6.5),
        ("0.9 Nm", "torque", 0.9),
        ("900 Nmm", "torque", 0.9),
        ("900 N mm", "torque", 0.9),
        ("12 lbf in", "torque", 12 * 0.1129848290276167),
        ("0.5 hp", "power", 372.84993579113507),
        ("0.42 kW", "power", 420.0),
        ("420 W", "power", 420.0),
        ("0.42", "power", 420.0),
        ("2,5", "module", 2.5),
        ("10 DP", "module", 2.54),
        ("20", "angle", 20.0),
        ("20°", "angle", 20.0),
        ("0.35 rad", "angle", 20.0535228),
        ("1400 rpm", "speed", 1400.0),
        ("1400", "speed", 1400.0),
        ("23 1/min", "speed", 23.0),
        ("10 rad/s", "speed", 95.4929659),
        ("90 h", "time", 90.0),
        ("2 years", "time", 17520.0),
        ("140 °F", "temperature", 60.0),
        ("60", "temperature", 60.0),
        ("50 µm", "length", 0.05),
        ("4 µm", "roughness", 4.0),
        ("1 %", "share", 1.0),
        ("(3+4)*2", "count", 14.0),
        ("0.08 m2", "area", 0.08),
        ("144 in2", "area", 0.09290304),
        ("46 mm2/s", "viscosity", 46.0),
        ("46 mm^2/s", "viscosity", 46.0),
        ("15 W/(m2 K)", "heat_transfer", 15.0),
        ("880 kg/m**3", "density", 880.0),
    ],
)
def test_what_people_type(text, kind, expected):
    assert parse(text, kind) == pytest.approx(expected, rel=1e-8)


@pytest.mark.parametrize(
    "text",
    [
        "",
        "abc",
        "1/0",
        "5 kg",
        "__import__('os')",
        "9**9**9",
        "1e999",
        "nan",
        "()",
        "1 2 3 mm mm",
        "5..2",
        "((((",
        "5 in in",
    ],
)
def test_nonsense_is_refused_with_a_reason(text):
    with pytest.raises(OutOfRange) as fault:
        parse(text, "length", quantity="b_1")
    assert fault.value.reason
    assert fault.value.quantity == "b_1"


@given(st.text(max_size=40))
def test_no_text_breaks_the_reader(text):
    with contextlib.suppress(OutOfRange):
        assert abs(parse(text, "length")) < float("inf")


@given(st.sampled_from(sorted(KINDS)), st.floats(-1e6, 1e6))
def test_display_and_back_in_both_systems(kind, value):
    k = KINDS[kind]
    for system in ("mm", "inch"):
        shown = convert(value, k.document, k.display_unit(system))
        assert convert(shown, k.display_unit(system), k.document) == pytest.approx(value, rel=1e-12, abs=1e-9)


def test_a_rounded_display_never_rounds_the_value():
    assert number(73.54573488, "length") == "73.546"
    assert number(1e-5, "length") == "1e-05"
    assert parse("1e-5", "length") == 1e-5


def test_the_kept_factors_are_those_of_the_units_library():
    kept = cached_factors()
    assert set(kept) == {f"{a} -> {b}" for a, b in pairs_of_units()}
    for a, b in pairs_of_units():
        assert kept[f"{a} -> {b}"] == by_library(a, b)


def test_what_the_survey_asks_for_is_loaded_in_quiet_moments():
    from PySide6.QtCore import QObject

    from cooper.desk.base.idle_imports import PIECES, IdleImports
    from cooper.desk.base.registry import pieces
    from cooper.desk.shell.app import application

    application()
    owner = QObject()
    idle = IdleImports(owner, lambda: None)
    for _ in (*pieces(), *PIECES):
        assert idle._timer.isActive()
        idle._next()
    assert not idle._timer.isActive() and set(PIECES) <= set(sys.modules)
    # No collection goes over what is loaded any more.
    assert gc.get_freeze_count() > 50_000


def test_a_window_opens_without_what_only_some_work_needs():
    code = (
        "import sys\n"
        "from cooper.demo import demo\n"
        "from cooper.desk.shell.app import application\n"
        "app = application()\n"
        "from cooper.desk.base.session import Session\n"
        "from cooper.desk.shell.window import Window\n"
        "w = Window(Session(demo()), recover=False)\n"
        # Painted without the event loop, in which a timer loads the rest once the window is idle.
        "w.show()\n"
        "w.grab()\n"
        "print([m for m in ('scipy', 'pint', 'OCP', 'ezdxf', 'trimesh', 'shapely', 'jinja2', 'PIL', 'numpy.ma', "
        "'cooper.exchange.save', 'cooper.exchange.shaded', 'cooper.machine.propose_shaft') if m in "
        "sys.modules])\n"
        "later = [f'cooper.{p}' for p in ('handbook', 'desk.sheets.', 'desk.lenses.', 'desk.shell.verbs', "
        "'desk.survey')]\n"
        "print([m for m in sys.modules if m.startswith(tuple(later)) and not m.endswith(FIRST)])\n"
        # Nor has the toolkit read our sources.
        "import linecache\n"
        "import cooper, os\n"
        "home = os.path.dirname(cooper.__file__)\n"
        "print([f for f in linecache.cache if f.startswith(home)])\n"
        "w.commands\n"
        "print(len([m for m in sys.modules if m.startswith('cooper.desk.sheets.')]) > 20)\n"
    ).replace(
        "FIRST",
        "('sheets.sheet', 'lenses.drawing', 'lenses.gear_item', 'lenses.mesh_marks', 'lenses.entries', 'lenses.lens')",
    )
    surroundings = {**os.environ, "PYTHONPATH": "src", "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run([sys.executable, "-c", code], env=surroundings, capture_output=True, text=True, timeout=300)
    assert done.stdout.split("\n") == ["[]", "[]", "[]", "True", ""], done.stdout + done.stderr

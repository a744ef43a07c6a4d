"""What a person wrote leaves as it was written, byte by byte, whatever the language and the decimal mark: no output
translates or reformats it."""

import csv
import io
import os
import subprocess
import sys
from pathlib import Path

import openpyxl
import pytest

import cooper
from cooper.demo import demo
from cooper.document.store import design_text, read_design
from cooper.editing.edit import set_many
from cooper.exchange.gear_drawing import gear_drawing
from cooper.exchange.report import report_text
from cooper.exchange.save import export
from cooper.i18n.text import tr
from cooper.i18n.translate import PLAIN, languages, set_language, translate
from cooper.results.check_types import CHECKS
from cooper.results.evaluate import evaluate
from cooper.results.messages import MESSAGES

PLACES = (
    "train.meshes.stage1.name",
    "train.gears.gear1.name",
    "train.gears.gear2.name",
    "train.gears.gear1.drawing.part",
    "train.gears.gear1.drawing.drawn",
    "train.gears.gear1.drawing.checked",
)
SETS = (
    ("Load", "Output, 2.5: tip circle", "Output 2.5", "life", "4711.25", "Shaft", "pinion"),
    ("Duty", "flank, pinion", "wheel", "tooth root, 1.5", "1,234.5", "holds by 20 %", "0.05"),
    ("{x:.3f mm} {0}", "the mesh", "50 % {word}", "pinion {", "A.1.dxf", "12.5 mm", "ISO 53 A"),
)
"""Names that are texts of the catalogue, numbers with points and commas, and what looks like a template."""


@pytest.fixture(params=[("de", ","), ("de", "."), ("en", ","), PLAIN])
def speech(request):
    set_language(*request.param)
    yield request.param
    set_language(*PLAIN)


def mine(texts):
    d = set_many(demo(), dict(zip(PLACES, texts[1:], strict=True)))
    return type(d).from_data({**d.plain(), "name": texts[0]})


def told(path):
    """The words of a file, as another reader has them."""
    if path.suffix == ".pdf":
        return subprocess.run(["pdftotext", "-layout", str(path), "-"], capture_output=True, text=True).stdout
    if path.suffix == ".xlsx":
        book = openpyxl.load_workbook(path)
        return "\n".join(str(c.value) for sheet in book for row in sheet for c in row if c.value is not None)
    text = path.read_text(encoding="utf-8")
    return text.replace("&lt;", "<").replace("&amp;", "&") if path.suffix in (".html", ".svg") else text


@pytest.mark.parametrize("texts", SETS)
def test_names_and_numbers_of_parts_leave_as_they_were_written(tmp_path, speech, texts):
    d = mine(texts)
    name, stage, one, _, part, drawn, checked = texts
    r = evaluate(d)
    for kind in (".svg", ".dxf"):
        gear_drawing(d, r, 0, 1).write(tmp_path / f"sheet{kind}")
        words = told(tmp_path / f"sheet{kind}").replace("%%%%", "%")
        for wanted in (part, one, drawn, checked):
            assert wanted in words, (kind, wanted)
    for kind in (".html", ".txt", ".xlsx"):
        export(d, r, tmp_path / f"a{kind}")
        words = told(tmp_path / f"a{kind}")
        for wanted in (name, stage):
            assert wanted in words, (kind, wanted)
    assert read_design(design_text(d), "a") == d
    html = told(tmp_path / "a.html")
    assert f"<html lang={speech[0]}" in html


def test_no_text_of_a_person_is_taken_for_one_of_the_program(speech):
    """Every template of the messages as a name: a plain text passes through unaltered, also within a text of the
    program."""
    for text in [m.template for m in MESSAGES.values()] + [c.label for c in CHECKS.values()]:
        assert translate(text) == text
        assert text in translate(tr("tooth root, {word}", word=text))


def test_the_command_line_leaves_names_alone(tmp_path):
    file = tmp_path / "Load 2.5.cooper.json"
    file.write_text(design_text(mine(SETS[0])), encoding="utf-8")
    for language, wanted in (("de,", "hält"), ("en,", "holds"), ("en.", "holds")):
        run = subprocess.run(
            [sys.executable, "-m", "cooper", "check", str(file)],
            capture_output=True,
            text=True,
            env={**os.environ, "COOPER_SPEAKS": language, "PYTHONPATH": str(Path(cooper.__file__).parent.parent)},
        )
        assert run.stdout.startswith("Load: ") and "Output, 2.5: tip circle" in run.stdout, run.stderr
        assert wanted in run.stdout or "knapp" in run.stdout or "thin" in run.stdout
        assert ("1,5" in run.stdout) == (language[-1] == ",")


def test_flank_points_and_reports_keep_their_figures(tmp_path, speech):
    """Numbers have the mark in force where a person reads, and a point where a program does."""
    d = demo()
    r = evaluate(d)
    export(d, r, tmp_path / "points.csv")
    rows = list(csv.reader(io.StringIO((tmp_path / "points.csv").read_text(encoding="utf-8"))))
    assert any("." in cell for cell in rows[-1]) and not any("," in cell for cell in rows[-1])
    text = report_text(d, r)
    assert ("1,25" in text) == (speech[1] == ",")


def test_languages_are_the_catalogues_that_there_are():
    assert {"en", "de"} <= set(languages()) and languages()["de"] == "Deutsch"
    with pytest.raises(ValueError, match="de"):
        set_language("xx")

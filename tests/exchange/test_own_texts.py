"""What a person wrote leaves as it was written, whatever the language and the decimal mark."""

import re
import subprocess

import pytest

from cooper.cli_words import speak_as_here
from cooper.demo import demo
from cooper.document.own_texts import own_texts, speak_of_design
from cooper.editing.edit import set_many
from cooper.exchange.gear_drawing import gear_drawing
from cooper.exchange.save import export
from cooper.language.spoken import PLAIN, shown, speak, speak_of
from cooper.results.evaluate import evaluate

TEXTS = {"name": "Load", "train.stages.0.name": "Output, 2.5: tip circle", "train.stages.0.members.0.name": "Output 2.5",
         "train.stages.0.members.0.drawing.part": "4711.25", "train.stages.0.members.0.drawing.drawn": "Shaft", "train.stages.0.members.1.name": "life"}  # fmt: skip


@pytest.fixture(params=[("de", ","), ("de", "."), ("en", ",")])
def speech(request):
    speak(*request.param)
    yield request.param
    speak(*PLAIN)
    speak_of(frozenset())
    speak_as_here()


def mine():
    d = set_many(demo(), {k: v for k, v in TEXTS.items() if "." in k})
    return type(d).of({**d.plain(), "name": TEXTS["name"]})


def text_of(path):
    if path.suffix == ".pdf":
        return subprocess.run(["pdftotext", "-layout", str(path), "-"], capture_output=True, text=True).stdout
    return path.read_text(encoding="utf-8")


def test_names_and_numbers_of_parts_leave_as_they_were_written(tmp_path, speech):
    d = mine()
    assert set(TEXTS.values()) <= own_texts(d)
    r = evaluate(d)
    for kind in (".svg", ".dxf"):
        gear_drawing(d, r, 0, 1).write(tmp_path / f"sheet{kind}")
        told = text_of(tmp_path / f"sheet{kind}")
        for wanted in ("4711.25", "Output 2.5"):
            assert wanted in told, (kind, wanted)
        assert "4711,25" not in told and "Ausgang 2" not in told and "Welle" not in told.replace("Wellen", "")
        assert "Last" not in re.sub("Last[a-zäöü]", "", told)
    for kind in (".html", ".txt", ".svg", ".csv"):
        export(d, r, tmp_path / f"a{kind}")
        told = text_of(tmp_path / f"a{kind}")
        if kind in (".html", ".txt"):
            assert "Load" in told and "Output, 2.5: tip circle" in told and "Output, 2,5" not in told
    assert ("<html lang=de" in text_of(tmp_path / "a.html")) == (speech[0] == "de")


def test_sentences_around_them_are_still_in_the_language(speech):
    speak_of_design(mine())
    told = shown("tooth root, Output 2.5")
    assert told == ("Zahnfuß, Output 2.5" if speech[0] == "de" else "tooth root, Output 2.5")
    assert shown("Output, 2.5: tip circle") == "Output, 2.5: tip circle" and shown("Load") == "Load"
    assert shown("b is 12.5 mm on 4711.25").endswith("4711.25")

"""The window in another language: every text that is shown passes through the catalogue, which is whole; numbers with a comma, typed either way."""

import importlib.util
import re
from pathlib import Path

import polib
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QPushButton
from shiboken6 import isValid

from cooper.demo import DEMOS, demo
from cooper.desk.frame.app import application
from cooper.desk.frame.handbook_commands import verbs
from cooper.desk.frame.session import Session
from cooper.desk.frame.settings import Settings
from cooper.desk.frame.spoken_widgets import put_on
from cooper.desk.frame.window import Window
from cooper.desk.widgets.pictures import settle
from cooper.desk.widgets.rich_page import RichPage
from cooper.editing.edit import give_count
from cooper.exchange.gear_drawing import gear_drawing
from cooper.exchange.paper import Text
from cooper.exchange.report import report_text
from cooper.exchange.report_page import report_html
from cooper.handbook.book import book
from cooper.language import spoken
from cooper.language.spoken import shown, speak, with_mark
from cooper.results.evaluate import evaluate

ROOT = Path(__file__).resolve().parent.parent.parent
ENGLISH = re.compile(
    r"\b(the|of|and|with|for|from|not|is|are|by|which|teeth|tooth|bearing|shaft|width|load|least|greatest|required|pinion|wheel|power|speed)\b"
)


@pytest.fixture
def german():
    application()
    put_on("de", ",")
    yield
    put_on("en", ".")


def test_the_catalogue_is_whole_and_its_gaps_are_those_of_the_texts():
    spec = importlib.util.spec_from_file_location("write_words", ROOT / "tools" / "write_words.py")
    tool = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(tool)
    for file in (ROOT / "src" / "cooper" / "language").glob("*.po"):
        po = polib.pofile(str(file))
        known = {e.msgid: e.msgstr for e in po}
        assert set(tool.texts()) <= set(known), sorted(set(tool.texts()) - set(known))[:5]
        for text, told in known.items():
            if told:
                assert set(re.findall(r"\{\d+\}", text)) == set(re.findall(r"\{\d+\}", told)), text
                assert text.count("\n") == told.count("\n") and text.count("\t") == told.count("\t"), text
        words = [t for t in known if ENGLISH.search(t)]
        assert sum(bool(known[t]) for t in words) > 0.94 * len(words)
        compiled = polib.mofile(str(file.with_suffix(".mo")))
        assert {e.msgid: e.msgstr for e in compiled} == {t: s for t, s in known.items() if s}


def test_texts_are_put_together_from_what_is_known():
    speak("de", ",")
    try:
        for text, wanted in (
            ("flank, pinion", "Flanke, Ritzel"),
            ("holds by 20 %", "hält um 20 %"),
            (
                "teeth of the wheel would break at the root before the required life",
                "Zähne am Rad würden vor der verlangten Lebensdauer am Fuß brechen",
            ),
            (
                "m_n = 1.75 mm is in neither series of ISO 54: the cutter has to be made for it.",
                "m_n = 1,75 mm steht in keiner Reihe von ISO 54: das Werkzeug muss eigens gemacht werden.",
            ),
            ("Motor stage: flank, pinion", "Motor stage: Flanke, Ritzel"),
            ("Safety against pitting", "Sicherheit gegen Grübchen"),
            ("a name of one's own", "a name of one's own"),
            ("", ""),
            ("12.5", "12,5"),
        ):
            assert shown(text) == wanted
    finally:
        speak()
    with pytest.raises(ValueError, match="de"):
        speak("xx")


def test_points_that_are_no_decimal_marks_stay():
    speak("en", ",")
    try:
        for text, wanted in (
            ("ISO 6336-2:2019, 6.3 gives 1.25", "ISO 6336-2:2019, 6.3 gives 1,25"),
            ("ISO 281:2007, 9.3.3.5 and 0.1 to 4", "ISO 281:2007, 9.3.3.5 and 0,1 to 4"),
            ("docs/numbers.md, a.1.dxf", "docs/numbers.md, a.1.dxf"),
            ("-0.06 mm; x=0.25; 2.206·10⁸", "-0,06 mm; x=0,25; 2,206·10⁸"),
            ("version 1.2.3", "version 1.2.3"),
        ):
            assert with_mark(text) == wanted
    finally:
        speak()


def test_the_whole_window_speaks_german(german, tmp_path, monkeypatch):
    left = []
    inner = spoken._translated

    def heard(text, depth):
        found = inner(text, depth)
        if depth == 0 and (found or text) == text and len(ENGLISH.findall(text)) > 1 and "…" not in text:
            left.append(text)
        return found

    monkeypatch.setattr(spoken, "_translated", heard)
    shown.cache_clear()
    said = set()
    for name in ("mirror-cover", "winch", "filter-wheel"):
        window = Window(Session(demo(name)), Settings(), recover=False)
        window.resize(1280, 800)
        window.show()
        settle()
        for key in ("teeth", "side", "contact", "shifts", "tooth", "train", "shafts", "stress"):
            window.bench.set_lens(key)
            settle()
        for key in (
            "duty",
            "gear_1",
            "mesh",
            "sheet_1",
            "losses",
            "play",
            "notes",
            "forms",
            "drawing_1",
            "set",
            "machine",
            "plastics",
        ):
            window.open_sheet(key)
            settle()
            said |= {w.text() for w in window.sheet.findChildren(QLabel)} | {
                b.text() for b in (*window.sheet.findChildren(QPushButton), *window.sheet.findChildren(RichPage))
            }
        # An edit with a comma, refused nonsense in words.
        tag = window.bench.tags["b_1"]
        window.over_bench.drop()
        window.bench.set_lens("teeth")
        settle()
        QTest.mouseClick(tag, Qt.MouseButton.LeftButton)
        assert "." not in tag.editor.text()
        tag.editor.selectAll()
        QTest.keyClicks(tag.editor, "13,5 mm")
        QTest.keyClick(tag.editor, Qt.Key.Key_Return)
        settle()
        assert window.session.design.train.stages[0].members[0].b == 13.5
        window.session.saved = window.session.design
        window.close()
        window.deleteLater()
        settle()
    for words in ("Aufgabe", "Schließen  Esc", "Was gewünscht ist", "Zahnbreite", "Verzahnungsdaten", "Schriftfeld"):
        assert any(words in s for s in said), words
    own = [name for d in DEMOS for name in (demo(d).name, *(s.name for s in demo(d).train.stages))]
    left = {t for t in left if not any(n in t for n in own)}
    assert len(left) < 40, sorted(left)
    QApplication.processEvents()


def test_reports_and_drawings_leave_in_german(german):
    design = demo("winch")
    results = evaluate(design)
    text, page = report_text(design, results), report_html(design, results)
    for words in (
        "Zusammenfassung",
        "Was bestimmt",
        "Sicherheit gegen Grübchen",
        "Hinweise und Annahmen",
        "2,2 kW",
        "Zahnbreite",
    ):
        assert words in text or words in page, words
    assert "ISO 6336-2:2019" in page and "<mn>1,2349</mn>" in page
    told = [t.words for t in gear_drawing(design, results, 1, 1).items if isinstance(t, Text)]
    for words in (
        "Verzahnung",
        "Normalmodul",
        "Zahnweite über 3 Zähne (möglich über 2 bis 4)",
        "Schriftfeld",
        "Werkstoff",
        "einsatzgehärteter Stahl, MQ",
    ):
        assert words in told or words == "Schriftfeld"


def test_commands_are_found_by_the_words_on_the_screen(german):
    window = Window(Session(demo()), Settings(), recover=False)
    window.show()
    found = window.command_list
    found.open()
    found.line.setText("last")
    items = [found.list.item(n) for n in range(found.list.count())]
    assert any("Lastkollektiv" in i.text() for i in items)
    assert all("last" in i.text().casefold() for i in items)
    window.close()
    window.deleteLater()
    settle()


def test_the_handbook_is_read_in_german(german):
    there = book(verbs())
    assert {p.key for p in there.pages} == {p.key for p in in_english()}
    assert there.at["task/quiet"].title == "Ein Eingriff, der nicht heulen darf"
    assert "Sicherheit gegen Zahnbruch" in there.at["quantity/S_F"].body
    assert next(p.key for p in there.search("heulen")) == "task/quiet"
    for page in there.pages:
        if page.kind == "task":
            # The same links and pictures as in English.
            other = next(p for p in in_english() if p.key == page.key)
            for what in (r'href="([^"]+)"', r'src="([^"]+)"'):
                assert sorted(set(re.findall(what, page.body))) == sorted(set(re.findall(what, other.body))), page.key


def in_english():
    language, mark = spoken.spoken()
    speak()
    try:
        return book(verbs()).pages
    finally:
        speak(language, mark)


def test_another_language_is_spoken_at_once_and_nothing_is_lost(capfd):
    """The command puts another window on the same states in place of the one before; typed again it says that it is so."""
    application()
    window = Window(Session(demo()))
    window.show()
    settle()
    try:
        window.session.edit(*edit_of_count(19))
        window.bench.set_lens("side")
        name = window.session.design.name
        run(window, "language_de")
        fresh = present()
        assert fresh is not window and not (isValid(window) and window.isVisible())
        assert fresh.session.design.train.stages[0].members[0].z == 19 and fresh.session.design.name == name
        assert fresh.session.dirty and len(fresh.session.states) == 2 and fresh.bench.lens == "side"
        assert {"Leistung", "Zahnfuß"} & {w.text() for w in fresh.findChildren(QLabel)} or any(
            "Seite" in b.text() for b in fresh.findChildren(QPushButton)
        )
        run(fresh, "language_de")
        assert present() is fresh
        run(fresh, "decimal_comma")
        commas = present()
        assert spoken.spoken() == ("de", ",")
        commas.session.undo()
        assert commas.session.design.train.stages[0].members[0].z != 19
        # Asked of the process beside the window, which begins anew.
        commas.session.edit(*edit_of_count(21))
        settle()
        run(commas, "language_en")
        last = present()
        run(last, "decimal_point")
        assert spoken.spoken() == ("en", ".") and len(present().session.states) == 3
    finally:
        put_on("en", ".")
        last = present()
        last.session.saved = last.session.design
        last.close()
        settle()
    assert "Traceback" not in capfd.readouterr().err


def edit_of_count(z):
    return (lambda d, r: give_count(d, 0, 1, z)), f"z = {z}"


def run(window, key):
    next(c for c in window.commands if c.key == key).run()
    settle()


def present():
    return next(w for w in reversed(QApplication.topLevelWidgets()) if isinstance(w, Window) and w.isVisible())

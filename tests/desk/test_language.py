"""The window in another language: every text that is shown passes through the catalogue, which is whole; numbers
with a comma, typed either way."""

import gettext
import importlib.util
import pickle
import re
import sys
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QPushButton
from shiboken6 import isValid

from cooper.demo import DEMOS, demo
from cooper.desk.base.session import Session
from cooper.desk.base.settings import Settings
from cooper.desk.lenses.contact_lens import MODES
from cooper.desk.shell.app import application
from cooper.desk.shell.handbook_commands import verbs
from cooper.desk.shell.pictures import settle
from cooper.desk.shell.window import Window
from cooper.desk.widgets.brief import Brief
from cooper.desk.widgets.rich_page import RichPage
from cooper.document.quantities import QUANTITIES, parts
from cooper.document.store import design_text
from cooper.document.units import number
from cooper.editing.edit import give_count
from cooper.exchange.gear_drawing import gear_drawing
from cooper.exchange.paper import Text as PaperText
from cooper.exchange.report import report_text
from cooper.exchange.report_page import report_html
from cooper.handbook.book import book
from cooper.i18n.text import Text, capital, gaps_of, join, term, tr
from cooper.i18n.translate import CLAUSE, PLAIN, language_in_force, languages, set_language, translate
from cooper.results.check_types import CHECKS
from cooper.results.comparison_notes import all_notes
from cooper.results.evaluate import evaluate
from cooper.results.messages import MESSAGES
from pins.odd_designs import odd_designs
from results.raised_designs import raised_designs

ROOT = Path(__file__).resolve().parent.parent.parent
ENGLISH = re.compile(
    r"\b(the|of|and|with|for|from|not|is|are|by|which|teeth|tooth|bearing|shaft|width|load|least|greatest|required|pinion|wheel|power|speed)\b"
)


@pytest.fixture
def german():
    application()
    set_language("de", ",")
    yield
    set_language(*PLAIN)


def tool():
    spec = importlib.util.spec_from_file_location("write_words", ROOT / "tools" / "write_words.py")
    result = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(result)
    return result


def gaps(text):
    """Names and conversions of the gaps, with the formats of their numbers; units are the language's own."""
    return sorted((name, spec.partition(" ")[0], conversion) for _, name, spec, conversion in gaps_of(text) if name)


@pytest.mark.parametrize("language", [code for code in languages() if code != "en"])
def test_a_catalogue_is_whole_and_its_gaps_are_those_of_the_texts(language):
    written = tool()
    file = written.locales / language / "LC_MESSAGES" / "cooper.po"
    known = {m.id: m.string for m in written.read(file) if m.id}
    now = written.texts()
    assert set(now) <= set(known), sorted(set(now) - set(known))[:5]
    for text, message in known.items():
        if message and "{" in text and text in now:
            assert gaps(text) == gaps(message), text
            assert text.count("\n") == message.count("\n") and text.count("\t") == message.count("\t"), text
    with file.with_suffix(".mo").open("rb") as stream:
        compiled = gettext.GNUTranslations(stream)
    assert all(compiled.gettext(text) == message for text, message in known.items() if message)
    if language == "de":
        words = [t for t in now if ENGLISH.search(re.sub(r"\{[^}]*\}", "", t))]
        assert [t for t in words if not known[t]] == []


def test_no_message_that_is_raised_has_an_english_word_in_german():
    """Every note and check that a design raises, in German: no word that only the English texts have, but for the
    names that the designs gave."""
    result = tool().read(tool().locales / "de" / "LC_MESSAGES" / "cooper.po")
    words = re.compile(r"[A-Za-zäöüßÄÖÜ]{3,}")
    strip = re.compile(r"\{[^}]*\}|\b\w*_\w*\b")
    english = {w.lower() for m in result if m.id for w in words.findall(strip.sub("", m.id))}
    german = {w.lower() for m in result if m.id for w in words.findall(strip.sub("", m.string or ""))}
    foreign = english - german
    set_language("de", ",")
    try:
        left, seen = {}, set()
        for _name, design in [(n, demo(n)) for n in DEMOS] + [*odd_designs().items(), *raised_designs()]:
            own = set(words.findall(design_text(design).lower()))
            results = evaluate(design)
            for key, text in [(n.key, n.text) for n in all_notes(results)] + [
                (c.type, text) for c in results.checks for text in (c.label, c.means)
            ]:
                seen.add(key)
                shown = translate(text)
                figures = re.sub(r"4711\.25|R_p0\.2|" + CLAUSE, "", shown)
                assert not re.search(r"\d\.\d", figures), shown
                bad = {w for w in words.findall(strip.sub("", shown).lower()) if w in foreign} - own
                if bad:
                    left[key] = (sorted(bad), shown)
        assert seen >= set(MESSAGES) | set(CHECKS)
        assert left == {}
    finally:
        set_language(*PLAIN)


def test_texts_are_translated_with_what_is_put_in():
    set_language("de", ",")
    try:
        for text, wanted in (
            (tr("flank, {word}", word=term("pinion")), "Flanke, Ritzel"),
            (tr("flank, {word}", word="pinion"), "Flanke, pinion"),
            (tr("holds by {amount}", amount=tr("{size:.1f} %", size=20.25)), "hält um 20,2 %"),
            (join(", ", [term("pinion"), tr("{0:.2f}", 1.5)]), "Ritzel, 1,50"),
            (capital(term("pinion")), "Ritzel"),
            (term("safety against pitting"), "Sicherheit gegen Grübchen"),
            ("a name of one's own 1.5", "a name of one's own 1.5"),
            (number(12.5, "length"), "12,5"),
            ("", ""),
        ):
            assert translate(text) == wanted
        assert translate(pickle.loads(pickle.dumps(tr("flank, {word}", word=term("pinion"))))) == "Flanke, Ritzel"
    finally:
        set_language(*PLAIN)


def test_the_programs_own_figures_have_the_mark_in_force_and_clauses_their_points():
    set_language("en", ",")
    try:
        for text, wanted in (
            ("ISO 6336-2:2019, 6.3 gives 1.25", "ISO 6336-2:2019, 6.3 gives 1,25"),
            ("ISO 281:2007, 9.3.3.5 and 0.1 to 4", "ISO 281:2007, 9.3.3.5 and 0,1 to 4"),
            ("docs/numbers.md, a.1.dxf", "docs/numbers.md, a.1.dxf"),
            ("-0.06 mm; x=0.25; 2.206·10⁸", "-0,06 mm; x=0,25; 2,206·10⁸"),
        ):
            assert translate(tr(text)) == wanted
            assert translate(text) == text
    finally:
        set_language(*PLAIN)


def names(design):
    """What a person may have named: stages, gears and sets."""
    train = design.train
    return (
        [s.name for s in train.stages]
        + [m.name for s in train.stages for m in s.gears]
        + [s.name for s in train.placed]
    )


def test_the_whole_window_speaks_german(german, monkeypatch):
    """Nothing that is shown is a plain English text: what reaches a widget or a painter is a text of the program, or
    a name."""
    left = set()

    def heard(text):
        # A word of the catalogue that was not marked as a text would stay English on the screen.
        if not isinstance(text, Text) and (len(ENGLISH.findall(text)) > 1 or translate(tr(text)) != text):
            left.add(text)
        return translate(text)

    for module in [m for name, m in sys.modules.items() if name.startswith("cooper.desk")]:
        if getattr(module, "translate", None) is translate:
            monkeypatch.setattr(module, "translate", heard)
    said = set()
    for name in ("winch", "filter-wheel"):
        window = Window(Session(demo(name)), Settings(), recover=False)
        window.resize(1280, 800)
        window.show()
        settle()
        for key in ("teeth", "side", "contact", "shifts", "tooth", "train", "shafts", "stress"):
            window.bench.set_lens(key)
            settle()
        for mode in MODES[1:]:
            window.bench.set_lens("contact")
            window.bench.view("contact").show_mode(mode)
            settle()
            window.grab()
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
            said |= {brief.accessibleName() for brief in window.sheet.findChildren(Brief)}
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
        assert window.session.design.train.stages[0].gears[0].b == 13.5
        window.session.saved = window.session.design
        window.close()
        window.deleteLater()
        settle()
    for words in ("Aufgabe", "Schließen  Esc", "Was gewünscht ist", "Zahnbreite", "Verzahnungsdaten", "Schriftfeld"):
        assert any(words in s for s in said), words
    own = [name for d in DEMOS for name in (demo(d).name, *names(demo(d)))]
    subscripts = {parts(symbol)[1] for symbol in QUANTITIES}
    assert sorted(t for t in left - subscripts if not any(n in t for n in own)) == []
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
    message = [t.words for t in gear_drawing(design, results, 1, 1).items if isinstance(t, PaperText)]
    for words in (
        "Verzahnung",
        "Normalmodul",
        "Zahnweite über 3 Zähne (möglich über 2 bis 4)",
        "Schriftfeld",
        "Werkstoff",
        "einsatzgehärteter Stahl, MQ",
    ):
        assert words in message or words == "Schriftfeld"


def test_commands_are_found_by_the_words_on_the_screen(german):
    window = Window(Session(demo()), Settings(), recover=False)
    window.show()
    result = window.command_list
    result.open()
    result.line.setText("last")
    items = [result.list.item(n) for n in range(result.list.count())]
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
    before = language_in_force()
    set_language()
    try:
        return book(verbs()).pages
    finally:
        set_language(*before)


def test_another_language_is_spoken_at_once_and_nothing_is_lost(capfd):
    """The command puts another window on the same states in place of the one before; typed again it says that it is
    so."""
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
        assert fresh.session.design.train.stages[0].gears[0].z == 19 and fresh.session.design.name == name
        assert fresh.session.dirty and len(fresh.session.states) == 2 and fresh.bench.lens == "side"
        assert {"Leistung", "Zahnfuß"} & {w.text() for w in fresh.findChildren(QLabel)} or any(
            "Seite" in b.text() for b in fresh.findChildren(QPushButton)
        )
        run(fresh, "language_de")
        assert present() is fresh
        run(fresh, "decimal_comma")
        commas = present()
        assert language_in_force() == ("de", ",")
        commas.session.undo()
        assert commas.session.design.train.stages[0].gears[0].z != 19
        # Asked of the process beside the window, which begins anew.
        commas.session.edit(*edit_of_count(21))
        settle()
        run(commas, "language_en")
        last = present()
        run(last, "decimal_point")
        assert language_in_force() == ("en", ".") and len(present().session.states) == 3
    finally:
        set_language(*PLAIN)
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

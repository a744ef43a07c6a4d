"""The handbook: every page there, every link and picture of something that exists, found by its words, at the hand
by F1."""

import importlib.util
import re
from pathlib import Path

import pytest
from PySide6.QtCore import Qt, QUrl
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from cooper.demo import DEMOS
from cooper.desk.base.lens_entries import LENSES
from cooper.desk.base.registry import groups, sheets
from cooper.desk.shell.app import application
from cooper.desk.shell.handbook_commands import OF_LENS, verbs
from cooper.desk.shell.pictures import LENSES as VIEWS
from cooper.desk.shell.pictures import settle
from cooper.document.quantities import QUANTITIES
from cooper.handbook.book import book, picture_places, tasks
from cooper.results.check_types import CHECKS
from cooper.results.messages import MESSAGES

ROOT = Path(__file__).resolve().parent.parent


@pytest.fixture(scope="module")
def whole():
    application()
    return book(verbs())


def test_everything_has_its_page_and_every_link_leads_somewhere(whole):
    keys = set(whole.at)
    assert len(keys) == len(whole.pages)
    assert {f"quantity/{s}" for s in QUANTITIES} <= keys
    assert {f"command/{a.key}" for group in groups().values() for a in group} <= keys
    assert {f"sheet/{k}" for k in sheets()} | {f"lens/{k}" for k in LENSES} | set(OF_LENS.values()) <= keys
    assert set(OF_LENS) == set(LENSES)
    for page in whole.pages:
        for kind, name in re.findall(r'href="(\w+):([^"]+)"', page.body):
            known = {"page": keys, "do": keys, "demo": set(DEMOS)}[kind]
            assert name in known, (page.key, kind, name)
        for name, caption in picture_places(page):
            demo, _, view = name.partition("/")
            assert caption and (name == "report" or (demo in DEMOS and view in VIEWS)), (page.key, name)
        assert "{" not in re.sub(r"<style.*?</style>", "", page.body), page.key
    linked = " ".join(p.body for p in whole.pages if p.kind == "task")
    assert all(
        f'href="demo:{name}"' in linked
        for name in ("mirror-cover", "winch", "focuser", "filter-wheel", "dome-ring", "dome-rack")
    )


def test_every_note_and_check_that_can_be_raised_has_its_place(whole):
    for key, kind in MESSAGES.items():
        assert key in whole.at[f"note/{key}"].body, key
        assert all(
            re.sub(r"_\{i\}$", "", f) in QUANTITIES
            or f in ("theta_max", "n_planets", "d_a1", "d_a2", "z_1", "z_2", "k_pl", "e_pl")
            for f in kind.fields
        ), key
    for check in CHECKS.values():
        for symbol in check.symbols:
            assert check.key in whole.at[f"quantity/{symbol}"].body


def test_pages_are_found_by_what_one_would_type(whole):
    for text, wanted in (
        ("whine", "task/quiet"),
        ("printed", "task/printed"),
        ("planet set", "task/planets"),
        ("S_F", "quantity/S_F"),
        ("save as", "command/save_as"),
        ("rim thickness", "quantity/Y_B"),
        ("micropitting", None),
    ):
        result = [p.key for p in whole.search(text)[:4]]
        assert result and (wanted is None or wanted in result), (text, result)
    assert any(p.kind == "note" for p in whole.search("undercuts"))
    assert not whole.search("no such words anywhere")


def test_the_page_in_docs_is_the_one_in_the_program():
    spec = importlib.util.spec_from_file_location("write_docs", ROOT / "tools" / "write_docs.py")
    docs = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(docs)
    page = docs.handbook()
    assert (ROOT / "docs" / "handbook.html").read_text(encoding="utf-8") == page
    for file in re.findall(r'<img src="([^"]+)"', page):
        assert (ROOT / "docs" / file).exists()
    ids = set(re.findall(r'id="([^"]+)"', page))
    assert all(target in ids for target in re.findall(r'href="#([^"]+)"', page))
    assert "http" not in page and len(tasks()) >= 12


def test_f1_opens_it_where_one_is_and_links_do_what_they_say(window):
    QTest.keyClick(window, Qt.Key.Key_F1)
    settle()
    book_ = window.handbook
    assert book_.isVisible() and book_.page.key == OF_LENS[window.bench.lens]
    tag = window.bench.tags["z_1"]
    tag.setFocus()
    window.asked = tag
    window.explain()
    QTest.mouseClick(window.explanation.findChild(QPushButton, "explain_more"), Qt.MouseButton.LeftButton)
    assert book_.page.key == "quantity/z"
    book_.go_back()
    assert book_.page.key == OF_LENS[window.bench.lens]
    QTest.keyClicks(book_.line, "whine")
    settle()
    QTest.keyClick(book_, Qt.Key.Key_Return)
    assert book_.list.count() >= 1
    book_._chosen(book_.list.item(0))
    assert book_.page.key == "task/quiet"
    book_._follow(QUrl("do:lens/contact"))
    assert window.bench.lens == "contact"
    book_._follow(QUrl("do:sheet/duty"))
    assert window.sheet is not None and window.sheet_key == "duty"
    window.explain()
    window.run("handbook")
    assert book_.page.key == "sheet/duty"
    book_._follow(QUrl("do:command/export_cancel"))
    assert "Not now" in window.notice.text.text()
    window.session.saved = window.session.design
    book_._follow(QUrl("demo:dome-ring"))
    settle()
    assert window.session.design.name == "Dome ring" or "ome" in window.session.design.name
    book_.show_page("no/such page")
    assert book_.page.key == "task/window"
    for _ in range(2):
        QTest.keyClick(book_, Qt.Key.Key_Escape)
    assert not book_.isVisible()
    book_.end()

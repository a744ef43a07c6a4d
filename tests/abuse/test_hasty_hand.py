"""A hand that types nonsense, opens and closes, and never waits for what is still on its way."""

import random

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from shiboken6 import isValid

from cooper.demo import DEMOS, demo
from cooper.desk.base.lens_entries import LENSES
from cooper.desk.base.registry import sheets
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.tag import Tag
from cooper.desk.widgets.tag_range import tell_range

TEXTS = ("blue", "999", "-7", "0", "1e9", "17", "0.3", "5 kg", "<b>x</b>", "12.5")


def test_a_hand_that_never_waits_raises_nothing(window):
    """A short form of eight thousand acts by hand; what fails inside Qt shows at the end of the test."""
    rng, s = random.Random(2), window.session
    for _ in range(110):
        what = rng.randrange(9)
        if what < 4:
            tags = [t for t in window.findChildren(Tag) if t.isVisible()]
            if tags:
                _type(rng, rng.choice(tags))
        elif what == 4:
            window.bench.set_lens(rng.choice(list(LENSES)))
        elif what == 5:
            window.open_sheet(rng.choice(list(sheets())))
        elif what == 6:
            rng.choice((s.undo, s.redo))()
        elif what == 7:
            window.resize(rng.choice((1024, 1280, 1920)), rng.choice((700, 800, 1080)))
        elif rng.random() < 0.4:
            s.saved = s.design
            s.restart(demo(rng.choice(list(DEMOS))), None)
            window.bench.begin()
        for _ in range(rng.randrange(4)):
            QApplication.processEvents()
    settle()
    assert all(c.margin == c.margin for c in s.results.checks)


def _type(rng, tag):
    tag.open()
    tag.editor.setText(rng.choice(TEXTS))
    QTest.keyClick(tag.editor, rng.choice((Qt.Key.Key_Return, Qt.Key.Key_Tab)))
    if isValid(tag) and tag.editor is not None:
        if rng.random() < 0.4:
            QTest.keyClick(tag.editor, Qt.Key.Key_Escape)
        elif rng.random() < 0.3:
            tell_range(tag)

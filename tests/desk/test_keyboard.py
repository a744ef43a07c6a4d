"""A walk with the keyboard alone, from the duty to a saved design; everything is reached by Tab; colours of strong
contrast; twice as many pixels."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from PIL import Image
from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QColor
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QApplication, QFileDialog, QLineEdit
from shiboken6 import isValid

import cooper
from cooper.desk.base import theme as th
from cooper.desk.shell.margin_rows import CheckRow
from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.tag import Tag
from waiting import wait_for

CTRL, SHIFT, ALT = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
)
NONE = Qt.KeyboardModifier.NoModifier


class Hands:
    """Presses keys on whatever has the focus, and nothing else."""

    def __init__(self, window):
        self.window = window

    @property
    def at(self):
        return QApplication.focusWidget() or self.window

    def press(self, key, modifiers=NONE):
        QTest.keyClick(self.at, key, modifiers)
        settle()

    def write(self, text):
        for c in text:
            QTest.keyClicks(self.at, c)
        settle()

    def tab_to(self, wanted, most=140):
        for _ in range(most):
            if wanted(self.at):
                return self.at
            self.press(Qt.Key.Key_Tab)
        raise AssertionError("Tab does not lead there")


def test_from_the_duty_to_a_saved_design_without_a_mouse(window, tmp_path, monkeypatch):
    window.activateWindow()
    QTest.qWaitForWindowActive(window)
    window.bench.drawing.setFocus()
    hands, session = Hands(window), window.session
    # The duty.
    hands.press(Qt.Key.Key_D, CTRL)
    tag = hands.tab_to(lambda w: isinstance(w, Tag) and w.field.key == "P")
    assert tag.window() is window
    hands.write("0.6 kW")
    hands.press(Qt.Key.Key_Return)
    assert session.design.train.duty.P == 600
    hands.press(Qt.Key.Key_Escape)
    assert window.sheet is None or not isValid(window.sheet) or not window.sheet.isVisible()
    # Other ways to look.
    hands.press(Qt.Key.Key_2, ALT)
    assert window.bench.lens == "side"
    hands.press(Qt.Key.Key_1, ALT)
    # A count, refused nonsense, and back.
    hands.tab_to(lambda w: w is window.bench.tags["z_1"])
    hands.write("18")
    hands.press(Qt.Key.Key_Return)
    assert session.design.train.stages[0].gears[0].z == 18
    hands.tab_to(lambda w: w is window.bench.tags["z_1"])
    hands.write("0")
    hands.press(Qt.Key.Key_Return)
    assert session.design.train.stages[0].gears[0].z == 18
    hands.press(Qt.Key.Key_Escape)
    # The worst check, and what would help.
    before = len(session.states)
    hands.press(Qt.Key.Key_W, CTRL)
    assert window.margins.opened
    lever = hands.tab_to(lambda w: w.accessibleName().startswith("Try ") or "lever" in w.objectName().lower())
    assert lever.isVisible()
    hands.press(Qt.Key.Key_Space)
    hands.press(Qt.Key.Key_Return)
    assert len(session.states) >= before
    hands.press(Qt.Key.Key_Escape)

    # A name for the state, by the list of commands.
    def answer():
        asked = QApplication.activeModalWidget()
        if asked is None:
            QTimer.singleShot(100, answer)
            return
        line = asked.findChild(QLineEdit)
        QTest.keyClick(line, Qt.Key.Key_A, CTRL)
        QTest.keyClicks(line, "by hand")
        QTest.keyClick(line, Qt.Key.Key_Return)

    QTimer.singleShot(300, answer)
    hands.press(Qt.Key.Key_K, CTRL)
    hands.write("pin and name")
    hands.press(Qt.Key.Key_Return)
    assert session.state.name == "by hand"
    # The handbook, and its page for whining gears.
    window.activateWindow()
    QTest.qWaitForWindowActive(window)
    hands.press(Qt.Key.Key_F1, SHIFT)
    book = window.handbook
    book.activateWindow()
    book.line.setFocus()
    wait_for(lambda: QApplication.focusWidget() is book.line and book.book.pages)
    hands.write("whine")
    hands.press(Qt.Key.Key_Return)
    assert book.page.key == "task/quiet"
    book.end()
    window.activateWindow()
    QTest.qWaitForWindowActive(window)
    window.bench.drawing.setFocus()
    # Saved.
    path = tmp_path / "by-hand.cooper.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path), ""))
    hands.press(Qt.Key.Key_S, CTRL)
    settle()
    assert path.exists() and '"P": 600' in path.read_text()


def test_tab_leads_to_every_part(window):
    window.activateWindow()
    QTest.qWaitForWindowActive(window)
    window.bench.drawing.setFocus()
    hands, seen = Hands(window), []
    for _ in range(160):
        seen.append(hands.at)
        hands.press(Qt.Key.Key_Tab)
        if hands.at is seen[0]:
            break
    assert hands.at is seen[0], "Tab never comes round"
    for name, tag in window.bench.tags.items():
        assert tag in seen or not tag.isVisible(), name
    assert sum(isinstance(w, CheckRow) for w in seen) >= 10
    # A button is called by its words where it has no other name.
    names = [w.accessibleName() or (w.text() if isinstance(w, QAbstractButton) else "") for w in seen]
    assert all(names), [w for w, n in zip(seen, names, strict=True) if not n]
    assert any(n.startswith("State 1") for n in names)


def luminance(color):
    """Relative luminance of WCAG 2.2."""
    parts = [
        v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4
        for v in (color.redF(), color.greenF(), color.blueF())
    ]
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]


@pytest.mark.parametrize(
    ("theme", "ink", "rest"), [(th.LIGHT, 7, 3.0), (th.DARK, 7, 4.5), (th.CONTRAST, 15, 7), (th.CONTRAST_DARK, 15, 7)]
)
def test_words_stand_out_from_their_paper(theme, ink, rest):
    for under in ("paper", "card", "band"):
        low = luminance(QColor(getattr(theme, under)))
        for role in ("ink", "muted", "copper", "holds", "thin", "short"):
            a, b = sorted((low, luminance(QColor(getattr(theme, role)))))
            assert (b + 0.05) / (a + 0.05) >= (ink if role == "ink" else rest), (theme.name, under, role)


def test_strong_contrast_goes_on_and_off_and_is_kept(window):
    QTest.keyClick(window, Qt.Key.Key_T, CTRL | SHIFT)
    assert window.theme is th.CONTRAST
    QTest.keyClick(window, Qt.Key.Key_T, CTRL)
    assert window.theme is th.CONTRAST_DARK and window.settings.text("theme", "") == "contrast dark"
    QTest.keyClick(window, Qt.Key.Key_T, CTRL | SHIFT)
    assert window.theme is th.DARK


def test_a_screen_of_twice_the_pixels(tmp_path):
    design = Path(cooper.__file__).parent / "demo" / "mirror-cover.json"
    out = tmp_path / "big.png"
    words = [
        sys.executable,
        "-m",
        "cooper",
        "shot",
        str(design),
        "--lens",
        "teeth",
        "--out",
        str(out),
        "--size",
        "1920x1080",
    ]
    subprocess.run(
        words,
        check=True,
        env={
            **os.environ,
            "PYTHONPATH": str(Path(cooper.__file__).parent.parent),
            "QT_SCALE_FACTOR": "2",
            "QT_QPA_PLATFORM": "offscreen",
        },
        capture_output=True,
    )
    with Image.open(out) as picture:
        assert picture.size == (3840, 2160)
        # Drawn, not blown up: neighbouring pixels differ along the teeth.
        grey = picture.convert("L").crop((600, 500, 2400, 1700))
        small = grey.resize((900, 600), Image.Resampling.BOX).resize(grey.size, Image.Resampling.NEAREST)
        assert sum(abs(a - b) > 40 for a, b in zip(grey.tobytes(), small.tobytes(), strict=True)) > 2000

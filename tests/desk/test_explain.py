"""F1: what is selected is told in words and drawn where it can be."""

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget

from cooper.desk.shell.pictures import settle
from cooper.desk.widgets.tag import Tag


def test_f1_tells_of_tags_and_checks_and_goes_away(window):
    window.activateWindow()
    window.bench.drawing.setFocus()
    window.asked = None
    window.explain()
    assert window.handbook.isVisible()
    assert window.explanation is None
    window.handbook.end()
    window.activateWindow()
    window.bench.tags["a_w"].setFocus()
    settle()
    window.explain()
    card = window.explanation
    text = " ".join(card.lines)
    assert "centre distance" in text
    assert window.bench.tags["a_w"].text() in text
    assert "solved" in text
    assert "ISO 21771" in text
    assert card.findChild(QWidget, "figure") is not None
    window.explain()
    assert window.explanation is None
    row = next(r for r in window.margins.rows.values() if r.check.symbol == "S_F")
    row.setFocus()
    settle()
    window.explain()
    text = " ".join(window.explanation.lines)
    assert row.value_text() in text
    assert "break" in text
    assert "ISO 6336-3" in text
    QTest.keyClick(window, Qt.Key.Key_Escape)
    assert window.explanation is None


@pytest.mark.parametrize("symbols", [("d_a1", "d_1"), ("size", "x_1")])
def test_the_figure_marks_what_is_asked_for(window, symbols):
    pictures = []
    for name in symbols:
        tag: Tag = window.bench.tags[name]
        tag.setFocus()
        settle()
        window.explain()
        figure = window.explanation.findChild(QWidget, "figure")
        image = figure.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
        pixels = np.frombuffer(bytes(image.constBits()), dtype=np.uint8).reshape(image.height(), -1, 4)
        blue, green, red = (pixels[..., k].astype(int) for k in range(3))
        marked = (red > green + 60) & (red > blue + 60)
        assert marked.sum() > 50
        pictures.append(marked)
        window.explain()
    # Another quantity is marked elsewhere: the tip circle above the reference circle, the pitch wider than the tooth.
    rows = [np.mean(np.nonzero(m)[0]) for m in pictures]
    wide = [np.ptp(np.nonzero(m)[1]) for m in pictures]
    assert rows[0] < rows[1] - 10 if symbols[0] == "d_a1" else wide[0] > 1.5 * wide[1]

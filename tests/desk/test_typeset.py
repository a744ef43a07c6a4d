"""Texts on a drawing stay where they are, however often they are painted."""

import pytest
from PySide6.QtGui import QColor, QImage, QPainter

from cooper.desk.base import theme as th
from cooper.desk.widgets.typeset import words


@pytest.mark.parametrize("text", ["σ b mₙ / Fₜ", "-12.35", "root ±1 %", "d₁ → d₂"])
def test_a_text_does_not_move_when_it_is_painted_again(window, text):
    def painted():
        image = QImage(160, 40, QImage.Format.Format_ARGB32_Premultiplied)
        image.fill(QColor("white"))
        p = QPainter(image)
        words(p, text, th.font(th.SMALL), QColor("black"), 10, 25)
        p.end()
        return image

    first = painted()
    assert all(painted() == first for _ in range(3))

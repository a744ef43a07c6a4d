"""A list to choose from whose text ends in an ellipsis where there is no room, whole in its tooltip."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QPaintEvent
from PySide6.QtWidgets import QComboBox, QStyle, QStyleOptionComboBox, QStylePainter

from cooper.i18n.translate import translate

BESIDE = 36
"""What the frame, its padding and the place of the arrow take of the width; pixels."""


class ElidedCombo(QComboBox):
    def paintEvent(self, event: QPaintEvent) -> None:
        p, option = QStylePainter(self), QStyleOptionComboBox()
        self.initStyleOption(option)
        p.drawComplexControl(QStyle.ComplexControl.CC_ComboBox, option)
        option.currentText = self.fontMetrics().elidedText(
            self.currentText(), Qt.TextElideMode.ElideRight, self.width() - BESIDE
        )
        p.drawControl(QStyle.ControlElement.CE_ComboBoxLabel, option)
        self.setToolTip(translate(self.currentText()))

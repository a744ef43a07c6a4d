"""A list to choose from whose text ends in an ellipsis where there is no room, whole in its tooltip."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QPaintEvent
from PySide6.QtWidgets import QComboBox, QStyle, QStyleOptionComboBox, QStylePainter


class ElidedCombo(QComboBox):
    def paintEvent(self, event: QPaintEvent) -> None:
        p, option = QStylePainter(self), QStyleOptionComboBox()
        self.initStyleOption(option)
        p.drawComplexControl(QStyle.ComplexControl.CC_ComboBox, option)
        room = self.style().subControlRect(
            QStyle.ComplexControl.CC_ComboBox, option, QStyle.SubControl.SC_ComboBoxEditField, self
        )
        option.currentText = self.fontMetrics().elidedText(
            self.currentText(), Qt.TextElideMode.ElideRight, room.width() - 4
        )
        p.drawControl(QStyle.ControlElement.CE_ComboBoxLabel, option)
        self.setToolTip(self.currentText())

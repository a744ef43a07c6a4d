"""What stands on the survey page and where; what it does is the page's."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from cooper.desk.base import theme as th
from cooper.desk.survey.ask_panel import AskPanel
from cooper.desk.survey.bound_rows import BoundRow
from cooper.desk.survey.cloud import Cloud
from cooper.desk.survey.found_table import FoundTable
from cooper.desk.survey.hover_card import HoverCard
from cooper.desk.survey.picked import Shelf, SideBySide
from cooper.desk.survey.relax_bar import RelaxBar
from cooper.desk.survey.waterfall import Waterfall
from cooper.desk.widgets.clear_area import ClearArea
from cooper.desk.widgets.combo import ElidedCombo
from cooper.desk.widgets.labels import Label
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.survey.criteria import CRITERIA

BOUNDED = (
    "m_n",
    "beta",
    "z_1",
    "a_w",
    "d_out",
    "length",
    "width",
    "b_d",
    "S_F",
    "S_H",
    "worst",
    "eta",
    "mass",
    "cost",
    "du",
)
"""Quantities that have a row of bounds."""


class SurveyParts(QWidget):
    """The parts, laid out, without what they do."""

    def __init__(self, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self.setObjectName("survey_page")
        self.setAccessibleName(translate(tr("Survey")))
        self.buttons: dict[str, QPushButton] = {}
        self._lay_out()

    def _button(self, name: str, text: str, tip: str = "") -> QPushButton:
        button = self.buttons[name] = QPushButton(translate(text))
        button.setObjectName(name)
        button.setToolTip(translate(tip))
        return button

    def _lay_out(self) -> None:
        whole = QVBoxLayout(self)
        whole.setContentsMargins(14, 8, 14, 8)
        whole.setSpacing(6)
        head = QHBoxLayout()
        head.setSpacing(8)
        self.title = Label(tr("Survey"))
        self.ask_button = self._button(
            "survey_ask", tr("What is searched …"), tr("bounds, duty, materials, arrangements")
        )
        self.near_button = self._button(
            "survey_near", tr("Close in"), tr("search around the selected stage of the present design")
        )
        self.stop_button = self._button("survey_stop", tr("Stop"), tr("stop, and keep what is found"))
        self.words = Label()
        self.words.setObjectName("survey_words")
        self.words.setWordWrap(True)
        self.side_button = self._button("survey_side", tr("Side by side"), tr("the shelf in columns"))
        back = self._button("survey_back", tr("Back to the Bench  Esc"))
        for w in (self.title, self.ask_button, self.near_button, self.stop_button):
            head.addWidget(w)
        head.addWidget(self.words, 1)
        head.addWidget(self.side_button)
        head.addWidget(back)
        whole.addLayout(head)
        self.waterfall = Waterfall(self.theme)
        whole.addWidget(self.waterfall)
        self.eased = RelaxBar()
        whole.addWidget(self.eased)
        body = QHBoxLayout()
        body.setSpacing(12)
        whole.addLayout(body, 1)
        body.addWidget(self._bounds())
        self.middle = QStackedWidget()
        self.middle.addWidget(self._centre())
        self.side = SideBySide(self.theme)
        self.side_area = ClearArea()
        self.side_area.setWidgetResizable(True)
        self.side_area.setWidget(self.side)
        self.middle.addWidget(self.side_area)
        body.addWidget(self.middle, 1)
        body.addWidget(self._shelf())
        self._panel: AskPanel | None = None
        self.card = HoverCard(self.theme, self.cloud)

    @property
    def panel(self) -> AskPanel:
        """What is searched, made when it is first asked for."""
        if self._panel is None:
            self._panel = AskPanel(self.theme, self)
            self._panel.hide()
            self._bind_panel(self._panel)
            self._place_panel()
        return self._panel

    @property
    def asking(self) -> bool:
        """Whether what is searched stands open."""
        return self._panel is not None and self._panel.isVisible()

    def _bind_panel(self, panel: AskPanel) -> None:
        """Say what its buttons do."""

    def _place_panel(self) -> None:
        """Put it in the page's middle."""
        if self._panel is not None:
            w, h = min(self.width() - 20, 1160), min(self.height() - 12, 640)
            self._panel.setGeometry((self.width() - w) // 2, 6, w, h)

    def _bounds(self) -> QWidget:
        self.bounds: dict[str, BoundRow] = {}
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setContentsMargins(0, 0, 4, 0)
        column.setSpacing(0)
        for key in BOUNDED:
            row = self.bounds[key] = BoundRow(key, self.theme)
            column.addWidget(row)
        column.addStretch(1)
        area = ClearArea()
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(inside)
        area.setFixedWidth(250)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        return area

    def _centre(self) -> QWidget:
        box = QWidget()
        column = QVBoxLayout(box)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        axes = QHBoxLayout()
        axes.setSpacing(6)
        self.axes: list[QComboBox] = []
        for words_, key in (("across", "mass"), ("up", "worst"), ("colour", "m_n")):
            combo = ElidedCombo()
            combo.setObjectName(f"axis_{words_}")
            combo.setAccessibleName(translate(tr("Quantity {words}", words=words_)))
            for known in CRITERIA.values():
                combo.addItem(translate(known.words), known.key)
            combo.setCurrentIndex(combo.findData(key))
            combo.setMaximumWidth(196)
            combo.setMinimumContentsLength(10)
            combo.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            label = Label(words_)
            axes.addWidget(label)
            axes.addWidget(combo, 1)
            self.axes.append(combo)
        self.edge_button = self._button(
            "survey_edge", tr("Edge"), tr("mark the Pareto front: the designs that no other beats in both")
        )
        axes.addWidget(self.edge_button)
        column.addLayout(axes)
        split = QSplitter(Qt.Orientation.Vertical)
        split.setChildrenCollapsible(False)
        self.cloud = Cloud(self.theme)
        self.table = FoundTable()
        split.addWidget(self.cloud)
        under = QWidget()
        below = QVBoxLayout(under)
        below.setContentsMargins(0, 0, 0, 0)
        below.setSpacing(3)
        self.filter = QLineEdit()
        self.filter.setObjectName("survey_filter")
        self.filter.setAccessibleName(translate(tr("Filter by typing")))
        self.filter.setPlaceholderText(translate(tr("filter by typing, as m_n<3 S_F>=1.5 helical")))
        self.filter.setMaxLength(300)
        self.filter.setProperty("calm", True)
        self.legend = Label()
        line = QHBoxLayout()
        line.addWidget(self.filter, 1)
        line.addWidget(self.legend)
        for name, text in (
            ("survey_columns", tr("columns …")),
            ("survey_copy", "copy"),
            ("survey_save", tr("save table …")),
        ):
            button = self._button(name, text)
            button.setProperty("plain", True)
            line.addWidget(button)
        below.addLayout(line)
        below.addWidget(self.table, 1)
        split.addWidget(under)
        split.setSizes([330, 190])
        column.addWidget(split, 1)
        return box

    def _shelf(self) -> QWidget:
        box = QWidget()
        box.setFixedWidth(262)
        column = QVBoxLayout(box)
        column.setContentsMargins(0, 0, 0, 0)
        head = QHBoxLayout()
        self.shelf_title = Label(tr("Shelf"))
        self.one_scale = Label(tr("one scale"))
        head.addWidget(self.shelf_title)
        head.addStretch(1)
        head.addWidget(self.one_scale)
        column.addLayout(head)
        self.shelf = Shelf(self.theme)
        column.addWidget(self.shelf, 1)
        row = QHBoxLayout()
        self.take_button = self._button("survey_take", tr("Take it"), tr("make it the present design"))
        self.put_button = self._button("survey_put", tr("On the shelf"))
        self.present_button = self._button("survey_present", tr("Present"), tr("put the present design on the shelf"))
        for w in (self.take_button, self.put_button, self.present_button):
            row.addWidget(w)
        column.addLayout(row)
        self.round_button = self._button(
            "survey_round",
            tr("Take it and round …"),
            tr("make it the present design, then decent widths, distances and shifts with what they cost"),
        )
        column.addWidget(self.round_button)
        return box

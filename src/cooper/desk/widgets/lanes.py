"""Columns side by side where there is room, else one below the other: what scrolls never scrolls sideways."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

BETWEEN, EDGE = 24, 4


class Lanes(QWidget):
    """Holds columns in as many lanes as fit; a column without a lane of its own goes under the shortest."""

    def __init__(self) -> None:
        super().__init__()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 4, EDGE, 0)
        self._row.setSpacing(BETWEEN)
        self._lanes: list[QVBoxLayout] = []
        self._columns: list[QWidget] = []
        self._stretch: list[int] = []
        self._placed: list[int] = []

    def add_column(self, stretch: int = 0) -> QVBoxLayout:
        """A further column, in a lane of its own for now, which takes what the others leave by its ``stretch``."""
        column = QWidget()
        column.setAutoFillBackground(False)
        inside = QVBoxLayout(column)
        inside.setContentsMargins(0, 0, 0, 0)
        inside.setSpacing(4)
        self._columns.append(column)
        self._stretch.append(stretch)
        self._put([*self._placed, len(self._placed)])
        return inside

    def last_column(self) -> QVBoxLayout:
        """The layout of the column that was added last."""
        layout = self._columns[-1].layout()
        assert isinstance(layout, QVBoxLayout)
        return layout

    def close_columns(self) -> None:
        """What a column does not need stays empty at its end."""
        for column in self._columns:
            layout = column.layout()
            assert isinstance(layout, QVBoxLayout)
            layout.addStretch(1)

    def fit(self, width: int) -> None:
        """Put the columns into as many lanes as a width (px) has room for."""
        sizes = [c.minimumSizeHint() for c in self._columns]
        for many in range(len(sizes), 0, -1):
            heights, widths, placed = [0] * many, [0] * many, []
            for n, size in enumerate(sizes):
                lane = n if n < many else heights.index(min(heights))
                heights[lane] += size.height()
                widths[lane] = max(widths[lane], size.width())
                placed.append(lane)
            if many == 1 or sum(widths) + BETWEEN * (many - 1) <= width - EDGE:
                self._put(placed)
                return

    def _put(self, placed: list[int]) -> None:
        if placed == self._placed:
            return
        for column, lane in zip(self._columns, self._placed, strict=False):
            self._lanes[lane].removeWidget(column)
        while len(self._lanes) > max(placed) + 1:
            gone = self._lanes.pop()
            self._row.removeItem(gone)
            gone.deleteLater()
        while len(self._lanes) <= max(placed):
            lane_ = QVBoxLayout()
            self._lanes.append(lane_)
            self._row.addLayout(lane_)
        # Of those that share a lane the one that takes what is left comes first: a picture is looked at while one
        # edits.
        for n in sorted(range(len(placed)), key=lambda n: -self._stretch[n]):
            self._lanes[placed[n]].addWidget(self._columns[n])
        for lane in range(len(self._lanes)):
            self._row.setStretch(lane, max(s for s, at in zip(self._stretch, placed, strict=True) if at == lane))
        self._placed = placed

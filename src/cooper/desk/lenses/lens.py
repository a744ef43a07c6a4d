"""What the painted lenses of the Bench have in common."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.widgets.plot import Plotted
from cooper.exchange.plots import plot_words
from cooper.i18n.text import join
from cooper.i18n.translate import translate
from cooper.results.result_tree import StageResults


class Lens(QWidget, Plotted):
    """A view on the selected stage that paints itself; hidden until it is chosen."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.theme = session, theme
        self.hide()

    def apply_theme(self, theme: th.Theme) -> None:
        self.theme = theme
        self.update()

    def describe(self) -> None:
        """Give the plots' least and greatest values to screen readers."""
        text = [plot_words(plot, self.session.system) for plot in self.plots()]
        self.setAccessibleDescription(translate(join(" ", text)))

    @property
    def stage(self) -> StageResults:
        return self.session.results.stages[self.session.stage]

"""Commands about what is shown and how."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QApplication, QWidget

from cooper.desk.base.registry import Action, register_actions
from cooper.desk.lenses.drawing import FLANKS
from cooper.desk.widgets.plot import Plotted
from cooper.exchange.plots import plot_table
from cooper.i18n.text import join, term, tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.shell.window import Window


def toggle_ghost(window: Window) -> None:
    shown = not window.bench.drawing.show_ghost
    window.bench.drawing.show_ghost = shown
    if "set" in window.bench.views:
        window.bench.set.show_ghost = shown
        window.bench.set.update()
    window.bench.drawing.refresh()


def copy_checks(window: Window) -> None:
    """All checks as tab-separated text."""
    rows = ["check\tvalue\tlimit\tmargin\tverdict"]
    rows += [
        tr(
            "{label} ({split})\t{value:.6g}\t{limit:.6g}\t{margin:.1%}\t{verdict}",
            label=c.label,
            split=c.key.split(".")[-1],
            value=c.value,
            limit=c.limit,
            margin=c.margin,
            verdict=term(c.verdict),
        )
        for _k, checks in window.session.checks()
        for c in checks
    ]
    QApplication.clipboard().setText(translate(join("\n", rows)))
    window.notice.report(tr("All checks are on the clipboard as a table"))


def copy_plots(window: Window) -> None:
    """The plots in view as tab-separated text."""
    # A sheet lies over the Bench, and so comes first.
    sheet, lens = window.sheet, window.bench.views[window.bench.lens]
    views = sheet.findChildren(QWidget) if sheet is not None else [lens]
    plots = [plot for view in views if isinstance(view, Plotted) and view.isVisible() for plot in view.plots()]
    if not plots:
        window.notice.report(tr("There is no plot in view; the lenses Contact and Shafts have some"))
        return
    QApplication.clipboard().setText(translate(plot_table(plots, window.session.system)))
    window.notice.report(tr("The plots in view are on the clipboard as a table"))


register_actions(
    "views",
    Action("worst", tr("Open the worst check"), "Ctrl+W", lambda w: w.open_worst()),
    Action("find_value", tr("Find a value by symbol, name or meaning …"), "F3", lambda w: w.find_value()),
    Action("explain", tr("Explain the selected quantity"), "F1", lambda w: w.explain()),
    Action("fit", tr("Show the gears whole"), "F", lambda w: w.bench.fit()),
    Action("teeth", tr("Zoom to the teeth in mesh"), "T", lambda w: w.bench.drawing.look_at_mesh()),
    Action("ghost", tr("Show or hide the ghost of the previous state"), "Ctrl+G", toggle_ghost),
    *(
        Action(f"flank_{k}", tr("Teeth stand {words}", words=words), "", lambda w, k=k: w.bench.drawing.set_flank(k))  # type: ignore[misc]
        for k, words in FLANKS.items()
    ),
    Action("units", tr("Switch between mm and inch"), "Ctrl+U", lambda w: w.toggle_units()),
    Action("more_digits", tr("Show more decimals"), "Ctrl+.", lambda w: w.change_digits(1)),
    Action("fewer_digits", tr("Show fewer decimals"), "Ctrl+,", lambda w: w.change_digits(-1)),
    Action("theme", tr("Switch between light and dark"), "Ctrl+T", lambda w: w.toggle_theme()),
    Action("contrast", tr("Strong contrast on or off"), "Ctrl+Shift+T", lambda w: w.toggle_contrast()),
    Action("copy_checks", tr("Copy all checks as a table"), "Ctrl+Shift+C", copy_checks),
    Action("copy_plots", tr("Copy the plots in view as a table"), "Ctrl+Shift+B", copy_plots),
    place=3,
)

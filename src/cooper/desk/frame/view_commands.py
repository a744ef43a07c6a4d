"""Commands about what is shown and how."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QApplication

from cooper.desk.frame.registry import Action, register_actions
from cooper.desk.lenses.drawing import FLANKS

if TYPE_CHECKING:
    from cooper.desk.frame.window import Window


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
        f"{c.label} ({c.key.split('.')[-1]})\t{c.value:.6g}\t{c.limit:.6g}\t{c.margin:.1%}\t{c.verdict}"
        for _k, checks in window.session.checks()
        for c in checks
    ]
    QApplication.clipboard().setText("\n".join(rows))
    window.notice.say("All checks are on the clipboard as a table")


register_actions(
    "views",
    Action("worst", "Open the worst check", "Ctrl+W", lambda w: w.open_worst()),
    Action("explain", "Explain the selected quantity", "F1", lambda w: w.explain()),
    Action("fit", "Show the gears whole", "F", lambda w: w.bench.fit()),
    Action("teeth", "Zoom to the teeth in mesh", "T", lambda w: w.bench.drawing.look_at_mesh()),
    Action("ghost", "Show or hide the ghost of the state before", "Ctrl+G", toggle_ghost),
    *(
        Action(f"flank_{k}", f"Teeth stand {words}", "", lambda w, k=k: w.bench.drawing.set_flank(k))  # type: ignore[misc]
        for k, words in FLANKS.items()
    ),
    Action("units", "Switch between mm and inch", "Ctrl+U", lambda w: w.toggle_units()),
    Action("more_digits", "Show more decimals", "Ctrl+.", lambda w: w.change_digits(1)),
    Action("fewer_digits", "Show fewer decimals", "Ctrl+,", lambda w: w.change_digits(-1)),
    Action("theme", "Switch between light and dark", "Ctrl+T", lambda w: w.toggle_theme()),
    Action("contrast", "Strong contrast on or off", "Ctrl+Shift+T", lambda w: w.toggle_contrast()),
    Action("copy_checks", "Copy all checks as a table", "Ctrl+Shift+C", copy_checks),
    place=3,
)

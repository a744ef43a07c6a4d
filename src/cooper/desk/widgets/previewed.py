"""Shows results as the ghost of the Bench while the pointer is on an offer."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from cooper.desk.base.session import Session
from cooper.results.result_tree import Results


def lay(widget: QWidget, session: Session, results: Results | None) -> None:
    """Show results as the ghost of the Bench in the widget's window; None removes the ghost."""
    bench = getattr(widget.window(), "bench", None)
    if bench is None or results is session.laid:
        return
    session.laid = results
    bench.drawing.refresh()
    for view in bench.views.values():
        view.update()

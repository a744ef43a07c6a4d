"""What can be done with a piece of a shaft, as a menu."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtGui import QContextMenuEvent
from PySide6.QtWidgets import QMenu

from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.machine.more_bearings import FREE

if TYPE_CHECKING:
    from cooper.desk.lenses.shafts_lens import ShaftsLens


def open_piece_menu(lens: ShaftsLens, event: QContextMenuEvent) -> None:
    """What can be done with the piece under the pointer."""
    shaft, view = lens.shaft, lens._view()
    if shaft is None or view is None:
        event.ignore()
        return
    at = view.z(event.pos().x())
    piece = next((p for p in shaft.made.pieces if p.start <= at <= p.end), None)
    if piece is None or not lens._drawing().contains(event.pos().toPointF()):
        event.ignore()
        return
    lens.select(piece.name)
    menu = QMenu(lens)
    menu.addAction(translate(tr("Cut it here\tS")), lambda: lens.cut(at))
    if ", part " in piece.name or any(p.name.startswith(f"{piece.name}, part ") for p in shaft.made.pieces):
        menu.addAction(translate(tr("Make it whole again\tJ")), lens.join)
    if piece.kind in FREE:
        menu.addAction(translate(tr("Set a bearing here\tB")), lambda: lens.set_bearing(at))
    if piece.kind == "bearing" and piece.name not in ("bearing 1", "bearing 2"):
        menu.addAction(translate(tr("Take this bearing away\tDel")), lens.take_bearing)
    menu.addAction(translate(tr("Propose this shaft anew")), lambda: lens.anew(shaft.key))
    menu.exec(event.globalPos())

"""What is painted in the lens Shafts: the shaft in view with its diagrams, or the whole machine."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from cooper.desk.base import theme as th
from cooper.desk.lenses.face_plot import paint_face
from cooper.desk.lenses.machine_drawing import MachinePainter
from cooper.desk.lenses.shaft_diagrams import paint_diagrams
from cooper.desk.lenses.shaft_drawing import ShaftPainter, View, extent_of, gear_looks
from cooper.desk.lenses.shafts_places import FACE, TOP, WHOLE
from cooper.desk.widgets.tag import HEIGHT
from cooper.desk.widgets.typeset import advance, words
from cooper.document.units import number
from cooper.i18n.text import tr
from cooper.results.find_machine import cached_machine
from cooper.results.machine_result import ShaftResult

if TYPE_CHECKING:
    from cooper.desk.lenses.shafts_lens import ShaftsLens


def paint_leaders(lens: ShaftsLens, p: QPainter, shaft: ShaftResult, view: View) -> None:
    t = lens.theme
    for piece in shaft.made.pieces:
        for suffix, side in (("d", -1), ("l", 1)):
            tag = lens.tags.get(f"{shaft.key} {piece.name} {suffix}")
            if tag is None:
                continue
            hot = tag.hasFocus() or piece.name == lens.piece
            p.setPen(QPen(t.color("copper" if hot else "line"), th.HAIR))
            x = view.x(piece.at)
            edge = QPointF(tag.geometry().center().x(), tag.geometry().bottom() if side < 0 else tag.geometry().top())
            r = view.scale * piece.d / 2
            p.drawLine(edge, QPointF(x, view.y + side * (r - (2 if side < 0 else -4))))
            if side > 0:
                y = view.y + r + 4
                p.drawLine(QPointF(view.x(piece.start), y), QPointF(view.x(piece.end), y))


def paint_worst(lens: ShaftsLens, p: QPainter, shaft: ShaftResult, view: View) -> None:
    """A mark at the place of the least safety."""
    at, S = shaft.checked.place(shaft.checked.S_D)
    result = lens.machine()
    limit = 1.5 if result is None else result.rules.S_Dmin
    role = "short" if limit > S else "thin" if 1.1 * limit > S else "holds"
    x = view.x(at)
    p.setPen(QPen(lens.theme.color(role), th.BOLD))
    y = view.y
    p.drawLine(QPointF(x - 5, y - 5), QPointF(x + 5, y + 5))
    p.drawLine(QPointF(x - 5, y + 5), QPointF(x + 5, y - 5))


def paint_dragging(lens: ShaftsLens, p: QPainter, shaft: ShaftResult, view: View) -> None:
    assert lens.dragged is not None
    name, d = lens.dragged
    piece = shaft.made.piece(name)
    p.setPen(QPen(lens.theme.color("copper"), th.BOLD))
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawRect(view.box(piece.start, piece.end, -d / 2, d / 2, 1))
    text = tr("⌀ {d}", d=number(d, "length", lens.session.system))
    x = view.x(piece.at) - advance(text, th.font(bold=True)) / 2
    words(p, text, th.font(bold=True), lens.theme.color("copper"), x, view.y - view.scale * d / 2 - 6)


def shaft_before(lens: ShaftsLens, key: str) -> ShaftResult | None:
    state = lens.session.before
    if state is None:
        return None
    result = cached_machine(state.design.train, state.results)
    return None if result is None else result.shaft(key)


def paint_lens(lens: ShaftsLens, p: QPainter) -> None:
    """All that the lens shows now."""
    p.setRenderHint(QPainter.RenderHint.Antialiasing)
    t = lens.theme
    p.fillRect(lens.rect(), t.color("paper"))
    result = lens.machine()
    if result is None:
        text = lens.fault or tr("Laying out shafts, bearings and housing …")
        words(p, text, th.font(), t.color("short" if lens.fault else "muted"), 20, 100)
        return
    if lens.session.machine_waits:
        # That of the state before, which stands in the background until the new one comes.
        words(p, tr("being worked out …"), th.font(), t.color("muted"), 20, TOP + HEIGHT + 28)
        p.setOpacity(0.3)
    if lens.key == FACE:
        room = QRectF(14, TOP + HEIGHT + 12, lens.width() - 28, lens.height() - TOP - HEIGHT - 24)
        k = min(lens.session.stage, len(lens.session.results.stages) - 1)
        K = float(lens.session.results.stages[k].mesh.K_Hbeta)
        paint_face(p, t, room, lens.face.load(), lens.face.fault, K, lens.session.system)
        return
    if lens.key == WHOLE:
        room = QRectF(14, TOP + HEIGHT + 12, lens.width() - 28, lens.height() - TOP - HEIGHT - 24)
        MachinePainter(p, t, lens.session, result).whole(room)
        return
    shaft, view = lens.shaft, lens._view()
    if shaft is None or view is None:
        return
    _, _, reach = extent_of(shaft)
    painter = ShaftPainter(p, t, view, reach, lens.session.system)
    looks = gear_looks(lens.session.design.train, lens.session.results, shaft, result.places.planes)
    MachinePainter(p, t, lens.session, result).set_of(painter, shaft)
    painter.whole(shaft, looks, lens.piece)
    before = shaft_before(lens, shaft.key)
    if before is not None and before.made.pieces != shaft.made.pieces:
        painter.ghost(before.made)
    painter.forces(shaft, lens.case)
    paint_leaders(lens, p, shaft, view)
    paint_worst(lens, p, shaft, view)
    if lens.dragged is not None:
        paint_dragging(lens, p, shaft, view)
    lens.moving.paint(p, t, lens._drawing(), view)
    limits = (result.rules.S_Dmin, result.rules.S_Ymin)
    paint_diagrams(
        p, t, lens._diagrams(), view.x, shaft.checked, lens.case, limits, lens.cursor_at, lens.session.system
    )

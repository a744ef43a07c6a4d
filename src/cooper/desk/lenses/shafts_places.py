"""Where chips, tags and the piece's row stand in the lens Shafts."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF
from PySide6.QtWidgets import QPushButton

from cooper.desk.base import theme as th
from cooper.desk.lenses.shaft_diagrams import DIAGRAMS
from cooper.desk.lenses.shaft_drawing import extent_of
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.tag import HEIGHT
from cooper.i18n.text import tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.lenses.shafts_lens import ShaftsLens

LEFT, RIGHT, TOP = 132, 34, 78
"""Room for the diagrams' names, at the right, and for chips above; px."""
WHOLE, FACE = tr("whole machine"), tr("load along the face")


ARROWS = 40
"""Room for the arrows of the forces above and below a shaft; px."""
UNDER = 2 * HEIGHT + 52
"""Room for the lengths' tags and the bar of the piece under the drawing; px."""
LEAST_DIAGRAM, COMFORTABLE_DIAGRAM = 29.0, 44.0
"""Height of a diagram: at least, and where there is room; px."""


def drawing_room(lens: ShaftsLens) -> QRectF:
    """The room of the shaft's drawing: as high as it needs to fill the width, as far as the diagrams leave it."""
    top = float(TOP + HEIGHT + 10)
    wide, left = float(lens.width() - LEFT - RIGHT), lens.height() - top - UNDER - len(DIAGRAMS) * LEAST_DIAGRAM
    least = lens.height() - top - UNDER - len(DIAGRAMS) * COMFORTABLE_DIAGRAM
    needed = left
    if lens.shaft is not None:
        start, end, reach = extent_of(lens.shaft)
        needed = wide / (end - start) * 2 * reach + 2 * ARROWS
    return QRectF(LEFT, top, wide, max(min(needed, left), least, 60.0))


def arrange(lens: ShaftsLens) -> None:
    x = 14
    for chip in lens.chips:
        chip.move(x, 44)
        x += chip.width() + 2
    lens.count.move(max(lens.width() - lens.count.width() - 16, x), 44)
    room = lens._drawing()
    lens.bar.setGeometry(14, round(room.bottom()) + HEIGHT + 10, lens.width() - 28, HEIGHT + 20)
    if lens.key in (WHOLE, FACE):
        arrange_whole(lens)
        return
    shaft, view = lens.shaft, lens._view()
    if shaft is None or view is None:
        return
    above = [(tr("{key} {name} d", key=shaft.key, name=p.name), view.x(p.at)) for p in shaft.made.pieces]
    below = [(tr("{key} {name} l", key=shaft.key, name=p.name), view.x(p.at)) for p in shaft.made.pieces]
    tags_in_row(lens, [(k, at) for k, at in above if k in lens.tags], TOP)
    tags_in_row(lens, [(k, at) for k, at in below if k in lens.tags], round(room.bottom()) + 4)


def tags_in_row(lens: ShaftsLens, places: list[tuple[str, float]], y: int) -> None:
    """Tags in a row, each as near to its place as its neighbours let it."""
    if not places:
        return
    widths = [lens.tags[k].width() + 4 for k, _ in places]
    lefts = [at - w / 2 for (_, at), w in zip(places, widths, strict=True)]
    room = (8.0, lens.width() - 8.0)
    for _ in range(60):
        moved = False
        for n in range(len(lefts) - 1):
            over = lefts[n] + widths[n] - lefts[n + 1]
            if over > 0.1:
                lefts[n] -= over / 2
                lefts[n + 1] += over / 2
                moved = True
        lefts[0] = max(lefts[0], room[0])
        lefts[-1] = min(lefts[-1], room[1] - widths[-1])
        if not moved:
            break
    for (key, _), left in zip(places, lefts, strict=True):
        lens.tags[key].move(round(left), y)


def arrange_whole(lens: ShaftsLens) -> None:
    if lens.key == FACE:
        lens.face.arrange(list(lens.tags.values()), TOP)
        return
    angles = [t for k, t in lens.tags.items() if k.startswith("phi_")]
    box = [t for k, t in lens.tags.items() if not k.startswith("phi_")]
    x = lens.width() - RIGHT + 10
    for tag in reversed(angles):
        x -= tag.width() + 6
        tag.move(round(x), TOP)
    x = 14
    for tag in box:
        tag.move(x, TOP)
        x += tag.width() + 6


def make_chips(lens: ShaftsLens, names: tuple[tuple[str, str], ...]) -> None:
    for chip in lens.chips:
        drop(chip)
    lens.chips = []
    for key, name in (*names, (WHOLE, WHOLE), (FACE, FACE)):
        chip = QPushButton(translate(name), lens)
        chip.setObjectName(f"shaft_{key.replace(' ', '_')}")
        chip.setProperty("chip", True)
        chip.setProperty("key", key)
        chip.clicked.connect(lambda _on=False, key=key: lens.choose(key))
        chip.adjustSize()
        chip.show()
        lens.chips.append(chip)


def mark_chip(lens: ShaftsLens) -> None:
    for chip in lens.chips:
        here = chip.property("key") == lens.key
        th.set_text_role(chip, "copper" if here else "muted", bold=here)
        chip.setAccessibleDescription(translate(tr("shown") if here else ""))
        chip.adjustSize()

"""The Bench: the drawing of the selected mesh with its tags standing on it."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from itertools import pairwise
from math import radians
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QPoint, QPointF, QRectF, Signal
from PySide6.QtGui import QContextMenuEvent, QResizeEvent
from PySide6.QtWidgets import QPushButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.lens_entries import LENSES
from cooper.desk.base.session import Session
from cooper.desk.lenses.drawing import MeshDrawing
from cooper.desk.lenses.gear_item import on_circle
from cooper.desk.widgets.labels import plain_tip, text_button
from cooper.desk.widgets.tag import HEIGHT, Tag
from cooper.editing.fields import Field
from cooper.editing.make_sets import set_number
from cooper.editing.sheet_fields import bench_fields
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate

if TYPE_CHECKING:
    from cooper.desk.lenses.set_lens import SetLens

GAP = 7
EDGE = 20
COLUMN = ("z", "d_a", "d", "x", "b", "h_back")
LEADER_ANGLES = {"z": 148.0, "d_a": 166.0, "d": 184.0}
"""Direction in which a leader meets its circle on the left gear; mirrored on the right one; degrees."""


class Bench(QWidget):
    """Drawing and tags; ``more_wanted`` asks for the sheet of gear 1, gear 2 or (0) the mesh, ``sheet_wanted`` for
    one by its key."""

    more_wanted = Signal(int)
    set_wanted = Signal()
    sheet_wanted = Signal(str)
    verbs_wanted = Signal(QPoint)
    """What can be done here is asked for, at a place of the screen."""

    def __init__(self, session: Session, theme: th.Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session: Session = session
        self.theme: th.Theme = theme
        self.setObjectName("bench")
        self.drawing: MeshDrawing = MeshDrawing(session, theme, self)
        self.drawing.viewed.connect(self._lead)
        self.views: dict[str, QWidget] = {"teeth": self.drawing}
        self.lens = "teeth"
        self.lens_buttons: dict[str, QPushButton] = {}
        for entry in LENSES.values():
            button = text_button(entry.words, self)
            button.setObjectName(f"lens_{entry.key}")
            button.setProperty("chip", True)
            button.clicked.connect(partial(self.set_lens, entry.key))
            self.lens_buttons[entry.key] = button
        self.tags: dict[str, Tag] = {}
        for key, field in bench_fields(session.design, session.stage).items():
            self._tag(key, field)
        self.verbs = text_button(tr("What can be done"), self)
        self.verbs.setObjectName("what_can_be_done")
        self.verbs.setProperty("chip", True)
        self.verbs.clicked.connect(
            lambda: self.verbs_wanted.emit(self.verbs.mapToGlobal(self.verbs.rect().bottomLeft()))
        )
        self.more = []
        for i, name in ((1, "more_1"), (2, "more_2"), (0, "more_mesh")):
            button = QPushButton(self)
            button.setObjectName(name)
            button.setProperty("chip", True)
            button.clicked.connect(lambda _on=False, i=i: self.more_wanted.emit(i))
            self.more.append(button)
        self._order()
        session.changed.connect(self.refresh)
        session.system_changed.connect(self.refresh)
        # What is being typed belongs to the stage before, and a fault of it says nothing of another.
        session.stage_selected.connect(lambda _i: self._let_go())
        session.opened.connect(self._let_go)
        session.stage_selected.connect(lambda _i: self.refresh())
        # Marked before it is dressed, a button need not be dressed again.
        self._mark_lens()
        for button in self.more:
            self._warn(button)

    def _let_go(self) -> None:
        for tag in self.findChildren(Tag):
            tag.let_go()

    @property
    def set_number(self) -> int | None:
        """Number of the set of the selected stage."""
        return set_number(self.session.design, self.session.stage)

    @property
    def set(self) -> SetLens:
        """The lens of a whole set."""
        result: SetLens = self.view("set")
        return result

    def begin(self) -> None:
        """Show a design that has just been opened: its set, where the first stage belongs to one, else its teeth."""
        self.set_lens("set")
        self.views[self.lens].setFocus()

    def _tag(self, key: str, field: Field) -> Tag:
        """The tag of a field, made when there is none: kinds have different ones."""
        # The tooth size keeps its tag when module and diametral pitch change places.
        name = "size" if key in ("m_n", "P_nd") else key
        if name not in self.tags:
            tag = Tag(self.session, field, self.theme, self)
            tag.focused.connect(lambda _key: self._lead())
            tag.show()
            self.tags[name] = tag
        return self.tags[name]

    def column(self, i: int) -> dict[str, Tag]:
        """The visible tags of gear i (1, 2) by symbol, from above."""
        names = {n: f"{n}{i}" if n in ("d_a", "h_back") else f"{n}_{i}" for n in COLUMN}
        return {n: self.tags[key] for n, key in names.items() if key in self.tags and not self.tags[key].isHidden()}

    def set_lens(self, lens: str) -> None:
        """Show one of the lenses; the tags stay, but for those of a set, which has its own."""
        if lens == "set" and self.set_number is None:
            lens = "teeth"
        away = self._own_tags(self.lens) and self.lens != lens
        self.view(lens)
        self.lens = lens
        if away:
            self.refresh()
        for name, view in self.views.items():
            view.setVisible(name == lens)
        self._show_tags()
        self._mark_lens()
        self._arrange()
        self.session.look_at_whole(lens == "set")

    def _own_tags(self, lens: str) -> bool:
        """Whether a lens brings tags of its own, always or as it is now."""
        return LENSES[lens].own_tags or bool(getattr(self.views.get(lens), "own_tags", False))

    def share_tags(self) -> None:
        """The lens that is looked at has taken the place of the tags, or gives them back."""
        if not self._own_tags(self.lens):
            self.refresh()
        self._show_tags()
        self._arrange()

    def view(self, lens: str) -> Any:
        """The view of a lens, made when it is first asked for."""
        if lens not in self.views:
            view = LENSES[lens].make(self)
            view.setGeometry(self.rect())
            # Tags and buttons stand above it.
            view.lower()
            # Where it is left, the keys go on to the lenses, as from the drawing.
            QWidget.setTabOrder(self.drawing, view)
            self.views[lens] = view
        return self.views[lens]

    def fit(self) -> None:
        """Show all of what the lens draws."""
        if self.lens == "set":
            self.view("set").fit()
        else:
            self.drawing.fit()

    def _show_tags(self, fields: Mapping[str, Field] | None = None) -> None:
        if fields is None:
            fields = bench_fields(self.session.design, self.session.stage)
        own = not self._own_tags(self.lens)
        for key, tag in self.tags.items():
            tag.setVisible(own and (key in fields or key == "size"))
        for button in self.more:
            button.setVisible(own)

    def _warn(self, button: QPushButton) -> None:
        """Mark a way to further data, where a warning concerns them, and tell it."""
        k = self.session.stage
        result = [
            n for n in self.session.results.warnings() if button.objectName() in n.fields and n.stage in (None, k)
        ]
        counts = next((c for c in ("short", "thin") if any(n.counts == c for n in result)), "muted") if result else ""
        th.set_style(button, "warned", counts)
        plain_tip(button, join("\n", (n.text for n in result)))
        button.setAccessibleDescription(translate(join("; ", (n.text for n in result))))

    def more_of_set(self, stage: int, i: int) -> None:
        """The sheet of a gear of the set, or (stage -1) that of the set."""
        if stage < 0:
            self.set_wanted.emit()
            return
        self.session.select_stage(stage)
        self.more_wanted.emit(i)

    def _mark_lens(self) -> None:
        self.lens_buttons["set"].setVisible(self.set_number is not None)
        for lens, button in self.lens_buttons.items():
            here = lens == self.lens
            if th.set_text_role(button, "copper" if here else "muted", bold=here):
                button.setAccessibleDescription(translate(tr("shown") if here else ""))
                button.adjustSize()

    def _order(self) -> None:
        """Tab goes through the mesh's tags, then gear 1, then gear 2."""
        chain: list[QWidget] = [self.tags[n] for n in ("size", "alpha_n", "beta", "a_w")] + [self.more[2]]
        for i in (1, 2):
            chain += [*self.column(i).values(), self.more[i - 1]]
        for a, b in pairwise(chain):
            QWidget.setTabOrder(a, b)

    def refresh(self) -> None:
        if "set" in self.views:
            self.set.refresh()
        if self.lens == "set" and self.set_number is not None:
            # What stands under it is drawn anew once it is looked at again.
            self._mark_lens()
            return
        if self.lens == "set":
            self.set_lens("teeth")
        if self._own_tags(self.lens):
            self.views[self.lens].refresh()  # type: ignore[attr-defined]
            self._mark_lens()
            return
        fields = bench_fields(self.session.design, self.session.stage)
        for key, field in fields.items():
            self._tag(key, field).refresh(field)
        self._show_tags(fields)
        self._mark_lens()
        stage = self.session.design.train.stages[self.session.stage]
        names = [stage.gears[0].name, stage.gears[1].name, tr("the mesh")]
        for button, name in zip(self.more, names, strict=True):
            self._warn(button)
            words = tr("More of the mesh …") if name == "the mesh" else tr("{name} …", name=name)
            if button.text() != words:
                button.setText(translate(words))
                button.setAccessibleName(
                    translate(tr("All data of the mesh") if name == "the mesh" else tr("All data of {name}", name=name))
                )
                button.adjustSize()
        self.drawing.refresh()
        self.views[self.lens].update()
        self._arrange()

    def apply_theme(self, theme: th.Theme) -> None:
        self.theme = theme
        for tag in self.tags.values():
            tag.theme = theme
        for view in self.views.values():
            view.apply_theme(theme)  # type: ignore[attr-defined]
        for button in (*self.lens_buttons.values(), *self.more):
            button.adjustSize()
        self.refresh()

    def resizeEvent(self, event: QResizeEvent) -> None:
        for view in self.views.values():
            view.setGeometry(self.rect())
        self._arrange()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """What can be done with what is on the Bench."""
        self.verbs_wanted.emit(event.globalPos())

    def _arrange(self) -> None:
        """Columns at both sides, the mesh's own tags above, the centre distance on its dimension line."""
        x = EDGE - 6
        for button in self.lens_buttons.values():
            button.move(x, 12)
            x += 0 if button.isHidden() else button.width() + 2
        x_lenses = x
        self.verbs.adjustSize()
        self.verbs.move(self.width() - self.verbs.width() - EDGE + 8, 12)
        for i in (1, 2):
            tags = list(self.column(i).values())
            height = len(tags) * (HEIGHT + GAP) + 26
            y = max(60, round((self.height() - 40 - height) / 2))
            for tag in tags:
                x = EDGE if i == 1 else self.width() - EDGE - tag.width()
                tag.move(x, y)
                y += HEIGHT + GAP
            button = self.more[i - 1]
            button.move(EDGE - 4 if i == 1 else self.width() - EDGE - button.width() + 4, y)
        row: list[QWidget] = [self.tags["size"], self.tags["alpha_n"], self.tags["beta"], self.more[2]]
        # In the middle, but clear of the names of the lenses.
        x = max(round((self.width() - sum(w.width() for w in row) - 2 * GAP) / 2), x_lenses + 2 * GAP)
        for w in row:
            w.move(x, 14 + (HEIGHT - w.height()) // 2)
            x += w.width() + GAP
        # In a narrow window the right button alone has it.
        taken = x if self.tags["size"].isVisibleTo(self) else x_lenses
        self.verbs.setVisible(self.verbs.x() > taken)
        self._lead()

    def _lead(self) -> None:
        """Leader lines from the tags to what they measure; the centre distance's tag onto its dimension line."""
        d, stage = self.drawing, self.drawing.stage
        leaders = []
        free = QRectF(self.rect()).adjusted(EDGE + 90, 46, -(EDGE + 90), -8)
        for i in (1, 2):
            cx = 0.0 if i == 1 else stage.wheel_x
            gear = stage.gears[i - 1]
            column = self.column(i)
            for n, degrees in LEADER_ANGLES.items():
                if n not in column or (n not in gear and n != "z") or not stage.kinds[i - 1].turns:
                    continue
                tag = column[n]
                r = (gear.d + gear.d_f) / 4 if n == "z" else gear[n] / 2
                angle = radians(degrees if i == 1 else 180 - degrees)
                scene = on_circle(cx, r, angle)
                point = d.at(scene.x(), scene.y())
                edge = tag.geometry().right() + 1 if i == 1 else tag.geometry().left() - 1
                if free.contains(point):
                    leaders.append((QPointF(edge, tag.geometry().center().y()), point, tag.hasFocus()))
        d.leaders = leaders
        a_w = self.tags["a_w"]
        if self.lens != "teeth":
            a_w.move(QPoint(round((self.width() - a_w.width()) / 2), self.height() - HEIGHT - 6))
            return
        one, two = d.at(0, 0), d.at(stage.wheel_x, 0)
        middle = min(max((one.x() + two.x()) / 2, a_w.width() / 2 + EDGE), self.width() - a_w.width() / 2 - 160)
        a_w.move(QPoint(round(middle - a_w.width() / 2), round(d.dimension_y() - HEIGHT / 2)))
        d.viewport().update()

    def keyPressEvent(self, event: object) -> None:
        event.ignore()  # type: ignore[attr-defined]

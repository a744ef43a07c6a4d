"""The Stress lens: the field of the true tooth under the load where the Roll has it, its root beside what the
methods say."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPaintEngine,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QPushButton, QWidget
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.workers import submit
from cooper.desk.lenses.contact_lens import stage_along
from cooper.desk.lenses.drawing import MeshDrawing
from cooper.desk.lenses.lens import Lens
from cooper.desk.lenses.loaded_source import LoadedSource
from cooper.desk.lenses.stress_drawing import KINDS, StressDrawing, StressView, paint_scale
from cooper.desk.lenses.stress_panel import history_plot, paint_panel
from cooper.desk.lenses.stress_words import ROWS, moment_sentences, name_chips, place_chips
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.tag import HEIGHT, Tag
from cooper.desk.widgets.typeset import wrapped
from cooper.editing.edit import set_many
from cooper.editing.fields import Field
from cooper.editing.sheet_fields import bench_fields, gear_fields, member_path
from cooper.exchange.plots import Plot
from cooper.field.stress_field import FieldBasis
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.root_choice import RootChoice
from cooper.results.root_comparison import RootComparison, RootHistory, root_comparison, root_history

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench


PANEL, TOP, BOTTOM, LEFT = 350, 104, 52, 84
"""Room for the numbers, for chips above, for tags below, for the scale; px."""
MAGNIFIED = (0.0, 1.0, 20.0, 100.0, 500.0)


class StressLens(Lens):
    """Dragging or the arrows roll the mesh, the wheel zooms, Shift-drag moves; 1 and 2 choose the gear, Q what is
    shown, M magnifies the deflection."""

    VERBS = (
        (tr("The next kind of stress"), "Q", Qt.Key.Key_Q),
        (tr("Magnify the deflection"), "M", Qt.Key.Key_M),
        (tr("Directions on or off"), "S", Qt.Key.Key_S),
        (tr("Lines of equal stress on or off"), "L", Qt.Key.Key_L),
        (tr("The driving gear"), "1", Qt.Key.Key_1),
        (tr("The driven gear"), "2", Qt.Key.Key_2),
        (tr("Show the whole tooth"), "F", Qt.Key.Key_F),
        (tr("Roll on"), tr("Right"), Qt.Key.Key_Right),
    )
    """What its keys do, in words."""

    def __init__(self, session: Session, theme: th.Theme, drawing: MeshDrawing, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.drawing = drawing
        self.setObjectName("stress_lens")
        self.setAccessibleName(translate(tr("Stress of the true tooth under load")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.gear, self.shared = 0, True
        self.look = StressView()
        self.source = LoadedSource(session, self)
        self.source.came.connect(self._came)
        self._drawn: StressDrawing | None = None
        self._size = (0.0, 0.0)
        self._history: tuple[object, RootHistory | None] = (None, None)
        self._beside: tuple[object, RootComparison | None] = (None, None)
        self._drag: tuple[str, QPointF] | None = None
        self._picture, self._stale = QPixmap(), True
        self.searching, self.told = False, ""
        self.tags: dict[str, Tag] = {}
        self.chips: dict[str, QPushButton] = {}
        self.top = TOP
        """Where the drawing begins, under the words that choose and do."""
        for name, does in (name_does for row in ROWS for name_does in row):
            chip = QPushButton(self)
            chip.setObjectName(f"stress_{name}")
            th.set_does(chip, does)
            chip.clicked.connect(lambda _on=False, name=name: self.press(name))
            self.chips[name] = chip
        drawing.rolled.connect(lambda _roll: self.update())
        session.stage_selected.connect(lambda _k: self._other_stage())
        session.opened.connect(self._other_stage)
        self.refresh()

    # -- what it shows

    @property
    def basis(self) -> FieldBasis | None:
        """The field of the chosen gear, as fine as it is known."""
        return self.source.fields.get(self.gear)

    def cursor_g(self) -> float:
        """Where the contact of the tooth stands on the path; mm."""
        result = self.drawing.contact_gs()
        return float(result[0]) if len(result) else float(self.stage.mesh.g_C)

    def length(self) -> float:
        """Length of roll of the chosen gear where the contact stands; mm."""
        g = self.cursor_g()
        return g if self.gear == 0 else abs(self.stage.T2 - g)

    def line_load(self) -> float:
        """The line load on the tooth where the contact stands; N/mm."""
        ask, history = self.source.ask, self.history()
        if ask is None:
            return 0.0
        whole = ask.F / ask.b
        if not self.shared:
            return whole
        if history is None:
            # Until the loaded teeth tell how pairs share it.
            return whole * float(stage_along(self.stage, np.array([self.cursor_g()])).share[0])
        return history.at(self.cursor_g())

    def history(self) -> RootHistory | None:
        """The root's stress over the mesh, found once for each answer."""
        basis, cycle = self.basis, self.source.cycle
        if basis is None or cycle is None:
            return None
        if self._history[0] != (key := (id(basis), id(cycle), self.gear)):
            self._history = (key, root_history(self.stage, self.gear, basis, cycle))
        return self._history[1]

    def plots(self) -> list[Plot]:
        """The root's stress over the mesh, once the loaded teeth are known."""
        history = self.history()
        return [history_plot(history)] if history is not None else []

    def comparison(self) -> RootComparison | None:
        """The methods beside the field, found once for each answer."""
        basis, ask = self.basis, self.source.ask
        if basis is None or ask is None:
            return None
        if self._beside[0] != (key := (id(basis), id(ask), self.gear)):
            self._beside = (key, root_comparison(self.stage, self.gear, basis, ask))
        return self._beside[1]

    def refresh(self) -> None:
        """Chips and tags for the present state; the field is asked for where the lens can be seen."""
        if not self.isVisible() and self.tags:
            return
        self.source.gears = (self.gear,)
        fields = self._fields()
        if list(fields) == list(self.tags):
            for key, field in fields.items():
                self.tags[key].refresh(field)
        else:
            for tag in self.tags.values():
                drop(tag)
            self.tags = {}
            for key, field in fields.items():
                tag = Tag(self.session, field, self.theme, self)
                tag.setObjectName(f"stress_tag_{key}")
                tag.show()
                self.tags[key] = tag
        asked = self.isVisible() and self.source.look()
        name_chips(self)
        self._arrange()
        # The field before stays in sight until the new one comes.
        if not asked:
            self.update()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def _fields(self) -> dict[str, Field]:
        """What forms the chosen gear's root."""
        k, i = self.session.stage, self.gear + 1
        wanted = ("z", "x", "h_fP", "rho_fP", "h_Ff", "w_F", "z_0", "d_i", "d_bore", "d_rim", "h_back")
        own = {**bench_fields(self.session.design, k), **gear_fields(self.session.design, k, i)}
        stage = self.session.design.train.stages[k]
        if stage.gears[self.gear].tool == "elliptic":
            own = {key: f for key, f in own.items() if f.symbol != "rho_fP"}
        return {key: f for s in wanted for key, f in own.items() if f.symbol == s and f.index == i}

    def _other_stage(self) -> None:
        # What was told of another tooth does not hold here.
        self.told = ""
        self.look.scale = 0.0
        if self.isVisible():
            self.refresh()

    def _came(self) -> None:
        basis = self.basis
        if basis is None:
            self._drawn = None
        elif self._drawn is None or self._drawn.basis is not basis:
            size = (basis.m_n, float(np.ptp(basis.nodes[:, 0])))
            if self._drawn is None or not np.allclose(size, self._size, rtol=0.3):
                # Another tooth altogether.
                self.look.scale = 0.0
            self._size = size
            self._drawn = StressDrawing(basis)
        self.describe()
        self.update()

    # -- acting

    def press(self, name: str) -> None:
        """What a chip does."""
        look = self.look
        if name == "gear":
            self.choose(1 - self.gear)
        elif name == "shown":
            kinds = list(KINDS)
            look.shown = kinds[(kinds.index(look.shown) + 1) % len(kinds)]
        elif name == "load":
            self.source.step_load()
        elif name == "share":
            self.shared = not self.shared
        elif name == "magnify":
            look.magnified = MAGNIFIED[(MAGNIFIED.index(look.magnified) + 1) % len(MAGNIFIED)]
        elif name == "fit":
            look.scale = 0.0
        elif name in ("ellipse", "hob"):
            self.least(name)
        else:
            setattr(look, name, not getattr(look, name))
        name_chips(self)
        self._arrange()
        self.update()

    def choose(self, gear: int) -> None:
        """Show the field of gear 0 or 1."""
        if gear != self.gear:
            self.gear, self.look.scale, self.told = gear, 0.0, ""
            self.refresh()
            self._came()

    def least(self, way: str) -> None:
        """Find the root that is stressed least, beside the window, and give it to the gear."""
        ask, session, i = self.source.asked, self.session, self.gear
        if ask is None or self.searching:
            return
        self.searching, self.told = True, tr("Roots are being tried …")
        held, k = session.results, session.stage
        path = member_path(session.design, k, i + 1)
        name = {"ellipse": "elliptic", "hob": "hob"}[way]

        def take(result: RootChoice) -> None:
            if not isValid(self):
                return
            here = (self.gear, session.stage) == (i, k)
            if held is not session.results:
                self.told = tr("The design was changed meanwhile; no root was given.") if here else ""
                return
            # What is told of one gear does not stand beside another.
            self.told = result.why if here else ""
            if result.values:
                values = {f"{path}.{s}": v for s, v in result.values.items()}
                session.edit(lambda d, _r: set_many(d, values), tr("root of least stress"), "root")

        def done(fault: Exception | None) -> None:
            if isValid(self):
                self.searching = False
                if fault is not None:
                    self.told = str(getattr(fault, "reason", fault))
                self.refresh()

        submit(
            "cooper.results.root_choice:each_root", held.stages[k], ask, i, name, take=take, done=done, lane="relief"
        )

    def area(self) -> QRectF:
        """Where the field is drawn; px."""
        return QRectF(
            LEFT,
            self.top,
            max(self.width() - self.panel() - LEFT - 24, 80),
            max(self.height() - self.top - BOTTOM, 80),
        )

    def panel(self) -> int:
        """Room for the numbers; in a narrow window less than there would be."""
        return min(PANEL, round(0.46 * self.width()))

    def _arrange(self) -> None:
        self.top = place_chips(self)
        wide = sum(tag.width() + 8 for tag in self.tags.values())
        x = LEFT if LEFT + wide < self.width() else 14
        for tag in self.tags.values():
            tag.move(x, self.height() - HEIGHT - 10)
            x += tag.width() + 8

    def apply_theme(self, theme: th.Theme) -> None:
        for tag in self.tags.values():
            tag.theme = theme
        super().apply_theme(theme)
        name_chips(self)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.look.scale = 0.0
        self._arrange()

    def set_length(self, step: float) -> None:
        """Roll the mesh so that the contact moves by a step along the path (mm)."""
        turn = step / (float(self.stage.gears[0].d_b) / 2) * self.drawing.side
        self.drawing.set_roll(self.drawing.roll + turn)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        what = "move" if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else "roll"
        self._drag = (what, event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is None:
            return
        what, before = self._drag
        step = event.position() - before
        self._drag = (what, event.position())
        if what == "move" and self.look.scale > 0:
            x, y = self.look.middle
            self.look.middle = (x - step.x() / self.look.scale, y + step.y() / self.look.scale)
            self.update()
        else:
            m = self.stage.mesh
            self.set_length(-step.y() / 300 * float(m.g_E - m.g_A) * (1 if self.gear == 0 else -1))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._drag = None

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom(1.15 ** (event.angleDelta().y() / 120), event.position())

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Zoom about a place of the lens."""
        area, look = self.area(), self.look
        if self._drawn is None or look.scale <= 0:
            return
        whole = StressView()
        self._drawn.fit(whole, area)
        scale = min(max(look.scale * factor, 0.4 * whole.scale), 40 * whole.scale)
        at = (about or area.center()) - area.center()
        x, y = look.middle
        look.middle = (x + at.x() * (1 / look.scale - 1 / scale), y - at.y() * (1 / look.scale - 1 / scale))
        look.scale = scale
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        keys: dict[int, str] = {Qt.Key.Key_Q: "shown", Qt.Key.Key_M: "magnify", Qt.Key.Key_F: "fit"}
        keys |= {Qt.Key.Key_S: "strokes", Qt.Key.Key_L: "lines"}
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            m = self.stage.mesh
            self.set_length(float(m.g_E - m.g_A) / 60 * (1 if key == Qt.Key.Key_Right else -1))
        elif key in (Qt.Key.Key_1, Qt.Key.Key_2):
            self.choose(key - Qt.Key.Key_1)
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            self.zoom(1.25 if key == Qt.Key.Key_Plus else 0.8)
        elif key in keys:
            self.press(keys[key])
        else:
            event.ignore()

    # -- painting

    def update(self) -> None:  # type: ignore[override]
        """Paint anew: what is there no longer holds."""
        self._stale = True
        super().update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """What lies over it, tags and chips, asks for it again and again: on the screen the picture before is put
        back where it still holds."""
        p = QPainter(self)
        ratio = self.devicePixelRatioF()
        if p.paintEngine().type() != QPaintEngine.Type.Raster or p.deviceTransform().m11() != ratio:
            self._paint(p)
            return
        size = self.size() * ratio
        if self._stale or self._picture.size() != size:
            self._picture = QPixmap(size)
            self._picture.setDevicePixelRatio(ratio)
            painter = QPainter(self._picture)
            painter.setFont(self.font())
            self._paint(painter)
            painter.end()
            self._stale = False
        p.drawPixmap(0, 0, self._picture)

    def _paint(self, p: QPainter) -> None:
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), self.theme.color("paper"))
        area, system = self.area(), self.session.system
        panel = QRectF(self.width() - self.panel(), self.top, self.panel() - 16, self.height() - self.top - 12)
        if self._drawn is None:
            text = self.source.fault or tr("The stress field is being found …")
            room = min(self.width() - area.left() - 16, 620)
            wrapped(p, text, th.font(), self.theme.color("muted"), area.left(), area.top() + 10, room)
            return
        L, w = self.length(), self.line_load()
        end = self._drawn.paint(p, self.theme, area, self.look, L, w, system)
        scale = QRectF(16, area.top() + 30, 14, min(area.height() - 60, 260))
        paint_scale(p, self.theme, scale, end, self.look.shown, system)
        stage = self.session.design.train.stages[self.session.stage]
        gear = stage.gears[self.gear]
        paint_panel(
            p,
            self.theme,
            panel,
            moment_sentences(self, L, w),
            self.comparison(),
            self.history(),
            self.cursor_g(),
            gear.bending == "both ways",
            system,
        )


def create_lens(bench: Bench) -> StressLens:
    """The lens of a Bench."""
    return StressLens(bench.session, bench.theme, bench.drawing, bench)

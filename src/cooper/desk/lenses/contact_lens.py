"""The Contact lens: sliding, pressure and load share along the path of contact, with the Roll's cursor."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QPushButton, QWidget

from cooper.arrays import Loose as Array
from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.lenses.drawing import MARGINS, MeshDrawing
from cooper.desk.lenses.lens import Lens
from cooper.desk.lenses.loaded_contact_view import LoadedContact
from cooper.desk.lenses.loaded_plots import plots_of
from cooper.desk.widgets.plot import paint_plot
from cooper.desk.widgets.typeset import words
from cooper.document.quantities import plain
from cooper.document.units import number_with_unit
from cooper.exchange.plots import Line, Plot
from cooper.gears.path_of_contact import MOST_PAIRS, diameters_at
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.rating.along_path import AlongPath, along_path
from cooper.results.result_tree import StageResults

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench

POINTS, ROWS = 241, 4
BY_FORMULAS, MAP = tr("by formulas"), tr("error over load and relief")
MODES = (BY_FORMULAS, tr("loaded teeth"), MAP)
LOWEST_SLIDING = -5.0


def stage_along(stage: StageResults, g: Array) -> AlongPath:
    """Values along the path of a stage, with its own loads and factors."""
    m = stage.mesh
    K = m.K_A * m.K_gamma * m.K_V * m.K_Hbeta * m.K_Halpha
    return along_path(g, stage.T2, stage.ratio, m.g_A, m.g_E, m.p_et, m.F_bt, m.b_H, m.Z_E, K, np.radians(m.beta_b))


class ContactLens(Lens):
    """The plots; dragging or the arrow keys move the contact and roll the drawing with it. L goes from formulas to
    loaded teeth and the map of their error."""

    VERBS = (
        (tr("Formulas, loaded teeth, error over load in turn"), "L", Qt.Key.Key_L),
        (tr("Move the contact on"), tr("Right"), Qt.Key.Key_Right),
        (tr("Move the contact back"), tr("Left"), Qt.Key.Key_Left),
    )
    """What its keys do, in words."""

    tags_changed = Signal()
    """Tags of its own take the place of the Bench's, or give it back."""

    def __init__(self, session: Session, theme: th.Theme, drawing: MeshDrawing, parent: QWidget) -> None:
        super().__init__(session, theme, parent)
        self.drawing = drawing
        self.setObjectName("contact_lens")
        self.setAccessibleName(translate(tr("Contact along the path")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        drawing.rolled.connect(lambda _roll: self.update())
        self.loaded = LoadedContact(session, theme, drawing, self)
        self.loaded.source.came.connect(self.describe)
        self.mode = BY_FORMULAS
        self.modes: dict[str, QPushButton] = {}
        for name in MODES:
            chip = QPushButton(translate(name), self)
            chip.setObjectName(f"contact_{name.replace(' ', '_')}")
            chip.setProperty("chip", True)
            chip.clicked.connect(lambda _on=False, name=name: self.show_mode(name))
            self.modes[name] = chip
        session.stage_selected.connect(lambda _k: self.refresh())
        self._mark()

    @property
    def own_tags(self) -> bool:
        """Whether tags of its own stand in place of the Bench's."""
        return self.mode != BY_FORMULAS

    def show_mode(self, mode: str) -> None:
        """Curves by formulas, of loaded teeth, or the map of the error."""
        self.mode = mode
        self.loaded.setVisible(self.own_tags)
        # Shown with the mode, so that what it asks for can come.
        self.loaded.mapped = mode == MAP
        self._mark()
        self.tags_changed.emit()
        self.refresh()

    def _mark(self) -> None:
        x = 14
        for name, chip in self.modes.items():
            here = name == self.mode
            th.set_text_role(chip, "copper" if here else "muted", bold=here)
            chip.setAccessibleDescription(translate(tr("shown") if here else ""))
            chip.adjustSize()
            chip.move(x, 44)
            x += chip.width() + 4
            chip.raise_()
        self.loaded.load.setParent(self)
        self.loaded.load.setVisible(self.own_tags)
        self.loaded.load.move(x + 12, 44)
        self.loaded.load.adjustSize()
        self.loaded.other.setParent(self)
        self.loaded.other.setVisible(self.own_tags and self.mode != MAP)
        self.loaded.other.adjustSize()
        self.loaded.other.move(x + 12 + 165, 44)

    def refresh(self) -> None:
        """Follow the design."""
        if self.own_tags and self.isVisible():
            self.loaded.look()
        self.describe()
        self.update()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def resizeEvent(self, event: object) -> None:
        self.loaded.setGeometry(self.rect())

    def apply_theme(self, theme: th.Theme) -> None:
        self.loaded.apply_theme(theme)
        super().apply_theme(theme)
        self._mark()

    def cursor_g(self) -> float:
        """Position of the contact that is followed: the first on the path now; mm."""
        result = self.drawing.contact_gs()
        return float(result[0]) if len(result) else self.stage.mesh.g_C

    def curves(self) -> AlongPath:
        """Values along the path; both sides of the steps of the load share belong to the curve."""
        m = self.stage.mesh
        steps = [e for k in range(1, MOST_PAIRS) for e in (m.g_E - k * m.p_et, m.g_A + k * m.p_et)]
        edges = [e + s * 1e-6 for e in steps for s in (-1, 1) if m.g_A < e < m.g_E]
        return stage_along(self.stage, np.sort(np.concatenate((np.linspace(m.g_A, m.g_E, POINTS), edges))))

    def plots(self) -> list[Plot]:
        """The plots in view."""
        curves = self.curves()
        return [plot for _f, plot, _on in plots_of(self.loaded, curves)] if self.own_tags else self._by_formulas(curves)

    def _by_formulas(self, a: AlongPath) -> list[Plot]:
        """Plots of the formulas; a straight flank has no radius of curvature to plot."""
        kind = self.stage.kind

        def plot(title: str, kind: str, *lines: Line) -> Plot:
            return Plot(title, kind, lines, tr("path of contact"), ticks=False)

        def line(y: Array, role: str, symbol: str, index: int | None = None) -> Line:
            return Line(a.g, y, role, name=plain(symbol, index), symbol=(symbol, index))

        radii = [line(a.rho_1, "driver", "rho", 1), line(a.rho_2, "driven", "rho", 2)]
        radius = tr("radius of curvature")
        if kind.straight:
            del radii[1]
            radius = tr("radius of curvature, the {name}'s flank is straight", name=kind.name)
        sliding = (np.maximum(a.zeta_1, LOWEST_SLIDING), np.maximum(a.zeta_2, LOWEST_SLIDING))
        return [
            plot(
                tr("specific sliding"),
                "factor",
                line(sliding[0], "driver", "zeta", 1),
                line(sliding[1], "driven", "zeta", 2),
            ),
            plot(tr("flank pressure, with all load factors"), "stress", line(a.sigma_H, "copper", "sigma_H")),
            plot(tr("share of the load on one pair of teeth"), "factor", line(a.share, "ink", "X")),
            plot(radius, "length", *radii),
        ]

    def _frame(self, n: int) -> QRectF:
        if self.own_tags:
            return self.loaded.frame(n, ROWS)
        left, top, right, bottom = MARGINS
        height = (self.height() - top - bottom + 26) / ROWS
        return QRectF(left + 46, top + n * height + 14, self.width() - left - right - 130, height - 30)

    def _x(self, g: float) -> float:
        m, f = self.stage.mesh, self._frame(0)
        return f.left() + f.width() * (g - m.g_A) / max(m.g_E - m.g_A, 1e-9)

    def set_cursor(self, x: float) -> None:
        """Roll the mesh so that the followed contact stands under a place of the plot."""
        m, f = self.stage.mesh, self._frame(0)
        g = m.g_A + (m.g_E - m.g_A) * min(max((x - f.left()) / f.width(), 0.0), 1.0)
        turn = (g - self.cursor_g()) / (self.stage.gears[0].d_b / 2) * self.drawing.side
        self.drawing.set_roll(self.drawing.roll + turn)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self.set_cursor(event.position().x())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self.set_cursor(event.position().x())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            step = self._frame(0).width() / 100 * (1 if event.key() == Qt.Key.Key_Right else -1)
            self.set_cursor(self._x(self.cursor_g()) + step)
        elif event.key() == Qt.Key.Key_L:
            names = list(MODES)
            self.show_mode(names[(names.index(self.mode) + 1) % len(names)])
        else:
            event.ignore()

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), self.theme.color("paper"))
        m = self.stage.mesh
        gs = tuple(float(g) for g in self.drawing.contact_gs() if m.g_A - 1e-9 <= g <= m.g_E + 1e-9)
        if self.own_tags:
            self.loaded.paint(p, self.curves(), gs)
            return
        self._marks(p)
        for n, plot in enumerate(self._by_formulas(self.curves())):
            paint_plot(p, self.theme, self._frame(n), plot, self.session.system, gs or (float(m.g_C),))

    def _marks(self, p: QPainter) -> None:
        """Points A to E as lines through all plots."""
        t, m = self.theme, self.stage.mesh
        top, bottom = self._frame(0).top(), self._frame(ROWS - 1).bottom()
        for name in "ABCDE":
            g = m[f"g_{name}"]
            if not m.g_A <= g <= m.g_E:
                continue
            x = self._x(g)
            pen = QPen(t.color("line"), th.HAIR)
            if name == "C":
                pen.setDashPattern([6, 3, 1.5, 3])
            p.setPen(pen)
            p.drawLine(QPointF(x, top), QPointF(x, bottom))
            words(p, name, th.font(th.SMALL, bold=True), t.color("muted"), x - 3, bottom + 14)
        one, two = self.stage.gears
        touching = diameters_at(self.cursor_g(), one.d_b, two.get("d_b", 0.0), self.stage.T2)
        at = [number_with_unit(float(d), "length", self.session.system) for d in touching]
        if not self.stage.kind.turns:
            height = m.a_w - self.stage.action_point(self.cursor_g(), 1)[0]
            at[1] = tr("{height} above the datum line", height=number_with_unit(height, "length", self.session.system))
        text = tr("path of contact {g_alpha}; ", g_alpha=number_with_unit(m.g_alpha, "length", self.session.system))
        text += tr("at the cursor the flanks touch at {at} diameter and {at_2}", at=at[0], at_2=at[1])
        words(p, text, th.font(th.SMALL), t.color("muted"), self._frame(0).left(), bottom + 30)


def create_lens(bench: Bench) -> ContactLens:
    """The lens of a Bench."""
    lens = ContactLens(bench.session, bench.theme, bench.drawing, bench)
    lens.tags_changed.connect(bench.share_tags)
    lens.loaded.forms_wanted.connect(lambda: bench.sheet_wanted.emit("forms"))
    return lens

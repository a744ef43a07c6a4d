"""The Contact lens: sliding, pressure and load share along the path of contact, with the Roll's cursor."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QPushButton, QWidget

from cooper.arrays import Loose as Array
from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.lenses.drawing import MARGINS, MeshDrawing
from cooper.desk.lenses.lens import Lens
from cooper.desk.lenses.loaded_contact_view import LoadedContact
from cooper.desk.widgets.shapes import polygon
from cooper.desk.widgets.typeset import draw, symbol_runs, words
from cooper.document.units import KINDS, number, number_with_unit, screen_unit
from cooper.gears.path_of_contact import MOST_PAIRS, diameters_at
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.rating.along_path import AlongPath, along_path
from cooper.results.result_tree import StageResults

if TYPE_CHECKING:
    from cooper.desk.shell.bench import Bench

POINTS = 241
BY_FORMULAS, MAP = tr("by formulas"), tr("error over load and relief")
MODES = (BY_FORMULAS, tr("loaded teeth"), MAP)
LOWEST_SLIDING = -5.0


class Curve(Struct, frozen=True):
    """One line of a plot: its symbol, the colour's role, its values over g."""

    symbol: str
    index: int | None
    role: str
    values: Callable[[AlongPath], Array]


class Plot(Struct, frozen=True):
    """One of the plots that stand over each other with the same abscissa."""

    title: str
    kind: str
    curves: tuple[Curve, ...]


PLOTS = (
    Plot(
        tr("specific sliding"),
        "factor",
        (Curve("zeta", 1, "driver", lambda a: a.zeta_1), Curve("zeta", 2, "driven", lambda a: a.zeta_2)),
    ),
    Plot(
        tr("flank pressure, with all load factors"), "stress", (Curve("sigma_H", None, "copper", lambda a: a.sigma_H),)
    ),
    Plot(tr("share of the load on one pair of teeth"), "factor", (Curve("X", None, "ink", lambda a: a.share),)),
    Plot(
        tr("radius of curvature"),
        "length",
        (Curve("rho", 1, "driver", lambda a: a.rho_1), Curve("rho", 2, "driven", lambda a: a.rho_2)),
    ),
)


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
        found = self.drawing.contact_gs()
        return float(found[0]) if len(found) else self.stage.mesh.g_C

    def plots(self) -> tuple[Plot, ...]:
        """The plots of the stage; a straight flank has no radius of curvature to plot."""
        kind = self.stage.kind
        if not kind.straight:
            return PLOTS
        *others, radius = PLOTS
        words = tr("radius of curvature, the {name}'s flank is straight", name=kind.name)
        return (*others, replace(radius, title=words, curves=radius.curves[:1]))

    def _frame(self, n: int) -> QRectF:
        if self.own_tags:
            return self.loaded.frame(n, len(PLOTS))
        left, top, right, bottom = MARGINS
        height = (self.height() - top - bottom + 26) / len(PLOTS)
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
        grid = np.linspace(m.g_A, m.g_E, POINTS)
        # Both sides of the steps of the load share belong to the curve.
        steps = [e for k in range(1, MOST_PAIRS) for e in (m.g_E - k * m.p_et, m.g_A + k * m.p_et)]
        edges = [e + s * 1e-6 for e in steps for s in (-1, 1) if m.g_A < e < m.g_E]
        data = stage_along(self.stage, np.sort(np.concatenate((grid, edges))))
        gs = [g for g in self.drawing.contact_gs() if m.g_A - 1e-9 <= g <= m.g_E + 1e-9]
        if self.own_tags:
            self.loaded.paint(p, data, tuple(float(g) for g in gs))
            return
        now = stage_along(self.stage, np.array(gs if gs else [m.g_C]))
        self._marks(p)
        for n, plot in enumerate(self.plots()):
            self._plot(p, self._frame(n), plot, data, now)

    def _marks(self, p: QPainter) -> None:
        """Points A to E as lines through all plots."""
        t, m = self.theme, self.stage.mesh
        top, bottom = self._frame(0).top(), self._frame(len(PLOTS) - 1).bottom()
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

    def _plot(self, p: QPainter, f: QRectF, plot: Plot, data: AlongPath, now: AlongPath) -> None:
        t, system = self.theme, self.session.system
        values = [
            np.clip(c.values(data), LOWEST_SLIDING if plot.kind == "factor" else -np.inf, np.inf) for c in plot.curves
        ]
        low = min(0.0, *(float(np.nanmin(v)) for v in values))
        high = max(0.0, *(float(np.nanmax(v[np.isfinite(v)])) for v in values)) * 1.08
        unit = screen_unit(KINDS[plot.kind].display_unit(system))

        def y_of(v: float) -> float:
            return f.bottom() - f.height() * (min(max(v, low), high) - low) / max(high - low, 1e-9)

        words(
            p,
            plot.title + (tr(", {unit}", unit=unit) if unit else ""),
            th.font(th.SMALL),
            t.color("muted"),
            f.left(),
            f.top() - 4,
        )
        p.setPen(QPen(t.color("faint"), th.HAIR))
        p.drawLine(QPointF(f.left(), y_of(0)), QPointF(f.right(), y_of(0)))
        for mark in {low, 0.0, high / 1.08}:
            words(
                p,
                number(mark, plot.kind, system, 2 if plot.kind == "factor" else None),
                th.font(8),
                t.color("faint"),
                f.left() - 8,
                y_of(mark) + 4,
                right=True,
            )
        for curve, v in zip(plot.curves, values, strict=True):
            xs = f.left() + f.width() * (data.g - data.g[0]) / max(data.g[-1] - data.g[0], 1e-9)
            ys = f.bottom() - f.height() * (np.clip(np.nan_to_num(v, posinf=high), low, high) - low) / max(
                high - low, 1e-9
            )
            path = QPainterPath()
            path.addPolygon(polygon(np.column_stack((xs, ys))))
            p.setPen(QPen(t.color(curve.role), 1.8))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawPath(path)
        for k, g in enumerate(now.g):
            x = self._x(float(g))
            p.setPen(QPen(t.color("copper", 1.0 if k == 0 else 0.45), 1.4))
            p.drawLine(QPointF(x, f.top()), QPointF(x, f.bottom()))
        for n, curve in enumerate(plot.curves):
            at = float(curve.values(now)[0])
            x = draw(
                p, symbol_runs(curve.symbol, curve.index, t.color(curve.role)), f.right() + 12, f.top() + 16 + 22 * n
            )
            words(
                p,
                number(at, plot.kind, system),
                th.font(th.TEXT, bold=True),
                t.color("ink"),
                x + 6,
                f.top() + 16 + 22 * n,
            )


def create_lens(bench: Bench) -> ContactLens:
    """The lens of a Bench."""
    lens = ContactLens(bench.session, bench.theme, bench.drawing, bench)
    lens.tags_changed.connect(bench.share_tags)
    lens.loaded.forms_wanted.connect(lambda: bench.sheet_wanted.emit("forms"))
    return lens

"""The sheet of losses and heat: what is lost where, efficiency over load and speed, the housing's balance."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

from cooper.arrays import Loose as Array
from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.desk.sheets.oil_drawing import OilDrawing
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.choices import Choice, Option, path_choice, setting
from cooper.desk.widgets.typeset import advance, words
from cooper.document.units import number_with_unit
from cooper.editing.fields import Field
from cooper.editing.sheet_fields import loss_fields
from cooper.gears.inputs import FRICTIONS
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.results.train_losses import LOADS, SPEEDS, Curves
from cooper.stock.bearings import bearing_types

KINDS = (("P_Vz", tr("meshes")), ("P_V0", tr("churning, windage")), ("P_VL", tr("bearings")), ("P_VD", tr("seals")))


class LossPicture(QWidget):
    """Bars of the losses by kind, and efficiency over load and over speed, forward and backward."""

    def __init__(self, session: Session, theme: th.Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.setObjectName("loss_picture")
        self.setAccessibleName(translate(tr("Losses and efficiency")))
        self.setMinimumSize(400, 480)
        self.fault = ""
        self.values: dict[str, float] = {}
        self.curves: Curves | None = None
        self.task: Task | None = None
        self.draw_anew()

    def draw_anew(self) -> None:
        """Compute the losses of the present design, all of them, counted or not."""
        if self.task is not None:
            self.task.give_up()
        train, machine = self.session.design.train, self.session.results.machine
        self.task = submit("cooper.results.power_flow:losses_of", train, machine, take=self._take, done=self._done)

    def _take(self, result: tuple[dict[str, float], Curves]) -> None:
        self.values, self.curves = result

    def _done(self, fault: Exception | None) -> None:
        """What was found stands until what the next design gives is there."""
        if not isValid(self):
            return
        self.fault = str(fault or "")
        if fault is not None:
            self.curves = None
        text = (
            join(", ", (tr("{name} {values}", name=name, values=self._power(self.values[k])) for k, name in KINDS))
            if self.curves
            else self.fault
        )
        self.setAccessibleDescription(translate(text))
        self.update()

    def _power(self, value: float) -> str:
        return number_with_unit(value, "power", self.session.system)

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, small = self.theme, th.font(th.SMALL)
        if self.curves is None:
            words(p, self.fault or tr("Computing …"), small, t.color("short" if self.fault else "muted"), 4, 20)
            return
        v = self.values
        left, right = max(122.0, 14 + max(advance(name, small) for _, name in KINDS)), self.width() - 170.0
        most = max(v["P_V"], 1e-12)
        for n, (key, name) in enumerate(KINDS):
            y = 12.0 + 20 * n
            words(p, name, small, t.color("muted"), left - 10, y + 4, right=True)
            length = (right - left) * v[key] / most
            p.fillRect(QRectF(left, y - 5, max(length, 1.0), 10), t.color("copper" if n == 0 else "driven_fill"))
            words(
                p,
                tr("{v}, {v_2:.0f} %", v=self._power(v[key]), v_2=100 * v[key] / most),
                small,
                t.color("ink"),
                left + length + 8,
                y + 4,
            )
        counted = self.session.design.train.losses.counted == "all"
        text = tr(
            "all {P_V}: forward {eta_all:.2f} %, backward {eta_back:.2f} %",
            P_V=self._power(v["P_V"]),
            eta_all=100 * v["eta_all"],
            eta_back=100 * v["eta_back"],
        )
        words(p, text, th.font(th.TEXT, bold=True), t.color("ink"), left, 98)
        text = tr("counted in the results") if counted else tr("the results count the meshes alone")
        text += tr(", bearings of the machine") if self.session.results.machine is not None else ""
        words(p, text, small, t.color("muted"), left, 117)
        words(p, self._heat(), small, t.color("muted"), left, 134)
        height = (self.height() - 168) / 2
        frame = QRectF(54, 158, self.width() - 80, height - 44)
        self._plot(p, frame, tr("over the duty's torque"), LOADS, self.curves.over_load)
        frame.translate(0, height)
        self._plot(p, frame, tr("over the duty's speed"), SPEEDS, self.curves.over_speed)

    def _heat(self) -> str:
        values, at = self.session.results.train, self.session.design.train.losses
        if "theta_bal" not in values:
            return ""
        balance = number_with_unit(values.theta_bal, "temperature", self.session.system)
        return tr("the housing holds the oil at {balance}", balance=balance) + (
            tr(", taken") if at.oil_by_balance else tr(", not taken")
        )

    def _plot(self, p: QPainter, f: QRectF, title: str, at: Array, lines: tuple[Array, Array]) -> None:
        t, small = self.theme, th.font(th.SMALL)
        good = np.concatenate(lines)
        low = max(min(float(np.min(good)), 0.95), 0.0)
        low = np.floor(low * 20) / 20

        def x(value: float) -> float:
            return f.left() + f.width() * (value - 0.0) / float(at[-1])

        def y(eta: float) -> float:
            return f.bottom() - f.height() * (min(max(eta, low), 1.0) - low) / (1 - low)

        words(p, tr("efficiency {title}", title=title), small, t.color("ink"), f.left(), f.top() - 8)
        p.setPen(QPen(t.color("line"), th.HAIR))
        for eta in self._marks(low):
            p.drawLine(QPointF(f.left(), y(eta)), QPointF(f.right(), y(eta)))
            words(p, tr("{eta:.0f} %", eta=100 * eta), small, t.color("muted"), f.left() - 6, y(eta) + 4, right=True)
            p.setPen(QPen(t.color("line"), th.HAIR))
        for ratio in (0.5, 1.0, 1.5, 2.0):
            if ratio <= float(at[-1]) + 1e-9:
                p.setPen(QPen(t.color("copper" if ratio == 1 else "line"), th.HAIR))
                p.drawLine(QPointF(x(ratio), f.top()), QPointF(x(ratio), f.bottom()))
                words(
                    p, tr("{ratio:.0f} %", ratio=100 * ratio), small, t.color("muted"), x(ratio) - 12, f.bottom() + 14
                )
        for values, role, name in zip(lines, ("driver", "short"), (tr("forward"), tr("backward")), strict=True):
            style = Qt.PenStyle.DashLine if name == "backward" else Qt.PenStyle.SolidLine
            p.setPen(QPen(t.color(role), 1.6 if role == "driver" else 1.2, style))
            p.drawPolyline(QPolygonF([QPointF(x(a), y(b)) for a, b in zip(at.tolist(), values.tolist(), strict=True)]))
        self._key(p, f.right() - 150, f.top() - 12)

    def _key(self, p: QPainter, left: float, top: float) -> None:
        t, small = self.theme, th.font(th.SMALL)
        for n, (name, role, style) in enumerate(
            ((tr("forward"), "driver", Qt.PenStyle.SolidLine), (tr("backward"), "short", Qt.PenStyle.DashLine))
        ):
            p.setPen(QPen(t.color(role), 1.6, style))
            p.drawLine(QPointF(left + 80 * n, top), QPointF(left + 80 * n + 18, top))
            words(p, name, small, t.color("muted"), left + 80 * n + 22, top + 4)

    @staticmethod
    def _marks(low: float) -> Sequence[float]:
        step = 0.01 if low >= 0.949 else 0.05 if low >= 0.7 else 0.2
        return [float(v) for v in np.arange(np.ceil(low / step - 1e-9) * step + 0.0, 1 + step / 2, step)]


def loss_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """How losses are counted, what they need, and what they come to."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText(translate(tr("Losses and heat")))
    sheet.setAccessibleName(translate(tr("Losses and heat")))
    base = "train.losses"
    groups = loss_fields()

    def choice(name: str, meaning: str, options: dict[object, str]) -> Choice:
        return path_choice(session, name, meaning, f"{base}.{name}", options)

    counted = choice("counted", tr("losses in the efficiency"), {"mesh": tr("of the meshes alone"), "all": tr("all")})
    friction = choice("friction", tr("friction of the mesh"), {f: f for f in FRICTIONS})
    method = choice("method", tr("churning and seals by"), {m: m for m in FRICTIONS[:2]})
    kinds: dict[object, str] = {b: b for b in bearing_types()}

    def balance_options() -> list[Option]:
        return [
            (tr("of the duty"), setting({f"{base}.oil_by_balance": False})),
            (tr("of the heat balance"), setting({f"{base}.oil_by_balance": True, f"{base}.counted": "all"})),
        ]

    balance = Choice(
        session,
        "oil_by_balance",
        tr("oil temperature"),
        lambda d: tr("of the heat balance") if d.train.losses.oil_by_balance else tr("of the duty"),
        balance_options,
    )
    seal = choice("seal", tr("seal material (TR 14179-1)"), {"FKM": tr("FKM"), "NBR": tr("NBR")})
    bearing = choice("bearing", tr("bearings"), kinds)
    rows: list[Field | Choice] = [f for group in groups.values() for f in group.values()]
    drawing = OilDrawing(session, theme, [f for f in rows if isinstance(f, Field)])
    written = [f for f in rows if not (isinstance(f, Field) and f in drawing.fields)]
    sheet.add_brief(loss_topics(), [*written, counted, friction, method, bearing, seal, balance])
    tags = {f.key: drawing.tags[f.symbol] for f in drawing.fields}
    sheet.add_drawing(sheet.inside.last_column(), tr("Oil and housing"), drawing, tags)
    sheet.watch(drawing.update)
    right = sheet.add_column(1)
    picture = LossPicture(session, theme)
    right.addWidget(picture, 1)
    sheet.watch(picture.draw_anew)
    sheet.finish()
    return sheet


def loss_topics() -> list[Topic]:
    """What is lost, as one would tell it."""
    at = {name: slot(name) for name in LOSS_SLOTS}
    return [
        Topic(
            tr("Counting"),
            [
                Sentence(
                    tr(
                        "The efficiency counts the losses: {counted}; mesh by {friction}, churning and seals "
                        "by {method}.",
                        **at,
                    )
                )
            ],
        ),
        Topic(
            tr("Bearings and seals"),
            [
                Sentence(
                    tr(
                        "Two bearings a shaft, {bearing}, bores for {tau_sh} of torsion; {seals} rubbing seals "
                        "of {seal}.",
                        **at,
                    )
                )
            ],
        ),
        Topic(
            tr("Housing"),
            [
                Sentence(tr("The housing gives off heat by {k_h}; oil at most {theta_max}.", **at)),
                Sentence(tr("The oil's temperature is that {oil_by_balance}.", **at)),
            ],
        ),
    ]


LOSS_SLOTS = (
    *("counted", "friction", "method", "bearing", "tau_sh", "seals", "seal", "k_h", "theta_max", "oil_by_balance"),
)
"""The values of the losses: each stands in their sentences once."""


register_sheet(
    SheetEntry(
        "losses",
        tr("Losses and heat: efficiency over load and speed"),
        "Ctrl+H",
        lambda w: loss_sheet(w.session, w.theme, w.bench),
        (900, 590),
        13,
    )
)

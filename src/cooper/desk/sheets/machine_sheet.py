"""The sheet of the machine around the gears: what holds for all its shafts, and the order in which its parts give
way."""

from __future__ import annotations

from math import log

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QPushButton, QWidget

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.brief import Sentence, Topic, slot
from cooper.desk.widgets.choices import Choice, Option
from cooper.desk.widgets.typeset import elided, words
from cooper.document.machine_data import Machine
from cooper.document.models import Design
from cooper.document.units import number, number_with_unit
from cooper.editing.fields import Field
from cooper.editing.machine_edits import count_machine, in_machine, propose_anew
from cooper.editing.machine_fields import machine_fields
from cooper.i18n.text import join, tr
from cooper.i18n.translate import translate
from cooper.machine.rolling_life import A_1, CLEANLINESS
from cooper.results.machine_checks import FailureLoad, order_of_failure
from cooper.results.result_tree import Results
from cooper.stock.shaft_steel import shaft_steels

ROW = 19
MOST_LOAD = 20.0
"""Load from which a bar is cut off."""


class FailureList(QWidget):
    """Bars of the load at which each part gives way, the first one first; arrows select a part, Enter lets it go
    first."""

    def __init__(self, session: Session, theme: th.Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.setObjectName("failure_list")
        self.setAccessibleName(translate(tr("Order of failure")))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumWidth(405)
        self.rows: list[FailureLoad] = []
        self.at = 0
        self.refresh()

    def refresh(self) -> None:
        self.rows = order_of_failure(self.session.results)
        self.setMinimumHeight(ROW * (len(self.rows) + 2) + 8)
        self.at = min(self.at, max(len(self.rows) - 1, 0))
        text = join("; ", (tr("{label} at {load:.2f}", label=g.label, load=g.load) for g in self.rows[:6]))
        self.setAccessibleDescription(translate(text))
        self.update()

    def first(self) -> str:
        machine = self.session.design.train.machine
        return (machine.goes_first or "") if machine is not None else ""

    def let_go_first(self, part: str) -> None:
        """Name the part that shall give way first; the same once more names none."""
        wanted = None if part == self.first() else part
        label = tr("no part is meant to fail first") if wanted is None else tr("{part} fails first", part=part)
        self.session.edit(lambda d, _r: in_machine(d, (("goes_first",), wanted)), label, "goes_first")

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, small = self.theme, th.font(th.SMALL)
        if not any(g.part.startswith(("gear", "carrier")) for g in self.rows):
            words(p, tr("The machine does not count yet; only the gears are listed."), small, t.color("muted"), 4, 13)
        else:
            words(
                p,
                tr("times the nominal load at which each part fails; click: it fails first"),
                small,
                t.color("muted"),
                4,
                13,
            )
        left, right = 236.0, self.width() - 66.0

        def x(load: float) -> float:
            low, high = log(0.3), log(MOST_LOAD)
            return left + (right - left) * (min(max(log(max(load, 1e-9)), low), high) - low) / (high - low)

        for n, g in enumerate(self.rows):
            y = ROW * (n + 1) + 4.0
            if n == self.at and self.hasFocus():
                p.fillRect(QRectF(0, y, self.width(), ROW), t.color("band"))
            mark = g.part == self.first()
            role = "short" if g.load < 1 else "copper" if mark else "ink"
            words(p, elided(g.label, small, left - 14), small, t.color("copper" if mark else "ink"), 4, y + 13)
            color = "driver_fill" if g.kind == "fatigue" else "driven_fill"
            p.fillRect(
                QRectF(left, y + 4, max(x(g.load) - left, 1.0), ROW - 8), t.color("short" if g.load < 1 else color)
            )
            message = (
                f"{number(g.load, 'safety', 'mm')}"
                if g.life is None
                else number_with_unit(min(g.life, 1e9), "time", "mm")
            )
            words(p, message, small, t.color(role), max(x(g.load) + 5, left + 4), y + 13)
        p.setPen(QPen(t.color("ink"), th.HAIR))
        p.drawLine(QPointF(x(1.0), ROW + 2), QPointF(x(1.0), ROW * (len(self.rows) + 1) + 4))
        for text, color, dx in ((tr("lasting load"), "driver_fill", 0.0), (tr("greatest load"), "driven_fill", 92.0)):
            y = ROW * (len(self.rows) + 1) + 8.0
            p.fillRect(QRectF(left + dx, y + 4, 10, 10), t.color(color))
            words(p, text, small, t.color("muted"), left + dx + 14, y + 13)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        n = int((event.position().y() - 4) // ROW) - 1
        if 0 <= n < len(self.rows):
            self.at = n
            if self.rows[n].kind == "static":
                self.let_go_first(self.rows[n].part)
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            step = 1 if event.key() == Qt.Key.Key_Down else -1
            self.at = min(max(self.at + step, 0), max(len(self.rows) - 1, 0))
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.rows:
            self.let_go_first(self.rows[self.at].part)
        else:
            event.ignore()


def _choice(
    session: Session, attribute: str, meaning: str, values: tuple[str, ...], words_of: dict[str, str]
) -> Choice:
    def options() -> list[Option]:
        return [(words_of.get(v, v), lambda d, v=v: in_machine(d, ((attribute,), v))) for v in values]  # type: ignore[misc]

    def now(d: Design) -> str:
        value = str(getattr(d.train.machine or Machine(), attribute))
        return words_of.get(value, value)

    return Choice(session, f"machine_{attribute}", meaning, now, options, path=f"train.machine.{attribute}")


def machine_sheet(session: Session, theme: th.Theme, parent: QWidget) -> Sheet:
    """What holds for all shafts of the machine, and the order of failure."""
    sheet = Sheet(session, theme, parent)
    sheet.title.setText(translate(tr("Machine: shafts, bearings, order of failure")))
    sheet.setAccessibleName(translate(tr("Machine")))
    steel = _choice(session, "steel", tr("steel of the shafts"), shaft_steels(), {})
    swings = {"steady": "stays", "pulsating": tr("starts and stops"), "alternating": tr("reverses")}
    swing = _choice(session, "swing", tr("the torque"), tuple(swings), swings)
    clean = _choice(session, "cleanliness", tr("cleanliness of the oil"), tuple(CLEANLINESS), {})
    shares = tuple(tr("{a:g}", a=a) for a in A_1)
    reliable = _choice(
        session, "reliability", tr("bearings that reach their life"), shares, {s: tr("{s} %", s=s) for s in shares}
    )

    def counted(d: Design) -> bool:
        return d.train.machine is not None and d.train.machine.counted

    count = Choice(
        session,
        "machine_counted",
        tr("checks in Margins"),
        lambda d: "counted" if counted(d) else tr("not counted"),
        lambda: [("counted", lambda d: count_machine(d)), (tr("not counted"), lambda d: count_machine(d, False))],
    )
    weigh = Choice(
        session,
        "machine_weight",
        tr("weight of shafts and gears"),
        lambda d: "counted" if (d.train.machine or Machine()).weight else tr("left out"),
        lambda: [
            (tr("left out"), lambda d: in_machine(d, (("weight",), False))),
            ("counted", lambda d: in_machine(d, (("weight",), True))),
        ],
    )
    fields: list[Field | Choice] = [f for group in machine_fields().values() for f in group.values()]
    sheet.add_brief(machine_topics(), [*fields, count, steel, swing, weigh, reliable, clean])
    left = sheet.inside.last_column()
    anew = QPushButton(translate(tr("Propose all shafts anew")))
    anew.setObjectName("propose_anew")

    def again(d: Design, _r: Results) -> Design:
        return propose_anew(d)

    anew.clicked.connect(lambda: session.edit(again, tr("all shafts proposed anew"), "propose_anew"))
    left.addWidget(anew, alignment=Qt.AlignmentFlag.AlignLeft)
    right = sheet.add_column()
    rows = FailureList(session, theme)
    right.addWidget(rows, 1)
    sheet.watch(rows.refresh)
    sheet.finish()
    return sheet


def machine_topics() -> list[Topic]:
    """The machine around the gears as one would tell it."""
    at = {name: slot(f"machine_{name}") for name in MACHINE_SLOTS}
    return [
        Topic(
            tr("Shafts"),
            [
                Sentence(tr("The machine is {counted} in the Margins; weight of shafts and gears {weight}.", **at)),
                Sentence(tr("Shafts of {steel}, turned to {Rz}; keys yield at {R_e_key}. The torque {swing}.", **at)),
            ],
        ),
        Topic(
            tr("What is required"),
            [
                Sentence(
                    tr(
                        "Shafts: fatigue {S_Dmin}, yielding {S_Ymin}; joints {S_Jmin}; at a mesh they deflect by at "
                        "most {w_rel} modules.",
                        **at,
                    )
                )
            ],
        ),
        Topic(
            tr("Bearings"),
            [
                Sentence(tr("{reliability} reach their life, in oil of this cleanliness: {cleanliness}.", **at)),
                Sentence(tr("Static safety at least {S_0min}.", **at)),
            ],
        ),
        Topic(
            tr("Room"),
            [
                Sentence(tr("Gaps along the shafts {c}; walls {wall} thick.", **at)),
                Sentence(tr("Usual: any size; else at most {L_max} by {W_max} by {H_max}.", **at), light=True),
            ],
        ),
        Topic(
            tr("Order of failure"),
            [Sentence(tr("Where a part shall fail first, the next bears at least {X_gomin} times its load.", **at))],
        ),
    ]


MACHINE_SLOTS = (
    *("counted", "weight", "steel", "Rz", "R_e_key", "swing", "S_Dmin", "S_Ymin", "S_Jmin", "w_rel", "reliability"),
    *("cleanliness", "S_0min", "c", "wall", "L_max", "W_max", "H_max", "X_gomin"),
)
"""The values of the machine: each stands in its sentences once."""


register_sheet(
    SheetEntry(
        "machine",
        tr("Machine: shafts, bearings, housing, order of failure"),
        "Ctrl+4",
        lambda w: machine_sheet(w.session, w.theme, w.bench),
        (900, 600),
        14,
    )
)

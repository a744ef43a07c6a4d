"""The sheet of arrangements: every kind that the selected stage could be exchanged for, each drawn as it would turn
out."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QWidget
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.registry import SheetEntry, register_sheet
from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.desk.lenses.miniature import MiniatureCard
from cooper.desk.sheets.sheet import Sheet
from cooper.desk.widgets.labels import Label, plain_tip
from cooper.document.units import number_with_unit
from cooper.editing.arrangement import Turned, arrangement_of, arrangements
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.results.result_tree import Results

CARD = QSize(214, 190)
COLUMNS = 4
MODES = {"exchange": tr("in place of it"), "add": tr("behind it")}


class ArrangementCard(MiniatureCard):
    """One arrangement as the stage would turn out: drawn, with its ratio and efficiency, or why it cannot be."""

    def __init__(self, session: Session, theme: th.Theme, kind: str, mode: str) -> None:
        super().__init__(theme, CARD)
        self.kind, self.system = kind, session.system
        self.setObjectName(f"kind_{kind.replace(' ', '_')}")
        self.now = mode == "exchange" and arrangement_of(session.design, session.stage) == kind
        self.turned: Turned | None = None
        self.told = "…"
        self.setEnabled(False)
        self.setAccessibleName(translate(arrangements()[kind]))

    def show_turned(self, turned: Turned) -> None:
        """Show what the stage would be."""
        self.turned = turned
        if turned.results is None:
            self.told = turned.cannot
        else:
            self.told = self._numbers(turned.results)
            self.draw(turned.results)
        self.setEnabled(turned.design is not None and not self.now)
        if self.isEnabled():
            self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleDescription(translate(self.told))
        plain_tip(self, tr("{arrangements}: {told}", arrangements=arrangements()[self.kind], told=self.told))
        self.update()

    def _numbers(self, results: Results) -> str:
        stage = results.stages[0]
        if results.sets:
            values = results.sets[0].values
            return tr("ratio {u:.4g}, η {eta_set:.1f} %", u=values["u"], eta_set=100 * values["eta_set"])
        if not stage.kind.turns:
            travel = number_with_unit(stage.mesh.travel, "length", self.system)
            return tr("{travel} a turn, η {eta_z:.1f} %", travel=travel, eta_z=100 * stage.mesh.eta_z)
        return tr("ratio {ratio:.4g}, η {eta_z:.1f} %", ratio=abs(stage.ratio), eta_z=100 * stage.mesh.eta_z)

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        possible = self.turned is not None and self.turned.design is not None
        text = "" if not possible else tr("at present: {told}", told=self.told) if self.now else self.told
        self.paint_card(p, arrangements()[self.kind], text, marked=self.now)
        if not possible:
            p.setFont(th.font(th.SMALL))
            p.setPen(self.theme.color("muted"))
            room = QRectF(14, 16, CARD.width() - 28, CARD.height() - 66)
            p.drawText(room, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, translate(self.told))


def arrangement_sheet(session: Session, theme: th.Theme, parent: QWidget, mode: str = "exchange") -> Sheet:
    """What the selected stage could be instead, or what could stand behind it; a click or Enter takes one."""
    sheet = Sheet(session, theme, parent)
    sheet.setAccessibleName(translate(tr("Arrangements")))
    sheet.title.setText(
        translate(tr("An arrangement for {name}", name=session.design.train.stages[session.stage].name))
    )
    column = sheet.add_column()
    row = QHBoxLayout()
    buttons: dict[str, QPushButton] = {}
    for key, text in MODES.items():
        button = QPushButton(translate(text))
        button.setObjectName(f"mode_{key}")
        button.setCheckable(True)
        button.setProperty("chip", True)
        buttons[key] = button
        row.addWidget(button)
    row.addStretch(1)
    column.addLayout(row)
    grid = QGridLayout()
    grid.setSpacing(8)
    column.addLayout(grid)
    note = Label(
        tr(
            "Count of the driving gear, module, widths and materials are kept; what follows is a "
            "beginning to be worked on."
        )
    )
    th.set_text_role(note, "muted", th.SMALL)
    column.addWidget(note)

    def take(card: ArrangementCard) -> None:
        if card.turned is None or card.turned.design is None:
            return
        chosen, at = card.turned.design, card.turned.at
        label = arrangements()[card.kind]
        if mode_now[0] == "add":
            label = tr("added: {arrangement}", arrangement=label)
        sheet.dismiss()
        if session.edit(lambda _d, _r: chosen, label):
            session.select_stage(at)

    mode_now = [mode]

    # As many beside each other as the window has room for.
    columns = min(COLUMNS, max(1, (parent.width() - 70) // (CARD.width() + 8)))

    task: list[Task] = []
    sheet.destroyed.connect(lambda _gone: task[-1].give_up())

    def fill(chosen: str) -> None:
        mode_now[0] = chosen
        if task:
            task[-1].give_up()
        for key, button in buttons.items():
            button.setChecked(key == chosen)
            th.set_text_role(button, "copper" if key == chosen else "muted", bold=key == chosen)
        while (item := grid.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.hide()
                old.deleteLater()
        cards: dict[str, ArrangementCard] = {}
        for n, kind in enumerate(arrangements()):
            cards[kind] = card = ArrangementCard(session, theme, kind, chosen)
            card.clicked.connect(partial(take, card))
            grid.addWidget(card, n // columns, n % columns)

        def show(turned: Turned) -> None:
            if isValid(cards[turned.kind]):
                cards[turned.kind].show_turned(turned)

        asked = (session.design, session.stage, chosen)
        task.append(submit("cooper.editing.arrangement:each_arrangement", *asked, take=show))

    for key, button in buttons.items():
        button.clicked.connect(lambda _on=False, key=key: fill(key))
    fill(mode)
    sheet.finish()
    return sheet


register_sheet(
    SheetEntry(
        "arrangement",
        tr("Stage: exchange it for another arrangement, or put one behind it"),
        "Ctrl+J",
        lambda w: arrangement_sheet(w.session, w.theme, w.bench),
        (925, 590),
        11,
    )
)

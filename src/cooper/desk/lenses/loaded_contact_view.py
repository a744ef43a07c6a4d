"""The Contact lens with loaded teeth: share, pressure, root stress and transmission error beside the formulas, the
flank, and the forms of the flanks."""

from __future__ import annotations

import pickle
from functools import partial

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QRectF, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QPushButton, QWidget
from shiboken6 import isValid

from cooper.desk.base import theme as th
from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.desk.lenses.drawing import MeshDrawing
from cooper.desk.lenses.flank_pictures import paint_error_map, paint_flank, paint_orders
from cooper.desk.lenses.loaded_plots import paint_words, plots_of
from cooper.desk.lenses.loaded_source import LOADS, LoadedSource
from cooper.desk.widgets.labels import plain_tip
from cooper.desk.widgets.plot import paint_plot
from cooper.desk.widgets.shapes import drop
from cooper.desk.widgets.tag import HEIGHT, Tag
from cooper.desk.widgets.typeset import advance, words, wrapped
from cooper.document.units import number_with_unit
from cooper.editing.edit import set_many
from cooper.editing.fields import Field
from cooper.editing.forms import FLANKS, ON, form_fields, give_relief
from cooper.i18n.text import tr
from cooper.i18n.translate import translate
from cooper.rating.along_path import AlongPath
from cooper.results.loaded_curves import LoadedCurves, loaded_curves
from cooper.results.relief import AIMS, CrowningChoice, ErrorMap, ReliefChoice, Sampled, relieved

SHORT = {
    "smooth": tr("smoothest"),
    "range": tr("from half load"),
    "between": tr("in between"),
    "bears": tr("bears most"),
}
"""Aims of a relief in few words."""
LENGTHS = {True: tr("long relief"), False: tr("short relief")}
"""Labels for the length of a relief."""
TOP = 76


class LoadedContact(QWidget):
    """Painted over the Contact lens while it shows loaded teeth; ``mapped`` shows the error over load and relief in
    place of the curves."""

    forms_wanted = Signal()
    """The sheet of all forms is asked for."""

    def __init__(self, session: Session, theme: th.Theme, drawing: MeshDrawing, parent: QWidget) -> None:
        super().__init__(parent)
        self.session, self.theme, self.drawing = session, theme, drawing
        self.setObjectName("loaded_contact")
        self.mapped = False
        self.source = LoadedSource(session, self)
        self.source.came.connect(self._came)
        self.tags: dict[str, Tag] = {}
        self.reliefs: list[ReliefChoice] = []
        self.why = ""
        self.heads: list[tuple[int, int, str]] = []
        self.foot = 0
        self.error_map: ErrorMap | None = None
        self._tasks: dict[str, tuple[object, Task]] = {}
        self._curves: tuple[object, LoadedCurves | None] = (None, None)
        self.load = QPushButton(self)
        self.load.setObjectName("contact_load")
        th.set_does(self.load, "chosen")
        self.load.clicked.connect(self._step_load)
        self.heat = False
        self.sampled: Sampled | None = None
        self.other = QPushButton(translate(tr("friction and heat")), self)
        self.other.setObjectName("contact_heat")
        th.set_does(self.other, "chosen")
        self.other.clicked.connect(self.turn)
        self.chips: dict[tuple[str, bool], QPushButton] = {}
        for long in (True, False):
            for aim, text in AIMS.items():
                chip = QPushButton(translate(text), self)
                chip.setObjectName(f"relief_{aim}_{'long' if long else 'short'}")
                th.set_does(chip, "done")
                chip.clicked.connect(partial(self.take, aim, long))
                self.chips[aim, long] = chip
        self.on = "both"
        self.place = QPushButton(translate(ON[self.on]), self)
        self.place.setObjectName("relief_on")
        th.set_does(self.place, "chosen")
        self.place.clicked.connect(self._step_place)
        self.flanks = tr("alike")
        self.sides = QPushButton(translate(FLANKS[self.flanks]), self)
        self.sides.setObjectName("relief_flanks")
        th.set_does(self.sides, "chosen")
        self.sides.clicked.connect(self._step_flanks)
        self.crowning: CrowningChoice | None = None
        self.crown = QPushButton(self)
        self.crown.setObjectName("crowning_of_class")
        th.set_does(self.crown, "done")
        self.crown.clicked.connect(self.take_crowning)
        self.more = QPushButton(translate(tr("All forms …")), self)
        self.more.setObjectName("all_forms")
        th.set_does(self.more, "done")
        self.more.clicked.connect(self.forms_wanted.emit)
        session.stage_selected.connect(lambda _k: self._forget())
        session.opened.connect(self._forget)
        self.hide()

    def _forget(self) -> None:
        """What was told of another mesh does not hold here."""
        self.why = ""

    # -- what it shows

    @property
    def curves(self) -> LoadedCurves | None:
        """The curves of the cycle, as fine as it is known."""
        ask, cycle = self.source.ask, self.source.cycle
        if ask is None or cycle is None:
            return None
        if self._curves[0] is not cycle:
            self._curves = (cycle, loaded_curves(ask, cycle))
        return self._curves[1]

    def look(self) -> None:
        """Ask for the present state."""
        k = self.session.stage
        fields = form_fields(self.session.design, k, bears=self.session.turns_left(k))
        if list(fields) == list(self.tags):
            for key, field in fields.items():
                self.tags[key].refresh(field)
        else:
            self._make_tags(fields)
        self.source.look()
        self.load.setText(translate(LOADS[self.source.counted]))
        self.load.adjustSize()
        self._propose()
        self._sample()
        self._crown()
        if self.mapped:
            self._map()
        self._arrange()
        self.update()

    def _make_tags(self, fields: dict[str, Field]) -> None:
        for tag in self.tags.values():
            drop(tag)
        self.tags = {}
        for key, field in fields.items():
            tag = Tag(self.session, field, self.theme, self)
            tag.setObjectName(f"form_tag_{key}")
            tag.show()
            self.tags[key] = tag

    def _ask(self, what: str, key: object, function: str, *args: object, take: object) -> bool:
        """Ask something beside the window once for each state; whether it was asked now."""
        if what in self._tasks:
            known, task = self._tasks[what]
            if known == key:
                return False
            task.give_up()

        def heard(result: object) -> None:
            if isValid(self) and self._tasks[what][0] == key:
                take(result)  # type: ignore[operator]
                self._came()

        self._tasks[what] = (key, submit(function, *args, take=heard, lane="relief"))
        return True

    def _bare(self) -> bytes:
        """What reliefs are proposed for: all of the state but the reliefs themselves."""
        ask = self.source.asked
        assert ask is not None
        return pickle.dumps(relieved(ask, 0.0, 1.0))

    def _propose(self) -> None:
        if self.source.asked is None:
            return

        def take(result: tuple[ReliefChoice, ...]) -> None:
            self.reliefs = [*self.reliefs, *result]

        if self._ask("relief", self._bare(), "cooper.results.relief:each_relief", self.source.asked, take=take):
            self.reliefs = []

    def _sample(self) -> None:
        ask = self.source.asked
        if ask is None:
            return

        def take(result: Sampled) -> None:
            self.sampled = result

        if self._ask("sampled", pickle.dumps(ask), "cooper.results.relief:each_sampled", ask, take=take):
            self.sampled = None

    def _crown(self) -> None:
        ask = self.source.asked
        if ask is None:
            return

        def take(result: CrowningChoice) -> None:
            self.crowning = result

        key = pickle.dumps(replace(ask, C_beta=0.0))
        if self._ask("crowning", key, "cooper.results.relief:each_crowning", replace(ask, C_beta=0.0), take=take):
            self.crowning = None

    def _step_place(self) -> None:
        names = list(ON)
        self.on = names[(names.index(self.on) + 1) % len(names)]
        self._arrange()

    def _step_flanks(self) -> None:
        names = list(FLANKS)
        self.flanks = names[(names.index(self.flanks) + 1) % len(names)]
        self._arrange()

    def take_crowning(self) -> None:
        """Give the pair the crowning that bears its class."""
        result = self.crowning
        if result is None:
            return
        path = f"{self.session.design.train.stages[self.session.stage].path}.C_beta"
        self.why = result.why
        self.session.edit(
            lambda d, _r: set_many(d, {path: result.C_beta}),
            tr("crowning {C_beta:g} µm", C_beta=result.C_beta),
            "crowning",
        )

    def turn(self) -> None:
        """Root stress, error and stiffness, or sliding, friction and heat below share and pressure."""
        self.heat = not self.heat
        self.other.setText(translate(tr("root and error") if self.heat else tr("friction and heat")))
        self.other.adjustSize()
        parent = self.parentWidget()
        if parent is not None:
            parent.update()

    def _map(self) -> None:
        ask = self.source.asked
        if ask is None:
            return
        most = 2.0 * max((r.C_a for r in self.reliefs), default=0.0)
        if most <= 0:
            most = 20.0
        key = (self._bare(), ask.forms[0].l_Ca, ask.forms[1].l_Ca, most)

        def take(result: ErrorMap) -> None:
            self.error_map = result

        if self._ask("map", key, "cooper.results.relief:each_error_map", ask, most, take=take):
            self.error_map = None

    def show_map(self, mapped: bool) -> None:
        self.mapped = mapped
        self.look()

    def _step_load(self) -> None:
        self.source.step_load()
        self.look()

    def _came(self) -> None:
        if self.isVisible():
            if self.mapped and len(self.reliefs) == 2 * len(AIMS):
                self._map()
            self._arrange()
            self.update()

    # -- acting

    def take(self, aim: str, long: bool) -> None:
        """Give both gears the relief that was proposed for an aim."""
        result = next((r for r in self.reliefs if r.aim == aim and r.long == long), None)
        if result is None:
            return
        k = self.session.stage
        l_Ca = None if result.long else result.l_Ca
        label, on = (
            tr(
                "{length} {C_a:g} µm, {aims}, {ON}, {flanks}",
                length=LENGTHS[long],
                C_a=result.C_a,
                aims=AIMS[aim],
                ON=ON[self.on],
                flanks=FLANKS[self.flanks],
            ),
            self.on,
        )
        bears = self.session.turns_left(k) if self.flanks == "bear" else None
        self.why = result.why
        self.session.edit(lambda d, _r: give_relief(d, k, result.C_a, l_Ca, on, bears), label, "relief")

    def _arrange(self) -> None:
        """Proposals and tags below, from the left in as many rows as they need."""
        known = {(r.aim, r.long): r for r in self.reliefs}
        proposed: dict[bool, list[QWidget | str]] = {}
        for long in (True, False):
            row = proposed[long] = [LENGTHS[long]]
            for aim, message in SHORT.items():
                result = known.get((aim, long))
                text = (
                    message
                    if result is None
                    else tr(
                        "{told} {C_a}", told=message, C_a=number_with_unit(result.C_a, "roughness", self.session.system)
                    )
                )
                row.append(self._chip(self.chips[aim, long], text, None if result is None else result.why))
        crown, text = self.crowning, tr("crowning for its class")
        if crown is not None:
            text += tr(" {C_beta}", C_beta=number_with_unit(crown.C_beta, "roughness", self.session.system))
        self.more.adjustSize()
        place: list[QWidget | str] = [
            self._chip(self.place, tr("relief {ON}", ON=ON[self.on]), tr("where a relief that is taken is made")),
            self._chip(self.sides, FLANKS[self.flanks], tr("on which flanks a relief that is taken is made")),
        ]
        tags: list[QWidget | str] = [
            *self.tags.values(),
            self._chip(self.crown, text, None if crown is None else crown.why),
            self.more,
        ]
        rows = [*self._rows(proposed[True]), *self._rows([*proposed[False], *place]), *self._rows(tags)]
        self.foot = self.height() - len(rows) * (HEIGHT + 5) - 8
        self.heads = []
        y = self.foot
        for items in rows:
            x = 14
            for item in items:
                if isinstance(item, str):
                    self.heads.append((x + 6, y + 17, item))
                    x += round(advance(item, th.font(th.SMALL))) + 8
                else:
                    item.move(x, y + (HEIGHT - item.height()) // 2)
                    x += item.width() + 6
            y += HEIGHT + 5

    def _rows(self, items: list[QWidget | str]) -> list[list[QWidget | str]]:
        """Items in rows that fit the width."""
        rows: list[list[QWidget | str]] = [[]]
        x = 14
        for item in items:
            wide = round(advance(item, th.font(th.SMALL))) + 8 if isinstance(item, str) else item.width() + 6
            if rows[-1] and x + wide > self.width() - 8:
                rows.append([])
                x = 14
            rows[-1].append(item)
            x += wide
        return rows

    def _chip(self, chip: QPushButton, text: str, why: str | None) -> QPushButton:
        """Name a proposal, which is there once it has a reason."""
        chip.setEnabled(why is not None)
        if chip.text() != text:
            chip.setText(translate(text))
        if chip.accessibleDescription() != (why or "being found"):
            plain_tip(chip, why or "")
            chip.setAccessibleDescription(translate(why or tr("being found")))
        chip.adjustSize()
        return chip

    def resizeEvent(self, event: object) -> None:
        self._arrange()

    def apply_theme(self, theme: th.Theme) -> None:
        self.theme = theme
        for tag in self.tags.values():
            tag.theme = theme
        self._arrange()

    # -- painting

    def left_area(self) -> QRectF:
        """Where the curves stand; px."""
        return QRectF(70, TOP + 20, 0.56 * self.width() - 90, self.foot - TOP - 66)

    def frame(self, n: int, of: int) -> QRectF:
        """The n-th of so many plots over each other."""
        area = self.left_area()
        high = area.height() / of
        return QRectF(area.left(), area.top() + n * high, area.width(), high - 34)

    def paint(self, p: QPainter, formulas: AlongPath, gs: tuple[float, ...]) -> None:
        """Paint onto the lens; the formulas' curves for comparison, the contacts of the moment."""
        theme, system = self.theme, self.session.system
        curves, ask = self.curves, self.source.ask
        for x, y, text in self.heads:
            words(p, text, th.font(th.SMALL), theme.color("muted"), x, y)
        if curves is None or ask is None:
            text = self.source.fault or tr("The teeth are being loaded …")
            wrapped(p, text, th.font(), theme.color("muted"), 70, TOP + 26, min(self.width() - 86, 620))
            return
        if self.mapped:
            self._paint_map(p)
            return
        for frame, plot, on_path in plots_of(self, formulas):
            paint_plot(p, theme, frame, plot, system, gs if on_path else ())
        if self.heat and not np.isfinite(curves.flash).all():
            f = self.frame(3, 4)
            text = tr("The flash temperature is made for steel on steel.")
            words(p, text, th.font(th.SMALL), theme.color("muted"), f.left(), f.top() + 12)
        m = self.session.results.stages[self.session.stage].mesh
        right = QRectF(self.left_area().right() + 56, TOP + 20, self.width() - self.left_area().right() - 76, 0)
        flank = QRectF(right.left(), right.top(), right.width(), 0.3 * (self.foot - TOP))
        paint_flank(p, theme, flank, curves, gs[0] if gs else float(m.g_C), system)
        bars = QRectF(right.left(), flank.bottom() + 44, right.width(), 0.13 * (self.foot - TOP))
        paint_orders(p, theme, bars, curves, system)
        paint_words(self, p, QRectF(right.left(), bars.bottom() + 26, right.width(), 200), curves, float(m.c_gamma))

    def _paint_map(self, p: QPainter) -> None:
        theme, system, ask = self.theme, self.session.system, self.source.ask
        area = QRectF(110, TOP + 56, self.width() - 150, self.foot - TOP - 56 - 40)
        if self.error_map is None or ask is None:
            words(
                p,
                tr("The map is being found row by row …"),
                th.font(),
                theme.color("muted"),
                area.left(),
                area.top() + 24,
            )
            return
        now = (ask.forms[0].C_a + ask.forms[1].C_a) / 2
        T = self.session.results.stages[self.session.stage].power.T_mesh * float(np.prod([v for _, v in ask.counted]))
        paint_error_map(p, theme, area, self.error_map, now, T, system)

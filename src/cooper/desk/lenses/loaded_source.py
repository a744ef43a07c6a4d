"""Asks beside the window for the loaded tooth of the selected stage, and keeps what has come of it."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal
from shiboken6 import isValid

from cooper.desk.frame.beside_window import Task, beside
from cooper.desk.frame.session import Session
from cooper.errors import OutOfRange
from cooper.field.loaded_contact import MeshCycle
from cooper.field.stress_field import FieldBasis
from cooper.results.loaded_tooth import COUNTED, LoadedAsk, LoadedFound, loaded_ask

LOADS = {"nominal": "nominal load", "K_A": "load with K_A", "all": "load with K_A and K_V"}
"""What can be counted (`loaded_tooth.COUNTED`), in words."""


class LoadedSource(QObject):
    """What is known of the loaded teeth of the selected stage; ``came`` when there is more. The answer before, with the ``ask`` that it belongs to, stays until a
    new one comes; ``asked`` is what was asked last."""

    came = Signal()

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self.session = session
        self.counted = "nominal"
        self.gears: tuple[int, ...] = ()
        self.ask: LoadedAsk | None = None
        self.asked: LoadedAsk | None = None
        self.fields: dict[int, FieldBasis] = {}
        self.cycle: MeshCycle | None = None
        self.fineness, self.fault = "", ""
        self._key: tuple[object, ...] = ()
        self._task: Task | None = None

    @property
    def busy(self) -> bool:
        """Whether a finer answer is still to come."""
        return self._task is not None and self._task.wanted

    def step_load(self) -> None:
        """Count the next set of load factors."""
        names = list(COUNTED)
        self.counted = names[(names.index(self.counted) + 1) % len(names)]
        self.look()

    def look(self) -> bool:
        """Ask for the present state, unless that has been done; whether it was asked now."""
        session = self.session
        k = session.stage
        key = (id(session.results), k, self.counted, self.gears)
        if key == self._key:
            return False
        other = self._key[1:2] != (k,)
        self._key = key
        if self._task is not None:
            self._task.give_up()
            self._task = None
        self.fault = ""
        try:
            ask = loaded_ask(session.design.train, session.results, k, self.counted, session.turns_left(k))
        except OutOfRange as told:
            self._clear(told.reason)
            return False
        if other:
            self._clear("")
        self.asked = ask
        # What the key holds on to cannot come again at the same address.
        held = session.results

        def take(found: LoadedFound) -> None:
            if not isValid(self) or held is not self.session.results:
                return
            if self.ask is not ask:
                # Nothing of the answer before goes with this one.
                self.ask, self.fields, self.cycle = ask, {}, None
            self.fineness = found.fineness
            self.fields.update(found.fields)
            self.cycle = found.cycle or self.cycle
            self.came.emit()

        def done(fault: Exception | None) -> None:
            if isValid(self):
                self.fault = "" if fault is None else f"this tooth could not be loaded: {fault}"
                self.came.emit()

        self._task = beside(
            "cooper.results.loaded_tooth:each_loaded", ask, self.gears, take=take, done=done, lane="field"
        )
        return True

    def _clear(self, fault: str) -> None:
        self.fields, self.cycle, self.fineness, self.fault = {}, None, "", fault
        self.ask = self.asked = None
        self.came.emit()

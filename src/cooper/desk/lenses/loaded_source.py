"""Asks beside the window for the loaded tooth of the selected stage, and keeps what has come of it."""

from __future__ import annotations

import io
import pickle

from PySide6.QtCore import QObject, Signal
from shiboken6 import isValid

from cooper.desk.base.session import Session
from cooper.desk.base.workers import Task, submit
from cooper.errors import OutOfRange
from cooper.field.loaded_contact import MeshCycle
from cooper.field.stress_field import FieldBasis
from cooper.i18n.text import tr
from cooper.results.loaded_tooth import COUNTED, LoadedAsk, LoadedResult, loaded_ask
from cooper.results.result_tree import Results

LOADS = {"nominal": tr("nominal load"), "K_A": tr("load with K_A"), "all": tr("load with K_A and K_V")}
"""What can be counted (`loaded_tooth.COUNTED`), in words."""


FINEST = "fine"
"""The finest answer that is asked for."""


def _content(of: object) -> bytes:
    """What something is, the same for equals whatever they share."""
    store = io.BytesIO()
    pickler = pickle.Pickler(store, protocol=pickle.HIGHEST_PROTOCOL)
    pickler.fast = True
    pickler.dump(of)
    return store.getvalue()


class LoadedSource(QObject):
    """What is known of the loaded teeth of the selected stage; ``came`` when there is more. The answer before, with
    the ``ask`` that it belongs to, stays until a new one comes; ``asked`` is what was asked last."""

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
        self._content = b""
        self._held: Results | None = None
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
        before = self._task
        self.fault = ""
        try:
            ask = loaded_ask(session.design.train, session.results, k, self.counted)
        except OutOfRange as told:
            if before is not None:
                before.give_up()
            self._task, self._content = None, b""
            self._clear(told.reason)
            return False
        # What the key holds on to cannot come again at the same address.
        self._held = session.results
        content = _content((ask, self.gears))
        if content == self._content and not other and self.asked is not None:
            # The machine around the gears has come in, or what was edited is nothing to these teeth.
            return False
        if before is not None:
            before.give_up()
        self._task, self._content = None, content
        if other:
            self._clear("")
        self.asked = ask

        def take(result: LoadedResult) -> None:
            if not isValid(self) or self.asked is not ask or self._held is not self.session.results:
                return
            if self.ask is not ask:
                # Nothing of the answer before goes with this one.
                self.ask, self.fields, self.cycle = ask, {}, None
            self.fineness = result.fineness
            self.fields.update(result.fields)
            self.cycle = result.cycle or self.cycle
            self.came.emit()

        def done(fault: Exception | None) -> None:
            if isValid(self):
                self.fault = "" if fault is None else tr("this tooth could not be loaded: {fault}", fault=fault)
                self.came.emit()

        asked = "cooper.results.loaded_tooth:each_loaded"
        self._task = submit(asked, ask, self.gears, True, FINEST, take=take, done=done, lane="field")
        return True

    def _clear(self, fault: str) -> None:
        self.fields, self.cycle, self.fineness, self.fault = {}, None, "", fault
        self.ask = self.asked = None
        self.came.emit()

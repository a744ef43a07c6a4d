"""The observable session: present design, the Trail of states, the selection. Views read it and send it edits."""

from __future__ import annotations

import time
from collections import deque
from collections.abc import Callable
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer, Signal

from cooper.desk.base.state import PACK_MS, Outcome, State
from cooper.desk.base.workers import Task, submit
from cooper.document.models import Design
from cooper.document.units import show_digits
from cooper.editing.formulas import settled
from cooper.editing.machine_edits import refuse_unbuildable
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.evaluate import GEARS, WHOLE, evaluate
from cooper.results.face_of_mesh import asks_shafts
from cooper.results.flank_forms import bears_left
from cooper.results.result_tree import Check, Results

Edit = Callable[[Design, Results], Design]
COALESCE_SECONDS = 1.2
AT_HAND = 12
"""States looked at lately that are kept unpacked."""


def stamp_of(path: Path | None) -> tuple[int, int, int] | None:
    """What tells whether a file is still the one that was read; None where there is none."""
    if path is None:
        return None
    try:
        result = path.stat()
    except OSError:
        return None
    return result.st_ino, result.st_mtime_ns, result.st_size


class Session(QObject):
    """Holds the states; emits ``changed`` after the present one changed, ``refused`` when an edit could not be."""

    changed = Signal()
    refused = Signal(str, object)
    working = Signal(str)
    """A change is being worked out; `worked` follows, however it ends."""
    worked = Signal()
    told = Signal(str)
    """Something to be said in the notice."""
    stage_selected = Signal(int)
    system_changed = Signal()
    file_changed = Signal()
    opened = Signal()
    """Another document is about to be shown: what belongs to the one before lets go."""

    def __init__(self, design: Design, path: Path | None = None) -> None:
        super().__init__()
        self.path = path
        self.system = "mm"
        self.stage = 0
        self.whole = False
        self.states: list[State] = [State(*settled(design), tr("start"), None)]
        self.at = 0
        self.saved: Design | None = design
        self.stamp = stamp_of(path)
        # Results laid under the drawing in place of those before, as of a design that is looked at in a survey.
        self.laid: Results | None = None
        self._at_hand: list[int] = []
        self._old: list[int] = []
        self._packing = QTimer(self)
        self._packing.setSingleShot(True)
        self._packing.setInterval(PACK_MS)
        self._packing.timeout.connect(self._pack)
        self._waiting: deque[Callable[[], None]] = deque()
        self._task: Task | None = None
        self._machine: Task | None = None

    def again(self) -> Session:
        """The same states and the same selection for another window."""
        fresh = Session(self.design, self.path)
        fresh.states, fresh.at, fresh.saved, fresh.stamp = self.states, self.at, self.saved, self.stamp
        fresh.stage, fresh.whole = self.stage, self.whole
        fresh._at_hand, fresh._old = self._at_hand, self._old
        if self.state.awaits is not None:
            fresh._await_machine(self.state, self.state.awaits)
        return fresh

    @property
    def at_work(self) -> bool:
        """Whether a change is being worked out."""
        return bool(self._waiting)

    @property
    def state(self) -> State:
        return self.states[self.at]

    def state_words(self) -> str:
        """Which state of the Trail is looked at, in words for a report."""
        name = tr(" ({value})", value=self.state.name or self.state.label)
        return tr("state {at} of {states} in the Trail{name}", at=self.at + 1, states=len(self.states), name=name)

    @property
    def design(self) -> Design:
        return self.state.design

    @property
    def results(self) -> Results:
        return self.state.results

    @property
    def before(self) -> State | None:
        """The state that the present one was made from."""
        parent = self.state.parent
        return None if parent is None else self.states[parent]

    @property
    def ghost(self) -> Results | None:
        """What lies faintly under the drawing: what was laid there, else the state before."""
        return self.laid if self.laid is not None else self.before.results if self.before is not None else None

    @property
    def changed_on_disk(self) -> bool:
        """Whether another program has written the file since it was opened or saved here."""
        now = stamp_of(self.path)
        return now is not None and now != self.stamp

    @property
    def dirty(self) -> bool:
        return self.design != self.saved

    def attempt(self, change: Edit, label: str, key: str = "") -> Outcome:
        """Apply an edit; where it is refused the present design stays, and whoever asked shows the fault beside what
        was typed.

        Edits of the same ``key`` in quick succession, as from an arrow key held down, make one state.
        """
        try:
            design = change(self.design, self.results)
            if design == self.design:
                return Outcome(design)
            late = self._machine_waits(design)
            design, results = settled(design, GEARS if late else WHOLE)
            refuse_unbuildable(self.design, design, results)
        except OutOfRange as fault:
            return Outcome(self.design, fault)
        plain = results if late else None
        if plain is not None:
            results = self._with_machine_before(plain)
        now = time.monotonic()
        last = self.state
        at_tip = self.at == len(self.states) - 1
        if key and at_tip and last.key == key and now - last.stamp < COALESCE_SECONDS and not last.pinned:
            self.states[self.at] = State(design, results, label, last.parent, key, now)
            self._changed()
        else:
            self._add(design, results, label, key, now)
        if plain is not None:
            self._await_machine(self.state, plain)
        return Outcome(design)

    def _machine_waits(self, design: Design) -> bool:
        """Whether the machine comes after the gears: all of its shafts follow from an edit of the train, but one
        from an edit of its own."""
        train, machine = design.train, design.train.machine
        if machine is None or not machine.counted or asks_shafts(train):
            return False
        return train.replace_unchecked(machine=None) != self.design.train.replace_unchecked(machine=None)

    def _with_machine_before(self, plain: Results) -> Results:
        """Results of the gears with the machine as it was, which is shown until the new one comes; alone where the
        stages are others."""
        before = self.results
        if before.machine is None or len(before.stages) != len(plain.stages):
            return plain
        own = tuple(c for c in before.checks if c.part)
        return replace(plain, machine=before.machine, checks=(*plain.checks, *own))

    def _await_machine(self, state: State, plain: Results) -> None:
        """Work the machine out beside the window."""
        state.awaits = plain
        result: list[Results] = []

        def done(fault: Exception | None) -> None:
            if state.awaits is not plain:
                return
            from cooper.results.machine_checks import without_machine

            # A failed calculation leaves no old machine results with the new gears.
            state.complete(result[0] if fault is None else without_machine(plain, fault))
            if self.state is state:
                self.changed.emit()

        if self._machine is not None:
            self._machine.give_up()
        self._machine = submit("cooper.results.evaluate:each_whole", state.design, take=result.append, done=done)

    @property
    def machine_waits(self) -> bool:
        """Whether the machine around the present gears is still being worked out, so that the machine on the screen
        belongs to the previous state."""
        return self.state.awaits is not None

    def whole_results(self) -> Results:
        """The present results with the machine in them, for what leaves the window."""
        if self.state.awaits is not None:
            self.state.complete(evaluate(self.design))
        return self.results

    def edit(self, change: Edit, label: str, key: str = "") -> Outcome:
        """The same where nobody beside the edit shows a fault: ``refused`` tells it to the window."""
        outcome = self.attempt(change, label, key)
        if outcome.fault is not None:
            self.refused.emit(key, outcome.fault)
        return outcome

    def change(
        self, name: str, *args: object, label: str, then: Callable[[bool], object] = lambda _changed: None
    ) -> None:
        """A change of `editing.changes` made beside the window; dropped where the design has moved on meanwhile.

        ``then`` is told whether anything was changed.
        """
        self._waiting.append(partial(self._work, name, args, label, then))
        if len(self._waiting) == 1:
            self._waiting[0]()

    def _work(self, name: str, args: tuple[object, ...], label: str, then: Callable[[bool], object]) -> None:
        design = self.design
        result: list[tuple[Design, Results] | None] = []

        def done(fault: Exception | None) -> None:
            if fault is not None:
                self.refused.emit("", fault)
            elif self.design is not design:
                self.told.emit(tr("“{label}” is dropped: the design has changed while it was worked out", label=label))
            else:
                if result[0] is not None:
                    self._add(*result[0], label)
                then(result[0] is not None)
            # What was asked meanwhile comes after it.
            self._waiting.popleft()
            self.worked.emit()
            if self._waiting:
                self._waiting[0]()

        self._task = submit("cooper.editing.changes:made", name, design, *args, take=result.append, done=done)
        self.working.emit(label)

    def give_up(self) -> None:
        """Give up the change that is worked out, and what was asked after it."""
        if self._task is not None:
            self._task.give_up()
        self._waiting.clear()
        self.worked.emit()

    def _add(self, design: Design, results: Results, label: str, key: str = "", stamp: float = 0.0) -> None:
        self.states.append(State(design, results, label, self.at, key, stamp))
        self.at = len(self.states) - 1
        self._changed()

    def _changed(self) -> None:
        """Tell that another state is the present one, with a selection that it has."""
        self.laid = None
        before = self._at_hand
        self._at_hand = [at for at in before if at != self.at][-AT_HAND:] + [self.at]
        self._old += [at for at in before if at not in self._at_hand]
        if len(self._old) > AT_HAND:
            self._pack()
        elif self._old:
            self._packing.start()
        last = len(self.results.stages) - 1
        if self.stage > last:
            self.stage = last
            self.stage_selected.emit(last)
        self.changed.emit()

    def _pack(self) -> None:
        """Pack the states that were not looked at for long; after the answer to the hand, not before it."""
        kept = {*self._at_hand, self.state.parent}
        for at in self._old:
            if at not in kept and at < len(self.states):
                self.states[at].pack()
        self._old = [at for at in self._old if at == self.state.parent]

    def take(self, design: Design, results: Results, label: str) -> None:
        """Add a state that is evaluated already, as a Lever has; formulas still have the last word."""
        if design.formulas or design.names:
            self.edit(lambda _d, _r: design, label)
            return
        self._add(design, results, label)

    def undo(self) -> None:
        if self.state.parent is not None:
            self.go(self.state.parent)

    def redo(self) -> None:
        """Forward to the latest state made from the present one."""
        children = [i for i, s in enumerate(self.states) if s.parent == self.at]
        if children:
            self.go(children[-1])

    @property
    def can_redo(self) -> bool:
        return any(s.parent == self.at for s in self.states)

    def go(self, index: int) -> None:
        """Go to any state; later ones stay on the Trail."""
        if index != self.at and 0 <= index < len(self.states):
            self.at = index
            self._changed()
            if self.state.awaits is not None:
                # It was given up for the machine of another state.
                self._await_machine(self.state, self.state.awaits)

    def pin(self, name: str) -> None:
        """Name the present state, or unpin it with an empty name."""
        self.state.name = name.strip()
        self.changed.emit()

    def turns_left(self, stage: int) -> bool:
        """Whether the driving gear of a stage drives counter-clockwise as drawn."""
        return bears_left(self.design.train, self.results, stage)

    def scope(self) -> list[int]:
        """The stages that are looked at: the selected one, or with the whole set of it on the Bench all of that."""
        one = self.results.within[self.stage] if self.whole else None
        return (
            [self.stage]
            if one is None
            else [k for k in range(len(self.results.stages)) if self.results.within[k] is one]
        )

    def checks(self) -> list[tuple[int | None, list[Check]]]:
        """The checks of what is looked at, worst first, by mesh where a whole set is looked at; those of the train
        (None) then last."""
        scope = self.scope()
        if len(scope) == 1:
            return [(self.stage, self.results.checks_of(self.stage))]
        groups: list[tuple[int | None, list[Check]]] = [
            (k, [c for c in self.results.checks_of(k) if c.stage == k]) for k in scope
        ]
        groups = sorted((g for g in groups if g[1]), key=lambda g: g[1][0].margin)
        train = sorted((c for c in self.results.checks if c.stage is None), key=lambda c: c.margin)
        return [*groups, (None, train)] if train else groups

    def look_at_whole(self, whole: bool) -> None:
        """Look at the whole set of the selected stage, or at its mesh alone."""
        if whole != self.whole:
            self.whole = whole
            self.stage_selected.emit(self.stage)

    def select_stage(self, index: int) -> None:
        if index != self.stage and 0 <= index < len(self.results.stages):
            self.stage = index
            self.stage_selected.emit(index)

    def set_digits(self, extra: int) -> int:
        """Show more or fewer decimals everywhere; returns what is in force."""
        now = show_digits(extra)
        self.system_changed.emit()
        return now

    def set_system(self, system: str) -> None:
        if system != self.system:
            self.system = system
            self.system_changed.emit()

    def restart(self, design: Design, path: Path | None, *, saved: bool = True) -> None:
        """Begin a new Trail with another document; raises `OutOfRange` when it cannot be evaluated."""
        first = State(*settled(design), tr("start"), None)
        self.states, self.at, self.path, self.stage, self._at_hand = [first], 0, path, 0, []
        self._old = []
        self.saved = design if saved else None
        self.stamp = stamp_of(path)
        self.opened.emit()
        self.file_changed.emit()
        self.changed.emit()

    def mark_saved(self, path: Path) -> None:
        self.path, self.saved, self.stamp = path, self.design, stamp_of(path)
        self.file_changed.emit()

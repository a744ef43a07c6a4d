"""Long work, done by worker processes: submitted, its results taken as they come, given
up at any time."""

from __future__ import annotations

import atexit
import os
import pickle
import signal
import sys
from collections import deque
from collections.abc import Callable
from contextlib import suppress
from functools import partial
from typing import TYPE_CHECKING, Any, ClassVar

from msgspec import Struct, field
from PySide6.QtCore import QObject, QTimer
from shiboken6 import isValid

from cooper.desk.base.child import surroundings
from cooper.desk.base.fault_notice import heard_beside
from cooper.faults import is_fault, record
from cooper.i18n.text import tr

if TYPE_CHECKING:
    from PySide6.QtCore import QProcess

from cooper.helper import BREATH, LANE, LENGTH, SPARE, SPARE_BACK, STAND_BACK, STOP, frame

Take = Callable[[Any], object]
Done = Callable[[Exception | None], object]


def _runs(process: QProcess) -> bool:
    return process.state() == process.ProcessState.Running


class Task(Struct, eq=False):
    """One thing that was asked. After `give_up` nothing of it is heard any more."""

    at: WorkerProcess
    function: str
    args: tuple[Any, ...]
    take: Take
    done: Done
    number: int = 0
    wanted: bool = field(default=True)

    def give_up(self) -> None:
        """The rest is not wanted any more."""
        if self.wanted:
            self.wanted = False
            self.at.forget(self)


LONG = "long"
"""The lane of what takes long enough that nothing else shall wait for it."""
STANDING = {"field": (2, 0.02), "solid": (2, 0.0)}
"""How far the process of a lane stands back and how long it rests after a result, where otherwise than others: a
picture in view comes before other calculations, and is painted before it gets finer."""
PATIENCE_MS = 80
"""Time in which what is not wanted any more may come to its next item, before its process is killed for a spare one."""
SPARE_MS = 2000
"""Time after the start of a process in which another is started to be spare."""


class WorkerPool(QObject):
    """Starts worker processes and keeps one spare, so that one which does not leave its task can be killed and another
    goes on at once."""

    def __init__(self) -> None:
        super().__init__()
        self.spare: QProcess | None = None
        self._started_in: list[str] = []
        self.ready = False
        self.later = QTimer(self)
        self.later.setSingleShot(True)
        self.later.setInterval(SPARE_MS)
        self.later.timeout.connect(self._make_spare)
        atexit.register(self.close)

    def take(self) -> QProcess:
        """The spare process, or a new one; another spare is made after a while. A spare one that was started in
        another language, or with other folders, is of no use."""
        if self.spare is not None and self._started_in != surroundings().toStringList():
            self.close()
        process, self.spare, self.ready = self.spare, None, False
        if process is None:
            process = self._start()
        else:
            process.readyReadStandardOutput.disconnect()
            process.finished.disconnect()
        self.later.start()
        return process

    def _start(self, *args: str) -> QProcess:
        from PySide6.QtCore import QProcess

        process = QProcess(self)
        process.setProcessChannelMode(QProcess.ProcessChannelMode.ForwardedErrorChannel)
        process.setProcessEnvironment(surroundings())
        process.start(sys.executable, ["-m", "cooper.helper", *args])
        return process

    def _make_spare(self) -> None:
        if self.spare is None:
            self.spare, self._started_in = self._start(SPARE), surroundings().toStringList()
            self.spare.readyReadStandardOutput.connect(self._is_ready)
            self.spare.finished.connect(self.close)

    def _is_ready(self) -> None:
        # What it says stays in its buffer for the lane that takes it.
        self.ready = True

    def close(self) -> None:
        """End the spare process."""
        process, self.spare, self.ready = self.spare, None, False
        if process is not None and isValid(process):
            end_process(process)
            process.waitForFinished(2000)
        if isValid(self.later):
            self.later.stop()


def end_process(process: QProcess) -> None:
    """Kill a worker process with all that it has started; nothing of it is heard any more."""
    process.readyReadStandardOutput.disconnect()
    process.finished.disconnect()
    process.finished.connect(process.deleteLater)
    if _runs(process):
        # Its group has its number once it has made one.
        with suppress(ProcessLookupError, PermissionError):
            os.killpg(process.processId(), signal.SIGKILL)
    process.kill()


class WorkerProcess(QObject):
    """A worker process and its queue of tasks, done one after the other. It starts with the first
    question."""

    _lanes: ClassVar[dict[str, WorkerProcess]] = {}
    _pool: ClassVar[WorkerPool | None] = None

    @classmethod
    def of_program(cls, lane: str = "") -> WorkerProcess:
        """The one of a lane, which all windows of the program share."""
        if lane not in cls._lanes:
            cls._lanes[lane] = cls(*STANDING.get(lane, ()))
            atexit.register(cls._lanes[lane].close)
        return cls._lanes[lane]

    @classmethod
    def pool(cls) -> WorkerPool:
        """The pool that all lanes take their processes from."""
        if cls._pool is None:
            cls._pool = WorkerPool()
        return cls._pool

    @classmethod
    def any_busy(cls) -> bool:
        """Whether anything that was asked in any lane is still to come."""
        return any(one.busy for one in cls._lanes.values())

    @classmethod
    def end_all(cls) -> None:
        """End the process of every lane; the next question starts another."""
        cls.pool().close()
        for one in cls._lanes.values():
            one.close()

    def __init__(self, back: int = STAND_BACK, breath: float = BREATH) -> None:
        super().__init__()
        self.back, self.breath = back, breath
        self.process: QProcess | None = None
        self.buffer = bytearray()
        self.tasks: deque[Task] = deque()
        self.asked = 0

    @property
    def busy(self) -> bool:
        return bool(self.tasks)

    def warm(self) -> None:
        """Start the process before anything is asked."""
        if self.process is not None:
            return
        process = self.pool().take()
        process.readyReadStandardOutput.connect(self._read)
        process.finished.connect(self._ended)
        self.process, self.buffer = process, bytearray()
        process.write(frame((0, LANE, (max(self.back - SPARE_BACK, 0), self.breath))))

    def submit(self, function: str, args: tuple[Any, ...], take: Take, done: Done = lambda _fault: None) -> Task:
        """Ask for what a function ("module:name") of the core finds; ``take`` gets each item, ``done`` the fault or
        None at the end."""
        self.asked += 1
        task = Task(self, function, args, take, done, self.asked)
        self.tasks.append(task)
        if len(self.tasks) == 1:
            self._send()
        return task

    def forget(self, task: Task) -> None:
        """Leave a task that runs; one that waits is taken out."""
        if self.tasks and self.tasks[0] is task:
            if self.process is not None:
                self.process.write(frame((task.number, STOP, ())))
                QTimer.singleShot(PATIENCE_MS, self, partial(self._kill_at, task))
        elif task in self.tasks:
            self.tasks.remove(task)

    def _kill_at(self, task: Task) -> None:
        """Kill the process that is still at a task, as soon as another one is ready to go on."""
        if not self.tasks or self.tasks[0] is not task or self.process is None:
            return
        if not self.pool().ready:
            QTimer.singleShot(PATIENCE_MS, self, partial(self._kill_at, task))
            return
        process, self.process = self.process, None
        end_process(process)
        self.tasks.popleft()
        self.warm()
        if self.tasks:
            self._send()

    def _send(self) -> None:
        self.warm()
        assert self.process is not None
        task = self.tasks[0]
        self.process.write(frame((task.number, task.function, task.args)))
        if _runs(self.process):
            # Not only after the window has painted what it is about to.
            self.process.waitForBytesWritten(1)

    def _read(self) -> None:
        if self.process is None:
            # It was ended with words still on their way.
            return
        self.buffer += self.process.readAllStandardOutput().data()
        while len(self.buffer) >= LENGTH:
            end = LENGTH + int.from_bytes(self.buffer[:LENGTH], "big")
            if len(self.buffer) < end:
                return
            body = bytes(self.buffer[LENGTH:end])
            del self.buffer[:end]
            try:
                message = pickle.loads(body)
            except Exception as fault:  # whatever it was, whoever waits is told
                message = (self.tasks[0].number if self.tasks else 0, "fault", fault)
            self._hear(*message)

    def _hear(self, number: int, kind: str, content: Any) -> None:
        if not self.tasks or self.tasks[0].number != number:
            return
        task = self.tasks[0]
        if kind == "item":
            if task.wanted:
                task.take(content)
            return
        self.tasks.popleft()
        if self.tasks:
            self._send()
        if task.wanted:
            task.wanted = False
            if kind == "fault" and is_fault(content):
                heard_beside(content)
            task.done(content if kind == "fault" else None)

    def _ended(self, *_how: object) -> None:
        """The process is gone: what it was at is told as broken off, the rest is asked of a new one."""
        process, self.process = self.process, None
        if process is not None:
            process.deleteLater()
        if self.tasks:
            task = self.tasks.popleft()
            if self.tasks:
                self._send()
            if task.wanted:
                task.wanted = False
                fault = RuntimeError(tr("the background process ended unexpectedly"))
                record(fault, task.function)
                task.done(fault)

    def close(self) -> None:
        """End the process; nothing of what was asked is heard any more."""
        self.tasks.clear()
        process, self.process = self.process, None
        if process is not None and isValid(process):
            end_process(process)
            process.waitForFinished(2000)


def submit(function: str, *args: Any, take: Take, done: Done = lambda _fault: None, lane: str = "") -> Task:
    """Ask a process of the program beside the window."""
    return WorkerProcess.of_program(lane).submit(function, args, take, done)

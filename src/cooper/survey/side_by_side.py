"""Jobs done by several processes at once, forked from this one; ended at once when their findings are not wanted any
more."""

from __future__ import annotations

import multiprocessing
import os
import signal
from collections.abc import Callable, Iterator, Sequence
from multiprocessing.connection import Connection, wait
from typing import TypeVar

from cooper.memory import keep_freed_memory

Job = TypeVar("Job")
Item = TypeVar("Item")


def side_by_side(work: Callable[[Job], Item], jobs: Sequence[Job], count: int) -> Iterator[Item]:
    """What ``work`` makes of every job, in the order in which they are done.

    Parameters
    ----------
    work : Callable[[Job], Item]
        What is done with a job.
    jobs : Sequence[Job]
        The jobs.
    count : int
        Number of processes.

    Yields
    ------
    Item
        Answers in the order in which they are done.

    Notes
    -----
    A worker takes every so-many-th job; nothing but its end ends it, so that no lock is left shut when the rest is not
    asked for.
    """
    context = multiprocessing.get_context("fork")
    lines: list[Connection] = []
    workers = []
    try:
        for n in range(count):
            here, there = context.Pipe(duplex=False)
            worker = context.Process(target=_worker, args=(work, jobs[n::count], there), daemon=True)
            worker.start()
            there.close()
            lines.append(here)
            workers.append(worker)
        while lines:
            for line in wait(lines):
                assert isinstance(line, Connection)
                try:
                    kind, item = line.recv()
                except EOFError:
                    lines.remove(line)
                    continue
                if kind == "fault":
                    raise item
                yield item
    finally:
        for worker in workers:
            if worker.pid is not None and worker.is_alive():
                os.kill(worker.pid, signal.SIGKILL)
        for worker in workers:
            worker.join()


def _worker(work: Callable[[Job], Item], jobs: Sequence[Job], line: Connection) -> None:
    # The signals of the process that it came from are not meant for it.
    for name in (signal.SIGUSR1, signal.SIGTERM, signal.SIGINT):
        signal.signal(name, signal.SIG_DFL)
    keep_freed_memory()
    try:
        for job in jobs:
            line.send(("item", work(job)))
    except BrokenPipeError:
        pass
    except Exception as fault:
        line.send(("fault", fault))
    finally:
        line.close()
        # Nothing of what the first process would do at its end is the worker's.
        os._exit(0)

"""The processes beside the window: what is not wanted any more is left at its next item, or killed for a spare one."""

import os
import time

import numpy as np
import pytest

from cooper.desk.base.workers import WorkerProcess, submit
from cooper.desk.shell.app import application
from cooper.i18n.translate import set_language
from waiting import wait_for

EACH = "cooper.survey.side_by_side:side_by_side"
"""Calls a function for each item, in a process of its own."""


@pytest.fixture
def lane():
    application()
    lane = WorkerProcess.of_program("test")
    yield lane
    WorkerProcess.end_all()


def _runs(process):
    """Whether a process runs: no zombie that nobody has asked for its end."""
    try:
        with open(f"/proc/{process}/stat") as stat:
            return stat.read().rpartition(")")[2].split()[0] != "Z"
    except FileNotFoundError:
        return False


def _children(process):
    with open(f"/proc/{process}/task/{process}/children") as children:
        return [int(n) for n in children.read().split()]


def test_what_is_not_wanted_is_left_at_its_next_item_by_the_process_that_goes_on(lane):
    came, later = [], []
    task = lane.submit(EACH, (time.sleep, (0.01,) * 500, 1), came.append)
    wait_for(lambda: came)
    first = lane.process.processId()
    # Without a spare one its process is never killed, however slow the machine is.
    WorkerProcess.pool().close()
    task.give_up()
    many = len(came)
    lane.submit("cooper.arrays:ascending", (np.array([2.0, 1.0]),), later.append)
    wait_for(lambda: later and not lane.busy)
    assert len(came) == many and lane.process.processId() == first


def test_what_does_not_come_to_an_item_is_killed_with_all_it_started_for_a_spare_process(lane):
    ended, later = [], []
    task = lane.submit(EACH, (time.sleep, (10_000.0,), 1), ended.append, ended.append)
    first = lane.process.processId()
    wait_for(lambda: _children(first))
    (child,) = _children(first)
    pool = WorkerProcess.pool()
    pool.later.start(0)
    wait_for(lambda: pool.ready)
    spare = pool.spare.processId()
    task.give_up()
    lane.submit("cooper.arrays:ascending", (np.array([2.0, 1.0]),), later.append)
    wait_for(lambda: later)
    assert lane.process.processId() == spare and not ended
    assert list(later[0]) == [1.0, 2.0]
    wait_for(lambda: not _runs(first) and not _runs(child))


def test_a_spare_process_of_another_language_is_not_used(lane):
    lane.submit("cooper.arrays:ascending", (np.array([2.0, 1.0]),), lambda _item: None)
    pool = WorkerProcess.pool()
    pool.later.start(0)
    wait_for(lambda: pool.ready)
    spare = pool.spare.processId()
    set_language("de")
    try:
        other = WorkerProcess.of_program("test, German")
        other.warm()
    finally:
        set_language("en")
    assert other.process.processId() != spare
    wait_for(lambda: not _runs(spare))


def test_a_process_whose_window_was_killed_ends_by_itself(lane):
    came = []
    lane.submit("cooper.arrays:ascending", (np.array([2.0, 1.0]),), came.append)
    wait_for(lambda: came)
    process = lane.process.processId()
    lane.process.closeWriteChannel()
    wait_for(lambda: not _runs(process))


def test_functions_of_others_are_refused(lane):
    faults = []
    submit("os:getpid", take=faults.append, done=faults.append, lane="test")
    wait_for(lambda: faults)
    assert "no function of Cooper" in str(faults[0]) and os.getpid() != lane.process.processId()

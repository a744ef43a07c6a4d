"""Faults of the program are heard: in slots, threads, processes and on the command line; and what cannot be worked
out is shown as missing."""

import logging
import os
import subprocess
import sys
from threading import Thread

import pytest
from PySide6.QtCore import QTimer
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QPushButton

from cooper import faults
from cooper.desk.base import fault_notice, recovery
from cooper.desk.base.settings import Settings
from cooper.desk.base.workers import submit
from cooper.desk.shell.pictures import settle
from cooper.editing.edit import set_at, set_many
from cooper.editing.machine_edits import count_machine
from cooper.errors import OutOfRange
from cooper.faults import details, log_file, start_log, without_contents


@pytest.fixture
def ear(window, monkeypatch):
    """Listening as the running program does; what it hears stands in the log."""
    before = sys.excepthook, sys.unraisablehook, faults.threading.excepthook
    monkeypatch.setattr(fault_notice, "_ear", [])
    start_log("cooper", "info")
    yield fault_notice.hear_faults()
    sys.excepthook, sys.unraisablehook, faults.threading.excepthook = before
    for handler in list(logging.getLogger("cooper").handlers):
        handler.close()
        logging.getLogger("cooper").removeHandler(handler)


def boom():
    raise KeyError("Output 2.5 of 4711.25")


@pytest.mark.parametrize("where", ["slot", "thread", "process"])
def test_a_fault_is_logged_told_and_the_work_kept(window, ear, where):
    window.session.edit(lambda d, _r: set_at(d, "name", "secret name"), "name")
    settle()
    if where == "slot":
        QTimer.singleShot(0, boom)
    elif where == "thread":
        thread = Thread(target=boom)
        thread.start()
        thread.join()
    else:
        submit("cooper.results.evaluate:each_whole", None, take=lambda _r: None, lane="faults")
    settle()
    assert "Cooper's fault" in window.notice.text.text() and window.notice.isVisible()
    log = log_file().read_text() if where != "process" else log_file("helper").read_text()
    assert ("KeyError: …" in log) or ("AttributeError" in log and "evaluate.py" in log)
    assert "4711" not in log and "secret" not in log
    assert [left.design.name for left in recovery.leftovers()] == [] and window.keeper.file.exists()
    button = window.notice.findChild(QPushButton, "notice_copy_details")
    button.click()
    text = QGuiApplication.clipboard().text()
    assert text.startswith("Cooper ") and ("boom" in text or "each_whole" in text)
    # Once, however often it comes.
    for _ in range(3):
        if where == "slot":
            QTimer.singleShot(0, boom)
    settle()
    assert not window.notice.questions


def test_a_refusal_is_no_fault_and_messages_lose_what_they_quote():
    assert (
        not faults.is_fault(OutOfRange("z_1", 3, "no"))
        and not faults.is_fault(OSError())
        and faults.is_fault(KeyError())
    )
    assert not faults.is_fault(ValueError("unknown suffix")) and faults.is_fault(RuntimeError())
    assert without_contents("gear 'a b' has 3.5e-4 mm of “x”") == "gear … has … mm of …"
    try:
        try:
            boom()
        except KeyError as inner:
            raise RuntimeError("7 of them") from inner
    except RuntimeError as fault:
        lines = details(fault).splitlines()
    assert lines[1] == "RuntimeError: … of them" and any(line.startswith("KeyError") for line in lines)
    assert not any("/root" in line or "/home" in line for line in lines)


def test_a_log_that_cannot_be_written_is_none(tmp_path, monkeypatch):
    (tmp_path / "state").write_text("in the way")
    start_log("cooper", "info")
    faults.record(KeyError("x"), "here")
    assert (tmp_path / "state").read_text() == "in the way"


def test_the_command_line_tells_a_fault_without_a_trace(tmp_path):
    code = (
        "import cooper.cli as c\nimport cooper.editing.formulas as f\ndef boom(d): raise "
        "KeyError('4711')\nf.settled = boom\nc.run()"
    )
    env = {**os.environ, "PYTHONPATH": "src", "XDG_STATE_HOME": str(tmp_path)}
    done = subprocess.run(
        [sys.executable, "-c", code, "check", "src/cooper/demo/mirror-cover.json"],
        capture_output=True,
        text=True,
        env=env,
    )
    assert done.returncode == 70 and "Traceback" not in done.stderr and "is a fault of Cooper" in done.stderr
    log = (tmp_path / "cooper/log/cooper.log").read_text()
    assert "KeyError" in log and "4711" not in log
    run = [sys.executable, "-m", "cooper", "check", "-v", "src/cooper/demo/mirror-cover.json"]
    text = subprocess.run(run, capture_output=True, text=True, env=env)
    assert "INFO worked out" in text.stderr and "assumed: " in text.stdout
    with open("/dev/full", "w") as disk:
        full = subprocess.run([*run[:4], run[5]], stdout=disk, stderr=subprocess.PIPE, text=True, env=env)
    assert full.returncode == 2 and "Traceback" not in full.stderr and "No space" in full.stderr


def test_old_numbers_of_the_machine_do_not_stand_beside_new_gears(window):
    session = window.session
    session.edit(lambda d, _r: count_machine(d), "machine")
    settle()
    row = next(r for key, r in window.margins.rows.items() if r.check.part)
    assert "being worked out" not in row.accessibleDescription()
    session.edit(lambda d, _r: set_at(d, "train.gears.gear1.b", 17.0), "b")
    assert session.machine_waits
    window.margins.refresh()
    row = next(r for r in window.margins.rows.values() if r.check.part)
    assert row.value_text() == "…" and "being worked out" in row.accessibleDescription()
    settle()
    assert not session.machine_waits and "being worked out" not in row.accessibleDescription()


def test_a_machine_that_breaks_off_leaves_no_old_numbers(window, monkeypatch):
    session = window.session
    session.edit(lambda d, _r: count_machine(d), "machine")
    settle()
    monkeypatch.setattr(session, "_await_machine", lambda state, plain: late.append((state, plain)))
    late = []
    session.edit(lambda d, _r: set_at(d, "train.gears.gear1.b", 17.0), "b")
    monkeypatch.undo()
    state, plain = late[0]
    state.awaits = plain
    import cooper.desk.base.session as module

    def breaks(*_args, take, done, **_more):
        done(RuntimeError("the background process ended unexpectedly"))

    monkeypatch.setattr(module, "submit", breaks)
    session._await_machine(state, plain)
    r = session.results
    assert r.machine is None and not [c for c in r.checks if c.part] and r.no_machine is not None
    assert any("is not worked out" in n.text and n.counts == "short" for n in r.notes)
    # An edit at which no bearing has the bore: reported in the same way, saved and opened.
    monkeypatch.undo()
    session.edit(lambda d, _r: set_many(d, {"train.duty.n": 0.01}), "n")
    settle()
    assert session.results.no_machine is not None and not [c for c in session.results.checks if c.part]


def test_a_recent_file_in_a_folder_that_is_shut_is_not_there(monkeypatch, tmp_path):
    settings = Settings()
    settings.remember(tmp_path)
    assert settings.recent() == [tmp_path]
    monkeypatch.setattr("pathlib.Path.exists", lambda _self: (_ for _ in ()).throw(PermissionError(13, "no")))
    assert settings.recent() == []

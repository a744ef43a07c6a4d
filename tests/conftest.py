from __future__ import annotations

import os

import pytest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


@pytest.fixture(autouse=True)
def _own_state(tmp_path, monkeypatch):
    """Settings and autosaves of a test stay in its own folder."""
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))


@pytest.fixture
def window(capfd):
    """The real window on the demo, offscreen. An error inside a Qt override fails the test."""
    from cooper.demo import demo
    from cooper.desk.base.session import Session
    from cooper.desk.shell.app import application
    from cooper.desk.shell.pictures import settle
    from cooper.desk.shell.window import Window

    application()
    w = Window(Session(demo()))
    w.show()
    w.bench.drawing.setFocus()
    settle()
    yield w
    # A test that failed on the way leaves no question behind that nobody answers.
    for path in w.ways_out.running.paths():
        w.ways_out.cancel(path)
    settle()
    w.session.saved = w.session.design
    w.close()
    w.deleteLater()
    settle()
    err = capfd.readouterr().err
    assert "Traceback" not in err, err

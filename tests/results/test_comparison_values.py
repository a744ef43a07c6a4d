"""What stands beside the governing method: found when it is looked at, as it was when it was found at once."""

import pickle

import numpy as np
import pytest
from PySide6.QtWidgets import QApplication

from cooper.demo import demo
from cooper.editing.edit import set_many
from cooper.kept import forget
from cooper.results import comparison_values
from cooper.results.comparison_notes import all_notes
from cooper.results.evaluate import evaluate

AGMA = {"train.defaults.method": "ANSI/AGMA 2101-D04"}


@pytest.fixture
def asked(monkeypatch):
    """How often AGMA was worked out beside ISO."""
    result, add = [], comparison_values.add_agma
    monkeypatch.setattr(comparison_values, "add_agma", lambda *given: (result.append(1), add(*given)))
    return result


@pytest.fixture
def altered():
    """A demo that nothing is kept of."""
    forget()
    return demo("winch")


def test_it_is_worked_out_once_and_only_when_it_is_asked_for(asked, altered):
    s = evaluate(altered).stages[0]
    assert "S_F" in s.gears[0] and "d_nothing" not in s.gears[0] and s.gears[0].get("nothing") is None
    assert not asked
    assert s.gears[1].S_FA > 0 and "Z_I" in s.mesh and s.with_mesh(P_VZ=1.0).mesh.Y_Z == s.mesh.Y_Z
    assert len(asked) == 1
    with pytest.raises(AttributeError):
        _ = s.gears[0].no_such_value


def test_it_equals_what_governs_where_agma_does(asked, altered):
    beside, governing = evaluate(altered), evaluate(set_many(altered, AGMA))
    for s, t in zip(beside.stages, governing.stages, strict=True):
        for one, two in zip((s.mesh, *s.gears), (t.mesh, *t.gears), strict=True):
            assert dict(one) == dict(two)
    assert len(asked) == 2


def test_it_goes_with_the_results_into_another_process_and_into_their_tree(asked, altered):
    one = evaluate(altered)
    forget()
    two = evaluate(altered)
    assert dict(pickle.loads(pickle.dumps(one)).stages[1].gears[0]) == dict(two.stages[1].gears[0])
    assert "S_HA" in one.as_tree()["stages"][0]["gears"][0]
    text = [n.text for n in all_notes(two) if "From ISO to AGMA" in n.text]
    assert text and text == [n["text"] for n in one.as_tree()["notes"] if "From ISO to AGMA" in n["text"]]


def test_what_does_not_govern_refuses_nothing(monkeypatch, altered):
    """A number of AGMA that cannot be computed is absent where ISO governs."""

    def broken(_p, n, *_more):
        n.mesh.Z_I = np.asarray(np.nan)
        n.mesh.K_s = np.asarray(1.0)

    monkeypatch.setattr(comparison_values, "add_agma", broken)
    mesh = evaluate(altered).stages[0].mesh
    assert "Z_I" not in mesh and mesh.K_s == 1.0


@pytest.mark.parametrize("name", ["winch", "dome-drive"])
def test_an_edit_in_the_window_never_asks_for_it(window, monkeypatch, name):
    result = []
    monkeypatch.setattr(comparison_values, "add_lewis", lambda *_given: result.append(1))
    s = window.session
    s.restart(demo(name), None)
    window.bench.begin()
    window.show()
    for x in (0.21, 0.24):
        s.edit(lambda d, _r, x=x: set_many(d, {"train.gears.gear1.x": x}), "x")
        QApplication.processEvents()
    assert not result

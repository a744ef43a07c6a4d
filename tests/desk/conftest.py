from __future__ import annotations

import pytest


@pytest.fixture(autouse=True)
def _rough_loads(monkeypatch):
    """The loaded tooth is asked for as coarse as it comes first, which takes a fifth of the time: what is looked at
    here is the window. `tests/field` has the numbers."""
    monkeypatch.setattr("cooper.desk.lenses.loaded_source.FINEST", "coarse")


@pytest.fixture
def usual_loads(monkeypatch):
    """The loaded tooth as fine as a person gets it."""
    monkeypatch.setattr("cooper.desk.lenses.loaded_source.FINEST", "fine")

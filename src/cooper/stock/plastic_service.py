"""What VDI 2736-2 tabulates of plastic gears in service: friction, heat transfer, kinds of housing."""

from __future__ import annotations

from typing import Any

from cooper.i18n.text import tr
from cooper.stock.files import load
from cooper.stock.materials import groups, is_plastic


def _data() -> dict[str, Any]:
    return load("plastics")


def rubs_as(group: str) -> str:
    """Under which name a material group stands in the friction table."""
    return str(groups()[group]["friction"]) if is_plastic(group) else "metal"


def friction(running: str, one: str, two: str) -> tuple[float, str]:
    """Friction coefficient of two material groups and its certainty, "remembered" or "typical".

    >>> friction("dry", "POM", "V"), friction("greased at assembly", "POM", "POM")
    ((0.2, 'remembered'), (0.09, 'remembered'))
    """
    of_all = _data()["running"][running]["mu"]
    if of_all is not None:
        return float(of_all), "remembered"
    names = {rubs_as(one), rubs_as(two)}
    for a, b, mu, certainty in _data()["dry"]:
        if {a, b} == names:
            return float(mu), str(certainty)
    raise KeyError(tr("no friction coefficient of {one} on {two}", one=one, two=two))


def heat_numbers(running: str, mate: str) -> tuple[float, float]:
    """k_theta of flank and root of a plastic gear, by what its mate is made of; 0 in an oil bath.

    >>> heat_numbers("dry", "POM"), heat_numbers("dry", "V"), heat_numbers("oil bath", "V")
    ((9000.0, 2100.0), (6300.0, 895.0), (0.0, 0.0))
    """
    if running == "oil bath":
        return 0.0, 0.0
    row = _data()["k_theta"]["plastic" if is_plastic(mate) else "metal"]
    return float(row["flank"]), float(row["root"])


def housings() -> dict[str, dict[str, Any]]:
    """Kinds of housing: resistance R (K m2/W) and words."""
    result: dict[str, dict[str, Any]] = _data()["housings"]
    return result


def running_words() -> dict[str, str]:
    """How plastic gears may run, and that in words."""
    return {name: row["words"] for name, row in _data()["running"].items()}

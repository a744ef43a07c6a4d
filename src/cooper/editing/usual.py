"""What a value is where nobody asked for another one: what a sheet shows quietly, and goes back to."""

from __future__ import annotations

from typing import Any

from msgspec import NODEFAULT
from msgspec.structs import fields

from cooper.document.base import Model
from cooper.document.duty import Lubricant
from cooper.document.machine_data import Machine
from cooper.document.models import Design
from cooper.document.plain import get_at
from cooper.editing.edit import set_many
from cooper.stock.lubricants import oils
from cooper.stock.materials import groups

NONE_USUAL = NODEFAULT
"""In place of a value where none is usual: every design has its own."""
ALWAYS_ASKED = ("duty.L_h", "duty.K_A", "duty.u_wanted", "duty.direction", "lubricant.name")
"""What the document has a beginning for, and yet every duty states."""


def usual_at(design: Design, path: str) -> Any:
    """The usual value at a path of the document: that of a new part, of the stock where the material tells it.

    >>> from cooper.demo import demo
    >>> usual_at(demo(), "train.defaults.S_Fmin"), usual_at(demo(), "train.stages.0.members.0.z") is NONE_USUAL
    (1.4, True)
    """
    parent, _, name = path.rpartition(".")
    if path.endswith(ALWAYS_ASKED):
        return NONE_USUAL
    part = _part(design, parent)
    if name == "hardness":
        return float(groups()[part.group]["hardness_default"])
    if name == "swelling":
        return float(groups()[part.material.group].get("swelling", 0.0))
    if isinstance(part, Lubricant) and part.name in oils() and name != "theta_GF":
        return getattr(oils()[part.name], name, NONE_USUAL)
    if not isinstance(part, Model):
        return NONE_USUAL
    return next((f.default for f in fields(type(part)) if f.name == name), NONE_USUAL)


def has_usual(design: Design, path: str) -> bool:
    """Whether some value is usual at a path."""
    try:
        return usual_at(design, path) is not NONE_USUAL
    except (AttributeError, IndexError):
        return False


def now_at(design: Design, path: str) -> Any:
    """The value that stands at a path now; of a machine that nobody described that of a new one."""
    parent, _, name = path.rpartition(".")
    return getattr(_part(design, parent), name)


def is_usual(design: Design, path: str) -> bool:
    """Whether the usual value stands at a path; also where the place has gone with its set or stage."""
    try:
        usual = usual_at(design, path)
        return usual is not NONE_USUAL and bool(now_at(design, path) == usual)
    except (AttributeError, IndexError):
        return True


def back_to_usual(design: Design, paths: list[str]) -> Design:
    """The design with the usual values at these paths, where one is usual and another stands there.

    Raises
    ------
    OutOfRange
        Where the usual values do not go with what else is given.
    """
    changes = {
        path: usual_at(design, path)
        for path in paths
        if usual_at(design, path) is not NONE_USUAL and not is_usual(design, path)
    }
    return set_many(design, changes) if changes else design


def _part(design: Design, path: str) -> Any:
    if path.startswith("train.machine") and design.train.machine is None:
        return Machine()
    return get_at(design, path)

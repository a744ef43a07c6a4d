"""Usual values: the default of a field, or the stock's value for the material or the oil."""

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
"""Marks a field without a usual value."""
ALWAYS_ASKED = ("duty.L_h", "duty.K_A", "duty.u_wanted", "duty.direction", "lubricant.name")
"""Fields with a default in the document that every duty states anyway; they count as not usual."""


def usual_at(design: Design, path: str) -> Any:
    """The usual value at a path of the document: the default of its field, or the stock's value for its material.

    >>> from cooper.demo import demo
    >>> usual_at(demo(), "train.defaults.S_Fmin"), usual_at(demo(), "train.gears.gear1.z") is NONE_USUAL
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
    except (AttributeError, LookupError):
        return False


def now_at(design: Design, path: str) -> Any:
    """The present value at a path; the default where the design has no machine."""
    parent, _, name = path.rpartition(".")
    return getattr(_part(design, parent), name)


def is_usual(design: Design, path: str) -> bool:
    """Whether the present value is the usual one; true as well for a path that no longer exists."""
    try:
        usual = usual_at(design, path)
        return usual is not NONE_USUAL and bool(now_at(design, path) == usual)
    except (AttributeError, LookupError):
        return True


def back_to_usual(design: Design, paths: list[str]) -> Design:
    """The design with the usual values at these paths; paths without a usual value are left alone.

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

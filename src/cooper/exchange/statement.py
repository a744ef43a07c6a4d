"""What every file says of itself: design, state, what it is made to, units, the teeth's allowance, program and
version."""

from __future__ import annotations

from hashlib import sha256

from msgspec import Struct

from cooper.document.models import Design
from cooper.document.store import design_text
from cooper.i18n.text import tr
from cooper.version import __version__


class Said(Struct, frozen=True):
    """What a file is called, and its `statement`."""

    name: str
    told: str


MEAN = tr("teeth at the mean of their thickness allowances")


def state_hash(design: Design) -> str:
    """Eight signs by which the state of a design is known again: of its file without the survey, whatever it is
    called on the disk."""
    return sha256(design_text(design.replace_unchecked(survey=None)).encode()).hexdigest()[:8]


def statement(design: Design, what: str = "") -> str:
    """One line for the head of a file; ``what`` the tolerance it keeps and the like.

    >>> from cooper.demo import demo
    >>> statement(demo(), "curves within 0.001 mm").replace(state_hash(demo()), "…")[:74]
    'Mirror-cover actuator, state …; millimetres; curves within 0.001 mm; teeth'
    """
    parts = [
        tr("{name}, state {design}", name=design.name, design=state_hash(design)),
        "millimetres",
        what,
        MEAN,
        tr("Cooper {version}", version=__version__),
    ]
    return "; ".join(part for part in parts if part)

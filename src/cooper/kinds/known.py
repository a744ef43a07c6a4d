"""Every kind that there is. A new one is registered here, or from outside with `register`."""

from __future__ import annotations

from cooper.i18n.text import tr
from cooper.kinds.arranged import Arrangement
from cooper.kinds.countershafts import COUNTERSHAFTS
from cooper.kinds.external_wheel import EXTERNAL
from cooper.kinds.idler_between import IDLER_BETWEEN
from cooper.kinds.internal_wheel import INTERNAL
from cooper.kinds.kind import Entered, Kind
from cooper.kinds.planet_set import PLANET_SET
from cooper.kinds.stepped_planets import STEPPED_PLANETS
from cooper.kinds.straight_rack import RACK
from cooper.kinds.two_rings import TWO_RINGS

KINDS: dict[str, Kind] = {k.key: k for k in (EXTERNAL, INTERNAL, RACK)}
"""By key, in the order in which they are offered."""
ARRANGED: dict[str, Arrangement] = {
    "planetary": PLANET_SET,
    "stepped": STEPPED_PLANETS,
    "two rings": TWO_RINGS,
    "idler": IDLER_BETWEEN,
    "countershafts": COUNTERSHAFTS,
}
"""What meshes make together, by what a set states as its kind."""


def register(kind: Kind) -> None:
    """Add a kind; what its gears are called as ``shape`` in the document must be its own, unless `is_of` tells them
    apart.

    Raises `ValueError` for a key that is taken.
    """
    if kind.key in KINDS:
        raise ValueError(tr("there is a kind {key!r} already", key=kind.key))
    KINDS[kind.key] = kind


def shapes() -> tuple[str, ...]:
    """The words for shapes of gears in the document."""
    return tuple(dict.fromkeys(k.shape for k in KINDS.values()))


def kind_named(key: str) -> Kind:
    """The kind of a key."""
    return KINDS[key]


def kind_of(gear: Entered) -> Kind:
    """The kind of a gear as it is entered."""
    return next(k for k in KINDS.values() if k.is_of(gear))


def kind_with(gear: Entered, z: int) -> Kind:
    """The kind that a gear has with another count."""
    return next(k for k in KINDS.values() if k.shape == gear.shape and k.counts(z))
